/**
 * What a first visit costs: every byte that comes over the wire, headers included, added up by the browser.
 */
import { expect, test, type Page } from '@playwright/test';
import { signIn } from './support';

/** Bytes received while something is done on a page that has nothing in its cache, and by which files. */
async function received(page: Page, act: () => Promise<void>): Promise<{ bytes: number; files: string[] }> {
  const browser = await page.context().newCDPSession(page);
  await browser.send('Network.enable');
  const names = new Map<string, string>();
  const sizes = new Map<string, number>();
  browser.on('Network.responseReceived', ({ requestId, response }) => names.set(requestId, response.url));
  browser.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => sizes.set(requestId, encodedDataLength));
  await act();
  await page.waitForLoadState('networkidle');
  const files = [...sizes].map(([id, n]) => `${n} ${new URL(names.get(id) ?? page.url()).pathname}`);
  return { bytes: [...sizes.values()].reduce((sum, n) => sum + n, 0), files };
}

/**
 * Bounds in bytes, a little above what is sent today, so that growth is noticed: 71 000 of them are two fonts. The shelf is weighed
 * without the pictures of its cards, as other tests put more cards there; only those of the demo are held to theirs.
 */
const LEARNER_PAGE = 110_000;
const SHELF = 325_000;
const CARD_PICTURE = 8_000;
/** A picture of the knot in the hand; two stand on a learner's page, and come when they are scrolled near. */
const FORM_PICTURE = 12_000;

test('a learner’s first page, with its step drawn, stays below its weight', async ({ page }) => {
  const { bytes, files } = await received(page, async () => {
    await page.goto('/learn/reef-knot');
    await expect(page.locator('.player svg').first()).toBeVisible();
  });
  const pictures = files.filter((f) => f.includes('/form/')).map((f) => Number.parseInt(f, 10));
  const lesson = bytes - pictures.reduce((sum, n) => sum + n, 0);
  expect(Math.max(0, ...pictures)).toBeLessThanOrEqual(FORM_PICTURE);
  expect(lesson, files.join('\n')).toBeGreaterThan(20_000);
  expect(lesson, files.join('\n')).toBeLessThanOrEqual(LEARNER_PAGE);
});

test('an author’s first shelf stays below its weight', async ({ page, browser }) => {
  await signIn(page);
  // Signed in, with nothing in the cache.
  const context = await browser.newContext({ storageState: await page.context().storageState() });
  const fresh = await context.newPage();
  const { bytes, files } = await received(fresh, async () => {
    await fresh.goto('/shelf');
    await expect(fresh.locator('li.knot').first()).toBeVisible();
  });
  await context.close();
  const pictures = files.filter((f) => f.endsWith('/thumbnail.svg')).map((f) => Number.parseInt(f, 10));
  const { knots } = (await (await page.request.get('/api/knots')).json()) as { knots: { id: string; name: string }[] };
  // What tests make is named by the time, or a copy.
  const own = new Set(knots.filter(({ name }) => !/\d{13}|\(copy/.test(name)).map(({ id }) => id));
  const cards = files
    .filter((f) => own.has(/knots\/([^/]+)\/thumbnail/.exec(f)?.[1] ?? ''))
    .map((f) => Number.parseInt(f, 10));
  const shelf = bytes - pictures.reduce((sum, n) => sum + n, 0);
  expect(cards.length).toBeGreaterThan(0);
  expect(Math.max(...cards)).toBeLessThanOrEqual(CARD_PICTURE);
  expect(shelf, files.join('\n')).toBeGreaterThan(20_000);
  expect(shelf, files.join('\n')).toBeLessThanOrEqual(SHELF);
});

test('text is sent compressed, as the browser takes it', async ({ request, page }) => {
  const sent = async (path: string, accept: string): Promise<string | undefined> =>
    (await request.get(path, { headers: { 'Accept-Encoding': accept } })).headers()['content-encoding'];
  await page.goto('/learn');
  const script = await page.locator('script[src]').first().getAttribute('src');
  for (const path of [new URL(script ?? '', page.url()).pathname, '/learn', '/api/public/knots/reef-knot'])
    expect([path, await sent(path, 'br, gzip'), await sent(path, 'gzip'), await sent(path, 'identity')]).toEqual([
      path,
      'br',
      'gzip',
      undefined,
    ]);
});
