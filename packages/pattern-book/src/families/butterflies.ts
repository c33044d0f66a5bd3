/**
 * The butterfly and its false twin: loops in mid-rope, wrapped round the hand, drawn after the hand is taken out.
 */
import { halfCircle, type Figure, type Raised } from '@foxtrail/core';
import { layered } from '../lay.js';
import { END, type PatternSource } from '../pattern.js';
import { TWISTED } from './other-ways.js';

/** Heights above the palm: the back of the hand, a bight slid home beneath the turns, the turns, a turn lifted over another, a bight on top. */
const BACK = 0;
const NEXT_TO_THE_HAND = 0.2;
const BENEATH = 0.6;
const TURN = 1;
const LIFTED = 2;
const ON_TOP = 3;

const at = (height: number, ...points: (readonly [number, number])[]): Raised[] =>
  points.map(([x, y]) => [x, y, height]);

/**
 * A turn taken as a bight: from the turn at x over to beyond `far`, back beneath to the eye on the other side, and the same way
 * home on the other side of itself.
 */
function bight(x: number, far: number, eyeAt: number): Raised[] {
  const way = Math.sign(far - x);
  const out: Raised[] = [
    [x, 5.3, TURN],
    ...at(
      ON_TOP,
      [x + way * 0.9, 3.9],
      [x + way * 1.9, 3.5],
      [(x + far) / 2, 3.45],
      [far - way * 0.4, 3.4],
      [far + way * 1.1, 3],
    ),
    [far + way * 1.5, 2.2, TURN],
    ...at(
      BENEATH,
      [far + way, 1.5],
      [far - way * 0.4, 1.15],
      [(x + far) / 2, 1.1],
      [x - way, 1.1],
      [x - way * 3.4, 1.5],
      [eyeAt + way * 2.2, 2],
      [eyeAt + way * 0.6, 1.5],
    ),
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

/** Half round from one place to another at one height, the rope's ends included. */
const round = (
  height: number,
  from: readonly [number, number],
  to: readonly [number, number],
  side: 1 | -1,
): Raised[] => at(height, from, ...halfCircle(from, to, side).map(([x, y]) => [x, y] as const), to);

/** Up across the palm from below, for the first turn. */
const FIRST = at(TURN, [-1.8, 11.5], [-0.4, 8.6], [0, 5.4], [0, 0], [0, -5]);

/**
 * First turn at the left, the second at the right, the third between them; the right one is taken over both and back beneath them.
 * On the back of the hand the strand to the third turn lies outside the one to the second: below it, seen from the palm.
 */
const leftRightMiddle = (): Figure =>
  midRope([
    ...FIRST,
    ...round(NEXT_TO_THE_HAND, [0, -6.2], [2.3, -6.2], 1),
    ...at(NEXT_TO_THE_HAND, [2.3, -4], [2.3, 0], [2.4, 4], [3.2, 5.8], [4.8, 6.4], [6.4, 6.6], [8, 6.6], [8.6, 6]),
    ...bight(8.7, -0.2, 16.5),
    ...round(BACK, [8.7, -6.2], [6.4, -6.2], -1),
    ...at(BACK, [6.4, -4], [6.4, 0], [6.4, 6.4]),
    ...round(BACK, [6.4, 7.6], [4.1, 7.6], 1),
    ...at(TURN, [4.2, 6.2], [4.3, 0], [4.3, -6], [4.7, -8.8], [6, -11.5]),
  ]);

/** Three turns side by side; the first is lifted over the second, then the second, now at the left, is taken over both and back. */
const oneOverThenTheNext = (): Figure =>
  midRope([
    ...at(TURN, [-1.6, 13], [-0.6, 11], [0.6, 9.8]),
    ...at(LIFTED, [2.6, 8.9], [5, 7.6], [6.3, 5.2], [6.5, 0], [6.3, -4.8], [4.4, -6.3], [1.6, -7]),
    ...at(BACK, [-0.6, -7.2], [-1.7, -5.9], [-1.2, -4], [0.6, 0], [1.7, 3.4]),
    ...round(BACK, [2, 5.9], [4.2, 5.9], -1),
    ...bight(4.2, 11.2, -7.5),
    ...round(BACK, [4.2, -7], [8.5, -6.2], 1),
    ...at(BACK, [8.5, -4.4], [8.5, 0], [8.5, 4.6]),
    ...round(BACK, [8.5, 6], [10.8, 6], -1),
    ...at(TURN, [10.8, 4.6], [10.8, 0], [10.8, -6], [11.2, -8.8], [12.4, -11.5]),
  ]);

/** Three turns side by side, and the middle one taken over its neighbour and back beneath: nothing crosses inside. */
const middleOut = (): Figure =>
  midRope([
    ...FIRST,
    ...round(BACK, [0, -6.2], [2.3, -6.2], 1),
    ...at(BACK, [2.3, -4], [2.3, 0], [2.3, 4.6]),
    ...round(BACK, [2.3, 6.1], [4.6, 6.1], -1),
    ...bight(4.6, 9.2, -9),
    ...round(BACK, [4.6, -6.2], [6.9, -6.2], 1),
    ...at(BACK, [6.9, -4], [6.9, 0], [6.9, 4.6]),
    ...round(BACK, [6.9, 6.1], [9.2, 6.1], -1),
    ...at(TURN, [9.2, 4.6], [9.2, 0], [9.2, -6], [9.6, -8.8], [10.9, -11.5]),
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
    drawn: true,
    wayName: 'Round the hand',
    otherWays: [
      {
        name: 'Turn over turn',
        figure: oneOverThenTheNext,
        halts: [
          [0, 9.5, 'Lay the first turn: it is lifted over the second, to lie at its right.'],
          [0, 17, 'Lay the second turn at the left, under the first.'],
          [
            0,
            48,
            'Lead this turn as a bight to the right, over the others, and back beneath to the left: it is the loop.',
          ],
          [0, END, 'Lay the third turn at the right, under the outer strands of the bight and over the inner ones.'],
        ],
      },
      TWISTED,
    ],
    halts: [
      [0, 4, 'Lay the rope up across the palm for the first turn.'],
      [0, 18, 'Round the back of the hand, to come up again well to the right of the first turn.'],
      [
        0,
        35,
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
    drawn: true,
    halts: [
      [0, 4, 'Lay the rope up across the palm for the first turn.'],
      [0, 18, 'Lay the second turn right beside it: this is the slip of the hand.'],
      [0, 48, 'Lead it as a bight to the right, and back to the left beneath the first turn.'],
      [0, END, 'Lay the third turn beside them, under the outer strands of the bight and over the inner ones.'],
    ],
    wrongWayOf: { id: 'butterfly', tell: 'Neither face shows a cross.' },
  },
];
