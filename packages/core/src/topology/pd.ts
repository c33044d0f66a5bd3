/**
 * Planar diagram (PD) code: one quadruple of edge numbers a crossing, counterclockwise from the incoming under edge.
 * Edges are numbered from 1 along each closed curve.
 */
import { accept, refuse, type Result } from '../figure/refusal.js';
import { closedBracket, type CrossingEdges } from './bracket.js';
import type { Laurent } from './laurent.js';
import { unframed, type Closure } from './skein.js';
import type { Tangle } from './tangle.js';

export type PdCode = readonly CrossingEdges[];

/** Enough for any knot on the bench; a longer list is refused. */
export const PD_LIMIT = 300;

/** Checks a PD code: whole numbers, each exactly twice. */
export function checkPd(code: readonly (readonly number[])[]): Result<PdCode> {
  if (code.length > PD_LIMIT)
    return refuse('PD code', `It has ${code.length} crossings; ${PD_LIMIT} are the most.`, 'Give a smaller diagram.');
  const seen = new Map<number, number>();
  for (const [i, c] of code.entries()) {
    if (c.length !== 4 || c.some((e) => !Number.isInteger(e)))
      return refuse(`PD code, crossing ${i + 1}`, 'A crossing is four whole numbers.', 'Write it as [i, j, k, l].');
    for (const e of c) seen.set(e, (seen.get(e) ?? 0) + 1);
  }
  for (const [e, n] of seen)
    if (n !== 2) return refuse(`PD code, edge ${e}`, `It occurs ${n} times.`, 'Every edge must occur exactly twice.');
  return accept(code as PdCode);
}

/** Signs of the crossings of a PD code; the over strand's direction follows from where its edges go on. */
export function pdSigns(code: PdCode): (1 | -1)[] {
  // head[e]: the slot `crossing*4 + k` that the edge runs into.
  const slots = new Map<number, number[]>();
  code.forEach((c, i) => c.forEach((e, k) => slots.set(e, [...(slots.get(e) ?? []), 4 * i + k])));
  const head = new Map<number, number>();
  const other = (e: number, slot: number): number => (slots.get(e) as number[]).find((s) => s !== slot) ?? slot;
  const edgeAt = (slot: number): number => (code[slot >> 2] as CrossingEdges)[slot & 3] as number;
  const run = (start: number): void => {
    // `start` is a slot an edge runs into; follow the strand across the crossing and on.
    for (let into = start; ;) {
      const e = edgeAt(into);
      if (head.has(e)) return;
      head.set(e, into);
      const out = (into & ~3) | ((into + 2) & 3);
      into = other(edgeAt(out), out);
    }
  };
  code.forEach((_, i) => run(4 * i));
  code.forEach((_, i) => run(4 * i + 3));
  return code.map((c, i) => (head.get(c[3]) === 4 * i + 3 ? 1 : -1));
}

/** Normalised bracket (Jones with t = A⁻⁴) of a PD code. */
export function pdJones(code: PdCode): Laurent {
  return unframed(
    closedBracket(code),
    pdSigns(code).reduce((sum, s) => sum + s, 0),
  );
}

/** The PD code of a tangle closed by the joins given. */
export function pdOf(tangle: Tangle, closure: Closure): PdCode {
  const edgeOf = new Map(tangle.rim.map((p) => [p.label, p.edge]));
  const join = new Map<number, number>();
  for (const [a, b] of closure) {
    const [p, q] = [edgeOf.get(a) as number, edgeOf.get(b) as number];
    if (p === q) continue;
    join.set(p, q).set(q, p);
  }
  const edgesAt = new Map<number, { c: number; k: number }[]>();
  tangle.crossings.forEach(({ edges }, c) =>
    edges.forEach((e, k) => edgesAt.set(e, [...(edgesAt.get(e) ?? []), { c, k }])),
  );
  const underIn = new Map<number, number>();
  const number = new Map<number, number>();
  let next = 1;
  const walk = (start: { c: number; k: number }): void => {
    for (let out = start; ;) {
      const e = tangle.crossings[out.c]!.edges[out.k] as number;
      if (number.has(e)) return;
      number.set(e, next);
      const onward = join.get(e);
      if (onward !== undefined) number.set(onward, next);
      next += 1;
      const into = (
        onward === undefined
          ? (edgesAt.get(e) ?? []).find((s) => s.c !== out.c || s.k !== out.k)
          : edgesAt.get(onward)?.[0]
      ) as { c: number; k: number };
      if (into.k % 2 === 0) underIn.set(into.c, into.k);
      out = { c: into.c, k: (into.k + 2) % 4 };
    }
  };
  tangle.crossings.forEach((c, i) =>
    [0, 1, 2, 3].forEach((k) => !number.has(c.edges[k] as number) && walk({ c: i, k })),
  );
  return tangle.crossings.map(({ edges }, i): CrossingEdges => {
    const from = underIn.get(i) ?? 0;
    return [0, 1, 2, 3].map((k) => number.get(edges[(from + k) % 4] as number) as number) as unknown as CrossingEdges;
  });
}
