import { expect, test } from '@playwright/test';
import { choose, copyOf, signIn, tab } from './support';

test.describe('Choosing and house rules', () => {
  test.beforeEach(({ page }) => signIn(page));

  test('finds the loop in mid-rope that takes a load three ways, and sets it beside another', async ({ page }) => {
    await page.goto('/choose');
    await choose(page, 'Where in the rope', 'in the middle');
    await choose(page, 'How it is loaded', 'three ways');
    await page.getByRole('group', { name: 'Must come undone after load' }).getByRole('button', { name: 'yes' }).click();
    const best = page.locator('.answers > ul > li').first();
    await expect(best.getByRole('heading')).toContainText('Butterfly loop');
    await expect(best).toContainText('It takes a load along the rope, across the rope, three ways');
    await best.getByRole('button', { name: 'Compare Butterfly loop' }).click();
    await page.getByRole('button', { name: 'Start anew' }).click();
    await page.getByRole('button', { name: /Show all/ }).click();
    await page.getByRole('button', { name: 'Compare Bowline', exact: true }).click();
    await page.getByRole('button', { name: 'Compare these' }).click();
    await expect(page.getByRole('columnheader', { name: 'Butterfly loop' })).toBeVisible();
    await expect(page.getByRole('row', { name: /Shake it/ })).toContainText('slips');
  });

  test('a trial that the drawing contradicts is a finding', async ({ page }) => {
    await copyOf(page, 'Clove hitch on a spar');
    await tab(page, 'Kin');
    await page.getByRole('button', { name: 'Judge and test' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: 'Add a row' }).click();
    await choose(dialog, 'What one does', 'take the object out');
    await dialog.getByLabel('What it rests on').fill('It looked so on a wet spar.');
    await dialog.getByLabel('How to undo it').fill('Push both turns together.');
    await dialog.getByRole('button', { name: 'Done' }).click();
    const row = page.getByRole('row', { name: /take the object out/ });
    await expect(row).toContainText('spills');
    await expect(row).toContainText('Push both turns together.');
    await expect(page.getByText('1 warning')).toBeVisible();
  });

  test('another school asks for another tail: the finding cites rule and school, and the lesson names the others', async ({
    page,
  }) => {
    await copyOf(page, 'Bowline');
    await page.getByRole('button', { name: /Edit the entry/ }).click();
    await expect(page.getByRole('dialog').getByRole('textbox').first()).toBeFocused();
    await page.getByLabel('The lesson says what other schools do otherwise').check();
    await page.getByRole('button', { name: 'Keep' }).click();
    await tab(page, 'Sheet');
    await page.getByText('Other schools do some of this otherwise').click();
    await expect(page.getByText(/Tail of the bowline: here either side. Other schools: Marine/)).toBeVisible();
    const address = page.url();
    await page.goto('/house');
    await page.getByLabel('Tail, load-bearing, diameters').fill('55');
    await page.getByLabel('Tail, load-bearing, diameters').press('Tab');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByText('The house keeps to these rules now.')).toBeVisible();
    // The shelf counts it by the new rule, though nobody saved it.
    const draft = new URL(address).pathname.replace(/sheet$/, 'draft');
    await expect(async () => {
      await page.goto('/shelf');
      const card = page.locator('li.knot', { has: page.locator(`a[href="${draft}"]`) });
      await expect(card).toContainText('1 error', { timeout: 2000 });
    }).toPass();
    await page.goto(draft);
    await expect(page.getByText(/Rule “Tail, load-bearing”: at least 55 diameters/)).toBeVisible();
    await page.goto('/house');
    await page.getByLabel('Tail, load-bearing, diameters').fill('8');
    await page.getByLabel('Tail, load-bearing, diameters').press('Tab');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByText('The house keeps to these rules now.')).toBeVisible();
  });
});
