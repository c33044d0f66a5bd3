/** Breaks: places at which a rope is drawn short. */
import { curveOf, lengthTo } from './curve.js';
import { passagesOf } from './crossings.js';
import type { Break, Figure, Rope } from './figure.js';

/** How near a break must be to mean it, in diameters. */
const REACH = 2;

/** The break that is meant by a place on a rope's trail: the nearest within reach. */
export function breakNear(rope: Rope, at: number): Break | undefined {
  const curve = curveOf(rope);
  const away = (b: Break): number => Math.abs(lengthTo(curve, b.at) - lengthTo(curve, at));
  return rope.breaks?.filter((b) => away(b) < REACH).sort((a, b) => away(a) - away(b))[0];
}

/** A rope is drawn short on its standing part or its tail: a break that has come to lie inside the knot goes. */
export function outerBreaks(figure: Figure): Figure {
  const ropes = figure.ropes.map((rope): Rope => {
    const places = rope.breaks ? passagesOf(figure, rope.id).map((p) => p.at) : [];
    const [first, last] = [places[0] ?? Infinity, places.at(-1) ?? -Infinity];
    const { breaks = [], ...bare } = rope;
    const outer = breaks.filter((b) => b.at < first || b.at > last);
    if (outer.length === breaks.length) return rope;
    return outer.length > 0 ? { ...bare, breaks: outer } : bare;
  });
  return ropes.some((r, i) => r !== figure.ropes[i]) ? { ...figure, ropes } : figure;
}

/** What breaks count of a rope beyond a place on its trail, in its own diameters. */
export const countedBeyond = ({ breaks = [] }: Pick<Rope, 'breaks'>, at: number): number =>
  breaks.reduce((sum, b) => (b.at > at ? sum + b.counts : sum), 0);
