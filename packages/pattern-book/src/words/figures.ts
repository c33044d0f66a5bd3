/**
 * The small figures of concepts: figure files like any other, whose one step lights what the word names.
 */
import {
  curveOf,
  blankKnot,
  lastAt,
  lengthTo,
  lengthOf,
  atLength,
  hostAt,
  mirror,
  parallelRuns,
  passagesOf,
  writeKnot,
  type Figure,
  type FigureFile,
  type HostKind,
  type TrailSpan,
  type Point,
  type Raised,
  type Rope,
} from '@foxtrail/core';
import { layered, spar, woven } from '../lay.js';
import { SOURCES } from '../sources.js';
import { patternOfConcept } from './knots.js';

interface Shown {
  readonly figure: Figure;
  readonly lit: readonly TrailSpan[];
}

const of = (pattern: string): Figure => {
  const source = SOURCES.find((s) => s.id === pattern);
  if (!source) throw new Error(`there is no pattern ${pattern}`);
  return source.figure();
};
const rope = (figure: Figure, index = 0): Rope => figure.ropes[index] as Rope;

/** A pattern, with nothing or with some of it lit. */
const all =
  (pattern: string, lit: (figure: Figure) => readonly TrailSpan[] = () => []): (() => Shown) =>
  () => {
    const figure = of(pattern);
    return { figure, lit: lit(figure) };
  };
const drawn =
  (figure: () => Figure, lit: (figure: Figure) => readonly TrailSpan[] = () => []): (() => Shown) =>
  () => {
    const made = figure();
    return { figure: made, lit: lit(made) };
  };

/** Half a diameter is left between a lit stretch and the crossing where it ends, so that it is seen to end there. */
const SHORT = 0.9;

/** The stretch of a rope between two of its passages; −1 is its beginning, and the number of passages its end. */
const run =
  (from: number, to: number, index = 0) =>
  (figure: Figure): TrailSpan[] => {
    const r = rope(figure, index);
    const passages = passagesOf(figure, r.id);
    const curve = curveOf(r);
    const at = (n: number, aside: number): number => {
      const k = n < -1 ? passages.length + 1 + n : n;
      if (k < 0) return 0;
      const p = passages[k];
      return p ? atLength(curve, Math.min(lengthOf(curve), Math.max(0, lengthTo(curve, p.at) + aside))) : lastAt(r);
    };
    return [{ strand: r.id, from: at(from, SHORT), to: at(to, -SHORT) }];
  };
/** From one share of a rope's length to another. */
const share =
  (from: number, to: number, index = 0) =>
  (figure: Figure): TrailSpan[] => {
    const r = rope(figure, index);
    const curve = curveOf(r);
    return [{ strand: r.id, from: atLength(curve, from * lengthOf(curve)), to: atLength(curve, to * lengthOf(curve)) }];
  };
const both =
  (...parts: readonly ((figure: Figure) => readonly TrailSpan[])[]) =>
  (figure: Figure): TrailSpan[] =>
    parts.flatMap((p) => [...p(figure)]);
const parallel = (figure: Figure): TrailSpan[] =>
  parallelRuns(figure)
    .slice(0, 3)
    .flatMap(({ a, b }) =>
      [a, b].map(({ strand, at }) => {
        const r = figure.ropes.find((x) => x.id === strand) as Rope;
        return { strand, from: Math.max(0, at - 2.2), to: Math.min(lastAt(r), at + 2.2) };
      }),
    );

const one = (points: readonly Point[], weave = ''): Figure => woven([{ points, weave }]);
const PLAIN: readonly Point[] = [
  [-13, 2],
  [-8, 0],
  [-3, -1.4],
  [3, 1.4],
  [8, 0],
  [13, -2],
];
const BIGHT: readonly Point[] = [
  [-12, -2.4],
  [-4, -2.4],
  [3, -2.8],
  [7, -1.6],
  [7.8, 0],
  [7, 1.6],
  [3, 2.8],
  [-4, 2.4],
  [-12, 2.4],
];
const LOOP: readonly Point[] = [
  [-12, 4],
  [-5, 2.6],
  [1, 1.4],
  [5.6, -1.4],
  [6.2, -5.2],
  [3, -7.6],
  [-0.8, -6],
  [-1.6, -2],
  [0.6, 3],
  [4.6, 7.4],
];
const loop = (weave: 'UO' | 'OU') => (): Figure => one(LOOP, weave);

