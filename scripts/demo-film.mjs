// npm run demo-film: has the stand-in camera film a knot of the demo, saves the film small, and writes into the knot's file what it shows:
// its crossings in its last frames, and where its steps begin.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ALL_FORMATS, BufferSource, EncodedPacketSink, Input } from 'mediabunny';
import { onDemo } from './demo-page.mjs';
import { root } from './prepare.mjs';
import { run, say } from './say.mjs';

const KNOT = 'Figure eight';
const FILE = 'figure-eight';
const TAKE = 'From the bench';
/** Until when its last step is played slowly, in seconds. */
const READ = 6.5;
/** Size and bits a second of what is kept. */
const SMALL = { width: 640, height: 360, picture: 260_000, sound: 24_000 };

/** A film made smaller, in a browser. */
async function small(browser, base, bytes) {
  // What encodes is there on a page of a house alone.
  const page = await (await browser.newContext({ bypassCSP: true })).newPage();
  await page.goto(`${base}/learn`);
  await page.addScriptTag({ path: join(root, 'node_modules/mediabunny/dist/bundles/mediabunny.min.cjs') });
  const made = await page.evaluate(
    async ({ data, to }) => {
      const { ALL_FORMATS, BufferSource, BufferTarget, Conversion, Input, Output, Quality, WebMOutputFormat } =
        globalThis.Mediabunny;
      const target = new BufferTarget();
      const conversion = await Conversion.init({
        input: new Input({ source: new BufferSource(new Uint8Array(data)), formats: ALL_FORMATS }),
        output: new Output({ format: new WebMOutputFormat(), target }),
        video: {
          width: to.width,
          height: to.height,
          fit: 'fill',
          codec: 'vp9',
          quality: new Quality({ bitrate: to.picture }),
        },
        audio: { codec: 'opus', quality: new Quality({ bitrate: to.sound }) },
      });
      await conversion.execute();
      return [...new Uint8Array(target.buffer)];
    },
    { data: [...bytes], to: SMALL },
  );
  await page.close();
  return Buffer.from(made);
}

const file = join(root, `demo/${FILE}.json`);
const before = readFileSync(file, 'utf8');

/** The knot's file, in as few lines as its places allow. */
function write(knot) {
  writeFileSync(file, JSON.stringify(knot));
  const prettier = join(root, 'node_modules/prettier/bin/prettier.cjs');
  const options = ['--no-config', '--print-width', '120', '--object-wrap', 'collapse', '--parser', 'json', '--write'];
  spawnSync(process.execPath, [prettier, '--ignore-path', '', ...options, file]);
}

