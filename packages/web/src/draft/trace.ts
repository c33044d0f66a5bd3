/**
 * A picture under the board to draw after: a photograph of the knot in hand, or a frame of a clip. It stays in this browser, over a
 * reload too, and is never saved on the server or published.
 */
import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { Box } from '@foxtrail/core';
import type { CanvasSink, Input } from 'mediabunny';
import { forgetTrace, keepTrace, traceOf } from '../data/traces';

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
  private opened: OpenedClip | undefined;
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
      void keepTrace({ knot, blob, name, box, strength, mirrored });
    });
  }

  /** Opens a knot: the picture that was kept of it lies there again. */
  async open(knot: string): Promise<void> {
    if (this.knot() === knot) return;
    this.letGo();
    this.closeClip();
    this.knot.set(knot);
    const found = await traceOf(knot);
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
    const opened = await openedClip(file);
    if (!opened) return `${file.name} cannot be played by this browser. Save it as WebM or MP4 and try again.`;
    this.closeClip();
    this.opened = opened;
    this.clip.set({ duration: opened.duration, at: 0 });
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
    const { opened } = this;
    if (!opened) return '';
    // A later frame may be asked for meanwhile: that one is shown.
    const current = (): boolean => this.opened === opened && this.clip()?.at === at;
    const frame = await opened.sink.getCanvas(opened.first + at);
    if (!current()) return '';
    const canvas = frame?.canvas as HTMLCanvasElement | undefined;
    const blob = await new Promise<Blob | null>((done) =>
      canvas ? canvas.toBlob(done, 'image/webp', 0.9) : done(null),
    );
    if (!current()) return '';
    if (!blob) return `${name} gives no frame at that time. Choose another.`;
    return this.layBlob(blob, name, view, where);
  }

  /** Takes the picture away, and what is kept of it. */
  remove(): void {
    const knot = this.knot();
    this.letGo();
    this.closeClip();
    if (knot !== undefined) void forgetTrace(knot);
  }

  private letGo(): void {
    const known = this.picture();
    if (known) URL.revokeObjectURL(known.url);
    this.picture.set(undefined);
  }

  private closeClip(): void {
    this.opened?.input.dispose();
    this.opened = undefined;
    this.clip.set(undefined);
  }
}

/** A clip whose frames can be had one by one: how long it is and when its first frame is, in seconds. */
interface OpenedClip {
  readonly input: Input;
  readonly sink: CanvasSink;
  readonly first: number;
  readonly duration: number;
}

/**
 * Opens a clip, or gives nothing for what is none or cannot be decoded here. Frames are decoded by their times: a playing element
 * shows whatever it has just then.
 */
async function openedClip(file: File): Promise<OpenedClip | undefined> {
  const { ALL_FORMATS, BlobSource, CanvasSink, Input } = await import('mediabunny');
  const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS });
  try {
    const track = await input.getPrimaryVideoTrack();
    if (track && (await track.canDecode())) {
      const [first, end] = [await track.getFirstTimestamp(), await track.computeDuration()];
      return { input, sink: new CanvasSink(track), first, duration: end - first };
    }
  } catch {
    // Not a clip at all.
  }
  input.dispose();
  return undefined;
}
