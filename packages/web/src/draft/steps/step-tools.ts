/**
 * What an author does with steps: shows one, says how it is shown, lights and calls out, splits, joins and moves it; lays the knot anew,
 * and ties it another way.
 */
import { computed, inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import {
  CLOSE_UPS,
  composeStep,
  crossingsOf,
  EMPTY_METHOD,
  isReached,
  layoutsOf,
  nameOfPlace,
  passagesOf,
  placeOfStep,
  ropeOf,
  lastAt,
  stepsOf,
  stepText,
  type AgainWay,
  type Callout,
  type FinishKind,
  type Layout,
  type Step,
  type Telling,
  type TrailPosition,
  type TrailSpan,
} from '@foxtrail/core';
import { inWords } from '../../data/problem';
import { BenchStore } from '../../knot/bench-store';
import { ShelfFacts } from '../../knot/shelf-facts';
import { DraftState } from '../draft-state';

@Injectable()
export class StepTools {
  private readonly state = inject(DraftState);
  private readonly store = inject(BenchStore);
  private readonly shelf = inject(ShelfFacts);
  private readonly router = inject(Router);

  /** The method as it is in the knot, with all its layouts. */
  readonly method = computed(() => this.store.method() ?? EMPTY_METHOD);
  readonly steps = computed(() => stepsOf(this.method()));
  /** The step that is shown, among all steps of the method. */
  readonly shown = computed<Step | undefined>(() => {
    const at = this.state.step();
    if (at === null) return undefined;
    const first = this.steps().find((s) => s.layout === this.state.layout());
    const step = first && this.steps()[first.index + at];
    return step?.layout === this.state.layout() ? step : undefined;
  });
  readonly text = computed(() => {
    const step = this.shown();
    return step ? stepText(this.method(), step.index, this.store.vocabulary()) : '';
  });

  /** Shows a step by its index among all, in the view that it asks for. */
  show(index: number): void {
    const step = this.steps()[index];
    if (!step) return;
    const { layout, index: place } = placeOfStep(this.method(), index);
    this.state.takeLayout(layout);
    this.state.step.set(place);
    this.state.chosen.set({ kind: 'halt', index: place });
    if (this.state.view() !== 'left') this.state.view.set(step.telling.view ?? 'front');
  }

  /** On to the next step, or back to the one before; past the ends, the whole figure. */
  showNext(by: 1 | -1): void {
    const count = this.steps().length;
    if (count === 0) return;
    const at = this.shown()?.index;
    const next = at === undefined ? (by === 1 ? 0 : count - 1) : at + by;
    if (next >= 0 && next < count) this.show(next);
    else this.state.step.set(null);
  }

  /** Whether anything is laid that steps could be made of. */
  readonly hasLaid = computed(() => this.method().figure.ropes.length > 0);

  /** A halt after each move of every end that has none. */
  proposeHalts(): void {
    if (!this.state.do({ kind: 'propose-halts' })) return;
    const count = this.steps().length;
    this.state.message.set(
      `${count === 1 ? 'One step' : `${count} steps`}: each ends where a move ends. Drag a flag to change one.`,
    );
    this.show(0);
  }

  private withShown(doing: (step: Step, place: number) => void): void {
    const step = this.shown();
    const place = this.state.step();
    if (!step || place === null)
      this.state.message.set('Choose a step first: press its picture, or , and . go through them.');
    else doing(step, place);
  }

  tell(telling: Telling, group?: string): void {
    this.withShown((_, index) => this.state.do({ kind: 'tell', index, telling }, { group }));
  }

  toggleBack(): void {
    this.withShown(({ telling }) => {
      const back = telling.view !== 'back';
      this.tell({ view: back ? 'back' : undefined });
      this.state.view.set(back ? 'back' : 'front');
      this.state.message.set(back ? 'Learners see this step from behind.' : 'Learners see this step from the front.');
    });
  }

  closer(by: 1 | -1): void {
    this.withShown(({ telling }) => {
      const now = telling.closeUp ?? 1;
      const next = now + by * CLOSE_UPS.step;
      this.tell({ closeUp: next < CLOSE_UPS.least ? undefined : Math.min(CLOSE_UPS.most, next) });
    });
  }

  /** The place that is pointed at: chosen on the trail, or the crossing in hand, where the step passes it. */
  private pointedPlace(step: Step): { place: TrailPosition; crossing?: number } | undefined {
    const chosen = this.state.chosen();
    if (chosen?.kind === 'place') return { place: chosen.place };
    if (chosen?.kind === 'point') return { place: { strand: chosen.strand, at: chosen.index } };
    const crossing = crossingsOf(step.of.figure).find((c) => c.number === this.state.pointed());
    if (!crossing) return undefined;
    const own = crossing.first.strand === step.stretch?.rope ? crossing.first : crossing.second;
    return { place: own.strand === step.stretch?.rope ? own : crossing.over, crossing: crossing.number };
  }

  /** Calls out the place in hand in the step that is shown. */
  callOut(): void {
    this.withShown((step) => {
      const pointed = this.pointedPlace(step);
      if (!pointed) {
        this.state.message.set('Point at a crossing (W), or choose a place on the trail; then C calls it out.');
        return;
      }
      if (!isReached(this.state.extents(), pointed.place)) {
        this.state.message.set('That place is laid in a later step; call it out there.');
        return;
      }
      const { strand, at } = pointed.place;
      const callout: Callout = { strand, at, text: this.wordsFor(step.of, pointed) };
      this.tell({ callouts: [...(step.telling.callouts ?? []), callout] });
    });
  }

  private wordsFor(layout: Layout, { place, crossing }: { place: TrailPosition; crossing?: number }): string {
    const c = crossingsOf(layout.figure).find((x) => x.number === crossing);
    if (!c) return nameOfPlace(layout, place, this.store.vocabulary());
    const other = c.first.strand === place.strand && c.first.at === place.at ? c.second : c.first;
    const over = c.over.strand === place.strand && c.over.at === place.at;
    return `${over ? 'over' : 'under'} the ${nameOfPlace(layout, other, this.store.vocabulary())}`;
  }

  sayCallout(index: number, text: string): void {
    this.withShown(({ telling }, place) =>
      this.tell(
        { callouts: (telling.callouts ?? []).map((c, i) => (i === index ? { ...c, text } : c)) },
        `callout-${place}-${index}`,
      ),
    );
  }

  removeCallout(index: number): void {
    this.withShown(({ telling }) => {
      const callouts = (telling.callouts ?? []).filter((_, i) => i !== index);
      this.tell({ callouts: callouts.length > 0 ? callouts : undefined });
    });
  }

  /** Lights the stretch about the place in hand, from crossing to crossing; lit already, it is put out. */
  light(): void {
    this.withShown((step) => {
      const pointed = this.pointedPlace(step);
      const rope = pointed && ropeOf(step.of.figure, pointed.place.strand);
      if (!pointed || !rope) {
        this.state.message.set('Choose a place on the trail first; then S lights the stretch about it.');
        return;
      }
      const { strand, at } = pointed.place;
      const lit = step.telling.lit ?? [];
      const there = lit.find((s) => s.strand === strand && at >= s.from - 1e-6 && at <= s.to + 1e-6);
      const places = passagesOf(step.of.figure, strand).map((p) => p.at);
      const span: TrailSpan = {
        strand,
        from: Math.max(0, ...places.filter((p) => p < at - 1e-6)),
        to: Math.min(lastAt(rope), ...places.filter((p) => p > at + 1e-6)),
      };
      const next = there ? lit.filter((s) => s !== there) : [...lit, span];
      this.tell({ lit: next.length > 0 ? next : undefined });
      this.state.message.set(there ? 'The stretch is put out.' : 'The stretch is lit in this step.');
    });
  }

  move(by: 1 | -1): void {
    this.withShown((_, index) => {
      if (!this.state.do({ kind: 'move-step', index, by })) return;
      this.state.step.set(index + by);
      this.state.chosen.set({ kind: 'halt', index: index + by });
    });
  }

  split(): void {
    this.withShown((_, index) => {
      if (this.state.do({ kind: 'split-step', index }))
        this.state.message.set('The step is split; drag its halt where it should stop.');
    });
  }

  /** Joins the step with the next one; where either has a text of the author's own, both are kept. */
  join(): void {
    this.withShown((step, index) => {
      const next = this.steps()[step.index + 1];
      const own = step.telling.text !== undefined || next?.telling.text !== undefined;
      const text = [step, ...(next ? [next] : [])]
        .map((s) => s.telling.text ?? composeStep(this.method(), s.index, this.store.vocabulary()).text)
        .join(' ');
      this.state.do({ kind: 'join-step', index, ...(own ? { text } : {}) });
    });
  }

  /** Earlier steps of the same layout that lay rope: what this step may do again. */
  readonly earlier = computed(() => {
    const step = this.shown();
    if (!step?.stretch) return [];
    return this.steps().filter((s) => s.layout === step.layout && s.stretch && s.index < step.index);
  });

  /** What the shown step does again, if it says so. */
  readonly again = computed(() => {
    const step = this.shown();
    return step?.stretch ? step.of.halts[step.stretch.index]?.again : undefined;
  });

  setAgain(of: Step | undefined, way: AgainWay): void {
    this.withShown((_, index) =>
      this.state.do({ kind: 'set-again', index, again: of?.stretch ? { of: of.stretch.index, way } : undefined }),
    );
  }

  remove(): void {
    this.withShown((_, index) => {
      if (!this.state.do({ kind: 'remove-step', index })) return;
      this.state.step.set(null);
      this.state.chosen.set(null);
    });
  }

  /** Steps that finish the knot go where it is finished: in its last layout. */
  finish(kind: FinishKind): void {
    const layout = layoutsOf(this.method()).length - 1;
    this.state.takeLayout(layout);
    if (!this.state.do({ kind: 'add-finish', finish: [kind] })) return;
    const added = this.steps()
      .filter((s) => s.layout === layout && s.does === kind)
      .at(-1);
    if (added) this.show(added.index);
  }

  /** Lays the knot anew: a copy of how it lies now, to be drawn otherwise. */
  layAnew(): void {
    const count = layoutsOf(this.method()).length;
    if (count === 1 && this.method().name === undefined)
      this.state.do({ kind: 'name-layout', name: 'Open' }, { layout: 0 });
    if (!this.state.do({ kind: 'add-layout', name: count === 1 ? 'Dressed' : `Layout ${count + 1}` })) return;
    this.state.takeLayout(count);
    this.state.message.set('Laid anew: move its points, or tidy it (D). The bench proves that it stays the same knot.');
  }

  removeLayout(layout: number): void {
    if (this.state.do({ kind: 'remove-layout' }, { layout })) this.state.takeLayout(Math.max(0, layout - 1));
  }

  /** Another way to tie the knot: drawn from blank, or from a copy of the one in hand. */
  addMethod(copy: boolean): void {
    const methods = this.store.methods();
    const used = new Set(methods.map((m) => m.name));
    let n = methods.length + 1;
    while (used.has(`Method ${n}`)) n += 1;
    const method = copy ? this.method() : EMPTY_METHOD;
    if (!this.state.do({ kind: 'add-method', name: `Method ${n}`, method })) return;
    this.takeMethod(methods.length);
    this.state.message.set(
      'Another way to tie it. It has to end in the same knot; the bench holds it against the first.',
    );
  }

  /** Goes to the left-handed edition of the knot; there is one from the first press on. */
  async openLeftHanded(): Promise<void> {
    try {
      const edition = await this.shelf.openLeftHanded();
      if (edition) await this.router.navigate(['/knot', edition.id, 'draft']);
    } catch (error) {
      this.state.message.set(inWords(error));
    }
  }

  takeMethod(index: number): void {
    this.state.takeLayout(0);
    this.state.clear();
    this.store.take(index);
  }
}
