/**
 * An author's text read back against the picture by its parts: where it is understood to its end and passes as the picture does, a part
 * that is named for another one of the knot is found. An entrance of its own, so that what only shows knots need not carry it.
 */
import type { Vocabulary } from '../words/vocabulary.js';
import { composeStep } from './compose.js';
import { isFirstEnd, stepsOf, stretchesOf, type Layout, type Method, type Stretch } from './method.js';
import type { Move } from './move.js';
import { movesIn } from './moves.js';
import { sayPart, type Part } from './parts.js';
import { metIn } from './read-moves.js';
import { contradictionsOf, sayWay, seenOf, type Contradiction, type Seen } from './reader.js';
import { readTold } from './told-passes.js';

export { readTold, type Told, type ToldMove, type ToldPass } from './told-passes.js';

/** What each passage of a step may be called, by what is met there and by the move that it belongs to. */
function namesOf(layout: Layout, step: Stretch, moves: readonly Move[], words: Vocabulary): ReadonlySet<string>[] {
  const say = (part: Part): string => sayPart(layout.figure, part, words).toLowerCase();
  const met = new Map(metIn(layout, step).map((m) => [m.number, say(m.part)]));
  return moves.flatMap((move) => {
    const own = 'what' in move ? [move.what].flat().map(say) : [];
    return move.crossings.map((number, i) => {
      // What is trapped lies between two passages of what it is trapped under.
      const here = move.kind === 'trap' && i === 1 ? [say(move.part)] : own;
      return new Set([met.get(number) ?? '', ...here]);
    });
  });
}

/** A part that is named where the picture shows another; only where the whole text is understood and passes as the picture does. */
function partContradictions(
  text: string,
  method: Method,
  index: number,
  moves: readonly Move[],
  words: Vocabulary,
): Contradiction[] {
  const { stretch: step, of: layout } = stepsOf(method)[index] ?? {};
  if (!step || !layout || isFirstEnd(layout.leaders[step.leader])) return [];
  const { moves: told, places, stopped } = readTold(text);
  const passes = told.flatMap((m, i) => (m.kind === 'passes' ? m.passes.map((p) => ({ ...p, place: places[i] })) : []));
  const seen = seenOf(moves);
  const alike = passes.length === seen.length && passes.every((p, i) => p.over === (seen[i]?.way === 'O'));
  if (stopped !== undefined || told.some((m) => m.kind === 'follow') || !alike) return [];
  const names = namesOf(layout, step, moves, words);
  // What is no part of this knot may be the author's own word for one that is.
  const known = new Set(
    stretchesOf(layout).flatMap((s) => namesOf(layout, s, movesIn(layout, s), words).flatMap((set) => [...set])),
  );
  const wrong = passes.findIndex(
    (p, i) => p.what !== undefined && known.has(p.what) && names[i]?.has(p.what) === false,
  );
  const { what, place } = passes[wrong] ?? {};
  const [is] = names[wrong] ?? [];
  if (what === undefined || !place || is === undefined || is === '') return [];
  const from = place.from + Math.max(0, text.slice(place.from, place.to).toLowerCase().indexOf(what));
  const shown = seen[wrong] as Seen;
  return [
    {
      from,
      to: from + what.length,
      words: text.slice(from, from + what.length),
      shows: `The picture shows it passing ${sayWay(shown.way)} ${is} at ${shown.crossing}.`,
      instead: is,
      crossings: [shown.crossing],
    },
  ];
}

/** All that contradicts the picture in the author's own text of a step, its parts too; nothing for a composed text. */
export function saidWrongly(method: Method, index: number, words: Vocabulary): Contradiction[] {
  const text = stepsOf(method)[index]?.telling.text;
  if (text === undefined) return [];
  const { moves } = composeStep(method, index, words);
  return [...contradictionsOf(method, index, words), ...partContradictions(text, method, index, moves, words)].sort(
    (a, b) => a.from - b.from,
  );
}
