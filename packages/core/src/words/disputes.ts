/**
 * Names in dispute: one name for two things, and two names for one thing, across schools and the knots of a library.
 */
import { conceptOf, sameName, type Concept, type Glossary, type LabelStatus } from './glossary.js';
import { wordFor, type WordChoice } from './vocabulary.js';

/** A knot of the library, with every name it goes by. */
export interface NamedKnot {
  readonly id: string;
  readonly name: string;
  readonly aliases: readonly string[];
  /** The concept of the knot it is, where that is known. */
  readonly concept?: string | undefined;
}

/** Who says a name, and how they stand to it. */
export interface Saying {
  readonly school: string;
  readonly status: LabelStatus;
  readonly reason?: string | undefined;
}

export interface Meaning {
  /** The concept that is meant, unless it is a knot of the library with no concept of its own. */
  readonly concept?: string | undefined;
  readonly knot?: string | undefined;
  /** The concept’s kind: a verb and a noun may look alike. */
  readonly kind?: Concept['kind'] | undefined;
  /** What the house calls it. */
  readonly called: string;
  readonly sayings: readonly Saying[];
}

/** A name that means more than one thing. */
export interface Homonym {
  readonly name: string;
  readonly meanings: readonly Meaning[];
  /** Whether any of the meanings is a knot: those are told apart by nothing but the name. */
  readonly ofKnots: boolean;
}

/** A thing that schools have different words for. */
export interface Rivalry {
  readonly concept: string;
  readonly kind: Concept['kind'];
  /** What the house calls it. */
  readonly called: string | undefined;
  readonly preferred: readonly { readonly school: string; readonly name: string }[];
  readonly also: readonly { readonly name: string; readonly sayings: readonly Saying[] }[];
}

export interface Disputes {
  readonly homonyms: readonly Homonym[];
  readonly rivalries: readonly Rivalry[];
}

export function disputesOf(glossary: Glossary, choice: WordChoice, knots: readonly NamedKnot[] = []): Disputes {
  return { homonyms: homonyms(glossary, choice, knots), rivalries: rivalries(glossary, choice) };
}

interface Named {
  name: string;
  readonly meanings: Map<
    string,
    { concept?: string; kind?: Concept['kind']; knot?: string; called: string; sayings: Saying[] }
  >;
  ofKnots: boolean;
}

function homonyms(glossary: Glossary, choice: WordChoice, knots: readonly NamedKnot[]): Homonym[] {
  const byName = new Map<string, Named>();
  const named = (name: string): Named => {
    const key = sameName(name);
    const known = byName.get(key);
    if (known) return known;
    const made: Named = { name, meanings: new Map(), ofKnots: false };
    byName.set(key, made);
    return made;
  };
  for (const concept of glossary.concepts)
    for (const label of concept.labels) {
      if (label.school === null || label.status === 'misheard') continue;
      const entry = named(label.text);
      const called = wordFor(glossary, choice, concept.id) ?? label.text;
      const meaning = entry.meanings.get(concept.id) ?? {
        concept: concept.id,
        kind: concept.kind,
        called,
        sayings: [],
      };
      meaning.sayings.push({ school: label.school, status: label.status, reason: label.reason });
      entry.meanings.set(concept.id, meaning);
      entry.ofKnots ||= concept.kind === 'knot';
    }
  for (const knot of knots)
    for (const name of [knot.name, ...knot.aliases]) {
      const entry = named(name);
      // A knot of the library that is the knot of that name says nothing new.
      const key = knot.concept ?? `knot ${knot.id}`;
      if (entry.meanings.has(key)) continue;
      const called = knot.concept === undefined ? knot.name : (wordFor(glossary, choice, knot.concept) ?? knot.name);
      entry.meanings.set(key, {
        ...(knot.concept === undefined ? {} : { concept: knot.concept }),
        knot: knot.id,
        called,
        sayings: [],
      });
      entry.ofKnots = true;
    }
  return [...byName.values()]
    .filter((n) => n.meanings.size > 1 && !isVerbOfNoun(glossary, [...n.meanings.values()]))
    .map(({ name, meanings, ofKnots }) => ({ name, meanings: [...meanings.values()], ofKnots }))
    .sort((a, b) => Number(b.ofKnots) - Number(a.ofKnots) || a.name.localeCompare(b.name, 'en'));
}

/** A verb and the thing it is done with, each naming the other: “hitch” a rope with a hitch. Nobody takes one for the other. */
function isVerbOfNoun(glossary: Glossary, meanings: readonly Meaning[]): boolean {
  const concepts = meanings.map((m) => (m.concept === undefined ? undefined : conceptOf(glossary, m.concept)));
  const [a, b] = concepts;
  if (concepts.length !== 2 || !a || !b || (a.kind === 'action') === (b.kind === 'action')) return false;
  return a.related.includes(b.id) || b.related.includes(a.id);
}

function rivalries(glossary: Glossary, choice: WordChoice): Rivalry[] {
  return glossary.concepts
    .flatMap((concept): Rivalry[] => {
      const preferred = concept.labels.flatMap((l) =>
        l.status === 'preferred' && l.school !== null ? [{ school: l.school, name: l.text }] : [],
      );
      const names = new Set(preferred.map((p) => sameName(p.name)));
      if (names.size < 2) return [];
      const also = new Map<string, { name: string; sayings: Saying[] }>();
      for (const l of concept.labels) {
        if (l.school === null || l.status === 'preferred' || l.status === 'misheard') continue;
        const known = also.get(sameName(l.text)) ?? { name: l.text, sayings: [] };
        known.sayings.push({ school: l.school, status: l.status, reason: l.reason });
        also.set(sameName(l.text), known);
      }
      return [
        {
          concept: concept.id,
          kind: concept.kind,
          called: wordFor(glossary, choice, concept.id),
          preferred,
          also: [...also.values()],
        },
      ];
    })
    .sort((a, b) => Number(b.kind === 'knot') - Number(a.kind === 'knot'));
}
