/**
 * What the author is doing on the Draft screen: the tool in hand, what is chosen, what is pointed at, what is being laid.
 * None of it belongs to the document.
 */
import { computed, inject, Injectable, signal } from '@angular/core';
import {
  onRing,
  composeStep,
  crossingsOf,
  curveOf,
  directionAt,
  fitPath,
  extentsAt,
  freshId,
  hostAt,
  HOST_SIZE,
  hostOf,
  changeLayout,
  isReached,
  lastAt,
  layoutsOf,
  methodOfLayout,
  lengthTo,
  atLength,
  passagesOf,
  pointAt,
  ropeOf,
  sayRefusal,
  stretchesOf,
  type Edit,
  type Figure,
  type HostKind,
  type Method,
  type KnotEdit,
  type Point,
  type Result,
  type Rope,
  type TrailPosition,
  type View,
  WHOLE,
  type Vocabulary,
} from '@foxtrail/core';
import { BenchStore, type Doing } from '../knot/bench-store';

export type Tool = 'lay' | 'points';

export type Chosen =
  | { readonly kind: 'point'; readonly strand: string; readonly index: number }
  | { readonly kind: 'halt'; readonly index: number }
  | { readonly kind: 'host'; readonly host: string }
  /** A place on the trail: where a halt goes when H is pressed. */
  | { readonly kind: 'place'; readonly place: TrailPosition };

/** A place the pointer has passed while laying, and whether the end was to pass under there. */
export interface Sample {
  readonly point: Point;
  readonly under: boolean;
}

const END_ROLES: readonly { readonly role: Rope['ends'][0]; readonly says: string }[] = [
  { role: 'tail', says: 'is a tail.' },
  { role: 'standing', says: 'is a standing part: it runs on to a load.' },
  { role: 'off', says: 'runs off the board, held elsewhere.' },
];

