/**
 * Moves: what a leader does, as whoever ties knows it. Each is a pattern in the passages of the leader, recognised by which parts it
 * meets, in which order, over or under:
 *
 * - the first crossing of a rope with itself closes a *loop*: overhand when the end is over, underhand when it is under;
 * - in under the edge of a loop or bight and out over it is *up through* it, in over and out under *down through* it;
 * - in under the edges of loops that lie one upon the other, and out over as many edges of the same, is *through both*;
 * - over and under one part by turns, the end goes *round* it: a turn, or several;
 * - round a part and then across what led to it, on the same side as it first passed the part, is a *half hitch*: the part goes through
 *   a loop of the rope. On the other side the rope would fall off the part, and it is none;
 * - two parts that are passed together, back in the order in which they were met, are gone round together;
 * - over a bight, under what stands between its legs, and over it again (or the reverse) is a *trapped* end;
 * - a stretch that keeps beside another is *followed*.
 *
 * What fits none of these is told as it passes.
 */
import { passagesOf, type Passage } from '../figure/crossings.js';
import { curveOf, directionAt, lineBetween, pointAt } from '../figure/curve.js';
import {
  hostIsClosed,
  hostOf,
  ropeOf,
  type Figure,
  type Rope,
  type TrailPosition,
  type Wrap,
} from '../figure/figure.js';
import { isCore } from '../figure/held-taut.js';
import { hostBetween } from '../figure/host-between.js';
import { cross } from '../figure/point.js';
import { inside } from '../topology/planar-map.js';
import { loopsThrough } from './loops-through.js';
import { extentsAt, isFirstEnd, laidPassages, type Layout, type Stretch } from './method.js';
import type { Along, Move, Passes, Side } from './move.js';
import { bightOf, lengthBetween, loopsOf, partMet, windingRound, type Loop, type Part } from './parts.js';

/** The step's passages: those of the leader that meet rope or host already laid. */
export function passagesInStep(layout: Layout, step: Stretch): Passage[] {
  if (isFirstEnd(layout.leaders[step.leader])) return passagesOfFirstEnd(layout, step);
  const extents = extentsAt(layout, step.index, step.to);
  // Of a bight, the first leg speaks for both; what the rest of its rope has laid is there already.
  const leader = layout.leaders[step.leader];
  return laidPassages(layout.figure, extents, step.rope).filter(
    (p) =>
      p.at > step.from &&
      p.at <= step.to &&
      (p.other.strand !== step.rope || p.other.at < p.at || (leader?.kind === 'bight' && p.other.at > leader.to)),
  );
}

/** The same of a first end, which comes to its passages against the trail. */
const passagesOfFirstEnd = (layout: Layout, step: Stretch): Passage[] =>
  laidPassages(layout.figure, extentsAt(layout, step.index, step.to), step.rope)
    .filter((p) => p.at < step.from && p.at >= step.to && (p.other.strand !== step.rope || p.other.at > p.at))
    .reverse();

/** A passage of the leader, and what it meets there. */
export interface Met {
  readonly at: number;
  readonly over: boolean;
  readonly number: number;
  readonly place: TrailPosition;
  readonly part: Part;
  readonly step: Stretch;
  /** A host lies between the two: what it passes beneath there is in front of the host, and is neither seen nor told. */
  readonly hidden: boolean;
}

/** A move and the passages it is made of: `from` the first, `to` the one after the last. */
export interface Found {
  readonly move: Move;
  readonly from: number;
  readonly to: number;
}

/** The passages of a step, each with what it meets. */
export const metIn = (layout: Layout, step: Stretch): Met[] =>
  passagesInStep(layout, step).map((p) => ({
    at: p.at,
    over: p.over,
    number: p.crossing.number,
    place: p.other,
    part: partMet(layout, step, p.at, p.other),
    step,
    hidden: !p.over && hostBetween(layout.figure, p.crossing),
  }));

/** Stands for the distance of two places on different strands, in diameters. */
const FAR = 1e4;
/** Fewest passes round a rope's own part that are turns. */
const OWN_TURNS = 3;

/** Most loops that an end is told to go through at once. */
const MOST_LOOPS = 3;

