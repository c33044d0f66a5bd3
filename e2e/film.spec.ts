/**
 * Film: a film is chosen, sent, and marked; the desk tells whether it shows the knot, and what is wrong with it.
 */
import { readFile } from 'node:fs/promises';
import { expect, test, type Page } from '@playwright/test';
import { ALL_FORMATS, BufferSource, Input } from 'mediabunny';
import { Hand, type Place } from './hand';
import { mark, methodOf } from './marking';
import { choose, copyOf, fromMenu, saved, signIn, tab } from './support';
import {
  atLength,
  crossingsOf,
  curveOf,
  finishedFigure,
  layoutsOf,
  lengthOf,
  lengthTo,
  pointAt,
  type Point,
} from '@foxtrail/core';
import { seenByStandIn, standInTake } from '@foxtrail/core/reel';

/** Two seconds of something that moves, recorded by the browser as a camera would be. */
async function recorded(page: Page): Promise<Buffer> {
  const bytes = await page.evaluate(async () => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [640, 360];
    const context = canvas.getContext('2d') as CanvasRenderingContext2D;
    // Each frame is handed on as it is drawn: a busy machine would let some go.
    const stream = canvas.captureStream(0);
    const [track] = stream.getVideoTracks() as [CanvasCaptureMediaStreamTrack];
    const recorder = new MediaRecorder(stream, { mimeType: 'video/webm' });
    const parts: Blob[] = [];
    recorder.ondataavailable = ({ data }): void => void parts.push(data);
    const stopped = new Promise((done) => (recorder.onstop = done));
    recorder.start();
    for (let i = 0; i < 50; i += 1) {
      context.fillStyle = '#e8dcc8';
      context.fillRect(0, 0, 640, 360);
      context.fillStyle = '#34506b';
      context.fillRect(10 + 8 * i, 150, 60, 60);
      track.requestFrame();
      await new Promise((done) => setTimeout(done, 40));
    }
    recorder.stop();
    await stopped;
    return [...new Uint8Array(await new Blob(parts).arrayBuffer())];
  });
  return Buffer.from(bytes);
}

/** Where a stretch of a film begins or ends, in seconds. */
const place = async (page: Page, which: string): Promise<number> =>
  Number(await page.getByRole('slider', { name: which }).inputValue());

test('a mirrored film is found by three marks and turned; a wrong crossing is named; both are kept', async ({
  page,
}) => {
  await signIn(page);
  await copyOf(page, 'Overhand knot');
  const figure = finishedFigure(await methodOf(page));
  const film = await recorded(page);

  await tab(page, 'Reel');
  await page.getByRole('link', { name: 'Filmed' }).click();
  await expect(page.getByRole('heading', { name: 'There is no film of this knot yet' })).toBeVisible();
  const input = page.locator('input[type=file]');
  await input.setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('no film, only words') });
  await expect(page.getByText('neither a WebM nor an MP4 file')).toBeVisible();
  await input.setInputFiles({ name: 'first-take.webm', mimeType: 'video/webm', buffer: film });
  await expect(page.getByRole('heading', { name: 'first-take' })).toBeVisible();
  const frame = page.getByRole('img', { name: /^The film at/ });
  await expect(page.getByText(/of \d+\.\d\d s/)).toBeVisible();

  // Frame by frame: each is another one.
  const shown = async (): Promise<string | null> => frame.getAttribute('aria-label');
  const first = await shown();
  // A player that is still being made ready takes no key.
  await expect(async () => {
    await page.keyboard.press('.');
    await expect.poll(shown, { timeout: 4000 }).not.toBe(first);
  }).toPass({ timeout: 60_000 });
  // A film of a recorder does not say how long its frames are: its player may pass one over, and then two presses lead back.
  await expect(async () => {
    await page.keyboard.press(',');
    await expect.poll(shown, { timeout: 4000 }).toBe(first);
  }).toPass({ timeout: 60_000 });

  // As a camera that mirrors sees it: the knot fills the middle of the frame.
  const xs = crossingsOf(figure).map((c) => c.point);
  const middle = [0, 1].map((k) => xs.reduce((sum, p) => sum + p[k as 0 | 1], 0) / xs.length);
  const seen = ([x, y]: Point): Point => [0.5 - (x - middle[0]!) / 60, 0.5 + (y - middle[1]!) / 34];
  for (const c of crossingsOf(figure)) await mark(page, c, seen, c.over === c.first ? 'a' : 'b', c.number === 1);
  await expect(page.getByRole('heading', { name: /^It is mirrored/ })).toBeVisible();
  await page.getByRole('button', { name: 'Play it mirrored' }).click();
  await expect(page.getByRole('heading', { name: /^It shows the overhand knot/ })).toBeVisible();

  // The second crossing the other way: another knot, and named as such; taken back, it is right again.
  await page.getByRole('button', { name: 'Crossing 2, marked: mark it again' }).click();
  const second = crossingsOf(figure)[1]!;
  const box = (await frame.boundingBox())!;
  const [x, y] = seen(second.point);
  // It is played mirrored now: what was pressed at its left lies at its right.
  await frame.click({ position: { x: box.width * (1 - x), y: box.height * y } });
  await page.getByRole('button', { name: 'Leave out the directions' }).click();
  await page.getByRole('button', { name: second.over === second.first ? 'B is over' : 'A is over' }).click();
  await expect(page.getByRole('heading', { name: /crossing 2 is the other way \(falls apart\)/ })).toBeVisible();
  await saved(page);

  // It has been sent: opened anew it is played from the house, with its marks.
  await page.reload();
  await expect(page.getByRole('heading', { name: /crossing 2 is the other way/ })).toBeVisible();
  await page.getByRole('button', { name: /s: 3 marks$/ }).click();
  await expect(frame).toHaveAttribute('aria-label', /3 marks/);
  await expect(page.getByText('This film cannot be shown')).toBeHidden();
  await tab(page, 'Proof');
  await page.getByRole('tab', { name: /^Crossings and findings/ }).click();
  await expect(page.getByText('The film “first-take” does not show this knot')).toBeVisible();
});

