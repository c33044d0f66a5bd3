/**
 * A new author at a blank board: knots drafted by dragging, each within forty presses, keys and strokes, all the way to its public page.
 */
import { expect, test, type Page } from '@playwright/test';
import { Hand, type Place } from './hand.js';
import { saved, tab } from './support.js';

/** Presses, keys and strokes that a knot may take until it can be published. */
const MOST = 40;

/** Publishes what is on the bench, and opens its page as a learner does. */
async function publish(hand: Hand, page: Page): Promise<void> {
  expect(hand.uses).toBeLessThanOrEqual(MOST);
  await tab(page, 'Sheet');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  const address = page.locator('.address a');
  await expect(address).toBeVisible();
  await page.goto((await address.getAttribute('href')) ?? '');
  await expect(page.locator('.player svg.figure').first()).toBeVisible();
}

/** Says what the rope in hand is, from the stock. */
async function fromStock(hand: Hand, page: Page, what: RegExp, own?: { name: string; colour: string }): Promise<void> {
  await hand.key('Shift+R');
  await hand.click('button', 'From the stock …');
  await hand.click('menuitem', what);
  if (own) {
    hand.uses += 1;
    await page.getByLabel('Its own name').fill(own.name);
    await hand.click('button', `Colour: ${own.colour}`);
  }
  await hand.click('button', 'Keep');
  await expect(page.locator('.hint')).toContainText('So it is drawn');
  // What lay over the board fades for a moment and takes the mouse.
  await expect(page.locator('.cdk-overlay-backdrop')).toHaveCount(0);
}

const BOWLINE: readonly Place[] = [
  [0, -34],
  [0, -16],
  [0, -9],
  [-1.8, -4.6],
  [-5.6, -1],
  [-6, 3],
  [-2.6, 5.6],
  [2.6, 5.6],
  [6.4, 3],
  [6, -2.4],
  [2.4, -5.4],
  [-2.4, -5.6],
  [-8, -4],
];
const UP_THROUGH: readonly Place[] = [
  [-8, -4],
  [-11, 3],
  [-12, 12],
  [-9, 20],
  [-1, 23.4],
  [6, 20],
  [6.6, 13],
  [3.6, 8.6],
  [2.4, 2],
  [2.8, -3],
];
const ROUND_AND_DOWN: readonly Place[] = [
  [2.8, -3],
  [3.2, -9],
  [1.6, -12.2],
  [-1.6, -12.6],
  [-3.8, -10],
  [-4.2, -6],
  [-3.4, -1.6],
  [-2.6, 3],
  [-3, 8],
  [-4, 14],
  [-2.6, 19],
];

test('the bowline, its false form shown to learners', async ({ page }) => {
  const hand = await Hand.at(page, 'Bridle loop', 6);
  await hand.draw(BOWLINE);
  await hand.key('h');
  await hand.draw(UP_THROUGH, '________UU');
  await hand.key('h');
  // Over the turn, behind the standing part, and down through the turn again.
  await hand.draw(ROUND_AND_DOWN, '__UUO___UU');
  await hand.key('h');
  await hand.crossings(7);
  await hand.key('p');
  await hand.press([-1, 23.4]);
  await hand.key('e');
  await expect(page.locator('.hint')).toContainText('The loop is an eye');
  await hand.is('It is the bowline');
  await hand.click('tab', 'Mistakes');
  const wrong = page.locator('ft-mistakes-tab li, ft-mistakes-tab .mistake').filter({ hasText: /False bowline/ });
  hand.uses += 1;
  await wrong
    .getByRole('button', { name: /^Show learners/ })
    .first()
    .click();
  await saved(page);
  await publish(hand, page);
  await expect(page.locator('.exhibits h3')).toContainText('False bowline');
  await expect(page.locator('.exhibits')).toContainText('lies over');
});

test('the prusik in thinner cord', async ({ page }) => {
  const hand = await Hand.at(page, 'Grip', 6);
  await hand.draw([
    [0, 34],
    [0, 20],
    [0, 0],
    [0, -20],
    [0, -34],
  ]);
  await hand.key('o', 'h', 'n');
  await hand.draw([
    [26, -2],
    [14, -2.4],
    [6, -2.4],
  ]);
  await fromStock(hand, page, /Friction cord/);
  await hand.key('t');
  await hand.press([0, -2.4]);
  hand.uses += 1;
  await page.getByLabel('Turns', { exact: true }).fill('3');
  await hand.click('button', 'Lay it');
  await hand.draw([
    [3, -9],
    [6, -12],
    [9, -9],
    [9.4, 0],
    [9, 9],
    [6, 10.4],
  ]);
  await hand.key('t');
  await hand.press([0, 10]);
  await hand.click('radio', 'behind');
  await hand.click('button', 'Lay it');
  await expect(page.locator('.hint')).toContainText('is wrapped 3 times');
  await hand.draw(
    [
      [6, 4],
      [8, 1.6],
      [14, 1.6],
      [26, 1.4],
      [28.4, -0.2],
    ],
    '_UU__',
  );
  await hand.key('j', 'p');
  await hand.press([28.4, -0.2]);
  await hand.key('e');
  await expect(page.locator('.hint')).toContainText('The loop is an eye');
  await hand.is('It is the prusik of three wraps');
  await tab(page, 'Draft');
  await hand.key('h');
  await publish(hand, page);
  // The learner reads of the cord, and sees it thinner than the rope it grips.
  await expect(page.locator('.all')).toContainText('cord');
});

