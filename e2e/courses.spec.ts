/**
 * Courses: put in order, mended where something comes too early, and handed out as a booklet that opens without a server.
 */
import { mkdir, mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { expect, test, type Download } from '@playwright/test';
import { unzipSync } from 'fflate';
import { SaxesParser } from 'saxes';
import { fromMenu, signIn } from './support';

test('a course is put in order by what it needs, and its booklet opens from a memory stick, on a phone', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await page.goto('/courses');
  await page.getByRole('button', { name: 'New course' }).click();
  await page.waitForURL(/\/courses\/[0-9a-f-]+$/);
  const name = `Morning course ${Date.now()}`;
  await page.getByLabel('Name of the course').fill(name);
  await page.getByLabel('Name of the course').press('Enter');
  const next = page.getByLabel('Next lesson or assembly');
  const items = page.locator('.main li');
  const add = async (text: string, kind: string): Promise<void> => {
    const before = await items.filter({ has: page.locator('h2') }).count();
    await next.fill(text);
    await page
      .getByRole('option', { name: new RegExp(`^${text}.* ${kind}$`) })
      .first()
      .click();
    await expect(items.filter({ has: page.locator('h2') })).toHaveCount(before + 1);
  };
  // The assembly first: it is tied with knots whose lessons come later.
  await add('Ridge line with gripping hitches', 'assembly');
  await add('Bowline', 'lesson');
  await add('Reef knot', 'lesson');
  const findings = page.locator('aside article');
  await expect(findings.filter({ hasText: 'comes before Bowline' })).toBeVisible();
  await expect(findings.filter({ hasText: 'no lesson of the course teaches' })).toContainText('Double fisherman');
  await page.getByRole('button', { name: 'Put them in the proposed order' }).click();
  await expect(items.first().getByRole('heading')).toHaveText('Bowline');
  await expect(findings.filter({ hasText: 'comes before Bowline' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(items.first().getByRole('heading')).toContainText('Ridge line');
  await page.getByRole('button', { name: 'Put Bowline before it' }).click();
  await expect(items.first().getByRole('heading')).toHaveText('Bowline');

  // A word that learners bring is not new to them.
  const word = page.getByRole('button', { name: 'Learners bring “nipping turn” with them' });
  await word.click();
  await expect(word).toHaveCount(0);
  await page.getByRole('button', { name: '“nipping turn” is to be learned' }).click();
  await expect(word).toBeVisible();

  // Time: a film’s, or as it is written; practice beside it. Ropes for everybody.
  await page.getByLabel('Goal of Bowline').fill('Make a loop that does not close.');
  await page.getByLabel('Minutes of showing Bowline').fill('4');
  await page.getByLabel('Minutes of practising Bowline').fill('80');
  await page.getByLabel('Minutes of practising Bowline').press('Tab');
  await expect(page.getByRole('heading', { name: /^In all 1 h/ })).toBeVisible();
  await page.getByLabel('How many learners').fill('8');
  await page.getByLabel('How many learners').press('Tab');
  await expect(page.locator('.rope').filter({ hasText: 'Left sling' })).toContainText('8 of them');
  await expect(page.getByText('kept', { exact: true })).toBeVisible();

  // The booklet, as pages and as an e-book.
  const booklet = async (kind: string): Promise<Download> => {
    await page.getByRole('button', { name: 'Booklet' }).press('Enter');
    const [made] = await Promise.all([
      page.waitForEvent('download', { timeout: 120_000 }),
      page.getByRole('menuitem', { name: kind }).click(),
    ]);
    return made;
  };
  const book = await booklet('E-book (EPUB)');
  expect(book.suggestedFilename()).toMatch(/^morning-course-\d+\.epub$/);
  const bytes = await readFile(await book.path());
  // It says what it is at its very beginning, uncompressed.
  expect(bytes.subarray(30, 58).toString()).toBe('mimetypeapplication/epub+zip');
  const inBook = unzipSync(new Uint8Array(bytes));
  const textOf = (path: string): string => new TextDecoder().decode(inBook[path]);
  const listed = [...textOf('book.opf').matchAll(/<item [^>]*href="([^"]+)"/g)].map((m) => m[1]!);
  expect([...listed].sort()).toEqual(
    Object.keys(inBook)
      .filter((p) => !/^(?:mimetype|META-INF\/.*|book\.opf)$/.test(p))
      .sort(),
  );
  for (const path of Object.keys(inBook).filter((p) => /\.(?:xhtml|opf|xml)$/.test(p)))
    expect(() => new SaxesParser({ xmlns: true }).write(textOf(path)).close(), path).not.toThrow();
  for (const path of listed.filter((p) => p.endsWith('.xhtml')))
    for (const [, to] of textOf(path).matchAll(/ (?:href|src)="([^"]+)"/g)) expect(listed).toContain(to);

  // On paper: every page is vectors and text, in the size that is asked for.
  for (const [kind, ending, size] of [
    ['Booklet, A4 (PDF)', '.pdf', '595.28 841.89'],
    ['Pocket cards, Letter (PDF)', '-cards.pdf', '612 792'],
  ] as const) {
    const paper = await booklet(kind);
    expect(paper.suggestedFilename()).toMatch(new RegExp(`^morning-course-\\d+${ending.replace('.', '\\.')}$`));
    const pdf = (await readFile(await paper.path())).toString('latin1');
    expect(pdf.startsWith('%PDF-')).toBe(true);
    expect(pdf).toContain(`/MediaBox [0 0 ${size}]`);
    expect(pdf).not.toContain('/Subtype /Image');
  }

  const download = await booklet('Web pages (ZIP)');
  expect(download.suggestedFilename()).toMatch(/^morning-course-\d+\.zip$/);
  const files = unzipSync(new Uint8Array(await readFile(await download.path())));
  const folder = await mkdtemp(join(tmpdir(), 'booklet-'));
  for (const [path, bytes] of Object.entries(files)) {
    await mkdir(dirname(join(folder, path)), { recursive: true });
    await writeFile(join(folder, path), bytes);
  }
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 }, offline: true });
  const reader = await phone.newPage();
  const lost: string[] = [];
  reader.on('requestfailed', (r) => lost.push(r.url()));
  await reader.goto(pathToFileURL(join(folder, 'index.html')).href);
  await expect(reader.getByRole('heading', { name })).toBeVisible();
  await expect(reader.getByText('Make a loop that does not close.')).toBeVisible();
  const fits = async (): Promise<void> =>
    expect(await reader.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0);
  await fits();
  await reader.getByRole('link', { name: 'Bowline', exact: true }).first().click();
  await expect(reader.getByRole('heading', { name: 'Bowline', exact: true })).toBeVisible();
  await expect(reader.getByRole('heading', { name: 'Before you begin' })).toBeVisible();
  await expect(reader.locator('.all li').first()).toBeVisible();
  for (const picture of await reader.locator('.all img.formed').all()) {
    await picture.scrollIntoViewIfNeeded();
    await expect.poll(() => picture.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(0);
  }
  await fits();
  await reader.getByRole('navigation', { name: 'Pages' }).getByRole('link', { name: /^Next/ }).click();
  await expect(reader.getByText('Not to scale. The numbers are the order of tying.')).toBeVisible();
  await fits();
  await reader.getByRole('link', { name: 'Words' }).click();
  await expect(reader.getByText('Standing part', { exact: false }).first()).toBeVisible();
  await reader.getByRole('link', { name: 'Cards' }).click();
  await expect(reader.getByText('It is the bowline', { exact: false }).first()).toBeVisible();
  expect(lost).toEqual([]);
  await phone.close();

  // A page of its own for learners; changed on the desk it says that it can be published again.
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  const own = page.getByRole('link', { name: 'Its page' });
  await expect(own).toBeVisible();
  await expect(page.getByRole('button', { name: 'Publish again' })).toHaveCount(0);
  const address = (await own.getAttribute('href'))!;
  const learner = await (await browser.newContext()).newPage();
  await learner.goto(address);
  await expect(learner.getByRole('heading', { name })).toBeVisible();
  await page.getByLabel('Goal of Bowline').fill('Make a loop that stays.');
  await page.getByLabel('Goal of Bowline').press('Tab');
  await page.getByRole('button', { name: 'Publish again' }).click();
  await expect(page.getByRole('button', { name: 'Publish again' })).toHaveCount(0);
  await learner.reload();
  await expect(learner.getByText('Make a loop that stays.')).toBeVisible();
  await page.getByRole('button', { name: 'More of this course' }).press('Enter');
  await fromMenu(page, 'Withdraw its page');
  await expect(own).toHaveCount(0);
  expect((await learner.goto(address))?.status()).toBe(404);
  await learner.context().close();

  await page.getByRole('button', { name: 'More of this course' }).press('Enter');
  await fromMenu(page, 'Remove the course');
  await page.waitForURL('**/courses');
});
