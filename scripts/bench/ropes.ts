/**
 * Ropes: the planner with forty cuts over twelve pieces, and the log with five thousand pull tests, from the press that opens it to its chart.
 */
import { KEPT_AT_ONCE } from '@foxtrail/contract/ropes';
import { cutList, planSchema, planned, type PlannerRope } from '@foxtrail/core/ropes';
import { middle, onPage, round } from './measure.js';

const CUTS = 40;
const PIECES = 12;
const TESTS = 5000;
const RUNS = 9;
const ID = '00000000-0000-4000-8000-000000000001';

/** Forty ropes of many lengths, each with two knots. */
const PLAN = planSchema.parse({
  name: 'Bench',
  keepMm: 600,
  ropes: Array.from({ length: 20 }, (_, i) => ({
    name: `Rope ${i + 1}`,
    rope: ID,
    diameterMm: 10,
    firstMm: 700 + 137 * ((i * 7) % 13),
    copies: CUTS / 20,
    knots: [
      { ref: 'pattern:bowline', name: 'Bowline', eats: 18.7, loopMm: 300 + 20 * i, afterMm: 800 },
      { ref: 'pattern:figure-eight', name: 'Figure eight', eats: 16.3, afterMm: 120 },
    ],
  })),
});
const STOCK: readonly PlannerRope[] = [
  { id: ID, name: 'Line', pieces: Array.from({ length: PIECES }, (_, i) => 8000 + 910 * i), unfit: null },
];

function times(work: () => unknown): number {
  const all = Array.from({ length: RUNS }, () => {
    const began = performance.now();
    work();
    return performance.now() - began;
  });
  return round(middle(all, 0.5));
}

export async function ropesBench(databaseUrl: string): Promise<object> {
  const { cuts } = planned(PLAN, STOCK);
  const [own] = cuts;
  if (!own || own.demands.length !== CUTS) throw new Error('the plan does not ask for its cuts');
  const chart = await onPage(databaseUrl, 'Rope Author', async (page, base, pool) => {
    await pool.query('delete from pull_test');
    await page.evaluate(
      async ({ tests, atOnce }) => {
        const all = Array.from({ length: tests }, (_, i) => ({
          knot: i % 10 === 0 ? null : `pattern:knot-${i % 10}`,
          knotName: i % 10 === 0 ? '' : `Knot ${i % 10}`,
          ropeName: 'Line',
          diameterMm: 10,
          peakKn: 10 + ((i * 7919) % 997) / 200,
          pulledOn: '2026-05-04',
        }));
        for (let i = 0; i < all.length; i += atOnce) {
          const kept = await fetch('/api/kept/tests', {
            method: 'POST',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ things: all.slice(i, i + atOnce) }),
          });
          if (!kept.ok) throw new Error(await kept.text());
        }
      },
      { tests: TESTS, atOnce: KEPT_AT_ONCE },
    );
    await page.goto(`${base}/ropes/tests`);
    await page.locator('ft-tests .scatterlayer path').first().waitFor();
    const openings: number[] = [];
    for (let i = 0; i < 5; i += 1) {
      await page.getByRole('link', { name: 'Stock' }).click();
      await page.locator('ft-stock').waitFor();
      const began = performance.now();
      await page.getByRole('link', { name: 'Pull tests' }).click();
      await page.locator('ft-tests .scatterlayer path').first().waitFor();
      openings.push(performance.now() - began);
    }
    await pool.query('delete from pull_test');
    return round(middle(openings, 0.5));
  });
  return {
    cuts: CUTS,
    pieces: PIECES,
    plannerMs: times(() => planned(PLAN, STOCK)),
    cutListMs: times(() =>
      cutList(
        own.demands,
        STOCK[0]!.pieces.map((mm, i) => ({ label: `${i}`, mm })),
        600,
      ),
    ),
    proved: own.list.proved,
    wasteMm: own.list.wasteMm,
    tests: TESTS,
    chartMs: chart,
  };
}
