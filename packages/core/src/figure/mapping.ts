/**
 * Position mappings: where a trail position lies after an edit, so that halts, notes and crossings survive it.
 */
import type { TrailPosition } from './figure.js';

/** One strand's part of a mapping: positions in `from` go linearly to `to`; positions in no span are gone. */
export interface SpanMap {
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
}

/** Strands not named map to themselves; a strand with no spans is gone. */
export type Mapping = ReadonlyMap<string, readonly SpanMap[]>;

export const IDENTITY: Mapping = new Map();

const inSpan = ({ from, to }: SpanMap, at: number): number => {
  const width = from[1] - from[0];
  return width === 0 ? to[0] : to[0] + ((at - from[0]) / width) * (to[1] - to[0]);
};

/** A place on a strand before an edit, and where it lies after it. */
export type Stop = readonly [was: number, now: number];

/**
 * The mapping of one strand by places that are known before and after: between two of them positions go linearly. Two stops with one
 * place before are a jump: the strand was cut open there.
 */
export function through(strand: string, ...stops: readonly Stop[]): Mapping {
  const spans = stops.slice(1).flatMap(([was, now], i): SpanMap[] => {
    const [before, after] = stops[i] as Stop;
    return was > before ? [{ from: [before, was], to: [after, now] }] : [];
  });
  return new Map([[strand, spans]]);
}

/**
 * The mapping of a strand with positions 0 to `last` in which the stretch from `at` to `at + removed` becomes one as long as `added`,
 * and what comes after it moves along.
 */
export const splice = (strand: string, last: number, at: number, removed: number, added: number): Mapping =>
  through(strand, [0, 0], [at, at], [at + removed, at + added], [last, last - removed + added]);

/** The position after the edit, or `undefined` when its place is gone. */
export function mapPosition(mapping: Mapping, position: TrailPosition): TrailPosition | undefined {
  const spans = mapping.get(position.strand);
  if (!spans) return position;
  const span = spans.find((s) => position.at >= s.from[0] && position.at <= s.from[1]);
  return span && { strand: position.strand, at: inSpan(span, position.at) };
}

/** One mapping and then another. */
export function mapThrough(first: Mapping, second: Mapping): Mapping {
  const both = [...first.keys()].filter((strand) => second.has(strand));
  const joined = both.map((strand): [string, SpanMap[]] => [
    strand,
    (first.get(strand) ?? []).flatMap((s) =>
      (second.get(strand) ?? []).flatMap((t): SpanMap[] => {
        const [low, high] = [Math.max(Math.min(...s.to), t.from[0]), Math.min(Math.max(...s.to), t.from[1])];
        if (!(high > low)) return [];
        const back: SpanMap = { from: s.to, to: s.from };
        const ends = [inSpan(back, low), inSpan(back, high)].sort((a, b) => a - b) as [number, number];
        return [{ from: ends, to: [inSpan(t, inSpan(s, ends[0])), inSpan(t, inSpan(s, ends[1]))] }];
      }),
    ),
  ]);
  return new Map([...first, ...second, ...joined]);
}

/** The mapping that leads back. */
export function invertMapping(mapping: Mapping): Mapping {
  return new Map(
    [...mapping].map(([strand, spans]) => [
      strand,
      spans.map(({ from, to }) =>
        to[0] <= to[1] ? { from: to, to: from } : { from: [to[1], to[0]] as const, to: [from[1], from[0]] as const },
      ),
    ]),
  );
}
