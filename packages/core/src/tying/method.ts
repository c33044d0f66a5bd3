/**
 * A method: a figure, the leaders that lay it in order, and the halts at which its steps end. The knot is laid once; step k is
 * the figure as far as halt k.
 */
import { remembered } from '../ground/remembered.js';
import { crossingsOf, passagesOf, weaveFigure, type Passage } from '../figure/crossings.js';
import { curveOf, directionAt, pointAt, type Curve } from '../figure/curve.js';
import { lastAt, ropeOf, type Figure, type Rope, type TrailPosition, type TrailSpan } from '../figure/figure.js';
import { add, between, distance, scale, subtract, unit, type Point } from '../figure/point.js';
import type { Shown } from '../dressing/shown.js';
import type { Reel } from './reels.js';
import { acrossBight, apexOf, onFirstLeg } from './bight-legs.js';

/**
 * A rope's working end, laid from a trail position to the rope's end. Where both ends of a rope lead, both begin at one place, and the
 * first end goes from there against the trail.
 */
export interface EndLeader {
  readonly kind: 'end';
  readonly rope: string;
  readonly from: number;
  /** Which end of the rope leads; absent: the last. */
  readonly leads?: 'first' | undefined;
}

/** A bight: both legs between two trail positions are laid at once. Drawn back fully, the rope goes plainly from leg to leg. */
export interface BightLeader {
  readonly kind: 'bight';
  readonly rope: string;
  readonly from: number;
  readonly to: number;
}

/** What moves when one ties. */
export type Leader = EndLeader | BightLeader;

/** Whether a leader is the first end of its rope: it goes against the trail. */
export const isFirstEnd = (leader: Leader | undefined): boolean => leader?.kind === 'end' && leader.leads === 'first';

/** Bights that a pull on an end takes out again, by which a knot may be a slipped one: no eye is in them, and their rope has ends. */
export const slipBights = ({ figure, leaders }: Pick<Layout, 'figure' | 'leaders'>): BightLeader[] =>
  leaders.filter((l): l is BightLeader => {
    const rope = ropeOf(figure, l.rope);
    return l.kind === 'bight' && rope?.closed === false && !(rope.eyes ?? []).some((e) => e > l.from && e < l.to);
  });

/** Which way along the trail a leader goes. */
export const wayOf = (leader: Leader | undefined): 1 | -1 => (isFirstEnd(leader) ? -1 : 1);

/** Something said at a place of the picture: it points at its strand, or at the crossing there. */
export interface Callout extends TrailPosition {
  readonly text: string;
}

/** How a step is filmed, where it is not as its length asks for. */
export interface Filmed {
  /** So many times as quick as the rest. */
  readonly speed?: number | undefined;
  /** Seconds of rest after it, beside what its caption takes to read. */
  readonly hold?: number | undefined;
  /** It is shown a second time, at half the speed. */
  readonly again?: boolean | undefined;
}

/** What a step says, and how it is shown. */
export interface Telling {
  /** The author's own text; absent: the composed one. */
  readonly text?: string | undefined;
  /** The face of the knot that is seen; absent: the front. */
  readonly view?: 'front' | 'back' | undefined;
  /** How much nearer the step is seen than the whole figure; absent: the whole figure. */
  readonly closeUp?: number | undefined;
  /** Stretches lit beside what the step lays: the loop that is passed, the strand that is followed. */
  readonly lit?: readonly TrailSpan[] | undefined;
  readonly callouts?: readonly Callout[] | undefined;
  /** Whether the stretch laid next is dotted; absent: yes. */
  readonly ghost?: boolean | undefined;
  /** Whether an arrow shows where the leader goes; absent: yes. */
  readonly arrow?: boolean | undefined;
  /** Whether crossings are numbered; absent: no. */
  readonly numbers?: boolean | undefined;
  readonly filmed?: Filmed | undefined;
}

