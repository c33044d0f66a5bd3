import fc from 'fast-check';
import {
  closedStrands,
  codeOf,
  crossingCount,
  diagramOf,
  flipTangle,
  shadowOf,
  simplify,
  skeinTerms,
  slimmed,
  tangleOf,
  type Tangle,
} from '../../src/index.js';
import { sayTerms } from '../support/diagrams.js';
import { anyFigure, drawnFiles, drawnKnot } from '../support/figures.js';

describe('A slimmed tangle', () => {
  it('has the same skein vector, the same ends and no crossing more', () => {
    fc.assert(
      fc.property(anyFigure, (f) => {
        const whole = tangleOf(f);
        const slim = slimmed(whole);
        expect(sayTerms(skeinTerms(slim))).toBe(sayTerms(skeinTerms(whole)));
        expect(slim.rim.map((p) => p.label)).toEqual(whole.rim.map((p) => p.label));
        expect(slim.crossings.length).toBeLessThanOrEqual(whole.crossings.length);
        expect(slim.rim.map((p) => p.strand)).toEqual(whole.rim.map((p) => p.strand));
      }),
      { numRuns: 40 },
    );
  });
  it('is itself when there is nothing to take out', () => {
    const t = tangleOf(drawnKnot('overhand.json').method.figure);
    expect(slimmed(t)).toBe(t);
    expect(closedStrands(t)).toEqual([]);
  });
});

describe('The code of a diagram', () => {
  const tangles = drawnFiles.map((f): [string, Tangle] => [f, tangleOf(drawnKnot(f).method.figure, 'held')]);
  it('tells a crossing that is swapped, and the shadow does not', () => {
    for (const [file, t] of tangles) {
      const [own, other] = [diagramOf(t), diagramOf(flipTangle(t, [0]))];
      expect(codeOf(own, 0, 1))
        .withContext(file)
        .not.toBe(codeOf(other, 0, 1));
      expect(shadowOf(own, 0, 1).code)
        .withContext(file)
        .toBe(shadowOf(other, 0, 1).code);
      expect(shadowOf(own, 0, 1).order.length).toBe(t.crossings.length);
    }
  });
  it('is the same for every form that the search meets, in the number of crossings', () => {
    for (const [file, t] of tangles) {
      const found = simplify(t);
      for (const form of found.forms) expect(crossingCount(form)).withContext(file).toBe(found.crossings);
    }
  });
  it('says when the search was stopped', () => {
    const [, t] = tangles.find(([f]) => f === 'reef.json')!;
    expect(simplify(t, 0).exhausted).toBeFalse();
    expect(simplify(t).exhausted).toBeTrue();
  });
});
