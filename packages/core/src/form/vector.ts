/**
 * Vectors in space. Axes: x to the right and y down as on the board, z toward the reader. Only operations that every machine rounds
 * alike are used.
 */
export type Vector = readonly [x: number, y: number, z: number];

export const sum = (u: Vector, v: Vector): Vector => [u[0] + v[0], u[1] + v[1], u[2] + v[2]];
export const less = (u: Vector, v: Vector): Vector => [u[0] - v[0], u[1] - v[1], u[2] - v[2]];
export const times = (u: Vector, k: number): Vector => [u[0] * k, u[1] * k, u[2] * k];
export const dotOf = (u: Vector, v: Vector): number => u[0] * v[0] + u[1] * v[1] + u[2] * v[2];
export const lengthOfVector = (u: Vector): number => Math.sqrt(dotOf(u, u));
export const crossOf = (u: Vector, v: Vector): Vector => [
  u[1] * v[2] - u[2] * v[1],
  u[2] * v[0] - u[0] * v[2],
  u[0] * v[1] - u[1] * v[0],
];

/** The vector at unit length; the zero vector stays zero. */
export function unitOf(u: Vector): Vector {
  const length = lengthOfVector(u);
  return length === 0 ? u : times(u, 1 / length);
}

/** Turns a vector as `from` is turned into `to`, both of unit length and not opposite. */
export function turnedAs(v: Vector, from: Vector, to: Vector): Vector {
  const axis = crossOf(from, to);
  const cosine = dotOf(from, to);
  return sum(sum(times(v, cosine), crossOf(axis, v)), times(axis, dotOf(axis, v) / (1 + cosine)));
}

/** The middle and the half diagonal of the box round some places; nothing for none. */
export function ballRound(places: Iterable<Vector>): { readonly middle: Vector; readonly radius: number } | undefined {
  let [low, high]: [Vector, Vector] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (const p of places) {
    low = [Math.min(low[0], p[0]), Math.min(low[1], p[1]), Math.min(low[2], p[2])];
    high = [Math.max(high[0], p[0]), Math.max(high[1], p[1]), Math.max(high[2], p[2])];
  }
  if (low[0] > high[0]) return undefined;
  return { middle: times(sum(low, high), 0.5), radius: lengthOfVector(less(high, low)) / 2 };
}
