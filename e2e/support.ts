/**
 * What several end-to-end tests do as an author would.
 */
import { expect, type Browser, type Locator, type Page } from '@playwright/test';
import pg from 'pg';

export const AUTHOR = { name: 'Wren Tallow', password: 'estuary-kites' };
export const REVIEWER = { name: 'Moss Hartley', password: 'second-pair-of-eyes' };

/** Fails the test when the page breaks the content policy or throws. */
export function watch(page: Page): void {
  page.on('pageerror', (error) => {
    throw new Error(`the page threw: ${error.message}`);
  });
  page.on('console', (message) => {
    if (/Content Security Policy/i.test(message.text())) throw new Error(message.text());
  });
}

const BASE = process.env.BASE_URL ?? 'http://127.0.0.1:4180';

/** Asks the server as a page would; what it answers. */
async function post(page: Page, path: string, data: object = {}): Promise<unknown> {
  const answer = await page.request.post(path, { data, headers: { origin: BASE } });
  if (!answer.ok()) throw new Error(`${path}: ${answer.status()} ${await answer.text()}`);
  return answer.json();
}

interface Made {
  readonly card: { readonly id: string };
}

async function openDraft(page: Page, { card }: Made): Promise<void> {
  await page.goto(`/knot/${card.id}/draft`);
  await page.locator('svg.board').waitFor();
}

/** Signs in without a page, for tests of other things: the first lesson and the accessible screens begin with the form. */
export async function signIn(page: Page, who = AUTHOR): Promise<void> {
  watch(page);
  await post(page, '/api/session', who);
}

export async function signInByForm(page: Page): Promise<void> {
  watch(page);
  await page.goto('/sign-in');
  await page.getByLabel('Name').fill(AUTHOR.name);
  await page.getByLabel('Password').fill(AUTHOR.password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.waitForURL('**/shelf');
}

/** Opens the dialog of a new knot, and waits until it has given its focus: what is typed before may go astray. */
export async function askForNewKnot(page: Page): Promise<void> {
  await page.goto('/shelf');
  await page.getByRole('button', { name: 'New knot' }).click();
  await expect(page.getByRole('textbox', { name: 'Name', exact: true })).toBeFocused();
}

export async function newKnotByForm(page: Page, name: string): Promise<void> {
  await askForNewKnot(page);
  await page.getByRole('textbox', { name: 'Name' }).fill(name);
  await page.getByRole('button', { name: 'Create' }).click();
  await page.waitForURL('**/draft');
  await expect(page.locator('svg.board')).toBeVisible();
}

/** A blank knot, on the bench. */
export const newKnot = async (page: Page, name: string): Promise<void> =>
  openDraft(page, (await post(page, '/api/knots', { name })) as Made);

export const tab = (page: Page, name: string): Promise<void> =>
  page.getByRole('navigation', { name: 'This knot' }).getByRole('link', { name, exact: true }).click();

/** Chooses in a select by what it is called: it is opened, and one of what it offers is pressed. */
export async function choose(where: Page | Locator, label: string, name: string): Promise<void> {
  const select = where.getByRole('combobox', { name: label, exact: true });
  await select.click();
  await select.page().getByRole('option', { name, exact: true }).click();
}

/** Presses an item of the open menu once the menu lies still: while it unfolds, it takes no mouse. */
export async function fromMenu(
  page: Page,
  name: string | RegExp,
  role: 'menuitem' | 'menuitemradio' = 'menuitem',
): Promise<void> {
  const item = page.getByRole(role, typeof name === 'string' ? { name, exact: true } : { name });
  const menu = page.getByRole('menu').filter({ has: item });
  await menu.waitFor();
  await menu.evaluate((panel) => Promise.allSettled(panel.getAnimations().map((a) => a.finished)));
  await item.click();
}

/** A copy of a demo knot, on the bench. */
export async function copyOf(page: Page, name: string): Promise<void> {
  const answer = await page.request.get(`/api/knots?q=${encodeURIComponent(name)}`);
  const { knots } = (await answer.json()) as { knots: readonly { id: string; name: string }[] };
  const knot = knots.find((k) => k.name === name);
  if (!knot) throw new Error(`there is no ${name}`);
  await openDraft(page, (await post(page, `/api/knots/${knot.id}/duplicate`)) as Made);
}

type Share = readonly [x: number, y: number];

/** Draws on the board with the mouse: places as shares of its width and height. */
export async function stroke(
  page: Page,
  stretches: readonly { readonly under: boolean; readonly to: readonly Share[] }[],
): Promise<void> {
  const box = await page.locator('svg.board').boundingBox();
  if (!box) throw new Error('there is no board');
  const at = ([x, y]: Share): [number, number] => [box.x + box.width * x, box.y + box.height * y];
  let down = false;
  for (const { under, to } of stretches) {
    if (under) await page.keyboard.down('u');
    for (const place of to) {
      await page.mouse.move(...at(place), { steps: 4 });
      if (!down) await page.mouse.down();
      down = true;
    }
    if (under) await page.keyboard.up('u');
  }
  await page.mouse.up();
}

/** An overhand in one stroke: a loop over the standing part, under it, and out over the loop. */
export const drawOverhand = (page: Page): Promise<void> =>
  stroke(page, [
    {
      under: false,
      to: [
        [0.06, 0.62],
        [0.3, 0.6],
        [0.5, 0.6],
        [0.6, 0.56],
        [0.63, 0.42],
        [0.56, 0.27],
        [0.45, 0.24],
        [0.37, 0.36],
        [0.36, 0.52],
        [0.385, 0.68],
        [0.42, 0.78],
        [0.47, 0.82],
        [0.52, 0.78],
        [0.545, 0.7],
      ],
    },
    {
      under: true,
      to: [
        [0.555, 0.6],
        [0.565, 0.5],
      ],
    },
    {
      under: false,
      to: [
        [0.595, 0.38],
        [0.65, 0.28],
        [0.78, 0.15],
        [0.94, 0.06],
      ],
    },
  ]);

export const saved = (page: Page): Promise<void> => expect(page.locator('.save')).toContainText('Saved');

/** Runs a statement in the server's own database: for what no page can do, such as ending a session. */
export async function sql(text: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
  await client.connect();
  try {
    await client.query(text);
  } finally {
    await client.end();
  }
}

export async function otherTab(browser: Browser, page: Page): Promise<Page> {
  const context = await browser.newContext({
    storageState: await page.context().storageState(),
    viewport: { width: 1280, height: 800 },
  });
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.locator('svg.board')).toBeVisible();
  return other;
}
