/** What comes of tying a knot as a text tells it, where the text contradicts the picture. */
import {
  layoutsOf,
  mistakeOf,
  sayOutcome,
  theKnot,
  type Figure,
  type Finding,
  type Method,
  type MistakeGroup,
} from '@foxtrail/core';
import { patternKeys } from './known.js';

/** What a figure becomes when these crossings are laid as they are told; none where that cannot be said. */
export function toldKnot(figure: Figure, crossings: readonly number[]): MistakeGroup | undefined {
  const found = mistakeOf(figure, crossings, patternKeys());
  return found.ok ? found.value : undefined;
}

/** In a sentence: “Tied as it is told, it would be the granny knot.” */
export function sayTold({ outcome, becomes }: Pick<MistakeGroup, 'outcome' | 'becomes'>): string {
  switch (outcome) {
    case 'same':
      return 'Tied as it is told, it would still be the same knot.';
    case 'another knot':
      return `Tied as it is told, it would be ${theKnot(sayOutcome({ outcome, becomes }))}.`;
    case 'mirror':
      return 'Tied as it is told, it would be the mirror image.';
    case 'falls apart':
      return 'Tied as it is told, it would fall apart.';
    case 'unnamed knot':
      return 'Tied as it is told, it would be another knot, one that has no name here.';
  }
}

/** Findings on texts, each with the knot it leads to. */
export const withToldKnots = (method: Method, findings: readonly Finding[]): readonly Finding[] =>
  findings.map((f) => {
    const figure = layoutsOf(method)[f.layout ?? 0]?.figure;
    const found = f.told && figure && toldKnot(figure, f.told);
    return found ? { ...f, why: `${f.why} ${sayTold(found)}` } : f;
  });
