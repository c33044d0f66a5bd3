/**
 * Steps, layouts and methods, as an author goes about them.
 */
import { expect, test } from '@playwright/test';
import { copyOf, drawOverhand, fromMenu, newKnot, saved, signIn, tab } from './support.js';

test('a knot is dressed in a layout of its own, proved the same, and shown to learners as the author says', async ({
  page,
}) => {
  await signIn(page);
  await copyOf(page, 'Sheet bend for line laundry');
  await page.getByRole('button', { name: 'Remove layout Dressed' }).click();
  await page.getByRole('button', { name: 'Add …' }).press('Enter');
  await fromMenu(page, /laid anew/);
  await expect(page.getByLabel('Name of layout 2')).toHaveValue('Dressed');
  await page.keyboard.press('d');
  await expect(page.getByText('Tidied: every crossing is what it was')).toBeVisible();
  await expect(page.getByText('same knot, proved')).toBeVisible();

  // One wrong crossing in the dressed drawing, and it is another knot.
  await page.keyboard.press('w');
  await page.keyboard.press('x');
  await expect(page.getByText('another knot', { exact: true })).toBeVisible();
  await expect(page.getByText('“Dressed” is not the knot of the layout before')).toBeVisible();
  await page.keyboard.press('z');
  await expect(page.getByText('same knot, proved')).toBeVisible();

  // A step seen near, with a callout at the crossing it passes.
  await page.getByRole('button', { name: 'Show step 2', exact: true }).click();
  await page.keyboard.press('w');
  await page.keyboard.press('c');
  await page.getByRole('textbox', { name: 'Callout 1' }).fill('through here');
  await page.getByRole('button', { name: 'Show the step closer' }).click();
  await page.getByRole('button', { name: 'Show the step closer' }).click();
  await expect(page.locator('svg.board .callout')).toContainText('through here');
  await page.getByRole('button', { name: 'From behind' }).click();
  await saved(page);
  await tab(page, 'Sheet');
  await page.locator('.player').getByRole('button', { name: 'Next' }).click();
  await expect(page.locator('.player .callout')).toContainText('through here');
  await expect(page.locator('.player').getByText('Seen from behind')).toBeVisible();
});

test('another way to tie it is held against the first, and the left-handed edition keeps in step', async ({ page }) => {
  await signIn(page);
  await copyOf(page, 'Reef knot');
  await page.getByRole('button', { name: 'Add …' }).press('Enter');
  await fromMenu(page, 'Another way to tie it, from this one');
  await page.getByLabel('Name of this method').fill('Right over left');
  await page.keyboard.press('Tab');
  await expect(page.getByText('same knot', { exact: true })).toBeVisible();
  // Two steps of different ends change their order; the knot does not.
  await page.getByRole('button', { name: 'Show step 2', exact: true }).click();
  await page.getByRole('button', { name: 'Earlier' }).click();
  await expect(page.getByLabel('Text of step 1')).toHaveValue(/dark rope/);
  await expect(page.getByText('same knot', { exact: true })).toBeVisible();
  await page.getByRole('tab', { name: 'Method 1' }).click();
  await expect(page.getByLabel('Text of step 1')).not.toHaveValue(/dark rope/);
  await page.getByLabel('Text of step 1').fill('Lay a bight, its legs to the left.');
  await saved(page);

  await page.getByRole('button', { name: 'Add …' }).press('Enter');
  await fromMenu(page, 'A left-handed edition, kept in step');
  await expect(page.getByText('kept in step with it until something is changed here')).toBeVisible();
  await expect(page.getByLabel('Text of step 1')).toHaveValue('Lay a bight, its legs to the right.');
  await page.getByRole('note').getByRole('link').click();
  await expect(page.getByRole('heading', { name: 'Reef knot (copy)', exact: true })).toBeVisible();
  await page.getByLabel('Text of step 1').fill('Lay a bight; both legs go to the left.');
  await saved(page);
  await page.getByRole('button', { name: 'Add …' }).press('Enter');
  await fromMenu(page, 'Its left-handed edition');
  await expect(page.getByLabel('Text of step 1')).toHaveValue('Lay a bight; both legs go to the right.');
  await page.getByLabel('Text of step 1').fill('My own words.');
  await saved(page);
  await expect(page.getByText('It was changed here and goes its own way.')).toBeVisible();
});

test('steps are proposed where moves end; one that cuts a move in two is said and mended with a press', async ({
  page,
}) => {
  await signIn(page);
  await newKnot(page, `Told by moves ${Date.now()}`);
  await drawOverhand(page);
  await page.getByRole('button', { name: 'A step for each move' }).click();
  await expect(page.getByLabel('Text of step 1')).toHaveValue(/to make an overhand loop\.$/);
  await expect(page.getByLabel('Text of step 2')).toHaveValue(/^Take the working end up through the loop\b/);
  await expect(page.getByLabel('Text of step 3')).toHaveCount(0);
  await expect(page.getByText('in the middle of a move')).toHaveCount(0);

  // A halt between going in under the loop and coming out over it.
  const [into, out] = await Promise.all(
    ['Crossing 2, under here: swap', 'Crossing 3, over here: swap'].map((name) =>
      page.locator('ft-trail').getByRole('button', { name }).boundingBox(),
    ),
  );
  const strip = await page.locator('svg.strip').boundingBox();
  if (!into || !out || !strip) throw new Error('the trail is not there');
  await page.mouse.click((into.x + out.x + out.width) / 2, strip.y + 66);
  await page.keyboard.press('h');
  await expect(page.getByLabel('Text of step 2')).toHaveValue(/under/);
  await expect(page.getByText('Step 2 ends in the middle of a move')).toBeVisible();
  await page.getByRole('button', { name: 'Go on to the end of the move' }).click();
  await expect(page.getByText('in the middle of a move')).toHaveCount(0);
  await expect(page.getByLabel('Text of step 2')).toHaveValue(/up through the loop\b/);
  await saved(page);
});
