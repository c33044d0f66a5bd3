/**
 * A method: a figure, the leaders that lay it in order, and the halts at which its steps end. The knot is laid once; step k is
 * the figure as far as halt k.
 */
import { crossingsOf, passagesOf, weaveFigure, type Passage } from '../figure/crossings.js';
import { curveOf } from '../figure/curve.js';
import { lastAt, ropeOf, type Figure, type Rope } from '../figure/figure.js';
import { between, distance, type Point } from '../figure/point.js';

/** A rope's working end, laid from a trail position to the rope's end. */
export interface Leader {
  readonly kind: 'end';
  readonly rope: string;
  readonly from: number;
}

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

/** How much of each rope is laid: rope id → trail position reached. Ropes not named are laid whole. */
export type Extents = ReadonlyMap<string, number>;

export const WHOLE: Extents = new Map();

export const haltOrder = (a: Halt, b: Halt): number => a.leader - b.leader || a.at - b.at;

/** A leader's end of travel. */
export const leaderEnd = (method: Method, leader: number): number => {
  const rope = ropeOf(method.figure, method.leaders[leader]?.rope ?? '');
  return rope ? lastAt(rope) : 0;
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
  const extents = new Map<string, number>();
  method.leaders.forEach((l, i) => {
    if (i < leader) extents.set(l.rope, leaderEnd(method, i));
    else if (i === leader) extents.set(l.rope, at);
    else if (!extents.has(l.rope)) extents.set(l.rope, l.from);
  });
  return extents;
}

export const reached = (extents: Extents, strand: string): number => extents.get(strand) ?? Infinity;

/** True when both strands of the passage are laid. */
export const isLaid = (extents: Extents, strand: string, p: Passage): boolean =>
  p.at <= reached(extents, strand) && p.other.at <= reached(extents, p.other.strand);

/** Passages of a strand at which both strands are laid. */
export const laidPassages = (figure: Figure, extents: Extents, strand: string): Passage[] =>
  passagesOf(figure, strand).filter((p) => isLaid(extents, strand, p));

function cut(rope: Rope, at: number): { rope: Rope; toWhole: (at: number) => number } | undefined {
  if (at >= lastAt(rope)) return { rope, toWhole: (x) => x };
  const { line, lineAt } = curveOf(rope);
  const points: Point[] = [];
  const places: number[] = [];
  const put = (p: Point, place: number): void => {
    if (points.length > 0 && distance(points.at(-1) as Point, p) < 1e-6) return;
    points.push(p);
    places.push(place);
  };
  for (let i = 0; i < line.length; i += 1) {
    const [here, next] = [lineAt[i] as number, lineAt[i + 1]];
    if (here >= at) break;
    put(line[i] as Point, here);
    if (next !== undefined && next >= at)
      put(between(line[i] as Point, line[i + 1] as Point, (at - here) / (next - here)), at);
  }
  if (points.length < 2) return undefined;
  const toWhole = (x: number): number => {
    const i = Math.min(points.length - 2, Math.floor(x));
    return (places[i] as number) + (x - i) * ((places[i + 1] as number) - (places[i] as number));
  };
  const eyes = rope.eyes?.filter((e) => e < at);
  return {
    rope: {
      ...rope,
      points,
      curve: 'straight',
      ends: [rope.ends[0], 'tail'],
      weave: '',
      ...(eyes ? { eyes: eyes.map((e) => places.findIndex((p) => p >= e)) } : {}),
    },
    toWhole,
  };
}

/**
 * The figure as far as it is laid: a valid figure of its own. A rope that is cut becomes a run of short straight pieces along
 * its curve, so the crossings of what is left stay exactly where they were.
 */
export function truncate(figure: Figure, extents: Extents): Figure {
  const whole = new Map<string, (at: number) => number>();
  const ropes = figure.ropes.flatMap((rope) => {
    const part = cut(rope, reached(extents, rope.id));
    if (!part) return [];
    whole.set(rope.id, part.toWhole);
    return [part.rope];
  });
  const bare: Figure = { ...figure, ropes };
  const full = crossingsOf(figure);
  const place = (strand: string, at: number): number => whole.get(strand)?.(at) ?? at;
  return weaveFigure(bare, (m) => {
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
}

/** Step k (from 0) as a figure of its own. */
export function figureAtStep(method: Method, k: number): Figure {
  const halt = method.halts[k];
  return halt ? truncate(method.figure, extentsAt(method, halt.leader, halt.at)) : method.figure;
}
