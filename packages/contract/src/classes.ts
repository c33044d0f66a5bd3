/**
 * Classes: groups of learners whose answers are counted together, by a code that their teacher gives them. Nothing of a learner is told or kept.
 */
import * as z from 'zod';
import { nameSchema } from '@foxtrail/core/documents';
import { route } from './route.js';

export const codeSchema = z.string().regex(/^[A-HJKMNP-Z2-9]{8}$/, 'a class code has eight letters and digits');
/** Most classes of a house. */
export const CLASSES_MOST = 200;
/** So many codes that are none are tried from one address in so many minutes; then none is looked at. */
export const GUESSES_LET = { count: 20, minutes: 10 } as const;

export const learnerClassSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  code: z.string(),
  /** The course that it goes through; null: it was removed since. */
  course: z.uuid().nullable(),
  /** Answers that were counted with it. */
  answers: z.number().int(),
});
export type LearnerClass = z.infer<typeof learnerClassSchema>;

export const CLASS_ROUTES = {
  list: route({
    method: 'get',
    path: '/api/classes',
    summary: 'Classes of learners, by name',
    answer: z.object({ classes: z.array(learnerClassSchema) }),
    refusals: [401],
  }),
  make: route({
    method: 'post',
    path: '/api/classes',
    access: 'author',
    status: 201,
    summary: 'Make a class of learners; its code is made for it',
    body: z.object({ name: nameSchema, course: z.uuid() }),
    answer: learnerClassSchema,
    refusals: [400, 401, 403, 404, 409],
  }),
  remove: route({
    method: 'delete',
    path: '/api/classes/{group}',
    access: 'author',
    summary: 'Remove a class, and what was counted with it; counts over all learners stay',
    refusals: [401, 403, 404],
  }),
  join: route({
    method: 'get',
    path: '/api/public/classes/{code}',
    access: 'anyone',
    summary: 'The class that a code is of',
    answer: z.object({ name: z.string() }),
    refusals: [400, 404, 429],
  }),
} as const;
