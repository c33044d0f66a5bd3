/**
 * Knots on the shelf, their revisions and clips, and what is published of them.
 */
import {
  conceptId,
  vocabularySchema,
  figureFileSchema,
  KNOT_CLASSES,
  NAME_LIMIT,
  nameSchema,
  OTHER_METHODS,
  PACE_NAMES,
  USE_GRADES,
  REELS,
} from '@foxtrail/core/documents';
import type { Cordage } from '@foxtrail/core';
import type { FormFile } from '@foxtrail/core/form';
import * as z from 'zod';
import { houseSchema } from './house.js';
import { problemSchema, route } from './route.js';

/** A knot in space, a form’s file (see `readForm`), and its ropes in the order in which they are coloured. */
export const inSpaceSchema = z.object({
  form: z.looseObject({ format: z.literal('foxtrail-form/1') }),
  ropes: z.array(z.looseObject({ id: z.string() })),
});
export interface InSpace {
  readonly form: FormFile;
  readonly ropes: readonly { readonly id: string; readonly cordage?: Cordage }[];
}

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
  /** False between a save and what is found of it: errors, warnings and verdict follow. */
  examined: z.boolean(),
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

/** Knots of a page of the shelf, and at most. */
export const SHELF_PAGE = 48;
export const SHELF_MOST = 200;

/** A page of the shelf, and how many knots there are in all. */
export const knotListSchema = z.object({ knots: z.array(knotCardSchema), total: z.number().int() });
export type KnotList = z.infer<typeof knotListSchema>;
export const listQuerySchema = z.object({
  q: z.string().trim().max(NAME_LIMIT).default(''),
  archived: z.enum(['true', 'false']).default('false'),
  /** A knot's id: finds the knots that are drawn like it. */
  like: z.uuid().optional(),
  /** How many of those that were found come before the first that is sent, and how many are sent at most. */
  from: z.coerce.number().int().min(0).max(1_000_000).default(0),
  most: z.coerce.number().int().min(1).max(SHELF_MOST).default(SHELF_PAGE),
});

export type KnotListQuery = z.output<typeof listQuerySchema>;

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
  /** Index of the method that it shows. */
  method: z.number().int(),
  size: z.number().int(),
  duration: z.number(),
  pace: z.enum(PACE_NAMES),
  /** Which reel of its method it shows, by its index; null: the steps as they are tied. */
  reel: z.number().int().nullable(),
  createdAt: z.iso.datetime(),
});
export type ClipInfo = z.infer<typeof clipInfoSchema>;

export const publicationSchema = z.object({
  slug: z.string(),
  revision: z.number().int(),
  publishedAt: z.iso.datetime(),
  publishedBy: z.string(),
  /** Indices of the methods that have a clip. */
  clips: z.array(z.number().int()),
});
export type Publication = z.infer<typeof publicationSchema>;

