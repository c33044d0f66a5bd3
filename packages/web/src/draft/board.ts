/**
 * The board: the figure drawn large, and the hand that lays it.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
  viewChild,
  type ElementRef,
  DestroyRef,
} from '@angular/core';
import {
  atLength,
  stretchesOf,
  crossingsOf,
  curveOf,
  distance,
  drawFigure,
  drawStep,
  isReached,
  labelPlaces,
  lengthOf,
  lengthTo,
  methodInView,
  nearestOn,
  pointAt,
  ropeOf,
  stepsOf,
  svgPieces,
  wholeBox,
  type Box,
  type Drawing,
  type Figure,
  type Label,
  type Point,
} from '@foxtrail/core';
import { Theme } from '../data/theme';
import { BenchStore } from '../knot/bench-store';
import { Rove } from '../ui/rove';
import { DraftState, type Sample } from './draft-state';
import { LayingTools } from './laying-tools';
import { TraceService } from './trace';

/** The empty board, in diameters. */
const EMPTY: Box = [-18, -11, 18, 11];
/** Room kept round the figure for laying on. */
const ROOM = 2.5;
/** Size of a number on the board, in CSS pixels a diameter, below which it cannot be read with a rope in the other hand. */
const NUMBER_PIXELS = 19;
/** How far along its rope a halt is drawn by one move of the hand, in diameters. */
const HALT_REACH = 6;
/** A press that moves less than this many diameters is a click. */
const CLICK = 0.45;
/** How near a press must be to take hold of a point, in diameters and in CSS pixels. */
const HOLD = 0.9;
const HOLD_PIXELS = 16;

/** Bounds on looking closer, and how fast a wheel does it. */
const MOST_ZOOM = 12;
const LEAST_ZOOM = 0.25;
const WHEEL = 0.0016;

