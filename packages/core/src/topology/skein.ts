/**
 * The skein vector of a tangle, and the Jones polynomial of its closure.
 *
 * The vector has one Laurent polynomial in A for every planar matching of the rim points. Framing is removed from each strand by
 * (−A³) to the minus self-writhe. Jones: V(t) with t = A⁻⁴ is (−A³)^(−w) times the bracket, the unknot counted as 1.
 */
import { DisjointSets } from '../ground/disjoint-sets.js';
import { remembered } from '../ground/remembered.js';
import type { Figure } from '../figure/figure.js';
import { bracket, type BracketTerm } from './bracket.js';
import { loops, plus, shifted, terms, times, ZERO, type Laurent, type Written } from './laurent.js';
import { readMap } from './planar-map.js';
import { labelOf, type RimEnd } from './rim-end.js';
import { tangleOf, type Tangle } from './tangle.js';

export interface VectorTerm {
  /** Labels of joined rim points, each pair and the list in alphabetical order. */
  readonly pairs: readonly (readonly [string, string])[];
  readonly poly: Laurent;
}

/** Framing factor (−A³)^(−writhe). */
export const unframed = (p: Laurent, writhe: number): Laurent => shifted(p, -3 * writhe, writhe % 2 === 0 ? 1 : -1);

const rawBracket = (tangle: Tangle): BracketTerm[] => {
  const directEdges = new Set(tangle.direct.map(([e]) => e));
  return bracket(
    tangle.crossings.map((c) => c.edges),
    tangle.rim.map((p) => p.edge).filter((e) => !directEdges.has(e)),
    tangle.freeLoops,
    tangle.direct,
  );
};

/** One term of a skein vector by rim indices, each pair ascending. */
export interface SkeinTerm {
  readonly pairs: readonly (readonly [number, number])[];
  readonly poly: Laurent;
}

/** Rim points by their edge; the two ends of a strand that crosses nothing share one. */
function rimPairs(tangle: Tangle, pairs: BracketTerm['pairs']): (readonly [number, number])[] {
  const at = new Map<number, number[]>();
  tangle.rim.forEach((p, i) => at.set(p.edge, [...(at.get(p.edge) ?? []), i]));
  return pairs.map(([a, b]) => {
    const [p, q] = a === b ? (at.get(a) as number[]) : [at.get(a)?.[0], at.get(b)?.[0]];
    return [Math.min(p as number, q as number), Math.max(p as number, q as number)] as const;
  });
}

const selfWrithe = (tangle: Tangle): number =>
  tangle.crossings.reduce((sum, c) => (c.over === c.under ? sum + c.sign : sum), 0);

/** The skein vector by rim indices, in no order. */
export function skeinTerms(tangle: Tangle): SkeinTerm[] {
  const writhe = selfWrithe(tangle);
  return rawBracket(tangle).map((t) => ({ pairs: rimPairs(tangle, t.pairs), poly: unframed(t.poly, writhe) }));
}

const labelPairs = (tangle: Tangle, pairs: BracketTerm['pairs']): (readonly [string, string])[] =>
  rimPairs(tangle, pairs)
    .map((pair) => pair.map((i) => tangle.rim[i]!.label).sort() as [string, string])
    .sort((p, q) => (p[0] < q[0] ? -1 : 1));

/** The skein vector, terms in alphabetical order of their pairs. */
export function skeinVector(tangle: Tangle): VectorTerm[] {
  const writhe = selfWrithe(tangle);
  return rawBracket(tangle)
    .map((t) => ({ pairs: labelPairs(tangle, t.pairs), poly: unframed(t.poly, writhe) }))
    .sort((p, q) => (JSON.stringify(p.pairs) < JSON.stringify(q.pairs) ? -1 : 1));
}

/** How rim points are joined outside the disc to make closed curves. */
export type Closure = readonly (readonly [string, string])[];

/**
 * The closure a person would choose: one rope, its tail to its standing end; two ropes, standing to standing and tail to tail;
 * hosts, end to end. `undefined` when there is no rule for these ends.
 */
export function naturalClosure(tangle: Tangle): Closure | undefined {
  const ends = tangle.rim.map((p) => p.end);
  if (ends.some((e) => e.at === 'eye')) return undefined;
  const join = (a: RimEnd, b: RimEnd): [string, string] => [labelOf(a), labelOf(b)];
  const hosts = ends.flatMap((e) => (e.at === 'left' ? [join(e, { ...e, at: 'right' })] : []));
  const standing = ends.filter((e) => e.at === 'standing');
  const far = ({ strand }: RimEnd): RimEnd =>
    ends.find((e) => e.strand === strand && e.at === 'tail') ?? { strand, at: 'far' };
  const [one, two] = standing;
  if (one && two && standing.length === 2) return [join(one, two), join(far(one), far(two)), ...hosts];
  return [...standing.map((e) => join(e, far(e))), ...hosts];
}

