/**
 * Setting a knot, in a worker: the ropes on their way, how far it is, stopped at once. A figure that was set before is there at once.
 */
import { computed, DestroyRef, inject, Injectable } from '@angular/core';
import {
  accept,
  type Chain,
  type Figure,
  type FigureFile,
  type Result,
  type SetForm,
  type Solid,
} from '@foxtrail/core';
import { type Tightening } from '@foxtrail/core/reel';
import { WorkDesk } from './work-desk';

export interface SetOrder {
  readonly document: FigureFile;
}
/** Ropes on their way, and what they are tied to. */
export interface OnItsWay {
  readonly chains: readonly Chain[];
  readonly solids: readonly Solid[];
}

/** Forms of figures that were set, for as long as the figure is about. */
const known = new WeakMap<Figure, SetForm>();
const watched = new WeakMap<Figure, Tightening>();

@Injectable()
export class FormingService {
  private readonly desk = new WorkDesk();
  /** Share of the work done; nothing while none is in hand. */
  readonly share = computed(() => this.desk.progress()?.share);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.desk.close());
  }

  /** Sets the figure of a document; `seen` is given the ropes on their way. Resolves to nothing when it was stopped. */
  async set(
    figure: Figure,
    document: FigureFile,
    seen: (form: OnItsWay) => void,
  ): Promise<Result<SetForm> | undefined> {
    const before = known.get(figure);
    if (before) return accept(before);
    const done = await this.desk.order('set', { document }, seen);
    if (done?.ok) known.set(figure, done.value);
    return done;
  }

  /** Sets the figure of a document, to be shown being drawn tight. Resolves to nothing when it was stopped. */
  async watch(figure: Figure, document: FigureFile): Promise<Result<Tightening> | undefined> {
    const before = watched.get(figure);
    if (before) return accept(before);
    const done = await this.desk.order('tighten', { document });
    if (done?.ok) {
      watched.set(figure, done.value);
      known.set(figure, done.value.form);
    }
    return done;
  }

  stop(): void {
    this.desk.stop();
  }
}
