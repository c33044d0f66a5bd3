/**
 * What every line of the interface is described by, and how a refusal is told.
 */
import { conceptId } from '@foxtrail/core/documents';
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

/** Who may ask. */
export type Access = 'anyone' | 'account' | 'reviewer' | 'author' | 'owner';

/** One line of the interface: everything that the server, the OpenAPI document and a client need to know of a route. */
export interface Route {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  /** With its parameters in braces: `/api/knots/{id}`. What each of them may be, `PARAMETERS` says. */
  readonly path: string;
  readonly summary: string;
  /** Who may ask; absent: everybody who is signed in. */
  readonly access?: Access;
  readonly body?: z.ZodType;
  readonly query?: z.ZodObject;
  readonly answer?: z.ZodType;
  /** Media type of the answer when it is not JSON. */
  readonly media?: string;
  /** Status of an answer when it is another than 200, or 204 for one without contents. */
  readonly status?: number;
  readonly refusals?: readonly number[];
  /** It costs much work, or is long to send: an account has only so many of either kind done at once. */
  readonly costly?: 'work' | 'sending';
}

/** Declares a route and keeps its types. */
export const route = <const R extends Route>(line: R): R => line;

/** The parameters that addresses have, and what an unknown one is called. */
export const PARAMETERS = {
  id: { type: z.uuid(), names: 'knot' },
  number: { type: z.coerce.number().int().min(1).max(2_147_483_647), names: 'revision' },
  item: { type: z.string(), names: 'item' },
  relation: { type: z.uuid(), names: 'relation' },
  family: { type: z.uuid(), names: 'family' },
  person: { type: z.uuid(), names: 'person' },
  word: { type: conceptId, names: 'concept' },
  slug: { type: z.string(), names: 'knot' },
  step: { type: z.string(), names: 'step' },
  film: { type: z.string().regex(/^[0-9a-f]{64}$/), names: 'film' },
  photograph: { type: z.string().regex(/^[0-9a-f]{64}$/), names: 'photograph' },
  pattern: { type: z.string().regex(/^[a-z0-9-]{1,60}$/), names: 'pattern' },
  piece: { type: z.coerce.number().int().min(0).max(100_000), names: 'piece' },
  side: { type: z.string(), names: 'side' },
  slip: { type: z.coerce.number().int().min(1).max(1000), names: 'slip' },
  kept: { type: z.uuid(), names: 'thing' },
  group: { type: z.uuid(), names: 'class' },
  code: { type: z.string(), names: 'class' },
} as const satisfies Record<string, { type: z.ZodType; names: string }>;
export type ParameterName = keyof typeof PARAMETERS;

type NamesIn<P extends string> = P extends `${string}{${infer N}}${infer Rest}` ? N | NamesIn<Rest> : never;

/** What a route's address is filled in with. */
export type ParametersOf<R extends Route> = {
  readonly [N in NamesIn<R['path']> & ParameterName]: z.output<(typeof PARAMETERS)[N]['type']>;
};
/** What a part of a route is before and after its type has read it; nothing where the route has no such part. */
type Before<R extends Route, Part extends keyof Route> =
  R extends Readonly<Record<Part, infer T extends z.ZodType>> ? z.input<T> : undefined;
type After<R extends Route, Part extends keyof Route> =
  R extends Readonly<Record<Part, infer T extends z.ZodType>> ? z.output<T> : undefined;

/** What a client sends, and what the server makes of it. */
export type BodySent<R extends Route> = Before<R, 'body'>;
export type BodyRead<R extends Route> = After<R, 'body'>;
export type QuerySent<R extends Route> = Before<R, 'query'>;
export type QueryRead<R extends Route> = After<R, 'query'>;
/** What the server answers, and what a client makes of it. */
export type AnswerSent<R extends Route> = Before<R, 'answer'>;
export type AnswerRead<R extends Route> = After<R, 'answer'>;

/** The names of the parameters of a path, in order. */
export const parameterNames = (path: string): ParameterName[] =>
  [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1] as ParameterName);

/** A path with its parameters filled in. */
export const addressOf = (path: string, parameters: Readonly<Record<string, unknown>>): string =>
  path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(String(parameters[name])));
