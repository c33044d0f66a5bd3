/**
 * The keys of every pattern, computed from its figure.
 */
import { finishedFigure, keysOf, sayRefusal, type KnotKeys } from '@foxtrail/core';
import { patterns } from './laid.js';

/** Takes about a second. A pattern without a key is a bug in the book, and throws. */
export function keysOfPatterns(): Readonly<Record<string, KnotKeys>> {
  return Object.fromEntries(
    patterns().map(({ id, knot }) => {
      const found = keysOf(finishedFigure(knot.method));
      if (!found.ok) throw new Error(`pattern ${id}: ${sayRefusal(found)}`);
      return [id, found.value];
    }),
  );
}