/** Turns so far beyond where the loop closes, in diameters, lie in it. */
const BEYOND_RIM = 1;

/** Passages of a half hitch: round a part, and out across its own. */
const HITCH = 3;

/** Reads the moves of one leader from its passages. */
class MoveReader {
  private readonly figure: Figure;
  private readonly rope: Rope;
  /** Whether the rope goes round something, so that it is told by turns rather than by loops. */
  private readonly wound: boolean;
  /** Whether it goes on from what was laid before its layout. */
  private readonly goesOn: boolean;

  constructor(
    private readonly layout: Layout,
    private readonly met: readonly Met[],
    leader: number,
  ) {
    this.figure = layout.figure;
    this.rope = ropeOf(this.figure, layout.leaders[leader]?.rope ?? '') as Rope;
    this.goesOn = (layout.leaders[leader]?.from ?? 0) > 0;
    this.wound = this.figure.hosts.length > 0 || met.filter((m) => m.part.kind === 'rope').length > 1;
  }

  read(): Found[] {
    const found: Found[] = [];
    for (let i = 0; i < this.met.length; i = found.at(-1)?.to ?? Infinity)
      found.push(
        this.laid(i, found) ??
          this.throughSeveral(i, found) ??
          this.together(i) ??
          this.loop(i) ??
          this.hitch(i, found) ??
          this.turns(i, found) ??
          this.through(i, found) ??
          this.trap(i) ??
          this.legs(i) ??
          this.round(i, found) ??
          this.pass(i),
      );
    return found;
  }

  private found(from: number, to: number, move: (passes: Passes) => Move): Found {
    return { from, to, move: move(passesBetween(this.met, from, to)) };
  }

  private part(i: number): Part | undefined {
    return this.met[i]?.part;
  }
  private over(i: number): boolean {
    return this.met[i]?.over === true;
  }
  private isHidden(i: number): boolean {
    return this.met[i]?.hidden === true;
  }
  private pastHidden(i: number): number {
    let to = i;
    while (this.isHidden(to) && !this.isLaid(to)) to += 1;
    return to;
  }
  private place(i: number): TrailPosition {
    return this.met[i]?.place ?? { strand: '', at: 0 };
  }
  /** Where the passage before is; the start of the rope before the first. */
  private before(i: number): number {
    return this.met[i - 1]?.at ?? 0;
  }
  /** Whether a passage meets what the leader itself laid between two of its places. */
  private meetsOwn(i: number, from: number, to: number): boolean {
    const { strand, at } = this.place(i);
    return strand === this.rope.id && at > from && at < to;
  }

  /** Whether a passage is of turns that were laid as one. */
  private isLaid(i: number): boolean {
    const m = this.met[i];
    return m !== undefined && laidWrap(this.rope, m.step, m.at) !== undefined;
  }

  /** Turns that were laid as one are told as they were laid, whatever they pass on their way. */
  private laid(i: number, before: readonly Found[]): Found | undefined {
    const m = this.met[i];
    const wrap = m && laidWrap(this.rope, m.step, m.at);
    if (!m || !wrap) return undefined;
    let to = i;
    while ((this.met[to]?.at ?? Infinity) <= wrap.to) to += 1;
    // What is passed one way before the first is passed the other way is gone round together.
    const back = this.met.findIndex((x, k) => k > i && x.over !== m.over);
    const passed = this.met.slice(i, back < 0 ? to : Math.min(back, to));
    // What lies along a core is bound to it: it is the core that is gone round.
    const cores = passed.filter((x) => !x.part.own && isCore(this.figure, x.place, this.rope));
    const parts = (cores.length > 0 ? cores : passed).map((x) => x.part);
    const unlike = parts.filter((p, k) => parts.findIndex((q) => q.key === p.key) === k);
    // Laid round several strands that are parts of one: both are said, and along which of them it works is no one way.
    const [only, ...others] = unlike;
    const isBoth = only !== undefined && others.length === 0 && wrap.about.length > 1;
    const what = isBoth ? [only, only] : unlike;
    return this.found(i, to, (passes) => ({
      ...passes,
      kind: 'turns',
      what,
      passes: 2 * Math.ceil(wrap.turns),
      first: wrap.first === 'O' ? 'over' : 'under',
      before: metBefore(before, what[0]),
      along: isBoth ? undefined : alongOf(this.layout, m.step, passes.crossings),
    }));
  }

