import fc from 'fast-check';
import {
  applyEdit,
  crossingsOf,
  EMPTY_FIGURE,
  invertMapping,
  lastAt,
  mapPosition,
  meetings,
  passagesOf,
  readWeave,
  type Edit,
  type Figure,
  type Point,
} from '../../src/index.js';
import { editOf } from '../support/edits.js';
import { anyFigure, drawnKnot, rope } from '../support/figures.js';

const figureAndEdit = anyFigure.chain((figure) => fc.record({ figure: fc.constant(figure), edit: editOf(figure) }));

describe('an edit', () => {
  it('leaves a weave that reads, and never changes what it was given', () => {
    fc.assert(
      fc.property(figureAndEdit, ({ figure, edit }) => {
        const before = JSON.stringify(figure);
        const done = applyEdit(figure, edit);
        expect(JSON.stringify(figure)).toBe(before);
        if (!done.ok) return;
        const { figure: after } = done.value;
        const near = meetings(after).some((m, i, all) =>
          all.slice(i + 1).some((n) => Math.hypot(m.point[0] - n.point[0], m.point[1] - n.point[1]) < 0.03),
        );
        fc.pre(!near);
        // Read it anew from a copy, so that nothing remembered helps.
        expect(readWeave(JSON.parse(JSON.stringify(after)) as Figure).ok).toBeTrue();
      }),
    );
  });

  it('maps positions forth and back', () => {
    fc.assert(
      fc.property(figureAndEdit, fc.double({ min: 0, max: 1, noNaN: true }), ({ figure, edit }, t) => {
        const done = applyEdit(figure, edit);
        if (!done.ok) return;
        const there = { strand: 'a', at: t * lastAt(figure.ropes[0]!) };
        const mapped = mapPosition(done.value.mapping, there);
        if (!mapped) return;
        const back = mapPosition(invertMapping(done.value.mapping), mapped);
        expect(back?.at).toBeCloseTo(there.at, 6);
      }),
    );
  });
});

describe('moving a point', () => {
  /** The order in which the ropes meet the crossings, over and under left out: unchanged when a movement changes no crossing. */
  const shape = (f: Figure): string =>
    f.ropes
      .map((r) =>
        passagesOf(f, r.id)
          .map((p) => `${p.crossing.number}${p.crossing.turn}`)
          .join(),
      )
      .join('|');

  it('never swaps a crossing that survives', () => {
    fc.assert(
      fc.property(
        anyFigure,
        fc.nat(7),
        fc.double({ min: -0.2, max: 0.2, noNaN: true }),
        fc.double({ min: -0.2, max: 0.2, noNaN: true }),
        (figure, i, dx, dy) => {
          const a = figure.ropes[0]!;
          const index = i % a.points.length;
          const p = a.points[index]!;
          const done = applyEdit(figure, { kind: 'move-point', strand: 'a', index, to: [p[0] + dx, p[1] + dy] });
          if (!done.ok) return;
          fc.pre(shape(done.value.figure) === shape(figure));
          expect(done.value.figure.ropes.map((r) => r.weave)).toEqual(figure.ropes.map((r) => r.weave));
        },
      ),
    );
  });

  it('away and back along the way it came keeps a knot, when no crossing was lost', () => {
    const { figure } = drawnKnot('figure-eight.json').method;
    let now = figure;
    const start = figure.ropes[0]!.points[7]!;
    for (const to of [[start[0] + 1, start[1] - 1.5], [start[0] + 2, start[1] - 4], start] as Point[]) {
      const done = applyEdit(now, { kind: 'move-point', strand: 'a', index: 7, to });
      if (!done.ok) {
        fail(done.reason);
        return;
      }
      expect(crossingsOf(done.value.figure).length).toBe(4);
      now = done.value.figure;
    }
    expect(now).toEqual(figure);
  });
});

describe('laying', () => {
  const start = (): Figure => ({
    ...EMPTY_FIGURE,
    ropes: [
      rope('a', [
        [-10, 0],
        [0, 0],
        [10, 0],
        [10, -5],
        [0, -5],
      ]),
    ],
  });
  const lay = (pass: string): string | undefined => {
    const done = applyEdit(start(), { kind: 'lay', rope: 'a', points: [[0, 5]], pass });
    return done.ok ? done.value.figure.ropes[0]!.weave : undefined;
  };
  it('passes over by default and under when asked', () => {
    expect(lay('O')).toBe('UO');
    expect(lay('U')).toBe('OU');
  });
  it('refuses what is not a place, too near, or beyond the limits, with place and remedy', () => {
    const say = (edit: Edit): unknown => applyEdit(start(), edit);
    const refusal = (place: string): jasmine.ObjectContaining<{ ok: boolean; place: string; remedy: string }> =>
      jasmine.objectContaining({ ok: false, place, remedy: jasmine.stringMatching(/\.$/) });
    expect(say({ kind: 'lay', rope: 'a', points: [[NaN, 0]], pass: 'O' })).toEqual(refusal('rope a'));
    expect(say({ kind: 'lay', rope: 'a', points: [[0, -5]], pass: 'O' })).toEqual(refusal('rope a'));
    expect(say({ kind: 'lay', rope: 'q', points: [[0, 0]], pass: 'O' })).toEqual(refusal('q'));
    expect(
      say({
        kind: 'lay',
        rope: 'a',
        points: Array.from({ length: 2001 }, (_, i): Point => [i % 300, i / 300]),
        pass: 'O',
      }),
    ).toEqual(refusal('rope a'));
    expect(say({ kind: 'move-point', strand: 'a', index: 99, to: [0, 0] })).toEqual(refusal('a, point 99'));
    expect(say({ kind: 'swap', where: { strand: 'a', at: 1 } })).toEqual(refusal('a at 1.00'));
    expect(say({ kind: 'remove-point', strand: 'nobody', index: 0 })).toEqual(refusal('nobody'));
  });
});

describe('reversing a rope', () => {
  it('turns its weave and ends round and keeps every crossing', () => {
    fc.assert(
      fc.property(anyFigure, (figure) => {
        const done = applyEdit(figure, { kind: 'reverse', rope: 'a' });
        if (!done.ok) {
          fail(done.reason);
          return;
        }
        const a = done.value.figure.ropes[0]!;
        expect(a.weave).toBe(Array.from(figure.ropes[0]!.weave).reverse().join(''));
        expect(a.ends).toEqual(['tail', 'standing']);
        // The sign of a crossing of the rope with itself does not depend on its direction; with another strand it turns.
        const signs = (f: Figure): number =>
          crossingsOf(f).reduce((sum, c) => sum + (c.first.strand === c.second.strand ? c.sign : 0), 0);
        expect(signs(done.value.figure)).toBe(signs(figure));
      }),
    );
  });
});
