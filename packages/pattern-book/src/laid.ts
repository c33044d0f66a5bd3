/**
 * The patterns of the book, laid.
 */
import { lay, type Pattern } from './pattern.js';
import { SOURCES } from './sources.js';

const names = new Map(SOURCES.map((s) => [s.id, s.name]));

let laid: readonly Pattern[] | undefined;

/** Every pattern of the book, laid; the first call takes a moment, later ones none. */
export function patterns(): readonly Pattern[] {
  laid ??= SOURCES.map((s) => lay(s, (id) => names.get(id) ?? id));
  return laid;
}

/** The pattern with an id. */
export const patternOf = (id: string): Pattern | undefined => patterns().find((p) => p.id === id);
