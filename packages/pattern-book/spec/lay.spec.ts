import {
  crossingsOf,
  curveOf,
  distance,
  halfCircle,
  lengthOf,
  nearestOn,
  pointAt,
  type Point,
  type Rope,
} from '@foxtrail/core';
import fc from 'fast-check';
import { beside, layered, reversed, turned, woven, type Laid } from '../src/lay.js';

const place = fc.tuple(fc.integer({ min: -20, max: 20 }), fc.integer({ min: -20, max: 20 }));

describe('The builders', () => {
  it('bend half round: every point as far from the middle, on the side asked for', () => {
    fc.assert(
      fc.property(place, place, fc.constantFrom(1 as const, -1 as const), (a, b, side) => {
        fc.pre(a[0] !== b[0] || a[1] !== b[1]);
        const middle: Point = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
        for (const p of halfCircle(a, b, side)) {
          expect(distance(p, middle)).toBeCloseTo(distance(a, b) / 2, 9);
          // Left of the way from a to b as seen on the screen, y down: the cross product is negative.
          const turn = (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
          expect(Math.sign(turn)).toBe(-side);
        }
      }),
    );
  });
  it('turn by quarters, four of which are none', () => {
    fc.assert(
      fc.property(fc.array(place), fc.integer({ min: -8, max: 8 }), (points, n) => {
        expect(turned(turned(points, n), 4 - n).map((p) => p.map((x) => x + 0))).toEqual(points.map((p) => [...p]));
      }),
    );
    expect(turned([[1, 0]], 1).map((p) => p.map((x) => x + 0))).toEqual([[0, 1]]);
  });
  it('read a rope from its other end, twice as it was', () => {
    const laid: Laid = {
      points: [
        [0, 0],
        [5, 0],
        [5, 5],
      ],
      weave: 'OUU',
      ends: ['standing', 'tail'],
      eyes: [0.5],
    };
    expect(reversed(laid)).toEqual({
      points: [
        [5, 5],
        [5, 0],
        [0, 0],
      ],
      weave: 'UUO',
      ends: ['tail', 'standing'],
      eyes: [1.5],
    });
    expect(reversed(reversed(laid))).toEqual(laid);
  });
  it('refuse letters that are too few, contradict each other, or leave a crossing undecided', () => {
    const a: readonly Point[] = [
      [-9, 0],
      [9, 0],
    ];
    const b: readonly Point[] = [
      [0, -9],
      [0.2, 9],
    ];
    expect(() => woven([{ points: a, weave: 'OU' }])).toThrowError(/meets 0 crossings/);
    expect(() =>
      woven([
        { points: a, weave: 'O' },
        { points: b, weave: 'O' },
      ]),
    ).toThrowError(/say the same/);
    expect(() =>
      woven([
        { points: a, weave: '' },
        { points: b, weave: '' },
      ]),
    ).toThrowError(/nothing says/);
    expect(
      woven([
        { points: a, weave: 'O' },
        { points: b, weave: '' },
      ]).ropes.map((r) => r.weave),
    ).toEqual(['O', 'U']);
  });
  it('lay by height: the higher strand is over, a host lies at nought', () => {
    const points = [
      [-9, 0, 1],
      [9, 0, 1],
      [9, 5, 1],
      [0, 5, 1],
      [0.3, -5, -1],
    ] as const;
    const figure = layered(
      [{ points }],
      [
        {
          id: 'spar',
          kind: 'spar',
          points: [
            [-20, 2.5],
            [20, 2.4],
          ],
        },
      ],
    );
    const self = crossingsOf(figure).find((c) => c.second.strand === 'a')!;
    expect(self.over.at).toBeLessThan(self.under.at);
    const onSpar = crossingsOf(figure).filter((c) => c.second.strand === 'spar');
    expect(onSpar.map((c) => c.over.strand).sort()).toEqual(['a', 'a']);
  });
  it('follow a curve at one distance, on the side asked for, either way', () => {
    const rope: Rope = {
      id: 'a',
      points: [
        [-20, 0],
        [-8, 3],
        [4, -2],
        [18, 4],
      ],
      curve: 'smooth',
      closed: false,
      ends: ['standing', 'tail'],
      weave: '',
    };
    const whole = lengthOf(curveOf(rope));
    for (const aside of [1.1, -1.1]) {
      const points = beside(rope, 0, whole, { aside, backwards: false });
      for (const p of points) expect(nearestOn(curveOf(rope), p).away).toBeCloseTo(1.1, 1);
      expect(beside(rope, 0, whole, { aside, backwards: true })).toEqual([...points].reverse());
    }
    const [left] = beside(rope, 0, whole, { aside: 1.1, backwards: false });
    expect(left![1]).toBeLessThan(pointAt(curveOf(rope), 0)[1]);
  });
});
