import { formSvg } from '@foxtrail/core/form'; /** Patterns of the book as they lie in the hand: their forms come with the book, apart from it, and are fetched when the first is shown. */
import { inject, Injectable, signal } from '@angular/core';

import { patternOf } from '@foxtrail/pattern-book';
import type * as Forms from '@foxtrail/pattern-book/forms';
import { Theme } from '../data/theme';

/** Width of a picture, in pixels. */
const WIDTH = 320;

@Injectable({ providedIn: 'root' })
export class PatternPictures {
  private readonly theme = inject(Theme);
  private readonly forms = signal<typeof Forms | undefined>(undefined);
  private asked = false;
  private readonly known = new Map<string, string>();

  /** The address of a pattern's picture; nothing while the forms are on their way, and for a pattern that has none. */
  of(id: string): string | undefined {
    if (!this.asked) {
      this.asked = true;
      import('@foxtrail/pattern-book/forms').then(
        (forms) => this.forms.set(forms),
        // Without them patterns are shown as they are drawn; they are asked for again with the next page.
        () => (this.asked = false),
      );
    }
    const look = this.theme.look();
    const [form, pattern] = [this.forms()?.patternForm(id), patternOf(id)];
    if (!form || !pattern) return undefined;
    const key = `${id} ${look.ink}`;
    const found = this.known.get(key);
    if (found) return found;
    const { name, method } = pattern.knot;
    const words = { title: name, description: `${name}, dressed and set` };
    const svg = formSvg(method.figure, form, { ...words, look, width: WIDTH, background: false });
    const address = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
    this.known.set(key, address);
    return address;
  }
}
