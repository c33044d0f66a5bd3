/**
 * From where a form is seen: its stations, and turns between them.
 */
import { dotOf, sum, times, type Vector } from './vector.js';

/** Directions in space that point right, down and toward the reader in a picture. */
export interface Sight {
  readonly right: Vector;
  readonly down: Vector;
  readonly near: Vector;
}

/** The stations of a form: as it was tied, from behind, its two sides, and end on. */
export const STATIONS = {
  front: { right: [1, 0, 0], down: [0, 1, 0], near: [0, 0, 1] },
  back: { right: [-1, 0, 0], down: [0, 1, 0], near: [0, 0, -1] },
  left: { right: [0, 0, 1], down: [0, 1, 0], near: [-1, 0, 0] },
  right: { right: [0, 0, -1], down: [0, 1, 0], near: [1, 0, 0] },
  end: { right: [1, 0, 0], down: [0, 0, 1], near: [0, -1, 0] },
} as const satisfies Record<string, Sight>;
export type Station = keyof typeof STATIONS;
export const STATION_NAMES = Object.keys(STATIONS) as Station[];

/** How far a form is turned from its front, in radians: about the board's upright axis, then toward the reader. */
export interface Turning {
  readonly yaw: number;
  readonly pitch: number;
}

/** The turns that lead to the stations. */
export const STATION_TURNS: Readonly<Record<Station, Turning>> = {
  front: { yaw: 0, pitch: 0 },
  back: { yaw: Math.PI, pitch: 0 },
  left: { yaw: -Math.PI / 2, pitch: 0 },
  right: { yaw: Math.PI / 2, pitch: 0 },
  end: { yaw: 0, pitch: Math.PI / 2 },
};

/** Where a place in space is seen: across and down the picture, and how near to the reader. */
export const seenBy = (
  { right, down, near }: Sight,
  place: Vector,
): readonly [across: number, down: number, near: number] => [
  dotOf(place, right),
  dotOf(place, down),
  dotOf(place, near),
];

/** A way in space that is seen as one across and down a picture. */
export const acrossSight = ({ right, down }: Sight, across: number, downward: number): Vector =>
  sum(times(right, across), times(down, downward));

/** What a form looks like after a turn. */
export function sightOf({ yaw, pitch }: Turning): Sight {
  const [c, s, d, t] = [Math.cos(yaw), Math.sin(yaw), Math.cos(pitch), Math.sin(pitch)];
  return { right: [c, 0, -s], down: [s * t, d, c * t], near: [s * d, -t, c * d] };
}
