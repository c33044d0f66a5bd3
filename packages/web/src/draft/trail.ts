/**
 * The trail: the rope's run from standing part to tail as a strip. An over is a rise, an under a dip; every crossing is a
 * numbered waymark that occurs twice, joined by an arc; halts are flags; the tail gauge closes it.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  viewChild,
  type ElementRef,
} from '@angular/core';
import {
  stretchesOf,
  atLength,
  bodyOf,
  curveOf,
  lengthOf,
  lengthTo,
  passagesOf,
  requiredTail,
  ropeOf,
  stepsOf,
  setApartWithin,
  tailsOf,
  toMillimetres,
  type Method,
  type Rope,
} from '@foxtrail/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { asPlan } from '@foxtrail/core/assembly';
import { tailsInPlans } from '@foxtrail/core/ropes';
import type { Observable } from 'rxjs';
import { RopesService } from '../data/ropes';
import { Theme } from '../data/theme';
import { BenchStore } from '../knot/bench-store';
import { ShelfFacts } from '../knot/shelf-facts';
import { ropeWave } from '../ui/rope-wave';
import { Rove } from '../ui/rove';
import { DraftState } from './draft-state';
import { Handling } from './handling';

const HEIGHT = 138;
const BASE = 66;
/** Height of a rise or a dip, in CSS pixels. */
const SWING = 13;
const MARGIN = 34;
/** Room between the runs of two ropes, in CSS pixels. */
const BETWEEN = 40;
/** Room for a waymark's disc, and how far from the rope's middle it stands, in CSS pixels. */
const WAYMARK_ROOM = 22;
const WAYMARK_AWAY = SWING + 16;
/** Room for the cloth of a flag, in CSS pixels. */
const FLAG_ROOM = 29;
/** Least room for a passage, in CSS pixels; a longer trail scrolls within its strip. */
const PASSAGE_ROOM = 24;

interface Lane {
  readonly rope: Rope;
  readonly colour: string;
  readonly left: number;
  readonly scale: number;
  readonly path: string;
  readonly working: string | undefined;
}

@Component({
  selector: 'ft-trail',
  imports: [Rove],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './trail.html',
  styleUrl: './trail.scss',
})
export class Trail {
  protected readonly state = inject(DraftState);
  protected readonly handling = inject(Handling);
  private readonly theme = inject(Theme);
  protected readonly store = inject(BenchStore);
  private readonly shelf = inject(ShelfFacts);
  private readonly stock = inject(RopesService);
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  private readonly strip = viewChild.required<ElementRef<HTMLElement>>('strip');
  private readonly room = signal(900);
  protected readonly width = computed(() => {
    const passages = this.ropes().reduce((n, r) => n + passagesOf(this.figure(), r.id).length, 0);
    return Math.max(this.room(), passages * PASSAGE_ROOM + 2 * MARGIN);
  });
  protected readonly height = HEIGHT;
  protected readonly base = BASE;
  private dragging: number | undefined;

  /** While a point is dragged the strip waits: it shows the knot as it is, and follows when the hand lets go. */
  private readonly method = computed<Method>(
    () => (this.state.dragging() ? this.state.laid() : undefined) ?? this.state.method(),
  );
  private readonly figure = computed(() => this.method().figure);

  /** The ropes in the order in which their leaders begin, each once. */
  private readonly ropes = computed(() =>
    [...new Set(this.method().leaders.map((l) => l.rope))].flatMap((id) => ropeOf(this.figure(), id) ?? []),
  );

  protected readonly lanes = computed<Lane[]>(() => {
    const ropes = this.ropes();
    const total = ropes.reduce((sum, r) => sum + lengthOf(curveOf(r)), 0);
    const scale = (this.width() - 2 * MARGIN - BETWEEN * Math.max(0, ropes.length - 1)) / Math.max(1, total);
    const step = stepsOf(this.method())[this.state.step() ?? -1]?.stretch;
    let left = MARGIN;
    return ropes.map((rope) => {
      const curve = curveOf(rope);
      const length = lengthOf(curve);
      const run = { left, scale, base: BASE, swing: SWING };
      const path = ropeWave(this.figure(), rope, run, 0, length);
      const working =
        step?.rope === rope.id
          ? ropeWave(this.figure(), rope, run, lengthTo(curve, step.from), lengthTo(curve, step.to))
          : undefined;
      const colour = bodyOf(this.theme.look(), this.figure().ropes.indexOf(rope), rope.cordage);
      const lane = { rope, colour, left, scale, path, working };
      left += length * scale + BETWEEN;
      return lane;
    });
  });

