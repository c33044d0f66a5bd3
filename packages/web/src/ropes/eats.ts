/**
 * What a knot eats: of the pattern book by the forms that come with it, of the shelf by setting it here, in a worker.
 */
import { inject, Injectable } from '@angular/core';
import { KNOT_ROUTES } from '@foxtrail/contract';
import {
  accept,
  blankKnot,
  howToSet,
  methodFor,
  readKnot,
  refuse,
  writeKnot,
  type Figure,
  type KnotDocument,
  type Result,
} from '@foxtrail/core';
import { eatsOf, openEats, type StrandEats } from '@foxtrail/core/form';
import { patternOf } from '@foxtrail/pattern-book';
import { firstValueFrom } from 'rxjs';
import { Api } from '../data/api';
import { FormingService } from '../data/forming';
import { PlacingService } from '../data/placing';

export interface KnotEats {
  readonly knot: KnotDocument;
  readonly strands: readonly StrandEats[];
  /** The figure that was set. */
  readonly figure: Figure;
  /** What one more turn eats, in diameters, of a pattern that is one of a family of turns. */
  readonly turn?: number | undefined;
}

@Injectable()
export class Eats {
  private readonly api = inject(Api);
  private readonly forming = inject(FormingService);
  private readonly placing = inject(PlacingService);
  private readonly loose = new Map<string, readonly number[]>();
  private readonly known = new Map<string, Result<KnotEats>>();
  /** Share of the setting that is done; nothing while none is in hand. */
  readonly share = this.forming.share;

  /** What each rope of a knot is eaten; nothing where it was stopped. */
  async of(ref: string): Promise<Result<KnotEats> | undefined> {
    const before = this.known.get(ref);
    if (before) return before;
    const [kind, id = ''] = ref.split(/:(.*)/);
    const found = kind === 'pattern' ? await this.ofPattern(id) : await this.ofKnot(id);
    if (found?.ok) this.known.set(ref, found);
    return found;
  }

  private async ofPattern(id: string): Promise<Result<KnotEats>> {
    const { patternForm } = await import('@foxtrail/pattern-book/forms');
    const [form, pattern] = [patternForm(id), patternOf(id)];
    if (!form || !pattern) return refuse('knot', 'The book has no set form of it.', 'Choose a knot that can be set.');
    const { turnEats } = await import('@foxtrail/pattern-book/turn-families');
    const { figure } = howToSet(pattern.knot.method);
    return accept({ knot: pattern.knot, figure, strands: eatsOf(figure, form), turn: turnEats(id) });
  }

  private async ofKnot(id: string): Promise<Result<KnotEats> | undefined> {
    const { document } = await firstValueFrom(this.api.call(KNOT_ROUTES.read, { parameters: { id } }));
    const knot = readKnot(document);
    if (!knot.ok) return knot;
    const setting = howToSet(knot.value.method);
    const form = await this.forming.set(setting, () => undefined);
    return form?.ok
      ? accept({ knot: knot.value, figure: setting.figure, strands: eatsOf(setting.figure, form.value) })
      : form;
  }

  /** What each rope of a knot is eaten as it lies loose on a table, in diameters; nothing where it was stopped, or cannot be told. */
  async settled(ref: string): Promise<readonly number[] | undefined> {
    const before = this.loose.get(ref);
    if (before) return before;
    const found = await this.of(ref);
    if (!found?.ok) return undefined;
    const { knot, figure } = found.value;
    const document = writeKnot({ ...blankKnot(knot.name), method: methodFor(figure) });
    const laid = await this.placing.lay(document, 'settle', () => undefined);
    if (!laid?.ok) return undefined;
    const eats = openEats(laid.value.figure);
    this.loose.set(ref, eats);
    return eats;
  }

  stop(): void {
    this.placing.cancel();
    this.forming.stop();
  }
}
