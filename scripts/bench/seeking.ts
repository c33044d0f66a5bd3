/**
 * The film desk with a film of three minutes: until its strip is drawn, from a press to the frame that is gone to, and a place of it followed.
 */
import { join } from 'node:path';
import { FILM_PIECE } from '@foxtrail/contract';
import { readKnotText, writeKnot } from '@foxtrail/core';
import { readFileSync } from 'node:fs';
import { middle, onPage, round } from './measure.js';

const MINUTES = 3;
const RATE = 25;
const [WIDE, TALL] = [640, 360];
const SEEKS = 40;

/** What is used of the media library in a page. */
interface Media {
  readonly BufferTarget: new () => { readonly buffer: ArrayBuffer };
  readonly CanvasSource: new (
    canvas: OffscreenCanvas,
    options: object,
  ) => { readonly add: (at: number, lasts: number) => Promise<void> };
  readonly Output: new (options: object) => {
    readonly addVideoTrack: (source: object, options: object) => void;
    readonly start: () => Promise<void>;
    readonly finalize: () => Promise<void>;
  };
  readonly Quality: new (options: object) => object;
  readonly WebMOutputFormat: new () => object;
}

export function seekingBench(databaseUrl: string): Promise<object> {
  return onPage(
    databaseUrl,
    'Film Author',
    async (page, base) => {
      await page.goto(`${base}/learn`);
      await page.addScriptTag({
        path: join(import.meta.dirname, '../../node_modules/mediabunny/dist/bundles/mediabunny.min.cjs'),
      });
      const film = await page.evaluate(
        async ({ seconds, rate, wide, tall, piece }) => {
          const { BufferTarget, CanvasSource, Output, Quality, WebMOutputFormat } = (
            globalThis as unknown as { readonly Mediabunny: Media }
          ).Mediabunny;
          const canvas = new OffscreenCanvas(wide, tall);
          const context = canvas.getContext('2d', { alpha: false }) as OffscreenCanvasRenderingContext2D;
          const source = new CanvasSource(canvas, {
            codec: 'vp8',
            quality: new Quality({ bitrate: 1_000_000 }),
            keyFrameInterval: 2,
          });
          const target = new BufferTarget();
          const output = new Output({ format: new WebMOutputFormat(), target });
          output.addVideoTrack(source, { frameRate: rate });
          await output.start();
          for (let i = 0; i < seconds * rate; i += 1) {
            context.fillStyle = '#e8dcc8';
            context.fillRect(0, 0, wide, tall);
            context.fillStyle = '#34506b';
            context.fillRect(200 + 60 * Math.sin(i / 40), 120 + 40 * Math.cos(i / 55), 90, 60);
            context.fillText(String(i), 20, 20);
            await source.add(i / rate, 1 / rate);
          }
          await output.finalize();
          const bytes = new Uint8Array(target.buffer);
          const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
          const name = [...digest].map((b) => b.toString(16).padStart(2, '0')).join('');
          const send = (method: string, path: string, body?: BodyInit, type = 'application/json'): Promise<Response> =>
            fetch(`/api/films/${name}${path}`, { method, body: body ?? null, headers: { 'Content-Type': type } });
          await send('PUT', '', JSON.stringify({ size: bytes.length }));
          for (let k = 0; k * piece < bytes.length; k += 1)
            await send('PUT', `/pieces/${k}`, bytes.slice(k * piece, (k + 1) * piece), 'application/octet-stream');
          const taken = await send('POST', '/whole');
          if (!taken.ok) throw new Error(await taken.text());
          return { name, bytes: bytes.length };
        },
        { seconds: 60 * MINUTES, rate: RATE, wide: WIDE, tall: TALL, piece: FILM_PIECE },
      );
      const read = readKnotText(readFileSync(new URL('../../demo/overhand.json', import.meta.url), 'utf8'));
      if (!read.ok) throw new Error(read.reason);
      const footage = [{ film: film.name, name: 'Three minutes', duration: 60 * MINUTES, frames: [] }];
      const { method } = read.value;
      const relaid = method.relaid?.map((l, i, all) => (i === all.length - 1 ? { ...l, footage } : l));
      const file = writeKnot({
        ...read.value,
        method: relaid && relaid.length > 0 ? { ...method, relaid } : { ...method, footage },
      });
      const id = await page.evaluate(async (body) => {
        const made = await fetch('/api/knots', {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ document: body }),
        });
        return ((await made.json()) as { card: { id: string } }).card.id;
      }, file);
      const began = performance.now();
      await page.goto(`${base}/knot/${id}/reel/film`);
      const frame = page.getByRole('img', { name: /^The film at/ });
      await frame.waitFor();
      const shownMs = round(performance.now() - began);
      // Its last picture is there.
      await page.locator('ft-film-strip canvas').evaluate(async (strip) => {
        const canvas = strip as HTMLCanvasElement;
        const lit = (): boolean =>
          (canvas.getContext('2d')?.getImageData(canvas.width - 12, 12, 1, 1).data[0] ?? 0) > 128;
        while (!lit()) await new Promise((done) => setTimeout(done, 20));
      });
      const stripMs = round(performance.now() - began);
      const slider = page.getByRole('slider', { name: 'Place in the film' });
      const seeks: number[] = [];
      for (let i = 0; i < SEEKS; i += 1) {
        const wanted = ((i * 61) % (60 * MINUTES - 2)) + 0.5;
        seeks.push(
          await slider.evaluate(async (input, to) => {
            const [own, label] = [
              input as HTMLInputElement,
              document.querySelector('ft-film-frame svg[role=img]') as Element,
            ];
            const from = performance.now();
            own.value = String(to);
            own.dispatchEvent(new Event('input', { bubbles: true }));
            const at = (): number => Number(/[\d.]+/.exec(label.getAttribute('aria-label') ?? '')?.[0]);
            while (Math.abs(at() - to) > 0.2) await new Promise(requestAnimationFrame);
            return performance.now() - from;
          }, wanted),
        );
      }
      return {
        minutes: MINUTES,
        bytes: film.bytes,
        shownMs,
        stripMs,
        seekMedianMs: round(middle(seeks, 0.5)),
        seekP95Ms: round(middle(seeks, 0.95)),
      };
    },
    { bypassCSP: true },
  );
}
