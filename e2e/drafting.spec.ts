import { expect, test } from '@playwright/test';
import { Hand, type Place } from './hand.js';
import { askForNewKnot, copyOf, newKnot, saved, signIn, stroke, tab } from './support.js';

test('by dragging: strokes go on from the end, over crossing numbers and after a halt, which stays where it is', async ({
  page,
}) => {
  await signIn(page);
  await newKnot(page, `Dragged ${Date.now()}`);
  const first: [number, number][] = [
    [0.06, 0.62],
    [0.3, 0.6],
    [0.5, 0.6],
    [0.62, 0.5],
    [0.56, 0.3],
    [0.42, 0.3],
    [0.38, 0.5],
    [0.4, 0.75],
  ];
  await stroke(page, [{ under: false, to: first }]);
  await expect(page.locator('ft-board .waymark')).toHaveCount(1);
  await page.keyboard.press('h');
  const laid = async (): Promise<{ points: number; halts: { at: number }[] }> => {
    const id = /knot\/([^/]+)/.exec(page.url())?.[1] ?? '';
    const { document } = (await (await page.request.get(`/api/knots/${id}`)).json()) as {
      document: { ropes: { points: unknown[] }[]; method: { halts: { at: number }[] } };
    };
    return { points: document.ropes[0]?.points.length ?? 0, halts: document.method.halts };
  };
  // What is on the server: a stroke is saved a moment after it.
  await expect.poll(async () => (await laid()).halts.length).toBe(1);
  const before = await laid();
  // From the rope's end, right across the number of the first crossing.
  await stroke(page, [
    {
      under: false,
      to: [
        [0.4, 0.75],
        [0.44, 0.66],
        [0.47, 0.45],
        [0.7, 0.4],
      ],
    },
  ]);
  await expect.poll(async () => (await laid()).points).toBeGreaterThan(before.points);
  const second = await laid();
  expect(second.halts).toEqual(before.halts);
  await stroke(page, [
    {
      under: false,
      to: [
        [0.7, 0.4],
        [0.8, 0.5],
        [0.9, 0.7],
      ],
    },
  ]);
  await expect.poll(async () => (await laid()).points).toBeGreaterThan(second.points);
  expect((await laid()).halts).toEqual(before.halts);
  expect(await page.evaluate(() => getSelection()?.toString() ?? '')).toBe('');
});

test('by mouse: an eight woven by itself, retraced round an eye, is the followed eight', async ({ page }) => {
  const hand = await Hand.at(page, 'Drafted', 7);
  const k = 1;
  const at = (list: readonly Place[]): Place[] => list.map(([x, y]) => [x * k + 6, y * k + 5] as const);
  await page.keyboard.press('a');
  await hand.lay(
    at([
      [0, 26],
      [0.2, 17],
      [0, 9],
      [0, 3],
      [0, -5],
      [-0.7, -13],
      [-5.5, -19],
      [-13, -18],
      [-14.5, -11],
      [-9, -5.2],
      [-4, -3],
      [2, -1],
      [5.6, 2],
      [5, 6],
      [0.4, 7.4],
      [-6, 7.4],
      [-13, 6],
      [-17.4, -2],
      [-14, -9.8],
      [-10, -16.8],
      [-10.4, -25],
      [-14, -31],
    ]),
  );
  await hand.crossings(4);
  await hand.is('It is the figure eight knot');
  await tab(page, 'Draft');
  for (let i = 0; i < 7; i += 1) await page.keyboard.press('-');
  await page.keyboard.press('l');
  await hand.lay(
    at([
      [-20, -35],
      [-28, -36],
      [-31, -29],
      [-24, -25],
      [-18, -27.4],
    ]),
  );
  await hand.crossings(4);
  await page.keyboard.press('f');
  // Back from where the end left the eight to its standing part, on the side that faces the eye.
  const length = Number(await page.getByRole('slider', { name: /^Begin/ }).getAttribute('max'));
  expect(length).toBeGreaterThan(80);
  await page.getByRole('slider', { name: /^Begin/ }).fill(String(Math.round(length - 44 * k)));
  await page.getByRole('button', { name: 'Lay it' }).click();
  await hand.crossings(16);
  await page.keyboard.press('p');
  await hand.press(at([[-31, -29]])[0]!);
  await page.keyboard.press('e');
  await expect(page.locator('.hint')).toContainText('The loop is an eye');
  await hand.is('Followed figure eight');
});

