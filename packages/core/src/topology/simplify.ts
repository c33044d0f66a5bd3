/**
 * Simplify: a tangle reduced by Reidemeister moves, with a log, and the code of what is left. Two tangles with equal codes are
 * the same tangle: every move keeps it, and the code says every crossing.
 *
 * R1 takes out a kink, R2 lifts one strand off another, R3 slides a strand past a crossing. R1 and R2 are done wherever they
 * can be; R3 is tried from state to state, within a bound, for the sake of the R1 and R2 it may free.
 */
import { onRing } from '../ground/ring.js';
import type { CrossingEdges } from './bracket.js';
import { joinedRim, type Tangle } from './tangle.js';

export interface ReidemeisterMove {
  readonly kind: 'R1' | 'R2' | 'R3';
  /** Indices of the tangle's crossings that take part. */
  readonly crossings: readonly number[];
}

/**
 * A diagram by its slots. Slot 4c + k is edge k of crossing c, counterclockwise; even slots belong to the under strand. Slots from
 * `rimBase` on are rim points. `twin` is the slot at the other end of the edge.
 */
export interface Diagram {
  readonly twin: Int32Array;
  readonly alive: Uint8Array;
  readonly rimBase: number;
  readonly rimSize: number;
  readonly freeLoops: number;
}

const next = (slot: number): number => (slot & ~3) | ((slot + 1) & 3);
const previous = (slot: number): number => (slot & ~3) | ((slot + 3) & 3);
const opposite = (slot: number): number => slot ^ 2;

/** States that the R3 search looks at before it stops. */
export const R3_LIMIT = 400;

export function diagramOf(tangle: Tangle): Diagram {
  const rimBase = 4 * tangle.crossings.length;
  const slots = new Map<number, number[]>();
  const put = (edge: number, slot: number): void => {
    const there = slots.get(edge);
    if (there) there.push(slot);
    else slots.set(edge, [slot]);
  };
  tangle.crossings.forEach((c, i) => c.edges.forEach((e, k) => put(e, 4 * i + k)));
  tangle.rim.forEach((p, i) => put(p.edge, rimBase + i));
  const twin = new Int32Array(rimBase + tangle.rim.length).fill(-1);
  for (const [a, b] of slots.values()) {
    if (a === undefined || b === undefined) throw new Error('an edge has one end');
    twin[a] = b;
    twin[b] = a;
  }
  return {
    twin,
    alive: new Uint8Array(tangle.crossings.length).fill(1),
    rimBase,
    rimSize: tangle.rim.length,
    freeLoops: tangle.freeLoops,
  };
}

const copy = (d: Diagram): Diagram => ({ ...d, twin: d.twin.slice(), alive: d.alive.slice() });

export const crossingCount = (d: Diagram): number => d.alive.reduce((sum, a) => sum + a, 0);

/** Takes crossings out of a copy; the strands go straight on through each. */
function removed(d: Diagram, crossings: readonly number[]): Diagram {
  const out = copy(d);
  let loops = 0;
  for (const c of crossings) {
    out.alive[c] = 0;
    for (const s of [4 * c, 4 * c + 1]) {
      const [a, b] = [out.twin[s] as number, out.twin[opposite(s)] as number];
      if (a === opposite(s)) loops += 1;
      else {
        out.twin[a] = b;
        out.twin[b] = a;
      }
    }
  }
  return { ...out, freeLoops: out.freeLoops + loops };
}

/** A kink: a crossing two neighbouring slots of which are one edge. */
function findR1(d: Diagram): ReidemeisterMove | undefined {
  for (let c = 0; c < d.alive.length; c += 1) {
    if (!d.alive[c]) continue;
    for (let k = 0; k < 4; k += 1) if (d.twin[4 * c + k] === next(4 * c + k)) return { kind: 'R1', crossings: [c] };
  }
  return undefined;
}

