/**
 * How English bends a term: “bights”, “working end’s”, “dressed”. A term found in one form is replaced by another term in the same form.
 */
import pluralize from 'pluralize';
import type { ConceptKind } from './glossary.js';

/** The form in which a term stands in a text. */
export const FORMS = [
  'plain',
  'plural',
  'possessive',
  'plural possessive',
  'third person',
  'past',
  'participle',
] as const;
export type Form = (typeof FORMS)[number];

/** A term's forms; nouns have plurals and possessives, actions are verbs. */
export const formsOf = (kind: ConceptKind): readonly Form[] =>
  kind === 'action'
    ? ['plain', 'third person', 'past', 'participle']
    : ['plain', 'plural', 'possessive', 'plural possessive'];

/** The words before which the head of a term ends: “bowline on the bight” is a bowline. */
const AFTER_HEAD = /\s(?:of|on|in|with|round|around|to|for|from|at|and|by)\s/i;

/** The place of the word that is bent: the last one of a noun’s head, the first one of a verb. */
function bent(term: string, kind: ConceptKind): { before: string; word: string; after: string } {
  if (kind === 'action') {
    const end = /^\S+/.exec(term)?.[0].length ?? 0;
    return { before: '', word: term.slice(0, end), after: term.slice(end) };
  }
  const cut = AFTER_HEAD.exec(term)?.index ?? term.length;
  const start = Math.max(term.lastIndexOf(' ', cut - 1), term.lastIndexOf('-', cut - 1)) + 1;
  return { before: term.slice(0, start), word: term.slice(start, cut), after: term.slice(cut) };
}

/** Verbs of the trade whose past is not made with -ed. */
const PASTS: Readonly<Record<string, string>> = {
  set: 'set',
  bend: 'bent',
  bind: 'bound',
  make: 'made',
  lay: 'laid',
  lead: 'led',
  put: 'put',
  cut: 'cut',
  hold: 'held',
  undo: 'undone',
  let: 'let',
  take: 'taken',
  wind: 'wound',
  run: 'run',
  shake: 'shaken',
  spill: 'spilled',
};

const VOWEL = /[aeiou]/;
/** One vowel and one consonant at the end of a short word are doubled: slip, slipped. Not in “tighten”, “open”. */
const doubles = (verb: string): boolean =>
  /[^aeiou][aeiou][bdgklmnprt]$/.test(verb) && (verb.match(/[aeiouy]+/g) ?? []).length === 1;

function bendVerb(verb: string, form: Form): string {
  switch (form) {
    case 'third person':
      if (/(?:s|sh|ch|x|z|o)$/.test(verb)) return `${verb}es`;
      return /[^aeiou]y$/.test(verb) ? `${verb.slice(0, -1)}ies` : `${verb}s`;
    case 'past': {
      const known = PASTS[verb];
      if (known !== undefined) return known;
      if (verb.endsWith('e')) return `${verb}d`;
      if (/[^aeiou]y$/.test(verb)) return `${verb.slice(0, -1)}ied`;
      return doubles(verb) ? `${verb}${verb.slice(-1)}ed` : `${verb}ed`;
    }
    case 'participle':
      if (verb.endsWith('ie')) return `${verb.slice(0, -2)}ying`;
      if (verb.endsWith('e') && !verb.endsWith('ee')) return `${verb.slice(0, -1)}ing`;
      return doubles(verb) ? `${verb}${verb.slice(-1)}ing` : `${verb}ing`;
    default:
      return verb;
  }
}

/** What belongs to it. */
const possessive = (noun: string): string => (noun.endsWith('s') ? `${noun}’` : `${noun}’s`);

/** A term in a form: (“bight”, plural) is “bights”. Capitals other than the first are kept. */
export function inflect(term: string, kind: ConceptKind, form: Form): string {
  if (form === 'plain') return term;
  const { before, word, after } = bent(term, kind);
  if (kind === 'action') return `${before}${bendVerb(word, form)}${after}`;
  const plural = form === 'plural' || form === 'plural possessive' ? pluralize.plural(word) : word;
  const whole = `${before}${plural}${after}`;
  return form === 'possessive' || form === 'plural possessive' ? possessive(whole) : whole;
}

/** Spoken with a vowel first, as far as spelling tells: “an overhand loop”, “a round turn”, “a one-handed bowline”. */
const soundsOpen = (term: string): boolean =>
  /^[aeiou]/i.test(term) && !/^(?:one|once|u[bcfhjkqrstn][aeiou]|eu)/i.test(term);

/** A term with its indefinite article. */
export const withArticle = (term: string): string => `${soundsOpen(term) ? 'an' : 'a'} ${term}`;

/** The article that a term takes in place of another one, with its capital. */
export const articleFor = (article: string, term: string): string => {
  const right = soundsOpen(term) ? 'an' : 'a';
  return VOWEL.test(article.charAt(0)) ? right : capital(right);
};

/** A term with the capitals of the words it replaces: all of them, the first, or its own. */
export function capitalsOf(replaced: string, term: string): string {
  if (replaced.length > 1 && replaced === replaced.toUpperCase() && replaced !== replaced.toLowerCase())
    return term.toUpperCase();
  const first = replaced.charAt(0);
  return first !== first.toLowerCase() ? capital(term) : term;
}

/** A text that begins with a capital letter. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