test('the eight by two methods: followed through, and on the bight', async ({ page }) => {
  const hand = await Hand.at(page, 'Bridle eye', 7);
  const at = (list: readonly Place[]): Place[] => list.map(([x, y]) => [x + 6, y + 5] as const);
  const eight: readonly Place[] = [
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
  ];
  await hand.key('a');
  await hand.draw(at([[0, 32], [0.2, 17], [0, 9], ...eight]));
  await hand.crossings(4);
  await hand.key('h', 'a');
  await hand.draw(
    at([
      [-10.4, -25],
      [-14, -31],
      [-20, -35],
      [-28, -36],
      [-31, -29],
      [-24, -25],
      [-18, -27.4],
    ]),
  );
  await hand.crossings(4);
  await hand.key('f');
  const begin = page.getByRole('slider', { name: /^Begin/ });
  const length = Number(await begin.getAttribute('max'));
  hand.uses += 1;
  await begin.fill(String(Math.round(length - 41)));
  await hand.click('button', 'Lay it');
  await hand.crossings(16);
  await hand.key('p');
  await hand.press(at([[-31, -29]])[0]!);
  await hand.key('e');
  await expect(page.locator('.hint')).toContainText('The loop is an eye');
  await hand.is('Followed figure eight');

  // The same knot on the bight: a line, and a bight of it led as the eight goes.
  await tab(page, 'Draft');
  await hand.click('button', 'Add …');
  await hand.click('menuitem', 'Another way to tie it, from blank');
  await expect(page.getByRole('menu')).toHaveCount(0);
  await expect(page.locator('ft-board .waymark')).toHaveCount(0);
  await hand.fartherOff(7);
  await hand.draw(
    at([
      [-24, 30],
      [-10, 27],
      [0, 26],
      [10, 27],
      [24, 30],
    ]),
  );
  await hand.key('g', 'a');
  await hand.press(at([[0, 26]])[0]!);
  await hand.draw(at([[0, 22], [0.2, 17], [0, 9], ...eight]));
  await hand.key('Enter');
  await expect(page.locator('.hint')).toContainText('A bight is drawn out');
  await hand.crossings(16);
  await hand.key('h', 'h', 'p');
  await hand.press(at([[-10.4, -26.2]])[0]!);
  await hand.key('e');
  await expect(page.locator('.hint')).toContainText('The loop is an eye');
  await expect(page.getByText('same knot', { exact: true })).toBeVisible();
  await saved(page);
  await publish(hand, page);
  await expect(page.getByRole('navigation', { name: 'Ways to tie it' })).toContainText('Method 2');
});

test('the water knot in flat webbing, no twist between its layers', async ({ page }) => {
  const hand = await Hand.at(page, 'Ground strap', 5);
  const overhand: readonly Place[] = [
    [-30, 2.4],
    [-18, 1.2],
    [-6.6, 0.8],
    [3.8, 0],
    [11.6, -2.8],
    [14.8, -8.4],
    [12.2, -14.8],
    [5.2, -18.4],
    [-2.6, -17],
    [-7.8, -11.4],
    [-8.6, -3.6],
    [-6, 3],
    [-1.6, 6.4],
    [2.4, 5],
    [5.2, 0.2],
    [7.4, -5.8],
    [11.2, -11.6],
    [18, -17.8],
    [29, -26],
  ];
  await hand.draw(overhand, '______________UU___');
  await hand.crossings(3);
  await hand.key('h');
  await fromStock(hand, page, /^Flat webbing/);
  await hand.key('n');
  await hand.draw([
    [33, -22],
    [30.6, -23.6],
  ]);
  await fromStock(hand, page, /^Flat webbing/, { name: 'second strap', colour: 'black' });
  await hand.key('f');
  await hand.click('button', 'Lay it');
  await hand.crossings(12);
  await hand.key('h');
  await hand.is('It is the water knot');
  // Turned over inside the knot it is found; so it is laid flat again.
  await tab(page, 'Draft');
  await hand.key('p');
  await hand.press([11.6, -2.8]);
  await hand.key('Shift+E');
  await expect(page.getByText('The webbing is turned over once inside the knot')).toBeVisible();
  await hand.key('Shift+E');
  await expect(page.getByText('The webbing is turned over once inside the knot')).toHaveCount(0);
  await saved(page);
  await publish(hand, page);
  await expect(page.locator('.all')).toContainText('second strap');
});

