import * as laurent from '../../src/topology/laurent.js';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import {
  backView,
  checkPd,
  crossingsOf,
  figureClosure,
  mirror,
  pdJones,
  pdOf,
  planarMap,
  readKnot,
  skeinVector,
  tangleOf,
  vectorData,
  signatureOf,
  weaveFigure,
  type Figure,
  type LiftSide,
} from '../../src/index.js';
import { anyFigure, isReadable, drawnFiles, drawnKnot, HOSTS, oneRope, rope, throughRope } from '../support/figures.js';

interface Expected {
  readonly lifts: Record<string, LiftSide>;
  readonly edge: string[];
  readonly vector: { pairs: [string, string][]; poly: Record<string, number | string> }[];
}
interface VectorFile {
  readonly figure: unknown;
  readonly expected: { crossings: number; first: Expected; second: Expected };
}

/** Order does not matter in a vector, nor within its pairs. */
const plain = (
  v: readonly {
    readonly pairs: readonly (readonly [string, string])[];
    readonly poly: Record<string, number | string>;
  }[],
): string[] =>
  v.map((t) => JSON.stringify([t.pairs.map((p) => [...p].sort()).sort(), Object.entries(t.poly).sort()])).sort();

describe('skein vectors worked out independently', () => {
  for (const name of ['overhand', 'reef', 'clove-spar', 'bowline-inside']) {
    it(`pin the conventions: ${name}`, () => {
      const file = JSON.parse(readFileSync(new URL(`../vectors/${name}.json`, import.meta.url), 'utf8')) as VectorFile;
      const read = readKnot(file.figure);
      if (!read.ok) {
        fail(read.reason);
        return;
      }
      const { figure } = read.value.method;
      expect(crossingsOf(figure).length).toBe(file.expected.crossings);
      for (const [which, expected] of [
        ['first', file.expected.first],
        ['second', file.expected.second],
      ] as const) {
        const tangle = tangleOf(figure, new Map(Object.entries(expected.lifts)));
        const [start, ...rest] = tangle.rim.map((p) => p.label);
        // The first is read counterclockwise, the second clockwise.
        expect([start, ...(which === 'first' ? rest : rest.reverse())]).toEqual(expected.edge);
        expect(plain(vectorData(skeinVector(tangle)))).toEqual(plain(expected.vector));
      }
    });
  }
});

describe('a rope parted by its eye', () => {
  it('has its tail lifted beside the cut that it comes from', () => {
    // The eye lies before all crossings: what comes before it is a rope by itself.
    const ring = HOSTS.find((h) => h.kind === 'ring')!;
    const into = rope('a', [
      [-30, 0.3],
      [-12, 0.2],
      [0, 0],
    ]);
    const figure = weaveFigure({ ropes: [{ ...into, eyes: [0.2] }], hosts: [ring] }, () => true);
    const read = skeinVector(tangleOf(figure));
    expect(
      tangleOf(figure)
        .rim.map((p) => p.label)
        .sort(),
    ).toEqual(['a.e0a', 'a.e0b', 'a.s', 'a.t']);
    expect(read.length).toBeGreaterThan(0);
    expect(signatureOf(figure).ok).toBeTrue();
    expect(signatureOf(backView(figure)).ok).toBeTrue();
  });
});

describe('lifting a tail', () => {
  it('gives one vector whichever way it takes', () => {
    fc.assert(
      fc.property(
        anyFigure.filter(isReadable),
        fc.array(fc.nat(20), { minLength: 60, maxLength: 60 }),
        fc.boolean(),
        (figure, picks, over) => {
          const sides = new Map<string, LiftSide>([
            ['a', over ? 'over' : 'under'],
            ['b', over ? 'under' : 'over'],
          ]);
          let n = 0;
          const other = tangleOf(figure, sides, (ways) => picks[(n += 1) % picks.length]! % ways);
          expect(plain(vectorData(skeinVector(other)))).toEqual(
            plain(vectorData(skeinVector(tangleOf(figure, sides)))),
          );
        },
      ),
      { numRuns: 60 },
    );
  });

  it('exchanges over and under in the back view', () => {
    fc.assert(
      fc.property(oneRope, (figure) => {
        const vector = (f: Figure, side: LiftSide): string[] =>
          plain(vectorData(skeinVector(tangleOf(f, new Map([['a', side]])))));
        expect(vector(backView(figure), 'over')).toEqual(vector(figure, 'under'));
        expect(vector(backView(figure), 'under')).toEqual(vector(figure, 'over'));
      }),
      { numRuns: 60 },
    );
  });
});

describe('the planar map', () => {
  it('has a left face for every dart and one outer face for every part', () => {
    fc.assert(
      fc.property(anyFigure, (figure) => {
        const map = planarMap(figure);
        expect(map.faceOf.every((f) => f >= 0)).toBeTrue();
        expect(map.faces.filter((f) => f.outer).length).toBe(map.parts);
        expect(map.faces.reduce((n, f) => n + f.darts.length, 0)).toBe(2 * map.edges.length);
      }),
    );
  });
});

describe('views', () => {
  const jones = (f: Figure): laurent.Laurent => {
    const c = figureClosure(f);
    return c.ok ? c.jones : laurent.ZERO;
  };
  it('back keeps the Jones polynomial of one rope, mirror inverts it', () => {
    fc.assert(
      fc.property(throughRope, (figure) => {
        expect(laurent.equal(jones(backView(figure)), jones(figure))).toBeTrue();
        expect(laurent.equal(jones(mirror(figure)), laurent.inverted(jones(figure)))).toBeTrue();
      }),
      { numRuns: 60 },
    );
  });
  it('keep and invert it for every demo knot', () => {
    for (const file of drawnFiles) {
      const { figure } = drawnKnot(file).method;
      expect(laurent.equal(jones(mirror(figure)), laurent.inverted(jones(figure))))
        .withContext(file)
        .toBeTrue();
      expect(laurent.equal(jones(backView(backView(figure))), jones(figure)))
        .withContext(file)
        .toBeTrue();
    }
  });
});

describe('PD codes', () => {
  it('of a closed figure are valid and give its Jones polynomial', () => {
    fc.assert(
      fc.property(oneRope, (figure) => {
        const c = figureClosure(figure);
        if (!c.ok) return;
        const code = pdOf(c.tangle, c.closure);
        expect(checkPd(code).ok).toBeTrue();
        if (code.length > 0) expect(laurent.equal(pdJones(code), c.jones)).toBeTrue();
      }),
      { numRuns: 60 },
    );
  });
  it('that are broken are refused with their place', () => {
    expect(checkPd([[1, 2, 3]])).toEqual(jasmine.objectContaining({ ok: false, place: 'PD code, crossing 1' }));
    expect(checkPd([[1, 2, 3, 4]])).toEqual(jasmine.objectContaining({ ok: false, place: 'PD code, edge 1' }));
  });
});
