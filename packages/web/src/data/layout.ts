/**
 * Tidying a figure and reading a drawing, in a worker: one order at a time, told how far it is, stopped at once.
 */
import { inject, Injectable, DestroyRef, signal } from '@angular/core';
import type { Figure, FigureFile, Mapping, ReadDrawing, SpanMap } from '@foxtrail/core';

export type LayoutOrder =
  | { readonly kind: 'tidy'; readonly id: number; readonly document: FigureFile; readonly tight: boolean }
  | { readonly kind: 'read'; readonly id: number; readonly text: string; readonly name: string }
  | { readonly kind: 'cancel' };

export type LayoutMessage =
  | { readonly kind: 'progress'; readonly id: number; readonly share: number }
  | { readonly kind: 'picture'; readonly id: number; readonly figure: Figure }
  | {
      readonly kind: 'tidied';
      readonly id: number;
      readonly figure: Figure;
      readonly mapping: readonly (readonly [string, readonly SpanMap[]])[];
    }
  | {
      readonly kind: 'read';
      readonly id: number;
      readonly document: FigureFile;
      readonly from: ReadDrawing['from'];
      readonly toWalk: boolean;
    }
  | { readonly kind: 'refused'; readonly id: number; readonly reason: string };

/** What comes of an order; nothing when it was stopped. */
export type Tidying =
  | { readonly ok: true; readonly figure: Figure; readonly mapping: Mapping }
  | { readonly ok: false; readonly reason: string };
export type Reading =
  | { readonly ok: true; readonly document: FigureFile; readonly from: ReadDrawing['from']; readonly toWalk: boolean }
  | { readonly ok: false; readonly reason: string };

@Injectable()
export class LayoutService {
  private worker: Worker | undefined;
  private next = 0;
  private take: ((message: LayoutMessage) => void) | undefined;
  /** Share of the work done; nothing while none is in hand. */
  readonly share = signal<number | undefined>(undefined);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker?.terminate());
  }

  /** Tidies, or draws tight; `show` is given the figure on its way. Resolves to nothing when it was cancelled. */
  tidy(document: FigureFile, show: (figure: Figure) => void, tight = false): Promise<Tidying | undefined> {
    return this.order<Tidying>({ kind: 'tidy', document, tight }, (m) => {
      if (m.kind === 'picture') show(m.figure);
      return m.kind === 'tidied' ? { ok: true, figure: m.figure, mapping: new Map(m.mapping) } : undefined;
    });
  }

  /** Reads a file or a pasted text of any kind. */
  read(text: string, name: string): Promise<Reading | undefined> {
    return this.order<Reading>({ kind: 'read', text, name }, (m) =>
      m.kind === 'read' ? { ok: true, document: m.document, from: m.from, toWalk: m.toWalk } : undefined,
    );
  }

  cancel(): void {
    this.worker?.postMessage({ kind: 'cancel' } satisfies LayoutOrder);
    this.next += 1;
    this.share.set(undefined);
    this.finish?.();
  }
  private finish: (() => void) | undefined;

  private order<T extends { ok: boolean }>(
    what: { kind: 'tidy'; document: FigureFile; tight: boolean } | { kind: 'read'; text: string; name: string },
    result: (m: LayoutMessage) => T | undefined,
  ): Promise<T | { ok: false; reason: string } | undefined> {
    this.cancel();
    const id = (this.next += 1);
    const worker = (this.worker ??= this.open());
    this.share.set(0);
    return new Promise((resolve) => {
      const end = (value: T | { ok: false; reason: string } | undefined): void => {
        this.take = undefined;
        this.finish = undefined;
        if (id === this.next) this.share.set(undefined);
        resolve(value);
      };
      this.finish = (): void => end(undefined);
      this.take = (m): void => {
        if (m.id !== id) return;
        if (m.kind === 'progress') this.share.set(m.share);
        else if (m.kind === 'refused') end({ ok: false, reason: m.reason });
        else {
          const done = result(m);
          if (done) end(done);
        }
      };
      worker.postMessage({ ...what, id } satisfies LayoutOrder);
    });
  }

  private open(): Worker {
    const worker = new Worker(new URL('../workers/layout.worker', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<LayoutMessage>): void => this.take?.(data);
    // Work that fails is a bug; whoever waits for it is told, and the next order gets a worker of its own.
    worker.onerror = (): void => {
      this.take?.({
        kind: 'refused',
        id: this.next,
        reason: 'The work stopped with an error of its own; nothing has changed.',
      });
      worker.terminate();
      this.worker = undefined;
    };
    return worker;
  }
}
