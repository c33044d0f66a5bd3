/**
 * The HTTP application: routes to services. State is in PostgreSQL only, so any number of these can run side by side.
 */
import {
  nameRevisionSchema,
  clipQuerySchema,
  createKnotSchema,
  houseChangeSchema,
  identifySchema,
  reviewVerdictSchema,
  listQuerySchema,
  saveKnotSchema,
  signInSchema,
  type Account,
  type Session,
} from '@foxtrail/contract';
import { numberOf, stepsOf, figureJsonSchema, refusalOf, type View } from '@foxtrail/core';
import { parseCookie, stringifySetCookie } from 'cookie';
import express, { type NextFunction, type Request, type Response } from 'express';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type pg from 'pg';
import type { Logger } from 'pino';
import * as z from 'zod';
import { accountOf, SESSION_DAYS, signIn, signOut } from './accounts.js';
import { listKnots } from './cards.js';
import { clipFor, sendClip, storeClip } from './clips.js';
import { DEMO_SIGN_INS } from './demo.js';
import { changeHouse, house, housePractice } from './house.js';
import { listLike, matchesOf } from './identity.js';
import { kinRoutes } from './kin-routes.js';
import { createKnot, duplicateKnot, getKnot, leftHandedKnot, saveKnot, setArchived } from './knots.js';
import { tryStale } from './prover.js';
import { countStale, leftToCount } from './recount.js';
import { openApi } from './openapi.js';
import { captions, sheetSvg, stepSvg, thumbnail } from './pictures.js';
import { HttpProblem, notFound, refused } from './problem.js';
import { listPublished, publicKnot, publishedKnot, publishKnot, withdrawKnot } from './publications.js';
import { beginReview, judgeItem, reviewOf, settleReview } from './reviews.js';
import { nameRevision, readSaved, revisionDocument, revisionsOf } from './revisions.js';
import { vocabularyOfKnot } from './words.js';
import { wordsRoutes } from './words-routes.js';
import { contentPolicy, nonceOf, sameOrigin } from './security.js';

export interface AppOptions {
  readonly pool: pg.Pool;
  readonly log: Logger;
  readonly version: string;
  /** Folder of the built web application; without it only the interface for programs answers. */
  readonly webFolder?: string;
}

const COOKIE = 'foxtrail_session';
/** A little above the longest figure file, for the envelope round it. */
const BODY_LIMIT = '3mb';

const idSchema = z.uuid();

