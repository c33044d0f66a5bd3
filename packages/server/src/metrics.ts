/**
 * What whoever watches over a server asks of it: counts and times of answers, and of the process, as Prometheus reads them.
 */
import type { Request, RequestHandler, Response } from 'express';
import { timingSafeEqual } from 'node:crypto';
import { collectDefaultMetrics, Histogram, Registry } from 'prom-client';

/** Seconds by which answers are sorted. */
const BUCKETS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10];

export interface Metrics {
  readonly answered: (req: Request, res: Response, ms: number) => void;
  readonly send: RequestHandler;
}

/** What an address is counted as: what differs from knot to knot is left out. */
const kindOf = (req: Request): string =>
  req.route === undefined ? 'other' : String((req.route as { readonly path: unknown }).path);

/** Metrics that are told to whoever knows a token. */
export function metricsFor(token: string): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const answers = new Histogram({
    name: 'foxtrail_answer_seconds',
    help: 'How long answers took, by what was asked and how it was answered.',
    labelNames: ['method', 'route', 'status'],
    buckets: BUCKETS,
    registers: [registry],
  });
  const wanted = Buffer.from(`Bearer ${token}`);
  return {
    answered: (req, res, ms) =>
      answers.observe({ method: req.method, route: kindOf(req), status: String(res.statusCode) }, ms / 1000),
    send: async (req, res) => {
      const given = Buffer.from(req.get('authorization') ?? '');
      if (given.length !== wanted.length || !timingSafeEqual(given, wanted)) {
        res.status(401).end();
        return;
      }
      res.type(registry.contentType).send(await registry.metrics());
    },
  };
}