  /** Every passage as a numbered disc: above its rise or beneath its dip, moved aside where two would lie on each other. */
  protected readonly waymarks = computed(() => {
    const all = this.lanes().flatMap(({ rope, left, scale }) =>
      passagesOf(this.figure(), rope.id).map((p) => ({
        key: `${rope.id}${p.at}`,
        number: p.crossing.number,
        over: p.over,
        from: left + lengthTo(curveOf(rope), p.at) * scale,
      })),
    );
    const places = new Map<string, number>();
    for (const over of [true, false]) {
      const side = all.filter((w) => w.over === over);
      const apart = setApartWithin(
        side.map((w) => w.from),
        WAYMARK_ROOM,
        [WAYMARK_ROOM / 2, this.width() - WAYMARK_ROOM / 2],
      );
      side.forEach((w, i) => places.set(w.key, apart[i] ?? w.from));
    }
    return all.map((w) => ({
      ...w,
      x: places.get(w.key) ?? w.from,
      y: BASE + (w.over ? -WAYMARK_AWAY : WAYMARK_AWAY),
    }));
  });

  protected readonly arcs = computed(() => {
    const ends = new Map<number, number[]>();
    for (const w of this.waymarks()) ends.set(w.number, [...(ends.get(w.number) ?? []), w.from]);
    return [...ends].flatMap(([number, [a, b]]) => {
      if (a === undefined || b === undefined) return [];
      const depth = BASE + 50 + Math.min(22, Math.abs(b - a) * 0.05);
      return [{ number, path: `M${a} ${BASE + 42}C${a} ${depth} ${b} ${depth} ${b} ${BASE + 42}` }];
    });
  });

  /** Where the rope is drawn short. */
  protected readonly breaks = computed(() =>
    this.lanes().flatMap(({ rope, left, scale }) =>
      (rope.breaks ?? []).map((b) => ({
        key: `${rope.id}${b.at}`,
        x: left + lengthTo(curveOf(rope), b.at) * scale,
        counts: b.counts,
      })),
    ),
  );

  /** The flags: each on its pole, its cloth moved aside where two would cover each other. */
  protected readonly halts = computed(() => {
    const flags = stretchesOf(this.method())
      .flatMap((step) => {
        const lane = this.lanes().find((l) => l.rope.id === step.rope);
        return lane ? [{ index: step.index, x: lane.left + lengthTo(curveOf(lane.rope), step.to) * lane.scale }] : [];
      })
      .sort((a, b) => a.x - b.x);
    const cloths = setApartWithin(
      flags.map((f) => f.x),
      FLAG_ROOM,
      [0, this.width() - FLAG_ROOM],
    );
    return flags.map((f, i) => ({ ...f, aside: (cloths[i] ?? f.x) - f.x, chosen: this.state.step() === f.index }));
  });

  protected readonly place = computed(() => {
    const chosen = this.state.chosen();
    if (chosen?.kind !== 'place') return undefined;
    const lane = this.lanes().find((l) => l.rope.id === chosen.place.strand);
    return lane === undefined ? undefined : lane.left + lengthTo(curveOf(lane.rope), chosen.place.at) * lane.scale;
  });

