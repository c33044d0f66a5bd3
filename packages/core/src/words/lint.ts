/**
 * The text check: names in a lesson's texts held against the words the lesson is to be written in. What it finds it explains, and where
 * it is certain says what to write instead, in the same form, with the article that goes with it.
 */
import type { RemarkKind } from './remark.js';
import { articleFor, capitalsOf, inflect, withArticle } from './inflect.js';
import { schoolOf, sameName, type Concept, type Glossary } from './glossary.js';
import type { TermIndex } from './terms.js';
import { type Sense, type Term } from './terms.js';
import { wordFor, type WordChoice } from './vocabulary.js';

/** A stretch of a text and what may stand in its place. */
export interface Mend {
  readonly from: number;
  readonly to: number;
  readonly instead: string;
}

export interface Remark {
  readonly kind: RemarkKind;
  /** Which characters of the text are meant. */
  readonly from: number;
  readonly to: number;
  readonly words: string;
  /** Why it is remarked upon, in a sentence or two. */
  readonly says: string;
  /** What may be written instead, the likeliest first; none when only the author can tell. */
  readonly mends: readonly Mend[];
  /** The concept that is to be introduced, when that is what is missing. */
  readonly introduce?: string | undefined;
  readonly concept: string;
}

/** One text of a lesson. Texts stand in the order in which a learner reads them. */
export interface LessonText {
  /** Where it is: “step 2”, “caution 1”. */
  readonly place: string;
  readonly text: string;
  /** Which loop the picture beside it makes, where it makes one. */
  readonly loop?: 'overhand' | 'underhand' | undefined;
}

export interface LessonCheck {
  readonly glossary: Glossary;
  readonly index: TermIndex;
  readonly choice: WordChoice;
  /** Concepts that need no introduction: those the house takes as known, and those in the lesson's list of words. */
  readonly known: ReadonlySet<string>;
  /** Names that the author gave: words of theirs are no school's here. */
  readonly named?: readonly string[];
}

/** True when a word stands in a name that the author gave. */
const isNamed = (word: string, { named = [] }: LessonCheck): boolean => {
  const own = ` ${wordsIn(word)} `;
  return named.some((name) => ` ${wordsIn(name)} `.includes(own));
};
const wordsIn = (text: string): string => (text.toLowerCase().match(/\p{L}+/gu) ?? []).join(' ');

/** Concepts that everyone who opens a lesson is taken to know, until a house says otherwise. */
export const TAKEN_AS_KNOWN: readonly string[] = [
  'rope',
  'cord',
  'webbing',
  'end',
  'working-end',
  'standing-part',
  'tail',
  'strand',
  'loop',
  'crossing',
  'turn',
  'leg',
  'twist',
  'middle',
  'eye',
];

/** Kinds of concepts that a lesson introduces; what to do with them is said by the verbs themselves. */
const INTRODUCED = new Set<Concept['kind']>(['part of a rope', 'shape']);

const LOOPS = { overhand: 'overhand-loop', underhand: 'underhand-loop' } as const;

/** Everything to be said of the words of a lesson: a list of remarks for each of its texts. */
export function checkLesson(texts: readonly LessonText[], check: LessonCheck): Remark[][] {
  const introduced = new Set(check.known);
  /** The first name by which each concept was called. */
  const called = new Map<string, { name: string; place: string }>();
  return texts.map((t) =>
    check.index.termsIn(t.text).flatMap((term): Remark[] => {
      const sense = meantBy(term, check, t);
      if (sense === undefined) return twoMeanings(t.text, term, check);
      const { concept } = sense;
      const found =
        loopRemark(t, term, sense, check) ??
        wordRemark(t.text, term, sense, check) ??
        twoNames(t, term, sense, check, called) ??
        introduction(t.text, term, concept, introduced);
      if (INTRODUCED.has(concept.kind)) introduced.add(concept.id);
      return found ? [found] : [];
    }),
  );
}

/** The concepts that texts name, each once, as they come up; what may mean several is none. Everyday words of doing are not told apart from terms. */
export function conceptsIn(texts: readonly LessonText[], check: LessonCheck): string[] {
  const met = new Set<string>();
  for (const t of texts)
    for (const term of check.index.termsIn(t.text)) {
      const concept = meantBy(term, check, t)?.concept;
      if (concept && (INTRODUCED.has(concept.kind) || concept.kind === 'knot')) met.add(concept.id);
    }
  return [...met];
}

/** How a sense stands in a school, the best first. */
function rank({ label }: Sense, school: string): number {
  if (label.status === 'misheard') return 5;
  if (label.school !== school) return label.status === 'discouraged' ? 6 : 4;
  return { preferred: 1, 'also used': 2, discouraged: 3 }[label.status];
}

