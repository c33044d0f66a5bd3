/**
 * The HTTP contract: Zod schemas shared by server and web. Types are inferred, never written twice.
 */
import {
  answersSchema,
  CLASS_SCHOOLS,
  COLLISION_KINDS,
  CONCEPT_KINDS,
  conceptId,
  conceptSchema,
  glossarySchema,
  ITEM_KINDS,
  LABEL_STATUSES,
  REMARK_KINDS,
  RESOLUTIONS,
  schoolSchema,
  vocabularySchema,
  wordChoiceSchema,
  figureFileSchema,
  KNOT_CLASSES,
  NAME_LIMIT,
  nameSchema,
  PACE_NAMES,
  practiceSchema,
  USE_GRADES,
} from '@foxtrail/core';
import * as z from 'zod';
import { KIN_ROUTES } from './kin.js';

export * from './kin.js';

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

/** Changes name the revision they were made from. */
const fromRevision = { revision: z.number().int().min(1) };

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

export const saveKnotSchema = z.object({ document: z.unknown() });
export const savedSchema = z.object({ card: knotCardSchema });

export const conflictSchema = problemSchema.extend({
  current: z.object({ card: knotCardSchema, document: figureFileSchema }),
});

export const clipQuerySchema = z.object({
  revision: z.coerce.number().int().min(1),
  duration: z.coerce.number().min(0).max(3600),
  pace: z.enum(PACE_NAMES),
  /** Whether it begins with its cautions: its captions do then. */
  cautions: z.enum(['true', 'false']).default('false'),
});
/** Longest clip stored, in bytes. */
export const CLIP_LIMIT = 64 * 1024 * 1024;

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
  clip: z.boolean(),
  /** The words this lesson is written in. */
  vocabulary: vocabularySchema,
  terms: z.array(termSchema),
  /** Where other schools do otherwise, when the lesson says so. */
  otherSchools: z.array(z.string()),
  /** Wrong ways of this knot that are published too. */
  wrongWays: z.array(z.object({ name: z.string(), slug: z.string() })),
});
export type PublicKnot = z.infer<typeof publicKnotSchema>;

export const publicListSchema = z.object({
  house: z.string(),
  knots: z.array(z.object({ name: z.string(), slug: z.string(), summary: z.string() })),
});

/** What the house has chosen: its words, and the concepts its learners are taken to know. */
export const houseWordsSchema = z.object({ choice: wordChoiceSchema, known: z.array(conceptId).max(400).readonly() });
export type HouseWords = z.infer<typeof houseWordsSchema>;

export const wordsSchema = houseWordsSchema.extend({ glossary: glossarySchema, revision: z.number().int() });
export type Words = z.infer<typeof wordsSchema>;

export const chooseWordsSchema = houseWordsSchema.extend(fromRevision);
export const writeConceptSchema = z.object({ ...fromRevision, concept: conceptSchema });
export const writeSchoolSchema = z.object({ ...fromRevision, school: schoolSchema });
export const removeWordsSchema = z.object({ revision: z.coerce.number().int().min(1) });
export const conceptFigureSchema = z.object({ figure: figureFileSchema });
export const setConceptFigureSchema = z.object({ figure: z.unknown() });

export const WORD_FORMATS = ['ttl', 'jsonld', 'csv'] as const;
/** Longest glossary file, in characters. */
export const GLOSSARY_FILE_LIMIT = 2_500_000;
export const importWordsSchema = z.object({
  format: z.enum(WORD_FORMATS),
  text: z.string().max(GLOSSARY_FILE_LIMIT, 'the file is too long: split it'),
  answers: answersSchema.default({}),
  /** False: only tell what would change. */
  apply: z.boolean(),
});
const mergeLine = z.object({ concept: z.string(), what: z.string() });
export const importedWordsSchema = z.object({
  report: z.object({
    added: z.array(mergeLine).readonly(),
    changed: z.array(mergeLine).readonly(),
    same: z.number().int(),
    refused: z.array(z.object({ place: z.string(), reason: z.string(), remedy: z.string() })).readonly(),
    collisions: z
      .array(
        z.object({
          key: z.string(),
          kind: z.enum(COLLISION_KINDS),
          concept: z.string(),
          school: z.string(),
          theirs: z.string(),
          ours: z.string(),
          other: z.string().optional(),
          resolution: z.enum(RESOLUTIONS).optional(),
          does: z.record(z.enum(RESOLUTIONS), z.string()),
        }),
      )
      .readonly(),
  }),
  /** Whether every collision has its answer. */
  decided: z.boolean(),
  applied: z.boolean(),
});
export type ImportedWords = z.output<typeof importedWordsSchema>;
export const exportWordsQuery = z.object({ school: conceptId.optional() });

