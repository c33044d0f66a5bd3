import fc from 'fast-check';
import {
  changeMethod,
  composeStep,
  crossingsOf,
  curveOf,
  extentsAt,
  figureAtStep,
  laidPassages,
  passesOf,
  lastAt,
  methodFor,
  pointAt,
  readWeave,
  stepText,
  truncate,
  WORKSHOP_WORDS,
  distance,
  type Figure,
  type Method,
  type LayoutEdit,
} from '../../src/index.js';
import { edited as ok, anyFigure, drawnFiles, drawnKnot, rope } from '../support/figures.js';

describe('truncation', () => {
  it('at any place is a valid figure with exactly the crossings that are laid', () => {
    fc.assert(
      fc.property(anyFigure, fc.double({ min: 0.02, max: 1, noNaN: true }), (figure, t) => {
        const method = methodFor(figure);
        const a = figure.ropes[0]!;
        const at = t * lastAt(a);
        // A cut in the middle of a crossing belongs to neither side.
        fc.pre(
          laidPassages(figure, new Map(), 'a').every(
            (p) => distance(pointAt(curveOf(a), p.at), pointAt(curveOf(a), at)) > 0.05,
          ),
        );
        const extents = extentsAt(method, 0, at);
        const part = truncate(figure, extents);
        const copy = JSON.parse(JSON.stringify(part)) as Figure;
        expect(readWeave(copy).ok).toBeTrue();
        const expected = laidPassages(figure, extents, 'a');
        expect(part.ropes[0]!.weave).toBe(expected.map((p) => (p.over ? 'O' : 'U')).join(''));
      }),
    );
  });
  it('at every halt of every demo knot is a valid figure', () => {
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      method.halts.forEach((_, k) =>
        expect(readWeave(JSON.parse(JSON.stringify(figureAtStep(method, k))) as Figure).ok)
          .withContext(`${file}, step ${k + 1}`)
          .toBeTrue(),
      );
      expect(crossingsOf(figureAtStep(method, method.halts.length - 1)).length).toBe(crossingsOf(method.figure).length);
    }
  });
});

describe('the composer', () => {
  const text = (file: string, step: number): string => composeStep(drawnKnot(file).method, step, WORKSHOP_WORDS).text;
  it('names the loop that is made, and going through it', () => {
    expect(text('overhand.json', 0)).toBe('Take the working end over the standing part to make an overhand loop.');
    expect(text('overhand.json', 1)).toMatch(/^Take the working end up through the loop\b/);
  });
  it('names an underhand loop and going down through it when every crossing is swapped', () => {
    let { method } = drawnKnot('overhand.json');
    for (const c of crossingsOf(method.figure)) method = ok(method, { kind: 'swap', where: c.over });
    expect(composeStep(method, 0, WORKSHOP_WORDS).text).toContain('underhand loop');
    expect(composeStep(method, 1, WORKSHOP_WORDS).text).toContain('down through the loop');
  });
  it('says behind for a host and counts legs of a bight', () => {
    expect(text('clove-hitch.json', 0)).toContain('over the spar and round behind it');
    expect(text('reef.json', 0)).toBe('Double the pale rope back to make a bight.');
    expect(text('reef.json', 1)).toContain('up through the bight');
    expect(text('reef.json', 2)).toContain('round behind both legs of the bight');
  });
  it('speaks the vocabulary it is given', () => {
    const words = { ...WORKSHOP_WORDS, workingEnd: 'running end', standingPart: 'lead' };
    expect(composeStep(drawnKnot('figure-eight.json').method, 1, words).text).toMatch(
      /^Take the running end round behind the lead, from /,
    );
  });
  it('agrees with the weave: its moves pass what the end passes, over and under, in that order', () => {
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      method.halts.forEach((halt, k) => {
        const { crossings, moves } = composeStep(method, k, WORKSHOP_WORDS);
        const extents = extentsAt(method, halt.leader, halt.at);
        const rope = method.leaders[halt.leader]!.rope;
        const from = method.halts[k - 1]?.leader === halt.leader ? method.halts[k - 1]!.at : 0;
        const passed = laidPassages(method.figure, extents, rope).filter(
          (p) => p.at > from && (p.other.strand !== rope || p.other.at < p.at),
        );
        expect(crossings.length)
          .withContext(`${file} ${k + 1}`)
          .toBe(passed.length);
        expect(passesOf(moves))
          .withContext(`${file} ${k + 1}`)
          .toBe(passed.map((p) => (p.over ? 'O' : 'U')).join(''));
      });
    }
  });
});

