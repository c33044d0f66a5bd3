/**
 * The HTTP contract: Zod schemas shared by server and web. Types are inferred, never written twice.
 */
import {
  CLASS_SCHOOLS,
  figureFileSchema,
  KNOT_CLASSES,
  NAME_LIMIT,
  nameSchema,
  PACE_NAMES,
  USE_GRADES,
} from '@foxtrail/core';
import * as z from 'zod';

export const ROLES = ['author', 'reviewer'] as const;

export const problemSchema = z.object({
  error: z.object({
    code: z.string(),
    place: z.string(),
    reason: z.string(),
    remedy: z.string(),
  }),
});
export type Problem = z.infer<typeof problemSchema>;

export const healthSchema = z.object({ ok: z.boolean(), database: z.enum(['up', 'down']), version: z.string() });

export const accountSchema = z.object({ id: z.uuid(), name: z.string(), role: z.enum(ROLES) });
export type Account = z.infer<typeof accountSchema>;

export const houseSchema = z.object({
  name: z.string(),
  /** Which words the house has for classes: see `classLabel` in the core. */
  classSchool: z.enum(CLASS_SCHOOLS),
  tail: z.object({ diameters: z.number(), millimetres: z.number() }),
});
export type House = z.infer<typeof houseSchema>;

/** What an author may change of the house. */
export const houseChangeSchema = z.object({ name: nameSchema, classSchool: z.enum(CLASS_SCHOOLS) });
export type HouseChange = z.infer<typeof houseChangeSchema>;

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

export const STATES = ['draft', 'proofed', 'published'] as const;

export const VERDICT_STATES = ['holds', 'mirrored', 'fails', 'unclaimed', 'unknown', 'declined'] as const;

/** How a knot's drawing stands to what it claims to be, as computed when it was saved. */
export const cardVerdictSchema = z.object({ state: z.enum(VERDICT_STATES), headline: z.string() });
export type CardVerdict = z.infer<typeof cardVerdictSchema>;

export const knotCardSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  aliases: z.array(z.string()),
  class: z.enum(KNOT_CLASSES),
  family: z.string(),
  useGrade: z.enum(USE_GRADES),
  state: z.enum(STATES),
  revision: z.number().int(),
  errors: z.number().int(),
  warnings: z.number().int(),
  crossings: z.number().int(),
  steps: z.number().int(),
  archived: z.boolean(),
  updatedAt: z.iso.datetime(),
  updatedBy: z.string(),
  /** Address of the public page, when published. */
  slug: z.string().nullable(),
  /** Null until the drawing has been looked at. */
  verdict: cardVerdictSchema.nullable(),
  /** Of a left-handed edition: the knot it mirrors, and whether it is still kept in step with it. */
  leftHandOf: z.object({ id: z.uuid(), name: z.string(), follows: z.boolean() }).nullable(),
});
export type KnotCard = z.infer<typeof knotCardSchema>;

export const knotListSchema = z.object({ knots: z.array(knotCardSchema), total: z.number().int() });
export const listQuerySchema = z.object({
  q: z.string().trim().max(NAME_LIMIT).default(''),
  archived: z.enum(['true', 'false']).default('false'),
  /** A knot's id: finds the knots that are drawn like it. */
  like: z.uuid().optional(),
});

const hexKey = z.string().regex(/^[0-9a-f]{40}$/, 'a key is 40 hexadecimal digits');

/** A figure's signature keys, to be looked up among the stored ones. */
export const identifySchema = z.object({
  key: hexKey,
  mirrorKey: hexKey,
  lays: z.array(hexKey).max(4),
  body: hexKey,
  mirrorBody: hexKey,
  /** A knot that is not to be found: the one the figure belongs to. */
  except: z.uuid().optional(),
});
export type Identify = z.infer<typeof identifySchema>;

export const RELATIONS = ['same', 'mirror', 'same, a tail laid to the other side', 'same body, other ends'] as const;
export const identifiedSchema = z.object({
  matches: z.array(z.object({ id: z.uuid(), name: z.string(), relation: z.enum(RELATIONS) })),
});
export type Identified = z.infer<typeof identifiedSchema>;

export const clipInfoSchema = z.object({
  revision: z.number().int(),
  size: z.number().int(),
  duration: z.number(),
  pace: z.enum(PACE_NAMES),
  createdAt: z.iso.datetime(),
});
export type ClipInfo = z.infer<typeof clipInfoSchema>;

