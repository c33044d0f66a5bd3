/**
 * Tidy: a figure drawn anew with even spacing, round bends and straight leads. It is the same figure: its extended Gauss code is
 * compared before and after, and nothing is changed when it would not be the same.
 */
import { meetings, passagesOf, readWeave, rememberMeetings } from '../figure/crossings.js';
import { withMarks } from '../figure/bounds.js';
import { diameterOf } from '../figure/cordage.js';
import { crowded } from '../figure/crowded.js';
import { curveOf, fitPath, pointAt, atLength, lengthOf, lengthTo } from '../figure/curve.js';
import { hostOf, lastAt, ropeOf, type Figure, type Host, type Rope } from '../figure/figure.js';
import type { Mapping, SpanMap } from '../figure/mapping.js';
import { distance, unit, subtract, type Point } from '../figure/point.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { runOut } from '../ground/run-out.js';
import { gaussText } from '../topology/gauss.js';
import { relaxed, type RelaxOptions } from './relax.js';
import type { Line, Net, Node } from './strands.js';

export interface Tidied {
  readonly figure: Figure;
  readonly mapping: Mapping;
}

/** Nodes along a strand between two places, about this far from one another, in diameters. */
const SAMPLE = 1.2;

/** Where an eye is held while the rest is drawn tight, in diameters either way. */
const EYE_HELD = 1.5;

/** A figure as nodes and segments, its hosts held where they are; pinned, also the ends of its ropes and its eyes. */
export function netOf(figure: Figure, pinned = false): Net {
  const nodes: Node[] = [];
  const crossings = new Set<number>();
  const place = new Map<string, number>();
  const hosts = new Map(figure.hosts.map((h) => [h.id, h]));
  const key = (strand: string, at: number): string => `${strand} ${at}`;
  for (const m of meetings(figure)) {
    const host = hosts.get(m.second.strand);
    // A crossing with a straight host slides along it; with any other it stays.
    const hold = !host
      ? 'free'
      : host.points.length === 2
        ? unit(subtract(host.points[1] as Point, host.points[0] as Point))
        : 'fixed';
    const id = nodes.push({ x: m.point[0], y: m.point[1], hold }) - 1;
    crossings.add(id);
    place.set(key(m.first.strand, m.first.at), id);
    place.set(key(m.second.strand, m.second.at), id);
  }
  const lineOf = (strand: Rope | Host, closed: boolean, held: boolean): Line => {
    const curve = curveOf(strand);
    const passages = passagesOf(figure, strand.id).map((p) => ({
      at: p.at,
      id: place.get(key(strand.id, p.at)) as number,
    }));
    const own: number[] = [];
    const put = (at: number): void => {
      const [x, y] = pointAt(curve, at);
      const still = held || (pinned && isPinned(strand, at));
      own.push(nodes.push({ x, y, hold: still ? 'fixed' : 'free' }) - 1);
    };
    const between = (from: number, to: number): void => {
      const [a, b] = [lengthTo(curve, from), lengthTo(curve, to)];
      const n = Math.max(2, Math.round((b - a) / SAMPLE));
      for (let k = 1; k < n; k += 1) put(atLength(curve, a + ((b - a) * k) / n));
    };
    const end = closed ? curve.pieces.length : lastAt(strand);
    put(0);
    let at = 0;
    for (const p of passages) {
      between(at, p.at);
      own.push(p.id);
      at = p.at;
    }
    between(at, end);
    if (!closed) put(end);
    // Hosts keep their own distance by where they lie.
    const broader = 'kind' in strand ? 0 : diameterOf(strand) - 1;
    return { id: strand.id, closed, ...(broader === 0 ? {} : { broader }), nodes: own };
  };
  const lines = [
    ...figure.ropes.map((r) => lineOf(r, r.closed, false)),
    ...figure.hosts.map((h) => lineOf(h, curveOf(h).closed, true)),
  ];
  return { nodes, lines, crossings };
}

/** An end of an open rope, or near an eye that is meant to stay. */
function isPinned(strand: Rope | Host, at: number): boolean {
  const curve = curveOf(strand);
  const end = !curve.closed && (at <= 0 || at >= lastAt(strand));
  const eyes = 'eyes' in strand ? (strand.eyes ?? []) : [];
  return end || eyes.some((e) => Math.abs(lengthTo(curve, e) - lengthTo(curve, at)) < EYE_HELD);
}

/** Few control points that keep to a run of nodes. */
const TOLERANCE = 0.12;

/** A rope's control points from its nodes; `exact` keeps every node. */
function pointsOf(net: Net, line: Line, exact: boolean): Point[] {
  const all = line.nodes.map((i): Point => [(net.nodes[i] as Node).x, (net.nodes[i] as Node).y]);
  const round = (v: number): number => Math.round(v * 1000) / 1000;
  const tidy = (list: readonly Point[]): Point[] => list.map(([x, y]): Point => [round(x), round(y)]);
  if (exact || all.length < 4) return tidy(all);
  const path = line.closed ? [...all, all[0] as Point] : all;
  const fitted = fitPath(dense(path), 1, TOLERANCE);
  return tidy(line.closed ? fitted.slice(0, -1) : fitted);
}

