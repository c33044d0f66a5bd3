/** What learners do beside reading: a lesson for a room, and practice; what was missed comes back to the author. */
import { expect, test, type Page } from '@playwright/test';
import { signIn, tab } from './support';

/** What a page's own list says of the question that is asked. */
async function truthOf(page: Page): Promise<{ right: string; slip: string | undefined }> {
  // The page is a list until its script has taken a question from it.
  await page.locator('.asked .question h2').waitFor();
  return page.evaluate(() => {
    const asked = document.querySelector('.asked .question');
    const same = [...document.querySelectorAll<HTMLElement>('.questions > li')].find(
      (li) =>
        li.querySelector('h2')?.textContent === asked?.querySelector('h2')?.textContent &&
        [...li.querySelectorAll('svg, img')]
          .map((e) => e.getAttribute('aria-label') ?? e.getAttribute('src'))
          .join() ===
          [...(asked?.querySelectorAll('svg, img') ?? [])]
            .map((e) => e.getAttribute('aria-label') ?? e.getAttribute('src'))
            .join(),
    );
    const options = [...(same?.querySelectorAll('.options > li') ?? [])].map((li) => li.textContent);
    return { right: options[Number(same?.dataset.right)] ?? '', slip: same?.dataset.slip };
  });
}

/** Answers the question on the page, rightly or not. */
async function answer(page: Page, rightly: boolean): Promise<void> {
  const { right, slip } = await truthOf(page);
  const choices = page.getByRole('group', { name: 'Answer' }).getByRole('button');
  const named = choices.getByText(right, { exact: true });
  await (
    rightly
      ? choices.filter({ hasText: right }).and(page.getByRole('button', { name: right, exact: true }))
      : choices.filter({ hasNotText: right }).first()
  ).click();
  await expect(named).toHaveCount(0);
  if (rightly && slip !== undefined)
    await page.getByRole('group', { name: 'Crossing' }).getByRole('button', { name: slip, exact: true }).click();
  await expect(page.getByRole('alert')).toContainText(rightly ? 'Right' : 'No.');
}

test('a learner spots slips on a phone, goes on the next day, and the author sees what was missed', async ({
  browser,
  page,
}) => {
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const learner = await phone.newPage();
  await learner.goto('/learn/bowline');
  await learner.getByRole('link', { name: 'Spot the slip' }).click();
  await expect(learner.getByRole('heading', { name: 'Practise the bowline' })).toBeVisible();
  expect(await learner.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0);
  // Nothing is sent before the learner has said so.
  const told: string[] = [];
  learner.on('request', (r) => r.url().endsWith('/answers') && told.push(r.postData() ?? ''));
  await answer(learner, true);
  expect(told).toEqual([]);
  await learner.getByRole('button', { name: 'Next' }).click();
  await learner.getByRole('checkbox', { name: /^Tell Larkmoor/ }).check();
  for (let i = 0; i < 4; i += 1) {
    const sent = learner.waitForResponse((r) => r.url().endsWith('/answers'));
    await answer(learner, i % 2 === 0);
    expect((await sent).status()).toBe(204);
    await learner.getByRole('button', { name: 'Next' }).click();
  }
  expect(told.map((t) => (JSON.parse(t) as { answers: { right: boolean }[] }).answers[0]!.right)).toEqual([
    true,
    false,
    true,
    false,
  ]);
  await expect(learner.locator('.sitting .status')).toContainText('3 of 5 right in this sitting');
  // It is there the next time; forgotten where it is asked for.
  await learner.reload();
  const kept = (): Promise<number> =>
    learner.evaluate(() => (JSON.parse(localStorage.getItem('foxtrail-practice bowline') ?? '[]') as unknown[]).length);
  expect(await kept()).toBeGreaterThan(2);
  await expect(learner.getByRole('checkbox', { name: /^Tell Larkmoor/ })).toBeChecked();
  // By keys alone: an answer, and on.
  await learner.keyboard.press('1');
  await expect(learner.getByRole('alert').or(learner.getByRole('group', { name: 'Crossing' }))).toBeVisible();
  // A day later the list of what is published leads back to it.
  await learner.clock.install({ time: Date.now() + 36 * 3_600_000 });
  await learner.goto('/learn');
  await learner.getByRole('link', { name: /^\d+ questions? due again$/ }).click();
  await expect(learner.getByRole('heading', { name: 'Practise the bowline' })).toBeVisible();
  await learner.getByRole('button', { name: 'Forget it here' }).click();
  expect(await kept()).toBe(0);
  await phone.close();

  await signIn(page);
  await page.goto('/shelf');
  await page
    .getByRole('link', { name: /^Bowline/ })
    .first()
    .click();
  await tab(page, 'Proof');
  await page.getByRole('tab', { name: 'Learners' }).click();
  const rows = page.locator('ft-learners-tab tbody tr');
  await expect(rows.first()).toContainText('%');
  expect(await rows.count()).toBeGreaterThan(1);
  await page.getByRole('button', { name: 'Forget these answers …' }).click();
  await page.getByRole('button', { name: 'Forget it', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'No answer has been told yet' })).toBeVisible();
});

test('a lesson fills the screen for a room: a remote goes from step to step, another view stays large, Escape ends it', async ({
  page,
}) => {
  await page.goto('/learn/bowline');
  const player = page.locator('.player');
  const picture = player.locator('.slide .paper');
  const small = (await picture.boundingBox())!;
  await page.getByRole('button', { name: 'For a room' }).click();
  await expect.poll(async () => (await picture.boundingBox())!.width).toBeGreaterThan(1.2 * small.width);
  await expect(page.getByRole('button', { name: 'Leave' })).toBeVisible();
  // What a presenter's remote sends.
  await page.keyboard.press('PageDown');
  await page.keyboard.press('PageDown');
  await expect(player.locator('.of')).toHaveText(/^Step 3 of/);
  await page.keyboard.press('PageUp');
  await expect(player.locator('.of')).toHaveText(/^Step 2 of/);
  const letters = await player.locator('.slide .say').evaluate((p) => Number.parseFloat(getComputedStyle(p).fontSize));
  expect(letters).toBeGreaterThanOrEqual(40);
  await player.getByRole('link', { name: 'Back', exact: true }).click();
  await expect(player.locator('.of')).toHaveText(/^Step 2 of/);
  await page.keyboard.press('PageDown');
  await expect(player.locator('.of')).toHaveText(/^Step 3 of/);
  await expect(page.locator('body')).toHaveClass(/in-room/);
  await page.keyboard.press('Escape');
  await expect(page.locator('body')).not.toHaveClass(/in-room/);
  await expect(page.getByRole('button', { name: 'For a room' })).toBeVisible();
});
