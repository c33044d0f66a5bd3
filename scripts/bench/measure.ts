/**
 * What the measurements share: rounding, medians, the browser, a page of the real application signed in, and its frames.
 */
import { chromium, type Page } from '@playwright/test';
import { pino } from 'pino';
import { ensureAccount } from '../../packages/server/src/accounts.js';
import { createApp } from '../../packages/server/src/app.js';
import { migrate, openPool } from '../../packages/server/src/database.js';

/** The folder the web application was built into. */
export const BUILT = new URL('../../packages/web/dist/browser/', import.meta.url).pathname;

export const round = (v: number): number => Math.round(v * 10) / 10;

/** The value below which so great a share of the list lies: 0.5 the median, 1 the greatest. */
export const middle = (list: readonly number[], share: number): number =>
  round([...list].sort((a, b) => a - b)[Math.floor((list.length - 1) * share)] ?? 0);

/** Milliseconds that the work takes, once. */
export const timed = (work: () => unknown): number => {
  const began = performance.now();
  work();
  return round(performance.now() - began);
};

export const openBrowser = (): ReturnType<typeof chromium.launch> =>
  chromium.launch({
    executablePath: process.env.CHROME_BIN ?? '/usr/bin/chromium',
    chromiumSandbox: false,
    args: [
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });

/** The application on the real database, with an author of that name signed in; all of it is closed when the work is done. */
export async function onPage<T>(
  databaseUrl: string,
  author: string,
  work: (page: Page, base: string, pool: ReturnType<typeof openPool>) => Promise<T>,
  options: { readonly bypassCSP?: boolean } = {},
): Promise<T> {
  const log = pino({ level: 'silent' });
  const pool = openPool(databaseUrl, log);
  await migrate(pool);
  await ensureAccount(pool, author, 'author', 'a long bench');
  const server = createApp({ pool, log, version: 'bench', webFolder: BUILT }).listen(0, '127.0.0.1');
  await new Promise((done) => server.once('listening', done));
  const address = server.address();
  const base = `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`;
  const browser = await openBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, ...options });
    // The TypeScript loader names inner functions by a helper that the page does not have.
    await page.addInitScript('globalThis.__name = (f) => f');
    await page.goto(`${base}/sign-in`);
    await page.getByLabel('Name').fill(author);
    await page.getByLabel('Password').fill('a long bench');
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await page.waitForURL('**/shelf');
    return await work(page, base, pool);
  } finally {
    await browser.close();
    server.closeAllConnections();
    server.close();
    await pool.end();
  }
}

/** Times between the frames that the page shows while something is done on it, in milliseconds. */
export async function framesOf(page: Page, act: () => Promise<void>): Promise<object> {
  await page.evaluate(() => {
    const w = window as unknown as { frames: number[]; going: boolean };
    w.frames = [];
    w.going = true;
    let last = performance.now();
    const tick = (): void => {
      const now = performance.now();
      w.frames.push(now - last);
      last = now;
      if (w.going) requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  });
  await act();
  const frames = await page.evaluate(() => {
    const w = window as unknown as { frames: number[]; going: boolean };
    w.going = false;
    return w.frames.slice(2);
  });
  return { frames: frames.length, medianMs: middle(frames, 0.5), p95Ms: middle(frames, 0.95) };
}
