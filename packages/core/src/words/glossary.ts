/**
 * The glossary: concepts, and what each school of practice calls them. A concept is one thing; its labels are the names people have for it.
 */
import { remembered } from '../ground/remembered.js';

export const CONCEPT_KINDS = ['part of a rope', 'shape', 'action', 'state', 'class', 'knot', 'tool'] as const;
export type ConceptKind = (typeof CONCEPT_KINDS)[number];

/** How a school stands to a name: its own word, another it accepts, one it warns of, or a way in which the word is misspelt or misheard. */
export const LABEL_STATUSES = ['preferred', 'also used', 'discouraged', 'misheard'] as const;
export type LabelStatus = (typeof LABEL_STATUSES)[number];

export interface School {
  /** Lower-case words joined by hyphens. */
  readonly id: string;
  readonly name: string;
  /** Who speaks so, in a sentence. */
  readonly note: string;
}

export interface ConceptLabel {
  /** The school's id; `null` for what is misheard in all of them alike. */
  readonly school: string | null;
  readonly status: LabelStatus;
  readonly text: string;
  /** Why it is discouraged, or what else is to be known of it. */
  readonly reason?: string | undefined;
  /** An everyday word as well: the check of texts leaves it alone, for it would see it everywhere. */
  readonly everyday?: boolean | undefined;
}

export interface Concept {
  /** Lower-case words joined by hyphens. */
  readonly id: string;
  readonly kind: ConceptKind;
  /** In one or two sentences of our own. */
  readonly definition: string;
  readonly notes?: string | undefined;
  /** Ids of the concepts it is a kind or a part of. */
  readonly broader: readonly string[];
  readonly related: readonly string[];
  readonly labels: readonly ConceptLabel[];
}

export interface Glossary {
  readonly schools: readonly School[];
  readonly concepts: readonly Concept[];
}

export const NO_WORDS: Glossary = { schools: [], concepts: [] };

/** Bounds of a glossary, named in refusals. */
export const GLOSSARY_LIMITS = { schools: 40, concepts: 5000, labels: 60, label: 80, definition: 600 } as const;

const byId = remembered((glossary: Glossary) => new Map(glossary.concepts.map((c) => [c.id, c])));

/** The concept with an id; a glossary is indexed when it is first asked. */
export const conceptOf = (glossary: Glossary, id: string): Concept | undefined => byId(glossary).get(id);

export const schoolOf = (glossary: Glossary, id: string): School | undefined =>
  glossary.schools.find((s) => s.id === id);

/** A school's own word for a concept. */
export const preferredLabel = (concept: Concept, school: string): ConceptLabel | undefined =>
  concept.labels.find((l) => l.status === 'preferred' && l.school === school);

/** The concepts that name this one as broader. */
export const narrowerOf = (glossary: Glossary, id: string): readonly Concept[] =>
  glossary.concepts.filter((c) => c.broader.includes(id));

/** Names are the same when they differ only in capitals, spaces, hyphens and the shape of an apostrophe. */
export const sameName = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[’‘`]/g, "'")
    .replace(/[-‐‑–]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/** A text as an id: lower-case words joined by hyphens; empty when nothing of it is left. */
export const idFrom = (text: string): string =>
  text
    .normalize('NFD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60);
