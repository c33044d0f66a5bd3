/** What was done to a document, to be undone and done again. */
import { computed, signal } from '@angular/core';

/** So many steps back are kept. */
const MOST = 200;

export class Steps<T> {
  private readonly past = signal<readonly T[]>([]);
  private readonly future = signal<readonly T[]>([]);
  readonly mayUndo = computed(() => this.past().length > 0);
  readonly mayRedo = computed(() => this.future().length > 0);

  /** A document is about to be changed. */
  did(before: T): void {
    this.past.update((p) => [...p, before].slice(-MOST));
    this.future.set([]);
  }

  /** The document as it was before the last step; nothing where there was none. */
  undo(now: T): T | undefined {
    const before = this.past().at(-1);
    if (before === undefined) return undefined;
    this.past.update((p) => p.slice(0, -1));
    this.future.update((f) => [...f, now]);
    return before;
  }

  redo(now: T): T | undefined {
    const after = this.future().at(-1);
    if (after === undefined) return undefined;
    this.future.update((f) => f.slice(0, -1));
    this.past.update((p) => [...p, now]);
    return after;
  }

  clear(): void {
    this.past.set([]);
    this.future.set([]);
  }
}
