/**
 * A picture under the board to draw after: a photograph of the knot in hand, or a frame of a clip. It stays in this browser, over a
 * reload too, and is never saved on the server or published.
 */
import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { Box } from '@foxtrail/core';
import { kept, TRACES } from '../data/kept';

/** Largest picture file and clip, in bytes, and largest picture, in pixels: what a browser shows without stumbling. */
const MOST_BYTES = 25_000_000;
const MOST_CLIP_BYTES = 400_000_000;
const MOST_PIXELS = 50_000_000;
const KINDS = ['image/png', 'image/jpeg', 'image/webp'];

interface Picture {
  readonly url: string;
  readonly blob: Blob;
  readonly name: string;
  /** Where it lies on the board, in diameters. */
  readonly box: Box;
}

/** A picture as it is kept in the browser. */
interface Kept {
  readonly knot: string;
  readonly blob: Blob;
  readonly name: string;
  readonly box: Box;
  readonly strength: number;
  readonly mirrored: boolean;
}

@Injectable()
export class TraceService {
  private readonly picture = signal<Picture | undefined>(undefined);
  readonly shown = this.picture.asReadonly();
  /** Opacity, from 0 to 1. */
  readonly strength = signal(0.5);
  /** A mirrored photograph is shown the right way round. */
  readonly mirrored = signal(false);
  readonly transform = computed(() => {
    const box = this.picture()?.box;
    return box && this.mirrored() ? `translate(${box[0] + box[2]} 0) scale(-1 1)` : null;
  });
  /** The clip whose frame is shown: how long it is, and where the frame is, in seconds. */
  readonly clip = signal<{ readonly duration: number; readonly at: number } | undefined>(undefined);
  private video: HTMLVideoElement | undefined;
  /** The knot whose picture is kept. */
  private readonly knot = signal<string | undefined>(undefined);

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.letGo();
      this.closeClip();
    });
    effect(() => {
      const [picture, strength, mirrored] = [this.picture(), this.strength(), this.mirrored()];
      const knot = untracked(this.knot);
      if (knot === undefined || !picture) return;
      const { blob, name, box } = picture;
      void keep({ knot, blob, name, box, strength, mirrored });
    });
  }

  /** Opens a knot: the picture that was kept of it lies there again. */
  async open(knot: string): Promise<void> {
    if (this.knot() === knot) return;
    this.letGo();
    this.closeClip();
    this.knot.set(knot);
    const found = await keptOf(knot);
    if (!found || this.knot() !== knot || this.picture()) return;
    this.strength.set(found.strength);
    this.mirrored.set(found.mirrored);
    this.picture.set({
      url: URL.createObjectURL(found.blob),
      blob: found.blob,
      name: found.name,
      box: found.box,
    });
  }

  /** Lays a picture, or a clip's first frame, under what is in view. Resolves to why it cannot be, or to nothing. */
  async lay(file: File, view: Box): Promise<string> {
    if (file.type.startsWith('video/')) return this.layClip(file, view);
    if (!KINDS.includes(file.type))
      return `${file.name} is not a PNG, JPEG or WebP picture, nor a clip. Save it as one of these.`;
    if (file.size > MOST_BYTES)
      return `${file.name} has ${Math.ceil(file.size / 1e6)} MB; ${MOST_BYTES / 1e6} are the most. Save it smaller.`;
    const trouble = await this.layBlob(file, file.name, view);
    if (trouble === '') this.closeClip();
    return trouble;
  }

  private async layBlob(blob: Blob, name: string, view: Box, where?: Box): Promise<string> {
    const url = URL.createObjectURL(blob);
    const image = new Image();
    image.src = url;
    try {
      await image.decode();
    } catch {
      URL.revokeObjectURL(url);
      return `${name} cannot be read as a picture. Save it anew and try again.`;
    }
    const [w, h] = [image.naturalWidth, image.naturalHeight];
    if (w * h > MOST_PIXELS) {
      URL.revokeObjectURL(url);
      return `${name} has ${w} × ${h} pixels; ${MOST_PIXELS / 1e6} million are the most. Save it smaller.`;
    }
    this.letGo();
    const scale = Math.min((view[2] - view[0]) / w, (view[3] - view[1]) / h);
    const [x, y] = [(view[0] + view[2]) / 2, (view[1] + view[3]) / 2];
    const [dx, dy] = [(w * scale) / 2, (h * scale) / 2];
    this.picture.set({ url, blob, name, box: where ?? [x - dx, y - dy, x + dx, y + dy] });
    return '';
  }

  private async layClip(file: File, view: Box): Promise<string> {
    if (file.size > MOST_CLIP_BYTES)
      return `${file.name} has ${Math.ceil(file.size / 1e6)} MB; ${MOST_CLIP_BYTES / 1e6} are the most. Cut it shorter.`;
    const video = document.createElement('video');
    video.muted = true;
    video.preload = 'auto';
    video.src = URL.createObjectURL(file);
    const ready = await new Promise<boolean>((done) => {
      video.onloadeddata = (): void => done(true);
      video.onerror = (): void => done(false);
    });
    if (!ready || video.videoWidth === 0) {
      URL.revokeObjectURL(video.src);
      return `${file.name} cannot be played by this browser. Save it as WebM or MP4 and try again.`;
    }
    this.closeClip();
    this.video = video;
    const duration = Number.isFinite(video.duration) ? video.duration : 0;
    this.clip.set({ duration, at: 0 });
    return this.showFrame(0, file.name, view);
  }

  /** Shows the frame of the clip at a time in seconds, where the one before lay. */
  async seek(at: number): Promise<void> {
    const [clip, picture] = [this.clip(), this.picture()];
    if (!clip || !picture) return;
    this.clip.set({ ...clip, at });
    await this.showFrame(at, picture.name, picture.box, picture.box);
  }

  private async showFrame(at: number, name: string, view: Box, where?: Box): Promise<string> {
    const { video } = this;
    if (!video) return '';
    // Gone to even where it stands there already: a clip that has just been opened may not have its first picture yet.
    const there = new Promise((done) => (video.onseeked = done));
    video.currentTime = at;
    await there;
    // A later frame was asked for meanwhile: that one is shown.
    if (this.video !== video || this.clip()?.at !== at) return '';
    const canvas = document.createElement('canvas');
    canvas.width = video.videoWidth;
    canvas.height = video.videoHeight;
    canvas.getContext('2d')?.drawImage(video, 0, 0);
    const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/webp', 0.9));
    if (!blob || this.clip()?.at !== at) return blob ? '' : `${name} gives no frame at that time. Choose another.`;
    return this.layBlob(blob, name, view, where);
  }

  /** Takes the picture away, and what is kept of it. */
  remove(): void {
    const knot = this.knot();
    this.letGo();
    this.closeClip();
    if (knot !== undefined) void forget(knot);
  }

  private letGo(): void {
    const known = this.picture();
    if (known) URL.revokeObjectURL(known.url);
    this.picture.set(undefined);
  }

  private closeClip(): void {
    if (this.video) URL.revokeObjectURL(this.video.src);
    this.video = undefined;
    this.clip.set(undefined);
  }
}

// What cannot be kept (a private window, a full disk) is still shown until the page is left.
const keep = async (entry: Kept): Promise<void> => {
  await (await kept()).put(TRACES, entry).catch(() => undefined);
};
const keptOf = async (knot: string): Promise<Kept | undefined> =>
  (await (await kept()).get(TRACES, knot).catch(() => undefined)) as Kept | undefined;
const forget = async (knot: string): Promise<void> => {
  await (await kept()).delete(TRACES, knot).catch(() => undefined);
};
