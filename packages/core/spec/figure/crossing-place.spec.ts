import fc from 'fast-check';
import {
  applyEdit,
  crossingAt,
  crossingsAfter,
  crossingsOf,
  distance,
  mapPosition,
  placeOfCrossing,
  type Edit,
  type Figure,
} from '../../src/index.js';
import { editOf } from '../support/edits.js';
import { anyFigure, drawnKnot } from '../support/figures.js';

/** A loop in the standing part that is nothing but a kink: one more crossing, before all others. */
const KINK: readonly Edit[] = [
  { kind: 'insert-point', strand: 'a', at: 0.25 },
  { kind: 'insert-point', strand: 'a', at: 1.3 },
  { kind: 'insert-point', strand: 'a', at: 2.3 },
  { kind: 'move-point', strand: 'a', index: 1, to: [3, -19] },
  { kind: 'move-point', strand: 'a', index: 2, to: [6, -22] },
  { kind: 'move-point', strand: 'a', index: 3, to: [3, -25] },
];

describe('A crossing kept by its place', () => {
  it('is found where it stands, by either of its passages first', () => {
    fc.assert(
      fc.property(anyFigure, (figure) => {
        for (const c of crossingsOf(figure)) {
          expect(crossingAt(figure, placeOfCrossing(c))).toBe(c);
          expect(crossingAt(figure, { first: c.second, second: c.first })).toBe(c);
        }
      }),
    );
  });

  it('that does not move stays the same one, whatever is drawn elsewhere and however they are numbered then', () => {
    let followed = 0;
    const anyEdit = anyFigure
      .filter((f) => f.ropes.length > 0 && crossingsOf(f).length > 0)
      .chain((figure) => fc.tuple(fc.constant(figure), editOf(figure)));
    fc.assert(
      fc.property(anyEdit, ([before, edit]) => {
        const done = applyEdit(before, edit);
        if (!done.ok) return;
        const { figure: after, mapping } = done.value;
        const follow = crossingsAfter(before, after, mapping);
        const still = (f: Figure, p: readonly [number, number]): number =>
          crossingsOf(f).filter((c) => distance(c.point, p) < 1e-3).length;
        for (const c of crossingsOf(before)) {
          const now = follow(placeOfCrossing(c));
          if (!mapPosition(mapping, c.first) || !mapPosition(mapping, c.second)) continue;
          if (still(before, c.point) !== 1 || still(after, c.point) !== 1) continue;
          followed += 1;
          expect(distance(crossingAt(after, now!)!.point, c.point)).toBeLessThan(1e-3);
        }
      }),
      { numRuns: 200 },
    );
    expect(followed).toBeGreaterThan(100);
  });

  it('moves on by one number when the standing part is kinked before it, and back when the kink is drawn out', () => {
    const { figure } = drawnKnot('bowline.json').method;
    const kept = crossingsOf(figure).map(placeOfCrossing);
    const through = (from: { figure: Figure; places: typeof kept }, edits: readonly Edit[]): typeof from =>
      edits.reduce((now, edit) => {
        const done = applyEdit(now.figure, edit);
        if (!done.ok) throw new Error(done.reason);
        const follow = crossingsAfter(now.figure, done.value.figure, done.value.mapping);
        return { figure: done.value.figure, places: now.places.map((p) => follow(p)!) };
      }, from);
    const numbers = (now: { figure: Figure; places: typeof kept }): number[] =>
      now.places.map((p) => crossingAt(now.figure, p)!.number);
    const kinked = through({ figure, places: kept }, KINK);
    expect(crossingsOf(kinked.figure).length).toBe(kept.length + 1);
    expect(numbers(kinked)).toEqual(kept.map((_, i) => i + 2));
    const straight = through(
      kinked,
      [3, 2, 1].map((index) => ({ kind: 'remove-point', strand: 'a', index })),
    );
    expect(crossingsOf(straight.figure).length).toBe(kept.length);
    expect(numbers(straight)).toEqual(kept.map((_, i) => i + 1));
  });

  it('is gone when its strand is', () => {
    const { figure } = drawnKnot('reef.json').method;
    const [c] = crossingsOf(figure);
    const done = applyEdit(figure, { kind: 'remove-rope', rope: c!.second.strand });
    if (!done.ok) throw new Error(done.reason);
    const now = crossingsAfter(figure, done.value.figure, done.value.mapping)(placeOfCrossing(c!));
    expect(now && crossingAt(done.value.figure, now)).toBeUndefined();
  });
});
