/**
 * Words, as an author goes about them: a lesson in another school's words, a glossary taken in, a text put right, a name found.
 */
import { expect, test, type Page } from '@playwright/test';
import { choose, copyOf, saved, signIn, tab } from './support.js';

/** Chooses the school a lesson is written in, and keeps what is offered. */
async function speak(page: Page, school: string): Promise<void> {
  await page.getByRole('button', { name: 'The words of this lesson' }).click();
  const dialog = page.getByRole('dialog');
  await choose(dialog, 'It is written in', `the words of ${school}`);
  await dialog.getByRole('button', { name: /^Keep/ }).click();
  await expect(dialog).toHaveCount(0);
}

async function publish(page: Page): Promise<string> {
  await tab(page, 'Sheet');
  const again = page.getByRole('button', { name: 'Publish the current version' });
  const first = page.getByRole('button', { name: 'Publish', exact: true });
  await again.or(first).click();
  await expect(again).toHaveCount(0);
  return (await page.locator('.address a').getAttribute('href')) ?? '';
}

test('a lesson goes from Marine to Workshop words: texts, captions and page change', async ({ page }) => {
  await signIn(page);
  await copyOf(page, 'Clove hitch on a spar');
  await page.getByRole('button', { name: 'Remove layout Dressed' }).click();
  await speak(page, 'Marine');
  const first = page.getByLabel('Text of step 1');
  await expect(first).toHaveValue(/running end/);
  await page.getByLabel('Text of step 2').fill('Lead the running end behind the spar; mind the dark line.');
  await saved(page);
  const address = await publish(page);
  const captions = async (): Promise<string> =>
    (await page.request.get(`/api/public/knots/${address.replace('/learn/', '')}/captions.vtt`))
      .text()
      .then((text) => text.replace(/\n(?=\S)/g, ' '));
  const sheet = async (): Promise<string> =>
    (await page.request.get(`/api/public/knots/${address.replace('/learn/', '')}/sheet.svg`)).text();
  expect(await captions()).toContain('running end');
  await page.goto(address);
  await expect(page.locator('.say')).toContainText('running end');

  await page.goBack();
  await tab(page, 'Draft');
  await page.getByRole('button', { name: 'The words of this lesson' }).click();
  const dialog = page.getByRole('dialog');
  await choose(dialog, 'It is written in', 'the words of Workshop');
  await expect(dialog.locator('ins', { hasText: 'working end' })).toContainText(
    'Lead the working end behind the spar; mind the dark rope.',
  );
  await dialog.getByRole('button', { name: /^Keep, and change/ }).click();
  await expect(first).toHaveValue(/working end/);
  await expect(page.getByLabel('Text of step 2')).toHaveValue(/working end behind the spar; mind the dark rope/);
  // One undo brings the whole lesson back, one redo takes it on again.
  await page.locator('svg.board').focus();
  await page.keyboard.press('z');
  await expect(first).toHaveValue(/running end/);
  await page.keyboard.press('y');
  await expect(first).toHaveValue(/working end/);
  await saved(page);
  await publish(page);
  for (const text of [await captions(), await sheet()]) {
    expect(text).toContain('working');
    expect(text).not.toContain('running end');
  }
  await page.goto(address);
  await expect(page.locator('.say')).toContainText('working end');
  await expect(page.locator('main')).not.toContainText('running end');
});

test('words in a step’s text are underlined, explained, and put right with a press', async ({ page }) => {
  await signIn(page);
  await copyOf(page, 'Figure eight');
  await page.getByRole('button', { name: 'Remove layout Dressed' }).click();
  const text = page.getByLabel('Text of step 1');
  await text.fill('Lay the bite, then lead a tag end along the collar.');
  await expect(page.locator('ft-checked-text mark.word')).toHaveText(['bite', 'tag end', 'collar']);
  await page.getByRole('button', { name: 'Write “bight”' }).click();
  await page.getByRole('button', { name: 'Write “tail”' }).click();
  await expect(text).toHaveValue('Lay the bight, then lead a tail along the collar.');
  await page.getByRole('button', { name: 'Explain “collar” before the first step' }).click();
  await page.getByRole('button', { name: 'Explain “bight” before the first step' }).click();
  await expect(page.locator('ft-checked-text mark.word')).toHaveCount(0);
  await saved(page);
  await tab(page, 'Sheet');
  await expect(page.locator('.terms li')).toHaveCount(2);
  await expect(page.getByRole('img', { name: 'bight', exact: true })).toBeVisible();
});

test('a glossary with collisions is taken in once each is decided, and goes out again', async ({ page }) => {
  await signIn(page);
  await page.goto('/words');
  await page.getByRole('button', { name: 'Take in …' }).click();
  const dialog = page.getByRole('dialog');
  const csv =
    'concept,kind,school,status,name,definition\n' +
    'swivel,tool,Workshop,preferred,turning link,\n' +
    'kite-clip,tool,Workshop,preferred,shackle,The small clip at a bridle.\n' +
    'kite-clip,tool,Larkmoor crew,preferred,bridle clip,\n' +
    'swivel,tool,Workshop,liked,spinner,\n';
  await dialog
    .locator('input[type=file]')
    .setInputFiles({ name: 'crew.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
  await expect(dialog.getByText('line 5: “liked” is not a status.')).toBeVisible();
  const take = dialog.getByRole('button', { name: 'Decide 2 more' });
  await expect(take).toBeDisabled();
  const [preferred, shared] = [dialog.getByRole('group').nth(0), dialog.getByRole('group').nth(1)];
  await preferred.getByRole('radio', { name: /take theirs/ }).check();
  await shared.getByRole('radio', { name: /keep both/ }).check();
  await dialog.getByRole('button', { name: 'Take it in' }).click();
  await expect(dialog.getByText(/Taken in:/)).toBeVisible();
  await dialog.getByRole('button', { name: 'Done' }).click();

  await page.getByLabel('Find a term by any name').fill('swivel');
  await page.getByRole('link', { name: 'turning link' }).click();
  await expect(page.getByRole('heading', { name: 'turning link' })).toBeVisible();
  await page.getByRole('link', { name: 'In dispute' }).click();
  const dispute = page.locator('.homonyms li', { hasText: 'shackle' });
  await expect(dispute).toContainText('preferred: Workshop');
  const turtle = await (await page.request.get('/api/words/glossary.ttl?school=larkmoor-crew')).text();
  expect(turtle).toContain('"bridle clip"@en');
});

test('knots and words are found by any name, and by how it is misspelt', async ({ page }) => {
  await signIn(page);
  await page.goto('/shelf');
  await page.getByLabel('Find a knot by any name').fill('wreath knot');
  await expect(page.locator('.knot h2').first()).toContainText('Reef knot');
  await page.getByLabel('Find a knot by any name').fill('bite');
  await page.getByRole('link', { name: 'bight bite', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'bight' })).toBeVisible();
});
