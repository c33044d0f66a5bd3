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
import { asCordage, type Thing } from '@foxtrail/core/ropes';
import { bodyOf, EMPTY_METHOD, figureSet, figureToSet, layoutsOf, type Finding, type HostKind } from '@foxtrail/core';
import { MatMenuModule, MatMenuTrigger } from '@angular/material/menu';
import { MatSliderModule } from '@angular/material/slider';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Theme } from '../data/theme';
import { BenchStore } from '../knot/bench-store';
import { Insight } from '../knot/insight';
import { ShelfFacts } from '../knot/shelf-facts';
import { FindingsList } from '../ui/findings-list';
import { ViewToggle } from '../ui/view-toggle';
import { StepText } from '../ui/step-text';
import { Board } from './board/board';
import { commandFor, COMMANDS, TOOL_SECTIONS, type Command, type DraftDesk } from './commands';
import { DraftState } from './draft-state';
import { DRAFT_SERVICES } from './draft-services';
import { Handling } from './handling';
import { KeysDialog } from './keys.dialog';
import { FormDialog, type FormAsked } from '../form/form.dialog';
import { firstValueFrom } from 'rxjs';
import { RopesService } from '../data/ropes';
import { RopeDialog, type RopeAsked, type RopeSaid } from './rope.dialog';
import { Laying } from './laying';
import { LayingTools } from './laying-tools';
import { StepTools } from './steps/step-tools';
import { Steps } from './steps/steps';
import { Tidying } from './tidying';
import { TraceService } from './trace';
import { ToolPanel } from './tool-panel';
import { Trail } from './trail';
import { UnderKey } from './under-key';
import { WeaveWalk } from './weave-walk';

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
  providers: DRAFT_SERVICES,
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './draft.html',
  styleUrl: './draft.scss',
  host: { '(document:keydown)': 'key($event)', '(document:keyup)': 'keyUp($event)' },
})
export class DraftPage implements DraftDesk {
  readonly state = inject(DraftState);
  readonly store = inject(BenchStore);
  private readonly insight = inject(Insight);
  private readonly shelf = inject(ShelfFacts);
  readonly tools = inject(LayingTools);
  readonly stepTools = inject(StepTools);
  readonly laying = inject(Laying);
  readonly underKey = inject(UnderKey);
  readonly handling = inject(Handling);
  readonly weaveWalk = inject(WeaveWalk);
  readonly tidying = inject(Tidying);
  protected readonly trace = inject(TraceService);
  private readonly dialog = inject(MatDialog);
  private readonly stock = inject(RopesService);
  private readonly theme = inject(Theme);
  protected readonly board = viewChild.required(Board);
  private readonly hostMenu = viewChild.required('hosts', { read: MatMenuTrigger });
  /** From the address: an imported drawing whose weave is to be walked. */
  readonly walk = input<string>();
  private readonly photo = viewChild.required<ElementRef<HTMLInputElement>>('photo');
  /** The tools by their sections, in the order of the row. */
  protected readonly sections = TOOL_SECTIONS.map((section) => COMMANDS.filter((c) => c.button?.section === section));
  protected readonly findings = computed(() => this.insight.findings());
  protected readonly line = computed(() => {
    const step = this.stepTools.shown();
    return step ? `Step ${step.index + 1}: ${this.stepTools.text()}` : '';
  });
  protected readonly hint = computed(() => {
    if (!this.store.mayWrite()) return 'You may read this draft, not change it.';
    if (this.laying.doing() !== '') return this.laying.doing();
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
      colour: bodyOf(this.theme.look(), i, r.cordage),
      active: this.state.activeRope()?.id === r.id && !this.state.newRope(),
    })),
  );

  /** The rope that the hand lays on, and that is changed. */
  protected readonly inHand = computed(() => this.ropes().find((r) => r.active));

  constructor() {
    effect(() => {
      const id = this.shelf.card()?.id;
      if (id !== undefined) untracked(() => void this.trace.open(id));
    });
    effect(() => {
      if (this.walk() === undefined || !this.store.method()) return;
      untracked(() => {
        if (!this.walked && this.store.mayWrite()) this.weaveWalk.toggle();
        this.walked = true;
      });
    });
  }
  private walked = false;

  protected readonly hostKinds: readonly HostKind[] = ['spar', 'post', 'ring', 'carabiner', 'hook', 'hand'];
  protected readonly hostName = (kind: HostKind): string => this.store.vocabulary().hosts[kind] ?? kind;

  /** What the house ties to, as thick as it is beside the knot's cord. */
  protected readonly ownThings = computed(() => this.stock.things.list().filter((t) => t.is.kind !== 'other'));
  protected askThings(): void {
    // Without them there are the kinds.
    this.stock.ensure(this.stock.things).subscribe({ error: () => undefined });
  }
  protected addThing({ kind, diameterMm }: Thing): void {
    if (kind === 'other') return;
    this.addHost(kind);
    this.handling.setHostSize(diameterMm / this.store.rules().cordMm);
  }
  protected addHost(kind: HostKind): void {
    this.handling.addHost(kind, this.state.figure().ropes.length === 0 ? [0, 0] : this.board().camera.middle());
  }

  /** Lays a photograph, or a frame of a clip, under the board. */
  protected async layPicture(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    const trouble = await this.trace.lay(file, this.board().camera.box());
    this.state.message.set(
      trouble || 'The picture lies under the board; it stays in this browser and is never published.',
    );
  }

  /** Says what the rope in hand is: its name, diameter, colour, construction. */
  openForm(): void {
    const layout = this.state.laid();
    if (!layout || layout.figure.ropes.length === 0) {
      this.state.message.set('Lay a rope first; then it can be set.');
      return;
    }
    const [figure, { dressings = [] }] = [figureSet(layout), layout];
    const data: FormAsked = {
      name: this.store.knot()?.name ?? 'Knot',
      figure,
      words: this.store.vocabulary(),
      dressings,
      isShown: figureToSet(this.store.method() ?? EMPTY_METHOD) === figure,
      keep: this.store.mayWrite()
        ? (kept): boolean => this.state.do({ kind: 'show', shown: { dressings: kept } })
        : undefined,
    };
    this.dialog.open<FormDialog, FormAsked>(FormDialog, { data, width: '1080px', maxWidth: '96vw' });
  }

  async openRope(): Promise<void> {
    const rope = this.state.activeRope();
    const { ropes } = this.state.figure();
    if (!rope) {
      this.state.message.set('Lay a rope first; then you can say what it is.');
      return;
    }
    const { cordMm } = this.store.rules();
    // Without the house's own stock the small one that comes with the bench is there.
    await firstValueFrom(this.stock.ensure(this.stock.ropes)).catch(() => undefined);
    const house = this.stock.ropes.list().map(({ is }) => ({
      says: `${is.name}, ${is.diameterMm} mm`,
      cordage: asCordage(is, cordMm),
    }));
    const data: RopeAsked = { ropes, index: ropes.indexOf(rope), words: this.store.plainWords(), house };
    this.dialog
      .open<RopeDialog, RopeAsked, RopeSaid>(RopeDialog, { data, width: '820px', maxWidth: '96vw' })
      .afterClosed()
      .subscribe((said) => {
        if (said && this.state.do({ kind: 'set-cordage', rope: rope.id, cordage: said.cordage }))
          this.state.message.set('So it is drawn in every layout and every method.');
      });
  }

  showKeys(): void {
    this.dialog.open(KeysDialog, { width: '1180px', maxWidth: '96vw' });
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
      this.handling.nudge([arrow[0] * size, arrow[1] * size], this.board().camera.middle());
      return true;
    }
    // Enter belongs to a button that has the focus.
    if (event.key === 'Enter' && event.target instanceof Element && event.target.matches('svg.board, body')) {
      if (tools.kind() === null) this.laying.layToCursor();
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
    if (command.id === 'under') this.underKey.release();
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
    if (this.handling.lengthenBreak(way) || this.handling.changePart({ scale: way === 1 ? 1.1 : 1 / 1.1 })) return;
    if (this.state.chosen()?.kind === 'host') this.handling.sizeHost(0.4 * way);
    else this.board().camera.zoom(way === 1 ? 1.25 : 0.8);
  }

  take(tool: 'lay' | 'points'): void {
    this.tools.put();
    this.state.tool.set(tool);
  }

  /** Esc: stops what goes on, puts the tool away, lets go of what is chosen. */
  letGo(): void {
    if (this.tidying.busy()) this.tidying.stop();
    else if (this.tools.kind() !== null) this.tools.put();
    else this.state.clear();
  }

  /** Enter with a laying tool in hand: a bight goes on to the pencil, anything else is laid. */
  private enter(): void {
    const { state, tools } = this;
    const pencil = state.cursor();
    const last = tools.path().at(-1)?.point;
    if (tools.kind() === 'move' && tools.moves.kind() === 'through' && pencil) {
      tools.press(pencil, false);
      return;
    }
    const moved = pencil !== null && (last?.[0] !== pencil[0] || last[1] !== pencil[1]);
    if (tools.kind() !== 'bight' || !tools.place() || !moved) {
      tools.lay();
      return;
    }
    tools.draw({ point: pencil, under: this.underKey.under() });
    state.message.set('The bight goes there. Move the pencil on, or press Enter again to lay it.');
  }

  /** The keys of the weave walk; any other key does what it always does. */
  private walkBy(key: string): boolean {
    const keys: Record<string, () => void> = {
      o: () => this.weaveWalk.weave(true),
      u: () => this.weaveWalk.weave(false),
      ArrowRight: () => this.weaveWalk.go(1),
      ArrowLeft: () => this.weaveWalk.go(-1),
      Escape: () => this.weaveWalk.toggle(),
    };
    const action = keys[key] ?? keys[key.toLowerCase()];
    action?.();
    return action !== undefined;
  }

  protected keyUp(event: KeyboardEvent): void {
    if (event.key.toLowerCase() === 'u') this.underKey.release();
  }
}

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof Element && target.matches('input, textarea, select, [contenteditable]');
