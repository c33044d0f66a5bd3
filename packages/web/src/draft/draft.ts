/**
 * Draft: the board, the step column and the trail, and the keys that drive them.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  untracked,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatTooltipModule } from '@angular/material/tooltip';
import {
  blankKnot,
  layoutsOf,
  methodFor,
  sayRefusal,
  VIEWS,
  writeKnot,
  type Finding,
  type HostKind,
} from '@foxtrail/core';
import { MatMenuModule, MatMenuTrigger } from '@angular/material/menu';
import { MatSliderModule } from '@angular/material/slider';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { LayoutService } from '../data/layout';
import { BenchStore } from '../knot/bench-store';
import { FindingsList } from '../ui/findings-list';
import { ViewToggle } from '../ui/view-toggle';
import { StepText } from '../ui/step-text';
import { Board } from './board';
import { commandFor, COMMANDS, TOOL_SECTIONS, type Command, type DraftDesk } from './commands';
import { DraftState } from './draft-state';
import { KeysDialog } from './keys.dialog';
import { LayingTools } from './laying-tools';
import { StepTools } from './step-tools';
import { Steps } from './steps';
import { TraceService } from './trace';
import { ToolPanel } from './tool-panel';
import { Trail } from './trail';

const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

@Component({
  selector: 'ft-draft',
  imports: [
    Board,
    Trail,
    Steps,
    ToolPanel,
    FindingsList,
    StepText,
    MatButtonModule,
    ViewToggle,
    MatIconModule,
    MatTooltipModule,
    MatMenuModule,
    MatProgressBarModule,
    MatSliderModule,
  ],
  providers: [DraftState, LayingTools, StepTools, LayoutService, TraceService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './draft.html',
  styleUrl: './draft.scss',
  host: { '(document:keydown)': 'key($event)', '(document:keyup)': 'keyUp($event)' },
})
export class DraftPage implements DraftDesk {
  readonly state = inject(DraftState);
  readonly store = inject(BenchStore);
  readonly tools = inject(LayingTools);
  readonly stepTools = inject(StepTools);
  protected readonly layout = inject(LayoutService);
  protected readonly trace = inject(TraceService);
  private readonly dialog = inject(MatDialog);
  protected readonly board = viewChild.required(Board);
  private readonly hostMenu = viewChild.required('hosts', { read: MatMenuTrigger });
  /** From the address: an imported drawing whose weave is to be walked. */
  readonly walk = input<string>();
  private readonly photo = viewChild.required<ElementRef<HTMLInputElement>>('photo');
  /** The tools by their sections, in the order of the row. */
  protected readonly sections = TOOL_SECTIONS.map((section) => COMMANDS.filter((c) => c.button?.section === section));
  protected readonly findings = computed(() => this.store.findings());
  protected readonly line = computed(() => {
    const step = this.stepTools.shown();
    return step ? `Step ${step.index + 1}: ${this.stepTools.text()}` : '';
  });
  protected readonly hint = computed(() => {
    if (!this.store.mayWrite()) return 'You may read this draft, not change it.';
    if (this.state.doing() !== '') return this.state.doing();
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
      name: this.store.vocabulary().ropes[i] ?? `rope ${r.id}`,
      dark: i % 2 === 1,
      active: this.state.activeRope()?.id === r.id && !this.state.newRope(),
    })),
  );

  constructor() {
    effect(() => {
      const id = this.store.card()?.id;
      if (id !== undefined) untracked(() => void this.trace.open(id));
    });
    effect(() => {
      if (this.walk() === undefined || !this.store.method()) return;
      untracked(() => {
        if (!this.walked && this.store.mayWrite()) this.state.toggleWalk();
        this.walked = true;
      });
    });
  }
  private walked = false;

  reverse(): void {
    const rope = this.state.activeRope();
    if (rope && this.state.do({ kind: 'reverse', rope: rope.id }))
      this.state.message.set('The rope is reversed: its standing part and its end are exchanged.');
  }

  protected readonly hostKinds: readonly HostKind[] = ['spar', 'post', 'ring', 'carabiner', 'hook', 'hand'];
  protected readonly hostName = (kind: HostKind): string => this.store.vocabulary().hosts[kind] ?? kind;

  protected addHost(kind: HostKind): void {
    this.state.addHost(kind, this.state.figure().ropes.length === 0 ? [0, 0] : this.board().middle());
  }

  /** Lays a photograph, or a frame of a clip, under the board. */
  protected async layPicture(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    const trouble = await this.trace.lay(file, this.board().box());
    this.state.message.set(
      trouble || 'The picture lies under the board; it stays in this browser and is never published.',
    );
  }

  /** Joins the ends of the rope in hand to a sling, or opens it. */
  toggleClosed(): void {
    const rope = this.state.activeRope();
    if (!rope) this.state.message.set('Lay a rope first.');
    else if (this.state.do({ kind: 'set-closed', rope: rope.id, closed: !rope.closed }))
      this.state.message.set(
        rope.closed ? 'The sling is opened where its trail begins.' : 'The ends are joined: it is a sling.',
      );
  }

  /** Tidies the figure, shown on its way; one undo takes it back. */
  tidy(tight: boolean): void {
    void this.tidying(tight);
  }

  private async tidying(tight: boolean): Promise<void> {
    const [knot, method] = [this.store.knot(), this.state.laid()];
    if (!knot || !method || method.figure.ropes.length === 0) {
      this.state.message.set('There is nothing to tidy yet.');
      return;
    }
    this.tools.put();
    this.state.clear();
    this.state.message.set(`${tight ? 'Drawing tight' : 'Tidying'}: nothing passes through anything. Esc stops it.`);
    const done = await this.layout.tidy(
      writeKnot({ ...blankKnot(knot.name), method: methodFor(method.figure) }),
      // Who wants less motion sees what comes of it, not the way there.
      (figure) => (LESS_MOTION.matches ? undefined : this.state.showFigure(figure)),
      tight,
    );
    this.state.endPreview();
    if (!done) this.state.message.set('Tidying was stopped; the drawing is as it was.');
    else if (!done.ok) this.state.message.set(sayRefusal(done));
    else if (this.store.knot() !== knot) this.state.message.set('The drawing changed meanwhile, so it was not tidied.');
    else if (this.state.do({ kind: 'redraw', ...done.value }))
      this.state.message.set(`${tight ? 'Drawn tight' : 'Tidied'}: every crossing is what it was. Z undoes it.`);
  }

  showKeys(): void {
    this.dialog.open(KeysDialog, { width: '1180px', maxWidth: '96vw' });
  }

  nextView(): void {
    const at = VIEWS.findIndex((v) => v.view === this.state.view());
    this.state.view.set(VIEWS[(at + 1) % VIEWS.length]?.view ?? 'front');
  }

  /** From layout to layout. */
  nextLayout(): void {
    const count = this.state.layouts().length;
    if (count < 2) this.state.message.set('There is one layout. “Add …” below the steps lays the knot anew.');
    else this.state.takeLayout((this.state.layout() + 1) % count);
  }

  protected pointAt(f: Finding): void {
    if (f.step !== undefined) this.stepTools.show(f.step);
    else this.state.takeLayout(f.layout ?? layoutsOf(this.stepTools.method()).length - 1);
    const crossing = f.crossings?.[0];
    if (crossing !== undefined) this.state.pointed.set(crossing);
    if (f.place) this.state.chosen.set({ kind: 'place', place: f.place });
  }

  protected fix(f: Finding): void {
    if (f.fix) this.state.do(f.fix.edit, { layout: f.fix.layout });
  }

  protected key(event: KeyboardEvent): void {
    if (this.dialog.openDialogs.length > 0 || event.altKey || isTyping(event.target)) return;
    if (this.run(event)) event.preventDefault();
  }

  /** Does what a key asks; tells whether it was one of ours. */
  private run(event: KeyboardEvent): boolean {
    const { state, tools } = this;
    const control = event.ctrlKey || event.metaKey;
    if (!control && state.walking() && this.walkBy(event.key)) return true;
    const arrow = control ? undefined : ARROWS[event.key];
    if (arrow) {
      const size = event.shiftKey ? 0.25 : 1;
      state.nudge([arrow[0] * size, arrow[1] * size], this.board().middle());
      return true;
    }
    // Enter belongs to a button that has the focus.
    if (event.key === 'Enter' && event.target instanceof Element && event.target.matches('svg.board, body')) {
      if (tools.kind() === null) state.layToCursor();
      else this.enter();
      return true;
    }
    const command = commandFor(event);
    if (command) this.does(command);
    return command !== undefined;
  }

  private does(command: Command): void {
    if (command.when?.(this) !== false) command.does(this);
  }

  /** A press on a tool's button. */
  protected press(command: Command): void {
    this.does(command);
    // Under is held by its key; its button is tapped.
    if (command.id === 'under') this.state.releaseUnder();
  }

  openHosts(): void {
    this.hostMenu().openMenu();
  }

  choosePicture(): void {
    this.photo().nativeElement.click();
  }

  wholeFigure(): void {
    this.board().fitAll();
  }

  /** + and −: the chosen host thicker or thinner; else the board closer or farther off. */
  larger(way: 1 | -1): void {
    if (this.state.chosen()?.kind === 'host') this.state.sizeHost(0.4 * way);
    else this.board().zoom(way === 1 ? 1.25 : 0.8);
  }

  take(tool: 'lay' | 'points'): void {
    this.tools.put();
    this.state.tool.set(tool);
  }

  /** Esc: stops what goes on, puts the tool away, lets go of what is chosen. */
  letGo(): void {
    if (this.layout.share() !== undefined) this.layout.cancel();
    else if (this.tools.kind() !== null) this.tools.put();
    else this.state.clear();
  }

  /** Enter with a laying tool in hand: a bight goes on to the pencil, anything else is laid. */
  private enter(): void {
    const { state, tools } = this;
    const pencil = state.cursor();
    const last = tools.path().at(-1)?.point;
    const moved = pencil !== null && (last?.[0] !== pencil[0] || last[1] !== pencil[1]);
    if (tools.kind() !== 'bight' || !tools.place() || !moved) {
      tools.lay();
      return;
    }
    tools.draw({ point: pencil, under: state.under() });
    state.message.set('The bight goes there. Move the pencil on, or press Enter again to lay it.');
  }

  /** The keys of the weave walk; any other key does what it always does. */
  private walkBy(key: string): boolean {
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

  swapPointed(): void {
    const pointed = this.state.pointed();
    if (pointed === null) this.state.message.set('Point at a crossing first (W goes from one to the next).');
    else this.state.swap(pointed);
  }

  protected keyUp(event: KeyboardEvent): void {
    if (event.key.toLowerCase() === 'u') this.state.releaseUnder();
  }
}

const LESS_MOTION = matchMedia('(prefers-reduced-motion: reduce)');

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof Element && target.matches('input, textarea, select, [contenteditable]');
