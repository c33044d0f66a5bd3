/** What is done with the thing in hand: a point, a halt, a host, a crossing, an end, a loop. */
import { inject, Injectable } from '@angular/core';
import {
  breakNear,
  atLength,
  crossingsOf,
  curveOf,
  freshId,
  haltPlace,
  HOST_SIZE,
  hostAt,
  hostOf,
  isReached,
  layoutsOf,
  lengthTo,
  onRing,
  ropeOf,
  stretchesOf,
  requiredTail,
  tailMend,
  tailsOf,
  type Break,
  type Change,
  type Edit,
  type PointPlace,
  type HostKind,
  type Point,
  type Rope,
  type TrailPosition,
} from '@foxtrail/core';
import type { TailInPlan } from '@foxtrail/core/ropes';
import { BenchStore } from '../knot/bench-store';
import { DraftState } from './draft-state';
import { UnderKey } from './under-key';

interface EndRole {
  readonly role: Rope['ends'][0];
  readonly trimmed?: boolean;
  readonly says: string;
}

const END_ROLES: readonly EndRole[] = [
  { role: 'tail', says: 'is a tail.' },
  { role: 'standing', says: 'is a standing part: it runs on to a load.' },
  { role: 'off', says: 'runs off the board, held elsewhere.' },
  { role: 'tail', trimmed: true, says: 'is trimmed once the knot is set: no tail is asked of it.' },
];

/** What a new break counts at least, in diameters. */
const LEAST_COUNTED = 5;
/** A tail that lacks less than this is long enough, in diameters. */
const TAIL_MET = 0.05;
/** How far a part is turned at once, in radians. */
const TURN = Math.PI / 12;

@Injectable()
export class Handling {
  private readonly state = inject(DraftState);
  private readonly underKey = inject(UnderKey);
  private readonly store = inject(BenchStore);

  /** Lays a host on the board. */
  addHost(kind: HostKind, middle: Point): void {
    const host = hostAt(kind, freshId(this.state.figure(), kind), middle);
    if (this.state.do({ kind: 'add-host', host })) {
      this.state.tool.set('points');
      this.state.chosen.set({ kind: 'host', host: host.id });
      this.state.message.set(
        `A ${this.state.words().hosts[kind] ?? kind} is laid. Arrow keys or a drag move it; + and − size it.`,
      );
    }
  }

  /** Makes the chosen host thicker or thinner. */
  sizeHost(by: number): void {
    const chosen = this.state.chosen();
    const host = chosen?.kind === 'host' ? hostOf(this.state.figure(), chosen.host) : undefined;
    if (!host) {
      this.state.message.set('Choose a host first (Points, then press on it).');
      return;
    }
    this.setHostSize((host.size ?? HOST_SIZE) + by);
  }

  /** Makes the chosen host so many diameters thick, as far as it can be drawn. */
  setHostSize(wanted: number): void {
    const chosen = this.state.chosen();
    if (chosen?.kind !== 'host') return;
    const size = Math.min(20, Math.max(0.6, wanted));
    if (this.state.do({ kind: 'size-host', host: chosen.host, size }, { group: `size-${chosen.host}` }))
      this.state.message.set(`It is ${size.toFixed(1)} rope diameters thick.`);
  }

  /** Places a halt at the chosen place on the trail, or at the end of the rope in hand. */
  placeHalt(): void {
    const method = this.state.laid();
    const chosen = this.state.chosen();
    const rope = chosen?.kind === 'place' ? ropeOf(this.state.figure(), chosen.place.strand) : this.state.activeRope();
    if (!method || !rope) {
      this.state.message.set('Lay a rope first; then a halt can stand on it.');
      return;
    }
    const place = haltPlace(
      method,
      rope.id,
      chosen?.kind === 'place' ? chosen.place.at : undefined,
      this.state.leads(),
    );
    const leader = place && method.leaders[place.leader];
    if (!leader) {
      this.state.message.set('Nothing moves on this rope: it has no end to lead and no bight.');
      return;
    }
    if (!this.state.do({ kind: 'place-halt', ...place })) return;
    const { halts } = this.state.method();
    const index = halts.findIndex((h) => h.leader === place.leader && Math.abs(h.at - place.at) < 1e-9);
    this.state.chosen.set({ kind: 'halt', index });
    this.state.step.set(index);
    this.state.message.set(`Halt ${index + 1} is placed${leader.kind === 'bight' ? ' on the bight' : ''}.`);
  }

  swap(crossing: number): void {
    const c = crossingsOf(this.state.figure()).find((x) => x.number === crossing);
    if (!c || this.state.view() !== 'front') return;
    if (this.state.do({ kind: 'swap', where: c.over })) this.state.message.set(`Crossing ${crossing} is swapped.`);
  }

