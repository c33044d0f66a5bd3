/**
 * Readings of a load cell: a trace of forces over time, as they come. Times in seconds, forces in kilonewtons. A reading that cannot be is left
 * out and counted; a break is a fall that no slip makes. With it a simulated cell, plainly one, to try it on.
 */
import Papa from 'papaparse';

export interface Reading {
  readonly at: number;
  readonly kn: number;
}

export interface Trace {
  readonly readings: readonly Reading[];
  readonly peak: Reading | undefined;
  /** Where it broke; absent while it holds. */
  readonly broke: Reading | undefined;
  /** Places at which it slipped: it gave, and held again. */
  readonly slips: readonly Reading[];
  /** Readings that could not be, and those that came out of order. */
  readonly leftOut: number;
}

export const NO_TRACE: Trace = { readings: [], peak: undefined, broke: undefined, slips: [], leftOut: 0 };

/** No cell that is put in a yard’s line reads more; a little less than nothing is its zero drifting. */
const MOST_KN = 2000;
const LEAST_KN = -0.5;
/** Most readings of a trace: an hour at a hundred a second. */
export const MOST_READINGS = 360_000;
/** A fall to less than this share of the peak is a break; by more than that share of it, a slip. */
const BREAK = 0.4;
const SLIP = 0.06;
/** Forces below this are noise: nothing is told of them. */
const NOISE_KN = 0.05;
/** Readings over which a fall counts as one. */
const FALL = 6;

/** The readings of a burst added to a trace, one after the other. What comes after a break is kept and changes nothing. */
export function withReadings(trace: Trace, burst: readonly unknown[]): Trace {
  const readings = [...trace.readings];
  const slips = [...trace.slips];
  let { peak, broke, leftOut } = trace;
  for (const raw of burst) {
    const { at, kn } = (typeof raw === 'object' && raw !== null ? raw : {}) as Partial<Record<'at' | 'kn', unknown>>;
    const last = readings.at(-1);
    const fits =
      typeof at === 'number' &&
      typeof kn === 'number' &&
      Number.isFinite(at) &&
      kn >= LEAST_KN &&
      kn <= MOST_KN &&
      at >= 0 &&
      (last === undefined || at > last.at) &&
      readings.length < MOST_READINGS;
    if (!fits) {
      leftOut += 1;
      continue;
    }
    const reading: Reading = { at, kn };
    readings.push(reading);
    if (broke) continue;
    if (peak && peak.kn > NOISE_KN && kn < BREAK * peak.kn && last && last.kn > kn) {
      broke = last.kn > BREAK * peak.kn ? last : peak;
      continue;
    }
    const before = readings.slice(-FALL - 1, -1).reduce((most, r) => Math.max(most, r.kn), 0);
    const again = slips.at(-1);
    if (before > 4 * NOISE_KN && before - kn > SLIP * before && (!again || at - again.at > 0.5)) slips.push(reading);
    if (!peak || kn > peak.kn) peak = reading;
  }
  return { readings, peak, broke, slips, leftOut };
}

/** A trace as CSV text. */
export const toTraceCsv = ({ readings }: Trace): string =>
  `${Papa.unparse({ fields: ['seconds', 'kN'], data: readings.map((r) => [r.at.toFixed(3), r.kn.toFixed(4)]) }, { newline: '\n' })}\n`;

/** Reads a trace: two columns of numbers, a heading or none. Lines that are none are left out and counted, so that one cut off is read as far as it goes. */
export function readTraceCsv(text: string): Trace {
  const number = (cell: string | undefined): number => {
    const plain = (cell ?? '').trim().replace(',', '.');
    return plain === '' ? NaN : Number(plain);
  };
  const delimiter = [';', '\t', ','].find((d) => text.slice(0, 2000).includes(d)) ?? ',';
  const rows = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { delimiter, skipEmptyLines: 'greedy' }).data;
  const isHead = rows[0] !== undefined && Number.isNaN(number(rows[0][0]));
  return withReadings(
    NO_TRACE,
    rows.slice(isHead ? 1 : 0).map(([at, kn]) => ({ at: number(at), kn: number(kn) })),
  );
}

/** How a simulated pull goes. */
export interface SimulatedPull {
  /** Where it breaks, in kilonewtons, and how fast the force grows, in kilonewtons a second. */
  readonly breaksAt: number;
  readonly rate: number;
  /** Readings a second. */
  readonly often: number;
  readonly seed: number;
}

/** Numbers by lot that are the same for a seed (mulberry32, T. Ettinger, public domain). */
function byLot(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/**
 * The readings of a simulated cell: noise, creep while it is held, a slip or two as the knot draws up, a break, and the slack line after it.
 * Nothing of it is measured.
 */
export function* simulatedPull({ breaksAt, rate, often, seed }: SimulatedPull): Generator<Reading> {
  const lot = byLot(seed);
  const noise = (): number => 0.004 * breaksAt * (lot() + lot() + lot() - 1.5);
  const slips = [0.18 + 0.1 * lot(), 0.45 + 0.15 * lot()].map((share) => share * breaksAt);
  const hold = { at: 0.7 * breaksAt, steps: Math.round(1.5 * often) };
  let [kn, n, slipped, held] = [0, 0, 0, 0];
  const next = (force: number): Reading => ({ at: (n += 1) / often, kn: Math.max(-0.02, force + noise()) });
  while (kn < breaksAt) {
    kn += rate / often;
    if (slipped < slips.length && kn > slips[slipped]!) {
      slipped += 1;
      kn -= 0.2 * kn;
    }
    // Held for a while: the rope creeps, and the force falls a little.
    while (kn >= hold.at && held < hold.steps) {
      held += 1;
      yield next(kn * (1 - 0.02 * Math.log1p((4 * held) / hold.steps)));
    }
    yield next(kn);
  }
  for (let k = 0; k < often; k += 1) yield next(0.02 * breaksAt * Math.exp((-6 * k) / often));
}
