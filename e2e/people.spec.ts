/**
 * People of a house: invited, let do what their role lets them, closed.
 */
import { expect, test } from '@playwright/test';
import { Secret, TOTP } from 'otpauth';
import { choose, signIn, watch } from './support';

test('an owner invites a reader, who joins by the link, reads and changes nothing; closed, they are out', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await page.goto('/shelf');
  await page.getByRole('button', { name: 'Wren Tallow' }).click();
  await page.getByRole('menuitem', { name: 'People' }).click();
  const name = `Sorrel ${Date.now()}`;
  await page.waitForURL('**/people');
  await page.getByLabel('Name', { exact: true }).fill(name);
  await choose(page, 'What they may do', 'reader: reads drafts');
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = await page.getByLabel('The link').inputValue();

  const guest = await (await browser.newContext()).newPage();
  watch(guest);
  await guest.goto(link);
  await guest.getByLabel('Password').fill('password1234');
  await guest.getByRole('button', { name: 'Join' }).click();
  await expect(guest.getByRole('alert')).toContainText('first that are guessed');
  await guest.getByLabel('Password').fill('three unlikely lanterns');
  await guest.getByRole('button', { name: 'Join' }).click();
  await guest.waitForURL('**/shelf');
  await expect(guest.getByRole('button', { name: 'New knot' })).toHaveCount(0);
  await guest.getByRole('link', { name: 'Bowline', exact: true }).first().click();
  await expect(guest.locator('svg.board')).toBeVisible();
  await guest.getByRole('link', { name: 'Review', exact: true }).click();
  await expect(guest.getByRole('button', { name: 'Begin the review' })).toHaveCount(0);

  // A code beside the password from now on.
  await guest.goto('/account');
  const second = guest.locator('ft-second-factor');
  await second.getByLabel('Present password').fill('three unlikely lanterns');
  await second.getByRole('button', { name: 'Set one up' }).click();
  const secret = (await second.locator('.secret').innerText()).replace(/\s/g, '');
  await second
    .getByLabel('The code that it shows now')
    .fill(new TOTP({ secret: Secret.fromBase32(secret) }).generate());
  await second.getByRole('button', { name: 'Ask for codes from now on' }).click();
  const codes = second.locator('.codes code');
  await expect(codes).toHaveCount(10);
  const spare = await codes.allInnerTexts();
  await second.getByRole('button', { name: 'I have kept them' }).click();
  await guest.getByRole('button', { name }).click();
  await guest.getByRole('menuitem', { name: 'Sign out' }).click();
  await guest.goto('/sign-in');
  await guest.getByLabel('Name').fill(name);
  await guest.getByLabel('Password').fill('three unlikely lanterns');
  await guest.getByRole('button', { name: 'Sign in' }).click();
  await expect(guest.getByLabel('Code of your authenticator')).toBeFocused();
  await guest.keyboard.type(spare[0] as string);
  await guest.keyboard.press('Enter');
  await guest.waitForURL('**/shelf');

  // The link is taken up.
  const late = await (await browser.newContext()).newPage();
  await late.goto(link);
  await late.getByLabel('Password').fill('three unlikely lanterns');
  await late.getByRole('button', { name: 'Join' }).click();
  await expect(late.getByRole('alert')).toContainText('has ended, or was taken up');

  await page.reload();
  await page.getByRole('button', { name: `Close account of ${name}` }).click();
  await expect(page.getByRole('button', { name: `Open account of ${name}` })).toBeVisible();
  await guest.goto('/shelf');
  await guest.waitForURL('**/sign-in**');
});

test('an owner sees what the house holds, saves the library as one file, and is told what of it would be taken', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/shelf');
  await page.getByRole('button', { name: 'Wren Tallow' }).click();
  await page.getByRole('menuitem', { name: 'Keeping' }).click();
  await expect(page.getByText(/in \d+ revisions/)).toBeVisible();
  // The server has a role of its own in the database.
  await expect(page.getByText('superuser')).toHaveCount(0);
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Save the library' }).click(),
  ]);
  expect(saved.suggestedFilename()).toMatch(/^[a-z0-9-]+\.zip$/);
  const archive = page.locator('input[type=file]');
  await archive.setInputFiles(await saved.path());
  await expect(page.getByRole('status').filter({ hasText: 'The library of' })).toContainText(/\d+ here already/, {
    timeout: 60_000,
  });
  await archive.setInputFiles({ name: 'no.zip', mimeType: 'application/zip', buffer: Buffer.from('no archive') });
  await expect(page.getByRole('alert')).toContainText('not a ZIP file');
  await expect(page.getByRole('button', { name: 'Take it' })).toHaveCount(0);
  // What is chosen is counted before anything goes.
  await choose(page, 'How long every save is kept', 'a year');
  await page.getByRole('button', { name: 'Leave it as it is' }).click();
  await expect(page.getByLabel('How long every save is kept')).toContainText('for good');
});
