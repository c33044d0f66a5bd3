/**
 * The measurements: bracket by crossings (beside the naive sum where it can go), crossings recomputed after an edit, and the export's
 * frames per second in a real browser beside the encoder alone on the same frames. Prints one JSON object.
 */
import { createServer } from 'node:http';
import { readFile } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { cpus } from 'node:os';
import {
  applyEdit,
  closedBracket,
  crossingsOf,
  readKnot,
  weaveFigure,
  WORKSHOP_WORDS,
  writeKnot,
  type Figure,
  type PdCode,
  type Point,
} from '../../packages/core/src/index.js';
import type { ExportRequest } from '../../packages/web/src/reel/export-messages.js';
import { dragBench, layoutBench } from './drafting.js';
import { filmBench } from './films.js';
import { identityBench } from './identity.js';
import { loadBench } from './load.js';
import { kinInCore, kinMapBench } from './kin.js';
import { BUILT, openBrowser } from './measure.js';
import { lessonsBench } from './lessons.js';
import { ropesBench } from './ropes.js';
import { savingBench } from './saving.js';
import { setBench } from './set.js';
import { seekingBench } from './seeking.js';
import { timelineBench } from './timeline.js';
import { turningBench } from './turning.js';
import { wordsBench } from './words.js';
import { braidClosure, naiveBracket } from '../../packages/core/spec/support/diagrams.js';

/** Median of several runs, in milliseconds. */
function time(work: () => unknown, runs = 7): number {
  work();
  const all = Array.from({ length: runs }, () => {
    const began = performance.now();
    work();
    return performance.now() - began;
  }).sort((a, b) => a - b);
  return Math.round((all[runs >> 1] as number) * 100) / 100;
}

/** A braid closure of moderate width: four strands, generators in turn with changing signs. */
const diagram = (crossings: number): PdCode =>
  braidClosure(
    4,
    Array.from({ length: crossings }, (_, i) => (i % 2 === 0 ? 1 : -1) * ((i % 3) + 1)),
  );

/** One rope that winds over itself: a spring laid along the board, whose coils cross their neighbours. */
function spring(crossings: number): Figure {
  const loops = Math.round(crossings / 2) + 1;
  const points: Point[] = [[-12, 1]];
  for (let i = 0; i <= loops * 6; i += 1) {
    const turn = (i / 6) * 2 * Math.PI;
    points.push([i * 0.45 + 4 * Math.cos(turn), 4 * Math.sin(turn)]);
  }
  points.push([loops * 2.7 + 16, 1]);
  return weaveFigure(
    { ropes: [{ id: 'a', points, curve: 'smooth', closed: false, ends: ['standing', 'tail'], weave: '' }], hosts: [] },
    (_, i) => i % 2 === 0,
  );
}

function springOf(crossings: number): Figure {
  for (let n = 2; ; n += 1) {
    const figure = spring(n);
    if (crossingsOf(figure).length >= crossings) return figure;
  }
}

function coreBench(): object {
  const bracket = [8, 12, 16, 24, 40, 45].map((crossings) => {
    const code = diagram(crossings);
    return {
      crossings,
      frontierMs: time(() => closedBracket(code)),
      naiveMs: crossings <= 16 ? time(() => naiveBracket(code), crossings > 12 ? 1 : 3) : null,
    };
  });
  // An alternating braid of five strands, closed: as wide at any length, its coefficients as long as they get.
  const fiveStrands = (crossings: number): PdCode =>
    braidClosure(
      5,
      Array.from({ length: crossings }, (_, i) => [1, -2, 3, -4][i % 4] ?? 1),
    );
  const wide = [44, 88, 200, 400].map((crossings) => {
    const code = fiveStrands(crossings);
    // Short ones often enough that what is measured is not the warming up.
    const ms = time(() => closedBracket(code), crossings < 100 ? 81 : 7);
    const digits = Math.max(...closedBracket(code).coefficients.map((c) => String(c < 0n ? -c : c).length));
    return { crossings, ms, digits };
  });
  const [short, long] = [wide[0], wide.at(-1)];
  const growth =
    short && long
      ? Math.round((Math.log(long.ms / short.ms) / Math.log(long.crossings / short.crossings)) * 100) / 100
      : 0;
  const edits = [20, 60, 120].map((wanted) => {
    const figure = springOf(wanted);
    const rope = figure.ropes[0]!;
    const index = rope.points.length >> 1;
    const p = rope.points[index]!;
    let n = 0;
    return {
      crossings: crossingsOf(figure).length,
      points: rope.points.length,
      // A new place each time, so that nothing remembered helps.
      editMs: time(() => {
        n += 1;
        return applyEdit(figure, { kind: 'move-point', strand: 'a', index, to: [p[0] + 0.001 * n, p[1] + 0.1] });
      }, 15),
      dragMs: time(() => {
        n += 1;
        return applyEdit(figure, { kind: 'move-point', strand: 'a', index, to: [p[0] + 0.001 * n, p[1] + 2] });
      }, 9),
    };
  });
  return { bracket, fiveStrands: { wide, growthExponent: growth }, crossingsAfterEdit: edits };
}

const TYPES: Record<string, string> = {
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.html': 'text/html',
  '.woff2': 'font/woff2',
  '.svg': 'image/svg+xml',
};

