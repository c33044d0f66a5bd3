/**
 * The overhand family: the n-turn overhand, the noose and the slip knot made of it, the water knot that follows it, the double
 * fisherman's of two of them.
 */
import { barrel, barrelWeave, coil, CORE, PITCH, throughBarrel, type Figure, type Raised } from '@foxtrail/core';
import {
  bands,
  layered,
  overhandRound,
  OVERHAND_TURN as TURN,
  reversed,
  ropesOf,
  withTails,
  type Laid,
} from '../lay.js';
import { END, type PatternSource } from '../pattern.js';
import { asBend, asLoop } from './doubled.js';

/** An overhand, opened wide. */
const OVERHAND: Laid = {
  points: [
    [-18, 1.2],
    [-11, 0.5],
    [-5, 0],
    [0, 0],
    [3.2, 0],
    [6.4, 0],
    [9.6, -1.6],
    [10, -4.8],
    [7.4, -7],
    [3.2, -7.6],
    [0, -7.4],
    [-2.2, -5.6],
    ...coil(1, 2.8),
    [6.2, -3],
    [8, -6.2],
    [10.8, -10.2],
    [16.4, -13.4],
    [23.4, -15],
  ],
  weave: 'UOUOUO',
};

/**
 * An overhand of n turns: the rope runs along its own core, turns back over it, winds n times round the core through the loop this
 * makes, and leaves through the loop.
 */
function overhand(n: number): Figure {
  const far = n * TURN;
  const points: Raised[] = [
    [-6.5, 0.5, 0],
    [-4, 0.2, 0],
    [-1.6, 0, 0],
    [far / 2, 0, 0],
    [far + 0.6, 0, 0],
    [far + 3, -0.9, 0],
    [far + 3.5, -3, 0],
    [far + 1.6, -4.7, 0],
    [far / 2, -5, 0],
    [0.2, -4.7, 0],
    [-1.5, -3.4, 0],
    [-0.9, -1.6, 0.5],
    [0.6, 0, 1],
    ...bands(n, { x: -0.1, core: 0, reach: 1.9, pitch: TURN }).slice(2),
    [far + 0.1, -2.2, 0.4],
    [far + 0.9, -4.9, 1],
    [far + 2.2, -6.9, 1],
    [far + 4, -8.2, 1],
    [far + 6, -8.8, 1],
  ];
  return withTails(layered([{ points }]));
}

/** A noose: the end goes round a loop and winds back round its own standing part, n times. */
function noose(n: number): Laid {
  const far = n * PITCH;
  return {
    points: [
      [far + 24, -2.2],
      [far + 14, -1.5],
      [far + 5, -CORE],
      [far / 2, -CORE],
      [0, -CORE],
      [-5, -2.2],
      [-10, -4.8],
      [-15, -4.6],
      [-18, 0],
      [-15, 4.6],
      [-10, 4.8],
      [-5, 2.2],
      ...barrel(n),
    ],
    weave: throughBarrel(n) + barrelWeave(n),
    eyes: [8],
  };
}

/** Distance from a strand to the middle of the two that the tail goes round. */
const APART = 1.2;

/** A noose whose loop, above it, is closed on its own end. */
function threeLobed(): Figure {
  const [own, far] = [APART, TURN];
  // Along the two strands, downwards, and across them.
  const barrelled: Raised[] = [
    [-3, own + 0.2, 0],
    ...overhandRound(1, { own, reach: 2.8, low: 0 }),
    [far + 1.2, -8, 1],
    [far - 1, -10.2, 1],
    [-4, -10.4, 1],
    [-9.6, -9, 0],
  ];
  const points: Raised[] = [
    [-1.5, 13, 0],
    [-1.3, 10, 0],
    [-APART, 4, 0],
    [-APART, 0, 0],
    [-1.4, -3, 0],
    [-3.2, -6, 0],
    [-4.4, -9.6, 0],
    [-3, -13.6, 0],
    [0, -15, 0],
    [3, -13.6, 0],
    [4.4, -9.6, 0],
    [3.2, -6, 0],
    ...barrelled.map(([along, across, h]): Raised => [across, along, h]),
    [-6.6, -10.8, -1],
    [-3.6, -11, -1],
    [0, -10.6, 0],
    [3.6, -10.2, 1],
    [6.4, -9.6, 1],
    [9, -9, 1],
  ];
  const near = points.map(([x, y, h]): Raised => [0.78 * x, 0.78 * y, h]);
  return withTails(layered([{ points: near }]));
}

