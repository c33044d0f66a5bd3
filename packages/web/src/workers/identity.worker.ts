/**
 * Says what a figure is, away from the page and a piece at a time: between two pieces a newer request or a cancel is heard.
 */
import {
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
  type Work,
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
import type { Beside, IdentityCancel, IdentityMessage, IdentityReport, IdentityRequest } from '../data/identity';

/** Work goes on for this long before messages are looked at; in milliseconds. */
const SLICE = 40;
/** Time after which the atlas and the repair are left unfinished, and say what they left out; in milliseconds. */
const BUDGET = 10_000;

const tell = (message: IdentityMessage): void => postMessage(message);
const pause = (): Promise<void> => new Promise((done) => setTimeout(done));

/** The request that is worked on; any other is given up. */
let current = 0;

async function drive<T>(work: Work<T>, id: number, doing: string): Promise<T | undefined> {
  const began = performance.now();
  let slice = began;
  let step = work.next();
  while (step.done !== true) {
    const now = performance.now();
    if (now - slice > SLICE) {
      tell({ kind: 'progress', id, doing, share: step.value });
      await pause();
      if (id !== current) return undefined;
      slice = performance.now();
    }
    step = work.next(now - began < BUDGET);
  }
  return step.value;
}

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
function companions(knot: KnotDocument, report: IdentityReport): Beside[] {
  const figure = finishedFigure(knot.method);
  const claim = report.verdict?.claim;
  const known = [...(claim ? [claim.id] : []), ...(report.verdict?.matches.map((m) => m.id) ?? [])];
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
            keys: { ...identity.keys, lays: [...identity.keys.lays] },
            ...(identity.classified ? { classified: identity.classified } : {}),
          }
        : { declined: declined ? `${declined.reason} ${declined.remedy}` : '' };
    case 'grade':
      return { grade: findings[0] };
    case 'layouts':
      return layouts ? { layouts: { ...layouts, findings } } : {};
    default:
      return { practice: findings };
  }
}

async function examine({ id, document, method: inHand, practice }: IdentityRequest): Promise<void> {
  let report: IdentityReport = { id, patterns: patterns().map((p) => ({ id: p.id, name: p.knot.name })) };
  const say = (more: Partial<IdentityReport>): void => {
    report = { ...report, ...more };
    tell({ kind: 'report', report });
  };
  const read = readKnot(document);
  if (!read.ok) {
    say({ declined: sayRefusal(read) });
    return;
  }
  const whole = read.value;
  const knot = knotByMethod(whole, inHand);
  const figure = finishedFigure(knot.method);
  let found: Identity | undefined;
  // What is found in drawing and steps is told by the analysis, at every edit.
  const proof = proofOf(
    whole,
    { practice, words: WORKSHOP_WORDS },
    { methods: [inHand], parts: ['layouts', 'identity', 'grade', 'practice'] },
  );
  for (const piece of proof) {
    say(reported(piece));
    found ??= piece.identity;
    await pause();
    if (id !== current) return;
  }
  if (!found) return;
  const { verdict } = found;
  const claim = claimOf(knot);
  const book = patternKeys();
  say({ spills: spillTest(figure) });
  say({ beside: companions(knot, report) });
  say({ kinship: kinshipOf(figure, book).map(sayKinship) });
  const claimKeys = claim && book.entries.find((e) => e.id === claim.id);
  if (verdict.state === 'fails' && claimKeys) {
    const repairs = await drive(repairWork(figure, claimKeys), id, 'Looking for the fewest crossings to swap');
    if (id !== current) return;
    if (repairs?.ok) say({ repairs: repairs.value });
  }
  const atlas = await drive(atlasWork(figure, book), id, 'Swapping each crossing in turn');
  if (id !== current || !atlas) return;
  say(atlas.ok ? { atlas: atlas.value } : { atlasDeclined: sayRefusal(atlas) });
}

addEventListener('message', ({ data }: MessageEvent<IdentityRequest | IdentityCancel>) => {
  if (data.kind === 'cancel') {
    current = 0;
    return;
  }
  current = data.id;
  void examine(data).finally(() => tell({ kind: 'done', id: data.id }));
});
