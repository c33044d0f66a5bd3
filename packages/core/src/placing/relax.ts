/**
 * Relaxing a drawing in the plane: strands keep off one another, bends grow round, leads straighten, and no strand ever passes
 * through another.
 *
 * Forces move the nodes; each move is bounded so that no node can reach a segment it does not belong to: a node and the two ends of
 * a segment at distance δ each move by less than δ/3. Source of the bound: F. Bertault, "A force-directed algorithm that preserves
 * edge-crossing properties", Information Processing Letters 74 (2000).
 */
import { Cells } from '../ground/cells.js';
import { neighbour, type Line, type Net, type Node } from './strands.js';

export interface RelaxOptions {
  /** Strands are pushed apart until their middles are this far from each other, in diameters. */
  readonly spacing?: number;
  readonly rounds?: number;
  /** How strongly strands draw in: 0 keeps the size of the figure, 1 draws its loops as tight as the spacing allows. */
  readonly tight?: number;
}

/** Middle to middle: a rope's thickness and a gap that reads at arm's length. */
export const TIDY_SPACING = 2.7;
/** How a knot is drawn tight: close, its loops small, its leads straight. */
export const DRAWN_TIGHT: RelaxOptions = { spacing: 2, tight: 0.5, rounds: 500 };
const ROUNDS = 260;
/** Wanted length of a segment, and when one is cut in two or joined to the next, in diameters. */
const REST = 1.1;
const LONGEST = 1.9;
const SHORTEST = 0.75;
/** Share of the distance to a segment that a node, and the segment's ends, may move at once: under a third each keeps them apart. */
const SAFE = 0.3;
const FASTEST = 0.55;
const SLOWEST = 0.08;

/** A segment draws its ends together; it hardly pushes them apart, so that a strand with rope to spare does not buckle. */
const SPRING = 0.2;
const SPRING_BACK = 0.02;
/** Drawn tight, a segment wants to be shorter by this share. */
const DRAWN_IN = 0.6;
const STRAIGHTEN = 0.3;
const ROUND = 0.22;
const REPEL = 0.3;
/** The arms of a crossing only lean on each other, enough to cross at a fair angle. */
const REPEL_AT_CROSSING = 0.05;

interface Segment {
  readonly a: number;
  readonly b: number;
}

const segmentsOf = (net: Net): Segment[] =>
  net.lines.flatMap((line) =>
    line.nodes.flatMap((a, i) => {
      const b = neighbour(line, i + 1);
      return b === undefined || (!line.closed && i + 1 >= line.nodes.length) ? [] : [{ a, b }];
    }),
  );

/** Nearest place on a segment to a node: offset vector from it to the node, and how far along. */
function offset(v: Node, a: Node, b: Node): { dx: number; dy: number; t: number; away: number } {
  const [ux, uy] = [b.x - a.x, b.y - a.y];
  const square = ux * ux + uy * uy;
  const t = square === 0 ? 0 : Math.min(1, Math.max(0, ((v.x - a.x) * ux + (v.y - a.y) * uy) / square));
  const [dx, dy] = [v.x - a.x - t * ux, v.y - a.y - t * uy];
  return { dx, dy, t, away: Math.hypot(dx, dy) };
}

/** Who belongs together, which only changes when nodes are put in or taken out. */
interface Ties {
  readonly segments: readonly Segment[];
  readonly kin: readonly (ReadonlySet<number> | undefined)[];
  readonly meet: readonly (readonly number[] | undefined)[];
  /** How much farther off each node keeps than an ordinary rope does: half of what its strand is broader. */
  readonly room: readonly number[];
}

const tiesOf = (net: Net): Ties => ({
  segments: segmentsOf(net),
  kin: kinOf(net),
  meet: crossingsNear(net),
  room: roomOf(net),
});

function roomOf(net: Net): number[] {
  const room = net.nodes.map(() => -Infinity);
  for (const { nodes, broader = 0 } of net.lines)
    for (const i of nodes) room[i] = Math.max(room[i] as number, broader / 2);
  return room;
}

