/**
 * The board: the figure drawn large, and the hand that lays it.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  untracked,
  viewChild,
  type ElementRef,
} from '@angular/core';
import {
  stretchesOf,
  curveOf,
  drawFigure,
  drawStep,
  isFirstEnd,
  methodInView,
  LEAST_LETTERS,
  NOTE_SIZE,
  pointAt,
  ropeOf,
  stepsOf,
  type Drawing,
  type DrawOptions,
  type Method,
  type Point,
  type Rope,
} from '@foxtrail/core';
import { Theme } from '../../data/theme';
import { BenchStore } from '../../knot/bench-store';
import { ShelfFacts } from '../../knot/shelf-facts';
import { Painter } from '../../ui/painter';
import { Rove } from '../../ui/rove';
import { DraftState, type Chosen } from '../draft-state';
import { Handling } from '../handling';
import { Laying } from '../laying';
import { LayingTools } from '../laying-tools';
import { TraceService } from '../trace';
import { UnderKey } from '../under-key';
import { BandGesture } from './band.gesture';
import { BightGesture } from './bight.gesture';
import { Camera } from './camera';
import { Fingers } from './fingers';
import { Hand, type Gesture, type Touch } from './gesture';
import { HaltGesture } from './halt.gesture';
import { LayGesture } from './lay.gesture';
import { MoveGesture } from './move.gesture';
import { Numbers } from './numbers';
import { PanGesture } from './pan.gesture';

/** How near a press must be to take hold of a point, in diameters and in CSS pixels. */
const HOLD = 0.9;
const HOLD_PIXELS = 16;
/** How much closer one unit of a wheel looks. */
const WHEEL = 0.0016;
const MIDDLE_BUTTON = 1;

@Component({
  selector: 'ft-board',
  imports: [Rove],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './board.html',
  styleUrl: './board.scss',
})
export class Board {
  protected readonly state = inject(DraftState);
  protected readonly store = inject(BenchStore);
  private readonly shelf = inject(ShelfFacts);
  protected readonly tools = inject(LayingTools);
  protected readonly trace = inject(TraceService);
  protected readonly laying = inject(Laying);
  protected readonly underKey = inject(UnderKey);
  private readonly handling = inject(Handling);
  private readonly theme = inject(Theme);
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  private readonly body = viewChild.required<ElementRef<SVGGElement>>('body');
  private readonly painter = new Painter();
  private readonly hand = new Hand();

  readonly camera = new Camera();
  private readonly fingers = new Fingers(this.camera);
  private readonly seen = computed(() => methodInView(this.state.method(), this.state.view()));
  private readonly seenFigure = computed(() => this.seen().figure);
  protected readonly numbers = new Numbers(this.state, this.camera, this.seenFigure);

  /** Letters of callouts are never smaller than they can be read, however far off the board is seen. */
  private readonly noteSize = computed(() =>
    Math.max(NOTE_SIZE, Math.round((10 * LEAST_LETTERS) / this.camera.scale()) / 10),
  );

  protected readonly drawing = computed<Drawing>(() => {
    const step = this.state.step();
    if (step !== null && stepsOf(this.state.method())[step])
      return drawStep(this.state.method(), step, {
        view: this.state.view(),
        exact: true,
        ghost: true,
        numbered: true,
        noteSize: this.noteSize(),
      });
    const rope =
      this.state.tool() === 'lay' && !this.state.newRope() && this.state.view() === 'front'
        ? this.state.activeRope()
        : undefined;
    // The stretch since the last halt is what the hand is laying: the working end's colour.
    return drawFigure(
      this.seenFigure(),
      rope ? { working: sinceLastHalt(this.state.method(), rope, this.state.leads()) } : {},
    );
  });
  protected readonly points = computed(() => {
    if (this.state.tool() !== 'points' || this.state.view() !== 'front') return [];
    const chosen = this.state.chosen();
    return this.state.figure().ropes.flatMap((r) =>
      r.points.map((p, index) => ({
        strand: r.id,
        index,
        x: p[0],
        y: p[1],
        chosen: isChosen(chosen, r.id, index),
      })),
    );
  });
  protected readonly hostLine = computed(() => {
    const chosen = this.state.chosen();
    const host = chosen?.kind === 'host' ? this.state.figure().hosts.find((h) => h.id === chosen.host) : undefined;
    return host ? host.points.map((p) => p.join(' ')).join('L') : undefined;
  });
  /** Where the step that is shown ends: its halt, which is dragged along the rope. */
  protected readonly haltHandle = computed<Point | undefined>(() => {
    const stretch = stretchesOf(this.state.method())[this.state.step() ?? -1];
    const rope = stretch && ropeOf(this.seenFigure(), stretch.rope);
    return rope && this.state.view() === 'front' ? pointAt(curveOf(rope), stretch.to) : undefined;
  });
  /** Loops that are meant to stay. */
  protected readonly eyes = computed<Point[]>(() =>
    this.seenFigure().ropes.flatMap((r) => (r.eyes ?? []).map((at) => pointAt(curveOf(r), at))),
  );
  /** The place chosen on the trail, and the crossing pointed at. */
  protected readonly rings = computed<Point[]>(() => {
    const figure = this.seenFigure();
    const out: Point[] = [];
    const chosen = this.state.chosen();
    if (chosen?.kind === 'place') {
      const rope = ropeOf(figure, chosen.place.strand);
      if (rope) out.push(pointAt(curveOf(rope), chosen.place.at));
    }
    return out;
  });

