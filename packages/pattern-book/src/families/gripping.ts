/**
 * Hitches that grip along what they are tied to, and the timber hitch. Laid by height: a spar is at 0, in front of it above, behind
 * it below; a riding turn lies above the standing part.
 */
import { halfCircle, slingRound, type Figure, type Raised } from '@foxtrail/core';
import { layered, spar } from '../lay.js';
import type { PatternSource } from '../pattern.js';

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
  [3.6, -8.6, 0],
  [5, -6.4, BEHIND],
  [0.6, 0.4, BEHIND],
  [-5.8, 7.6, BEHIND],
];

/** A second riding turn and a hitch on the far side, the same way round. */
const SECOND_AND_HITCH: readonly Raised[] = [
  [-6.4, 10, 0],
  [-5.2, 11.4, 0],
  [-3, 10, RIDING],
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
  [-6.2, 9.8, 0],
  [-4.4, 11.4, RIDING],
  [4, 10.6, RIDING],
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

/** The turns drawn out along what they hold, so that each can be told from the next. */
const OPEN = 1.35;
const opened = (points: readonly Raised[]): Raised[] => points.map(([x, y, h]) => [x * OPEN, y * 1.1, h]);

/** About the y axis instead, in from the right. */
const hung = (points: readonly Raised[]): Raised[] => points.map(([x, y, h]) => [y, x, h]);

/** Height of the spar above the hitch on the standing part. */
const ABOVE = -40;

/** Up in front of a spar, over it and down behind at the right, then a hitch that grips the standing part. */
const adjustable = (hitch: readonly Raised[], tail: readonly Raised[]): Figure =>
  layered(
    [
      {
        points: [
          [0, 40, 0.5],
          [0, 29, 0.5],
          [0, 14, 0.5],
          [0, 0, 0.5],
          [0, -14, 0.5],
          [0, -28, 0.5],
          [0, ABOVE, FRONT],
          [1.6, ABOVE - 4, FRONT],
          [6, ABOVE - 5, 0],
          [11, ABOVE - 3.6, BEHIND],
          [14, ABOVE + 2, BEHIND],
          [16.4, ABOVE + 12, FRONT],
          [16.4, ABOVE + 26, FRONT],
          [14.4, -7, FRONT],
          [10.4, -4.6, FRONT],
          ...hung(opened(hitch)),
          ...tail,
        ],
      },
    ],
    [spar(ABOVE, 24)],
  );

/** A sling wound n times round a rope, through itself: both its coils lie side by side, the bridge across them. */
function prusik(n: number): Figure {
  return layered([
    {
      points: [
        [0, 28, 0],
        [0, 14, 0],
        [0, 0, 0],
        [0, -14, 0],
        [0, -28, 0],
      ],
      ends: ['standing', 'standing'],
    },
    { points: slingRound(n), closed: true, eyes: [0] },
  ]);
}

function timber(): Figure {
  const y = -9;
  const wraps = Array.from({ length: 3 }, (_, k): readonly Raised[] => {
    const x = -5 - 6.4 * k;
    return [
      [x, 2.2, RIDING],
      [x, -1, 3],
      ...halfCircle([x, -4], [x - 3.2, -4], -1).map(([px, py]): Raised => [px, py, RIDING]),
      [x - 3.2, -1, 0.2],
      ...(k < 2 ? halfCircle([x - 3.2, 2], [x - 6.4, 2], 1).map(([px, py]): Raised => [px, py, RIDING]) : []),
    ];
  }).flat();
  return layered(
    [
      {
        points: [
          [0, 28, FRONT],
          [0, 17, FRONT],
          [0, 6, FRONT],
          [0, -3, FRONT],
          [0, y, FRONT],
          [-1.4, y - 3.6, 0],
          [-5, y - 4.4, 0],
          [-14, y - 4.4, 0],
          [-26.6, y - 3.6, 0],
          [-28.6, y, BEHIND],
          [-28.4, y + 4.6, BEHIND],
          [-26.4, -1.6, FRONT],
          [-21, -1, FRONT],
          [-8, -1, FRONT],
          [-3, -1, 1.5],
          [2.4, -1, RIDING],
          [5.4, 0.6, RIDING],
          [5.8, 3.6, 0.6],
          [3, 5.8, 0.6],
          [-1.4, 5.6, 0.6],
          [-4, 4.8, RIDING],
          ...wraps,
          [-23, 4, FRONT],
          [-24.6, 9, FRONT],
          [-28, 14, FRONT],
        ],
      },
    ],
    [spar(y, 33, 3)],
  );
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
      layered(
        [
          {
            points: [
              [-11, 30, FRONT],
              [-6, 22, FRONT],
              [-4.2, 14, FRONT],
              ...opened([...FIRST_RIDING, ...SECOND_AND_HITCH]),
              [14, -13, FRONT],
              [16.4, -18, FRONT],
              [21.4, -21, FRONT],
            ],
          },
        ],
        [spar(0, 32)],
      ),
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
          [-13, 14, FRONT],
          [-18, 16.6, FRONT],
          [-22, 21.4, FRONT],
        ],
      ),
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
          [16, 13, FRONT],
          [21, 15.6, FRONT],
          [25, 20.4, FRONT],
        ],
      ),
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
  })),
  {
    id: 'timber-hitch',
    name: 'Timber hitch',
    class: 'hitch',
    family: 'Half hitches',
    summary: 'Drags or lifts rough timber: the end round its own standing part and three times round itself.',
    cautions: ['For rough timber only: never on metal, never for a vertical lift on smooth stock.'],
    figure: timber,
  },
];
