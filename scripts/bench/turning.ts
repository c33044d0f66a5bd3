/**
 * Measurements of the knot in space, without a graphics card, at 1280x800: from the code being there to the first picture, and frames a
 * second while it is turned. Printed as JSON.
 */
import { readFileSync } from 'node:fs';
import { build } from 'esbuild';
import { patternOf } from '../../packages/pattern-book/src/index.js';
import { openBrowser, round } from './measure.js';

/** A loop of a dozen crossings, and one that is drawn with twenty. */
const KNOTS = ['butterfly', 'eight-on-the-bight'] as const;
const TURNED_FOR = 4000;

const CODE = `
  import { turntable } from './packages/lesson/browser/turntable.ts';
  import { meshesOf, PAPER_LOOK, unpacked } from '@foxtrail/core/mesh';
  const frame = () => new Promise(requestAnimationFrame);
  window.measure = async (file, ropes, time) => {
    document.body.innerHTML = '<div style="position:fixed;inset:0;display:grid"></div>';
    const within = document.body.firstElementChild;
    const began = performance.now();
    const table = turntable(within, meshesOf(ropes, unpacked(file), PAPER_LOOK), { ink: PAPER_LOOK.ink, label: 'bench' });
    if (!table) throw new Error('this browser draws nothing in space');
    await frame();
    await frame();
    const first = performance.now() - began;
    const canvas = within.querySelector('canvas');
    const from = performance.now();
    let frames = 0;
    while (performance.now() - from < time) {
      canvas.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight' }));
      await frame();
      frames += 1;
    }
    const perSecond = (1000 * frames) / (performance.now() - from);
    table.end();
    return { first, perSecond };
  };
`;

/** Draws knots of the book in space in a real browser and turns them. */
export async function turningBench(): Promise<object> {
  const bundled = await build({
    stdin: { contents: CODE, resolveDir: process.cwd(), loader: 'ts' },
    bundle: true,
    write: false,
    format: 'iife',
    target: 'es2022',
  });
  const forms = JSON.parse(
    readFileSync(new URL('../../packages/pattern-book/src/forms.json', import.meta.url), 'utf8'),
  ) as Record<string, { proof: { crossings: number } }>;
  const browser = await openBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.setContent('<!doctype html><title>bench</title>');
    await page.addScriptTag({ content: bundled.outputFiles[0]?.text ?? '' });
    const out: Record<string, object> = {};
    for (const id of KNOTS) {
      const ropes = patternOf(id)?.knot.method.figure.ropes.map(({ id: rope, cordage }) => ({ id: rope, cordage }));
      const { first, perSecond } = await page.evaluate(
        ({ file, ropes, time }) =>
          (
            window as unknown as {
              measure: (...args: unknown[]) => Promise<{ first: number; perSecond: number }>;
            }
          ).measure(file, ropes, time),
        { file: forms[id], ropes, time: TURNED_FOR },
      );
      out[id] = {
        crossingsSeen: forms[id]?.proof.crossings,
        firstPictureMs: round(first),
        framesPerSecond: round(perSecond),
      };
    }
    return out;
  } finally {
    await browser.close();
  }
}
