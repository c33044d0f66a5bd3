/**
 * A sling round a strand: its bight goes n times round, and the other one through it. Coordinates are rope diameters, the strand along
 * the y axis; both legs leave to the right. Once round it is a cow hitch of a sling; more often round it grips.
 */
/** A control point with its height above the board: the higher strand is over. */
export type Raised = readonly [x: number, y: number, height: number];

const FRONT = 1;
const BEHIND = -1;
/** The legs lie under the bridge, over nothing. */
const LEGS = -0.4;
/** Along the strand, from turn to turn. */
const TURN = 3.1;
/** Half of how wide the turns are about a strand as thick as the rope. */
const WIDE = 1.8;

/** Control points of the sling, closed, from where it is loaded: `broader` by so much is what it goes round, in diameters. */
export function slingRound(turns: number, broader = 0): Raised[] {
  const coil: Raised[] = [
    [8, -1.3, LEGS],
    [6, -1.2, LEGS],
    [3.2, -1.1, 0.2],
    ...Array.from({ length: turns }, (_, k): Raised[] => {
      const y = -1.2 - TURN * k;
      return [
        [0, y - 0.4, FRONT],
        [-WIDE, y - 1.1, 0],
        [0, y - 2.1, BEHIND],
        ...(k < turns - 1 ? [[WIDE, y - 2.4, 0] as const] : []),
      ];
    }).flat(),
  ];
  const top = -3.3 - TURN * (turns - 1);
  const bridge: Raised[] = [
    [2.6, top - 0.5, 0.4],
    [4.6, top + 0.7, FRONT],
    [5.2, top / 2, FRONT],
    [5.3, 0, FRONT],
  ];
  const below = (list: readonly Raised[]): Raised[] => list.map(([x, y, h]): Raised => [x, -y, h]).reverse();
  const points: Raised[] = [
    [13, 0, LEGS],
    [12.2, -1.5, LEGS],
    [10.2, -1.7, LEGS],
    ...coil,
    ...bridge,
    ...below(bridge.slice(0, -1)),
    ...below(coil),
    [10.2, 1.7, LEGS],
    [12.2, 1.5, LEGS],
  ];
  return points.map(([x, y, h]): Raised => [x + (Math.sign(x) * broader) / 2, y, h]);
}
