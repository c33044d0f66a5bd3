/** Lessons that are kept on a device open where there is no network. */
import { expect, test } from '@playwright/test';

test('a course is kept on the device, and is read, laid and practised without a network', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  await page.goto('/learn');
  // What is not asked for is not kept.
  expect(await page.evaluate(() => caches.keys())).toEqual([]);
  await page.getByRole('link', { name: /^First season on the ground crew/ }).click();
  await page.getByRole('button', { name: 'Keep it on this device' }).click();
  await expect(page.getByRole('button', { name: 'Remove it from this device' })).toBeVisible({ timeout: 60_000 });
  await context.setOffline(true);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'First season on the ground crew' })).toBeVisible();
  await page.getByRole('link', { name: 'Bowline' }).click();
  await expect(page.getByRole('heading', { name: 'Bowline', level: 1 })).toBeVisible();
  await page.getByRole('button', { name: 'Next', exact: true }).click();
  await expect(page.locator('.player .of')).toHaveText(/^Step 2 of/);
  const form = page.locator('.in-hand img').first();
  await form.scrollIntoViewIfNeeded();
  await expect.poll(() => form.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(0);
  await page.getByRole('link', { name: 'Lay it yourself' }).click();
  await expect(page.getByRole('button', { name: 'Check the move' })).toBeVisible();
  await page.goBack();
  await page.getByRole('link', { name: 'Spot the slip' }).click();
  await expect(page.locator('.asked .question h2')).toBeVisible();
  await page.goto('/learn/courses/first-season-on-the-ground-crew/6');
  await expect(page.getByRole('heading', { name: 'Look at it before it is loaded' })).toBeVisible();
  // With a network again, what is there now is shown; removed, it is gone.
  await context.setOffline(false);
  await page.goto('/learn/courses/first-season-on-the-ground-crew');
  await page.getByRole('button', { name: 'Remove it from this device' }).click();
  await expect(page.getByRole('button', { name: 'Keep it on this device' })).toBeVisible();
  expect(await page.evaluate(() => caches.keys())).toEqual([]);
  await context.setOffline(true);
  const gone = await page.goto('/learn/courses/first-season-on-the-ground-crew').catch(() => null);
  expect(gone).toBeNull();
  await context.close();
});
