/**
 * What comes of tying a knot with as many turns as a text tells. An entrance of its own: what only shows knots need not carry what lays
 * turns.
 */
import {
  crossingsOf,
  madeInto,
  turnsIn,
  withoutTurn,
  withTurns,
  type Figure,
  type MistakeGroup,
  type ToldTurns,
  type Turn,
} from '@foxtrail/core';
import { patternKeys } from './known.js';

type Outcome = Omit<MistakeGroup, 'crossings'>;

/**
 * What a figure becomes with so many turns more, or fewer, of those that pass some crossings; none where they cannot be laid so, or where
 * it is not certain which turns are meant.
 */
export function toldTurnsKnot(figure: Figure, { more, crossings }: ToldTurns): Outcome | undefined {
  const others = turnsIn(figure).flatMap((turn): Outcome[] => {
    if (turn.times !== 1 || !passesOnly(figure, turn, crossings)) return [];
    const other = more > 0 ? laidMore(figure, turn, more) : takenOut(figure, turn, -more);
    const made = other && madeInto(figure, other, patternKeys());
    return made?.ok === true && made.value.outcome !== 'same' ? [made.value] : [];
  });
  // A knot that has a name is what whoever told so meant.
  const named = others.filter((r) => r.becomes.length > 0);
  const [first, ...rest] = named.length > 0 ? named : others;
  return rest.every((r) => r.key === first?.key) ? first : undefined;
}

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
