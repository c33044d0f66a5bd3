/**
 * Hitches that grip along what they are tied to. Laid by height: a spar is at 0, in front of it above, behind
 * it below; a riding turn lies above the standing part.
 */
import { slingRound, type Figure, type Raised, type Rope } from '@foxtrail/core';
import { bands, layered, spar, withTails } from '../lay.js';
import { END, type PatternSource } from '../pattern.js';

const FRONT = 1;
const RIDING = 2;
const BEHIND = -1;

/** The standing part up in front of the spar, once round it to the left, and across itself: the first riding turn. */
const FIRST_RIDING: readonly Raised[] = [
  [-3, 6, FRONT],
  [-3, 0, FRONT],
  [-3.8, -6, FRONT],
  [-6.6, -9, FRONT],
  [-12, -9, 0],
  [-15.6, -6, BEHIND],
  [-16.6, 0, BEHIND],
  [-15.8, 5, BEHIND],
  [-13.4, 7, 0],
  [-10, 4.6, RIDING],
  [-3, -2.6, RIDING],
  [1.4, -7, RIDING],
  [3.6, -9.2, 0],
  [6, -9, 0],
  [6.6, -6.2, BEHIND],
  [1.6, -1.4, BEHIND],
  [-5.8, 5, BEHIND],
];

/** A second riding turn and a hitch on the far side, the same way round. */
const SECOND_AND_HITCH: readonly Raised[] = [
  [-7.8, 7.8, 0],
  [-7, 10.4, 0],
  [-3.6, 9.8, RIDING],
  [4.4, 0.6, RIDING],
  [10.4, -7, RIDING],
  [13.4, -8.4, 0],
  [16, -5.4, BEHIND],
  [16.6, 0, BEHIND],
  [15.6, 5.4, BEHIND],
  [12.8, 6.8, 0],
  [10.4, 3.6, FRONT],
  [9.8, -2, FRONT],
  [9.8, -7, FRONT],
];

/** The hitch on the far side turned against the riding turn. */
const REVERSED_HITCH: readonly Raised[] = [
  [-7.8, 7.8, 0],
  [-6, 10.2, RIDING],
  [4, 9.8, RIDING],
  [11.4, 9.6, RIDING],
  [15.4, 5.6, BEHIND],
  [16, 0, BEHIND],
  [14.8, -5.6, BEHIND],
  [12, -7.4, 0],
  [9.4, -4.6, FRONT],
  [8.8, 0, FRONT],
  [8.8, 6, FRONT],
  [9, 11, FRONT],
];

/** The turns as they are shown: drawn out along what they hold, so that each can be told from the next. */
const ALONG = 0.62;
const ACROSS = 0.5;
const opened = (points: readonly Raised[]): Raised[] => points.map(([x, y, h]) => [x * ALONG, y * ACROSS, h]);

/** About the y axis instead, in from the right. */
const hung = (points: readonly Raised[]): Raised[] => points.map(([x, y, h]) => [y, x, h]);

/** Height of the spar above the hitch on the standing part. */
const ABOVE = -13.6;

/** Up in front of a spar, over it and down behind at the right, then a hitch that grips the standing part. */
const adjustable = (hitch: readonly Raised[], tail: readonly Raised[]): Figure =>
  withTails(
    layered(
      [
        {
          points: [
            [0, 12.4, 0.5],
            [0, 9, 0.5],
            [0, 4, 0.5],
            [0, -5, 0.5],
            [0, -10, 0.5],
            [0, ABOVE, FRONT],
            [0.8, ABOVE - 2.2, FRONT],
            [3, ABOVE - 3, 0],
            [5.4, ABOVE - 2, BEHIND],
            [6.6, ABOVE, BEHIND],
            [7.8, ABOVE + 4, FRONT],
            [8, ABOVE + 7, FRONT],
            [7, -3.6, FRONT],
            [5, -2.1, FRONT],
            ...hung(opened(hitch)),
            ...tail,
          ],
        },
      ],
      [spar(ABOVE, 11)],
    ),
  );

/** A sling wound n times round a rope, through itself: both its coils lie side by side, the bridge across them. */
function prusik(n: number): Figure {
  const end = 3.1 * n + 4.2;
  return layered([
    {
      points: [-1, -0.5, 0, 0.5, 1].map((share): Raised => [0, -share * end, 0]),
      ends: ['standing', 'standing'],
    },
    { points: slingRound(n), closed: true, eyes: [0] },
  ]);
}

/** Of the one-way wrap: from turn to turn, from leg to leg of the sling, and half of how wide a turn is. */
const [WRAP, LEGS, HALF] = [6, 3, 2.4] as const;

