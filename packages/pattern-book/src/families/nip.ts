/**
 * What bowlines are made of, by height: a nipping turn that lies flat on the board, and an end that goes up through it, round behind the
 * standing part, and down again. Wide, to be drawn nearer.
 */
import type { Raised } from '@foxtrail/core';

/** The standing part down to where it begins to turn. */
export const STANDING: readonly Raised[] = [
  [0, -25, 0.8],
  [0, -18, 0.8],
  [0, -10, 0.8],
  [-1.8, -6.2, 0.8],
];

/** Round to the right, over the standing part, and out to the left. */
export const NIP: readonly Raised[] = [
  [-5.6, -2, 0.8],
  [-6, 3, 0.8],
  [-2.6, 6.2, 0.8],
  [2.6, 6.2, 0.8],
  [6.4, 3, 0.8],
  [6, -4, 0.9],
  [2.4, -7, 1.2],
  [-2.4, -7.2, 1.2],
  [-8, -6, 1],
];

/** From below up through it at the right. */
export const UP: readonly Raised[] = [
  [2.2, 8, -3],
  [2.2, 3.4, 0],
  [2.4, -1, 3],
  [2.8, -7, 3],
];
/** Round behind the standing part, from right to left. */
export const COLLAR: readonly Raised[] = [
  [3, -11, 1],
  [0.4, -15, -3],
  [-3.4, -13, 1],
  [-4.4, -8, 3],
  [-3.8, -4, 3],
];
/** Down through it at the left. */
export const DOWN: readonly Raised[] = [
  [-2.6, -0.4, 3],
  [-2.4, 3.4, 0],
  [-2.4, 8, -3],
];

export const scaled = (points: readonly Raised[], by: number): Raised[] =>
  points.map(([x, y, h]) => [x * by, y * by, h]);
