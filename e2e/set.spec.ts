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

/** Makes the browser one that draws nothing in space. */
async function withoutSpace(page: Page): Promise<void> {
  await page.addInitScript({
    content: `const context = HTMLCanvasElement.prototype.getContext;
      HTMLCanvasElement.prototype.getContext = function (kind, ...rest) {
        return kind.startsWith('webgl') ? null : context.call(this, kind, ...rest);
      };`,
  });
}

/** Presses Stop as soon as it is there: a quick machine would be done before a hand is. */
const stopAtOnce = (page: Page): Promise<void> =>
  page.evaluate(() => {
    const watch = new MutationObserver(() => {
      const stop = [...document.querySelectorAll('ft-form-view button')].find((b) => b.textContent.includes('Stop'));
      if (!(stop instanceof HTMLButtonElement)) return;
      watch.disconnect();
      stop.click();
    });
    watch.observe(document.body, { childList: true, subtree: true });
  });

test('a drawing is set, turned over, and taken home where nothing is drawn in space; a stopped one is not called proved', async ({
  page,
}) => {
  await withoutSpace(page);
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
  await stopAtOnce(page);
  await page.getByRole('tab', { name: 'In the hand' }).click();
  await expect(view(page)).toContainText('it is not proved');
  await view(page).getByRole('button', { name: 'Set it again' }).click();
  await expect(view(page)).toContainText('Proved to be the drawn knot', { timeout: 60_000 });
});

test('a knot that is set stands in space: a side turns it, keys turn it, and it is brought nearer', async ({
  page,
}) => {
  await signIn(page);
  await openKnot(page, 'Figure eight');
  await page.getByRole('button', { name: 'Set ⇧ T' }).click();
  const canvas = view(page).locator('canvas');
  await expect(canvas).toBeVisible();
  const seen = async (): Promise<string> => (await canvas.screenshot()).toString('base64');
  const changes = async (from: string): Promise<string> => {
    await expect.poll(async () => (await seen()) !== from).toBe(true);
    // Until it has come to rest.
    let now = await seen();
    for (let before = ''; before !== now; now = await seen()) before = now;
    return now;
  };
  const front = await changes('');
  await view(page).getByRole('radio', { name: 'From behind' }).click();
  const back = await changes(front);
  await canvas.focus();
  await page.keyboard.press('ArrowRight');
  const turned = await changes(back);
  await expect(
    view(page).getByRole('radiogroup', { name: 'Side', exact: true }).getByRole('radio', { checked: true }),
  ).toHaveCount(0);
  await page.keyboard.press('+');
  await changes(turned);
  const download = page.waitForEvent('download');
  await view(page).getByRole('button', { name: 'Surfaces (glTF)' }).click();
  expect((await download).suggestedFilename()).toBe('figure-eight-set.glb');
});

test('a learner turns the knot in the hand; where nothing is drawn in space its sides are there', async ({ page }) => {
  await page.goto('/learn/reef-knot');
  await page.getByRole('button', { name: 'Turn it in your hand' }).click();
  await expect(page.locator('.turning canvas')).toBeVisible();
  await page.getByRole('button', { name: 'From the left' }).click();
  await expect(page.locator('.turning canvas')).toHaveAttribute('aria-label', /Reef knot, dressed and set, in space/);
  await withoutSpace(page);
  await page.reload();
  await page.getByRole('button', { name: 'Turn it in your hand' }).click();
  await expect(page.getByText('This browser draws nothing in space')).toBeVisible();
  await expect(page.locator('.in-hand img').first()).toBeVisible();
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

test('an author dresses a knot his own way: its tail drawn up first, a strand nudged, kept and shown to learners; undone', async ({
  page,
}) => {
  await signIn(page);
  await openKnot(page, 'Bowline');
  const eaten = async (): Promise<number> => {
    await view(page).getByRole('radio', { name: 'What is seen' }).click();
    await expect(view(page)).toContainText('Proved to be the drawn knot', { timeout: 90_000 });
    const said = await view(page).locator('dl').textContent();
    return Number(/eaten\s*([\d.]+) d/.exec(said ?? '')?.[1]);
  };
  const called = `Tail first ${Date.now() % 1_000_000}`;
  const way = view(page).getByRole('button', { name: new RegExp(`^${called}`) });
  await page.getByRole('button', { name: 'Set ⇧ T' }).click();
  await view(page).getByRole('radio', { name: 'How it is pulled' }).click();
  await view(page)
    .getByRole('button', { name: /^As it comes/ })
    .click();
  const asItComes = await eaten();

  await view(page).getByRole('radio', { name: 'How it is pulled' }).click();
  await view(page).getByRole('switch', { name: 'one after another' }).click();
  await view(page).getByRole('button', { name: 'Pull the Tail earlier' }).click();
  await view(page).getByRole('button', { name: 'Pull the Tail earlier' }).click();
  expect(Math.abs((await eaten()) - asItComes)).toBeGreaterThan(1);

  await view(page).getByRole('radio', { name: 'How it is pulled' }).click();
  await view(page).getByRole('switch', { name: 'nudge strands by hand' }).click();
  const hand = view(page).locator('ft-nudging-hand svg');
  await hand.focus();
  for (const key of [']', 'ArrowRight', 'ArrowRight', 'Enter']) await page.keyboard.press(key);
  await expect(view(page)).toContainText('1.0 d to the right');
  await view(page).getByRole('textbox', { name: 'Name of this way' }).fill(called);
  await view(page).getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(way).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Escape');
  await expect(view(page)).toHaveCount(0);

  await page.getByRole('button', { name: 'Set ⇧ T' }).click();
  await view(page).getByRole('radio', { name: 'How it is pulled' }).click();
  await expect(way).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(view(page)).toHaveCount(0);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page.getByRole('button', { name: 'Set ⇧ T' }).click();
  await view(page).getByRole('radio', { name: 'How it is pulled' }).click();
  await expect(view(page).getByRole('button', { name: /^As it comes/ })).toBeVisible();
  await expect(way).toHaveCount(0);
});
