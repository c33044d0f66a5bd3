/**
 * The patterns as known knots: their keys, their figures, and what a verdict on one of them comes to.
 */
import {
  finishedFigure,
  KeyBook,
  layoutsOf,
  missingEye,
  theKnot,
  type Entry,
  type Finding,
  type KnotKeys,
  type KnownKnot,
  type Method,
  type Verdict,
} from '@foxtrail/core';
import { KEYS } from './keys.js';
import { patterns } from './laid.js';
import { SOURCES } from './sources.js';

let keys: KeyBook | undefined;

/** The keys of every pattern, at once: they are shipped. */
export function patternKeys(): KeyBook {
  keys ??= new KeyBook(SOURCES.map(({ id, name, slip }) => ({ id, name, slipped: slip !== undefined, ...keyOf(id) })));
  return keys;
}

function keyOf(id: string): KnotKeys {
  const found = KEYS[id];
  if (!found) throw new Error(`pattern ${id} has no keys: npm run keys`);
  return found;
}

export const knownKnots = (): readonly KnownKnot[] =>
  patterns().map(({ id, knot }) => ({ id, name: knot.name, figure: finishedFigure(knot.method) }));

/** The finding that a verdict gives rise to, if any. */
export function verdictFinding(verdict: Verdict, { hand }: Pick<Entry, 'hand'> = {}): Finding | undefined {
  if (!verdict.claim) return undefined;
  const { name } = verdict.claim;
  if (verdict.state === 'fails')
    return {
      code: 'not-the-claim',
      severity: 'error',
      title: verdict.headline.replace(/\.$/, ''),
      why: `It is entered as ${name}. ${verdict.evidence}`,
      remedy: 'Put the wrong crossing right on Proof, or enter it as what it is.',
    };
  // A left-handed edition is meant to be the mirror image.
  if (verdict.state === 'mirrored' && hand !== 'left')
    return {
      code: 'other-hand',
      severity: 'warning',
      title: `It is the mirror image of ${name}`,
      why: 'Learners who compare it with the usual figure find every crossing the other way.',
      remedy: 'Say that it is the left-handed form, or draw the other hand.',
    };
  return undefined;
}

/** A loop that is meant to stay and is not marked, where marking it makes the knot one that is known, or the one it claims to be. */
export function eyeFinding(method: Method, { state, claim }: Verdict): Finding | undefined {
  if (state !== 'unknown' && state !== 'fails') return undefined;
  const found = missingEye(finishedFigure(method), patternKeys(), claim?.id);
  if (!found) return undefined;
  const layout = layoutsOf(method).length - 1;
  return {
    code: 'eye-not-marked',
    severity: 'warning',
    title: `With its loop marked as an eye it is ${theKnot(found.knot.name)}${found.knot.relation === 'mirror' ? ', of the other hand' : ''}`,
    why: 'A loop that is meant to stay is not drawn out when the knot is identified; unmarked, it is.',
    remedy: 'Mark it as an eye, if it is meant to stay.',
    place: found.where,
    layout,
    fix: { label: 'Mark the loop as an eye', layout, edit: { kind: 'toggle-eye', where: found.where } },
  };
}
