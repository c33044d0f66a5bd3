/** Something that is tried and may fail: whether it goes on, and what went wrong with it, in words. */
import { computed, signal } from '@angular/core';
import { defaultIfEmpty, from, take, type Observable } from 'rxjs';
import { inWords } from './problem';

export class Attempt {
  private readonly going = signal(0);
  readonly busy = computed(() => this.going() > 0);
  /** What went wrong at the last try, or what is missing before it. */
  readonly trouble = signal<string | undefined>(undefined);

  /** Tries it, and goes on with its answer; when it fails, says why. Resolves to whether it was done. */
  run<T>(work: Observable<T> | Promise<T>, then?: (answer: T) => unknown): Promise<boolean> {
    this.trouble.set(undefined);
    this.going.update((n) => n + 1);
    return new Promise((resolve) => {
      const ended = (done: boolean): void => {
        this.going.update((n) => n - 1);
        resolve(done);
      };
      from(work)
        .pipe(take(1), defaultIfEmpty(undefined as T))
        .subscribe({
          next: (answer) => then?.(answer),
          error: (error: unknown) => {
            this.trouble.set(inWords(error));
            ended(false);
          },
          complete: () => ended(true),
        });
    });
  }
}
