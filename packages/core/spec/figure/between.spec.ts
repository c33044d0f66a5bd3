import fc from 'fast-check';
import { curveOf, layoutsOf, passagesOf, pointAt, type Figure } from '../../src/index.js';
import { betweenFigures } from '../../src/figure/between.js';
import { mirror } from '../../src/index.js';
import { drawnFiles, drawnKnot } from '../support/figures.js';

const met = (figure: Figure): string =>
  figure.ropes
    .map((r) =>
      passagesOf(figure, r.id)
        .map((p) => `${p.over ? 'over' : 'under'} ${p.crossing.number}, ${p.crossing.sign}`)
        .join(', '),
    )
    .join('; ');
/** The drawings by hand that are drawn a second time, tight. */
const TWICE = drawnFiles
  .map((file) => layoutsOf(drawnKnot(file).method).map((l) => l.figure))
  .filter((layouts) => layouts.length > 1);

describe('a knot between two drawings of it', () => {
  it('meets the same crossings in the same order at every share of the way, from the one drawing to the other', () => {
    expect(TWICE.length).toBeGreaterThan(8);
    for (const [open, dressed] of TWICE as [Figure, Figure][]) {
      const way = betweenFigures(open, dressed)!;
      expect(way).toBeDefined();
      fc.assert(
        fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (share) => {
          expect(met(way(share))).toBe(met(open));
        }),
        { numRuns: 20 },
      );
      for (const [share, there] of [
        [0, open],
        [1, dressed],
      ] as const)
        way(share).ropes.forEach((rope, i) => {
          const was = there.ropes[i]!;
          passagesOf(there, was.id).forEach((p, k) => {
            const place = pointAt(curveOf(rope), passagesOf(way(share), rope.id)[k]!.at);
            expect(Math.hypot(...p.crossing.point.map((v, d) => v - place[d]!))).toBeLessThan(0.3);
          });
        });
    }
  });
  it('is not shown where its crossings are other ones, or it lies on other things', () => {
    for (const [open, dressed] of TWICE as [Figure, Figure][]) {
      expect(betweenFigures(open, mirror(dressed))).toBeUndefined();
      expect(betweenFigures(open, { ...dressed, ropes: dressed.ropes.slice(1) })).toBeUndefined();
      const spar = {
        id: 'z',
        kind: 'spar',
        points: [
          [0, 0],
          [0, 1],
        ],
      } as const;
      expect(betweenFigures(open, { ...dressed, hosts: [...dressed.hosts, spar] })).toBeUndefined();
    }
  });
});