/** What a name means here: the concept the house calls so, else the only one that is called so; undefined when it may be either. */
function meantBy(term: Term, { glossary, choice }: LessonCheck, { loop }: LessonText): Sense | undefined {
  // “A hitch” is a thing, “hitch it” is done: where a name is both, what stands before it decides.
  const alike = term.senses.filter((s) => (s.concept.kind === 'action') !== term.named);
  const senses = alike.length > 0 ? alike : term.senses;
  const house = senses.filter(
    (s) => sameName(wordFor(glossary, choice, s.concept.id) ?? '') === sameName(s.label.text),
  );
  const pool = [...(house.length > 0 ? house : senses)].sort((a, b) => rank(a, choice.school) - rank(b, choice.school));
  const best = pool[0];
  if (!best) return undefined;
  const least = rank(best, choice.school);
  const rivals = new Set(pool.filter((s) => rank(s, choice.school) === least).map((s) => s.concept.id));
  if (rivals.size === 1) return best;
  // The picture tells which loop is meant.
  return loop && pool.find((s) => s.concept.id === LOOPS[loop]);
}

/** The house's word in the form of the words it replaces, with the article before them put right. */
function mendFor(text: string, term: Term, sense: Sense, word: string): Mend {
  const instead = capitalsOf(term.words, inflect(word, sense.concept.kind, sense.form));
  const parted = sense.concept.kind === 'action' ? partedVerb(text, term, instead) : undefined;
  if (parted) return parted;
  const article = /\b(an?)\s+$/i.exec(text.slice(0, term.from));
  if (!article?.[1]) return { from: term.from, to: term.to, instead };
  const right = articleFor(article[1], instead);
  if (right === article[1]) return { from: term.from, to: term.to, instead };
  return { from: article.index, to: term.to, instead: `${right} ${instead}` };
}

/** Adverbs that a verb lets go of when a pronoun follows: “draw it up”. */
const PARTICLE = /^(\S+) (up|off|on|out|in|down|fast|through|round)$/;

function partedVerb(text: string, term: Term, verb: string): Mend | undefined {
  const parts = PARTICLE.exec(verb);
  const pronoun = /^\s+(it|them|this|that)\b/i.exec(text.slice(term.to));
  if (!parts?.[1] || !parts[2] || !pronoun?.[1]) return undefined;
  return { from: term.from, to: term.to + pronoun[0].length, instead: `${parts[1]} ${pronoun[1]} ${parts[2]}` };
}

const quoted = (text: string): string => `“${text}”`;

function wordRemark(text: string, term: Term, sense: Sense, check: LessonCheck): Remark | undefined {
  const { glossary, choice } = check;
  const { concept, label } = sense;
  const word = wordFor(glossary, choice, concept.id);
  if (word !== undefined && sameName(word) === sameName(label.text)) return undefined;
  const at = { from: term.from, to: term.to, words: term.words, concept: concept.id };
  const mends = word === undefined ? [] : [mendFor(text, term, sense, word)];
  const house = word === undefined ? '' : ` Here it is called ${quoted(word)}.`;
  if (label.status === 'misheard')
    return {
      ...at,
      kind: 'misheard',
      says: `${quoted(term.words)} is often heard or written for another word.${house}`,
      mends,
    };
  const own = concept.labels.filter((l) => l.school === choice.school && sameName(l.text) === sameName(label.text));
  const discouraged = own.find((l) => l.status === 'discouraged');
  if (discouraged)
    return {
      ...at,
      kind: 'discouraged',
      says: `${discouraged.reason ?? 'This name is to be avoided.'}${house}`,
      mends,
    };
  if (own.length > 0 && choice.own[concept.id] === undefined) return undefined;
  if (isNamed(term.words, check)) return undefined;
  const schools = [
    ...new Set(
      concept.labels
        .filter(
          (l) => l.school !== choice.school && sameName(l.text) === sameName(label.text) && l.status !== 'discouraged',
        )
        .map((l) => (l.school === null ? undefined : schoolOf(glossary, l.school)?.name)),
    ),
  ].filter((n) => n !== undefined);
  const whose =
    own.length > 0
      ? 'The house has a word of its own for this.'
      : schools.length > 0
        ? `It is a word of ${schools.join(', ')}.`
        : 'It is not a word of this school.';
  return word === undefined ? undefined : { ...at, kind: 'foreign', says: `${whose}${house}`, mends };
}

function twoMeanings(text: string, term: Term, { glossary, choice }: LessonCheck): Remark[] {
  const senses = [...new Map(term.senses.map((s) => [s.concept.id, s])).values()];
  const names = senses.map((s) => wordFor(glossary, choice, s.concept.id) ?? s.concept.id);
  const first = senses[0];
  if (!first) return [];
  return [
    {
      kind: 'two meanings',
      from: term.from,
      to: term.to,
      words: term.words,
      concept: first.concept.id,
      says: `${quoted(term.words)} names more than one thing: ${senses.map((s, i) => `${names[i] ?? ''} (${firstSentence(s.concept.definition)})`).join('; ')}.`,
      mends: senses.flatMap((s, i) =>
        sameName(names[i] ?? '') === sameName(s.label.text) ? [] : [mendFor(text, term, s, names[i] ?? '')],
      ),
    },
  ];
}

