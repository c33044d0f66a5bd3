/**
 * The public pages, as HTML: what is published reads, prints and is found without a script, and without an account.
 */
import {
  coursePage,
  courseRigPage,
  listPage,
  missingPage,
  pageStyle,
  type PublishedList,
  type Shown,
} from '@foxtrail/lesson';
import type { PublicKnot } from '@foxtrail/contract';
import { OTHER_METHODS } from '@foxtrail/core';
import { COURSE_LIMITS } from '@foxtrail/core/course';
import { Router, type Request, type Response } from 'express';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import type { AppOptions } from './app.js';
import { aside } from './aside.js';
import { listCourses, publicCourse, type PublicCourse } from './course-publications.js';
import { house } from './house.js';
import { HttpProblem, notFound } from './problem.js';
import { listPublished, publicKnot } from './publications.js';
import { policyWithStyle } from './security.js';
import { slipsShown } from './slips.js';
import { SentPages, type ToSend } from './sent-pages.js';

const slug = z.string().regex(/^[a-z0-9-]{1,120}$/);
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
  course: slug.optional().catch(undefined),
});

/** Changes with the pages' own script and style. */
function versionOf(folder: string | undefined): string {
  const hash = createHash('sha256');
  for (const name of ['learn.css', 'learn-desk.css', 'learn.js']) {
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
        const [{ name }, knots, courses] = await Promise.all([house(pool), listPublished(pool), listCourses(pool)]);
        return { house: name, knots, courses };
      },
      write: (list: PublishedList) => Promise.resolve(listPage(list, { version })),
    });
  });
  const isMissing = (res: Response, missing: string): void => {
    res.status(404).setHeader('Cache-Control', 'no-cache');
    res.type('html').send(missingPage('This page is not published', missing, { version }));
  };
  /** Sends a page; what is not there, or not published any more, is said on a page of its own. */
  const send = async <C>(
    req: Request,
    res: Response,
    { missing, ...page }: Omit<ToSend<C>, 'type'> & { readonly missing: string },
  ): Promise<void> => {
    try {
      if (!(await pages.send(req, res, { ...page, type: 'html' }))) isMissing(res, missing);
    } catch (error) {
      if (!(error instanceof HttpProblem) || error.status !== 404) throw error;
      isMissing(res, missing);
    }
  };
  interface OnCourse {
    readonly knot: PublicKnot;
    readonly course?: PublicCourse | undefined;
    /** Its slips that can be shown in the hand, where the page asks after them. */
    readonly slips?: readonly number[] | undefined;
  }
  /** Sends a page of a published knot, on its own or within a course. */
  const ofKnot = async (
    req: Request,
    res: Response,
    of: {
      key: string;
      missing: string;
      course?: string | undefined;
      slips?: boolean;
      write: (on: OnCourse) => Promise<string | undefined>;
    },
  ): Promise<void> => {
    const asked = slug.safeParse(req.params.slug);
    if (!asked.success) {
      isMissing(res, of.missing);
      return;
    }
    const content = async (): Promise<OnCourse> => {
      const [knot, course, slips] = await Promise.all([
        publicKnot(pool, asked.data),
        of.course === undefined ? undefined : publicCourse(pool, of.course),
        of.slips === true ? slipsShown(pool, asked.data) : undefined,
      ]);
      return { knot, ...(course ? { course } : {}), ...(slips ? { slips } : {}) };
    };
    await send(req, res, { key: `${of.key} ${asked.data}`, missing: of.missing, content, write: of.write });
  };
  /** Sends a page of a course. */
  const ofCourse = async (
    req: Request,
    res: Response,
    key: string,
    write: (on: PublicCourse, house: string) => string | undefined,
  ): Promise<void> => {
    const asked = slug.safeParse(req.params.course);
    const missing =
      'There is no published course at this address. It may have been withdrawn, or the address is misspelt.';
    if (!asked.success) {
      isMissing(res, missing);
      return;
    }
    await send(req, res, {
      key: `course ${asked.data} ${key}`,
      missing,
      content: async () => {
        const [course, { name }] = await Promise.all([publicCourse(pool, asked.data), house(pool)]);
        if (!course) throw notFound('course');
        return { course, name };
      },
      write: ({ course, name }) => Promise.resolve(write(course, name)),
    });
  };
  routes.get('/learn/courses/:course', (req, res) =>
    ofCourse(req, res, 'contents', (on, name) => coursePage(on, name, { version })),
  );
  routes.get('/learn/courses/:course/:part', (req, res) => {
    const part = z.coerce.number().int().min(1).max(COURSE_LIMITS.items).catch(0).parse(req.params.part);
    return ofCourse(req, res, String(part), (on) => courseRigPage(on, part - 1, { version }));
  });
  const gone = 'There is no published knot at this address. It may have been withdrawn, or the address is misspelt.';
  routes.get('/learn/:slug', async (req, res) => {
    const { method, view, course } = querySchema.parse(req.query);
    const asked: Partial<Shown> = {
      ...(method === undefined ? {} : { method: method - 1 }),
      ...(view === undefined ? {} : { view }),
    };
    await ofKnot(req, res, {
      key: `${method ?? ''} ${view ?? ''} ${course ?? ''}`,
      missing: gone,
      course,
      write: (on) => aside('page', { ...on, asked, frame: { version } }),
    });
  });
  routes.get('/learn/:slug/practice', async (req, res) => {
    await ofKnot(req, res, {
      key: 'practice',
      missing: `${gone} Or it is a knot of so few, or so many, crossings that there is nothing to practise on.`,
      slips: true,
      write: ({ knot, slips = [] }) => aside('practice', { knot, slips, frame: { version } }),
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
        write: ({ knot }) => aside(job, { knot, shown, frame: { version } }),
      });
    });
  return routes;
}
