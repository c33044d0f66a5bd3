import { expect, test, type Page } from '@playwright/test';
import { askForNewKnot, choose, fromMenu, signIn, tab } from './support';

const fromPattern = async (page: Page, pattern: string, name: string): Promise<void> => {
  await askForNewKnot(page);
  await page.getByLabel('Begin from the pattern book').click();
  await page.getByRole('option', { name: pattern, exact: true }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill(name);
  await page.getByRole('button', { name: 'Create' }).click();
  await page.waitForURL(/\/draft/);
};

test.describe('Kin', () => {
  test.beforeEach(({ page }) => signIn(page));

  test('derives the triple sheet bend from the double and sees it proved', async ({ page }) => {
    await fromPattern(page, 'Double sheet bend', 'Double sheet bend');
    await tab(page, 'Kin');
    await page.getByRole('button', { name: 'See what can be made of it' }).click();
    const card = page
      .getByRole('listitem')
      .filter({ has: page.getByRole('heading', { name: 'Triple sheet bend' }) })
      .filter({ has: page.getByRole('button', { name: 'Make the draft' }) });
    await expect(card.first()).toContainText('With one turn taken out, the triple sheet bend is the double sheet bend');
    await expect(page.getByRole('button', { name: 'Work it out again' })).toBeVisible();
    await card.first().getByRole('button', { name: 'Make the draft' }).click();
    await expect(page.getByRole('heading', { level: 1, name: 'Triple sheet bend' })).toBeVisible();
    const neighbour = page.getByRole('listitem').filter({ hasText: 'one turn less' });
    await expect(neighbour).toContainText('Double sheet bend');
    await expect(neighbour).toContainText('proved');
    // It is a draft like any other: its steps are there to be read.
    await tab(page, 'Draft');
    await expect(page.getByLabel('Text of step 1')).toBeVisible();
  });

  test('states kin and is told by the core that it is not so', async ({ page }) => {
    await page.goto('/kin/relations');
    await page.getByRole('button', { name: 'State kin' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('combobox', { name: 'The plainer knot' }).fill('clove');
    await page.getByRole('option', { name: 'Clove hitch on a spar shelf', exact: true }).click();
    await dialog.getByRole('combobox', { name: 'What is made of it' }).fill('cow');
    await page.getByRole('option', { name: /^Cow hitch(?! on)/ }).click();
    await dialog.getByRole('combobox', { name: 'How they are kin' }).click();
    await page.getByRole('option', { name: 'mirrored' }).click();
    await expect(dialog).toContainText('The cow hitch is the mirror image of the clove hitch on a spar');
    await dialog.getByRole('button', { name: 'State and try it' }).click();
    await expect(dialog.getByRole('status')).toContainText('refuted');
    await dialog.getByRole('button', { name: 'Take it back' }).click();
    await expect(dialog).toBeHidden();
  });

  test('arranges families by dragging, and by the menu alone', async ({ page }) => {
    await page.goto('/kin/families');
    await page.getByRole('button', { name: 'New', exact: true }).click();
    await page.getByLabel('Name of the new family').fill('Line laundry');
    await page.keyboard.press('Enter');
    const laundry = page.getByRole('button', { name: /^Line laundry/ });
    await expect(laundry).toBeVisible();
    await page.getByRole('button', { name: /^Reef/ }).click();
    const granny = page.getByRole('listitem').filter({ has: page.getByRole('link', { name: 'Granny knot' }) });
    // Both in sight, however many families there are.
    await granny.waitFor();
    await laundry.scrollIntoViewIfNeeded();
    await expect(laundry).toBeInViewport({ ratio: 1 });
    await expect(granny).toBeInViewport({ ratio: 1 });
    const [from, to] = [await granny.boundingBox(), await laundry.boundingBox()];
    await page.mouse.move(from!.x + 60, from!.y + 50);
    await page.mouse.down();
    await page.mouse.move(from!.x + 40, from!.y + 80, { steps: 4 });
    await page.mouse.move(to!.x + 80, to!.y + 20, { steps: 12 });
    await page.mouse.move(to!.x + 84, to!.y + 22, { steps: 2 });
    await page.mouse.up();
    await expect(page.getByText('“Granny knot” is in Line laundry now.')).toBeVisible();
    await laundry.click();
    await expect(page.getByRole('region', { name: /Line laundry/ })).toContainText('Granny knot');
    await page.getByRole('button', { name: 'Arrange Line laundry' }).press('Enter');
    await page.getByRole('menuitem', { name: 'Put under …' }).press('ArrowRight');
    await page.getByRole('menuitem', { name: 'Reef', exact: true }).press('Enter');
    await expect(page.getByRole('button', { name: /^Reef/ })).toContainText('+ 1');
    await page.getByRole('button', { name: 'Arrange Line laundry' }).click();
    await fromMenu(page, /Dissolve/);
    await expect(laundry).toBeHidden();
    await expect(page.getByRole('button', { name: /^Reef/ })).not.toContainText('+');
  });

  test('looks through the library for kin nobody entered, stops, and enters what it finds', async ({ page }) => {
    await page.goto('/kin/discover');
    await page.getByRole('button', { name: 'Look through the library' }).click();
    await page.getByRole('button', { name: 'Stop' }).click();
    await expect(page.getByRole('status')).toContainText('Stopped.');
    await page.getByRole('button', { name: 'Look through the library' }).click();
    const offer = page.getByRole('listitem').filter({ hasText: 'half knot' }).first();
    await expect(offer).toBeVisible({ timeout: 150_000 });
    const says = await offer.getByRole('heading').innerText();
    await offer.getByRole('button', { name: 'Enter it' }).click();
    await expect(page.getByRole('heading', { name: says, exact: true })).toHaveCount(0);
  });

  test('goes about the map by keyboard and opens a knot from it', async ({ page }) => {
    await page.goto('/kin/map');
    await choose(page, 'Go to a knot', 'Reef knot');
    const panel = page.getByRole('complementary', { name: 'The knot in hand' });
    await expect(panel).toContainText('Thief knot');
    await expect(panel).toContainText('other ends loaded');
    await page.getByRole('application', { name: /Map of kin/ }).press('Escape');
    await expect(panel).toBeHidden();
    await choose(page, 'Go to a knot', 'Reef knot');
    await panel.getByRole('link', { name: 'Open it' }).press('Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'Reef knot' })).toBeVisible();
    await expect(page.getByRole('heading', { name: 'Neighbours' })).toBeVisible();
  });
});
