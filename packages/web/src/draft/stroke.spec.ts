import type { Point } from '@foxtrail/core';
import { fitStroke, type Sample } from './stroke';

const along = (from: Point, to: Point, under: boolean): Sample[] =>
  Array.from({ length: 21 }, (_, i) => ({
    point: [from[0] + ((to[0] - from[0]) * i) / 20, from[1] + ((to[1] - from[1]) * i) / 20] as Point,
    under,
  }));

describe('fitting a stroke', () => {
  it('keeps the stretches passed under apart, with a letter for each', () => {
    const { points, pass } = fitStroke([
      ...along([0, 0], [10, 0], false),
      ...along([10, 0], [10, 10], true),
      ...along([10, 10], [0, 10], false),
    ]);
    expect(pass.length).toBe(points.length - 1);
    expect(pass).toMatch(/^O+U+O+$/);
    // The letters change where the key went down and up.
    const at = (letter: number): Point => points[letter]!;
    expect(Math.hypot(at(pass.indexOf('U'))[0] - 10, at(pass.indexOf('U'))[1])).toBeLessThan(1.6);
    expect(at(pass.lastIndexOf('U') + 1)[1]).toBeCloseTo(10, 5);
  });
  it('of nothing is nothing', () => expect(fitStroke([])).toEqual({ points: [], pass: '' }));
});
