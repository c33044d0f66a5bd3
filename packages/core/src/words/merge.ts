/**
 * Taking one glossary into another: what is new, what changes, and where names collide, so that a person decides those before anything is
 * written.
 */
import type { COLLISION_KINDS } from './collision.js';
import type { Resolution } from './collision.js';
import { capital } from './inflect.js';
import {
  GLOSSARY_LIMITS,
  sameName,
  type Concept,
  type Glossary,
  type ConceptLabel,
  type LabelStatus,
} from './glossary.js';

/** Something of a file that cannot be taken in. */
export interface RefusedLine {
  /** “line 12”, or the subject in a graph. */
  readonly place: string;
  readonly reason: string;
  readonly remedy: string;
}

/** What a file brings. Concepts need not be complete: what is empty is left as it is. */
export interface Incoming {
  readonly glossary: Glossary;
  readonly refused: readonly RefusedLine[];
}

export interface MergeLine {
  readonly concept: string;
  readonly what: string;
}

export interface Collision {
  /** Names it in the answer: stays the same when the file is read again. */
  readonly key: string;
  readonly kind: (typeof COLLISION_KINDS)[number];
  readonly concept: string;
  readonly school: string;
  /** The name the file brings, and what it collides with. */
  readonly theirs: string;
  readonly ours: string;
  /** The other thing that has the name, for one name for two things. */
  readonly other?: string | undefined;
  readonly resolution?: Resolution | undefined;
  /** What each answer does, in a sentence. */
  readonly does: Readonly<Record<Resolution, string>>;
}

export interface MergeReport {
  readonly added: readonly MergeLine[];
  readonly changed: readonly MergeLine[];
  /** How many names the glossary has already. */
  readonly same: number;
  readonly refused: readonly RefusedLine[];
  readonly collisions: readonly Collision[];
}

export interface Merged {
  readonly glossary: Glossary;
  readonly report: MergeReport;
  /** Whether every collision has its answer. */
  readonly decided: boolean;
}

/** The kinds of the concepts a file brings without saying their kind. */
const UNKNOWN_KIND = 'part of a rope' as const;

interface Draft {
  concept: Concept;
  labels: ConceptLabel[];
  /** Its place in the glossary. */
  readonly place: number;
}

const isCalled = (label: ConceptLabel, school: string | null, name: string): boolean =>
  label.school === school && label.status === 'preferred' && sameName(label.text) === name;

/** Who is called what, so that nobody is looked for among all. */
class PreferredNames {
  private readonly of = new Map<string, Draft[]>();

  private static key = (school: string | null, name: string): string => `${school ?? ''}\n${name}`;

  note(draft: Draft, { school, status, text }: ConceptLabel): void {
    if (status !== 'preferred') return;
    const key = PreferredNames.key(school, sameName(text));
    const known = this.of.get(key);
    if (known) known.push(draft);
    else this.of.set(key, [draft]);
  }

  /** The first concept of the glossary but this one that a school calls so, and by which label. */
  holder(school: string, name: string, but: Draft): { other: Draft; taken: ConceptLabel } | undefined {
    let first: { other: Draft; taken: ConceptLabel } | undefined;
    // What was called so once may have given way since.
    for (const other of this.of.get(PreferredNames.key(school, name)) ?? []) {
      const taken = other === but ? undefined : other.labels.find((l) => isCalled(l, school, name));
      if (taken && (first === undefined || other.place < first.other.place)) first = { other, taken };
    }
    return first;
  }
}

