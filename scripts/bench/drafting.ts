/**
 * Measurements of drafting: Tidy and the layout of a code, memory after a long session of edits, and the frames of the real page while
 * a point is dragged.
 */
import {
  changeMethod,
  crossingsOf,
  EMPTY_ENTRY,
  gaussOf,
  layOut,
  methodFor,
  noHistory,
  record,
  tidy,
  writeKnot,
  type History,
  type KnotDocument,
  type Method,
} from '../../packages/core/src/index.js';
import { springWith } from './identity.js';
import { framesOf, onPage, round, timed } from './measure.js';

/** Heap in use after 1,000 edits of a figure, each with what was there before it, less what was there before; in megabytes. */
function memoryOfEdits(crossings: number): object {
  const gc = (globalThis as { gc?: () => void }).gc;
  let method = methodFor(springWith(crossings));
  gc?.();
  const before = process.memoryUsage().heapUsed;
  let history: History<Method> = noHistory();
  const began = performance.now();
  for (let i = 0; i < 1000; i += 1) {
    const points = method.figure.ropes[0]?.points ?? [];
    const index = i % points.length;
    const p = points[index] ?? [0, 0];
    const done = changeMethod(method, 0, {
      kind: 'move-point',
      strand: 'a',
      index,
      to: [p[0] + 0.2 * Math.sin(i), p[1] + 0.2 * Math.cos(i)],
    });
    if (!done.ok) continue;
    history = record(history, method);
    method = done.value;
  }
  const seconds = (performance.now() - began) / 1000;
  gc?.();
  return {
    crossings,
    edits: history.past.length,
    megabytes: round((process.memoryUsage().heapUsed - before) / 1e6),
    seconds: round(seconds),
  };
}

export function layoutBench(): object {
  return {
    tidy: [20, 60, 120].map((n) => {
      const figure = springWith(n);
      return { crossings: crossingsOf(figure).length, ms: timed(() => tidy(figure)) };
    }),
    codeLaidOut: [10, 30, 60].map((n) => {
      const figure = springWith(n);
      let drawn = false;
      const ms = timed(() => (drawn = layOut(gaussOf(figure)).ok));
      return { crossings: crossingsOf(figure).length, ms, drawn };
    }),
    thousandEdits: [24, 60].map(memoryOfEdits),
  };
}

/** Frames of the Draft screen while a point is dragged about for two seconds, on the real server and database. */
export function dragBench(databaseUrl: string): Promise<object> {
  return onPage(databaseUrl, 'Bench Author', async (page, base) => {
    const out: object[] = [];
    for (const wanted of [20, 60, 120]) {
      const figure = springWith(wanted);
      const knot: KnotDocument = { name: `Spring ${wanted}`, entry: EMPTY_ENTRY, method: methodFor(figure), extra: {} };
      const id = await page.evaluate(async (document) => {
        const made = await fetch('/api/knots', {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ document }),
        });
        return ((await made.json()) as { card: { id: string } }).card.id;
      }, writeKnot(knot));
      await page.goto(`${base}/knot/${id}/draft`);
      await page.locator('ft-board .waymark').first().waitFor();
      await page.waitForTimeout(4000);
      await page.keyboard.press('p');
      const points = page.locator('circle.point');
      const box = await points.nth(Math.floor((await points.count()) / 2)).boundingBox();
      if (!box) throw new Error('there is no point to drag');
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
      await page.mouse.move(x, y);
      await page.mouse.down();
      const frames = await framesOf(page, async () => {
        const began = performance.now();
        for (let i = 0; performance.now() - began < 2000; i += 1)
          await page.mouse.move(x + 14 * Math.sin(i / 9), y + 14 * Math.sin(i / 13));
      });
      await page.mouse.up();
      out.push({ crossings: crossingsOf(figure).length, ...frames });
    }
    return out;
  });
}
