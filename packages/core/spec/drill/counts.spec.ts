import { compared, crossingAsked, missedAt, shareOf } from '@foxtrail/core/drill';
import fc from 'fast-check';

describe('A share that was counted', () => {
  it('has the interval of published examples', () => {
    // Newcombe, Statistics in Medicine 17 (1998), table I, method 3: 81 of 263, 15 of 148, 0 of 20, 1 of 29.
    for (const [count, of, low, high] of [
      [81, 263, 0.2553, 0.3662],
      [15, 148, 0.0624, 0.1605],
      [0, 20, 0, 0.1611],
      [1, 29, 0.0061, 0.1718],
    ] as const) {
      const share = shareOf(count, of);
      expect(share.low).toBeCloseTo(low, 4);
      expect(share.high).toBeCloseTo(high, 4);
    }
  });

  it('lies in its interval, which more counts make narrower, and says nothing of none', () => {
    expect(shareOf(0, 0)).toEqual({ share: 0, low: 0, high: 1, of: 0 });
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 0, max: 500 }), (of, some) => {
        const count = Math.min(some, of);
        const [few, many] = [shareOf(count, of), shareOf(10 * count, 10 * of)];
        expect(few.low).toBeLessThanOrEqual(few.share + 1e-12);
        expect(few.high).toBeGreaterThanOrEqual(few.share - 1e-12);
        expect(many.high - many.low).toBeLessThan(few.high - few.low);
      }),
    );
  });
});

describe('What learners missed', () => {
  const counts = [
    { revision: 3, question: 'judge:slip-2', right: 4, wrong: 16 },
    { revision: 3, question: 'judge:front', right: 9, wrong: 1 },
    { revision: 4, question: 'judge:slip-2', right: 38, wrong: 2 },
    { revision: 4, question: 'judge:slip-5', right: 0, wrong: 0 },
    { revision: 4, question: 'judge:front', right: 8, wrong: 2 },
  ];

  it('is told by crossing, in one edition', () => {
    expect([...missedAt(counts, 3)].map(([n, s]) => [n, s.share, s.of])).toEqual([[2, 0.8, 20]]);
    expect([...missedAt(counts, 4).keys()]).toEqual([2]);
    expect(missedAt(counts, 5).size).toBe(0);
    expect(crossingAsked('judge:slip-12')).toBe(12);
    expect(crossingAsked('judge:hand-slip-12')).toBe(12);
    expect(crossingAsked('which:1')).toBeUndefined();
  });

  it('is held against the edition before; what chance leaves open is no difference', () => {
    const [front, slip, ...more] = compared(counts, 3, 4).filter((c) => c.before && c.after);
    expect(more).toEqual([]);
    expect([front!.question, front!.differs]).toEqual(['judge:front', false]);
    expect([slip!.question, slip!.differs]).toEqual(['judge:slip-2', true]);
  });
});
