/**
 * Film: a film is chosen, sent, and marked; the desk tells whether it shows the knot, and what is wrong with it.
 */
import { expect, test, type Page } from '@playwright/test';
import { copyOf, saved, signIn, tab } from './support';
import { crossingsOf, directionAt, curveOf, finishedFigure, readKnot, ropeOf, type Point } from '@foxtrail/core';

/** Two seconds of something that moves, recorded by the browser as a camera would be. */
async function recorded(page: Page): Promise<Buffer> {
  const bytes = await page.evaluate(async () => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [640, 360];
    const context = canvas.getContext('2d') as CanvasRenderingContext2D;
    const recorder = new MediaRecorder(canvas.captureStream(25), { mimeType: 'video/webm' });
    const parts: Blob[] = [];
    recorder.ondataavailable = ({ data }): void => void parts.push(data);
    const stopped = new Promise((done) => (recorder.onstop = done));
    recorder.start();
    for (let i = 0; i < 50; i += 1) {
      context.fillStyle = '#e8dcc8';
      context.fillRect(0, 0, 640, 360);
      context.fillStyle = '#34506b';
      context.fillRect(10 + 8 * i, 150, 60, 60);
      await new Promise((done) => setTimeout(done, 40));
    }
    recorder.stop();
    await stopped;
    return [...new Uint8Array(await new Blob(parts).arrayBuffer())];
  });
  return Buffer.from(bytes);
}

test('a mirrored film is found by three marks and turned; a wrong crossing is named; both are kept', async ({
  page,
}) => {
  await signIn(page);
  await copyOf(page, 'Overhand knot');
  const id = /knot\/([^/]+)/.exec(page.url())?.[1] ?? '';
  const { document } = (await (await page.request.get(`/api/knots/${id}`)).json()) as { document: unknown };
  const read = readKnot(document);
  if (!read.ok) throw new Error(read.reason);
  const figure = finishedFigure(read.value.method);
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
  await page.keyboard.press('.');
  await expect.poll(shown).not.toBe(first);

  /** A press at a place of the figure, as a camera that mirrors sees it: the knot fills the middle of the frame. */
  const xs = crossingsOf(figure).map((c) => c.point);
  const middle = [0, 1].map((k) => xs.reduce((sum, p) => sum + p[k as 0 | 1], 0) / xs.length);
  const press = async ([x, y]: Point): Promise<void> => {
    const box = await frame.boundingBox();
    if (!box) throw new Error('there is no frame');
    const at = { x: box.width * (0.5 - (x - middle[0]!) / 60), y: box.height * (0.5 + (y - middle[1]!) / 34) };
    await frame.click({ position: at });
  };
  const along = ({ strand, at }: { strand: string; at: number }, [x, y]: Point): Point => {
    const [u, v] = directionAt(curveOf(ropeOf(figure, strand)!), at);
    return [x + 3 * u, y + 3 * v];
  };
  for (const c of crossingsOf(figure)) {
    await expect(page.getByText(`Crossing ${c.number} Press where`)).toBeVisible();
    await press(c.point);
    if (c.number === 1) {
      await press(along(c.first, c.point));
      await press(along(c.second, c.point));
    } else await page.keyboard.press('s');
    await page.keyboard.press(c.over === c.first ? 'a' : 'b');
  }
  await expect(page.getByRole('heading', { name: /^It is mirrored/ })).toBeVisible();
  await page.getByRole('button', { name: 'Play it mirrored' }).click();
  await expect(page.getByRole('heading', { name: /^It shows the overhand knot/ })).toBeVisible();

  // The second crossing the other way: another knot, and named as such; taken back, it is right again.
  await page.getByRole('button', { name: 'Crossing 2, marked: mark it again' }).click();
  const second = crossingsOf(figure)[1]!;
  await press(second.point);
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
