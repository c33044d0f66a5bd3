/**
 * Courses in the HTTP contract: what is known of the lessons and assemblies in them. Courses themselves are kept as plans are.
 */
import { assemblySchema } from '@foxtrail/core/assembly';
import { COURSE_LIMITS, courseRefSchema, type LessonFacts } from '@foxtrail/core/course';
import * as z from 'zod';
import { fromRevision, route } from './route.js';

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

const itemPart = {
  name: z.string(),
  goal: z.string(),
  /** What it takes, as it is said. */
  time: z.string(),
};
/** A course as it was published: its lessons as they are published by themselves, its assemblies as they stood, with what is looked at. */
export const publishedCourseSchema = z.object({
  name: z.string(),
  summary: z.string(),
  goals: z.array(z.string()),
  time: z.string(),
  items: z.array(
    z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('lesson'), knot: z.uuid(), ...itemPart }),
      z.object({
        kind: z.literal('assembly'),
        ...itemPart,
        assembly: assemblySchema,
        groups: z.array(
          z.object({
            title: z.string(),
            number: z.number().nullable(),
            items: z.array(z.object({ id: z.string(), text: z.string() })),
          }),
        ),
        /** Patterns that its knots are by computation, by their references. */
        patterns: z.record(z.string(), z.string()),
      }),
    ]),
  ),
});
export type PublishedCourse = z.infer<typeof publishedCourseSchema>;

export const coursePublicationSchema = z.object({
  slug: z.string(),
  /** The revision of the course that is published. */
  revision: z.number().int(),
  publishedAt: z.iso.datetime(),
  publishedBy: z.string(),
});
export type CoursePublication = z.infer<typeof coursePublicationSchema>;

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
  publication: route({
    method: 'get',
    path: '/api/kept/courses/{kept}/publication',
    summary: 'How a course is published',
    answer: z.object({ publication: coursePublicationSchema.nullable() }),
    refusals: [401, 404],
  }),
  publish: route({
    method: 'put',
    path: '/api/kept/courses/{kept}/publication',
    access: 'author',
    summary: 'Publish a course as it is kept: its lessons are published already, its assemblies have no open errors',
    body: z.object({ ...fromRevision }),
    answer: coursePublicationSchema,
    costly: 'work',
    refusals: [400, 401, 403, 404, 409, 412],
  }),
  withdraw: route({
    method: 'delete',
    path: '/api/kept/courses/{kept}/publication',
    access: 'author',
    summary: 'Withdraw a course; its lessons stay published',
    refusals: [401, 403, 404],
  }),
} as const;
