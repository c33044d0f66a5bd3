/**
 * What a knot claims to be: the pattern it names, or whose name it bears.
 */
import type { Entry } from '@foxtrail/core';
import { patternOf, patterns } from './laid.js';
import type { Pattern } from './pattern.js';

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
