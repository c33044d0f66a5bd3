/**
 * The public pages, as HTML: what is published reads, prints and is found without a script, and without an account.
 */
import { listPage, missingPage, pageStyle, type PublishedList, type Shown } from '@foxtrail/lesson';
import { PARAMETERS, type PublicKnot } from '@foxtrail/contract';
import { OTHER_METHODS } from '@foxtrail/core';
import { Router, type Request, type Response } from 'express';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import type { AppOptions } from './app.js';
import { aside } from './aside.js';
import { house } from './house.js';
import { HttpProblem } from './problem.js';
import { listPublished, publicKnot } from './publications.js';
import { policyWithStyle } from './security.js';
import { SentPages } from './sent-pages.js';

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
  const pages = new SentPages(pool);
  const policy = policyWithStyle(pageStyle());

  routes.use('/learn', (_req, res, next) => {
    res.setHeader('Content-Security-Policy', policy);
    next();
  });
  routes.get('/learn', async (req, res) => {
    await pages.send(req, res, {
      key: 'list',
      type: 'html',
      content: async (): Promise<PublishedList> => {
        const [{ name }, knots] = await Promise.all([house(pool), listPublished(pool)]);
        return { house: name, knots };
      },
      write: (list: PublishedList) => Promise.resolve(listPage(list, { version })),
    });
  });
  /** Sends a page of a published knot; what is not there, or not published any more, is said on a page of its own. */
  const ofKnot = async (
    req: Request,
    res: Response,
    { key, missing, write }: { key: string; missing: string; write: (knot: PublicKnot) => Promise<string | undefined> },
  ): Promise<void> => {
    const isMissing = (): void => {
      res.status(404).setHeader('Cache-Control', 'no-cache');
      res.type('html').send(missingPage('This page is not published', missing, { version }));
    };
    const slug = PARAMETERS.slug.type.safeParse(req.params.slug);
    if (!slug.success) {
      isMissing();
      return;
    }
    try {
      const content = (): Promise<PublicKnot> => publicKnot(pool, slug.data);
      if (!(await pages.send(req, res, { key: `${key} ${slug.data}`, type: 'html', content, write }))) isMissing();
    } catch (error) {
      if (!(error instanceof HttpProblem) || error.status !== 404) throw error;
      isMissing();
    }
  };
  const gone = 'There is no published knot at this address. It may have been withdrawn, or the address is misspelt.';
  routes.get('/learn/:slug', async (req, res) => {
    const { method, view } = querySchema.parse(req.query);
    const asked: Partial<Shown> = {
      ...(method === undefined ? {} : { method: method - 1 }),
      ...(view === undefined ? {} : { view }),
    };
    await ofKnot(req, res, {
      key: `${method ?? ''} ${view ?? ''}`,
      missing: gone,
      write: (knot) => aside('page', { knot, asked, frame: { version } }),
    });
  });
  routes.get('/learn/:slug/practice', async (req, res) => {
    await ofKnot(req, res, {
      key: 'practice',
      missing: `${gone} Or it is a knot of so few, or so many, crossings that there is nothing to practise on.`,
      write: (knot) => aside('practice', { knot, frame: { version } }),
    });
  });
  for (const [job, missing] of [
    ['lay', 'there is nothing of it that an end lays'],
    ['yours', 'it has so many crossings that nobody traces them'],
  ] as const)
    routes.get(`/learn/:slug/${job}`, async (req, res) => {
      const { method = 1, view } = querySchema.parse(req.query);
      const shown: Shown = { method: method - 1, view: view === 'left' ? 'left' : 'front' };
      await ofKnot(req, res, {
        key: `${job} ${shown.method} ${shown.view}`,
        missing: `${gone} Or ${missing}.`,
        write: (knot) => aside(job, { knot, shown, frame: { version } }),
      });
    });
  return routes;
}
