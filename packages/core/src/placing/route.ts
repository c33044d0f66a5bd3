/**
 * The way of a working end over the board: from where it lies, past given stretches of strand in their order, over or under each,
 * and out to a clear place. What is not asked for is not crossed, unless there is no other way.
 *
 * The board is a grid of places; a way is a path through as many floors as there are crossings asked for, one floor up at each
 * (E. W. Dijkstra, "A note on two problems in connexion with graphs", Numerische Mathematik 1, 1959). Rope keeps its distance: places
 * near a strand cost more. Unit: rope diameters; y down.
 */
import TinyQueue from 'tinyqueue';
import { diameterOf } from '../figure/cordage.js';
import { meetings, side } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, lengthTo, type Curve } from '../figure/curve.js';
import { breadthOf, strandOf } from '../figure/bounds.js';
import { lastAt, ropeOf, type Figure, type Host, type Letter, type Rope, type TrailSpan } from '../figure/figure.js';
import { Cells } from '../ground/cells.js';
import { rememberedBy } from '../ground/remembered.js';
import { add, boxOf, cross, distance, scale, subtract, unit, type Point } from '../figure/point.js';

/** A stretch of strand that is to be crossed between two trail positions, and how. */
export interface Leg {
  readonly strand: string;
  readonly from: number;
  readonly to: number;
  readonly over: boolean;
}

export interface RouteAsk {
  /** The rope whose last end goes. */
  readonly rope: string;
  readonly legs: readonly Leg[];
  /** Where it comes out; absent: at the nearest clear place. */
  readonly goal?: Point | undefined;
  /** Which way it comes out, from where it last crossed. */
  readonly toward?: Point | undefined;
  /** It ends just past what it crosses last, wherever that is. */
  readonly short?: boolean | undefined;
  /** How strands in the way are passed. */
  readonly by: Letter;
}

/** A crossing on the way. */
export interface RoutePass {
  readonly strand: string;
  readonly over: boolean;
}

export interface Route {
  /** From the end on, without the place where it lies now. */
  readonly points: readonly Point[];
  readonly passes: readonly RoutePass[];
  /** Its length, longer where it is crowded or crosses. */
  readonly cost: number;
}

/** Between neighbouring places of the grid. */
const STEP = 0.45;
/** Clear board about the figure. */
const MARGIN = 7;
/** Most places of a grid; a larger board has a wider one. */
const MOST_PLACES = 60_000;
/** From middle to middle, a rope nearer to another than this costs more. */
const ROOM = 3;
const CROWDING = 2;
const MOST_CROWDED = 3;
/** So near a host a rope still passes across it. */
const BESIDE_HOST = 0.7;
/** A host is passed across, not along it: so much at least of each step within it. */
const ACROSS = 0.7;
/** What a crossing costs that was not asked for, as diameters of way; and one that was, when it is aslant. */
const IN_THE_WAY = 14;
const ASLANT = 3;
/** No crossing is laid so near another. */
const APART = 0.75;
/** So near its end a rope is not there yet; and so far ahead of it its way begins. */
const OWN_TIP = 0.3;
const AHEAD = [1.2, 0.6];
/** Along what is asked to be crossed, so far on either side nothing else of it may be. */
const KEPT_CLEAR = 9;
/** A clear place: so far from every strand, and from the last crossing. */
const CLEAR = 2.4;
const OUT = 2.6;
/** Just past a crossing: so far from it, and so clear of what was crossed. */
const PAST = 0.95;

interface Segment {
  readonly strand: string;
  readonly a: Point;
  readonly b: Point;
  readonly from: number;
  readonly to: number;
  /** Half its breadth and half of the rope that is laid. */
  readonly reach: number;
  readonly host: boolean;
  /** No part of the drawing: a spar goes on there. */
  readonly beyond: boolean;
}

/** Steps to the places round about, of length 1 and √2. */
const NEIGHBOURS = (
  [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
    [1, 1],
    [-1, 1],
    [-1, -1],
    [1, -1],
  ] as const
).map((by) => ({ by, along: unit(by), length: Math.hypot(...by) }));

