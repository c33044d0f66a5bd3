/**
 * A method: a figure, the leaders that lay it in order, and the halts at which its steps end. The knot is laid once; step k is
 * the figure as far as halt k.
 */
import { crossingsOf, passagesOf, weaveFigure, type Passage } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, lengthTo, pointAt, type Curve } from '../figure/curve.js';
import { lastAt, ropeOf, type Figure, type Rope, type TrailPosition } from '../figure/figure.js';
import { add, between, distance, scale, subtract, type Point } from '../figure/point.js';

/** A rope's working end, laid from a trail position to the rope's end. */
export interface EndLeader {
  readonly kind: 'end';
  readonly rope: string;
  readonly from: number;
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

export interface Halt {
  /** Index of the leader it stands on. */
  readonly leader: number;
  readonly at: number;
  /** The author's own text; absent: the composed one. */
  readonly text?: string | undefined;
}

export interface Method {
  readonly figure: Figure;
  readonly leaders: readonly Leader[];
  /** In the order of tying: by leader, then along the trail. */
  readonly halts: readonly Halt[];
}

export const EMPTY_METHOD: Method = { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] };

/** How much of a rope is laid: as far as a trail position, without the legs of bights that are not drawn out yet. */
export interface Extent {
  readonly to: number;
  readonly without?: readonly (readonly [from: number, to: number])[];
}

/** How much of each rope is laid. Ropes not named are laid whole. */
export type Extents = ReadonlyMap<string, Extent>;

export const WHOLE: Extents = new Map();

export const haltOrder = (a: Halt, b: Halt): number => a.leader - b.leader || a.at - b.at;

/** A leader's end of travel: the end of its rope, or the middle of its bight. */
export const leaderEnd = (method: Method, leader: number): number => {
  const l = method.leaders[leader];
  const rope = ropeOf(method.figure, l?.rope ?? '');
  if (!rope) return 0;
  return l?.kind === 'bight' ? apexOf(rope, l) : lastAt(rope);
};

/** The middle of a bight's rope, where its apex is when it is drawn out fully. */
const apexOf = (rope: Rope, { from, to }: BightLeader): number => {
  const curve = curveOf(rope);
  return atLength(curve, (lengthTo(curve, from) + lengthTo(curve, to)) / 2);
};

/** The place on the second leg of a bight beside a place on the first. */
export const acrossBight = (rope: Rope, { from, to }: BightLeader, at: number): number => {
  const curve = curveOf(rope);
  return atLength(curve, lengthTo(curve, from) + lengthTo(curve, to) - lengthTo(curve, at));
};

/** One step: where its leader starts and stops. */
export interface Step {
  readonly index: number;
  readonly leader: number;
  readonly rope: string;
  readonly from: number;
  readonly to: number;
}

export function stepsOf(method: Method): Step[] {
  return method.halts.map((halt, index) => {
    const before = method.halts[index - 1];
    const leader = method.leaders[halt.leader] as Leader;
    return {
      index,
      leader: halt.leader,
      rope: leader.rope,
      from: before?.leader === halt.leader ? before.at : leader.from,
      to: halt.at,
    };
  });
}

/** What is laid when a leader has reached a trail position: earlier leaders are done, later ones have not begun. */
export function extentsAt(method: Method, leader: number, at: number): Extents {
  const extents = new Map<string, Extent>();
  method.leaders.forEach((l, i) => {
    const known = extents.get(l.rope);
    if (l.kind === 'end') {
      if (i < leader) extents.set(l.rope, { ...known, to: leaderEnd(method, i) });
      else if (i === leader) extents.set(l.rope, { ...known, to: at });
      else if (!known) extents.set(l.rope, { to: l.from });
      return;
    }
    const rope = ropeOf(method.figure, l.rope);
    if (!rope || i < leader) return;
    const gap: readonly [number, number] =
      i === leader ? [Math.max(l.from, at), acrossBight(rope, l, Math.max(l.from, at))] : [l.from, l.to];
    if (gap[1] - gap[0] < 1e-6) return;
    extents.set(l.rope, { to: known?.to ?? Infinity, without: [...(known?.without ?? []), gap] });
  });
  return extents;
}

export const reached = (extents: Extents, strand: string): number => extents.get(strand)?.to ?? Infinity;

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

/** The round end of a bight half drawn out, between its two legs. */
function apexPoints(curve: Curve, from: number, to: number): Point[] {
  const [p, q] = [pointAt(curve, from), pointAt(curve, to)];
  const middle = between(p, q, 0.5);
  const half = scale(subtract(p, q), 0.5);
  const out = scale(directionAt(curve, from), Math.min(1.2, Math.hypot(half[0], half[1])));
  return [0.25, 0.5, 0.75].map((k) =>
    add(middle, add(scale(half, Math.cos(k * Math.PI)), scale(out, Math.sin(k * Math.PI)))),
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
    if (distance(pointAt(curve, gap), pointAt(curve, resume)) < APEX_REACH)
      apexPoints(curve, gap, resume).forEach((p, i) => put(p, gap + (1e-6 * (i + 1)) / 4));
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
  const { eyes: all, wraps: _wraps, ...bare } = rope;
  const eyes = all?.filter((e) => e < at && !gaps.some(([a, b]) => e > a && e < b));
  return {
    rope: {
      ...bare,
      points,
      curve: 'straight',
      ends: [rope.ends[0], at >= lastAt(rope) ? rope.ends[1] : 'tail'],
      weave: '',
      ...(eyes ? { eyes: eyes.map((e) => places.findIndex((p) => p >= e)) } : {}),
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

/** Step k (from 0) as a figure of its own. */
export function figureAtStep(method: Method, k: number): Figure {
  const halt = method.halts[k];
  return halt ? truncate(method.figure, extentsAt(method, halt.leader, halt.at)) : method.figure;
}
