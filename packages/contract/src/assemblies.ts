/**
 * Assemblies in the HTTP contract: what is known of the knots that they show, and what inspections of them came to. Assemblies themselves
 * are kept as plans are.
 */
import { ASSEMBLY_LIMITS, inspectionSchema, TICKS, VERDICTS, type KnotFacts } from '@foxtrail/core/assembly';
import { knotRefSchema } from '@foxtrail/core/ropes';
import * as z from 'zod';
import { route } from './route.js';

export const knotFactsSchema = z.object({
  ref: z.string(),
  name: z.string(),
  state: z.enum(['there', 'archived', 'gone']),
  is: z.array(z.object({ id: z.string(), name: z.string(), mirrored: z.boolean() })).readonly(),
  strands: z.number().int(),
  marks: z.array(z.object({ side: z.enum(['front', 'back']), text: z.string() })).readonly(),
  takenFor: z.array(z.string()).readonly(),
  unsuitable: z.string().nullable(),
  errors: z.number().int().nullable(),
  slug: z.string().nullable(),
}) satisfies z.ZodType<KnotFacts>;

/** Inspections that are listed, the latest first. */
export const INSPECTIONS_LISTED = 200;

/** An inspection as it was recorded. */
export const inspectionRecordSchema = z.object({
  id: z.uuid(),
  /** Null: it was removed since. */
  assembly: z.uuid().nullable(),
  name: z.string(),
  revision: z.number().int(),
  by: z.string(),
  at: z.iso.datetime(),
  verdict: z.enum(VERDICTS),
  items: z.array(z.object({ group: z.string(), text: z.string(), tick: z.enum(TICKS) })),
  remarks: z.string(),
});
export type InspectionRecord = z.infer<typeof inspectionRecordSchema>;

export const ASSEMBLY_ROUTES = {
  facts: route({
    method: 'post',
    path: '/api/knot-facts',
    summary: 'What knots of the shelf and of the book are by computation, and what is looked for on them',
    body: z.object({ refs: z.array(knotRefSchema).min(1).max(ASSEMBLY_LIMITS.knots) }),
    answer: z.object({ facts: z.array(knotFactsSchema) }),
    costly: 'work',
    refusals: [400, 401, 429],
  }),
  inspections: route({
    method: 'get',
    path: '/api/inspections',
    summary: 'Inspections that were recorded, the latest first; of one assembly, or of all',
    query: z.object({ assembly: z.uuid().optional() }),
    answer: z.object({ inspections: z.array(inspectionRecordSchema) }),
    refusals: [400, 401],
  }),
  inspect: route({
    method: 'post',
    path: '/api/kept/assemblies/{kept}/inspections',
    access: 'reviewer',
    status: 201,
    summary: 'Record an inspection of an assembly, as it stands; a record is not changed afterwards',
    body: inspectionSchema,
    answer: inspectionRecordSchema,
    refusals: [400, 401, 403, 404, 412],
  }),
} as const;