test('the stand-in films in a mirror: marked, told, turned and published; with a crossing laid wrong it is found out', async ({
  page,
}) => {
  await signIn(page);
  await copyOf(page, 'Overhand knot');
  const method = await methodOf(page);
  await tab(page, 'Reel');
  await page.getByRole('link', { name: 'Filmed' }).click();
  /** Records a take, goes to its last frame, and marks what is seen there. */
  const filmed = async (name: string, wishes: { mirrored?: boolean; wrong?: number }): Promise<void> => {
    await expect(page.getByText('The stand-in camera is simulated')).toBeVisible();
    await page.getByRole('button', { name: 'Record', exact: true }).click();
    await expect(page.getByRole('timer')).toBeVisible();
    await expect(page.getByRole('heading', { name })).toBeVisible();
    // At a glance: pictures of it, and what is heard.
    await expect(page.locator('ft-film-strip .wave path')).toBeVisible();
    const painted = await page.locator('ft-film-strip canvas').evaluate((canvas: HTMLCanvasElement) => {
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
      return data.filter((v, i) => i % 4 === 3 && v === 255).length / (canvas.width * canvas.height);
    });
    expect(painted).toBeGreaterThan(0.9);
    const take = standInTake(method, wishes);
    await page.getByRole('slider', { name: 'Place in the film' }).fill(String(take.duration - 0.5));
    const shown = async (): Promise<number> =>
      Number(
        /[\d.]+/.exec((await page.getByRole('img', { name: /^The film at/ }).getAttribute('aria-label')) ?? '')?.[0],
      );
    // The hand has gone.
    await expect.poll(shown).toBeGreaterThan(take.duration - 2);
    // In the frame that is shown, the camera has strayed by less than a press does.
    const seen = (p: Point): Point => seenByStandIn(take, p, 0, 16 / 9);
    for (const c of crossingsOf(finishedFigure(take.method)))
      await mark(page, c, seen, c.over === c.first ? 'a' : 'b', c.number === 1);
  };

  await page.getByRole('button', { name: 'Record a film' }).click();
  await page.getByRole('switch', { name: 'In a mirror' }).click();
  await filmed('Take 1', { mirrored: true });
  await expect(page.getByRole('heading', { name: /^It is mirrored/ })).toBeVisible();
  await page.getByRole('button', { name: 'Play it mirrored' }).click();
  await expect(page.getByRole('heading', { name: /^It shows the overhand knot/ })).toBeVisible();
  await saved(page);
  // From the house as from this machine.
  await page.reload();
  await expect(page.locator('ft-film-strip .wave path')).toBeVisible();
  // What is said comes from a file, and is cleaned by a press each.
  await page.locator('ft-film-captions input[type=file]').setInputFiles({
    name: 'take.srt',
    mimeType: 'application/x-subrip',
    buffer: Buffer.from(
      '1\n00:00:00,500 --> 00:00:03,500\nUm, make a bite to the left, sorry, to the right.\n\n2\n00:00:03,600 --> 00:00:06,000\nDraw it up.\n',
    ),
  });
  const captions = page.locator('ft-film-captions');
  await captions.getByRole('button', { name: 'Leave it out' }).first().click();
  await captions.getByRole('button', { name: 'Write “bight”' }).click();
  await captions.getByRole('button', { name: 'Write “to the right”' }).click();
  await expect(captions.getByRole('textbox').first()).toHaveValue('Make a bight to the right.');
  await captions.getByRole('button', { name: 'Go to 0:03.6' }).click();
  await expect(page.locator('ft-film-frame .said')).toHaveText('Draw it up.');
  const download = page.waitForEvent('download');
  await captions.getByRole('button', { name: 'WebVTT' }).click();
  expect((await download).suggestedFilename()).toBe('take-1.vtt');
  // It is played from its second second on, and two of its steps begin in it.
  const parts = page.locator('ft-film-parts');
  const goTo = async (seconds: number): Promise<void> => {
    await page.getByRole('slider', { name: 'Place in the film' }).fill(String(seconds));
    // The frame that is shown there began a little before: a machine that is slow films few of them a second.
    const label = page.getByRole('img', { name: /^The film at/ });
    await expect
      .poll(async () => Math.abs(Number(/[\d.]+/.exec((await label.getAttribute('aria-label')) ?? '')?.[0]) - seconds))
      .toBeLessThan(0.5);
  };
  await goTo(1);
  await parts.getByRole('button', { name: 'Begin here' }).click();
  await parts.getByRole('button', { name: 'Step 1 begins here' }).click();
  await goTo(4);
  await parts.getByRole('button', { name: 'Step 2 begins here' }).click();
  await expect(parts.getByText(/Played from 0:0[01]/)).toBeVisible();
  // Words are laid on its picture; where a hand hides the knot the drawing of the step is shown.
  const over = page.locator('ft-over-film');
  await over.getByRole('button', { name: 'Words here' }).click();
  const picture = page.getByRole('img', { name: /^The film at/ });
  const box = (await picture.boundingBox())!;
  await picture.click({ position: { x: box.width * 0.3, y: box.height * 0.4 } });
  await over.getByRole('textbox', { name: 'Words' }).fill('The end comes over');
  await page.keyboard.press('Tab');
  await expect(page.locator('.over-film')).toContainText('The end comes over');
  await over.getByRole('button', { name: 'Play it otherwise from here' }).click();
  await over.getByRole('checkbox', { name: 'A hand hides it: show the drawing' }).check();
  await expect(page.locator('.over-film img')).toHaveAttribute('alt', 'Step 2, as it is drawn');
  await saved(page);
  const bench = page.url();
  // A stretch of it is a scene of a reel, with its words and its sound.
  await page.getByRole('link', { name: 'Animated' }).click();
  await page.getByRole('button', { name: 'New reel' }).click();
  await fromMenu(page, 'Reminder');
  await page.getByRole('radio', { name: '25', exact: true }).click();
  await page.getByRole('button', { name: 'Put a scene after it' }).click();
  await fromMenu(page, 'Film: Take 1, step 1');
  await expect(page.getByRole('heading', { name: 'A stretch of film' })).toBeVisible();
  await expect(page.getByRole('img', { name: 'Demonstration. Make a bight to the right.' })).toBeVisible();
  const [from, to] = [await place(page, 'Begins in the film'), await place(page, 'Ends in the film')];
  expect(Math.abs(to - from - 3)).toBeLessThan(0.6);
  await page.getByRole('button', { name: /^Export WebM/ }).click();
  const save = page.getByRole('button', { name: 'Save the clip' });
  await expect(save).toBeVisible({ timeout: 150_000 });
  const clip = page.waitForEvent('download');
  await save.click();
  const input = new Input({
    source: new BufferSource(await readFile(await (await clip).path())),
    formats: ALL_FORMATS,
  });
  const audio = await input.getPrimaryAudioTrack();
  expect(await audio?.computeDuration()).toBeCloseTo(await input.computeDuration(), 0);
  await saved(page);
  await tab(page, 'Sheet');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  const address = await page.locator('.address a').getAttribute('href');
  const learn = await page.request.get(address ?? '');
  expect(await learn.text()).toContain('/films/');
  const reader = await page.context().newPage();
  await reader.goto(address ?? '');
  // Laid over the film for learners too, and said to whoever does not see it.
  await reader.locator('.film video').evaluate(async (video: HTMLVideoElement) => {
    while (video.readyState < HTMLMediaElement.HAVE_METADATA) await new Promise((done) => setTimeout(done, 100));
    video.currentTime = 4.5;
  });
  await expect(reader.locator('.over-film')).toContainText('The end comes over');
  await expect(reader.locator('.over-film img')).toHaveAttribute('src', /\/steps\/2\.svg/);
  await expect(reader.getByText('What is written on it')).toBeVisible();
  const spoken = (): Promise<string[]> =>
    reader
      .locator('.film video')
      .evaluate((video: HTMLVideoElement) => [...(video.textTracks[0]?.cues ?? [])].map((c) => (c as VTTCue).text));
  await expect.poll(spoken).toEqual(['Make a bight to the right.', 'Draw it up.']);
  const playedAt = (): Promise<number> =>
    reader.locator('.film video').evaluate((video: HTMLVideoElement) => video.currentTime);
  await expect.poll(playedAt).toBeGreaterThan(0.7);
  const steps = reader.locator('.film .desk').getByRole('listitem');
  await expect(steps).toHaveCount(2);
  await steps.nth(1).getByRole('button').click();
  await expect.poll(playedAt).toBeGreaterThan(3.4);
  // It is played the other way round than it was filmed: what is said is not turned with it.
  await reader.locator('.film video').evaluate((video: HTMLVideoElement) => (video.currentTime = 4));
  await expect(reader.locator('.film .now-said')).toHaveText('Draw it up.');
  const drawn = (): Promise<string | undefined> =>
    reader.locator('.film video').evaluate((video: HTMLVideoElement) => video.textTracks[0]?.mode);
  expect(await drawn()).toBe('hidden');
  await reader.close();

  await page.goto(bench);
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await choose(page, 'A crossing laid the other way', 'crossing 2 wrong');
  await filmed('Take 2', { wrong: 2 });
  await expect(page.getByRole('heading', { name: /crossing 2 is the other way/ })).toBeVisible();
});

