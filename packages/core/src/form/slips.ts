/**
 * Slips as they lie in the hand: a knot laid wrong at one crossing, dressed and set. What it looks like then is what a learner meets in rope.
 */
import { crossingsOf } from '../figure/crossings.js';
import { accept, type Result } from '../figure/refusal.js';
import { atlasOf, type Mistake } from '../identity/atlas.js';
import type { KeyBook } from '../identity/book.js';
import { flipped } from '../identity/signature.js';
import { finishedFigure, type Method } from '../tying/method.js';
import type { Figure } from '../figure/figure.js';
import { measureForm } from './measure.js';
import { setNow, type SetForm } from './set.js';
import { howToSet } from './setting.js';

/** A slip that can be shown in the hand. */
export interface SlipInHand {
  /** Number of the crossing of the finished knot that is laid the wrong way. */
  readonly slip: number;
  readonly figure: Figure;
  readonly form: SetForm;
}

/** Most slips that are shown of a knot, most that are tried for them, and most crossings of a knot of which they are. */
export const SLIPS_IN_HAND = { shown: 3, tried: 6, crossings: 16 } as const;

/** What draws down to less than this, in diameters, is no knot any more. */
const LEAST_SIZE = 1.5;

/** Some of a list, spread evenly over it. */
function spread<T>(list: readonly T[], most: number): T[] {
  const n = Math.min(most, list.length);
  return Array.from({ length: n }, (_, i) => list[Math.floor((i * list.length) / n)]!);
}

/**
 * Slips of a method’s finished knot as they lie in the hand: those that make another knot of it, which holds. What falls apart, or runs when it is
 * pulled, is seen to be wrong by the hand; and where the knot is not set as it is drawn last, none is shown.
 */
export function slipsInHand(method: Method, book: KeyBook): Result<readonly SlipInHand[]> {
  const { figure, wishes } = howToSet(method);
  if (figure !== finishedFigure(method) || crossingsOf(figure).length > SLIPS_IN_HAND.crossings) return accept([]);
  const atlas = atlasOf(figure, book);
  if (!atlas.ok) return atlas;
  const isKnot = ({ outcome }: Mistake): boolean => outcome !== 'same' && outcome !== 'falls apart';
  // Crossings that make the same of it look the same.
  const unlike = atlas.value.groups.filter((g) => g.outcome !== 'same' && g.outcome !== 'falls apart');
  const firsts = unlike.flatMap((g) => g.crossings.slice(0, 1));
  const more = atlas.value.mistakes.filter((m) => isKnot(m) && !firsts.includes(m.crossing)).map((m) => m.crossing);
  const found: SlipInHand[] = [];
  for (const slip of [...spread(firsts, SLIPS_IN_HAND.tried), ...more].slice(0, SLIPS_IN_HAND.tried)) {
    if (found.length === SLIPS_IN_HAND.shown) break;
    const wrong = flipped(figure, [slip]);
    const set = setNow(wrong, wishes);
    if (set.ok && !set.value.runs && measureForm(set.value).size[0] >= LEAST_SIZE)
      found.push({ slip, figure: wrong, form: set.value });
  }
  return accept(found);
}
