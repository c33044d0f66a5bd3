/**
 * A form: every rope of a knot as a chain of beads in space, and what it is tied to. Unit: rope diameters; x to the right and y down as on
 * the board, z toward the reader.
 */
import type { End, Host } from '../figure/figure.js';
import { dotOf, lengthOfVector, less, type Vector } from './vector.js';

/** Where a rope leaves the knot and is held: an end, or a loop's peg. */
export interface Outlet {
  readonly kind: End | 'eye';
  /** First and last bead that is held, on its chain. */
  readonly first: number;
  readonly last: number;
  /** Unit direction in which it is pulled. */
  readonly way: Vector;
  /** A tail that ends among other strands: it stays there, as what it lies over or under tells one knot from another. */
  readonly inside?: boolean | undefined;
  /** How far such a tail is drawn beyond its last crossing, in diameters. */
  readonly slack?: number | undefined;
  /** The tension of the rope there, against 1 of a standing part; absent: as such a part is pulled by itself. */
  readonly tension?: number | undefined;
}

/** One rope as beads, from its standing part to its working end. */
export interface Chain {
  readonly rope: string;
  readonly closed: boolean;
  readonly radius: number;
  /** Bead positions, three numbers each. */
  readonly x: Float64Array;
  /** Trail position of each bead on the drawn rope; beyond its ends it does not change. */
  readonly at: Float64Array;
  /** In the order of the trail. */
  readonly outlets: readonly Outlet[];
}

/** What the rope is tied to, as a solid: a line of points in space and its radius. A rope held taut is one, too. */
export interface Solid {
  readonly host: string;
  readonly kind: Host['kind'] | 'rope';
  readonly closed: boolean;
  readonly radius: number;
  readonly x: Float64Array;
}

export interface Form {
  readonly chains: readonly Chain[];
  readonly solids: readonly Solid[];
}

/** Places as a file keeps them: to a two-hundredth of a diameter. What is measured is what is kept. */
export const onGrid = (places: Float64Array): Float64Array => places.map((v) => Math.round(v * 200) / 200);

export const placeOf = (x: Float64Array, i: number): Vector => [x[3 * i]!, x[3 * i + 1]!, x[3 * i + 2]!];

/** The bead of a chain that is nearest along the trail to a place. */
export function beadNearest({ at }: Chain, place: number): number {
  let best = 0;
  for (let i = 1; i < at.length; i += 1) if (Math.abs(at[i]! - place) < Math.abs(at[best]! - place)) best = i;
  return best;
}

/** A lead is straight where its direction has at least this cosine with its way. */
export const STRAIGHT = 0.85;

/** How many beads of an open chain lie on the straight lead before the knot, and on the one after it. */
export function leadCount({ x, at, closed, outlets, radius }: Chain): [number, number] {
  const n = at.length;
  const walk = (from: number, inward: 1 | -1): number => {
    const outlet = outlets.find((o) => o.kind !== 'eye' && o.first === from);
    if (closed || !outlet) return 0;
    let length = 0;
    for (let i = from, count = 0; ; i += inward, count += 1) {
      const j = i + inward;
      if (j < 0 || j >= n) return count;
      const d = less(placeOf(x, i), placeOf(x, j));
      const gap = lengthOfVector(d);
      if (dotOf(d, outlet.way) < STRAIGHT * gap && length > 2 * radius) return count;
      length += gap;
    }
  };
  const first = walk(0, 1);
  return first >= n - 1 ? [n >> 1, n - (n >> 1) - 2] : [first, walk(n - 1, -1)];
}

/** The beads of a chain that belong to the knot: neither lead, nor tail, nor loop. */
export function knotBeads(chain: Chain): number[] {
  const n = chain.at.length;
  const [first, last] = leadCount(chain);
  const inLoop = new Uint8Array(n);
  for (const o of chain.outlets) {
    if (o.kind !== 'eye') continue;
    inLoop.fill(1, o.first, o.last + 1);
    for (const [from, step] of [
      [o.first, -1],
      [o.last, 1],
    ] as const) {
      let length = 0;
      for (let i = from; ; i += step) {
        const [k, j] = [onChain(chain, i), onChain(chain, i + step)];
        if (j === undefined || k === undefined || inLoop[j] === 1) break;
        const d = less(placeOf(chain.x, k), placeOf(chain.x, j));
        const gap = lengthOfVector(d);
        if (dotOf(d, o.way) < STRAIGHT * gap && length > 2 * chain.radius) break;
        inLoop[j] = 1;
        length += gap;
      }
    }
  }
  return Array.from({ length: n }, (_, i) => i).filter((i) => i >= first && i < n - last && inLoop[i] === 0);
}

/** The bead of a chain at an index that may run round a ring; none beyond an open end. */
export function onChain({ closed, at }: Chain, i: number): number | undefined {
  const n = at.length;
  if (closed) return ((i % n) + n) % n;
  return i < 0 || i >= n ? undefined : i;
}
