/**
 * Courses in the HTTP contract: what is known of the lessons and assemblies in them. Courses themselves are kept as plans are.
 */
import { COURSE_LIMITS, courseRefSchema, type LessonFacts } from '@foxtrail/core/course';
import * as z from 'zod';
import { route } from './route.js';

export const lessonFactsSchema = z.object({
  ref: z.string(),
  name: z.string(),
  state: z.enum(['there', 'archived', 'gone']),
  slug: z.string().nullable(),
  pattern: z.string().nullable(),
  words: z.array(z.string()).readonly(),
  introduces: z.array(z.string()).readonly(),
  seconds: z.number().nullable(),
  uses: z.array(z.object({ ref: z.string(), pattern: z.string().nullable(), name: z.string() })).readonly(),
}) satisfies z.ZodType<LessonFacts>;

export const COURSE_ROUTES = {
  facts: route({
    method: 'post',
    path: '/api/lesson-facts',
    summary: 'What a course asks of lessons and assemblies: the words they say, what they use, how long they take',
    body: z.object({ refs: z.array(courseRefSchema).min(1).max(COURSE_LIMITS.items) }),
    answer: z.object({ facts: z.array(lessonFactsSchema) }),
    costly: 'work',
    refusals: [400, 401, 429],
  }),
} as const;