  /** Takes away what is chosen. */
  removeChosen(): void {
    const chosen = this.state.chosen();
    if (chosen?.kind === 'point') {
      if (this.state.do({ kind: 'remove-point', strand: chosen.strand, index: chosen.index })) {
        const strand = ropeOf(this.state.figure(), chosen.strand);
        this.state.chosen.set(strand ? { ...chosen, index: Math.min(chosen.index, strand.points.length - 1) } : null);
      }
    } else if (chosen?.kind === 'halt') {
      if (this.state.do({ kind: 'remove-step', index: chosen.index })) this.state.clear();
    } else if (chosen?.kind === 'part') this.removePart(chosen.points);
    else if (chosen?.kind === 'host') {
      if (this.state.do({ kind: 'remove-host', host: chosen.host })) this.state.clear();
    } else this.state.message.set('Choose a point, a halt or a spar first; then it can be removed.');
  }

  /** The chosen place on the trail, or the chosen point of a rope. */
  private chosenPlace(): TrailPosition | undefined {
    const chosen = this.state.chosen();
    if (chosen?.kind === 'place') return chosen.place;
    return chosen?.kind === 'point' ? { strand: chosen.strand, at: chosen.index } : undefined;
  }

  /** Turns flat webbing over at the chosen place, or takes that back. */
  turnOver(): void {
    const where = this.chosenPlace();
    if (!where) {
      this.state.message.set('Choose a place on the webbing first: on the trail, or a point of it.');
      return;
    }
    const before = ropeOf(this.state.figure(), where.strand)?.flips?.length ?? 0;
    if (!this.state.do({ kind: 'turn-over', where })) return;
    const now = ropeOf(this.state.figure(), where.strand)?.flips?.length ?? 0;
    this.state.message.set(
      now > before
        ? `The webbing is turned over there; ${now === 1 ? 'once' : `${now} times`} in all.`
        : 'It is not turned over there any more.',
    );
  }

  /** Draws the rope short at the chosen place, or takes that back; a tail then counts as the house wants it. */
  toggleBreak(): void {
    const where = this.chosenPlace();
    const rope = where && ropeOf(this.state.figure(), where.strand);
    if (!where || !rope) {
      this.state.message.set('Choose a place on a tail or a standing part first, on the trail.');
      return;
    }
    const there = this.breakAt(where);
    const tail = tailsOf(this.state.figure()).find((t) => t.rope === rope.id && where.at > t.from);
    const { tail: rule, cordMm } = this.store.rules();
    const lacks = tail ? requiredTail(rule, cordMm * tail.diameter) - tail.length : 0;
    const counts = there ? undefined : Math.max(LEAST_COUNTED, Math.ceil(lacks));
    if (this.state.do({ kind: 'set-break', where, counts })) this.sayBreak(where);
  }

  /** Asks of the knot's tails what a plan leaves of them, and draws the tail of a rope as long in every layout. One undo takes it back. */
  followPlan(id: string, { plan, mm }: TailInPlan): void {
    const knot = this.store.knot();
    const group = 'follow-plan';
    const entry = knot && { ...knot.entry, tail: { plan, mm } };
    if (!knot || !entry || !this.store.edit({ kind: 'entry', name: knot.name, entry }, { group }).ok) return;
    const isMet = layoutsOf(this.state.method()).map(({ figure }, layout) => {
      const tail = tailsOf(figure).find((t) => t.rope === id);
      const missing = tail ? mm / (this.store.rules().cordMm * tail.diameter) - tail.length : 0;
      if (!tail || missing <= TAIL_MET) return true;
      const mend = tailMend(figure, tail, missing);
      return mend !== undefined && this.store.edit(mend.edit, { layout, group }).ok;
    });
    this.state.message.set(
      isMet.every(Boolean)
        ? `The tail is as long as the plan “${plan}” leaves it.`
        : `The plan “${plan}” is followed. There is no room to draw the tail on: lay its end to a clear place.`,
    );
  }

  /** The tails are asked what the house asks, whatever a plan leaves. */
  leavePlan(): void {
    const knot = this.store.knot();
    if (!knot) return;
    const { tail: _tail, ...entry } = knot.entry;
    this.store.edit({ kind: 'entry', name: knot.name, entry });
  }

  /** The chosen break counts more or less; tells whether one is chosen. */
  lengthenBreak(by: number): boolean {
    const where = this.chosenPlace();
    const there = where && this.breakAt(where);
    if (!where || !there) return false;
    const counts = Math.max(1, there.counts + by);
    if (this.state.do({ kind: 'set-break', where, counts }, { group: `break-${where.strand}-${there.at}` }))
      this.sayBreak(where);
    return true;
  }

