/**
 * What the author is doing on the Draft screen: the tool in hand, what is chosen, what is pointed at, what is being laid.
 * None of it belongs to the document.
 */
import { computed, inject, Injectable, signal } from '@angular/core';
import {
  changeLayout,
  extentsAt,
  layoutsOf,
  methodOfLayout,
  onRing,
  ropeOf,
  sayRefusal,
  VIEWS,
  WHOLE,
  type Box,
  type Edit,
  type EndEdit,
  type Figure,
  type KnotEdit,
  type Method,
  type Point,
  type PointPlace,
  type Result,
  type TrailPosition,
  type View,
} from '@foxtrail/core';
import { BenchStore, type Doing } from '../knot/bench-store';
import type { Sample } from './stroke';

export type Tool = 'lay' | 'points';

export type Chosen =
  | { readonly kind: 'point'; readonly strand: string; readonly index: number }
  | { readonly kind: 'halt'; readonly index: number }
  | { readonly kind: 'host'; readonly host: string }
  /** Points that a band was drawn round, or all there are. */
  | { readonly kind: 'part'; readonly points: 'all' | readonly PointPlace[] }
  /** A place on the trail: where a halt goes when H is pressed. */
  | { readonly kind: 'place'; readonly place: TrailPosition };

@Injectable()
export class DraftState {
  private readonly store = inject(BenchStore);
  /** The words that what is done is told in. */
  readonly words = this.store.vocabulary;
  readonly tool = signal<Tool>('lay');
  readonly view = signal<View>('front');
  /** Index of the step shown; null shows the whole figure. */
  readonly step = signal<number | null>(null);
  readonly chosen = signal<Chosen | null>(null);
  /** Number of the crossing pointed at, on board, trail or finding. */
  readonly pointed = signal<number | null>(null);
  /** The weave walk goes from crossing to crossing; the one in hand is `pointed`. */
  readonly walking = signal(false);
  readonly message = signal('');
  private readonly activeId = signal<string | null>(null);
  /** Which end of the rope in hand is laid on. */
  readonly leads = signal<'first' | 'last'>('last');
  /** The next stroke begins a rope of its own. */
  readonly newRope = signal(false);
  /** First point of a rope that has no second yet. */
  readonly pendingStart = signal<Sample | null>(null);
  /** A band that is drawn round a part of the drawing. */
  readonly band = signal<Box | null>(null);
  /** Where the keyboard's pencil is. */
  readonly cursor = signal<Point | null>(null);
  private readonly previewState = signal<Method | null>(null);
  /** What is shown and not yet the knot. */
  readonly previewed = this.previewState.asReadonly();

  /** Index of the layout that is drawn on. */
  private readonly layoutState = signal(0);
  readonly layouts = computed(() => {
    const method = this.store.method();
    return method ? layoutsOf(method) : [];
  });
  readonly layout = computed(() => Math.min(this.layoutState(), Math.max(0, this.layouts().length - 1)));
  /** The layout that is drawn on, as it is in the knot. */
  readonly laid = computed<Method | undefined>(() => {
    const method = this.store.method();
    return method && methodOfLayout(method, this.layout());
  });

  /** An edit that a laying tool proposes: the board shows it as it would be. */
  readonly proposal = signal<Edit | undefined>(undefined);
  private readonly proposed = computed(() => {
    const [edit, method] = [this.proposal(), this.laid()];
    if (!edit || !method) return null;
    const done = changeLayout(method, edit);
    return done.ok ? done.value : null;
  });

