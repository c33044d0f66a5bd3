/**
 * Twine on rope: whippings that keep an end from fraying, seizings that bind two parts together. The unit is the diameter of the twine.
 * Laid by height: the rope is at 0, twine in front of it above, behind it below.
 */
import type { Figure, Raised, Rope, TrailPosition, Wrap } from '@foxtrail/core';
import { bands, layered, type LaidInLayers } from '../lay.js';
import { END, type PatternSource } from '../pattern.js';

/** What is whipped or seized against its twine. */
const THICK = 3;

/** From one turn to the next; and the point of the twine at which the first begins. */
const [TURN, FIRST_TURN] = [2.5, 17];

/** A thick rope and the twine about it, n turns laid as one round its parts; both are cut off close. */
function bound(n: number, rope: LaidInLayers, twine: LaidInLayers, about: readonly TrailPosition[]): Figure {
  const [thick, thin] = layered([rope, twine]).ropes as [Rope, Rope];
  const from = FIRST_TURN;
  const wrap: Wrap = { from, to: from + 4 * n + 3, about, turns: n, direction: 'on', first: 'U', spacing: TURN };
  return {
    ropes: [
      { ...thick, cordage: { name: 'rope', diameter: THICK }, trimmed: [false, true] },
      { ...thin, cordage: { name: 'twine', stiffness: 'limp' }, trimmed: [true, true], wraps: [wrap] },
    ],
    hosts: [],
  };
}

/** How far from the middle the legs and the apex of a bight of twine lie, and how far the turns over it reach. */
interface Core {
  readonly leg: number;
  readonly apex: number;
  readonly reach: number;
}
const ONE_ROPE = { leg: 1.05, apex: 1.4, reach: 2.4 };
/** Two parts beside each other, each so far from the middle: the bight in the groove between them. */
const TWO_PARTS = { part: 2.4, leg: 0.65, apex: 1.15, reach: 4.8 };

/** A bight of twine along what is bound, n turns over both its legs, and the twine through the bight. */
function overBight(n: number, { leg, apex, reach }: Core): LaidInLayers {
  const far = n * TURN;
  const low = reach - 2.4;
  const points: Raised[] = [
    [-11, -4.4 - low / 2, 0.5],
    [-8.4, -3.2 - low / 4, 0.5],
    [-5, -leg - 0.5 - low / 8, 0.5],
    [-2, -leg, 0.5],
    [far / 2, -leg, 0.5],
    [far + 1.5, -leg, 0.5],
    [far + 4, -apex, 0.5],
    [far + 5.4, 0.5 - apex, 0.5],
    [far + 5.4, apex - 0.5, 0.5],
    [far + 4, apex, 0.5],
    [far + 1.5, leg, 0.5],
    [far / 2, leg, 0.5],
    [0, leg, 0.5],
    [-3.4, leg + 0.35, 0.5],
    [-5.4, 2.5 + low / 2, 0.3],
    [-6, 4.1 + low, 0],
    [-4.9, 5.2 + low, -0.5],
    [-3.2, 4.5 + low, -0.8],
    [-1.8, 2.2 + low / 2, -1],
    [-0.9, 0, -1],
    ...bands(n, { x: 0, core: 0, reach, pitch: TURN }),
    [far, -reach, 0],
    [far + 1.2, -leg - 0.15, 1],
    [far + 2.2, leg - 0.15, 0.25],
    [far + 3.6, reach + 0.8, 0.2],
    [far + 6, reach + 2.2, 0.2],
    [far + 8, reach + 3.2, 0.2],
  ];
  return { points, ends: ['tail', 'tail'] };
}

/** Twine wound n times round a rope’s end. */
function whipped(n: number): Figure {
  const far = n * TURN;
  const points = [-16, -8, 0, far / 2, far + 4, far + 8].map((x): Raised => [x, 0, 0]);
  return bound(n, { points }, overBight(n, ONE_ROPE), [{ strand: 'a', at: 2.1 }]);
}

/** A rope led back beside itself round an eye, and twine wound n times round both its parts. */
function seized(n: number): Figure {
  const far = n * TURN;
  const y = TWO_PARTS.part;
  const points: Raised[] = [
    ...[-11, -6, 0, far / 2, far + 4].map((x): Raised => [x, -y, 0]),
    [far + 7.6, -3.2, 0],
    [far + 11, -4.6, 0],
    [far + 15, -4.6, 0],
    [far + 18, -2.8, 0],
    [far + 19, 0, 0],
    [far + 18, 2.8, 0],
    [far + 15, 4.6, 0],
    [far + 11, 4.6, 0],
    [far + 7.6, 3.2, 0],
    ...[far + 4, far / 2, 0, -9].map((x): Raised => [x, y, 0]),
  ];
  return bound(n, { points, eyes: [9] }, overBight(n, TWO_PARTS), [
    { strand: 'a', at: 2.1 },
    { strand: 'a', at: 15.9 },
  ]);
}

/** What makes it hold, which no picture of its crossings tells. */
const THROUGH =
  'Lead the twine through the bight. Pull at its other end until the bight has drawn it half way under the turns, and cut both ends close.';

export const LASHED: readonly PatternSource[] = [
  {
    id: 'common-whipping',
    name: 'Common whipping',
    aliases: ['plain whipping'],
    class: 'binding',
    family: 'Whipping and seizing',
    summary:
      'Keeps the end of a rope from fraying: turns of twine over a bight of its own, which draws its end in under them.',
    cautions: [
      'It slides off when it is not tight, or when the rope shrinks under load: look at it each time.',
      'Wind it against the lay of a laid rope, and use twine that does not slip.',
    ],
    figure: () => whipped(5),
    drawn: true,
    halts: [
      [0, END],
      [1, 12.4],
      [1, 40.2],
      [1, END, THROUGH],
    ],
  },
  {
    id: 'flat-seizing',
    name: 'Flat seizing',
    class: 'binding',
    aliases: ['seized eye'],
    family: 'Whipping and seizing',
    summary: 'Binds two parts of rope side by side, here those of an eye: turns of twine over a bight of its own.',
    cautions: [
      'For light loads: where the two parts pull against each other, add turns between them that draw the seizing tight, or use another knot.',
    ],
    figure: () => seized(4),
    drawn: true,
    halts: [
      [0, END],
      [1, 14.2],
      [1, 36.2],
      [1, END, THROUGH],
    ],
  },
];
