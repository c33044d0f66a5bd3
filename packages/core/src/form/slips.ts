/**
 * Slips as they lie in the hand: a knot laid wrong at one crossing, dressed and set. What it looks like then is what a learner meets in rope.
 */
import { crossingsOf } from '../figure/crossings.js';
import { accept, type Result } from '../figure/refusal.js';
import { atlasOf, type Mistake } from '../identity/atlas.js';
import type { KeyBook } from '../identity/book.js';
import { flipped } from '../identity/signature.js';
import { figureSet } from '../tying/held-bights.js';
import { finishedFigure, finishedLayout, type Method } from '../tying/method.js';
import type { Figure } from '../figure/figure.js';
import { measureForm } from './measure.js';
import { setNow, type SetForm } from './set.js';
import { settingFor, type Setting } from './setting.js';

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

/** How the knot is set from its last drawing, whose crossings are those that are asked about. */
function finishedSetting(method: Method): Setting {
  const layout = finishedLayout(method);
  return settingFor(figureSet(layout), layout.dressings?.[0]);
}

/**
 * Slips of a method’s finished knot that are worth setting, by the numbers of their crossings, the likeliest first: those that make another knot
 * of it. What falls apart is seen to be wrong by the hand; where the knot is not set as it is drawn last, there are none.
 */
export function slipsToSet(method: Method, book: KeyBook): Result<readonly number[]> {
  const { figure } = finishedSetting(method);
  const inAHand = figure.hosts.some((h) => h.kind === 'hand');
  // A bight that is held while the knot is set is another drawing: its crossings have other numbers.
  const asDrawn = figure === finishedFigure(method);
  if (inAHand || !asDrawn || crossingsOf(figure).length > SLIPS_IN_HAND.crossings) return accept([]);
  const atlas = atlasOf(figure, book);
  if (!atlas.ok) return atlas;
  const isKnot = ({ outcome }: Pick<Mistake, 'outcome'>): boolean => outcome !== 'same' && outcome !== 'falls apart';
  // Crossings that make the same of it look the same: one of each first.
  const firsts = atlas.value.groups.filter(isKnot).flatMap((g) => g.crossings.slice(0, 1));
  const more = atlas.value.mistakes.filter(isKnot).flatMap((m) => (firsts.includes(m.crossing) ? [] : [m.crossing]));
  return accept([...spread(firsts, SLIPS_IN_HAND.tried), ...more].slice(0, SLIPS_IN_HAND.tried));
}

/** A slip of a method’s finished knot as it lies in the hand; none where it cannot be set, or runs when it is pulled. */
export function slipInHand(method: Method, slip: number): SlipInHand | undefined {
  const { figure, wishes } = finishedSetting(method);
  const wrong = flipped(figure, [slip]);
  const set = setNow(wrong, wishes);
  const holds = set.ok && !set.value.runs && measureForm(set.value).size[0] >= LEAST_SIZE;
  return holds ? { slip, figure: wrong, form: set.value } : undefined;
}