export const publicationSchema = z.object({
  slug: z.string(),
  revision: z.number().int(),
  publishedAt: z.iso.datetime(),
  publishedBy: z.string(),
  clip: z.boolean(),
});
export type Publication = z.infer<typeof publicationSchema>;

export const knotSchema = z.object({
  card: knotCardSchema,
  document: figureFileSchema,
  publication: publicationSchema.nullable(),
  clip: clipInfoSchema.nullable(),
  /** Its left-handed edition, when there is one. */
  leftHanded: z.uuid().nullable(),
});
export type Knot = z.infer<typeof knotSchema>;

/** A new knot by name, or an imported figure file. */
export const createKnotSchema = z.union([
  z.object({ name: nameSchema }).strict(),
  z.object({ document: z.unknown() }).strict(),
]);

export const revisionInfoSchema = z.object({
  number: z.number().int().min(1),
  name: z.string().nullable(),
  savedBy: z.string(),
  savedAt: z.iso.datetime(),
});
export type RevisionInfo = z.infer<typeof revisionInfoSchema>;
export const revisionListSchema = z.object({ revisions: z.array(revisionInfoSchema), total: z.number().int() });
export const revisionSchema = z.object({ document: figureFileSchema });
/** A name for a revision; `null` takes it away. */
export const nameRevisionSchema = z.object({ name: nameSchema.nullable() });

export const saveKnotSchema = z.object({ document: z.unknown() });
export const savedSchema = z.object({ card: knotCardSchema });

export const conflictSchema = problemSchema.extend({
  current: z.object({ card: knotCardSchema, document: figureFileSchema }),
});

export const clipQuerySchema = z.object({
  revision: z.coerce.number().int().min(1),
  duration: z.coerce.number().min(0).max(3600),
  pace: z.enum(PACE_NAMES),
});
/** Longest clip stored, in bytes. */
export const CLIP_LIMIT = 64 * 1024 * 1024;

export const publicKnotSchema = z.object({
  slug: z.string(),
  document: figureFileSchema,
  publishedAt: z.iso.datetime(),
  house: houseSchema,
  clip: z.boolean(),
  /** Wrong ways of this knot that are published too. */
  wrongWays: z.array(z.object({ name: z.string(), slug: z.string() })),
});
export type PublicKnot = z.infer<typeof publicKnotSchema>;

export const publicListSchema = z.object({
  house: z.string(),
  knots: z.array(z.object({ name: z.string(), slug: z.string(), summary: z.string() })),
});

/** One line of the interface: everything the OpenAPI document and the client need to know of a route. */
export interface Route {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  readonly path: string;
  readonly summary: string;
  readonly body?: z.ZodType;
  readonly query?: z.ZodObject;
  readonly answer?: z.ZodType;
  /** Media type of the answer when it is not JSON. */
  readonly media?: string;
  readonly public?: boolean;
  readonly refusals?: readonly number[];
}

