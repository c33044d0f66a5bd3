/**
 * How the shipped concepts are written. Names are given by school in one line: the preferred one first, then those also used, between
 * bars: `'working end | live end'`. A name after `~` is an everyday word as well.
 */
import type { Concept, ConceptKind, ConceptLabel, School } from '../glossary.js';

export const MARINE: School = {
  id: 'marine',
  name: 'Marine',
  note: 'Words of boats and harbours: ropes are lines, and ends are named by where they are made fast.',
};
export const RESCUE: School = {
  id: 'rescue',
  name: 'Rescue and access',
  note: 'Words of those who hang on ropes: every part is named by whether it is loaded.',
};
export const CAMP: School = {
  id: 'camp',
  name: 'Camp',
  note: 'Words of tents, tarpaulins and youth groups: plain English before terms.',
};
export const WORKSHOP: School = {
  id: 'workshop',
  name: 'Workshop',
  note: 'Words of rigging lofts and teaching benches: a term for each thing, and each thing by its term.',
};
export const SCHOOLS: readonly School[] = [MARINE, RESCUE, CAMP, WORKSHOP];

const BY_KEY = { marine: MARINE.id, rescue: RESCUE.id, camp: CAMP.id, workshop: WORKSHOP.id } as const;
type Key = keyof typeof BY_KEY;

export interface Names extends Partial<Record<Key, string>> {
  /** What the schools say that are not named by themselves. */
  readonly all?: string;
  /** Names to avoid, with the reason, in all schools that do not use them themselves. */
  readonly avoid?: Readonly<Record<string, string>>;
  readonly misheard?: readonly string[];
}

export interface Links {
  readonly broader?: readonly string[];
  readonly related?: readonly string[];
  readonly notes?: string;
}

function labelsOf(line: string, school: string): ConceptLabel[] {
  return line.split('|').map((part, i): ConceptLabel => {
    const text = part.trim();
    const everyday = text.startsWith('~');
    return {
      school,
      status: i === 0 ? 'preferred' : 'also used',
      text: everyday ? text.slice(1) : text,
      ...(everyday ? { everyday } : {}),
    };
  });
}

/** One shipped concept. */
export function concept(
  id: string,
  kind: ConceptKind,
  definition: string,
  names: Names,
  { broader = [], related = [], notes }: Links = {},
): Concept {
  const labels: ConceptLabel[] = [];
  for (const [key, school] of Object.entries(BY_KEY)) {
    const line = names[key as Key] ?? names.all;
    const own = line === undefined ? [] : labelsOf(line, school);
    labels.push(...own);
    for (const [text, reason] of Object.entries(names.avoid ?? {}))
      if (!own.some((l) => l.text === text)) labels.push({ school, status: 'discouraged', text, reason });
  }
  for (const text of names.misheard ?? []) labels.push({ school: null, status: 'misheard', text });
  return { id, kind, definition, broader, related, labels, ...(notes === undefined ? {} : { notes }) };
}
