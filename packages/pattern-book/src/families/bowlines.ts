/**
 * The bowlines: a nipping turn in the standing part round a bight of the end.
 */
import { curveOf, lengthTo, type Figure, type Point, type Raised, type Rope } from '@foxtrail/core';
import { beside, layered, ropesOf, withTails, woven, wovenLike, type Laid } from '../lay.js';
import { END, type PatternSource } from '../pattern.js';
import { NIP as NIPPING, STANDING } from './nip.js';
import { FLIPPED, ONE_HANDED } from './other-ways.js';

/** The bowline: the nipping turn is laid first, the eye goes down at the left and comes back up through it. */
const NIP: readonly Point[] = [
  [0, -26],
  [0, -16],
  [0, -9],
  [-1.8, -4.6],
  [-5.6, -1],
  [-6, 3],
  [-2.6, 5.6],
  [2.6, 5.6],
  [6.4, 3],
  [6, -2.4],
  [2.4, -5.4],
  [-2.4, -5.6],
  [-8, -4],
  [-11, 3],
];

/** Crossings of the nipping turn: the standing part over the collar, then the turn round itself. */
const NIPPED = 'OUUOOUOU';

const EYE: readonly Point[] = [
  [-12, 12],
  [-9, 20],
  [-1, 23.4],
  [6, 20],
  [6.6, 13],
];

/** Up through the nipping turn at the right, round behind the standing part, and down at the left. */
const COLLAR: readonly Point[] = [
  [3.6, 7.6],
  [2.4, 2],
  [2.8, -4],
  [3.2, -9],
  [0.4, -13],
  [-3.4, -10.6],
  [-4.2, -6],
  [-3.4, -1.6],
  [-2.4, 3],
];

/** The end round the standing part by its collar: the tail is inside the eye. Drawn so many times as large. */
function tailInside(weave: string, large = 1): Figure {
  const points: Point[] = [...NIP, ...EYE, ...COLLAR, [-3, 9], [-4.4, 14], [-2.6, 19.4]];
  return woven([{ points: points.map(([x, y]) => [x * large, y * large]), weave, eyes: [16] }]);
}

/** Eye and collar the other way round: up at the left, and down at the right beside the eye. */
const OTHER_WAY: readonly Point[] = [
  [-12, 12],
  [-9.6, 20],
  [-4, 23.4],
  [0, 19.4],
  [-0.6, 12.6],
  [-2.6, 7.6],
  [-2.4, 2],
  [-3.4, -1.6],
  [-4.2, -6],
  [-3.4, -10.6],
  [-0.4, -13],
  [3.2, -9],
  [2.8, -4],
  [2.4, 2],
];

/** The end round the standing part the other way: the tail is outside the eye. */
function tailOutside(): Figure {
  const points: Point[] = [...NIP, ...OTHER_WAY, [4.4, 8], [8.4, 13], [14, 16.6]];
  return woven([{ points, weave: `${NIPPED}UOOUOU`, eyes: [16] }]);
}

/** The bowline, its tail outside, round its own standing part, which comes through the eye from the left. */
function running(): Figure {
  const noose: readonly Point[] = [
    [-34, 21],
    [-24, 19],
    [-16, 17.4],
    [-6, 16.8],
    [6, 17],
    [17, 13],
    [23, 3],
    [21, -12],
    [13, -23],
    [5, -26],
    [0.6, -21],
  ];
  const points: Point[] = [...noose, ...NIP.slice(1), ...OTHER_WAY, [3.6, 7], [7, 10.4], [13.4, 10.2]];
  return woven([{ points, weave: `OU${NIPPED}UOUOOUOU`, eyes: [7] }]);
}

/** How much nearer to each other the strands of the double-nip bowline are drawn than they are laid. */
const NEAR = 0.59;

/** Two loops the same way, the second behind the first; the end goes through both, as it does through the one of the bowline. */
function doubleNip(): Figure {
  const opened: Raised[] = [
    ...STANDING,
    ...NIPPING,
    [-11.6, -1, 0],
    [-11, 6, -0.6],
    [-6, 12, -0.6],
    [0, 13.6, -0.6],
    [6.4, 11.4, -0.6],
    [8.4, 6, -0.6],
    [5, 1, -0.6],
    [0, -0.4, -0.6],
    [-6, -0.2, -0.3],
    [-12, 1.6, 0.3],
    [-16, 8, 0],
    [-16, 18, 0],
    [-9, 27, 0],
    [0, 29, 0],
    [6, 25, 0],
    [5, 18.6, 0],
    [2.6, 13, -3],
    [2.2, 8, -3],
    [2.2, 3.4, 0],
    [2.4, -1, 3],
    [2.8, -7, 3],
    [3, -11, 1],
    [0.4, -15, -3],
    [-3.4, -13, 1],
    [-4.4, -8, 3],
    [-3.8, -4, 3],
    [-2.6, -0.4, 3],
    [-2.4, 3.4, 0],
    [-2.4, 8, -3],
    [-2.6, 13, -3],
    [-3.4, 18.4, 0],
    [-4, 23, 0],
    [-1.6, 25.6, 0],
  ];
  const points = opened.map(([x, y, h]): Raised => [x * NEAR, y * NEAR, h]);
  return withTails(layered([{ points, eyes: [25] }]));
}

