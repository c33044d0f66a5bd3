import { expect, test, type Download, type Page } from '@playwright/test';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { readFile } from 'node:fs/promises';
import { drawOverhand, fromMenu, newKnot, newKnotByForm, saved, signIn, signInByForm, tab } from './support.js';

const bytesOf = async (download: Download): Promise<Buffer> => readFile(await download.path());

async function download(page: Page, name: string | RegExp): Promise<{ file: string; bytes: Buffer }> {
  const [got] = await Promise.all([
    page.waitForEvent('download'),
    page
      .getByRole('link', { name, exact: true })
      .or(page.getByRole('button', { name, exact: true }))
      .first()
      .click(),
  ]);
  return { file: got.suggestedFilename(), bytes: await bytesOf(got) };
}

/** Seconds and size of a film, as the browser's own player finds them. */
const filmOf = (page: Page, bytes: Buffer): Promise<{ duration: number; width: number; height: number }> =>
  page.evaluate(async (text) => {
    const data = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
    const video = document.createElement('video');
    video.src = URL.createObjectURL(new Blob([data], { type: 'video/webm' }));
    await new Promise((done, fail) => {
      video.onloadedmetadata = done;
      video.onerror = () => fail(new Error('not a film'));
    });
    video.currentTime = video.duration / 2;
    await new Promise((done) => (video.onseeked = done));
    return { duration: video.duration, width: video.videoWidth, height: video.videoHeight };
  }, bytes.toString('base64'));

/** Cues of a caption file, as the browser's own reader finds them. */
const cuesOf = (page: Page, text: string): Promise<{ start: number; end: number; text: string }[]> =>
  page.evaluate(async (vtt) => {
    const video = document.createElement('video');
    const track = document.createElement('track');
    track.kind = 'captions';
    track.src = URL.createObjectURL(new Blob([vtt], { type: 'text/vtt' }));
    track.default = true;
    video.append(track);
    document.body.append(video);
    track.track.mode = 'showing';
    await new Promise((done, fail) => {
      track.onload = done;
      track.onerror = () => fail(new Error('not captions'));
    });
    return [...(track.track.cues ?? [])].map((c) => ({ start: c.startTime, end: c.endTime, text: (c as VTTCue).text }));
  }, text);

/** What the second step of an overhand says. */
const THROUGH = /^Take the working end up through the loop\b/;