  /** Two parts gone round together. */
  private together(i: number): Found | undefined {
    const group = (k: number): boolean =>
      k + 1 < this.met.length &&
      !this.isLaid(k) &&
      !this.isLaid(k + 1) &&
      this.over(k) === this.over(k + 1) &&
      this.part(k)?.kind !== 'host' &&
      this.part(k + 1)?.kind !== 'host';
    const off = (k: number, l: number): number => this.between(this.place(k), this.place(l));
    // What was met last is met first on the way back.
    const back = (k: number): boolean =>
      this.over(k) !== this.over(k + 2) &&
      off(k + 1, k + 2) + off(k, k + 3) < 0.6 * (off(k, k + 2) + off(k + 1, k + 3));
    let to = i;
    if (!group(i)) return undefined;
    while (group(to + 2) && back(to)) to += 2;
    if (to === i) return undefined;
    const what = [this.part(i), this.part(i + 1)] as [Part, Part];
    const passes = (to - i) / 2 + 1;
    const first = this.over(i) ? 'over' : 'under';
    const out = to + 2;
    const leadsOut = this.over(out) === this.over(i) && this.meetsOwn(out, this.before(i), this.met[to]?.at ?? 0);
    if (passes % 2 === 0 && leadsOut)
      return this.found(i, out + 1, (p) => ({
        ...p,
        kind: 'hitch',
        what,
        turns: passes / 2,
        first,
        about: this.otherThanItsLead(i),
      }));
    return this.found(i, out, (p) => ({ ...p, kind: 'turns', what, passes, first, before: 'nothing' }));
  }

  /** Of two passages, what is met at the one that is not what led there. */
  private otherThanItsLead(i: number): Part | undefined {
    const leadsHere = (k: number): number => (this.place(k).strand === this.rope.id ? this.place(k).at : -Infinity);
    const k = leadsHere(i) > leadsHere(i + 1) ? i + 1 : i;
    const m = this.met[k];
    // Both its own, of one loop: the one that was laid first stands.
    if (m?.part.kind === 'loop') return { ...m.part, kind: 'standing', key: `${m.part.strand} standing` };
    return m?.part;
  }

  /** Length of rope between two places; of two strands, farther than any. */
  private between(a: TrailPosition, b: TrailPosition): number {
    const rope = ropeOf(this.figure, a.strand);
    return a.strand !== b.strand || !rope ? FAR : lengthBetween(rope, a.at, b.at);
  }

  /** Round a rope and out through what leads there. A host is told by its turns, but for a half hitch that is all there is. */
  private hitch(i: number, before: readonly Found[]): Found | undefined {
    const part = this.part(i);
    const alone = part?.kind === 'host' && i === 0;
    if (!part || !(alone || part.kind === 'rope' || part.kind === 'other' || (part.kind === 'standing' && this.wound)))
      return undefined;
    if (part.kind === 'host') {
      const across = this.acrossItsTurn(i);
      if (across) return across;
    }
    for (const lead of [0, 1]) {
      const from = i + lead;
      if (this.part(from)?.key !== part.key || (lead === 1 && this.over(i) === this.over(from))) continue;
      const last = this.alternating(from);
      if (last - from !== 2 || (alone && this.met.length !== HITCH)) continue;
      const low = lead === 1 ? (this.met[i]?.at ?? 0) : this.before(i);
      const high = this.met[from]?.at ?? 0;
      const out =
        this.over(last) === this.over(from) && this.meetsOwn(last, low, high) && this.part(last)?.key !== part.key;
      // What goes on round its own part is no hitch, but turns that begin there.
      const goesOn = this.over(last + 1) !== this.over(last) && this.part(last + 1)?.key === this.part(last)?.key;
      if (!out || goesOn) continue;
      const sense = this.sense(from);
      const earlier = [...before]
        .reverse()
        .find(({ move }) => (move.kind === 'hitch' || move.kind === 'turns') && move.what[0]?.key === part.key);
      return this.found(i, last + 1, (passes) => ({
        ...passes,
        kind: 'hitch',
        what: [part],
        turns: 1,
        first: this.over(i) ? 'over' : 'under',
        again: earlier && (this.sense(earlier.from) === sense ? 'same' : 'reversed'),
        another: earlier?.move.kind === 'hitch',
        loop: this.loopSide(i, last),
      }));
    }
    return undefined;
  }