  private breakAt({ strand, at }: TrailPosition): Break | undefined {
    const rope = ropeOf(this.state.figure(), strand);
    return rope && breakNear(rope, at);
  }

  private sayBreak(where: TrailPosition): void {
    const there = this.breakAt(where);
    this.state.message.set(
      there
        ? `What is left out there counts as ${there.counts} diameters. + and − change it.`
        : 'The rope is drawn as long as it is there.',
    );
  }

  /** Takes away the chosen part: all of the drawing, or those of its points that a strand can spare. */
  private removePart(points: 'all' | readonly PointPlace[]): void {
    if (points === 'all') {
      if (!this.state.do({ kind: 'clear' })) return;
      this.state.clear();
      this.state.message.set('The board is bare. Undo brings it back.');
      return;
    }
    const group = `remove-${keyOf(points)}`;
    const { ropes, hosts } = this.state.figure();
    const chosen = (strand: string): readonly PointPlace[] => points.filter((p) => p.strand === strand);
    // A strand that is chosen whole goes whole; of others, from the end, so that the points before keep their places.
    const removed = [...ropes, ...hosts].reduce((n, strand) => {
      const own = [...chosen(strand.id)].sort((a, b) => b.index - a.index);
      if (own.length < strand.points.length)
        return n + own.filter((p) => this.state.do({ kind: 'remove-point', ...p }, { group })).length;
      const whole: Edit =
        'kind' in strand ? { kind: 'remove-host', host: strand.id } : { kind: 'remove-rope', rope: strand.id };
      return this.state.do(whole, { group }) ? n + own.length : n;
    }, 0);
    this.state.clear();
    this.state.message.set(
      removed === points.length
        ? `${removed} points are removed.`
        : `${removed} points are removed; a strand keeps its last ones.`,
    );
  }

  /** Chooses the whole drawing. */
  chooseAll(): void {
    this.state.tool.set('points');
    this.state.chosen.set({ kind: 'part', points: 'all' });
    this.state.message.set(
      'All of it is chosen: drag or arrows move it, < > turn, + − size, ⇧M mirrors, Delete clears.',
    );
  }

  /** Turns, sizes or mirrors what is chosen; tells whether a part is. */
  changePart(by: Change): boolean {
    const chosen = this.state.chosen();
    if (chosen?.kind !== 'part') return false;
    const { points } = chosen;
    // Moved in a row it is undone at once.
    const group = by.move ? { group: `move-${keyOf(points)}` } : {};
    const done = this.state.do({ kind: 'transform', points, by, pass: this.underKey.pass() }, group);
    if (done && by.mirror === true) this.state.message.set('The mirror image: as the other hand ties it.');
    return true;
  }

  turnPart(way: 1 | -1): void {
    if (!this.changePart({ turn: way * TURN }))
      this.state.message.set('Draw a band in Points, or choose all (Ctrl A); then it can be turned.');
  }

  mirrorPart(): void {
    if (!this.changePart({ mirror: true }))
      this.state.message.set('Choose all of the drawing first (Ctrl A); then it can be mirrored.');
  }

  /** Declares the loop at the chosen place an eye, or takes that back. */
  toggleEye(): void {
    const where = this.chosenPlace();
    if (!where) {
      this.state.message.set('Choose a place on the loop first: on the trail, or a point of the rope.');
      return;
    }
    const before = ropeOf(this.state.figure(), where.strand)?.eyes?.length ?? 0;
    if (this.state.do({ kind: 'toggle-eye', where }))
      this.state.message.set(
        (ropeOf(this.state.figure(), where.strand)?.eyes?.length ?? 0) > before
          ? 'The loop is an eye: it is meant to stay.'
          : 'The loop is no longer an eye.',
      );
  }

  /** What an end of the rope in hand is: tail, standing part, or running off the board; the chosen end, else the one laid last. */
  turnEnd(): void {
    const chosen = this.state.chosen();
    const rope = chosen?.kind === 'point' ? ropeOf(this.state.figure(), chosen.strand) : this.state.activeRope();
    if (!rope || rope.closed) {
      this.state.message.set(rope ? 'A sling has no ends.' : 'Lay a rope first.');
      return;
    }
    const which = chosen?.kind === 'point' && chosen.index === 0 ? 0 : 1;
    const [first, last] = rope.trimmed ?? [false, false];
    const isTrimmed = which === 0 ? first : last;
    const now = END_ROLES.findIndex((r) => r.role === rope.ends[which] && (r.trimmed === true) === isTrimmed);
    const next = END_ROLES[(now + 1) % END_ROLES.length];
    if (!next) return;
    const own = next.trimmed === true;
    const ends: Rope['ends'] = which === 0 ? [next.role, rope.ends[1]] : [rope.ends[0], next.role];
    const trimmed: Rope['trimmed'] = which === 0 ? [own, last] : [first, own];
    if (this.state.do({ kind: 'set-ends', rope: rope.id, ends, trimmed }))
      this.state.message.set(`The ${which === 0 ? 'first' : 'last'} end ${next.says}`);
  }

