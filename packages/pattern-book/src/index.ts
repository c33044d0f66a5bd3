/**
 * The pattern book: the built-in knots, each laid open with its steps, each proved by the core.
 */
import {
  finishedFigure,
  KeyBook,
  keysOf,
  type Entry,
  type Finding,
  type KnownKnot,
  type Verdict,
} from '@foxtrail/core';
import { patterns } from './laid.js';

export type { Pattern, PatternSource } from './pattern.js';
export { SOURCES } from './sources.js';
export { claimOf, type Claimant } from './claim.js';
export * from './grade.js';
export * from './practice.js';
export * from './uses.js';
export { BOOK_KIN, patternKin, type BookKin } from './kin.js';
export { patternOf, patterns } from './laid.js';
export * from './words/index.js';

export { begunFrom, TIGHTENS } from './begin.js';

let keys: KeyBook | undefined;

/** The keys of every pattern. The first call takes about half a second: call it in a worker or on the server. */
export function patternKeys(): KeyBook {
  keys ??= new KeyBook(
    patterns().map(({ id, knot }) => {
      const found = keysOf(finishedFigure(knot.method));
      if (!found.ok) throw new Error(`pattern ${id}: ${found.reason}`);
      return { id, name: knot.name, ...found.value };
    }),
  );
  return keys;
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
