/**
 * Hitches on a spar, and half hitches about the rope's own standing part.
 */
import { halfCircle, slingRound, type Figure, type Point, type Raised } from '@foxtrail/core';
import { layered, spar, woven, type Laid } from '../lay.js';
import { END, type PatternSource } from '../pattern.js';
import { DROPPED } from './other-ways.js';

/** The clove hitch about the x axis: in from below at the left, a turn, across itself, a second turn, out under the crossing. */
const CLOVE: readonly Point[] = [
  [-3.4, 2.8],
  [-3.9, -1.6],
  [-5.6, -4.4],
  [-8.2, -3.6],
  [-9.4, 0],
  [-8.8, 3.8],
  [-6, 4.8],
  [-2.4, 2.1],
  [2.4, -2.1],
  [6, -4.8],
  [8.8, -3.8],
  [9.4, 0],
  [8.2, 3.6],
  [5.6, 4.4],
  [3.9, 1.6],
  [3.4, -2.8],
];
const CLOVE_WEAVE = 'UOUOOOUOU';

/** The cow hitch about the x axis: both ends under one bight. */
const COW: readonly Point[] = [
  [-3, 4.6],
  [-3.2, 0],
  [-4.4, -3.8],
  [-7.2, -4.2],
  [-9, -1],
  [-8.6, 3],
  [-5.4, 5.2],
  [0, 5.4],
  [5.4, 5.2],
  [8.6, 3],
  [9, -1],
  [7.2, -4.2],
  [4.4, -3.8],
  [3.2, 0],
  [3, 4.6],
];
const COW_WEAVE = 'UOUOOUOU';

/** About the y axis instead, in from the right: as a hitch lies on a standing part that hangs down. */
const hung = (points: readonly Point[]): Point[] => points.map(([x, y]): Point => [y, x]);

/** Height of the spar above the hitches on the standing part. */
const ABOVE = -19;

/** A rope that goes up in front of a spar, round it and back down to hitches about its own standing part. */
function aboutItself(
  round: 1 | 2,
  hitches: readonly Point[],
  standing: string,
  weave: string,
  tail: readonly Point[],
): Figure {
  const up: Point[] = [
    [0, 24],
    [0, 15],
    [0, 8],
    [0, 0],
    [0, -8],
    [0, ABOVE + 4],
    [0, ABOVE],
  ];
  const turn: Point[] =
    round === 1
      ? []
      : [
          ...halfCircle([0, ABOVE - 2.4], [4.2, ABOVE - 2.4]),
          [4.2, ABOVE],
          ...halfCircle([4.2, ABOVE + 2.4], [8.4, ABOVE + 2.4], -1),
          [8.4, ABOVE],
        ];
  const x = round === 1 ? 0 : 8.4;
  const over: Point[] = [
    [x + 1.4, ABOVE - 3.6],
    [x + 4.2, ABOVE - 3],
    [x + 5.4, ABOVE + 1],
    [Math.max(x + 5.6, 10), ABOVE + 7],
    [12, -8],
    [8, -4],
  ];
  const laid: Laid = {
    points: [...up, ...turn, ...over, ...hung(hitches), ...tail],
    weave: `${standing}${round === 1 ? 'OU' : 'OUOU'}${weave}`,
  };
  return woven([laid], [spar(ABOVE, 20)]);
}

const tailLeft: readonly Point[] = [
  [-8, 3.6],
  [-14, 5],
  [-19, 8],
];
const tailRight: readonly Point[] = [
  [9, 3.4],
  [14, 5],
  [19.5, 8],
];

const twoHalfHitches = (round: 1 | 2): Figure => aboutItself(round, CLOVE, 'OUUUO', CLOVE_WEAVE, tailLeft);

/** As the moves of the bench lay them (a spec holds them together), the tail straight on. */
const ONE_HITCH: readonly Point[] = [
  [0, 28],
  [0, 14],
  [0, 6],
  [0.1, 4.3],
  [0.9, 2.9],
  [0.1, -2.5],
  [-0.8, -1.1],
  [-0.8, 2],
  [1.4, 4.9],
  [2.8, 5.4],
  [17.9, 10.4],
];
const BACKED: readonly Point[] = [
  [0, 40],
  [0, 20],
  [0, 6],
  [0.1, 4.3],
  [0.9, 2.9],
  [0.1, -2.5],
  [-0.8, -1.1],
  [-0.8, 2],
  [1.4, 4.9],
  [2.8, 5.4],
  [4.6, 5.8],
  [7.7, 4],
  [8.6, 0.8],
  [7.7, -2.7],
  [6.8, -1.4],
  [6.8, 1.8],
  [7.3, 3.3],
  [10.4, 5.6],
  [11.8, 6.9],
  [11.8, 12.3],
  [11.8, 17.7],
  [11.8, 23.1],
  [11.3, 24.9],
  [7.3, 29],
  [3.2, 33],
  [0.1, 33.9],
  [-1.3, 33],
  [0.1, 32.1],
  [1.4, 32.1],
  [3.2, 32.6],
  [5, 35.3],
  [13.9, 48.6],
];

