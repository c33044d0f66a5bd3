/**
 * Bowlines that are more than one: the tail kept by an overhand of two turns, the tail led back along the standing part, two loops, the
 * end as a bight.
 * Laid by height: the nipping turn is flat on the board, the end goes up through it and down again.
 */
import type { Figure, Raised } from '@foxtrail/core';
import { layered, overhandRound, OVERHAND_TURN, withTails } from '../lay.js';
import { END, type PatternSource } from '../pattern.js';
import { COLLAR, DOWN, NIP, scaled, STANDING, UP } from './nip.js';

/** The standing part and its nipping turn. */
const NIPPED = [...STANDING, ...NIP];

/** Of the keeper: where it begins below the nipping turn, and the length of its two turns. */
const KEEPER = 9.4;
const LONG = 2 * OVERHAND_TURN;

/** The end down beside a leg of the eye, back over it, twice round both and out below: along the leg, and across it. */
const KEEPER_TURNS: readonly Raised[] = [
  [-2.4, -1.3, 0],
  // The other way over: the leg lies to the right of the end.
  ...overhandRound(2, { own: 1.2, reach: 2.8, low: 0 }).map(([x, y, h]): Raised => [x, -y, h]),
  [LONG + 1.8, 7.6, 1],
  [LONG + 3.6, 8.9, 1],
  [LONG + 5.6, 9.5, 1],
];

function backed(): Figure {
  const near = 0.6;
  const eye: Raised[] = [
    [-7.4, 0.6, 0],
    [-9, 6, 0],
    [-9.4, 13, 0],
    [-8.4, 20, 0],
    [-5.4, 24.4, 0],
    [-1.8, 25, 0],
    [0.7, 22.4, 0],
    [1.3, KEEPER + LONG + 3, 0],
    [1.2, KEEPER + LONG / 2, 0],
    [1.2, KEEPER - 0.5, 0],
    [1.3, KEEPER - 2.8, -1],
  ];
  const points = [
    ...scaled(NIPPED, near),
    ...eye,
    ...scaled([...UP, ...COLLAR, ...DOWN], near),
    ...KEEPER_TURNS.map(([along, across, h]): Raised => [across, KEEPER + along, h]),
  ];
  return withTails(layered([{ points, eyes: [NIPPED.length + 4] }]));
}

function ledBack(): Figure {
  const eye: Raised[] = [
    [-11.6, -1, 0],
    [-14, 8, 0],
    [-13.6, 18, 0],
    [-8, 26, 0],
    [0, 28, 0],
    [6, 25, 0],
    [6.4, 19, -1],
    [5, 13, -3],
  ];
  const wide: Raised[] = [[4.6, 8, -3], [4.4, 3.4, 0], [4.4, -1, 3], [4.6, -7, 3], [4.4, -11.6, 1], ...COLLAR.slice(1)];
  /** Round the leg of the eye that it lies beside, and up along it. */
  const back: Raised[] = [
    [-1.6, 13, -4],
    [1.6, 16.2, -5],
    [6.4, 16.4, -5],
    [9.4, 13.4, -1],
    [7.4, 10.6, 1],
    [3.4, 10.8, 1],
    [1.4, 8.8, -2],
    [1.2, 5, -2],
    [1.4, 0, 3],
    [1.6, -5, 3],
    [2, -10, 3],
    [2.6, -16, 3],
    [3.6, -21, 3],
  ];
  const points = scaled([...NIPPED, ...eye, ...wide, ...DOWN, ...back], 0.6);
  return withTails(layered([{ points, eyes: [NIPPED.length + 4] }]));
}

function twoLoops(): Figure {
  const first: Raised[] = [
    [-12, -2, 0],
    [-15, 6, 0],
    [-15.6, 16, 0],
    [-12, 25, 0],
    [-6, 27, 0],
    [-1.6, 23, 0],
    [-0.4, 16, -2],
    [-0.2, 9, -3],
    [0, 4.6, 0],
    [2.6, 1.8, 2],
    [7, 1, 3],
  ];
  const second: Raised[] = [
    [11.4, 4, 2],
    [14, 11, 0],
    [13.6, 20, 0],
    [9.4, 25.4, 0],
    [5, 24, 0],
    [3, 17, -2],
    [2.7, 9, -3],
    [2.7, 5.4, -2],
    [2.6, 1.8, 4],
    [2.6, -2, 4],
    [2.8, -7, 3],
  ];
  const tail: Raised[] = [
    [-3, -0.4, 3],
    [-2.8, 3.4, 0],
    [-2.9, 8, -3],
    [-3.6, 13, -3],
    [-5, 18.6, 0],
  ];
  const points = scaled([...NIPPED, ...first, ...second, ...COLLAR, ...tail], 0.585);
  return withTails(layered([{ points, eyes: [NIPPED.length + 4, NIPPED.length + first.length + 3] }]));
}

