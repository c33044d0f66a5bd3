/**
 * The book as it is written, in the order of its families.
 */
import { BENDS } from './families/bends.js';
import { BOWLINES } from './families/bowlines.js';
import { BUTTERFLIES } from './families/butterflies.js';
import { EIGHTS } from './families/eights.js';
import { GRIPPING } from './families/gripping.js';
import { HITCHES } from './families/hitches.js';
import { OVERHANDS } from './families/overhands.js';
import { REEFS } from './families/reefs.js';
import type { PatternSource } from './pattern.js';

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
