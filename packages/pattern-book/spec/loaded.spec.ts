import {
  boxWithPulls,
  crossingsOf,
  finishedFigure,
  heartBox,
  loadPulls,
  mirror,
  type KnotDocument,
  type LoadWay,
  type Point,
} from '@foxtrail/core';
import { JUDGED, loadedFindings, patternOf, patterns } from '../src/index.js';

const loaded = (id: string, ...ways: LoadWay[]): KnotDocument => {
  const { knot } = patternOf(id)!;
  return { ...knot, entry: { ...knot.entry, loaded: ways } };
};

describe('How a knot is loaded', () => {
  it('is held against what it is judged for', () => {
    expect(loadedFindings(loaded('bowline', 'along the rope'))).toEqual([]);
    const [across] = loadedFindings(loaded('bowline', 'across the rope'));
    expect(across?.title).toContain('across the rope');
    expect(across?.remedy).toContain('loop in mid-rope');
    expect(loadedFindings(loaded('butterfly', 'across the rope', 'three ways'))).toEqual([]);
    expect(loadedFindings(loaded('butterfly', 'either way')).length).toBe(1);
    expect(loadedFindings(patternOf('bowline')!.knot)).toEqual([]);
  });

  it('of a loop in mid-rope is told against either end: one that takes its load from one side alone is held to it', () => {
    expect(loadedFindings(loaded('butterfly', 'against its first end'))).toEqual([]);
    const { knot } = patternOf('butterfly')!;
    const judged = { ...JUDGED.butterfly, loads: ['against its first end' as const] };
    const directional = (way: LoadWay): number =>
      loadedFindings({ ...knot, entry: { ...knot.entry, judged, loaded: [way] } }).length;
    expect(directional('against its first end')).toBe(0);
    // Backward, and as if it did not matter.
    expect(directional('against its last end')).toBe(1);
    expect(directional('along the rope')).toBe(1);
  });

  it('is an error where more than light duty hangs on it', () => {
    const knot = loaded('bowline', 'across the rope');
    expect(loadedFindings(knot)[0]?.severity).toBe(knot.entry.useGrade === 'light duty' ? 'warning' : 'error');
    const people = { ...knot, entry: { ...knot.entry, useGrade: 'people depend on it' as const } };
    expect(loadedFindings(people)[0]?.severity).toBe('error');
  });

  it('is right for every pattern in each way that it is judged for, and for no wrong way', () => {
    for (const { id } of patterns())
      for (const way of JUDGED[id]?.loads ?? [])
        expect(loadedFindings(loaded(id, way)))
          .withContext(`${id} ${way}`)
          .toEqual([]);
  });

  const arrows = (id: string, ...ways: LoadWay[]) => loadPulls(finishedFigure(patternOf(id)!.knot.method), ways);

  it('is shown by as many arrows as a rigger would draw', () => {
    const along = (id: string): number => arrows(id, 'along the rope').length;
    // A loop against its standing part; two standing parts of a bend; a hitch against what it is tied to, the bight that frees it not.
    expect(along('bowline')).toBe(2);
    expect(along('sheet-bend')).toBe(2);
    expect(along('double-fishermans')).toBe(2);
    expect(along('clove-hitch')).toBe(1);
    expect(along('quick-release-hitch')).toBe(1);
    expect(arrows('butterfly', 'three ways').length).toBe(3);
    expect(arrows('butterfly', 'across the rope').length).toBeGreaterThan(1);
    expect(arrows('bowline')).toEqual([]);
    // Loop and one leg: the other hangs free.
    const [first, last] = (['against its first end', 'against its last end'] as const).map((way) =>
      arrows('butterfly', way),
    );
    expect([first!.length, last!.length]).toEqual([2, 2]);
    expect(first).not.toEqual(last);
  });

  it('is shown by arrows that lead away from the knot, in its mirror image as well, all of them in its picture', () => {
    for (const { id, knot } of patterns()) {
      const figure = finishedFigure(knot.method);
      const points = crossingsOf(figure).map((c) => c.point);
      if (points.length === 0) continue;
      const middle = [0, 1].map((k) => points.reduce((sum, p) => sum + p[k as 0 | 1], 0) / points.length);
      const far = ([x, y]: Point): number => Math.hypot(x - middle[0]!, y - middle[1]!);
      const pulls = loadPulls(figure, ['along the rope']);
      for (const { point, direction } of pulls) {
        const tip: Point = [point[0] + 2 * direction[0], point[1] + 2 * direction[1]];
        expect(far(tip)).withContext(id).toBeGreaterThan(far(point));
        const [l, t, r, b] = boxWithPulls(heartBox(figure), pulls);
        expect(tip[0] >= l && tip[0] <= r && tip[1] >= t && tip[1] <= b)
          .withContext(id)
          .toBeTrue();
      }
      const back = loadPulls(mirror(figure), ['along the rope']);
      back.forEach(({ direction }, i) =>
        expect(Math.abs(direction[0])).withContext(id).toBeCloseTo(Math.abs(pulls[i]!.direction[0]), 6),
      );
    }
  });
});
