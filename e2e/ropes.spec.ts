import { readFile } from 'node:fs/promises';
import { expect, test, type Locator, type Page } from '@playwright/test';
import { choose, drawOverhand, fromMenu, newKnot, saved, signIn } from './support';

/** A knot put on a rope of a plan, as its last. */
async function put(page: Page, rope: Locator, knot: string, strand?: number): Promise<void> {
  const before = await rope.getByRole('row').count();
  const field = rope.getByPlaceholder('Next knot …');
  await field.fill(knot);
  await page.getByRole('option', { name: new RegExp(`^${knot} (pattern book|shelf)$`) }).click();
  if (strand !== undefined) await rope.getByRole('button', { name: new RegExp(`^${strand}: eats`) }).click();
  await expect(rope.getByRole('row')).toHaveCount(before + 1);
}
async function write(field: Locator, text: string): Promise<void> {
  await field.fill(text);
  await field.press('Tab');
}

test('a lesson of four knots is planned from two ropes, and its cut list read; it is there the next day', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/ropes/plans');
  await page.getByRole('button', { name: 'New plan' }).click();
  await page.waitForURL(/\/ropes\/plans\/[0-9a-f-]+$/);
  await expect(page.getByRole('textbox', { name: 'Name of the plan' })).toHaveValue(/^New plan/);
  await write(page.getByRole('textbox', { name: 'Name of the plan' }), 'Four knots');
  const first = page.locator('ft-plan-rope').nth(0);
  await choose(first, 'Cut from', 'Winch line, blue');
  await write(first.getByRole('textbox', { name: 'Length before the first knot' }), '6 ft');
  await put(page, first, 'Bowline');
  await put(page, first, 'Butterfly loop');
  // What is written is read, whatever its unit; what cannot be is told, and nothing is lost.
  const loop = first.getByRole('textbox', { name: 'Loop of Bowline' });
  await write(loop, 'a forearm and a bit');
  await expect(first.getByRole('alert')).toContainText('“bit” is no unit');
  await write(loop, '2 ft');
  await expect(first.getByText('2 ft = 610 mm')).toBeVisible();
  // A tail shorter than the house asks is told, and mended by a press.
  await write(first.getByRole('textbox', { name: 'Tail of Butterfly loop' }), '20 mm');
  await expect(first.getByRole('alert')).toContainText('The house asks');
  await first.getByRole('button', { name: 'So long' }).click();
  await expect(first.getByRole('alert')).toBeHidden();
  await page.getByRole('button', { name: 'One more rope' }).click();
  const second = page.locator('ft-plan-rope').nth(1);
  await choose(second, 'Cut from', 'Grip cord, red');
  await write(second.getByRole('textbox', { name: 'Length before the first knot' }), '300 mm');
  await put(page, second, 'Carrick bend', 2);
  await put(page, second, 'Figure eight');
  await write(second.getByRole('spinbutton', { name: 'How many such ropes' }), '2');
  const cuts = page.locator('.cuts');
  await expect(cuts.getByRole('heading', { name: 'Winch line, blue' })).toBeVisible();
  await expect(cuts.getByRole('heading', { name: 'Grip cord, red' })).toBeVisible();
  await expect(cuts.getByRole('row').filter({ hasText: '45 m' })).toContainText('First rope');
  await expect(cuts).toContainText('Nothing wastes less.');
  // The bowline begins where its tail, its knot and its loop end; begun farther off, its loop is larger.
  const begins = first.getByRole('textbox', { name: 'Where Bowline begins, from the last end' });
  const was = Number.parseFloat(await begins.inputValue());
  await write(begins, `${was + 200} mm`);
  await expect.poll(async () => Math.round(Number.parseFloat(await loop.inputValue()) / 10)).toBe(81);
  await expect(page.getByRole('status').filter({ hasText: /^kept$/ })).toBeVisible();
  const cut = await first.locator('.cut').innerText();
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Name of the plan' })).toHaveValue('Four knots');
  await expect(page.locator('ft-plan-rope').nth(0).locator('.cut')).toHaveText(cut);
  await expect(page.locator('ft-plan-rope').nth(1).getByRole('row').filter({ hasText: 'Figure eight' })).toBeVisible();
  await page.getByRole('button', { name: 'Remove plan' }).click();
  await expect(page.getByText('“Four knots” is removed.')).toBeVisible();
});

