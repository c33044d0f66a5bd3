/**
 * What people depend on: refused by rule, returned and accepted by a second pair of eyes, open again after a change.
 */
import { expect, test, type Browser, type Page } from '@playwright/test';
import { REVIEWER, choose, copyOf, saved, signIn, tab } from './support.js';

/** Opens the entry, grades the knot for people and gives it a caution of its own. */
async function gradeForPeople(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Edit the entry' }).click();
  await expect(page.getByRole('dialog').getByRole('textbox').first()).toBeFocused();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Grade of use' }).click();
  await page.getByRole('option', { name: 'people depend on it' }).click();
  await expect(dialog.locator('.grade')).toContainText('learn this from a qualified instructor');
  await dialog.getByLabel('Cautions of its own').fill('It can shake loose: back it up.');
  const sent = page.waitForResponse((r) => r.request().method() === 'PUT' && r.ok());
  await dialog.getByRole('button', { name: 'Keep' }).click();
  // The entry goes to the bench when the dialog has closed: until then the page still says “Saved”, of what was saved before.
  await sent;
  await saved(page);
}

async function asReviewer(browser: Browser, url: string): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await signIn(page, REVIEWER);
  await page.goto(url.replace('/draft', '/review'));
  return page;
}

test('a reef is not published for people, and says why', async ({ page }) => {
  await signIn(page);
  await copyOf(page, 'Reef knot');
  await gradeForPeople(page);
  await tab(page, 'Proof');
  await page.getByRole('tab', { name: /Crossings and findings/ }).click();
  await expect(page.getByText('It is graded for people, and is not suitable for them').first()).toBeVisible();
  await tab(page, 'Sheet');
  await expect(page.locator('.group').first()).toContainText('graded for people');
  await expect(page.getByRole('button', { name: 'Publish', exact: true })).toBeDisabled();
  // Nor by another way than the screen.
  const id = /knot\/([^/]+)/.exec(page.url())?.[1] ?? '';
  const answer = await page.request.post(`/api/knots/${id}/publication`, {
    headers: { Origin: new URL(page.url()).origin },
  });
  expect(answer.status()).toBe(409);
});

test('a review is returned with a remark, mended, accepted, and open again after a change', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await copyOf(page, 'Bowline');
  await gradeForPeople(page);
  const draft = page.url();
  await tab(page, 'Review');
  await expect(page.locator('.band')).toContainText('Somebody else has to review it');
  await expect(page.locator('.needs')).toContainText('accepted by another account');

  const other = await asReviewer(browser, draft);
  await other.getByRole('button', { name: 'Begin the review' }).click();
  await expect(other.locator('.band')).toContainText('Your review of revision');
  await other.keyboard.press('a');
  await expect(other.locator('.band')).toContainText('1 of');
  await expect(other.locator('.claim h2')).toHaveText('Step 1');
  await other.getByRole('button', { name: 'Return it' }).click();
  await expect(other.getByRole('alert')).toContainText('needs a remark');
  await other.getByLabel('What is wrong').fill('Say which way the loop is laid.');
  await choose(other, 'at crossing', '2');
  await other.getByRole('button', { name: 'Return it' }).click();
  await other.getByRole('button', { name: 'Return the knot' }).click();
  await expect(other.locator('.band')).toContainText('is returned');

  await page.reload();
  await expect(page.locator('.remarks')).toContainText('Step 1, crossing 2. Say which way the loop is laid.');
  await tab(page, 'Draft');
  const text = page.getByLabel('Text of step 1');
  await text.fill(`${await text.inputValue()} Lay it flat.`);
  await saved(page);

  await other.reload();
  await expect(other.locator('.band')).toContainText('is not reviewed');
  await other.getByRole('button', { name: 'Begin the review' }).click();
  await expect(other.locator('.band')).toContainText('Your review of revision');
  const count = await other.locator('.items li').count();
  for (let n = 1; n <= count; n += 1) {
    await other.keyboard.press('a');
    await expect(other.locator('.band')).toContainText(`${n} of ${count} looked at`);
  }
  await other.getByRole('button', { name: 'Accept the knot' }).click();
  await expect(other.locator('.band')).toContainText('is accepted');
  await expect(other.locator('.log')).toContainText('review returned');

  await tab(page, 'Sheet');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.getByText('published', { exact: true })).toBeVisible();
  // Any later change, and it has to be reviewed anew before it is published again.
  await tab(page, 'Draft');
  await text.fill('Take the working end over the standing part to make an overhand loop.');
  await saved(page);
  await tab(page, 'Sheet');
  await page.getByRole('button', { name: 'Publish the current version' }).click();
  await expect(page.getByRole('alert')).toContainText('a review of this revision, accepted by another account');
});
