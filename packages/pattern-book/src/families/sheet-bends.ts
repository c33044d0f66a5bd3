/**
 * The sheet bends: a nipping turn of the one rope round a bight of the other.
 */
import type { Figure, Point, Raised } from '@foxtrail/core';
import { layered, withTails, woven, type Laid } from '../lay.js';
import type { PatternSource } from '../pattern.js';
import { AS_A_BOWLINE } from './other-ways.js';

/** The bight of a sheet bend: in from the left below, round its nose at the right, and back above; its tail lies above. */
const BIGHT: readonly Point[] = [
  [-24, 5],
  [-15, 3.6],
  [-7, 3],
  [0, 3],
  [6, 2.6],
  [8.4, 0],
  [6, -2.6],
  [0, -3],
  [-7, -3],
  [-14, -3.4],
  [-24, -5.4],
];

/** The dark rope of a sheet bend: up through the bight, round behind it, and under its own part. */
const BENT: Laid = {
  points: [
    [24, 2.6],
    [15, 1.4],
    [8, 0.8],
    [3.4, 0.2],
    [-0.8, -2.4],
    [-3.6, -6],
    [-7, -7],
    [-9, -4],
    [-9.2, 0],
    [-8.8, 4],
    [-6.4, 7],
    [-3, 6],
    [-0.4, 3],
    [2.6, 0.2],
    [5, -3.2],
    [6.6, -7.4],
    [9.4, -11],
    [15, -13],
  ],
  weave: 'UOOUUOUO',
};
/** The same with two turns, the second outside of the first. */
const BENT_TWICE: Laid = {
  points: [
    [26, 2.6],
    [17, 1.6],
    [10, 0.9],
    [4, -0.1],
    [-0.6, -3],
    [-3.4, -5.6],
    [-6, -6],
    [-7.6, -3.4],
    [-7.8, 0],
    [-7.4, 3.4],
    [-5.6, 5.8],
    [-2.6, 5],
    [-0.6, 2.6],
    [1, -0.4],
    [1.6, -3.4],
    [1, -6.6],
    [-2, -9],
    [-7.4, -9.2],
    [-10.6, -6],
    [-11, 0],
    [-10.2, 6],
    [-6, 9.2],
    [-0.4, 8.4],
    [3, 4.6],
    [5, 0.6],
    [6, -3.4],
    [7.6, -8],
    [11, -12.4],
    [20, -15.8],
  ],
  weave: 'UOOOUUOUOUUOUO',
};

const bentToBight = (worked: Laid): Figure => woven([{ points: BIGHT, weave: '' }, worked]);

/** How much nearer than they are laid the strands of a bend are drawn. */
const NEAR = 0.62;
const near = (points: readonly Raised[]): Raised[] => points.map(([x, y, h]) => [x * NEAR, y * NEAR, h]);

const LONG_BIGHT: readonly Raised[] = [
  [-24, 4.6, 0],
  [-15, 3.4, 0],
  [-7, 3, 0],
  [0, 3, 0],
  [6, 3.4, 0],
  [10.4, 3, 0],
  [12.8, 0, 0],
  [10.4, -3, 0],
  [6, -3.4, 0],
  [0, -3, 0],
  [-7, -3, 0],
  [-15, -3.4, 0],
  [-22, -4.6, 0],
];
/** Three turns round it, each outside of the one before and under its own part. */
const BENT_THRICE: readonly Raised[] = [
  [24, 1.6, -1],
  [17, 1.2, -1],
  [12, 0.9, -1],
  [8, 0.5, 2],
  [4, -0.1, 2.4],
  [-0.6, -2.6, 2.4],
  [-3.4, -5.6, 0],
  [-6, -6, 0],
  [-7.6, -3.4, -1],
  [-7.8, 0, -1],
  [-7.4, 3.4, -1],
  [-5.6, 5.8, 0],
  [-2.8, 5.2, 1],
  [-0.6, 2.8, 1],
  [1, -0.4, 1],
  [1.8, -3.4, 1],
  [0.8, -7, 0],
  [-2.6, -9, 0],
  [-7.4, -9, 0],
  [-10.6, -6, -1],
  [-10.9, 0, -1],
  [-10.4, 6, -1],
  [-7, 8.8, 0],
  [-1, 8, 1],
  [2.8, 4.2, 1],
  [4.6, 0.4, 1],
  [5.4, -3.4, 1],
  [4.8, -8.4, 0],
  [0.6, -12, 0],
  [-7.4, -12.2, 0],
  [-12.6, -9, -1],
  [-14.1, 0, -1],
  [-13.2, 8, -1],
  [-8.4, 12, 0],
  [0, 11.2, 1],
  [5.6, 6, 1],
  [8, 1, 1],
  [9, -3, 1],
  [10.2, -8, 1],
  [13, -12, 1],
  [18, -14.6, 1],
];

