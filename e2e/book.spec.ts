import { expect, test } from '@playwright/test';
import { askForNewKnot, signIn, tab } from './support';

test.describe('A knot from the pattern book', () => {
  test.beforeEach(({ page }) => signIn(page));

  test('begins from another way to tie it, which is proved to end in the same knot', async ({ page }) => {
    await askForNewKnot(page);
    await page.getByLabel('Begin from the pattern book').click();
    await page.getByRole('option', { name: 'Bowline: flipped from a slip knot', exact: true }).click();
    // A way to tie it is none of its names.
    await expect(page.getByRole('textbox', { name: 'Name' })).toHaveValue('Bowline');
    await page.getByRole('textbox', { name: 'Name' }).fill('Bowline by flipping');
    await page.getByRole('button', { name: 'Create' }).click();
    await page.waitForURL(/\/draft/);
    await expect(page.getByRole('tab', { name: 'Flipped from a slip knot' })).toBeVisible();
    await expect(page.getByRole('tab', { name: 'Loop first' })).toBeVisible();
    await expect(page.getByLabel('Text of step 1')).toHaveValue(/^Make a slip knot/);
    await tab(page, 'Proof');
    await expect(page.getByRole('heading', { name: /It is the bowline/ })).toBeVisible();
  });

  test('is told as the trade tells it', async ({ page }) => {
    await askForNewKnot(page);
    await page.getByLabel('Begin from the pattern book').click();
    await page.getByRole('option', { name: 'Bowline, backed with a two-turn overhand', exact: true }).click();
    await page.getByRole('button', { name: 'Create' }).click();
    await page.waitForURL(/\/draft/);
    await expect(page.getByText(/tie an overhand of two turns round it: twice round both parts/)).toBeVisible();
  });
});
