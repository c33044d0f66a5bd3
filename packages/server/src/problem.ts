/**
 * Answers to bad requests: a status, and what, where, why and how to mend it.
 */
import type { Problem } from '@foxtrail/contract';
import type { Refusal } from '@foxtrail/core';
import type { Logger } from 'pino';

export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly place: string,
    readonly reason: string,
    readonly remedy: string,
    /** Further fields of the answer. */
    readonly more: Readonly<Record<string, unknown>> = {},
    readonly headers: Readonly<Record<string, string>> = {},
  ) {
    super(reason);
  }

  body(): Problem & Record<string, unknown> {
    return { error: { code: this.code, place: this.place, reason: this.reason, remedy: this.remedy }, ...this.more };
  }
}

export const refused = (r: Refusal): HttpProblem => new HttpProblem(400, 'refused', r.place, r.reason, r.remedy);
export const notFound = (what: string): HttpProblem =>
  new HttpProblem(404, 'not-found', what, `There is no such ${what}.`, 'Look for it on the shelf.');

/** Whatever was thrown, as an answer; what nobody foresaw goes to the log and not to the asker. */
export function toProblem(error: unknown, log: Logger): HttpProblem {
  if (error instanceof HttpProblem) return error;
  const { type, code, message } = error as { type?: string; code?: string; message?: string };
  if (type === 'entity.too.large')
    return new HttpProblem(
      413,
      'too-large',
      'request',
      'The file is too large.',
      'A rope holds 2000 points; draw the figure with fewer.',
    );
  if (type === 'entity.parse.failed')
    return new HttpProblem(
      400,
      'not-json',
      'request',
      `It is not JSON: ${message ?? ''}.`,
      'Save it as a figure file and try again.',
    );
  if (code === '53100') {
    log.error({ code }, 'disk full');
    return new HttpProblem(
      507,
      'no-room',
      'server',
      'The server’s disk is full: it cannot save at present.',
      'Your work is kept in this browser; tell who keeps the server.',
    );
  }
  if (
    (code !== undefined && (/^(ECONN|57P|08|53)/.test(code) || code === 'ETIMEDOUT')) ||
    // What a pool says when no connection came free, or none was made, in time; neither has a code.
    /^(?:timeout exceeded when trying to connect|Connection terminated due to connection timeout)/.test(message ?? '')
  ) {
    log.error({ code, message }, 'database does not answer');
    return new HttpProblem(
      503,
      'database-down',
      'server',
      'The database does not answer.',
      'Your work is kept in this browser; it is saved when the database is back.',
    );
  }
  log.error({ error: (error as Error).stack ?? String(error) }, 'unexpected');
  return new HttpProblem(
    500,
    'unexpected',
    'server',
    'Something went wrong on the server; it has been noted in its log.',
    'Try again.',
  );
}
