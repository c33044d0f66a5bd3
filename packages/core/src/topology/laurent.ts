/**
 * Laurent polynomials with exact integer coefficients in one variable, exponents of one parity (steps of two).
 *
 * The bracket of a diagram has all its exponents of one parity, so only every second coefficient is kept. These are results:
 * few and short, so their coefficients are big integers. What a scan adds up on the way is held in typed arrays; see `bracket`.
 */

/** Thrown when a tangle is too wide to be expanded here, or has an end that cannot be led out: the caller says so and goes on without. */
export class TooWide extends Error {}

export interface Laurent {
  /** Exponent of the first coefficient. */
  readonly low: number;
  /** Coefficients of low, low + 2, low + 4 …; no zero at either end; empty for the zero polynomial. */
  readonly coefficients: readonly bigint[];
}

export const ZERO: Laurent = { low: 0, coefficients: [] };
export const ONE: Laurent = { low: 0, coefficients: [1n] };

/** A polynomial from its coefficients at low, low + 2, …, zeros at its ends left out. */
export function trimmed(low: number, coefficients: readonly bigint[]): Laurent {
  let start = 0;
  let end = coefficients.length;
  while (start < end && coefficients[start] === 0n) start += 1;
  while (end > start && coefficients[end - 1] === 0n) end -= 1;
  if (start === end) return ZERO;
  return {
    low: low + 2 * start,
    coefficients: start === 0 && end === coefficients.length ? coefficients : coefficients.slice(start, end),
  };
}

/** The sum. Both must have exponents of the same parity. */
export function plus(p: Laurent, q: Laurent): Laurent {
  if (p.coefficients.length === 0) return q;
  if (q.coefficients.length === 0) return p;
  if (((p.low - q.low) & 1) !== 0) throw new RangeError('sum of Laurent polynomials of different parity');
  const low = Math.min(p.low, q.low);
  const high = Math.max(p.low + 2 * p.coefficients.length, q.low + 2 * q.coefficients.length);
  const out = new Array<bigint>((high - low) / 2).fill(0n);
  p.coefficients.forEach((c, i) => (out[(p.low - low) / 2 + i] = c));
  q.coefficients.forEach((c, i) => {
    const k = (q.low - low) / 2 + i;
    out[k] = (out[k] as bigint) + c;
  });
  return trimmed(low, out);
}

/** The product. */
export function times(p: Laurent, q: Laurent): Laurent {
  if (p.coefficients.length === 0 || q.coefficients.length === 0) return ZERO;
  const out = new Array<bigint>(p.coefficients.length + q.coefficients.length - 1).fill(0n);
  p.coefficients.forEach((a, i) => {
    q.coefficients.forEach((b, j) => (out[i + j] = (out[i + j] as bigint) + a * b));
  });
  return trimmed(p.low + q.low, out);
}

/** Multiplied by sign · A^shift. */
export const shifted = (p: Laurent, shift: number, sign: 1 | -1 = 1): Laurent =>
  p.coefficients.length === 0
    ? ZERO
    : { low: p.low + shift, coefficients: sign === 1 ? p.coefficients : p.coefficients.map((c) => -c) };

/** A closed curve's value, −A² − A⁻². */
export const LOOP: Laurent = { low: -2, coefficients: [-1n, 0n, -1n] };

/** LOOP to a power. */
export function loops(n: number): Laurent {
  let out = ONE;
  for (let i = 0; i < n; i += 1) out = times(out, LOOP);
  return out;
}

/** Exact quotient by −A² − A⁻²; throws when there is a remainder. */
export function withoutLoop(p: Laurent): Laurent {
  const rest = [...p.coefficients];
  const out: bigint[] = [];
  for (let i = 0; i < rest.length - 2; i += 1) {
    const c = -(rest[i] as bigint);
    out.push(c);
    rest[i] = 0n;
    rest[i + 2] = (rest[i + 2] as bigint) + c;
  }
  if (rest.some((c) => c !== 0n)) throw new RangeError('not a multiple of a closed curve');
  return trimmed(p.low + 2, out);
}

/** A ↦ A⁻¹, the mirror image. */
export const inverted = (p: Laurent): Laurent =>
  p.coefficients.length === 0
    ? ZERO
    : { low: -(p.low + 2 * (p.coefficients.length - 1)), coefficients: [...p.coefficients].reverse() };

export const equal = (p: Laurent, q: Laurent): boolean =>
  p.coefficients.length === q.coefficients.length &&
  (p.coefficients.length === 0 || p.low === q.low) &&
  p.coefficients.every((c, i) => c === q.coefficients[i]);

/** A coefficient as files hold it: a number, or its digits as text where a number would not be exact. */
export type Written = number | string;

const written = (c: bigint): Written => (BigInt.asIntN(53, c) === c ? Number(c) : String(c));

/** Exponent → coefficient, zero terms left out. */
export function terms(p: Laurent): Record<string, Written> {
  const out: Record<string, Written> = {};
  p.coefficients.forEach((c, i) => {
    if (c !== 0n) out[String(p.low + 2 * i)] = written(c);
  });
  return out;
}

/** The polynomial of such terms. */
export const fromTerms = (record: Readonly<Record<string, Written>>): Laurent =>
  Object.entries(record).reduce((sum, [e, c]) => plus(sum, trimmed(Number(e), [BigInt(c)])), ZERO);

const superscript = (n: string): string =>
  n.replace(/[-0-9/]/g, (d) => '⁻⁰¹²³⁴⁵⁶⁷⁸⁹ᐟ'.charAt('-0123456789/'.indexOf(d)));

/** The Jones polynomial, given the normalised bracket in A, with t = A⁻⁴; ascending powers of t, as text. */
export function sayJones(p: Laurent): string {
  const list = p.coefficients.flatMap((c, i) => (c === 0n ? [] : [{ quarters: -(p.low + 2 * i), c }])).reverse();
  if (list.length === 0) return '0';
  return list
    .map(({ quarters, c }, i) => {
      const power = quarters % 4 === 0 ? String(quarters / 4) : `${quarters / 2}/2`;
      const head = c < 0 ? (i === 0 ? '−' : ' − ') : i === 0 ? '' : ' + ';
      const size = c < 0 ? -c : c;
      if (quarters === 0) return `${head}${size}`;
      return `${head}${size === 1n ? '' : size}t${power === '1' ? '' : superscript(power)}`;
    })
    .join('');
}
