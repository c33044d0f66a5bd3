/**
 * A barrel: an overhand of n turns that a rope's end makes round another strand. Coordinates are rope diameters, x along the other
 * strand, y down.
 */
import type { Point } from './point.js';

/** Length along the core that one turn of a coil takes. */
export const PITCH = 6.4;
/** The end comes in along y = `CORE` from the left; the other strand lies along y = −`CORE`. */
export const CORE = 1.15;

/**
 * The inner points of a half circle from one place to another, bulging to the left of the way between them as seen on the screen
 * (to the right with `side` −1).
 */
export function halfCircle([ax, ay]: Point, [bx, by]: Point, side: 1 | -1 = 1): Point[] {
  const [mx, my] = [(ax + bx) / 2, (ay + by) / 2];
  const [rx, ry] = [(ax - bx) / 2, (ay - by) / 2];
  // With y down, left of the way from a to b is the half diameter turned clockwise.
  return [1, 2, 3].map((k): Point => {
    const [c, s] = [Math.cos((k * Math.PI) / 4), Math.sin((k * Math.PI) / 4) * side];
    return [mx + rx * c - ry * s, my + ry * c + rx * s];
  });
}

/** A coil of n turns round strands along the x axis, from its first low end to its last: each end is a half circle. */
export const coil = (n: number, reach: number): Point[] =>
  Array.from({ length: 2 * n - 1 }, (_, i): Point[] => {
    const [x, low, r] = [((i + 1) * PITCH) / 2, i % 2 === 0, PITCH / 4];
    const y = (low ? 1 : -1) * (reach - r);
    return halfCircle([x - r, y], [x + r, y], low ? -1 : 1);
  }).flat();

/** The barrel of n turns, from where the end comes alongside to where it leaves. */
export function barrel(n: number): Point[] {
  const far = n * PITCH;
  return [
    [0, CORE],
    [far / 2, CORE],
    [far + 0.6, CORE],
    [far + 4, -0.7],
    [far + 4.4, -4.6],
    [far + 1.4, -7.6],
    [far / 2, -8.4],
    [0, -8.2],
    [-2.6, -6.4],
    [-1.6, -3.6],
    ...coil(n, 4),
    [far - 0.6, -3.9],
    [far + 1.2, -7],
    [far + 4, -11.2],
    [far + 9, -14.2],
    [far + 16, -15.4],
  ];
}

/** Overs and unders of the end that makes the barrel, and of the strand it goes round, against the way the barrel was wound. */
export const barrelWeave = (n: number): string => `${'UO'.repeat(n)}UU${'OOUU'.repeat(n)}O`;
export const throughBarrel = (n: number): string => `O${'OU'.repeat(n)}`;
/** Which strands the end meets on its way, in order: itself (`a`) and the other strand (`b`). */
export const barrelMeets = (n: number): string => `${'aa'.repeat(n)}ba${'baab'.repeat(n)}a`;
