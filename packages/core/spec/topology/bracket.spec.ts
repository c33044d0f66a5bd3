import * as laurent from '../../src/topology/laurent.js';
import fc from 'fast-check';
import { closedBracket, pdJones, pdSigns, sayJones, type PdCode } from '../../src/index.js';
import { braidClosure, inT, naiveBracket, TABLE } from '../support/diagrams.js';

const word = fc.integer({ min: 2, max: 4 }).chain((strands) =>
  fc.record({
    strands: fc.constant(strands),
    word: fc.array(
      fc.tuple(fc.integer({ min: 1, max: strands - 1 }), fc.boolean()).map(([i, s]) => (s ? i : -i)),
      { minLength: 1, maxLength: 9 },
    ),
  }),
);

describe('the Kauffman bracket by the frontier method', () => {
  it('equals the plain sum over all states', () => {
    fc.assert(
      fc.property(word, ({ strands, word: w }) => {
        const touched = new Set(w.flatMap((g) => [Math.abs(g), Math.abs(g) + 1]));
        fc.pre(touched.size === strands);
        const code = braidClosure(strands, w);
        expect(laurent.equal(closedBracket(code), naiveBracket(code))).toBeTrue();
      }),
    );
  });

  it('gives the known Jones polynomials up to five crossings', () => {
    // Known values, as in every table; the codes are left-handed where a knot has a hand.
    expect(
      laurent.equal(
        pdJones(TABLE.trefoil),
        inT([
          [-4, -1],
          [-3, 1],
          [-1, 1],
        ]),
      ),
    )
      .withContext('trefoil')
      .toBeTrue();
    expect(
      laurent.equal(
        pdJones(TABLE.figureEight),
        inT([
          [-2, 1],
          [-1, -1],
          [0, 1],
          [1, -1],
          [2, 1],
        ]),
      ),
    )
      .withContext('figure eight')
      .toBeTrue();
    expect(
      laurent.equal(
        pdJones(TABLE.fiveOne),
        inT([
          [-7, -1],
          [-6, 1],
          [-5, -1],
          [-4, 1],
          [-2, 1],
        ]),
      ),
    )
      .withContext('5₁')
      .toBeTrue();
    expect(
      laurent.equal(
        pdJones(TABLE.fiveTwo),
        inT([
          [-6, -1],
          [-5, 1],
          [-4, -1],
          [-3, 2],
          [-2, -1],
          [-1, 1],
        ]),
      ),
    )
      .withContext('5₂')
      .toBeTrue();
  });

  it('gives the known Jones polynomials of the Hopf and Whitehead links, up to mirror image', () => {
    const hopf = inT([
      [0.5, -1],
      [2.5, -1],
    ]);
    const whitehead = inT([
      [-3.5, 1],
      [-2.5, -2],
      [-1.5, 1],
      [-0.5, -2],
      [0.5, 1],
      [1.5, -1],
    ]);
    for (const [code, known] of [
      [TABLE.hopf, hopf],
      [TABLE.whitehead, whitehead],
    ] as const) {
      const found = pdJones(code);
      expect(laurent.equal(found, known) || laurent.equal(found, laurent.inverted(known)))
        .withContext(sayJones(found))
        .toBeTrue();
    }
  });

  it('gives the known Jones polynomials of knots of six to eight crossings, up to mirror image', () => {
    // Coefficients from the least power of t upward, from the standard knot tables; knots as closures of braids.
    const known: readonly (readonly [
      name: string,
      strands: number,
      braid: readonly number[],
      low: number,
      terms: readonly number[],
    ])[] = [
      ['6_2', 3, [-1, -1, -1, 2, -1, 2], -5, [1, -2, 2, -2, 2, -1, 1]],
      ['6_3', 3, [-1, -1, 2, -1, 2, 2], -3, [-1, 2, -2, 3, -2, 2, -1]],
      ['7_1', 2, [1, 1, 1, 1, 1, 1, 1], 3, [1, 0, 1, -1, 1, -1, 1, -1]],
      ['8_9', 3, [-1, -1, -1, 2, -1, 2, 2, 2], -4, [1, -2, 3, -4, 5, -4, 3, -2, 1]],
      ['8_17', 3, [-1, -1, 2, -1, 2, -1, 2, 2], -4, [1, -3, 5, -6, 7, -6, 5, -3, 1]],
      ['8_18', 3, [-1, 2, -1, 2, -1, 2, -1, 2], -4, [1, -4, 6, -7, 9, -7, 6, -4, 1]],
      ['8_19', 3, [1, 1, 1, 2, 1, 1, 1, 2], 3, [1, 0, 1, 0, 0, -1]],
      ['8_20', 3, [1, 1, 1, -2, -1, -1, -1, -2], -5, [-1, 1, -1, 2, -1, 2, -1]],
      ['8_21', 3, [1, 1, 1, 2, -1, -1, 2, 2], -7, [1, -2, 2, -3, 3, -2, 2]],
    ];
    for (const [name, strands, braid, low, list] of known) {
      const expected = inT(list.map((c, i) => [low + i, c] as const));
      const found = pdJones(braidClosure(strands, braid));
      const either = [expected, laurent.inverted(expected)].some((p) => laurent.equal(p, found));
      expect(either)
        .withContext(`${name}: ${sayJones(found)}`)
        .toBeTrue();
    }
  });
  it('agrees with the closed formula for torus knots', () => {
    // V(T(p,q)) (1 − t²) = t^((p−1)(q−1)/2) (1 − t^(p+1) − t^(q+1) + t^(p+q)); V. Jones (1987).
    for (const [p, q] of [
      [2, 3],
      [2, 5],
      [2, 7],
      [2, 9],
      [3, 4],
      [3, 5],
      [4, 5],
    ] as const) {
      const turn = Array.from({ length: p - 1 }, (_, i) => i + 1);
      const found = pdJones(braidClosure(p, Array.from({ length: q }, () => turn).flat()));
      const shift = ((p - 1) * (q - 1)) / 2;
      const left = laurent.times(
        found,
        inT([
          [0, 1],
          [2, -1],
        ]),
      );
      const right = inT([
        [shift, 1],
        [shift + p + 1, -1],
        [shift + q + 1, -1],
        [shift + p + q, 1],
      ]);
      expect(laurent.equal(left, right))
        .withContext(`T(${p},${q}): ${sayJones(found)}`)
        .toBeTrue();
    }
  });

  it('takes the mirror image to t ↦ 1/t', () => {
    fc.assert(
      fc.property(word, ({ strands, word: w }) => {
        const [one, other] = [w, w.map((g) => -g)].map((x) => pdJones(braidClosure(strands, x)));
        expect(laurent.equal(one!, laurent.inverted(other!))).toBeTrue();
      }),
    );
  });

  it('signs the crossings of a braid by its generators', () => {
    expect(pdSigns(braidClosure(3, [1, -2, 1, -2]))).toEqual([1, -1, 1, -1]);
  });

  it('of closed curves that cross nothing counts all but one of them', () => {
    expect(laurent.equal(closedBracket([]), laurent.ONE)).toBeTrue();
    expect(laurent.equal(closedBracket([], 1), laurent.ONE)).toBeTrue();
    expect(laurent.equal(closedBracket([], 3), laurent.times(laurent.LOOP, laurent.LOOP))).toBeTrue();
    const trefoil = closedBracket(TABLE.trefoil);
    expect(laurent.equal(closedBracket(TABLE.trefoil, 2), laurent.times(trefoil, laurent.loops(2)))).toBeTrue();
  });

  it('is exact far beyond the whole numbers of a double', () => {
    // T(2, n) has coefficients ±1 whatever its length; a chain of figure eights V(4₁)ᵏ has them of any size.
    const word = (k: number): number[] => Array.from({ length: k }, () => [1, -2, 1, -2]).flat();
    const eight = pdJones(braidClosure(3, word(1)));
    for (const k of [3, 40]) {
      // The connected sum of k figure eights: each on three strands of its own, the last strand of one the first of the next.
      const sum = Array.from({ length: k }, (_, i) => word(1).map((g) => Math.sign(g) * (Math.abs(g) + 2 * i))).flat();
      let power = laurent.ONE;
      for (let i = 0; i < k; i += 1) power = laurent.times(power, eight);
      expect(laurent.equal(pdJones(braidClosure(2 * k + 1, sum)), power))
        .withContext(`${k} figure eights`)
        .toBeTrue();
      if (k === 40) expect(power.coefficients.some((c) => c > 2n ** 53n || -c > 2n ** 53n)).toBeTrue();
    }
    // At t = −1 its size is the determinant, an odd number for a knot, and at t = 1 it is 1.
    const long = pdJones(
      braidClosure(
        5,
        Array.from({ length: 176 }, (_, i) => [1, -2, 3, -4][i % 4]!),
      ),
    );
    expect(long.coefficients.some((c) => c > 2n ** 100n || -c > 2n ** 100n)).toBeTrue();
    expect(long.coefficients.reduce((a, b) => a + b)).toBe(1n);
  });

  it('expands a long narrow braid, and says of one of twenty strands that it is too interwoven', () => {
    const alternating = (strands: number, crossings: number): PdCode =>
      braidClosure(
        strands,
        Array.from({ length: crossings }, (_, i) => ((i % (strands - 1)) + 1) * (i % 2 === 0 ? 1 : -1)),
      );
    expect(closedBracket(alternating(5, 400)).coefficients.length).toBeGreaterThan(400);
    expect(() => closedBracket(alternating(20, 20 * 19))).toThrowError(
      laurent.TooWide,
      /380 crossings are so interwoven/,
    );
  });

  it('does forty crossings', () => {
    const code = braidClosure(
      4,
      Array.from({ length: 40 }, (_, i) => (i % 2 === 0 ? 1 : -1) * ((i % 3) + 1)),
    );
    expect(closedBracket(code).coefficients.length).toBeGreaterThan(10);
  });
});

