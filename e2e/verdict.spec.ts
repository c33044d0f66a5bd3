import { expect, test, type Page } from '@playwright/test';
import { copyOf, fromMenu, newKnot, saved, signIn, stroke, tab } from './support.js';

type Share = readonly [x: number, y: number];

/** Draws with the mouse along places in rope diameters about the middle of the board. */
async function lay(
  page: Page,
  stretches: readonly { readonly under: boolean; readonly to: readonly Share[] }[],
): Promise<void> {
  const box = await page.locator('svg.board').boundingBox();
  if (!box) throw new Error('there is no board');
  const unit = Math.min((box.width * 0.9) / 40, (box.height * 0.8) / 14);
  const share = ([x, y]: Share): Share => [0.5 + (x * unit) / box.width, 0.5 + (y * unit) / box.height];
  await stroke(
    page,
    stretches.map((s) => ({ under: s.under, to: s.to.map(share) })),
  );
}

/** A reef, as it is tied: a bight, and the dark rope up through it, round behind both legs and down again. */
async function drawReef(page: Page): Promise<void> {
  const over = (...to: Share[]): { under: boolean; to: Share[] } => ({ under: false, to });
  const under = (...to: Share[]): { under: boolean; to: Share[] } => ({ under: true, to });
  await lay(page, [
    over([-19.5, 4.6], [-11, 3.4], [-5, 3.2], [0.5, 3.4], [5.2, 2.6], [7.1, 0]),
    over([5.2, -2.6], [0.5, -3.4], [-5, -3.2], [-11, -3.8], [-19.5, -6]),
  ]);
  await page.keyboard.press('n');
  await lay(page, [
    over([19.5, 3.6], [12, 1.8], [9, 1.2]),
    under([7.4, 1], [5, 1.3]),
    over([4.2, 1.5], [2.2, 3.1], [0.2, 5.1], [-2.4, 5.9]),
    under([-4.9, 4], [-5.9, 0], [-4.9, -4], [-3.4, -5.4]),
    over([-2.4, -5.9], [0.2, -5.1], [2.2, -3.1], [4.2, -1.5]),
    under([6, -1.1], [9, -1.2]),
    over([12, -2], [19.5, -5.4]),
  ]);
}

const headline = (page: Page): ReturnType<Page['locator']> => page.locator('.verdict-band h2');

test('a reef drawn by hand: one wrong crossing is named and put right; the slip is shown to learners', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await newKnot(page, `Reef knot ${Date.now()}`);
  await drawReef(page);
  await expect(page.locator('ft-board .waymark')).toHaveCount(6);
  await page.keyboard.press('Escape');
  await page.keyboard.press('h');
  await tab(page, 'Proof');
  await expect(headline(page)).toContainText('It is the reef knot.');
  await expect(page.locator('.verdict-band')).toContainText('Proved');

  // One crossing the wrong way: half of the reef is gone. The desk says which crossing, and swaps it back.
  await page.getByRole('tab', { name: /Crossings/ }).click();
  await page.getByRole('button', { name: 'Swap crossing 2' }).click();
  await expect(headline(page)).toContainText('It is not the reef knot: it is the half knot');
  await expect(page.getByText('1 error')).toBeVisible();
  await page.getByRole('tab', { name: 'Identity' }).click();
  await expect(page.getByText('Crossing 2 is laid the other way.')).toBeVisible();
  await page.locator('.act').getByRole('button', { name: 'Swap crossing' }).click();
  await expect(headline(page)).toContainText('It is the reef knot');

  // All three of one half: the granny. Beside the pattern all three are lit, and swapped back together.
  await page.getByRole('tab', { name: /Crossings/ }).click();
  for (const n of [1, 2, 3]) {
    const button = page.getByRole('button', { name: `Swap crossing ${n}` });
    const row = page.getByRole('row').filter({ has: button });
    const before = await row.innerText();
    await button.click();
    await expect.poll(() => row.innerText()).not.toBe(before);
  }
  await expect(headline(page)).toContainText('It is not the reef knot: it is the granny knot');
  await page.locator('.act').getByRole('button', { name: 'Swap crossings 1, 2 and 3' }).click();
  await expect(headline(page)).toContainText('It is the reef knot');

  // The atlas: every slip makes the half knot; one is shown to learners.
  await page.getByRole('tab', { name: 'Mistakes' }).click();
  await expect(page.locator('ft-mistakes-tab h3').first()).toHaveText(/Half knot/);
  await page
    .getByRole('button', { name: /^Show learners/ })
    .first()
    .click();
  await expect(page.getByRole('button', { name: 'Shown to learners' })).toBeVisible();
  await page.getByRole('tab', { name: 'Inspection card' }).click();
  await page.getByRole('checkbox').first().check();
  await saved(page);

  await tab(page, 'Sheet');
  await expect(page.locator('.preview .exhibits')).toContainText('Half knot');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  const address = await page.locator('.address a').getAttribute('href');
  const visitor = await (await browser.newContext()).newPage();
  await visitor.goto(address ?? '');
  await expect(visitor.locator('.exhibits')).toContainText(
    /Half knot[^]*Here the .* lies over .*; in the reef knot \d+ it lies under/,
  );
  await expect(visitor.locator('.exhibits circle.ring')).toHaveCount(1);
  await expect(visitor.locator('.inspect ol li')).toHaveCount(1);
  await visitor.context().close();
  await page.getByRole('button', { name: 'Withdraw the page' }).click();
});

test('the shelf tells what a drawing is, and finds knots drawn like another', async ({ page }) => {
  await signIn(page);
  await page.goto('/shelf');
  await expect(page.getByText('is what it claims').first()).toBeVisible();
  await page.getByRole('button', { name: 'More for Figure eight', exact: true }).click();
  await fromMenu(page, 'Find knots drawn like this');
  await expect(page.locator('.like')).toContainText('Drawn like Figure eight');
  await expect(page.getByRole('link', { name: 'Figure eight', exact: true })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Reef knot', exact: true })).toHaveCount(0);
  await page.getByRole('link', { name: 'Show the whole shelf' }).click();
  await expect(page.getByRole('link', { name: 'Reef knot', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'More for Figure eight', exact: true }).click();
  await fromMenu(page, 'Duplicate');
  await expect(page.getByRole('link', { name: 'Figure eight (copy)', exact: true }).first()).toBeVisible();
});

test('a claim can be changed, and is held against the drawing', async ({ page }) => {
  await signIn(page);
  await copyOf(page, 'Bowline');
  await tab(page, 'Proof');
  await expect(headline(page)).toContainText('It is the bowline');
  await page.getByLabel('It is meant to be').click();
  await page.getByRole('option', { name: 'Bowline, tail outside' }).click();
  await expect(headline(page)).toContainText('It is not the bowline, tail outside: it is the bowline.');
  await expect(page.getByText('1 error')).toBeVisible();
  await page.getByLabel('It is meant to be').click();
  await page.getByRole('option', { name: 'None of the known knots' }).click();
  await expect(headline(page)).toContainText('It is the bowline.');
  await expect(page.getByText('no findings')).toBeVisible();
  await saved(page);
});
