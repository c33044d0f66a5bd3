/**
 * A whole drawing or a part of it, moved, turned, scaled, mirrored, cleared.
 */
import fc from 'fast-check';
import {
  applyEdit,
  crossingsOf,
  distance,
  mirror,
  readWeave,
  type Change,
  type Edit,
  type Figure,
  type Point,
} from '../../src/index.js';
import { anyFigure, EMPTY, go, openKnot, rope } from '../support/figures.js';

const weaves = (f: Figure): string[] => f.ropes.map((r) => r.weave);
const all = (by: Change): Edit => ({ kind: 'transform', points: 'all', by });
const refusal = (f: Figure, edit: Edit): string => {
  const done = applyEdit(f, edit);
  return done.ok ? 'done' : done.reason;
};
const number = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });
const farthest = (a: Figure, b: Figure): number =>
  Math.max(...a.ropes.flatMap((r, i) => r.points.map((p, k) => distance(p, b.ropes[i]!.points[k]!))));

describe('A whole drawing', () => {
  const change = fc.record({
    turn: number(-3, 3),
    scale: number(0.5, 2),
    move: fc.tuple(number(-9, 9), number(-9, 9)),
  });
  it('moved, turned and scaled keeps every crossing and every length but for its scale', () => {
    fc.assert(
      fc.property(anyFigure, change, (figure, by) => {
        const next = go(figure, all(by));
        expect(weaves(next)).toEqual(weaves(figure));
        expect(crossingsOf(next).map((c) => c.turn)).toEqual(crossingsOf(figure).map((c) => c.turn));
        expect(readWeave(next).ok).toBeTrue();
        const [p, q] = figure.ropes[0]!.points as [Point, Point];
        const [u, v] = next.ropes[0]!.points as [Point, Point];
        expect(distance(u, v)).toBeCloseTo(distance(p, q) * by.scale, 6);
      }),
      { numRuns: 40 },
    );
  });
  it('mirrored is the knot of the other hand, and mirrored twice itself', () => {
    fc.assert(
      fc.property(anyFigure, (figure) => {
        const next = go(figure, all({ mirror: true }));
        expect(weaves(next)).toEqual(weaves(mirror(figure)));
        expect(crossingsOf(next).map((c) => c.sign)).toEqual(crossingsOf(mirror(figure)).map((c) => c.sign));
        expect(farthest(go(next, all({ mirror: true })), figure)).toBeLessThan(1e-6);
      }),
      { numRuns: 40 },
    );
  });
  it('is cleared at once, and off the board it is not moved', () => {
    const { figure } = openKnot('reef.json').method;
    expect(go(figure, { kind: 'clear' })).toEqual(EMPTY);
    expect(refusal(EMPTY, { kind: 'clear' })).toContain('nothing on it');
    expect(refusal(figure, all({ move: [900, 0] }))).toContain('within');
    expect(refusal(figure, all({ scale: 0 }))).toContain('0 times');
  });
});

describe('A part of a drawing', () => {
  const two = go(
    EMPTY,
    {
      kind: 'add-rope',
      rope: rope(
        'a',
        Array.from({ length: 9 }, (_, i): Point => [4 * i, 0]),
      ),
    },
    {
      kind: 'add-rope',
      rope: rope(
        'b',
        Array.from({ length: 9 }, (_, i): Point => [4 * i, 6]),
      ),
    },
  );
  const points = [3, 4, 5].map((index) => ({ strand: 'a', index }));
  const moved = (y: number, pass: 'O' | 'U'): Edit => ({ kind: 'transform', points, by: { move: [0, y] }, pass });
  it('moved onto another rope passes over it, or under when asked, and moved back it lies as it lay', () => {
    for (const pass of ['O', 'U'] as const) {
      const over = go(two, moved(10, pass));
      expect(over.ropes[0]!.weave).toBe(pass + pass);
      const back = go(over, moved(-10, pass));
      expect(crossingsOf(back)).toEqual([]);
      expect(farthest(back, two)).toBeLessThan(1e-9);
    }
  });
  it('keeps what it does not reach, and is refused where it cannot be', () => {
    const near = go(two, moved(2, 'O'));
    expect(crossingsOf(near)).toEqual([]);
    expect(near.ropes[1]!.points).toEqual(two.ropes[1]!.points);
    const part = (by: Change): Edit => ({ kind: 'transform', points, by });
    expect(refusal(two, part({ mirror: true }))).toContain('whole drawing');
    expect(refusal(two, { kind: 'transform', points: [], by: {} })).toContain('Nothing');
    expect(refusal(two, { kind: 'transform', points: [{ strand: 'z', index: 0 }], by: {} })).not.toBe('done');
    expect(refusal(two, { kind: 'transform', points: [{ strand: 'a', index: 99 }], by: {} })).not.toBe('done');
  });
  it('turned about its middle keeps its lengths', () => {
    const turned = go(two, { kind: 'transform', points, by: { turn: 0.5 } });
    const at = (f: Figure, i: number): Point => f.ropes[0]!.points[i]!;
    expect(distance(at(turned, 3), at(turned, 5))).toBeCloseTo(distance(at(two, 3), at(two, 5)), 9);
    expect(distance(at(turned, 4), at(two, 4))).toBeCloseTo(0, 9);
  });
});
