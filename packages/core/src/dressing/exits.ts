/**
 * Exits: which way the ends leave a knot, and which of them leave together.
 */
import { passagesOf } from '../figure/crossings.js';
import { curveOf, lengthTo, pointAt, atLength } from '../figure/curve.js';
import { lastAt, type Figure, type Rope } from '../figure/figure.js';
import { inflect } from '../words/inflect.js';
import { strandWord, WORKSHOP_WORDS, type Vocabulary } from '../words/vocabulary.js';
import { endsAround, tailIsInLoop } from './tail.js';
import { distance, dot, subtract, unit, type Point } from '../figure/point.js';

export interface Exit {
  readonly rope: string;
  readonly end: 'standing' | 'tail';
  /** Where it leaves: its outermost crossing. */
  readonly point: Point;
  /** Unit vector away from the knot. */
  readonly direction: Point;
}

/** How far beyond its last crossing an end's direction is taken, in diameters. */
const LOOK_AHEAD = 4;

function exitOf(figure: Figure, rope: Rope, start: boolean): Exit | undefined {
  const passages = passagesOf(figure, rope.id);
  const outer = start ? passages[0] : passages.at(-1);
  if (!outer) return undefined;
  const curve = curveOf(rope);
  const here = pointAt(curve, outer.at);
  const along = lengthTo(curve, outer.at) + (start ? -LOOK_AHEAD : LOOK_AHEAD);
  const there = pointAt(curve, Math.min(lastAt(rope), atLength(curve, Math.max(0, along))));
  const kind = rope.ends[start ? 0 : 1];
  return {
    rope: rope.id,
    end: kind === 'tail' ? 'tail' : 'standing',
    point: here,
    direction: unit(subtract(there, here)),
  };
}

/** Every end of the open ropes, as it leaves the knot. */
export const exitsOf = (figure: Figure): readonly Exit[] =>
  figure.ropes
    .filter((r) => !r.closed)
    .flatMap((r) => [exitOf(figure, r, true), exitOf(figure, r, false)])
    .filter((e) => e !== undefined);

export type ExitRelation = 'together' | 'opposite' | 'across';

/** Cosine above which two ends leave the same way: within 40° of each other. */
const ALIKE = Math.cos((40 * Math.PI) / 180);

/** Whether two ends leave the same way, opposite ways, or across each other. */
export function exitRelation(a: Exit, b: Exit): ExitRelation {
  const c = dot(a.direction, b.direction);
  return c > ALIKE ? 'together' : c < -ALIKE ? 'opposite' : 'across';
}

/** Farther apart than this, in diameters, two ends do not lie beside each other. */
const BESIDE = 9;

/** A sentence for each tail: how it leaves, seen from its own standing part. */
export function sayExits(figure: Figure, words: Vocabulary = WORKSHOP_WORDS): readonly string[] {
  const exits = exitsOf(figure);
  const tails = exits.filter((e) => e.end === 'tail');
  const sentences = tails.flatMap((tail) => {
    const own = exits.find((e) => e.rope === tail.rope && e.end === 'standing');
    if (!own) return [];
    const relation = exitRelation(tail, own);
    const beside = distance(tail.point, own.point) <= BESIDE;
    const which =
      tails.length > 1 ? `The ${words.tail} of ${strandWord(words, figure, tail.rope)}` : `The ${words.tail}`;
    return [
      relation === 'together'
        ? `${which} leaves ${beside ? 'beside' : 'the same way as'} its ${words.standingPart}.`
        : relation === 'opposite'
          ? `${which} leaves opposite to its ${words.standingPart}.`
          : `${which} leaves across its ${words.standingPart}.`,
    ];
  });
  const inLoop = figure.ropes
    .filter((r) => !r.closed && (r.eyes ?? []).length > 0 && r.ends[1] === 'tail')
    .map((r) => `The ${words.tail} lies ${tailIsInLoop(figure, r) ? 'inside' : 'outside'} the ${words.loop}.`);
  return [...sentences, ...inLoop, ...sideOfTails(figure, words)];
}

/** Of two ropes, whether the tails leave on one side of the knot or on opposite sides: next to each other, or a standing part between. */
function sideOfTails(figure: Figure, words: Vocabulary): readonly string[] {
  const around = endsAround(figure).filter((r) => r === 's' || r === 't');
  if (around.filter((r) => r === 't').length !== 2 || around.length !== 4) return [];
  const adjacent = around.some((r, i) => r === 't' && around[(i + 1) % around.length] === 't');
  return [
    `The two ${inflect(words.tail, 'part of a rope', 'plural')} leave on ${adjacent ? 'the same side' : 'opposite sides'}.`,
  ];
}
