/**
 * What a figure is: its proof piece by piece, what it is shown beside, how it could be mended, and what each wrong crossing makes of it.
 */
import {
  accept,
  atlasWork,
  finishedFigure,
  knotByMethod,
  marksOf,
  kinshipOf,
  nearestOf,
  orDecline,
  pairCrossings,
  readKnot,
  repairWork,
  sayKinship,
  sayRefusal,
  spillTest,
  WORKSHOP_WORDS,
  writeKnot,
  type Figure,
  type KnotDocument,
  type Verdict,
} from '@foxtrail/core';
import {
  claimOf,
  knownKnots,
  patternKeys,
  patternOf,
  patterns,
  proofOf,
  type Identity,
  type ProofPiece,
} from '@foxtrail/pattern-book';
import type { Beside, IdentityReport } from '../../data/identity';
import type { Job } from './protocol';

const beside = (id: string, figure: Figure): Beside | undefined => {
  const found = patternOf(id);
  if (!found) return undefined;
  const pairing = orDecline(() => pairCrossings(figure, finishedFigure(found.knot.method)));
  return {
    id,
    name: found.knot.name,
    document: writeKnot(found.knot),
    marks: marksOf(figure, finishedFigure(found.knot.method), found.knot.name),
    ...(pairing.ok ? { pairing: pairing.value } : {}),
  };
};

/** The patterns a figure is shown beside: what it claims to be, what it is, and when it is neither what is most like it. */
function companions(knot: KnotDocument, { claim, matches }: Verdict): Beside[] {
  const figure = finishedFigure(knot.method);
  const known = [...(claim ? [claim.id] : []), ...matches.map((m) => m.id)];
  const ids = known.length > 0 ? known : nearestOf(figure, knownKnots(), 2).map((k) => k.id);
  return [...new Set(ids)].slice(0, 3).flatMap((id) => beside(id, figure) ?? []);
}

/** A piece of the proof as the report has it. */
function reported({ part, findings, declined, identity, layouts }: ProofPiece): Partial<IdentityReport> {
  switch (part) {
    case 'identity':
      return identity
        ? {
            verdict: identity.verdict,
            finding: findings[0],
            more: findings.slice(1),
            keys: { ...identity.keys, lays: [...identity.keys.lays] },
            ...(identity.classified ? { classified: identity.classified } : {}),
          }
        : { declined: declined ? `${declined.reason} ${declined.remedy}` : '' };
    case 'grade':
      return { grade: findings[0] };
    case 'layouts':
      return layouts ? { layouts: { ...layouts, findings } } : {};
    case 'exhibits':
      return { exhibits: findings };
    default:
      return { practice: findings };
  }
}

export const identity: Job<'identity'> = async ({ document, method: inHand, practice }, { tell, pause, drive }) => {
  tell({ patterns: patterns().map((p) => ({ id: p.id, name: p.knot.name })) });
  const read = readKnot(document);
  if (!read.ok) return read;
  const whole = read.value;
  const knot = knotByMethod(whole, inHand);
  const figure = finishedFigure(knot.method);
  let found: Identity | undefined;
  // What is found in drawing and steps is told by the analysis, at every edit.
  const proof = proofOf(
    whole,
    { practice, words: WORKSHOP_WORDS },
    { methods: [inHand], parts: ['layouts', 'identity', 'grade', 'practice', 'exhibits'] },
  );
  for (const piece of proof) {
    tell(reported(piece));
    found ??= piece.identity;
    await pause();
  }
  if (!found) return accept(undefined);
  const { verdict } = found;
  const claim = claimOf(knot);
  const book = patternKeys();
  tell({ spills: spillTest(figure) });
  tell({ beside: companions(knot, verdict) });
  tell({ kinship: kinshipOf(figure, book).map(sayKinship) });
  const claimKeys = claim && book.entries.find((e) => e.id === claim.id);
  const share = (done: number): number => done;
  if (verdict.state === 'fails' && claimKeys) {
    const repairs = await drive(repairWork(figure, claimKeys), share, {
      doing: 'Looking for the fewest crossings to swap',
    });
    if (repairs.ok) tell({ repairs: repairs.value });
  }
  const atlas = await drive(atlasWork(figure, book), share, { doing: 'Swapping each crossing in turn' });
  tell(atlas.ok ? { atlas: atlas.value } : { atlasDeclined: sayRefusal(atlas) });
  return accept(undefined);
};
