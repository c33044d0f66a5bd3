/**
 * Reviews of knots that people depend on.
 */
import { ITEM_KINDS } from '@foxtrail/core/documents';
import * as z from 'zod';
import { route } from './route.js';

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

export const REVIEW_ROUTES = {
  read: route({
    method: 'get',
    path: '/api/knots/{id}/review',
    summary: 'How its present revision stands with its reviewer, what it needs, and its log',
    answer: knotReviewSchema,
    refusals: [401, 404],
  }),
  begin: route({
    method: 'post',
    path: '/api/knots/{id}/review',
    access: 'reviewer',
    status: 201,
    summary: 'Begin a review of its present revision, by another account than saved it',
    answer: knotReviewSchema,
    refusals: [401, 403, 404, 409],
  }),
  judge: route({
    method: 'put',
    path: '/api/knots/{id}/review/items/{item}',
    access: 'reviewer',
    summary: 'Accept or return one item',
    body: reviewVerdictSchema,
    answer: knotReviewSchema,
    refusals: [400, 401, 403, 404, 409],
  }),
  settle: route({
    method: 'put',
    path: '/api/knots/{id}/review',
    access: 'reviewer',
    summary: 'Settle the review: accepted when every item is, returned when one is',
    answer: knotReviewSchema,
    refusals: [401, 403, 404, 409],
  }),
} as const;
