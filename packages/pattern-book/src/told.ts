/** What comes of tying a knot as a text tells it, where the text contradicts the picture. */
import {
  crossingsOf,
  layoutsOf,
  madeInto,
  mistakeOf,
  sayOutcome,
  theKnot,
  turnsIn,
  withoutTurn,
  withTurns,
  type Figure,
  type Finding,
  type Method,
  type MistakeGroup,
  type ToldTurns,
  type Turn,
} from '@foxtrail/core';
import { patternKeys } from './known.js';

/** What a figure becomes when these crossings are laid as they are told; none where that cannot be said. */
export function toldKnot(figure: Figure, crossings: readonly number[]): MistakeGroup | undefined {
  const found = mistakeOf(figure, crossings, patternKeys());
  return found.ok ? found.value : undefined;
}

/** What a figure becomes with so many turns more, or fewer, of those that pass some crossings; none where they cannot be laid so. */
export function toldTurnsKnot(figure: Figure, { more, crossings }: ToldTurns): Outcome | undefined {
  const results = turnsIn(figure).flatMap((turn): Outcome[] => {
    if (turn.times !== 1 || !passesOnly(figure, turn, crossings)) return [];
    const other = more > 0 ? laidMore(figure, turn, more) : takenOut(figure, turn, -more);
    const made = other && madeInto(figure, other, patternKeys());
    return made?.ok === true ? [made.value] : [];
  });
  // A knot that has a name is what whoever told so meant.
  return results.find((r) => r.becomes.length > 0) ?? results.find((r) => r.outcome !== 'same');
}

type Outcome = Omit<MistakeGroup, 'crossings'>;

/** Whether a turn passes none but some crossings. */
const passesOnly = (figure: Figure, { rope, from, to }: Turn, crossings: readonly number[]): boolean =>
  crossingsOf(figure).every(
    (c) =>
      ![c.first, c.second].some((p) => p.strand === rope && p.at > from && p.at < to) || crossings.includes(c.number),
  );

function laidMore(figure: Figure, turn: Turn, more: number): Figure | undefined {
  const laid = withTurns(figure, turn, more);
  return laid.ok ? laid.value.figure : undefined;
}

/** A figure with a turn taken out, and then others like it. */
function takenOut(figure: Figure, turn: Turn, times: number): Figure | undefined {
  const left = withoutTurn(figure, turn);
  if (!left || times === 1) return left;
  const next = turnsIn(left).find((t) => t.rope === turn.rope && t.times === 1 && t.passages === turn.passages);
  return next && takenOut(left, next, times - 1);
}

/** In a sentence: “Tied as it is told, it would be the granny knot.” */
export function sayTold(found: Outcome): string {
  switch (found.outcome) {
    case 'same':
      return 'Tied as it is told, it would still be the same knot.';
    case 'another knot':
      return `Tied as it is told, it would be ${theKnot(sayOutcome(found))}.`;
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
    const found =
      figure && ((f.told && toldKnot(figure, f.told)) ?? (f.toldTurns && toldTurnsKnot(figure, f.toldTurns)));
    return found ? { ...f, why: `${f.why} ${sayTold(found)}` } : f;
  });
