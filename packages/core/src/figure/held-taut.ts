import type { Figure, Rope } from './figure.js';
import { subtract, unit } from './point.js';

/** A thick line that runs straight from edge to edge and never crosses itself: a rope held taut, as a host for what grips it. */
export function isHeldTaut(rope: Rope, figure: Figure): boolean {
  if (rope.closed || rope.ends.includes('tail') || figure.ropes.length < 2) return false;
  const [first, last] = [rope.points[0]!, rope.points.at(-1)!];
  const way = unit(subtract(last, first));
  return rope.points.every((p) => {
    const d = subtract(p, first);
    return Math.abs(d[0] * way[1] - d[1] * way[0]) < 0.6;
  });
}
