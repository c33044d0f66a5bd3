/**
 * Knots drafted by moves: from a blank board, each within a dozen presses, keys and strokes.
 */
import { expect, test } from '@playwright/test';
import { Hand, type Place } from './hand.js';

/** Presses, keys and strokes that a knot may take until it is what it should be. */
const MOST = 12;

test('the taut-line hitch: two turns inside the loop, a half hitch outside', async ({ page }) => {
  const hand = await Hand.at(page, 'Taut line', 0);
  hand.uses += 3;
  await hand.host('spar');
  await hand.key('Escape');
  await hand.fartherOff(5);
  // Up in front of the spar, and back behind it.
  await hand.draw(
    [
      [-40, 12],
      [-20, 12],
      [-6, 11],
      [-1, 6],
      [0, -2],
      [3, -4.6],
      [6, -2],
      [6, 5],
      [4.6, 8],
    ],
    '_______U_',
  );
  await hand.key('2');
  await hand.press([-16, 12]);
  await expect(page.locator('.hint')).toContainText('twice round the standing part');
  await hand.key('1');
  await hand.press([-31, 12]);
  await expect(page.locator('.hint')).toContainText('half hitch round the standing part');
  expect(hand.uses).toBeLessThanOrEqual(MOST);
  await hand.is('It is the taut-line hitch');
});

test('the double fisherman’s: an overhand of two turns by each rope', async ({ page }) => {
  const hand = await Hand.at(page, 'Two ropes', 8);
  await hand.draw([
    [-46, 0],
    [-30, 0],
    [-6, 0],
  ]);
  await hand.key('n');
  await hand.draw([
    [46, 3],
    [20, 3],
    [-12, 3],
  ]);
  await hand.key('3');
  await hand.click('radio', 'back');
  await hand.press([-22, 0]);
  await hand.take('pale rope');
  await hand.press([6, 3]);
  expect(hand.uses).toBeLessThanOrEqual(MOST);
  await hand.is('It is the double fisherman’s bend');
});

test('the prusik: a sling round a rope, three times through itself', async ({ page }) => {
  const hand = await Hand.at(page, 'Grip', 6);
  await hand.draw([
    [0, 34],
    [0, 0],
    [0, -34],
  ]);
  await hand.key('o', '7');
  await hand.click('button', 'More turns');
  await hand.press([0, 0]);
  expect(hand.uses).toBeLessThanOrEqual(MOST);
  await hand.crossings(14);
  await hand.is('It is the prusik of three wraps');
});

const BUTTERFLY: readonly Place[] = [
  [-8.6, 20.6],
  [-7.9, 17],
  [-7, 13.3],
  [-6, 9.7],
  [-5.2, 6],
  [-5.9, 2.4],
  [-6.2, -1.3],
  [-7.1, -5],
  [-5.5, -7.7],
  [-3.2, -4.9],
  [-2.4, -1.3],
  [-2.1, 2.5],
  [-1.5, 6.2],
  [-0.9, 9.8],
  [2.2, 11.8],
  [5.9, 11.2],
  [9.2, 9.9],
  [7.5, 7.2],
  [3.8, 6.8],
  [0.3, 8.1],
  [-3.3, 9.1],
  [-7, 8.7],
  [-8, 6.9],
  [-7.2, 5.5],
  [-3.8, 3.9],
  [-0.2, 3.1],
  [3.4, 2],
  [7.2, 2.3],
  [8.6, -0.7],
  [6.3, -3],
  [2.8, -1.8],
  [-0.9, -1.4],
  [-4.3, -0.6],
  [-8.2, -1.1],
  [-9.1, -2.1],
  [-8, -4.1],
  [-4.5, -5.7],
  [-0.9, -6.6],
  [2.8, -7.2],
  [6.6, -7.5],
  [8.8, -9.9],
  [5.7, -10.5],
  [4.8, -6.9],
  [4.7, -3.1],
  [5, 0.6],
  [5.9, 4.3],
  [6.4, 7.9],
  [6.8, 11.7],
  [5.3, 14.2],
  [2.7, 11.1],
  [2.8, 9.5],
  [2.7, 7.3],
  [2.4, 4.8],
  [2.2, 3.6],
  [1.3, -0.1],
  [0.9, -3.8],
  [0.9, -4.4],
  [0.9, -7.6],
  [1.4, -11.3],
  [2.2, -15],
  [3.1, -18.6],
];
const PASSED = '________________________U________U________UUUUUU____U____U___';

test('the butterfly: one stroke, and its loop an eye', async ({ page }) => {
  const hand = await Hand.at(page, 'Mid rope', 6);
  await hand.draw(BUTTERFLY, PASSED);
  await hand.crossings(18);
  await hand.key('o', 'p');
  await hand.press([8.4, -1.8]);
  await hand.key('e');
  await expect(page.locator('.hint')).toContainText('The loop is an eye');
  expect(hand.uses).toBeLessThanOrEqual(MOST);
  await hand.is('It is the butterfly');
});
