/**
 * The eights: a loop whose end winds round its standing part before it goes through, n half turns of it.
 */
import type { Figure, Point, Rope } from '@foxtrail/core';
import { beside, ropeLength, ropesOf, times, wovenLike, type Laid } from '../lay.js';
import type { PatternSource } from '../pattern.js';

/** Distance along the standing part from one crossing of the winding to the next. */
const STEP = 4;

/**
 * The standing part comes up from below, turns over to the left in a loop, the end winds n half turns down the standing part, goes
 * up at the left and out through the loop. Two half turns make the eight, four the stevedore.
 */
function twisted(n: number, k = 1): Laid {
  const low = (n - 1) * STEP;
  const swing = Array.from({ length: n }, (_, i): Point[] => {
    const side = i % 2 === 0 ? 1 : -1;
    return [
      [side * 3.1, (i + 0.24) * STEP],
      [side * 3.1, (i + 0.76) * STEP],
    ];
  }).flat();
  const points: Point[] = [
    [0, low + 20],
    [0.2, low + 11],
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
    [-10.5, -18.6],
    [-18, -20.2],
  ];
  return { points: points.map(([x, y]): Point => [x * k, y * k]), weave: times('OU', n + 2) };
}

const eight = (k = 1): Figure => ({ ropes: ropesOf([twisted(2, k)]), hosts: [] });

/** The eight doubled: out along one side of it, round an eye beyond its end, and back along the other side. */
function followedEight(mirrorLead: boolean): Figure {
  const single = eight(1.75);
  const rope = single.ropes[0] as Rope;
  const whole = ropeLength(rope);
  const end = whole - 10;
  const side = mirrorLead ? -1.1 : 1.1;
  const out = beside(rope, 0, end, { aside: side, backwards: false });
  const back = beside(rope, 0, end, { aside: -side, backwards: true });
  const [p, q] = [out.at(-1) as Point, back[0] as Point];
  // The eye bulges the way the two strands run.
  const [mx, my] = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
  const [ux, uy] = [(p[0] - q[0]) / 2.2, (p[1] - q[1]) / 2.2];
  // The way the eye points: across the line from one strand to the other.
  const [vx, vy] = mirrorLead ? [uy, -ux] : [-uy, ux];
  const bulge = (along: number, across: number): Point => [
    mx + vx * along + ux * across,
    my + vy * along + uy * across,
  ];
  const eye = [
    bulge(4, 2.4),
    bulge(9, 4.6),
    bulge(14, 3.2),
    bulge(15.6, 0),
    bulge(14, -3.2),
    bulge(9, -4.6),
    bulge(4, -2.4),
  ];
  const laid: Laid = { points: [...out, ...eye, ...back], weave: '', eyes: [out.length + 3] };
  return wovenLike(single, ropesOf([laid]), [], 4.5);
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
    figure: () => ({ ropes: ropesOf([twisted(4)]), hosts: [] }),
  },
  {
    id: 'eight-on-the-bight',
    name: 'Figure eight on the bight',
    aliases: ['eight loop'],
    class: 'loop in the end',
    family: 'Eight',
    useGrade: 'load-bearing',
    summary: 'A fixed loop tied with a bight: the eight made in doubled rope.',
    figure: () => followedEight(false),
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
    figure: () => followedEight(true),
  },
];
