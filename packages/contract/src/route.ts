/**
 * What every line of the interface is described by, and how a refusal is told.
 */
import * as z from 'zod';

export const problemSchema = z.object({
  error: z.object({
    code: z.string(),
    place: z.string(),
    reason: z.string(),
    remedy: z.string(),
  }),
});
export type Problem = z.infer<typeof problemSchema>;

/** Changes name the revision they were made from. */
export const fromRevision = { revision: z.number().int().min(1) };

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
