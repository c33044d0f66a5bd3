import fc from 'fast-check';
import { runsInOrder, type SeenRun, type SeenStrand } from '../../src/form/seen-runs.js';

/** A straight bar between two places at a depth. */
function bar(from: readonly [number, number], to: readonly [number, number], depth: number, n = 24): SeenStrand {
  const points = new Float64Array(2 * n);
  for (let i = 0; i < n; i += 1)
    points.set([from[0] + ((to[0] - from[0]) * i) / (n - 1), from[1] + ((to[1] - from[1]) * i) / (n - 1)], 2 * i);
  return { points, depth: new Float64Array(n).fill(depth), radius: 0.5, closed: false };
}

const covers = (run: SeenRun, strand: number, layer: SeenRun['layer'], chord: number): boolean =>
  run.strand === strand && run.layer === layer && run.from <= chord && chord < run.to;

describe('the order in which a form is painted', () => {
  it('puts the nearer strand and its ink over the farther one, whichever is listed first', () => {
    for (const [over, under] of [
      [0, 1],
      [1, 0],
    ] as const) {
      const strands = [bar([-3, 0], [3, 0], over === 0 ? 1 : 0), bar([0, -3], [0, 3], over === 1 ? 1 : 0)];
      const runs = runsInOrder(strands);
      const when = (strand: number, layer: SeenRun['layer']): number =>
        runs.findIndex((r) => covers(r, strand, layer, 11));
      expect(when(over, 'ink')).toBeGreaterThan(when(under, 'body'));
      expect(when(over, 'ink')).toBeGreaterThan(when(under, 'texture'));
      expect(when(over, 'body')).toBeGreaterThan(when(over, 'ink'));
      expect(when(over, 'texture')).toBeGreaterThan(when(over, 'body'));
    }
  });

  it('paints strands that lie clear of each other in one stretch each', () => {
    const runs = runsInOrder([bar([-3, 0], [3, 0], 0), bar([-3, 5], [3, 5], 1)]);
    expect(runs.filter((r) => r.layer === 'body').length).toBe(2);
  });

  it('paints every chord of every layer once, a ring too', () => {
    const strand = fc
      .tuple(
        fc.array(fc.tuple(fc.integer({ min: -30, max: 30 }), fc.integer({ min: -30, max: 30 })), {
          minLength: 3,
          maxLength: 12,
        }),
        fc.boolean(),
      )
      .map(([places, closed]): SeenStrand => ({
        points: Float64Array.from(places.flat().map((v) => v / 10)),
        depth: Float64Array.from(places.map(([x, y]) => Math.sin(x + 2 * y))),
        radius: 0.5,
        closed,
      }));
    fc.assert(
      fc.property(fc.array(strand, { minLength: 1, maxLength: 3 }), (strands) => {
        const runs = runsInOrder(strands);
        strands.forEach((s, k) => {
          const chords = s.depth.length - (s.closed ? 0 : 1);
          for (const layer of ['ink', 'body', 'texture'] as const) {
            const painted = runs
              .filter((r) => r.strand === k && r.layer === layer)
              .flatMap((r) =>
                Array.from({ length: r.to - r.from }, (_, i) => (((r.from + i) % chords) + chords) % chords),
              );
            expect(painted.sort((a, b) => a - b)).toEqual(Array.from({ length: chords }, (_, i) => i));
          }
        });
      }),
    );
  });

  it('leaves no ink across a rope that comes straight toward the reader, and keeps its outline against what lies beneath', () => {
    const [n, step] = [60, 0.2];
    const half = { ink: 0.555, body: 0.445, texture: 0 } as const;
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 0.08, noNaN: true }),
        fc.double({ min: 1, max: 4, noNaN: true }),
        (drift, beneath) => {
          const lead: SeenStrand = {
            points: Float64Array.from(Array.from({ length: n }, (_, i) => [i * drift, 0]).flat()),
            depth: Float64Array.from({ length: n }, (_, i) => i * step),
            radius: 0.5,
            closed: false,
          };
          const across = bar([n * drift * 0.5, -4], [n * drift * 0.5, 4], -beneath);
          const strands = [lead, across];
          const runs = runsInOrder(strands);
          /** What is seen at a place: the last that was painted there. */
          const top = (x: number, y: number): string => {
            let seen = 'paper';
            for (const r of runs.filter((one) => one.layer !== 'texture')) {
              const { points } = strands[r.strand]!;
              for (let i = r.from; i < r.to; i += 1) {
                const [ax, ay, bx, by] = [points[2 * i]!, points[2 * i + 1]!, points[2 * i + 2]!, points[2 * i + 3]!];
                const [dx, dy] = [bx - ax, by - ay];
                const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
                if (Math.hypot(x - ax - t * dx, y - ay - t * dy) <= half[r.layer]) seen = `${r.strand} ${r.layer}`;
              }
            }
            return seen;
          };
          const far = (n - 1) * drift;
          for (const share of [0, 0.1, 0.3, 0.5, 0.7, 0.9, 1]) {
            expect(top(share * far, 0)).toBe('0 body');
            expect(top(share * far, 0.3)).toBe('0 body');
          }
          expect(top(0.5 * far, 0.5)).toBe('0 ink');
          expect(top(0.5 * far, 2)).toBe('1 body');
        },
      ),
      { numRuns: 40 },
    );
  });
});