/** A rope led over a spar and round it by half turns: over and behind by turns. */
const turnsOnSpar =
  (halfTurns: number, pitch = 3) =>
  (): Figure => {
    const points: Raised[] = [[-1.4, -9, 1]];
    for (let k = 0; k <= halfTurns; k += 1) {
      const [x, over] = [k * (pitch / 2), k % 2 === 0];
      const down = over ? 1 : -1;
      points.push([x - 0.2, -1.4 * down, over ? 1 : -1], [x + 0.2, 1.4 * down, over ? 1 : -1]);
      points.push([x + pitch / 4, 2.6 * down, 0]);
    }
    const x = halfTurns * (pitch / 2) + pitch / 2;
    points.push([x + 0.6, halfTurns % 2 === 0 ? 9 : -9, 1]);
    return layered([{ points }], [spar(0, 12)]);
  };

/** A rope that lies over a host of a kind. */
const over = (kind: HostKind) => (): Figure => {
  const host = hostAt(kind, 'host', [0, 0]);
  const points: Raised[] = [
    [-8, -8, 2],
    [-3, -3, 2],
    [0, 0, 2],
    [3, 3, 2],
    [8, 8, 2],
  ];
  return layered([{ points }], [host]);
};

const CROSSED = (): Figure =>
  woven([
    {
      points: [
        [-9, -5],
        [-3, -1.6],
        [3, 1.6],
        [9, 5],
      ],
      weave: 'O',
    },
    {
      points: [
        [-9, 5],
        [-3, 1.6],
        [3, -1.6],
        [9, -5],
      ],
      weave: '',
    },
  ]);
const TWISTED = (): Figure =>
  woven([
    {
      points: [
        [-12, -2],
        [-6, -1.6],
        [-3, 0],
        [0, 1.6],
        [3, 0],
        [6, -1.6],
        [12, -2],
      ],
      weave: 'OU',
    },
    {
      points: [
        [-12, 2],
        [-6, 1.6],
        [-3, 0],
        [0, -1.6],
        [3, 0],
        [6, 1.6],
        [12, 2],
      ],
      weave: '',
    },
  ]);
const ELBOW = (): Figure =>
  one(
    [
      [-12, 3],
      [-6, 2],
      [-3, 0],
      [0, -1.8],
      [3, 0],
      [6.4, 3],
      [9.8, 1.8],
      [9.8, -1.8],
      [6.4, -3],
      [3, 0],
      [0, 1.8],
      [-3, 0],
      [-6, -2],
      [-12, -3],
    ].map(([x, y], i): Point => [x as number, (y as number) + (i > 8 ? 0.01 : 0)]),
    'OUOU',
  );
const SLING = (): Figure =>
  woven([
    {
      points: [
        [-9, 0],
        [-7, -3],
        [0, -3.6],
        [7, -3],
        [9, 0],
        [7, 3],
        [0, 3.6],
        [-7, 3],
      ],
      weave: '',
      closed: true,
    },
  ]);

/** By the concept's id. Concepts without a figure are those that a rope cannot show. */
const FIGURES: Readonly<Record<string, () => Shown>> = {
  end: drawn(() => one(PLAIN), both(share(0, 0.16), share(0.84, 1))),
  'working-end': drawn(loop('UO'), share(0.84, 1)),
  'standing-part': all('overhand', run(-1, 0)),
  tail: all('overhand', run(-2, 99)),
  middle: drawn(() => one(PLAIN), share(0.36, 0.64)),
  strand: all('carrick-bend', run(2, 4)),
  'doubled-strand': all('water-knot', parallel),
  leg: drawn(() => one(BIGHT), both(share(0, 0.34), share(0.66, 1))),
  bight: drawn(() => one(BIGHT), share(0.32, 0.68)),
  loop: drawn(loop('UO'), run(0, 1)),
  'overhand-loop': drawn(loop('UO'), run(0, 1)),
  'underhand-loop': drawn(loop('OU'), run(0, 1)),
  turn: drawn(turnsOnSpar(1)),
  'round-turn': drawn(turnsOnSpar(2)),
  'riding-turn': all('rolling-hitch', (f) => riding(f)),
  elbow: drawn(ELBOW),
  twist: drawn(TWISTED),
  'nipping-turn': all('bowline', (f) => nip(f)),
  collar: all('bowline', (f) => collar(f)),
  eye: all('bowline', (f) => eye(f)),
  coil: drawn(turnsOnSpar(6)),
  'slip-loop': all('slip-knot', (f) => eye(f)),
  crossing: drawn(CROSSED),
  'body-of-knot': all('overhand', run(0, -2)),
  'hitching-turn': all('two-half-hitches', run(-4, -2)),
  tie: all('overhand'),
  'bend-on': all('sheet-bend'),
  'cast-a-hitch': all('clove-hitch'),
  retrace: all('followed-eight', parallel),
  'double-rope': drawn(() => one(BIGHT)),
  wind: drawn(turnsOnSpar(6)),
  taut: drawn(() =>
    one([
      [-13, 0],
      [-6, 0],
      [0, 0],
      [6, 0],
      [13, 0],
    ]),
  ),
  slack: drawn(() =>
    one([
      [-13, -2],
      [-9, 2],
      [-4, 4],
      [2, 3],
      [6, -1],
      [9, 2.6],
      [13, -2],
    ]),
  ),
  slipped: all('slip-knot'),
  'right-handed': all('overhand'),
  'left-handed': drawn(() => mirror(of('overhand'))),
  mirrored: drawn(() => mirror(of('bowline'))),
  doubled: all('water-knot', parallel),
  knot: all('overhand'),
  bend: all('sheet-bend'),
  hitch: all('clove-hitch'),
  'loop-knot': all('bowline'),
  'mid-rope-loop': all('butterfly'),
  noose: all('noose'),
  'adjustable-loop': all('taut-line-hitch'),
  'stopper-knot': all('figure-eight'),
  'binding-knot': all('reef'),
  'friction-hitch': all('prusik'),
  sling: drawn(SLING),
  rope: drawn(() => one(PLAIN)),
  cord: drawn(() => one(PLAIN.map(([x, y]): Point => [x * 2.2, y * 2.2]))),
  spar: drawn(over('spar')),
  post: drawn(over('post')),
  ring: drawn(over('ring')),
  carabiner: drawn(over('carabiner')),
  hook: drawn(over('hook')),
  hand: drawn(over('hand')),
};

