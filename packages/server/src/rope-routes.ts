/**
 * Routes of ropes: every kind that is kept has the same four. And a load cell that is simulated, read as a real one would be.
 */
import { setInterval } from 'node:timers/promises';
import { LOAD_CELL_ROUTES, PHOTOGRAPH_ROUTES, ROPE_ROUTES, type KeptKind } from '@foxtrail/contract/ropes';
import { simulatedPull } from '@foxtrail/core/ropes';
import type { Response, Router } from 'express';
import type { AppOptions } from './app.js';
import { changeThing, keepThings, keptThings, removeThing } from './kept-rows.js';
import { keepPhotograph, sendPhotograph } from './photographs.js';
import { Desk } from './serve.js';

/** Longest request: many pull tests at once. */
const BODY_LIMIT = '1mb';

/** Readings a second, how many are sent at a time, and how long a pull takes to break; in seconds. */
const OFTEN = 20;
const AT_A_TIME = 2;
const PULL_SECONDS = 6;

/** Sends the readings of a simulated pull as they come, until it is over or nobody listens any more. */
async function sendPull(
  res: Response,
  { breaks, seed }: { readonly breaks: number; readonly seed: number },
): Promise<void> {
  // Neither packed nor kept on its way: each reading is wanted when it is made.
  res.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store, no-transform' });
  const readings = simulatedPull({ breaksAt: breaks, rate: breaks / PULL_SECONDS, often: OFTEN, seed });
  for await (const _ of setInterval((1000 * AT_A_TIME) / OFTEN)) {
    if (res.destroyed) return;
    const burst = Array.from({ length: AT_A_TIME }, () => readings.next()).flatMap((next) =>
      next.done === true ? [] : [next.value],
    );
    if (burst.length === 0) break;
    res.write(`data: ${JSON.stringify(burst)}\n\n`);
  }
  res.end('event: over\ndata: []\n\n');
}

export function ropeRoutes({ pool }: AppOptions): Router {
  const desk = new Desk(pool, BODY_LIMIT);
  for (const kind of Object.keys(ROPE_ROUTES) as KeptKind[]) {
    const routes = ROPE_ROUTES[kind] as (typeof ROPE_ROUTES)['ropes'];
    // One kind stands for all of them: what a kind holds its own schema has checked.
    const as = kind as 'ropes';
    desk.serve(routes.list, () => keptThings(pool, as));
    desk.serve(routes.add, ({ body: { things } }) => keepThings(pool, as, things));
    desk.serve(routes.change, ({ parameters: { kept }, body }) => changeThing(pool, as, kept, body));
    desk.serve(routes.remove, ({ parameters: { kept } }) => removeThing(pool, as, kept));
  }
  desk.serve(PHOTOGRAPH_ROUTES.keep, ({ parameters: { photograph }, req }) => keepPhotograph(pool, photograph, req));
  desk.send(PHOTOGRAPH_ROUTES.read, ({ parameters: { photograph }, res }) => sendPhotograph(pool, photograph, res));
  desk.send(LOAD_CELL_ROUTES.simulated, ({ query, res }) => sendPull(res, query));
  return desk.routes;
}
