/**
 * Pictures of the steps that finish a knot, as it lies in the hand: set in a worker once whoever draws it pauses.
 */
import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import { type Figure, type FinishKind, type Look, type SetForm, type Setting } from '@foxtrail/core';
import { finishSvg, formSvg } from '@foxtrail/core/form';
import { FormingService } from './forming';

/** The knot to be pictured, what it is called, and how. */
export interface Pictured {
  readonly figure: Figure;
  readonly name: string;
  readonly look: Look;
  readonly background: boolean;
}

/** Where the picture of each step is, and that of the back. */
export type Pictures = Readonly<Record<FinishKind | 'back', string>>;

/** Provided beside `FormingService` by whoever shows the pictures, and gone with it. */
@Injectable()
export class HandPictures {
  private readonly forming = inject(FormingService);
  private readonly form = signal<{ readonly figure: Figure; readonly form: SetForm } | undefined>(undefined);
  private readonly made = signal<Pictures | undefined>(undefined);
  /** Nothing until the knot is set, and where it cannot be. */
  readonly pictures = this.made.asReadonly();

  /** Keeps to what is asked, after a pause in milliseconds. Called while its owner is made. */
  follow(setting: () => Setting | undefined, how: () => Omit<Pictured, 'figure'>, pause: number): void {
    effect((clean) => {
      const asked = setting();
      untracked(() => this.form.set(undefined));
      if (!asked) return;
      let gone = false;
      const wait = setTimeout(() => {
        void this.forming
          .set(asked, () => undefined)
          .then((done) => {
            if (!gone && done?.ok === true) this.form.set({ figure: asked.figure, form: done.value });
          });
      }, pause);
      clean(() => {
        gone = true;
        clearTimeout(wait);
        this.forming.stop();
      });
    });
    effect((clean) => {
      const known = this.form();
      const pictures = known && draw(known.form, { ...how(), figure: known.figure });
      this.made.set(pictures);
      clean(() => {
        for (const url of Object.values(pictures ?? {})) URL.revokeObjectURL(url);
      });
    });
  }
}

function draw(form: SetForm, { figure, name: title, look, background }: Pictured): Pictures {
  const address = (svg: string): string => URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
  const options = { title, description: `${title}, dressed and set`, look, background };
  const finish = (does: FinishKind): string => address(finishSvg(figure, form, does, options));
  return {
    dress: finish('dress'),
    set: finish('set'),
    check: finish('check'),
    back: address(formSvg(figure, form, { ...options, station: 'back' })),
  };
}
