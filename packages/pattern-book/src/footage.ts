/**
 * Films of a knot held against it: what its crossings make of it when they lie the other way, by the pattern book.
 */
import { mistakesOf, remembered, sayOutcome, type Figure } from '@foxtrail/core';
import type { Otherwise } from '@foxtrail/core/footage';
import { patternKeys } from './known.js';

/** What becomes of a figure when crossings of it are laid the other way. What cannot be worked out counts as another knot. */
export const otherwiseOf = remembered((figure: Figure): Otherwise => {
  const made = mistakesOf(figure, patternKeys());
  const known = new Map<string, ReturnType<Otherwise>>();
  const workOut: Otherwise = (crossings) => {
    const found = made.ok ? made.value(crossings) : made;
    if (!found.ok) return { becomes: 'What it would be is not worked out', named: false };
    const { outcome } = found.value;
    if (outcome === 'same') return outcome;
    return { becomes: sayOutcome(found.value), named: outcome === 'another knot' || outcome === 'mirror' };
  };
  return (crossings) => {
    const key = [...crossings].sort((a, b) => a - b).join(' ');
    const before = known.get(key) ?? workOut(crossings);
    known.set(key, before);
    return before;
  };
});