  constructor() {
    effect(() =>
      this.painter.paint(this.body().nativeElement, this.drawing(), this.theme.look(), this.camera.box(), false),
    );
    effect(() => {
      const [method, view] = [this.state.laid(), this.state.view()];
      const shown = `${this.shelf.card()?.id ?? ''} ${this.store.inHand()} ${this.state.layout()} ${view}`;
      untracked(() => {
        if (method && !this.hand.busy) this.camera.fit(methodInView(method, view).figure, shown);
      });
    });
    const observer = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0 && entry.contentRect.height > 0)
        this.camera.size.set([entry.contentRect.width, entry.contentRect.height]);
    });
    effect(() => observer.observe(this.svg().nativeElement));
    inject(DestroyRef).onDestroy(() => {
      this.hand.cancel();
      observer.disconnect();
    });
  }

  /** Shows the whole figure again. */
  fitAll(): void {
    this.camera.fitAll(this.seenFigure());
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    if (event.shiftKey && !event.ctrlKey && !event.metaKey) this.camera.pan([event.deltaY, 0]);
    else this.camera.zoom(Math.exp(-event.deltaY * WHEEL), this.camera.at(this.screen(event)));
  }

  protected down(event: PointerEvent): void {
    if (event.pointerType === 'touch' && this.fingers.press(event.pointerId, this.screen(event)) > 1) {
      // A second finger breaks the stroke off: it is a look, not a line.
      this.hand.cancel();
      return;
    }
    if ((event.target as Element).closest('.waymark')) return;
    const gesture = this.gestureFor(event);
    if (!gesture) return;
    // Nothing on the board is text to be selected, or a thing for the browser to drag.
    event.preventDefault();
    this.svg().nativeElement.focus();
    this.begin(event, gesture);
  }

  private gestureFor(event: PointerEvent): Gesture | undefined {
    if (event.button === MIDDLE_BUTTON) return new PanGesture(this.camera, this.screen(event));
    if (event.button !== 0 || !this.store.mayWrite() || this.state.view() !== 'front') return undefined;
    const touch = this.touch(event);
    if (this.tools.kind() === 'move') return new LayGesture(this.state, this.laying, touch, this.tools);
    if (this.tools.kind() !== null)
      return this.tools.press(touch.point, touch.under) ? new BightGesture(this.tools, touch.point) : undefined;
    return this.state.tool() === 'lay'
      ? new LayGesture(this.state, this.laying, touch)
      : (MoveGesture.hold(this.state, touch.point, Math.max(HOLD, HOLD_PIXELS / this.camera.scale())) ??
          new BandGesture(this.state, touch));
  }

  protected grabHalt(event: PointerEvent): void {
    const step = this.state.step();
    if (event.button !== 0 || !this.store.mayWrite() || step === null) return;
    event.preventDefault();
    event.stopPropagation();
    this.begin(event, new HaltGesture(this.state, step));
  }

  private begin(event: PointerEvent, gesture: Gesture): void {
    this.svg().nativeElement.setPointerCapture(event.pointerId);
    this.hand.begin(gesture);
  }

  protected move(event: PointerEvent): void {
    if (this.fingers.move(event.pointerId, this.screen(event))) return;
    if (this.hand.busy) {
      this.underKey.draws();
      this.hand.move(coalesced(event).map((e) => this.touch(e)));
    } else if (this.tools.kind() === 'move') {
      if (event.pointerType === 'mouse') this.tools.moves.hover(this.touch(event).point);
    } else this.numbers.hover(this.touch(event).point);
  }

  protected up(event: PointerEvent): void {
    this.fingers.lift(event.pointerId);
    if (this.hand.end(this.touch(event))) this.camera.fit(this.state.figure());
  }

  protected fingersOff(event: PointerEvent): void {
    this.fingers.lift(event.pointerId);
    this.hand.cancel();
  }

  /** Where the pointer is, in CSS pixels from the board's left upper corner. */
  private screen(event: MouseEvent): Point {
    const { left, top } = this.svg().nativeElement.getBoundingClientRect();
    return [event.clientX - left, event.clientY - top];
  }

  private touch(event: MouseEvent): Touch {
    const screen = this.screen(event);
    const [x, y] = this.camera.at(screen);
    return { screen, point: [hundredth(x), hundredth(y)], under: this.underKey.under() };
  }

  protected swap(event: Event, crossing: number): void {
    event.stopPropagation();
    event.preventDefault();
    this.handling.swap(crossing);
  }
}

const hundredth = (v: number): number => Math.round(v * 100) / 100;

/** Every place a pointer passed since the last event; some browsers give none. */
const coalesced = (event: PointerEvent): readonly PointerEvent[] => {
  const all = event.getCoalescedEvents();
  return all.length > 0 ? all : [event];
};

/** Whether a control point is chosen: by itself, or with others. */
function isChosen(chosen: Chosen | null, strand: string, index: number): boolean {
  if (chosen?.kind === 'point') return chosen.strand === strand && chosen.index === index;
  if (chosen?.kind !== 'part') return false;
  return chosen.points === 'all' || chosen.points.some((p) => p.strand === strand && p.index === index);
}

/** What the end that is laid on has laid since its last halt: it has the working end's colour. */
function sinceLastHalt(method: Method, rope: Rope, leads: 'first' | 'last'): DrawOptions['working'] {
  const own = method.leaders.findIndex(
    (l) => l.kind === 'end' && l.rope === rope.id && isFirstEnd(l) === (leads === 'first'),
  );
  const steps = stretchesOf(method).filter((s) => (leads === 'first' ? s.leader === own : s.rope === rope.id));
  const since = steps.at(-1)?.to ?? method.leaders[own]?.from ?? 0;
  if (leads === 'first') return own >= 0 && since > 0 ? { strand: rope.id, from: 0, to: since } : undefined;
  return since < rope.points.length - 1 ? { strand: rope.id, from: since } : undefined;
}