/** Exports the reef knot in Chromium with the built worker, then encodes the same frames without drawing them anew. */
async function exportBench(): Promise<object> {
  const server = createServer((req, res) => {
    const path = (req.url ?? '/').split('?')[0] ?? '/';
    if (path === '/') {
      res.setHeader('Content-Type', 'text/html');
      res.end('<!doctype html><title>bench</title>');
      return;
    }
    readFile(join(BUILT, path)).then(
      (data) => {
        res.setHeader('Content-Type', TYPES[extname(path)] ?? 'application/octet-stream');
        res.end(data);
      },
      () => {
        res.statusCode = 404;
        res.end();
      },
    );
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : 0;
  const { readdir } = await import('node:fs/promises');
  const scripts = (await readdir(BUILT)).filter((f) => f.endsWith('.js'));
  const contents = await Promise.all(scripts.map(async (f) => ({ f, text: await readFile(join(BUILT, f), 'utf8') })));
  const worker = contents.find(({ f, text }) => f.startsWith('worker') && text.includes('VideoEncoder'))?.f;
  if (worker === undefined) throw new Error('the export worker was not built');
  const figureFile = JSON.parse(await readFile(new URL('../../demo/reef.json', import.meta.url), 'utf8')) as unknown;
  const read = readKnot(figureFile);
  if (!read.ok) throw new Error('the demo file does not read');
  const request: ExportRequest = {
    document: writeKnot(read.value),
    words: WORKSHOP_WORDS,
    captioned: true,
    pace: 'normal',
    view: 'front',
    width: 1280,
    height: 720,
    rate: 30,
    fontUrl: undefined,
  };
  const browser = await openBrowser();
  try {
    const page = await browser.newPage();
    // The TypeScript loader names inner functions by a helper that the page does not have.
    await page.addInitScript('globalThis.__name = (f) => f');
    await page.goto(`http://127.0.0.1:${port}/`);
    const exported = await page.evaluate(
      ({ url, request }) =>
        new Promise<{ frames: number; seconds: number; bytes: number }>((done, fail) => {
          const w = new Worker(url, { type: 'module' });
          w.onmessage = ({
            data,
          }: MessageEvent<{ kind: string; frames: number; seconds: number; bytes: ArrayBuffer; reason: string }>) => {
            if (data.kind === 'finished') {
              (window as unknown as { clip: ArrayBuffer }).clip = data.bytes;
              done({ frames: data.frames, seconds: data.seconds, bytes: data.bytes.byteLength });
            }
            if (data.kind === 'failed') fail(new Error(data.reason));
          };
          w.onerror = (e) => fail(new Error(e.message));
          w.postMessage(request);
        }),
      { url: `/${worker}`, request },
    );
    // The encoder alone, on the same frames: each is fetched from the exported clip first, and only its encoding is timed.
    const alone = await page.evaluate(async (frames) => {
      const clip = (window as unknown as { clip: ArrayBuffer }).clip;
      const video = document.createElement('video');
      video.muted = true;
      video.src = URL.createObjectURL(new Blob([clip], { type: 'video/webm' }));
      await new Promise((done) => (video.onloadeddata = done));
      let encoded: () => void = () => undefined;
      const encoder = new VideoEncoder({
        output: () => encoded(),
        error: (e) => {
          throw e;
        },
      });
      encoder.configure({
        codec: 'vp09.00.31.08',
        width: 1280,
        height: 720,
        bitrate: 3e6,
        framerate: 30,
        hardwareAcceleration: 'prefer-software',
      });
      let spent = 0;
      for (let i = 0; i < frames; i += 1) {
        const seeked = new Promise((done) => (video.onseeked = done));
        video.currentTime = (i + 0.5) / 30;
        await seeked;
        const picture = await createImageBitmap(video);
        const frame = new VideoFrame(picture, { timestamp: (i * 1e6) / 30 });
        const out = new Promise<void>((done) => (encoded = done));
        const began = performance.now();
        encoder.encode(frame, { keyFrame: i % 60 === 0 });
        await out;
        spent += performance.now() - began;
        frame.close();
        picture.close();
      }
      return spent / 1000;
    }, exported.frames);
    const rate = (seconds: number): number => Math.round((exported.frames / seconds) * 10) / 10;
    return {
      size: '1280x720',
      codec: 'vp9',
      frames: exported.frames,
      bytes: exported.bytes,
      exportFps: rate(exported.seconds),
      encoderAloneFps: rate(alone),
    };
  } finally {
    await browser.close();
    server.close();
  }
}

const databaseUrl = process.env.BENCH_DATABASE_URL;
if (databaseUrl === undefined) throw new Error('npm run bench gives a database; start it that way');
/** The parts that are measured; named on the command line, only those. */
const parts: Record<string, () => Promise<object> | object> = {
  core: coreBench,
  drafting: layoutBench,
  dragging: () => dragBench(databaseUrl),
  identity: () => identityBench(databaseUrl),
  set: setBench,
  turning: turningBench,
  saving: () => savingBench(databaseUrl),
  load: () => loadBench(databaseUrl),
  reel: async () => ({
    films: await filmBench(databaseUrl),
    timeline: await timelineBench(databaseUrl),
    seeking: await seekingBench(databaseUrl),
  }),
  ropes: () => ropesBench(databaseUrl),
  lessons: () => lessonsBench(databaseUrl),
  seeking: () => seekingBench(databaseUrl),
  timeline: () => timelineBench(databaseUrl),
  words: () => wordsBench(databaseUrl),
  kin: async () => ({ ...kinInCore(), map: await kinMapBench(databaseUrl) }),
  export: exportBench,
};
const asked = process.argv.slice(2).filter((a) => a in parts);
const report: Record<string, unknown> = {
  machine: { cores: cpus().length, model: cpus()[0]?.model, node: process.version },
};
for (const name of asked.length > 0 ? asked : Object.keys(parts)) report[name] = await parts[name]?.();
console.log(JSON.stringify(report, null, 2));
process.exit(0);