await run(async () => {
  // It is filmed as if for the first time.
  const unfilmed = JSON.parse(before);
  delete (unfilmed.method.relaid?.at(-1) ?? unfilmed.method).footage;
  delete unfilmed.method.reels;
  write(unfilmed);
  let done = false;
  process.on('exit', () => {
    if (!done) writeFileSync(file, before);
  });
  await onDemo(async ({ page, browser, base, open }) => {
    const core = await import('../packages/core/src/index.ts');
    const { seenByStandIn, standInTake } = await import('../packages/core/src/reel/index.ts');
    await open(KNOT, 'Reel');
    await page.getByRole('link', { name: 'Filmed' }).click();
    await page.getByRole('button', { name: 'Record a film' }).click();
    await page.getByRole('button', { name: 'Record', exact: true }).click();
    await page.getByRole('heading', { name: 'Take 1' }).waitFor({ timeout: 90_000 });
    const data = await (await page.request.get(await filmOf(page, base))).body();
    const film = await small(browser, base, data);
    const knot = JSON.parse(readFileSync(file, 'utf8'));
    const read = core.readKnot(knot);
    if (!read.ok) throw new Error(read.reason);
    const { method } = read.value;
    const figure = core.finishedFigure(method);
    const take = standInTake(method, {});
    const at = await frameBefore(film, take.duration - 0.6);
    const share = (p) => seenByStandIn(take, p, at, 16 / 9).map((v) => Number(v.toFixed(4)));
    const along = ({ strand, at: place }, [x, y]) => {
      const [u, v] = core.directionAt(core.curveOf(core.ropeOf(figure, strand)), place);
      return share([x + 3 * u, y + 3 * v]);
    };
    const marks = core.crossingsOf(figure).map((c) => ({
      crossing: core.placeOfCrossing(c),
      over: c.over === c.first ? 'first' : 'second',
      point: share(c.point),
      first: along(c.first, c.point),
      second: along(c.second, c.point),
    }));
    // A step begins in the film where as many crossings have been passed as before it in the drawing.
    const passed = (steps, until) => steps.slice(0, until).reduce((n, s) => n + crossings(s), 0);
    const { crossingsPassed: crossings } = await import('../packages/core/src/reel/index.ts');
    const laying = core.stepsOf(method).filter((s) => s.does === 'lay');
    const filmed = take.layings.map((l) => l.step);
    const steps = laying.map((s, i) => {
      const wanted = passed(laying, i);
      const k = filmed.findIndex((_, n) => passed(filmed, n) >= wanted);
      return { step: s.index, at: Number((take.layings[Math.max(0, k)]?.start ?? 0).toFixed(2)) };
    });
    const begun = steps.filter((s, i) => i === 0 || s.at > steps[i - 1].at);
    const footage = {
      film: createHash('sha256').update(film).digest('hex'),
      name: TAKE,
      duration: Number(take.duration.toFixed(2)),
      frames: [{ at, marks }],
      steps: begun,
      // Slow enough to be read.
      passages: begun.map(({ at: start }, i) => ({ from: start, to: begun[i + 1]?.at ?? READ, speed: 0.5, still: 2 })),
      captions: begun.map(({ step, at: start }, i) => ({
        start,
        end: begun[i + 1]?.at ?? Number(take.duration.toFixed(2)),
        text: core.stepText(method, step, core.WORKSHOP_WORDS),
      })),
    };
    say(`demo/films/${FILE}.webm: ${(film.length / 1024).toFixed(0)} kB`);
    (knot.method.relaid?.at(-1) ?? knot.method).footage = [footage];
    knot.method.reels = [
      {
        name: 'From the bench',
        scenes: [
          { kind: 'card', title: knot.name, text: knot.entry.summary },
          {
            kind: 'film',
            film: footage.film,
            from: 0,
            to: footage.duration,
            text: 'Over, round behind, and down through the loop.',
          },
          { kind: 'look', side: 'back' },
          { kind: 'tail' },
        ],
      },
    ];
    mkdirSync(join(root, 'demo/films'), { recursive: true });
    writeFileSync(join(root, `demo/films/${FILE}.webm`), film);
    write(knot);
    done = true;
  });
});
process.exit(process.exitCode);

/** When the last frame of a film before a time begins, in seconds: marks belong to a frame. */
async function frameBefore(film, time) {
  const track = await new Input({ source: new BufferSource(film), formats: ALL_FORMATS }).getPrimaryVideoTrack();
  let at = 0;
  for await (const { timestamp } of new EncodedPacketSink(track).packets()) if (timestamp <= time) at = timestamp;
  return Number(at.toFixed(3));
}

/** Where the film of the knot that is open has been sent to. */
async function filmOf(page, base) {
  const id = /knot\/([^/]+)/.exec(page.url())?.[1] ?? '';
  for (let n = 0; n < 60; n += 1) {
    const { document } = await (await page.request.get(`${base}/api/knots/${id}`)).json();
    const shown = (document.method.relaid?.at(-1) ?? document.method).footage?.[0];
    if (shown && (await page.request.get(`${base}/api/films/${shown.film}`)).ok()) return `/api/films/${shown.film}`;
    await page.waitForTimeout(1000);
  }
  throw new Error('The film has not been sent.');
}
