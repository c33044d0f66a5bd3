/**
 * A sling round a strand: its bight goes n times round, and the other one through it. Coordinates are rope diameters, the strand along
 * the y axis; both legs leave to the right. Once round it is a cow hitch of a sling; more often round it grips.
 */
import { halfCircle } from './barrel.js';
import type { Point } from './point.js';

/** A control point with its height above the board: the higher strand is over. */
export type Raised = readonly [x: number, y: number, height: number];

const FRONT = 1;
const BEHIND = -1;
/** The legs lie under the bridge, over nothing. */
const LEGS = -0.4;
/** Along the strand, from turn to turn. */
const TURN = 5.8;
/** Half of how wide the turns are about a strand as thick as the rope. */
const WIDE = 3.2;

/** A half turn beside the strand, from its front to its back or the other way. */
const bend = (from: Point, to: Point, side: 1 | -1, height: number): Raised[] => [
  [from[0], from[1], height * 0.6],
  ...halfCircle(from, to, side).map(([x, y], i): Raised => [x, y, height * ([0.3, 0, -0.3][i] as number)]),
  [to[0], to[1], -height * 0.6],
];

/** Control points of the sling, closed, from where it is loaded: `broader` by so much is what it goes round, in diameters. */
export function slingRound(turns: number, broader = 0): Raised[] {
  const coil: Raised[] = [
    [15, -2.2, LEGS],
    [9, -2, LEGS],
    [4.4, -2, FRONT],
    ...Array.from({ length: turns }, (_, k): Raised[] => [
      [0, -2.6 - TURN * k, FRONT],
      ...bend([-WIDE, -2.7 - TURN * k], [-WIDE, -5.5 - TURN * k], 1, FRONT),
      [0, -5.6 - TURN * k, BEHIND],
      ...(k < turns - 1 ? bend([WIDE, -5.7 - TURN * k], [WIDE, -8.4 - TURN * k], -1, BEHIND) : []),
    ]).flat(),
  ];
  const top = -5.7 - TURN * (turns - 1);
  const bridge: Raised[] = [
    [7, top - 0.6, FRONT],
    [9.2, top + 1.6, FRONT],
    [9.6, top / 2, FRONT],
    [9.6, 0, FRONT],
  ];
  const below = (list: readonly Raised[]): Raised[] => list.map(([x, y, h]): Raised => [x, -y, h]).reverse();
  const points: Raised[] = [
    [25, 0, LEGS],
    [22.4, -3.4, LEGS],
    ...coil,
    ...bridge,
    ...below(bridge.slice(0, -1)),
    ...below(coil),
    [22.4, 3.4, LEGS],
  ];
  return points.map(([x, y, h]): Raised => [x + (Math.sign(x) * broader) / 2, y, h]);
}
