/**
 * Routes of reviews.
 */
import { REVIEW_ROUTES } from '@foxtrail/contract';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
import { beginReview, judgeItem, reviewOf, settleReview } from './reviews.js';
import { Desk } from './serve.js';

export function reviewRoutes({ pool }: AppOptions): Router {
  const desk = new Desk(pool);
  desk.serve(REVIEW_ROUTES.read, ({ account, parameters: { id } }) => reviewOf(pool, account, id));
  desk.serve(REVIEW_ROUTES.begin, async ({ account, parameters: { id } }) => {
    await beginReview(pool, account, id);
    return reviewOf(pool, account, id);
  });
  desk.serve(REVIEW_ROUTES.judge, async ({ account, parameters: { id, item }, body }) => {
    await judgeItem(pool, account, id, item, body);
    return reviewOf(pool, account, id);
  });
  desk.serve(REVIEW_ROUTES.settle, async ({ account, parameters: { id } }) => {
    await settleReview(pool, account, id);
    return reviewOf(pool, account, id);
  });
  return desk.routes;
}
