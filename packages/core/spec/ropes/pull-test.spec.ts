import {
  citeTests,
  outliersOf,
  pullTestSchema,
  sampleOf,
  shareKept,
  testGroups,
  toleranceFactor,
} from '@foxtrail/core/ropes';

describe('One-sided tolerance factors', () => {
  // Natrella, Experimental Statistics (NBS Handbook 91, 1963), table A-7.
  const TABLE: readonly (readonly [n: number, coverage: number, confidence: number, k: number])[] = [
    [3, 0.9, 0.9, 4.258],
    [3, 0.95, 0.95, 7.655],
    [5, 0.95, 0.95, 4.202],
    [10, 0.95, 0.95, 2.911],
    [10, 0.99, 0.95, 3.981],
    [20, 0.95, 0.95, 2.396],
    [50, 0.95, 0.95, 2.065],
    [10, 0.9, 0.99, 3.048],
  ];
  it('are those of published tables', () => {
    for (const [n, coverage, confidence, k] of TABLE)
      expect(Math.abs(toleranceFactor(n, coverage, confidence)! - k))
        .withContext(`${n} ${coverage} ${confidence}`)
        .toBeLessThan(0.0035);
  });
  it('fall toward the quantile of the bell as tests become many, and are not told of one', () => {
    expect(toleranceFactor(1, 0.95, 0.95)).toBeUndefined();
    let before = Infinity;
    for (const n of [2, 3, 5, 8, 15, 40, 120]) {
      const k = toleranceFactor(n, 0.95, 0.95)!;
      expect(k).toBeLessThan(before);
      expect(k).toBeGreaterThan(1.645);
      before = k;
    }
  });
});

describe('A few tests', () => {
  it('have a mean, a deviation and a bound below which few lie', () => {
    // By hand: mean 10, s = √(0.5) = 0.7071; k(5) = 4.203.
    const sample = sampleOf([9, 9.5, 10, 10.5, 11]);
    expect(sample?.mean).toBe(10);
    expect(sample?.deviation).toBeCloseTo(0.79057, 5);
    expect(sample?.bound).toBeCloseTo(10 - 4.203 * 0.79057, 2);
    expect(sampleOf([])).toBeUndefined();
    expect(sampleOf([7])?.bound).toBeUndefined();
    // Two that differ much say nothing.
    expect(sampleOf([5, 9])?.bound).toBeUndefined();
  });

  it('flag what departs, and keep it', () => {
    // Rosner’s own data, Technometrics 25 (1983): three of 54 are outliers.
    const rosner = [
      -0.25, 0.68, 0.94, 1.15, 1.2, 1.26, 1.26, 1.34, 1.38, 1.43, 1.49, 1.49, 1.55, 1.56, 1.58, 1.65, 1.69, 1.7, 1.76,
      1.77, 1.81, 1.91, 1.94, 1.96, 1.99, 2.06, 2.09, 2.1, 2.14, 2.15, 2.23, 2.24, 2.26, 2.35, 2.37, 2.4, 2.47, 2.54,
      2.62, 2.64, 2.9, 2.92, 2.92, 2.93, 3.21, 3.26, 3.3, 3.59, 3.68, 4.3, 4.64, 5.34, 5.42, 6.01,
    ];
    expect(outliersOf(rosner)).toEqual([51, 52, 53]);
    expect(outliersOf([10, 10.1, 9.9, 30])).toEqual([]);
    expect(sampleOf([10, 10.1, 9.9, 10.05, 9.95, 4])?.outliers).toEqual([5]);
    expect(sampleOf([10, 10.1, 9.9, 10.05, 9.95, 4])?.n).toBe(6);
    expect(outliersOf([5, 5, 5, 5, 5, 5])).toEqual([]);
  });

  it('keep a share of the rope’s strength, with the spread of both', () => {
    const [knotted, plain] = [sampleOf([6, 6.2, 5.8])!, sampleOf([10, 10.4, 9.6])!];
    const { share, spread } = shareKept(knotted, plain);
    expect(share).toBeCloseTo(0.6, 9);
    // By hand: relative deviations 1/30 and 1/25 of three each give 0.03006; t(0.975, 3.87) = 2.81.
    expect(spread!).toBeGreaterThan(0.6 * 0.03006 * 2.7);
    expect(spread!).toBeLessThan(0.6 * 0.03006 * 3.2);
    expect(shareKept(sampleOf([6])!, plain).spread).toBeUndefined();
  });
});

describe('Tests by knot', () => {
  const test = (knot: string | null, peakKn: number, more: object = {}) =>
    pullTestSchema.parse({
      knot,
      knotName: knot === null ? '' : 'Bowline',
      ropeName: 'Braid',
      diameterMm: 8,
      peakKn,
      pulledOn: '2026-05-04',
      ...more,
    });
  it('stand beside the rope without a knot; what was only held does not count as its strength', () => {
    const groups = testGroups([
      test('pattern:bowline', 6),
      test(null, 10),
      test('pattern:bowline', 6.4),
      test('pattern:bowline', 2, { outcome: 'held' }),
      test(null, 10.2),
    ]);
    expect(groups.map((g) => [g.knot, g.tests.length, g.sample?.n])).toEqual([
      [null, 2, 2],
      ['pattern:bowline', 3, 2],
    ]);
    expect(groups[1]?.kept?.share).toBeCloseTo(6.2 / 10.1, 9);
    expect(groups[0]?.kept).toBeUndefined();
  });
  it('of one knot of the shelf and of the book are one group', () => {
    const shelf = 'knot:00000000-0000-4000-8000-000000000000';
    expect(testGroups([test('pattern:bowline', 6), test(shelf, 6.2)]).map((g) => g.tests.length)).toEqual([2]);
  });
  it('of the same knot in another rope are another group', () => {
    expect(testGroups([test('pattern:bowline', 6), test('pattern:bowline', 6, { diameterMm: 9 })]).length).toBe(2);
  });
  it('are cited in a sentence: how many, in what, what became of them, and until when', () => {
    const [group] = testGroups([
      test('pattern:bowline', 6),
      test('pattern:bowline', 6.4, { pulledOn: '2026-06-01' }),
      test('pattern:bowline', 6.2, { outcome: 'slipped' }),
    ]);
    expect(citeTests(group!)).toBe(
      '3 pull tests in Braid, 8 mm: 2 broke, 1 slipped, at 6.2 ± 0.2 kN (log, to 2026-06-01)',
    );
    const [held] = testGroups([test('pattern:bowline', 2, { outcome: 'held' })]);
    expect(citeTests(held!)).toBe('1 pull test in Braid, 8 mm: held (log, to 2026-05-04)');
  });
  it('refuse what cannot be', () => {
    expect(pullTestSchema.safeParse({ ...test(null, 1), peakKn: -1 }).success).toBeFalse();
    expect(pullTestSchema.safeParse({ ...test(null, 1), pulledOn: 'last week' }).success).toBeFalse();
  });
});
