/**
 * Errors a person can cause are values: what was refused, where, why, and how to mend it.
 */

export interface Refusal {
  readonly ok: false;
  /** Where: a field path, a trail position, a file line; in words an author can follow. */
  readonly place: string;
  /** Why, one sentence. */
  readonly reason: string;
  /** What puts it right, one sentence. */
  readonly remedy: string;
}

export type Result<T> = { readonly ok: true; readonly value: T } | Refusal;

export const accept = <T>(value: T): Result<T> => ({ ok: true, value });
export const refuse = (place: string, reason: string, remedy: string): Refusal => ({
  ok: false,
  place,
  reason,
  remedy,
});

/** A refusal as one line for people. */
export const sayRefusal = (r: Refusal): string => `${r.place}: ${r.reason} ${r.remedy}`;