test('a tail that is too short for its plan is mended from it on the bench, and is asked for from then on', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/ropes/plans');
  await page.getByRole('button', { name: 'New plan' }).click();
  await page.waitForURL(/\/ropes\/plans\/[0-9a-f-]+$/);
  const plan = page.url();
  await write(page.getByRole('textbox', { name: 'Name of the plan' }), 'Long tails');
  const rope = page.locator('ft-plan-rope').first();
  await put(page, rope, 'Stevedore knot');
  await write(rope.getByRole('textbox', { name: 'Tail of Stevedore knot' }), '300 mm');
  await rope.getByText(/^eats .*by its form$/).click();
  await expect(rope.getByText(/^Set .* settled loose on a table \d+ d; as it is drawn \d+ d\.$/)).toBeVisible();
  // One rope for three takes, an end cut off before each of the others.
  const cut = rope.locator('.cut');
  const once = await cut.innerText();
  await write(rope.getByRole('spinbutton', { name: 'How many times one rope is tied' }), '3');
  await write(rope.getByRole('textbox', { name: 'Cut off before each further take' }), '200 mm');
  await expect(cut).not.toHaveText(once);
  await expect(rope.getByText('400 mm in all')).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: /^kept$/ })).toBeVisible();

  await newKnot(page, 'Stevedore knot');
  await drawOverhand(page);
  const gauge = page.locator('ft-trail .gauge');
  await expect(gauge).toContainText('“Long tails” leaves 300 mm');
  await expect(gauge).not.toContainText('wanted 30.0 d');
  await gauge.getByRole('button', { name: 'Draw it so' }).click();
  await expect(page.locator('.hint')).toContainText('as long as the plan “Long tails” leaves it');
  await expect(gauge).toHaveClass(/holds/);
  await expect(gauge).toContainText('wanted 30.0 d, 300 mm');
  await expect(gauge).toContainText('by the plan “Long tails”');
  await saved(page);
  await page.reload();
  await expect(gauge).toContainText('by the plan “Long tails”');
  await gauge.getByRole('button', { name: 'Leave it' }).click();
  await expect(gauge).toContainText('“Long tails” leaves 300 mm');
  await expect(gauge).not.toContainText('wanted 30.0 d');

  await page.goto(plan);
  await page.getByRole('button', { name: 'Remove plan' }).click();
  await expect(page.getByText('“Long tails” is removed.')).toBeVisible();
});

test('ropes are taken in from a table, after a report; one of them is chosen for a knot on the bench', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/ropes/stock');
  await page.getByRole('button', { name: 'Take in CSV …' }).click();
  const dialog = page.getByRole('dialog');
  const [file] = [dialog.locator('input[type=file]')];
  await file.setInputFiles({ name: 'holiday.txt', mimeType: 'text/plain', buffer: Buffer.from('sun, sea\n1,2\n') });
  await expect(dialog.getByRole('alert')).toContainText('No line of it heads a table of ropes');
  const table = [
    'Store room;;;',
    'Item;Dia (mm);MBL [kN];Source;Length',
    'Beach line, green;9;14,5;label;2 x 30 m',
    'Mystery line;eight;;;',
    'Anchor line, slate braid;10 mm;;;60 m',
  ].join('\n');
  await file.setInputFiles({ name: 'stock.csv', mimeType: 'text/csv', buffer: Buffer.from(table, 'latin1') });
  await expect(dialog.getByRole('status')).toContainText('1 new · 1 changed · 0 there already · 1 refused');
  await expect(dialog.getByRole('status')).toContainText('cells between semicolons');
  await expect(dialog.getByRole('row').filter({ hasText: 'Mystery line' })).toContainText('diameter');
  await page.keyboard.press('Escape');
  // Only the new one.
  await page.getByRole('button', { name: 'Take in CSV …' }).click();
  const only = table.split('\n').slice(1, 3).join('\n');
  await file.setInputFiles({ name: 'stock.csv', mimeType: 'text/csv', buffer: Buffer.from(only) });
  await dialog.getByRole('button', { name: 'Take in 1' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'Beach line, green' })).toContainText('2 x 30 m');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as CSV' }).click();
  const saved = await readFile(await (await download).path(), 'utf8');
  expect(saved).toContain('"Beach line, green",kernmantle,other,9 mm,,,14.5 kN,label');

  await newKnot(page, 'On the beach');
  await page.locator('svg.board').click({ position: { x: 200, y: 300 } });
  await page.locator('svg.board').click({ position: { x: 500, y: 320 } });
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Rope in hand/ }).click();
  await fromMenu(page, /^What the/);
  await page.getByRole('button', { name: 'From the stock …' }).click();
  await fromMenu(page, 'Anchor line, slate braid, 10 mm');
  await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('So it is drawn in every layout and every method.')).toBeVisible();

  await page.goto('/ropes/stock');
  await page.getByRole('button', { name: 'Change Beach line, green' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Remove it' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'Beach line, green' })).toBeHidden();
});