/** A round turn whose second turn traps the end, and a half hitch round the standing part. */
const ANCHORED: readonly Raised[] = [
  [-3, 32, 0],
  [-3, 24, 0],
  [-3, 15, 0],
  [-3.4, 6, 1],
  [-4, 0, 1],
  [-4, -3.4, 1],
  [-2.4, -4.8, 0],
  [-0.6, -3.4, -1],
  [-0.2, 0, -1],
  [0, 3, -1],
  [0.8, 5.2, -0.6],
  [2.4, 5.2, -0.4],
  [3.4, 3, 0.4],
  [3.5, 0, 1],
  [3.5, -3.4, 1],
  [5, -4.8, 0],
  [6.8, -3.4, -1],
  [7, 0, -1],
  [7.4, 4, -0.8],
  [6.4, 8, 0],
  [2, 9.4, 0.8],
  [-3.6, 8.8, 1],
  [-7.4, 6.4, 0.4],
  [-7.4, 3.4, 0],
  [-4, 2.2, -0.1],
  [0, 2.2, -0.1],
  [4, 2.2, -0.1],
  [9.4, 2.6, 0.6],
  [14, 5, 0.6],
  [15.6, 10, 0.6],
  [13, 15, 0.6],
  [7, 18, 0.6],
  [-3, 19, 1],
  [-7.4, 17.6, 0.4],
  [-7.4, 14.4, -0.4],
  [-4, 13.4, -1],
  [1, 14, 0.6],
  [6, 18, 1.6],
  [9.6, 22.6, 1],
  [15, 29, 1],
];

/** Length along an ear of the cat's paw from one crossing of its twist to the next. */
const TWIST = 4;

/**
 * A bight folded back over its own legs: two ears, each twisted n times away from the other, both on the bar. Untwisted it is the cow
 * hitch.
 */
function catsPaw(n: number): Figure {
  const [middle, aside, top] = [7, 1.7, 5];
  const low = top + 2 * n * TWIST;
  /** From the bottom of the left ear to its top: the strand that begins at its inner side, or the other. */
  const strand = (inner: boolean): Raised[] =>
    Array.from({ length: 2 * n + 1 }, (_, k): Raised[] => {
      const i = 2 * n - k;
      const isInner = (i % 2 === 0) === inner;
      const y = top + i * TWIST;
      const at: Raised = [-middle + (isInner ? aside : -aside), y, 0];
      return i > 0 ? [at, [-middle, y - TWIST / 2, isInner ? 1 : -1]] : [at];
    }).flat();
  const left: Raised[] = [
    [-1.6, low + 24, -1],
    [-1.6, low + 15, -1],
    [-1.8, low + 9, -1],
    [-3.6, low + 3, 0],
    ...strand(true),
    [-middle + aside, 0, 1],
    [-middle + aside, -3, 1],
    [-middle, -4.4, 0],
    [-middle - aside, -3, -1],
    [-middle - aside, 0, -1],
    ...strand(false).reverse(),
    [-middle - aside, low + 4, 0],
    [-middle, low + 8, 0.6],
    [-3, low + 9.6, 1],
  ];
  const right = left.map(([x, y, h]): Raised => [-x, y, h]).reverse();
  return layered([{ points: [...left, [0, low + 9.8, 1], ...right], ends: ['standing', 'standing'] }], [spar(0, 18)]);
}