/** A smooth path through points, finely sampled. */
function dense(points: readonly Point[]): Point[] {
  const curve = curveOf({
    id: '',
    points: [...points],
    curve: 'smooth',
    closed: false,
    ends: ['off', 'off'],
    weave: '',
  });
  const n = Math.ceil(lengthOf(curve) * 4);
  return Array.from({ length: n + 1 }, (_, i) => pointAt(curve, atLength(curve, (lengthOf(curve) * i) / n)));
}

/** The figure that a net draws, when it has the code it should have; with hosts that were moved, where they are. */
export function figureOf(figure: Figure, net: Net, exact: boolean, hosts = figure.hosts): Tidied | undefined {
  const bare: Figure = {
    hosts,
    ropes: figure.ropes.map((r) => {
      const line = net.lines.find((l) => l.id === r.id) as Line;
      return { ...r, points: pointsOf(net, line, exact), curve: 'smooth' as const };
    }),
  };
  const drawn = rememberMeetings(bare, meetings(bare));
  for (const r of figure.ropes) if (!sameOrder(figure, drawn, r.id)) return undefined;
  if (!readWeave(drawn).ok || gaussText(drawn) !== gaussText(figure)) return undefined;
  const moved = hosts === figure.hosts ? [] : hosts;
  const mapping: Mapping = new Map([...figure.ropes, ...moved].map(({ id }) => [id, spansOf(figure, drawn, id)]));
  // Marks are carried from the old rope; the points are new already.
  return { figure: withMarks(drawn, mapping), mapping };
}

const sameOrder = (a: Figure, b: Figure, rope: string): boolean =>
  ropeOf(a, rope)?.weave.length ===
  meetings(b)
    .flatMap((m) => [m.first, m.second])
    .filter((p) => p.strand === rope).length;

/** From crossing to crossing: what lay between two passages lies between them still. */
function spansOf(before: Figure, after: Figure, id: string): SpanMap[] {
  const [old, next] = [before, after].map((f) => ropeOf(f, id) ?? hostOf(f, id)) as [Rope | Host, Rope | Host];
  const stops = (f: Figure, r: Rope | Host): number[] => [0, ...passagesOf(f, id).map((p) => p.at), lastAt(r)];
  const [from, to] = [stops(before, old), stops(after, next)];
  return from
    .slice(1)
    .map((at, i): SpanMap => ({ from: [from[i] as number, at], to: [to[i] as number, to[i + 1] as number] }));
}

/** How often a picture of the work is given while it goes on, in rounds. */
const PICTURE_EVERY = 6;

export interface TidyProgress {
  /** Share of the work done, from 0 to 1. */
  readonly done: number;
  /** The figure so far, now and then. */
  readonly figure?: Figure | undefined;
}

/**
 * Tidies a figure, telling how far it is. The last figure whose code is the same is what comes of it; a figure that cannot be tidied
 * without changing it is refused.
 */
export function* tidying(
  figure: Figure,
  options: RelaxOptions = {},
  pictures = true,
): Generator<TidyProgress, Result<Tidied>, unknown> {
  if (figure.ropes.length === 0) return refuse('figure', 'There is no rope on the board.', 'Lay one first.');
  const read = readWeave(figure);
  if (!read.ok) return read;
  const pinned = (options.tight ?? 0) > 0;
  const net = netOf(figure, pinned);
  const where = middleOf(net);
  let r = 0;
  for (const done of relaxed(net, options)) {
    r += 1;
    yield { done, figure: pictures && r % PICTURE_EVERY === 0 ? figureOf(figure, net, true)?.figure : undefined };
  }
  if (figure.hosts.length === 0 && !pinned) moveTo(net, where);
  const found = figureOf(figure, net, false) ?? figureOf(figure, net, true);
  // What it draws closer than it can be read is no better than what was there.
  return found && crowded(found.figure) <= crowded(figure)
    ? accept(found)
    : refuse(
        'figure',
        'It could not be drawn more evenly without changing a crossing, or bringing two into one place.',
        'Move the strands that lie closest, and tidy again.',
      );
}

/** Tidies a figure in one go. */
export const tidy = (figure: Figure, options: RelaxOptions = {}): Result<Tidied> =>
  runOut(tidying(figure, options, false));

export const middleOf = ({ nodes, crossings }: Net): Point => {
  const list = crossings.size > 0 ? [...crossings].map((i) => nodes[i] as Node) : nodes;
  return [list.reduce((s, n) => s + n.x, 0) / list.length, list.reduce((s, n) => s + n.y, 0) / list.length];
};

/** Moves everything so that the middle of the crossings stays where it was. */
export function moveTo(net: Net, [x, y]: Point): void {
  const [mx, my] = middleOf(net);
  for (const n of net.nodes) {
    n.x += x - mx;
    n.y += y - my;
  }
}

/** The least distance between two strands away from their crossings, in diameters: how evenly a figure is drawn. */
export function closest(figure: Figure): number {
  let least = Infinity;
  const lines = figure.ropes.map((r) => ({ r, curve: curveOf(r) }));
  const near = meetings(figure).map((m) => m.point);
  for (const { r, curve } of lines)
    for (const { r: s, curve: other } of lines)
      curve.line.forEach((p, i) => {
        if (near.some((c) => distance(c, p) < 3)) return;
        other.line.forEach((q, j) => {
          if (
            r === s &&
            Math.abs(lengthTo(curve, curve.lineAt[i] as number) - lengthTo(curve, curve.lineAt[j] as number)) < 4
          )
            return;
          least = Math.min(least, distance(p, q));
        });
      });
  return least;
}