export function createApp({ pool, log, version, webFolder }: AppOptions): express.Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', 'loopback');
  app.use(contentPolicy());
  app.use((req, res, next) => {
    const began = performance.now();
    res.on('finish', () => {
      if (req.path.startsWith('/api/'))
        log.info(
          { method: req.method, path: req.path, status: res.statusCode, ms: Math.round(performance.now() - began) },
          'request',
        );
    });
    next();
  });
  app.use('/api', sameOrigin, (_req, res, next) => {
    res.setHeader('Cache-Control', 'no-store');
    next();
  });

  const tokenOf = (req: Request): string | undefined => parseCookie(req.get('cookie') ?? '')[COOKIE];
  const setCookie = (req: Request, res: Response, value: string, maxAge: number): void => {
    res.setHeader(
      'Set-Cookie',
      stringifySetCookie({
        name: COOKIE,
        value,
        httpOnly: true,
        sameSite: 'lax',
        path: '/',
        maxAge,
        secure: req.secure,
      }),
    );
  };
  const signedIn = async (req: Request): Promise<Account> => {
    const token = tokenOf(req);
    const account = token === undefined ? undefined : await accountOf(pool, token);
    if (!account)
      throw new HttpProblem(
        401,
        'signed-out',
        'session',
        'You are not signed in, or your session has ended.',
        'Sign in; what you have drawn is kept.',
      );
    return account;
  };
  const author = async (req: Request): Promise<Account> => {
    const account = await signedIn(req);
    if (account.role !== 'author')
      throw new HttpProblem(
        403,
        'not-an-author',
        account.name,
        'A reviewer reads drafts but does not change them.',
        'Ask an author to make the change.',
      );
    return account;
  };
  const knotId = (req: Request): string => {
    const id = idSchema.safeParse(req.params.id);
    if (!id.success) throw notFound('knot');
    return id.data;
  };
  const revisionNumber = (req: Request): number => {
    const number = z.coerce.number().int().min(1).max(2_147_483_647).safeParse(req.params.number);
    if (!number.success) throw notFound('revision');
    return number.data;
  };
  const check = <T>(type: z.ZodType<T>, data: unknown): T => {
    const parsed = type.safeParse(data);
    if (!parsed.success) throw refused(refusalOf(parsed.error));
    return parsed.data;
  };
  const body = express.json({ limit: BODY_LIMIT });

  app.get('/api/health', async (_req, res) => {
    try {
      await pool.query('select 1');
      res.json({ ok: true, database: 'up', version });
    } catch {
      res.status(503).json({ ok: false, database: 'down', version });
    }
  });
  app.get('/api/openapi.json', (_req, res) => void res.json(openApi()));
  app.get('/api/schema/foxtrail-figure-1.json', (_req, res) => void res.json(figureJsonSchema()));

  const session = async (account: Account | null): Promise<Session> => {
    const { demo, ...own } = await house(pool);
    return { account, house: own, demo: demo ? [...DEMO_SIGN_INS] : null };
  };
  app.get('/api/session', async (req, res) => {
    const token = tokenOf(req);
    res.json(await session((token === undefined ? undefined : await accountOf(pool, token)) ?? null));
  });
  app.post('/api/session', body, async (req, res) => {
    const { name, password } = check(signInSchema, req.body);
    const { account, token } = await signIn(pool, name, password, req.ip ?? '');
    setCookie(req, res, token, SESSION_DAYS * 86_400);
    res.json(await session(account));
  });
  app.delete('/api/session', async (req, res) => {
    const token = tokenOf(req);
    if (token !== undefined) await signOut(pool, token);
    setCookie(req, res, '', 0);
    res.status(204).end();
  });

  app.put('/api/house', body, async (req, res) => {
    await author(req);
    const changed = await changeHouse(pool, check(houseChangeSchema, req.body));
    void countStale(pool, (error, id) => log.error({ error: String(error), id }, 'findings not counted'));
    res.json(changed);
  });
  app.get('/api/house/count', async (req, res) => {
    await signedIn(req);
    res.json({ left: await leftToCount(pool) });
  });
  app.get('/api/knots', async (req, res) => {
    await signedIn(req);
    const { q, archived, like } = check(listQuerySchema, req.query);
    res.json(like === undefined ? await listKnots(pool, q, archived === 'true') : await listLike(pool, like));
  });
  app.post('/api/knots', body, async (req, res) => {
    const account = await author(req);
    res.status(201).json({ card: await createKnot(pool, account, check(createKnotSchema, req.body)) });
  });
  app.post('/api/identify', body, async (req, res) => {
    await signedIn(req);
    const { except, ...keys } = check(identifySchema, req.body);
    res.json({ matches: await matchesOf(pool, keys, except) });
  });
  app.get('/api/knots/:id', async (req, res) => {
    await signedIn(req);
    const knot = await getKnot(pool, knotId(req));
    res.setHeader('ETag', `"${knot.card.revision}"`);
    res.json(knot);
  });
  app.put('/api/knots/:id', body, async (req, res) => {
    const account = await author(req);
    const match = /^"(\d+)"$/.exec(req.get('if-match') ?? '');
    if (!match)
      throw new HttpProblem(
        428,
        'no-revision',
        'If-Match',
        'The request does not say which revision it was made from.',
        'Send its ETag as If-Match.',
      );
    const card = await saveKnot(pool, account, knotId(req), Number(match[1]), check(saveKnotSchema, req.body).document);
    void tryStale(pool, (error) => log.error({ error: String(error) }, 'kin not tried'));
    res.setHeader('ETag', `"${card.revision}"`);
    res.json({ card });
  });
  const sendSvg = (res: Response, svg: string, name?: string): void => {
    res.setHeader('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'");
    if (name !== undefined) res.attachment(name);
    res.type('image/svg+xml').send(svg);
  };
  app.get('/api/knots/:id/thumbnail.svg', async (req, res) => {
    await signedIn(req);
    const { document } = await getKnot(pool, knotId(req));
    const knot = readSaved(document);
    sendSvg(res, thumbnail(knot, await vocabularyOfKnot(pool, knot.entry)));
  });
  app.get('/api/knots/:id/revisions', async (req, res) => {
    await signedIn(req);
    res.json(await revisionsOf(pool, knotId(req)));
  });
  app.get('/api/knots/:id/revisions/:number', async (req, res) => {
    await signedIn(req);
    res.json({ document: await revisionDocument(pool, knotId(req), revisionNumber(req)) });
  });
  app.put('/api/knots/:id/revisions/:number', body, async (req, res) => {
    await author(req);
    await nameRevision(pool, knotId(req), revisionNumber(req), check(nameRevisionSchema, req.body).name);
    res.status(204).end();
  });
  app.post('/api/knots/:id/duplicate', async (req, res) => {
    const account = await author(req);
    res.status(201).json({ card: await duplicateKnot(pool, account, knotId(req)) });
  });
  app.post('/api/knots/:id/left-handed', async (req, res) => {
    const account = await author(req);
    res.status(201).json({ card: await leftHandedKnot(pool, account, knotId(req)) });
  });
  for (const [path, archived] of [
    ['archive', true],
    ['restore', false],
  ] as const) {
    app.post(`/api/knots/:id/${path}`, async (req, res) => {
      await author(req);
      res.json({ card: await setArchived(pool, knotId(req), archived) });
    });
  }
  app.post('/api/knots/:id/publication', async (req, res) => {
    const account = await author(req);
    res.json(await publishKnot(pool, account, knotId(req)));
  });
  app.delete('/api/knots/:id/publication', async (req, res) => {
    await withdrawKnot(pool, await author(req), knotId(req));
    res.status(204).end();
  });
  app.get('/api/knots/:id/review', async (req, res) => {
    res.json(await reviewOf(pool, await signedIn(req), knotId(req)));
  });
  app.post('/api/knots/:id/review', async (req, res) => {
    const account = await signedIn(req);
    await beginReview(pool, account, knotId(req));
    res.status(201).json(await reviewOf(pool, account, knotId(req)));
  });
  app.put('/api/knots/:id/review/items/:item', body, async (req, res) => {
    const account = await signedIn(req);
    await judgeItem(pool, account, knotId(req), req.params.item, check(reviewVerdictSchema, req.body));
    res.json(await reviewOf(pool, account, knotId(req)));
  });
  app.put('/api/knots/:id/review', async (req, res) => {
    const account = await signedIn(req);
    await settleReview(pool, account, knotId(req));
    res.json(await reviewOf(pool, account, knotId(req)));
  });
  app.put('/api/knots/:id/clip', async (req, res) => {
    await author(req);
    const { revision, duration, pace, cautions } = check(clipQuerySchema, req.query);
    res.json(await storeClip(pool, knotId(req), revision, duration, pace, cautions === 'true', req));
  });
  app.get('/api/knots/:id/clip', async (req, res) => {
    await signedIn(req);
    const clip = await clipFor(pool, knotId(req));
    if (!clip) throw notFound('clip');
    await sendClip(pool, clip, req, res);
  });

  app.get('/api/public/knots', async (_req, res) => {
    const [{ name }, knots] = await Promise.all([house(pool), listPublished(pool)]);
    res.json({ house: name, knots });
  });
  app.get('/api/public/knots/:slug', async (req, res) => void res.json(await publicKnot(pool, req.params.slug)));
  app.get('/api/public/knots/:slug/figure.json', async (req, res) => {
    const { document } = await publishedKnot(pool, req.params.slug);
    res
      .attachment(`${req.params.slug}.json`)
      .type('application/json')
      .send(JSON.stringify(document, null, 2));
  });
  app.get('/api/public/knots/:slug/sheet.svg', async (req, res) => {
    const { document } = await publishedKnot(pool, req.params.slug);
    const knot = readSaved(document);
    sendSvg(res, sheetSvg(knot, await vocabularyOfKnot(pool, knot.entry)), `${req.params.slug}-sheet.svg`);
  });
  app.get('/api/public/knots/:slug/steps/:file', async (req, res) => {
    const { document } = await publishedKnot(pool, req.params.slug);
    const knot = readSaved(document);
    const name = /^(\d+|last)\.svg$/.exec(req.params.file)?.[1];
    const count = stepsOf(knot.method).length;
    const step = name === 'last' ? count : Number(name ?? NaN);
    if (!(step >= 1 && step <= count)) throw notFound('step');
    const view = z.enum(['front', 'back', 'left']).default('front').safeParse(req.query.view);
    if (!view.success)
      throw new HttpProblem(400, 'refused', 'view', 'There is no such view.', 'Ask for front, back or left.');
    const suffix: Record<View, string> = { front: '', back: '-back', left: '-left-handed' };
    const words = await vocabularyOfKnot(pool, knot.entry);
    sendSvg(res, stepSvg(knot, step - 1, view.data, words), `${req.params.slug}-step-${step}${suffix[view.data]}.svg`);
  });
  app.get('/api/public/knots/:slug/captions.vtt', async (req, res) => {
    const { document, knotId: id, revision } = await publishedKnot(pool, req.params.slug);
    const clip = await clipFor(pool, id, revision);
    const knot = readSaved(document);
    const words = await vocabularyOfKnot(pool, knot.entry);
    const perLine = numberOf(await housePractice(pool), 'caption-line');
    res.type('text/vtt').send(captions(knot, clip?.pace ?? 'normal', words, clip?.cautions ?? true, perLine));
  });
  app.get('/api/public/knots/:slug/clip.webm', async (req, res) => {
    const { knotId: id, revision } = await publishedKnot(pool, req.params.slug);
    const clip = await clipFor(pool, id, revision);
    if (!clip) throw notFound('clip');
    await sendClip(pool, clip, req, res);
  });
  app.use(wordsRoutes({ pool, signedIn, author, check }));
  app.use(kinRoutes({ pool, signedIn, author, check }));
  app.use('/api', () => {
    throw new HttpProblem(
      404,
      'not-found',
      'address',
      'There is nothing at this address.',
      'See /api/openapi.json for what there is.',
    );
  });

  if (webFolder !== undefined && existsSync(join(webFolder, 'index.html'))) {
    app.use(
      express.static(webFolder, {
        index: false,
        setHeaders: cacheHashed,
      }),
    );
    app.get('/{*path}', async (req, res) => {
      if (/\.\w+$/.test(req.path)) throw notFound('file');
      const page = await readFile(join(webFolder, 'index.html'), 'utf8');
      res.setHeader('Cache-Control', 'no-store');
      res.type('html').send(page.replaceAll('CSP_NONCE', nonceOf(res)));
    });
  }

  app.use((error: unknown, req: Request, res: Response, _next: NextFunction) => {
    const problem = toProblem(error, log);
    if (res.headersSent) {
      res.destroy();
      return;
    }
    for (const [name, value] of Object.entries(problem.headers)) res.setHeader(name, value);
    // A body that was refused before it was read would keep the connection busy.
    if (!req.complete) res.setHeader('Connection', 'close');
    res.status(problem.status).json(problem.body());
  });
  return app;
}

