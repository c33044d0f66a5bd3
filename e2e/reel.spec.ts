/**
 * Reel: a knot filmed to the end, its steps filmed otherwise, its clip and captions read by the browser.
 */
import { readFile } from 'node:fs/promises';
import { expect, test, type Page } from '@playwright/test';
import { copyOf, fromMenu, saved, signIn, tab } from './support';

/** The picture that is shown, as a number that tells it from others. */
const picture = (page: Page): Promise<string> =>
  page.locator('canvas').evaluate((c) => (c as HTMLCanvasElement).toDataURL('image/png'));

test('a reef is drawn tight and turned over; a step is filmed again, kept, and exported square', async ({ page }) => {
  await signIn(page);
  await copyOf(page, 'Reef knot');
  await tab(page, 'Reel');
  const exporting = page.getByRole('button', { name: /^Export WebM/ });
  await expect(exporting).toBeEnabled();

  // Dressed, it moves; checked, it is seen from both its faces.
  await page
    .getByRole('button', { name: /, drawn tight,/ })
    .first()
    .click();
  const before = await picture(page);
  await page.getByRole('slider', { name: 'Place in the demonstration' }).focus();
  for (let i = 0; i < 40; i += 1) await page.keyboard.press('ArrowRight');
  expect(await picture(page)).not.toBe(before);
  await page.getByRole('button', { name: /, front held,/ }).click();
  const front = await picture(page);
  await page.getByRole('button', { name: /, back held,/ }).click();
  expect(await picture(page)).not.toBe(front);

  // The second step again, slower: in the tracks, in the knot, and still there when it is opened anew.
  await page.getByRole('button', { name: /^Step 2, laid/ }).click();
  await expect(page.getByRole('heading', { name: 'Step 2' })).toBeVisible();
  await page.getByRole('switch', { name: 'Again, slower' }).click();
  await expect(page.getByRole('button', { name: /^Step 2, again, slower/ })).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(page.getByRole('button', { name: /^Step 2, again, slower/ })).toBeVisible();

  // The pace is drawn, by the rules of its library: the page's policy lets it have them. A press on a bar goes to its step.
  await page.locator('ft-pace-meter summary').click();
  const chart = page.locator('ft-pace-meter .chart');
  await expect(chart.locator('.bars .point')).not.toHaveCount(0);
  const layers = await chart
    .locator('.main-svg')
    .evaluateAll((all) => all.map((one) => getComputedStyle(one).position));
  expect(layers.every((position) => position === 'absolute')).toBe(true);
  await chart.locator('.nsewdrag').first().click();
  await expect(page.getByRole('heading', { name: 'Step 2' })).toBeHidden();

  await page.getByRole('radio', { name: 'brisk' }).click();
  await page.getByRole('radio', { name: '1 : 1' }).click();
  await page.getByRole('radio', { name: '25', exact: true }).click();
  await expect(exporting).toHaveText(/720 × 720/);
  await expect(exporting).toBeEnabled();
  await exporting.click();
  await expect(page.getByRole('button', { name: 'Save the clip' })).toBeVisible({ timeout: 150_000 });
  const clip = await page.locator('video').evaluate(async (v) => {
    const video = v as HTMLVideoElement;
    if (video.readyState < 1) await new Promise((done) => video.addEventListener('loadedmetadata', done));
    return { width: video.videoWidth, height: video.videoHeight, duration: video.duration };
  });
  expect([clip.width, clip.height]).toEqual([720, 720]);

  // Its captions, read by the browser: two lines at most, one after the other, as long as the clip.
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'WebVTT' }).click(),
  ]);
  const cues = await page.evaluate(
    async (text) => {
      const video = document.createElement('video');
      const track = document.createElement('track');
      track.src = URL.createObjectURL(new Blob([text], { type: 'text/vtt' }));
      video.append(track);
      document.body.append(video);
      track.track.mode = 'hidden';
      await new Promise((done) => track.addEventListener('load', done));
      return [...(track.track.cues ?? [])].map((c) => ({
        start: c.startTime,
        end: c.endTime,
        lines: (c as VTTCue).text.split('\n').map((l) => l.length),
      }));
    },
    await readFile(await download.path(), 'utf8'),
  );
  expect(cues.length).toBeGreaterThan(5);
  const cuesByStep = await page.locator('.captions li').count();
  expect(cues[0]?.start).toBe(0);
  expect(Math.abs((cues.at(-1)?.end ?? 0) - clip.duration)).toBeLessThan(0.2);
  cues.forEach((c, i) => {
    if (i > 0) expect(Math.abs(c.start - (cues[i - 1]?.end ?? 0))).toBeLessThan(0.002);
    expect(c.lines.length).toBeLessThanOrEqual(2);
    expect(Math.max(...c.lines)).toBeLessThanOrEqual(42);
  });

  // Kept and published, a learner plays it: by its steps, slowly, frame by frame, one step again and again.
  await page.getByRole('button', { name: 'Keep it for the sheet' }).click();
  await expect(page.getByText('Kept with the sheet.')).toBeVisible();
  await tab(page, 'Sheet');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  const address = await page.locator('.address a').getAttribute('href');
  await page.goto(address ?? '');
  const desk = page.locator('.clip .desk');
  const video = page.locator('.clip video');
  const at = (): Promise<number> => video.evaluate((v) => (v as HTMLVideoElement).currentTime);
  await expect(desk.getByRole('listitem')).toHaveCount(cuesByStep + 1);
  await desk.getByRole('button', { name: /round behind both legs/ }).click();
  const third = desk.getByRole('button', { name: /round behind both legs/ });
  await expect(third).toHaveAttribute('aria-current', 'step');
  await desk.getByRole('button', { name: 'Half speed' }).click();
  await expect(desk.getByRole('button', { name: 'Half speed' })).toHaveAttribute('aria-pressed', 'true');
  expect(await video.evaluate((v) => (v as HTMLVideoElement).playbackRate)).toBe(0.5);
  await desk.getByRole('button', { name: 'One frame on' }).click();
  const here = await at();
  await desk.getByRole('button', { name: 'One frame on' }).click();
  await expect.poll(async () => (await at()) - here).toBeCloseTo(0.04, 3);
  await page.keyboard.press(',');
  await expect.poll(async () => (await at()) - here).toBeCloseTo(0, 3);
  // Near its end it begins again.
  await desk.getByRole('button', { name: 'This step again and again' }).click();
  await video.evaluate((v) => {
    const chapters = [...v.querySelectorAll('track')].find((t) => t.kind === 'chapters')?.track.cues ?? [];
    const now = (v as HTMLVideoElement).currentTime;
    const cue = [...chapters].find((c) => now >= c.startTime && now < c.endTime);
    (v as HTMLVideoElement).currentTime = (cue?.endTime ?? 0) - 0.3;
  });
  await expect.poll(at).toBeLessThan(here + 0.2);
  await expect(third).toHaveAttribute('aria-current', 'step');
});

