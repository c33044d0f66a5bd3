import {
  DRAWN_TIGHT,
  findingsOf,
  gaussText,
  layoutFindings,
  layoutsOf,
  readKnot,
  relayProofs,
  signatureOf,
  stepsOf,
  tidy,
  WORKSHOP_WORDS,
  writeKnot,
  type Figure,
  type Finding,
  type KnotDocument,
} from '@foxtrail/core';
import { begunFrom, patternOf, patterns, TIGHTENS } from '../src/index.js';

const key = (f: Figure): string => {
  const found = signatureOf(f);
  if (!found.ok) throw new Error(found.reason);
  return found.value.key;
};

const illegible = ({ method }: KnotDocument): Finding[] =>
  findingsOf(method, { tail: { diameters: 1, millimetres: 0 }, cordMm: 10, words: WORKSHOP_WORDS }).filter(
    (f) => f.code === 'gaps-meet' || f.code === 'mostly-hidden',
  );

describe('Every pattern', () => {
  for (const { id, knot } of patterns())
    it(`keeps its code and its signature when it is tidied and when it is drawn tight: ${id}`, () => {
      const { figure } = knot.method;
      for (const options of [{}, DRAWN_TIGHT]) {
        const done = tidy(figure, options);
        if (!done.ok) throw new Error(done.reason);
        expect(gaussText(done.value.figure)).toBe(gaussText(figure));
        expect(key(done.value.figure)).toBe(key(figure));
      }
    });
});

describe('A knot begun from a pattern', () => {
  it('goes on to dressing, setting and checking, without a layout it cannot have', () => {
    for (const pattern of patterns()) {
      const knot = begunFrom(pattern);
      const found = findingsOf(knot.method, {
        tail: { diameters: 1, millimetres: 0 },
        cordMm: 10,
        words: WORKSHOP_WORDS,
      });
      expect(found.map((f) => f.code))
        .withContext(pattern.id)
        .not.toContain('not-finished');
      expect(layoutsOf(knot.method).length).toBe(1);
      expect(knot.method.figure).toBe(pattern.knot.method.figure);
    }
  });
  it('has a dressed layout where Tighten draws one, proved the same knot, and is a file like any other', () => {
    for (const id of TIGHTENS) {
      const pattern = patternOf(id)!;
      expect(pattern).withContext(id).toBeDefined();
      const tight = tidy(pattern.knot.method.figure, DRAWN_TIGHT);
      if (!tight.ok) throw new Error(`${id}: ${tight.reason}`);
      const knot = begunFrom(pattern, tight.value);
      expect(layoutsOf(knot.method).map((l) => l.name)).toEqual(['Open', 'Dressed']);
      expect(relayProofs(knot.method)[0]!.same).withContext(id).toBeTrue();
      expect(layoutFindings(knot.method)).toEqual([]);
      expect(stepsOf(knot.method).at(-1)!.layout).toBe(1);
      expect(readKnot(JSON.parse(JSON.stringify(writeKnot(knot)))).ok).toBeTrue();
      expect(illegible(knot)).withContext(id).toEqual([]);
    }
  });
  it('is an error when it is drawn tight so that its rope is cut to pieces by its own gaps', () => {
    for (const id of ['prusik', 'butterfly', 'double-overhand']) {
      const pattern = patternOf(id)!;
      const tight = tidy(pattern.knot.method.figure, DRAWN_TIGHT);
      if (!tight.ok) throw new Error(`${id}: ${tight.reason}`);
      const found = illegible(begunFrom(pattern, tight.value));
      expect(found.length).withContext(id).toBeGreaterThan(0);
      for (const f of found) {
        expect([f.severity, f.layout]).toEqual(['error', 1]);
        expect(f.place).toBeDefined();
      }
      // The open figure of the book can be read.
      expect(illegible(begunFrom(pattern)))
        .withContext(id)
        .toEqual([]);
    }
  });
});
