/**
 * Going round a ring of n places, either way.
 */

/** The place i as one of 0 … n − 1. */
export const onRing = (i: number, n: number): number => ((i % n) + n) % n;

/** The places of a ring in the order in which they are met from one of them. */
export const roundFrom = (start: number, way: 1 | -1, n: number): number[] =>
  Array.from({ length: n }, (_, k) => onRing(start + way * k, n));
