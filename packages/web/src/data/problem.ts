/**
 * What went wrong with a request, in words for the author.
 */
import { HttpErrorResponse } from '@angular/common/http';
import { problemSchema } from '@foxtrail/contract';
import { TimeoutError } from 'rxjs';

export interface Trouble {
  /** HTTP status; 0 when the server did not answer at all. */
  readonly status: number;
  readonly code: string;
  readonly place: string;
  readonly reason: string;
  readonly remedy: string;
  readonly body: unknown;
}

const NO_ANSWER: Trouble = {
  status: 0,
  code: 'no-answer',
  place: 'server',
  reason: 'The server does not answer.',
  remedy: 'What you do is kept in this browser until it is back.',
  body: null,
};

export function troubleOf(error: unknown): Trouble {
  if (error instanceof TimeoutError) return NO_ANSWER;
  if (error instanceof HttpErrorResponse) {
    const parsed = problemSchema.safeParse(error.error);
    if (parsed.success) return { status: error.status, ...parsed.data.error, body: error.error };
    if (error.status === 0 || error.status >= 502) return NO_ANSWER;
    return {
      status: error.status,
      code: 'unexpected',
      place: 'server',
      reason: `The server answered ${error.status}.`,
      remedy: 'Try again.',
      body: error.error,
    };
  }
  return {
    status: -1,
    code: 'unexpected',
    place: 'page',
    reason: error instanceof Error ? error.message : String(error),
    remedy: 'Try again.',
    body: null,
  };
}

/** One sentence of it. */
export const sayTrouble = (t: Trouble): string => `${t.reason} ${t.remedy}`;

/** What went wrong, in a sentence. */
export const inWords = (error: unknown): string => sayTrouble(troubleOf(error));
