/**
 * Figures for tests: random drawings, and the demo's.
 */
import fc from 'fast-check';
import { readFileSync, readdirSync } from 'node:fs';
import {
  changeMethod,
  crossingsOf,
  curveOf,
  meetings,
  nearestOn,
  readKnotText,
  weaveFigure,
  type Figure,
  type KnotDocument,
  type LayoutEdit,
  type Method,
  type MethodEdit,
  type Point,
  type Rope,
} from '../../src/index.js';

const demoFolder = new URL('../../../../demo/', import.meta.url);

export function demoKnot(file: string): KnotDocument {
  const read = readKnotText(readFileSync(new URL(file, demoFolder), 'utf8'));
  if (!read.ok) throw new Error(`${file}: ${read.place}: ${read.reason}`);
  return read.value;
}

/** A method after an edit that must be taken, of its first layout or of the one named. */
export const edited = (method: Method, edit: LayoutEdit | MethodEdit, layout = 0): Method => {
  const done = changeMethod(method, layout, edit);
  if (!done.ok) throw new Error(`${done.place}: ${done.reason}`);
  return done.value;
};

/** A demo knot in its first layout only. */
export function openKnot(file: string): KnotDocument {
  const knot = demoKnot(file);
  const done = changeMethod(knot.method, 1, { kind: 'remove-layout' });
  const { name: _name, ...method } = done.ok ? done.value : knot.method;
  return { ...knot, method };
}

export const demoFiles = readdirSync(demoFolder).filter((f) => f.endsWith('.json'));

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

/** A rope or two laid anyhow, with any weave; its standing end comes in from far outside. */
export const anyFigure: fc.Arbitrary<Figure> = fc
  .record({
    a: points(4, 8),
    b: fc.option(points(3, 5), { nil: undefined }),
    spar: fc.boolean(),
    flips: fc.array(fc.boolean(), { minLength: 200, maxLength: 200 }),
    straight: fc.boolean(),
  })
  .map(({ a, b, spar, flips, straight }) => {
    const curve = straight ? 'straight' : 'smooth';
    const figure: Figure = {
      ropes: [rope('a', [[-30, 0.3], ...a], { curve }), ...(b ? [rope('b', [[30, -0.7], ...b], { curve })] : [])],
      hosts: spar
        ? [
            {
              id: 'spar',
              kind: 'spar',
              points: [
                [-60, 0.11],
                [60, 0.17],
              ],
            },
          ]
        : [],
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
