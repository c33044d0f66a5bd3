/** What is known of a knot that an assembly shows: what it is by computation, what to look for, and what is taken for it. */
import {
  chosenMarks,
  finishedLayout,
  inspectionMarks,
  keysOf,
  type InspectionMark,
  type KnotDocument,
  type Match,
  type Vocabulary,
} from '@foxtrail/core';
import type { KnotFacts } from '@foxtrail/core/assembly';
import { unsuitableReason } from '../grade.js';
import { KEYS } from '../keys.js';
import { BOOK_KIN } from '../kin.js';
import { patternKeys } from '../known.js';
import { patternOf } from '../laid.js';

/** Where a knot of an assembly stands in the house. */
export type Standing = Pick<KnotFacts, 'ref' | 'state' | 'errors' | 'slug'>;

/** Most marks that are looked for where the author has chosen none. */
const MOST_MARKS = 4;

function factsOf(knot: KnotDocument, matches: readonly Match[], standing: Standing, words: Vocabulary): KnotFacts {
  const { figure, marks = [] } = finishedLayout(knot.method);
  const chosen = chosenMarks(figure, marks, words).flatMap(({ mark }) => mark ?? []);
  const is = matches
    .filter((m) => m.relation === 'same' || m.relation === 'mirror')
    .map(({ id, name, relation }) => ({ id, name, mirrored: relation === 'mirror' }));
  const looked = chosen.length > 0 ? chosen : telling(inspectionMarks(figure, words));
  return {
    ...standing,
    name: knot.name,
    is,
    strands: figure.ropes.length,
    marks: looked.map(({ side, text }) => ({ side, text })),
    takenFor: is[0] ? takenFor(is[0].id) : [],
    unsuitable: unsuitableReason(knot, { matches }) ?? null,
  };
}

/** The marks that tell a knot at a glance: how its parts lie in pairs, its turns, what runs side by side; a plain crossing where there is no more. */
function telling(all: readonly InspectionMark[]): readonly InspectionMark[] {
  const better = all.filter((m) => m.kind !== 'tail' && (m.kind !== 'cross' || m.of !== undefined));
  const some = better.length > 0 ? better : all.filter((m) => m.kind === 'cross');
  return (['front', 'back'] as const).flatMap((side) => some.filter((m) => m.side === side).slice(0, MOST_MARKS / 2));
}

const takenFor = (id: string): string[] =>
  BOOK_KIN.filter((k) => k.kind === 'mistaken for' && (k.from === id || k.to === id)).flatMap((k) => {
    const other = patternOf(k.from === id ? k.to : k.from);
    return other ? [other.knot.name] : [];
  });

/** The facts of a knot of the shelf. */
export function knotFacts(knot: KnotDocument, standing: Standing, words: Vocabulary): KnotFacts {
  const keys = keysOf(finishedLayout(knot.method).figure);
  return factsOf(knot, keys.ok ? patternKeys().matches(keys.value) : [], standing, words);
}

/** The facts of a pattern; nothing where there is none of that id. */
export function patternFacts(id: string, words: Vocabulary): KnotFacts | undefined {
  const pattern = patternOf(id);
  const keys = KEYS[id];
  if (!pattern || !keys) return undefined;
  const standing: Standing = { ref: `pattern:${id}`, state: 'there', errors: 0, slug: null };
  return factsOf(pattern.knot, patternKeys().matches(keys), standing, words);
}
