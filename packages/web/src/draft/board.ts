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
  crossingsOf,
  curveOf,
  distance,
  drawFigure,
  drawStep,
  labelPlaces,
  methodInView,
  nearestOn,
  pointAt,
  ropeOf,
  stepsOf,
  svgBody,
  wholeBox,
  type Box,
  type Drawing,
  type Figure,
  type Point,
} from '@foxtrail/core';
import { Theme } from '../data/theme';
import { BenchStore } from '../knot/bench-store';
import { DraftState, type Sample } from './draft-state';

/** The empty board, in diameters. */
const EMPTY: Box = [-18, -11, 18, 11];
/** Room kept round the figure for laying on. */
const ROOM = 2.5;
/** Size of a number on the board, in CSS pixels a diameter, below which it cannot be read with a rope in the other hand. */
const NUMBER_PIXELS = 19;
/** A press that moves less than this many diameters is a click. */
const CLICK = 0.45;
/** How near a press must be to take hold of a point, in diameters and in CSS pixels. */
const HOLD = 0.9;
const HOLD_PIXELS = 16;

type Gesture =
  | { readonly kind: 'lay'; readonly start: Point; readonly samples: Sample[] }
  | { readonly kind: 'point'; readonly strand: string; readonly index: number }
  | { readonly kind: 'host'; readonly host: string; last: Point };

@Component({
  selector: 'ft-board',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './board.html',
  styleUrl: './board.scss',
})
export class Board {
  protected readonly state = inject(DraftState);
  protected readonly store = inject(BenchStore);
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
  readonly box = computed<Box>(() => fitTo(this.frame(), this.size()));
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
    if (step !== null && step < this.state.method().halts.length)
      return drawStep(this.state.method(), step, { view: this.state.view(), ghost: true });
    const rope =
      this.state.tool() === 'lay' && !this.state.newRope() && this.state.view() === 'front'
        ? this.state.activeRope()
        : undefined;
    // The stretch since the last halt is what the hand is laying: the working end's colour.
    const since = rope
      ? (stepsOf(this.state.method())
          .filter((s) => s.rope === rope.id)
          .at(-1)?.to ?? 0)
      : 0;
    return drawFigure(
      this.seen().figure,
      rope && since < rope.points.length - 1 ? { working: { strand: rope.id, from: since } } : {},
    );
  });
  protected readonly labels = computed(() => {
    const step = this.state.step();
    const shown = this.state.method().halts[step ?? -1];
    const all = labelPlaces(this.seen().figure);
    if (!shown) return all;
    const visible = new Set(
      crossingsOf(this.seen().figure)
        .filter((c) => this.isLaid(c))
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
      this.body().nativeElement.innerHTML = svgBody(this.drawing(), this.theme.look(), 'board-', this.box());
    });
    effect(() => {
      const method = this.store.method();
      const view = this.state.view();
      const id = this.store.card()?.id;
      untracked(() => {
        if (!method || this.gesture) return;
        this.fit(methodInView(method, view).figure, `${id ?? ''} ${view}`);
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

  private isLaid(c: { first: { strand: string; at: number }; second: { strand: string; at: number } }): boolean {
    const method = this.state.method();
    const step = stepsOf(method)[this.state.step() ?? -1];
    if (!step) return true;
    const reach = (strand: string): number => {
      const leader = method.leaders.findIndex((l) => l.rope === strand);
      if (leader < 0 || leader < step.leader) return Infinity;
      return leader === step.leader ? step.to : 0;
    };
    return c.first.at <= reach(c.first.strand) && c.second.at <= reach(c.second.strand);
  }

  private place(event: PointerEvent): Point {
    const rect = this.svg().nativeElement.getBoundingClientRect();
    const [l, t, r, b] = this.box();
    const round = (v: number): number => Math.round(v * 100) / 100;
    return [
      round(l + ((event.clientX - rect.left) / rect.width) * (r - l)),
      round(t + ((event.clientY - rect.top) / rect.height) * (b - t)),
    ];
  }

  protected down(event: PointerEvent): void {
    if (event.button !== 0 || !this.store.mayWrite() || this.state.view() !== 'front') return;
    if ((event.target as Element).closest('.waymark')) return;
    const at = this.place(event);
    this.svg().nativeElement.setPointerCapture(event.pointerId);
    this.held.set(true);
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
      if (this.state.doFigure({ kind: 'insert-point', strand: onRope.strand, at: onRope.at })) {
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
    const gesture = this.gesture;
    if (!gesture) return;
    const at = this.place(event);
    if (gesture.kind === 'lay') {
      for (const e of coalesced(event)) gesture.samples.push({ point: this.place(e), under: this.state.under() });
      if (distance(at, gesture.start) < CLICK && gesture.samples.length < 4) return;
      const edit = this.state.layEdit(gesture.samples);
      if (edit) this.state.preview(edit);
    } else if (gesture.kind === 'point') {
      const pass = this.state.under() ? 'U' : 'O';
      this.state.preview({ kind: 'move-point', strand: gesture.strand, index: gesture.index, to: at, pass }, true);
    } else {
      const by: Point = [at[0] - gesture.last[0], at[1] - gesture.last[1]];
      gesture.last = at;
      this.state.preview({ kind: 'move-host', host: gesture.host, by }, true);
    }
  }

  protected up(event: PointerEvent): void {
    const gesture = this.gesture;
    this.gesture = undefined;
    this.held.set(false);
    if (!gesture) return;
    if (gesture.kind === 'lay') {
      this.state.endPreview();
      const travelled = Math.max(...gesture.samples.map((s) => distance(s.point, gesture.start)));
      if (travelled < CLICK) this.state.lay([{ point: this.place(event), under: this.state.under() }]);
      else this.state.lay(gesture.samples);
    } else this.state.commitPreview();
    this.fit(this.state.figure(), this.fitted);
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
