/**
 * Draws the demonstration frame by frame and encodes it as WebM (VP9).
 */
import { cautionsFor, leftHanded, PAPER_LOOK, readKnot } from '@foxtrail/core';
import { demonstration } from '@foxtrail/core/reel';
import { BufferTarget, CanvasSource, Output, Quality, WebMOutputFormat } from 'mediabunny';
import type { ExportReport, ExportRequest } from '../reel/export-messages';
import { CAPTION_FONT, momentKey, paintMoment, type Scene } from '../reel/paint';

/** Bits a second: flat colours and few moving edges need no more for 720 lines. */
const BITRATE = 3e6;
/** Frames between two reports of progress. */
const REPORT_EVERY = 6;

const report = (message: ExportReport, transfer: Transferable[] = []): void => postMessage(message, { transfer });

async function loadFont(url: string | undefined): Promise<void> {
  if (url === undefined) return;
  const face = new FontFace(CAPTION_FONT, `url("${url}")`, { weight: '200 800' });
  await face.load();
  self.fonts.add(face);
}

async function exportClip(request: ExportRequest): Promise<void> {
  if (typeof VideoEncoder === 'undefined') {
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
    reel: request.reel,
  });
  const scene: Scene = {
    method,
    timeline,
    view: request.view,
    look: PAPER_LOOK,
    title: read.value.name,
    words: request.words,
    way: request.way,
    captioned: request.captioned,
  };
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { alpha: false }) as OffscreenCanvasRenderingContext2D;
  const source = new CanvasSource(canvas, {
    codec: 'vp9',
    quality: new Quality({ bitrate: BITRATE }),
    keyFrameInterval: 2,
    hardwareAcceleration: 'prefer-software',
  });
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  output.addVideoTrack(source, { frameRate: rate });
  output.setMetadataTags({ title: read.value.name });
  await output.start();
  const [from, to] = request.range ?? [0, timeline.duration];
  const total = Math.max(1, Math.round((to - from) * rate));
  let shown = '';
  for (let i = 0; i < total; i += 1) {
    const time = from + i / rate;
    const key = momentKey(scene, time);
    // While the rope rests the picture is the same: only the encoder has work.
    if (key !== shown) paintMoment(context, scene, time, width, height);
    shown = key;
    await source.add(i / rate, 1 / rate);
    if (i % REPORT_EVERY === 0) report({ kind: 'progress', done: i, total });
  }
  await output.finalize();
  const bytes = target.buffer as ArrayBuffer;
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