  /** Once and a half round a host, and then across the turn that this made: a half hitch laid on the host itself, and all there is. */
  private acrossItsTurn(i: number): Found | undefined {
    const rest = this.met.slice(this.alternating(i));
    const isAcross = rest.length > 0 && rest.every((m) => m.part.kind === 'turn' && m.over === this.over(i));
    if (!isAcross || this.met.length - rest.length !== HITCH) return undefined;
    const what = [this.part(i) as Part];
    const first = this.over(i) ? 'over' : 'under';
    return this.found(i, this.met.length, (passes) => ({ ...passes, kind: 'hitch', what, turns: 1, first }));
  }

  /** Where passes of one part by turns, from one on, end. */
  private alternating(i: number): number {
    const key = this.part(i)?.key;
    let to = i + 1;
    while (this.part(to)?.key === key && this.over(to) !== this.over(to - 1)) to += 1;
    return to;
  }

  /** Which way round a part a passage goes, as seen along it. */
  private sense(i: number): number {
    const m = this.met[i];
    if (!m) return 0;
    const strand = ropeOf(this.figure, m.place.strand) ?? hostOf(this.figure, m.place.strand);
    if (!strand) return 0;
    const turn = cross(directionAt(curveOf(strand), m.place.at), directionAt(curveOf(this.rope), m.at));
    return Math.sign(turn) * (m.over ? 1 : -1);
  }

  /** Of turns on a standing part that leads to a host: in the loop that holds the host, or beyond it. */
  private loopSide(from: number, to: number): 'inside' | 'outside' | undefined {
    if (this.part(from)?.kind !== 'standing' || this.figure.hosts.length === 0) return undefined;
    const onIt = this.met.filter((m) => m.part.kind === 'standing' && m.part.own);
    const rim = onIt[0]?.place.at ?? 0;
    const isBeyond = ({ place: { at } }: Met): boolean => at > rim && lengthBetween(this.rope, rim, at) > BEYOND_RIM;
    if (!onIt.slice(1).some(isBeyond)) return undefined;
    const own = onIt.filter((m) => this.met.indexOf(m) >= from && this.met.indexOf(m) < to);
    const isInside = own.some(isBeyond);
    const wasInside = this.met.slice(0, from).filter((m) => m.part.kind === 'standing' && isBeyond(m)).length > 1;
    // A hitch that itself closes the loop is neither.
    if (!isInside) return wasInside ? 'outside' : undefined;
    return own.length > 2 ? 'inside' : undefined;
  }

  /** From which side the leader comes to a passage. */
  private side(i: number): Side {
    const [dx, dy] = directionAt(curveOf(this.rope), this.met[i]?.at ?? 0);
    return Math.abs(dx) > Math.abs(dy) ? (dx > 0 ? 'left' : 'right') : dy > 0 ? 'top' : 'bottom';
  }