/** Two crossings with a face of two edges between them, one strand over at both. */
function findR2(d: Diagram): ReidemeisterMove | undefined {
  for (let c = 0; c < d.alive.length; c += 1) {
    if (!d.alive[c]) continue;
    for (let k = 0; k < 4; k += 1) {
      const s = 4 * c + k;
      const t = d.twin[s] as number;
      if (t >= d.rimBase || t >> 2 === c || (t & 1) !== (s & 1)) continue;
      if (d.twin[previous(t)] === next(s)) return { kind: 'R2', crossings: [c, t >> 2] };
    }
  }
  return undefined;
}

interface Triangle extends ReidemeisterMove {
  /** The slots on the triangle's edges: the first of each pair leaves one crossing, the second enters the next. */
  readonly edges: readonly (readonly [number, number])[];
}

/** Faces of three edges at three crossings where the strands lie in an order from top to bottom. */
function findR3(d: Diagram): Triangle[] {
  const out: Triangle[] = [];
  for (let c = 0; c < d.alive.length; c += 1) {
    if (!d.alive[c]) continue;
    for (let k = 0; k < 4; k += 1) {
      const edges: (readonly [number, number])[] = [];
      let s = 4 * c + k;
      for (let n = 0; n < 3; n += 1) {
        const t = d.twin[s] as number;
        if (t >= d.rimBase) break;
        edges.push([s, t]);
        s = previous(t);
      }
      if (edges.length < 3 || s !== 4 * c + k) continue;
      const corners = edges.map(([x]) => x >> 2);
      // Each triangle once, from its lowest crossing.
      if (new Set(corners).size < 3 || Math.min(...corners) !== c) continue;
      const hasTop = edges.some(([a, b]) => (a & 1) === 1 && (b & 1) === 1);
      if (hasTop) out.push({ kind: 'R3', crossings: corners, edges });
    }
  }
  return out;
}

/** The diagram after a strand of the triangle has slid over to the other side of the crossing of the other two. */
function slid(d: Diagram, { edges }: Triangle): Diagram {
  const out = copy(d);
  // A strand's outer slots before and after: what hung on the outside of one crossing now hangs on the inside of the other.
  const moved = new Map<number, number>();
  for (const [a, b] of edges) moved.set(opposite(a), b).set(opposite(b), a);
  const links = [...moved.keys()].map((p) => [p, d.twin[p] as number] as const);
  for (const [p, far] of links) {
    const [here, there] = [moved.get(p) as number, moved.get(far) ?? far];
    out.twin[here] = there;
    out.twin[there] = here;
  }
  for (const [a, b] of edges) {
    out.twin[opposite(a)] = opposite(b);
    out.twin[opposite(b)] = opposite(a);
  }
  return out;
}

function reduced(d: Diagram, log: ReidemeisterMove[]): Diagram {
  for (let now = d; ;) {
    const move = findR1(now) ?? findR2(now);
    if (!move) return now;
    log.push(move);
    now = removed(now, move.crossings);
  }
}

/** Where a slot leads: to a rim point by its place, or to a crossing by its number and slot, counted from its door. */
type Step = { readonly rim: number } | { readonly crossing: number; readonly slot: number };

/** One thing met on a walk: a rim point and what it is joined to, or a crossing and where its four slots lead. */
type Met =
  | { readonly to: Step }
  | {
      readonly crossing: number;
      /** Whether the strand by which the walk first came to it is over. */
      readonly doorOver: boolean;
      readonly to: readonly Step[];
    };

/** A diagram walked from a rim point, one way round. */
interface Walk {
  readonly met: readonly Met[];
  /** The codes of parts that hang on no rim point, in order. */
  readonly loose: readonly string[];
  readonly freeLoops: number;
}

const sayStep = (to: Step): string => ('rim' in to ? `r${to.rim}` : `${to.crossing}.${to.slot}`);
const sayDoor = (over: boolean): string => (over ? 'o' : 'u');

