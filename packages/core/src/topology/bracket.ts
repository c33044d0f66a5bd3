/**
 * The Kauffman bracket of a tangle diagram by the frontier method: crossings are scanned one by one, and what has been scanned
 * is kept as a sum over planar pairings of the loose ends, with a Laurent polynomial each. Cost grows with the width of the
 * frontier, not with 2^crossings.
 *
 * The scan is planned first (which pairing becomes which, with how many closed curves) and then run on coefficients: additions
 * alone, in typed arrays. Where they could leave the exact whole numbers of a double it is run again modulo a few primes, and the
 * coefficients are put together from their residues. Exponents of one pairing agree modulo four, so every fourth is kept.
 *
 * Source: L. H. Kauffman, "State models and the Jones polynomial", Topology 26 (1987); the scanning order is the usual
 * divide-along-a-line method for tangle invariants. Exponents: another smoothing at a crossing changes A's power by two and, with
 * the ends joined up outside, the number of closed curves by one, each of which has powers two apart from four.
 */
import { loops, ONE, times, TooWide, trimmed, ZERO, type Laurent } from './laurent.js';
import { moduli, moduliFor, Remainders } from './residues.js';

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

/**
 * Most effort that a whole scan may take, counted in coefficients that are added, by every modulus: about a second. A server that looks
 * at a drawing answers nobody else meanwhile. 400 crossings of a braid of five strands take two thirds of it.
 */
const EFFORT_LIMIT = 110_000_000;
/** What planning one pairing costs beside adding one coefficient. */
const PAIRING_EFFORT = 300;

/** Sums below this are exact in a double. */
const EXACT = 2 ** 53;

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
      let score = 0;
      for (let k = 0; k < 4; k += 1) {
        const e = edges[k] as number;
        if (open.has(e) || edges.indexOf(e) !== k) score += 8;
        if (rim.has(e)) score -= 1;
      }
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

/** The pairings after one crossing: where the coefficients of each lie, and between which powers of A. */
interface Layer {
  /** Index of the first coefficient of each pairing; one more for the end of the last. */
  readonly at: Int32Array;
  /** Power of A of each pairing's first coefficient; the next ones are four apart. */
  readonly low: Int32Array;
}

/** One crossing's smoothings: pairing `from` of the layer before becomes pairing `to`, times A^shift, with so many closed curves. */
interface ScanStep {
  readonly moves: readonly {
    readonly from: number;
    readonly to: number;
    readonly shift: number;
    readonly closed: number;
  }[];
  readonly layer: Layer;
  /** Most that a coefficient of the layer can grow by: the sum of what flows into one pairing. */
  readonly gain: number;
}

interface Plan {
  readonly steps: readonly ScanStep[];
  /** Each pairing at the end, as partners among the loose ends. */
  readonly mates: readonly (readonly number[])[];
  readonly loose: readonly number[];
  /** No coefficient at the end has more bits than this. */
  readonly bits: number;
}

const START: Layer = { at: Int32Array.of(0, 1), low: Int32Array.of(0) };

/** What the scan does to pairings, and how much room their coefficients need. Throws `TooWide`. */
function planOf(crossings: readonly CrossingEdges[], rim: ReadonlySet<number>): Plan {
  let loose: number[] = [];
  let mates: number[][] = [[]];
  let layer = START;
  let sizes = [0];
  const steps: ScanStep[] = [];
  let effort = 0;
  let pairings = 0;
  for (const index of scanOrder(crossings, rim)) {
    const edges = crossings[index] as CrossingEdges;
    const position = new Map(loose.map((e, i) => [e, i]));
    const count = loose.length;
    // Nodes: 0 … count−1 the loose ends; count … count+3 the crossing's slots; count+4 … the far ends of edges first met here.
    // Of each slot: where its edge leads, and whether that is a loose end (whose own partner is then the slot's).
    const leads = edges.map((e, k) => {
      const twin = edges.findIndex((x, j) => x === e && j !== k);
      return twin >= 0 ? count + twin : (position.get(e) ?? count + 4 + k);
    });
    const consumed = new Set(leads);
    const nodes = [...[...loose.keys()].filter((i) => !consumed.has(i)), ...leads.filter((n) => n >= count + 4)];
    const renumber = new Int32Array(count + 8);
    nodes.forEach((node, i) => (renumber[node] = i));
    const mate = new Int32Array(count + 8);
    const indexOf = new Map<string, number>();
    const next: { mates: number[]; low: number; high: number; inflow: number; size: number }[] = [];
    const moves: { from: number; to: number; shift: number; closed: number }[] = [];
    for (const [from, state] of mates.entries()) {
      const low = layer.low[from] as number;
      const length = (layer.at[from + 1] as number) - (layer.at[from] as number);
      for (const { joins, shift } of SMOOTHINGS) {
        mate.set(state);
        for (let k = 0; k < 4; k += 1) {
          const [slot, node] = [count + k, leads[k] as number];
          const far = node < count ? (mate[node] as number) : node;
          mate[slot] = far;
          if (node < count || node >= count + 4) mate[far] = slot;
        }
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
        let key = '';
        for (const node of nodes) key += String.fromCharCode(renumber[mate[node] as number] as number);
        let to = indexOf.get(key);
        if (to === undefined) {
          const after = nodes.map((node) => renumber[mate[node] as number] as number);
          to = next.push({ mates: after, low: Infinity, high: -Infinity, inflow: 0, size: -Infinity }) - 1;
          indexOf.set(key, to);
        }
        moves.push({ from, to, shift, closed });
        const target = next[to] as (typeof next)[number];
        target.low = Math.min(target.low, low + shift - 2 * closed);
        target.high = Math.max(target.high, low + 4 * (length - 1) + shift + 2 * closed);
        target.inflow += 2 ** closed;
        target.size = addBits(target.size, (sizes[from] as number) + closed);
        effort += length << closed;
      }
    }
    pairings += next.length;
    const passes = moduliFor(largest(next, (s) => s.size));
    if (effort * passes + pairings * PAIRING_EFFORT > EFFORT_LIMIT)
      throw new TooWide(
        `Its ${crossings.length} crossings are so interwoven that expanding them would take too long: ${next.length} pairings of ${nodes.length} strands are open at once.`,
      );
    const at = new Int32Array(next.length + 1);
    next.forEach((s, i) => (at[i + 1] = (at[i] as number) + (s.high - s.low) / 4 + 1));
    layer = { at, low: Int32Array.from(next, (s) => s.low) };
    steps.push({ moves, layer, gain: largest(next, (s) => s.inflow) });
    loose = nodes.map((node) => (node < count ? loose[node] : edges[node - count - 4]) as number);
    mates = next.map((s) => s.mates);
    sizes = next.map((s) => s.size);
  }
  return { steps, mates, loose, bits: largest(sizes, (bits) => bits) };
}

