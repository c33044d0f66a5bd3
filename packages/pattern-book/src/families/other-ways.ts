/**
 * Other ways to tie what the book ties already: each ends in the same knot, and a spec proves that it does. Laid by height, drawn as rope
 * lies.
 */
import type { Figure, Raised } from '@foxtrail/core';
import { layered, spar, withTails } from '../lay.js';
import { END, type OtherWay } from '../pattern.js';
import { COLLAR, DOWN, NIP, scaled, STANDING, UP } from './nip.js';

const mirrored = (points: readonly Raised[]): Raised[] => points.map(([x, y, h]) => [-x, y, h]);

/** How much nearer than they are laid strands are drawn. */
const NEAR = 0.62;

/** Up through the nipping turn, round behind the standing part, and down through it again. */
const THROUGH = [...UP, ...COLLAR, ...DOWN];

/** A bight of the standing part down through the loop that follows it, and up again. */
const SLIPPED_DOWN: readonly Raised[] = [
  [2.4, -24, 0.8],
  [2.2, -18, 1],
  [2, -12, 2],
  [1.9, -7, 3],
  [1.8, -1, 3],
  [1.7, 3, 1],
  [1.7, 6.2, -2],
  [1.7, 10, -2],
  [1.6, 14, 0],
  [0, 16.4, 0],
  [-1.6, 14, 0],
  [-1.7, 10, -2],
  [-1.7, 6.2, -2],
  [-1.7, 3, 1],
  [-1.6, -1, 3],
  [-1.4, -7, 3],
  [-1.6, -10.6, 3],
  [-3.4, -12.4, 1.6],
  [-5.2, -10.6, 0.8],
  [-4.8, -7.6, 0.8],
];
/** From the loop round an eye, and through the bight. */
const THROUGH_ITS_BIGHT: readonly Raised[] = [
  [-11.6, -1, 0],
  [-12.4, 8, 0],
  [-11, 18, 0],
  [-6, 25, 0],
  [1, 26.4, 0],
  [5, 23.6, 0],
  [3.6, 19.8, -1],
  [0.9, 17, -1],
  [0.1, 13.6, 0],
  [-1.6, 12, 3],
  [-4, 12.6, 3],
  [-5.6, 16, 0],
  [-5.4, 20, 0],
];

const slipKnot = (): Figure =>
  withTails(
    layered([
      {
        points: scaled([...SLIPPED_DOWN, ...NIP, ...THROUGH_ITS_BIGHT], NEAR),
        eyes: [SLIPPED_DOWN.length + NIP.length + 4],
      },
    ]),
  );

/** The eye of a bowline, from its nipping turn round to where the end comes up. */
const EYE: readonly Raised[] = [
  [-12, 0, 0],
  [-13, 8, 0],
  [-11, 18, 0],
  [-5, 24, 0],
  [1.6, 23, 0],
  [4, 17, -1],
  [2.8, 12, -3],
];

const bowline = (): Figure => {
  const tail: Raised[] = [
    [-2.8, 12, -2],
    [-4.4, 17.4, 0],
  ];
  return withTails(
    layered([
      {
        points: scaled([...STANDING, ...NIP, ...EYE, ...THROUGH, ...tail], NEAR),
        eyes: [STANDING.length + NIP.length + 3],
      },
    ]),
  );
};

/** A slip knot that is pulled through itself: the standing part’s bight takes the end with it. */
export const FLIPPED: OtherWay = {
  name: 'Flipped from a slip knot',
  figure: slipKnot,
  halts: [
    [0, 29, 'Make a slip knot: a loop, and a bight of the standing part drawn down through it.'],
    [0, 34, 'Lead the end round what is to be held.'],
    [0, END, 'Take the end up through the bight.'],
  ],
  relaid: [
    {
      name: 'Flipped',
      figure: bowline,
      set: 'Pull the standing part hard: its bight slips back through the loop and takes the end up with it, round behind the standing part.',
    },
  ],
};

/** The end across the standing part, in the hand that grips both. */
const acrossIt = (): Figure => {
  const points: Raised[] = [
    [0, -25, 0],
    [0, -18, 0],
    [0, -12, 0],
    [0, -6, 0],
    [-1.4, 0, 0],
    [-6, 4, 0],
    [-10.6, 8, 0],
    [-12, 15, 0],
    [-8.6, 21.6, 0],
    [-2, 23.6, 0],
    [4.4, 21, 0],
    [7.4, 14, 0],
    [7, 6, 0],
    [4.6, -1.6, 0.5],
    [0, -7.4, 1],
    [-4.6, -11, 1],
    [-8.4, -13, 1],
  ];
  return withTails(layered([{ points: scaled(points, NEAR), eyes: [9] }]));
};

/** The standing part thrown round the end, which comes up through the loop. */
const thrownRound = (): Figure => {
  const points = scaled([...STANDING, ...NIP, ...EYE, ...UP, [3.4, -12, 1], [4.4, -17, 0]], NEAR);
  return withTails(layered([{ points, eyes: [STANDING.length + NIP.length + 3] }]));
};

/** Where the end of a bowline has come up through its loop. */
const IS_UP = STANDING.length + NIP.length + EYE.length + UP.length - 0.6;