/** True when the joins can be laid outside the disc without crossing. */
export function closesFlat(tangle: Tangle, closure: Closure): boolean {
  const place = new Map(tangle.rim.map((p, i) => [p.label, i]));
  const spans = closure.map(
    ([a, b]) => [place.get(a) as number, place.get(b) as number].sort((p, q) => p - q) as [number, number],
  );
  return spans.every(([a, b], i) => spans.slice(i + 1).every(([c, d]) => (a < c && c < b) === (a < d && d < b)));
}

/** Directions (+1 kept, −1 turned) that make the joined strands run head to tail. */
function directions(tangle: Tangle, closure: Closure): Map<number, 1 | -1> {
  const point = new Map(tangle.rim.map((p) => [p.label, p]));
  const way = new Map<number, 1 | -1>();
  const joins = closure.map(([a, b]) => [point.get(a)!, point.get(b)!] as const);
  for (const p of tangle.rim) {
    if (way.has(p.strand)) continue;
    way.set(p.strand, 1);
    for (let grew = true; grew;) {
      grew = false;
      for (const [a, b] of joins) {
        for (const [x, y] of [
          [a, b],
          [b, a],
        ] as const) {
          if (!way.has(x.strand) || way.has(y.strand)) continue;
          way.set(y.strand, x.enters * (way.get(x.strand) as number) === y.enters ? -1 : 1);
          grew = true;
        }
      }
    }
  }
  return way;
}

export interface Closed {
  /** Normalised bracket in A; Jones with t = A⁻⁴. */
  readonly jones: Laurent;
  readonly writhe: number;
  readonly components: number;
}

/** The closure's Jones polynomial. The joins must close flat. */
export function closeTangle(tangle: Tangle, closure: Closure): Closed {
  const way = directions(tangle, closure);
  const writhe = tangle.crossings.reduce(
    (sum, c) => sum + c.sign * (way.get(c.over) ?? 1) * (way.get(c.under) ?? 1),
    0,
  );
  let sum = ZERO;
  for (const t of rawBracket(tangle)) {
    const rounds = countLoops(labelPairs(tangle, t.pairs), closure);
    sum = plus(sum, rounds === 0 ? t.poly : times(t.poly, loops(rounds - 1)));
  }
  return { jones: unframed(sum, writhe), writhe, components: componentCount(tangle, closure) };
}

function countLoops(pairs: Closure, closure: Closure): number {
  const next = new Map<string, string>();
  for (const [a, b] of pairs) next.set(a, b).set(b, a);
  const join = new Map<string, string>();
  for (const [a, b] of closure) join.set(a, b).set(b, a);
  const seen = new Set<string>();
  let count = 0;
  for (const [label] of next) {
    if (seen.has(label)) continue;
    count += 1;
    for (let at = label; !seen.has(at); at = join.get(next.get(at) as string) as string)
      seen.add(at).add(next.get(at) as string);
  }
  return count;
}

function componentCount(tangle: Tangle, closure: Closure): number {
  const strandOf = new Map(tangle.rim.map((p) => [p.label, p.strand]));
  const joined = new DisjointSets<number>();
  const all = new Set([...tangle.rim.map((p) => p.strand), ...tangle.crossings.flatMap((c) => [c.over, c.under])]);
  for (const [a, b] of closure) joined.join(strandOf.get(a) as number, strandOf.get(b) as number);
  return joined.groups(all).length + tangle.freeLoops;
}

/** What the closure of a whole figure is: its Jones polynomial, or why there is none. */
export type FigureClosure =
  | (Closed & { readonly ok: true; readonly tangle: Tangle; readonly closure: Closure })
  | { readonly ok: false; readonly reason: string };

/**
 * The over-closure of a figure: tails that end inside are lifted over everything to the outside, then the ends are joined by
 * `naturalClosure`. Where the ends as they lie cannot be joined without a new crossing, every tail is lifted over to beside its
 * own standing end first.
 */
export const figureClosure = remembered((figure: Figure): FigureClosure => findClosure(figure));

function findClosure(figure: Figure): FigureClosure {
  if (figure.ropes.length === 0) return { ok: false, reason: 'There is no rope on the board.' };
  const map = readMap(figure);
  if (!map.ok) return { ok: false, reason: `At ${map.place}: ${map.reason}` };
  for (const tangle of [tangleOf(figure, 'held'), tangleOf(figure)]) {
    const closure = naturalClosure(tangle);
    if (!closure) return { ok: false, reason: 'The figure has an eye, which stays open.' };
    if (closesFlat(tangle, closure)) return { ok: true, tangle, closure, ...closeTangle(tangle, closure) };
  }
  return { ok: false, reason: 'Its ends cannot be joined round the outside without a new crossing.' };
}

/** A vector as plain data, for files and comparison. */
export const vectorData = (
  vector: readonly VectorTerm[],
): { pairs: readonly (readonly [string, string])[]; poly: Record<string, Written> }[] =>
  vector.map((t) => ({ pairs: t.pairs, poly: terms(t.poly) }));
