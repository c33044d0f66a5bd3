/**
 * Kin in the HTTP contract: families, relations, and what is needed to discover them.
 */
import { KIN_KINDS, KIN_STATES, KNOT_CLASSES, nameSchema, figureFileSchema, MOST_MORE } from '@foxtrail/core/documents';
import * as z from 'zod';
import { route } from './route.js';

/** A knot on the shelf, `knot:` and its id, or one of the pattern book, `pattern:` and its id. */
export const kinRef = z
  .string()
  .regex(
    /^(?:knot:[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}|pattern:[a-z0-9-]{1,60})$/,
    'name a knot by “knot:” and its id, or a pattern by “pattern:” and its id',
  );

export const familySchema = z.object({ id: z.uuid(), name: z.string(), parent: z.uuid().nullable() });
export type Family = z.infer<typeof familySchema>;

export const kinKnotSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  class: z.enum(KNOT_CLASSES),
  family: z.uuid().nullable(),
  revision: z.number().int(),
  /** The pattern it is drawn as. */
  pattern: z.string().nullable(),
  wrongWay: z.boolean(),
});
export type KinKnotCard = z.infer<typeof kinKnotSchema>;

export const KIN_ORIGINS = ['book', 'stated', 'derived', 'discovered'] as const;
export const kinRelationSchema = z.object({
  id: z.uuid(),
  from: kinRef,
  to: kinRef,
  kind: z.enum(KIN_KINDS),
  turns: z.number().int(),
  origin: z.enum(KIN_ORIGINS),
  judged: z.object({ by: z.string().nullable(), why: z.string() }).nullable(),
  /** Null while it has not been tried on the present revisions. */
  proof: z.object({ state: z.enum(KIN_STATES), compared: z.string() }).nullable(),
});
export type KinRelation = z.infer<typeof kinRelationSchema>;

export const kinSchema = z.object({
  /** In the order of the tree, among those of one parent. */
  families: z.array(familySchema),
  knots: z.array(kinKnotSchema),
  relations: z.array(kinRelationSchema),
});
export type Kin = z.infer<typeof kinSchema>;

const WHY_LIMIT = 300;
const why = z.string().trim().min(1, 'say why').max(WHY_LIMIT);
export const stateKinSchema = z
  .object({
    from: kinRef,
    to: kinRef,
    kind: z.enum(KIN_KINDS),
    turns: z.number().int().min(1).max(MOST_MORE).default(1),
    origin: z.enum(['stated', 'derived', 'discovered']).default('stated'),
    why: why.nullable().default(null),
  })
  .refine((r) => r.from !== r.to, { path: ['to'], message: 'a knot is no kin of itself: choose another' });
export type StateKin = z.input<typeof stateKinSchema>;
/** A person's judgement of a relation; null takes it back. */
export const judgeKinSchema = z.object({ why: why.nullable() });

export const addFamilySchema = z.object({ name: nameSchema, parent: z.uuid().nullable().default(null) });
/** Renames a family, or puts it under another one, before one of its new siblings or last. */
export const changeFamilySchema = z.object({
  name: nameSchema.optional(),
  place: z.object({ parent: z.uuid().nullable(), before: z.uuid().nullable() }).optional(),
});
export type ChangeFamily = z.input<typeof changeFamilySchema>;
export const placeKnotSchema = z.object({ family: z.uuid().nullable() });

export const kinDocumentsQuery = z.object({ after: z.uuid().optional() });
export const kinDocumentsSchema = z.object({
  knots: z.array(z.object({ id: z.uuid(), name: z.string(), document: figureFileSchema })),
  total: z.number().int(),
  next: z.uuid().nullable(),
});
export type KinDocuments = z.infer<typeof kinDocumentsSchema>;

export const KIN_ROUTES = {
  read: route({
    method: 'get',
    path: '/api/kin',
    summary: 'Families, knots and how they are kin',
    answer: kinSchema,
    refusals: [401],
  }),
  state: route({
    method: 'post',
    path: '/api/kin/relations',
    access: 'author',
    status: 201,
    summary: 'State that two knots are kin; the answer says whether it is proved',
    body: stateKinSchema,
    answer: kinRelationSchema,
    refusals: [400, 401, 403, 404, 409],
  }),
  judge: route({
    method: 'put',
    path: '/api/kin/relations/{relation}',
    access: 'author',
    summary: 'Judge a relation, or take the judgement back',
    body: judgeKinSchema,
    answer: kinRelationSchema,
    refusals: [400, 401, 403, 404],
  }),
  takeBack: route({
    method: 'delete',
    path: '/api/kin/relations/{relation}',
    access: 'author',
    summary: 'Take a relation back',
    refusals: [401, 403, 404],
  }),
  documents: route({
    method: 'get',
    path: '/api/kin/documents',
    summary: 'Knots’ figure files, some at a time, for discovering kin',
    query: kinDocumentsQuery,
    answer: kinDocumentsSchema,
    refusals: [400, 401],
  }),
  addFamily: route({
    method: 'post',
    path: '/api/kin/families',
    access: 'author',
    status: 201,
    summary: 'A new family',
    body: addFamilySchema,
    answer: kinSchema,
    refusals: [400, 401, 403, 404, 409],
  }),
  changeFamily: route({
    method: 'put',
    path: '/api/kin/families/{family}',
    access: 'author',
    summary: 'Rename a family or put it elsewhere in the tree',
    body: changeFamilySchema,
    answer: kinSchema,
    refusals: [400, 401, 403, 404, 409],
  }),
  dissolveFamily: route({
    method: 'delete',
    path: '/api/kin/families/{family}',
    access: 'author',
    summary: 'Dissolve a family: what is in it goes to the one above',
    answer: kinSchema,
    refusals: [401, 403, 404],
  }),
  place: route({
    method: 'put',
    path: '/api/knots/{id}/family',
    access: 'author',
    summary: 'Put a knot into a family; null takes it out of all',
    body: placeKnotSchema,
    answer: kinSchema,
    refusals: [400, 401, 403, 404],
  }),
} as const;