test('a frame of a film is laid under a new board; the rope drawn over it is the knot that was filmed', async ({
  page,
}) => {
  await signIn(page);
  await copyOf(page, 'Figure eight');
  const method = await methodOf(page);
  const take = standInTake(method, {});
  const at = layoutsOf(method).at(-1)!.footage![0]!.frames[0]!.at;
  await tab(page, 'Reel');
  await page.getByRole('link', { name: 'Filmed' }).click();
  await page.getByRole('button', { name: `${at.toFixed(2)} s: 4 marks` }).click();
  await expect(page.getByRole('img', { name: /^The film at/ })).toHaveAttribute('aria-label', /4 marks/);
  await page.getByRole('button', { name: 'Draw this frame' }).click();
  await page.waitForURL(/draft/);
  const under = page.locator('svg.board image');
  await expect(under).toBeVisible();
  // Where the picture lies on the board, and where the rope lies in the picture.
  const [left, top, wide, tall] = await under.evaluate((i) =>
    ['x', 'y', 'width', 'height'].map((name) => Number(i.getAttribute(name))),
  );
  const figure = finishedFigure(take.method);
  const rope = figure.ropes[0]!;
  const curve = curveOf(rope);
  const length = lengthOf(curve);
  const passes = crossingsOf(figure).map((c) => lengthTo(curve, c.under.at));
  const apart = 1.2;
  const places: Place[] = [];
  let letters = '';
  for (let s = 0; s <= length; s += apart) {
    const [u, v] = seenByStandIn(take, pointAt(curve, atLength(curve, s)), at, 16 / 9);
    if (u < 0.03 || u > 0.97) continue;
    places.push([left! + u * wide!, top! + v * tall!]);
    letters += passes.some((p) => p > s - apart && p <= s) ? 'U' : 'O';
  }
  const hand = new Hand(page);
  await hand.draw(places, letters);
  await hand.crossings(4);
  await hand.is('igure eight');
});

