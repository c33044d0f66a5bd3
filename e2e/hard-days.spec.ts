import { expect, test } from '@playwright/test';
import { AUTHOR, copyOf, drawOverhand, fromMenu, newKnot, otherTab, saved, signIn, sql, tab } from './support.js';

test.beforeEach(async ({ page }) => {
  await signIn(page);
  await page.goto('/shelf');
});

const file = (text: string): { name: string; mimeType: string; buffer: Buffer } => ({
  name: 'figure.json',
  mimeType: 'application/json',
  buffer: Buffer.from(text),
});

test('a bad figure file is refused with its place, and nothing is made of it', async ({ page }) => {
  await page.getByRole('button', { name: 'New knot' }).click();
  const chooser = page.locator('input[type=file]');
  const alert = page.getByRole('dialog').getByRole('alert');
  const rope = (more: object): string =>
    JSON.stringify({
      format: 'foxtrail-figure/1',
      ropes: [
        {
          id: 'a',
          points: [
            [-20, 0],
            [8, 0],
            [8, -8],
            [-4, -8],
            [-4, 5],
          ],
          curve: 'straight',
          ...more,
        },
      ],
    });
  for (const [text, said] of [
    ['{', /not JSON/],
    [JSON.stringify({ format: 'other/1', ropes: [] }), /format/],
    [rope({ weave: 'O' }), /1 letters.*2 crossings/],
    [rope({ weave: 'OO' }), /rope a at .* and rope a at .*say over/],
    [
      rope({
        weave: 'OU',
        points: [
          [0, 0],
          [null, 1],
        ],
      }),
      /ropes\[0\]\.points\[1\]\[0\]/,
    ],
    [rope({ weave: '', points: Array.from({ length: 1_000_000 }, () => [1, 1]) }), /characters/],
  ] as const) {
    await chooser.setInputFiles(file(text));
    await expect(alert).toHaveText(said);
  }
  for (const [name, said] of [
    ['', /needed/],
    ['<b>x</b>', /markup/],
  ] as const) {
    await page.getByRole('textbox', { name: 'Name' }).fill(name);
    await page.getByRole('button', { name: 'Create' }).click();
    await expect(alert).toHaveText(said);
  }
  await chooser.setInputFiles(file(rope({ weave: 'OU' })));
  await page.waitForURL('**/draft');
  await expect(page.locator('ft-board .waymark')).toHaveCount(1);
});

test('a session that ends in mid-edit: sign in again, and the work is saved', async ({ page }) => {
  await newKnot(page, 'Session ends');
  await drawOverhand(page);
  await saved(page);
  await sql('delete from session');
  await page.keyboard.press('h');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Your session has ended');
  await dialog.getByLabel('Name').fill(AUTHOR.name);
  await dialog.getByLabel('Password').fill('wrong');
  await dialog.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(dialog.getByRole('alert')).toContainText('not right');
  await dialog.getByLabel('Password').fill(AUTHOR.password);
  await dialog.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(dialog).toBeHidden();
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Text of step 1')).toBeVisible();
});

test('a server that goes away while drawing: the work is kept, also over a reload, and saved when it is back', async ({
  page,
  context,
}) => {
  await newKnot(page, 'Server away');
  await saved(page);
  await context.setOffline(true);
  await drawOverhand(page);
  await expect(page.locator('.save')).toContainText('kept in this browser');
  await page.keyboard.press('h');
  await expect(page.getByLabel('Text of step 1')).toBeVisible();
  await context.setOffline(false);
  await page.reload();
  await expect(page.getByText('has been taken up again')).toBeVisible();
  await expect(page.locator('ft-board .waymark')).toHaveCount(3);
  await saved(page);
});

