import fc from 'fast-check';
import {
  gapsThatMeet,
  hiddenShare,
  mirror,
  mostlyHidden,
  weaveFigure,
  type Figure,
  type Point,
} from '../../src/index.js';
import { anyFigure, rope } from '../support/figures.js';

/** A rope along the board, and one that comes down across it and up again so far on: over it once, and once under it. */
const wave = (apart: number, lean = 0): Figure => {
  const down: Point[] = [
    [-apart / 2 - lean * 4, -4],
    [-apart / 2 + lean * 4, 4],
    [apart / 2 - lean * 4, 4],
    [apart / 2 + lean * 4, -4],
  ];
  return weaveFigure(
    {
      ropes: [
        rope(
          'a',
          [
            [-20, 0],
            [20, 0],
          ],
          { curve: 'straight' },
        ),
        rope('b', down, { curve: 'straight' }),
      ],
      hosts: [],
    },
    (_, i) => i === 0,
  );
};

describe('A drawing can be read', () => {
  it('where two crossings stand as far apart as the strands are thick, and not where they stand nearer', () => {
    for (const apart of [1.2, 2, 3, 8])
      expect(gapsThatMeet(wave(apart)))
        .withContext(String(apart))
        .toEqual([]);
    for (const apart of [0.3, 0.5, 0.8]) {
      const found = gapsThatMeet(wave(apart));
      expect(found.length).withContext(String(apart)).toBeGreaterThan(0);
      for (const { crossings } of found) expect([...crossings].sort()).toEqual([1, 2]);
    }
  });

  it('the farther apart the flatter they cross', () => {
    expect(gapsThatMeet(wave(1.2, 0))).toEqual([]);
    expect(gapsThatMeet(wave(1.2, 2))).not.toEqual([]);
    expect(gapsThatMeet(wave(3, 2))).toEqual([]);
  });

  it('or not the same in the mirror, and no rope is hidden more than wholly', () => {
    fc.assert(
      fc.property(anyFigure, (figure) => {
        const pairs = (f: Figure): string[] =>
          gapsThatMeet(f)
            .map((g) => [...g.crossings].join('/'))
            .sort();
        expect(pairs(mirror(figure)).length).toBe(pairs(figure).length);
        for (const r of figure.ropes) {
          const share = hiddenShare(figure, r);
          expect(share).toBeGreaterThanOrEqual(0);
          expect(share).toBeLessThanOrEqual(1);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('only where no rope lies beneath others more than it is seen', () => {
    const bars = (n: number): Figure => ({
      ropes: [
        rope(
          'a',
          [
            [-20, 0],
            [20, 0],
          ],
          { curve: 'straight' },
        ),
        ...Array.from({ length: n }, (_, i) =>
          rope(
            `b${i}`,
            [
              [-10 + (20 * i) / (n - 1), -5],
              [-10 + (20 * i) / (n - 1), 5],
            ],
            { curve: 'straight' },
          ),
        ),
      ],
      hosts: [],
    });
    const under = (n: number): Figure => weaveFigure(bars(n), () => false);
    // Bars of one diameter and the gap either side, over twenty diameters of rope.
    expect(hiddenShare(under(5), under(5).ropes[0]!)).toBeCloseTo((5 * 1.6) / 20, 1);
    expect(mostlyHidden(under(5))).toEqual([]);
    expect(mostlyHidden(under(9)).map((h) => h.place.strand)).toEqual(['a']);
    expect(mostlyHidden(weaveFigure(bars(9), () => true))).toEqual([]);
  });
});
