/**
 * Likeness: a strand laid beside another one crosses what that one crosses, and does there as it does.
 */
import { crossingsOf } from './crossings.js';
import { curveOf, lengthTo } from './curve.js';
import type { Figure, Host, Rope, TrailPosition } from './figure.js';

/**
 * Tells of two places of a figure, at which something new crosses, whether the first is over: as at the nearest crossing, which may lie so
 * far along each strand, in diameters. Nothing when no crossing is so near.
 */
export function likeliest(
  figure: Figure,
  reach: number,
): (first: TrailPosition, second: TrailPosition) => boolean | undefined {
  const known = crossingsOf(figure);
  const strands = new Map<string, Rope | Host>([...figure.ropes, ...figure.hosts].map((s) => [s.id, s]));
  const away = (p: TrailPosition, q: TrailPosition): number => {
    const strand = p.strand === q.strand ? strands.get(p.strand) : undefined;
    if (!strand) return Infinity;
    const curve = curveOf(strand);
    return Math.abs(lengthTo(curve, p.at) - lengthTo(curve, q.at));
  };
  return (first, second) => {
    let best: { readonly off: number; readonly firstIsOver: boolean } | undefined;
    for (const c of known)
      for (const [over, under, firstIsOver] of [
        [first, second, true],
        [second, first, false],
      ] as const) {
        const off = away(c.over, over) + away(c.under, under);
        if (off < 2 * reach && (best === undefined || off < best.off)) best = { off, firstIsOver };
      }
    return best?.firstIsOver;
  };
}
