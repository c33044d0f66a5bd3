// The application with its demo data, in a browser whose author has signed in: for scripts that look at it or have it make something.
import { mkdtempSync, openSync, rmSync, chmodSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildWeb, ensureChromium, installPackages, root, webFolder } from './prepare.mjs';

/** Does something with the demo; what was started for it is stopped. */
export async function onDemo(work) {
  installPackages();
  // The core is read as it is written.
  (await import('tsx/esm/api')).register();
  ensureChromium();
  await buildWeb();
  const { startCluster, makeDatabase, startServer, freePort } = await import('./cluster.mjs');
  const { chromium } = await import('@playwright/test');
  const scratch = mkdtempSync(join(tmpdir(), 'foxtrail-demo-'));
  chmodSync(scratch, 0o755);
  const undo = [() => rmSync(scratch, { recursive: true, force: true })];
  try {
    const cluster = await startCluster(scratch);
    undo.push(cluster.stop);
    const server = await startServer({
      root,
      databaseUrl: await makeDatabase(cluster.url, 'shots', { fresh: true }),
      port: await freePort(),
      webFolder,
      demo: true,
      output: openSync(join(scratch, 'log'), 'a'),
    });
    undo.push(server.stop);
    const base = `http://127.0.0.1:${server.port}`;
    const browser = await chromium.launch({
      executablePath: process.env.CHROME_BIN,
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
    undo.push(() => browser.close());
    const page = await (
      await browser.newContext({ baseURL: base, viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' })
    ).newPage();
    /** Opens a knot of the shelf, and one of its views. */
    const open = async (name, tab) => {
      await page.goto(`${base}/shelf`);
      await page.getByRole('link', { name, exact: true }).click();
      await page.waitForURL('**/draft');
      await page.locator('svg.board').waitFor();
      if (tab) await page.getByRole('navigation', { name: 'This knot' }).getByRole('link', { name: tab }).click();
    };
    await page.goto(`${base}/sign-in`);
    const [owner] = server.demo;
    await page.getByLabel('Name').fill(owner.name);
    await page.getByLabel('Password').fill(owner.password);
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await page.waitForURL('**/shelf');
    await work({ page, base, browser, open });
  } finally {
    while (undo.length > 0) await undo.pop()();
  }
}