const saying = z.object({ school: z.string(), status: z.enum(LABEL_STATUSES), reason: z.string().optional() });
export const disputesSchema = z.object({
  homonyms: z.array(
    z.object({
      name: z.string(),
      ofKnots: z.boolean(),
      meanings: z.array(
        z.object({
          concept: z.string().optional(),
          kind: z.enum(CONCEPT_KINDS).optional(),
          knot: z.string().optional(),
          called: z.string(),
          sayings: z.array(saying).readonly(),
        }),
      ),
    }),
  ),
  rivalries: z.array(
    z.object({
      concept: z.string(),
      kind: z.enum(CONCEPT_KINDS),
      called: z.string().optional(),
      preferred: z.array(z.object({ school: z.string(), name: z.string() })).readonly(),
      also: z.array(z.object({ name: z.string(), sayings: z.array(saying).readonly() })).readonly(),
    }),
  ),
});

export const remarkedQuery = z.object({ after: z.uuid().optional() });
export const remarkedKnotsSchema = z.object({
  knots: z.array(
    z.object({
      id: z.uuid(),
      name: z.string(),
      texts: z.array(
        z.object({
          place: z.string(),
          text: z.string(),
          remarks: z.array(z.object({ kind: z.enum(REMARK_KINDS), words: z.string(), says: z.string() })),
        }),
      ),
    }),
  ),
  /** How many knots were read for this answer, of how many. */
  read: z.number().int(),
  total: z.number().int(),
  /** Where to go on; null at the end. */
  next: z.uuid().nullable(),
});
export type RemarkedKnots = z.infer<typeof remarkedKnotsSchema>;

export const REVIEW_STATES = ['open', 'accepted', 'returned'] as const;
export const reviewVerdictSchema = z
  .object({
    verdict: z.enum(['accepted', 'returned']),
    remark: z.string().trim().max(600).default(''),
    /** The crossing a remark is tied to. */
    crossing: z.number().int().min(1).nullable().default(null),
  })
  .refine((v) => v.verdict === 'accepted' || v.remark !== '', {
    path: ['remark'],
    message: 'say what is wrong: what is returned needs a remark',
  });
export type ReviewVerdict = z.output<typeof reviewVerdictSchema>;
export const reviewSchema = z.object({
  id: z.uuid(),
  revision: z.number().int(),
  reviewer: z.string(),
  /** Whether it is the review of who asks. */
  own: z.boolean(),
  state: z.enum(REVIEW_STATES),
  begunAt: z.iso.datetime(),
  settledAt: z.iso.datetime().nullable(),
  verdicts: z.array(
    z.object({
      key: z.string(),
      verdict: z.enum(['accepted', 'returned']),
      remark: z.string(),
      crossing: z.number().int().nullable(),
    }),
  ),
});
export type Review = z.infer<typeof reviewSchema>;
export const LOG_KINDS = [
  'saved',
  'published',
  'withdrawn',
  'review begun',
  'review accepted',
  'review returned',
] as const;
export const logLineSchema = z.object({
  kind: z.enum(LOG_KINDS),
  revision: z.number().int(),
  who: z.string(),
  at: z.iso.datetime(),
  /** A saved revision's name. */
  name: z.string().nullable(),
});
export type LogLine = z.infer<typeof logLineSchema>;
export const knotReviewSchema = z.object({
  revision: z.number().int(),
  savedBy: z.string(),
  mayReview: z.boolean(),
  items: z.array(
    z.object({
      key: z.string(),
      kind: z.enum(ITEM_KINDS),
      title: z.string(),
      text: z.string(),
      method: z.number().int(),
      step: z.number().int().optional(),
      mark: z.string().optional(),
    }),
  ),
  current: reviewSchema.nullable(),
  /** The last one settled on an earlier revision. */
  before: reviewSchema.nullable(),
  /** What it needs before it is published, when people depend on it. */
  needs: z.array(z.object({ id: z.string(), met: z.boolean(), what: z.string(), how: z.string() })),
  log: z.array(logLineSchema),
});
export type KnotReview = z.infer<typeof knotReviewSchema>;

