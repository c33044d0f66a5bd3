import fc from 'fast-check';
import {
  calibrated,
  eatenBy,
  FORM_SPREAD,
  helixLength,
  loopFrom,
  onDrawnHost,
  perTurn,
  planned,
  planRope,
  planKnotSchema,
  planRopeSchema,
  planSchema,
  ropeUse,
  ropesForTakes,
  tailsInPlans,
  type PlanKnot,
  type PlanRope,
} from '@foxtrail/core/ropes';

const knot = (more: Partial<PlanKnot> = {}): PlanKnot =>
  planKnotSchema.parse({ ref: 'pattern:bowline', name: 'Bowline', eats: 20, ...more });
const rope = (more: Partial<PlanRope> = {}): PlanRope =>
  planRopeSchema.parse({ name: 'Anchor line', diameterMm: 10, ...more });

describe('What a knot eats', () => {
  it('is what its form says in the rope’s diameters, with the spread of forms', () => {
    expect(ropeUse(20, 8)).toEqual({ mm: 160, spread: FORM_SPREAD * 160, ties: 0 });
  });

  it('is what ties measured, once there are some', () => {
    const ties = [
      { diameterMm: 10, eatenMm: 240 },
      { diameterMm: 10, eatenMm: 250 },
      { diameterMm: 12, eatenMm: 294 },
      { diameterMm: 8, eatenMm: 196 },
    ];
    const use = ropeUse(20, 10, ties);
    expect(use.mm).toBeCloseTo(245, 6);
    // By hand: ratios 24, 25, 24.5, 24.5; s = 0.408; t(0.975, 3) = 3.182; 3.182 · 0.408 · √1.25 · 10 mm.
    expect(use.spread).toBeCloseTo(14.53, 1);
    expect(calibrated(ties)?.ties.every((t) => !t.outlier)).toBeTrue();
    expect(calibrated(ties)?.ties[0]?.residual).toBeCloseTo(-5, 6);
  });

  it('flags a tie that departs from the others, and counts it in', () => {
    const ties = [24, 24.3, 24.1, 24.2, 23.9, 31].map((k) => ({ diameterMm: 10, eatenMm: 10 * k }));
    const own = calibrated(ties);
    expect(own?.ties.map((t) => t.outlier)).toEqual([false, false, false, false, false, true]);
    expect(own?.diameters).toBeCloseTo(25.25, 6);
    expect(calibrated([])).toBeUndefined();
  });

  it('grows with the host, by the turns that lie round it', () => {
    const drawn = knot({ host: { turns: 3, drawn: 4, mm: 40 } });
    expect(eatenBy(drawn, 10).mm).toBeCloseTo(200, 6);
    const thicker = eatenBy({ ...drawn, host: { turns: 3, drawn: 4, mm: 60 } }, 10).mm;
    expect(thicker - 200).toBeCloseTo(helixLength(3, 60, 10) - helixLength(3, 40, 10), 6);
    // One turn of 10 mm rope on a spar of 90 mm: a circle of 100 mm, a little slanted.
    expect(helixLength(1, 90, 10)).toBeCloseTo(314.3, 1);
  });

  it('of ties round something thicker is reckoned as it is drawn', () => {
    const host = { turns: 3, drawn: 4 };
    const drawn = { diameterMm: 10, eatenMm: 500, hostMm: null };
    const thick = { diameterMm: 10, eatenMm: 500 + helixLength(3, 90, 10) - helixLength(3, 40, 10), hostMm: 90 };
    expect(onDrawnHost(thick, host).eatenMm).toBeCloseTo(500, 6);
    expect(onDrawnHost(drawn, host)).toEqual(drawn);
    expect(onDrawnHost(thick, null)).toEqual(thick);
    // All of it in turns, and more: the thickness was a slip, and the tie stands as it was measured.
    const slip = { diameterMm: 10, eatenMm: 500, hostMm: 900 };
    expect(onDrawnHost(slip, host)).toEqual(slip);
    // What the plan makes of them is the same, whichever was measured.
    const planned = knot({ host: { ...host, mm: 60 } });
    expect(eatenBy(planned, 10, [thick]).mm).toBeCloseTo(eatenBy(planned, 10, [drawn]).mm, 6);
  });

  it('of more turns than are drawn is that much more, and no surer than a form', () => {
    const { mm, spread } = eatenBy(knot({ more: { turns: 2, each: 9 } }), 10);
    expect(mm).toBeCloseTo(380, 9);
    expect(spread).toBeCloseTo(0.15 * 380, 9);
  });

  it('of families grows evenly with turns', () => {
    const line = perTurn([
      { turns: 2, diameters: 30 },
      { turns: 3, diameters: 40 },
    ]);
    expect(line?.each).toBeCloseTo(10, 9);
    expect(line?.at(5)).toBeCloseTo(60, 9);
    expect(perTurn([{ turns: 2, diameters: 30 }])).toBeUndefined();
  });
});

describe('A rope that is tied again for every take', () => {
  it('is longer by what each take after the first costs', () => {
    const once = planRope(rope({ firstMm: 500, knots: [knot()] })).cutMm;
    expect(planRope(rope({ firstMm: 500, knots: [knot()], takes: 4, takeMm: 30 })).cutMm).toBe(once + 90);
    expect(planRope(rope({ firstMm: 500, knots: [knot()], takes: 4 })).cutMm).toBe(once);
    const plan = planSchema.parse({
      name: 'A',
      ropes: [rope({ firstMm: 500, knots: [knot()], takes: 4, takeMm: 30 })],
    });
    expect(ropesForTakes([plan], { ref: 'pattern:bowline', name: 'Bowline' })).toEqual([
      { plan: 'A', rope: 'Anchor line', takes: 4, oneMm: once, allMm: once + 90 },
    ]);
    expect(ropesForTakes([plan], { ref: 'pattern:reef', name: 'Reef' })).toEqual([]);
  });
});