test('from a blank board to a published lesson that a learner opens', async ({ page, browser }) => {
  await signInByForm(page);
  const name = `Overhand by hand ${Date.now()}`;
  await newKnotByForm(page, name);
  await expect(page.getByText('The board is empty')).toBeVisible();

  // Laid with the mouse, as an author would.
  await drawOverhand(page);
  await expect(page.locator('.hint')).toHaveText(
    /^Take the working end over the standing part to make an overhand loop, then up through the loop\b/,
  );
  await expect(page.locator('ft-board .waymark')).toHaveCount(3);
  await expect(page.locator('ft-trail .waymark')).toHaveCount(6);

  // Swapped on the trail, it falls apart in the crossings table; swapped back there, it holds again.
  await page
    .locator('ft-trail')
    .getByRole('button', { name: /^Crossing 2, / })
    .first()
    .click();
  await tab(page, 'Proof');
  await page.getByRole('tab', { name: /Crossings/ }).click();
  await expect(page.locator('.crossings').getByText('It falls apart.')).toBeVisible();
  await page.getByRole('button', { name: 'Swap crossing 2' }).click();
  await expect(page.locator('.jones')).toHaveText(/^(t \+ t³ − t⁴|−t⁻⁴ \+ t⁻³ \+ t⁻¹)$/);
  const signs = await page.locator('.mat-column-sign').allTextContents();
  expect(new Set(signs.slice(1).map((s) => s.trim())).size).toBe(1);

  // Halts on the trail: after the loop is made, and at the end.
  await tab(page, 'Draft');
  const [first, second] = await Promise.all(
    ['Crossing 1, over here: swap', 'Crossing 2, under here: swap'].map((n) =>
      page.locator('ft-trail').getByRole('button', { name: n }).boundingBox(),
    ),
  );
  const strip = await page.locator('svg.strip').boundingBox();
  if (!first || !second || !strip) throw new Error('the trail is not there');
  await page.mouse.click((first.x + second.x) / 2 + 10, strip.y + 66);
  await page.keyboard.press('h');
  await expect(page.getByLabel('Text of step 1')).toHaveValue(
    'Take the working end over the standing part to make an overhand loop.',
  );
  await page.keyboard.press('Escape');
  await page.keyboard.press('h');
  await expect(page.getByLabel('Text of step 2')).toHaveValue(THROUGH);

  // The author's own words, and back to the composed ones.
  await page.getByLabel('Text of step 2').fill('Pull it snug.');
  await page.getByRole('button', { name: 'Set back' }).click();
  await expect(page.getByLabel('Text of step 2')).toHaveValue(THROUGH);
  await page.getByLabel('Text of step 2').fill('Bring the end up through the loop & pull it snug.');
  await expect(page.locator('ft-trail .gauge')).toHaveClass(/holds/);
  // It is set, but never dressed nor checked: one press adds both.
  await expect(page.getByText('The knot is never dressed or checked')).toBeVisible();
  await page.getByRole('button', { name: 'Add the steps' }).click();
  await expect(page.getByLabel('Text of step 4')).toHaveValue(/^Check the knot, front and back/);
  await expect(page.getByText('No findings.')).toBeVisible();
  await saved(page);

  // The demonstration: exported, kept, saved with its captions.
  await tab(page, 'Reel');
  await page.getByRole('button', { name: 'Export WebM, 1280 × 720' }).click();
  await expect(page.getByRole('button', { name: 'Save the clip' })).toBeVisible({ timeout: 150_000 });
  const clip = await download(page, 'Save the clip');
  await page.getByRole('button', { name: 'Keep it for the sheet' }).click();
  await expect(page.getByText('Kept with the sheet.')).toBeVisible();
  const ownCaptions = await download(page, 'WebVTT');

  await tab(page, 'Sheet');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  const address = await page.locator('.address a').getAttribute('href');
  expect(address).toMatch(/^\/learn\/overhand-by-hand-\d+$/);

  // A learner, signed out.
  const visitor = await (
    await browser.newContext({ acceptDownloads: true, viewport: { width: 1280, height: 800 } })
  ).newPage();
  await visitor.goto(address ?? '');
  await expect(visitor.getByRole('heading', { name, level: 1 })).toBeVisible();
  await expect(visitor.locator('.say')).toContainText('overhand loop');
  await visitor.locator('.player').focus();
  await visitor.keyboard.press('ArrowRight');
  await expect(visitor.locator('.say')).toContainText('pull it snug');
  await visitor.keyboard.press('v');
  await expect(visitor.getByText('Seen from behind')).toBeVisible();
  await expect(visitor.locator('video')).toBeVisible();

  const svg = await download(visitor, 'Step 2 (SVG)');
  const sheet = await download(visitor, 'Sheet (SVG)');
  const json = await download(visitor, 'Figure (JSON)');
  const vtt = await download(visitor, 'Captions (WebVTT)');
  const webm = await download(visitor, 'Clip (WebM)');

  // Read by means that did not write them: the browser's XML parser, the JSON Schema, its caption reader, its player.
  const blank = await (await browser.newContext()).newPage();
  const parse = (text: string): Promise<{ root: string; title: string; description: string; error: boolean }> =>
    blank.evaluate((source) => {
      const xml = new DOMParser().parseFromString(source, 'image/svg+xml');
      return {
        root: xml.documentElement.nodeName,
        title: xml.querySelector('title')?.textContent ?? '',
        description: xml.querySelector('desc')?.textContent ?? '',
        error: xml.querySelector('parsererror') !== null,
      };
    }, text);
  expect(await parse(svg.bytes.toString())).toEqual({
    root: 'svg',
    title: `${name}, step 2 of 4, front view`,
    description: expect.stringContaining('up through the loop & pull it snug') as unknown as string,
    error: false,
  });
  expect(await parse(sheet.bytes.toString())).toEqual(
    expect.objectContaining({
      root: 'svg',
      error: false,
      description: expect.stringContaining('1. Take the working end over'),
    }),
  );

  const document = JSON.parse(json.bytes.toString()) as { ropes: { weave: string }[] };
  const schema = JSON.parse(await readFile('docs/foxtrail-figure-1.schema.json', 'utf8')) as object;
  const validate = new Ajv2020({ strict: false }).compile(schema);
  expect(validate(document), JSON.stringify(validate.errors)).toBe(true);
  expect(document.ropes[0]?.weave).toBe('UOUOUO');

  const film = await filmOf(blank, webm.bytes);
  expect(film).toEqual(expect.objectContaining({ width: 1280, height: 720 }));
  expect(Buffer.compare(webm.bytes, clip.bytes)).toBe(0);
  const cues = await cuesOf(blank, vtt.bytes.toString());
  // Lines are as long as the house has them; the words are the step’s.
  for (const line of cues.flatMap((c) => c.text.split('\n'))) expect(line.length).toBeLessThanOrEqual(50);
  // The cautions come before the first step, in the clip too; what is long is said in parts of two lines.
  expect(cues.every((c) => c.text.split('\n').length <= 2)).toBe(true);
  expect(cues.map((c) => c.text.replace(/\n/g, ' ')).join(' ')).toMatch(
    /^Look at the finished knot from both sides .* Take the working end over the standing part to make an overhand loop\. Bring the end up through the loop &amp; pull it snug\. Dress the knot.* Check the knot.*$/,
  );
  expect(Math.abs((cues.at(-1)?.end ?? 0) - film.duration)).toBeLessThan(0.1);
  expect(ownCaptions.bytes.toString()).toBe(vtt.bytes.toString());

  // Withdrawn, the page is gone.
  await page.getByRole('button', { name: 'Withdraw the page' }).click();
  await expect(page.getByRole('button', { name: 'Publish', exact: true })).toBeVisible();
  await visitor.goto(address ?? '');
  await expect(visitor.getByText('This page is not published')).toBeVisible();
  for (const other of [visitor, blank]) await other.context().close();
});