/** A walk as text: equal for two diagrams exactly when their walks are. `over` says how a crossing's door is told. */
const sayWalk = ({ met, loose, freeLoops }: Walk, over: (doorOver: boolean) => string): string =>
  [
    ...met.map((m) => ('crossing' in m ? over(m.doorOver) + m.to.map(sayStep).join(',') : `r${sayStep(m.to)}`)),
    ...loose.map((p) => `[${p}]`),
    `+${freeLoops}`,
  ].join(' ');

/**
 * Walks a diagram from a rim point, one way round: crossings are numbered as they are first met, following the strands breadth first,
 * and their slots counted from their door, the slot at which they were met. A diagram in parts goes on at the next rim point not yet
 * met; closed parts that hang on no rim point have codes of their own.
 */
function walkOf(d: Diagram, start: number, way: 1 | -1): Walk {
  const number = new Map<number, number>();
  const door = new Map<number, number>();
  const queue: number[] = [];
  const step = (slot: number): Step => {
    if (slot >= d.rimBase) return { rim: onRing((slot - d.rimBase - start) * way, d.rimSize) };
    const c = slot >> 2;
    if (!number.has(c)) {
      number.set(c, number.size);
      door.set(c, slot);
      queue.push(c);
    }
    return { crossing: number.get(c) as number, slot: ((slot - (door.get(c) as number)) * way) & 3 };
  };
  const met: Met[] = [];
  for (let i = 0; i < d.rimSize; i += 1) {
    met.push({ to: step(d.twin[d.rimBase + onRing(start + way * i, d.rimSize)] as number) });
    for (let c = queue.shift(); c !== undefined; c = queue.shift()) {
      const first = door.get(c) as number;
      const slots = [0, 1, 2, 3].map((k) => (first & ~3) | ((first + way * k) & 3));
      // Which strand is over is told once a crossing, by its door's parity.
      met.push({ crossing: c, doorOver: (first & 1) === 1, to: slots.map((s) => step(d.twin[s] as number)) });
    }
  }
  const loose: string[] = [];
  for (let c = 0; c < d.alive.length; c += 1) {
    if (!d.alive[c] || number.has(c)) continue;
    // A part without a rim point: the least code over all places to begin.
    const members = partOf(d, c);
    loose.push(members.flatMap((m) => [0, 1, 2, 3].map((k) => closedCode(d, 4 * m + k, way))).sort()[0] as string);
    for (const m of members) number.set(m, -1);
  }
  return { met, loose: loose.sort(), freeLoops: d.freeLoops };
}

/** The code of a diagram read from a rim point, one way round: every drawing of the same lines and weave has it. */
export const codeOf = (d: Diagram, start: number, way: 1 | -1): string => sayWalk(walkOf(d, start, way), sayDoor);

/** The code of the diagram as it is seen from behind, over and under exchanged; parts that hang on no rim point stay as they are. */
export const codeBehind = (d: Diagram, start: number): string =>
  sayWalk(walkOf(d, start, -1), (over) => sayDoor(!over));

export interface ShadowWalk {
  /** The diagram without over and under, as text. */
  readonly code: string;
  /** Crossings in the order in which the walk meets them. */
  readonly order: readonly number[];
  /** For each, whether the strand by which the walk first comes to it is over. */
  readonly doorOver: readonly boolean[];
}

/**
 * The diagram walked as by `codeOf`, over and under left out of the code: two drawings with equal codes have the same lines, and their
 * crossings correspond in the order of the walk.
 */
export function shadowOf(d: Diagram, start: number, way: 1 | -1): ShadowWalk {
  const walk = walkOf(d, start, way);
  const crossings = walk.met.flatMap((m) => ('crossing' in m ? [m] : []));
  return {
    code: sayWalk(walk, () => ''),
    order: crossings.map((m) => m.crossing),
    doorOver: crossings.map((m) => m.doorOver),
  };
}

function partOf(d: Diagram, crossing: number): number[] {
  const seen = new Set([crossing]);
  for (const c of seen) for (let k = 0; k < 4; k += 1) seen.add((d.twin[4 * c + k] as number) >> 2);
  return [...seen];
}