/** A tap of the under key shorter than this, in milliseconds, leaves it latched: for one hand on the rope. */
const TAP = 250;

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
  private readonly held = signal(false);
  private readonly latched = signal(false);
  readonly under = computed(() => this.held() || this.latched());
  /** The end goes over and under by turns. */
  readonly weaving = signal(false);
  private pressedAt = 0;
  private readonly activeId = signal<string | null>(null);
  /** The next stroke begins a rope of its own. */
  readonly newRope = signal(false);
  /** First point of a rope that has no second yet. */
  readonly pendingStart = signal<Sample | null>(null);
  /** Where the keyboard's pencil is. */
  readonly cursor = signal<Point | null>(null);
  private readonly previewState = signal<Method | null>(null);

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

  /** What is laid in the step that is shown; without one, all. */
  readonly extents = computed(() => {
    const [step, method] = [this.step(), this.method()];
    const halt = method.halts[step ?? -1];
    return step === null || !halt ? WHOLE : extentsAt(method, step, halt.at);
  });

  setActive(id: string): void {
    this.activeId.set(id);
    this.newRope.set(false);
    this.pendingStart.set(null);
    this.cursor.set(null);
  }

  pressUnder(): void {
    if (this.held()) return;
    this.pressedAt = performance.now();
    this.held.set(true);
  }

  releaseUnder(): void {
    if (!this.held()) return;
    this.held.set(false);
    const tapped = performance.now() - this.pressedAt < TAP;
    this.latched.update((on) => tapped && !on);
    this.message.set(this.under() ? 'The end passes under.' : 'The end passes over.');
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

  toggleWeaving(): void {
    this.weaving.update((on) => !on);
    this.message.set(
      this.weaving() ? 'The end weaves: over and under by turns.' : 'The end passes over; hold U to pass under.',
    );
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

  /** The edit that lays a hand-drawn path on, or begins a rope with it. */
  layEdit(samples: readonly Sample[]): Edit | undefined {
    const rope = this.newRope() ? undefined : this.activeRope();
    const pending = this.pendingStart();
    const all = rope || !pending ? samples : [pending, ...samples];
    const first = all[0];
    if (!first) return undefined;
    const fitted = fitStroke(rope ? [{ point: rope.points.at(-1) as Point, under: first.under }, ...all] : all);
    const { points } = fitted;
    const pass = this.weaving() ? fitted.pass.replaceAll('O', 'W') : fitted.pass;
    if (rope) return { kind: 'lay', rope: rope.id, points: points.slice(1), pass };
    if (points.length < 2) return undefined;
    return {
      kind: 'add-rope',
      rope: { id: freshId(this.figure()), points, curve: 'smooth', closed: false, ends: ['standing', 'tail'] },
      pass,
    };
  }

  /** Lays a path; with a single point and no rope yet, remembers where the rope begins. */
  lay(samples: readonly Sample[]): void {
    const edit = this.layEdit(samples);
    if (!edit) {
      const start = samples.at(-1);
      if (start) {
        this.pendingStart.set(start);
        this.message.set('The rope begins here. Choose where it goes next.');
      }
      return;
    }
    if (this.do(edit)) {
      if (edit.kind === 'add-rope') this.setActive(edit.rope.id);
      this.pendingStart.set(null);
      this.step.set(null);
      this.message.set(this.saying(edit));
    }
  }

  /** What the end has just done, in words. */
  private saying(edit: Edit): string {
    const id = edit.kind === 'lay' ? edit.rope : edit.kind === 'add-rope' ? edit.rope.id : undefined;
    const method = this.laid();
    const rope = method && id !== undefined ? ropeOf(method.figure, id) : undefined;
    if (!method || !rope) return '';
    return sayStretch(
      method,
      rope.id,
      edit.kind === 'lay' ? rope.points.length - 1 - edit.points.length : 0,
      this.words(),
    );
  }

  /** What the end is doing while it is laid, in words. */
  readonly doing = computed(() => {
    const [shown, before] = [this.previewState(), this.laid()];
    const rope = shown?.figure.ropes.find((r) => r.id === this.activeId()) ?? shown?.figure.ropes.at(-1);
    if (!shown || !rope || this.tool() !== 'lay') return '';
    const old = before && ropeOf(before.figure, rope.id);
    const from = old ? old.points.length - 1 : 0;
    return rope.points.length - 1 > from ? sayStretch(shown, rope.id, from, this.words()) : '';
  });

  /** Lays a host on the board. */
  addHost(kind: HostKind, middle: Point): void {
    const host = hostAt(kind, freshId(this.figure(), kind), middle);
    if (this.do({ kind: 'add-host', host })) {
      this.tool.set('points');
      this.chosen.set({ kind: 'host', host: host.id });
      this.message.set(`A ${this.words().hosts[kind] ?? kind} is laid. Arrow keys or a drag move it; + and − size it.`);
    }
  }

  /** Makes the chosen host thicker or thinner. */
  sizeHost(by: number): void {
    const chosen = this.chosen();
    const host = chosen?.kind === 'host' ? hostOf(this.figure(), chosen.host) : undefined;
    if (!host) {
      this.message.set('Choose a host first (Points, then press on it).');
      return;
    }
    const size = Math.min(20, Math.max(0.6, (host.size ?? HOST_SIZE) + by));
    if (this.do({ kind: 'size-host', host: host.id, size }, { group: `size-${host.id}` }))
      this.message.set(`It is ${size.toFixed(1)} rope diameters thick.`);
  }

  startNewRope(): void {
    this.tool.set('lay');
    this.newRope.set(true);
    this.pendingStart.set(null);
    this.cursor.set(null);
    this.chosen.set(null);
    this.message.set('The next stroke begins a new rope.');
  }

  /** Places a halt at the chosen place on the trail, or at the end of the rope in hand. */
  placeHalt(): void {
    const method = this.laid();
    const chosen = this.chosen();
    const rope = chosen?.kind === 'place' ? ropeOf(this.figure(), chosen.place.strand) : this.activeRope();
    if (!method || !rope) {
      this.message.set('Lay a rope first; then a halt can stand on it.');
      return;
    }
    const at = chosen?.kind === 'place' ? chosen.place.at : lastAt(rope);
    const leader = method.leaders.findIndex((l) => l.rope === rope.id);
    if (!this.do({ kind: 'place-halt', leader, at })) return;
    const index = this.method().halts.findIndex((h) => h.leader === leader && Math.abs(h.at - at) < 1e-9);
    this.chosen.set({ kind: 'halt', index });
    this.step.set(index);
    this.message.set(`Halt ${index + 1} is placed.`);
  }

  swap(crossing: number): void {
    const c = this.crossing(crossing);
    if (!c || this.view() !== 'front') return;
    if (this.do({ kind: 'swap', where: c.over })) this.message.set(`Crossing ${crossing} is swapped.`);
  }

  private crossing(number: number): { over: TrailPosition } | undefined {
    return this.figure()
      .ropes.flatMap((r) => passagesOf(this.figure(), r.id))
      .find((p) => p.crossing.number === number)?.crossing;
  }

  /** Takes away what is chosen. */
  removeChosen(): void {
    const chosen = this.chosen();
    if (chosen?.kind === 'point') {
      if (this.do({ kind: 'remove-point', strand: chosen.strand, index: chosen.index })) {
        const strand = ropeOf(this.figure(), chosen.strand);
        this.chosen.set(strand ? { ...chosen, index: Math.min(chosen.index, strand.points.length - 1) } : null);
      }
    } else if (chosen?.kind === 'halt') {
      if (this.do({ kind: 'remove-step', index: chosen.index })) this.clear();
    } else if (chosen?.kind === 'host') {
      if (this.do({ kind: 'remove-host', host: chosen.host })) this.clear();
    } else this.message.set('Choose a point, a halt or a spar first; then it can be removed.');
  }

  /** Declares the loop at the chosen place an eye, or takes that back. */
  toggleEye(): void {
    const chosen = this.chosen();
    const where: TrailPosition | undefined =
      chosen?.kind === 'place'
        ? chosen.place
        : chosen?.kind === 'point'
          ? { strand: chosen.strand, at: chosen.index }
          : undefined;
    if (!where) {
      this.message.set('Choose a place on the loop first: on the trail, or a point of the rope.');
      return;
    }
    const before = ropeOf(this.figure(), where.strand)?.eyes?.length ?? 0;
    if (this.do({ kind: 'toggle-eye', where }))
      this.message.set(
        (ropeOf(this.figure(), where.strand)?.eyes?.length ?? 0) > before
          ? 'The loop is an eye: it is meant to stay.'
          : 'The loop is no longer an eye.',
      );
  }

  /** What an end of the rope in hand is: tail, standing part, or running off the board; the chosen end, else the one laid last. */
  turnEnd(): void {
    const chosen = this.chosen();
    const rope = chosen?.kind === 'point' ? ropeOf(this.figure(), chosen.strand) : this.activeRope();
    if (!rope || rope.closed) {
      this.message.set(rope ? 'A sling has no ends.' : 'Lay a rope first.');
      return;
    }
    const which = chosen?.kind === 'point' && chosen.index === 0 ? 0 : 1;
    const next = END_ROLES[(END_ROLES.findIndex((r) => r.role === rope.ends[which]) + 1) % END_ROLES.length];
    if (!next) return;
    const ends: Rope['ends'] = which === 0 ? [next.role, rope.ends[1]] : [rope.ends[0], next.role];
    if (this.do({ kind: 'set-ends', rope: rope.id, ends }))
      this.message.set(`The ${which === 0 ? 'first' : 'last'} end ${next.says}`);
  }

  removeRope(id: string): void {
    if (this.do({ kind: 'remove-rope', rope: id })) {
      this.clear();
      this.activeId.set(null);
    }
  }

  /** Draws on a layout from here on. */
  takeLayout(index: number): void {
    if (index === this.layout()) return;
    this.clear();
    this.layoutState.set(index);
    const name = this.layouts()[index]?.name ?? `layout ${index + 1}`;
    this.message.set(`On the board: ${name}.`);
  }

  clear(): void {
    this.walking.set(false);
    this.chosen.set(null);
    this.step.set(null);
    this.pendingStart.set(null);
    this.newRope.set(false);
    this.cursor.set(null);
  }

  /** Moves what is chosen, or the pencil, by an arrow key. */
  nudge(by: Point, frameMiddle: Point): void {
    const chosen = this.chosen();
    if (chosen?.kind === 'point') {
      const point = this.figure().ropes.find((r) => r.id === chosen.strand)?.points[chosen.index];
      if (point)
        this.do(
          {
            kind: 'move-point',
            strand: chosen.strand,
            index: chosen.index,
            to: [point[0] + by[0], point[1] + by[1]],
            pass: this.under() ? 'U' : 'O',
          },
          { group: `nudge-${chosen.strand}-${chosen.index}` },
        );
    } else if (chosen?.kind === 'host')
      this.do({ kind: 'move-host', host: chosen.host, by }, { group: `nudge-${chosen.host}` });
    else if (chosen?.kind === 'halt') this.moveHalt(chosen.index, Math.sign(by[0] - by[1]) * Math.hypot(by[0], by[1]));
    else if (this.tool() === 'lay') {
      const rope = this.newRope() ? undefined : this.activeRope();
      const from = this.cursor() ?? this.pendingStart()?.point ?? rope?.points.at(-1) ?? frameMiddle;
      this.cursor.set([from[0] + by[0], from[1] + by[1]]);
    }
  }

  /** Moves a halt along its rope by a length in diameters. */
  moveHalt(index: number, by: number): void {
    const step = stretchesOf(this.method())[index];
    const rope = step && ropeOf(this.figure(), step.rope);
    if (!rope) return;
    const curve = curveOf(rope);
    this.do(
      { kind: 'move-halt', index, at: atLength(curve, lengthTo(curve, step.to) + by) },
      { group: `halt-${index}` },
    );
  }

  /** Lays the end to the pencil. */
  layToCursor(): void {
    const point = this.cursor();
    if (point) this.lay([{ point, under: this.under() }]);
    else this.message.set('Move the pencil with the arrow keys first.');
  }

  /** Chooses the next or previous control point of the rope in hand. */
  stepPoint(by: 1 | -1): void {
    const rope = this.activeRope();
    if (!rope) return;
    const chosen = this.chosen();
    const index =
      chosen?.kind === 'point' && chosen.strand === rope.id
        ? onRing(chosen.index + by, rope.points.length)
        : by === 1
          ? 0
          : rope.points.length - 1;
    this.tool.set('points');
    this.chosen.set({ kind: 'point', strand: rope.id, index });
    const [x, y] = rope.points[index] as Point;
    this.message.set(`Point ${index + 1} of ${rope.points.length}, at ${x.toFixed(1)}, ${y.toFixed(1)}.`);
  }

  /** Points at the next or previous crossing. */
  stepCrossing(by: 1 | -1): void {
    const laid = this.extents();
    const numbers = crossingsOf(this.figure())
      .filter((c) => isReached(laid, c.first) && isReached(laid, c.second))
      .map((c) => c.number);
    if (numbers.length === 0) return;
    const at = numbers.indexOf(this.pointed() ?? -1);
    const next = numbers[onRing(at + by, numbers.length)] ?? null;
    this.pointed.set(next);
    this.message.set(`Crossing ${next ?? ''}. X swaps it.`);
  }

  /** Begins the weave walk, or ends it: from waymark to waymark, each told to pass over or under. */
  toggleWalk(): void {
    if (this.walking()) {
      this.endWalk('The walk is ended.');
      return;
    }
    const first = this.walkOrder()[0];
    if (first === undefined) {
      this.message.set('The rope crosses nothing yet; there is nothing to weave.');
      return;
    }
    this.view.set('front');
    this.clear();
    this.walking.set(true);
    this.walkTo(first);
  }

  /** Crossings in the order in which the trail first meets them. */
  private walkOrder(): number[] {
    return crossingsOf(this.figure()).map((c) => c.number);
  }

  private walkTo(number: number): void {
    this.pointed.set(number);
    this.message.set(
      `Crossing ${number} of ${this.walkOrder().length}: the strand comes ${this.comesOver(number) ? 'over' : 'under'}. O over, U under, arrows go on, Esc ends.`,
    );
  }

  private endWalk(message: string): void {
    this.walking.set(false);
    this.pointed.set(null);
    this.message.set(message);
  }

  /** Whether the strand that the trail meets the crossing by is over. */
  private comesOver(number: number): boolean {
    const c = crossingsOf(this.figure()).find((x) => x.number === number);
    return c !== undefined && c.over === c.first;
  }

  /** In the walk: lets the strand pass over or under at the crossing in hand, and goes on to the next. */
  weave(over: boolean): void {
    const number = this.pointed();
    if (number === null) return;
    const c = crossingsOf(this.figure()).find((x) => x.number === number);
    if (c && this.comesOver(number) !== over && !this.do({ kind: 'swap', where: c.over })) return;
    this.stepWalk(1);
  }

  /** In the walk: on to the next crossing, or back to the one before. */
  stepWalk(by: 1 | -1): void {
    const order = this.walkOrder();
    const next = order[order.indexOf(this.pointed() ?? -1) + by];
    if (next !== undefined) this.walkTo(next);
    else if (by === 1) this.endWalk(`Every crossing is walked.`);
  }

  insertPoint(): void {
    const chosen = this.chosen();
    if (chosen?.kind !== 'point') {
      this.message.set('Choose a point first; the new one goes after it.');
      return;
    }
    if (this.do({ kind: 'insert-point', strand: chosen.strand, at: chosen.index + 0.5 }))
      this.chosen.set({ ...chosen, index: chosen.index + 1 });
  }

  /** Where the end of the rope in hand points: the line a click would lay on. */
  readonly tip = computed(() => {
    const rope = this.newRope() ? undefined : this.activeRope();
    if (!rope || rope.closed) return undefined;
    const curve = curveOf(rope);
    return { point: pointAt(curve, lastAt(rope)), direction: directionAt(curve, lastAt(rope)) };
  });
}

/** Few control points for a stroke, fitted separately where it passes over and under, so that each letter is exact. */
export function fitStroke(samples: readonly Sample[]): { points: Point[]; pass: string } {
  const first = samples[0];
  if (!first) return { points: [], pass: '' };
  const points: Point[] = [first.point];
  let pass = '';
  for (let i = 1; i < samples.length;) {
    const under = samples[i]?.under ?? false;
    let end = i;
    while (end < samples.length && samples[end]?.under === under) end += 1;
    const part = fitPath([points.at(-1) as Point, ...samples.slice(i, end).map((s) => s.point)]);
    points.push(...part.slice(1));
    pass += (under ? 'U' : 'O').repeat(part.length - 1);
    i = end;
  }
  return { points, pass };
}

/** What an end does from a place on its rope to its end, in the composer's words. */
function sayStretch(method: Method, rope: string, from: number, words: Vocabulary): string {
  const leader = method.leaders.findIndex((l) => l.kind === 'end' && l.rope === rope);
  const r = ropeOf(method.figure, rope);
  if (leader < 0 || !r) return '';
  const halts = [...(from > 0 ? [{ leader, at: from }] : []), { leader, at: lastAt(r) }];
  return composeStep({ ...method, halts }, halts.length - 1, words).text;
}
