/**
 * The words a lesson is written in: one label per concept. Composed texts take every term from here.
 */
import { conceptOf, preferredLabel, type Glossary } from './glossary.js';
import { SHIPPED_GLOSSARY } from './shipped/index.js';
import { WORKSHOP } from './shipped/write.js';

export interface Vocabulary {
  readonly workingEnd: string;
  readonly standingPart: string;
  readonly tail: string;
  readonly loop: string;
  readonly overhandLoop: string;
  readonly underhandLoop: string;
  readonly bight: string;
  readonly turn: string;
  readonly roundTurn: string;
  readonly nippingTurn: string;
  readonly collar: string;
  readonly eye: string;
  readonly leg: string;
  readonly bridge: string;
  readonly strand: string;
  readonly rope: string;
  readonly sling: string;
  readonly taut: string;
  /** Verbs: “dress the knot”, “set the knot”. */
  readonly dress: string;
  readonly set: string;
  /** Names of hosts by kind. */
  readonly hosts: Readonly<Record<string, string>>;
  /** How the ropes of a figure are told apart, in the order in which they are drawn. */
  readonly ropes: readonly string[];
}

/** What a house or a lesson calls things: a school's words, and words of its own where it differs. */
export interface WordChoice {
  /** The school's id. */
  readonly school: string;
  /** The house's own word by the concept's id. */
  readonly own: Readonly<Record<string, string>>;
}

export const WORKSHOP_CHOICE: WordChoice = { school: WORKSHOP.id, own: {} };

/** The concepts that composed texts speak of. */
const TERMS = {
  workingEnd: 'working-end',
  standingPart: 'standing-part',
  tail: 'tail',
  loop: 'loop',
  overhandLoop: 'overhand-loop',
  underhandLoop: 'underhand-loop',
  bight: 'bight',
  turn: 'turn',
  roundTurn: 'round-turn',
  nippingTurn: 'nipping-turn',
  collar: 'collar',
  eye: 'eye',
  leg: 'leg',
  bridge: 'bridge',
  strand: 'strand',
  rope: 'rope',
  sling: 'sling',
  taut: 'taut',
  dress: 'dress',
  set: 'set',
} as const satisfies Partial<Record<keyof Vocabulary, string>>;
const HOSTS = ['spar', 'post', 'ring', 'carabiner', 'hook', 'hand'] as const;
/** How ropes look in every figure, so that they are told apart without colour. */
const LOOKS = ['pale', 'dark', 'third', 'fourth'] as const;

/** The word for a concept: the house's own, else its school's, else the Workshop's. */
export function wordFor(glossary: Glossary, { school, own }: WordChoice, id: string): string | undefined {
  const chosen = own[id];
  if (chosen !== undefined) return chosen;
  const concept = conceptOf(glossary, id);
  return concept && (preferredLabel(concept, school) ?? preferredLabel(concept, WORKSHOP.id))?.text;
}

/** The vocabulary of a choice. A concept that the glossary has lost is called what it was called when it was shipped. */
export function vocabularyOf(glossary: Glossary, choice: WordChoice): Vocabulary {
  const word = (id: string): string =>
    wordFor(glossary, choice, id) ?? wordFor(SHIPPED_GLOSSARY, WORKSHOP_CHOICE, id) ?? id;
  const terms = Object.fromEntries(Object.entries(TERMS).map(([key, id]) => [key, word(id)])) as Record<
    keyof typeof TERMS,
    string
  >;
  return {
    ...terms,
    hosts: Object.fromEntries(HOSTS.map((kind) => [kind, word(kind)])),
    ropes: LOOKS.map((look) => `${look} ${terms.rope}`),
  };
}

/** The house vocabulary until a house chooses its own. */
export const WORKSHOP_WORDS: Vocabulary = vocabularyOf(SHIPPED_GLOSSARY, WORKSHOP_CHOICE);

/** Words that say how a strand passes; set in heavier type wherever a step text is shown. */
const PASS_WORDS = /\b(up through|down through|over|under|behind|beneath|in front of)\b/gi;

/** A text cut into runs, those that say how a strand passes marked strong. */
export function emphasise(text: string): { text: string; strong: boolean }[] {
  const out: { text: string; strong: boolean }[] = [];
  let at = 0;
  for (const m of text.matchAll(PASS_WORDS)) {
    if (m.index > at) out.push({ text: text.slice(at, m.index), strong: false });
    out.push({ text: m[0], strong: true });
    at = m.index + m[0].length;
  }
  if (at < text.length) out.push({ text: text.slice(at), strong: false });
  return out;
}

/** How the nth rope of several is called: “the dark rope”. */
export const ropeWord = (words: Vocabulary, index: number): string =>
  `the ${words.ropes[index] ?? `rope ${index + 1}`}`;

/** What a host is called: “spar”. */
export const hostWord = (words: Vocabulary, { kind }: { readonly kind: string }): string => words.hosts[kind] ?? kind;

/** What has ropes and hosts to be told apart: a figure. */
interface Stranded {
  readonly ropes: readonly { readonly id: string }[];
  readonly hosts: readonly { readonly id: string; readonly kind: string }[];
}

/** How a strand is called among those of its figure: “the spar”, “the dark rope”; of a rope that is alone, “the rope”. */
export function strandWord(words: Vocabulary, { ropes, hosts }: Stranded, id: string): string {
  const host = hosts.find((h) => h.id === id);
  if (host) return `the ${hostWord(words, host)}`;
  return ropes.length > 1
    ? ropeWord(
        words,
        ropes.findIndex((r) => r.id === id),
      )
    : `the ${words.rope}`;
}

/** Numbers that are written as words, from 0. */
export const NUMBER_WORDS: readonly string[] =
  'no one two three four five six seven eight nine ten eleven twelve'.split(' ');

/** A small number, in words. */
export const numberWord = (n: number): string => NUMBER_WORDS[n] ?? String(n);

/** How often, in words as far as they are short. */
export const timesWord = (n: number): string => (n === 1 ? 'once' : n === 2 ? 'twice' : `${numberWord(n)} times`);

/** A place that is named by a rope's id, as “rope a, trail position 3.20”, by what the rope is called on the screen. */
export const placeInWords = (place: string, ropes: readonly { readonly id: string }[], words: Vocabulary): string =>
  place.replace(/\brope ([A-Za-z][\w-]*)/g, (said: string, id: string) => {
    const index = ropes.findIndex((r) => r.id === id);
    return index < 0 ? said : `the ${ropes.length < 2 ? words.rope : (words.ropes[index] ?? `rope ${id}`)}`;
  });

/** A knot's name inside a sentence: “the reef knot”. */
export const theKnot = (name: string): string => `the ${uncapital(name)}`;

/** What begins a sentence, within one. */
export const uncapital = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

/** Crossings by their numbers: “crossing 3”, “crossings 1, 2 and 5”. */
export const crossingList = (numbers: readonly number[]): string =>
  numbers.length === 1
    ? `crossing ${numbers[0] as number}`
    : `crossings ${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1) as number}`;
