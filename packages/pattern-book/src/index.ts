/**
 * The pattern book: the built-in knots, each laid open with its steps, each proved by the core.
 */
import { BENDS } from './families/bends.js';
import { BOWLINES } from './families/bowlines.js';
import { BUTTERFLIES } from './families/butterflies.js';
import { EIGHTS } from './families/eights.js';
import { GRIPPING } from './families/gripping.js';
import { HITCHES } from './families/hitches.js';
import { OVERHANDS } from './families/overhands.js';
import { REEFS } from './families/reefs.js';
import { lay, type Pattern, type PatternSource } from './pattern.js';

export type { Pattern, PatternSource } from './pattern.js';

/** The book as it is written, in the order of its families. */
export const SOURCES: readonly PatternSource[] = [
  ...OVERHANDS,
  ...EIGHTS,
  ...REEFS,
  ...BOWLINES,
  ...BENDS,
  ...HITCHES,
  ...GRIPPING,
  ...BUTTERFLIES,
];

const names = new Map(SOURCES.map((s) => [s.id, s.name]));
let laid: readonly Pattern[] | undefined;

/** Every pattern of the book, laid; the first call takes a moment, later ones none. */
export function patterns(): readonly Pattern[] {
  laid ??= SOURCES.map((s) => lay(s, (id) => names.get(id) ?? id));
  return laid;
}

export const patternOf = (id: string): Pattern | undefined => patterns().find((p) => p.id === id);
