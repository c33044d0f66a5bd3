/**
 * A knot of the author's own that begins from a pattern: its steps go on to dressing, setting and checking it, and where Tighten draws
 * it as it is dressed, it has that layout too.
 */
import {
  changeMethod,
  DEFAULT_TAIL_RULE,
  findingsOf,
  methodsOf,
  uncapital,
  withMethods,
  WORKSHOP_WORDS,
  type KnotDocument,
  type Method,
  type LayoutEdit,
  type MethodEdit,
} from '@foxtrail/core';
import type { Pattern } from './pattern.js';
import { SOURCES } from './sources.js';

function after(method: Method, edit: LayoutEdit | MethodEdit, layout = 0): Method {
  const done = changeMethod(method, layout, edit);
  if (!done.ok) throw new Error(`${done.place}: ${done.reason}`);
  return done.value;
}

/** The knot to begin with, in each of the ways in which the book ties it, one of them first. */
export function begunFrom({ knot }: Pick<Pattern, 'knot'>, way = 0): KnotDocument {
  const rules = { tail: DEFAULT_TAIL_RULE, cordMm: knot.entry.cord.diameterMm, words: WORKSHOP_WORDS };
  const finished = (method: Method): Method => {
    const missing = findingsOf(method, rules).find((f) => f.code === 'not-finished')?.fix;
    return missing ? after(method, missing.edit, missing.layout) : method;
  };
  const ways = methodsOf(knot).map((w) => ({ ...w, method: finished(w.method) }));
  const first = ways[way] ?? ways[0];
  return withMethods(knot, first ? [first, ...ways.filter((w) => w !== first)] : ways);
}

/** What a knot may begin from: a pattern, or one of its other ways to tie. */
export interface Beginning {
  readonly id: string;
  readonly way: number;
  readonly name: string;
  readonly family: string;
}

/** Every pattern, and each other way to tie it, in the order of the book. */
export const beginnings = (): Beginning[] =>
  SOURCES.flatMap(({ id, name, family, otherWays }) => [
    { id, way: 0, name, family },
    ...(otherWays ?? []).map((w, k) => ({ id, way: k + 1, name: `${name}: ${uncapital(w.name)}`, family })),
  ]);