/** A step that does again what an earlier one did. */
export interface Again {
  /** Index of that step in the same layout. */
  readonly of: number;
  readonly way: AgainWay;
}
export type AgainWay = 'once more' | 'from the other side' | 'with the other rope';

/** Where a leader stops and a step ends. */
export interface Halt extends Telling {
  /** Index of the leader it stands on. */
  readonly leader: number;
  readonly at: number;
  readonly again?: Again | undefined;
}

/** What is done to a knot once it is laid. */
export type FinishKind = 'dress' | 'set' | 'check';

/** A step that lays nothing: the knot is dressed, set or checked. */
export interface Finish extends Telling {
  readonly kind: FinishKind;
}

/**
 * One drawing of the knot, the leaders that lay it, the halts at which its steps end, in the order of tying, and how it is
 * finished. Along one leader the halts keep the order of the trail.
 */
export interface Layout extends Shown {
  /** “Open”, “Dressed”. */
  readonly name?: string | undefined;
  readonly figure: Figure;
  readonly leaders: readonly Leader[];
  readonly halts: readonly Halt[];
  readonly finish?: readonly Finish[] | undefined;
  /** What passes what on the way from the layout before, in the author's words, where it is not the same knot any more. */
  readonly passes?: string | undefined;
}

/** One way to tie a knot: a first layout, and those it is re-laid in. */
export interface Method extends Layout {
  readonly relaid?: readonly Layout[] | undefined;
  /** Demonstrations that its author composed. */
  readonly reels?: readonly Reel[] | undefined;
}

export const EMPTY_METHOD: Method = { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] };

/** The layouts of a method in order; the first is the method's own. */
export const layoutsOf = (method: Method): readonly Layout[] => [method, ...(method.relaid ?? [])];

/** The layout in which the knot is finished. */
export const finishedLayout = (method: Method): Layout => method.relaid?.at(-1) ?? method;

/** The finished knot. */
export const finishedFigure = (method: Method): Figure => finishedLayout(method).figure;

/** How much of a rope is laid: as far as a trail position, without the legs of bights that are not drawn out yet. */
export interface Extent {
  readonly to: number;
  readonly without?: readonly (readonly [from: number, to: number])[];
}

/** How much of each rope is laid. Ropes not named are laid whole. */
export type Extents = ReadonlyMap<string, Extent>;

export const WHOLE: Extents = new Map();

/** Halts with those of each leader put in the order in which it comes to them; which leader moves when stays as it is. */
export function inTrailOrder(halts: readonly Halt[], leaders: readonly Leader[]): Halt[] {
  const queues = new Map<number, Halt[]>();
  for (const h of halts) queues.set(h.leader, [...(queues.get(h.leader) ?? []), h]);
  for (const [leader, queue] of queues) queue.sort((a, b) => (a.at - b.at) * wayOf(leaders[leader]));
  return halts.map((h) => (queues.get(h.leader) as Halt[]).shift() as Halt);
}

/** A leader's end of travel: the end of its rope, or the middle of its bight. */
export const leaderEnd = (method: Layout, leader: number): number => {
  const l = method.leaders[leader];
  const rope = ropeOf(method.figure, l?.rope ?? '');
  if (!rope || isFirstEnd(l)) return 0;
  return l?.kind === 'bight' ? apexOf(rope, l) : lastAt(rope);
};

/** Whether a rope has an end to lead, or a bight that lays both its legs from its two ends and leaves nothing for an end. */
export const isLed = (leaders: readonly Leader[], rope: Rope): boolean =>
  leaders.some((l) => l.rope === rope.id && (l.kind === 'end' || (l.from < LEAST && l.to > lastAt(rope) - LEAST)));

/** Trail positions nearer than this are one. */
const LEAST = 0.05;

/** Where a halt can stand: a leader, and how far it has come. */
export type HaltPlace = Pick<Halt, 'leader' | 'at'>;

