/**
 * The reel desk with a reel of two hundred scenes, at 1280x800: from the press to the first picture, and frames a second while its tracks are
 * scrolled, eight times as wide as the page, and while it plays.
 */
import { readFileSync } from 'node:fs';
import { readKnotText, REELS, stepsOf, writeKnot, type ReelScene } from '@foxtrail/core';
import { framesOf, onPage, round } from './measure.js';

const SCROLLED_FOR = 4000;

export function timelineBench(databaseUrl: string): Promise<object> {
  return onPage(databaseUrl, 'Reel Author', async (page, base) => {
    const read = readKnotText(readFileSync(new URL('../../demo/reef.json', import.meta.url), 'utf8'));
    if (!read.ok) throw new Error(read.reason);
    const { method } = read.value;
    const count = stepsOf(method).length;
    const scenes = Array.from({ length: REELS.scenes }, (_, i): ReelScene => ({
      kind: 'step',
      step: i % count,
      pass: i % 20 < 10 ? 'slow' : 'normal',
    }));
    const file = writeKnot({ ...read.value, method: { ...method, reels: [{ name: 'Two hundred', scenes }] } });
    const id = await page.evaluate(async (body) => {
      const made = await fetch('/api/knots', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ document: body }),
      });
      return ((await made.json()) as { card: { id: string } }).card.id;
    }, file);
    await page.goto(`${base}/knot/${id}/reel`);
    await page.getByRole('button', { name: 'Two hundred' }).waitFor();
    await page.getByRole('button', { name: /^Export WebM/, disabled: false }).waitFor({ timeout: 120_000 });
    const began = performance.now();
    await page.getByRole('button', { name: 'Two hundred' }).click();
    await page.locator(`ft-reel-tracks [data-part="${REELS.scenes - 1}"]`).waitFor();
    const shownMs = round(performance.now() - began);
    await page.getByRole('button', { name: '× 8' }).click();
    const scrolled = await framesOf(page, () =>
      page.evaluate(async (time) => {
        const tracks = document.querySelector('ft-reel-tracks .scroll') as HTMLElement;
        const from = performance.now();
        for (let way = 30; performance.now() - from < time;) {
          tracks.scrollLeft += way;
          if (tracks.scrollLeft <= 0 || tracks.scrollLeft + tracks.clientWidth >= tracks.scrollWidth - 1) way = -way;
          await new Promise(requestAnimationFrame);
        }
      }, SCROLLED_FOR),
    );
    await page.getByRole('button', { name: 'Play' }).click();
    const played = await framesOf(page, () => page.waitForTimeout(SCROLLED_FOR));
    return { scenes: REELS.scenes, shownMs, scrolled, played };
  });
}
