/**
 * Measures of a body, as ropes are often told: a palm, a forearm, an arm span. They are lengths with a spread, of a named person or of
 * a range of adults, and never the rule where people depend on it.
 */
import * as z from 'zod';
import { nameSchema } from '../words/plain-text.js';

export const BODY_MEASURES = ['thumb', 'palm', 'hand span', 'forearm', 'arm span'] as const;
export type BodyMeasure = (typeof BODY_MEASURES)[number];

/** How each is taken. */
export const HOW_TAKEN: Readonly<Record<BodyMeasure, string>> = {
  thumb: 'across the thumb at its joint',
  palm: 'across the hand at the knuckles',
  'hand span': 'from the tip of the thumb to that of the little finger, spread',
  forearm: 'from the elbow to the tip of the middle finger',
  'arm span': 'from fingertip to fingertip, arms stretched out',
};

export interface BodyRange {
  readonly mm: number;
  readonly least: number;
  readonly most: number;
}

/**
 * Of grown people, in millimetres, in round figures taken wide: from about the twentieth part of women with the smallest to the
 * twentieth part of men with the largest measure in surveys of bodies (as in ISO/TR 7250-2). The palm is with the thumb or without it.
 */
export const ADULTS: Readonly<Record<BodyMeasure, BodyRange>> = {
  thumb: { mm: 21, least: 17, most: 26 },
  palm: { mm: 90, least: 72, most: 106 },
  'hand span': { mm: 205, least: 165, most: 245 },
  forearm: { mm: 460, least: 395, most: 525 },
  'arm span': { mm: 1720, least: 1500, most: 1950 },
};

const bodyMm = z.number().min(5).max(3000);
/** Somebody of the house who has been measured. */
export const personSchema = z.object({
  name: nameSchema,
  mm: z.partialRecord(z.enum(BODY_MEASURES), bodyMm),
});
export type Person = z.infer<typeof personSchema>;

/** The same hand is not laid on alike twice: so much of a length either way. */
const LAID_ALIKE = 0.05;

export interface BodyLength extends BodyRange {
  /** Whose body it is: “Wren”, “adults”. */
  readonly of: string;
}

/** So many of a measure, in millimetres: of the person where theirs is known, else of adults. */
export function bodyLength(measure: BodyMeasure, count: number, person?: Person): BodyLength {
  const own = person?.mm[measure];
  if (person && own !== undefined)
    return {
      mm: count * own,
      least: count * own * (1 - LAID_ALIKE),
      most: count * own * (1 + LAID_ALIKE),
      of: person.name,
    };
  const { mm, least, most } = ADULTS[measure];
  return { mm: count * mm, least: count * least, most: count * most, of: 'adults' };
}
