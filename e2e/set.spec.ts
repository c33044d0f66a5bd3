/**
 * A knot as it lies in the hand: set on the bench, looked at from its sides, on the learner's page.
 */
import { expect, test, type Page } from '@playwright/test';
import { signIn, tab } from './support';

const view = (page: Page): ReturnType<Page['locator']> => page.locator('ft-form-view');
/** The picture that is shown now, once it is there. */
async function picture(page: Page): Promise<string> {
  const img = view(page).locator('img');
  await expect.poll(() => img.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBeGreaterThan(100);
  return (await img.getAttribute('src')) ?? '';
}

async function openKnot(page: Page, name: string): Promise<void> {
  await page.goto('/shelf');
  await page.getByRole('link', { name, exact: true }).click();
  await expect(page.getByRole('heading', { name, level: 1 })).toBeVisible();
}

test('a drawing is set, turned over, and taken home; a stopped one is not called proved', async ({ page }) => {
  await signIn(page);
  await openKnot(page, 'Figure eight');
  await page.getByRole('button', { name: 'Set ⇧ T' }).click();
  await expect(view(page)).toContainText('Proved to be the drawn knot', { timeout: 60_000 });
  await expect(view(page)).toContainText(/Rope eaten\s*1\d\.\d d/);
  const front = await picture(page);
  await view(page).getByRole('radio', { name: 'From behind' }).click();
  await expect(view(page).locator('img')).toHaveAttribute('alt', /from behind/);
  expect(await picture(page)).not.toBe(front);
  const download = page.waitForEvent('download');
  await view(page).getByRole('button', { name: 'Form (JSON)' }).click();
  expect((await download).suggestedFilename()).toBe('figure-eight-set.json');
  await page.keyboard.press('Escape');
  await expect(view(page)).toHaveCount(0);

  await openKnot(page, 'Taut-line hitch on the marquee guys');
  await tab(page, 'Proof');
  await page.getByRole('tab', { name: 'In the hand' }).click();
  await view(page).getByRole('button', { name: 'Stop' }).click();
  await expect(view(page)).toContainText('it is not proved');
  await view(page).getByRole('button', { name: 'Set it again' }).click();
  await expect(view(page)).toContainText('Proved to be the drawn knot', { timeout: 60_000 });
});

test('a learner sees the knot dressed and set, from in front and from behind', async ({ page }) => {
  await page.goto('/learn/reef-knot');
  const pictures = page.locator('.in-hand img');
  await expect(pictures).toHaveCount(2);
  for (const n of [0, 1]) {
    await pictures.nth(n).scrollIntoViewIfNeeded();
    await expect
      .poll(() => pictures.nth(n).evaluate((img: HTMLImageElement) => img.naturalWidth), { timeout: 60_000 })
      .toBeGreaterThan(100);
  }
  await page.getByRole('link', { name: 'End on' }).click();
  await expect(page).toHaveURL(/form\/end\.svg/);
});
