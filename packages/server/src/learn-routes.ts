/**
 * The public pages, as HTML: what is published reads, prints and is found without a script, and without an account.
 */
import { listPage, missingPage, type PageFrame, type Shown } from '@foxtrail/lesson';
import { PARAMETERS } from '@foxtrail/contract';
import { OTHER_METHODS } from '@foxtrail/core';
import { Router, type Response } from 'express';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import type { AppOptions } from './app.js';
import { aside } from './aside.js';
import { house } from './house.js';
import { KeptPages } from './kept-pages.js';
import { HttpProblem } from './problem.js';
import { listPublished, publicKnot } from './publications.js';
import { nonceOf } from './security.js';

/** What an address may ask for; anything else in it is let pass, for links are written by hand too. */
const querySchema = z.object({
  method: z.coerce
    .number()
    .int()
    .min(1)
    .max(OTHER_METHODS + 1)
    .optional()
    .catch(undefined),
  view: z.enum(['front', 'back', 'left']).optional().catch(undefined),
});

/** Changes with the pages' own script and style. */
function versionOf(folder: string | undefined): string {
  const hash = createHash('sha256');
  for (const name of ['learn.css', 'learn.js']) {
    const file = folder === undefined ? undefined : join(folder, name);
    if (file !== undefined && existsSync(file)) hash.update(readFileSync(file));
  }
  return hash.digest('hex').slice(0, 10);
}

export function learnRoutes({ pool, webFolder }: AppOptions): Router {
  const routes = Router();
  const version = versionOf(webFolder);
  const kept = new KeptPages();
  const frameOf = (res: Response): PageFrame => ({ nonce: nonceOf(res), version });
  const send = (res: Response, page: string): void =>
    void res.setHeader('Cache-Control', 'no-cache').type('html').send(page);

  routes.get('/learn', async (_req, res) => {
    const [{ name }, knots] = await Promise.all([house(pool), listPublished(pool)]);
    send(res, listPage({ house: name, knots }, frameOf(res)));
  });
  routes.get('/learn/:slug', async (req, res) => {
    const missing = (): void => {
      res.status(404);
      const text =
        'There is no published knot at this address. It may have been withdrawn, or the address is misspelt.';
      send(res, missingPage('This page is not published', text, frameOf(res)));
    };
    const slug = PARAMETERS.slug.type.safeParse(req.params.slug);
    if (!slug.success) {
      missing();
      return;
    }
    try {
      const { method, view } = querySchema.parse(req.query);
      const asked: Partial<Shown> = {
        ...(method === undefined ? {} : { method: method - 1 }),
        ...(view === undefined ? {} : { view }),
      };
      const knot = await publicKnot(pool, slug.data);
      const write = (nonce: string): Promise<string | undefined> =>
        aside('page', { knot, asked, frame: { nonce, version } });
      const page = await kept.page([knot, asked], nonceOf(res), write);
      if (page === undefined) missing();
      else send(res, page);
    } catch (error) {
      if (!(error instanceof HttpProblem) || error.status !== 404) throw error;
      missing();
    }
  });
  return routes;
}
