/**
 * How the ropes of a knot are called: by the name their author gave them, else by what is seen of them.
 */
import { isWebbing, type Cordage, type OfCordage } from '../figure/cordage.js';
import type { Vocabulary } from '../words/vocabulary.js';

export interface RopeColour {
  /** As in “the straw rope”. */
  readonly name: string;
  readonly colour: string;
}

/** Colours that ropes are drawn in: far enough apart in lightness that many pairs are told apart in print. */
export const ROPE_COLOURS: readonly RopeColour[] = [
  { name: 'white', colour: '#f6f4ee' },
  { name: 'pale', colour: '#e6dcc6' },
  { name: 'straw', colour: '#d9bd5e' },
  { name: 'sky', colour: '#93b9cf' },
  { name: 'sage', colour: '#a8b59a' },
  { name: 'rose', colour: '#cf8d8c' },
  { name: 'slate', colour: '#5d6f80' },
  { name: 'blue', colour: '#2f5f98' },
  { name: 'red', colour: '#8f2f35' },
  { name: 'green', colour: '#31573f' },
  { name: 'black', colour: '#3d434a' },
];

/** A line thinner than this, against the others, is a cord. */
const CORD = 0.75;

const nounOf = (cordage: Cordage, words: Vocabulary): string =>
  isWebbing(cordage) ? 'webbing' : (cordage.diameter ?? 1) < CORD ? 'cord' : words.rope;

/** What a rope is called that is the nth of its knot: its own name; its colour and kind; its kind, where no other has that. */
function nameOf(cordage: Cordage, index: number, words: Vocabulary): string {
  if (cordage.name !== undefined) return cordage.name;
  const noun = nounOf(cordage, words);
  const usual = words.ropes[index] ?? `rope ${index + 1}`;
  const colour = ROPE_COLOURS.find((c) => c.colour === cordage.colour?.toLowerCase())?.name;
  if (colour !== undefined) return `${colour} ${noun}`;
  return noun === words.rope ? usual : usual.replace(words.rope, noun);
}

/** The vocabulary of a knot with these ropes. */
export function withRopeNames(words: Vocabulary, ropes: readonly OfCordage[]): Vocabulary {
  if (!ropes.some((r) => r.cordage)) return words;
  const names = ropes.map(({ cordage }, i) =>
    cordage ? nameOf(cordage, i, words) : (words.ropes[i] ?? `rope ${i + 1}`),
  );
  return { ...words, ropes: [...names, ...words.ropes.slice(names.length)] };
}

/** Names that the author gave to ropes. */
export const ownRopeNames = (ropes: readonly OfCordage[]): string[] =>
  ropes.flatMap((r) => (r.cordage?.name === undefined ? [] : [r.cordage.name]));
