import fc from 'fast-check';
import { cutList, type Demand, type Piece } from '@foxtrail/core/ropes';

const demands = (...mm: number[]): Demand[] => mm.map((m, i) => ({ label: `rope ${i + 1}`, mm: m }));
const pieces = (...mm: number[]): Piece[] => mm.map((m, i) => ({ label: `piece ${i + 1}`, mm: m }));

/** The least cost there is, by trying everything. */
function byTrying(wanted: readonly number[], stock: readonly number[], keep: number): readonly number[] {
  let best: readonly number[] = [Infinity];
  const put: number[] = [];
  const cost = (): number[] => {
    const left = [...stock];
    const counts = stock.map(() => 0);
    let missing = 0;
    wanted.forEach((mm, d) => {
      const i = put[d]!;
      if (i < 0) missing += mm;
      else [left[i], counts[i]] = [left[i]! - mm, counts[i]! + 1];
    });
    if (left.some((l) => l < 0)) return [Infinity];
    const used = left.filter((_, i) => counts[i]! > 0);
    return [
      missing,
      used.reduce((sum, l) => sum + (l < keep ? l : 0), 0),
      counts.reduce((sum, n, i) => sum + (n > 0 ? n - (left[i] === 0 ? 1 : 0) : 0), 0),
      used.length,
    ];
  };
  const go = (d: number): void => {
    if (d === wanted.length) {
      const c = cost();
      const k = c.findIndex((x, i) => x !== best[i]);
      if (k >= 0 && c[k]! < (best[k] ?? Infinity)) best = c;
      return;
    }
    for (let i = -1; i < stock.length; i += 1) {
      put[d] = i;
      go(d + 1);
    }
  };
  go(0);
  return best;
}

describe('Cut lists', () => {
  it('use up a piece before another is begun', () => {
    const list = cutList(demands(2000, 3000, 5000), pieces(10_000, 10_000), 1000);
    expect(list.cut.length).toBe(1);
    expect(list.cut[0]?.leftMm).toBe(0);
    expect(list.cuts).toBe(2);
    expect(list.wasteMm).toBe(0);
    expect(list.proved).toBeTrue();
  });

  it('say what nothing is long enough for', () => {
    const list = cutList(demands(4000, 9000), pieces(5000), 500);
    expect(list.missing.map((m) => m.mm)).toEqual([9000]);
    expect(list.cut[0]?.lengths.map((l) => l.mm)).toEqual([4000]);
    expect(cutList(demands(100), [], 0).missing.length).toBe(1);
    expect(cutList([], pieces(100), 0).cut).toEqual([]);
  });

  it('cover every demand once, and never cut more from a piece than it has', () => {
    const length = fc.integer({ min: 200, max: 6000 });
    fc.assert(
      fc.property(
        fc.array(length, { maxLength: 14 }),
        fc.array(fc.integer({ min: 1000, max: 12_000 }), { maxLength: 6 }),
        (wanted, stock) => {
          const list = cutList(demands(...wanted), pieces(...stock), 800);
          const all = [...list.cut.flatMap((c) => c.lengths), ...list.missing].map((l) => l.label);
          expect(all.sort()).toEqual(
            demands(...wanted)
              .map((d) => d.label)
              .sort(),
          );
          for (const c of list.cut) {
            const sum = c.lengths.reduce((s, l) => s + l.mm, 0);
            expect(sum).toBeLessThanOrEqual(c.piece.mm);
            expect(c.leftMm).toBeCloseTo(c.piece.mm - sum, 6);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('are the best there is, against trying everything: more waste is never chosen over less', () => {
    const length = fc.integer({ min: 1, max: 12 }).map((n) => 500 * n);
    fc.assert(
      fc.property(
        fc.array(length, { minLength: 1, maxLength: 5 }),
        fc.array(
          fc.integer({ min: 2, max: 20 }).map((n) => 500 * n),
          { minLength: 1, maxLength: 3 },
        ),
        fc.constantFrom(0, 1000, 2500),
        (wanted, stock, keep) => {
          const list = cutList(demands(...wanted), pieces(...stock), keep);
          expect(list.proved).toBeTrue();
          expect([list.missing.reduce((s, m) => s + m.mm, 0), list.wasteMm, list.cuts, list.cut.length]).toEqual([
            ...byTrying(wanted, stock, keep),
          ]);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('say when the search was ended before it was whole', () => {
    const wanted = Array.from({ length: 40 }, (_, i) => 900 + 137 * ((i * 7) % 23));
    const list = cutList(demands(...wanted), pieces(...Array.from({ length: 12 }, (_, i) => 9000 + 730 * i)), 600);
    expect(list.missing).toEqual([]);
    expect(list.cut.flatMap((c) => c.lengths).length).toBe(40);
  });
});
