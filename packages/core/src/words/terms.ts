/**
 * Terms in a text: every name of the glossary that stands in it, in whatever form it stands.
 */
import { formsOf, inflect, type Form } from './inflect.js';
import { sameName, type Concept, type Glossary, type ConceptLabel } from './glossary.js';

/** What a name found in a text may mean. */
export interface Sense {
  readonly concept: Concept;
  readonly label: ConceptLabel;
  readonly form: Form;
}

export interface Term {
  /** Which characters of the text it is. */
  readonly from: number;
  readonly to: number;
  readonly words: string;
  /** Whether an article, a number or the like stands before it: then it is a thing, not something that is done. */
  readonly named: boolean;
  /** Every concept and school that has this name. */
  readonly senses: readonly Sense[];
}

interface Token {
  readonly from: number;
  readonly to: number;
  /** As names are compared, without what marks a possessive. */
  readonly key: string;
  readonly possessive: boolean;
}

/** Words, cut at spaces, hyphens and other marks; an apostrophe belongs to its word. */
const WORD = /[\p{L}\p{N}]+(?:['’‘`][\p{L}\p{N}]+)*['’]?/gu;

function tokensOf(text: string): Token[] {
  return [...text.matchAll(WORD)].map((m): Token => {
    const key = sameName(m[0]);
    const possessive = /'s$|s'$/.test(key);
    return {
      from: m.index,
      to: m.index + (possessive ? m[0].length : m[0].replace(/['’]$/, '').length),
      key: key.replace(/'s?$/, ''),
      possessive,
    };
  });
}

/** Words between which and a noun no verb stands: an everyday word after one of them is the term. */
const DETERMINERS = new Set(
  (
    'a an the this that these those its his her your their our my each every both either another any no one two three four five six seven ' +
    'eight first second third last next same other own of all several many few more'
  ).split(' '),
);
/** Words after which an everyday verb is an instruction. */
const BEFORE_VERB = new Set(['to', 'then', 'and', 'now', 'not', 'never', 'always', 'must', 'should', 'can']);

interface Entry {
  readonly keys: readonly string[];
  readonly sense: Sense;
}

/** An index of the names of a glossary by their first word. Built once for a glossary, used for any number of texts. */
export class TermIndex {
  private readonly entries = new Map<string, Entry[]>();

  constructor(glossary: Glossary) {
    for (const concept of glossary.concepts)
      for (const label of concept.labels)
        for (const form of formsOf(concept.kind)) {
          // A possessive is told by its mark.
          if (form === 'possessive' || form === 'plural possessive') continue;
          const keys = sameName(inflect(label.text, concept.kind, form)).split(' ');
          const first = keys[0];
          if (first === undefined || first === '') continue;
          const list = this.entries.get(first);
          const entry: Entry = { keys, sense: { concept, label, form } };
          if (list) list.push(entry);
          else this.entries.set(first, [entry]);
        }
    for (const list of this.entries.values()) list.sort((a, b) => b.keys.length - a.keys.length);
  }

  /** The terms of a text in order; of names that overlap the longest is meant. */
  termsIn(text: string): Term[] {
    const tokens = tokensOf(text);
    const out: Term[] = [];
    for (let i = 0; i < tokens.length;) {
      const found = this.longestAt(text, tokens, i);
      if (found) out.push(found.term);
      i += found?.length ?? 1;
    }
    return out;
  }

  private longestAt(text: string, tokens: readonly Token[], i: number): { term: Term; length: number } | undefined {
    const first = tokens[i] as Token;
    const list = this.entries.get(first.key) ?? [];
    for (let k = 0; k < list.length;) {
      const { length } = (list[k] as Entry).keys;
      const senses: Sense[] = [];
      for (; k < list.length && list[k]?.keys.length === length; k += 1) {
        const { keys, sense } = list[k] as Entry;
        const run = tokens.slice(i, i + length);
        // Only the last word may be possessive, and a sentence's end parts a term.
        if (!keys.every((key, n) => run[n]?.key === key) || run.slice(0, -1).some((t) => t.possessive)) continue;
        if (/[.!?;:,\n]/.test(text.slice(first.from, run.at(-1)?.to))) continue;
        const possessive = run.at(-1)?.possessive === true;
        if (possessive && sense.concept.kind === 'action') continue;
        if (!this.meant(text, tokens, i, sense)) continue;
        const form: Form = !possessive ? sense.form : sense.form === 'plural' ? 'plural possessive' : 'possessive';
        if (!senses.some((s) => s.concept === sense.concept && s.label === sense.label))
          senses.push({ ...sense, form });
      }
      if (senses.length > 0) {
        const to = (tokens[i + length - 1] as Token).to;
        return {
          term: { from: first.from, to, words: text.slice(first.from, to), named: named(tokens, i), senses },
          length,
        };
      }
    }
    return undefined;
  }

  /** Whether an everyday or a misheard word stands where the term would. */
  private meant(text: string, tokens: readonly Token[], i: number, { concept, label, form }: Sense): boolean {
    const single = !label.text.includes(' ') && !label.text.includes('-');
    if (label.everyday !== true && !(label.status === 'misheard' && single)) return true;
    // “Loose”, “tight”: an adjective of every day is never told from the state.
    if (concept.kind === 'state') return label.everyday !== true;
    const token = tokens[i] as Token;
    const before = tokens[i - 1];
    const between = text.slice(tokens[i - 1]?.to ?? 0, token.from);
    const begins = i === 0 || /[.!?;:\n]/.test(between);
    // What is done is told as an instruction: “dress the knot”, not “the crew dresses”.
    if (concept.kind === 'action')
      return (
        (form === 'plain' || label.everyday !== true) &&
        (begins || between.includes(',') || BEFORE_VERB.has(before?.key ?? ''))
      );
    return !begins && named(tokens, i);
  }
}

/** Whether a word stands after an article or a number, with a plain adjective between at most: “the dark line”, but not “the winch line”. */
function named(tokens: readonly Token[], i: number): boolean {
  const [near, far] = [tokens[i - 1]?.key ?? '', tokens[i - 2]?.key ?? ''];
  return DETERMINERS.has(near) || /^\d+$/.test(near) || (ADJECTIVES.has(near) && DETERMINERS.has(far));
}

const ADJECTIVES = new Set(
  'pale dark third fourth further first second thick thin long short wet dry loose tight slack taut whole left right upper lower big small new old'.split(
    ' ',
  ),
);
