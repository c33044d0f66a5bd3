import fc from 'fast-check';
import {
  cordJudged,
  CORD_BANDS,
  FRICTIONS,
  holdsLoad,
  legForces,
  turnsFor,
  turnsToHold,
  unlikeRopes,
  workingLimit,
  type LegForces,
  type TwoLegs,
} from '@foxtrail/core/ropes';

const forces = (legs: TwoLegs): LegForces => {
  const found = legForces(legs);
  if (!found.ok) throw new Error(found.reason);
  return found.value;
};
const even = (half: number, legs: TwoLegs['legs'] = 'fixed'): TwoLegs => ({
  span: 2 * Math.sin(half),
  rise: 0,
  legs,
  first: 1,
  second: 1,
});

describe('Two legs', () => {
  it('carry half each when they hang side by side, the whole load at 120°, and nearly twice it at 150°', () => {
    // F / (2 cos(angle / 2)).
    for (const [degrees, share] of [
      [0.001, 0.5],
      [60, 0.5774],
      [90, 0.7071],
      [120, 1],
      [150, 1.9319],
    ] as const)
      for (const legs of ['fixed', 'equalised'] as const) {
        const { first, second, between } = forces(even((degrees * Math.PI) / 360, legs));
        expect(first).toBeCloseTo(share, 3);
        expect(second).toBeCloseTo(share, 3);
        expect((between * 180) / Math.PI).toBeCloseTo(degrees, 3);
      }
  });

  it('of 3 and 4 with anchors 5 apart meet at a right angle: 0.8 and 0.6 of the load', () => {
    const { first, second, between } = forces({ span: 5, rise: 0, legs: 'fixed', first: 3, second: 4 });
    expect(between).toBeCloseTo(Math.PI / 2, 9);
    expect(first).toBeCloseTo(0.8, 9);
    expect(second).toBeCloseTo(0.6, 9);
  });

  it('balance the load, wherever the anchors are', () => {
    const length = fc.double({ min: 0.5, max: 8, noNaN: true });
    fc.assert(
      fc.property(
        length,
        fc.double({ min: -3, max: 3, noNaN: true }),
        length,
        length,
        fc.constantFrom<TwoLegs['legs']>('fixed', 'equalised'),
        (span, rise, first, second, legs) => {
          const found = legForces({ span, rise, legs, first, second });
          if (!found.ok) {
            expect(found.remedy).toContain('Lengthen');
            return;
          }
          const { at, slack, first: a, second: b } = found.value;
          const [ways, reach] = [
            [
              [-at[0], at[1]],
              [span - at[0], at[1] + rise],
            ] as const,
            legs === 'fixed' ? [first, second] : undefined,
          ];
          const [l1, l2] = ways.map(([x, y]) => Math.hypot(x, y)) as [number, number];
          if (slack === undefined) {
            expect((a * ways[0][0]) / l1 + (b * ways[1][0]) / l2).toBeCloseTo(0, 6);
            expect((a * ways[0][1]) / l1 + (b * ways[1][1]) / l2).toBeCloseTo(1, 6);
            if (reach) [l1, l2].forEach((l, i) => expect(l).toBeCloseTo(reach[i]!, 6));
            else expect(l1 + l2).toBeCloseTo(first + second, 6);
          } else {
            expect(a + b).toBe(1);
            // The slack leg is long enough for where the load hangs.
            expect(slack === 'first' ? first : second).toBeGreaterThanOrEqual((slack === 'first' ? l1 : l2) - 1e-6);
          }
        },
      ),
    );
  });

  it('that do not reach are refused', () => {
    expect(legForces({ span: 5, rise: 0, legs: 'fixed', first: 2, second: 2 }).ok).toBeFalse();
    expect(legForces({ span: 1, rise: 0, legs: 'fixed', first: 0, second: 2 }).ok).toBeFalse();
    expect(legForces({ span: NaN, rise: 0, legs: 'fixed', first: 1, second: 2 }).ok).toBeFalse();
  });
});

describe('Turns round a spar', () => {
  it('hold by e^(−μθ): three turns at 0.25 hold a load with less than one part in a hundred', () => {
    expect(holdsLoad(3, [0.25, 0.25])[0]).toBeCloseTo(0.00898, 4);
    expect(holdsLoad(1, FRICTIONS.wood)[1]).toBeCloseTo(Math.exp(-0.25 * 2 * Math.PI), 9);
    expect(turnsFor(holdsLoad(2.5, [0.3, 0.3])[0], 0.3)).toBeCloseTo(2.5, 9);
  });
  it('for one hand are told to the next half: two do not hold all but a fiftieth on slippery wood, two and a half do', () => {
    const slippery = [0.25, 0.5] as const;
    expect(turnsToHold(slippery)).toBe(2.5);
    expect(holdsLoad(2.5, slippery)[1]).toBeLessThanOrEqual(0.02);
    expect(holdsLoad(2, slippery)[1]).toBeGreaterThan(0.02);
  });
  it('hold more the more there are', () => {
    for (let n = 0; n < 6; n += 1)
      expect(holdsLoad(n + 1, FRICTIONS.rope)[1]).toBeLessThan(holdsLoad(n, FRICTIONS.rope)[1]);
  });
});

describe('Friction cords and unlike ropes', () => {
  it('are judged by their diameters', () => {
    expect(cordJudged(6, 11, CORD_BANDS.rescue).is).toBe('too thin');
    expect(cordJudged(7, 11, CORD_BANDS.rescue).is).toBe('within');
    expect(cordJudged(10, 11, CORD_BANDS.rescue).is).toBe('too thick');
  });
  it('the thicker forms the bight, the stiffer where they are equal; very unlike ropes want a doubled bend', () => {
    const supple = (diameterMm: number) => ({ diameterMm, stiffness: 'supple' }) as const;
    expect(unlikeRopes(supple(12), supple(10)).bight).toBe('first');
    expect(unlikeRopes(supple(8), supple(12))).toEqual(jasmine.objectContaining({ bight: 'second', double: true }));
    expect(unlikeRopes(supple(10), { diameterMm: 10, stiffness: 'stiff' })).toEqual(
      jasmine.objectContaining({ bight: 'second', double: false }),
    );
    expect(unlikeRopes(supple(10), supple(10)).bight).toBe('either');
  });
});

describe('A working limit', () => {
  const sources = [
    { says: 'own tests', share: 0.62 },
    { says: 'house', share: 0.5 },
  ];
  it('takes the lowest of its sources, and names the others', () => {
    // By hand: 20 kN · 0.5 · 0.85 / 10.
    const limit = workingLimit(20, sources, 'good', 10);
    expect(limit?.used.says).toBe('house');
    expect(limit?.others.map((o) => o.says)).toEqual(['own tests']);
    expect(limit?.limit).toBeCloseTo(0.85, 9);
  });
  it('is nothing for a rope that is retired, and is not told without a source or a safety factor', () => {
    expect(workingLimit(20, sources, 'retired', 10)?.limit).toBe(0);
    expect(workingLimit(20, [], 'good', 10)).toBeUndefined();
    expect(workingLimit(20, sources, 'good', 0.5)).toBeUndefined();
    expect(workingLimit(20, sources, 'good', NaN)).toBeUndefined();
  });
});
