/**
 * Recording: from a stream of a camera or a microphone, whichever, to a file as it might have been chosen. What a recorder writes has no length and no
 * places to go to; both are written into it before it is handed on.
 */
import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { FILM_LIMIT } from '@foxtrail/contract';

export type Recording =
  | { readonly kind: 'off' }
  | { readonly kind: 'on'; readonly seconds: number; readonly bytes: number }
  | { readonly kind: 'finishing' }
  | { readonly kind: 'failed'; readonly reason: string };

/** What is recorded: a picture with its sound, or sound alone. */
export type Recorded = 'film' | 'voice';

/** Kinds of file in the order in which they are tried: what a browser plays frame by frame everywhere comes first. */
const KINDS: Readonly<Record<Recorded, readonly string[]>> = {
  film: ['video/webm;codecs=vp9,opus', 'video/webm;codecs=vp8,opus', 'video/webm', 'video/mp4'],
  voice: ['audio/webm;codecs=opus', 'audio/webm', 'audio/mp4'],
};
/** Whence it comes. */
const SOURCES: Readonly<Record<Recorded, string>> = { film: 'camera', voice: 'microphone' };
/** Bits a second of the picture, and how often what is recorded is put aside, in milliseconds. */
const BITRATE = 4_000_000;
const SLICE = 500;
/** It stops by itself this much before a film would be too large to keep. */
const SPARE = 4 * 1024 * 1024;

/** Why a camera, or a microphone, could not be had, and what to do. */
export function cameraTrouble(error: unknown, of: Recorded = 'film'): string {
  const source = SOURCES[of];
  switch (error instanceof DOMException ? error.name : '') {
    case 'NotAllowedError':
      return `This page may not use the ${source}. Allow it in the browser’s settings for this site, then choose the ${source} again.`;
    case 'NotFoundError':
    case 'OverconstrainedError':
      return `That ${source} is not there any more. Connect it, or choose another one.`;
    case 'NotReadableError':
    case 'AbortError':
      return `Something else uses the ${source}. Close it there, then choose the ${source} again.`;
    default:
      return `No ${source} can be had here: browsers give one only to pages on this machine or over HTTPS.`;
  }
}

/** The same film with its length and an index of its places; as it was where that cannot be written. */
async function withIndex(film: Blob): Promise<Blob> {
  if (!/^(?:video|audio)\/webm/.test(film.type)) return film;
  try {
    const { ALL_FORMATS, BlobSource, BufferTarget, Conversion, Input, Output, WebMOutputFormat } =
      await import('mediabunny');
    const target = new BufferTarget();
    const conversion = await Conversion.init({
      input: new Input({ source: new BlobSource(film), formats: ALL_FORMATS }),
      output: new Output({ format: new WebMOutputFormat(), target }),
    });
    if (!conversion.isValid) return film;
    await conversion.execute();
    return target.buffer ? new Blob([target.buffer], { type: film.type }) : film;
  } catch {
    return film;
  }
}

@Injectable()
export class Recorder {
  readonly state = signal<Recording>({ kind: 'off' });
  readonly isOn = computed(() => this.state().kind === 'on');
  private recorder: MediaRecorder | undefined;
  private done: ((film: Blob | undefined) => void) | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.abandon());
  }

  /** Records until it is stopped, or as much as can be kept; resolves to the film, or to nothing where none came of it. */
  record(stream: MediaStream, of: Recorded = 'film'): Promise<Blob | undefined> {
    const mimeType = KINDS[of].find((k) => MediaRecorder.isTypeSupported(k));
    if (mimeType === undefined) {
      const remedy = of === 'film' ? 'Choose one from a file.' : 'Use another browser to speak.';
      this.state.set({ kind: 'failed', reason: `This browser records no ${of}. ${remedy}` });
      return Promise.resolve(undefined);
    }
    const recorder = new MediaRecorder(stream, { mimeType, videoBitsPerSecond: BITRATE });
    const parts: Blob[] = [];
    const began = performance.now();
    let bytes = 0;
    recorder.ondataavailable = ({ data }): void => {
      parts.push(data);
      bytes += data.size;
      if (recorder.state !== 'recording') return;
      this.state.set({ kind: 'on', seconds: (performance.now() - began) / 1000, bytes });
      if (bytes > FILM_LIMIT - SPARE) this.stop();
    };
    this.recorder = recorder;
    this.state.set({ kind: 'on', seconds: 0, bytes: 0 });
    return new Promise((resolve) => {
      this.done = resolve;
      recorder.onerror = (): void => {
        this.state.set({ kind: 'failed', reason: 'The recording broke off. Record it again.' });
        this.end(undefined);
      };
      recorder.onstop = (): void => {
        // What was thrown away ends after that, when another may have begun.
        if (this.recorder === recorder) void this.finish(new Blob(parts, { type: mimeType.replace(/;.*/, '') }), of);
      };
      recorder.start(SLICE);
    });
  }

  stop(): void {
    if (this.recorder?.state === 'recording') this.recorder.stop();
  }

  /** Stops, and makes no film of it. */
  abandon(): void {
    const { recorder } = this;
    this.end(undefined);
    if (recorder?.state === 'recording') recorder.stop();
    this.state.set({ kind: 'off' });
  }

  private async finish(film: Blob, of: Recorded): Promise<void> {
    if (film.size === 0) {
      const reason = `Nothing came from the ${SOURCES[of]}. Choose it again, then record.`;
      this.state.set({ kind: 'failed', reason });
      this.end(undefined);
      return;
    }
    this.state.set({ kind: 'finishing' });
    const whole = await withIndex(film);
    this.state.set({ kind: 'off' });
    this.end(whole);
  }

  private end(film: Blob | undefined): void {
    this.done?.(film);
    this.done = undefined;
    this.recorder = undefined;
  }
}
