/** What learners do with a rope on the screen: a knot laid move by move, their own traced over a photograph, a course gone through. */
import {
  crossingsOf,
  curveOf,
  drawFigure,
  finishedFigure,
  heartBox,
  pointAt,
  readKnot,
  toSvg,
  type Figure,
  type Method,
  type Point,
} from '@foxtrail/core';
import { evenWay, stepsToLay, toLay } from '@foxtrail/core/drill';
import { expect, test, type Locator, type Page } from '@playwright/test';
import { signIn, tab } from './support';

/** The method of a published knot, as a learner's page fetches it. */
async function methodOf(page: Page, slug: string): Promise<Method> {
  const read = readKnot(await (await page.request.get(`/api/public/knots/${slug}/figure.json`)).json());
  if (!read.ok) throw new Error(read.reason);
  return read.value.method;
}

/** Where a place of the board is on the screen, as it stands now. */
async function placed(page: Page): Promise<(p: Point) => [number, number]> {
  const { a, d, e, f } = await page.locator('.board > svg').evaluate((svg) => {
    const m = (svg as SVGSVGElement).getScreenCTM()!;
    return { a: m.a, d: m.d, e: m.e, f: m.f };
  });
  return ([x, y]) => [a * x + e, d * y + f];
}

/** Leads a finger, or a mouse, along a way of the board. */
async function lead(page: Page, way: readonly Point[]): Promise<void> {
  await page.locator('.board').scrollIntoViewIfNeeded();
  const at = await placed(page);
  await page.mouse.move(...at(way[0]!));
  await page.mouse.down();
  for (const p of way.slice(1)) await page.mouse.move(...at(p));
  await page.mouse.up();
}

const rings = (page: Page): Locator => page.locator('.board .made');
const turn = async (page: Page, ring: number): Promise<void> => {
  await rings(page).nth(ring).focus();
  await page.keyboard.press('Enter');
};

