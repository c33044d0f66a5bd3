/**
 * A demonstration as one file: its clip, a loop of each step, its captions, chapters, descriptions and script, its picture and its figure,
 * with a list of what is in it.
 */
import { escapeXml, writeKnot, type KnotDocument, type Method } from '@foxtrail/core';
import {
  chaptersOf,
  spokenOver,
  toChapters,
  toDescriptions,
  toSubRip,
  toWebVtt,
  posterTime,
  type Spoken,
} from '@foxtrail/core/reel';
import { strToU8, zipSync, type Zippable } from 'fflate';
import { concat, defer, map, of, takeWhile, type Observable } from 'rxjs';
import type { ExportService } from './export';
import type { ExportRequest, Written } from './export-messages';
import type { Scene } from './scene';
import { sizeOf, type Shape } from './shape';

/** A file of the bundle; times are where it lies in the demonstration, in seconds. */
export interface BundledFile {
  readonly name: string;
  readonly type: string;
  readonly what: string;
  readonly content: Uint8Array<ArrayBuffer> | string;
  readonly start?: number;
  readonly end?: number;
}

export const BUNDLE_FORMAT = 'foxtrail-reel/1';
export const MANIFEST = 'manifest.json';

/** What is already small is only put in. */
const isPacked = (type: string): boolean => /^(?:video|image)\//.test(type);

/** The bundle as a ZIP; its list says what each file is and how large. */
export function bundled(about: Readonly<Record<string, unknown>>, files: readonly BundledFile[]): Blob {
  const listed = files.map(({ content, ...file }) => ({
    ...file,
    size: typeof content === 'string' ? strToU8(content).length : content.length,
  }));
  const manifest = { format: BUNDLE_FORMAT, ...about, files: listed };
  const entries: Zippable = { [MANIFEST]: strToU8(JSON.stringify(manifest, null, 2)) };
  for (const { name, type, content } of files)
    entries[name] = [typeof content === 'string' ? strToU8(content) : content, { level: isPacked(type) ? 0 : 6 }];
  return new Blob([zipSync(entries)], { type: 'application/zip' });
}

const clock = (seconds: number): string => `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, '0')}`;

const STYLE = `body{max-width:46em;margin:2em auto;padding:0 1em;font:18px/1.5 sans-serif;color:#1f2a33}
h1{font-size:1.6em}table{width:100%;border-collapse:collapse}td,th{padding:.5em .6em;border-bottom:1px solid #bbb;text-align:left;vertical-align:top}
td:first-child{white-space:nowrap;font-variant-numeric:tabular-nums}.long{font-weight:700}@media print{body{margin:0}tr{break-inside:avoid}}`;

