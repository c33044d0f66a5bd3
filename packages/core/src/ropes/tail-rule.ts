/**
 * Real sizes: a figure is in rope diameters; a chosen cord gives millimetres. The house's tail rule says how much must be left.
 */
import * as z from 'zod';
import { nameSchema } from '../words/plain-text.js';

export interface TailRule {
  /** At least so many rope diameters. */
  readonly diameters: number;
  /** And at least so many millimetres. The larger demand wins. */
  readonly millimetres: number;
  /** The house's rule and its school, as a finding cites them. */
  readonly cites?: string | undefined;
}

/** What a plan leaves as the tail of a knot: asked of it where that is more than the house asks. */
export const plannedTailSchema = z.looseObject({
  mm: z.number().gt(0).max(100_000),
  /** The plan, by its name. */
  plan: nameSchema,
});
export type PlannedTail = z.infer<typeof plannedTailSchema>;

export const DEFAULT_TAIL_RULE: TailRule = { diameters: 12, millimetres: 0 };

/** Cord diameter in millimetres taken until the author names one. */
export const DEFAULT_CORD_MM = 10;

export const toMillimetres = (diameters: number, cordMm: number): number => diameters * cordMm;

/** What the rule asks of a cord, in diameters. */
export const requiredTail = (rule: TailRule, cordMm: number): number =>
  Math.max(rule.diameters, rule.millimetres / cordMm);

/** What is asked of the tails of a knot: by which rule, in which cord, and in which unit it is said. */
export interface TailAsked {
  readonly rule: TailRule;
  readonly cordMm: number;
  readonly unit?: LengthUnit | undefined;
}

export type LengthUnit = 'millimetres' | 'inches';
const MM_PER_INCH = 25.4;

/** A length for people: “12 d (132 mm)”. */
export const sayLength = (diameters: number, cordMm: number, unit: LengthUnit = 'millimetres'): string => {
  const mm = toMillimetres(diameters, cordMm);
  return `${round(diameters)} d (${unit === 'inches' ? `${round(mm / MM_PER_INCH)} in` : `${Math.round(mm)} mm`})`;
};

const round = (n: number): string => (Math.round(n * 10) / 10).toString();
