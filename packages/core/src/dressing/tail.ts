/**
 * Tails and windings: what is left of the working end beyond its last crossing, and how often a rope goes round a host.
 */
import { crossingsOf, passagesOf } from '../figure/crossings.js';
import { curveOf, lengthOf, lengthTo } from '../figure/curve.js';
import { lastAt, type Figure } from '../figure/figure.js';
import { readMap } from '../topology/planar-map.js';

export interface Tail {
  readonly rope: string;
  /** From the last crossing to the end, in diameters; the whole rope when it crosses nothing. */
  readonly length: number;
  /** Trail position of the last crossing (0 when there is none). */
  readonly from: number;
  readonly to: number;
  /** True when the end lies in a face that the knot closes in. */
  readonly inside: boolean;
}

/** True when an end of a rope lies in a face the figure closes in. In a degenerate drawing that is not known, and false. */
export function endIsInside(figure: Figure, rope: string, at: number): boolean {
  const read = readMap(figure);
  if (!read.ok) return false;
  const map = read.value;
  const vertex = map.vertices.findIndex((v) => v.end?.strand === rope && v.end.at === at);
  const dart = map.vertices[vertex]?.darts[0];
  return dart !== undefined && map.faces[map.faceOf[dart] as number]?.outer === false;
}

/** The tails of a figure, one for every rope whose working end is free. */
export function tailsOf(figure: Figure): Tail[] {
  return figure.ropes
    .filter((r) => !r.closed && r.ends[1] === 'tail')
    .map((r) => {
      const curve = curveOf(r);
      const from = passagesOf(figure, r.id).at(-1)?.at ?? 0;
      return {
        rope: r.id,
        length: lengthOf(curve) - lengthTo(curve, from),
        from,
        to: lastAt(r),
        inside: endIsInside(figure, r.id, lastAt(r)),
      };
    });
}

/**
 * Turns of a rope about an open host, signed: half the sum of the signs of their crossings. Each passage in front going one way
 * and each behind going the other is half a turn; windings that undo each other cancel.
 */
export function windingAbout(figure: Figure, rope: string, host: string): number {
  return crossingsOf(figure).reduce(
    (sum, c) => (c.first.strand === rope && c.second.strand === host ? sum + c.sign / 2 : sum),
    0,
  );
}
