import {
  changeMethod,
  DRAWN_TIGHT,
  findingsOf,
  gaussText,
  layoutsOf,
  methodFor,
  methodsOf,
  readKnot,
  signatureOf,
  tidy,
  WORKSHOP_WORDS,
  writeKnot,
  type Figure,
  type Finding,
  type Method,
} from '@foxtrail/core';
import { begunFrom, patterns } from '../src/index.js';
import { SOURCES } from '../src/sources.js';

const key = (f: Figure): string => {
  const found = signatureOf(f);
  if (!found.ok) throw new Error(found.reason);
  return found.value.key;
};

const illegible = (method: Method): Finding[] =>
  findingsOf(method, { tail: { diameters: 1, millimetres: 0 }, cordMm: 10, words: WORKSHOP_WORDS }).filter(
    (f) => f.code === 'gaps-meet' || f.code === 'mostly-hidden',
  );

describe('Every pattern', () => {
  for (const { id, figure: laid, drawn } of SOURCES)
    it(`keeps its code and its signature when it is tidied and when it is drawn tight: ${id}`, () => {
      const figure = laid();
      for (const options of [{}, DRAWN_TIGHT]) {
        const done = tidy(figure, options);
        // What is drawn by hand as rope lies may not be drawn more evenly: then it stays as it is.
        if (!done.ok && drawn) {
          expect(done.reason).toMatch(/more evenly/);
          continue;
        }
        if (!done.ok) throw new Error(done.reason);
        expect(gaussText(done.value.figure)).toBe(gaussText(figure));
        expect(key(done.value.figure)).toBe(key(figure));
      }
    });
});

describe('A knot begun from a pattern', () => {
  it('goes on to dressing, setting and checking, whichever way it is tied, without a layout it cannot have', () => {
    const rules = { tail: { diameters: 1, millimetres: 0 }, cordMm: 10, words: WORKSHOP_WORDS };
    for (const pattern of patterns()) {
      const knot = begunFrom(pattern);
      expect(methodsOf(knot).map((way) => way.name)).toEqual(methodsOf(pattern.knot).map((way) => way.name));
      for (const { name, method } of methodsOf(knot))
        expect(findingsOf(method, rules).map((f) => f.code))
          .withContext(`${pattern.id}, ${name}`)
          .not.toContain('not-finished');
      expect(layoutsOf(knot.method).length).toBe(1);
      expect(knot.method.figure).toBe(pattern.knot.method.figure);
    }
  });
  it('is a file like any other, and each of its crossings can be read', () => {
    for (const pattern of patterns()) {
      const knot = begunFrom(pattern);
      expect(readKnot(JSON.parse(JSON.stringify(writeKnot(knot)))).ok).toBeTrue();
      expect(illegible(knot.method)).withContext(pattern.id).toEqual([]);
    }
  });
  it('is an error when it is drawn tight so that its rope is cut to pieces by its own gaps', () => {
    for (const id of ['butterfly', 'slipped-reef']) {
      const laid = SOURCES.find((s) => s.id === id)!.figure();
      const tight = tidy(laid, DRAWN_TIGHT);
      if (!tight.ok) throw new Error(`${id}: ${tight.reason}`);
      const twice = changeMethod(methodFor(laid), 0, { kind: 'add-layout', name: 'Dressed' });
      const dressed = twice.ok && changeMethod(twice.value, 1, { kind: 'redraw', ...tight.value });
      if (!dressed || !dressed.ok) throw new Error(`${id} could not be dressed`);
      const found = illegible(dressed.value).filter((f) => f.layout === 1);
      expect(found.length).withContext(id).toBeGreaterThan(0);
      for (const f of found) {
        expect(f.severity).toBe('error');
        expect(f.place).toBeDefined();
      }
    }
  });
});
