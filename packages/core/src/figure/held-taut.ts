import { diameterOf } from './cordage.js';
import { atLength, curveOf, lengthTo, pointAt } from './curve.js';
import { hostOf, ropeOf, type Figure, type Rope, type TrailPosition } from './figure.js';
import { subtract, unit, type Point } from './point.js';

/**
 * A thick line that runs straight from edge to edge, or to where it is cut off, and never crosses itself: a rope held taut, as a host for
 * what grips it or is bound round it.
 */
export function isHeldTaut(rope: Rope, figure: Figure): boolean {
  const isFree = rope.ends.some((end, i) => end === 'tail' && rope.trimmed?.[i] !== true);
  if (rope.closed || isFree || figure.ropes.length < 2) return false;
  const [first, last] = [rope.points[0]!, rope.points.at(-1)!];
  const way = unit(subtract(last, first));
  return rope.points.every((p) => {
    const d = subtract(p, first);
    return Math.abs(d[0] * way[1] - d[1] * way[0]) < 0.6;
  });
}

/** From so many diameters of what goes round it on, a rope is as a host to it: it hides what is behind it. */
const THICKER = 1.5;
/** It runs straight so far to either side of where it is passed, in its own diameters; and how far that is from a line. */
const [STRAIGHT, OFF_LINE] = [1.2, 0.15];

/** Whether a rope is thick enough to be a core to another. */
export const isThicker = (rope: Rope, than: Rope): boolean => diameterOf(rope) >= THICKER * diameterOf(than);

/** Whether a strand is a core to a rope where that passes it: a host, or a much thicker rope that runs straight there. */
export function isCore(figure: Figure, { strand, at }: TrailPosition, to: Rope): boolean {
  if (hostOf(figure, strand)) return true;
  const rope = ropeOf(figure, strand);
  if (!rope || !isThicker(rope, to)) return false;
  const curve = curveOf(rope);
  const [middle, far] = [lengthTo(curve, at), STRAIGHT * diameterOf(rope)];
  const [p, m, q] = [-far, 0, far].map((by) => pointAt(curve, atLength(curve, middle + by))) as [Point, Point, Point];
  const way = unit(subtract(q, p));
  const off = subtract(m, p);
  return Math.abs(off[0] * way[1] - off[1] * way[0]) < OFF_LINE * diameterOf(rope);
}