export const ROUTES: readonly Route[] = [
  {
    method: 'get',
    path: '/api/health',
    summary: 'Whether the server and its database answer',
    answer: healthSchema,
    public: true,
  },
  {
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in, the house, and the demo sign-ins',
    answer: sessionSchema,
    public: true,
  },
  {
    method: 'post',
    path: '/api/session',
    summary: 'Sign in',
    body: signInSchema,
    answer: sessionSchema,
    public: true,
    refusals: [400, 401, 429],
  },
  { method: 'delete', path: '/api/session', summary: 'Sign out', public: true },
  {
    method: 'put',
    path: '/api/house',
    summary: 'Change the house’s name and its words for classes',
    body: houseChangeSchema,
    answer: houseSchema,
    refusals: [400, 401, 403],
  },
  {
    method: 'get',
    path: '/api/knots',
    summary: 'The shelf, searched by any name',
    query: listQuerySchema,
    answer: knotListSchema,
    refusals: [401],
  },
  {
    method: 'post',
    path: '/api/knots',
    summary: 'A new knot, or an imported figure file',
    body: createKnotSchema,
    answer: savedSchema,
    refusals: [400, 401, 403, 413],
  },
  {
    method: 'post',
    path: '/api/identify',
    summary: 'The house’s knots that a figure is or is kin to, looked up by its signature keys',
    body: identifySchema,
    answer: identifiedSchema,
    refusals: [400, 401],
  },
  {
    method: 'get',
    path: '/api/knots/{id}',
    summary: 'One knot; its revision is the ETag',
    answer: knotSchema,
    refusals: [401, 404],
  },
  {
    method: 'put',
    path: '/api/knots/{id}',
    summary: 'Save a knot; If-Match names the revision it was made from',
    body: saveKnotSchema,
    answer: savedSchema,
    refusals: [400, 401, 403, 404, 410, 412, 413, 428],
  },
  {
    method: 'get',
    path: '/api/knots/{id}/revisions',
    summary: 'What was saved of a knot, the latest first',
    answer: revisionListSchema,
    refusals: [401, 404],
  },
  {
    method: 'get',
    path: '/api/knots/{id}/revisions/{number}',
    summary: 'A knot as it was saved once',
    answer: revisionSchema,
    refusals: [400, 401, 404],
  },
  {
    method: 'put',
    path: '/api/knots/{id}/revisions/{number}',
    summary: 'Name a revision',
    body: nameRevisionSchema,
    refusals: [400, 401, 403, 404],
  },
  {
    method: 'get',
    path: '/api/knots/{id}/thumbnail.svg',
    summary: 'The finished figure',
    media: 'image/svg+xml',
    refusals: [401, 404],
  },
  {
    method: 'post',
    path: '/api/knots/{id}/duplicate',
    summary: 'A copy under a name of its own',
    answer: savedSchema,
    refusals: [401, 403, 404],
  },
  {
    method: 'post',
    path: '/api/knots/{id}/left-handed',
    summary: 'Its left-handed edition: made, or the one there is',
    answer: savedSchema,
    refusals: [401, 403, 404, 409],
  },
  {
    method: 'post',
    path: '/api/knots/{id}/archive',
    summary: 'Take it off the shelf',
    answer: savedSchema,
    refusals: [401, 403, 404],
  },
  {
    method: 'post',
    path: '/api/knots/{id}/restore',
    summary: 'Put it back on the shelf',
    answer: savedSchema,
    refusals: [401, 403, 404],
  },
  {
    method: 'post',
    path: '/api/knots/{id}/publication',
    summary: 'Publish the saved revision',
    answer: publicationSchema,
    refusals: [401, 403, 404, 409],
  },
  { method: 'delete', path: '/api/knots/{id}/publication', summary: 'Withdraw it', refusals: [401, 403, 404] },
  {
    method: 'put',
    path: '/api/knots/{id}/clip',
    summary: 'Keep the exported demonstration (WebM)',
    query: clipQuerySchema,
    answer: clipInfoSchema,
    refusals: [400, 401, 403, 404, 413, 415],
  },
  {
    method: 'get',
    path: '/api/knots/{id}/clip',
    summary: 'The kept demonstration',
    media: 'video/webm',
    refusals: [401, 404],
  },
  { method: 'get', path: '/api/public/knots', summary: 'What is published', answer: publicListSchema, public: true },
  {
    method: 'get',
    path: '/api/public/knots/{slug}',
    summary: 'A published knot',
    answer: publicKnotSchema,
    public: true,
    refusals: [404],
  },
  {
    method: 'get',
    path: '/api/public/knots/{slug}/figure.json',
    summary: 'Its figure file',
    answer: figureFileSchema,
    public: true,
    refusals: [404],
  },
  {
    method: 'get',
    path: '/api/public/knots/{slug}/sheet.svg',
    summary: 'All its steps on one sheet',
    media: 'image/svg+xml',
    public: true,
    refusals: [404],
  },
  {
    method: 'get',
    path: '/api/public/knots/{slug}/steps/{step}.svg',
    summary: 'One step; ?view=front, back or left',
    media: 'image/svg+xml',
    public: true,
    refusals: [404],
  },
  {
    method: 'get',
    path: '/api/public/knots/{slug}/captions.vtt',
    summary: 'Captions of the clip',
    media: 'text/vtt',
    public: true,
    refusals: [404],
  },
  {
    method: 'get',
    path: '/api/public/knots/{slug}/clip.webm',
    summary: 'The demonstration',
    media: 'video/webm',
    public: true,
    refusals: [404],
  },
  {
    method: 'get',
    path: '/api/schema/foxtrail-figure-1.json',
    summary: 'JSON Schema of the figure file',
    public: true,
  },
];