  removeRope(id: string): void {
    if (this.state.do({ kind: 'remove-rope', rope: id })) {
      this.state.clear();
      this.state.setActive(null);
    }
  }

  /** Moves what is chosen, or the pencil, by an arrow key. */
  nudge(by: Point, frameMiddle: Point): void {
    const chosen = this.state.chosen();
    if (chosen?.kind === 'point') {
      const point = this.state.figure().ropes.find((r) => r.id === chosen.strand)?.points[chosen.index];
      if (point)
        this.state.do(
          {
            kind: 'move-point',
            strand: chosen.strand,
            index: chosen.index,
            to: [point[0] + by[0], point[1] + by[1]],
            pass: this.underKey.pass(),
          },
          { group: `nudge-${chosen.strand}-${chosen.index}` },
        );
    } else if (chosen?.kind === 'part') this.changePart({ move: by });
    else if (chosen?.kind === 'host')
      this.state.do({ kind: 'move-host', host: chosen.host, by }, { group: `nudge-${chosen.host}` });
    else if (chosen?.kind === 'halt') this.moveHalt(chosen.index, Math.sign(by[0] - by[1]) * Math.hypot(by[0], by[1]));
    else if (this.state.tool() === 'lay') {
      const rope = this.state.newRope() ? undefined : this.state.activeRope();
      const tip = this.state.tip() ?? rope?.points.at(-1);
      const from = this.state.cursor() ?? this.state.pendingStart()?.point ?? tip ?? frameMiddle;
      this.state.cursor.set([from[0] + by[0], from[1] + by[1]]);
    }
  }

  /** Moves a halt along its rope by a length in diameters. */
  moveHalt(index: number, by: number): void {
    const step = stretchesOf(this.state.method())[index];
    const rope = step && ropeOf(this.state.figure(), step.rope);
    if (!rope) return;
    const curve = curveOf(rope);
    this.state.do(
      { kind: 'move-halt', index, at: atLength(curve, lengthTo(curve, step.to) + by) },
      { group: `halt-${index}` },
    );
  }

  /** Chooses the next or previous control point of the rope in hand. */
  stepPoint(by: 1 | -1): void {
    const rope = this.state.activeRope();
    if (!rope) return;
    const chosen = this.state.chosen();
    const index =
      chosen?.kind === 'point' && chosen.strand === rope.id
        ? onRing(chosen.index + by, rope.points.length)
        : by === 1
          ? 0
          : rope.points.length - 1;
    this.state.tool.set('points');
    this.state.chosen.set({ kind: 'point', strand: rope.id, index });
    const [x, y] = rope.points[index] as Point;
    this.state.message.set(`Point ${index + 1} of ${rope.points.length}, at ${x.toFixed(1)}, ${y.toFixed(1)}.`);
  }

  /** Points at the next or previous crossing. */
  stepCrossing(by: 1 | -1): void {
    const laid = this.state.extents();
    const numbers = crossingsOf(this.state.figure())
      .filter((c) => isReached(laid, c.first) && isReached(laid, c.second))
      .map((c) => c.number);
    if (numbers.length === 0) return;
    const at = numbers.indexOf(this.state.pointed() ?? -1);
    const next = numbers[onRing(at + by, numbers.length)] ?? null;
    this.state.pointed.set(next);
    this.state.message.set(`Crossing ${next ?? ''}. X swaps it.`);
  }

  insertPoint(): void {
    const chosen = this.state.chosen();
    if (chosen?.kind !== 'point') {
      this.state.message.set('Choose a point first; the new one goes after it.');
      return;
    }
    if (this.state.do({ kind: 'insert-point', strand: chosen.strand, at: chosen.index + 0.5 }))
      this.state.chosen.set({ ...chosen, index: chosen.index + 1 });
  }

  swapPointed(): void {
    const pointed = this.state.pointed();
    if (pointed === null) this.state.message.set('Point at a crossing first (W goes from one to the next).');
    else this.swap(pointed);
  }

  reverse(): void {
    const rope = this.state.activeRope();
    if (rope && this.state.do({ kind: 'reverse', rope: rope.id }))
      this.state.message.set('The rope is reversed: its standing part and its end are exchanged.');
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
}

/** What tells a chosen part from another. */
const keyOf = (points: 'all' | readonly PointPlace[]): string =>
  points === 'all' ? points : points.map((p) => `${p.strand}${p.index}`).join();
