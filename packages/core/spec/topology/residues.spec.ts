import fc from 'fast-check';
import { moduli, moduliFor, MODULUS_BITS, Remainders } from '../../src/topology/residues.js';

describe('Whole numbers from residues', () => {
  it('are the numbers they were, of either sign and any size', () => {
    fc.assert(
      fc.property(fc.array(fc.bigInt({ min: -(2n ** 600n), max: 2n ** 600n }), { maxLength: 8 }), (numbers) => {
        const together = new Remainders(numbers.length);
        for (const p of moduli(moduliFor(600))) {
          const residues = numbers.map((n) => Number(n % BigInt(p)));
          together.take(Float64Array.from(residues), p);
        }
        expect(together.numbers()).toEqual(numbers);
      }),
    );
  });
  it('stand on primes below the bound, the largest first, none twice', () => {
    const primes = moduli(40);
    expect(new Set(primes).size).toBe(40);
    expect(primes[0]).toBe(2 ** 45 - 55); // The largest prime below 2⁴⁵, from the published lists.
    expect([...primes].sort((a, b) => b - a)).toEqual([...primes]);
    for (const p of primes) {
      expect(p).toBeLessThan(2 ** MODULUS_BITS);
      for (const d of [2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31, 37]) expect(p % d).not.toBe(0);
    }
  });
});