describe('Laurent polynomials', () => {
  const poly = fc
    .tuple(fc.integer({ min: -9, max: 9 }), fc.array(fc.integer({ min: -5, max: 5 }), { maxLength: 6 }))
    .map(([low, c]) =>
      c.reduce((sum, x, i) => laurent.plus(sum, laurent.fromTerms({ [String(2 * low + 2 * i)]: x })), laurent.ZERO),
    );
  it('multiply and add as a ring', () => {
    fc.assert(
      fc.property(poly, poly, poly, (p, q, r) => {
        expect(
          laurent.equal(laurent.times(p, laurent.plus(q, r)), laurent.plus(laurent.times(p, q), laurent.times(p, r))),
        ).toBeTrue();
        expect(laurent.equal(laurent.times(p, q), laurent.times(q, p))).toBeTrue();
      }),
    );
  });
  it('divide a closed curve out again', () => {
    fc.assert(
      fc.property(poly, (p) =>
        expect(laurent.equal(laurent.withoutLoop(laurent.times(p, laurent.LOOP)), p)).toBeTrue(),
      ),
    );
  });
  it('are written in ascending powers of t', () => {
    expect(
      sayJones(
        inT([
          [1, 1],
          [3, 1],
          [4, -1],
        ]),
      ),
    ).toBe('t + t³ − t⁴');
    expect(sayJones(laurent.ONE)).toBe('1');
  });
});
