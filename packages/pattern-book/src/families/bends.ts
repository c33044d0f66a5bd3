/**
 * Bends of two loops: the carrick bend in its regular weave, and two overhands through each other.
 */
import type { Figure, Point, Raised } from '@foxtrail/core';
import { layered, turned, woven } from '../lay.js';
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

export const BENDS: readonly PatternSource[] = [
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
