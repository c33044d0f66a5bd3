/**
 * Kin: the ways in which one knot comes from another, and how each is said. A relation leads from the plainer knot to what is made of it.
 */
import { capital } from '../words/inflect.js';
import { theKnot } from '../words/vocabulary.js';
import type { KinKind } from './kinds.js';

/** Kinds that hold both ways alike. */
export const BOTH_WAYS: ReadonlySet<KinKind> = new Set([
  'mirrored',
  'ends exchanged',
  'same structure',
  'mistaken for',
]);

/** What is done to the first knot to make the second, beside its name on the second one's page; and the way back. */
const DIFFERENCES: Readonly<Record<KinKind, readonly [onward: string, back: string]>> = {
  'one more turn': ['one more turn', 'one turn less'],
  slipped: ['slipped: the end goes through as a bight', 'not slipped: the end pulled through'],
  'doubled on the bight': ['tied in doubled rope, with an eye', 'tied in the single rope'],
  followed: ['followed back by a second strand', 'one strand only'],
  mirrored: ['the mirror image', 'the mirror image'],
  'ends exchanged': ['other ends loaded', 'other ends loaded'],
  'same structure': ['the same structure, cut or joined', 'the same structure, cut or joined'],
  'finished with': ['finished with more', 'before it is finished'],
  'made into': ['made into it', 'what it is made from'],
  'backed up with': ['with a back-up', 'without its back-up'],
  'mistaken for': ['often mistaken for it', 'often mistaken for it'],
};

/** The one-line difference of the knot at the far end of a relation, seen from the near one. */
export const differenceOf = (kind: KinKind, onward: boolean, more = 1): string =>
  kind === 'one more turn' && more > 1
    ? `${more} turns ${onward ? 'more' : 'less'}`
    : DIFFERENCES[kind][onward ? 0 : 1];

/** “is” or “are”, by the noun that a knot's name is built on: “the two half hitches are”. */
export function verbFor(name: string): 'is' | 'are' {
  const [head = name] = name.split(/,| of | on | in | with /);
  return /[^s’']s$/.test(head) ? 'are' : 'is';
}

const SENTENCES: Readonly<Record<KinKind, (a: string, b: string, is: string, more: number) => string>> = {
  'one more turn': (a, b, is, n) => `${b} ${is} ${a} with ${n === 1 ? 'one more turn' : `${n} more turns`}.`,
  slipped: (a, b, is) => `${b} ${is} ${a}, slipped.`,
  'doubled on the bight': (a, b, is) => `${b} ${is} ${a} tied in doubled rope.`,
  followed: (a, b, is) => `${b} ${is} ${a} followed back.`,
  mirrored: (a, b, is) => `${b} ${is} the mirror image of ${a}.`,
  'ends exchanged': (a, b, is) => `${b} ${is} ${a} with other ends loaded.`,
  'same structure': (a, b) => `${b} and ${a} have the same structure, cut or joined.`,
  'finished with': (a, b, is) => `${b} ${is} ${a} and what finishes it.`,
  'made into': (a, b, is) => `${b} ${is} made from ${a}.`,
  'backed up with': (a, b, is) => `${b} ${is} ${a} with a back-up.`,
  'mistaken for': (a, b, is) => `${b} ${is} often mistaken for ${a}.`,
};

/** A relation as a sentence: “The triple overhand knot is the double overhand knot with one more turn.” */
export const sayKin = (kind: KinKind, from: string, to: string, more = 1): string =>
  capital(SENTENCES[kind](theKnot(from), theKnot(to), verbFor(to), more));
