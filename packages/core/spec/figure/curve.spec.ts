import fc from 'fast-check';
import {
  atLength,
  curveOf,
  distance,
  fitPath,
  lengthOf,
  lengthTo,
  noHistory,
  pathData,
  pointAt,
  record,
  redo,
  stretch,
  undo,
  type Point,
} from '../../src/index.js';
import { anyFigure, rope } from '../support/figures.js';

describe('the curve of a rope', () => {
  it('goes through its control points', () => {
    fc.assert(
      fc.property(anyFigure, (figure) => {
        for (const r of figure.ropes)
          r.points.forEach((p, i) => expect(distance(pointAt(curveOf(r), i), p)).toBeLessThan(1e-9));
      }),
    );
  });
  it('is cut exactly where it is asked', () => {
    fc.assert(
      fc.property(
        anyFigure,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (figure, s, t) => {
          const curve = curveOf(figure.ropes[0]!);
          const [from, to] = [Math.min(s, t) * curve.pieces.length, Math.max(s, t) * curve.pieces.length];
          fc.pre(to - from > 0.01);
          const pieces = stretch(curve, from, to);
          expect(distance(pieces[0]![0], pointAt(curve, from))).toBeLessThan(1e-6);
          expect(distance(pieces.at(-1)![3], pointAt(curve, to))).toBeLessThan(1e-6);
          expect(pathData(pieces)).toMatch(/^M-?[\d.]+ -?[\d.]+C/);
        },
      ),
    );
  });
  it('finds the position at a length and the length at a position', () => {
    const curve = curveOf(
      rope('a', [
        [0, 0],
        [10, 0],
        [10, 10],
        [0, 10],
      ]),
    );
    for (const at of [0, 0.4, 1, 1.7, 2.9, 3]) expect(atLength(curve, lengthTo(curve, at))).toBeCloseTo(at, 6);
    const straight = curveOf(
      rope(
        'b',
        [
          [0, 0],
          [10, 0],
          [10, 10],
        ],
        { curve: 'straight' },
      ),
    );
    expect(lengthOf(straight)).toBeCloseTo(20, 9);
    expect(lengthTo(straight, 1.5)).toBeCloseTo(15, 9);
  });
  it('of a closed rope comes back to its start', () => {
    const curve = curveOf(
      rope(
        'a',
        [
          [0, 0],
          [10, 0],
          [10, 10],
          [0, 10],
        ],
        { closed: true },
      ),
    );
    expect(curve.pieces.length).toBe(4);
    expect(distance(pointAt(curve, 4), [0, 0])).toBeLessThan(1e-9);
  });
});

describe('fitting a hand-drawn path', () => {
  it('keeps few points and stays near the hand', () => {
    const circle = Array.from({ length: 300 }, (_, i): Point => [10 * Math.cos(i / 50), 10 * Math.sin(i / 50)]);
    const fitted = fitPath(circle);
    expect(fitted.length).toBeLessThan(30);
    const curve = curveOf(rope('a', fitted));
    for (let at = 0; at <= curve.pieces.length; at += 0.1)
      expect(Math.abs(Math.hypot(...pointAt(curve, at)) - 10)).toBeLessThan(0.35);
    expect(fitted[0]).toEqual(circle[0]);
    expect(fitted.at(-1)).toEqual(circle.at(-1));
  });
});

describe('history', () => {
  it('undoes a group at once and does it again', () => {
    // The states a, b, c, d; b to d in one drag.
    let h = noHistory<string>();
    h = record(h, 'a');
    h = record(h, 'b', 'drag');
    h = record(h, 'c', 'drag');
    const back = undo(h, 'd')!;
    expect(back.state).toBe('b');
    expect(undo(back.history, 'b')!.state).toBe('a');
    expect(undo(undo(back.history, 'b')!.history, 'a')).toBeUndefined();
    const forth = redo(back.history, 'b')!;
    expect(forth.state).toBe('d');
    expect(forth.history).toEqual(h);
    // A change after an undo begins anew, even one of the same drag.
    expect(record(back.history, 'b', 'drag')).toEqual({
      past: [...back.history.past, { state: 'b', group: 'drag' }],
      future: [],
    });
    expect(redo(record(back.history, 'b'), 'x')).toBeUndefined();
  });
});