test('a learner lays a knot on a phone, makes the slip that is made, is told what it would become, and the author sees it', async ({
  browser,
  page,
}) => {
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const learner = await phone.newPage();
  const method = await methodOf(page, 'bowline');
  await learner.goto('/learn/bowline');
  await learner.getByRole('link', { name: 'Lay it yourself' }).click();
  await expect(learner.getByRole('heading', { name: 'Lay the bowline' })).toBeVisible();
  await expect(learner.locator('.laying .say')).toContainText('loop');
  expect(await learner.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0);
  await learner.getByRole('checkbox', { name: /^Tell Larkmoor/ }).check();
  // With the code of a class the answers are counted with it, too; one that is none is said to be.
  await signIn(page);
  const { classes } = (await (await page.request.get('/api/classes')).json()) as {
    classes: { name: string; code: string }[];
  };
  const crew = classes.find((c) => c.name === 'Ground crew, spring')!;
  const field = learner.getByLabel('Class code');
  await field.fill('ABCD-EFGH');
  await learner.getByRole('button', { name: 'Join' }).click();
  await expect(learner.getByText('No class has this code.')).toBeVisible();
  await field.fill(crew.code.toLowerCase());
  await learner.getByRole('button', { name: 'Join' }).click();
  await expect(learner.getByText('counted with “Ground crew, spring”')).toBeVisible();
  const check = learner.getByRole('button', { name: 'Check the move' });
  const said = learner.locator('.said');
  const told: { question: string; right: boolean }[] = [];
  learner.on('request', (r) => {
    if (r.url().endsWith('/answers'))
      told.push(...(JSON.parse(r.postData() ?? '{}') as { answers: typeof told }).answers);
  });
  await check.click();
  await expect(said).toContainText('Take hold of the end');
  const steps = stepsToLay(method).flatMap((s) => toLay(s) ?? []);
  expect(steps.length).toBeGreaterThan(2);
  let slip = 0;
  for (const [i, step] of steps.entries()) {
    await expect(learner.locator('.laying .count')).toHaveText(String(i + 1));
    const isSlip = slip === 0 && step.asked.some((m) => !m.over) && i > 0;
    await lead(learner, step.shown);
    await expect(rings(learner)).toHaveCount(step.asked.length);
    for (const [k, m] of step.asked.entries()) if (!m.over && !isSlip) await turn(learner, k);
    await check.click();
    if (!isSlip) continue;
    // All of it laid over, as a hand does that does not look: the crossing is told, and what would come of it.
    const wrong = step.asked.flatMap((m, k) => (m.over ? [] : [k]));
    slip = step.asked[wrong[0]!]!.number;
    await expect(said).toContainText('It lies the wrong way');
    await expect(said).toContainText('So laid');
    await expect(learner.locator('.board .wrong')).toHaveCount(wrong.length);
    for (const k of wrong) await turn(learner, k);
    await check.click();
  }
  await expect(said).toContainText('You have laid the bowline.');
  await expect(said).toContainText(`${steps.length - 1} of ${steps.length} moves right`);
  expect(told).toContainEqual({ question: `lay:crossing-${slip}`, right: false });
  // Led to the other side, it is told to be the mirror image; taken back, it is as if it had not been.
  await learner.getByRole('button', { name: 'Lay it again' }).click();
  const [first] = steps;
  const [dx, dy] = [first!.towards[0] - first!.at[0], first!.towards[1] - first!.at[1]];
  const mirrored = ([x, y]: Point): Point => {
    const [u, v] = [x - first!.at[0], y - first!.at[1]];
    const along = u * dx + v * dy;
    return [first!.at[0] + 2 * along * dx - u, first!.at[1] + 2 * along * dy - v];
  };
  await lead(learner, first!.shown.map(mirrored));
  await check.click();
  await expect(said).toContainText('mirror image');
  await learner.getByRole('button', { name: 'Take back' }).click();
  await expect(rings(learner)).toHaveCount(0);
  // By heart: the words are hidden, the number of the move is not.
  await learner.getByRole('button', { name: 'By heart: hide the words' }).click();
  await expect(learner.locator('.laying .say > span').last()).toBeHidden();
  await expect(learner.locator('.laying .count')).toBeVisible();
  await learner.getByRole('button', { name: 'Show the words' }).click();
  await expect(learner.locator('.laying .say > span').last()).toBeVisible();
  // By keys alone: the end goes on, and is taken back.
  await learner.getByRole('application').focus();
  await learner.keyboard.press('ArrowDown');
  await expect(learner.getByRole('button', { name: 'Take back' })).toBeEnabled();
  await learner.keyboard.press('Backspace');
  await expect(learner.getByRole('button', { name: 'Take back' })).toBeDisabled();
  await phone.close();

  await page.goto('/shelf');
  await page
    .getByRole('link', { name: /^Bowline/ })
    .first()
    .click();
  await tab(page, 'Proof');
  await page.getByRole('tab', { name: 'Learners' }).click();
  const rows = page.locator('ft-learners-tab tbody');
  await expect(rows.getByText(`crossing ${slip} laid`)).toBeVisible();
  await page.getByRole('combobox', { name: 'Learners' }).click();
  await page.getByRole('option', { name: 'Ground crew, spring' }).click();
  await expect(rows.getByText(`crossing ${slip} laid`)).toBeVisible();
  // On the knot in the hand, too.
  await expect(page.locator('ft-learners-tab ft-hand-card img').first()).toBeVisible({ timeout: 60_000 });
});

/** A picture of a knot, as a photograph of it would be, and how its places are on the board. */
function photographOf(figure: Figure): { svg: string; onBoard: (p: Point) => Point; box: ReturnType<typeof heartBox> } {
  const box = heartBox(figure);
  const [l, t, r] = box;
  const svg = toSvg(drawFigure(figure), { box, width: 1200, title: 'Mine', description: 'A knot' });
  const scale = 44 / (r - l);
  return { svg, box, onBoard: ([x, y]) => [(x - l) * scale, (y - t) * scale] };
}

