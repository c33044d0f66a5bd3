/**
 * What is known of every knot of the shelf and the pattern book, for choosing among them: worked out in a worker when it is wanted.
 */
import { inject, Injectable, signal } from '@angular/core';
import type { BehaviourRow, Choosable, KnotClass, UseGrade } from '@foxtrail/core';
import { firstValueFrom } from 'rxjs';
import { KinService, type KinEntryFile } from './kin';
import { sayTrouble, troubleOf } from './problem';

export interface KnownKnot extends Choosable {
  readonly name: string;
  readonly class: KnotClass;
  readonly useGrade: UseGrade;
  readonly crossings: number;
  /** Rope in the knot as it is drawn, in diameters. */
  readonly rope: number;
  readonly behaviour: readonly BehaviourRow[];
  readonly cautions: readonly string[];
}

export interface ChooseOrder {
  readonly entries: readonly KinEntryFile[];
}
export type ChooseMessage =
  | { readonly kind: 'progress'; readonly share: number }
  | { readonly kind: 'known'; readonly known: readonly KnownKnot[] };

@Injectable({ providedIn: 'root' })
export class ChooseService {
  private readonly kin = inject(KinService);
  private worker: Worker | undefined;
  readonly known = signal<readonly KnownKnot[] | undefined>(undefined);
  /** Share of the work done; nothing while none is in hand. */
  readonly share = signal<number | undefined>(undefined);
  readonly trouble = signal<string | undefined>(undefined);

  /** Reads the shelf and works everything out anew. */
  async load(): Promise<void> {
    this.stop();
    this.trouble.set(undefined);
    this.share.set(0);
    try {
      await firstValueFrom(this.kin.load());
      const entries = await this.kin.entries(() => this.share() !== undefined);
      if (this.share() === undefined) return;
      this.work(entries);
    } catch (error) {
      this.share.set(undefined);
      this.trouble.set(sayTrouble(troubleOf(error)));
    }
  }

  stop(): void {
    this.worker?.terminate();
    this.worker = undefined;
    this.share.set(undefined);
  }

  private work(entries: ChooseOrder['entries']): void {
    const worker = new Worker(new URL('../workers/choose.worker', import.meta.url), { type: 'module' });
    this.worker = worker;
    worker.onmessage = ({ data }: MessageEvent<ChooseMessage>): void => {
      if (data.kind === 'progress') {
        this.share.set(data.share);
        return;
      }
      this.known.set(data.known);
      this.stop();
    };
    worker.onerror = (): void => {
      this.stop();
      this.trouble.set('What is known of the knots could not be worked out: an error of the product’s own.');
    };
    worker.postMessage({ entries } satisfies ChooseOrder);
  }
}