/** One round: forces, bounds, moves. Returns the farthest move. */
function round(net: Net, { segments, kin, meet, room }: Ties, usual: number, fastest: number, tight: number): number {
  const { nodes } = net;
  const n = nodes.length;
  const fx = new Float64Array(n);
  const fy = new Float64Array(n);
  const bound = new Float64Array(n).fill(fastest);
  const push = (i: number, x: number, y: number): void => {
    fx[i] = (fx[i] as number) + x;
    fy[i] = (fy[i] as number) + y;
  };
  for (const line of net.lines) shape(net, line, push, tight);
  const most = usual + 2 * Math.max(0, ...room);
  const cells = new Cells<number>(most);
  segments.forEach(({ a, b }, s) => {
    const [p, q] = [nodes[a] as Node, nodes[b] as Node];
    cells.put(
      s,
      Math.min(p.x, q.x) - most,
      Math.min(p.y, q.y) - most,
      Math.max(p.x, q.x) + most,
      Math.max(p.y, q.y) + most,
    );
  });
  for (let v = 0; v < n; v += 1) {
    const node = nodes[v] as Node;
    for (const s of cells.at(node.x, node.y)) {
      const { a, b } = segments[s] as Segment;
      if (a === v || b === v) continue;
      const { dx, dy, t, away } = offset(node, nodes[a] as Node, nodes[b] as Node);
      const safe = SAFE * away;
      for (const i of [v, a, b]) if (safe < (bound[i] as number)) bound[i] = safe;
      const spacing = usual + (room[v] as number) + Math.max(room[a] as number, room[b] as number);
      if (away >= spacing || away === 0 || kin[v]?.has(a) === true || kin[v]?.has(b) === true) continue;
      const joined = meet[v]?.some((c) => meet[a]?.includes(c) === true && meet[b]?.includes(c) === true) === true;
      const force = ((joined ? REPEL_AT_CROSSING : REPEL) * (spacing - away)) / away;
      push(v, dx * force, dy * force);
      push(a, -dx * force * (1 - t), -dy * force * (1 - t));
      push(b, -dx * force * t, -dy * force * t);
    }
  }
  let farthest = 0;
  for (let i = 0; i < n; i += 1) {
    const node = nodes[i] as Node;
    if (node.hold === 'fixed') continue;
    let [x, y] = [fx[i] as number, fy[i] as number];
    if (node.hold !== 'free') {
      const along = x * node.hold[0] + y * node.hold[1];
      [x, y] = [node.hold[0] * along, node.hold[1] * along];
    }
    const length = Math.hypot(x, y);
    const step = Math.min(length, bound[i] as number);
    if (length < 1e-12) continue;
    node.x += (x / length) * step;
    node.y += (y / length) * step;
    farthest = Math.max(farthest, step);
  }
  return farthest;
}

/** Nodes nearer than this many places along a strand do not push each other: that is what bends are for. */
const KIN = 2;

/** Nodes that lie near each node along a strand. */
function kinOf(net: Net): (Set<number> | undefined)[] {
  const kin: (Set<number> | undefined)[] = [];
  for (const line of net.lines)
    line.nodes.forEach((v, i) => {
      const own = (kin[v] ??= new Set());
      for (let k = -KIN; k <= KIN; k += 1) {
        const w = neighbour(line, i + k);
        if (w !== undefined) own.add(w);
      }
    });
  return kin;
}

/** For each node the crossings within two places of it along its strand. */
function crossingsNear(net: Net): (number[] | undefined)[] {
  const near: (number[] | undefined)[] = [];
  for (const line of net.lines)
    line.nodes.forEach((c, i) => {
      if (!net.crossings.has(c)) return;
      for (const k of [-2, -1, 0, 1, 2]) {
        const v = neighbour(line, i + k);
        if (v !== undefined) (near[v] ??= []).push(c);
      }
    });
  return near;
}

/**
 * Segments, by the place they begin at, that keep their length: leads, which are the standing part and the tail, and small loops that
 * a strand makes over itself, which would otherwise be drawn shut.
 */
function firmSegments({ crossings }: Net, { nodes, closed }: Line): boolean[] {
  const places = nodes.flatMap((id, i) => (crossings.has(id) ? [i] : []));
  const [first, last] = closed ? [-1, Infinity] : [places[0] ?? Infinity, places.at(-1) ?? -1];
  const firm = nodes.map((_, i) => i < first || i >= last);
  places.slice(1).forEach((to, k) => {
    const from = places[k] as number;
    if (nodes[from] === nodes[to]) firm.fill(true, from, to);
  });
  return firm;
}

/** What a strand does to itself: even segments, straight runs, round bends. */
function shape(net: Net, line: Line, push: (i: number, x: number, y: number) => void, tight: number): void {
  const { nodes } = net;
  const at = (i: number): Node | undefined => {
    const k = neighbour(line, i);
    return k === undefined ? undefined : nodes[k];
  };
  const firm = firmSegments(net, line);
  const rest = REST * (1 - tight * DRAWN_IN);
  const spring = SPRING * (1 + tight);
  line.nodes.forEach((id, i) => {
    const slack = firm[i] === true ? SPRING : SPRING_BACK;
    const [before, here, next] = [at(i - 1), nodes[id] as Node, at(i + 1)];
    if (next) {
      const [dx, dy] = [next.x - here.x, next.y - here.y];
      const length = Math.hypot(dx, dy);
      if (length > 1e-9) {
        const force = ((length > rest ? spring : slack) * (length - rest)) / length;
        push(id, dx * force, dy * force);
        push(neighbour(line, i + 1) as number, -dx * force, -dy * force);
      }
    }
    if (!before || !next) return;
    // Toward the middle of its neighbours: straight runs. The neighbours give way by half as much, so that nothing drifts.
    const [mx, my] = [(before.x + next.x) / 2 - here.x, (before.y + next.y) / 2 - here.y];
    push(id, mx * STRAIGHTEN, my * STRAIGHTEN);
    for (const k of [-1, 1]) push(neighbour(line, i + k) as number, (-mx * STRAIGHTEN) / 2, (-my * STRAIGHTEN) / 2);
    const [far, beyond] = [at(i - 2), at(i + 2)];
    if (!far || !beyond) return;
    // Fourth difference: bends spread their turning evenly and grow round.
    const [bx, by] = [
      (4 * (before.x + next.x) - far.x - beyond.x) / 6 - here.x,
      (4 * (before.y + next.y) - far.y - beyond.y) / 6 - here.y,
    ];
    push(id, bx * ROUND, by * ROUND);
  });
}

