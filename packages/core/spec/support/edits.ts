/**
 * Edits for tests: any that makes sense for a figure.
 */
import fc from 'fast-check';
import { lastAt, passagesOf, type Edit, type Figure, type Point } from '../../src/index.js';
import { rope } from './figures.js';

export const point: fc.Arbitrary<Point> = fc.tuple(
  fc.integer({ min: -100, max: 100 }).map((n) => n / 10),
  fc.integer({ min: -100, max: 100 }).map((n) => n / 10),
);

/** Any edit that makes sense for a figure. */
export const editOf = (figure: Figure): fc.Arbitrary<Edit> => {
  const a = figure.ropes[0]!;
  const index = fc.nat(a.points.length - 1);
  return fc.oneof(
    fc.record({
      kind: fc.constant('lay' as const),
      rope: fc.constant(a.id),
      points: fc.array(point, { minLength: 1, maxLength: 3 }),
      pass: fc.constantFrom('O', 'U', 'OUO'),
    }),
    fc.record({ kind: fc.constant('move-point' as const), strand: fc.constant(a.id), index, to: point }),
    fc.record({
      kind: fc.constant('insert-point' as const),
      strand: fc.constant(a.id),
      at: fc.integer({ min: 1, max: 10 * lastAt(a) - 1 }).map((n) => n / 10 + 0.05),
    }),
    fc.record({ kind: fc.constant('remove-point' as const), strand: fc.constant(a.id), index }),
    fc.record({ kind: fc.constant('reverse' as const), rope: fc.constant(a.id) }),
    fc.constant({ kind: 'swap' as const, where: { strand: a.id, at: passagesOf(figure, a.id)[0]?.at ?? 0 } }),
    fc.record({
      kind: fc.constant('add-rope' as const),
      rope: fc.tuple(point, point).map(([p, q]) => rope('z', [p, [q[0] + 25, q[1]]])),
    }),
    fc.constant({ kind: 'remove-rope' as const, rope: a.id }),
    fc.constant({
      kind: 'add-host' as const,
      host: {
        id: 'bar',
        kind: 'spar' as const,
        points: [
          [-60, 3.3],
          [60, 3.1],
        ] as const,
      },
    }),
  );
};
