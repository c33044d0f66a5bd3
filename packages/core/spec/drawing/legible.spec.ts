import fc from 'fast-check';
import {
  drawFigure,
  gapsThatMeet,
  hiddenShare,
  mirror,
  mostlyHidden,
  passagesOf,
  weaveFigure,
  type Figure,
  type Point,
} from '../../src/index.js';
import { isCore } from '../../src/figure/held-taut.js';
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

/** Twine wound n times round a straight rope so many times as thick, with a leg of its own along it. */
function lashed(thick: number, n = 3): Figure {
  const reach = thick / 2 + 0.9;
  const turns = Array.from({ length: n }, (_, k): Point[] => [
    [2.5 * k, -reach],
    [2.5 * k + 1.2, reach],
  ]).flat();
  const leg: Point[] = [
    [2.5 * n + 6, 0.45],
    [-5, 0.45],
    [-6, reach + 1],
    [-1.4, reach],
  ];
  const bare: Figure = {
    ropes: [
      rope(
        'a',
        [
          [-12, 0],
          [2.5 * n + 8, 0],
        ],
        { curve: 'straight', ends: ['standing', 'standing'], cordage: { diameter: thick } },
      ),
      rope('b', [...leg, ...turns, [2.5 * n, -reach]], { curve: 'straight' }),
    ],
    hosts: [],
  };
  // Down in front, up behind; what lies along the rope lies on it.
  const goesUp = (at: number): boolean => at > leg.length - 1 && (Math.floor(at) - leg.length) % 2 === 1;
  return weaveFigure(bare, (m) => {
    const place = [m.first, m.second].find((p) => p.strand === 'b' && p.at > leg.length - 1);
    const isFirst = place === m.first;
    return place === undefined
      ? m.first.strand === 'b'
      : goesUp(place.at) || place.at < leg.length
        ? !isFirst
        : isFirst;
  });
}

describe('What goes round a much thicker rope', () => {
  it('is behind it as behind a host: where it comes round to the front nothing cuts it', () => {
    const figure = lashed(3);
    const runs = drawFigure(figure).runs.filter((r) => r.strand === 'b');
    const fronts = passagesOf(figure, 'b').filter((p) => p.over && p.other.strand === 'a');
    expect(fronts.length).toBe(3);
    // Each band in front is a run of its own, clipped by nothing that lies behind it.
    expect(runs.filter((r) => r.clips.length === 0).length).toBeGreaterThanOrEqual(3);
  });

  it('is legible however close its turns are, unless the rope is hardly thicker', () => {
    expect(gapsThatMeet(lashed(3))).toEqual([]);
    for (const thick of [1.5, 2, 3])
      expect(isCore(lashed(thick), { strand: 'a', at: 0.5 }, lashed(thick).ropes[1]!)).toBeTrue();
    for (const thick of [0.7, 1, 1.4])
      expect(isCore(lashed(thick), { strand: 'a', at: 0.5 }, lashed(thick).ropes[1]!)).toBeFalse();
    // Never of the thinner one, and not where the thick one bends.
    expect(isCore(lashed(3), { strand: 'b', at: 0.5 }, lashed(3).ropes[0]!)).toBeFalse();
    const bent = {
      ...lashed(3).ropes[0]!,
      points: [
        [-12, 0],
        [0, 0],
        [0, 12],
      ] as Point[],
    };
    expect(
      isCore({ ...lashed(3), ropes: [bent, lashed(3).ropes[1]!] }, { strand: 'a', at: 1 }, lashed(3).ropes[1]!),
    ).toBeFalse();
  });
});