export const knotSchema = z.object({
  card: knotCardSchema,
  document: figureFileSchema,
  publication: publicationSchema.nullable(),
  /** The newest clip of each method. */
  clips: z.array(clipInfoSchema),
  /** What is stated of it as kin and refuted by the core. */
  refutedKin: z.array(z.object({ says: z.string(), compared: z.string() })).default([]),
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

export const saveKnotSchema = z.object({
  document: z.unknown(),
  /** What this save is known by: sent again, it is answered as it was the first time. */
  save: z.uuid().optional(),
});
export const savedSchema = z.object({ card: knotCardSchema });

export const conflictSchema = problemSchema.extend({
  current: z.object({ card: knotCardSchema, document: figureFileSchema }),
});

/** For which hand. */
const handQuery = z.object({ hand: z.enum(['right', 'left']).default('right') });
/** Which of a knot's methods, by its place in order, from 1. */
const methodQuery = z.coerce
  .number()
  .int()
  .min(1)
  .max(OTHER_METHODS + 1)
  .default(1);

export const clipQuerySchema = z.object({
  method: methodQuery,
  revision: z.coerce.number().int().min(1),
  duration: z.coerce.number().min(0).max(3600),
  pace: z.enum(PACE_NAMES),
  /** Which reel of its method it shows, from 1; absent: the steps as they are tied. */
  reel: z.coerce.number().int().min(1).max(REELS.most).optional(),
  /** Whether it begins with its cautions: its captions do then. */
  cautions: z.enum(['true', 'false']).default('false'),
});
/** Longest clip stored, and largest picture of one, in bytes. */
export const CLIP_LIMIT = 64 * 1024 * 1024;
export const POSTER_LIMIT = 4 * 1024 * 1024;

/** A word that a lesson explains to its learners before the first step. */
export const termSchema = z.object({
  id: conceptId,
  word: z.string(),
  definition: z.string(),
  figure: figureFileSchema.nullable(),
});
export type LessonTerm = z.infer<typeof termSchema>;

export const publicKnotSchema = z.object({
  slug: z.string(),
  document: figureFileSchema,
  publishedAt: z.iso.datetime(),
  house: houseSchema,
  /** Indices of the methods that have a clip. */
  clips: z.array(z.number().int()),
  /** The words this lesson is written in. */
  vocabulary: vocabularySchema,
  terms: z.array(termSchema),
  /** Where other schools do otherwise, when the lesson says so. */
  otherSchools: z.array(z.string()),
  /** Wrong ways of this knot that are published too. */
  wrongWays: z.array(z.object({ name: z.string(), slug: z.string() })),
  /** The edition that is published. */
  revision: z.number().int(),
});
export type PublicKnot = z.infer<typeof publicKnotSchema>;

export const publicListSchema = z.object({
  house: z.string(),
  knots: z.array(z.object({ name: z.string(), slug: z.string(), summary: z.string() })),
});

export const KNOT_ROUTES = {
  list: route({
    method: 'get',
    path: '/api/knots',
    summary: 'The shelf, searched by any name',
    query: listQuerySchema,
    answer: knotListSchema,
    refusals: [401],
  }),
  create: route({
    method: 'post',
    path: '/api/knots',
    access: 'author',
    status: 201,
    summary: 'A new knot, or an imported figure file',
    body: createKnotSchema,
    answer: savedSchema,
    costly: 'work',
    refusals: [400, 401, 403, 413],
  }),
  identify: route({
    method: 'post',
    path: '/api/identify',
    summary: 'The house’s knots that a figure is or is kin to, looked up by its signature keys',
    body: identifySchema,
    answer: identifiedSchema,
    costly: 'work',
    refusals: [400, 401],
  }),
  read: route({
    method: 'get',
    path: '/api/knots/{id}',
    summary: 'One knot; its revision is the ETag',
    answer: knotSchema,
    refusals: [401, 404],
  }),
  save: route({
    method: 'put',
    path: '/api/knots/{id}',
    access: 'author',
    summary: 'Save a knot; If-Match names the revision it was made from',
    body: saveKnotSchema,
    answer: savedSchema,
    costly: 'work',
    refusals: [400, 401, 403, 404, 410, 412, 413, 428],
  }),
  revisions: route({
    method: 'get',
    path: '/api/knots/{id}/revisions',
    summary: 'What was saved of a knot, the latest first',
    answer: revisionListSchema,
    refusals: [401, 404],
  }),
  revision: route({
    method: 'get',
    path: '/api/knots/{id}/revisions/{number}',
    summary: 'A knot as it was saved once',
    answer: revisionSchema,
    refusals: [400, 401, 404],
  }),
  nameRevision: route({
    method: 'put',
    path: '/api/knots/{id}/revisions/{number}',
    access: 'author',
    summary: 'Name a revision',
    body: nameRevisionSchema,
    refusals: [400, 401, 403, 404],
  }),
  thumbnail: route({
    method: 'get',
    path: '/api/knots/{id}/thumbnail.svg',
    summary: 'The finished figure',
    query: z.object({ r: z.coerce.number().int().optional() }),
    media: 'image/svg+xml',
    refusals: [401, 404],
  }),
  duplicate: route({
    method: 'post',
    path: '/api/knots/{id}/duplicate',
    access: 'author',
    status: 201,
    summary: 'A copy under a name of its own',
    answer: savedSchema,
    costly: 'work',
    refusals: [401, 403, 404],
  }),
  leftHanded: route({
    method: 'post',
    path: '/api/knots/{id}/left-handed',
    access: 'author',
    status: 201,
    summary: 'Its left-handed edition: made, or the one there is',
    answer: savedSchema,
    costly: 'work',
    refusals: [401, 403, 404, 409],
  }),
  archive: route({
    method: 'post',
    path: '/api/knots/{id}/archive',
    access: 'author',
    summary: 'Take it off the shelf',
    answer: savedSchema,
    refusals: [401, 403, 404],
  }),
  restore: route({
    method: 'post',
    path: '/api/knots/{id}/restore',
    access: 'author',
    summary: 'Put it back on the shelf',
    answer: savedSchema,
    refusals: [401, 403, 404],
  }),
  publish: route({
    method: 'post',
    path: '/api/knots/{id}/publication',
    access: 'author',
    summary: 'Publish the saved revision',
    answer: publicationSchema,
    costly: 'work',
    refusals: [401, 403, 404, 409],
  }),
  withdraw: route({
    method: 'delete',
    path: '/api/knots/{id}/publication',
    access: 'author',
    summary: 'Withdraw it',
    refusals: [401, 403, 404],
  }),
  keepClip: route({
    method: 'put',
    path: '/api/knots/{id}/clip',
    access: 'author',
    summary: 'Keep the exported demonstration (WebM)',
    query: clipQuerySchema,
    answer: clipInfoSchema,
    costly: 'sending',
    refusals: [400, 401, 403, 404, 413, 415],
  }),
  keepPoster: route({
    method: 'put',
    path: '/api/knots/{id}/clip/poster',
    access: 'author',
    summary: 'Keep the picture that is seen before the kept demonstration is played (WebP or PNG)',
    query: z.object({ method: methodQuery }),
    costly: 'sending',
    refusals: [400, 401, 403, 404, 413, 415],
  }),
  clip: route({
    method: 'get',
    path: '/api/knots/{id}/clip',
    summary: 'The kept demonstration',
    query: z.object({ method: methodQuery }),
    media: 'video/webm',
    refusals: [401, 404],
  }),
} as const;

export const PUBLIC_ROUTES = {
  list: route({
    method: 'get',
    path: '/api/public/knots',
    summary: 'What is published',
    answer: publicListSchema,
    access: 'anyone',
  }),
  read: route({
    method: 'get',
    path: '/api/public/knots/{slug}',
    summary: 'A published knot',
    answer: publicKnotSchema,
    access: 'anyone',
    refusals: [404],
  }),
  figure: route({
    method: 'get',
    path: '/api/public/knots/{slug}/figure.json',
    summary: 'Its figure file',
    answer: figureFileSchema,
    access: 'anyone',
    refusals: [404],
  }),
  sheet: route({
    method: 'get',
    path: '/api/public/knots/{slug}/sheet.svg',
    summary: 'All its steps on one sheet',
    media: 'image/svg+xml',
    access: 'anyone',
    refusals: [404],
  }),
  form: route({
    method: 'get',
    path: '/api/public/knots/{slug}/form/{side}.svg',
    summary: 'The knot as it lies in the hand, dressed and set, from one of its sides',
    query: handQuery,
    media: 'image/svg+xml',
    access: 'anyone',
    refusals: [404],
  }),
  inSpace: route({
    method: 'get',
    path: '/api/public/knots/{slug}/form.json',
    summary: 'The knot as it lies in the hand, dressed and set, in space; and what its ropes are',
    query: handQuery,
    answer: inSpaceSchema,
    access: 'anyone',
    refusals: [404],
  }),
  step: route({
    method: 'get',
    path: '/api/public/knots/{slug}/steps/{step}.svg',
    summary: 'One step: its front, its back or its left-handed form',
    query: z.object({ view: z.enum(['front', 'back', 'left']).default('front'), method: methodQuery }),
    media: 'image/svg+xml',
    access: 'anyone',
    refusals: [404],
  }),
  captions: route({
    method: 'get',
    path: '/api/public/knots/{slug}/captions.vtt',
    summary: 'Captions of the clip',
    query: z.object({ method: methodQuery }),
    media: 'text/vtt',
    access: 'anyone',
    refusals: [404],
  }),
  chapters: route({
    method: 'get',
    path: '/api/public/knots/{slug}/chapters.vtt',
    summary: 'Chapters of the clip: its steps',
    query: z.object({ method: methodQuery }),
    media: 'text/vtt',
    access: 'anyone',
    refusals: [404],
  }),
  descriptions: route({
    method: 'get',
    path: '/api/public/knots/{slug}/descriptions.vtt',
    summary: 'What the clip shows, for those who do not see it',
    query: z.object({ method: methodQuery }),
    media: 'text/vtt',
    access: 'anyone',
    refusals: [404],
  }),
  clip: route({
    method: 'get',
    path: '/api/public/knots/{slug}/clip.webm',
    summary: 'The demonstration',
    query: z.object({ method: methodQuery }),
    media: 'video/webm',
    access: 'anyone',
    refusals: [404],
  }),
  poster: route({
    method: 'get',
    path: '/api/public/knots/{slug}/poster',
    summary: 'What is seen before the demonstration is played; the drawing of the last step where none was kept',
    query: z.object({ method: methodQuery }),
    media: 'image/*',
    access: 'anyone',
    refusals: [404],
  }),
  film: route({
    method: 'get',
    path: '/api/public/knots/{slug}/films/{film}',
    summary: 'A film of the published knot (WebM or MP4)',
    media: 'video/*',
    access: 'anyone',
    refusals: [404],
  }),
  filmCaptions: route({
    method: 'get',
    path: '/api/public/knots/{slug}/films/{film}/captions.vtt',
    summary: 'The captions of a film of the published knot (WebVTT)',
    query: handQuery.extend({ method: methodQuery }),
    media: 'text/vtt',
    access: 'anyone',
    refusals: [404],
  }),
  filmChapters: route({
    method: 'get',
    path: '/api/public/knots/{slug}/films/{film}/chapters.vtt',
    summary: 'Where the steps begin in a film of the published knot (WebVTT)',
    query: handQuery.extend({ method: methodQuery }),
    media: 'text/vtt',
    access: 'anyone',
    refusals: [404],
  }),
  schema: route({
    method: 'get',
    path: '/api/schema/foxtrail-figure-1.json',
    summary: 'JSON Schema of the figure file',
    access: 'anyone',
  }),
} as const;