/** Takes what a file brings into a glossary, with the answers given so far; a collision without an answer is left out. */
export function mergeGlossary(
  current: Glossary,
  { glossary: incoming, refused }: Incoming,
  answers: Readonly<Record<string, Resolution>> = {},
): Merged {
  const added: MergeLine[] = [];
  const changed: MergeLine[] = [];
  const collisions: Collision[] = [];
  const refusals = [...refused];
  let same = 0;

  const schools = [...current.schools];
  for (const school of incoming.schools) {
    const known = schools.findIndex((s) => s.id === school.id || sameName(s.name) === sameName(school.name));
    if (known < 0) {
      schools.push(school);
      added.push({ concept: '', what: `The school ${school.name}` });
    }
  }
  const schoolId = (id: string | null): string | null => {
    if (id === null) return null;
    const named = incoming.schools.find((s) => s.id === id);
    return schools.find((s) => s.id === id || (named && sameName(s.name) === sameName(named.name)))?.id ?? id;
  };

  const drafts = new Map<string, Draft>(
    current.concepts.map((c, place) => [c.id, { concept: c, labels: [...c.labels], place }]),
  );
  const preferred = new PreferredNames();
  for (const draft of drafts.values()) for (const label of draft.labels) preferred.note(draft, label);
  const idOf = matcher(current);
  const renamed = new Map(incoming.concepts.map((c) => [c.id, idOf(c)]));
  const isNew = new Set<string>();

  for (const concept of incoming.concepts) {
    const id = renamed.get(concept.id) ?? concept.id;
    const known = drafts.get(id);
    if (!known) {
      if (drafts.size >= GLOSSARY_LIMITS.concepts) {
        refusals.push({
          place: concept.id,
          reason: `A glossary holds ${GLOSSARY_LIMITS.concepts} concepts.`,
          remedy: 'Take fewer in.',
        });
        continue;
      }
      isNew.add(id);
      drafts.set(id, { concept: { ...concept, id, labels: [] }, labels: [], place: drafts.size });
      added.push({ concept: id, what: `The concept “${concept.labels[0]?.text ?? id}”` });
      continue;
    }
    const next = revised(known.concept, concept);
    const what = [
      ...(next.definition === known.concept.definition ? [] : ['its definition']),
      ...(next.notes === known.concept.notes ? [] : ['its notes']),
      ...(next.kind === known.concept.kind ? [] : [`its kind, now ${next.kind}`]),
    ];
    if (what.length > 0) changed.push({ concept: id, what: capital(what.join(', ')) });
    known.concept = next;
  }

  for (const concept of incoming.concepts) {
    const id = renamed.get(concept.id) ?? concept.id;
    const draft = drafts.get(id);
    if (!draft) continue;
    const links = (ids: readonly string[]): string[] =>
      ids.map((b) => renamed.get(b) ?? b).filter((b) => drafts.has(b) && b !== id);
    draft.concept = {
      ...draft.concept,
      broader: [...new Set([...draft.concept.broader, ...links(concept.broader)])].filter((b) => drafts.has(b)),
      related: [...new Set([...draft.concept.related, ...links(concept.related)])].filter((b) => drafts.has(b)),
    };
    for (const given of concept.labels) {
      const label = { ...given, school: schoolId(given.school) };
      const at = draft.labels.findIndex((l) => l.school === label.school && sameName(l.text) === sameName(label.text));
      const ours = draft.labels[at];
      if (ours?.status === label.status) {
        same += 1;
        continue;
      }
      if (draft.labels.length >= GLOSSARY_LIMITS.labels) {
        refusals.push({
          place: `${id}, “${label.text}”`,
          reason: `A concept has ${GLOSSARY_LIMITS.labels} names at most.`,
          remedy: 'Leave names out.',
        });
        continue;
      }
      const collision = collisionOf(label, draft, preferred, answers);
      if (collision) collisions.push(collision);
      const settled = settle(label, collision, draft, drafts);
      if (settled === undefined) continue;
      preferred.note(draft, settled);
      if (ours) {
        draft.labels[at] = { ...ours, ...settled };
        changed.push({
          concept: id,
          what: `“${label.text}” in ${sayIn(label, schools)}: ${ours.status} → ${settled.status}`,
        });
      } else {
        draft.labels.push(settled);
        if (!isNew.has(id))
          added.push({ concept: id, what: `“${label.text}”, ${settled.status} in ${sayIn(label, schools)}` });
      }
    }
  }
  // A concept that comes in with no name left is no concept; while its names are still to be decided it waits.
  for (const id of isNew) {
    if (drafts.get(id)?.labels.length !== 0) continue;
    drafts.delete(id);
    if (!collisions.some((c) => c.concept === id && c.resolution === undefined))
      refusals.push({
        place: id,
        reason: 'None of its names is taken in.',
        remedy: 'Give it a name of its own in the file.',
      });
  }
  const there = (ids: readonly string[]): string[] => ids.filter((x) => drafts.has(x));
  const concepts = [...drafts.values()].map(({ concept: { broader, related, ...rest }, labels }) => ({
    ...rest,
    broader: there(broader),
    related: there(related),
    labels,
  }));
  return {
    glossary: { schools, concepts },
    report: { added, changed, same, refused: refusals, collisions },
    decided: collisions.every((c) => c.resolution !== undefined),
  };
}

