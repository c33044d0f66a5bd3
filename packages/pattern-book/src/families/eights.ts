/**
 * The eights: a loop whose end winds round its standing part before it goes through, n half turns of it.
 */
import type { Figure, Point, Raised } from '@foxtrail/core';
import { layered, ropesOf, times, withTails, type Laid } from '../lay.js';
import { END, type PatternSource } from '../pattern.js';
import { asBend, asLoop, legsAlong } from './doubled.js';

/** Distance along the standing part from one crossing of the winding to the next. */
const STEP = 4;

/** How much of the standing part is drawn, and how far to the side the tail goes. */
const LONG = { lead: 20, tail: 12 };
const SHORT = { lead: 12, tail: 6 };

/**
 * The standing part comes up from below, turns over to the left in a loop, the end winds n half turns down the standing part, goes
 * up at the left and out through the loop. Two half turns make the eight, four the stevedore.
 */
function twisted(n: number, k = 1, { lead, tail } = LONG): Laid {
  const low = (n - 1) * STEP;
  const swing = Array.from({ length: n }, (_, i): Point[] => {
    const side = i % 2 === 0 ? 1 : -1;
    return [
      [side * 3.1, (i + 0.24) * STEP],
      [side * 3.1, (i + 0.76) * STEP],
    ];
  }).flat();
  const points: Point[] = [
    [0, low + lead],
    [0.2, low + (lead + 2) / 2],
    [0, low + 4],
    [0, low / 2],
    [0, -3],
    [-0.4, -7.5],
    [-3.2, -11],
    [-7.4, -10.4],
    [-8.4, -6.4],
    [-5, -3],
    ...swing.slice(0, -2),
    [-3, low + 3],
    [-7.6, low + 2],
    [-10, -1],
    [-8, -5.6],
    [-5.6, -9.6],
    [-6, -14.5],
    [-6 - (4.5 * tail) / 12, -14.5 - (4.1 * tail) / 12],
    [-6 - tail, -14.5 - (5.7 * tail) / 12],
  ];
  return { points: points.map(([x, y]): Point => [x * k, y * k]), weave: times('OU', n + 2) };
}

const eight = (k = 1): Figure => ({ ropes: ropesOf([twisted(2, k)]), hosts: [] });

/** The eight opened wide enough for two strands. */
const wideEight = (): Figure => eight(1.75);

/** Where the bight of the directional eight goes: up, over the standing part and back behind it, through the loop that it left, along the rope. */
const DIRECTED: readonly Raised[] = [
  [0.2, -2.6, 0.5],
  [0, -5, 1],
  [-1, -8.2, 1],
  [-3.6, -9.8, 1],
  [-6.4, -8.2, 0.8],
  [-7.4, -5, 0.4],
  [-7.6, 0, 1],
  [-8.2, 3.6, 0.4],
  [-10.6, 5.4, 0],
  [-13, 3.6, -0.5],
  [-13.4, 0, -1],
  [-12.8, -3.2, 0],
  [-10.6, -4.8, 0.8],
  [-7.4, -4.6, 1.2],
  [-3.6, -4.6, 0.5],
  [0, -4.8, 0],
  [3.4, -5.2, 0],
  [5.8, -5.6, 0],
];

/** An eight of a bight about its own standing part: both parts leave along one line, the eye along the part that it is loaded against. */
function directional(): Figure {
  const [out, back] = legsAlong(DIRECTED);
  const left = [-16.6, -13, -7.6, -3.4].map((x): Raised => [x, 0, 0]);
  const right: readonly Raised[] = [
    [3, -0.6, 0],
    [6, 0, 0],
    [9.6, 0.2, 0],
    [13.2, 0, 0],
  ];
  const eye: readonly Raised[] = [
    [9, -7.2, 0],
    [11.4, -7.9, 0],
    [13.6, -7.4, 0],
    [14.5, -5.8, 0],
    [13.6, -4.2, 0],
    [11.4, -3.7, 0],
    [9, -4.2, 0],
  ];
  const points = [...left, [-1.6, -0.8, 0.2] as const, ...out, ...eye, ...back, ...right];
  return layered([{ points, ends: ['standing', 'standing'], eyes: [left.length + out.length + 4] }]);
}

/** The doubled strand of the eight of two loops: in, up, over, down, round the strand that comes in, and into the loop. */
const TWICE: readonly Raised[] = [
  [-14.6, 4, 0],
  [-9, 4, 0],
  [-3, 4, 0],
  [1.4, 3.8, 0],
  [4.6, 1.6, 0.5],
  [5.4, -2, 0.5],
  [5.6, -7.8, 0.5],
  [5.4, -13.4, 0.5],
  [3.8, -17, 0.5],
  [0.2, -18.6, 0.5],
  [-3.4, -17, 0.5],
  [-4.8, -13, 0.5],
  [-5, -7.8, 0.5],
  [-5, 0, 1],
  [-5.2, 4, 1],
  [-6, 8.2, 0.4],
  [-8.8, 10, 0],
  [-11.4, 8, -0.6],
  [-12, 4, -1],
  [-11.6, -2, 0],
  [-10, -6, 0.6],
  [-7.4, -7.6, 1],
  [-5, -7.8, 1],
  [-2.4, -7.8, 1],
];

