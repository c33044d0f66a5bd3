/**
 * Ropes in the HTTP contract: what a house keeps of ropes, what they are tied to, bodies, plans, measured ties and pull tests. Each kind is a
 * list whose things are added, changed from the revision they were read at, and removed.
 */
import {
  knotRefSchema,
  measuredTieSchema,
  MOST_TESTS,
  personSchema,
  planSchema,
  pullTestSchema,
  STOCK_LIMITS,
  stockRopeSchema,
  thingSchema,
} from '@foxtrail/core/ropes';
import { assemblySchema } from '@foxtrail/core/assembly';
import { courseSchema } from '@foxtrail/core/course';
import * as z from 'zod';
import { fromRevision, route } from './route.js';

/** A thing that is kept: by its id, at its revision. */
export interface Kept<T> {
  readonly id: string;
  readonly revision: number;
  readonly is: T;
}

const keptOf = <S extends z.ZodType>(is: S) => z.object({ id: z.uuid(), revision: z.number().int(), is });

const tieRecordSchema = z.object({
  ...measuredTieSchema.shape,
  knot: knotRefSchema,
  knotName: z.string().max(80).default(''),
  /** Which rope of the knot. */
  strand: z.number().int().min(0).max(24).default(0),
});
export type TieRecord = z.infer<typeof tieRecordSchema>;

/** What is kept, by kind: its shape, what one is called, and how many there may be. */
export const KEPT_KINDS = {
  ropes: { shape: stockRopeSchema, one: 'rope', most: STOCK_LIMITS.ropes },
  things: { shape: thingSchema, one: 'thing', most: 500 },
  bodies: { shape: personSchema, one: 'body', most: 200 },
  ties: { shape: tieRecordSchema, one: 'tie', most: 5000 },
  tests: { shape: pullTestSchema, one: 'test', most: MOST_TESTS },
  plans: { shape: planSchema, one: 'plan', most: 500 },
  assemblies: { shape: assemblySchema, one: 'assembly', most: 300 },
  courses: { shape: courseSchema, one: 'course', most: 200 },
} as const;
export type KeptKind = keyof typeof KEPT_KINDS;
export type KeptValue<K extends KeptKind> = z.infer<(typeof KEPT_KINDS)[K]['shape']>;

/** Most things of a kind that are sent at once. */
export const KEPT_AT_ONCE = 500;

const routesOf = <S extends z.ZodType>(kind: KeptKind, shape: S, one: string) => ({
  list: route({
    method: 'get',
    path: `/api/kept/${kind}`,
    summary: `Every ${one} that the house keeps`,
    answer: z.array(keptOf(shape)),
    costly: 'sending',
    refusals: [401],
  }),
  add: route({
    method: 'post',
    path: `/api/kept/${kind}`,
    access: 'author',
    status: 201,
    summary: `Keep more of them: all that are sent, or none`,
    body: z.object({ things: z.array(shape).min(1).max(KEPT_AT_ONCE) }),
    answer: z.array(keptOf(shape)),
    refusals: [400, 401, 403, 409],
  }),
  change: route({
    method: 'put',
    path: `/api/kept/${kind}/{kept}`,
    access: 'author',
    summary: `Change a ${one}`,
    body: z.object({ ...fromRevision, is: shape }),
    answer: keptOf(shape),
    refusals: [400, 401, 403, 404, 409, 412],
  }),
  remove: route({
    method: 'delete',
    path: `/api/kept/${kind}/{kept}`,
    access: 'author',
    summary: `Remove a ${one}`,
    refusals: [401, 403, 404, 409],
  }),
});

export const ROPE_ROUTES = {
  ropes: routesOf('ropes', KEPT_KINDS.ropes.shape, KEPT_KINDS.ropes.one),
  things: routesOf('things', KEPT_KINDS.things.shape, KEPT_KINDS.things.one),
  bodies: routesOf('bodies', KEPT_KINDS.bodies.shape, KEPT_KINDS.bodies.one),
  ties: routesOf('ties', KEPT_KINDS.ties.shape, KEPT_KINDS.ties.one),
  tests: routesOf('tests', KEPT_KINDS.tests.shape, KEPT_KINDS.tests.one),
  plans: routesOf('plans', KEPT_KINDS.plans.shape, KEPT_KINDS.plans.one),
  assemblies: routesOf('assemblies', KEPT_KINDS.assemblies.shape, KEPT_KINDS.assemblies.one),
  courses: routesOf('courses', KEPT_KINDS.courses.shape, KEPT_KINDS.courses.one),
} as const;

/** A pull on a cell that is not there: where it breaks, in kilonewtons, and which of its runs. */
export const simulatedQuery = z.object({
  breaks: z.coerce.number().min(0.5).max(500),
  seed: z.coerce.number().int().min(0).max(4_294_967_295).default(1),
});
/** What a cell sends at a time: seconds since it began, and kilonewtons. */
export const readingsSchema = z.array(z.object({ at: z.number(), kn: z.number() }));

/** Longest photograph of a test, in bytes, and how many of them a house keeps. */
export const PHOTOGRAPH_LIMIT = 2 * 1024 * 1024;
export const MOST_PHOTOGRAPHS = 2000;

export const PHOTOGRAPH_ROUTES = {
  keep: route({
    method: 'put',
    path: '/api/photographs/{photograph}',
    access: 'author',
    summary: 'Keep a photograph (JPEG, PNG or WebP), named by the SHA-256 of its contents',
    costly: 'sending',
    refusals: [400, 401, 403, 404, 409, 413, 415],
  }),
  read: route({
    method: 'get',
    path: '/api/photographs/{photograph}',
    summary: 'A photograph of a pull test',
    media: 'image/*',
    refusals: [401, 404],
  }),
} as const;

export const LOAD_CELL_ROUTES = {
  simulated: route({
    method: 'get',
    path: '/api/load-cell/simulated',
    summary: 'Readings of a simulated load cell while it pulls until something breaks; nothing of it is measured',
    query: simulatedQuery,
    media: 'text/event-stream',
    costly: 'sending',
    refusals: [400, 401],
  }),
} as const;
