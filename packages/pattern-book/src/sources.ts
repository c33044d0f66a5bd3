/**
 * The book as it is written, in the order of its families.
 */
import { BENDS } from './families/bends.js';
import { KEPT_BOWLINES } from './families/bowlines-kept.js';
import { BOWLINES } from './families/bowlines.js';
import { BUTTERFLIES } from './families/butterflies.js';
import { EIGHTS } from './families/eights.js';
import { GRIPPING } from './families/gripping.js';
import { HITCHES } from './families/hitches.js';
import { LASHED } from './families/lashed.js';
import { ON_METAL } from './families/on-metal.js';
import { OVERHANDS } from './families/overhands.js';
import { QUICK_RELEASE } from './families/quick-release.js';
import { REEFS } from './families/reefs.js';
import { SHEET_BENDS } from './families/sheet-bends.js';
import { TIMBER_HITCHES } from './families/timber.js';
import type { PatternSource } from './pattern.js';

export const SOURCES: readonly PatternSource[] = [
  ...OVERHANDS,
  ...EIGHTS,
  ...REEFS,
  ...SHEET_BENDS,
  ...BOWLINES,
  ...KEPT_BOWLINES,
  ...BENDS,
  ...HITCHES,
  ...ON_METAL,
  ...GRIPPING,
  ...TIMBER_HITCHES,
  ...LASHED,
  ...QUICK_RELEASE,
  ...BUTTERFLIES,
];
