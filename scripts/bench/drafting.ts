/**
 * Measurements of drafting: Tidy and the layout of a code, memory after a long session of edits, and the frames of the real page while
 * a point is dragged.
 */
import type { Browser } from '@playwright/test';
import { pino } from 'pino';
import {
  applyMethodEdit,
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
  type MethodEdit,
} from '../../packages/core/src/index.js';
import { ensureAccount } from '../../packages/server/src/accounts.js';
import { createApp } from '../../packages/server/src/app.js';
import { migrate, openPool } from '../../packages/server/src/database.js';
import { springWith } from './identity.js';

const round = (v: number): number => Math.round(v * 10) / 10;
const timed = (work: () => unknown): number => {
  const began = performance.now();
  work();
  return round(performance.now() - began);
};
const middle = (list: readonly number[], share: number): number =>
  round([...list].sort((a, b) => a - b)[Math.floor((list.length - 1) * share)] ?? 0);

/** Heap in use after 1,000 edits of a figure, each kept with its inverse, less what was there before; in megabytes. */
function memoryOfEdits(crossings: number): object {
  const gc = (globalThis as { gc?: () => void }).gc;
  let method = methodFor(springWith(crossings));
  gc?.();
  const before = process.memoryUsage().heapUsed;
  let history: History<MethodEdit> = noHistory();
  const began = performance.now();
  for (let i = 0; i < 1000; i += 1) {
    const points = method.figure.ropes[0]?.points ?? [];
    const index = i % points.length;
    const p = points[index] ?? [0, 0];
    const edit: MethodEdit = {
      kind: 'figure',
      edit: { kind: 'move-point', strand: 'a', index, to: [p[0] + 0.2 * Math.sin(i), p[1] + 0.2 * Math.cos(i)] },
    };
    const done = applyMethodEdit(method, edit);
    if (!done.ok) continue;
    history = record(history, edit, done.value.inverse);
    method = done.value.method;
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
export async function dragBench(databaseUrl: string, webFolder: string, browser: Browser): Promise<object> {
  const log = pino({ level: 'silent' });
  const pool = openPool(databaseUrl, log);
  await migrate(pool);
  await ensureAccount(pool, 'Bench Author', 'author', 'a long bench');
  const server = createApp({ pool, log, version: 'bench', webFolder }).listen(0, '127.0.0.1');
  await new Promise((done) => server.once('listening', done));
  const address = server.address();
  const base = `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`;
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript('globalThis.__name = (f) => f');
    await page.goto(`${base}/sign-in`);
    await page.getByLabel('Name').fill('Bench Author');
    await page.getByLabel('Password').fill('a long bench');
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await page.waitForURL('**/shelf');
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
      await page.evaluate(() => {
        const w = window as unknown as { frames: number[]; going: boolean };
        w.frames = [];
        w.going = true;
        let last = performance.now();
        const tick = (): void => {
          const now = performance.now();
          w.frames.push(now - last);
          last = now;
          if (w.going) requestAnimationFrame(tick);
        };
        requestAnimationFrame(tick);
      });
      const began = performance.now();
      for (let i = 0; performance.now() - began < 2000; i += 1)
        await page.mouse.move(x + 14 * Math.sin(i / 9), y + 14 * Math.sin(i / 13));
      const frames = await page.evaluate(() => {
        const w = window as unknown as { frames: number[]; going: boolean };
        w.going = false;
        return w.frames.slice(2);
      });
      await page.mouse.up();
      out.push({
        crossings: crossingsOf(figure).length,
        frames: frames.length,
        medianMs: middle(frames, 0.5),
        p95Ms: middle(frames, 0.95),
      });
    }
    await page.close();
    return out;
  } finally {
    server.closeAllConnections();
    server.close();
    await pool.end();
  }
}
