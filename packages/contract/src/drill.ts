/**
 * Practice in the HTTP contract: what learners answered, as counts by question. Nothing of a learner is told or kept.
 */
import * as z from 'zod';
import { codeSchema } from './classes.js';
import { route } from './route.js';

/** What a question is called. */
const questionId = z
  .string()
  .regex(/^(?:judge|which|hand|side|lay):[a-z0-9-]{1,60}$/, 'a question has a kind and a name');
/** Most answers that are told at once, and most questions that an edition is counted for. */
export const ANSWERS_AT_ONCE = 50;
export const MOST_QUESTIONS = 160;
/** So many answers are taken from one address in so many minutes; what is more is not counted. */
export const ANSWERS_LET = { count: 240, minutes: 10 } as const;

export const answersSchema = z.object({
  /** The edition that was practised on. */
  revision: z.number().int().min(1),
  /** The class with which they are counted, too. */
  code: codeSchema.optional(),
  answers: z
    .array(z.object({ question: questionId, right: z.boolean() }))
    .min(1)
    .max(ANSWERS_AT_ONCE),
});
export type Answers = z.infer<typeof answersSchema>;

export const answerCountSchema = z.object({
  revision: z.number().int(),
  question: z.string(),
  right: z.number().int(),
  wrong: z.number().int(),
});

export const DRILL_ROUTES = {
  answer: route({
    method: 'post',
    path: '/api/public/knots/{slug}/answers',
    access: 'anyone',
    summary: 'How questions on a published knot were answered: counted by question, without a name',
    body: answersSchema,
    refusals: [400, 404, 409, 429],
  }),
  counts: route({
    method: 'get',
    path: '/api/knots/{id}/answers',
    summary: 'How learners answered, by edition and question; all of them, or those of a class',
    query: z.object({ group: z.uuid().optional() }),
    answer: z.object({ counts: z.array(answerCountSchema) }),
    refusals: [400, 401, 404],
  }),
  forget: route({
    method: 'delete',
    path: '/api/knots/{id}/answers',
    access: 'author',
    summary: 'Forget how learners answered',
    refusals: [401, 403, 404],
  }),
  keys: route({
    method: 'get',
    path: '/api/public/patterns/keys.json',
    access: 'anyone',
    summary: 'The keys by which every pattern of the book is known: a learner’s browser names a knot by them',
    answer: z.object({
      keys: z.array(
        z.object({
          id: z.string(),
          name: z.string(),
          slipped: z.boolean(),
          key: z.string(),
          mirrorKey: z.string(),
          lays: z.array(z.string()).readonly(),
          body: z.string(),
          mirrorBody: z.string(),
        }),
      ),
    }),
  }),
  slip: route({
    method: 'get',
    path: '/api/public/knots/{slug}/slips/{slip}.svg',
    access: 'anyone',
    summary: 'A published knot laid wrong at a crossing, as it lies in the hand: for practice',
    media: 'image/svg+xml',
    refusals: [404],
  }),
  form: route({
    method: 'get',
    path: '/api/public/patterns/{pattern}/form/{side}.svg',
    access: 'anyone',
    summary: 'A pattern of the book as it lies in the hand',
    media: 'image/svg+xml',
    refusals: [404],
  }),
} as const;