test('a whipping of ten turns in twine, both its ends trimmed', async ({ page }) => {
  const hand = await Hand.at(page, 'Whipping', 5);
  await hand.draw([
    [-30, 0],
    [-10, 0],
    [10, 0],
    [30, 0],
  ]);
  await hand.key('h', 'n');
  // The end lies along the rope; the turns cover it.
  await hand.draw([
    [14, 1.4],
    [0, 1.3],
    [-12, 1.3],
    [-16, 1.4],
    [-18, -0.4],
    [-17, -3],
    [-14.6, -3],
  ]);
  await fromStock(hand, page, /^Twine/);
  await hand.key('t');
  await hand.press([-13, 0]);
  await hand.press([-12.4, 1.3]);
  hand.uses += 1;
  await page.getByLabel('Turns', { exact: true }).fill('10');
  await hand.click('button', 'Lay it');
  await expect(page.locator('.hint')).toContainText('is wrapped 10 times');
  await hand.key('h', 'o', 'o', 'o');
  await expect(page.locator('.hint')).toContainText('The last end is trimmed');
  await hand.key('p');
  await hand.press([14, 1.4]);
  await hand.key('o', 'o');
  await expect(page.locator('.hint')).toContainText('The first end is trimmed');
  await saved(page);
  await publish(hand, page);
  await expect(page.locator('.all')).toContainText('twine');
});

test('the butterfly by hand: three turns round it, the second led over and back beneath, the hand taken out', async ({
  page,
}) => {
  const hand = await Hand.at(page, 'By the hand', 5);
  await hand.host('hand');
  const turns: readonly (readonly [letters: string, places: readonly Place[]])[] = [
    // Up across the palm, and round the back of the hand to well beyond.
    [
      'OOOOOO',
      [
        [-3, 28],
        [-0.6, 19],
        [0, 13],
        [0, 9],
        [0, 0],
        [0, -9],
      ],
    ],
    [
      'OOOUOO',
      [
        [1.5, -12],
        [3, -9],
        [3, -5],
        [3, 5],
        [5, 9.6],
        [8, 10.6],
      ],
    ],
    [
      'OOO',
      [
        [9.6, 12.6],
        [11, 13.6],
        [12, 12],
      ],
    ],
    // The second turn goes as a bight over the first, and back beneath it to the eye.
    [
      'OOOOOO',
      [
        [12, 10.2],
        [11.5, 7.6],
        [10, 6.7],
        [4.25, 6.6],
        [-1.5, 6.6],
        [-3.8, 5.6],
      ],
    ],
    [
      'OOUOOO',
      [
        [-4.2, 3.8],
        [-2.9, 2.3],
        [1.5, 1.8],
        [9, 1.8],
        [20, 3.4],
        [26, 3.4],
      ],
    ],
    [
      'OOOOOU',
      [
        [28, 0],
        [26, -3.4],
        [20, -3.4],
        [9, -1.8],
        [1.5, -1.8],
        [-2.9, -2.3],
      ],
    ],
    [
      'OOOOO',
      [
        [-4.2, -3.8],
        [-3.8, -5.6],
        [-1.5, -6.6],
        [4.25, -6.6],
        [10, -6.7],
      ],
    ],
    // Round the back again, and down between the two: under the outer strands, over the inner ones.
    [
      'OOOOU',
      [
        [11.5, -7.6],
        [12, -10.2],
        [10.5, -12.4],
        [9, -10],
        [9, -8.4],
      ],
    ],
    [
      'UUUUU',
      [
        [9, -4.5],
        [9, 0.2],
        [9, 4.5],
        [9, 9],
        [9, 14],
      ],
    ],
    [
      'OOOUO',
      [
        [7.5, 15.4],
        [6, 13.4],
        [6, 8.4],
        [6, 4.2],
        [6, -4.2],
      ],
    ],
    [
      'UOOO',
      [
        [6, -8.4],
        [6, -13],
        [6.6, -19],
        [9, -27],
      ],
    ],
  ];
  let end: Place | undefined;
  for (const [letters, places] of turns) {
    await hand.draw(end ? [end, ...places] : places, end ? `_${letters}` : letters);
    end = places.at(-1);
  }
  await hand.key('o', 'h', 'p');
  await hand.press([28, 0]);
  await hand.key('e');
  await expect(page.locator('.hint')).toContainText('The loop is an eye');
  const before = await page.locator('ft-board .waymark').count();
  await hand.press([-20, 0]);
  await hand.key('Delete');
  await expect.poll(() => page.locator('ft-board .waymark').count()).toBeLessThan(before);
  await hand.is('It is the butterfly loop');
  await publish(hand, page);
});
