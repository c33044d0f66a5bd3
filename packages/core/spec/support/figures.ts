/**
 * Figures for tests: random drawings, and the demo's.
 */
import fc from 'fast-check';
import { DisjointSets } from '../../src/ground/disjoint-sets.js';
import { readFileSync, readdirSync } from 'node:fs';
import {
  applyEdit,
  changeMethod,
  crossingsOf,
  curveOf,
  lastAt,
  meetings,
  nearestOn,
  readKnotText,
  tangleOf,
  weaveFigure,
  type Edit,
  type Figure,
  type Host,
  type KnotDocument,
  type LayoutEdit,
  type Method,
  type MethodEdit,
  type Point,
  type Rope,
} from '../../src/index.js';

const drawnFolder = new URL('../drawn/', import.meta.url);

function knotIn(folder: URL, file: string): KnotDocument {
  const read = readKnotText(readFileSync(new URL(file, folder), 'utf8'));
  if (!read.ok) throw new Error(`${file}: ${read.place}: ${read.reason}`);
  return read.value;
}

/** A knot of the demo, as the application loads it. */
export const demoKnot = (file: string): KnotDocument => knotIn(new URL('../../../../demo/', import.meta.url), file);

/** A knot as it was drawn by hand, with much room between its strands and a second layout drawn tight: nothing settled it. */
export const drawnKnot = (file: string): KnotDocument => knotIn(drawnFolder, file);

/** A method after an edit that must be taken, of its first layout or of the one named. */
export const edited = (method: Method, edit: LayoutEdit | MethodEdit, layout = 0): Method => {
  const done = changeMethod(method, layout, edit);
  if (!done.ok) throw new Error(`${done.place}: ${done.reason}`);
  return done.value;
};

/** A knot drawn by hand in its first layout only. */
export function openKnot(file: string): KnotDocument {
  const knot = drawnKnot(file);
  const done = changeMethod(knot.method, 1, { kind: 'remove-layout' });
  const { name: _name, ...method } = done.ok ? done.value : knot.method;
  return { ...knot, method };
}

export const EMPTY: Figure = { ropes: [], hosts: [] };

/** A figure after edits, one after the other, that must all be taken. */
export const go = (figure: Figure, ...edits: readonly Edit[]): Figure =>
  edits.reduce((f, e) => {
    const done = applyEdit(f, e);
    if (!done.ok) throw new Error(`${e.kind}: ${done.place}: ${done.reason}`);
    return done.value.figure;
  }, figure);

/** A spar across the board. */
export const SPAR: Edit = {
  kind: 'add-host',
  host: {
    id: 'spar',
    kind: 'spar',
    points: [
      [-40, 0],
      [40, 0],
    ],
  },
};

export const drawnFiles = readdirSync(drawnFolder).filter((f) => f.endsWith('.json'));

export const rope = (id: string, points: readonly Point[], more: Partial<Rope> = {}): Rope => ({
  id,
  points,
  curve: 'smooth',
  closed: false,
  ends: ['standing', 'tail'],
  weave: '',
  ...more,
});

const chordAway = (p: Point, a: Point, b: Point): number => {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const t = Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(p[0] - a[0] - t * dx, p[1] - a[1] - t * dy);
};

/** True when no three strands come so close that the order along a strand is a matter of rounding. */
const wellApart = (figure: Figure): boolean => {
  const list = meetings(figure);
  // An end that lies on a strand, or a corner that lies on one, crosses it or not, as one likes.
  const clear = figure.ropes.every((r) =>
    r.points.every((p, i) =>
      [...figure.ropes, ...figure.hosts].every((s) =>
        s !== r
          ? nearestOn(curveOf(s), p).away > 0.05
          : curveOf(s).line.every(
              (q, k, line) =>
                k === 0 ||
                (Math.abs(curveOf(s).lineAt[k]! - i) <= 1 && Math.abs(curveOf(s).lineAt[k - 1]! - i) <= 1) ||
                chordAway(p, line[k - 1]!, q) > 0.05,
            ),
      ),
    ),
  );
  return (
    clear &&
    list.every(
      (m, i) =>
        m.angle > 0.15 &&
        list.slice(i + 1).every((n) => Math.hypot(m.point[0] - n.point[0], m.point[1] - n.point[1]) > 0.15),
    )
  );
};

const coordinate = fc.integer({ min: -80, max: 80 }).map((n) => n / 8);
const point = fc.tuple(coordinate, coordinate);

/** Control points that keep some way from one another along the rope. */
const points = (least: number, most: number): fc.Arbitrary<Point[]> =>
  fc
    .array(point, { minLength: least, maxLength: most })
    .filter((list) => list.every((p, i) => i === 0 || Math.hypot(p[0] - list[i - 1]![0], p[1] - list[i - 1]![1]) > 1));

