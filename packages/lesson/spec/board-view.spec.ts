import type { Box, Point } from '@foxtrail/core';
import fc from 'fast-check';
import { BoardView, NEAREST } from '../browser/board-view.js';

const WHOLE: Box = [0, 0, 44, 33];
const place = fc.tuple(fc.double({ min: 0, max: 44, noNaN: true }), fc.double({ min: 0, max: 33, noNaN: true }));
/** Where a place of the board is seen, as shares of the view. */
const seen = ([l, t, r, b]: Box, [x, y]: Point): Point => [(x - l) / (r - l), (y - t) / (b - t)];

describe('What is seen of a board', () => {
  it('is never beyond it, keeps its shape, and comes no nearer than it may', () => {
    const moves = fc.array(
      fc.oneof(
        fc.record({ by: fc.double({ min: 0.2, max: 5, noNaN: true }), at: place }),
        fc.record({ from: place, to: place }),
        fc.record({ at: place }),
      ),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(moves, (list) => {
        const view = new BoardView(WHOLE);
        for (const m of list) {
          if ('by' in m) view.nearer(m.by, m.at);
          else if ('from' in m) view.drag(m.from, m.to);
          else view.keepInSight(m.at);
          const [l, t, r, b] = view.box;
          for (const v of [l - WHOLE[0], t - WHOLE[1], WHOLE[2] - r, WHOLE[3] - b])
            expect(v).toBeGreaterThanOrEqual(-1e-9);
          expect((r - l) / (b - t)).toBeCloseTo(44 / 33, 6);
          expect(44 / (r - l)).toBeLessThanOrEqual(NEAREST + 1e-9);
        }
        view.showWhole();
        expect([...view.box]).toEqual([...WHOLE]);
        expect(view.isWhole).toBeTrue();
      }),
    );
  });

  it('comes nearer about a place that stays where it is seen, as long as there is board about it', () => {
    const view = new BoardView(WHOLE);
    const at: Point = [22, 16.5];
    for (let n = 0; n < 3; n += 1) {
      const before = seen(view.box, at);
      view.nearer(1.6, at);
      const after = seen(view.box, at);
      expect(after[0]).toBeCloseTo(before[0], 9);
      expect(after[1]).toBeCloseTo(before[1], 9);
    }
    expect(view.isWhole).toBeFalse();
    for (let n = 0; n < 9; n += 1) view.nearer(1.6);
    expect(view.isNearest).toBeTrue();
  });

  it('follows what is led: a place is brought well into sight, and what is in sight moves nothing', () => {
    fc.assert(
      fc.property(place, place, (first, second) => {
        const view = new BoardView(WHOLE);
        view.nearer(4, first);
        view.keepInSight(second);
        const [x, y] = seen(view.box, second);
        const [l, t, r, b] = view.box;
        // At the edge of the board there is no more to show.
        if (l > 1e-9 && r < 44 - 1e-9) expect(Math.abs(x - 0.5)).toBeLessThanOrEqual(0.3 + 1e-9);
        if (t > 1e-9 && b < 33 - 1e-9) expect(Math.abs(y - 0.5)).toBeLessThanOrEqual(0.3 + 1e-9);
        expect(x).toBeGreaterThanOrEqual(-1e-9);
        expect(y).toBeLessThanOrEqual(1 + 1e-9);
        const before = view.box;
        view.keepInSight(second);
        expect(view.box.every((v, i) => Math.abs(v - before[i]!) < 1e-9)).toBeTrue();
      }),
    );
  });
});