export const searchQuery = z.object({ q: z.string().trim().min(1, 'say what is looked for').max(NAME_LIMIT) });
export const foundSchema = z.object({
  found: z.array(
    z.object({
      kind: z.enum(['knot', 'word']),
      id: z.string(),
      /** What it is called, and the name by which it was found where that is another one. */
      name: z.string(),
      by: z.string().nullable(),
    }),
  ),
});
export type Found = z.infer<typeof foundSchema>;

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
    summary: 'Change the house’s name and the rules it keeps to',
    body: houseChangeSchema,
    answer: houseSchema,
    refusals: [400, 401, 403, 412],
  },
  {
    method: 'get',
    path: '/api/house/count',
    summary: 'How many knots are still to be counted by the present rules',
    answer: houseCountSchema,
    refusals: [401],
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
  {
    method: 'get',
    path: '/api/words',
    summary: 'The glossary and the words the house has chosen',
    answer: wordsSchema,
    refusals: [401],
  },
  {
    method: 'put',
    path: '/api/words',
    summary: 'Choose the house’s words',
    body: chooseWordsSchema,
    answer: wordsSchema,
    refusals: [400, 401, 403, 412],
  },
  {
    method: 'put',
    path: '/api/words/concepts/{word}',
    summary: 'Write a concept',
    body: writeConceptSchema,
    answer: wordsSchema,
    refusals: [400, 401, 403, 412],
  },
  {
    method: 'delete',
    path: '/api/words/concepts/{word}',
    summary: 'Remove a concept',
    query: removeWordsSchema,
    answer: wordsSchema,
    refusals: [401, 403, 404, 412],
  },
  {
    method: 'get',
    path: '/api/words/concepts/{word}/figure',
    summary: 'A concept’s figure file',
    answer: conceptFigureSchema,
    refusals: [401, 404],
  },
  {
    method: 'put',
    path: '/api/words/concepts/{word}/figure',
    summary: 'Give a concept another figure; null takes it away',
    body: setConceptFigureSchema,
    answer: wordsSchema,
    refusals: [400, 401, 403, 404],
  },
  {
    method: 'put',
    path: '/api/words/schools/{word}',
    summary: 'Add a school or rename one',
    body: writeSchoolSchema,
    answer: wordsSchema,
    refusals: [400, 401, 403, 409, 412],
  },
  {
    method: 'delete',
    path: '/api/words/schools/{word}',
    summary: 'Remove a school with its labels',
    query: removeWordsSchema,
    answer: wordsSchema,
    refusals: [401, 403, 404, 409, 412],
  },
  {
    method: 'post',
    path: '/api/words/import',
    summary: 'Take in a glossary (SKOS in Turtle or JSON-LD, CSV), or only tell what it would change',
    body: importWordsSchema,
    answer: importedWordsSchema,
    refusals: [400, 401, 403, 413],
  },
  ...WORD_FORMATS.map((format): Route => ({
    method: 'get',
    path: `/api/words/glossary.${format}`,
    summary: `The glossary, or one school’s words, as ${{ ttl: 'SKOS in Turtle', jsonld: 'SKOS in JSON-LD', csv: 'CSV' }[format]}`,
    query: exportWordsQuery,
    media: { ttl: 'text/turtle', jsonld: 'application/ld+json', csv: 'text/csv' }[format],
    refusals: [400, 401, 404],
  })),
  {
    method: 'get',
    path: '/api/words/disputes',
    summary: 'Names that mean two things, and things that have two names',
    answer: disputesSchema,
    refusals: [401],
  },
  {
    method: 'get',
    path: '/api/words/texts',
    summary: 'Knots whose texts are not in the words they are to be written in, some at a time',
    query: remarkedQuery,
    answer: remarkedKnotsSchema,
    refusals: [400, 401],
  },
  {
    method: 'get',
    path: '/api/search',
    summary: 'Knots and words by any name or misspelling',
    query: searchQuery,
    answer: foundSchema,
    refusals: [400, 401],
  },
  {
    method: 'get',
    path: '/api/knots/{id}/review',
    summary: 'How its present revision stands with its reviewer, what it needs, and its log',
    answer: knotReviewSchema,
    refusals: [401, 404],
  },
  {
    method: 'post',
    path: '/api/knots/{id}/review',
    summary: 'Begin a review of its present revision, by another account than saved it',
    answer: knotReviewSchema,
    refusals: [401, 403, 404, 409],
  },
  {
    method: 'put',
    path: '/api/knots/{id}/review/items/{item}',
    summary: 'Accept or return one item',
    body: reviewVerdictSchema,
    answer: knotReviewSchema,
    refusals: [400, 401, 404, 409],
  },
  {
    method: 'put',
    path: '/api/knots/{id}/review',
    summary: 'Settle the review: accepted when every item is, returned when one is',
    answer: knotReviewSchema,
    refusals: [401, 404, 409],
  },
  ...KIN_ROUTES,
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
