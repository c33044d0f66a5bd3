/**
 * A course: lessons and assemblies in an order, each with its goal and its time. What must come before what is computed, see `needs`.
 */
import * as z from 'zod';
import { nameSchema, plainText } from '../words/plain-text.js';

export const COURSE_LIMITS = { items: 60, goals: 8, minutes: 600 } as const;

/** A lesson by `knot:` and its id, an assembly by `assembly:` and its id. */
export const courseRefSchema = z
  .string()
  .regex(
    /^(?:knot|assembly):[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$|^gone$/,
    'name a lesson by “knot:” and its id, or an assembly by “assembly:” and its id',
  );

export const courseItemSchema = z.object({
  ref: courseRefSchema,
  /** What it was called last. */
  name: nameSchema,
  /** What a learner can do after it. */
  goal: plainText(200).default(''),
  /** What showing it takes, in minutes; null: as long as its film. */
  minutes: z.number().min(0).max(COURSE_LIMITS.minutes).nullable().default(null),
  /** What practising it takes, in minutes. */
  practice: z.number().min(0).max(COURSE_LIMITS.minutes).default(10),
});
export type CourseItem = z.infer<typeof courseItemSchema>;

export const courseSchema = z.object({
  name: nameSchema,
  summary: plainText(400).default(''),
  goals: z.array(plainText(200).min(1)).max(COURSE_LIMITS.goals).default([]),
  items: z.array(courseItemSchema).max(COURSE_LIMITS.items).default([]),
  /** Words that learners bring with them, as concepts. */
  known: z.array(z.string().max(60)).max(200).default([]),
  /** Learners: so many ropes of each are cut. */
  learners: z.number().int().min(1).max(60).default(1),
});
export type Course = z.infer<typeof courseSchema>;

/** What is known of a lesson or an assembly. */
export interface LessonFacts {
  readonly ref: string;
  readonly name: string;
  readonly state: 'there' | 'archived' | 'gone';
  /** Where its lesson is; null: it is not published, or an assembly. */
  readonly slug: string | null;
  /** The pattern that it is by computation. */
  readonly pattern: string | null;
  /** The concepts that its texts name, as they come up. */
  readonly words: readonly string[];
  /** Those of them that it explains before its first step. */
  readonly introduces: readonly string[];
  /** How long its film is, in seconds; null: it has none. */
  readonly seconds: number | null;
  /** The knots of an assembly. */
  readonly uses: readonly { readonly ref: string; readonly pattern: string | null; readonly name: string }[];
}
export type LessonFactsOf = (ref: string) => LessonFacts | undefined;

export interface ItemTime {
  /** Showing it; nothing where neither its author says it nor a film does. */
  readonly showing: number | undefined;
  readonly practice: number;
}

/** What an item takes, in minutes. */
export function timeOf(item: CourseItem, facts: LessonFacts | undefined): ItemTime {
  const film = facts?.seconds == null ? undefined : facts.seconds / 60;
  return { showing: item.minutes ?? film, practice: item.practice };
}

/** What a course takes, in minutes, and of how many items the showing is not known. */
export function courseTime(
  course: Course,
  facts: LessonFactsOf,
): { readonly minutes: number; readonly unknown: number } {
  const times = course.items.map((i) => timeOf(i, facts(i.ref)));
  return {
    minutes: times.reduce((sum, t) => sum + (t.showing ?? 0) + t.practice, 0),
    unknown: times.filter((t) => t.showing === undefined).length,
  };
}
