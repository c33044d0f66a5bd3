/**
 * Patterns of the book as they lie in the hand: their forms come with the book, apart from it, and are fetched when the first is shown.
 */
import { inject, Injectable, signal, type WritableSignal } from '@angular/core';
import type { Look } from '@foxtrail/core';
import { formSvg } from '@foxtrail/core/form';
import { patternOf } from '@foxtrail/pattern-book';
import type * as Forms from '@foxtrail/pattern-book/forms';
import { Theme } from '../data/theme';

/** Width of a picture, in pixels. */
const WIDTH = 320;

function pictureOf(id: string, look: Look, { patternForm }: typeof Forms): string | undefined {
  const [form, pattern] = [patternForm(id), patternOf(id)];
  if (!form || !pattern) return undefined;
  const { name, method } = pattern.knot;
  const words = { title: name, description: `${name}, dressed and set` };
  const svg = formSvg(method.figure, form, { ...words, look, width: WIDTH, background: false });
  return URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
}

@Injectable({ providedIn: 'root' })
export class PatternPictures {
  private readonly theme = inject(Theme);
  private forms: Promise<typeof Forms> | undefined;
  private readonly known = new Map<string, WritableSignal<string | undefined>>();
  /** What is to be drawn, one after another: a page may ask for many at once, and is used meanwhile. */
  private waiting: Promise<unknown> = Promise.resolve();

  /** The address of a pattern's picture; nothing until it is drawn, and for a pattern that has none. */
  of(id: string): string | undefined {
    const look = this.theme.look();
    const key = `${id} ${look.ink}`;
    const known = this.known.get(key);
    if (known) return known();
    const made = signal<string | undefined>(undefined);
    this.known.set(key, made);
    this.forms ??= import('@foxtrail/pattern-book/forms');
    const { forms } = this;
    this.waiting = this.waiting
      .then(() => new Promise((done) => setTimeout(done)))
      .then(async () => made.set(pictureOf(id, look, await forms)))
      .catch(() => {
        // Without the forms patterns are shown as they are drawn; they are asked for again with the next page.
        this.forms = undefined;
        this.known.delete(key);
      });
    return made();
  }
}