type Gesture =
  | { readonly kind: 'lay'; readonly start: Point; readonly samples: Sample[] }
  | { readonly kind: 'bight'; last: Point }
  | { readonly kind: 'pan'; last: Point }
  | { readonly kind: 'halt'; readonly index: number }
  | { readonly kind: 'point'; readonly strand: string; readonly index: number }
  | { readonly kind: 'host'; readonly host: string; last: Point };

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
  protected readonly tools = inject(LayingTools);
  protected readonly trace = inject(TraceService);
  private readonly theme = inject(Theme);
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  private readonly body = viewChild.required<ElementRef<SVGGElement>>('body');
  private readonly size = signal<readonly [number, number]>([900, 560]);
  private gesture: Gesture | undefined;
  protected readonly held = signal(false);
  /** Which figure, in which view, the frame was last fitted to. */
  private fitted = '';

  /** The figure's own frame; it stays while a gesture lasts, so that the board does not move under the hand. */
  private readonly frame = signal<Box>(EMPTY);
  /** Looked at more closely: how often larger than the whole frame, and what is in the middle. */
  private readonly closer = signal<{ readonly times: number; readonly middle: Point } | null>(null);
  readonly zoomed = computed(() => this.closer() !== null);
  readonly box = computed<Box>(() => {
    const whole = fitTo(this.frame(), this.size());
    const closer = this.closer();
    if (!closer) return whole;
    const [w, h] = [(whole[2] - whole[0]) / closer.times, (whole[3] - whole[1]) / closer.times];
    const [x, y] = closer.middle;
    return [x - w / 2, y - h / 2, x + w / 2, y + h / 2];
  });
  protected readonly viewBox = computed(() => {
    const [l, t, r, b] = this.box();
    return `${l} ${t} ${r - l} ${b - t}`;
  });
  /** CSS pixels for a diameter. */
  protected readonly scale = computed(() => this.size()[0] / (this.box()[2] - this.box()[0]));
  /** Numbers and points stay readable when a large figure makes the rope thin … */
  protected readonly readable = computed(() => Math.max(1, NUMBER_PIXELS / this.scale()));
  /** … but numbers in a crowd grow no larger than their neighbours allow; the one pointed at always does. */
  protected readonly numberScale = computed(() => Math.min(this.readable(), Math.max(1, 0.62 * this.crowding())));
  private readonly crowding = computed(() => {
    const places = this.labels().map((l) => l.point);
    return places.reduce((least, p, i) => Math.min(least, ...places.slice(i + 1).map((q) => distance(p, q))), Infinity);
  });
  protected readonly seen = computed(() => methodInView(this.state.method(), this.state.view()));

  protected readonly drawing = computed<Drawing>(() => {
    const step = this.state.step();
    if (step !== null && stepsOf(this.state.method())[step])
      return drawStep(this.state.method(), step, { view: this.state.view(), exact: true, ghost: true, numbered: true });
    const rope =
      this.state.tool() === 'lay' && !this.state.newRope() && this.state.view() === 'front'
        ? this.state.activeRope()
        : undefined;
    // The stretch since the last halt is what the hand is laying: the working end's colour.
    const since = rope
      ? (stretchesOf(this.state.method())
          .filter((s) => s.rope === rope.id)
          .at(-1)?.to ??
        this.state.method().leaders.find((l) => l.kind === 'end' && l.rope === rope.id)?.from ??
        0)
      : 0;
    return drawFigure(
      this.seen().figure,
      rope && since < rope.points.length - 1 ? { working: { strand: rope.id, from: since } } : {},
    );
  });
  private readonly placedLabels = computed(() => labelPlaces(this.seen().figure));
  /** Numbers keep their place beside their crossings while the hand moves; they are placed anew when it lets go. */
  private carriedLabels(figure: Figure): Label[] {
    const before = new Map(this.placedBefore.map((l) => [l.crossing, l]));
    return crossingsOf(figure).map((c): Label => {
      const was = before.get(c.number);
      const [dx, dy] = was ? [was.point[0] - was.at[0], was.point[1] - was.at[1]] : [1, -1];
      return { crossing: c.number, at: c.point, point: [c.point[0] + dx, c.point[1] + dy] };
    });
  }
  private placedBefore: readonly Label[] = [];
  protected readonly labels = computed(() => {
    const step = this.state.step();
    const shown = this.state.method().halts[step ?? -1];
    const all = this.state.dragging() ? this.carriedLabels(this.seen().figure) : this.placedLabels();
    if (!shown) return all;
    const extents = this.state.extents();
    const visible = new Set(
      crossingsOf(this.seen().figure)
        .filter((c) => isReached(extents, c.first) && isReached(extents, c.second))
        .map((c) => c.number),
    );
    return all.filter((l) => visible.has(l.crossing));
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
        chosen: chosen?.kind === 'point' && chosen.strand === r.id && chosen.index === index,
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
    const stretch = this.shownStretch();
    const rope = stretch && ropeOf(this.seen().figure, stretch.rope);
    return rope && this.state.view() === 'front' ? pointAt(curveOf(rope), stretch.to) : undefined;
  });
  private readonly shownStretch = computed(() => stretchesOf(this.state.method())[this.state.step() ?? -1]);

  protected grabHalt(event: PointerEvent): void {
    if (event.button !== 0 || !this.store.mayWrite()) return;
    event.stopPropagation();
    this.svg().nativeElement.setPointerCapture(event.pointerId);
    this.gesture = { kind: 'halt', index: this.state.step() ?? 0 };
  }

  /** The halt follows the hand along its rope; at a crossing it stays on the strand that it is on. */
  private dragHalt(index: number, to: Point): void {
    const stretch = stretchesOf(this.state.method())[index];
    const rope = stretch && ropeOf(this.state.figure(), stretch.rope);
    if (!rope) return;
    const curve = curveOf(rope);
    const here = lengthTo(curve, stretch.to);
    let [best, away] = [here, Infinity];
    for (let l = Math.max(0, here - HALT_REACH); l <= Math.min(lengthOf(curve), here + HALT_REACH); l += 0.2) {
      const far = distance(pointAt(curve, atLength(curve, l)), to);
      if (far < away) [best, away] = [l, far];
    }
    this.state.do({ kind: 'move-halt', index, at: atLength(curve, best) }, { group: `drag-halt-${index}` });
  }

  /** Loops that are meant to stay. */
  protected readonly eyes = computed<Point[]>(() =>
    this.seen().figure.ropes.flatMap((r) => (r.eyes ?? []).map((at) => pointAt(curveOf(r), at))),
  );
  /** The place chosen on the trail, and the crossing pointed at. */
  protected readonly rings = computed<Point[]>(() => {
    const figure = this.seen().figure;
    const out: Point[] = [];
    const chosen = this.state.chosen();
    if (chosen?.kind === 'place') {
      const rope = ropeOf(figure, chosen.place.strand);
      if (rope) out.push(pointAt(curveOf(rope), chosen.place.at));
    }
    return out;
  });
  protected readonly pointedAt = computed(() => {
    const crossing = crossingsOf(this.seen().figure).find((c) => c.number === this.state.pointed());
    return crossing?.point;
  });

  constructor() {
    effect(() => {
      if (!this.state.dragging()) this.placedBefore = this.placedLabels();
    });
    effect(() => {
      this.paint(svgPieces(this.drawing(), this.theme.look(), 'board-', this.box()));
    });
    effect(() => {
      const method = this.state.laid();
      const view = this.state.view();
      const id = `${this.store.card()?.id ?? ''} ${this.store.inHand()} ${this.state.layout()}`;
      untracked(() => {
        if (!method || this.gesture) return;
        this.fit(methodInView(method, view).figure, `${id} ${view}`);
      });
    });
    const destroy = inject(DestroyRef);
    const observer = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0 && entry.contentRect.height > 0)
        this.size.set([entry.contentRect.width, entry.contentRect.height]);
    });
    effect(() => observer.observe(this.svg().nativeElement));
    destroy.onDestroy(() => observer.disconnect());
  }

  /** What is painted now, piece by piece; only pieces that have changed are painted anew. */
  private painted: readonly string[] = [];

  private paint(pieces: readonly string[]): void {
    const body = this.body().nativeElement;
    while (body.childElementCount > pieces.length) body.lastElementChild?.remove();
    while (body.childElementCount < pieces.length)
      body.append(document.createElementNS('http://www.w3.org/2000/svg', 'g'));
    pieces.forEach((piece, i) => {
      if (piece !== this.painted[i]) (body.children[i] as Element).innerHTML = piece;
    });
    this.painted = pieces;
  }

  /** Looks closer (or from farther off), keeping a place of the board where it is on the screen. */
  zoom(by: number, about: Point = this.middle()): void {
    const times = Math.min(MOST_ZOOM, Math.max(LEAST_ZOOM, (this.closer()?.times ?? 1) * by));
    const k = (this.closer()?.times ?? 1) / times;
    const [x, y] = this.middle();
    this.closer.set({ times, middle: [about[0] + (x - about[0]) * k, about[1] + (y - about[1]) * k] });
  }

  /** Shows the whole figure again. */
  fitAll(): void {
    this.closer.set(null);
    this.fitted = '';
    this.fit(this.seen().figure, `${this.store.card()?.id ?? ''} ${this.state.view()}`);
  }

  /** Moves the board under the eye, in diameters. */
  pan(by: Point): void {
    const [x, y] = this.middle();
    this.closer.set({ times: this.closer()?.times ?? 1, middle: [x + by[0], y + by[1]] });
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    if (event.ctrlKey || event.metaKey || !event.shiftKey)
      this.zoom(Math.exp(-event.deltaY * WHEEL), this.place(event));
    else this.pan([event.deltaY / this.scale(), 0]);
  }

  /** Fingers on the board; two of them pan and zoom. */
  private readonly fingers = new Map<number, Point>();

  private pinch(event: PointerEvent): boolean {
    if (!this.fingers.has(event.pointerId)) return false;
    if (this.fingers.size < 2) {
      this.fingers.set(event.pointerId, [event.clientX, event.clientY]);
      return false;
    }
    const [a, b] = [...this.fingers.values()] as [Point, Point];
    this.fingers.set(event.pointerId, [event.clientX, event.clientY]);
    const [c, d] = [...this.fingers.values()] as [Point, Point];
    const s = this.scale();
    this.pan([(a[0] + b[0] - c[0] - d[0]) / (2 * s), (a[1] + b[1] - c[1] - d[1]) / (2 * s)]);
    const rect = this.svg().nativeElement.getBoundingClientRect();
    const [l, t] = this.box();
    const between: Point = [l + ((c[0] + d[0]) / 2 - rect.left) / s, t + ((c[1] + d[1]) / 2 - rect.top) / s];
    this.zoom(distance(c, d) / Math.max(1, distance(a, b)), between);
    return true;
  }

  focus(): void {
    this.svg().nativeElement.focus();
  }

  middle(): Point {
    const [l, t, r, b] = this.box();
    return [(l + r) / 2, (t + b) / 2];
  }

  /**
   * Brings the whole figure into view when it has grown out of it, or when another figure or view is shown. Otherwise the board
   * stays still under the hand.
   */
  private fit(figure: Figure, shown: string): void {
    if (figure.ropes.length === 0) {
      if (this.fitted !== shown) this.frame.set(EMPTY);
    } else {
      const whole = wholeBox(figure);
      if (this.fitted === shown && contains(this.box(), whole)) return;
      const [l, t, r, b] = whole;
      this.frame.set([l - ROOM, t - ROOM, r + ROOM, b + ROOM]);
    }
    this.fitted = shown;
  }

  private place(event: MouseEvent): Point {
    const rect = this.svg().nativeElement.getBoundingClientRect();
    const [l, t, r, b] = this.box();
    const round = (v: number): number => Math.round(v * 100) / 100;
    return [
      round(l + ((event.clientX - rect.left) / rect.width) * (r - l)),
      round(t + ((event.clientY - rect.top) / rect.height) * (b - t)),
    ];
  }

  protected down(event: PointerEvent): void {
    if (event.pointerType === 'touch') {
      this.fingers.set(event.pointerId, [event.clientX, event.clientY]);
      // A second finger breaks the stroke off: it is a look, not a line.
      if (this.fingers.size > 1) {
        this.cancel();
        return;
      }
    }
    if (event.button === 1) {
      event.preventDefault();
      this.svg().nativeElement.setPointerCapture(event.pointerId);
      this.gesture = { kind: 'pan', last: [event.clientX, event.clientY] };
      return;
    }
    if (event.button !== 0 || !this.store.mayWrite() || this.state.view() !== 'front') return;
    if ((event.target as Element).closest('.waymark')) return;
    const at = this.place(event);
    this.svg().nativeElement.setPointerCapture(event.pointerId);
    this.held.set(true);
    if (this.tools.kind() !== null) {
      if (this.tools.press(at, this.state.under())) this.gesture = { kind: 'bight', last: at };
      return;
    }
    if (this.state.tool() === 'lay') {
      this.state.chosen.set(null);
      this.gesture = { kind: 'lay', start: at, samples: [{ point: at, under: this.state.under() }] };
      return;
    }
    this.takeHold(at);
  }

  private takeHold(at: Point): void {
    const reach = Math.max(HOLD, HOLD_PIXELS / this.scale());
    const { ropes, hosts } = this.state.figure();
    const nearest = ropes
      .flatMap((r) => r.points.map((p, index) => ({ strand: r.id, index, away: distance(p, at) })))
      .sort((p, q) => p.away - q.away)[0];
    if (nearest && nearest.away <= reach) {
      this.state.chosen.set({ kind: 'point', strand: nearest.strand, index: nearest.index });
      this.state.setActive(nearest.strand);
      this.gesture = { kind: 'point', strand: nearest.strand, index: nearest.index };
      return;
    }
    const onRope = ropes
      .map((r) => ({ strand: r.id, ...nearestOn(curveOf(r), at) }))
      .sort((p, q) => p.away - q.away)[0];
    if (onRope && onRope.away <= reach) {
      if (this.state.do({ kind: 'insert-point', strand: onRope.strand, at: onRope.at })) {
        const index = Math.floor(onRope.at) + 1;
        this.state.chosen.set({ kind: 'point', strand: onRope.strand, index });
        this.gesture = { kind: 'point', strand: onRope.strand, index };
      }
      return;
    }
    const onHost = hosts.find((h) => nearestOn(curveOf(h), at).away <= (h.size ?? 2.4) / 2 + 0.2);
    if (onHost) {
      this.state.chosen.set({ kind: 'host', host: onHost.id });
      this.gesture = { kind: 'host', host: onHost.id, last: at };
      return;
    }
    this.state.chosen.set(null);
  }

  protected move(event: PointerEvent): void {
    if (this.pinch(event)) return;
    const gesture = this.gesture;
    if (!gesture) {
      this.pointAt(this.place(event));
      return;
    }
    if (gesture.kind === 'pan') {
      const s = this.scale();
      this.pan([(gesture.last[0] - event.clientX) / s, (gesture.last[1] - event.clientY) / s]);
      gesture.last = [event.clientX, event.clientY];
      return;
    }
    const at = this.place(event);
    if (gesture.kind === 'halt') this.dragHalt(gesture.index, at);
    else if (gesture.kind === 'lay') {
      for (const e of coalesced(event)) gesture.samples.push({ point: this.place(e), under: this.state.under() });
      if (distance(at, gesture.start) < CLICK && gesture.samples.length < 4) return;
      const edit = this.state.layEdit(gesture.samples);
      if (edit) this.state.preview(edit);
    } else if (gesture.kind === 'bight') {
      if (distance(at, gesture.last) < CLICK) return;
      gesture.last = at;
      this.tools.draw({ point: at, under: this.state.under() });
    } else this.drag(at);
  }

  /** While numbers take no presses, the crossing whose number the hand is over is still the one pointed at. */
  private pointAt(at: Point): void {
    if (this.state.tool() !== 'lay' || this.state.walking()) return;
    const reach = 0.95 * this.numberScale();
    const over = this.labels().find((l) => distance(l.point, at) <= reach)?.crossing;
    if (over !== undefined) this.state.pointed.set((this.hovered = over));
    else if (this.hovered !== undefined && this.hovered === this.state.pointed()) this.state.pointed.set(null);
    if (over === undefined) this.hovered = undefined;
  }
  private hovered: number | undefined;

  /** Where the hand has dragged to since the last frame; a frame shows only the last place. */
  private dragged: Point | undefined;

  private drag(at: Point): void {
    const waiting = this.dragged !== undefined;
    this.dragged = at;
    if (!waiting) requestAnimationFrame(() => this.showDrag());
  }

  private showDrag(): void {
    const [at, gesture] = [this.dragged, this.gesture];
    this.dragged = undefined;
    if (!at) return;
    if (gesture?.kind === 'point') {
      const pass = this.state.under() ? 'U' : 'O';
      this.state.preview({ kind: 'move-point', strand: gesture.strand, index: gesture.index, to: at, pass }, true);
    } else if (gesture?.kind === 'host') {
      const by: Point = [at[0] - gesture.last[0], at[1] - gesture.last[1]];
      gesture.last = at;
      this.state.preview({ kind: 'move-host', host: gesture.host, by }, true);
    }
  }

  protected up(event: PointerEvent): void {
    this.fingers.delete(event.pointerId);
    this.showDrag();
    const gesture = this.gesture;
    this.gesture = undefined;
    this.held.set(false);
    if (!gesture) return;
    if (gesture.kind === 'lay') {
      this.state.endPreview();
      const travelled = Math.max(...gesture.samples.map((s) => distance(s.point, gesture.start)));
      if (travelled < CLICK) this.state.lay([{ point: this.place(event), under: this.state.under() }]);
      else this.state.lay(gesture.samples);
    } else if (gesture.kind === 'point' || gesture.kind === 'host') this.state.commitPreview();
    this.fit(this.state.figure(), this.fitted);
  }

  protected fingersOff(event: PointerEvent): void {
    this.fingers.delete(event.pointerId);
    this.cancel();
  }

  /** A gesture that is broken off leaves everything as it was. */
  protected cancel(): void {
    this.gesture = undefined;
    this.held.set(false);
    this.state.endPreview();
  }

  protected swap(event: Event, crossing: number): void {
    event.stopPropagation();
    event.preventDefault();
    this.state.swap(crossing);
  }
}

const contains = (outer: Box, inner: Box): boolean =>
  inner[0] >= outer[0] && inner[1] >= outer[1] && inner[2] <= outer[2] && inner[3] <= outer[3];

/** A box widened to a shape in CSS pixels. */
function fitTo([l, t, r, b]: Box, [width, height]: readonly [number, number]): Box {
  const scale = Math.max((r - l) / width, (b - t) / height);
  const [x, y] = [(l + r) / 2, (t + b) / 2];
  return [x - (width * scale) / 2, y - (height * scale) / 2, x + (width * scale) / 2, y + (height * scale) / 2];
}

/** Every place a pointer passed since the last event; some browsers give none. */
const coalesced = (event: PointerEvent): readonly PointerEvent[] => {
  const all = event.getCoalescedEvents();
  return all.length > 0 ? all : [event];
};
