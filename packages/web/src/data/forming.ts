/**
 * Setting a knot, in a worker: the ropes on their way, how far it is, stopped at once. A figure that was set before is there at once.
 */
import { computed, DestroyRef, inject, Injectable } from '@angular/core';
import {
  accept,
  blankKnot,
  methodFor,
  remembered,
  wishesKey,
  writeKnot,
  type Chain,
  type Figure,
  type FigureFile,
  type Result,
  type SetForm,
  type Setting,
  type SetWishes,
  type Solid,
} from '@foxtrail/core';
import type { Flaw } from '@foxtrail/core/form';
import type { Tightening } from '@foxtrail/core/reel';
import { WorkDesk } from './work-desk';

export interface SetOrder {
  readonly document: FigureFile;
  readonly wishes: SetWishes;
}
/** A form, and the document of its figure. */
export interface FlawsOrder {
  readonly document: FigureFile;
  readonly form: SetForm;
}
/** Ropes on their way, and what they are tied to. */
export interface OnItsWay {
  readonly chains: readonly Chain[];
  readonly solids: readonly Solid[];
}

/** Forms of figures that were set, by how, for as long as the figure is about. */
const known = remembered((_: Figure) => new Map<string, SetForm>());
const watched = remembered((_: Figure) => new Map<string, Tightening>());

const flaws = new WeakMap<SetForm, readonly Flaw[]>();

const orderOf = ({ figure, wishes }: Setting): SetOrder => ({
  document: writeKnot({ ...blankKnot('Knot'), method: methodFor(figure) }),
  wishes,
});

@Injectable()
export class FormingService {
  private readonly desk = new WorkDesk();
  /** Apart from the other, so that what is being set is not shown at work again. */
  private readonly flawDesk = new WorkDesk();
  /** Share of the work done; nothing while none is in hand. */
  readonly share = computed(() => this.desk.progress()?.share);

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.desk.close();
      this.flawDesk.close();
    });
  }

  /** Sets a figure; `seen` is given the ropes on their way. Resolves to nothing when it was stopped. */
  async set(setting: Setting, seen: (form: OnItsWay) => void): Promise<Result<SetForm> | undefined> {
    const [forms, key] = [known(setting.figure), wishesKey(setting)];
    const before = forms.get(key);
    if (before) return accept(before);
    const done = await this.desk.order('set', orderOf(setting), seen);
    if (done?.ok) forms.set(key, done.value);
    return done;
  }

  /** Sets a figure, to be shown being drawn tight. Resolves to nothing when it was stopped. */
  async watch(setting: Setting): Promise<Result<Tightening> | undefined> {
    const [ways, key] = [watched(setting.figure), wishesKey(setting)];
    const before = ways.get(key);
    if (before) return accept(before);
    const done = await this.desk.order('tighten', orderOf(setting));
    if (done?.ok) {
      ways.set(key, done.value);
      known(setting.figure).set(key, done.value.form);
    }
    return done;
  }

  /** What is not dressed on a form of a setting; nothing where it was stopped. */
  async flaws(setting: Setting, form: SetForm): Promise<readonly Flaw[]> {
    const found = flaws.get(form);
    if (found) return found;
    const done = await this.flawDesk.order('flaws', { document: orderOf(setting).document, form });
    if (done?.ok) flaws.set(form, done.value);
    return done?.ok ? done.value : [];
  }

  stop(): void {
    this.desk.stop();
  }
}
