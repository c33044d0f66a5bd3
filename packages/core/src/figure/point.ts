/**
 * Points and vectors on the board. Board units are rope diameters; x to the right, y **down**, as on the screen.
 */

/** A place on the board, `[x, y]` in rope diameters. */
export type Point = readonly [x: number, y: number];

export const add = (p: Point, q: Point): Point => [p[0] + q[0], p[1] + q[1]];
export const subtract = (p: Point, q: Point): Point => [p[0] - q[0], p[1] - q[1]];
export const scale = (p: Point, k: number): Point => [p[0] * k, p[1] * k];
export const between = (p: Point, q: Point, t: number): Point => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
export const distance = (p: Point, q: Point): number => Math.hypot(p[0] - q[0], p[1] - q[1]);
export const dot = (p: Point, q: Point): number => p[0] * q[0] + p[1] * q[1];

/** z of the cross product in board axes; with y down, positive when `q` lies clockwise of `p` as seen on the screen. */
export const cross = (p: Point, q: Point): number => p[0] * q[1] - p[1] * q[0];

/** The vector at unit length; the zero vector stays zero. */
export function unit(p: Point): Point {
  const length = Math.hypot(p[0], p[1]);
  return length === 0 ? [0, 0] : [p[0] / length, p[1] / length];
}

/** A smallest upright box, `[left, top, right, bottom]` in board units. */
export type Box = readonly [left: number, top: number, right: number, bottom: number];

/** The box round some points, or `undefined` for none. */
export function boxOf(points: Iterable<Point>): Box | undefined {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of points) {
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  return left > right ? undefined : [left, top, right, bottom];
}

export const boxesMeet = (a: Box, b: Box): boolean => a[0] <= b[2] && b[0] <= a[2] && a[1] <= b[3] && b[1] <= a[3];
