/**
 * Deriving knots and discovering kin, in a worker: told as it is found, stopped at once.
 */
import { computed, DestroyRef, inject, Injectable } from '@angular/core';
import {
  sayRefusal,
  type Derivation,
  type FigureFile,
  type KinKind,
  type KinOffer,
  type KinProof,
  type Result,
  type Vocabulary,
} from '@foxtrail/core';
import type { KinEntryFile } from './kin';
import { WorkDesk } from './work-desk';

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

export interface DeriveOrder {
  readonly document: FigureFile;
  readonly words: Vocabulary;
}
/** The same turn several times more. */
export interface TurnsOrder extends DeriveOrder {
  readonly once: Made;
  readonly more: number;
}
export interface DiscoverOrder {
  readonly entries: readonly KinEntryFile[];
}
/** What is told on the way: all that was made so far, or one offer. */
export interface KinFound {
  readonly made?: readonly Made[];
  readonly offer?: KinOffer;
}

@Injectable()
export class KinWork {
  private readonly desk = new WorkDesk();
  /** Share of the work done; nothing while none is in hand. */
  readonly share = computed(() => this.desk.progress()?.share);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.desk.close());
  }

  /** Everything that can be made of a knot; `show` is given what is known so far. Resolves to why it was refused, if it was. */
  async derive(
    document: FigureFile,
    words: Vocabulary,
    show: (made: readonly Made[]) => void,
  ): Promise<string | undefined> {
    return trouble(await this.desk.order('derive', { document, words }, ({ made }) => made && show(made)));
  }

  async turns(
    document: FigureFile,
    words: Vocabulary,
    once: Made,
    more: number,
    show: (made: Made) => void,
  ): Promise<string | undefined> {
    const order = { document, words, once, more };
    return trouble(await this.desk.order('turns', order, ({ made }) => made?.[0] && show(made[0])));
  }

  async discover(entries: readonly KinEntryFile[], take: (o: KinOffer) => void): Promise<string | undefined> {
    return trouble(await this.desk.order('discover', { entries }, ({ offer }) => offer && take(offer)));
  }

  cancel(): void {
    this.desk.stop();
  }
}

const trouble = (done: Result<unknown> | undefined): string | undefined =>
  done && !done.ok ? sayRefusal(done) : undefined;