function closedCode(d: Diagram, from: number, way: 1 | -1): string {
  const door = new Map([[from >> 2, from]]);
  const order = new Map([[from >> 2, 0]]);
  const out: string[] = [];
  for (const [c, first] of door) {
    const slots = [0, 1, 2, 3].map((k) => (first & ~3) | ((first + way * k) & 3));
    const say = (slot: number): string => {
      const o = slot >> 2;
      if (!door.has(o)) {
        door.set(o, slot);
        order.set(o, order.size);
      }
      return `${order.get(o)}.${((slot - (door.get(o) as number)) * way) & 3}`;
    };
    out.push(
      `${c === from >> 2 ? 'c' : ''}${first & 1 ? 'o' : 'u'}${slots.map((s) => say(d.twin[s] as number)).join(',')}`,
    );
  }
  return out.join(' ');
}

export interface Simplified {
  /** Every diagram of the least crossings that the search met: R3 leads from each to each. */
  readonly forms: readonly Diagram[];
  readonly crossings: number;
  readonly log: readonly ReidemeisterMove[];
  /** False when the R3 search was stopped by its bound. */
  readonly exhausted: boolean;
}

/** Reduces a tangle as far as R1, R2 and a bounded search over R3 can. */
export function simplify(tangle: Tangle, limit = R3_LIMIT): Simplified {
  return simplifyDiagram(diagramOf(tangle), limit);
}

function simplifyDiagram(given: Diagram, limit: number): Simplified {
  const log: ReidemeisterMove[] = [];
  let best = reduced(given, log);
  let looked = 0;
  for (;;) {
    // All diagrams that R3 alone can reach from here, until one of them lets a crossing go.
    const seen = new Map([[codeOf(best, 0, 1), best]]);
    const queue: { d: Diagram; way: readonly ReidemeisterMove[] }[] = [{ d: best, way: [] }];
    let better: { d: Diagram; way: ReidemeisterMove[] } | undefined;
    for (let at = queue.shift(); at && !better && looked < limit; at = queue.shift()) {
      for (const triangle of findR3(at.d)) {
        looked += 1;
        const after = slid(at.d, triangle);
        const way: ReidemeisterMove[] = [...at.way, { kind: 'R3', crossings: triangle.crossings }];
        const less = reduced(after, way);
        if (crossingCount(less) < crossingCount(best)) {
          better = { d: less, way };
          break;
        }
        const code = codeOf(after, 0, 1);
        if (seen.has(code)) continue;
        seen.set(code, after);
        queue.push({ d: after, way });
      }
    }
    if (!better) return { forms: [...seen.values()], crossings: crossingCount(best), log, exhausted: looked < limit };
    log.push(...better.way);
    best = better.d;
  }
}

/** A tangle with its kinks and idle overlays taken out (R1 and R2): the same tangle, quicker to expand. */
export function slimmed(tangle: Tangle): Tangle {
  const log: ReidemeisterMove[] = [];
  const d = reduced(diagramOf(tangle), log);
  if (log.length === 0) return tangle;
  const edge = (slot: number): number => Math.min(slot, d.twin[slot] as number);
  const rim = tangle.rim.map((p, i) => ({ ...p, edge: edge(d.rimBase + i) }));
  return {
    ...tangle,
    crossings: tangle.crossings.flatMap((c, i) =>
      d.alive[i] ? [{ ...c, edges: [0, 1, 2, 3].map((k) => edge(4 * i + k)) as unknown as CrossingEdges }] : [],
    ),
    rim,
    direct: joinedRim(rim),
    freeLoops: d.freeLoops,
  };
}

/**
 * The moves that take needless crossings out of a tangle as it lies: R1 and R2 only, each with the crossings it removes.
 */
export function needless(tangle: Tangle): readonly ReidemeisterMove[] {
  const log: ReidemeisterMove[] = [];
  reduced(diagramOf(tangle), log);
  return log;
}
