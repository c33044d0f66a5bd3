/**
 * One figure and another of the same rope: which places are the same.
 */
import { passagesOf } from './crossings.js';
import { lastAt, ropeOf, type Figure, type Rope } from './figure.js';
import type { Mapping } from './mapping.js';

/** Where the places of one figure lie in another one that is drawn otherwise: passage by passage, on strands that pass as often in both; elsewhere nowhere. */
export function acrossFigures(from: Figure, to: Figure): Mapping {
  const stops = (figure: Figure, rope: Rope): number[] => [
    0,
    ...passagesOf(figure, rope.id).map((p) => p.at),
    lastAt(rope),
  ];
  return new Map(
    from.ropes.map((rope) => {
      const other = ropeOf(to, rope.id);
      const [a, b] = [stops(from, rope), other ? stops(to, other) : []];
      const spans =
        a.length === b.length
          ? a.slice(1).map((end, i) => ({
              from: [a[i] as number, end] as const,
              to: [b[i] as number, b[i + 1] as number] as const,
            }))
          : [];
      return [rope.id, spans];
    }),
  );
}
