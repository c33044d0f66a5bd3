// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- the library has no types of its own, and every package that takes this file needs them
/// <reference path="./jstat.d.ts" />
/**
 * Statistics of few samples: pull tests are dear, and a mean of three says little. Everything is said with its spread.
 */
import jStat from 'jstat';

/** The quantile of Student’s t. */
export const studentT = (p: number, degrees: number): number => jStat.studentt.inv(p, degrees);

/**
 * The factor k of a one-sided tolerance bound of a normal population: mean − k·s lies below a share `coverage` of all with a confidence.
 * Exact, by the noncentral t distribution: k = t′(confidence; n − 1, z·√n) / √n (Natrella, “Experimental Statistics”, NBS Handbook 91,
 * 2-5.3; Krishnamoorthy and Mathew, “Statistical Tolerance Regions”, 2009, (2.2.3)).
 * Undefined below two samples.
 */
export function toleranceFactor(n: number, coverage: number, confidence: number): number | undefined {
  if (n < 2) return undefined;
  const shift = jStat.normal.inv(coverage, 0, 1) * Math.sqrt(n);
  let [low, high] = [0, shift + 10];
  while (jStat.noncentralt.cdf(high, n - 1, shift) < confidence) {
    [low, high] = [high, 2 * high];
    if (high > 1e5) return undefined;
  }
  for (let k = 0; k < 60 && high - low > 1e-7 * high; k += 1) {
    const middle = (low + high) / 2;
    if (jStat.noncentralt.cdf(middle, n - 1, shift) < confidence) low = middle;
    else high = middle;
  }
  return (low + high) / 2 / Math.sqrt(n);
}

/** What a tolerance bound covers, and how surely. */
export const COVERAGE = 0.95;
export const CONFIDENCE = 0.95;

export interface Sample {
  readonly n: number;
  readonly mean: number;
  /** Standard deviation of a single test; undefined below two. */
  readonly deviation: number | undefined;
  readonly least: number;
  readonly most: number;
  /**
   * With a confidence of 95 % at least 95 % of all such tests lie above it, if they are spread like a bell; undefined below two tests,
   * and where so few tests scatter so much that nothing above zero can be said.
   */
  readonly bound: number | undefined;
  /** Indices of tests that depart from the others by more than chance would have it; they are counted in. */
  readonly outliers: readonly number[];
}

/** Most outliers that are looked for: a third of the tests. */
const OUTLIER_SHARE = 1 / 3;

/**
 * Outliers by the generalised extreme studentised deviate (Rosner, Technometrics 25, 1983), at 5 %. It needs some tests to tell chance by:
 * below five none is flagged.
 */
export function outliersOf(values: readonly number[]): number[] {
  if (values.length < 5) return [];
  const left = values.map((value, at) => ({ value, at }));
  const most = Math.max(1, Math.floor(values.length * OUTLIER_SHARE));
  const out: number[] = [];
  let counted = 0;
  for (let i = 1; i <= most; i += 1) {
    const m = left.length;
    const mean = left.reduce((sum, l) => sum + l.value, 0) / m;
    const deviation = Math.sqrt(left.reduce((sum, l) => sum + (l.value - mean) ** 2, 0) / (m - 1));
    if (deviation < 1e-12 || m < 3) break;
    const farthest = left.reduce((far, l) => (Math.abs(l.value - mean) > Math.abs(far.value - mean) ? l : far));
    const t = studentT(1 - 0.05 / (2 * m), m - 2);
    const limit = ((m - 1) * t) / Math.sqrt((m - 2 + t * t) * m);
    out.push(farthest.at);
    if (Math.abs(farthest.value - mean) / deviation > limit) counted = i;
    left.splice(left.indexOf(farthest), 1);
  }
  return out.slice(0, counted).sort((a, b) => a - b);
}

/** What a few tests say; undefined without any. */
export function sampleOf(values: readonly number[]): Sample | undefined {
  const n = values.length;
  if (n === 0) return undefined;
  const mean = values.reduce((sum, v) => sum + v, 0) / n;
  const deviation = n < 2 ? undefined : Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (n - 1));
  const k = toleranceFactor(n, COVERAGE, CONFIDENCE);
  const bound = k === undefined || deviation === undefined ? undefined : mean - k * deviation;
  return {
    n,
    mean,
    deviation,
    least: Math.min(...values),
    most: Math.max(...values),
    bound: bound !== undefined && bound > 0 ? bound : undefined,
    outliers: outliersOf(values),
  };
}

/** What a knot keeps of the rope’s strength: the ratio of two means. */
export interface ShareKept {
  readonly share: number;
  /** Half the width of its 95 % interval; undefined where either scatter is not known. */
  readonly spread: number | undefined;
}

/**
 * The ratio of the means of knotted and unknotted tests, with a 95 % interval by propagation of the two relative errors
 * (“Guide to the expression of uncertainty in measurement”, JCGM 100:2008, 5.1) and degrees of freedom by Welch and Satterthwaite (G.4.1).
 */
export function shareKept(knotted: Sample, plain: Sample): ShareKept {
  const share = knotted.mean / plain.mean;
  if (knotted.deviation === undefined || plain.deviation === undefined) return { share, spread: undefined };
  const [a, b] = [(knotted.deviation / knotted.mean) ** 2 / knotted.n, (plain.deviation / plain.mean) ** 2 / plain.n];
  if (a + b === 0) return { share, spread: 0 };
  const degrees = (a + b) ** 2 / (a ** 2 / (knotted.n - 1) + b ** 2 / (plain.n - 1));
  return { share, spread: share * Math.sqrt(a + b) * studentT(0.975, degrees) };
}
