/**
 * The butterfly and its false twin: loops in mid-rope, wrapped round the hand, drawn after the hand is taken out.
 */
import type { Figure } from '@foxtrail/core';
import { layered, type Raised } from '../lay.js';
import type { PatternSource } from '../pattern.js';

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
    ...at(TURN, [x, 10]),
    ...at(ON_TOP, [x + way * 1.2, 6.4], [(x + far) / 2, 6], [far - way * 2, 5.6], [far + way * 0.6, 4.6]),
    ...at(BENEATH, [far + way * 0.4, 2.6], [far - way * 3, 1.9], [(x + far) / 2, 1.8], [x - way * 3, 1.8]),
    ...at(BENEATH, [eyeAt + way * 6.4, 3.4], [eyeAt + way * 2, 3.4]),
  ];
  return [...out, [eyeAt, 0, BENEATH], ...out.map(([px, py, h]): Raised => [px, -py, h]).reverse()];
}

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
    ...at(BACK, [0.6, -12.6], [2.4, -12.4]),
    ...at(NEXT_TO_THE_HAND, [3, -9], [3, 0], [3.2, 7], [5, 9.6], [8.6, 10.8], [10.4, 13.2], [11.7, 13.2]),
    ...bight(12, -3.5, 28),
    ...at(BACK, [11.4, -13], [9.6, -13]),
    ...acrossTheBack(9),
    ...at(BACK, [8.9, 13], [7.5, 15.8], [6.1, 13]),
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
    ...at(BACK, [0.6, -12.6], [2.4, -12.4]),
    ...acrossTheBack(3),
    ...at(BACK, [3.6, 12.4], [5.4, 12.6]),
    ...bight(6, 15.5, -15),
    ...at(BACK, [6.6, -12.6], [8.4, -12.4]),
    ...acrossTheBack(9),
    ...at(BACK, [9.6, 12.4], [11.4, 12.6]),
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
      [0, 15, 'Round the back of the hand and up again, well to the right of the first turn.'],
      [
        0,
        37,
        'Lead this turn as a bight to the left, over the first turn, and back beneath it to the right: it is the loop.',
      ],
      [
        0,
        51,
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
      [0, 14, 'Lay the second turn right beside it: this is the slip of the hand.'],
      [0, 36, 'Lead it as a bight to the right, and back to the left beneath the first turn.'],
      [0, 48, 'Lay the third turn beside them, under the outer strands of the bight and over the inner ones.'],
    ],
    wrongWayOf: { id: 'butterfly', tell: 'Neither face shows a cross.' },
  },
];