/** A sling wound n times round a rope, both legs side by side, and drawn through its own bight. */
function oneWayWrap(n: number): Figure {
  const low = n * WRAP;
  const turns = (from: number): Raised[] =>
    Array.from({ length: n }, (_, i): Raised[] => {
      const y = from + i * WRAP;
      return [
        [HALF, y, 0],
        [0, y + 0.7, FRONT],
        [-HALF, y + 1.5, 0],
        [0, y + 2.25, BEHIND],
      ];
    }).flat();
  const inner: Raised[] = [
    ...turns(0),
    [HALF + 0.4, low - 0.3, 0],
    [4, low - 0.3, 0],
    [5.2, low - 2.4, 0],
    [5.4, low / 2, 0],
    [5.4, 6, -0.5],
    [5.5, 3.4, -1],
    [6, 0.4, 0.6],
    [7.8, -1, 1.4],
    [11, -0.9, 1.5],
    [14.4, 0.4, 1.5],
    [15.8, 3.4, 1.5],
    [15.8, 8, 1.5],
    [15.2, 14, 1.5],
    [14.4, 19, 1.5],
  ];
  const outer: Raised[] = [
    ...turns(LEGS),
    [HALF + 0.4, low + LEGS - 0.3, 0],
    [4.6, low + LEGS - 0.6, 0],
    [7, low, 0],
    [7.6, low - 2.4, 0],
    [7.6, low / 2, 0],
    [7.6, 6, -0.5],
    [7.7, 3.6, -1],
    [8.3, 1.8, 0.6],
    [9.6, 1.3, 1.4],
    [11.6, 1.5, 1.5],
    [13.2, 4, 1.5],
    [13.2, 8, 1.5],
    [12.4, 14, 1.5],
    [11.8, 19, 1.5],
  ];
  const bight: readonly (readonly Raised[])[] = [
    [
      [10.8, -3, 0.3],
      [7.8, -4.2, 0.3],
      [4.6, -2.4, 0.3],
    ],
    [
      [4.6, 3.6, 0.3],
      [7.8, 4.6, 0.3],
      [10.8, 3.4, 0.3],
    ],
  ];
  const loaded: Raised = [12.9, 20.6, 1.5];
  const [above, below] = bight as [readonly Raised[], readonly Raised[]];
  const points: Raised[] = [[11.9, 0.2, 0.3], ...above, ...inner, loaded, ...[...outer].reverse(), ...below];
  return layered([
    {
      points: [-8, 0, low / 2, low + 5].map((y): Raised => [0, y, 0]),
      ends: ['standing', 'standing'],
    },
    { points, closed: true, eyes: [points.indexOf(loaded)] },
  ]);
}

/** Two half hitches the same way round what lies along the x axis: up in front of it, behind it, across both, behind it and out. */
const TWO_HITCHES: readonly Raised[] = [
  [-1.8, 5, 1],
  [-2.1, 2.2, 0.6],
  [-2.3, 0, 0.6],
  [-2.8, -1.8, 0.4],
  [-4, -2.4, 0],
  [-5.3, -1.6, -0.5],
  [-5.7, 0, -1],
  [-5.3, 1.8, -0.5],
  [-3.9, 2.4, 0.6],
  [-1.6, 1.2, 1.6],
  [1.6, -1.2, 1.6],
  [3.9, -2.4, 0.6],
  [5.3, -1.8, -0.5],
  [5.7, 0, -1],
  [5.2, 1.8, -0.5],
  [4, 2.4, 0],
  [2.8, 1.6, 0.4],
  [2.3, 0, 0.6],
  [2.1, -2.2, 0.6],
  [2.6, -5, 0.6],
  [3.8, -6.8, 0.6],
];

/** Of the many-wrap hitch: the line that it grips, how far its turns reach, and from one to the next. */
const CROSS_LINE = { diameter: 1.5, reach: 2, pitch: 2.1 } as const;

/** A thin line wound n times round a thicker one, away from the pull, back over its turns, and two half hitches round itself. */
function manyWraps(n: number): Figure {
  const { diameter, reach, pitch } = CROSS_LINE;
  const far = n * pitch;
  const turns = bands(n, { x: 0, core: 0, reach, pitch }).map(([x, y, h]): Raised => [x, -y, h]);
  /** Along the standing part, away from the line, and across it, towards the end. */
  const [u, v] = [
    [-0.82, 0.57],
    [0.57, 0.82],
  ] as const;
  const onOwnPart = ([along, across, h]: Raised): Raised => [
    -9.8 + along * u[0] + across * v[0],
    8.1 + along * u[1] + across * v[1],
    h,
  ];
  const points: Raised[] = [
    ...[9.4, 7, 4, 0, -4].map((along) => onOwnPart([along, 0, 0])),
    [-3.6, 4.2, 0],
    [-1.6, 2.9, 0],
    ...turns,
    [far, reach, 0],
    [far + 0.2, reach + 1.4, 0],
    [far - 1.6, reach + 3.6, 0],
    [far - 5, reach + 5.6, 0],
    ...[...TWO_HITCHES].map(onOwnPart),
  ];
  const figure = layered([
    { points: [-8, -4, 0, far / 2, far + 3, far + 5].map((x): Raised => [x, 0, 0]), ends: ['standing', 'standing'] },
    { points },
  ]);
  const [line, thin] = figure.ropes as [Rope, Rope];
  return withTails({
    ...figure,
    ropes: [
      { ...line, cordage: { name: 'cross line', diameter } },
      { ...thin, cordage: { name: 'thin line' } },
    ],
  });
}

