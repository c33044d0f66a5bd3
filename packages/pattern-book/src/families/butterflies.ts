/**
 * The butterfly and its false twin: loops in mid-rope, wrapped round the hand, drawn after the hand is taken out.
 */
import { halfCircle, type Figure, type Raised } from '@foxtrail/core';
import { layered } from '../lay.js';
import { END, type PatternSource } from '../pattern.js';

/** Heights above the palm: the back of the hand, a bight slid home beneath the turns, the turns, a turn lifted over another, a bight on top. */
const BACK = 0;
const NEXT_TO_THE_HAND = 0.2;
const BENEATH = 0.6;
const TURN = 1;
const LIFTED = 2;
const ON_TOP = 3;

const at = (height: number, ...points: (readonly [number, number])[]): Raised[] =>
  points.map(([x, y]) => [x, y, height]);

/** A turn's strand across the palm, from below to above, at x. */
const turn = (x: number): Raised[] => at(TURN, [x, 9], [x, 0], [x, -9]);

/** The strand across the back of the hand from the top of one turn to the bottom of the next, at x. */
const acrossTheBack = (x: number): Raised[] => at(BACK, [x, -9], [x, 0], [x, 9]);

/**
 * A turn taken as a bight: from the turn at x over to beyond `far`, back beneath to the eye on the other side, and the same way
 * home on the other side of itself.
 */
function bight(x: number, far: number, eyeAt: number): Raised[] {
  const way = Math.sign(far - x);
  const out: Raised[] = [
    ...at(TURN, [x, 10.5]),
    ...at(
      ON_TOP,
      [x + way * 0.5, 7.6],
      [x + way * 2, 6.7],
      [(x + far) / 2, 6.6],
      [far - way * 2, 6.6],
      [far + way * 0.3, 5.6],
    ),
    ...at(
      BENEATH,
      [far + way * 0.7, 3.8],
      [far - way * 0.6, 2.3],
      [far - way * 3, 1.9],
      [(x + far) / 2, 1.8],
      [x - way * 3, 1.8],
    ),
    ...at(BENEATH, [eyeAt + way * 6.4, 3.4], [eyeAt + way * 2, 3.4]),
  ];
  return [...out, [eyeAt, 0, BENEATH], ...out.map(([px, py, h]): Raised => [px, -py, h]).reverse()];
}

/** Half round from one place to another at one height, the rope's ends included. */
const round = (
  height: number,
  from: readonly [number, number],
  to: readonly [number, number],
  side: 1 | -1,
): Raised[] => at(height, from, ...halfCircle(from, to, side).map(([x, y]) => [x, y] as const), to);

const midRope = (points: readonly Raised[]): Figure =>
  layered([
    {
      points,
      ends: ['standing', 'standing'],
      // The apex of the bight: the one point on the x axis that lies beneath the turns.
      eyes: [points.findIndex(([, y, h]) => y === 0 && h === BENEATH)],
    },
  ]);

/**
 * First turn at the left, the second at the right, the third between them; the right one is taken over both and back beneath them.
 * On the back of the hand the strand to the third turn lies outside the one to the second: below it, seen from the palm.
 */
const leftRightMiddle = (): Figure =>
  midRope([
    ...at(TURN, [-3, 28], [-0.6, 19], [0, 13]),
    ...turn(0),
    ...round(BACK, [0, -11], [3, -11], 1),
    ...at(NEXT_TO_THE_HAND, [3, -9], [3, 0], [3.2, 7], [5, 9.6], [8, 10.6]),
    ...round(NEXT_TO_THE_HAND, [9.4, 12.4], [12, 12.4], -1),
    ...bight(12, -3.5, 28),
    ...round(BACK, [12, -11.8], [9, -11.8], -1),
    ...acrossTheBack(9),
    ...round(BACK, [9, 13.4], [6, 13.4], 1),
    ...turn(6),
    ...at(TURN, [6, -13], [6.6, -19], [9, -27]),
  ]);

/** Three turns side by side; the first is lifted over the second, then the second, now at the left, is taken over both and back. */
const oneOverThenTheNext = (): Figure =>
  midRope([
    ...at(TURN, [-3, 30], [-1, 22], [0, 18]),
    ...at(LIFTED, [3, 15], [6.5, 13], [9.4, 9], [9.6, 0], [9.4, -9], [6.5, -13], [3, -15]),
    ...at(BACK, [0.4, -15.4], [-0.4, -12.6], [1.4, -9.6], [2.6, 0], [2.8, 9], [3.6, 12.2], [5.4, 12.2]),
    ...bight(6, 18.5, -13),
    ...at(BACK, [6.4, -16], [9, -17.6], [11.4, -15], [12.6, -9], [12.6, 0], [12.6, 9], [13.4, 13], [15.2, 13]),
    ...turn(15.6),
    ...at(TURN, [15.6, -13], [16.4, -19], [19, -27]),
  ]);

/** Three turns side by side, and the middle one taken over its neighbour and back beneath: nothing crosses inside. */
const middleOut = (): Figure =>
  midRope([
    ...at(TURN, [-3, 28], [-0.6, 19], [0, 13]),
    ...turn(0),
    ...round(BACK, [0, -11], [3, -11], 1),
    ...acrossTheBack(3),
    ...round(BACK, [3, 11.8], [6, 11.8], -1),
    ...bight(6, 15.5, -15),
    ...round(BACK, [6, -11.8], [9, -11.8], 1),
    ...acrossTheBack(9),
    ...round(BACK, [9, 11.4], [12, 11.4], -1),
    ...turn(12),
    ...at(TURN, [12, -13], [12.6, -19], [15, -27]),
  ]);

export const BUTTERFLIES: readonly PatternSource[] = [
  {
    id: 'butterfly',
    name: 'Butterfly loop',
    aliases: ['lineman’s loop'],
    class: 'loop in mid-rope',
    family: 'Butterfly',
    useGrade: 'load-bearing',
    summary:
      'A fixed loop in mid-rope that takes a load on any of its three parts. One face shows a cross, the other two parallel strands.',
    cautions: ['Look for the cross: without it, it is the false butterfly.'],
    figure: leftRightMiddle,
    otherMethods: [{ name: 'one turn over, then the next', figure: oneOverThenTheNext }],
    halts: [
      [0, 5, 'Lay the rope up across the palm for the first turn.'],
      [0, 20, 'Round the back of the hand, to come up again well to the right of the first turn.'],
      [
        0,
        37,
        'Lead this turn as a bight to the left, over the first turn, and back beneath it to the right: it is the loop.',
      ],
      [
        0,
        END,
        'Round the back and up between the two, under the outer strands of the bight and over the inner ones. Draw all three parts.',
      ],
    ],
  },
  {
    id: 'false-butterfly',
    name: 'False butterfly',
    class: 'loop in mid-rope',
    family: 'Butterfly',
    summary: 'Three turns side by side with the middle one drawn out: it looks like the butterfly and has no cross.',
    cautions: ['It slips under load: never use it.'],
    figure: middleOut,
    halts: [
      [0, 5, 'Lay the rope up across the palm for the first turn.'],
      [0, 19, 'Lay the second turn right beside it: this is the slip of the hand.'],
      [0, 45, 'Lead it as a bight to the right, and back to the left beneath the first turn.'],
      [0, END, 'Lay the third turn beside them, under the outer strands of the bight and over the inner ones.'],
    ],
    wrongWayOf: { id: 'butterfly', tell: 'Neither face shows a cross.' },
  },
];
