/**
 * The HTTP application: routers by subject, each route as the contract has it. State is in PostgreSQL only, so any number of these
 * can run side by side.
 */
import { randomUUID } from 'node:crypto';
import { constants } from 'node:zlib';
import compression from 'compression';
import express, { type NextFunction, type Request, type Response } from 'express';
import type pg from 'pg';
import type { Logger } from 'pino';
import { filmRoutes } from './film-routes.js';
import { houseRoutes } from './house-routes.js';
import { kinRoutes } from './kin-routes.js';
import { knotRoutes } from './knot-routes.js';
import type { Metrics } from './metrics.js';
import { HttpProblem, toProblem } from './problem.js';
import { learnRoutes } from './learn-routes.js';
import { publicRoutes } from './public-routes.js';
import { reviewRoutes } from './review-routes.js';
import { assemblyRoutes } from './assembly-routes.js';
import { drillRoutes } from './drill-routes.js';
import { ropeRoutes } from './rope-routes.js';
import { BROTLI } from './sent.js';
import { contentPolicy, knownHosts, sameOrigin } from './security.js';
import { hasWeb, webFolder } from './web-folder.js';
import { wordsRoutes } from './words-routes.js';

export interface AppOptions {
  readonly pool: pg.Pool;
  readonly log: Logger;
  readonly version: string;
  /** Folder of the built web application; without it only the interface for programs answers. */
  readonly webFolder?: string;
  /** Names by which it is called, beside those of this machine. */
  readonly hosts?: readonly string[];
  /** The proxies whose word is taken for where a request comes from, as Express has it; absent: nobody's. */
  readonly proxy?: string;
  /** Counts and times of requests for whoever watches over it. */
  readonly metrics?: Metrics;
  /** Most milliseconds that a save waits for what is found of it. */
  readonly patience?: number;
}

export function createApp(options: AppOptions): express.Express {
  const { log, webFolder: folder, hosts = [], proxy, metrics } = options;
  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', proxy ?? false);
  app.use(contentPolicy());
  app.use((req, res, next) => {
    const began = performance.now();
    const id = randomUUID();
    res.setHeader('X-Request-Id', id);
    res.locals.id = id;
    res.on('finish', () => {
      const ms = performance.now() - began;
      metrics?.answered(req, res, ms);
      if (req.path.startsWith('/api/'))
        log.info({ id, method: req.method, path: req.path, status: res.statusCode, ms: Math.round(ms) }, 'request');
    });
    next();
  });
  app.use(knownHosts(hosts));
  if (metrics) app.get('/metrics', metrics.send);
  // Clips are compressed by themselves, and sent in parts.
  app.use(
    compression({
      filter: (req, res) => !String(res.getHeader('Content-Type')).startsWith('video/') && compression.filter(req, res),
      brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: BROTLI } },
    }),
  );
  app.use('/api', sameOrigin, (_req, res, next) => {
    res.setHeader('Cache-Control', 'no-store');
    next();
  });
  for (const routes of [
    houseRoutes,
    knotRoutes,
    reviewRoutes,
    publicRoutes,
    wordsRoutes,
    kinRoutes,
    filmRoutes,
    ropeRoutes,
    drillRoutes,
    assemblyRoutes,
  ])
    app.use(routes(options));
  app.use('/api', () => {
    throw new HttpProblem(
      404,
      'not-found',
      'address',
      'There is nothing at this address.',
      'See /api/openapi.json for what there is.',
    );
  });
  app.use(learnRoutes(options));
  if (folder !== undefined && hasWeb(folder)) app.use(webFolder(folder));
  app.use((error: unknown, req: Request, res: Response, _next: NextFunction) => {
    const problem = toProblem(error, log.child({ id: res.locals.id as unknown }));
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