function slipped(): Figure {
  const nip: Raised[] = [
    [-6, -2, 0.8],
    [-6.6, 3, 0.8],
    [-3, 6.4, 0.8],
    [2.6, 6.6, 0.8],
    [7, 3, 0.8],
    [6.6, -4, 0.9],
    [2.4, -7.2, 1.2],
    [-2.4, -7.4, 1.2],
    [-9, -6.4, 1],
  ];
  const eye: Raised[] = [
    [-13.4, -2, 0],
    [-16, 5, 0],
    [-15.6, 13, 0],
    [-11.6, 18.6, 0],
    [-6.6, 18.4, 0],
    [-3.6, 14, -2],
  ];
  const end: Raised[] = [
    [-2.8, 8, -3],
    [-2.6, 3.4, 0],
    [-2.8, -1, 3],
    [-3, -7, 3],
    [-3, -11, 1],
    [-0.4, -15, -3],
    [3, -13, 1],
    [3.4, -8, 3],
    [2.4, -3, 3],
    [1.2, 0, 3],
    [0.9, 4, 0],
    [1.2, 8, -3],
    [2, 12, -2],
    [3.2, 14.2, -1],
    [5, 14.8, 0],
    [6.6, 13.2, -1],
    [6.4, 9, -3],
    [4.6, 4, 0],
    [4, 0, 3],
    [5.2, -6.4, 3],
    [8.4, -11.4, 2],
    [12, -15, 1],
  ];
  const points = scaled([[0, -23, 0.8], ...STANDING.slice(1), ...nip, ...eye, ...end], 0.64);
  return withTails(layered([{ points, eyes: [STANDING.length + nip.length + 3] }]));
}

const LOOSENS = 'Draw the knot itself tight before its tail is taken care of.';

export const KEPT_BOWLINES: readonly PatternSource[] = [
  {
    id: 'bowline-backed',
    name: 'Bowline, backed with a two-turn overhand',
    aliases: ['backed bowline', 'bowline with a two-turn overhand'],
    class: 'loop in the end',
    family: 'Sheet bend and bowline',
    useGrade: 'people depend on it',
    summary: 'The bowline, its tail tied in an overhand of two turns round the leg of the eye that it lies beside.',
    cautions: [LOOSENS, 'The overhand lies close against the bowline: one that has slid away guards nothing.'],
    figure: backed,
    drawn: true,
  },
  {
    id: 'bowline-led-back',
    name: 'Bowline, tail led back',
    aliases: ['bowline with the tail led back'],
    class: 'loop in the end',
    family: 'Sheet bend and bowline',
    useGrade: 'people depend on it',
    summary:
      'The bowline, its tail led round the leg of the eye and back through the knot, so that it leaves beside the standing part.',
    cautions: [LOOSENS, 'Drawn up before the bowline is set, the tail can pull it into another knot.'],
    figure: ledBack,
    drawn: true,
  },
  {
    id: 'bowline-two-loops',
    name: 'Bowline with two adjustable loops',
    aliases: ['bowline of two loops'],
    class: 'loop in the end',
    family: 'Sheet bend and bowline',
    useGrade: 'load-bearing',
    summary: 'A bowline whose end goes round twice: two loops of one rope, the one made larger as the other shrinks.',
    cautions: ['Rope runs from one loop to the other: load both, and nobody sits in them without a fixed harness.'],
    figure: twoLoops,
    drawn: true,
    halts: [
      [0, 13],
      [0, 23.6],
      [0, 34.5],
      [0, 38.6],
      [0, END],
    ],
  },
  {
    id: 'slipped-bowline',
    name: 'Slipped bowline',
    aliases: ['bowline with a slipped end'],
    class: 'loop in the end',
    family: 'Sheet bend and bowline',
    summary: 'The bowline, its end brought back down through the loop as a bight: a pull at the tail undoes it.',
    cautions: ['Its tail undoes it: keep it where nothing snags it, and never for people.'],
    figure: slipped,
    drawn: true,
    slip: { rope: 0, from: 25.9, to: 38.6 },
  },
];
