/**
 * Patterns that differ by whole turns alone, from the fewest turns on: what one more turn eats is read from their forms, and holds for more turns
 * than are drawn.
 */
import { howToSet } from '@foxtrail/core';
import { eatsOf } from '@foxtrail/core/form';
import { perTurn } from '@foxtrail/core/ropes';
import { patternForm } from './forms.js';
import { patternOf } from './laid.js';

export interface TurnFamily {
  /** Turns of its first member. */
  readonly first: number;
  readonly members: readonly string[];
}

export const TURN_FAMILIES: readonly TurnFamily[] = [
  { first: 1, members: ['overhand', 'double-overhand', 'triple-overhand'] },
  { first: 1, members: ['fishermans', 'double-fishermans', 'triple-fishermans'] },
  { first: 1, members: ['noose', 'noose-2', 'noose-3'] },
  { first: 2, members: ['prusik-2', 'prusik', 'prusik-4'] },
];

/** What a rope of a pattern is eaten, set, in its own diameters; undefined where the book has no form of it. */
export function eatenOf(id: string, strand = 0): number | undefined {
  const [form, pattern] = [patternForm(id), patternOf(id)];
  if (!form || !pattern) return undefined;
  return eatsOf(howToSet(pattern.knot.method).figure, form)[strand]?.set;
}

/** What each turn more eats of a pattern that belongs to a family of turns, in diameters. */
export function turnEats(id: string): number | undefined {
  const family = TURN_FAMILIES.find((f) => f.members.includes(id));
  if (!family) return undefined;
  const known = family.members.flatMap((member, i) => {
    const diameters = eatenOf(member);
    return diameters === undefined ? [] : [{ turns: family.first + i, diameters }];
  });
  return perTurn(known)?.each;
}
