import {
  crossingsOf,
  diameterOf,
  drawFigure,
  findingsOf,
  gaussText,
  settle,
  WORKSHOP_WORDS,
  type Figure,
} from '@foxtrail/core';
import { patternOf, patterns } from '../src/laid.js';
import { SOURCES } from '../src/sources.js';

const figureOf = (id: string): Figure => patternOf(id)!.knot.method.figure;

/** The thinnest rope over the diagonal of the drawing's box. */
function ropeShare(figure: Figure): number {
  const [l, t, r, b] = drawFigure(figure).box;
  return Math.min(...figure.ropes.map(diameterOf)) / Math.hypot(r - l, b - t);
}

describe('the figures of the book, settled or drawn by hand', () => {
  it('have the code of what the book lays: every crossing in its order, with its over and its handedness', () => {
    for (const { id, figure } of SOURCES)
      expect(gaussText(figureOf(id)))
        .withContext(id)
        .toBe(gaussText(figure()));
  });

  it('are as settling them anew finds them', () => {
    for (const { id, figure } of SOURCES.filter((s) => !s.drawn).filter((_, i) => i % 5 === 0)) {
      const again = settle(figure());
      if (!again.ok) throw new Error(again.reason);
      const kept = figureOf(id);
      again.value.figure.ropes.forEach((rope, k) => {
        const points = kept.ropes[k]!.points;
        expect(rope.points.length).withContext(id).toBe(points.length);
        rope.points.forEach(([x, y], i) => {
          expect(Math.hypot(x - points[i]![0], y - points[i]![1]))
            .withContext(`${id}, rope ${rope.id}, point ${i}`)
            .toBeLessThan(0.05);
        });
      });
    }
  });

  it('bend as rope does, without a kink', () => {
    for (const { id, knot } of patterns()) {
      const rules = { tail: { diameters: 1, millimetres: 0 }, cordMm: 10, words: WORKSHOP_WORDS };
      expect(findingsOf(knot.method, rules).filter((f) => f.code === 'sharp-bend'))
        .withContext(id)
        .toEqual([]);
    }
  });

  it('have rope that is seen at arm’s length: thick against the whole drawing, the thicker the fewer crossings there are', () => {
    for (const { id } of patterns()) {
      const figure = figureOf(id);
      const crossings = crossingsOf(figure).length;
      expect(ropeShare(figure))
        .withContext(`${id}, ${crossings} crossings`)
        .toBeGreaterThan(crossings <= 8 ? 0.03 : crossings <= 16 ? 0.024 : 0.019);
    }
  });

  it('lose no rope: a tail drawn shorter than it was laid counts what is left out', () => {
    for (const { id, figure } of SOURCES) {
      // What is cut off once the knot is set has no tail to be kept.
      const tails = figure().ropes.filter((r) => !r.closed && r.ends.includes('tail') && r.trimmed === undefined);
      for (const { id: rope } of tails) {
        const now = figureOf(id).ropes.find((r) => r.id === rope)!;
        expect(now.breaks?.length ?? 0)
          .withContext(id)
          .toBeGreaterThan(0);
      }
    }
  });
});
