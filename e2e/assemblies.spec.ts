/**
 * Assemblies: drafted from the book and by hand, found wrong, mended, inspected on a phone and on paper.
 */
import { expect, test, type Locator } from '@playwright/test';
import { choose, fromMenu, signIn, watch } from './support';

test('a seat is drafted from the book; a granny in it is found, the list is ticked on a phone, and the card is printed', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await page.goto('/assemblies');
  await page.getByRole('button', { name: 'New assembly' }).press('Enter');
  await fromMenu(page, 'Knotted seat, leg loops upward');
  await page.waitForURL(/\/assemblies\/[0-9a-f-]+$/);
  const address = page.url();
  const side = page.locator('.side');
  const square = side.getByRole('button', { name: /^Square knot at the side/ });
  // The book’s own seat has no error: the reef is told to hold by its keepers.
  await expect(square).toContainText('holds people by its keepers');
  await expect(side.getByRole('button', { name: /^First keeper/ })).toContainText('Overhand knot proved');

  // A granny takes its place: it is found to be one, whatever it is called.
  await square.click();
  await side.getByLabel('Another knot in the place of').fill('granny');
  await page.getByRole('option', { name: /^Granny/ }).click();
  await expect(square).toContainText('should be a reef knot and is a granny knot');
  await page.getByRole('tab', { name: /Findings/ }).click();
  await expect(side.getByRole('heading', { name: /is a granny knot/ })).toBeVisible();
  await expect(page.getByText('kept', { exact: true })).toBeVisible();

  // On a phone the list says so, and one inspects what is there.
  const phone = await browser.newContext({
    viewport: { width: 390, height: 844 },
    storageState: await page.context().storageState(),
  });
  const inspector = await phone.newPage();
  watch(inspector);
  await inspector.goto(`${address}/inspect`);
  await expect(inspector.getByRole('alert').filter({ hasText: 'found in the assembly itself' })).toBeVisible();
  expect(await inspector.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBe(0);
  const wrong = inspector.locator('section', { hasText: 'Square knot at the side' });
  await expect(wrong.locator('.found').first()).toContainText('should be a reef knot');
  await wrong
    .getByRole('group', { name: /It is the reef knot/ })
    .getByRole('button', { name: 'Wrong' })
    .click();
  await inspector.getByLabel(/^Remarks/).fill('Tied by a guest');
  await inspector.reload();
  // What was ticked is there after a page was lost.
  await expect(inspector.getByRole('status').filter({ hasText: 'looked at' })).toHaveText(
    /^\s*1 of \d+ looked at:\s*not good\s*$/,
  );
  await inspector.getByRole('button', { name: /^Record it as/ }).click();
  const record = inspector.locator('.records article').first();
  await expect(record).toContainText('not good');
  await expect(record).toContainText('Tied by a guest');

  // Mended from the finding, all of it is ticked, and good.
  await page.getByRole('button', { name: 'Put the reef knot of the book there' }).click();
  await expect(side.getByRole('heading', { name: /is a granny knot/ })).toBeHidden();
  await expect(page.getByText('kept', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Inspect', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Knotted seat', exact: false }).first()).toBeVisible();
  await expect(page.getByText('and not the granny knot')).toBeVisible();
  for (const right of await page.getByRole('button', { name: 'Right', exact: true }).all()) await right.click();
  await expect(page.getByRole('status').filter({ hasText: 'looked at' })).toContainText('good');
  await page.getByRole('button', { name: /^Record it as/ }).click();
  const records = page.locator('.records article');
  await expect(records).toHaveCount(2);
  await expect(records.first()).toContainText('good');
  await expect(records.first()).not.toContainText('not good');
  await records.first().getByRole('button').click();
  await expect(records.first().getByText('Its gate is up and out')).toBeVisible();

  // On paper: boxes to tick and a line to sign, no buttons.
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByText(/^Inspected by/)).toBeVisible();
  await expect(page.locator('.box').first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Right', exact: true }).first()).toBeHidden();
  expect((await page.pdf({ format: 'A4' })).length).toBeGreaterThan(20_000);
});

