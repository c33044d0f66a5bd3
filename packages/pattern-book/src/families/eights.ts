/**
 * The eights: a loop whose end winds round its standing part before it goes through, n half turns of it.
 */
import type { Figure, Point } from '@foxtrail/core';
import { ropesOf, times, withTails, type Laid } from '../lay.js';
import type { PatternSource } from '../pattern.js';
import { asBend, asLoop } from './doubled.js';

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
];