describe('a method', () => {
  const method = (): Method =>
    methodFor({
      ropes: [
        rope('a', [
          [0, 0],
          [5, 0],
          [10, 0],
          [15, 0],
        ]),
      ],
      hosts: [],
    });
  it('keeps halts in the order of tying and texts with their halts', () => {
    let m = ok(method(), { kind: 'place-halt', leader: 0, at: 2.5 });
    m = ok(m, { kind: 'set-text', index: 0, text: 'Second.' });
    m = ok(m, { kind: 'place-halt', leader: 0, at: 1 });
    expect(m.halts.map((h) => h.at)).toEqual([1, 2.5]);
    expect(stepText(m, 1, WORKSHOP_WORDS)).toBe('Second.');
    expect(stepText(ok(m, { kind: 'set-text', index: 1, text: undefined }), 1, WORKSHOP_WORDS)).not.toBe('Second.');
  });
  it('keeps a halt on its strand through edits of the figure', () => {
    const m = ok(method(), { kind: 'place-halt', leader: 0, at: 2.5 });
    expect(ok(m, { kind: 'insert-point', strand: 'a', at: 0.5 }).halts[0]!.at).toBeCloseTo(3.5, 9);
    expect(ok(m, { kind: 'remove-point', strand: 'a', index: 0 }).halts[0]!.at).toBeCloseTo(1.5, 9);
    expect(ok(m, { kind: 'reverse', rope: 'a' }).halts[0]!.at).toBeCloseTo(0.5, 9);
    expect(ok(m, { kind: 'remove-rope', rope: 'a' })).toEqual(jasmine.objectContaining({ halts: [], leaders: [] }));
  });
  it('moves a halt no farther than its neighbours and the ends of its rope', () => {
    let m = ok(ok(method(), { kind: 'place-halt', leader: 0, at: 1 }), { kind: 'place-halt', leader: 0, at: 2 });
    m = ok(m, { kind: 'move-halt', index: 0, at: 9 });
    expect(m.halts[0]!.at).toBeLessThan(2);
    expect(ok(m, { kind: 'move-halt', index: 1, at: 99 }).halts[1]!.at).toBe(3);
  });
  it('is never changed by an edit: what was there stays for undo', () => {
    const m = ok(method(), { kind: 'place-halt', leader: 0, at: 2 });
    const before = structuredClone(m);
    const edits: LayoutEdit[] = [
      { kind: 'set-text', index: 0, text: 'x' },
      { kind: 'remove-step', index: 0 },
      { kind: 'move-halt', index: 0, at: 1 },
      { kind: 'remove-point', strand: 'a', index: 3 },
    ];
    for (const edit of edits) {
      expect(ok(m, edit)).withContext(edit.kind).not.toEqual(before);
      expect(m).withContext(edit.kind).toEqual(before);
    }
    // A layout tried out on a copy takes the place of the layout.
    expect(ok(m, { kind: 'take-layout', layout: ok(m, edits[0]!) }).halts[0]!.text).toBe('x');
  });
  it('refuses halts and texts that cannot be', () => {
    expect(changeMethod(method(), 0, { kind: 'place-halt', leader: 3, at: 1 }).ok).toBeFalse();
    expect(changeMethod(method(), 0, { kind: 'place-halt', leader: 0, at: 0 }).ok).toBeFalse();
    const m = ok(method(), { kind: 'place-halt', leader: 0, at: 1 });
    expect(changeMethod(m, 0, { kind: 'place-halt', leader: 0, at: 1 }).ok).toBeFalse();
    expect(changeMethod(m, 0, { kind: 'set-text', index: 0, text: 'x'.repeat(601) }).ok).toBeFalse();
  });
});