/** Puts nodes into long segments and takes them out of short ones; a node is taken out only where nothing lies in the way. */
export function remeshed(
  net: Net,
  { longest, shortest }: { readonly longest: number; readonly shortest: number },
): void {
  const { nodes, crossings } = net;
  for (const line of net.lines) {
    if (line.bare === true) continue;
    const out: number[] = [];
    line.nodes.forEach((id, i) => {
      out.push(id);
      const next = neighbour(line, i + 1);
      if (next === undefined || (!line.closed && i + 1 >= line.nodes.length)) return;
      const [p, q] = [nodes[id] as Node, nodes[next] as Node];
      if (Math.hypot(q.x - p.x, q.y - p.y) > longest)
        out.push(nodes.push({ x: (p.x + q.x) / 2, y: (p.y + q.y) / 2, hold: 'free' }) - 1);
    });
    line.nodes = out;
    for (let i = 1; i < line.nodes.length - 1; i += 1) {
      if (inSmallLoop(net, line, i)) continue;
      const [a, v, b] = [line.nodes[i - 1] as number, line.nodes[i] as number, line.nodes[i + 1] as number];
      if (crossings.has(v) || (nodes[v] as Node).hold !== 'free') continue;
      const [p, m, q] = [nodes[a] as Node, nodes[v] as Node, nodes[b] as Node];
      const short = Math.hypot(m.x - p.x, m.y - p.y) < shortest || Math.hypot(q.x - m.x, q.y - m.y) < shortest;
      // Between two crossings, and before and after the outermost, a node stays: it gives the stretch its bend.
      if (!short || (crossings.has(a) && crossings.has(b)) || !emptyTriangle(net, a, v, b)) continue;
      line.nodes.splice(i, 1);
      i -= 1;
    }
  }
  dropUnused(net);
}

/** Fewest nodes of a loop that a strand makes over itself: it stays round. */
const LOOP_NODES = 7;

function inSmallLoop({ crossings }: Net, { nodes }: Line, i: number): boolean {
  let [from, to] = [i, i];
  while (from > 0 && !crossings.has(nodes[from] as number)) from -= 1;
  while (to < nodes.length - 1 && !crossings.has(nodes[to] as number)) to += 1;
  return nodes[from] === nodes[to] && to - from - 1 <= LOOP_NODES;
}

function emptyTriangle(net: Net, a: number, v: number, b: number): boolean {
  const [p, m, q] = [net.nodes[a] as Node, net.nodes[v] as Node, net.nodes[b] as Node];
  const side = (u: Node, w: Node, x: Node): number => (w.x - u.x) * (x.y - u.y) - (w.y - u.y) * (x.x - u.x);
  for (let i = 0; i < net.nodes.length; i += 1) {
    if (i === a || i === v || i === b) continue;
    const x = net.nodes[i] as Node;
    const [s, t, w] = [side(p, m, x), side(m, q, x), side(q, p, x)];
    if ((s >= 0 && t >= 0 && w >= 0) || (s <= 0 && t <= 0 && w <= 0)) return false;
  }
  return true;
}

/** Renumbers the nodes so that none is left that no strand uses. Crossings keep their numbers: they come first. */
function dropUnused(net: Net): void {
  const used = new Set(net.lines.flatMap((l) => l.nodes));
  for (const c of net.crossings) used.add(c);
  if (used.size === net.nodes.length) return;
  const order = [...used].sort((a, b) => a - b);
  const place = new Map(order.map((old, i) => [old, i]));
  const kept = order.map((i) => net.nodes[i] as Node);
  net.nodes.splice(0, net.nodes.length, ...kept);
  for (const line of net.lines) line.nodes = line.nodes.map((i) => place.get(i) as number);
}

/** How often nodes are put in and taken out, in rounds. */
const REMESH_EVERY = 6;
/** Below this farthest move, in diameters, nothing more is to be seen. */
const SETTLED = 0.006;

/** Relaxes a net in place, yielding the share done after each round. */
export function* relaxed(net: Net, options: RelaxOptions = {}): Generator<number, void> {
  const rounds = options.rounds ?? ROUNDS;
  const spacing = options.spacing ?? TIDY_SPACING;
  const tight = options.tight ?? 0;
  let ties = tiesOf(net);
  for (let r = 0; r < rounds; r += 1) {
    if (r % REMESH_EVERY === 0) {
      remeshed(net, { longest: LONGEST, shortest: SHORTEST });
      ties = tiesOf(net);
    }
    const share = r / rounds;
    const farthest = round(net, ties, spacing, FASTEST + (SLOWEST - FASTEST) * share, tight);
    yield (r + 1) / rounds;
    if (farthest < SETTLED && r > 20) return;
  }
}