test('a page closed while its save was on the way: nobody else is blamed, and nothing is saved twice', async ({
  page,
  context,
}) => {
  await newKnot(page, `Closed ${Date.now()}`);
  const address = page.url();
  const id = /knot\/([^/]+)/.exec(address)?.[1] ?? '';
  const made: Promise<unknown>[] = [];
  // The save is made, and its answer never comes.
  await page.route('**/api/knots/*', async (route) => {
    if (route.request().method() !== 'PUT') return route.continue();
    made.push(route.fetch());
  });
  await drawOverhand(page);
  await expect.poll(() => made.length).toBe(1);
  await Promise.all(made);
  await page.close();
  const again = await context.newPage();
  await again.goto(address);
  await expect(again.locator('ft-board .waymark')).toHaveCount(3);
  await saved(again);
  await expect(again.getByRole('dialog')).toHaveCount(0);
  const answer = await again.request.get(`/api/knots/${id}/revisions`);
  const { revisions } = (await answer.json()) as { revisions: unknown[] };
  expect(revisions.length).toBe(2);
});

test('two tabs with work that could not be saved: each draft is kept, the newest is taken up, the other offered', async ({
  page,
  context,
}) => {
  await newKnot(page, `Drafts ${Date.now()}`);
  await drawOverhand(page);
  await page.keyboard.press('h');
  await saved(page);
  const address = page.url();
  const other = await context.newPage();
  await other.goto(address);
  await expect(other.locator('ft-board .waymark')).toHaveCount(3);
  for (const [tabOf, text] of [
    [page, 'From the first tab.'],
    [other, 'From the second tab.'],
  ] as const) {
    await tabOf.route('**/api/knots/*', (route) =>
      route.request().method() === 'PUT' ? route.abort() : route.continue(),
    );
    const words = tabOf.locator('textarea').first();
    await words.fill(text);
    await words.blur();
    await expect(tabOf.locator('.save')).toContainText('kept in this browser');
  }
  await page.close();
  await other.close();
  const third = await context.newPage();
  await third.goto(address);
  await expect(third.locator('textarea').first()).toHaveValue('From the second tab.');
  await saved(third);
  const offered = third.getByRole('note').filter({ hasText: 'Another unsaved version' });
  await expect(offered).toHaveCount(1);
  await offered.getByRole('button', { name: 'Keep it as a knot of its own' }).click();
  await expect(offered).toHaveCount(0);
  await third.goto('/shelf');
  await expect(third.getByText('(kept draft)').first()).toBeVisible();
});

test('one knot in two tabs: both versions are shown, and mine becomes a knot of its own', async ({ page, browser }) => {
  await copyOf(page, 'Overhand knot');
  const other = await otherTab(browser, page);
  await page.getByLabel('Text of step 1').fill('Theirs.');
  await saved(page);
  await other.getByLabel('Text of step 1').fill('Mine.');
  const dialog = other.getByRole('dialog');
  await expect(dialog).toContainText('Two versions of this knot');
  await expect(dialog.locator('ft-figure')).toHaveCount(2);
  await dialog.getByRole('button', { name: 'Keep mine as a knot of its own' }).click();
  await expect(other.getByRole('heading', { level: 1 })).toContainText('(my version)');
  await expect(other.getByLabel('Text of step 1')).toHaveValue('Mine.');
  await page.reload();
  await expect(page.getByLabel('Text of step 1')).toHaveValue('Theirs.');
  await other.context().close();
});

