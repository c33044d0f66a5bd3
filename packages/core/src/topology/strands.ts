/**
 * Changes to a tangle that need no new drawing: crossings swapped, a strand taken out.
 */
import { DisjointSets } from '../ground/disjoint-sets.js';
import type { CrossingEdges } from './bracket.js';
import { joinedRim, type Tangle, type TangleCrossing } from './tangle.js';

/** The crossing with its strands exchanged. Edges still begin at an end of the under strand. */
const swapped = ({ edges: [a, b, c, d], sign, over, under }: TangleCrossing): TangleCrossing => ({
  edges: [b, c, d, a],
  sign: sign === 1 ? -1 : 1,
  over: under,
  under: over,
});

/** The tangle with some crossings (by index) swapped. Crossings 0 … n − 1 of a figure's tangle are the figure's 1 … n. */
export const flipTangle = (tangle: Tangle, which: readonly number[]): Tangle => ({
  ...tangle,
  crossings: tangle.crossings.map((c, i) => (which.includes(i) ? swapped(c) : c)),
});

/** The tangle with one strand taken out: what the others make without it. */
export function withoutStrand(tangle: Tangle, strand: number): Tangle {
  const joined = new DisjointSets<number>();
  const root = (edge: number): number => joined.root(edge);
  for (const { edges, over, under } of tangle.crossings) {
    if ((over === strand) === (under === strand)) continue;
    const [p, q] = over === strand ? [edges[0], edges[2]] : [edges[1], edges[3]];
    joined.join(p, q);
  }
  const crossings = tangle.crossings
    .filter((c) => c.over !== strand && c.under !== strand)
    .map((c) => ({ ...c, edges: c.edges.map(root) as unknown as CrossingEdges }));
  const rim = tangle.rim.filter((p) => p.strand !== strand).map((p) => ({ ...p, edge: root(p.edge) }));
  const left = new Set([...crossings.flatMap((c) => [c.over, c.under]), ...rim.map((p) => p.strand), strand]);
  const loosened = new Set(tangle.crossings.flatMap((c) => [c.over, c.under]).filter((s) => !left.has(s)));
  return { ...tangle, crossings, rim, direct: joinedRim(rim), freeLoops: tangle.freeLoops + loosened.size };
}

/** Strands that run round without an end. */
export function closedStrands(tangle: Tangle): number[] {
  const open = new Set(tangle.rim.map((p) => p.strand));
  return [...new Set(tangle.crossings.flatMap((c) => [c.over, c.under]))]
    .filter((s) => !open.has(s))
    .sort((a, b) => a - b);
}

/** Linking number of two strands: half the sum of the signs of their crossings. */
export const linkingNumber = (tangle: Tangle, a: number, b: number): number =>
  tangle.crossings.reduce(
    (sum, c) => ((c.over === a && c.under === b) || (c.over === b && c.under === a) ? sum + c.sign / 2 : sum),
    0,
  );