/** The loop made round the end by a turn of the hand that holds both, as is done with one hand. */
export const ONE_HANDED: OtherWay = {
  name: 'With a turn of the hand',
  figure: acrossIt,
  halts: [
    [0, 11, 'Lead the end round what is to be held.'],
    [0, END, 'Lay the end across the standing part, on top of it, and grip both where they cross.'],
  ],
  relaid: [
    {
      name: 'Turned over',
      figure: thrownRound,
      dress:
        'Turn the hand over, away from you and up: the standing part is thrown round the end in a loop, and the end stands up through it.',
    },
    {
      name: 'Tied',
      figure: bowline,
      from: IS_UP,
      halts: [
        [0, IS_UP + 4.4],
        [0, END],
      ],
    },
  ],
};

/** The nipping turn is laid first, and the end of the rope that forms the bight does what a bowline’s end does. */
export const AS_A_BOWLINE: OtherWay = {
  name: 'As a bowline is tied',
  figure: () => {
    const bent: Raised[] = [[2, 24, 0], [2.2, 16, -2], ...THROUGH, [-2.8, 13, -2], [-5, 19, 0]];
    const nipping: Raised[] = [...STANDING, ...NIP, [-13, -3.4, 0], [-17, 1, 0], [-19, 5, 0]];
    return withTails(layered([bent, nipping].map((points) => ({ points: mirrored(scaled(points, NEAR)) }))));
  },
  halts: [
    [1, END],
    [0, 5.6],
    [0, 9.6],
    [0, END],
  ],
};

/** Two loops in the hand, the second the same way as the first. */
const TWO_LOOPS: readonly Raised[] = [
  [-22, 6, 0],
  [-16, 6, 0],
  [-9, 5.6, 0.4],
  [-3.6, 2, 1],
  [-3.4, -4, 1],
  [-7, -7.6, 1],
  [-11, -4, 1],
  [-10.4, 2.4, 0.2],
  [-5.4, 6, -0.4],
  [0, 6.4, 0],
  [6, 5, 0.6],
  [10.4, 1, 1],
  [10, -5, 1],
  [6.4, -7.8, 1],
  [2.8, -4, 1],
  [3.6, 2, 0.2],
  [8.4, 5.6, -0.4],
  [15, 6, 0],
  [21, 6, 0],
];
/** The clove hitch about the x axis, the part that crosses lying over both turns. */
const CLOVE: readonly Raised[] = [
  [-3, 14, 1],
  [-3, 8, 1],
  [-3.4, 2.8, 1],
  [-3.9, -1.6, 1],
  [-5.6, -4.4, 0],
  [-8.2, -3.6, -1],
  [-9.4, 0, -1],
  [-8.8, 3.8, 0],
  [-6, 4.8, 0],
  [-2.4, 2.1, 2],
  [2.4, -2.1, 2],
  [6, -4.8, 0],
  [8.8, -3.8, -1],
  [9.4, 0, -1],
  [8.2, 3.6, 0],
  [5.6, 4.4, 0],
  [3.9, 1.6, 1],
  [3.4, -2.8, 1],
  [3.6, -8, 1],
  [5, -13, 1],
];

/** For a spar whose end can be reached: both turns are made in the hand. */
export const DROPPED: OtherWay = {
  name: 'By two dropped loops',
  figure: () => withTails(layered([{ points: scaled(TWO_LOOPS, NEAR) }])),
  halts: [
    [0, 9],
    [0, END, 'Make a second loop beside it, the same way.'],
  ],
  relaid: [
    {
      name: 'On the spar',
      figure: () => withTails(layered([{ points: scaled(CLOVE, 0.5) }], [spar(0, 9)])),
      passes: 'Lay the second loop behind the first, and drop both over the end of the spar',
      set: 'Draw both ends apart along the spar, then pull each tight.',
    },
  ],
};

/** From where it is held to the end of the bight: twisted twice, folded up over what it hangs from, and through between the twists. */
const twisted = (side: 1 | -1): Raised[] =>
  (
    [
      [17, -3.8, 0],
      [12, -3.2, 0.2],
      [8.4, -2.8, 1],
      [4, -2.2, 0.2],
      [0, -0.6, 0.5 * side],
      [-3.4, 3, 0],
      [0, 6.8, -0.5 * side],
      [3.6, 9.2, 0],
      [6.4, 8.8, 0],
      [8, 5.2, 0],
      [7.8, 0, 0],
      [7.2, -5, 0],
      [4.8, -8, 0.5],
      [2.2, -7.4, 1],
      [1.4, -4.4, 2],
      [1.3, 0, 2],
      [1.3, 3.2, 0],
      [1.3, 6.4, -2],
      [1.4, 10, -2],
      [2, 14, 0.5],
      [1.7, 18, 0],
    ] as const
  ).map(([x, y, h]): Raised => [side * x, y, h]);

export const TWISTED: OtherWay = {
  name: 'Twist and fold',
  figure: () => {
    const left = twisted(-1);
    const points: Raised[] = [...left, [0, 19.6, 0], ...twisted(1).reverse()];
    return layered([{ points: scaled(points, 0.75), ends: ['standing', 'standing'], eyes: [left.length] }]);
  },
  leads: 'bight',
  halts: [
    [0, 8, 'Let a bight hang down and twist it twice, the same way: the legs cross, and cross again.'],
    [0, 13, 'Fold its end up, under the standing parts.'],
    [0, END, 'Bring it down in front, and from the front through the opening between the two crossings.'],
  ],
};