/** The largest of what things have; there may be more of them than a call takes arguments. */
const largest = <T>(things: readonly T[], of: (thing: T) => number): number =>
  things.reduce((most, thing) => Math.max(most, of(thing)), -Infinity);

/** log₂(2^a + 2^b). */
const addBits = (a: number, b: number): number => Math.max(a, b) + Math.log2(1 + 2 ** -Math.abs(a - b));

/** Adds the coefficients of one pairing to those of another, each `by` times, from index `into` on. */
function flow(source: Float64Array, from: number, end: number, target: Float64Array, into: number, by: number): void {
  for (let i = from, j = into; i < end; i += 1, j += 1) target[j] = (target[j] as number) + by * (source[i] as number);
}

/** Takes multiples of the prime off, so that nothing is larger than it: exact while sums are below 2⁵³. */
function reduce(values: Float64Array, prime: number): void {
  for (let i = 0; i < values.length; i += 1) {
    const v = values[i] as number;
    if (v > prime || v < -prime) values[i] = v - prime * Math.trunc(v / prime);
  }
}

/**
 * Runs a plan on coefficients: modulo a prime, or, without one, as they are; then nothing is returned when a sum might not have
 * been exact. The result is that of the plan's last layer.
 */
function run({ steps }: Plan, prime?: number): Float64Array | undefined {
  let source: Float64Array = Float64Array.of(1);
  let layer = START;
  let most = 1;
  for (const { moves, layer: next, gain } of steps) {
    if (prime === undefined && most * gain >= EXACT) return undefined;
    const target = new Float64Array(next.at.at(-1) as number);
    for (const { from, to, shift, closed } of moves) {
      const [begin, end] = [layer.at[from] as number, layer.at[from + 1] as number];
      const power = (layer.low[from] as number) + shift - (next.low[to] as number);
      const into = next.at[to] as number;
      // A closed curve is −A² − A⁻²; two of them A⁴ + 2 + A⁻⁴.
      if (closed === 0) flow(source, begin, end, target, into + power / 4, 1);
      else if (closed === 1) {
        flow(source, begin, end, target, into + (power - 2) / 4, -1);
        flow(source, begin, end, target, into + (power + 2) / 4, -1);
      } else {
        flow(source, begin, end, target, into + (power - 4) / 4, 1);
        flow(source, begin, end, target, into + power / 4, 2);
        flow(source, begin, end, target, into + (power + 4) / 4, 1);
      }
    }
    if (prime === undefined) {
      most = 0;
      for (const c of target) if (Math.abs(c) > most) most = Math.abs(c);
    } else reduce(target, prime);
    source = target;
    layer = next;
  }
  return source;
}

/** The coefficients of a plan's last layer, exact at any size. */
function coefficientsOf(plan: Plan): readonly bigint[] {
  const plain = run(plan);
  if (plain) return Array.from(plain, BigInt);
  const primes = moduli(moduliFor(plan.bits));
  const together = new Remainders(plan.steps.at(-1)?.layer.at.at(-1) ?? 1);
  for (const p of primes) together.take(run(plan, p) as Float64Array, p);
  return together.numbers();
}

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
  const outside = loops(freeLoops);
  if (crossings.length === 0) return [{ pairs: sortedPairs(direct), poly: times(ONE, outside) }];
  const plan = planOf(crossings, new Set(rimEdges));
  const all = coefficientsOf(plan);
  const { at, low } = (plan.steps.at(-1) as ScanStep).layer;
  return plan.mates
    .map((mates, i) => ({
      pairs: sortedPairs([...direct, ...pairsOf(plan.loose, mates)]),
      poly: times(spread(low[i] as number, all.slice(at[i], at[i + 1])), outside),
    }))
    .filter((t) => t.poly.coefficients.length > 0);
}

/** A polynomial from coefficients at every fourth power. */
const spread = (low: number, fourth: readonly bigint[]): Laurent =>
  trimmed(
    low,
    fourth.flatMap((c) => [c, 0n]),
  );

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