/**
 * Where a halt goes that is asked for on a rope: at a place of its trail, on the bight that lies there or on the rope's end; without a
 * place, at the end of what belongs to no step yet, of a bight before the rope's end. Where both ends lead, of the one that is named.
 */
export function haltPlace(
  layout: Layout,
  rope: string,
  at?: number,
  leads: 'first' | 'last' = 'last',
): HaltPlace | undefined {
  const own = layout.leaders.flatMap((l, leader) => (l.rope === rope ? [{ l, leader }] : []));
  const bights = own.flatMap(({ l, leader }) => (l.kind === 'bight' ? [{ l, leader }] : []));
  if (at !== undefined) {
    const there = bights.filter(({ l }) => at > l.from && at < l.to).at(-1);
    if (there) {
      const strand = ropeOf(layout.figure, rope) as Rope;
      return { leader: there.leader, at: onFirstLeg(strand, there.l, at) };
    }
  }
  const open = at === undefined ? bights.filter(({ leader }) => !isHalted(layout, leader)).at(-1) : undefined;
  const first = own.find(({ l }) => isFirstEnd(l));
  const isFirst = first && (at === undefined ? leads === 'first' : at < first.l.from);
  const leader =
    open?.leader ?? (isFirst ? first.leader : own.find(({ l }) => l.kind === 'end' && !isFirstEnd(l))?.leader);
  return leader === undefined ? undefined : { leader, at: at ?? leaderEnd(layout, leader) };
}

/** Whether the last halt of a leader stands at its end: all it lays belongs to a step. */
export function isHalted(layout: Layout, leader: number): boolean {
  const last = layout.halts.filter((h) => h.leader === leader).at(-1)?.at ?? layout.leaders[leader]?.from ?? 0;
  return (leaderEnd(layout, leader) - last) * wayOf(layout.leaders[leader]) <= 1e-6;
}

/** What one halt lays: where its leader starts and stops. What the first end of a rope lays goes against the trail: it stops before it starts. */
export interface Stretch {
  /** Index among the layout's halts. */
  readonly index: number;
  readonly leader: number;
  readonly rope: string;
  readonly from: number;
  readonly to: number;
}

/** Whether a stretch lays a place of its rope: what it stops at, and not what it starts from. */
export const liesIn = ({ from, to }: Pick<Stretch, 'from' | 'to'>, at: number): boolean =>
  from <= to ? at > from && at <= to : at < from && at >= to;

/** What the halts of a layout lay, in order. */
export function stretchesOf({ leaders, halts }: Layout): Stretch[] {
  const last = new Map<number, number>();
  return halts.map((halt, index) => {
    const leader = leaders[halt.leader] as Leader;
    const from = last.get(halt.leader) ?? leader.from;
    last.set(halt.leader, halt.at);
    return { index, leader: halt.leader, rope: leader.rope, from, to: halt.at };
  });
}

/** One step of a method. */
export interface Step {
  /** Index among all steps, over all layouts. */
  readonly index: number;
  readonly layout: number;
  /** Index among the steps of its layout, as edits name it. */
  readonly place: number;
  readonly of: Layout;
  readonly does: 'lay' | FinishKind;
  readonly telling: Telling;
  /** What it lays; a step that finishes lays nothing. */
  readonly stretch?: Stretch | undefined;
}

/** All steps of a method: layout by layout, first what is laid, then how it is finished. */
export const stepsOf = remembered((method: Method): readonly Step[] => {
  const steps: Step[] = [];
  layoutsOf(method).forEach((of, layout) => {
    const first = steps.length;
    const next = (): Pick<Step, 'index' | 'layout' | 'place' | 'of'> => ({
      index: steps.length,
      layout,
      place: steps.length - first,
      of,
    });
    for (const stretch of stretchesOf(of))
      steps.push({ ...next(), does: 'lay', telling: of.halts[stretch.index] as Halt, stretch });
    for (const telling of of.finish ?? []) steps.push({ ...next(), does: telling.kind, telling });
  });
  return steps;
});