const turnWord = ['', 'one turn', 'two turns', 'three turns'];

const nooses = [1, 2, 3].map((n): PatternSource => {
  return {
    id: n === 1 ? 'noose' : `noose-${n}`,
    name: n === 1 ? 'Noose' : `Noose of ${turnWord[n] as string}`,
    aliases: n === 1 ? ['running knot'] : n === 2 ? ['two-turn noose'] : ['three-turn noose'],
    class: 'noose',
    family: 'Overhand',
    summary: `A loop that closes when its standing part is pulled: an overhand of ${turnWord[n] as string} tied with the end round the standing part.`,
    cautions: ['It tightens on whatever is in it: never round a body, a limb or a neck.'],
    figure: () => ({ ropes: ropesOf([noose(n)]), hosts: [] }),
  };
});

const stoppers = [1, 2, 3].map((n): PatternSource => {
  return {
    id: ['', 'overhand', 'double-overhand', 'triple-overhand'][n] as string,
    name: ['', 'Overhand knot', 'Double overhand knot', 'Triple overhand knot'][n] as string,
    aliases: [[], ['simple knot'], ['two-turn overhand'], ['three-turn overhand', 'barrel']][n],
    class: 'stopper',
    family: 'Overhand',
    summary: `Keeps an end from running out. The overhand of ${turnWord[n] as string}.`,
    ...(n === 1
      ? { figure: () => ({ ropes: ropesOf([OVERHAND]), hosts: [] }) }
      : { figure: () => overhand(n), drawn: true }),
  };
});

/** The overhand that the water knot follows: opened wide enough for two strands. */
function wideOverhand(): Figure {
  const wide: Laid = {
    points: [
      [-24, 2],
      [-15, 1],
      [-8, 0.6],
      [0, 0.4],
      [7, -1],
      [11, -6],
      [8, -12],
      [0, -13.6],
      [-7.6, -11],
      [-8.4, -5.4],
      [-3.6, 0.4],
      [0, 5],
      [4.6, 5.6],
      [6.4, 1],
      [4.4, -4.6],
      [4, -11],
      [8, -17.4],
      [15, -20],
      [24, -20.6],
    ],
    weave: 'UOUOUO',
  };
  return { ropes: ropesOf([wide]), hosts: [] };
}

/** Half of what lies between the two strands that a barrel of the fisherman’s goes round; and between its two barrels. */
const HALF = 1;
const BETWEEN_BARRELS = 3.4;

/** Two barrels of n turns, each round the other rope’s standing part; one is the other turned by half a turn. */
function fishermans(n: number): Figure {
  const far = n * TURN;
  const points: Raised[] = [
    [-far - BETWEEN_BARRELS - 6.6, HALF, 0],
    [-far - BETWEEN_BARRELS - 3.6, HALF, 0],
    [-BETWEEN_BARRELS - far / 2, HALF, 0],
    [-BETWEEN_BARRELS, HALF, 0],
    [-BETWEEN_BARRELS / 2, HALF, 0],
    ...overhandRound(n, { own: HALF, reach: 2.6, low: -0.2 }),
    [far + 1.8, -7.6, 1],
    [far + 3.6, -8.9, 1],
    [far + 5.6, -9.5, 1],
  ];
  const right = points.map(([x, y, h]): Raised => [x + BETWEEN_BARRELS / 2, y, h]);
  return withTails(layered([{ points: right }, { points: right.map(([x, y, h]): Raised => [-x, -y, h]) }]));
}

