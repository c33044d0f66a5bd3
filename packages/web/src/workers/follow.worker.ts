/**
 * Follows places through a film, aside: each by what it looks like in the frame in which it was pressed.
 */
import { followed, looksLike, type FramePlace, type Grey } from '@foxtrail/core/footage';
import { ALL_FORMATS, BlobSource, Input, UrlSource } from 'mediabunny';
import type { FollowReport, FollowRequest } from '../film/follow-messages';
import { picturesAt } from './film-pictures';

/** Height of the pictures in which it is looked for, in pixels, and how often a second. */
const TALL = 270;
const RATE = 25;
/** Frames between two reports of progress. */
const REPORT_EVERY = 10;

const report = (message: FollowReport): void => postMessage(message);

/** The lightness of a picture. */
function greyOf(canvas: OffscreenCanvas, into: Grey | undefined): Grey {
  const { width, height } = canvas;
  const context = canvas.getContext('2d', { willReadFrequently: true }) as OffscreenCanvasRenderingContext2D;
  const pixels = context.getImageData(0, 0, width, height).data;
  const data = into?.data.length === width * height ? into.data : new Uint8Array(width * height);
  for (let i = 0; i < data.length; i += 1)
    data[i] = (2 * pixels[4 * i]! + 5 * pixels[4 * i + 1]! + pixels[4 * i + 2]!) >> 3;
  return { width, height, data };
}

async function follow({ film, places, at, from, to }: FollowRequest): Promise<void> {
  const source = typeof film === 'string' ? new UrlSource(new URL(film, location.origin)) : new BlobSource(film);
  const track = await new Input({ source, formats: ALL_FORMATS }).getPrimaryVideoTrack();
  if (!track || !(await track.canDecode())) {
    report({ kind: 'failed', reason: 'This browser does not read the pictures of this film aside.' });
    return;
  }
  let grey: Grey | undefined;
  for await (const shown of picturesAt(track, [at + 1e-3], TALL))
    if (shown instanceof OffscreenCanvas) grey = greyOf(shown, undefined);
  const looks = grey ? places.map((place) => looksLike(grey as Grey, place)) : [];
  const vague = places.findIndex((_, i) => !looks[i]);
  if (vague >= 0) {
    report({ kind: 'vague', place: vague });
    return;
  }
  const count = Math.max(2, Math.floor((to - from) * RATE) + 1);
  const times = Array.from({ length: count }, (_, i) => Math.min(to, from + i / RATE));
  let now: readonly FramePlace[] = places;
  const keys: { at: number; places: readonly FramePlace[] }[] = [];
  let index = 0;
  for await (const shown of picturesAt(
    track,
    times.map((t) => t + 1e-3),
    TALL,
  )) {
    const time = times[index] ?? to;
    index += 1;
    if (!(shown instanceof OffscreenCanvas)) continue;
    const picture = (grey = greyOf(shown, grey));
    const next = now.map((place, i) => looks[i] && followed(picture, looks[i], place));
    const lost = next.findIndex((place) => !place);
    if (lost >= 0) {
      report({ kind: 'finished', keys, lost: { place: lost, at: time } });
      return;
    }
    now = next.flatMap((place) => (place ? [place] : []));
    keys.push({ at: time, places: now });
    if (index % REPORT_EVERY === 0) report({ kind: 'progress', share: index / count });
  }
  report({ kind: 'finished', keys });
}

addEventListener('message', ({ data }: MessageEvent<FollowRequest>) => {
  follow(data).catch((error: unknown) =>
    report({ kind: 'failed', reason: error instanceof Error ? error.message : String(error) }),
  );
});
