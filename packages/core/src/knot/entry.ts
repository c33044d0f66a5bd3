/**
 * A knot's entry: what is said of it beside its drawing.
 */
import * as z from 'zod';
import { PULLS } from '../dressing/winding.js';
import { plannedTailSchema } from '../ropes/tail-rule.js';
import { KNOT_CLASSES, LOAD_WAYS, USE_GRADES } from '../words/classes.js';
import { conceptId, nameSchema, NAME_LIMIT, plainText } from '../words/plain-text.js';
import { judgedSchema, trialSchema } from './judged.js';

export const entrySchema = z.looseObject({
  aliases: z.array(nameSchema).max(20).default([]),
  class: z.enum(KNOT_CLASSES).default('not classed'),
  family: plainText(NAME_LIMIT).default(''),
  useGrade: z.enum(USE_GRADES).default('light duty'),
  summary: plainText(500).default(''),
  cord: z
    .looseObject({ name: plainText(NAME_LIMIT).default(''), diameterMm: z.number().min(0.5).max(120).default(10) })
    .default({ name: '', diameterMm: 10 }),
  cautions: z.array(plainText(300)).max(12).default([]),
  /** The known knot it is meant to be: a pattern's id; `none` when it is meant to be none of them. */
  claim: z
    .string()
    .regex(/^[a-z0-9-]{1,60}$/, 'a claim is a pattern’s id: small letters, digits and hyphens')
    .optional(),
  /** The words its lesson is written in, where they are not the house's, and the concepts it explains to learners first. */
  words: z
    .looseObject({
      school: conceptId.optional(),
      introduces: z.array(conceptId).max(40).optional(),
    })
    .optional(),
  /** What is judged of it for choosing, and what it does when it is tried. */
  judged: judgedSchema.optional(),
  behaviour: z.array(trialSchema).max(24).optional(),
  /** Whether its lesson says what other schools do. */
  otherSchools: z.boolean().optional(),
  /** The hand it is drawn for, where that is the left. */
  hand: z.literal('left').optional(),
  /** The side to which it is pulled along its spar, where that matters. */
  pull: z.enum(PULLS).optional(),
  /** Which ways the lesson loads it. */
  loaded: z.array(z.enum(LOAD_WAYS)).min(1).max(LOAD_WAYS.length).optional(),
  /** What a plan leaves of its tails. */
  tail: plannedTailSchema.optional(),
  /** The name of the knot this is a wrong way of. */
  wrongWayOf: nameSchema.optional(),
});
export type Entry = z.infer<typeof entrySchema>;

export const EMPTY_ENTRY: Entry = entrySchema.parse({});

/** Most ways to tie one knot besides the first. */
export const OTHER_METHODS = 5;