test('a learner’s own knot is traced over a photograph, told where it is wrong, and nothing of it is sent', async ({
  page,
}) => {
  const figure = finishedFigure(await methodOf(page, 'bowline'));
  const { svg, onBoard, box } = photographOf(figure);
  await page.goto('/learn/bowline');
  await page.getByRole('link', { name: 'Show your knot' }).click();
  await expect(page.locator('.laying .say')).toContainText('Trace');
  const sent: string[] = [];
  page.on('request', (r) => r.method() !== 'GET' && sent.push(r.url()));
  const file = page.locator('input[type=file]');
  await file.setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('no picture') });
  await expect(page.locator('.said')).toContainText('no picture that the browser can show');
  await file.setInputFiles({ name: 'mine.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) });
  await expect(page.getByText('Another photograph')).toBeVisible();
  const inside = ([x, y]: Point): boolean => x > box[0] && x < box[2] && y > box[1] && y < box[3];
  const way = evenWay(curveOf(figure.ropes[0]!).line.filter(inside)).map(onBoard);
  await lead(page, way);
  const crossings = crossingsOf(figure);
  await expect(rings(page)).toHaveCount(crossings.length);
  // Brought nearer, the photograph and the trace on it together; moved by a drag that takes hold of nothing; and whole again.
  const seen = async (): Promise<number[]> =>
    (await page.locator('.board > svg').getAttribute('viewBox'))!.split(' ').map(Number);
  const whole = await seen();
  await page.getByRole('button', { name: 'Nearer' }).click();
  await page.getByRole('button', { name: 'Nearer' }).click();
  const near = await seen();
  expect(whole[2]! / near[2]!).toBeCloseTo(1.6 ** 2, 3);
  const board = (await page.locator('.board').boundingBox())!;
  const ends = await placed(page);
  const [ex, ey] = ends(way.at(-1)!);
  // Away from the end, which would be led, and from the rings, which would be pressed.
  const free = [0.1, 0.3, 0.5, 0.7, 0.9]
    .flatMap((u) =>
      [0.1, 0.5, 0.9].map((v): [number, number] => [board.x + u * board.width, board.y + v * board.height]),
    )
    .map(([x, y]) => {
      const taken = [[ex, ey], ...crossings.map((c) => ends(onBoard(c.point)))];
      return { x, y, room: Math.min(...taken.map(([a, b]) => Math.hypot(a! - x, b! - y))) };
    })
    .sort((a, b) => b.room - a.room)[0]!;
  await page.mouse.move(free.x, free.y);
  await page.mouse.down();
  await page.mouse.move(free.x + (near[0]! > 1 ? 60 : -60), free.y, { steps: 4 });
  await page.mouse.up();
  expect((await seen())[0]).not.toBeCloseTo(near[0]!, 1);
  await expect(rings(page)).toHaveCount(crossings.length);
  await page.getByRole('button', { name: 'Whole picture' }).click();
  expect(await seen()).toEqual(whole);
  await expect(page.getByRole('button', { name: 'Whole picture' })).toBeHidden();
  await page.getByRole('button', { name: 'Next' }).click();
  const at = await placed(page);
  const eye = pointAt(curveOf(figure.ropes[0]!), figure.ropes[0]!.eyes![0]!);
  await page.mouse.click(...at(onBoard(eye)));
  // Where the earlier passage is over, the trace is turned; all but one.
  const under = crossings.flatMap((c, i) => (c.over === c.first ? [i] : []));
  const [left, ...others] = under;
  for (const i of others) await turn(page, i);
  await page.getByRole('button', { name: 'What is it?' }).click();
  await expect(page.locator('.said')).toContainText('It is not the bowline');
  await expect(page.locator('.said')).toContainText('Turned over at the ringed crossing');
  await expect(page.locator('.board .wrong')).toHaveCount(1);
  // By the mouse, as a finger presses it: when it is lifted where it came down.
  await page.mouse.click(...(await placed(page))(onBoard(crossings[left!]!.point)));
  await page.getByRole('button', { name: 'What is it?' }).click();
  await expect(page.locator('.said')).toContainText('It is the bowline.');
  expect(sent).toEqual([]);
});

test('a course leads a learner from lesson to lesson, and knows how far one has come', async ({ page }) => {
  await page.goto('/learn');
  await page.getByRole('link', { name: /^First season on the ground crew/ }).click();
  await expect(page.getByRole('heading', { name: 'After it you can' })).toBeVisible();
  await page.getByRole('link', { name: 'Figure eight' }).click();
  await expect(page.getByRole('navigation', { name: 'Course' })).toContainText('1 of 7');
  // Another view is the same place of the course.
  await page.getByRole('navigation', { name: 'View' }).getByRole('link', { name: 'Back' }).click();
  await expect(page).toHaveURL(/course=first-season.*view=back/);
  await page.getByRole('checkbox', { name: 'I can do it' }).check();
  await page.getByRole('main').getByText('Next: Reef knot').click();
  await expect(page.getByRole('heading', { name: 'Reef knot', level: 1 })).toBeVisible();
  await page.getByRole('navigation', { name: 'Course' }).getByRole('link', { name: 'First season' }).click();
  await expect(page.getByText('1 of 7 done')).toBeVisible();
  await page.getByRole('link', { name: /ridge line/i }).click();
  await expect(page.getByRole('heading', { name: 'Look at it before it is loaded' })).toBeVisible();
  await page.getByRole('checkbox').first().check();
  await page.goBack();
  await page.getByRole('button', { name: 'Forget it here' }).click();
  await expect(page.getByText('1 of 7 done')).toBeHidden();
});
