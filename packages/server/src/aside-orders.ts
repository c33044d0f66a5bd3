/**
 * What goes to the processes that compute aside, and what comes back. Apart from the jobs themselves, so that the server's own process
 * need not know how they are done.
 */
import type { JOBS } from './aside-jobs.js';

type Jobs = typeof JOBS;
export type JobName = keyof Jobs;
export type OrderOf<J extends JobName> = Parameters<Jobs[J]>[0];
export type AnswerOf<J extends JobName> = Awaited<ReturnType<Jobs[J]>>;

export interface Order {
  readonly id: number;
  readonly job: JobName;
  readonly order: unknown;
}
/** The answer, or the error of its own that the job ended with. */
export type Answer = { readonly id: number } & ({ readonly answer: unknown } | { readonly error: string });

/** What a process says first: it has read its program. */
export const UP = 'up';