test('what is pointed out follows what it lies on; by two places that do not move the film is held still', async ({
  page,
}) => {
  await signIn(page);
  await copyOf(page, 'Overhand knot');
  // A square goes to the right, 8 of 640 pixels a frame.
  const film = await recorded(page);
  await tab(page, 'Reel');
  await page.getByRole('link', { name: 'Filmed' }).click();
  await page.locator('input[type=file]').setInputFiles({ name: 'square.webm', mimeType: 'video/webm', buffer: film });
  const frame = page.getByRole('img', { name: /^The film at/ });
  const over = page.locator('ft-over-film');
  await over.getByRole('button', { name: 'Ring here' }).click();
  const press = async (x: number, y: number): Promise<void> => {
    const box = (await frame.boundingBox())!;
    await frame.click({ position: { x: (box.width * x) / 640, y: (box.height * y) / 360 } });
  };
  // What looks like anything about it cannot be followed, and that is said.
  await press(300, 60);
  await over.getByRole('button', { name: 'Follow it' }).click();
  await expect(over.getByRole('alert')).toContainText('looks like what is about it');
  await over.getByRole('button', { name: 'Take it off:' }).click();
  await over.getByRole('button', { name: 'Ring here' }).click();
  await press(70, 210);
  await over.getByRole('button', { name: 'Follow it' }).click();
  await expect(over.getByText(/followed over \d+ places/)).toBeVisible({ timeout: 60_000 });
  // Half way, or before the ring ends after two seconds: how long the film is depends on the machine that recorded it.
  const slider = page.getByRole('slider', { name: 'Place in the film' });
  await slider.fill(Math.min(1.8, Number(await slider.getAttribute('max')) / 2).toFixed(1));
  // Where the square ends in the picture that is shown, and where the ring is: shares of its width.
  const seen = (): Promise<{ edge: number; ring: number }> =>
    page.locator('ft-film-frame').evaluate((host) => {
      const video = host.querySelector('video') as HTMLVideoElement;
      const canvas = new OffscreenCanvas(640, 360);
      const context = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
      context.drawImage(video, 0, 0, 640, 360);
      const row = context.getImageData(0, 180, 640, 1).data;
      let edge = 639;
      while (edge > 0 && (row[4 * edge] ?? 255) > 140) edge -= 1;
      const ring = host.querySelector<HTMLElement>('.over-film span');
      // Not shown yet: the frame is still being sought.
      return { edge: edge < 100 ? NaN : edge / 640, ring: ring ? parseFloat(ring.style.left) / 100 : NaN };
    });
  await expect
    .poll(async () => Number.isFinite((await seen()).edge + (await seen()).ring), { timeout: 20_000 })
    .toBe(true);
  const here = await seen();
  // A slow machine records fewer frames, and the square leaps from one to the next: the ring lies between this frame’s and the next one’s.
  await page.keyboard.press('.');
  await expect.poll(async () => (await seen()).edge, { timeout: 20_000 }).toBeGreaterThan(here.edge);
  const next = await seen();
  expect(here.ring).toBeGreaterThan(here.edge - 0.03);
  expect(here.ring).toBeLessThan(next.edge + 0.03);

  await page.getByRole('slider', { name: 'Place in the film' }).fill('0');
  await expect(frame).toHaveAttribute('aria-label', /at 0\.0/);
  await over.getByRole('button', { name: 'Hold it still' }).click();
  await press(70, 150);
  await expect(over.getByRole('status')).toContainText('far from the first');
  await press(70, 210);
  await expect(over.getByRole('button', { name: 'Let it shake as it was filmed' })).toBeVisible({ timeout: 60_000 });
  await page.keyboard.press(' ');
  const moved = (): Promise<string> => page.locator('ft-film-frame video').evaluate((v) => v.style.transform);
  await expect.poll(moved).toContain('matrix(');
  await saved(page);
});