test('by mouse: turns round a spar are laid, counted up and down, and what follows them follows', async ({ page }) => {
  const hand = await Hand.at(page, 'Turns', 2);
  await hand.host('spar');
  await hand.lay([
    [-2, 12],
    [-2, 5],
  ]);
  await page.keyboard.press('t');
  await hand.press([-2, 0]);
  await page.getByRole('button', { name: 'Half a turn more' }).click();
  await page.getByRole('button', { name: 'Half a turn more' }).click();
  await expect(page.getByLabel('Turns', { exact: true })).toHaveValue('3');
  await hand.crossings(6);
  // Enter lays it from the board; a button that has the focus keeps its Enter.
  await page.locator('svg.board').focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('.hint')).toContainText('wrapped 3 times');
  await hand.lay([
    [10, 9],
    [14, 11],
  ]);
  await page.keyboard.press('t');
  await page.getByRole('radio', { name: '3 turns round the spar' }).click();
  await page.getByRole('button', { name: 'Half a turn fewer' }).click();
  await page.getByRole('button', { name: 'Half a turn fewer' }).click();
  await hand.crossings(4);
  await page.getByRole('button', { name: 'Lay it' }).click();
  await expect(page.locator('.hint')).toContainText('laid anew');
  await page.keyboard.press('z');
  await hand.crossings(6);
  await saved(page);
});

test('by mouse: two ropes, each wrapped round both and led out through its turns, are the double fisherman’s', async ({
  page,
}) => {
  const hand = await Hand.at(page, 'Two ropes', 6);
  const L = 16;
  await hand.lay([
    [-L - 16, -1.3],
    [-L, -1.3],
    [0, -1.3],
    [L, -1.3],
  ]);
  await page.keyboard.press('n');
  await hand.lay([
    [L + 16, 1.3],
    [L, 1.3],
    [0, 1.3],
    [-L, 1.3],
  ]);
  for (const [id, s, name] of [
    ['a', 1, 'pale rope'],
    ['b', -1, 'dark rope'],
  ] as const) {
    const at = (x: number, y: number): Place => [x * s, y * s];
    await hand.take(name);
    await hand.lay([at(L + 2, 2.4), at(L + 1.2, 5)]);
    await hand.wrap([at(L - 1, 1.3), at(L - 1, -1.3)], { behind: true });
    const x = (await hand.endOf(id))[0] * s;
    await hand.lay([at(x - 2.4, 3), at(x - 2, 0.6)]);
    // Through the turns by turns, out under where they begin, and away over the other rope.
    await page.keyboard.press('a');
    await hand.lay([at(x + 1, 0), at(L - 0.2, 0)]);
    await page.keyboard.press('a');
    await hand.lay([at(L + 3, 0), at(L + 6, 0.1)], 'UU');
    await hand.lay([at(L + 9, 3.5), at(L + 14, 4)]);
  }
  await hand.is('It is the double fisherman’s bend');
});

test('by mouse: a sling wrapped three times up and three times down about a rope is the prusik', async ({ page }) => {
  const hand = await Hand.at(page, 'On a rope', 6);
  await hand.lay([
    [0, 30],
    [0, 20],
    [0, 0],
    [0, -20],
    [0, -30],
  ]);
  await page.keyboard.press('o');
  await expect(page.locator('.hint')).toContainText('The last end is a standing part');
  await page.keyboard.press('n');
  await hand.lay([
    [26, -2],
    [14, -2.4],
    [6, -2.4],
  ]);
  await hand.wrap([[0, -2.4]], { more: 2 });
  await hand.lay([
    [6, -14],
    [9, -10],
    [9.4, 0],
    [9, 10],
    [6, 13.4],
  ]);
  await hand.wrap([[0, 12.4]], { behind: true });
  await hand.lay(
    [
      [8, 2.4],
      [14, 2.4],
      [26, 2],
      [30, 0.6],
    ],
    'UUOO',
  );
  await page.keyboard.press('j');
  await expect(page.locator('.hint')).toContainText('it is a sling');
  await page.keyboard.press('p');
  await hand.press([30, 0.6]);
  await page.keyboard.press('e');
  await expect(page.locator('.hint')).toContainText('The loop is an eye');
  await hand.is('It is the prusik of three wraps');
});

