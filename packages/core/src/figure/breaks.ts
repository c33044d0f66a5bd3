/** Breaks: places at which a rope is drawn short. */
import { curveOf, lengthTo } from './curve.js';
import type { Break, Rope } from './figure.js';

/** How near a break must be to mean it, in diameters. */
const REACH = 2;

/** The break that is meant by a place on a rope's trail: the nearest within reach. */
export function breakNear(rope: Rope, at: number): Break | undefined {
  const curve = curveOf(rope);
  const away = (b: Break): number => Math.abs(lengthTo(curve, b.at) - lengthTo(curve, at));
  return rope.breaks?.filter((b) => away(b) < REACH).sort((a, b) => away(a) - away(b))[0];
}

/** What breaks count of a rope beyond a place on its trail, in its own diameters. */
export const countedBeyond = ({ breaks = [] }: Pick<Rope, 'breaks'>, at: number): number =>
  breaks.reduce((sum, b) => (b.at > at ? sum + b.counts : sum), 0);
