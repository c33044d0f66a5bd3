/** Assemblies of the book, and what is known of the knots that an assembly shows. An entrance of its own. */
import type { Assembly } from '@foxtrail/core/assembly';
import { purchaseButterfly, purchaseSlip, ridgeLine, twoLegHitch } from './lines.js';
import { seatDownward, seatUpward } from './seats.js';
import { barrelSling, endToEndSling, plankSling, showKiteBridle } from './slings.js';

export { knotFacts, patternFacts } from './facts.js';
export { eatsOfPattern, patternName } from './write.js';

/** What an assembly may begin from, by its address in the book. */
export const BOOK_ASSEMBLIES: Readonly<Record<string, () => Assembly>> = {
  'two-leg-hitch': twoLegHitch,
  'purchase-slip': purchaseSlip,
  'purchase-butterfly': purchaseButterfly,
  'ridge-line': ridgeLine,
  'end-to-end-sling': endToEndSling,
  'barrel-sling': barrelSling,
  'plank-sling': plankSling,
  'seat-upward': seatUpward,
  'seat-downward': seatDownward,
  'show-kite-bridle': showKiteBridle,
};