test('by mouse: both ends of a rope lead, left over right and beneath, and the steps say which', async ({ page }) => {
  const hand = await Hand.at(page, 'Both ends', 3);
  await hand.draw([
    [-8, 2],
    [-7, 8],
    [0, 10],
    [7, 8],
    [8, 2],
  ]);
  await hand.key('h');
  // A stroke that begins at the other end lays that.
  await hand.draw(
    [
      [-8, 2],
      [-4, -2],
      [4, -2],
      [12, 1],
    ],
    '____',
  );
  await expect(page.locator('.hint')).toContainText('left working end');
  await hand.key('h');
  await hand.draw(
    [
      [8, 2],
      [9, -1],
      [6, -5],
      [0, -7],
    ],
    '_U__',
  );
  await hand.key('h');
  const steps = page.locator('ft-step-card');
  await expect(steps.nth(1)).toContainText('left working end');
  await expect(steps.nth(2)).toContainText('right working end');
  await expect(steps.nth(2)).toContainText('the other working end');
});

test('by keyboard: a slipped sheet bend; with the end pulled through it is the sheet bend', async ({ page }) => {
  const hand = await Hand.at(page, 'Slipped', 2);
  await page.locator('svg.board').focus();
  let pencil: Place = [0, 0];
  const go = async (to: Place): Promise<void> => {
    for (const [d, less, more] of [
      [to[0] - pencil[0], 'ArrowLeft', 'ArrowRight'],
      [to[1] - pencil[1], 'ArrowUp', 'ArrowDown'],
    ] as const) {
      const quarters = Math.round(Math.abs(d) * 4);
      for (let i = 0; i < Math.floor(quarters / 4); i += 1) await page.keyboard.press(d < 0 ? less : more);
      for (let i = 0; i < quarters % 4; i += 1) await page.keyboard.press(`Shift+${d < 0 ? less : more}`);
    }
    pencil = to;
  };
  const lay = async (places: readonly Place[], letters: string): Promise<void> => {
    for (const [i, place] of places.entries()) {
      await go(place);
      if (letters[i] === 'U') await page.keyboard.press('u');
      await page.keyboard.press('Enter');
      if (letters[i] === 'U') await page.keyboard.press('u');
    }
  };
  const middle = await page.locator('svg.board').evaluate((svg) => {
    const [l, t, w, h] = svg.getAttribute('viewBox')!.split(' ').map(Number) as [number, number, number, number];
    return [l + w / 2, t + h / 2] as const;
  });
  pencil = middle;
  await lay(
    [
      [-20, 3],
      [-12, 3],
      [-3, 3],
      [3.5, 3],
      [6, 0],
      [3.5, -3],
      [-3, -3],
      [-10, -3.5],
    ],
    '',
  );
  await page.keyboard.press('n');
  pencil = middle;
  await lay(
    [
      [20, 0.25],
      [12, 0.5],
      [8, 0.25],
      [2, -0.5],
      [-1, -3.25],
      [-3.5, -6.5],
      [-7, -5],
      [-7.5, 0],
      [-6.5, 6],
      [-3, 7.5],
      [1, 7.5],
      [9, 8],
      [18, 8],
    ],
    'OOOUOOOUUUOOOO'.slice(0, 13),
  );
  await hand.crossings(4);
  // A bight out of the tail: over the leg, under its own standing part, over the other leg.
  for (let i = 0; i < 10; i += 1) await page.keyboard.press(']');
  await expect(page.locator('.hint')).toContainText('Point 10 of 13');
  await page.keyboard.press('g');
  pencil = [-3, 7.5];
  await lay(
    [
      [-0.5, 4.5],
      [0.5, 1.5],
      [1.25, -1.5],
      [3, -6],
      [5, -9],
    ],
    'OOUOO',
  );
  await page.keyboard.press('Enter');
  await expect(page.locator('.hint')).toContainText('A bight is drawn out');
  await hand.crossings(10);
  await page.keyboard.press('h');
  await expect(page.getByLabel('Text of step 1')).toHaveValue(/bight/);
  await hand.is('It is the slipped sheet bend');
  await tab(page, 'Draft');
  await page.getByRole('button', { name: /^Rope in hand/ }).press('Enter');
  await page.getByRole('menuitemradio', { name: 'Take the dark rope in hand' }).press('Enter');
  await expect(page.getByRole('menu')).toHaveCount(0);
  await page.keyboard.press('g');
  await page.getByRole('button', { name: 'Pull the end through the last bight' }).press('Enter');
  await hand.crossings(7);
  await hand.is('It is the sheet bend');
});

