/**
 * Draft: the board, the step column and the trail, and the keys that drive them.
 */
import { ChangeDetectionStrategy, Component, computed, inject, viewChild } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatTooltipModule } from '@angular/material/tooltip';
import { stepText, VIEWS, WORKSHOP_WORDS, type Finding } from '@foxtrail/core';
import { BenchStore } from '../knot/bench-store';
import { FindingsList } from '../ui/findings-list';
import { ViewToggle } from '../ui/view-toggle';
import { StepText } from '../ui/step-text';
import { Board } from './board';
import { DraftState } from './draft-state';
import { KeysDialog } from './keys.dialog';
import { Steps } from './steps';
import { Trail } from './trail';

const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

@Component({
  selector: 'ft-draft',
  imports: [Board, Trail, Steps, FindingsList, StepText, MatButtonModule, ViewToggle, MatIconModule, MatTooltipModule],
  providers: [DraftState],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './draft.html',
  styleUrl: './draft.scss',
  host: { '(document:keydown)': 'key($event)', '(document:keyup)': 'keyUp($event)' },
})
export class DraftPage {
  protected readonly state = inject(DraftState);
  protected readonly store = inject(BenchStore);
  private readonly dialog = inject(MatDialog);
  private readonly board = viewChild.required(Board);
  protected readonly findings = computed(() => this.store.findings());
  protected readonly line = computed(() => {
    const step = this.state.step();
    const method = this.state.method();
    return step !== null && method.halts[step] ? `Step ${step + 1}: ${stepText(method, step, WORKSHOP_WORDS)}` : '';
  });
  protected readonly hint = computed(() => {
    if (!this.store.mayWrite()) return 'You may read this draft, not change it.';
    if (this.state.message() !== '') return this.state.message();
    if (this.state.view() !== 'front')
      return this.state.view() === 'back'
        ? 'Seen from behind. Draw in the front view.'
        : 'The mirror image, for the left hand. Draw in the front view.';
    if (this.state.tool() === 'points')
      return 'Drag a point. Press on the rope to add one; Delete removes the chosen one.';
    return this.state.figure().ropes.length === 0 || this.state.newRope()
      ? 'Lay the rope: drag from the standing part to the end, or click point by point.'
      : 'Drag on from the end, or click point by point. Hold U to pass under.';
  });
  protected readonly ropes = computed(() =>
    this.state.figure().ropes.map((r, i) => ({
      id: r.id,
      name: WORKSHOP_WORDS.ropes[i] ?? `rope ${r.id}`,
      dark: i % 2 === 1,
      active: this.state.activeRope()?.id === r.id && !this.state.newRope(),
    })),
  );

  protected reverse(): void {
    const rope = this.state.activeRope();
    if (rope && this.state.doFigure({ kind: 'reverse', rope: rope.id }))
      this.state.message.set('The rope is reversed: its standing part and its end are exchanged.');
  }

  protected addSpar(): void {
    this.state.addSpar(this.state.figure().ropes.length === 0 ? [0, 0] : this.board().middle());
  }

  protected showKeys(): void {
    this.dialog.open(KeysDialog, { width: '980px', maxWidth: '94vw' });
  }

  protected nextView(): void {
    const at = VIEWS.findIndex((v) => v.view === this.state.view());
    this.state.view.set(VIEWS[(at + 1) % VIEWS.length]?.view ?? 'front');
  }

  protected pointAt(f: Finding): void {
    const crossing = f.crossings?.[0];
    if (crossing !== undefined) this.state.pointed.set(crossing);
    if (f.step !== undefined) this.state.step.set(f.step);
    if (f.place) this.state.chosen.set({ kind: 'place', place: f.place });
  }

  protected fix(f: Finding): void {
    if (f.fix) this.state.do(f.fix.edit);
  }

  private stepBy(by: 1 | -1): void {
    const count = this.state.method().halts.length;
    if (count === 0) return;
    const at = this.state.step();
    const next = at === null ? (by === 1 ? 0 : count - 1) : at + by;
    this.state.step.set(next < 0 || next >= count ? null : next);
  }

  protected key(event: KeyboardEvent): void {
    if (this.dialog.openDialogs.length > 0 || isTyping(event.target)) return;
    const control = event.ctrlKey || event.metaKey;
    if (event.altKey || (control && !['z', 'y', 'Z'].includes(event.key))) return;
    if (this.run(event, control)) event.preventDefault();
  }

  /** Does what a key asks; tells whether it was one of ours. */
  private run(event: KeyboardEvent, control: boolean): boolean {
    const { state, store } = this;
    if (state.walking() && this.walk(event.key)) return true;
    const arrow = ARROWS[event.key];
    if (arrow) {
      const size = event.shiftKey ? 0.25 : 1;
      state.nudge([arrow[0] * size, arrow[1] * size], this.board().middle());
      return true;
    }
    // The board's keys, by what they do; Enter belongs to a button that has the focus.
    const actions: Record<string, () => void> = {
      l: () => state.tool.set('lay'),
      p: () => state.tool.set('points'),
      u: () => state.pressUnder(),
      n: () => state.startNewRope(),
      b: () => this.addSpar(),
      r: () => this.reverse(),
      '[': () => state.stepPoint(-1),
      ']': () => state.stepPoint(1),
      i: () => state.insertPoint(),
      k: () => state.toggleWalk(),
      w: () => state.stepCrossing(event.shiftKey ? -1 : 1),
      x: () => this.swapPointed(),
      delete: () => state.removeChosen(),
      backspace: () => state.removeChosen(),
      z: () => (event.shiftKey ? store.redo() : store.undo()),
      y: () => store.redo(),
      h: () => state.placeHalt(),
      ',': () => this.stepBy(-1),
      '.': () => this.stepBy(1),
      v: () => this.nextView(),
      escape: () => state.clear(),
      '?': () => this.showKeys(),
    };
    if (event.key === 'Enter' && event.target instanceof Element && event.target.matches('svg.board, body')) {
      state.layToCursor();
      return true;
    }
    const action = control && event.key === 'y' ? actions.y : actions[event.key.toLowerCase()];
    action?.();
    return action !== undefined;
  }

  /** The keys of the weave walk; any other key does what it always does. */
  private walk(key: string): boolean {
    const keys: Record<string, () => void> = {
      o: () => this.state.weave(true),
      u: () => this.state.weave(false),
      ArrowRight: () => this.state.stepWalk(1),
      ArrowLeft: () => this.state.stepWalk(-1),
      Escape: () => this.state.toggleWalk(),
    };
    const action = keys[key] ?? keys[key.toLowerCase()];
    action?.();
    return action !== undefined;
  }

  protected swapPointed(): void {
    const pointed = this.state.pointed();
    if (pointed === null) this.state.message.set('Point at a crossing first (W goes from one to the next).');
    else this.state.swap(pointed);
  }

  protected keyUp(event: KeyboardEvent): void {
    if (event.key.toLowerCase() === 'u') this.state.releaseUnder();
  }
}

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof Element && target.matches('input, textarea, select, [contenteditable]');