test('a simulated pull is watched to its break, and kept as a test; the log says what it says', async ({ page }) => {
  await signIn(page);
  await page.goto('/ropes/tests');
  await choose(page, 'Rope', 'Bridle cord, pale');
  const eight = page.getByRole('row').filter({ hasText: 'Figure eight' }).first();
  await expect(eight.getByRole('cell').nth(0)).toHaveText('5');
  await page.getByRole('button', { name: 'Load cell …' }).click();
  const cell = page.getByRole('dialog');
  await expect(cell.getByRole('note')).toContainText('Simulated.');
  await cell.getByRole('textbox', { name: 'It is to break at about' }).fill('3.6 kN');
  await cell.getByRole('button', { name: 'Pull', exact: true }).click();
  await expect(cell.getByText('It is being pulled.')).toBeVisible();
  await expect(cell.getByText(/It is over\. It broke after/)).toBeVisible();
  await expect(cell.locator('.peak')).toContainText(/3\.[567] kN/);
  await expect(cell.locator('.chart .scatterlayer path').first()).toBeAttached();
  const download = page.waitForEvent('download');
  await cell.getByRole('button', { name: 'Save the trace as CSV' }).click();
  const trace = await readFile(await (await download).path());
  await cell.getByRole('button', { name: 'Keep as a test …' }).click();
  const test = page.getByRole('dialog').filter({ hasText: 'New test' });
  await test.getByRole('combobox', { name: 'Knot' }).fill('Figure eight');
  await page.getByRole('option', { name: 'Figure eight', exact: true }).first().click();
  const scene = await page.screenshot({ clip: { x: 0, y: 0, width: 320, height: 200 } });
  await test.getByLabel('Photograph of the test').setInputFiles({
    name: 'break.png',
    mimeType: 'image/png',
    buffer: scene,
  });
  await expect(test.getByRole('img', { name: 'Photograph of the test' })).toBeVisible();
  await test.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(eight.getByRole('cell').nth(0)).toHaveText('6');
  await eight.getByRole('button').click();
  const row = page.getByRole('row').filter({ hasText: 'Simulated: nothing was pulled' });
  await expect(row).toBeVisible();
  const seen = row.getByRole('img', { name: /^The test of/ });
  await expect.poll(() => seen.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(320);
  await row.getByRole('button', { name: 'Change this test' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Remove it' }).click();
  await expect(eight.getByRole('cell').nth(0)).toHaveText('5');
  // The trace comes in again; one that was cut off is read as far as it goes; what is none is refused.
  await page.getByRole('button', { name: 'Load cell …' }).click();
  const file = cell.locator('input[type=file]');
  await file.setInputFiles({ name: 'trace.csv', mimeType: 'text/csv', buffer: trace });
  await expect(cell.getByText(/A trace from a file\. It broke after/)).toBeVisible();
  await file.setInputFiles({ name: 'cut.csv', mimeType: 'text/csv', buffer: trace.subarray(0, trace.length / 3) });
  await expect(cell.getByText(/^A trace from a file\./)).not.toContainText('broke');
  await file.setInputFiles({ name: 'poem.txt', mimeType: 'text/plain', buffer: Buffer.from('roses are red') });
  await expect(cell.getByRole('alert')).toContainText('holds no trace');
});

test('legs are drawn wider until they carry too much; a shot list is ticked off and printed', async ({ page }) => {
  await signIn(page);
  await page.goto('/ropes/loads');
  await expect(page.getByRole('note')).toContainText('no certification');
  const legs = page.locator('section.legs');
  await expect(legs.getByRole('status')).toContainText('At 60° a leg carries 58 %');
  const load = legs.getByRole('slider');
  await load.focus();
  await expect(async () => {
    await page.keyboard.press('ArrowUp');
    await expect(legs.getByRole('status')).toContainText('as much as the whole load, or more', { timeout: 100 });
  }).toPass({ intervals: [10] });
  await legs.getByRole('textbox', { name: 'First leg' }).fill('10 cm');
  await legs.getByRole('textbox', { name: 'Second leg' }).fill('10 cm');
  await expect(legs.getByRole('status')).toContainText('do not reach');

  await page.goto('/ropes/camera');
  await page.evaluate(() => (window.print = () => document.body.setAttribute('data-printed', 'yes')));
  await choose(page, 'Of the knot', 'Reef knot');
  const shots = page.locator('.shots');
  await shots.getByRole('checkbox', { name: 'Shot 1 is filmed' }).check();
  await expect(shots.getByRole('status')).toContainText(/^1 of \d+ filmed/);
  await shots.getByRole('button', { name: 'Print the list' }).click();
  await expect(page.locator('body')).toHaveAttribute('data-printed', 'yes');
  await page.reload();
  await choose(page, 'Of the knot', 'Reef knot');
  await expect(shots.getByRole('checkbox', { name: 'Shot 1 is filmed' })).toBeChecked();
});
