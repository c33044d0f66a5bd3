/**
 * A knot of the author's own that begins from a pattern: its steps go on to dressing, setting and checking it, and where Tighten draws
 * it as it is dressed, it has that layout too.
 */
import {
  applyMethodEdit,
  DEFAULT_TAIL_RULE,
  findingsOf,
  inLayout,
  WORKSHOP_WORDS,
  type KnotDocument,
  type Method,
  type MethodEdit,
  type Tidied,
} from '@foxtrail/core';
import type { Pattern } from './pattern.js';

/** Patterns that Tighten draws as they lie when dressed. Turns round a rope or a host, and the butterflies, are dressed by hand. */
export const TIGHTENS: ReadonlySet<string> = new Set([
  'overhand',
  'double-overhand',
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

function after(method: Method, edit: MethodEdit): Method {
  const done = applyMethodEdit(method, edit);
  if (!done.ok) throw new Error(`${done.place}: ${done.reason}`);
  return done.value.method;
}

/** The knot to begin with; `tight` is the pattern's figure drawn tight. */
export function begunFrom({ knot }: Pick<Pattern, 'knot'>, tight?: Tidied): KnotDocument {
  const rules = { tail: DEFAULT_TAIL_RULE, cordMm: knot.entry.cord.diameterMm, words: WORKSHOP_WORDS };
  const missing = findingsOf(knot.method, rules).find((f) => f.code === 'not-finished')?.fix?.edit;
  let method = missing ? after(knot.method, missing) : knot.method;
  if (tight) {
    method = after(method, { kind: 'name-layout', layout: 0, name: 'Open' });
    method = after(method, { kind: 'add-layout', name: 'Dressed' });
    const { figure, mapping } = tight;
    method = after(method, inLayout(1, { kind: 'figure', edit: { kind: 'restore', figure, mapping } }));
  }
  return { ...knot, method };
}
