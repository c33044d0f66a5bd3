/**
 * Hitches that are let go from afar. Laid by height: the spar is at 0, in front of it above, behind it below.
 */
import type { Figure, Raised } from '@foxtrail/core';
import { layered, spar, withTails } from '../lay.js';
import { scaled } from './nip.js';
import { END, type PatternSource } from '../pattern.js';

/** Where on its rope each bight of the quick-release hitch begins and ends, the first that is laid first. */
const QUICK_BIGHTS = [
  { from: 15.8, to: 29.8 },
  { from: 0.5, to: 15.8 },
  { from: 29.8, to: 49.5 },
];

/** A bight up behind the spar, a second one of the standing part through it, a third one of the tail through the second. */
function threeBights(): Figure {
  const second: Raised[] = [
    [-5.2, 13, 1],
    [-4.7, 9, 1],
    [-4.4, 6, 1],
    [-4.4, 0, 1],
    [-4.4, -5, 1],
    [-4.3, -8.4, -1],
    [-3.9, -12, 0],
    [-2.4, -14.8, 0],
    [0, -15.6, 0],
    [2.4, -14.8, 0],
    [3.9, -12, 0],
    [4.3, -8.4, -1],
    [4.4, -5, 1],
    [4.4, 0, 1],
    [4.5, 3.4, 1],
  ];
  const first: Raised[] = [
    [5, 5.4, 0.4],
    [6.2, 6.2, 0],
    [7.4, 5.4, -0.6],
    [7.8, 3.4, -1],
    [7.8, 0, -1],
    [7.8, -4, -0.6],
    [6.6, -6.8, 0],
    [4, -8.2, 0],
    [0, -8.8, 0],
    [-4, -8.2, 0],
    [-6.6, -6.8, 0],
    [-7.8, -4, -0.6],
    [-7.8, 0, -1],
    [-7.9, 4, -1],
    [-7, 7.6, -1],
    [-4.6, 9, -1],
    [-2.4, 7.6, 0.4],
  ];
  const third: Raised[] = [
    [-1.7, 4.4, 1],
    [-1.6, 0, 1],
    [-1.6, -5, 1.2],
    [-1.6, -9, 1.2],
    [-1.6, -12, 0],
    [-1.6, -15.4, -1],
    [-1.7, -17.6, 0],
    [-1.2, -19, 0],
    [0, -19.6, 0],
    [1.2, -19, 0],
    [1.7, -17.6, 0],
    [1.6, -15.4, -1],
    [1.6, -12, 0],
    [1.6, -9, 1.2],
    [1.6, -5, 1.2],
    [1.6, 0, 1],
    [1.7, 5, 1],
    [1.9, 9, 1],
    [2.6, 13, 1],
  ];
  const points = scaled([...second, ...first, ...third], 0.96);
  return withTails(layered([{ points, eyes: [second.length + first.length + 8] }], [spar(0, 10, 3)]));
}

/** Over a spar and once round the standing part, an overhand in the end. */
function stoppered(): Figure {
  const points: Raised[] = [
    [0, 13.4, 0],
    [0, 8, 0],
    [0, 2, 0],
    [0, -5, 0],
    [0, -10, 1],
    [0.6, -12.4, 0.5],
    [2.6, -13.2, 0],
    [4.8, -12.4, -0.5],
    [5.6, -10, -1],
    [5.8, -6, 0],
    [4.8, -2.8, 1],
    [2.6, -1.6, 1],
    [0, -1.6, 1.5],
    [-2.2, -2.4, 0.4],
    [-2.7, -4.2, 0],
    [-2, -5.8, -0.5],
    [0, -6.2, -1],
    [2.2, -5.4, 0],
    [3.2, -3.4, 1.5],
    [3.5, -1.2, 2.4],
    [3.4, 2, 1],
    [3.4, 6, 0],
    [4, 10.4, 0],
    [6.4, 12.6, 0],
    [9, 11.6, 0],
    [9.4, 8.6, 0],
    [7, 7, 0.6],
    [3.4, 7.4, 1],
    [1.9, 9, 0],
    [2.4, 11, -0.6],
    [4.5, 11.4, -1],
    [7, 10.2, 0],
    [9.4, 9.6, 1],
    [11.4, 9.6, 1],
    [13, 10.6, 1],
  ];
  return withTails(layered([{ points: scaled(points, 0.88) }], [spar(-8.8, 8.6, 2.8)]));
}

const NOBODY_BELOW = 'Nobody stands below it, ever, and nobody hangs on it.';

export const QUICK_RELEASE: readonly PatternSource[] = [
  {
    id: 'quick-release-hitch',
    name: 'Quick-release bight hitch',
    aliases: ['bight-through-bight hitch'],
    class: 'hitch',
    family: 'Quick release',
    summary:
      'Holds a light line to a spar until its tail is pulled: three bights, each through the one before it. All of it falls off.',
    cautions: [
      NOBODY_BELOW,
      'Only its standing part may be loaded; a pull at the tail lets everything go.',
      'Draw each bight snug before the next goes through it.',
    ],
    figure: threeBights,
    drawn: true,
    bights: QUICK_BIGHTS,
    halts: [
      [0, END],
      [
        1,
        END,
        'Draw a bight of the standing part up in front of the spar and through the first bight, from the front.',
      ],
      [2, END, 'Draw a bight of the tail up in front of the first bight and through the second, from the front.'],
      [3, END, 'Pull the standing part hard: it nips the last bight. Leave the tail hanging free.'],
    ],
  },
  {
    id: 'falling-release-hitch',
    name: 'Falling release hitch',
    aliases: ['stopper in a half hitch'],
    class: 'hitch',
    family: 'Quick release',
    summary:
      'A half hitch that only the load holds shut, a stopper in its end: let the load off, and it falls open by itself.',
    cautions: [NOBODY_BELOW, 'It opens whenever it is slack: never where the load comes and goes.'],
    figure: stoppered,
    drawn: true,
    texts: { 3: 'Tie an overhand in the end as a stopper, close against the half hitch.' },
  },
];
