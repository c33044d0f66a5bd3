/**
 * Real sizes: a figure is in rope diameters; a chosen cord gives millimetres. The house's tail rule says how much must be left.
 */

export interface TailRule {
  /** At least so many rope diameters. */
  readonly diameters: number;
  /** And at least so many millimetres. The larger demand wins. */
  readonly millimetres: number;
}

export const DEFAULT_TAIL_RULE: TailRule = { diameters: 12, millimetres: 0 };

/** Cord diameter in millimetres taken until the author names one. */
export const DEFAULT_CORD_MM = 10;

export const toMillimetres = (diameters: number, cordMm: number): number => diameters * cordMm;

/** What the rule asks of a cord, in diameters. */
export const requiredTail = (rule: TailRule, cordMm: number): number =>
  Math.max(rule.diameters, rule.millimetres / cordMm);

/** A length for people: “12 d (132 mm)”. */
export const sayLength = (diameters: number, cordMm: number): string =>
  `${round(diameters)} d (${Math.round(toMillimetres(diameters, cordMm))} mm)`;

const round = (n: number): string => (Math.round(n * 10) / 10).toString();
