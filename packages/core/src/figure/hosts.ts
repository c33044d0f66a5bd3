/**
 * Hosts as they are laid on the board: what the rope is tied to. Each is a curve that the rope passes over or under; sizes are in
 * rope diameters.
 */
import type { Host, HostKind } from './figure.js';
import { add, type Point } from './point.js';

/** How far a host that runs off the board goes from its middle, in diameters. */
const FAR = 60;

const circle = (radius: number, n: number): Point[] =>
  Array.from({ length: n }, (_, i): Point => [
    radius * Math.cos((2 * Math.PI * i) / n),
    radius * Math.sin((2 * Math.PI * i) / n),
  ]);

/** Points about the middle, and the thickness a hand would choose. */
const SHAPES: Readonly<Record<HostKind, { readonly points: readonly Point[]; readonly size: number }>> = {
  spar: {
    points: [
      [-FAR, 0],
      [FAR, 0],
    ],
    size: 2.4,
  },
  // Seen from the end: in from outside beneath everything as far as its middle, and out over everything.
  post: {
    points: [
      [0, -FAR],
      [0, 0],
      [0, FAR],
    ],
    size: 4,
  },
  ring: { points: circle(4.5, 8), size: 1.2 },
  // The gate is the straight side at the right, between its second and its third point.
  carabiner: {
    points: [
      [-2.6, -7],
      [2.2, -6.4],
      [3.6, -3.6],
      [3.6, 3.6],
      [2.2, 6.4],
      [-2.6, 7],
      [-4.4, 4],
      [-4.6, -4],
    ],
    size: 1.2,
  },
  hook: {
    points: [
      [0, -FAR],
      [0, -20],
      [0, -6],
      [0, 1],
      [1.4, 5],
      [5, 6.4],
      [8, 4],
      [8.4, 0],
    ],
    size: 1.6,
  },
  hand: {
    points: [
      [-FAR, 0],
      [14, 0],
    ],
    size: 7,
  },
};

/** Places on a carabiner between which its gate is. */
export const GATE: readonly [number, number] = [2, 3];

/** A host of a kind about a place on the board. */
export function hostAt(kind: HostKind, id: string, middle: Point): Host {
  const { points, size } = SHAPES[kind];
  return { id, kind, points: points.map((p) => add(p, middle)), size };
}

/** Bounds on a host's thickness, in rope diameters: the figure file's own. */
export const HOST_SIZES = { least: 0.5, most: 40 } as const;

/** The place where a post stands: it is seen from the end. */
export const postMiddle = (host: Host): Point => host.points[Math.floor(host.points.length / 2)] as Point;

/** Whether a rope is over a post at a place on it: as far as its middle the post is beneath everything, then over everything. */
export const overPost = (host: Host, at: number): boolean => at < Math.floor(host.points.length / 2);