test('everything by keyboard: a rope laid, passed under, swapped, mended, halted', async ({ page }) => {
  await signIn(page);
  await newKnot(page, 'By keyboard');
  await page.locator('svg.board').focus();
  const keys = async (key: string, times = 1): Promise<void> => {
    for (let i = 0; i < times; i += 1) await page.keyboard.press(key);
  };
  await keys('ArrowLeft', 12);
  await keys('Enter');
  await keys('ArrowRight', 20);
  await keys('Enter');
  await keys('ArrowUp', 7);
  await keys('Enter');
  await keys('ArrowLeft', 11);
  await keys('Enter');
  await keys('u');
  await keys('ArrowDown', 14);
  await keys('Enter');
  await expect(page.locator('.hint')).toContainText('under the standing part');
  await keys('u');
  await keys('w');
  await keys('x');
  await expect(page.locator('.hint')).toHaveText('Crossing 1 is swapped.');
  await expect(page.locator('ft-trail').getByRole('button', { name: 'Crossing 1, over here: swap' })).toHaveCount(1);
  await keys('z');
  await keys('y');
  await keys('k');
  await expect(page.locator('.hint')).toContainText('Crossing 1 of 1: the strand comes under');
  await keys('o');
  await expect(page.locator('.hint')).toHaveText('Every crossing is walked.');
  await keys('z');
  await keys(']');
  await keys('ArrowDown', 2);
  await keys('i');
  await keys('Delete');
  await keys('Escape');
  await keys('h');
  await expect(page.getByLabel('Text of step 1')).toBeVisible();
  await keys('b');
  await expect(page.getByRole('menuitem', { name: 'spar', exact: true })).toBeFocused();
  await keys('Enter');
  await expect(page.locator('.hint')).toContainText('A spar is laid');
  await keys('Delete');
  await keys('?');
  await expect(page.getByRole('dialog')).toContainText('Keys on the board');
  await keys('Escape');
  await saved(page);
});

test('points are moved by the mouse, halts dragged along the trail, a second rope and a spar laid', async ({
  page,
}) => {
  await signIn(page);
  await newKnot(page, 'By mouse');
  await drawOverhand(page);
  await page.keyboard.press('p');
  const point = page.locator('circle.point').first();
  const before = await point.boundingBox();
  if (!before) throw new Error('there is no point');
  await page.mouse.move(before.x + before.width / 2, before.y + before.height / 2);
  await page.mouse.down();
  await page.mouse.move(before.x + 5, before.y + 70, { steps: 6 });
  await page.mouse.up();
  await expect(page.locator('ft-board .waymark')).toHaveCount(3);
  await page.keyboard.press('Escape');
  await page.keyboard.press('h');
  const halt = page.locator('ft-trail .halt');
  const at = await halt.locator('path').last().boundingBox();
  if (!at) throw new Error('there is no halt');
  await page.mouse.move(at.x + 4, at.y + 8);
  await page.mouse.down();
  await page.mouse.move(at.x - 300, at.y + 8, { steps: 10 });
  await page.mouse.up();
  expect((await halt.locator('path').last().boundingBox())?.x).toBeLessThan(at.x - 250);
  await page.keyboard.press('Escape');
  await page.keyboard.press('b');
  await fromMenu(page, 'spar');
  await expect(page.getByRole('menu')).toHaveCount(0);
  await page.keyboard.press('n');
  const box = await page.locator('svg.board').boundingBox();
  if (!box) throw new Error('there is no board');
  for (const [x, y] of [
    [0.15, 0.2],
    [0.2, 0.5],
    [0.15, 0.85],
  ] as const)
    await page.mouse.click(box.x + box.width * x, box.y + box.height * y);
  await expect(page.getByRole('button', { name: 'Rope in hand: the dark rope' })).toBeVisible();
  await expect(page.locator('ft-trail .gauge')).toHaveCount(2);
  await page.getByRole('button', { name: 'Rope in hand: the dark rope' }).click();
  await fromMenu(page, 'Remove the dark rope');
  await expect(page.locator('ft-trail .gauge')).toHaveCount(1);
  await page.keyboard.press('z');
  await expect(page.locator('ft-trail .gauge')).toHaveCount(2);
  await saved(page);
});
