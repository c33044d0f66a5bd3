/**
 * The carrick bend: two loops laid over each other in a regular weave.
 */
import type { Point } from '@foxtrail/core';
import { turned, woven } from '../lay.js';
import type { PatternSource } from '../pattern.js';

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
];