/** The bight of a slipped sheet bend. */
const SLIPPED_BEND_BIGHT: readonly Point[] = [
  [-12.84, 3.58],
  [-8.03, 2.76],
  [-4.98, 1.68],
  [-3.8, 0.6],
  [-2.24, 0.52],
  [-1.13, 1.68],
  [3.02, 4.15],
  [4.59, 4.54],
  [6.93, 2.52],
  [6.9, -0.61],
  [5.84, -1.82],
  [4.39, -2.54],
  [3.42, -3.41],
  [0.31, -4.03],
  [-2.54, -2.51],
  [-4.12, -2.3],
  [-7.12, -3.55],
  [-11.75, -5.07],
  [-12.68, -5.36],
  [-19.5, -7.28],
  [-27.3, -9.36],
];

/** The dark rope of a sheet bend, tucked under its own part as a bight. */
const SLIPPED_BEND: readonly Point[] = [
  [16.57, 3.38],
  [11.74, 2.82],
  [6.92, 2.17],
  [2.37, 0.48],
  [-0.07, -1.61],
  [-2.04, -4.19],
  [-3.44, -4.95],
  [-4.8, -4.17],
  [-5.81, -1.13],
  [-4.47, 1.74],
  [-3.12, 2.6],
  [-0.23, 1.33],
  [2.65, -2.57],
  [3.67, -3.82],
  [5.16, -4.39],
  [6.06, -3.26],
  [5.75, -1.7],
  [4.69, -0.47],
  [2.04, 3.61],
  [-2.46, 5.32],
  [-4.04, 5.62],
  [-11.7, 7.28],
  [-20.8, 9.1],
];

/** A bight both of whose parts are held, as of an eye, and a rope bent to it. */
const toAnEye = (): Figure => {
  const nearer = (points: readonly Point[]): Point[] => points.map(([x, y]): Point => [x * 0.6, y * 0.6]);
  const eye: readonly Point[] = [
    [-21, 1.6],
    [-15, 2.8],
    [-7, 3],
    [0, 3.2],
    [6, 3],
    [8.6, 0],
    [6, -3],
    [0, -3.2],
    [-7, -3],
    [-15, -2.8],
    [-21, -1.6],
  ];
  const bent = [[20, 2.2], [14, 1.4], ...BENT.points.slice(2, -1), [14, -12]] as const;
  return withTails(
    woven([
      { points: nearer(eye), weave: '', ends: ['standing', 'standing'] },
      { points: nearer(bent), weave: BENT.weave },
    ]),
  );
};

export const SHEET_BENDS: readonly PatternSource[] = [
  {
    id: 'sheet-bend',
    name: 'Sheet bend',
    aliases: ['becket bend', 'weaver’s knot'],
    class: 'bend',
    family: 'Sheet bend and bowline',
    summary: 'Joins two ropes, also of different thickness: a nipping turn of the one round a bight of the other.',
    cautions: ['It can shake loose when it is not under load.'],
    wayName: 'Bight first',
    otherWays: [AS_A_BOWLINE],
    figure: () => bentToBight(BENT),
    texts: { 1: 'Lay the thicker rope in a bight.' },
  },
  {
    id: 'double-sheet-bend',
    name: 'Double sheet bend',
    class: 'bend',
    family: 'Sheet bend and bowline',
    summary:
      'A sheet bend with one more turn, for ropes of unlike thickness: the end goes under its own part both times.',
    figure: () => bentToBight(BENT_TWICE),
  },
  {
    id: 'slipped-sheet-bend',
    name: 'Slipped sheet bend',
    class: 'bend',
    family: 'Sheet bend and bowline',
    summary:
      'A sheet bend whose end is tucked as a bight: it holds as the sheet bend does, and a pull at its tail undoes it.',
    cautions: ['Its tail undoes it: keep it where nothing snags it, and never for people.'],
    figure: () =>
      woven([
        { points: SLIPPED_BEND_BIGHT, weave: 'OUUOUUUO' },
        { points: SLIPPED_BEND, weave: 'UOOOUUOUOOUO' },
      ]),
    slip: { rope: 1, from: 9.83, to: 19.25 },
  },
  {
    id: 'triple-sheet-bend',
    name: 'Triple sheet bend',
    class: 'bend',
    family: 'Sheet bend and bowline',
    summary: 'A sheet bend of three turns, each under its own part: for a thin line on a much thicker or a stiff one.',
    cautions: ['The thicker rope forms the bight. Lay the turns side by side before you draw it up.'],
    figure: () => withTails(layered([{ points: near(LONG_BIGHT) }, { points: near(BENT_THRICE) }])),
    drawn: true,
  },
  {
    id: 'becket-hitch',
    name: 'Becket hitch',
    aliases: ['sheet bend to an eye'],
    class: 'hitch',
    family: 'Sheet bend and bowline',
    summary: 'Makes a line fast to an eye that is there already: the sheet bend, the eye in place of the bight.',
    cautions: ['It can shake loose when it is not under load: take a second turn.'],
    figure: toAnEye,
    drawn: true,
  },
];
