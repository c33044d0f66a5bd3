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
import { lay, type Pattern } from './pattern.js';
import { SOURCES } from './sources.js';

export type { Pattern, PatternSource } from './pattern.js';
export { SOURCES } from './sources.js';
export * from './words/index.js';

const names = new Map(SOURCES.map((s) => [s.id, s.name]));
export { begunFrom, TIGHTENS } from './begin.js';

let laid: readonly Pattern[] | undefined;

/** Every pattern of the book, laid; the first call takes a moment, later ones none. */
export function patterns(): readonly Pattern[] {
  laid ??= SOURCES.map((s) => lay(s, (id) => names.get(id) ?? id));
  return laid;
}

/** The pattern with an id. */
export const patternOf = (id: string): Pattern | undefined => patterns().find((p) => p.id === id);

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

/** A knot's stated claim, apart from how its figure is drawn. */
export interface Claimant {
  readonly name: string;
  readonly entry: Pick<Entry, 'aliases' | 'claim'>;
}

const NO_CLAIM = 'none';
const plain = (name: string): string => name.toLowerCase().replace(/[’']/g, '').replace(/\s+/g, ' ').trim();

/**
 * The pattern that a knot claims to be: the one its entry names, else the one whose name or alias is its own, or begins it: “Clove hitch
 * on a spar” claims to be the clove hitch. A name may leave out its “knot”. The longest name that fits is taken.
 */
export function claimOf({ name, entry }: Claimant): Pattern | undefined {
  if (entry.claim === NO_CLAIM) return undefined;
  if (entry.claim !== undefined) return patternOf(entry.claim);
  const own = [name, ...entry.aliases].map(plain);
  let best: Pattern | undefined;
  let length = 0;
  for (const p of patterns())
    for (const known of [p.knot.name, ...p.knot.entry.aliases].map(plain))
      if (known.length > length && own.some((o) => o === known || `${o} knot` === known || o.startsWith(`${known} `)))
        [best, length] = [p, known.length];
  return best;
}

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
