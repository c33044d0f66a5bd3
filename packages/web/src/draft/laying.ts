/** Laying by hand: the end of the rope follows a stroke, a click or the pencil, and what it does is told. */
import { computed, inject, Injectable } from '@angular/core';
import {
  composeStep,
  curveOf,
  directionAt,
  distance,
  freshId,
  isFirstEnd,
  lastAt,
  leaderEnd,
  pointAt,
  ropeOf,
  scale,
  type Edit,
  type Method,
  type Point,
  type Vocabulary,
} from '@foxtrail/core';
import { DraftState } from './draft-state';
import { fitStroke, type Sample } from './stroke';
import { UnderKey } from './under-key';

/** A place is on an end of a rope within this, in diameters. */
const ON_END = 0.8;

@Injectable()
export class Laying {
  private readonly state = inject(DraftState);
  private readonly underKey = inject(UnderKey);

  /** The edit that lays a hand-drawn path on, or begins a rope with it. */
  layEdit(samples: readonly Sample[]): Edit | undefined {
    const rope = this.state.newRope() ? undefined : this.state.activeRope();
    const pending = this.state.pendingStart();
    const all = rope || !pending ? samples : [pending, ...samples];
    const first = all[0];
    if (!first) return undefined;
    const tip = this.state.tip();
    const fitted = fitStroke(rope && tip ? [{ point: tip, under: first.under }, ...all] : all);
    const { points } = fitted;
    const pass = this.underKey.weaving() ? fitted.pass.replaceAll('O', 'W') : fitted.pass;
    if (rope) return this.state.withTip({ kind: 'lay', rope: rope.id, points: points.slice(1), pass });
    if (points.length < 2) return undefined;
    return {
      kind: 'add-rope',
      rope: { id: freshId(this.state.figure()), points, curve: 'smooth', closed: false, ends: ['standing', 'tail'] },
      pass,
    };
  }

  /** Lays a path; with a single point and no rope yet, remembers where the rope begins. */
  lay(samples: readonly Sample[]): void {
    this.underKey.draws();
    const edit = this.layEdit(samples);
    if (!edit) {
      const start = samples.at(-1);
      if (start) {
        this.state.pendingStart.set(start);
        this.state.message.set('The rope begins here. Choose where it goes next.');
      }
      return;
    }
    const before = this.state.activeRopeLaid()?.points.length ?? 0;
    if (this.state.do(edit)) {
      if (edit.kind === 'add-rope') this.state.setActive(edit.rope.id);
      this.state.pendingStart.set(null);
      this.state.step.set(null);
      this.state.message.set(this.saying(edit, before));
    }
  }

  /** What the end has just done, in words, when its rope had so many points before. */
  saying(edit: Edit, before: number): string {
    const laid = edit.kind === 'first-end' ? edit.laid : edit;
    const id = laid.kind === 'add-rope' ? laid.rope.id : 'rope' in laid ? laid.rope : undefined;
    const method = this.state.laid();
    if (!method || id === undefined) return '';
    const had = laid.kind === 'add-rope' ? 0 : before;
    return sayStretch(method, id, had, edit.kind === 'first-end', this.state.words());
  }

  /** What the end is doing while it is laid, in words. */
  readonly doing = computed(() => {
    const [shown, laid] = [this.state.previewed(), this.state.laid()];
    const rope = this.state.activeRope();
    if (!shown || !rope || this.state.tool() !== 'lay') return '';
    const old = laid && ropeOf(laid.figure, rope.id);
    const before = old?.points.length ?? 0;
    return rope.points.length > Math.max(1, before)
      ? sayStretch(shown, rope.id, before, this.state.leads() === 'first', this.state.words())
      : '';
  });

  /** The rope’s other end is laid on from here, where a place is on it and not on the end that is laid on now. */
  takeEndAt(place: Point): void {
    const rope = this.state.newRope() ? undefined : this.state.activeRope();
    const tip = this.state.tip();
    const other = rope?.points.at(this.state.leads() === 'first' ? -1 : 0);
    if (tip && other && distance(place, other) < Math.min(ON_END, distance(place, tip))) this.state.takeOtherEnd();
  }

  startNewRope(): void {
    this.state.tool.set('lay');
    this.state.newRope.set(true);
    this.state.pendingStart.set(null);
    this.state.cursor.set(null);
    this.state.chosen.set(null);
    this.state.message.set('The next stroke begins a new rope.');
  }

  /** Lays the end to the pencil. */
  layToCursor(): void {
    const point = this.state.cursor();
    if (point) this.lay([{ point, under: this.underKey.under() }]);
    else this.state.message.set('Move the pencil with the arrow keys first.');
  }

  /** Where the end of the rope in hand points: the line a click would lay on. */
  readonly tip = computed(() => {
    const rope = this.state.newRope() ? undefined : this.state.activeRope();
    if (!rope || rope.closed) return undefined;
    const curve = curveOf(rope);
    const isFirst = this.state.leads() === 'first';
    const at = isFirst ? 0 : lastAt(rope);
    return { point: pointAt(curve, at), direction: scale(directionAt(curve, at), isFirst ? -1 : 1) };
  });
}

/** What an end does from where its rope had so many points to its end, in the composer's words. */
function sayStretch(method: Method, rope: string, before: number, first: boolean, words: Vocabulary): string {
  const ends = method.leaders.flatMap((l, leader) => (l.kind === 'end' && l.rope === rope ? [{ l, leader }] : []));
  const own = ends.find(({ l }) => isFirstEnd(l) === first);
  const r = ropeOf(method.figure, rope);
  if (!own || !r) return '';
  const { leader, l } = own;
  const from = first ? r.points.length - before : Math.max(0, before - 1);
  // What the other end has laid is there.
  const halts = [
    ...ends.filter((e) => e !== own).map((e) => ({ leader: e.leader, at: leaderEnd(method, e.leader) })),
    ...((from - l.from) * (first ? -1 : 1) > 0 ? [{ leader, at: from }] : []),
    { leader, at: leaderEnd(method, leader) },
  ];
  return composeStep({ ...method, halts }, halts.length - 1, words).text;
}
