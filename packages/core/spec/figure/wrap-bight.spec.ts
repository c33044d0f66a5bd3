/**
 * Turns of a bight: both legs go round side by side, and stay one object.
 */
import fc from 'fast-check';
import {
  applyEdit,
  changeMethod,
  crossingsOf,
  figureAtStep,
  findingsOf,
  gaussText,
  methodFor,
  passagesOf,
  readKnot,
  readWeave,
  sharpBends,
  signatureOf,
  SPACINGS,
  WORKSHOP_WORDS,
  writeKnot,
  blankKnot,
  type Edit,
  type Figure,
  type Method,
} from '../../src/index.js';
import { EMPTY, go, rope, SPAR as ACROSS } from '../support/figures.js';

const SPAR = {
  id: 's',
  kind: 'spar' as const,
  points: [
    [-60, 0],
    [60, 0],
  ] as [number, number][],
};
/** A rope along a spar, a bight drawn out of it toward the spar, and where its legs are. */
function drawn(): Method {
  const figure: Figure = {
    ropes: [
      rope(
        'a',
        [
          [-30, 14],
          [-10, 14],
          [10, 14],
          [30, 14],
        ],
        { ends: ['standing', 'standing'] },
      ),
    ],
    hosts: [SPAR],
  };
  const done = changeMethod(methodFor(figure), 0, {
    kind: 'bight',
    rope: 'a',
    at: 1.4,
    points: [
      [-2, 9],
      [-2, 5],
    ],
    pass: 'OO',
  });
  if (!done.ok) throw new Error(done.reason);
  return done.value;
}
const bightOf = (method: Method): { readonly from: number; readonly to: number } =>
  method.leaders.find((l) => l.kind === 'bight') as { kind: 'bight'; rope: string; from: number; to: number };
const wrap = (turns: number, more: object = {}): Edit => ({
  kind: 'wrap-bight',
  rope: 'a',
  ...(({ from, to }) => ({ from, to }))(bightOf(drawn())),
  about: [{ strand: 's', at: 0.48 }],
  turns,
  ...more,
});
const letters = (f: Figure): string =>
  passagesOf(f, 'a')
    .map((p) => (p.over ? 'O' : 'U'))
    .join('');
const key = (f: Figure): string => {
  const found = signatureOf(f);
  if (!found.ok) throw new Error(found.reason);
  return found.value.key;
};

