/**
 * Draws the demonstration frame by frame and encodes it as WebM (VP9), or as a picture that moves (GIF).
 */
import { cautionsFor, leftHanded, PAPER_LOOK, readKnot } from '@foxtrail/core';
import { demonstration } from '@foxtrail/core/reel';
import {
  AudioSample,
  AudioSampleSource,
  BufferTarget,
  CanvasSource,
  Output,
  Quality,
  WebMOutputFormat,
} from 'mediabunny';
import { FilmFrames } from './film-frames';
import type { ExportReport, ExportRequest } from '../reel/export-messages';
import { momentKey, paintMoment } from '../reel/paint';
import { CAPTION_FONT } from '../reel/paint-drawing';
import type { Scene } from '../reel/scene';

/** Bits a second: flat colours and few moving edges need no more for 720 lines. */
const BITRATE = 3e6;
/** Bits of sound a second: speech, and what a rope makes. */
const SOUND_BITRATE = 96_000;
/** Frames between two reports of progress. */
const REPORT_EVERY = 6;

const report = (message: ExportReport, transfer: Transferable[] = []): void => postMessage(message, { transfer });

async function loadFont(url: string | undefined): Promise<void> {
  if (url === undefined) return;
  const face = new FontFace(CAPTION_FONT, `url("${url}")`, { weight: '200 800' });
  await face.load();
  self.fonts.add(face);
}

function soundTrack(output: Output): AudioSampleSource {
  const source = new AudioSampleSource({ codec: 'opus', quality: new Quality({ bitrate: SOUND_BITRATE }) });
  output.addAudioTrack(source);
  return source;
}

/** A second of what is heard from a time on, or what is left of it. */
function secondOf({ rate, channels }: NonNullable<ExportRequest['sound']>, time: number): AudioSample {
  const from = Math.round(time * rate);
  const count = Math.max(1, Math.min(rate, (channels[0]?.length ?? 0) - from));
  const data = new Float32Array(count * channels.length);
  channels.forEach((channel, i) => data.set(channel.subarray(from, from + count), i * count));
  return new AudioSample({
    data,
    format: 'f32-planar',
    numberOfChannels: channels.length,
    sampleRate: rate,
    timestamp: from / rate,
  });
}

/** Takes frames in order, each shown for so long; at the end gives the file. */
interface Writer {
  readonly add: (time: number, isNew: boolean) => Promise<void>;
  readonly end: () => Promise<ArrayBuffer>;
}

async function filmWriter(canvas: OffscreenCanvas, { rate, sound }: ExportRequest, title: string): Promise<Writer> {
  const source = new CanvasSource(canvas, {
    codec: 'vp9',
    quality: new Quality({ bitrate: BITRATE }),
    keyFrameInterval: 2,
    hardwareAcceleration: 'prefer-software',
  });
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  output.addVideoTrack(source, { frameRate: rate });
  const track = sound && typeof AudioEncoder !== 'undefined' ? soundTrack(output) : undefined;
  output.setMetadataTags({ title });
  await output.start();
  let heardTo = 0;
  return {
    add: async (time) => {
      await source.add(time, 1 / rate);
      // Sound goes with its picture, a second at a time.
      if (!sound || !track || time < heardTo - 1e-6) return;
      const heard = secondOf(sound, time);
      await track.add(heard);
      heard.close();
      heardTo += 1;
    },
    end: async () => {
      await output.finalize();
      return target.buffer as ArrayBuffer;
    },
  };
}

async function exportClip(request: ExportRequest): Promise<void> {
  if (request.as !== 'gif' && typeof VideoEncoder === 'undefined') {
    report({
      kind: 'failed',
      reason: 'This browser cannot encode video. The captions and the pictures can still be exported.',
    });
    return;
  }
  const read = readKnot(request.document);
  if (!read.ok) {
    report({ kind: 'failed', reason: `${read.reason} ${read.remedy}` });
    return;
  }
  await loadFont(request.fontUrl).catch(() => undefined);
  const began = performance.now();
  const { width, height, rate } = request;
  const { method } = read.value;
  const { useGrade, cautions } = read.value.entry;
  const timeline = demonstration({
    method: request.view === 'left' ? leftHanded(method) : method,
    name: read.value.name,
    words: request.words,
    pace: request.pace,
    cautions: cautionsFor(useGrade, cautions),
    tail: request.tail,
    reel: request.reel,
  });
  const films = new FilmFrames();
  const composed = request.reel === undefined ? undefined : method.reels?.[request.reel];
  const scene: Scene = {
    method,
    timeline,
    view: request.view,
    look: { ...PAPER_LOOK, banded: composed?.bands },
    title: read.value.name,
    words: request.words,
    way: request.way,
    tail: request.tail,
    back: composed?.back,
    trail: composed?.trail,
    filmed: (film) => films.shown(film),
    captioned: request.captioned,
  };
  const canvas = new OffscreenCanvas(width, height);
  const isPicture = request.as === 'gif';
  const context = canvas.getContext('2d', {
    alpha: false,
    willReadFrequently: isPicture,
  }) as OffscreenCanvasRenderingContext2D;
  const writer = isPicture
    ? (await import('./moving-picture')).pictureWriter(context, rate)
    : await filmWriter(canvas, request, read.value.name);
  const [from, to] = request.range ?? [0, timeline.duration];
  const total = Math.max(1, Math.round((to - from) * rate));
  let shown = '';
  const times = Array.from({ length: total }, (_, i) => from + i / rate);
  for (let i = 0; i < total; i += 1) {
    const time = times[i] ?? from;
    const key = momentKey(scene, time);
    await films.show(scene, times, i);
    // While the rope rests the picture is the same: only the encoder has work.
    const isNew = key !== shown;
    if (isNew) paintMoment(context, scene, time, width, height);
    shown = key;
    await writer.add(i / rate, isNew);
    if (i % REPORT_EVERY === 0) report({ kind: 'progress', done: i, total });
  }
  const bytes = await writer.end();
  report(
    { kind: 'finished', bytes, duration: total / rate, frames: total, seconds: (performance.now() - began) / 1000 },
    [bytes],
  );
}

addEventListener('message', ({ data }: MessageEvent<ExportRequest>) => {
  exportClip(data).catch((error: unknown) =>
    report({ kind: 'failed', reason: error instanceof Error ? error.message : String(error) }),
  );
});
