/**
 * The reef family: two bights through each other. Reef and thief, granny and grief differ in one hand of the crossings and in which ends are loaded.
 */
import type { Figure, Point } from '@foxtrail/core';
import { reversed, ropesOf, woven, type Laid } from '../lay.js';
import type { PatternSource } from '../pattern.js';

const BIGHT: readonly Point[] = [
  [-19, 4.6],
  [-11, 3.4],
  [-4.95, 3.25],
  [0.47, 3.43],
  [5.23, 2.58],
  [7.08, 0],
  [5.23, -2.58],
  [0.47, -3.4],
  [-4.95, -3.23],
  [-11, -3.8],
  [-19, -6],
];

const WORKED: readonly Point[] = [
  [19, 3.6],
  [12, 1.6],
  [7.4, 0.97],
  [4.2, 1.42],
  [2.23, 3.08],
  [0.2, 5.14],
  [-2.42, 5.88],
  [-4.88, 4.02],
  [-5.88, 0],
  [-4.88, -4.02],
  [-2.42, -5.88],
  [0.2, -5.14],
  [2.23, -3.08],
  [4.2, -1.38],
  [7.44, -0.98],
  [12, -2],
  [19, -5.4],
];

/** The two bights with the dark rope’s passages as given; the pale rope has the contrary ones. */
function bights(dark: string, exchange: boolean): Figure {
  // Along its bight the pale rope meets the dark one's passages two by two from the left, then back.
  const pale = [2, 1, 0, 5, 4, 3].map((i) => (dark[i] === 'O' ? 'U' : 'O')).join('');
  const a: Laid = { points: BIGHT, weave: pale };
  const b: Laid = { points: WORKED, weave: dark, ends: ['standing', 'tail'] };
  const turnedRound = { ...reversed(b), ends: ['standing', 'tail'] } as const;
  return { ropes: ropesOf([a, exchange ? turnedRound : b]), hosts: [] };
}

const REEF = 'UOUUOU';
const GRANNY = 'UOUOUO';

/** The pale rope where the dark one is slipped: its bight lies over a bight. */
const SLIPPED_BIGHT: readonly Point[] = [
  [-8.07, 3.81],
  [-4.39, 3.14],
  [-1.96, 2.6],
  [0.32, 1.65],
  [3.64, 3.18],
  [4.66, 2.59],
  [5.13, 0.2],
  [4.5, -2.21],
  [4.5, -3.45],
  [3.97, -4.54],
  [2.79, -4.59],
  [1.34, -2.62],
  [0.9, -1.46],
  [0.04, -0.59],
  [-2.37, -0.91],
  [-5.93, -2.07],
  [-7.36, -2.5],
  [-13, -4.2],
  [-19, -6],
];

/** The dark rope of a reef, drawn through as a bight. */
const SLIPPED: readonly Point[] = [
  [11.98, 2.85],
  [8.3, 2.15],
  [4.64, 1.39],
  [3.42, 1.27],
  [0.56, 3.6],
  [-0.55, 3.24],
  [-1.73, 1.08],
  [-1.5, -1.37],
  [-0.66, -2.24],
  [2.98, -1.6],
  [5.4, -1.71],
  [6.02, -2.68],
  [5.04, -3.4],
  [2.62, -3.94],
  [-0.86, -5.32],
  [-3.5, -6.07],
  [-9, -7.6],
  [-15, -9.4],
];

/** The dark rope of a half knot: as in the reef below, and over or under the upper leg once. */
const HALF: readonly Point[] = [
  [19, 3.6],
  [12, 1.6],
  [7.4, 0.97],
  [4.2, 1.42],
  [2.23, 3.08],
  [0.2, 5.14],
  [-2.42, 5.88],
  [-4.88, 4.02],
  [-5.88, 0],
  [-4.88, -4.02],
  [-2, -6.6],
  [3, -7],
  [8.4, -5.6],
  [13, -5.4],
  [19, -7.4],
];

const caution = [
  'Never join ropes with it where a person depends on it: it spills when one end is jerked.',
  'As a binding it wants both ropes dry and of one thickness.',
];

export const REEFS: readonly PatternSource[] = [
  {
    id: 'half-knot',
    name: 'Half knot',
    aliases: ['first half of a reef'],
    class: 'binding',
    family: 'Reef',
    summary:
      'The two ends twisted once round each other: the first half of the reef, and what is left when one half of it is wrong.',
    cautions: ['It holds only while it is drawn against something.'],
    figure: () =>
      woven([
        { points: BIGHT, weave: '' },
        { points: HALF, weave: 'UOUU' },
      ]),
    wrongWayOf: { id: 'reef', tell: 'Only one of its two halves holds.' },
  },
  {
    id: 'reef',
    name: 'Reef knot',
    aliases: ['square knot'],
    class: 'binding',
    family: 'Reef',
    summary: 'Ties the two ends of a binding together: it lies flat, and each end leaves beside its own standing part.',
    cautions: caution,
    figure: () => bights(REEF, false),
  },
  {
    id: 'slipped-reef',
    name: 'Slipped reef knot',
    aliases: ['half bow', 'draw knot'],
    class: 'binding',
    family: 'Reef',
    summary: 'A reef whose one end goes through as a bight: a pull at its tail undoes it.',
    cautions: [
      'It comes undone by a snag at its tail: for what nobody depends on.',
      'As a binding it wants both ropes dry and of one thickness.',
    ],
    figure: () =>
      woven([
        { points: SLIPPED_BIGHT, weave: 'OUOOOUUO' },
        { points: SLIPPED, weave: 'UOUUOUUO' },
      ]),
    slip: { rope: 1, from: 7.57, to: 14.25 },
  },
  {
    id: 'granny',
    name: 'Granny knot',
    class: 'binding',
    family: 'Reef',
    summary: 'Looks like the reef but neither lies flat nor holds: its ends leave across the standing parts.',
    cautions: ['It slips or jams, and nobody can say which.'],
    figure: () => bights(GRANNY, false),
    texts: { 3: 'Take it under the near leg and over the far one: this is the slip of the hand.' },
    wrongWayOf: { id: 'reef', tell: 'Its ends leave across the standing parts instead of beside them.' },
  },
  {
    id: 'thief',
    name: 'Thief knot',
    aliases: ['bread bag knot'],
    class: 'binding',
    family: 'Reef',
    summary: 'The reef with other ends: its two tails leave on opposite sides. It shows whether a bag was opened.',
    cautions: ['It slips under load.'],
    figure: () => bights(REEF, true),
    wrongWayOf: { id: 'reef', tell: 'Its tails leave on opposite sides.' },
  },
  {
    id: 'grief',
    name: 'Grief knot',
    aliases: ['what knot'],
    class: 'binding',
    family: 'Reef',
    summary: 'Granny and thief in one: it holds or slides apart as its ends are turned.',
    cautions: ['It comes apart in the hand: only to show what a wrong crossing does.'],
    figure: () => bights(GRANNY, true),
    wrongWayOf: { id: 'reef', tell: 'Its tails leave on opposite sides, and across the standing parts.' },
  },
];
