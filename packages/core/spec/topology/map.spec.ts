import * as laurent from '../../src/topology/laurent.js';
import {
  closesFlat,
  closeTangle,
  crossingsOf,
  endIsInside,
  figureClosure,
  naturalClosure,
  planarMap,
  skeinVector,
  tangleOf,
  vectorData,
  weaveFigure,
  windingAbout,
  type Figure,
  type Host,
} from '../../src/index.js';
import { drawnKnot, rope } from '../support/figures.js';

const spar: Host = {
  id: 'spar',
  kind: 'spar',
  points: [
    [-40, 0],
    [40, 0],
  ],
};

/** A rope that goes round a spar n times as a spring does: in front going up, behind coming down. */
function coil(n: number): Figure {
  const points: [number, number][] = [[0, 12]];
  for (let i = 0; i < n; i += 1) {
    points.push([3 * i, -3], [3 * i + 1.5, -3], [3 * i + 1.5, 3], [3 * i + 3, 3]);
  }
  points.push([3 * n, -12]);
  return weaveFigure({ ropes: [rope('a', points, { curve: 'straight' })], hosts: [spar] }, (m) => m.turn === 1);
}

describe('faces', () => {
  it('of an overhand are its three inner regions and the outside', () => {
    const { faces } = planarMap(drawnKnot('overhand.json').method.figure);
    expect(faces.filter((f) => !f.outer).length).toBe(3);
    expect(faces.filter((f) => f.outer).length).toBe(1);
  });
  it('number as Euler says: two more than crossings for a closed curve, one fewer inner for an open one', () => {
    for (const file of ['overhand.json', 'figure-eight.json']) {
      const { figure } = drawnKnot(file).method;
      expect(planarMap(figure).faces.length).toBe(crossingsOf(figure).length + 1);
    }
    const ring = weaveFigure(
      {
        ropes: [
          rope(
            'r',
            [
              [-5, 0],
              [0, -5],
              [5, 0],
              [0, 5],
            ],
            { closed: true, ends: ['off', 'off'] },
          ),
          rope(
            's',
            [
              [-1, 0],
              [4, -5],
              [9, 0],
              [4, 5],
            ],
            { closed: true, ends: ['off', 'off'] },
          ),
        ],
        hosts: [],
      },
      (_, i) => i === 0,
    );
    expect(planarMap(ring).faces.length).toBe(4);
  });
  it('tell an end that is shut in from one that is free', () => {
    const { figure } = drawnKnot('overhand.json').method;
    expect(endIsInside(figure, 'a', figure.ropes[0]!.points.length - 1)).toBeFalse();
    const shut = weaveFigure(
      {
        ropes: [
          rope(
            'a',
            [
              [-20, 0],
              [9, 0],
              [9, -9],
              [0, -9],
              [0, 3],
              [4, 3],
              [4, -4],
            ],
            { curve: 'straight' },
          ),
        ],
        hosts: [],
      },
      () => true,
    );
    expect(endIsInside(shut, 'a', 6)).toBeTrue();
    expect(endIsInside(shut, 'a', 0)).toBeFalse();
  });
});

describe('linking', () => {
  it('of two closed ropes is the Hopf link when each goes through the other, and two rings when one lies on the other', () => {
    const rings = (first: (i: number) => boolean): Figure =>
      weaveFigure(
        {
          ropes: [
            rope(
              'r',
              [
                [-5, 0],
                [0, -5],
                [5, 0],
                [0, 5],
              ],
              { closed: true, ends: ['off', 'off'] },
            ),
            rope(
              's',
              [
                [-1, 0],
                [4, -5],
                [9, 0],
                [4, 5],
              ],
              { closed: true, ends: ['off', 'off'] },
            ),
          ],
          hosts: [],
        },
        (_, i) => first(i),
      );
    const jones = (f: Figure): laurent.Laurent => closeTangle(tangleOf(f), []).jones;
    // With no rim every curve is counted, the last one too.
    expect(laurent.equal(jones(rings(() => true)), laurent.loops(2))).toBeTrue();
    expect(laurent.equal(jones(rings((i) => i === 0)), laurent.loops(2))).toBeFalse();
  });
});

describe('windings about a spar', () => {
  it('are counted and signed', () => {
    for (const n of [1, 2, 3]) expect(Math.abs(windingAbout(coil(n), 'a', 'spar'))).toBe(n + 0.5);
  });
  it('cancel when the rope only lies over it', () => {
    const over = weaveFigure(
      {
        ropes: [
          rope(
            'a',
            [
              [-6, 9],
              [-6, -5],
              [6, -5],
              [6, 9],
            ],
            { curve: 'straight' },
          ),
        ],
        hosts: [spar],
      },
      () => true,
    );
    expect(windingAbout(over, 'a', 'spar')).toBe(0);
    // Nothing holds it: the vector is that of two strands that do not meet.
    expect(vectorData(skeinVector(tangleOf(over)))).toEqual([
      {
        pairs: [
          ['a.s', 'a.t'],
          ['spar.L', 'spar.R'],
        ],
        poly: { '0': 1 },
      },
    ]);
  });
});

describe('closing', () => {
  it('joins one rope end to end, two ropes standing to standing, a spar with itself', () => {
    const labels = (file: string): string =>
      JSON.stringify(naturalClosure(tangleOf(drawnKnot(file).method.figure, 'held')));
    expect(labels('overhand.json')).toBe('[["a.s","a.t"]]');
    expect(labels('reef.json')).toBe('[["a.s","b.s"],["a.t","b.t"]]');
    expect(labels('clove-hitch.json')).toBe('[["a.s","a.t"],["spar.L","spar.R"]]');
  });
  it('is only flat when the joins do not cross', () => {
    const { figure } = drawnKnot('clove-hitch.json').method;
    const [held, lifted] = [tangleOf(figure, 'held'), tangleOf(figure)];
    expect(closesFlat(held, naturalClosure(held)!)).toBeFalse();
    expect(closesFlat(lifted, naturalClosure(lifted)!)).toBeTrue();
  });
  it('is refused, with the reason, without a rope and with an eye', () => {
    expect(figureClosure({ ropes: [], hosts: [] })).toEqual({ ok: false, reason: 'There is no rope on the board.' });
    const eye: Figure = {
      ropes: [
        rope(
          'a',
          [
            [0, 0],
            [5, 0],
            [10, 0],
          ],
          { eyes: [1.5] },
        ),
      ],
      hosts: [],
    };
    expect(figureClosure(eye)).toEqual(
      jasmine.objectContaining({ ok: false, reason: jasmine.stringContaining('eye') }),
    );
  });
  it('of a rope that crosses nothing, or only itself in a curl, is a plain ring', () => {
    const plain: Figure = {
      ropes: [
        rope('a', [
          [0, 0],
          [5, 0],
          [10, 0],
        ]),
      ],
      hosts: [],
    };
    const curl = weaveFigure(
      {
        ropes: [
          rope(
            'a',
            [
              [-12, 0],
              [6, 0],
              [6, -6],
              [0, -6],
              [0, 9],
            ],
            { curve: 'straight' },
          ),
        ],
        hosts: [],
      },
      () => true,
    );
    for (const f of [plain, curl]) {
      const c = figureClosure(f);
      expect(c.ok && laurent.equal(c.jones, laurent.ONE)).toBeTrue();
    }
  });
});
