/**
 * Loops that lie one upon the other and are gone through at once.
 */
import type { TrailPosition, Rope } from '../figure/figure.js';
import { ropeOf } from '../figure/figure.js';
import { curveOf, lineBetween, pointAt } from '../figure/curve.js';
import { extentsAt, type Layout, type Stretch } from './method.js';
import { loopsOf, windingRound, type Loop } from './parts.js';

/** A passage of a leader: where it is, whether it is over, what it meets, and in which step. */
interface Passed {
  readonly at: number;
  readonly over: boolean;
  readonly place: TrailPosition;
  readonly step: Stretch;
}

const meets = (loop: Loop, { place }: Passed): boolean =>
  place.strand === loop.strand && place.at > loop.from && place.at < loop.to;

/**
 * The loops that a leader's passages go through all at once: in at the edge of each, all one way, and then out at the other edge of each, all
 * the other way; nothing where they do not. Half of the passages go in.
 */
export function loopsThrough(layout: Layout, rope: Rope, passed: readonly Passed[]): readonly Loop[] | undefined {
  const deep = passed.length / 2;
  const [last, next] = [passed[deep - 1], passed[deep]];
  if (!last || !next || last.over === next.over) return undefined;
  if (passed.some((m, k) => m.over !== (k < deep ? last : next).over)) return undefined;
  const middle = pointAt(curveOf(rope), (last.at + next.at) / 2);
  const extents = extentsAt(layout, last.step.index, last.at);
  const holding = [...new Set(passed.map((m) => m.place.strand))].flatMap((strand) => {
    const owner = ropeOf(layout.figure, strand);
    if (!owner) return [];
    return loopsOf(layout.figure, strand, extents, strand === rope.id ? last.at : Infinity).filter(
      (l) => windingRound(lineBetween(curveOf(owner), l.from, l.to), middle) !== 0,
    );
  });
  // Each is entered once and left once; what closed first speaks for what closed about it later.
  const edges = holding
    .sort((a, b) => a.to - b.to)
    .flatMap((loop) => {
      const [entered, left, ...more] = passed.flatMap((m, k) => (meets(loop, m) ? [k] : []));
      const isOnce = entered !== undefined && left !== undefined && more.length === 0;
      return isOnce && entered < deep && left >= deep ? [{ loop, entered, left }] : [];
    });
  const chosen = (from: number, taken: ReadonlySet<number>): readonly Loop[] | undefined => {
    if (from === deep) return [];
    for (const { loop, entered, left } of edges) {
      if (entered !== from || taken.has(left)) continue;
      const rest = chosen(from + 1, new Set([...taken, left]));
      if (rest) return [loop, ...rest];
    }
    return undefined;
  };
  return chosen(0, new Set());
}