test('two authors on one reel: the second sees which reel differs, goes on with theirs or keeps both', async ({
  page,
  browser,
}) => {
  await copyOf(page, 'Figure eight');
  await tab(page, 'Reel');
  await page.getByRole('button', { name: 'New reel' }).click();
  await fromMenu(page, 'Reminder');
  await saved(page);
  await tab(page, 'Draft');
  const other = await otherTab(browser, page);
  for (const on of [page, other]) await tab(on, 'Reel');
  const says = async (on: typeof page, words: string): Promise<void> => {
    await on.getByRole('button', { name: 'Reminder', exact: true }).click();
    const scene = on.getByRole('list', { name: 'Scenes' }).getByRole('button').first();
    await scene.focus();
    await on.keyboard.press('F2');
    await on.getByLabel(/^Scene 1 says/).fill(words);
    await on.keyboard.press('Enter');
  };
  await says(page, 'Said by the one.');
  await saved(page);
  await says(other, 'Said by the other.');
  const dialog = other.getByRole('dialog');
  await expect(dialog).toContainText('What differs: the reel “Reminder”.');
  await dialog.getByRole('button', { name: 'Keep mine as a knot of its own' }).click();
  await expect(other.getByRole('heading', { level: 1 })).toContainText('(my version)');
  const captions = (on: typeof page) => on.getByRole('list', { name: 'Captions in time' });
  await tab(other, 'Reel');
  await other.getByRole('button', { name: 'Reminder', exact: true }).click();
  await expect(captions(other)).toContainText('Said by the other.');
  await page.reload();
  await page.getByRole('button', { name: 'Reminder', exact: true }).click();
  await expect(captions(page)).toContainText('Said by the one.');
  await other.context().close();
});

test('a knot archived in another tab: it is put back, with what was drawn here', async ({ page, browser }) => {
  await copyOf(page, 'Figure eight');
  const name = (await page.getByRole('heading', { level: 1 }).textContent()) ?? '';
  const other = await otherTab(browser, page);
  await other.goto('/shelf');
  await other
    .getByRole('button', { name: `More for ${name}`, exact: true })
    .first()
    .click();
  await fromMenu(other, 'Archive');
  await expect(other.getByText('was archived')).toBeVisible();
  await page.getByLabel('Text of step 1').fill('Drawn since.');
  await expect(page.getByRole('dialog')).toContainText('This knot was archived');
  await page.getByRole('button', { name: 'Put it back and save' }).click();
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Text of step 1')).toHaveValue('Drawn since.');
});

test('archiving is undone from the note that reports it', async ({ page }) => {
  await copyOf(page, 'Reef knot');
  await page.goto('/shelf');
  await page.getByRole('button', { name: 'More for Reef knot (copy)', exact: true }).first().click();
  await fromMenu(page, 'Archive');
  await expect(page.getByRole('link', { name: 'Reef knot (copy)', exact: true })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'Reef knot (copy)', exact: true })).toBeVisible();
});

test('an export that is cancelled leaves nothing, and can be begun again', async ({ page }) => {
  await page.getByRole('link', { name: 'Clove hitch on a spar', exact: true }).click();
  await tab(page, 'Reel');
  await page
    .getByRole('button', { name: 'slow' })
    .or(page.getByRole('radio', { name: 'slow' }))
    .click();
  await page.getByRole('button', { name: /Export WebM/ }).click();
  await expect(page.getByText(/Frame \d+ of/)).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('The export was cancelled')).toBeVisible();
  await expect(page.locator('video')).toHaveCount(0);
  await page.getByRole('radio', { name: 'brisk' }).click();
  await page.getByRole('button', { name: /Export WebM/ }).click();
  await expect(page.getByRole('button', { name: 'Save the clip' })).toBeVisible({ timeout: 150_000 });
});

test('a tail that is too short keeps a knot from being published until it is lengthened', async ({ page }) => {
  await copyOf(page, 'Overhand knot');
  await page.getByRole('button', { name: 'Edit the entry: names, class, cord, cautions' }).click();
  // A dialog that has just opened takes the focus to its first field: what is typed before that goes there.
  await expect(page.getByRole('dialog').getByRole('textbox').first()).toBeFocused();
  await page.getByRole('spinbutton', { name: 'Cord diameter' }).fill('5');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('d short')).toBeVisible();
  await tab(page, 'Sheet');
  await expect(page.getByRole('button', { name: 'Publish', exact: true })).toBeDisabled();
  await tab(page, 'Proof');
  await page.getByRole('tab', { name: /Crossings/ }).click();
  await page.getByRole('button', { name: 'Lengthen the tail' }).click();
  await expect(page.getByText('Nothing is found against it.')).toBeVisible();
  await tab(page, 'Sheet');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.locator('.address a')).toBeVisible();
});
