/**
 * What the hand is on does not move. Results of work in the background arrive whenever they are done, often between the moment a
 * button is aimed at and the moment it is pressed: they are shown when no pointer is down.
 */
import { DOCUMENT, inject, Injectable, linkedSignal, signal, type Signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { fromEvent, merge } from 'rxjs';

@Injectable({ providedIn: 'root' })
export class Steady {
  private readonly pressed = signal(false);

  constructor() {
    const document = inject(DOCUMENT);
    const of = (name: string) => fromEvent(document, name, { capture: true, passive: true });
    of('pointerdown')
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.pressed.set(true));
    merge(of('pointerup'), of('pointercancel'), fromEvent(document.defaultView ?? document, 'blur'))
      .pipe(takeUntilDestroyed())
      // The click that a press ends in comes right after the pointer is up: what it is meant for stays until then.
      .subscribe(() => setTimeout(() => this.pressed.set(false)));
  }

  /** The value as it was when the pointer went down, until it is up again. */
  hold<T>(source: Signal<T>): Signal<T> {
    return linkedSignal<{ value: T; pressed: boolean }, T>({
      source: () => ({ value: source(), pressed: this.pressed() }),
      computation: (now, before) => (now.pressed && before ? before.value : now.value),
    }).asReadonly();
  }
}
