import { crossingsOf, finishedFigure, loadPulls, mirror, type KnotDocument, type LoadWay } from '@foxtrail/core';
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

  it('is shown by arrows that lead away from the knot, in its mirror image mirrored', () => {
    for (const { id, knot } of patterns()) {
      const figure = finishedFigure(knot.method);
      const points = crossingsOf(figure).map((c) => c.point);
      if (points.length === 0) continue;
      const pulls = loadPulls(figure, ['along the rope']);
      expect(pulls.length)
        .withContext(id)
        .toBe(
          figure.ropes.reduce(
            (sum, r) => sum + (r.eyes?.length ?? 0) + (r.closed ? 0 : r.ends.filter((e) => e !== 'tail').length),
            0,
          ),
        );
      const back = loadPulls(mirror(figure), ['along the rope']);
      back.forEach(({ point, direction }, i) => {
        expect(Math.abs(direction[0])).withContext(id).toBeCloseTo(Math.abs(pulls[i]!.direction[0]), 6);
        // An end’s arrow goes on from where its rope goes, a loop’s away from the crossings.
        expect(Math.hypot(...direction)).toBeCloseTo(1, 6);
        expect(point.every(Number.isFinite)).toBeTrue();
      });
    }
    const bowline = finishedFigure(patternOf('bowline')!.knot.method);
    expect(loadPulls(bowline, [])).toEqual([]);
    // Across: to both sides of its loop.
    const across = loadPulls(bowline, ['across the rope']).slice(-2);
    expect(across[0]!.direction[0]).toBeCloseTo(-across[1]!.direction[0], 9);
  });
});
