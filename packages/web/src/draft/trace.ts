/**
 * A picture under the board to draw after: a photograph of the knot in hand. It stays in this browser, and is never saved or published.
 */
import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { Box } from '@foxtrail/core';

/** Largest file and picture, in bytes and in pixels: what a browser shows without stumbling. */
const MOST_BYTES = 25_000_000;
const MOST_PIXELS = 50_000_000;
const KINDS = ['image/png', 'image/jpeg', 'image/webp'];

interface Picture {
  readonly url: string;
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

  constructor() {
    inject(DestroyRef).onDestroy(() => this.remove());
  }

  /** Lays a picture under what is in view. Resolves to why it cannot be, or to nothing. */
  async lay(file: File, view: Box): Promise<string> {
    if (!KINDS.includes(file.type)) return `${file.name} is not a PNG, JPEG or WebP picture. Save it as one of these.`;
    if (file.size > MOST_BYTES)
      return `${file.name} has ${Math.ceil(file.size / 1e6)} MB; ${MOST_BYTES / 1e6} are the most. Save it smaller.`;
    const url = URL.createObjectURL(file);
    const image = new Image();
    image.src = url;
    try {
      await image.decode();
    } catch {
      URL.revokeObjectURL(url);
      return `${file.name} cannot be read as a picture. Save it anew and try again.`;
    }
    const [w, h] = [image.naturalWidth, image.naturalHeight];
    if (w * h > MOST_PIXELS) {
      URL.revokeObjectURL(url);
      return `${file.name} has ${w} × ${h} pixels; ${MOST_PIXELS / 1e6} million are the most. Save it smaller.`;
    }
    this.remove();
    const scale = Math.min((view[2] - view[0]) / w, (view[3] - view[1]) / h);
    const [x, y] = [(view[0] + view[2]) / 2, (view[1] + view[3]) / 2];
    const [dx, dy] = [(w * scale) / 2, (h * scale) / 2];
    this.picture.set({ url, name: file.name, box: [x - dx, y - dy, x + dx, y + dy] });
    return '';
  }

  remove(): void {
    const known = this.picture();
    if (known) URL.revokeObjectURL(known.url);
    this.picture.set(undefined);
  }
}