  protected readonly gauges = computed(() => {
    const { tail: rule, cordMm } = this.store.rules();
    const figure = this.figure();
    const followed = this.store.knot()?.entry.tail;
    return tailsOf(figure).map((t) => {
      const strand = figure.ropes.findIndex((r) => r.id === t.rope);
      // The longest first: each of them is to be had.
      const own = this.planned()
        .filter((p) => p.strand === strand)
        .sort((a, b) => b.mm - a.mm);
      // Of the plan that is followed what it leaves by now.
      const plan = followed ? own.find((p) => p.plan === followed.plan) : own[0];
      const crosses = passagesOf(figure, t.rope).length > 0;
      const ownMm = cordMm * t.diameter;
      const wanted = requiredTail(rule, ownMm);
      const houseWants = requiredTail(this.store.houseTail(), ownMm);
      return {
        rope: t.rope,
        name: this.store.vocabulary().ropes[strand] ?? `rope ${t.rope}`,
        crosses,
        length: t.length,
        wanted,
        share: Math.min(1, t.length / (wanted * 1.5)),
        holds: crosses && t.length >= wanted - 0.05 && !t.inside,
        inside: t.inside,
        mm: Math.round(toMillimetres(t.length, ownMm)),
        wantedMm: Math.round(toMillimetres(wanted, ownMm)),
        plan,
        follows: followed !== undefined && (!plan || plan.mm === followed.mm) ? followed.plan : undefined,
        planSays: plan && `${plan.mm.toFixed(0)} mm`,
        /** A plan that leaves less than the house wants is not to be followed. */
        planIsShort: plan !== undefined && plan.mm < houseWants * ownMm - 0.5,
      };
    });
  });

  /** The tails that the house's plans and assemblies leave of this knot; none until they have come. */
  private readonly planned = computed(() => {
    const id = this.shelf.card()?.id;
    return id === undefined
      ? []
      : tailsInPlans(
          [...this.stock.plans.list().map((p) => p.is), ...this.stock.assemblies.list().map((a) => asPlan(a.is))],
          { ref: `knot:${id}`, name: this.store.knot()?.name ?? '' },
        );
  });

  constructor() {
    // Without plans there is what the house asks.
    for (const plans of [this.stock.ensure(this.stock.plans), this.stock.ensure(this.stock.assemblies)])
      (plans as Observable<unknown>).pipe(takeUntilDestroyed()).subscribe({ error: () => undefined });
    const observer = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0) this.room.set(entry.contentRect.width);
    });
    effect(() => observer.observe(this.strip().nativeElement));
    inject(DestroyRef).onDestroy(() => observer.disconnect());
  }

  private positionAt(clientX: number): { strand: string; at: number } | undefined {
    const x = clientX - this.svg().nativeElement.getBoundingClientRect().left;
    const lane = this.lanes()
      .map((l) => ({ l, away: Math.max(0, l.left - x, x - l.left - lengthOf(curveOf(l.rope)) * l.scale) }))
      .sort((p, q) => p.away - q.away)[0]?.l;
    return lane && { strand: lane.rope.id, at: atLength(curveOf(lane.rope), (x - lane.left) / lane.scale) };
  }

  protected choosePlace(event: MouseEvent): void {
    const place = this.positionAt(event.clientX);
    if (!place) return;
    this.state.chosen.set({ kind: 'place', place });
    this.state.message.set('H places a halt here.');
  }

  protected placeHaltHere(event: MouseEvent): void {
    this.choosePlace(event);
    this.handling.placeHalt();
  }

  protected chooseHalt(index: number): void {
    this.state.chosen.set({ kind: 'halt', index });
    this.state.step.set(index);
  }

  protected grabHalt(event: PointerEvent, index: number): void {
    event.stopPropagation();
    this.chooseHalt(index);
    this.dragging = index;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }

  protected dragHalt(event: PointerEvent): void {
    if (this.dragging === undefined) return;
    const place = this.positionAt(event.clientX);
    const step = stretchesOf(this.method())[this.dragging];
    if (place && step?.rope === place.strand)
      this.state.do({ kind: 'move-halt', index: this.dragging, at: place.at }, { group: `drag-halt-${this.dragging}` });
  }

  protected dropHalt(): void {
    this.dragging = undefined;
  }

  protected haltKey(event: KeyboardEvent, index: number): void {
    const by = { ArrowLeft: -0.5, ArrowRight: 0.5 }[event.key];
    if (by !== undefined) this.handling.moveHalt(index, event.shiftKey ? by * 4 : by);
    else if (event.key === 'Enter' || event.key === ' ') this.chooseHalt(index);
    else if (event.key === 'Delete' || event.key === 'Backspace') {
      this.chooseHalt(index);
      this.handling.removeChosen();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected swap(event: Event, number: number): void {
    event.preventDefault();
    event.stopPropagation();
    this.handling.swap(number);
  }
}