/** An eight of doubled rope whose bight stays on the near side: two bights through the loop in its place, it over both. */
function twoLoops(): Figure {
  const [out, back] = legsAlong(TWICE);
  const through: readonly Raised[] = [
    [1.4, -8.85, 0.5],
    [5.6, -8.85, -0.5],
    [11.2, -8.9, 0],
    [14, -9.6, 0],
    [17, -11, 0],
    [18.2, -13.4, 0],
    [16.6, -15.4, 0],
    [14.2, -14.4, 0],
    [13, -12, 0],
    [11.2, -11, 0],
    [5.6, -10.95, -0.5],
    [2.4, -10.95, 0],
    [0.4, -11.2, 0],
    [-0.7, -12.4, 0],
    [0.4, -13.7, 0.6],
    [2.6, -13.9, 1],
    [5.2, -13.9, 1],
    [8.2, -13.9, 1],
    [10.4, -12.8, 0],
    [11.2, -10.4, -1],
    [11.3, -7.8, -1],
  ];
  // The other half is as this one, about the line along which the doubled strand goes in.
  const other = through.slice(0, -1).map(([x, y, h]): Raised => [x, -15.6 - y, h]);
  const points = [...out, ...through, ...other.reverse(), ...back];
  return layered([{ points, eyes: [out.length + 5, out.length + through.length + other.length - 6] }]);
}

export const EIGHTS: readonly PatternSource[] = [
  {
    id: 'figure-eight',
    name: 'Figure eight knot',
    aliases: ['eight', 'Flemish knot'],
    class: 'stopper',
    family: 'Eight',
    summary:
      'A stopper that is easy to see and to undo: the end goes once round the standing part before it goes through.',
    figure: () => eight(),
  },
  {
    id: 'stevedore',
    name: 'Stevedore knot',
    aliases: ['stevedore stopper'],
    class: 'stopper',
    family: 'Eight',
    summary: 'A thicker stopper than the eight: one more wrap round the standing part before the end goes through.',
    figure: () => withTails({ ropes: ropesOf([twisted(4, 0.62, SHORT)]), hosts: [] }),
    drawn: true,
  },
  {
    id: 'eight-on-the-bight',
    name: 'Figure eight on the bight',
    aliases: ['eight loop'],
    class: 'loop in the end',
    family: 'Eight',
    useGrade: 'load-bearing',
    summary: 'A fixed loop tied with a bight: the eight made in doubled rope.',
    figure: () => asLoop(wideEight(), 'right'),
    leads: 'bight',
  },
  {
    id: 'followed-eight',
    name: 'Followed figure eight',
    aliases: ['rewoven eight', 'traced eight'],
    class: 'loop in the end',
    family: 'Eight',
    useGrade: 'load-bearing',
    summary: 'The eight loop tied round something closed: an eight in the standing part, followed back by the end.',
    figure: () => asLoop(wideEight(), 'left'),
  },
  {
    id: 'eight-bend',
    name: 'Figure eight bend',
    aliases: ['followed eight bend'],
    class: 'bend',
    family: 'Eight',
    useGrade: 'load-bearing',
    summary: 'Joins two ropes: an eight in one end, followed back by the other.',
    cautions: ['The two strands lie side by side all the way: where they cross it holds less and jams more.'],
    figure: () => asBend(wideEight(), 6),
  },
  {
    id: 'eight-two-loops',
    name: 'Figure eight with two loops',
    aliases: ['eight of two loops'],
    class: 'loop in the end',
    family: 'Eight',
    useGrade: 'load-bearing',
    summary:
      'Two fixed loops side by side, one made larger as the other shrinks: an eight on the bight whose bight comes to lie over both.',
    cautions: [
      'Rope runs from one loop to the other while the knot is loose: set it before it is loaded, and load both.',
    ],
    figure: () => withTails(twoLoops()),
    drawn: true,
    leads: 'bight',
    halts: [
      [0, 39.7],
      [0, 49.4],
      [
        0,
        END,
        'Draw both strands of the bight through the loop as two loops, the end of the bight short of it. Open that, drop it over both loops, and draw it up behind them.',
      ],
    ],
  },
  {
    id: 'directional-eight',
    name: 'Directional figure eight',
    aliases: ['in-line eight', 'eight loop along the rope'],
    class: 'loop in mid-rope',
    family: 'Eight',
    useGrade: 'load-bearing',
    summary:
      'A loop in mid-rope that is loaded along the rope, one way only: an eight of a bight about its own standing part.',
    cautions: [
      'Load it towards the part that it lies beside, never the other way: turned about, it rolls and spills.',
      'Its bight goes round the part that takes the load, not round the slack one.',
    ],
    figure: directional,
    drawn: true,
    bights: [{ from: 4, to: 77 }],
    halts: [
      [0, 17.5],
      [0, 25],
      [0, END],
      [1, END],
    ],
    dressing: {
      name: 'Loaded on one side',
      pulls: [{ place: { strand: 'a', at: 81 }, pulled: 'slack' }],
    },
  },
];
