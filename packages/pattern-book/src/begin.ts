/**
 * A knot of the author's own that begins from a pattern: its steps go on to dressing, setting and checking it, and where Tighten draws
 * it as it is dressed, it has that layout too.
 */
import {
  changeMethod,
  DEFAULT_TAIL_RULE,
  findingsOf,
  WORKSHOP_WORDS,
  type KnotDocument,
  type Method,
  type LayoutEdit,
  type MethodEdit,
} from '@foxtrail/core';
import type { Pattern } from './pattern.js';

function after(method: Method, edit: LayoutEdit | MethodEdit, layout = 0): Method {
  const done = changeMethod(method, layout, edit);
  if (!done.ok) throw new Error(`${done.place}: ${done.reason}`);
  return done.value;
}

/** The knot to begin with. */
export function begunFrom({ knot }: Pick<Pattern, 'knot'>): KnotDocument {
  const rules = { tail: DEFAULT_TAIL_RULE, cordMm: knot.entry.cord.diameterMm, words: WORKSHOP_WORDS };
  const missing = findingsOf(knot.method, rules).find((f) => f.code === 'not-finished')?.fix;
  return missing ? { ...knot, method: after(knot.method, missing.edit, missing.layout) } : knot;
}
