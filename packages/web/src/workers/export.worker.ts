/**
 * Draws the demonstration frame by frame and encodes it as WebM (VP9) or MP4 (H.264), or as a picture that moves (GIF); or draws one frame.
 */
import { cautionsFor, leftHanded, PAPER_LOOK, readKnot } from '@foxtrail/core';
import { demonstration } from '@foxtrail/core/reel';
import {
  AudioSample,
  AudioSampleSource,
  BufferTarget,
  CanvasSource,
  getFirstEncodableAudioCodec,
  Mp4OutputFormat,
  Output,
  Quality,
  WebMOutputFormat,
  type AudioCodec,
  type VideoCodec,
} from 'mediabunny';
import { FilmFrames } from './film-frames';
import type { ExportReport, ExportRequest, FilmKind, MixedSound } from '../reel/export-messages';
import { momentKey, paintMoment } from '../reel/paint';
import { CAPTION_FONT } from '../reel/paint-drawing';
import type { Scene } from '../reel/scene';

/** Bits a second: flat colours and few moving edges need no more for 720 lines. */
const BITRATE = 3e6;
/** Of one picture, from 0 to 1: no edge of a rope is seen to fray. */
const STILL_QUALITY = 0.9;
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

function soundTrack(output: Output, codec: AudioCodec): AudioSampleSource {
  const source = new AudioSampleSource({ codec, quality: new Quality({ bitrate: SOUND_BITRATE }) });
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

/** What the sound of a film is written as; nothing where this browser can write none of it. */
const heardAs = (kind: FilmKind, { rate, channels }: MixedSound): Promise<AudioCodec | null> =>
  getFirstEncodableAudioCodec(KINDS[kind].audio, { numberOfChannels: channels.length, sampleRate: rate });

/** Takes frames in order, each shown for so long; at the end gives the file. */
interface Writer {
  readonly add: (time: number, isNew: boolean) => Promise<void>;
  readonly end: () => Promise<ArrayBuffer>;
}

/** How each kind of film is encoded; what plays an MP4 knows AAC best, where this browser writes it. */
const KINDS: Readonly<Record<FilmKind, { readonly video: VideoCodec; readonly audio: AudioCodec[] }>> = {
  webm: { video: 'vp9', audio: ['opus'] },
  mp4: { video: 'avc', audio: ['aac', 'opus'] },
};

async function filmWriter(
  canvas: OffscreenCanvas,
  { rate, sound }: ExportRequest,
  kind: FilmKind,
  title: string,
): Promise<Writer> {
  const source = new CanvasSource(canvas, {
    codec: KINDS[kind].video,
    quality: new Quality({ bitrate: BITRATE }),
    keyFrameInterval: 2,
    hardwareAcceleration: 'prefer-software',
  });
  const target = new BufferTarget();
  const format = kind === 'mp4' ? new Mp4OutputFormat({ fastStart: 'in-memory' }) : new WebMOutputFormat();
  const output = new Output({ format, target });
  output.addVideoTrack(source, { frameRate: rate });
  const codec = sound && typeof AudioEncoder !== 'undefined' ? await heardAs(kind, sound) : null;
  const track = codec ? soundTrack(output, codec) : undefined;
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
  const { as = 'webm' } = request;
  if ((as === 'webm' || as === 'mp4') && typeof VideoEncoder === 'undefined') {
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
  const isPicture = as === 'gif';
  const context = canvas.getContext('2d', {
    alpha: false,
    willReadFrequently: isPicture,
  }) as OffscreenCanvasRenderingContext2D;
  const [from, to] = request.range ?? [0, timeline.duration];
  if (as === 'webp') {
    await films.show(scene, [from], 0);
    paintMoment(context, scene, from, width, height);
    const bytes = await (await canvas.convertToBlob({ type: 'image/webp', quality: STILL_QUALITY })).arrayBuffer();
    report({ kind: 'finished', bytes, duration: 0, frames: 1, seconds: (performance.now() - began) / 1000 }, [bytes]);
    return;
  }
  const writer =
    as === 'gif'
      ? (await import('./moving-picture')).pictureWriter(context, rate)
      : await filmWriter(canvas, request, as, read.value.name);
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