test('a reel is composed: its scenes dragged, said, left out and taken back; exported, kept and seen by learners', async ({
  page,
}) => {
  await signIn(page);
  await copyOf(page, 'Reef knot');
  await tab(page, 'Reel');
  await page.getByRole('button', { name: 'New reel' }).click();
  await fromMenu(page, 'Whole lesson');
  const scenes = page.getByRole('list', { name: 'Scenes' }).getByRole('button');
  const names = (): Promise<string[]> =>
    scenes.evaluateAll((all) => all.map((b) => (b.getAttribute('aria-label') ?? '').replace(/^Scene \d+: /, '')));
  await expect(page.getByText('Scene 1 of')).toBeVisible();
  const first = await names();

  // The third scene is dragged behind the fourth; taken back as any edit.
  const [third, fourth] = [await scenes.nth(2).boundingBox(), await scenes.nth(3).boundingBox()];
  const y = third!.y + third!.height / 2;
  await page.mouse.move(third!.x + third!.width / 2, y);
  await page.mouse.down();
  for (let x = third!.x + third!.width / 2; x < fourth!.x + fourth!.width; x += 6) await page.mouse.move(x, y);
  await page.mouse.up();
  await expect.poll(names).not.toEqual(first);
  expect((await names()).slice(2, 4).map((n) => n.slice(0, 6))).toEqual(['step 2', 'step 1']);
  await page.keyboard.press('Control+z');
  await expect.poll(names).toEqual(first);

  // With the keyboard alone: along the scenes, one moved, one left out.
  await scenes.nth(2).focus();
  await page.keyboard.press('Alt+ArrowRight');
  await expect(scenes.nth(3)).toBeFocused();
  await expect.poll(async () => (await names())[3]?.slice(0, 6)).toBe('step 1');
  await page.keyboard.press('Alt+ArrowLeft');
  await expect.poll(names).toEqual(first);

  // The end of a scene is dragged: it lasts longer.
  const clock = page.locator('.clock');
  const before = await clock.textContent();
  const second = (await scenes.nth(1).boundingBox())!;
  await page.mouse.move(second.x + second.width - 2, y);
  await page.mouse.down();
  await page.mouse.move(second.x + second.width + 60, y, { steps: 5 });
  await page.mouse.up();
  await expect(clock).not.toHaveText(before ?? '');

  // A card says what its author writes.
  await scenes.first().click();
  await page.getByLabel('What it says').fill('For a rolled kite, never for a person.');
  await page.getByLabel('Title').focus();
  await expect(page.locator('.captions li').first()).toContainText('never for a person');

  // Where its rope runs, a scene is cut in two; where it is shown in one go, it says why not. Taken back, it is one again.
  const place = page.getByRole('slider', { name: 'Place in the demonstration' });
  await scenes.nth(2).click();
  await place.fill(String(Number(await place.inputValue()) + 1.5));
  await page.getByRole('button', { name: 'Cut here' }).click();
  await expect(page.getByRole('heading', { name: /^Step 1, \d+–100 %$/ })).toBeVisible();
  await expect
    .poll(async () => (await names()).slice(2, 5).map((n) => n.slice(0, 6)))
    .toEqual(['step 1', 'step 1', 'step 2']);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(scenes).toHaveCount(first.length);
  await scenes.nth(first.findIndex((n) => n.startsWith('tail'))).click();
  await page.getByRole('button', { name: 'Cut here' }).click();
  await expect(page.getByText('It is shown in one go')).toBeVisible();

  // A reminder is short: exported and kept, its captions and chapters are those of the reel.
  await page.getByRole('button', { name: 'New reel' }).click();
  await fromMenu(page, 'Reminder');
  await page.getByRole('radio', { name: '1 : 1' }).click();
  await page.getByRole('radio', { name: '25', exact: true }).click();
  const exporting = page.getByRole('button', { name: /^Export WebM, 720 × 720/ });
  await expect(exporting).toBeEnabled();
  const count = await scenes.count();
  // What stands for it is what is shown now.
  await scenes.nth(1).click();
  await page.getByRole('button', { name: 'Poster: this picture' }).click();
  await exporting.click();
  await expect(page.getByRole('button', { name: 'Save the clip' })).toBeVisible({ timeout: 150_000 });
  const duration = await page.locator('video').evaluate(async (v) => {
    const video = v as HTMLVideoElement;
    if (video.readyState < 1) await new Promise((done) => video.addEventListener('loadedmetadata', done));
    return video.duration;
  });
  expect(duration).toBeLessThanOrEqual(30.1);
  await page.getByRole('button', { name: 'Keep it for the sheet' }).click();
  await expect(page.getByText('Kept with the sheet.')).toBeVisible();
  await tab(page, 'Sheet');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await page.goto((await page.locator('.address a').getAttribute('href')) ?? '');
  // Its cautions, and each of its scenes.
  await expect(page.locator('.clip .desk').getByRole('listitem')).toHaveCount(count + 1);
  const poster = await page.request.get((await page.locator('.clip video').getAttribute('poster')) ?? '');
  expect([poster.status(), poster.headers()['content-type']]).toEqual([200, 'image/webp']);
});

