/**
 * The house, its accounts and sessions.
 */
import { CLASS_SCHOOLS, vocabularySchema, NAME_LIMIT, nameSchema, practiceSchema } from '@foxtrail/core/documents';
import * as z from 'zod';
import { fromRevision, route } from './route.js';

export const ROLES = ['author', 'reviewer'] as const;

export const healthSchema = z.object({ ok: z.boolean(), database: z.enum(['up', 'down']), version: z.string() });

export const accountSchema = z.object({ id: z.uuid(), name: z.string(), role: z.enum(ROLES) });
export type Account = z.infer<typeof accountSchema>;

export const houseSchema = z.object({
  name: z.string(),
  /** The revision of its rules. */
  revision: z.number().int(),
  /** Which words the house has for classes: see `classLabel` in the core. */
  classSchool: z.enum(CLASS_SCHOOLS),
  /** The rules it keeps to. */
  practice: practiceSchema,
  /** The words composed texts are written in. */
  vocabulary: vocabularySchema,
});
export type House = z.infer<typeof houseSchema>;

/** What an author may change of the house. */
export const houseChangeSchema = z.object({ ...fromRevision, name: nameSchema, practice: practiceSchema });
export type HouseChange = z.infer<typeof houseChangeSchema>;

/** How many knots are still to be counted by the present rules. */
export const houseCountSchema = z.object({ left: z.number().int() });

export const sessionSchema = z.object({
  account: accountSchema.nullable(),
  house: houseSchema,
  /** Made-up sign-ins of the demo data; null when it is not loaded. */
  demo: z.array(z.object({ name: z.string(), password: z.string(), role: z.enum(ROLES) })).nullable(),
});
export type Session = z.infer<typeof sessionSchema>;

export const signInSchema = z.object({
  name: z.string().trim().min(1, 'a name is needed').max(NAME_LIMIT),
  password: z.string().min(1, 'a password is needed').max(200),
});
export type SignIn = z.infer<typeof signInSchema>;

export const HOUSE_ROUTES = {
  health: route({
    method: 'get',
    path: '/api/health',
    summary: 'Whether the server and its database answer',
    answer: healthSchema,
    access: 'anyone',
  }),
  session: route({
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in, the house, and the demo sign-ins',
    answer: sessionSchema,
    access: 'anyone',
  }),
  signIn: route({
    method: 'post',
    path: '/api/session',
    summary: 'Sign in',
    body: signInSchema,
    answer: sessionSchema,
    access: 'anyone',
    refusals: [400, 401, 429],
  }),
  signOut: route({ method: 'delete', path: '/api/session', summary: 'Sign out', access: 'anyone' }),
  change: route({
    method: 'put',
    path: '/api/house',
    access: 'author',
    summary: 'Change the house’s name and the rules it keeps to',
    body: houseChangeSchema,
    answer: houseSchema,
    refusals: [400, 401, 403, 412],
  }),
  leftToCount: route({
    method: 'get',
    path: '/api/house/count',
    summary: 'How many knots are still to be counted by the present rules',
    answer: houseCountSchema,
    refusals: [401],
  }),
} as const;