describe('turns of a bight', () => {
  it('take both legs round, over in front and under behind, and cross nothing else', () => {
    for (const turns of [1, 2, 3, 4]) {
      const f = go(drawn().figure, wrap(turns));
      expect(crossingsOf(f).length)
        .withContext(String(turns))
        .toBe(4 * turns);
      expect(crossingsOf(f).every((c) => c.second.strand === 's')).toBeTrue();
      const out = 'OU'.repeat(turns);
      expect(letters(f)).toBe(out + out.split('').reverse().join(''));
      const behind = go(drawn().figure, wrap(turns, { first: 'U' }));
      expect(letters(behind)).toBe(letters(f).replace(/[OU]/g, (c) => (c === 'O' ? 'U' : 'O')));
    }
  });
  it('counted from n to m are the turns that m would have been, and keep what leads to them', () => {
    for (const [n, m] of [
      [1, 3],
      [4, 2],
      [2, 2],
    ] as const) {
      const f = go(drawn().figure, wrap(n));
      const changed = go(f, { kind: 'rewrap', rope: 'a', wrap: 0, turns: m });
      const direct = go(drawn().figure, wrap(m));
      expect(gaussText(changed)).toBe(gaussText(direct));
      expect(key(changed)).toBe(key(direct));
      expect(changed.ropes[0]!.points.at(-1)).toEqual([30, 14]);
      expect(changed.ropes[0]!.wraps).toEqual(direct.ropes[0]!.wraps);
      changed.ropes[0]!.points.forEach((p, i) =>
        p.forEach((v, k) => expect(v).toBeCloseTo(direct.ropes[0]!.points[i]![k]!, 6)),
      );
    }
  });
  it('unlike the turns of an end come off when the bight is let go: the rope is plain again', () => {
    expect(key(go(go(drawn().figure, wrap(2)), { kind: 'remove-host', host: 's' }))).toBe(
      key(go(drawn().figure, { kind: 'remove-host', host: 's' })),
    );
  });
  it('belong to the bight’s leader: drawn back it has none of them, half drawn out it is a figure', () => {
    const before = drawn();
    const done = changeMethod(before, 0, wrap(2));
    if (!done.ok) throw new Error(done.reason);
    let method = done.value;
    const leader = method.leaders.findIndex((l) => l.kind === 'bight');
    const { from, to } = bightOf(method);
    expect(to - from).toBeGreaterThan(bightOf(before).to - bightOf(before).from);
    for (const edit of [
      { kind: 'place-halt' as const, leader: 0, at: Infinity },
      { kind: 'place-halt' as const, leader, at: from + (to - from) / 4 },
      { kind: 'place-halt' as const, leader, at: Infinity },
    ]) {
      const next = changeMethod(method, 0, edit);
      if (!next.ok) throw new Error(next.reason);
      method = next.value;
    }
    const counts = [0, 1, 2].map((k) => {
      const f = figureAtStep(method, k);
      expect(readWeave(JSON.parse(JSON.stringify(f)) as Figure).ok).toBeTrue();
      return crossingsOf(f).length;
    });
    expect(counts[0]).toBe(0);
    expect(counts[1]).toBeGreaterThan(0);
    expect(counts[2]).toBe(8);
  });
  it('are kept in a file as one object, and refused where there is no bight', () => {
    const figure = go(drawn().figure, wrap(3));
    const read = readKnot(JSON.parse(JSON.stringify(writeKnot({ ...blankKnot('Turns'), method: methodFor(figure) }))));
    expect(read.ok && read.value.method.figure.ropes[0]!.wraps).toEqual(figure.ropes[0]!.wraps);
    expect(figure.ropes[0]!.wraps![0]!.bight).toBeTrue();
    expect(applyEdit(drawn().figure, { ...wrap(2), from: 3, to: 3 } as Edit).ok).toBeFalse();
    expect(applyEdit(drawn().figure, { ...wrap(2), turns: 0 } as Edit).ok).toBeFalse();
    expect(applyEdit(drawn().figure, { ...wrap(2), about: [] } as Edit).ok).toBeFalse();
  });
});

describe('What the tools lay', () => {
  it('is never called a kink: a bight wherever it is drawn out, and turns at any spacing', () => {
    const line: Figure = {
      ropes: [
        rope('a', [
          [-30, 0],
          [-10, 0],
          [10, 0],
          [30, 0],
        ]),
      ],
      hosts: [],
    };
    const apex = fc.tuple(fc.integer({ min: -6, max: 6 }), fc.integer({ min: 6, max: 14 }));
    fc.assert(
      fc.property(apex, fc.integer({ min: 12, max: 18 }), (to, at) => {
        const method = methodFor(line);
        const done = changeMethod(method, 0, { kind: 'bight', rope: 'a', at: at / 10, points: [to], pass: 'O' });
        if (!done.ok) throw new Error(done.reason);
        const found = findingsOf(done.value, {
          tail: { diameters: 1, millimetres: 0 },
          cordMm: 10,
          words: WORKSHOP_WORDS,
        });
        expect(found.map((f) => f.code)).not.toContain('sharp-bend');
      }),
      { numRuns: 30 },
    );
    const spar = go(EMPTY, ACROSS, {
      kind: 'add-rope',
      rope: rope('a', [
        [-20, 14],
        [-10, 8],
      ]),
    });
    for (const spacing of [SPACINGS.least, 2, SPACINGS.usual, SPACINGS.most])
      for (const turns of [1, 2.5, 6]) {
        const wrapped = go(spar, { kind: 'wrap', rope: 'a', about: [{ strand: 'spar', at: 0.4 }], turns, spacing });
        expect(sharpBends(wrapped)).withContext(`${turns} turns at ${spacing}`).toEqual([]);
      }
    // Bent by hand so that it would lie within itself, a rope kinks.
    const bent = go(line, { kind: 'move-point', strand: 'a', index: 1, to: [14, 0.5] });
    expect(sharpBends(bent).length).toBeGreaterThan(0);
  });
});