test('an assembly is drafted by hand: a thing, a rope, two knots, their order and lengths; a step back undoes each', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/assemblies');
  await page.getByRole('button', { name: 'New assembly' }).press('Enter');
  await fromMenu(page, 'An empty board');
  await page.waitForURL(/\/assemblies\/[0-9a-f-]+$/);
  const name = `Guy line ${Date.now()}`;
  await page.getByLabel('Name of the assembly').fill(name);
  await page.getByLabel('Name of the assembly').press('Enter');
  await page.getByRole('button', { name: 'Thing', exact: true }).press('Enter');
  await fromMenu(page, 'post');
  const board = page.locator('ft-assembly-board');
  await expect(board.getByRole('button', { name: 'Post' })).toBeVisible();
  const next = page.getByPlaceholder('Next knot …');
  const add = async (knot: string): Promise<void> => {
    await next.fill(knot);
    await page.getByRole('option', { name: new RegExp(`^${knot} (pattern book|shelf)$`) }).click();
  };
  await add('Anchor hitch');
  const first = board.getByRole('button', { name: /^1, Anchor hitch/ });
  await expect(first).toBeVisible();
  await choose(page, 'What it is tied to, or its loop holds', 'on: Post');
  await add('Figure eight');
  const second = board.getByRole('button', { name: /^2, Figure eight/ });
  await expect(second).toBeVisible();

  // Moved by keys, and by the hand; places on the board, in its own units.
  const placeOf = (knot: Locator): Promise<number> =>
    knot.evaluate((g) => Number(/translate\(([\d.]+)/.exec(g.getAttribute('transform') ?? '')?.[1]));
  const before = await placeOf(first);
  await first.focus();
  for (let n = 0; n < 3; n += 1) await page.keyboard.press('ArrowRight');
  await expect.poll(() => placeOf(first)).toBe(before + 30);
  const [was, box] = [await placeOf(second), (await second.boundingBox())!];
  const scale = await board.locator('svg').evaluate((svg) => 1200 / svg.getBoundingClientRect().width);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 60, y + 20, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Math.abs((await placeOf(second)) - was - 60 * scale)).toBeLessThan(2);

  // The order of tying changes, the rope’s run does not.
  await page.getByRole('button', { name: 'Tie Figure eight earlier' }).click();
  await expect(board.getByRole('button', { name: /^1, Figure eight/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(board.getByRole('button', { name: /^1, Anchor hitch/ })).toBeVisible();

  // A short tail is found where it is written, and left longer by a press.
  await page.getByRole('tab', { name: 'Ropes' }).click();
  await page.getByRole('textbox', { name: 'Tail', exact: true }).fill('20 mm');
  await page.getByRole('textbox', { name: 'To the next' }).fill('1.5 m');
  await page.getByRole('tab', { name: /Findings/ }).click();
  await expect(page.getByRole('heading', { name: /^The tail of the figure eight is 20 mm long/ })).toBeVisible();
  await page.getByRole('button', { name: /^Leave / }).click();
  await expect(page.getByText('Nothing is found wrong')).toBeVisible();
  // Its own cautions stand on the card; legs that open wide are found.
  await page.getByRole('tab', { name: 'About' }).click();
  await page.getByLabel(/^Its own cautions/).fill('Mark the guy with cloth.\n\nNobody runs here.');
  await page.getByRole('button', { name: 'Two legs carry one load' }).click();
  await page.getByRole('textbox', { name: 'From anchor to anchor' }).fill('1.7 m');
  await page.getByRole('tab', { name: /Findings/ }).click();
  await expect(page.getByRole('heading', { name: /^The legs open 1[34]\d°$/ })).toBeVisible();
  await page.getByRole('tab', { name: 'About' }).click();
  await page.getByRole('button', { name: 'It has no such legs' }).click();
  await expect(page.getByText('kept', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Inspect', exact: true }).click();
  await expect(page.locator('.cautions')).toContainText('Nobody runs here.');
  await page.getByRole('link', { name: 'Back to the board' }).click();
  // Its strip runs over all of it.
  await expect(page.locator('ft-rope-strip')).toContainText('1500 mm');

  // It is there tomorrow, and can be removed.
  await expect(page.getByText('kept', { exact: true })).toBeVisible();
  await page.reload();
  await expect(board.getByRole('button', { name: /^2, Figure eight/ })).toBeVisible();
  await page.getByRole('button', { name: 'More of this assembly' }).press('Enter');
  await fromMenu(page, 'Remove the assembly');
  await page.waitForURL('**/assemblies');
  await expect(page.getByRole('heading', { name })).toHaveCount(0);
});
