/**
 * The Kauffman bracket of a tangle diagram by the frontier method: crossings are scanned one by one, and what has been scanned
 * is kept as a sum over planar pairings of the loose ends, with a Laurent polynomial each. Cost grows with the width of the
 * frontier, not with 2^crossings.
 *
 * Source: L. H. Kauffman, "State models and the Jones polynomial", Topology 26 (1987); the scanning order is the usual
 * divide-along-a-line method for tangle invariants.
 */
import { loops, ONE, plus, shifted, times, TooWide, ZERO, type Laurent } from './laurent.js';

/**
 * The four edges at a crossing, counterclockwise as seen on the screen, beginning at an end of the under strand.
 * An edge's name occurs twice among all crossings, or once when its other end is at the rim.
 */
export type CrossingEdges = readonly [number, number, number, number];

export interface BracketTerm {
  /** How the rim edges are joined, by edge name; each pair ascending, pairs ascending. */
  readonly pairs: readonly (readonly [number, number])[];
  readonly poly: Laurent;
}

/** Most coefficients touched in one scan: two or three seconds of work on a laptop. */
const EFFORT_LIMIT = 12_000_000;

/** An order of the crossings that keeps few ends loose: always the crossing that closes most and opens least. */
function scanOrder(crossings: readonly CrossingEdges[], rim: ReadonlySet<number>): number[] {
  const open = new Set<number>();
  const left = new Set(crossings.keys());
  const order: number[] = [];
  while (left.size > 0) {
    let best = -1;
    let bestScore = -Infinity;
    for (const i of left) {
      const edges = crossings[i] as CrossingEdges;
      const closes = edges.filter((e, k) => open.has(e) || edges.indexOf(e) !== k).length;
      const neverCloses = edges.filter((e) => rim.has(e)).length;
      const score = closes * 8 - neverCloses;
      if (score > bestScore) [best, bestScore] = [i, score];
    }
    left.delete(best);
    order.push(best);
    for (const e of crossings[best] as CrossingEdges) {
      if (open.has(e)) open.delete(e);
      else open.add(e);
    }
  }
  return order;
}

/** A-smoothing joins edges 0–1 and 2–3 (the regions swept when the over strand turns counterclockwise to the under one). */
const SMOOTHINGS = [
  { joins: [0, 1, 2, 3], shift: 1 },
  { joins: [1, 2, 3, 0], shift: -1 },
] as const;

/**
 * The bracket with open rim edges, and `freeLoops` closed curves that cross nothing. Every closed curve counts −A² − A⁻².
 * `direct` are rim edges without a crossing, given as pairs of names.
 */
export function bracket(
  crossings: readonly CrossingEdges[],
  rimEdges: readonly number[],
  freeLoops = 0,
  direct: readonly (readonly [number, number])[] = [],
): BracketTerm[] {
  const rim = new Set(rimEdges);
  let loose: number[] = [];
  let states = new Map<string, { mates: number[]; poly: Laurent }>([['', { mates: [], poly: ONE }]]);
  const powers = [0, 1, 2, 3, 4].map(loops);
  let effort = 0;
  for (const index of scanOrder(crossings, rim)) {
    const edges = crossings[index] as CrossingEdges;
    const position = new Map(loose.map((e, i) => [e, i]));
    const count = loose.length;
    // Nodes: 0 … count−1 the loose ends; count … count+3 the crossing's slots; count+4 … the far ends of edges first met here.
    const slotPartner = edges.map((e, k) => {
      const twin = edges.findIndex((x, j) => x === e && j !== k);
      if (twin >= 0) return { kind: 'slot', node: count + twin } as const;
      const at = position.get(e);
      return at === undefined
        ? ({ kind: 'fresh', node: count + 4 + k } as const)
        : ({ kind: 'loose', node: at } as const);
    });
    const consumed = new Set(slotPartner.filter((p) => p.kind === 'loose').map((p) => p.node));
    const stay = [...loose.keys()].filter((i) => !consumed.has(i));
    const fresh = slotPartner.filter((p) => p.kind === 'fresh').map((p) => p.node);
    const nodes = [...stay, ...fresh];
    const renumber = new Map(nodes.map((node, i) => [node, i]));
    const nextLoose = nodes.map((node) => (node < count ? loose[node] : edges[node - count - 4]) as number);
    const next = new Map<string, { mates: number[]; poly: Laurent }>();
    const mate = new Array<number>(count + 8).fill(-1);
    for (const state of states.values()) {
      for (const { joins, shift } of SMOOTHINGS) {
        for (let i = 0; i < count; i += 1) mate[i] = state.mates[i] as number;
        slotPartner.forEach((p, k) => {
          const slot = count + k;
          if (p.kind === 'loose') {
            const far = mate[p.node] as number;
            mate[slot] = far;
            mate[far] = slot;
          } else {
            mate[slot] = p.node;
            if (p.kind === 'fresh') mate[p.node] = slot;
          }
        });
        let closed = 0;
        for (let k = 0; k < 4; k += 2) {
          const [i, j] = [count + (joins[k] as number), count + (joins[k + 1] as number)];
          if (mate[i] === j) closed += 1;
          else {
            const [a, b] = [mate[i] as number, mate[j] as number];
            mate[a] = b;
            mate[b] = a;
          }
        }
        const mates = nodes.map((node) => renumber.get(mate[node] as number) as number);
        effort += state.poly.coefficients.length;
        if (effort > EFFORT_LIMIT)
          throw new TooWide(
            `Its ${crossings.length} crossings are so interwoven that expanding them would take too long: ${next.size} pairings of ${nextLoose.length} strands are open at once.`,
          );
        const key = String.fromCharCode(...mates);
        const term = shifted(closed === 0 ? state.poly : times(state.poly, powers[closed] as Laurent), shift);
        const there = next.get(key);
        if (there) there.poly = plus(there.poly, term);
        else next.set(key, { mates, poly: term });
      }
    }
    loose = nextLoose;
    states = next;
  }
  const outside = loops(freeLoops);
  return [...states.values()]
    .map(({ mates, poly }) => ({
      pairs: sortedPairs([...direct, ...pairsOf(loose, mates)]),
      poly: times(poly, outside),
    }))
    .filter((t) => t.poly !== ZERO && t.poly.coefficients.length > 0);
}

const pairsOf = (loose: readonly number[], mates: readonly number[]): [number, number][] =>
  mates.flatMap((m, i): [number, number][] => (i < m ? [[loose[i] as number, loose[m] as number]] : []));

const sortedPairs = (pairs: readonly (readonly [number, number])[]): (readonly [number, number])[] =>
  pairs.map(([a, b]): readonly [number, number] => (a < b ? [a, b] : [b, a])).sort((p, q) => p[0] - q[0]);

/** The bracket of a closed diagram, with the unknot counted as 1. */
export function closedBracket(crossings: readonly CrossingEdges[], freeLoops = 0): Laurent {
  if (crossings.length === 0) return loops(Math.max(0, freeLoops - 1));
  // Cut one edge open where it first occurs: the strand that is left open is the one closed curve that is not counted.
  const [[cut, b, c, d], ...rest] = crossings as readonly [CrossingEdges, ...CrossingEdges[]];
  const far = -1;
  const opened: CrossingEdges[] = [[far, b, c, d], ...rest];
  return bracket(opened, [cut, far], freeLoops)[0]?.poly ?? ZERO;
}