describe('Tails that plans leave', () => {
  it('are of the knots at the ends of their ropes, and of no other', () => {
    const [a, b] = [knot({ afterMm: 264 }), knot({ ref: 'pattern:reef', name: 'Reef', afterMm: 700, strand: 1 })];
    const plan = planSchema.parse({ name: 'First day', ropes: [rope({ knots: [b, a], first: 'tail', firstMm: 90 })] });
    const shared = { plan: 'First day', rope: 'Anchor line', diameterMm: 10 };
    expect(tailsInPlans([plan], { ref: 'knot:1', name: 'bowline' })).toEqual([{ ...shared, strand: 0, mm: 264 }]);
    expect(tailsInPlans([plan], { ref: 'pattern:reef', name: 'Square knot' })).toEqual([
      { ...shared, strand: 1, mm: 90 },
    ]);
    const standing = planSchema.parse({ name: 'Second', ropes: [rope({ knots: [b, a], firstMm: 90 })] });
    expect(tailsInPlans([standing], { ref: 'pattern:reef', name: 'Reef' })).toEqual([]);
  });
});

describe('The planner', () => {
  it('adds up a rope: standing part, knots, loops, tails, trimming', () => {
    // By hand: 3000 + 20·10 + 400 + 120 = 3720; 30 mm of spread and 20 mm of trimming: 3770.
    const { usedMm, spreadMm, cutMm } = planRope(
      rope({ firstMm: 3000, knots: [knot({ loopMm: 400, afterMm: 120 })], trimMm: 20 }),
    );
    expect(usedMm).toBe(3720);
    expect(spreadMm).toBe(30);
    expect(cutMm).toBe(3770);
  });

  it('says where each knot begins, from the last end', () => {
    const first = knot({ name: 'Bowline', afterMm: 1000 });
    const last = knot({ name: 'Figure eight', eats: 25, loopMm: 300, afterMm: 120 });
    const { marks, usedMm } = planRope(rope({ first: 'tail', firstMm: 120, knots: [first, last] }));
    expect(marks.map((m) => [m.knot.name, m.nearMm, m.farMm])).toEqual([
      ['Figure eight', 120, 670],
      ['Bowline', 1670, 1870],
    ]);
    expect(usedMm).toBe(1990);
  });

  it('goes back from where a knot is begun to its loop, and forward again', () => {
    const one = knot({ loopMm: 400, afterMm: 120 });
    const [mark] = planRope(rope({ firstMm: 500, knots: [one] })).marks;
    expect(loopFrom(mark!, mark!.farMm)).toBeCloseTo(400, 9);
    expect(loopFrom(mark!, mark!.farMm + 50)).toBeCloseTo(450, 9);
    expect(loopFrom(mark!, 100)).toBeLessThan(0);
  });

  it('needs no less rope for one turn, one knot or one copy more', () => {
    const some = fc.record({
      eats: fc.double({ min: 0, max: 90, noNaN: true }),
      loopMm: fc.integer({ min: 0, max: 3000 }),
      afterMm: fc.integer({ min: 0, max: 3000 }),
    });
    fc.assert(
      fc.property(
        fc.array(some, { maxLength: 5 }),
        some,
        fc.integer({ min: 3, max: 30 }),
        (knots, more, diameterMm) => {
          const before = planRope(rope({ diameterMm, knots: knots.map(knot) }));
          const after = planRope(rope({ diameterMm, knots: [...knots, more].map(knot) }));
          expect(after.cutMm).toBeGreaterThanOrEqual(before.cutMm);
          expect(before.cutMm).toBeGreaterThanOrEqual(before.usedMm + before.spreadMm - 1e-6);
          const host = { turns: 2, drawn: 3, mm: 60 };
          const [two, three] = [2, 3].map(
            (turns) => eatenBy(knot({ ...more, host: { ...host, turns } }), diameterMm).mm,
          );
          if (host.mm > host.drawn * diameterMm) expect(three).toBeGreaterThanOrEqual(two!);
        },
      ),
    );
  });

  it('cuts each rope from its own stock, so often as it is wanted, and nothing from what is retired', () => {
    const id = '00000000-0000-4000-8000-000000000001';
    const old = '00000000-0000-4000-8000-000000000002';
    const plan = planSchema.parse({
      name: 'Ground crew, first day',
      keepMm: 500,
      ropes: [rope({ rope: id, firstMm: 2400, copies: 3 }), rope({ name: 'Strop', rope: old, firstMm: 900 })],
    });
    const { cuts } = planned(plan, [
      { id, name: 'Braid', pieces: [5000, 2400], unfit: null },
      { id: old, name: 'Old line', pieces: [9000], unfit: 'it is retired' },
    ]);
    expect(cuts[0]?.list.missing).toEqual([]);
    expect(cuts[0]?.list.cut.map((c) => c.lengths.length)).toEqual([2, 1]);
    expect(cuts[0]?.list.wasteMm).toBe(200);
    expect(cuts[1]?.list.missing.map((m) => m.label)).toEqual(['Strop']);
  });
});