test('a voice is spoken over a scene, thrown away, kept; the clip is heard where it is spoken', async ({ page }) => {
  await signIn(page);
  await copyOf(page, 'Reef knot');
  await tab(page, 'Reel');
  await page.getByRole('button', { name: 'New reel' }).click();
  await fromMenu(page, 'Reminder');
  const voice = page.locator('ft-scene-voice');
  const whole = async (): Promise<string> =>
    ((await page.locator('.clock').textContent()) ?? '').split(' of ')[1] ?? '';
  await page.getByRole('list', { name: 'Scenes' }).getByRole('button').first().click();
  await page.getByLabel('With its words').click();
  await voice.getByRole('combobox', { name: 'Who speaks' }).click();
  await page.getByRole('option', { name: 'Stand-in voice (simulated)' }).click();
  await expect(voice).toContainText('simulated');
  const before = await whole();

  // Thrown away, nothing of it is left.
  await voice.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(voice.getByRole('timer')).toBeVisible();
  await voice.getByRole('button', { name: 'Throw it away' }).click();
  await expect(voice.getByRole('button', { name: 'Record', exact: true })).toBeVisible();
  expect(await whole()).toBe(before);

  await voice.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(voice.locator('.wave')).toBeVisible({ timeout: 60_000 });
  const voices = page.getByRole('list', { name: 'Voice in time' }).getByRole('listitem');
  await expect(voices).toHaveCount(1);
  await saved(page);

  // It is kept with the knot, and heard in the clip: from the first scene on, and not at its end.
  await page.reload();
  await page.getByRole('button', { name: 'Reminder', exact: true }).click();
  await page.getByRole('list', { name: 'Scenes' }).getByRole('button').first().click();
  await expect(voice.locator('.wave')).toBeVisible();
  await page.getByRole('radio', { name: '25', exact: true }).click();
  await page.getByRole('button', { name: /^Export WebM/ }).click();
  await expect(page.getByRole('button', { name: 'Save the clip' })).toBeVisible({ timeout: 150_000 });
  const [from, lasts] = await voices
    .first()
    .evaluate((v): [number, number] => [
      parseFloat((v as HTMLElement).style.left),
      parseFloat((v as HTMLElement).style.width),
    ]);
  const [clip] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the clip' }).click(),
  ]);
  const heard = await page.evaluate(
    async ({ bytes, begins, ends }) => {
      const film = Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0));
      const sound = await new OfflineAudioContext(1, 1, 48_000).decodeAudioData(film.buffer);
      const samples = sound.getChannelData(0);
      const loud = (a: number, b: number): number => {
        const own = samples.subarray(Math.round(a * samples.length), Math.round(b * samples.length));
        return Math.sqrt(own.reduce((sum, s) => sum + s * s, 0) / Math.max(1, own.length));
      };
      return [loud(begins, ends), loud(ends + 0.04, 1)];
    },
    {
      bytes: (await readFile(await clip.path())).toString('base64'),
      begins: from / 100,
      ends: (from + lasts) / 100,
    },
  );
  expect(heard[0]).toBeGreaterThan(0.01);
  expect(heard[1]).toBeLessThan(0.001);

  // Taken away, and back.
  await voice.getByRole('button', { name: 'Take it away' }).click();
  await expect(voices).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(voices).toHaveCount(1);
});