/** Passages of a rope with itself where both belong to it, first passages first. */
const selfPassages = (figure: Figure): readonly { readonly at: number; readonly other: number }[] =>
  passagesOf(figure, rope(figure).id)
    .filter((p) => p.other.strand === rope(figure).id)
    .map((p) => ({ at: p.at, other: p.other.at }));

/** A bowline’s nipping turn: between the two passages of the crossing that closes its first loop. */
function nip(figure: Figure): TrailSpan[] {
  const closes = selfPassages(figure)
    .filter((p) => p.other > p.at)
    .sort((a, b) => a.other - b.other)[0];
  return closes ? [{ strand: rope(figure).id, from: closes.at + 0.3, to: closes.other - 0.3 }] : [];
}

/** A bowline’s collar: from where the end comes up out of the nipping turn to where it goes down again, round the standing part. */
function collar(figure: Figure): TrailSpan[] {
  const standing = selfPassages(figure)
    .filter((p) => p.other < (nip(figure)[0]?.from ?? 0) && p.at > (rope(figure).eyes?.[0] ?? 0))
    .map((p) => p.at);
  const [first, last] = [Math.min(...standing), Math.max(...standing)];
  return Number.isFinite(first) ? [{ strand: rope(figure).id, from: first - 1.2, to: last + 1.2 }] : [];
}

/** Where a rope lies over its own standing part: the turns that ride. */
function riding(figure: Figure): TrailSpan[] {
  return passagesOf(figure, rope(figure).id)
    .filter((p) => p.over && p.other.strand === rope(figure).id && p.other.at < p.at)
    .map((p) => ({ strand: rope(figure).id, from: p.at - 1.2, to: p.at + 1.2 }));
}

/** The stretch between the passages on either side of the declared eye. */
function eye(figure: Figure): TrailSpan[] {
  const r = rope(figure);
  const at = r.eyes?.[0];
  if (at === undefined) return [];
  const passages = passagesOf(figure, r.id).map((p) => p.at);
  const before = passages.filter((p) => p < at).at(-1) ?? 0;
  const after = passages.find((p) => p > at) ?? lastAt(r);
  return [{ strand: r.id, from: before + 0.3, to: after - 0.3 }];
}

const files = new Map<string, FigureFile | undefined>();

/** The figure file of a concept, if it has one. */
export function figureOfConcept(id: string): FigureFile | undefined {
  if (!files.has(id)) files.set(id, drawFile(id));
  return files.get(id);
}

function drawFile(id: string): FigureFile | undefined {
  const pattern = patternOfConcept(id);
  const shown = pattern !== undefined && SOURCES.some((s) => s.id === pattern) ? all(pattern)() : FIGURES[id]?.();
  if (!shown) return undefined;
  const { figure, lit } = shown;
  const finish = [{ kind: 'check' as const, ...(lit.length > 0 ? { lit } : {}) }];
  return writeKnot({ ...blankKnot(id), method: { figure, leaders: [], halts: [], finish } });
}
