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
  type Tidied,
} from '@foxtrail/core';
import type { Pattern } from './pattern.js';

/** Patterns that Tighten draws as they lie when dressed. Turns round a rope or a host, and the butterflies, are dressed by hand. */
export const TIGHTENS: ReadonlySet<string> = new Set([
  'overhand',
  'noose',
  'slip-knot',
  'water-knot',
  'figure-eight',
  'eight-on-the-bight',
  'followed-eight',
  'reef',
  'granny',
  'thief',
  'grief',
  'sheet-bend',
  'double-sheet-bend',
  'bowline',
  'bowline-outside',
  'false-bowline',
  'carrick-bend',
]);

function after(method: Method, edit: LayoutEdit | MethodEdit, layout = 0): Method {
  const done = changeMethod(method, layout, edit);
  if (!done.ok) throw new Error(`${done.place}: ${done.reason}`);
  return done.value;
}

/** The knot to begin with; `tight` is the pattern's figure drawn tight. */
export function begunFrom({ knot }: Pick<Pattern, 'knot'>, tight?: Tidied): KnotDocument {
  const rules = { tail: DEFAULT_TAIL_RULE, cordMm: knot.entry.cord.diameterMm, words: WORKSHOP_WORDS };
  const missing = findingsOf(knot.method, rules).find((f) => f.code === 'not-finished')?.fix;
  let method = missing ? after(knot.method, missing.edit, missing.layout) : knot.method;
  if (tight) {
    method = after(method, { kind: 'name-layout', name: 'Open' });
    method = after(method, { kind: 'add-layout', name: 'Dressed' });
    const { figure, mapping } = tight;
    method = after(method, { kind: 'redraw', figure, mapping }, 1);
  }
  return { ...knot, method };
}