const sayIn = (label: ConceptLabel, schools: Glossary['schools']): string =>
  label.school === null ? 'every school' : (schools.find((s) => s.id === label.school)?.name ?? label.school);

/** Finds the concept of ours that an incoming one is: by its id, else by a preferred name that means one thing only. */
function matcher(current: Glossary): (concept: Concept) => string {
  const ids = new Set(current.concepts.map((c) => c.id));
  const named = new Map<string, Set<string>>();
  for (const c of current.concepts)
    for (const l of c.labels)
      if (l.status === 'preferred') named.set(sameName(l.text), (named.get(sameName(l.text)) ?? new Set()).add(c.id));
  return (concept) => {
    if (ids.has(concept.id)) return concept.id;
    // A name that is that of another thing of the same school is a collision, not a match.
    for (const l of concept.labels) {
      const found = l.status === 'preferred' ? named.get(sameName(l.text)) : undefined;
      const [only] = found?.size === 1 ? found : [];
      const other = only === undefined ? undefined : current.concepts.find((c) => c.id === only);
      if (other?.kind === concept.kind && sameMeaning(other, concept)) return other.id;
    }
    return concept.id;
  };
}

/** Concepts of the same name are taken for one when the file does not define its own otherwise. */
const sameMeaning = (ours: Concept, theirs: Concept): boolean =>
  theirs.definition === '' || sameName(ours.definition) === sameName(theirs.definition);

function revised(ours: Concept, theirs: Concept): Concept {
  const notes = theirs.notes ?? ours.notes;
  return {
    ...ours,
    kind: theirs.definition !== '' || theirs.kind !== UNKNOWN_KIND ? theirs.kind : ours.kind,
    definition: theirs.definition === '' ? ours.definition : theirs.definition,
    ...(notes === undefined ? {} : { notes }),
  };
}

/** Whether a name that comes in stands against one that is there. */
function collisionOf(
  label: ConceptLabel,
  draft: Draft,
  preferred: PreferredNames,
  answers: Readonly<Record<string, Resolution>>,
): Collision | undefined {
  const { school } = label;
  if (school === null || label.status !== 'preferred') return undefined;
  const key = (kind: string): string => `${kind}: ${draft.concept.id}, ${school}, ${sameName(label.text)}`;
  const ours = draft.labels.find((l) => l.school === school && l.status === 'preferred');
  if (ours) {
    const id = key('two preferred');
    return {
      key: id,
      kind: 'two preferred',
      concept: draft.concept.id,
      school,
      theirs: label.text,
      ours: ours.text,
      resolution: answers[id],
      does: {
        'keep ours': `“${ours.text}” stays the word; “${label.text}” is left out.`,
        'take theirs': `“${label.text}” becomes the word; “${ours.text}” is also used.`,
        'keep both': `“${ours.text}” stays the word; “${label.text}” is also used.`,
      },
    };
  }
  const found = preferred.holder(school, sameName(label.text), draft);
  if (!found) return undefined;
  const { other, taken } = found;
  const id = key('one name for two things');
  return {
    key: id,
    kind: 'one name for two things',
    concept: draft.concept.id,
    school,
    theirs: label.text,
    ours: taken.text,
    other: other.concept.id,
    resolution: answers[id],
    does: {
      'keep ours': `The name stays with ${other.concept.id}; ${draft.concept.id} does not get it.`,
      'take theirs': `The name goes to ${draft.concept.id}; ${other.concept.id} is also called so.`,
      'keep both': 'Both are called so; the check of texts will say that the name has two meanings.',
    },
  };
}

/** The label as it is taken in once its collision is answered; undefined when it is left out. Gives way on the other side where it must. */
function settle(
  label: ConceptLabel,
  collision: Collision | undefined,
  draft: Draft,
  drafts: ReadonlyMap<string, Draft>,
): ConceptLabel | undefined {
  if (!collision) return label;
  const demote = (of: Draft, text: string): void => {
    of.labels = of.labels.map((l) =>
      isCalled(l, label.school, sameName(text)) ? { ...l, status: 'also used' satisfies LabelStatus } : l,
    );
  };
  if (collision.resolution === undefined || collision.resolution === 'keep ours') return undefined;
  if (collision.kind === 'two preferred') {
    if (collision.resolution === 'keep both') return { ...label, status: 'also used' };
    demote(draft, collision.ours);
    return label;
  }
  const other = collision.other === undefined ? undefined : drafts.get(collision.other);
  if (collision.resolution === 'take theirs' && other) demote(other, collision.ours);
  return label;
}