  readonly method = computed<Method>(
    () =>
      this.previewState() ??
      this.proposed() ??
      this.laid() ?? { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] },
  );
  readonly figure = computed<Figure>(() => this.method().figure);
  /** A point or a host is dragged about. */
  readonly dragging = computed(() => this.previewState() !== null && this.tool() === 'points');
  readonly drawing = computed(() => this.previewState() !== null || this.proposed() !== null);
  readonly activeRope = computed(() => {
    const { ropes } = this.figure();
    return ropes.find((r) => r.id === this.activeId()) ?? ropes.at(-1);
  });

  /** The figure, and the rope in hand, as they are in the knot, without what is proposed. */
  readonly figureLaid = computed<Figure>(() => this.laid()?.figure ?? { ropes: [], hosts: [] });
  readonly activeRopeLaid = computed(() => ropeOf(this.figureLaid(), this.activeRope()?.id ?? ''));

  /** What is laid in the step that is shown; without one, all. */
  readonly extents = computed(() => {
    const [step, method] = [this.step(), this.method()];
    const halt = method.halts[step ?? -1];
    return step === null || !halt ? WHOLE : extentsAt(method, step, halt.at);
  });

  /** Takes a rope in hand; none: the one laid last. */
  setActive(id: string | null): void {
    if (id !== this.activeRope()?.id) this.leads.set('last');
    this.activeId.set(id);
    this.newRope.set(false);
    this.pendingStart.set(null);
    this.cursor.set(null);
  }

  /** The end of the rope in hand that is laid on; nothing of a sling. */
  readonly tip = computed<Point | undefined>(() => {
    const rope = this.newRope() ? undefined : this.activeRope();
    return rope?.closed === false ? rope.points.at(this.leads() === 'first' ? 0 : -1) : undefined;
  });

  /** What lays the rope's last end on, done with the end that leads. */
  withTip(laid: EndEdit): Edit {
    return this.leads() === 'first' ? { kind: 'first-end', laid } : laid;
  }

  /** The other end of the rope in hand leads from here on. */
  takeOtherEnd(): void {
    const rope = this.activeRope();
    if (!rope || rope.closed) {
      this.message.set(rope ? 'A sling has no ends to lay.' : 'Lay a rope first.');
      return;
    }
    this.leads.update((now) => (now === 'first' ? 'last' : 'first'));
    this.cursor.set(null);
    this.message.set(
      this.leads() === 'first' ? 'The rope’s other end leads now.' : 'The end that was laid first leads again.',
    );
  }

  /** Applies an edit to the knot, to the layout that is drawn on where nothing else is named; a refusal is said, and nothing changes. */
  do(edit: KnotEdit, doing: Doing = {}): boolean {
    return this.say(this.store.edit(edit, { layout: this.layout(), ...doing }));
  }

  private say(done: Result<unknown>): boolean {
    this.message.set(done.ok ? '' : sayRefusal(done));
    return done.ok;
  }

  /**
   * Shows what an edit would do without doing it. `onward` goes on from what is shown, so that a drag follows its crossings along
   * the way the hand took.
   */
  preview(edit: Edit, onward = false): void {
    const method = (onward ? this.previewState() : null) ?? this.laid();
    if (!method) return;
    const applied = changeLayout(method, edit);
    if (applied.ok) this.previewState.set(applied.value);
    else this.say(applied);
  }

  /** Shows another drawing of the figure without making it the knot. */
  showFigure(figure: Figure): void {
    const method = this.laid();
    if (method) this.previewState.set({ ...method, figure, halts: [], finish: [] });
  }

  /** Makes what is shown the knot: one edit, one undo. */
  commitPreview(): void {
    const shown = this.previewState();
    this.previewState.set(null);
    if (shown) this.do({ kind: 'take-layout', layout: shown });
  }

  /** Lets go of what is shown; the knot is as it was. */
  endPreview(): void {
    this.previewState.set(null);
  }

  /** Draws on a layout from here on. */
  takeLayout(index: number): void {
    if (index === this.layout()) return;
    this.clear();
    this.layoutState.set(index);
    const name = this.layouts()[index]?.name ?? `layout ${index + 1}`;
    this.message.set(`On the board: ${name}.`);
  }

  /** From layout to layout. */
  nextLayout(): void {
    const count = this.layouts().length;
    if (count < 2) this.message.set('There is one layout. “Add …” below the steps lays the knot anew.');
    else this.takeLayout((this.layout() + 1) % count);
  }

  nextView(): void {
    const at = VIEWS.findIndex((v) => v.view === this.view());
    this.view.set(VIEWS[onRing(at + 1, VIEWS.length)]?.view ?? 'front');
  }

  /** Lets go of everything: the whole figure is shown. */
  clear(): void {
    this.walking.set(false);
    this.chosen.set(null);
    this.step.set(null);
    this.pendingStart.set(null);
    this.newRope.set(false);
    this.cursor.set(null);
  }
}
