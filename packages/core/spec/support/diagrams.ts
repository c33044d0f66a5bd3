/**
 * Knot diagrams known from the tables, braid closures, and the bracket as the plain sum over all states.
 */
import * as laurent from '../../src/topology/laurent.js';
import { type CrossingEdges, type Laurent, type PdCode, type SkeinTerm } from '../../src/index.js';

/** PD codes of small knots and links in one of their two hands. */
export const TABLE = {
  trefoil: [
    [1, 4, 2, 5],
    [3, 6, 4, 1],
    [5, 2, 6, 3],
  ],
  figureEight: [
    [4, 2, 5, 1],
    [8, 6, 1, 5],
    [6, 3, 7, 4],
    [2, 7, 3, 8],
  ],
  fiveOne: [
    [1, 6, 2, 7],
    [3, 8, 4, 9],
    [5, 10, 6, 1],
    [7, 2, 8, 3],
    [9, 4, 10, 5],
  ],
  fiveTwo: [
    [1, 4, 2, 5],
    [3, 8, 4, 9],
    [5, 10, 6, 1],
    [9, 6, 10, 7],
    [7, 2, 8, 3],
  ],
  hopf: [
    [4, 1, 3, 2],
    [2, 3, 1, 4],
  ],
  whitehead: [
    [6, 1, 7, 2],
    [10, 7, 5, 8],
    [4, 5, 1, 6],
    [2, 10, 3, 9],
    [8, 4, 9, 3],
  ],
} satisfies Record<string, PdCode>;

/** A Jones polynomial from its terms in t, exponents as they are (halves allowed): as a polynomial in A with t = A⁻⁴. */
export const inT = (terms: readonly (readonly [exponent: number, coefficient: number])[]): Laurent =>
  laurent.fromTerms(Object.fromEntries(terms.map(([e, c]) => [String(-4 * e), c])));

/** The closure of a braid: generators ±1, ±2 … on `strands` strands. +i: the strand from the left goes over. */
export function braidClosure(strands: number, word: readonly number[]): PdCode {
  let next = strands + 1;
  const top = Array.from({ length: strands }, (_, i) => i + 1);
  const crossings: number[][] = [];
  for (const g of word) {
    const i = Math.abs(g) - 1;
    const [sw, se] = [top[i]!, top[i + 1]!];
    const [nw, ne] = [next, next + 1];
    next += 2;
    crossings.push(g > 0 ? [se, ne, nw, sw] : [sw, se, ne, nw]);
    top[i] = nw;
    top[i + 1] = ne;
  }
  const closed = new Map(top.map((e, i) => [e, i + 1]));
  return crossings.map((c) => c.map((e) => closed.get(e) ?? e) as unknown as CrossingEdges);
}

/** The bracket as the sum over all 2^n states, the unknot counted as 1. */
export function naiveBracket(code: PdCode): Laurent {
  const edges = [...new Set(code.flat())];
  let sum = laurent.ZERO;
  for (let state = 0; state < 2 ** code.length; state += 1) {
    const parent = new Map(edges.map((e) => [e, e]));
    const root = (e: number): number => (parent.get(e) === e ? e : root(parent.get(e)!));
    let weight = 0;
    code.forEach(([a, b, c, d], i) => {
      const isA = ((state >> i) & 1) === 0;
      weight += isA ? 1 : -1;
      const [p, q] = isA
        ? [
            [a, b],
            [c, d],
          ]
        : [
            [b, c],
            [d, a],
          ];
      parent.set(root(p[0]!), root(p[1]!));
      parent.set(root(q[0]!), root(q[1]!));
    });
    const loops = new Set(edges.map(root)).size;
    sum = laurent.plus(sum, laurent.shifted(laurent.loops(loops - 1), weight));
  }
  return sum;
}

/** A skein vector as text, whatever the order of its terms and pairs. */
export const sayTerms = (terms: readonly SkeinTerm[]): string =>
  terms
    .map(
      (t) =>
        `${t.pairs
          .map((p) => p.join('-'))
          .sort()
          .join(' ')}=${t.poly.low}:${t.poly.coefficients.join()}`,
    )
    .sort()
    .join('; ');