/** The grid, and what lies on it. */
class Board {
  readonly step: number;
  readonly columns: number;
  readonly rows: number;
  private readonly left: number;
  private readonly top: number;
  private readonly buckets: Segment[][];
  /** Distance from each place to the surface of the nearest strand, as far as it matters. */
  readonly room: Float32Array;
  /** Along what host a place lies in it. */
  readonly within = new Map<number, Point>();

  constructor(segments: readonly Segment[], about: readonly Point[]) {
    const [left, top, right, bottom] = boxOf(about) ?? [0, 0, 0, 0];
    const [w, h] = [right - left + 2 * MARGIN, bottom - top + 2 * MARGIN];
    this.step = Math.max(STEP, Math.sqrt((w * h) / MOST_PLACES));
    this.columns = Math.ceil(w / this.step) + 1;
    this.rows = Math.ceil(h / this.step) + 1;
    this.left = left - MARGIN;
    this.top = top - MARGIN;
    this.buckets = Array.from({ length: this.columns * this.rows }, () => []);
    this.room = new Float32Array(this.columns * this.rows).fill(CLEAR + 1);
    for (const s of segments) this.put(s);
  }

  private put(s: Segment): void {
    const wide = CLEAR + 1 + s.reach;
    const [i0, j0] = this.cell([Math.min(s.a[0], s.b[0]) - wide, Math.min(s.a[1], s.b[1]) - wide]);
    const [i1, j1] = this.cell([Math.max(s.a[0], s.b[0]) + wide, Math.max(s.a[1], s.b[1]) + wide]);
    for (let j = j0; j <= j1; j += 1)
      for (let i = i0; i <= i1; i += 1) {
        const k = j * this.columns + i;
        const away = toSegment(this.left + i * this.step, this.top + j * this.step, s);
        if (away < 1.5 * this.step) this.buckets[k]?.push(s);
        this.room[k] = Math.min(this.room[k] as number, away - s.reach + 1);
        if (s.host && away < s.reach + BESIDE_HOST) this.within.set(k, unit(subtract(s.b, s.a)));
      }
  }

  private cell([x, y]: Point): [number, number] {
    const within = (v: number, most: number): number => Math.min(most - 1, Math.max(0, Math.round(v)));
    return [within((x - this.left) / this.step, this.columns), within((y - this.top) / this.step, this.rows)];
  }

  nearest(p: Point): number {
    const [i, j] = this.cell(p);
    return j * this.columns + i;
  }

  place(k: number): Point {
    return [this.left + (k % this.columns) * this.step, this.top + Math.floor(k / this.columns) * this.step];
  }

  next(k: number, [dx, dy]: readonly [number, number]): number | undefined {
    const [i, j] = [(k % this.columns) + dx, Math.floor(k / this.columns) + dy];
    return i < 0 || j < 0 || i >= this.columns || j >= this.rows ? undefined : j * this.columns + i;
  }

  /** What is met from one place to the next: nothing, one thing and where along it, or more than can be told apart. */
  met(k: number, l: number): { readonly s: Segment; readonly t: number } | 'several' | undefined {
    const near = this.buckets[k] as Segment[];
    if (near.length === 0) return undefined;
    const [p, q] = [this.place(k), this.place(l)];
    let found: { s: Segment; t: number } | undefined;
    for (const s of near) {
      const t = meet(p, q, s.a, s.b);
      if (t === undefined) continue;
      if (found) return 'several';
      found = { s, t };
    }
    return found;
  }
}

/** How far a place is from a segment; in plain numbers, as it is asked for often. */
function toSegment(x: number, y: number, { a, b }: Segment): number {
  const [ax, ay] = a;
  const [dx, dy] = [b[0] - ax, b[1] - ay];
  const square = dx * dx + dy * dy;
  const t = square === 0 ? 0 : Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / square));
  return Math.sqrt((x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2);
}

/** How far along a–b the step p–q meets it, if it does: exactly, so that no vertex is passed by. */
function meet(p: Point, q: Point, a: Point, b: Point): number | undefined {
  if (side(p, q, a) === side(p, q, b) || side(a, b, p) === side(a, b, q)) return undefined;
  const u = subtract(q, p);
  const n = cross(u, subtract(b, a));
  return Math.abs(n) < 1e-12 ? 0 : Math.min(1, Math.max(0, cross(u, subtract(p, a)) / n));
}

