/**
 * Laurent polynomials with exact integer coefficients in one variable, exponents of one parity (steps of two).
 *
 * The bracket of a diagram has all its exponents of one parity, so only every second coefficient is kept.
 */

/** Thrown when a tangle is too wide or its coefficients too large to be expanded here: the caller says so and goes on without. */
export class TooWide extends Error {}

export interface Laurent {
  /** Exponent of the first coefficient. */
  readonly low: number;
  /** Coefficients of low, low + 2, low + 4 …; no zero at either end; empty for the zero polynomial. */
  readonly coefficients: readonly number[];
}

export const ZERO: Laurent = { low: 0, coefficients: [] };
export const ONE: Laurent = { low: 0, coefficients: [1] };

function trimmed(low: number, coefficients: number[]): Laurent {
  let start = 0;
  let end = coefficients.length;
  while (start < end && coefficients[start] === 0) start += 1;
  while (end > start && coefficients[end - 1] === 0) end -= 1;
  if (start === end) return ZERO;
  return {
    low: low + 2 * start,
    coefficients: start === 0 && end === coefficients.length ? coefficients : coefficients.slice(start, end),
  };
}

const exact = (n: number): number => {
  if (!Number.isSafeInteger(n)) throw new TooWide('Its polynomial has coefficients beyond exact whole numbers.');
  return n === 0 ? 0 : n;
};

/** The sum. Both must have exponents of the same parity. */
export function plus(p: Laurent, q: Laurent): Laurent {
  if (p.coefficients.length === 0) return q;
  if (q.coefficients.length === 0) return p;
  if (((p.low - q.low) & 1) !== 0) throw new RangeError('sum of Laurent polynomials of different parity');
  const low = Math.min(p.low, q.low);
  const high = Math.max(p.low + 2 * p.coefficients.length, q.low + 2 * q.coefficients.length);
  const out = new Array<number>((high - low) / 2).fill(0);
  p.coefficients.forEach((c, i) => (out[(p.low - low) / 2 + i] = c));
  q.coefficients.forEach((c, i) => {
    const k = (q.low - low) / 2 + i;
    out[k] = exact((out[k] as number) + c);
  });
  return trimmed(low, out);
}

/** The product. */
export function times(p: Laurent, q: Laurent): Laurent {
  if (p.coefficients.length === 0 || q.coefficients.length === 0) return ZERO;
  const out = new Array<number>(p.coefficients.length + q.coefficients.length - 1).fill(0);
  p.coefficients.forEach((a, i) => {
    q.coefficients.forEach((b, j) => (out[i + j] = exact((out[i + j] as number) + a * b)));
  });
  return trimmed(p.low + q.low, out);
}

/** Multiplied by sign · A^shift. */
export const shifted = (p: Laurent, shift: number, sign: 1 | -1 = 1): Laurent =>
  p.coefficients.length === 0
    ? ZERO
    : { low: p.low + shift, coefficients: sign === 1 ? p.coefficients : p.coefficients.map((c) => (c === 0 ? 0 : -c)) };

/** A closed curve's value, −A² − A⁻². */
export const LOOP: Laurent = { low: -2, coefficients: [-1, 0, -1] };

/** LOOP to a power. */
export function loops(n: number): Laurent {
  let out = ONE;
  for (let i = 0; i < n; i += 1) out = times(out, LOOP);
  return out;
}

/** Exact quotient by −A² − A⁻²; throws when there is a remainder. */
export function withoutLoop(p: Laurent): Laurent {
  const rest = [...p.coefficients];
  const out: number[] = [];
  for (let i = 0; i < rest.length - 2; i += 1) {
    const c = -(rest[i] as number);
    out.push(c === 0 ? 0 : c);
    rest[i] = 0;
    rest[i + 2] = exact((rest[i + 2] as number) + c);
  }
  if (rest.some((c) => c !== 0)) throw new RangeError('not a multiple of a closed curve');
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

/** Exponent → coefficient, zero terms left out. */
export function terms(p: Laurent): Record<string, number> {
  const out: Record<string, number> = {};
  p.coefficients.forEach((c, i) => {
    if (c !== 0) out[String(p.low + 2 * i)] = c;
  });
  return out;
}

export function fromTerms(record: Readonly<Record<string, number>>): Laurent {
  return Object.entries(record).reduce(
    (sum, [e, c]) => (c === 0 ? sum : plus(sum, { low: Number(e), coefficients: [c] })),
    ZERO,
  );
}

const superscript = (n: string): string =>
  n.replace(/[-0-9/]/g, (d) => '⁻⁰¹²³⁴⁵⁶⁷⁸⁹ᐟ'.charAt('-0123456789/'.indexOf(d)));

/** The Jones polynomial, given the normalised bracket in A, with t = A⁻⁴; ascending powers of t, as text. */
export function sayJones(p: Laurent): string {
  const list = Object.entries(terms(p))
    .map(([e, c]) => ({ quarters: -Number(e), c }))
    .sort((a, b) => a.quarters - b.quarters);
  if (list.length === 0) return '0';
  return list
    .map(({ quarters, c }, i) => {
      const power = quarters % 4 === 0 ? String(quarters / 4) : `${quarters / 2}/2`;
      const head = c < 0 ? (i === 0 ? '−' : ' − ') : i === 0 ? '' : ' + ';
      const size = Math.abs(c);
      if (quarters === 0) return `${head}${size}`;
      return `${head}${size === 1 ? '' : size}t${power === '1' ? '' : superscript(power)}`;
    })
    .join('');
}
