/**
 * What a knot eats: rope between the places where its parts leave it straight. A form tells it in diameters; ties that were measured
 * tell how far real rope departs from it. Lengths in millimetres.
 */
import * as z from 'zod';
import { studentT } from './statistics.js';

/** Without measured ties a form may be off by so much: real rope flattens, and is not drawn up as far. */
export const FORM_SPREAD = 0.15;
/** Two-sided confidence of what is said of the next tie. */
const CONFIDENCE = 0.95;

/** A tie that was measured: how long the rope was before and after, as what the knot ate. */
export const measuredTieSchema = z.object({
  diameterMm: z.number().min(0.5).max(120),
  eatenMm: z.number().gt(0).max(100_000),
  /** How thick that was which it was tied round; null: as it is drawn. */
  hostMm: z.number().gt(0).max(3000).nullable().default(null),
});
export type MeasuredTie = z.infer<typeof measuredTieSchema>;
/** What is reckoned with of a tie. */
type Measured = Pick<MeasuredTie, 'diameterMm' | 'eatenMm'>;

/** Turns of a knot round what it is tied to, and how thick that is drawn, in diameters of the rope. */
export interface RoundHost {
  readonly turns: number;
  readonly drawn: number;
}

/** A tie as it would have been on a host as thick as it is drawn: its turns are longer or shorter by so much. */
export function onDrawnHost(tie: MeasuredTie, host: RoundHost | null | undefined): MeasuredTie {
  if (!host || tie.hostMm === null) return tie;
  const round = (mm: number): number => helixLength(host.turns, mm, tie.diameterMm);
  const eatenMm = tie.eatenMm - round(tie.hostMm) + round(host.drawn * tie.diameterMm);
  // What is told of the host cannot be: all of the rope would lie in turns. The tie then stands as it was measured.
  return eatenMm > 0 ? { ...tie, eatenMm } : tie;
}

/** What a knot eats in a rope of a diameter. */
export interface RopeUse {
  readonly mm: number;
  /** So much more or less. */
  readonly spread: number;
  /** How it is known: from how many measured ties, or from the form alone. */
  readonly ties: number;
}

/** Measured ties of one knot against its diameter. */
export interface Calibration {
  /** Eaten per diameter: the slope of a line through the origin. */
  readonly diameters: number;
  /** Standard deviation of a single tie, per diameter; undefined below two ties. */
  readonly deviation: number | undefined;
  readonly ties: readonly (Measured & {
    /** Eaten less what the line says, in millimetres. */
    readonly residual: number;
    /** It departs from the others by more than chance would have it. */
    readonly outlier: boolean;
  })[];
}

/**
 * A line through the origin, eaten = k·d, for deviations that grow with the diameter: by weighted least squares with weights 1/d² its
 * slope is the mean of eaten/d (Draper and Smith, “Applied Regression Analysis”, ch. 9). A tie is an outlier where its externally
 * studentised residual is beyond Student’s t at 5 % shared among all ties (Bonferroni; Cook and Weisberg, “Residuals and Influence in
 * Regression”, 2.2.2).
 */
export function calibrated(ties: readonly Measured[]): Calibration | undefined {
  const n = ties.length;
  if (n === 0) return undefined;
  const ratios = ties.map((t) => t.eatenMm / t.diameterMm);
  const mean = ratios.reduce((sum, r) => sum + r, 0) / n;
  const squares = ratios.reduce((sum, r) => sum + (r - mean) ** 2, 0);
  const limit = n >= 4 ? studentT(1 - 0.05 / (2 * n), n - 2) : Infinity;
  return {
    diameters: mean,
    deviation: n < 2 ? undefined : Math.sqrt(squares / (n - 1)),
    ties: ties.map((t, i) => {
      const off = ratios[i]! - mean;
      // Without this tie: every leverage is 1/n.
      const others = Math.max(0, squares - (off * off) / (1 - 1 / n)) / Math.max(1, n - 2);
      const studentised = Math.abs(off) / Math.sqrt(others * (1 - 1 / n) || Number.MIN_VALUE);
      return { ...t, residual: off * t.diameterMm, outlier: Math.abs(off) > 1e-9 && studentised > limit };
    }),
  };
}

/** What a knot eats in a rope of so many millimetres, by its form and by measured ties; outliers are counted in. */
export function ropeUse(formDiameters: number, diameterMm: number, ties: readonly Measured[] = []): RopeUse {
  const own = calibrated(ties);
  if (!own) return { mm: formDiameters * diameterMm, spread: FORM_SPREAD * formDiameters * diameterMm, ties: 0 };
  const n = ties.length;
  const mm = own.diameters * diameterMm;
  // Of so few ties the scatter is not known: the form’s stands in.
  if (own.deviation === undefined || n < 3) return { mm, spread: FORM_SPREAD * mm, ties: n };
  const spread = studentT((1 + CONFIDENCE) / 2, n - 1) * own.deviation * Math.sqrt(1 + 1 / n) * diameterMm;
  return { mm, spread, ties: n };
}

/** Rope in turns round something: a helix of one rope diameter a turn on the middle line of the rope, in millimetres. */
export const helixLength = (turns: number, hostMm: number, ropeMm: number): number =>
  turns * Math.hypot(Math.PI * (hostMm + ropeMm), ropeMm);

/** What each further turn eats, by the forms of a family at several counts of turns: a straight line by least squares. */
export function perTurn(
  known: readonly { readonly turns: number; readonly diameters: number }[],
): { readonly each: number; readonly at: (turns: number) => number } | undefined {
  const n = known.length;
  const [mt, md] = [known.reduce((sum, k) => sum + k.turns, 0) / n, known.reduce((sum, k) => sum + k.diameters, 0) / n];
  const across = known.reduce((sum, k) => sum + (k.turns - mt) ** 2, 0);
  if (n < 2 || across === 0) return undefined;
  const each = known.reduce((sum, k) => sum + (k.turns - mt) * (k.diameters - md), 0) / across;
  return { each, at: (turns) => md + each * (turns - mt) };
}
