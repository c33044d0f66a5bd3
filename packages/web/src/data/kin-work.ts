/**
 * Deriving knots and discovering kin, in a worker: told as it is found, stopped at once.
 */
import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { Derivation, FigureFile, KinKind, KinOffer, KinProof, Vocabulary } from '@foxtrail/core';

import type { KinEntryFile } from './kin';

/** A derived knot as it comes from the worker. */
export interface Made {
  readonly derivation: Derivation;
  readonly kin: KinKind;
  readonly turns: number;
  readonly says: string;
  readonly name: string;
  readonly document: FigureFile;
  readonly proof: KinProof;
}

export type KinOrder =
  | { readonly kind: 'derive'; readonly id: number; readonly document: FigureFile; readonly words: Vocabulary }
  /** The same turn several times more. */
  | {
      readonly kind: 'turns';
      readonly id: number;
      readonly document: FigureFile;
      readonly words: Vocabulary;
      readonly once: Made;
      readonly more: number;
    }
  | {
      readonly kind: 'discover';
      readonly id: number;
      readonly entries: readonly KinEntryFile[];
    }
  | { readonly kind: 'cancel' };

export type KinMessage =
  | { readonly kind: 'progress'; readonly id: number; readonly share: number }
  | { readonly kind: 'made'; readonly id: number; readonly made: readonly Made[] }
  | { readonly kind: 'offer'; readonly id: number; readonly offer: KinOffer }
  | { readonly kind: 'refused'; readonly id: number; readonly reason: string }
  | { readonly kind: 'done'; readonly id: number };

@Injectable()
export class KinWork {
  private worker: Worker | undefined;
  private next = 0;
  private take: ((m: KinMessage) => void) | undefined;
  /** Share of the work done; nothing while none is in hand. */
  readonly share = signal<number | undefined>(undefined);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker?.terminate());
  }

  /** Everything that can be made of a knot; `show` is given what is known so far. */
  derive(document: FigureFile, words: Vocabulary, show: (made: readonly Made[]) => void): Promise<string | undefined> {
    return this.order(
      (id) => ({ kind: 'derive', id, document, words }),
      (m) => {
        if (m.kind === 'made') show(m.made);
      },
    );
  }

  turns(
    document: FigureFile,
    words: Vocabulary,
    once: Made,
    more: number,
    show: (made: Made) => void,
  ): Promise<string | undefined> {
    return this.order(
      (id) => ({ kind: 'turns', id, document, words, once, more }),
      (m) => {
        if (m.kind === 'made' && m.made[0]) show(m.made[0]);
      },
    );
  }

  discover(entries: readonly KinEntryFile[], offer: (o: KinOffer) => void): Promise<string | undefined> {
    return this.order(
      (id) => ({ kind: 'discover', id, entries }),
      (m) => {
        if (m.kind === 'offer') offer(m.offer);
      },
    );
  }

  cancel(): void {
    this.worker?.postMessage({ kind: 'cancel' } satisfies KinOrder);
    this.next += 1;
    this.share.set(undefined);
    this.finish?.(undefined);
  }
  private finish: ((trouble: string | undefined) => void) | undefined;

  /** Resolves to why it was refused, or to nothing: done or stopped. */
  private order(order: (id: number) => KinOrder, take: (m: KinMessage) => void): Promise<string | undefined> {
    this.finish?.(undefined);
    const id = (this.next += 1);
    this.share.set(0);
    return new Promise((resolve) => {
      const end = (trouble: string | undefined): void => {
        if (id === this.next) this.share.set(undefined);
        this.finish = undefined;
        resolve(trouble);
      };
      this.finish = end;
      this.take = (m) => {
        if ('id' in m && m.id !== id) return;
        if (m.kind === 'progress') this.share.set(m.share);
        else if (m.kind === 'done') end(undefined);
        else if (m.kind === 'refused') end(m.reason);
        else take(m);
      };
      this.running().postMessage(order(id));
    });
  }

  private running(): Worker {
    if (!this.worker) {
      this.worker = new Worker(new URL('../workers/kin.worker', import.meta.url), { type: 'module' });
      this.worker.onmessage = ({ data }: MessageEvent<KinMessage>): void => this.take?.(data);
      this.worker.onerror = (): void => this.finish?.('The comparison stopped with an error of its own.');
    }
    return this.worker;
  }
}
