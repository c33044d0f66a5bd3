import { PAPER_LOOK, readKnot, WORKSHOP_WORDS, writeKnot } from '@foxtrail/core';
import { chaptersOf, spokenOver, timelineOf, withCautions } from '@foxtrail/core/reel';
import { strFromU8, unzipSync } from 'fflate';
import { concat, firstValueFrom, NEVER, of, toArray, type Observable } from 'rxjs';
import { overhand } from '../testing/knots';
import { BUNDLE_FORMAT, exportBundle, scriptPage, type Bundling, type BundleReport } from './bundle';
import type { ExportReport, ExportRequest } from './export-messages';

describe('All of a demonstration in one file', () => {
  const knot = overhand();
  const timeline = withCautions(timelineOf(knot.method, 'normal', WORKSHOP_WORDS), ['Never for people.']);
  const bundling: Bundling = {
    request: {
      document: writeKnot(knot),
      pace: 'normal',
      view: 'front',
      width: 320,
      height: 180,
      rate: 30,
      captioned: true,
      fontUrl: undefined,
      words: WORKSHOP_WORDS,
    },
    knot,
    scene: {
      method: knot.method,
      timeline,
      view: 'front',
      look: PAPER_LOOK,
      title: knot.name,
      words: WORKSHOP_WORDS,
    },
    method: knot.method,
    shape: 'wide',
    reel: undefined,
    cautions: ['Never for people.'],
    perLine: 42,
  };
  const asked: ExportRequest[] = [];
  const film = (request: ExportRequest): Observable<ExportReport> => {
    asked.push(request);
    const [from, to] = request.range ?? [0, timeline.duration];
    const frames = Math.round((to - from) * request.rate);
    const bytes = new Uint8Array([asked.length]).buffer;
    return of<ExportReport[]>(
      { kind: 'progress', done: 0, total: frames },
      { kind: 'finished', bytes, duration: to - from, frames, seconds: 1 },
    );
  };
  const all = (run: typeof film): Promise<BundleReport[]> =>
    firstValueFrom(exportBundle({ run }, bundling).pipe(toArray()));
  beforeEach(() => asked.splice(0));

  it('holds the clip, a loop of each step where it is shown first, and what goes with them, as its list says', async () => {
    const reports = await all(film);
    const last = reports.at(-1)!;
    if (last.kind !== 'finished') throw new Error('it is not finished');
    const files = unzipSync(new Uint8Array(await last.bundle.arrayBuffer()));
    const manifest = JSON.parse(strFromU8(files['manifest.json']!)) as {
      format: string;
      cautions: string[];
      files: { name: string; size: number; start?: number; end?: number }[];
    };
    expect(manifest.format).toBe(BUNDLE_FORMAT);
    expect(manifest.cautions).toEqual(['Never for people.']);
    expect(manifest.files.map((f) => f.name)).toEqual([
      'clip.webm',
      'poster.webp',
      'loops/step-1.webm',
      'loops/step-1.gif',
      'loops/step-2.webm',
      'loops/step-2.gif',
      'captions.vtt',
      'captions.srt',
      'chapters.vtt',
      'descriptions.vtt',
      'script.html',
      'figure.json',
    ]);
    for (const { name, size } of manifest.files) expect(files[name]!.length).withContext(name).toBe(size);
    // Loops are small, without words, and lie where their steps do.
    const chapters = chaptersOf(timeline);
    const places = chapters.map((c) => [c.start, c.end] as const);
    // Its picture is the last one where its author has chosen none.
    const still = [timeline.duration, timeline.duration] as const;
    expect(asked.map((r) => r.range)).toEqual([undefined, still, ...places.flatMap((p) => [p, p])]);
    expect(asked.map((r) => r.captioned)).toEqual([true, true, false, false, false, false]);
    expect(asked.map((r) => r.as ?? 'webm')).toEqual(['webm', 'webp', 'webm', 'gif', 'webm', 'gif']);
    expect(asked.map((r) => r.height)).toEqual([180, 180, 360, 360, 360, 360]);
    expect(readKnot(JSON.parse(strFromU8(files['figure.json']!))).ok).toBeTrue();
    expect(strFromU8(files['descriptions.vtt']!)).toMatch(/^WEBVTT\n/);
    // What is done grows to all there is.
    const shares = reports.flatMap((r) => (r.kind === 'running' ? [r.done / r.total] : []));
    expect(shares.at(-1)).toBe(1);
    shares.forEach((s, i) => expect(s).toBeGreaterThanOrEqual(shares[i - 1] ?? 0));
  });

  it('is none when a film of it fails, or while one is not done', async () => {
    const reports = await all((request) =>
      asked.length > 0 ? of({ kind: 'failed', reason: 'No room.' }) : film(request),
    );
    expect(reports.at(-1)).toEqual({ kind: 'failed', reason: 'No room.' });
    expect(reports.some((r) => r.kind === 'finished')).toBeFalse();
    const seen: BundleReport[] = [];
    const run = exportBundle({ run: (r) => concat(film(r), NEVER) }, bundling).subscribe((r) => seen.push(r));
    run.unsubscribe();
    expect(asked.length).toBe(2);
    expect(seen.some((r) => r.kind === 'finished')).toBeFalse();
  });

  it('has a script that says when, for how long and what; too much for its time is said', () => {
    const page = scriptPage('A <b>', spokenOver(timeline));
    expect(page).not.toContain('<b>');
    expect(page).toContain('Never for people.');
    expect(page).not.toContain('hold the scene longer');
    const crammed = spokenOver({
      duration: 1,
      scenes: [
        { part: 0, shot: { kind: 'card' }, start: 0, laid: 0, end: 1, caption: 'Far more than is said in a second.' },
      ],
    });
    expect(scriptPage('K', crammed)).toContain('It takes 3 s to say');
  });
});
