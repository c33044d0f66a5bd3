/**
 * Bends of two loops: the carrick bend in its regular weave, two overhands through each other; and the overhand tied in both ropes at once.
 */
import type { Figure, Point, Raised, Rope } from '@foxtrail/core';
import { beside, layered, ropeLength, ropesOf, turned, withTails, woven, wovenLike } from '../lay.js';
import { END, type PatternSource } from '../pattern.js';

/** A rope that crosses itself once, its loop reaching over the other's. */
const LOOP: readonly Point[] = [
  [-24, -9],
  [-16, -7.4],
  [-10.4, -4.6],
  [-6.4, -1.6],
  [-2.6, 2.6],
  [1.6, 5.6],
  [6.4, 5],
  [9, 0],
  [6.4, -5],
  [1.6, -5.6],
  [-2.6, -2.6],
  [-6.4, 1.6],
  [-10.4, 4.6],
  [-16, 7.4],
  [-24, 9],
];

/** An overhand whose loop reaches over the middle, its tail up through what both loops have in common. */
const REACHING: readonly Raised[] = [
  [-24, 8.6, 0],
  [-18, 8, 0],
  [-12, 7.2, 0],
  [-6, 7.4, 0],
  [0, 6.6, 0],
  [5.4, 2.6, 0],
  [6, -2.4, 0.4],
  [2.6, -6.6, 1],
  [-3, -8, 1],
  [-9, -6.6, 1],
  [-11.6, -1.6, 1.4],
  [-11, 4, 1.8],
  [-9, 9.6, 2],
  [-5.6, 12.4, 1],
  [-2, 11.4, -2],
  [-0.9, 6, -2],
  [-0.9, 0, 0],
  [-0.9, -6, 2.6],
  [-0.9, -13, 2.6],
  [-0.9, -21, 2.6],
];

/** Two such overhands through each other: of one hand, when the second is the first turned by half a turn; else mirrored. */
function interlocked(hands: 'same' | 'mirror'): Figure {
  const other = REACHING.map(([x, y, h]): Raised => [-x, hands === 'same' ? -y : y, h]);
  return layered([{ points: REACHING }, { points: other }]);
}

/** An overhand, up from below and out to the left, wide enough for two strands. */
const UPRIGHT_OVERHAND: readonly Raised[] = [
  [0, 16, 0],
  [0, 11, 0],
  [0, 5, 0],
  [-0.2, -2.6, 0],
  [-3.2, -8, 0.5],
  [-9, -8.6, 1],
  [-12.6, -3.4, 1],
  [-10.4, 3, 1],
  [-4, 5.4, 1],
  [3.6, 4.6, 0],
  [8.4, 0.4, -1],
  [7.6, -4.4, -1],
  [3, -5.6, -1],
  [-3, -4, 0],
  [-8.6, -1, 2],
  [-14, 2.2, 2],
  [-19, 5, 2],
];

/** How much nearer to each other than they are laid its strands are drawn. */
const NEAR = 0.77;
const near = (points: readonly Point[]): Point[] => points.map(([x, y]) => [NEAR * x, NEAR * y]);

/** Both ropes in at one side of an overhand and out at the other, side by side all the way; below it they part. */
function offset(): Figure {
  const single = layered([{ points: UPRIGHT_OVERHAND }]);
  const [rope] = single.ropes as [Rope];
  const apart: readonly Point[] = [
    [-14, 21],
    [-8.4, 19],
    [-3, 15.6],
  ];
  const ropes = [1.1, -1.1].map((aside, i) => ({
    points: near([
      ...apart.map(([x, y]): Point => [i === 0 ? x : -x, y]),
      ...beside(rope, 4, ropeLength(rope), { aside, backwards: false }),
    ]),
    weave: '',
  }));
  return withTails(wovenLike({ ...single, ropes: [{ ...rope, points: near(rope.points) }] }, ropesOf(ropes), []));
}

export const BENDS: readonly PatternSource[] = [
  {
    id: 'offset-overhand-bend',
    name: 'Offset overhand bend',
    aliases: ['overhand in both ropes'],
    class: 'bend',
    family: 'Overhand',
    summary: 'Joins two ropes of one kind: one overhand tied in both at once, both tails on one side of the line.',
    cautions: [
      'The least liked of the bends: under a hard pull it rolls towards its tails.',
      'Leave long tails, lay both strands side by side, and pull each of the four parts tight.',
    ],
    figure: offset,
    drawn: true,
    halts: [
      [0, END],
      [
        1,
        END,
        'Lay the dark rope beside it all the way, in at the same side and out beside its tail: in the hand both are tied at once, as one overhand.',
      ],
    ],
  },
  {
    id: 'carrick-bend',
    name: 'Carrick bend',
    aliases: ['full carrick bend'],
    class: 'bend',
    family: 'Carrick',
    useGrade: 'load-bearing',
    summary: 'Joins two heavy ropes: a regular weave, over and under in turn, the ends at opposite corners.',
    cautions: ['Seize the tails where it must not change its form under load.'],
    figure: () =>
      woven([
        { points: LOOP, weave: 'OUOUOUOU' },
        { points: turned(LOOP, 2), weave: 'OUOUOUOU' },
      ]),
  },
  ...(['same', 'mirror'] as const).map((hands): PatternSource => {
    const isSame = hands === 'same';
    return {
      id: isSame ? 'interlocked-overhands' : 'interlocked-overhands-mirrored',
      name: isSame ? 'Interlocked overhands' : 'Interlocked overhands, mirrored',
      class: 'bend',
      family: 'Interlocked overhands',
      useGrade: 'light duty',
      summary: isSame
        ? 'Joins two ropes: an overhand of one hand in each, one through the other, both tails through what their loops have in common.'
        : 'Joins two ropes: two overhands through each other, one the mirror image of the other. Another bend than that of one hand.',
      cautions: ['Bends of this kind look alike: compare the hands of both overhands before you trust one.'],
      figure: () => interlocked(hands),
      halts: [
        [0, 13],
        [1, 13],
        [0, END],
        [1, END],
      ],
    };
  }),
];
