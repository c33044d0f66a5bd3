/**
 * Tails: what is left of the working end beyond its last crossing.
 */
import { remembered } from '../ground/remembered.js';
import { countedBeyond } from '../figure/breaks.js';
import { diameterOf } from '../figure/cordage.js';
import { passagesOf } from '../figure/crossings.js';
import { curveOf, lengthOf, lengthTo } from '../figure/curve.js';
import { lastAt, ropeOf, type Figure, type Rope } from '../figure/figure.js';
import { readMap } from '../topology/planar-map.js';
import { ropeEnds, type EndRole } from '../topology/rim-end.js';
import { tangleOf, type Tangle } from '../topology/tangle.js';

export interface Tail {
  readonly rope: string;
  /** From the last crossing to the end, with what breaks count, in diameters of its own rope; the whole rope when it crosses nothing. */
  readonly length: number;
  /** Diameter of its rope, in the figure's unit. */
  readonly diameter: number;
  /** Trail position of the last crossing (0 when there is none). */
  readonly from: number;
  readonly to: number;
  /** True when the end lies in a face that the knot closes in. */
  readonly inside: boolean;
}

/**
 * True when an end of a rope lies in a face the figure closes in. A face that only an eye closes is open: the tail of a loop may lie
 * inside it. In a degenerate drawing it is not known, and false.
 */
export function endIsInside(figure: Figure, rope: string, at: number): boolean {
  if (!readMap(figure).ok) return false;
  const end = ropeEnds(ropeOf(figure, rope) as Rope).find((e) => e.at === at)?.end;
  return heldTangle(figure).buried.some((b) => b.strand === rope && b.at === end?.at);
}

const heldTangle = remembered((figure: Figure): Tangle => tangleOf(figure, 'held'));

/** Roles of the ends in the order in which they leave the knot, counterclockwise: s standing, t tail, e eye, h host. */
export const endsAround = (figure: Figure): readonly EndRole[] =>
  readMap(figure).ok ? heldTangle(figure).rim.map((p) => p.role) : [];

/** True when a rope's tail lies in a face that only its eye closes: inside the loop. */
export function tailIsInLoop(figure: Figure, rope: Rope): boolean {
  const read = readMap(figure);
  if (!read.ok || (rope.eyes ?? []).length === 0 || rope.ends[1] !== 'tail') return false;
  const map = read.value;
  const vertex = map.vertices.findIndex((v) => v.end?.strand === rope.id && v.end.at === lastAt(rope));
  const dart = map.vertices[vertex]?.darts[0];
  const shutIn = dart !== undefined && map.faces[map.faceOf[dart] as number]?.outer === false;
  return shutIn && !endIsInside(figure, rope.id, lastAt(rope));
}

/** The tails of a figure, one for every rope whose working end is free; of one that is trimmed nothing is asked. */
export function tailsOf(figure: Figure): Tail[] {
  return figure.ropes
    .filter((r) => !r.closed && r.ends[1] === 'tail' && r.trimmed?.[1] !== true)
    .map((r) => {
      const curve = curveOf(r);
      const from = passagesOf(figure, r.id).at(-1)?.at ?? 0;
      return {
        rope: r.id,
        length: (lengthOf(curve) - lengthTo(curve, from)) / diameterOf(r) + countedBeyond(r, from),
        diameter: diameterOf(r),
        from,
        to: lastAt(r),
        inside: endIsInside(figure, r.id, lastAt(r)),
      };
    });
}