/** A script to be read aloud, as a page to be printed: when each passage begins, how long it lasts, and its words. */
export function scriptPage(title: string, spoken: readonly Spoken[]): string {
  const rows = spoken.map(({ start, end, text, takes, tooLong }) => {
    const long = tooLong
      ? `<div class="long">It takes ${takes.toFixed(0)} s to say: hold the scene longer, or say less.</div>`
      : '';
    const said = text === '' ? '<em>without words</em>' : escapeXml(text);
    return `<tr><td>${clock(start)}</td><td>${(end - start).toFixed(1)} s</td><td>${said}${long}</td></tr>`;
  });
  const name = escapeXml(title);
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${name}: script</title><style>${STYLE}</style></head><body><h1>${name}</h1><table><thead><tr><th>At</th><th>For</th><th>To be said</th></tr></thead><tbody>${rows.join('')}</tbody></table></body></html>`;
}

/** What is bundled: a demonstration as it is exported. */
export interface Bundling {
  readonly request: ExportRequest;
  readonly knot: KnotDocument;
  readonly scene: Scene;
  /** The method for the hand that is shown. */
  readonly method: Method;
  readonly shape: Shape;
  readonly reel: string | undefined;
  readonly cautions: readonly string[];
  readonly perLine: number;
}

export type BundleReport =
  | { readonly kind: 'running'; readonly done: number; readonly total: number; readonly what: string }
  | { readonly kind: 'failed'; readonly reason: string }
  | { readonly kind: 'finished'; readonly bundle: Blob };

/** A step to be looped is small: it is seen beside its words. */
const LOOP_LINES = 360;
const LOOP_RATE = 25;
/** Frames a second of one as a picture: every eight hundredths, which all programs show at their time. */
const PICTURE_RATE = 12.5;

const TYPES: Readonly<Record<Written, string>> = {
  webm: 'video/webm',
  mp4: 'video/mp4',
  gif: 'image/gif',
  webp: 'image/webp',
};

interface Take extends Omit<BundledFile, 'content'> {
  readonly start: number;
  readonly end: number;
  readonly request: ExportRequest;
  readonly frames: number;
}

/** What is filmed for a bundle: all of it, and each step where it is shown first. */
function takesOf({ request, scene: { method, timeline }, shape }: Bundling): readonly Take[] {
  const take = (file: Pick<Take, 'name' | 'what' | 'start' | 'end'>, asked: ExportRequest): Take => ({
    ...file,
    type: TYPES[asked.as ?? 'webm'],
    request: asked,
    frames: Math.max(1, Math.round((file.end - file.start) * asked.rate)),
  });
  const chapters = chaptersOf(timeline);
  const firsts = chapters.filter(
    ({ step }, i) => step !== undefined && chapters.findIndex((c) => c.step === step) === i,
  );
  const small = { ...request, as: 'webm' as const, ...sizeOf(shape, LOOP_LINES), rate: LOOP_RATE, captioned: false };
  const { as: kind = 'webm' } = request;
  const still = posterTime(method.reels?.[request.reel ?? -1], timeline);
  return [
    take({ name: `clip.${kind}`, what: 'The demonstration', start: 0, end: timeline.duration }, request),
    take(
      { name: 'poster.webp', what: 'The picture that stands for it', start: still, end: still },
      { ...request, as: 'webp', range: [still, still] },
    ),
    ...firsts.flatMap(({ step, start, end }) => {
      const number = (step ?? 0) + 1;
      const when = { start, end };
      const one: ExportRequest = { ...small, range: [start, end] };
      return [
        take({ name: `loops/step-${number}.webm`, what: `Step ${number}, to be looped`, ...when }, one),
        take(
          { name: `loops/step-${number}.gif`, what: `Step ${number}, as a picture that moves`, ...when },
          { ...one, as: 'gif', rate: PICTURE_RATE },
        ),
      ];
    }),
  ];
}

/** What goes with the films. */
function besideFilms({ knot, scene, method, perLine }: Bundling): readonly BundledFile[] {
  const { timeline, words } = scene;
  const vtt = (name: string, what: string, content: string): BundledFile => ({ name, what, content, type: 'text/vtt' });
  return [
    vtt('captions.vtt', 'Captions', toWebVtt(timeline, knot.name, perLine)),
    { name: 'captions.srt', what: 'Captions', type: 'application/x-subrip', content: toSubRip(timeline, perLine) },
    vtt('chapters.vtt', 'Chapters', toChapters(timeline, knot.name)),
    vtt('descriptions.vtt', 'What it shows', toDescriptions(timeline, knot.name, method, words)),
    {
      name: 'script.html',
      what: 'To be read aloud',
      type: 'text/html',
      content: scriptPage(knot.name, spokenOver(timeline)),
    },
    { name: 'figure.json', what: 'The knot', type: 'application/json', content: JSON.stringify(writeKnot(knot)) },
  ];
}

/** Exports all of a demonstration, one film after another; unsubscribing stops it and leaves nothing behind. */
export function exportBundle(exporter: Pick<ExportService, 'run'>, bundling: Bundling): Observable<BundleReport> {
  const takes = takesOf(bundling);
  const total = takes.reduce((sum, t) => sum + t.frames, 0);
  const made: BundledFile[] = [];
  const films = takes.map((take, i) => {
    const before = takes.slice(0, i).reduce((sum, t) => sum + t.frames, 0);
    return defer(() => exporter.run(take.request)).pipe(
      map((report): BundleReport => {
        if (report.kind === 'failed') return report;
        const { name, what, start, end, type } = take;
        if (report.kind === 'finished')
          made.push({ name, what, start, end, type, content: new Uint8Array(report.bytes) });
        const done = report.kind === 'finished' ? take.frames : report.done;
        return { kind: 'running', done: before + done, total, what };
      }),
    );
  });
  const { request, knot, scene, reel, cautions } = bundling;
  const { pace, view, width, height, rate } = request;
  const about = {
    knot: knot.name,
    reel: reel ?? null,
    ...{ pace, view, width, height, rate },
    duration: scene.timeline.duration,
    cautions,
  };
  const whole = defer(() =>
    of<BundleReport>({ kind: 'finished', bundle: bundled(about, [...made, ...besideFilms(bundling)]) }),
  );
  return concat(...films, whole).pipe(takeWhile(({ kind }) => kind !== 'failed', true));
}
