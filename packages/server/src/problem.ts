/**
 * Answers to bad requests: a status, and what, where, why and how to mend it.
 */
import type { Problem } from '@foxtrail/contract';
import { isAway } from './database.js';
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

/** Bodies that could not be read, by what was wrong with them. */
const UNREAD: Readonly<Record<string, ConstructorParameters<typeof HttpProblem>>> = {
  'encoding.unsupported': [
    415,
    'encoding',
    'Content-Encoding',
    'It is packed in a way that is not known here.',
    'Send it as it is, or packed with gzip.',
  ],
  'charset.unsupported': [
    415,
    'charset',
    'Content-Type',
    'Its text is encoded in a way that is not known here.',
    'Send it as UTF-8.',
  ],
  'request.aborted': [400, 'broken-off', 'request', 'It broke off before it had come.', 'Send it again.'],
  'request.size.invalid': [400, 'wrong-length', 'Content-Length', 'It is not as long as it says.', 'Send it again.'],
};

/** Whatever was thrown, as an answer; what nobody foresaw goes to the log and not to the asker. */
export function toProblem(error: unknown, log: Logger): HttpProblem {
  if (error instanceof HttpProblem) return error;
  const { type, code, message, status } = error as { type?: string; code?: string; message?: string; status?: number };
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
  const unread = type === undefined ? undefined : UNREAD[type];
  if (unread) return new HttpProblem(...unread);
  // What the framework found wrong with an address or a header: a percent sign that stands for nothing, a range that is none.
  if (status !== undefined && status >= 400 && status < 500)
    return new HttpProblem(
      status,
      'bad-request',
      'request',
      'The request is not written as requests are.',
      'Check its address and its headers.',
    );
  // A value that was let through and that the database cannot keep as it is.
  if (code?.startsWith('22') === true) {
    log.warn({ code, message }, 'a value was let through that the database does not take');
    return new HttpProblem(
      400,
      'odd-value',
      'request',
      'There is a value in it that cannot be kept: too large a number, or text that is none.',
      'Check what was written and try again.',
    );
  }
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
  if (isAway(error)) {
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