  private turns(i: number, before: readonly Found[]): Found | undefined {
    const part = this.part(i);
    if (
      !part ||
      !(
        part.kind === 'host' ||
        part.kind === 'rope' ||
        part.kind === 'other' ||
        (part.own && (part.kind === 'standing' || part.kind === 'leg' || part.kind === 'own'))
      )
    )
      return undefined;
    let passes = 1;
    let way = this.over(i);
    let to = i + 1;
    for (let k = i + 1; k < this.met.length; k += 1) {
      // Turns that were laid as one are told by themselves.
      if (this.isLaid(k)) break;
      if (this.isHidden(k)) continue;
      if (part.kind !== 'host' && ((passes === 1 ? this.together(k) : undefined) ?? this.hitch(k, before))) {
        // What it passes of itself on the way to the hitch belongs to the turns.
        if (passes > 1) to = k;
        break;
      }
      if (this.part(k)?.key === part.key) {
        if (this.over(k) === way) break;
        passes += 1;
        way = !way;
        to = k + 1;
      } else if (part.kind === 'host' || !this.meetsOwn(k, this.before(i), Infinity)) break;
    }
    // Half a turn more on a host leads on to what comes next.
    if (part.kind === 'host' && passes > 2 && passes % 2 === 1) [passes, to] = [passes - 1, to - 1];
    if (passes < (part.kind === 'own' ? OWN_TURNS : 2)) return undefined;
    // In by one side of a ring and out by the other is through it.
    if (passes === 2 && this.isRing(part) && this.closedIn(i)) return undefined;
    to = this.pastHidden(to);
    return this.found(i, to, (p) => ({
      ...p,
      kind: 'turns',
      what: [part],
      passes,
      first: this.over(i) ? 'over' : 'under',
      before: metBefore(before, part),
      along: passes > 2 ? alongOf(this.layout, this.met[i]?.step as Stretch, p.crossings) : undefined,
      loop: this.loopSide(i, to),
    }));
  }

  private isRing(part: Part): boolean {
    const host = hostOf(this.figure, part.strand);
    return host !== undefined && hostIsClosed(host);
  }

  /** What closes in the place between a passage and the next: a loop that both meet, the bight of another rope, or a ring. */
  private closedIn(i: number, out = i + 1): Part | undefined {
    const [p, q] = [this.met[i], this.met[out]];
    if (!p || !q || p.over === q.over || p.place.strand !== q.place.strand) return undefined;
    const { strand } = p.place;
    const middle = pointAt(curveOf(this.rope), (p.at + q.at) / 2);
    const ring = this.isRing(p.part) ? hostOf(this.figure, strand) : undefined;
    if (ring) return inside(ring.points, middle) ? p.part : undefined;
    const bight = bightOf(this.layout, p.step, strand, p.at);
    if (bight) return inside(bight.line, middle) && !this.crossesLegs(i, bight.tip) ? p.part : undefined;
    const owner = ropeOf(this.figure, strand);
    if (!owner) return undefined;
    const extents = extentsAt(this.layout, p.step.index, p.at);
    const holding = loopsOf(this.figure, strand, extents, strand === this.rope.id ? p.at : Infinity)
      .filter((l) => [p, q].every((m) => m.place.at > l.from && m.place.at < l.to))
      .sort((a, b) => a.to - a.from - (b.to - b.from));
    const loop = holding.find((l) => windingRound(lineBetween(curveOf(owner), l.from, l.to), middle) !== 0);
    return loop && { kind: 'loop', strand, key: `${strand} loop ${loop.number}`, own: p.part.own };
  }

  /** Whether two passages cross a bight from leg to leg, farther from its tip than it was entered. */
  private crossesLegs(i: number, tip: number): boolean {
    const [a, b] = [this.place(i).at - tip, this.place(i + 1).at - tip];
    const earlier = this.met.slice(0, i).filter((m) => m.part.kind === 'bight');
    const farthest = (side: number): number =>
      Math.max(
        0,
        ...earlier
          .map((m) => m.place.at - tip)
          .filter((x) => x * side > 0)
          .map(Math.abs),
      );
    return a * b < 0 && earlier.length > 1 && [a, b].every((x) => Math.abs(x) > farthest(Math.sign(x)));
  }

  private through(i: number, before: readonly Found[]): Found | undefined {
    const what = this.closedIn(i);
    if (!what) return this.throughAcross(i, before);
    let to = i + 2;
    while (this.over(to) === this.over(i) && this.closedIn(to)?.key === what.key) to += 2;
    const way = this.over(i) ? 'down' : 'up';
    const back = this.isBack(what, i, before);
    return this.found(i, to, (p) => ({ ...p, kind: 'through', way, what, times: (to - i) / 2, back }));
  }

  /** Through what its own part was led through before, which it passes on the way. */
  private throughAcross(i: number, before: readonly Found[]): Found | undefined {
    const what = this.part(i + 1)?.kind === 'own' ? this.closedIn(i, i + 2) : undefined;
    const same = what && before.some(({ move }) => move.kind === 'through' && move.what.key === what.key);
    if (!what || !same) return undefined;
    const way = this.over(i) ? 'down' : 'up';
    return this.found(i, i + 3, (p) => ({
      ...p,
      kind: 'through',
      way,
      what,
      times: 1,
      back: this.isBack(what, i, before),
    }));
  }