/** A spar goes on beyond what is drawn of it. */
const isStraight = (strand: Rope | Host): boolean => 'kind' in strand && strand.points.length === 2;
const BEYOND = 60;

/** The line of a straight host, longer at both ends. */
function endless({ line }: Curve): Pick<Curve, 'line' | 'lineAt'> {
  const [a, b] = [line[0] as Point, line.at(-1) as Point];
  const [along, more] = [unit(subtract(b, a)), BEYOND / distance(a, b)];
  return {
    line: [subtract(a, scale(along, BEYOND)), a, b, add(b, scale(along, BEYOND))],
    lineAt: [-more, 0, 1, 1 + more],
  };
}

function segmentsOf(figure: Figure, rope: Rope): Segment[] {
  return [...figure.ropes, ...figure.hosts].flatMap((strand) => {
    const curve = curveOf(strand);
    const end = strand.id === rope.id ? lengthTo(curve, lastAt(rope)) - OWN_TIP : Infinity;
    const { line, lineAt } = isStraight(strand) ? endless(curve) : curve;
    return line.slice(1).flatMap((b, i): Segment[] => {
      const [from, to] = [lineAt[i] as number, lineAt[i + 1] as number];
      if (end < Infinity && lengthTo(curve, to) > end) return [];
      return [
        {
          strand: strand.id,
          a: line[i] as Point,
          b,
          from,
          to,
          reach: (breadthOf(strand) + diameterOf(rope)) / 2,
          host: 'kind' in strand,
          beyond: isStraight(strand) && (from < 0 || to > 1),
        },
      ];
    });
  });
}

/** What is asked to be crossed, with so much of its strand on either side. */
function widened(figure: Figure, { strand, from, to }: Leg): TrailSpan {
  const curve = curveOf(strandOf(figure, strand) as Rope);
  return {
    strand,
    from: atLength(curve, lengthTo(curve, from) - KEPT_CLEAR),
    to: atLength(curve, lengthTo(curve, to) + KEPT_CLEAR),
  };
}

interface Reached {
  readonly state: number;
  readonly cost: number;
}

/** The board of a figure for one of its ropes: several ways are sought on it. */
const boardOf = rememberedBy((figure: Figure, id: string) => {
  const segments = segmentsOf(figure, ropeOf(figure, id) as Rope);
  const about = [...figure.ropes, ...figure.hosts].flatMap((s) => curveOf(s).line);
  const board = new Board(segments, about);
  const taken = new Cells<Point>(1);
  for (const { point } of meetings(figure)) taken.put(point, point[0], point[1]);
  /** Whether a place is too near a crossing for another one. */
  const isTaken = (place: Point): boolean => {
    let near = false;
    taken.near(place[0], place[1], APART, (c) => (near ||= distance(c, place) < APART));
    return near;
  };
  return { segments, board, isTaken };
});