test('a scene points out a place of its rope: pressed in the picture, said, moved by keys; it is kept, and taken off', async ({
  page,
}) => {
  await signIn(page);
  await copyOf(page, 'Bowline');
  await tab(page, 'Reel');
  await page.getByRole('button', { name: 'Whole lesson', exact: true }).click();
  const scenes = page.getByRole('list', { name: 'Scenes' }).getByRole('button');
  const points = page.locator('ft-scene-callouts');
  await scenes.filter({ hasText: '3' }).first().click();
  const before = await picture(page);
  await points.getByRole('button', { name: 'Words' }).click();
  await expect(points).toContainText('Press the place on the rope');
  const words = points.getByRole('textbox', { name: 'Words' });
  await expect(words).toHaveValue('Look here');
  await expect.poll(() => picture(page)).not.toBe(before);

  // Pressed where no rope is, nothing moves; pressed on the rope, it lies there.
  const along = points.getByRole('slider', { name: /^Place along the rope/ });
  const first = await along.inputValue();
  const canvas = page.locator('canvas');
  const box = (await canvas.boundingBox())!;
  await canvas.click({ position: { x: box.width * 0.05, y: box.height * 0.5 } });
  await expect(along).toHaveValue(first);
  // The standing part comes down from the top, about the middle.
  for (let x = 0.34; x < 0.66 && (await along.inputValue()) === first; x += 0.01)
    await canvas.click({ position: { x: box.width * x, y: box.height * 0.12 } });
  await expect(along).not.toHaveValue(first);
  await points.getByRole('button', { name: 'Done' }).click();
  await words.fill('standing part');
  await words.press('Tab');
  const placed = await along.inputValue();
  await along.focus();
  await page.keyboard.press('ArrowRight');
  await expect(along).not.toHaveValue(placed);
  await saved(page);

  await page.reload();
  await page.getByRole('button', { name: 'Whole lesson', exact: true }).click();
  await scenes.filter({ hasText: '3' }).first().click();
  await expect(words).toHaveValue('standing part');
  await points.getByRole('button', { name: 'Take it off: standing part' }).click();
  await expect(words).toHaveCount(0);
});
