/**
 * What every answer carries and every write must show: a strict content policy, and an origin that is our own.
 */
import { createHash, randomBytes } from 'node:crypto';
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import helmet from 'helmet';
import { HttpProblem } from './problem.js';

/** The page's nonce for style elements that are made while it runs. */
export const nonceOf = (res: Response): string => String(res.locals.nonce);

/** Scripts, styles, fonts and icons of the page: they do nothing by themselves, so the page's policy is theirs. A worker has its own. */
export const PART_OF_A_PAGE = /^\/(?!api\/|worker-).*\.(?:js|css|woff2|svg)$/;

/** The policy that every page, worker and answer carries; what is only part of a page goes without its kilobyte. */
export function contentPolicy(): RequestHandler[] {
  const whole = policy();
  return [
    (req, res, next) => {
      if (PART_OF_A_PAGE.test(req.path)) {
        res.setHeader('X-Content-Type-Options', 'nosniff');
        res.setHeader('Cross-Origin-Resource-Policy', 'same-origin');
        next();
        return;
      }
      res.locals.nonce = randomBytes(16).toString('base64');
      whole(req, res, next);
    },
  ];
}

/** What a page may use, beside styles. */
const ALLOWED = {
  defaultSrc: ["'none'"],
  scriptSrc: ["'self'"],
  imgSrc: ["'self'", 'blob:'],
  fontSrc: ["'self'"],
  connectSrc: ["'self'"],
  mediaSrc: ["'self'", 'blob:'],
  workerSrc: ["'self'"],
  manifestSrc: ["'self'"],
  baseUri: ["'self'"],
  formAction: ["'self'"],
  frameAncestors: ["'none'"],
  objectSrc: ["'none'"],
};

const policy = (): RequestHandler =>
  helmet({
    strictTransportSecurity: false,
    crossOriginEmbedderPolicy: false,
    referrerPolicy: { policy: 'same-origin' },
    contentSecurityPolicy: {
      useDefaults: false,
      directives: { ...ALLOWED, styleSrc: ["'self'", (_req, res) => `'nonce-${nonceOf(res as Response)}'`] },
    },
  });

/** The same policy for a page that is the same for everybody, and has one style element of this text. */
export function policyWithStyle(style: string): string {
  const hash = createHash('sha256').update(style).digest('base64');
  return Object.entries({ ...ALLOWED, styleSrc: ["'self'", `'sha256-${hash}'`] })
    .map(([what, sources]) => `${what.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)} ${sources.join(' ')}`)
    .join(';');
}

/** Names by which a server on this machine is always called. */
const LOOPBACK = new Set(['localhost', '127.0.0.1', '[::1]']);

const hostOf = (url: string): URL | undefined => (URL.canParse(url) ? new URL(url) : undefined);

/**
 * Refuses what was meant for a server of another name. A website whose name is made to lead here (DNS rebinding) could otherwise ask in the
 * name of whoever has it open.
 */
export const knownHosts = (hosts: readonly string[]): RequestHandler => {
  const known = new Set([...LOOPBACK, ...hosts.map((h) => h.toLowerCase())]);
  return (req, _res, next) => {
    const name = hostOf(`http://${req.get('host') ?? ''}`)?.hostname;
    if (name === undefined || !known.has(name))
      throw new HttpProblem(
        421,
        'foreign-host',
        'Host',
        'This server does not go by that name.',
        'Open it by a name it has; whoever keeps it names others in FOXTRAIL_HOSTS.',
      );
    next();
  };
};

/** Refuses writes that do not come from a page of this server. Browsers always say where a write comes from. */
export function sameOrigin(req: Request, _res: Response, next: NextFunction): void {
  if (['GET', 'HEAD', 'OPTIONS'].includes(req.method)) {
    next();
    return;
  }
  const origin = req.get('origin');
  const host = origin === undefined ? undefined : hostOf(origin)?.host;
  if (host === undefined || host !== hostOf(`http://${req.get('host') ?? ''}`)?.host) {
    throw new HttpProblem(
      403,
      'foreign-origin',
      'request',
      'This request does not come from a page of this server.',
      'Open Fox Trail at its own address and try there.',
    );
  }
  next();
}