/** Which layout a step belongs to, and its index among the steps of that layout. */
export function placeOfStep(method: Method, step: number): { readonly layout: number; readonly index: number } {
  const steps = stepsOf(method);
  const layout = steps[step]?.layout ?? 0;
  return { layout, index: step - (steps.find((s) => s.layout === layout)?.index ?? 0) };
}

/** How far a leader has come when the halts before the kth are done and the leader itself is not the one that moves. */
function reachOf(layout: Layout, leader: number, k: number, moving: number): number | 'all' | 'none' {
  const own = layout.halts.flatMap((h, i) => (h.leader === leader ? [{ i, at: h.at }] : []));
  const before = own.filter((h) => h.i < k).at(-1);
  if (own.some((h) => h.i > k)) return before?.at ?? 'none';
  return before !== undefined || (own.length === 0 && leader < moving) ? 'all' : 'none';
}

/** The part of a rope before a place of its trail, as a part that is not laid. */
const before = (at: number): readonly [number, number] => [-1, at];

/** Leaders with their indices, what begins a rope before what its first end adds to it. */
const firstEndsLast = (leaders: readonly Leader[]): { readonly l: Leader; readonly i: number }[] => {
  const all = leaders.map((l, i) => ({ l, i }));
  return [...all.filter(({ l }) => !isFirstEnd(l)), ...all.filter(({ l }) => isFirstEnd(l))];
};

/** What is laid when the leader of the kth halt has reached a trail position: how far each other one is, its halts say. */
export function extentsAt(layout: Layout, k: number, at: number): Extents {
  const moving = layout.halts[k]?.leader ?? layout.leaders.length;
  const extents = new Map<string, Extent>();
  firstEndsLast(layout.leaders).forEach(({ l, i }) => {
    const known = extents.get(l.rope);
    const reach = i === moving ? at : reachOf(layout, i, k, moving);
    if (isFirstEnd(l)) {
      const from = reach === 'none' ? l.from : reach === 'all' ? 0 : reach;
      if (from > 0) extents.set(l.rope, { to: Infinity, ...known, without: [...(known?.without ?? []), before(from)] });
      return;
    }
    if (l.kind === 'end') {
      if (reach === 'all') extents.set(l.rope, { ...known, to: leaderEnd(layout, i) });
      else if (reach !== 'none') extents.set(l.rope, { ...known, to: reach });
      else if (!known) extents.set(l.rope, { to: l.from });
      return;
    }
    const rope = ropeOf(layout.figure, l.rope);
    if (!rope || reach === 'all') return;
    const from = reach === 'none' ? l.from : Math.max(l.from, reach);
    const gap: readonly [number, number] = reach === 'none' ? [l.from, l.to] : [from, acrossBight(rope, l, from)];
    if (gap[1] - gap[0] < 1e-6) return;
    extents.set(l.rope, { to: known?.to ?? Infinity, without: [...(known?.without ?? []), gap] });
  });
  return extents;
}

/** What is laid when a layout begins: in the first, of each rope, what comes before its leader. */
export function extentsAtStart({ leaders }: Layout): Extents {
  const extents = new Map<string, Extent>();
  for (const { l } of firstEndsLast(leaders)) {
    const known = extents.get(l.rope);
    if (isFirstEnd(l))
      extents.set(l.rope, { to: Infinity, ...known, without: [...(known?.without ?? []), before(l.from)] });
    else if (l.kind === 'end') extents.set(l.rope, { ...known, to: Math.max(known?.to ?? 0, l.from) });
    else
      extents.set(l.rope, {
        to: known?.to ?? Infinity,
        without: [...(known?.without ?? []), [l.from, l.to] as const],
      });
  }
  return extents;
}

export const reached = (extents: Extents, strand: string): number => extents.get(strand)?.to ?? Infinity;

