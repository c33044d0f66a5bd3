import {
  crossingsOf,
  curveOf,
  directionAt,
  finishedFigure,
  hostOf,
  ropeOf,
  type Figure,
  type Point,
  type TrailPosition,
} from '../../src/index.js';
import { judgeFootage, type NumberedMark } from '../../src/footage.js';
import {
  beepsOf,
  rowSeen,
  seenByStandIn,
  standInAt,
  standInTake,
  strayAt,
  type StandInTake,
} from '../../src/reel/index.js';
import { demoKnot, drawnFiles } from '../support/figures.js';

const SHAPE = 16 / 9;

/** What an attentive author marks in the last frame of a take: every crossing where it is seen, and the ways of its strands. */
function marksOn(take: StandInTake): NumberedMark[] {
  const figure = finishedFigure(take.method);
  const seen = (p: Point): Point => seenByStandIn(take, p, take.duration, SHAPE);
  const on = ({ strand, at }: TrailPosition, [x, y]: Point): Point => {
    const [u, v] = directionAt(curveOf(ropeOf(figure, strand) ?? hostOf(figure, strand)!), at);
    return [x + u, y + v];
  };
  return crossingsOf(figure).map((c) => ({
    crossing: c.number,
    over: c.over === c.first ? 'first' : 'second',
    point: seen(c.point),
    first: seen(on(c.first, c.point)),
    second: seen(on(c.second, c.point)),
  }));
}
const judged = (figure: Figure, take: StandInTake): ReturnType<typeof judgeFootage> =>
  judgeFootage(figure, [{ at: take.duration, marks: marksOn(take) }], () => ({ becomes: 'Another', named: false }));

describe('the stand-in camera', () => {
  const methods = drawnFiles.map((file) => demoKnot(file).method);

  it('shows the knot; in a mirror or by a left hand its mirror image, by both the knot again', () => {
    for (const method of methods) {
      const figure = finishedFigure(method);
      if (crossingsOf(figure).length < 3) continue;
      for (const mirrored of [false, true])
        for (const leftHanded of [false, true]) {
          const { state } = judged(figure, standInTake(method, { mirrored, leftHanded }));
          expect(state).toBe(mirrored === leftHanded ? 'agrees' : 'mirrored');
        }
    }
  });

  it('with one crossing laid the other way is found out at that crossing', () => {
    for (const method of methods) {
      const figure = finishedFigure(method);
      const { length } = crossingsOf(figure);
      if (length < 4) continue;
      for (const wrong of [1, length]) {
        const { frames } = judged(figure, standInTake(method, { wrong }));
        expect(frames[0]?.wrong).toEqual([[wrong]]);
      }
    }
  });

  it('lays everything, the hand on what is laid, and goes away from the finished knot', () => {
    for (const method of methods) {
      const take = standInTake(method, {});
      if (take.layings.length === 0) continue;
      const beeps = beepsOf(take);
      expect(beeps.length).toBeGreaterThan(0);
      const laid = (time: number): number => standInAt(take, time).drawing().runs.length;
      expect(laid(take.duration)).toBeGreaterThanOrEqual(laid(0));
      const during = standInAt(take, (take.layings[0]!.start + take.layings[0]!.end) / 2).hand;
      expect(during?.away).toBe(0);
      expect(standInAt(take, take.duration).hand).toBeUndefined();
      const { labels, notes, arrow, runs } = standInAt(take, take.duration / 2).drawing();
      expect([labels, notes, arrow]).toEqual([[], [], undefined]);
      // Nor is a rope drawn short on the bench.
      expect(finishedFigure(take.method).ropes.some((r) => r.breaks)).toBeFalse();
      expect(runs.some((r) => r.working)).toBeFalse();
    }
  });

  it('sees the bench in perspective: rows in order, the near ones larger, each where its places are', () => {
    const take = standInTake(methods[0]!, {});
    const [, dy] = strayAt(0);
    const [l, t, r, b] = take.box;
    let before = 0;
    for (const share of [0, 0.25, 0.5, 0.75, 1]) {
      const place: Point = [(l + r) / 2, t + share * (b - t)];
      const y = 2 * (seenByStandIn(take, place, 0, SHAPE)[1] - dy) - 1;
      const { v, scale } = rowSeen(y);
      expect(scale).toBeGreaterThan(before);
      before = scale;
      // The middle of the box lies in the middle of the bench, and shares of it at like shares.
      expect(v).toBeCloseTo((2 * share - 1) * rowSeen(2 * (seenByStandIn(take, [l, b], 0, SHAPE)[1] - dy) - 1).v, 6);
    }
  });
});