/** Built files carry a hash of their contents in their names, so they may be kept for good. */
function cacheHashed(res: Response, file: string): void {
  if (/-[A-Z0-9]{8}\./.test(file)) res.setHeader('Cache-Control', 'public, max-age=31536000, immutable');
}

function toProblem(error: unknown, log: Logger): HttpProblem {
  if (error instanceof HttpProblem) return error;
  const { type, code, message } = error as { type?: string; code?: string; message?: string };
  if (type === 'entity.too.large')
    return new HttpProblem(
      413,
      'too-large',
      'request',
      'The file is too large.',
      'A rope holds 2000 points; draw the figure with fewer.',
    );
  if (type === 'entity.parse.failed')
    return new HttpProblem(
      400,
      'not-json',
      'request',
      `It is not JSON: ${message ?? ''}.`,
      'Save it as a figure file and try again.',
    );
  if (code !== undefined && (/^(ECONN|57P|08)/.test(code) || code === 'ETIMEDOUT')) {
    log.error({ code }, 'database does not answer');
    return new HttpProblem(
      503,
      'database-down',
      'server',
      'The database does not answer.',
      'Your work is kept in this browser; it is saved when the database is back.',
    );
  }
  log.error({ error: (error as Error).stack ?? String(error) }, 'unexpected');
  return new HttpProblem(
    500,
    'unexpected',
    'server',
    'Something went wrong on the server; it has been noted in its log.',
    'Try again.',
  );
}
