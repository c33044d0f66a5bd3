/** Laying by hand: the end of the rope follows a stroke, a click or the pencil, and what it does is told. */
import { computed, inject, Injectable } from '@angular/core';
import {
  composeStep,
  curveOf,
  directionAt,
  freshId,
  lastAt,
  pointAt,
  ropeOf,
  type Edit,
  type Method,
  type Point,
  type Vocabulary,
} from '@foxtrail/core';
import { DraftState } from './draft-state';
import { fitStroke, type Sample } from './stroke';
import { UnderKey } from './under-key';

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
    const fitted = fitStroke(rope ? [{ point: rope.points.at(-1) as Point, under: first.under }, ...all] : all);
    const { points } = fitted;
    const pass = this.underKey.weaving() ? fitted.pass.replaceAll('O', 'W') : fitted.pass;
    if (rope) return { kind: 'lay', rope: rope.id, points: points.slice(1), pass };
    if (points.length < 2) return undefined;
    return {
      kind: 'add-rope',
      rope: { id: freshId(this.state.figure()), points, curve: 'smooth', closed: false, ends: ['standing', 'tail'] },
      pass,
    };
  }

  /** Lays a path; with a single point and no rope yet, remembers where the rope begins. */
  lay(samples: readonly Sample[]): void {
    const edit = this.layEdit(samples);
    if (!edit) {
      const start = samples.at(-1);
      if (start) {
        this.state.pendingStart.set(start);
        this.state.message.set('The rope begins here. Choose where it goes next.');
      }
      return;
    }
    if (this.state.do(edit)) {
      if (edit.kind === 'add-rope') this.state.setActive(edit.rope.id);
      this.state.pendingStart.set(null);
      this.state.step.set(null);
      this.state.message.set(this.saying(edit));
    }
  }

  /** What the end has just done, in words. */
  private saying(edit: Edit): string {
    const id = edit.kind === 'lay' ? edit.rope : edit.kind === 'add-rope' ? edit.rope.id : undefined;
    const method = this.state.laid();
    const rope = method && id !== undefined ? ropeOf(method.figure, id) : undefined;
    if (!method || !rope) return '';
    return sayStretch(
      method,
      rope.id,
      edit.kind === 'lay' ? rope.points.length - 1 - edit.points.length : 0,
      this.state.words(),
    );
  }

  /** What the end is doing while it is laid, in words. */
  readonly doing = computed(() => {
    const [shown, before] = [this.state.previewed(), this.state.laid()];
    const rope = this.state.activeRope();
    if (!shown || !rope || this.state.tool() !== 'lay') return '';
    const old = before && ropeOf(before.figure, rope.id);
    const from = old ? old.points.length - 1 : 0;
    return rope.points.length - 1 > from ? sayStretch(shown, rope.id, from, this.state.words()) : '';
  });

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
    return { point: pointAt(curve, lastAt(rope)), direction: directionAt(curve, lastAt(rope)) };
  });
}

/** What an end does from a place on its rope to its end, in the composer's words. */
function sayStretch(method: Method, rope: string, from: number, words: Vocabulary): string {
  const leader = method.leaders.findIndex((l) => l.kind === 'end' && l.rope === rope);
  const r = ropeOf(method.figure, rope);
  if (leader < 0 || !r) return '';
  const halts = [...(from > 0 ? [{ leader, at: from }] : []), { leader, at: lastAt(r) }];
  return composeStep({ ...method, halts }, halts.length - 1, words).text;
}