test('an SVG of a carrick bend is imported, and its weave walked, one key over, one key under', async ({ page }) => {
  await signIn(page);
  await askForNewKnot(page);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 320 160"><g transform="translate(160 80) scale(8)" fill="none" stroke="#000" stroke-width="1">
    <path d="M-18 -6C-11 -5 -6 -2 -1.5 2C1 4.4 3.4 5.4 5 5C8 4.2 9 1.6 9 0C9 -1.6 8 -4.2 5 -5C3.4 -5.4 1 -4.4 -1.5 -2C-6 2 -11 5 -18 6"/>
    <path d="M18 -6C11 -5 6 -2 1.5 2C-1 4.4 -3.4 5.4 -5 5C-8 4.2 -9 1.6 -9 0C-9 -1.6 -8 -4.2 -5 -5C-3.4 -5.4 -1 -4.4 1.5 -2C6 2 11 5 18 6"/></g></svg>`;
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: `Carrick bend ${Date.now()}.svg`, mimeType: 'image/svg+xml', buffer: Buffer.from(svg) });
  await page.waitForURL('**/draft?walk=1');
  await expect(page.locator('ft-board .waymark')).toHaveCount(8);
  // The weave is regular: along each rope over and under by turns.
  await expect(page.locator('.hint')).toContainText('Crossing 1 of 8');
  for (let n = 0; n < 40; n += 1) {
    const hint = (await page.locator('.hint').textContent()) ?? '';
    const number = /Crossing (\d+) of 8/.exec(hint)?.[1];
    if (number === undefined) break;
    // The trail of the first rope passes the crossings in the order of their numbers.
    await page.keyboard.press(WALK[Number(number) - 1] ?? 'o');
    await expect(page.locator('.hint')).not.toHaveText(hint);
  }
  await expect(page.locator('.hint')).toHaveText('Every crossing is walked.');
  await saved(page);
  await tab(page, 'Proof');
  await expect(page.locator('.verdict-band h2')).toContainText('carrick bend');
});

/** Over or under for each crossing of the carrick bend, by its number. */
const WALK = ['o', 'u', 'o', 'u', 'o', 'u', 'o', 'u'];

test('a code becomes a drawing; tidied it stays the knot, and is one undo', async ({ page }) => {
  await signIn(page);
  await askForNewKnot(page);
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill(`From a code ${Date.now()}`);
  const code = page.getByRole('textbox', { name: /paste/ });
  await code.fill('O1- U2- O3- U1- O2- U9-');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByRole('alert')).toContainText('passed once');
  await code.fill('O1- U2- O3- U1- O2- U3-');
  await page.getByRole('button', { name: 'Create' }).click();
  await page.waitForURL('**/draft');
  await expect(page.locator('ft-board .waymark')).toHaveCount(3);
  // The lines themselves: how much of the board is in view may change meanwhile.
  const drawn = (): Promise<string> =>
    page
      .locator('ft-board svg path[stroke]')
      .evaluateAll((paths) => paths.map((p) => p.getAttribute('d') ?? '').join(' '));
  const before = await drawn();
  expect(before.length).toBeGreaterThan(100);
  await page.keyboard.press('d');
  await expect(page.locator('.hint')).toContainText('Tidied');
  await expect(page.locator('ft-board .waymark')).toHaveCount(3);
  await page.keyboard.press('z');
  await expect.poll(drawn).toBe(before);
  await saved(page);
  await tab(page, 'Proof');
  await expect(page.locator('.verdict-band h2')).toContainText('overhand knot');
});

test('the figure is saved as a file in every format, and the SVG is read back as the same knot', async ({ page }) => {
  await signIn(page);
  await page.goto('/shelf');
  await page.getByRole('link', { name: 'Water knot in the ground straps', exact: true }).click();
  await page.waitForURL('**/draft');
  await page.getByRole('button', { name: 'Export the figure' }).click();
  const save = async (format: RegExp): Promise<{ name: string; bytes: Buffer }> => {
    await page.getByRole('radio', { name: format }).click();
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save the file' }).click(),
    ]);
    const chunks: Buffer[] = [];
    for await (const c of await file.createReadStream()) chunks.push(c as Buffer);
    return { name: file.suggestedFilename(), bytes: Buffer.concat(chunks) };
  };
  expect((await save(/Figure file/)).bytes.toString()).toContain('foxtrail-figure/1');
  const pdf = await save(/PDF/);
  expect(pdf.bytes.subarray(0, 5).toString()).toBe('%PDF-');
  const png = await save(/PNG/);
  expect([...png.bytes.subarray(1, 4)].map((c) => String.fromCharCode(c)).join('')).toBe('PNG');
  expect(png.bytes.readUInt32BE(16)).toBe(1600);
  expect((await save(/Gauss/)).bytes.toString()).toMatch(/^[OU]1[+-]/);
  const svg = await save(/^SVG/);
  expect(svg.name).toBe('water-knot-in-the-ground-straps.svg');
  await page.getByRole('button', { name: 'Close' }).click();
  await askForNewKnot(page);
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: svg.name, mimeType: 'image/svg+xml', buffer: svg.bytes });
  await page.waitForURL('**/draft');
  await expect(page.locator('h1')).toHaveText('Water knot in the ground straps');
  await tab(page, 'Proof');
  await expect(page.locator('.verdict-band h2')).toContainText('It is the water knot');
});

test('a revision is named, compared with the bench, and put back', async ({ page }) => {
  await signIn(page);
  await copyOf(page, 'Sheet bend for line laundry');
  await expect(page.locator('ft-board .waymark')).toHaveCount(7);
  await page.keyboard.press('w');
  await page.keyboard.press('x');
  await expect(page.locator('.hint')).toContainText('is swapped');
  await page.waitForTimeout(1500);
  await saved(page);
  await page.getByRole('button', { name: 'Revisions' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('One crossing differs');
  await expect(dialog.locator('.marks .differs')).toHaveCount(2);
  await dialog.getByRole('textbox').fill('Before the slip');
  await dialog.getByRole('button', { name: 'Name it' }).click();
  await expect(dialog.getByRole('option', { name: /Before the slip/ })).toBeVisible();
  await dialog.getByRole('button', { name: 'Put it back on the bench' }).click();
  await tab(page, 'Proof');
  await expect(page.locator('.verdict-band h2')).toContainText('It is the sheet bend');
});

test('a text that says over where the picture shows under is underlined, and put right with one press', async ({
  page,
}) => {
  await signIn(page);
  await copyOf(page, 'Sheet bend for line laundry');
  await page.getByLabel('Text of step 3').fill('Bring the dark rope over both legs.');
  await expect(page.locator('mark').first()).toHaveText('over');
  const finding = page.locator('ft-findings-list').getByText('Step 3 says “over”');
  await expect(finding).toBeVisible({ timeout: 10_000 });
  await page.getByRole('button', { name: 'Say “under”' }).click();
  await expect(page.getByLabel('Text of step 3')).toHaveValue('Bring the dark rope under both legs.');
  await expect(page.locator('mark')).toHaveCount(0);
  await saved(page);
});