/** Hosts of every kind, each where ropes laid anyhow are likely to meet it. */
export const HOSTS: readonly Host[] = [
  {
    id: 'spar',
    kind: 'spar',
    points: [
      [-60, 0.11],
      [60, 0.17],
    ],
  },
  {
    id: 'post',
    kind: 'post',
    points: [
      [0.4, 60],
      [1.3, 0.21],
      [2.1, -60],
    ],
  },
  {
    id: 'ring',
    kind: 'ring',
    points: [
      [0.3, -4.1],
      [4.2, 0.2],
      [0.1, 4.3],
      [-4.4, 0.1],
    ],
  },
  {
    id: 'carabiner',
    kind: 'carabiner',
    points: [
      [1.3, -5.2],
      [3.4, -1.1],
      [2.2, 4.6],
      [-1.9, 3.7],
      [-2.6, -3.2],
    ],
  },
  {
    id: 'hook',
    kind: 'hook',
    points: [
      [0.7, -60],
      [0.9, 2.3],
      [3.8, 4.4],
      [6.6, 1.2],
    ],
  },
  {
    id: 'hand',
    kind: 'hand',
    points: [
      [-3.2, 40],
      [-2.9, -5.3],
    ],
  },
];

/**
 * A rope or two laid anyhow, with any weave; the first's standing end comes in from far outside. The second may be a sling, the first
 * may have an eye, and there may be a host of any kind.
 */
export const anyFigure: fc.Arbitrary<Figure> = fc
  .record({
    a: points(4, 8),
    b: fc.option(points(3, 5), { nil: undefined }),
    sling: fc.boolean(),
    eye: fc.option(fc.double({ min: 0.05, max: 0.95, noNaN: true }), { nil: undefined }),
    host: fc.option(fc.constantFrom(...HOSTS), { nil: undefined }),
    flips: fc.array(fc.boolean(), { minLength: 200, maxLength: 200 }),
    straight: fc.boolean(),
  })
  .map(({ a, b, sling, eye, host, flips, straight }) => {
    const curve = straight ? 'straight' : 'smooth';
    const first = rope('a', [[-30, 0.3], ...a], { curve });
    const second =
      b &&
      (sling ? rope('b', b, { curve, closed: true, ends: ['off', 'off'] }) : rope('b', [[30, -0.7], ...b], { curve }));
    const figure: Figure = {
      ropes: [eye === undefined ? first : { ...first, eyes: [eye * lastAt(first)] }, ...(second ? [second] : [])],
      hosts: host ? [host] : [],
    };
    return weaveFigure(figure, (_, i) => flips[i % flips.length]!);
  })
  .filter((f) => wellApart(f) && crossingsOf(f).length <= 24);

/** One rope whose tail comes out at the far side: closing it does not depend on which way it is lifted. */
export const throughRope: fc.Arbitrary<Figure> = fc
  .record({ a: points(4, 8), flips: fc.array(fc.boolean(), { minLength: 60, maxLength: 60 }) })
  .map(({ a, flips }) =>
    weaveFigure({ ropes: [rope('a', [[-30, 0.3], ...a, [30, -0.4]])], hosts: [] }, (_, i) => flips[i % flips.length]!),
  )
  .filter((f) => wellApart(f) && crossingsOf(f).length <= 14);

/** One rope, no hosts. */
export const oneRope: fc.Arbitrary<Figure> = fc
  .record({ a: points(5, 9), flips: fc.array(fc.boolean(), { minLength: 60, maxLength: 60 }) })
  .map(({ a, flips }) =>
    weaveFigure({ ropes: [rope('a', [[-30, 0.3], ...a])], hosts: [] }, (_, i) => flips[i % flips.length]!),
  )
  .filter((f) => wellApart(f) && crossingsOf(f).length <= 14);

/**
 * Figures of which everything can be read: every held end, and every cut at an eye, lies at the outside of the drawing (an end shut in is
 * led out over what lies above it, and the reading is said to be partial), and an eye lies on a loop: a cut there does not part its rope.
 */
export function isReadable(f: Figure): boolean {
  const tangle = tangleOf(f);
  const together = new DisjointSets<number>();
  for (const c of tangle.crossings) together.join(c.over, c.under);
  const partOf = (label: string): number => together.root(tangle.rim.find((p) => p.label === label)!.strand);
  return (
    tangle.buried.length === 0 &&
    f.ropes.every((r) => (r.eyes ?? []).every((_, i) => partOf(`${r.id}.e${i}a`) === partOf(`${r.id}.e${i}b`)))
  );
}

/** The middle line of one rope to and fro over the board and then up and down through itself: so many strands side by side each way. */
export function serpentine(lines: number): Point[] {
  const row = (i: number): Point[] => {
    const far: [Point, Point] = [
      [-4, 4 * i],
      [4 * lines, 4 * i],
    ];
    return i % 2 === 0 ? far : [far[1], far[0]];
  };
  const rows = Array.from({ length: lines }, (_, i) => row(i));
  return [...rows.flat(), ...rows.flatMap((r) => r.map(([along, at]): Point => [4 * lines - 4.5 - at, along]))];
}