/** How much wider than the plain one the bowline is laid that is tied in doubled rope, how near it is drawn, and what of its lead is not. */
const WIDE = 1.6;
const DRAWN = 0.62;
const LEAD = 16;

/** The eye of the first standing part, laid over the other to the right of it. */
const FIRST_EYE: readonly Point[] = [
  [-19.2, 9.6],
  [-17.2, 12.6],
  [-12.4, 14],
  [-6, 15],
  [-1, 18.4],
  [1, 23.4],
  [5.6, 26],
  [9.8, 23],
  [9.6, 17.6],
];
const SECOND_EYE: readonly Point[] = [
  [-4.6, 11],
  [-5.2, 16.4],
  [-6.4, 21.4],
  [-9, 25.4],
  [-12.6, 26],
  [-15.8, 22.6],
  [-17, 17],
  [-17.4, 11.6],
];

/** A bowline in doubled rope whose bight goes round both standing parts: two nipping turns side by side, an eye to each. */
function onTheBight(): Figure {
  const single = tailInside(`${NIPPED}UOUOOU`, WIDE);
  const [rope] = single.ropes as [Rope];
  const nip = lengthTo(curveOf(rope), NIP.length - 0.8);
  const out = beside(rope, LEAD, nip, { aside: -1.1, backwards: false });
  const back = beside(rope, LEAD, nip, { aside: 1.1, backwards: true });
  const collar = COLLAR.map(([x, y]): Point => [x * WIDE, y * WIDE]);
  const points = [...out, ...FIRST_EYE, ...collar, ...SECOND_EYE, ...back];
  const laid: Laid = {
    points,
    weave: '',
    ends: ['standing', 'standing'],
    eyes: [out.length + 6, points.length - back.length - 3],
  };
  const wide = wovenLike(single, ropesOf([laid]), [], 5);
  const ropes = wide.ropes.map((r): Rope => ({
    ...r,
    points: r.points.map(([x, y]): Point => [x * DRAWN, y * DRAWN]),
  }));
  return { ...wide, ropes };
}

const wrongFirst = 'OOUOOUUUUOUOOU';

export const BOWLINES: readonly PatternSource[] = [
  {
    id: 'bowline',
    name: 'Bowline',
    class: 'loop in the end',
    family: 'Sheet bend and bowline',
    useGrade: 'load-bearing',
    summary:
      'A fixed loop that can be undone after load: a nipping turn in the standing part round a bight of the end.',
    cautions: ['It can shake loose when it is loaded and unloaded in turn: back it up.'],
    wayName: 'Loop first',
    otherWays: [FLIPPED, ONE_HANDED],
    figure: () => tailInside(`${NIPPED}UOUOOU`),
  },
  {
    id: 'bowline-outside',
    name: 'Bowline, tail outside',
    aliases: ['left-handed bowline'],
    class: 'loop in the end',
    family: 'Sheet bend and bowline',
    useGrade: 'load-bearing',
    summary: 'The bowline with the end led round the standing part the other way: its tail lies outside the eye.',
    cautions: ['It can shake loose when it is loaded and unloaded in turn: back it up.'],
    figure: tailOutside,
  },
  {
    id: 'running-bowline',
    name: 'Running bowline',
    class: 'noose',
    family: 'Sheet bend and bowline',
    useGrade: 'load-bearing',
    summary: 'A noose that runs freely and comes undone after load: a bowline tied round its own standing part.',
    cautions: ['It tightens on whatever is in it: never round a body, a limb or a neck.'],
    figure: running,
  },
  {
    id: 'double-nip-bowline',
    name: 'Double-nip bowline',
    aliases: ['water bowline'],
    class: 'loop in the end',
    family: 'Sheet bend and bowline',
    useGrade: 'load-bearing',
    summary:
      'A bowline with a second nipping turn behind the first: it jams less when it is wet and shakes loose less.',
    cautions: ['Draw both nipping turns close to each other before it is loaded.'],
    figure: doubleNip,
    drawn: true,
    texts: { 2: 'Make a second overhand loop the same way, and lay it behind the first.' },
  },
  {
    id: 'bowline-on-the-bight',
    name: 'Bowline on the bight',
    class: 'loop in mid-rope',
    family: 'Sheet bend and bowline',
    useGrade: 'load-bearing',
    summary:
      'Two fixed loops in the middle of a rope, no end needed: a bowline in doubled rope, its bight about both parts.',
    cautions: ['Rope can run from one loop to the other through the collar: load both.'],
    figure: onTheBight,
    drawn: true,
    leads: 'bight',
    halts: [
      [0, 51],
      [
        0,
        END,
        'Take the bight up through the loop, open it, drop it round the whole knot, and bring it up behind the standing parts.',
      ],
    ],
  },
  {
    id: 'false-bowline',
    name: 'False bowline',
    aliases: ['slipping bowline'],
    class: 'noose',
    family: 'Sheet bend and bowline',
    summary: 'The bowline with its nipping turn crossed the wrong way: the eye slips.',
    cautions: ['It looks tied and lets go under load: never use it.'],
    figure: () => tailInside(wrongFirst),
    texts: { 1: 'Lay a loop in the rope, the wrong part on top: this is the slip of the hand.' },
    wrongWayOf: {
      id: 'bowline',
      tell: 'The part that goes to the eye lies under the standing part in the nipping turn.',
    },
  },
];