  /** Loops gone through at once; none on the way back through one of them that was gone through alone. */
  private loopsFrom(i: number, deep: number, before: readonly Found[]): readonly Loop[] | undefined {
    const passed = this.met.slice(i, i + 2 * deep);
    const loops = passed.length < 2 * deep ? undefined : loopsThrough(this.layout, this.rope, passed);
    const alone = [...before].reverse().find(({ move }) => move.kind === 'through')?.move;
    const isBack =
      alone?.kind === 'through' &&
      alone.deep === undefined &&
      alone.ways.startsWith(this.over(i) ? 'U' : 'O') &&
      loops?.some((l) => alone.what.key === `${l.strand} loop ${l.number}`) === true;
    return isBack ? undefined : loops;
  }

  private throughSeveral(i: number, before: readonly Found[]): Found | undefined {
    for (let deep = MOST_LOOPS; deep > 1; deep -= 1) {
      const loops = this.loopsFrom(i, deep, before);
      if (!loops) continue;
      const key = loops
        .map((l) => `${l.strand} loop ${l.number}`)
        .sort()
        .join(', ');
      const what: Part = { kind: 'loop', strand: this.rope.id, key, own: true };
      return this.found(i, i + 2 * deep, (p) => ({
        ...p,
        kind: 'through',
        way: this.over(i) ? 'down' : 'up',
        what,
        times: 1,
        deep,
        back: this.isBack(what, i, before),
      }));
    }
    return undefined;
  }

  /** Whether the same was gone through the other way before. */
  private isBack(what: Part, i: number, before: readonly Found[]): boolean {
    const earlier = [...before].reverse().find(({ move }) => move.kind === 'through' && move.what.key === what.key);
    return earlier !== undefined && !earlier.move.ways.startsWith(this.over(i) ? 'O' : 'U');
  }

  /** Over a bight, loop or ring, under what is between, and over it again. */
  private trap(i: number): Found | undefined {
    const [p, q, r] = [this.part(i), this.part(i + 1), this.part(i + 2)];
    const isOpen = p !== undefined && (p.kind === 'bight' || p.kind === 'loop' || this.isRing(p));
    if (!p || !q || r?.key !== p.key || !isOpen || !q.own || q.key === p.key) return undefined;
    if (this.over(i) === this.over(i + 1) || this.over(i) !== this.over(i + 2)) return undefined;
    return this.found(i, i + 3, (passes) => ({ ...passes, kind: 'trap', over: this.over(i), what: p, part: q }));
  }

  private legs(i: number): Found | undefined {
    const [p, q] = [this.part(i), this.part(i + 1)];
    const step = this.met[i]?.step;
    if (!p || !q || !step || p.kind !== 'bight' || p.key !== q.key) return undefined;
    const tip = bightOf(this.layout, step, p.strand, this.met[i]?.at ?? 0)?.tip;
    if (tip === undefined || (this.place(i).at - tip) * (this.place(i + 1).at - tip) >= 0) return undefined;
    return this.found(i, i + 2, (passes) => ({ ...passes, kind: 'legs', what: p }));
  }

  private loop(i: number): Found | undefined {
    const m = this.met[i];
    if (!m || this.wound || m.place.strand !== this.rope.id || m.part.kind === 'other') return undefined;
    // Of a bight both legs close it at once: what the first has passed before counts alone.
    const isBight = this.layout.leaders[m.step.leader]?.kind === 'bight';
    const extents = extentsAt(this.layout, m.step.index, m.at - 1e-6);
    const before = isBight
      ? this.met.slice(0, i).map((e) => e.place)
      : laidPassages(this.figure, extents, this.rope.id).map((p) => p.other);
    if (before.some((p) => p.strand === this.rope.id)) return undefined;
    return this.found(i, i + 1, (passes) => ({ ...passes, kind: 'loop', hand: m.over ? 'overhand' : 'underhand' }));
  }

