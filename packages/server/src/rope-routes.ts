/**
 * Routes of ropes: every kind that is kept has the same four.
 */
import { ROPE_ROUTES, type KeptKind } from '@foxtrail/contract/ropes';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
import { changeThing, keepThings, keptThings, removeThing } from './kept-rows.js';
import { Desk } from './serve.js';

/** Longest request: many pull tests at once. */
const BODY_LIMIT = '1mb';

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
  return desk.routes;
}