/** Where what is laid of a strand begins: farther along it while its first end has laid but a part of what it lays. */
export const begun = (extents: Extents, strand: string): number =>
  Math.max(0, ...(extents.get(strand)?.without ?? []).filter(([from]) => from < 0).map(([, to]) => to));

/** True when a place on a strand is laid. */
export const isReached = (extents: Extents, { strand, at }: TrailPosition): boolean => {
  const extent = extents.get(strand);
  return !extent || (at <= extent.to && !(extent.without ?? []).some(([from, to]) => at > from && at < to));
};

/** True when both strands of the passage are laid. */
export const isLaid = (extents: Extents, strand: string, p: Passage): boolean =>
  isReached(extents, { strand, at: p.at }) && isReached(extents, p.other);

/** Passages of a strand at which both strands are laid. */
export const laidPassages = (figure: Figure, extents: Extents, strand: string): Passage[] =>
  passagesOf(figure, strand).filter((p) => isLaid(extents, strand, p));

interface Cut {
  readonly rope: Rope;
  /** Trail position on the whole rope of a place on what is laid, and the reverse. */
  readonly toWhole: (at: number) => number;
  readonly toLaid: (at: number) => number;
}

/** Points of the round end of a bight; between them the trail goes on by less than any edit tells apart. */
const ROUND_END = 9;
const ROUND_STEP = 1e-6 / (ROUND_END + 1);

/** Where the apex of a bight is on the trail when its leader has come as far as a place. */
export const apexAt = (rope: Rope, leader: BightLeader, at: number): number => {
  const whole = apexOf(rope, leader);
  return at >= whole - LEAST ? whole : at + (ROUND_STEP * (ROUND_END + 1)) / 2;
};

/** The round end of a bight half drawn out, between its two legs. */
function apexPoints(curve: Curve, from: number, to: number): Point[] {
  const [p, q] = [pointAt(curve, from), pointAt(curve, to)];
  const middle = between(p, q, 0.5);
  const half = scale(subtract(p, q), 0.5);
  // The way both legs go.
  const ways = subtract(directionAt(curve, from), directionAt(curve, to));
  const way = Math.hypot(ways[0], ways[1]) < 1 ? directionAt(curve, from) : unit(ways);
  const out = scale(way, Math.min(1.2, Math.hypot(half[0], half[1])));
  return Array.from({ length: ROUND_END }, (_, i) => ((i + 1) * Math.PI) / (ROUND_END + 1)).map((k) =>
    add(middle, add(scale(half, Math.cos(k)), scale(out, Math.sin(k)))),
  );
}

/** Legs nearer than this, in diameters, are joined by a round apex; farther off the rope is plain between them. */
const APEX_REACH = 3;

