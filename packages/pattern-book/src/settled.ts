/**
 * The figures of the book as rope lies, where they are not drawn so: what Settle makes of what the book lays, computed once. `npm run figures` writes them, a spec
 * settles some anew and compares.
 */
import {
  withMarks,
  type Break,
  type Figure,
  type Mapping,
  type Point,
  type Rope,
  type SpanMap,
  type Tidied,
} from '@foxtrail/core';
import FIGURES from './figures.json' with { type: 'json' };

/** Points of every strand, in rope diameters, and where trail positions went: `[from, to, from, to]` a span. */
export interface SettledFile {
  readonly strands: Readonly<Record<string, readonly Point[]>>;
  readonly spans: Readonly<Record<string, readonly (readonly [number, number, number, number])[]>>;
  /** Where ropes are drawn short, and what that counts. */
  readonly breaks: Readonly<Record<string, readonly Break[]>>;
}

const round = (v: number): number => Math.round(v * 1e4) / 1e4;

/** A settled figure as it is kept in the book. */
export const writeSettled = ({ figure, mapping }: Tidied): SettledFile => ({
  strands: Object.fromEntries(
    [...figure.ropes, ...figure.hosts].map(({ id, points }) => [
      id,
      points.map(([x, y]): Point => [round(x), round(y)]),
    ]),
  ),
  breaks: Object.fromEntries(
    figure.ropes.flatMap(({ id, breaks }) =>
      breaks ? [[id, breaks.map((b) => ({ at: round(b.at), counts: b.counts }))]] : [],
    ),
  ),
  spans: Object.fromEntries(
    [...mapping].map(([id, spans]) => [
      id,
      spans.map(({ from, to }) => [round(from[0]), round(from[1]), round(to[0]), round(to[1])] as const),
    ]),
  ),
});

/** A figure of the book as it was settled; nothing for one that was not. */
export function settledFigure(id: string, laid: Figure): Tidied | undefined {
  const kept = (FIGURES as unknown as Readonly<Record<string, SettledFile>>)[id];
  if (!kept) return undefined;
  const { strands, spans, breaks } = kept;
  const mapping: Mapping = new Map(
    Object.entries(spans).map(([strand, list]) => [
      strand,
      list.map(([a, b, c, d]): SpanMap => ({ from: [a, b], to: [c, d] })),
    ]),
  );
  const figure: Figure = {
    ropes: laid.ropes.map((r) => ({ ...r, points: strands[r.id] ?? r.points, curve: 'smooth' })),
    hosts: laid.hosts.map((h) => ({ ...h, points: strands[h.id] ?? h.points })),
  };
  const marked = withMarks(figure, mapping);
  const ropes = marked.ropes.map((r): Rope => (breaks[r.id] ? { ...r, breaks: breaks[r.id] } : r));
  return { figure: { ...marked, ropes }, mapping };
}