/** The cheapest way; nothing where there is none. */
export function routeOf(figure: Figure, ask: RouteAsk): Route | undefined {
  const rope = ropeOf(figure, ask.rope);
  if (!rope || rope.closed) return undefined;
  const start = rope.points.at(-1) as Point;
  const { segments, board, isTaken } = boardOf(figure, rope.id);
  const size = board.columns * board.rows;
  // What is crossed twice in a row is left between, so that the rope goes round it and not about within it.
  const stages = ask.legs.flatMap((leg, i): (Leg | 'out')[] =>
    leg.strand === ask.legs[i - 1]?.strand ? ['out', leg] : [leg],
  );
  const floors = stages.length + 1;
  const cost = new Float64Array(size * floors).fill(Infinity);
  const cameFrom = new Int32Array(size * floors).fill(-1);
  /** The place at which the way of a state last crossed anything; where it begins, before it did. */
  const crossed = new Int32Array(size * floors);
  /** How a state was come to, where that was by a crossing. */
  const passed = new Map<number, RoutePass>();
  const kept = ask.legs.map((leg) => widened(figure, leg));
  const keptClear = (s: Segment): boolean => kept.some((l) => l.strand === s.strand && s.to > l.from && s.from < l.to);
  const heap = new TinyQueue<Reached>([], (a, b) => a.cost - b.cost);
  // It leaves the way it points, where there is room.
  const ahead = AHEAD.map((far) => board.nearest(add(start, scale(heading(rope), far)))).find(
    (k) => !segments.some((s) => meet(start, board.place(k), s.a, s.b) !== undefined),
  );
  const first = ahead ?? board.nearest(start);
  cost[first] = 0;
  crossed[first] = first;
  heap.push({ state: first, cost: 0 });
  const last = (floors - 1) * size;
  const goal = ask.goal ? board.nearest(ask.goal) : undefined;

  const isOut = (state: number): boolean => {
    if (state < last) return false;
    const k = state - last;
    if (goal !== undefined) return k === goal;
    if (ask.short === true)
      return (board.room[k] as number) > PAST && distance(board.place(k), board.place(crossed[state] as number)) > PAST;
    if ((board.room[k] as number) < CLEAR) return false;
    const way = subtract(board.place(k), board.place(crossed[state] as number));
    if (Math.hypot(way[0], way[1]) < OUT) return false;
    return !ask.toward || way[0] * ask.toward[0] + way[1] * ask.toward[1] > 0.7 * Math.hypot(way[0], way[1]);
  };

  for (let reached = heap.pop(); reached; reached = heap.pop()) {
    const { state, cost: so } = reached;
    if (so > (cost[state] as number)) continue;
    if (isOut(state)) return { ...readRoute(board, size, state, cameFrom, passed), cost: so };
    const [floor, k] = [Math.floor(state / size), state % size];
    for (const { by, along, length } of NEIGHBOURS) {
      const l = board.next(k, by);
      if (l === undefined) continue;
      const way = length * board.step;
      const axis = board.within.get(k) ?? board.within.get(l);
      if (axis && Math.abs(cross(axis, along)) < ACROSS) continue;
      const near = Math.min(MOST_CROWDED, Math.max(0, ROOM - (board.room[l] as number)));
      let price = so + way * (1 + CROWDING * near * near);
      let to = floor * size + l;
      let pass: RoutePass | undefined;
      const hit = board.met(k, l);
      if (hit === 'several') continue;
      if (hit) {
        const at = hit.s.from + hit.t * (hit.s.to - hit.s.from);
        // Beyond what is drawn of a spar nothing can be laid across it.
        if (hit.s.beyond) continue;
        const place = add(hit.s.a, scale(subtract(hit.s.b, hit.s.a), hit.t));
        if (isTaken(place)) continue;
        const leg = stages[floor];
        const slant = 1 - Math.abs(cross(unit(subtract(hit.s.b, hit.s.a)), along));
        if (leg !== undefined && leg !== 'out' && leg.strand === hit.s.strand && at >= leg.from && at <= leg.to) {
          to += size;
          price += ASLANT * slant;
          pass = { strand: leg.strand, over: leg.over };
        } else {
          if (keptClear(hit.s)) continue;
          price += IN_THE_WAY + ASLANT * slant;
          pass = { strand: hit.s.strand, over: ask.by === 'O' };
        }
      } else if (stages[floor] === 'out' && (board.room[l] as number) > PAST && !board.within.has(l)) to += size;
      if (price >= (cost[to] as number)) continue;
      cost[to] = price;
      cameFrom[to] = state;
      crossed[to] = pass ? l : (crossed[state] as number);
      if (pass) passed.set(to, pass);
      else passed.delete(to);
      heap.push({ state: to, cost: price });
    }
  }
  return undefined;
}

function readRoute(
  board: Board,
  size: number,
  end: number,
  cameFrom: Int32Array,
  passed: ReadonlyMap<number, RoutePass>,
): Omit<Route, 'cost'> {
  const points: Point[] = [];
  const passes: RoutePass[] = [];
  for (let s = end; s >= 0; s = cameFrom[s] as number) {
    points.push(board.place(s % size));
    const pass = passed.get(s);
    if (pass) passes.push(pass);
  }
  return { points: points.reverse(), passes: passes.reverse() };
}

/** Which way an open rope's last end points. */
export const heading = (rope: Rope): Point => directionAt(curveOf(rope), lastAt(rope));
