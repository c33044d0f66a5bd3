/**
 * The ways to tie a knot: one is first, others may stand beside it.
 */
import type { KnotDocument, NamedMethod } from './document.js';

/** What the first method is called as long as it has no name. */
export const FIRST_METHOD = 'Method 1';

/** The ways to tie a knot, the first one first. */
export const methodsOf = ({ method, methodName, others }: KnotDocument): readonly NamedMethod[] => [
  { name: methodName ?? FIRST_METHOD, method },
  ...(others ?? []),
];

/** The knot with one of its methods in the place of the first, and no others: what is worked on, proofed and filmed at a time. */
export function knotByMethod(knot: KnotDocument, index: number): KnotDocument {
  const { others: _others, methodName: _name, ...rest } = knot;
  return { ...rest, method: methodsOf(knot)[index]?.method ?? knot.method };
}

/** The knot with these ways to tie it, the first one first. */
export function withMethods(knot: KnotDocument, [first, ...others]: readonly NamedMethod[]): KnotDocument {
  const { others: _others, methodName: _name, ...rest } = knot;
  const { name, method } = first as NamedMethod;
  return {
    ...rest,
    method,
    ...(name === FIRST_METHOD ? {} : { methodName: name }),
    ...(others.length > 0 ? { others } : {}),
  };
}
