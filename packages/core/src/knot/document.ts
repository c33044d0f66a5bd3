/**
 * The knot document: what an author works on.
 */
import { EMPTY_METHOD, type Method } from '../tying/method.js';
import { EMPTY_ENTRY, type Entry } from './entry.js';

/** A knot as it is worked on: its name, its entry, its method, and what else its file held. */
export interface KnotDocument {
  readonly name: string;
  readonly entry: Entry;
  readonly method: Method;
  /** What the method is called, where there are several. */
  readonly methodName?: string | undefined;
  /** Other ways to tie the knot. */
  readonly others?: readonly NamedMethod[] | undefined;
  readonly extra: Readonly<Record<string, unknown>>;
}

/** One of several ways to tie a knot. */
export interface NamedMethod {
  readonly name: string;
  readonly method: Method;
}

/** A new knot with nothing on its board. */
export const blankKnot = (name: string): KnotDocument => ({
  name,
  entry: EMPTY_ENTRY,
  method: EMPTY_METHOD,
  extra: {},
});