const slide = 'It grips only under load: set it by hand before you trust it.';

export const GRIPPING: readonly PatternSource[] = [
  {
    id: 'rolling-hitch',
    name: 'Rolling hitch',
    class: 'hitch',
    family: 'Gripping',
    useGrade: 'load-bearing',
    summary: 'Holds along a spar: two riding turns on the side of the pull, a hitch on the other.',
    cautions: ['The riding turns lie on the side of the pull; the other way round it slides.'],
    figure: () =>
      withTails(
        layered(
          [
            {
              points: [
                [-4, 11, FRONT],
                [-2.4, 8, FRONT],
                [-1.8, 5.6, FRONT],
                ...opened([...FIRST_RIDING, ...SECOND_AND_HITCH]),
                [6.5, -5.8, FRONT],
                [7.6, -8, FRONT],
                [9.6, -9.4, FRONT],
              ],
            },
          ],
          [spar(0, 14, 3)],
        ),
      ),
    drawn: true,
  },
  {
    id: 'taut-line-hitch',
    name: 'Taut-line hitch',
    aliases: ['adjustable guy hitch'],
    class: 'hitch',
    family: 'Gripping',
    useGrade: 'load-bearing',
    summary:
      'A loop whose length is set by sliding: a rolling hitch about the standing part, two turns inside, one outside the same way.',
    cautions: [slide],
    figure: () =>
      adjustable(
        [...FIRST_RIDING, ...SECOND_AND_HITCH],
        [
          [-5.9, 6.6, FRONT],
          [-8.2, 7.6, FRONT],
          [-9.4, 9, FRONT],
        ],
      ),
    drawn: true,
  },
  {
    id: 'reversed-taut-line',
    name: 'Taut-line hitch, last turn reversed',
    class: 'hitch',
    family: 'Gripping',
    summary: 'The taut-line with its last hitch turned the other way: both parts leave on one side.',
    cautions: [slide],
    figure: () =>
      adjustable(
        [...FIRST_RIDING, ...REVERSED_HITCH],
        [
          [7.3, 6.1, FRONT],
          [9.4, 7.2, FRONT],
          [10.6, 8.8, FRONT],
        ],
      ),
    drawn: true,
    wrongWayOf: { id: 'taut-line-hitch', tell: 'Both parts leave the hitch on the same side.' },
  },
  ...[2, 3, 4].map((n): PatternSource => ({
    id: n === 3 ? 'prusik' : `prusik-${n}`,
    name: `Prusik of ${['', '', 'two', 'three', 'four'][n] as string} wraps`,
    aliases: [`${['', '', 'two', 'three', 'four'][n] as string}-wrap friction hitch`],
    class: 'sling',
    family: 'Gripping',
    useGrade: n === 2 ? 'load-bearing' : 'people depend on it',
    summary: [
      '',
      '',
      'A sling of thinner cord that grips a rope both ways, with two wraps a side: quick to move, the first to slip.',
      'A sling of thinner cord that grips a rope both ways: its coils lie parallel, the bridge across them.',
      'A sling of thinner cord with four wraps a side: for a wet or icy rope, or a cord not much thinner than it.',
    ][n] as string,
    cautions: [
      'The cord wears and melts where it slides: look at it each time.',
      ...(n === 2 ? ['Two wraps hold little: for people at least three.'] : []),
      slide,
    ],
    figure: () => prusik(n),
    drawn: true,
  })),
  {
    id: 'many-wrap-hitch',
    name: 'Many-wrap hitch',
    class: 'hitch',
    family: 'Gripping',
    aliases: ['wrapped hitch'],
    useGrade: 'load-bearing',
    summary:
      'A thin line made fast along a thicker one: its wraps lie on the side away from the pull, two half hitches hold its end.',
    cautions: [
      'The wraps lie on the side away from the pull; the other way round they open and slide.',
      'The thinner the line against the one that it grips, and the smoother both, the more wraps.',
      slide,
    ],
    figure: () => manyWraps(4),
    drawn: true,
  },
  {
    id: 'one-way-wrap',
    name: 'One-way wrap',
    aliases: ['one-way friction hitch', 'wrapped sling hitch'],
    class: 'sling',
    family: 'Gripping',
    useGrade: 'people depend on it',
    summary:
      'A sling wound along a rope and drawn through its own upper bight: it grips towards its load only, and lets go more easily than the prusik.',
    cautions: [
      'It grips one way: the bight that is drawn through is on the side away from the load.',
      'The cord wears and melts where it slides: look at it each time.',
      slide,
    ],
    figure: () => oneWayWrap(3),
    drawn: true,
    halts: [
      [0, END],
      [1, 16.4],
      [1, END, 'Lead the long bight up again and through the short one, then down to the load.'],
    ],
  },
];
