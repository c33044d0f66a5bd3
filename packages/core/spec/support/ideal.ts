/**
 * Closed knots and links in one closed rope or two, as smooth figures, for comparison with known lengths of ideal knots.
 */
import { weaveFigure, type Figure, type Point, type Rope, type TightenOptions } from '../../src/index.js';

const ring = (id: string, points: readonly Point[]): Rope => ({
  id,
  points,
  curve: 'smooth',
  closed: true,
  ends: ['off', 'off'],
  weave: '',
});

const round = (n: number, place: (t: number) => Point): Point[] =>
  Array.from({ length: n }, (_, k) => place((2 * Math.PI * k) / n));

/** A closed curve about an axis whose height is `height` of its parameter: the higher strand is over. */
function woven(n: number, place: (t: number) => Point, height: (t: number) => number): Figure {
  const at = (position: number): number => height((2 * Math.PI * position) / n);
  return weaveFigure({ ropes: [ring('a', round(n, place))], hosts: [] }, (m) => at(m.first.at) > at(m.second.at));
}

/** The torus knot that goes `p` times round the axis and `q` times round the tube. */
export const torusKnot = (p: number, q: number): Figure =>
  woven(
    12 * (p + q),
    (t) => {
      const r = 8 + 3 * Math.cos(q * t);
      return [r * Math.cos(p * t), r * Math.sin(p * t)];
    },
    (t) => Math.sin(q * t),
  );

export const figureEightRing = (): Figure =>
  woven(
    48,
    (t) => {
      const r = 4 * (2 + Math.cos(2 * t));
      return [r * Math.cos(3 * t), r * Math.sin(3 * t)];
    },
    (t) => Math.sin(4 * t),
  );

export const hopfLink = (): Figure => {
  const circle = (id: string, x: number): Rope =>
    ring(
      id,
      round(12, (t) => [x + 4 * Math.cos(t + 0.1), 4 * Math.sin(t + 0.1)]),
    );
  return weaveFigure({ ropes: [circle('a', -2), circle('b', 2)], hosts: [] }, (m) => m.point[1] > 0);
};

/** How a closed rope is drawn as tight as it goes: without stiffness, between beads that are `spacing` diameters apart in the end. */
export const asTightAsItGoes = (spacing: number): TightenOptions => ({
  stages: [() => ({ tension: 1, held: 1 })],
  nudges: [],
  reaches: { end: 9, eye: 6, tail: 3.5 },
  stiffness: 0,
  spacing: 0.35,
  fineSpacing: spacing,
  pullSteps: 1200,
  trimSteps: 0,
  setSteps: 900,
});
