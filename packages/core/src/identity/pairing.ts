/**
 * Pairing: the crossings of two figures that are drawn with the same lines, one with one, so that those that differ can be shown.
 */
import { roundFrom } from '../ground/ring.js';
import { crossingsOf } from '../figure/crossings.js';
import type { Figure } from '../figure/figure.js';
import { diagramOf, shadowOf } from '../topology/simplify.js';
import type { Tangle } from '../topology/tangle.js';
import { liftedTangles } from './signature.js';

export interface CrossingPair {
  /** Crossing number in the first and in the second figure. */
  readonly a: number;
  readonly b: number;
  /** True when over and under agree. */
  readonly agrees: boolean;
}

export interface Pairing {
  readonly pairs: readonly CrossingPair[];
  /** How the second figure must be turned to lie on the first. */
  readonly turned: 'as drawn' | 'seen from behind' | 'mirrored';
}

/** Pairs the crossings of two figures; the pairing with most that agree. None when their lines differ. */
export function pairCrossings(a: Figure, b: Figure): Pairing | undefined {
  const [p, q] = [liftedTangles(a).held, liftedTangles(b).held];
  if (p.crossings.length !== q.crossings.length || p.rim.length !== q.rim.length || p.rim.length === 0)
    return undefined;
  const [d, e] = [diagramOf(p), diagramOf(q)];
  const n = p.rim.length;
  const roles = ({ rim }: Tangle, start: number, way: 1 | -1): string =>
    roundFrom(start, way, n)
      .map((i) => rim[i]?.role)
      .join('');
  const first = Math.max(
    0,
    p.rim.findIndex((r) => r.role === 's'),
  );
  const walk = shadowOf(d, first, 1);
  let best: Pairing | undefined;
  const score = (x: Pairing): number => x.pairs.filter((c) => c.agrees).length + (x.turned === 'as drawn' ? 0.5 : 0);
  for (const way of [1, -1] as const) {
    for (let s = 0; s < n; s += 1) {
      if (roles(p, first, 1) !== roles(q, s, way)) continue;
      const other = shadowOf(e, s, way);
      if (other.code !== walk.code) continue;
      for (const swapped of way === 1 ? [false] : [true, false]) {
        // Read the other way round, the lines are those of the view from behind (over and under exchanged) or of the mirror image.
        const pairing: Pairing = {
          turned: way === 1 ? 'as drawn' : swapped ? 'seen from behind' : 'mirrored',
          pairs: walk.order
            .map((c, i) => ({
              a: c + 1,
              b: (other.order[i] as number) + 1,
              agrees: walk.doorOver[i] === (other.doorOver[i] !== swapped),
            }))
            .sort((x, y) => x.a - y.a),
        };
        if (!best || score(pairing) > score(best)) best = pairing;
      }
    }
  }
  return best;
}

/** Which crossing of another drawing of a knot each of its crossings is, by number; undefined where the lines of the two differ. */
export function numbersAcross(a: Figure, b: Figure): ReadonlyMap<number, number> | undefined {
  if (a === b) return new Map(crossingsOf(a).map((c) => [c.number, c.number]));
  const pairing = pairCrossings(a, b);
  return pairing?.pairs.every((p) => p.agrees) === true ? new Map(pairing.pairs.map((p) => [p.a, p.b])) : undefined;
}
