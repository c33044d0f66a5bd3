/**
 * Answers to bad requests: a status, and what, where, why and how to mend it.
 */
import type { Problem } from '@foxtrail/contract';
import type { Refusal } from '@foxtrail/core';

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
