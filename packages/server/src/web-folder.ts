/**
 * The built web application: its files, in the smallest form that the browser takes of those the build has left, and its one page for
 * every other address.
 */
import { Router } from 'express';
import staticGzip from 'express-static-gzip';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { notFound } from './problem.js';
import { nonceOf } from './security.js';

/** Built files carry a hash of their contents in their names, so they may be kept for good. */
const HASHED = /-[A-Z0-9]{8}\./;

export const hasWeb = (folder: string): boolean => existsSync(join(folder, 'index.html'));

export function webFolder(folder: string): Router {
  const routes = Router();
  const page = readFileSync(join(folder, 'index.html'), 'utf8');
  routes.use(
    staticGzip(folder, {
      index: false,
      enableBrotli: true,
      orderPreference: ['br', 'gz'],
      serveStatic: {
        setHeaders: (res, file) => {
          if (HASHED.test(file)) res.setHeader('Cache-Control', 'public, max-age=31536000, immutable');
        },
      },
    }),
  );
  routes.get('/{*path}', (req, res) => {
    if (/\.\w+$/.test(req.path)) throw notFound('file');
    res.setHeader('Cache-Control', 'no-store');
    res.type('html').send(page.replaceAll('CSP_NONCE', nonceOf(res)));
  });
  return routes;
}
