import fc from 'fast-check';
import { setApart, setApartWithin } from '../../src/index.js';

const places = fc
  .array(fc.double({ min: 0, max: 500, noNaN: true }), { maxLength: 20 })
  .map((list) => list.sort((a, b) => a - b));
const gaps = (list: readonly number[]): number[] => list.slice(1).map((x, i) => x - list[i]!);
const cost = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, x, i) => sum + (x - b[i]!) ** 2, 0);

describe('Places set apart', () => {
  it('leave each other the room, keep what has room already, and move by no more than any other way that does', () => {
    fc.assert(
      fc.property(places, fc.double({ min: 1, max: 40, noNaN: true }), (list, room) => {
        const apart = setApart(list, room);
        for (const gap of gaps(apart)) expect(gap).toBeGreaterThan(room - 1e-6);
        expect(apart.reduce((a, b) => a + b, 0)).toBeCloseTo(
          list.reduce((a, b) => a + b, 0),
          6,
        );
        if (gaps(list).every((gap) => gap >= room)) expect(cost(apart, list)).toBeCloseTo(0, 9);
        // From the left, each pushed on by the one before it; and the same from the right.
        const pushed: number[] = [];
        for (const x of list) pushed.push(Math.max(x, (pushed.at(-1) ?? -Infinity) + room));
        expect(cost(apart, list)).toBeLessThanOrEqual(cost(pushed, list) + 1e-6);
      }),
    );
  });
  it('stay within bounds that have room for them', () => {
    fc.assert(
      fc.property(places, (list) => {
        const apart = setApartWithin(list, 20, [10, 490]);
        for (const gap of gaps(apart)) expect(gap).toBeGreaterThan(20 - 1e-6);
        for (const x of apart) expect(x >= 10 && x <= 490).toBeTrue();
      }),
    );
  });
});