const firstSentence = (text: string): string => (/^[^.:;]*/.exec(text)?.[0] ?? text).trim().toLowerCase();

/** A name the school accepts besides its own, in a lesson that has called the thing otherwise before. */
function twoNames(
  { text, place }: LessonText,
  term: Term,
  sense: Sense,
  { glossary, choice }: LessonCheck,
  called: Map<string, { name: string; place: string }>,
): Remark | undefined {
  const { concept, label } = sense;
  // “Line” and “rope” are said as everybody says them: nobody looks for two things.
  if (label.everyday === true) return undefined;
  const earlier = called.get(concept.id);
  if (!earlier) called.set(concept.id, { name: label.text, place });
  if (!earlier || sameName(earlier.name) === sameName(label.text)) return undefined;
  const word = wordFor(glossary, choice, concept.id) ?? earlier.name;
  // The one that is not the house's word gives way, wherever it stands.
  const instead = sameName(word) === sameName(label.text) ? earlier.name : word;
  return {
    kind: 'two names',
    from: term.from,
    to: term.to,
    words: term.words,
    concept: concept.id,
    says: `It is called ${quoted(earlier.name)} in ${earlier.place}: learners look for two things.`,
    mends: sameName(instead) === sameName(label.text) ? [] : [mendFor(text, term, sense, instead)],
  };
}

/** A loop said to be of the hand that the picture does not show. */
function loopRemark(
  { text, loop }: LessonText,
  term: Term,
  sense: Sense,
  { glossary, choice }: LessonCheck,
): Remark | undefined {
  if (!loop || !Object.values<string>(LOOPS).includes(sense.concept.id) || sense.concept.id === LOOPS[loop])
    return undefined;
  const word = wordFor(glossary, choice, LOOPS[loop]) ?? `${loop} loop`;
  return {
    kind: 'loop of the other hand',
    from: term.from,
    to: term.to,
    words: term.words,
    concept: sense.concept.id,
    says: `The picture shows the end going ${loop === 'overhand' ? 'over' : 'under'}: ${withArticle(word)}.`,
    mends: [mendFor(text, term, sense, word)],
  };
}

/** Words before a term that bring it into the lesson: “make a bight”, “called the collar”. */
const INTRODUCES =
  /\b(?:an?|another|one|two|three|four|make|makes|making|form|forms|forming|called|named)\s+(?:\S+\s+)?$/i;

function introduction(text: string, term: Term, concept: Concept, introduced: ReadonlySet<string>): Remark | undefined {
  if (
    !INTRODUCED.has(concept.kind) ||
    introduced.has(concept.id) ||
    (concept.broader.includes('loop') && introduced.has('loop'))
  )
    return undefined;
  if (INTRODUCES.test(text.slice(Math.max(0, term.from - 40), term.from))) return undefined;
  // What is said of in the plural without an article is new to the reader as well, and may stand.
  if (
    !/\b(?:the|its|this|that|each|both|your|their)\s+(?:\S+\s+)?$/i.test(
      text.slice(Math.max(0, term.from - 40), term.from),
    )
  )
    return undefined;
  return {
    kind: 'not introduced',
    from: term.from,
    to: term.to,
    words: term.words,
    concept: concept.id,
    says: `A learner meets ${quoted(term.words)} here for the first time: ${concept.definition}`,
    mends: [],
    introduce: concept.id,
  };
}

/** A text with mends made; those that overlap an earlier one are left out. */
export function mendText(text: string, mends: readonly Mend[]): string {
  let out = '';
  let at = 0;
  for (const m of [...mends].sort((a, b) => a.from - b.from)) {
    if (m.from < at) continue;
    out += text.slice(at, m.from) + m.instead;
    at = m.to;
  }
  return out + text.slice(at);
}

/** A text in the words of a choice: every name that is not the house's replaced where that is certain. */
export function inWordsOf(
  text: string,
  check: LessonCheck,
): { readonly text: string; readonly mends: readonly Mend[] } {
  const mends = check.index.termsIn(text).flatMap((term): Mend[] => {
    const sense = meantBy(term, check, { place: '', text });
    if (!sense) return [];
    const word = wordFor(check.glossary, check.choice, sense.concept.id);
    if (word === undefined || sameName(word) === sameName(sense.label.text)) return [];
    return [mendFor(text, term, sense, word)];
  });
  return { text: mendText(text, mends), mends };
}
