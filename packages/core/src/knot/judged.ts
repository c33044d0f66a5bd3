/**
 * What is judged of a knot, and what was seen when it was tried: kept in its entry, with the reason.
 */
import * as z from 'zod';
import { LOAD_WAYS } from '../words/classes.js';
import { plainText } from '../words/plain-text.js';

const line = plainText(300);

export const JUDGED_KEYS = [
  'loads',
  'unlikeRopes',
  'underLoad',
  'oneHand',
  'comesUndone',
  'staysWhenShaken',
  'webbing',
] as const;
export type JudgedKey = (typeof JUDGED_KEYS)[number];

/** Judgements for choosing; what nobody has judged is left out. */
export const judgedSchema = z.looseObject({
  loads: z.array(z.enum(LOAD_WAYS)).max(LOAD_WAYS.length).optional(),
  /** Ropes of different thickness or kind. */
  unlikeRopes: z.boolean().optional(),
  /** Can be tied while the rope is loaded. */
  underLoad: z.boolean().optional(),
  oneHand: z.boolean().optional(),
  /** Comes undone by hand after it was loaded. */
  comesUndone: z.boolean().optional(),
  staysWhenShaken: z.boolean().optional(),
  webbing: z.boolean().optional(),
  /** Why, by what is judged. */
  because: z.partialRecord(z.enum(JUDGED_KEYS), line).optional(),
});
export type Judged = z.infer<typeof judgedSchema>;

export const TRIALS = [
  'pull on the standing part',
  'pull on the tail',
  'pull on the loop',
  'pull across',
  'load and unload',
  'shake it',
  'take the object out',
  'wet it',
  'use unlike ropes',
] as const;
export type Trial = (typeof TRIALS)[number];
export const OUTCOMES = ['holds', 'slips', 'slides', 'rolls', 'spills', 'jams'] as const;
export type Does = (typeof OUTCOMES)[number];

/** What a knot does when something is done to it, as its author tested or judged it. */
export const trialSchema = z.looseObject({
  trial: z.enum(TRIALS),
  does: z.enum(OUTCOMES),
  by: z.enum(['tested', 'judged']),
  why: line.min(1, 'say what it rests on'),
  /** How to undo it then. */
  undo: line.optional(),
});
export type Tried = z.infer<typeof trialSchema>;
