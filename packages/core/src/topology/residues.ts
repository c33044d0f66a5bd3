/**
 * Whole numbers of any size from their residues: the Chinese remainder theorem over a few moduli small enough that sums of
 * residues stay exact in a double.
 *
 * Source: D. E. Knuth, The Art of Computer Programming 2, 4.3.2 (modular arithmetic, H. L. Garner's algorithm).
 */

/** Powers modulo a number, in big integers. */
function power(base: bigint, exponent: bigint, modulus: bigint): bigint {
  let [square, out] = [base % modulus, 1n];
  for (let e = exponent; e > 0n; e >>= 1n) {
    if (e & 1n) out = (out * square) % modulus;
    square = (square * square) % modulus;
  }
  return out;
}

/** Bases that tell every composite number below 3.4 · 10¹⁴ (Miller and Rabin's test; G. Jaeschke, 1993). */
const WITNESSES = [2n, 3n, 5n, 7n, 11n, 13n, 17n];

function isPrime(n: bigint): boolean {
  let [odd, twos] = [n - 1n, 0];
  for (; odd % 2n === 0n; twos += 1) odd /= 2n;
  return WITNESSES.every((a) => {
    let x = power(a, odd, n);
    if (x === 1n || x === n - 1n) return true;
    for (let i = 1; i < twos; i += 1) {
      x = (x * x) % n;
      if (x === n - 1n) return true;
    }
    return false;
  });
}

const known: number[] = [];

/** Bits of a modulus: sums of up to 2⁸ residues stay exact in a double. */
export const MODULUS_BITS = 45;

/** The first `count` primes below 2⁴⁵, the largest first. */
export function moduli(count: number): readonly number[] {
  for (let n = (known.at(-1) ?? 2 ** MODULUS_BITS + 1) - 2; known.length < count; n -= 2)
    if (isPrime(BigInt(n))) known.push(n);
  return known.slice(0, count);
}

/** How many of them tell apart all whole numbers up to 2^bits in size, of either sign. */
export const moduliFor = (bits: number): number => Math.ceil((bits + 2) / (MODULUS_BITS - 1e-6));

/** Puts numbers together from their residues by one modulus after another. */
export class Remainders {
  private modulus = 1n;
  private readonly values: bigint[];

  constructor(count: number) {
    this.values = new Array<bigint>(count).fill(0n);
  }

  /** Takes the residues by one more prime; they may have either sign. */
  take(residues: Float64Array, prime: number): void {
    const p = BigInt(prime);
    // The inverse of the modulus so far, by Fermat's little theorem.
    const step = power(this.modulus, p - 2n, p);
    residues.forEach((r, i) => {
      const value = this.values[i] as bigint;
      const missing = ((((BigInt(r) - value) * step) % p) + p) % p;
      this.values[i] = value + this.modulus * missing;
    });
    this.modulus *= p;
  }

  /** The numbers, each the one nearest to nought with these residues. */
  numbers(): bigint[] {
    return this.values.map((v) => (2n * v > this.modulus ? v - this.modulus : v));
  }
}