  /** Past the standing part between going through a loop, or closing it, and going back through it. */
  private round(i: number, before: readonly Found[]): Found | undefined {
    if (this.wound || (i === 0 && !this.goesOn)) return undefined;
    for (const [from, to] of [
      [i, i + 1],
      [i, i + 2],
      [i + 1, i + 2],
    ] as const) {
      const part = this.part(from);
      const isIts =
        part?.own === true || before.some(({ move }) => move.kind === 'through' && move.what.strand === part?.strand);
      if (part?.kind !== 'standing' || !isIts || !(this.closedIn(to) ?? this.loopsFrom(to, 2, before))) continue;
      const beside = from > i ? i : to - from > 1 ? from + 1 : undefined;
      const edge = beside === undefined ? undefined : this.part(beside)?.kind;
      if (beside !== undefined && ((edge !== 'own' && edge !== 'end') || this.over(beside) === this.over(from)))
        continue;
      return this.found(i, to, (passes) => ({
        ...passes,
        kind: 'round',
        over: this.over(from),
        what: part,
        from: this.side(from),
      }));
    }
    return undefined;
  }

  private pass(i: number): Found {
    const part = this.part(i) as Part;
    let to = this.pastHidden(i + 1);
    let times = 1;
    while (this.part(to)?.key === part.key && this.over(to) === this.over(i))
      [to, times] = [this.pastHidden(to + 1), times + 1];
    return this.found(i, to, (passes) => ({
      ...passes,
      kind: 'pass',
      over: this.over(i),
      what: part,
      times,
      last: to === this.met.length,
    }));
  }
}

/** What earlier moves have done with a part. */
function metBefore(before: readonly Found[], part: Part | undefined): 'nothing' | 'passed' | 'turned' {
  const earlier = before.filter(({ move }) => 'what' in move && [move.what].flat()[0]?.key === part?.key);
  if (earlier.some(({ move }) => move.kind === 'turns' || move.kind === 'hitch')) return 'turned';
  return earlier.length > 0 ? 'passed' : 'nothing';
}

/** The turns that were laid as one at a place on the trail, when the step lays all of them. */
const laidWrap = (rope: Rope, step: Stretch, at: number): Wrap | undefined =>
  rope.wraps?.find((w) => at > w.from - 1 && at <= w.to && w.from > step.from && w.to <= step.to + 1e-9);

/** What the passages from one to before another pass. */
export const passesBetween = (met: readonly Met[], from: number, to: number): Passes => {
  const own = met.slice(from, to);
  return { crossings: own.map((m) => m.number), ways: own.map((m) => (m.over ? 'O' : 'U')).join('') };
};

/** Turns that end farther than this to one side of where they begin, in diameters, go to that side. */
const ASIDE = 2;

/** Where turns go along what they are laid on: by where its own standing part meets that, else by the side of the board. */
function alongOf(layout: Layout, step: Stretch, crossings: readonly number[]): Along | undefined {
  const own = passagesOf(layout.figure, step.rope);
  const turns = own.filter((p) => p.at > step.from && p.at <= step.to && crossings.includes(p.crossing.number));
  const [first, last] = [turns[0], turns.at(-1)];
  if (!first || !last || first.other.strand === step.rope) return undefined;
  const before = own.find((p) => p.at < step.from && p.other.strand === first.other.strand);
  const away = (p: Passage): number => (before === undefined ? 0 : Math.abs(p.other.at - before.other.at));
  if (before && Math.abs(away(last) - away(first)) > 1e-3) return away(last) > away(first) ? 'away' : 'toward';
  const curve = curveOf(ropeOf(layout.figure, step.rope) as Rope);
  const along = last.crossing.point[0] - first.crossing.point[0];
  const whole = pointAt(curve, step.to)[0] - pointAt(curve, step.from)[0];
  if (Math.abs(whole) < ASIDE || Math.abs(along) < 1 || along > 0 !== whole > 0) return undefined;
  return along > 0 ? 'right' : 'left';
}

/** The moves that a leader's passages are, in order; each passage belongs to one. */
export const readMoves = (layout: Layout, met: readonly Met[], leader: number): Found[] =>
  new MoveReader(layout, met, leader).read();
