/**
 * The words a lesson is written in: one label per concept. Composed texts take every term from here.
 */

export interface Vocabulary {
  readonly workingEnd: string;
  readonly standingPart: string;
  readonly tail: string;
  readonly loop: string;
  readonly overhandLoop: string;
  readonly underhandLoop: string;
  readonly bight: string;
  readonly turn: string;
  /** Names of hosts by kind. */
  readonly hosts: Readonly<Record<string, string>>;
  /** How the ropes of a figure are told apart, in the order in which they are drawn. */
  readonly ropes: readonly string[];
}

/** The house vocabulary until a house chooses its own. */
export const WORKSHOP_WORDS: Vocabulary = {
  workingEnd: 'working end',
  standingPart: 'standing part',
  tail: 'tail',
  loop: 'loop',
  overhandLoop: 'overhand loop',
  underhandLoop: 'underhand loop',
  bight: 'bight',
  turn: 'turn',
  hosts: { spar: 'spar', post: 'post', ring: 'ring', carabiner: 'carabiner', hook: 'hook', hand: 'hand' },
  ropes: ['pale rope', 'dark rope', 'third rope', 'fourth rope'],
};

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

const TIMES = ['', 'once', 'twice', 'three times', 'four times'];

/** How often, in words as far as they are short. */
export const timesWord = (n: number): string => TIMES[n] ?? `${n} times`;

/** A knot's name inside a sentence: “the reef knot”. */
export const theKnot = (name: string): string => `the ${name.charAt(0).toLowerCase()}${name.slice(1)}`;
