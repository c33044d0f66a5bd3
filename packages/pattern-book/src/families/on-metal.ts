/**
 * Hitches on a carabiner or a ring: their parts hang down together from its bar.
 */
import type { Point } from '@foxtrail/core';
import { carabiner, ring, withTails, woven } from '../lay.js';
import { END, type PatternSource } from '../pattern.js';

/** From below in front of a bar along the x axis and round it, across beneath as a bight, and round it from behind to the front again. */
const BIGHT_ROUND: readonly Point[] = [
  [-1.5, 4.6],
  [-1.5, 0],
  [-1.9, -3.2],
  [-3, -4.2],
  [-4.1, -3.2],
  [-4.3, 0],
  [-4.1, 3.4],
  [-2.6, 5.2],
  [0, 5.6],
  [2.6, 5.2],
  [4.1, 3.4],
  [4.3, 0],
  [4.1, -3.2],
  [3, -4.2],
  [1.9, -3.2],
  [1.5, 0],
  [1.5, 4.6],
];

/** Two loops that hang from the bar the same way round, a bridge over both, and both parts down between them. */
const TWO_LOOPS: readonly Point[] = [
  [-1, 10.5],
  [-1, 6],
  [-0.98, 0],
  [-1.15, -1.89],
  [-1.48, -2.75],
  [-1.97, -3.1],
  [-2.46, -2.75],
  [-2.79, -1.89],
  [-2.87, 0],
  [-2.95, 1.89],
  [-3.2, 2.75],
  [-3.77, 3.18],
  [-4.35, 2.75],
  [-4.59, 1.89],
  [-4.67, 0],
  [-4.43, -2.75],
  [-2.95, -4.99],
  [0, -5.85],
  [2.95, -4.99],
  [4.43, -2.75],
  [4.67, 0],
  [4.43, 2.06],
  [3.94, 3.18],
  [3.03, 3.61],
  [2.13, 3.1],
  [1.64, 2.06],
  [1.23, 0],
  [1.31, -1.89],
  [1.64, -2.75],
  [2.13, -3.1],
  [2.62, -2.75],
  [2.95, -1.89],
  [3.03, 0],
  [3.1, 4.5],
  [3.5, 7],
  [4.4, 10],
];

const LOCKING = 'Use a locking carabiner, locked, and load it along its back, not across its gate.';

export const ON_METAL: readonly PatternSource[] = [
  {
    id: 'clove-hitch-carabiner',
    name: 'Clove hitch on a carabiner',
    aliases: ['two loops on a carabiner'],
    class: 'hitch',
    family: 'On a carabiner',
    useGrade: 'people depend on it',
    summary: 'Makes a rope fast to a carabiner at any place of it, and is let out or taken in without coming off.',
    cautions: [
      LOCKING,
      'Draw both parts tight: a loose one slides before it holds.',
      'The loaded part lies beside the back of the carabiner, away from its gate.',
    ],
    drawn: true,
    figure: () => withTails(woven([{ points: TWO_LOOPS, weave: 'OUOUOOUU' }], [carabiner(1, 1.5)])),
    halts: [
      [0, 9.5],
      [0, 21.5],
      [0, END],
    ],
  },
  {
    id: 'cow-hitch-ring',
    name: 'Cow hitch on a ring',
    aliases: ['lark’s head on a ring'],
    class: 'hitch',
    family: 'On a ring',
    summary: 'Hangs a tag, a lead or a block from a ring: both parts leave together under one bight.',
    cautions: ['It slides and works loose when one part alone is loaded; never for people.'],
    drawn: true,
    figure: () =>
      withTails(
        woven(
          [{ points: [[-1.5, 12], [-1.5, 8.5], ...BIGHT_ROUND, [1.7, 7.6], [2.4, 9.6], [3.6, 12]], weave: 'UOUOOUOU' }],
          [ring(6.3, 1.3)],
        ),
      ),
  },
  {
    id: 'munter-hitch',
    name: 'Munter hitch',
    aliases: ['crossing hitch', 'Italian hitch'],
    class: 'hitch',
    family: 'On a carabiner',
    useGrade: 'people depend on it',
    summary:
      'On a pear-shaped carabiner: a bight round the loaded part brakes the rope as it runs. It turns over when the load changes sides.',
    cautions: [
      'It brakes only while a hand holds the slack part; lock it off before you let go.',
      'Use a large pear-shaped locking carabiner, the slack part away from the gate.',
      'It twists the rope, and heats it where it runs fast.',
    ],
    drawn: true,
    figure: () =>
      woven(
        [
          {
            // The cow hitch’s path, its second part over the bight.
            points: [[-1.5, 12.4], [-1.5, 8.5], ...BIGHT_ROUND, [1.6, 8], [1.9, 10.4], [2, 12.4]],
            weave: 'UOUOUUOO',
            ends: ['standing', 'standing'],
          },
        ],
        [carabiner(0.9, 1.4)],
      ),
  },
];