function cut(rope: Rope, { to: at, without = [] }: Extent): Cut | undefined {
  const gaps = without.filter(([from, to]) => from < at && to > from);
  if (at >= lastAt(rope) && gaps.length === 0) return { rope, toWhole: (x) => x, toLaid: (x) => x };
  const curve = curveOf(rope);
  const { line, lineAt } = curve;
  const points: Point[] = [];
  const places: number[] = [];
  const put = (p: Point, place: number): void => {
    if (points.length > 0 && distance(points.at(-1) as Point, p) < 1e-6) return;
    points.push(p);
    places.push(place);
  };
  const stops = [...gaps].sort((a, b) => a[0] - b[0]);
  let from = 0;
  for (const [gap, resume] of [...stops, [at, Infinity] as const]) {
    const to = Math.min(gap, at, lastAt(rope));
    if (to > from) {
      put(pointAt(curve, from), from);
      line.forEach((p, i) => {
        const here = lineAt[i] as number;
        if (here > from && here < to) put(p, here);
      });
      put(pointAt(curve, to), to);
    }
    if (!Number.isFinite(resume)) break;
    if (gap > 0 && distance(pointAt(curve, gap), pointAt(curve, resume)) < APEX_REACH)
      apexPoints(curve, gap, resume).forEach((p, i) => put(p, gap + ROUND_STEP * (i + 1)));
    from = resume;
  }
  if (points.length < 2) return undefined;
  const toWhole = (x: number): number => {
    const i = Math.min(points.length - 2, Math.floor(x));
    return (places[i] as number) + (x - i) * ((places[i + 1] as number) - (places[i] as number));
  };
  const toLaid = (x: number): number => {
    const i = Math.max(0, Math.min(places.length - 2, places.findIndex((p) => p > x) - 1));
    const [a, b] = [places[i] as number, places[i + 1] as number];
    if (x >= (places.at(-1) as number)) return places.length - 1;
    return i + Math.min(1, Math.max(0, (x - a) / (b - a || 1)));
  };
  const { eyes, flips, breaks, wraps: _wraps, ...bare } = rope;
  const laid = (list: readonly number[]): number[] =>
    list.filter((e) => e < at && !gaps.some(([a, b]) => e > a && e < b)).map((e) => places.findIndex((p) => p >= e));
  return {
    rope: {
      ...bare,
      points,
      curve: 'straight',
      ends: [(places[0] ?? 0) > 0 ? 'tail' : rope.ends[0], at >= lastAt(rope) ? rope.ends[1] : 'tail'],
      weave: '',
      ...(eyes ? { eyes: laid(eyes) } : {}),
      ...(flips ? { flips: laid(flips) } : {}),
      ...(breaks ? { breaks: breaks.flatMap((b) => laid([b.at]).map((now) => ({ ...b, at: now }))) } : {}),
    },
    toWhole,
    toLaid,
  };
}

/** The figure as far as it is laid, and where its trail positions lie there. */
export interface Truncated {
  readonly figure: Figure;
  readonly toLaid: (strand: string, at: number) => number;
}

/**
 * The figure as far as it is laid: a valid figure of its own. A rope that is cut becomes a run of short straight pieces along
 * its curve, so the crossings of what is left stay exactly where they were.
 */
export const truncate = (figure: Figure, extents: Extents): Figure => truncated(figure, extents).figure;

export function truncated(figure: Figure, extents: Extents): Truncated {
  const parts = new Map<string, Cut>();
  const ropes = figure.ropes.flatMap((rope) => {
    const part = cut(rope, extents.get(rope.id) ?? { to: Infinity });
    if (!part) return [];
    parts.set(rope.id, part);
    return [part.rope];
  });
  const bare: Figure = { ...figure, ropes };
  const full = crossingsOf(figure);
  const place = (strand: string, at: number): number => parts.get(strand)?.toWhole(at) ?? at;
  const woven = weaveFigure(bare, (m) => {
    const [a, b] = [place(m.first.strand, m.first.at), place(m.second.strand, m.second.at)];
    let best = full[0];
    let least = Infinity;
    for (const c of full) {
      if (c.first.strand !== m.first.strand || c.second.strand !== m.second.strand) continue;
      const off = Math.abs(c.first.at - a) + Math.abs(c.second.at - b);
      if (off < least) [best, least] = [c, off];
    }
    return best !== undefined && best.over === best.first;
  });
  return { figure: woven, toLaid: (strand, at) => parts.get(strand)?.toLaid(at) ?? at };
}

/** The knot as it lies before a step begins. */
export const figureBefore = ({ of, stretch }: Step): Figure =>
  stretch ? truncate(of.figure, extentsAt(of, stretch.index, stretch.from)) : of.figure;

/** Step k (from 0) as a figure of its own; past the last step, the finished knot. */
export function figureAtStep(method: Method, k: number): Figure {
  const step = stepsOf(method)[k];
  if (!step) return finishedFigure(method);
  return step.stretch
    ? truncate(step.of.figure, extentsAt(step.of, step.stretch.index, step.stretch.to))
    : step.of.figure;
}