export const HITCHES: readonly PatternSource[] = [
  {
    id: 'half-hitch',
    name: 'Half hitch',
    class: 'hitch',
    family: 'Half hitches',
    summary: 'The end round a spar and across its own part: the piece that other hitches are made of.',
    cautions: ['Never alone: it holds only while something presses on it.'],
    figure: () => woven([{ points: ONE_HITCH, weave: 'UOUO' }], [spar(0, 24)]),
  },
  {
    id: 'clove-hitch',
    name: 'Clove hitch',
    aliases: ['two turns on a spar'],
    class: 'hitch',
    family: 'Half hitches',
    useGrade: 'load-bearing',
    summary: 'Makes a line fast to a spar: two turns the same way round, the second under the crossing.',
    cautions: ['It can creep on a smooth spar or when the load comes and goes: back it with a further hitch.'],
    wayName: 'With the end',
    otherWays: [DROPPED],
    figure: () =>
      woven(
        [
          {
            points: [[-3.4, 18], [-3.4, 9], ...CLOVE, [3.6, -8], [5, -13], [8, -17]],
            weave: CLOVE_WEAVE,
          },
        ],
        [spar(0, 20)],
      ),
  },
  {
    id: 'clove-hitch-backed',
    name: 'Backed clove hitch',
    aliases: ['clove hitch and a half hitch'],
    class: 'hitch',
    family: 'Half hitches',
    useGrade: 'load-bearing',
    summary: 'A clove hitch that cannot creep off: its end makes one half hitch more, round the standing part.',
    cautions: ['Draw the half hitch close to the spar; it keeps the clove hitch, it does not take its load.'],
    figure: () => woven([{ points: BACKED, weave: 'UOUOUOUOUOUOUO' }], [spar(0, 24)]),
  },
  {
    id: 'sling-hitch',
    name: 'Sling cow hitch',
    aliases: ['girthed sling'],
    class: 'sling',
    family: 'Half hitches',
    useGrade: 'load-bearing',
    summary: 'A sling round a spar, its one bight drawn through the other: both legs leave together under the bridge.',
    cautions: [
      'Both legs must be loaded: on one alone it slides.',
      'It weakens the sling where it bends: the sharper the edge, the more.',
    ],
    figure: () =>
      layered(
        [{ points: slingRound(1, 1.4).map(([x, y, h]) => [y, x, h] as const), closed: true, eyes: [0] }],
        [spar(0, 24)],
      ),
  },
  {
    id: 'cow-hitch',
    name: 'Cow hitch',
    aliases: ['lark’s head'],
    class: 'hitch',
    family: 'Half hitches',
    summary: 'Two turns on a spar that run against each other: both ends leave under one bight.',
    cautions: ['It slides and works loose when one end alone is loaded; never for people.'],
    figure: () =>
      woven(
        [
          {
            points: [[-3, 20], [-3, 11], ...COW, [3, 11], [4, 17], [7, 21]],
            weave: COW_WEAVE,
          },
        ],
        [spar(0, 20)],
      ),
  },
  {
    id: 'two-half-hitches',
    name: 'Two half hitches',
    class: 'hitch',
    family: 'Half hitches',
    summary:
      'The end goes round the spar and makes two half hitches the same way round its own standing part: a clove hitch about it.',
    figure: () => twoHalfHitches(1),
  },
  {
    id: 'reversed-half-hitches',
    name: 'Two half hitches, second reversed',
    aliases: ['cow hitch about the standing part'],
    class: 'hitch',
    family: 'Half hitches',
    summary: 'The second half hitch runs the other way: a cow hitch about the standing part. It works loose.',
    cautions: ['It works loose: lay both hitches the same way round.'],
    figure: () => aboutItself(1, COW, 'OUUO', COW_WEAVE, tailRight),
    wrongWayOf: { id: 'two-half-hitches', tell: 'Both parts leave the hitches on one side, under one bight.' },
  },
  {
    id: 'round-turn-two-half-hitches',
    name: 'Round turn and two half hitches',
    class: 'hitch',
    family: 'Half hitches',
    useGrade: 'load-bearing',
    summary: 'A round turn takes the load, two half hitches the same way round hold the end.',
    figure: () => twoHalfHitches(2),
  },
  {
    id: 'anchor-hitch',
    name: 'Anchor hitch',
    aliases: ['anchor bend', 'fisherman’s hitch'],
    class: 'hitch',
    family: 'Half hitches',
    useGrade: 'load-bearing',
    summary:
      'A round turn that traps its own end, and a half hitch: it holds on a ring or spar while the pull comes and goes.',
    cautions: ['Seize the tail to the standing part where it stays for long.'],
    figure: () => layered([{ points: ANCHORED }], [spar(0, 24)]),
    texts: { 3: 'Tuck it under the second turn, against the spar.' },
  },
  {
    id: 'cats-paw',
    name: 'Cat’s paw',
    class: 'hitch',
    family: 'On a hook',
    useGrade: 'load-bearing',
    summary:
      'Hangs the bight of a rope or sling on a hook: two ears, each twisted at least three times away from the other.',
    cautions: ['At least three twists each side, both legs under load.', 'On an open hook: mouse the hook.'],
    figure: () => catsPaw(3),
    halts: [
      [
        0,
        END,
        'Fold a bight back over both standing parts: two loops. Twist each of them three times away from the other, and hang both on the bar.',
      ],
    ],
  },
];
