/**
 * Words: the glossary, what the house has chosen of it, disputes, and search by any name.
 */
import {
  answersSchema,
  COLLISION_KINDS,
  CONCEPT_KINDS,
  conceptId,
  conceptSchema,
  glossarySchema,
  LABEL_STATUSES,
  REMARK_KINDS,
  RESOLUTIONS,
  schoolSchema,
  wordChoiceSchema,
  figureFileSchema,
  NAME_LIMIT,
} from '@foxtrail/core/documents';
import * as z from 'zod';
import { fromRevision, route } from './route.js';

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
  homonyms: z
    .array(
      z.object({
        name: z.string(),
        ofKnots: z.boolean(),
        meanings: z
          .array(
            z.object({
              concept: z.string().optional(),
              kind: z.enum(CONCEPT_KINDS).optional(),
              knot: z.string().optional(),
              called: z.string(),
              sayings: z.array(saying).readonly(),
            }),
          )
          .readonly(),
      }),
    )
    .readonly(),
  rivalries: z
    .array(
      z.object({
        concept: z.string(),
        kind: z.enum(CONCEPT_KINDS),
        called: z.string().optional(),
        preferred: z.array(z.object({ school: z.string(), name: z.string() })).readonly(),
        also: z.array(z.object({ name: z.string(), sayings: z.array(saying).readonly() })).readonly(),
      }),
    )
    .readonly(),
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

const glossaryAs = <F extends (typeof WORD_FORMATS)[number]>(format: F, says: string, media: string) =>
  route({
    method: 'get',
    path: `/api/words/glossary.${format}`,
    summary: `The glossary, or one school’s words, as ${says}`,
    query: exportWordsQuery,
    media,
    refusals: [400, 401, 404],
  });

export const WORD_ROUTES = {
  read: route({
    method: 'get',
    path: '/api/words',
    summary: 'The glossary and the words the house has chosen',
    answer: wordsSchema,
    refusals: [401],
  }),
  choose: route({
    method: 'put',
    path: '/api/words',
    access: 'author',
    summary: 'Choose the house’s words',
    body: chooseWordsSchema,
    answer: wordsSchema,
    refusals: [400, 401, 403, 412],
  }),
  writeConcept: route({
    method: 'put',
    path: '/api/words/concepts/{word}',
    access: 'author',
    summary: 'Write a concept',
    body: writeConceptSchema,
    answer: wordsSchema,
    refusals: [400, 401, 403, 412],
  }),
  removeConcept: route({
    method: 'delete',
    path: '/api/words/concepts/{word}',
    access: 'author',
    summary: 'Remove a concept',
    query: removeWordsSchema,
    answer: wordsSchema,
    refusals: [400, 401, 403, 404, 412],
  }),
  conceptFigure: route({
    method: 'get',
    path: '/api/words/concepts/{word}/figure',
    summary: 'A concept’s figure file',
    answer: conceptFigureSchema,
    refusals: [401, 404],
  }),
  setConceptFigure: route({
    method: 'put',
    path: '/api/words/concepts/{word}/figure',
    access: 'author',
    summary: 'Give a concept another figure; null takes it away',
    body: setConceptFigureSchema,
    answer: wordsSchema,
    refusals: [400, 401, 403, 404],
  }),
  writeSchool: route({
    method: 'put',
    path: '/api/words/schools/{word}',
    access: 'author',
    summary: 'Add a school or rename one',
    body: writeSchoolSchema,
    answer: wordsSchema,
    refusals: [400, 401, 403, 409, 412],
  }),
  removeSchool: route({
    method: 'delete',
    path: '/api/words/schools/{word}',
    access: 'author',
    summary: 'Remove a school with its labels',
    query: removeWordsSchema,
    answer: wordsSchema,
    refusals: [400, 401, 403, 404, 409, 412],
  }),
  importWords: route({
    method: 'post',
    path: '/api/words/import',
    access: 'author',
    summary: 'Take in a glossary (SKOS in Turtle or JSON-LD, CSV), or only tell what it would change',
    body: importWordsSchema,
    answer: importedWordsSchema,
    costly: 'work',
    refusals: [400, 401, 403, 413],
  }),
  ttl: glossaryAs('ttl', 'SKOS in Turtle', 'text/turtle'),
  jsonld: glossaryAs('jsonld', 'SKOS in JSON-LD', 'application/ld+json'),
  csv: glossaryAs('csv', 'CSV', 'text/csv'),
  disputes: route({
    method: 'get',
    path: '/api/words/disputes',
    summary: 'Names that mean two things, and things that have two names',
    answer: disputesSchema,
    refusals: [401],
  }),
  texts: route({
    method: 'get',
    path: '/api/words/texts',
    summary: 'Knots whose texts are not in the words they are to be written in, some at a time',
    query: remarkedQuery,
    answer: remarkedKnotsSchema,
    refusals: [400, 401],
  }),
  search: route({
    method: 'get',
    path: '/api/search',
    summary: 'Knots and words by any name or misspelling',
    query: searchQuery,
    answer: foundSchema,
    refusals: [400, 401],
  }),
} as const;