/** The half of a double fisherman’s: two turns round another rope that runs on. */
function sliding(): Figure {
  const far = 2 * TURN;
  const other: Raised[] = [-9.6, 0, far / 2, far + 6, far + 10].map((x): Raised => [x, -HALF, 0]);
  const points: Raised[] = [
    [-9.6, HALF, 0],
    [-6, HALF, 0],
    [-3, HALF, 0],
    ...overhandRound(2, { own: HALF, reach: 2.6, low: -0.2 }),
    [far + 1.8, -7.6, 1],
    [far + 3.6, -8.9, 1],
    [far + 5.6, -9.5, 1],
  ];
  return withTails(layered([{ points: other, ends: ['standing', 'standing'] }, { points }]));
}

export const OVERHANDS: readonly PatternSource[] = [
  ...stoppers,
  ...nooses,
  {
    id: 'slip-knot',
    name: 'Slip knot',
    aliases: ['slipped overhand'],
    class: 'noose',
    family: 'Overhand',
    summary: 'A loop that comes away when its tail is pulled: the noose with the moving part exchanged.',
    cautions: ['One pull on the tail lets it go: never where anything hangs on it.'],
    figure: () => {
      const laid = reversed(noose(1));
      return { ropes: ropesOf([{ ...laid, ends: ['standing', 'tail'] }]), hosts: [] };
    },
  },
  {
    id: 'three-lobed-stopper',
    name: 'Three-lobed stopper',
    class: 'stopper',
    family: 'Overhand',
    summary:
      'A thick stopper that sits flat against a hole, three lobes round the rope: a noose closed on its own end.',
    cautions: ['Draw the noose tight first, then pull the standing part until the loop grips the end.'],
    figure: threeLobed,
    drawn: true,
  },
  {
    id: 'water-knot',
    name: 'Water knot',
    aliases: ['ring bend', 'followed overhand bend'],
    class: 'bend',
    family: 'Overhand',
    useGrade: 'load-bearing',
    summary: 'Joins flat webbing: an overhand in one end, followed back by the other, flat and without twist.',
    cautions: ['It creeps under changing load: leave long tails and look at it before each use.'],
    figure: () => asBend(wideOverhand()),
  },
  ...[1, 2, 3].map((n): PatternSource => {
    const many = ['', '', 'two', 'three'][n] as string;
    return {
      id: ['', 'fishermans', 'double-fishermans', 'triple-fishermans'][n] as string,
      name: ['', 'Fisherman’s bend', 'Double fisherman’s bend', 'Triple fisherman’s bend'][n] as string,
      aliases: [[], ['single fisherman’s bend'], ['double overhand bend', 'grapevine bend'], ['triple overhand bend']][
        n
      ],
      class: 'bend',
      family: 'Overhand',
      useGrade: n === 1 ? 'light duty' : 'load-bearing',
      summary:
        n === 1
          ? 'Joins two thin lines: each end ties an overhand round the other, and the two are drawn together.'
          : `Joins two ropes for good: each end ties a ${many}-turn overhand round the other rope.`,
      cautions:
        n === 1
          ? ['It slips in slippery line: give each end a second turn.']
          : [
              'It jams after an extreme load.',
              ...(n === 3 ? ['Lay its three turns one beside the other before you draw it up.'] : []),
            ],
      figure: () => fishermans(n),
      drawn: true,
      halts: [
        [1, 8],
        [0, END],
        [1, END],
      ],
    };
  }),
  {
    id: 'sliding-stopper',
    name: 'Sliding stopper',
    aliases: ['sliding button', 'overhand of two turns round another rope'],
    class: 'hitch',
    family: 'Overhand',
    summary:
      'Slides along another rope and stays where it is drawn tight: an overhand of two turns about it, the half of a double fisherman’s.',
    cautions: ['It stays by friction alone, and creeps: it stops a ring or a tag, not a load.'],
    figure: sliding,
    drawn: true,
  },
  {
    id: 'overhand-loop',
    name: 'Overhand loop',
    aliases: ['overhand on the bight'],
    class: 'loop in the end',
    family: 'Overhand',
    summary: 'A fixed loop tied with a bight: the overhand made in doubled rope.',
    cautions: ['It jams under load and is hard to untie: the eight on the bight is easier.'],
    figure: () => asLoop(wideOverhand(), 'right', 6),
    leads: 'bight',
  },
];
