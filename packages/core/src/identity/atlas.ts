/**
 * The mistake atlas: what each single wrong crossing makes of a knot; and repair: the fewest crossings whose change makes a figure
 * what it claims to be.
 */
import { crossingAt } from '../figure/crossing-place.js';
import { crossingsOf } from '../figure/crossings.js';
import type { Figure } from '../figure/figure.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { sayCrossing } from '../dressing/inspection.js';
import type { Box, Point } from '../figure/point.js';
import { heartBox, nearBox } from '../drawing/drawing.js';
import { mirror } from '../topology/views.js';
import type { Layout } from '../tying/method.js';
import { theKnot, type Vocabulary } from '../words/vocabulary.js';
import type { KeyBook, Match } from './book.js';
import { flipped, flippedKeys, orDecline, signatureOf, type FlippedKey } from './signature.js';

export type Outcome = 'falls apart' | 'another knot' | 'unnamed knot' | 'mirror' | 'same';

/** From the worst for a learner to the harmless. */
const WORST_FIRST: readonly Outcome[] = ['falls apart', 'another knot', 'unnamed knot', 'mirror', 'same'];

export interface Mistake {
  /** Number of the crossing that is laid the wrong way. */
  readonly crossing: number;
  readonly key: string;
  readonly outcome: Outcome;
  /** Names of the knots it becomes, in the pattern book or among the author's own. */
  readonly becomes: readonly Match[];
}

/** Mistakes that make the same thing of the knot. */
export interface MistakeGroup {
  readonly outcome: Outcome;
  readonly key: string;
  readonly becomes: readonly Match[];
  readonly crossings: readonly number[];
}

export interface Atlas {
  readonly mistakes: readonly Mistake[];
  readonly groups: readonly MistakeGroup[];
  /** Crossings that were not tried because the time was up. */
  readonly leftOut: readonly number[];
}

/** Called between pieces of work with the share done, 0 to 1; returns false to stop. */
export type Progress = (share: number) => boolean;

const onward: Progress = () => true;

/** Long work in pieces: each step gives the share done; the end gives the result. Whoever drives it may stop between two steps. */
export type Work<T> = Generator<number, T, boolean | undefined>;

/** Drives work to its end, or until `progress` says stop: then the work is told, and finishes with what it has. */
export function drive<T>(work: Work<T>, progress: Progress = onward): T {
  let step = work.next();
  while (step.done !== true) step = work.next(progress(step.value));
  return step.value;
}

/** What a figure with some of its crossings swapped is, held against what it was. */
function outcomeOf(
  { key, fallsApart }: FlippedKey,
  own: { readonly key: string; readonly mirrorKey: string | undefined },
  book: KeyBook,
): Pick<Mistake, 'key' | 'outcome' | 'becomes'> {
  const becomes = book.cameUpon(key);
  const outcome: Outcome =
    key === own.key
      ? 'same'
      : fallsApart
        ? 'falls apart'
        : key === own.mirrorKey
          ? 'mirror'
          : becomes.length > 0
            ? 'another knot'
            : 'unnamed knot';
  return { key, outcome, becomes: outcome === 'another knot' ? becomes : [] };
}

/** What a figure becomes when crossings of it, by number, are laid the other way: worked out one call at a time. */
export function mistakesOf(
  figure: Figure,
  book: KeyBook,
): Result<(crossings: readonly number[]) => Result<MistakeGroup>> {
  const own = signatureOf(figure);
  if (!own.ok) return own;
  const turned = signatureOf(mirror(figure));
  const keys = { key: own.value.key, mirrorKey: turned.ok ? turned.value.key : undefined };
  const keyAfter = orDecline(() => flippedKeys(figure));
  if (!keyAfter.ok) return keyAfter;
  return accept((crossings) => {
    const found = orDecline(() => outcomeOf(keyAfter.value(crossings), keys, book));
    return found.ok ? accept({ ...found.value, crossings }) : found;
  });
}

/** What a figure becomes when the crossings of these numbers are laid the other way. */
export function mistakeOf(figure: Figure, crossings: readonly number[], book: KeyBook): Result<MistakeGroup> {
  const made = mistakesOf(figure, book);
  return made.ok ? made.value(crossings) : made;
}

/** What another figure is, held against the one that it was made from. */
export function madeInto(figure: Figure, other: Figure, book: KeyBook): Result<Omit<MistakeGroup, 'crossings'>> {
  const [own, turned, after] = [signatureOf(figure), signatureOf(mirror(figure)), signatureOf(other)];
  if (!own.ok) return own;
  if (!after.ok) return after;
  return accept(
    outcomeOf(after.value, { key: own.value.key, mirrorKey: turned.ok ? turned.value.key : undefined }, book),
  );
}

/** The mistake atlas of a figure, a crossing at a time. Told to stop, it says what it left out. */
export function* atlasWork(figure: Figure, book: KeyBook): Work<Result<Atlas>> {
  const made = mistakesOf(figure, book);
  if (!made.ok) return made;
  const list = crossingsOf(figure);
  const mistakes: Mistake[] = [];
  for (const [i, { number }] of list.entries()) {
    if ((yield i / list.length) === false) break;
    const found = made.value([number]);
    if (!found.ok) return found;
    const { crossings: _one, ...mistake } = found.value;
    mistakes.push({ crossing: number, ...mistake });
  }
  const leftOut = list.slice(mistakes.length).map((c) => c.number);
  return accept({ mistakes, groups: grouped(mistakes), leftOut });
}

/** The mistake atlas of a figure, at once. */
export const atlasOf = (figure: Figure, book: KeyBook, progress: Progress = onward): Result<Atlas> =>
  drive(atlasWork(figure, book), progress);

function grouped(mistakes: readonly Mistake[]): MistakeGroup[] {
  const groups = new Map<string, MistakeGroup>();
  for (const m of mistakes) {
    const id = m.outcome === 'falls apart' ? m.outcome : m.key;
    const there = groups.get(id);
    groups.set(id, {
      outcome: m.outcome,
      key: m.key,
      becomes: m.becomes,
      crossings: [...(there?.crossings ?? []), m.crossing],
    });
  }
  return [...groups.values()].sort(
    (a, b) =>
      WORST_FIRST.indexOf(a.outcome) - WORST_FIRST.indexOf(b.outcome) || b.crossings.length - a.crossings.length,
  );
}

export interface Repair {
  /** Numbers of the crossings to swap. */
  readonly crossings: readonly number[];
  /** True when it becomes the mirror image of what is claimed. */
  readonly mirrored: boolean;
}

export interface Repairs {
  /** The repairs with the fewest swaps, those that keep the hand first. */
  readonly repairs: readonly Repair[];
  /** Most swaps at once that were tried throughout. */
  readonly tried: 0 | 1 | 2;
  readonly complete: boolean;
}

/** Most crossings swapped at once in a repair: more than two slips are another drawing. */
export const MOST_SWAPS = 2;

/**
 * The fewest crossings whose change gives a figure one of two keys: that of the knot it claims to be, or its mirror image's. Tries one
 * swap, then two, until it is told to stop.
 */
export function* repairWork(
  figure: Figure,
  claim: { readonly key: string; readonly mirrorKey: string },
): Work<Result<Repairs>> {
  const own = signatureOf(figure);
  if (!own.ok) return own;
  if (own.value.key === claim.key)
    return refuse('figure', 'It is what it claims to be.', 'Nothing needs to be changed.');
  const keyAfter = orDecline(() => flippedKeys(figure));
  if (!keyAfter.ok) return keyAfter;
  const numbers = crossingsOf(figure).map((c) => c.number);
  const singles = numbers.map((n) => [n]);
  const doubles = numbers.flatMap((m) => numbers.filter((n) => n > m).map((n) => [m, n]));
  const total = singles.length + doubles.length;
  let done = 0;
  for (const [size, sets] of [singles, doubles].entries()) {
    const repairs: Repair[] = [];
    for (const crossings of sets) {
      if ((yield done / total) === false) return accept({ repairs, tried: size as 0 | 1, complete: false });
      done += 1;
      const found = orDecline(() => keyAfter.value(crossings));
      if (!found.ok) return found;
      const { key } = found.value;
      if (key === claim.key || key === claim.mirrorKey) repairs.push({ crossings, mirrored: key !== claim.key });
    }
    if (repairs.length > 0) {
      repairs.sort((a, b) => Number(a.mirrored) - Number(b.mirrored));
      return accept({ repairs, tried: (size + 1) as 1 | 2, complete: true });
    }
  }
  return accept({ repairs: [], tried: MOST_SWAPS, complete: true });
}

/** Repair, at once. */
export const repairOf = (
  figure: Figure,
  claim: { readonly key: string; readonly mirrorKey: string },
  progress: Progress = onward,
): Result<Repairs> => drive(repairWork(figure, claim), progress);

/** The outcome in a few words, for a learner. */
export function sayOutcome({ outcome, becomes }: Pick<MistakeGroup, 'outcome' | 'becomes'>): string {
  switch (outcome) {
    case 'falls apart':
      return 'Falls apart';
    case 'mirror':
      return 'Its mirror image';
    case 'same':
      return 'Still the same knot';
    case 'unnamed knot':
      return 'Another knot, without a name here';
    case 'another knot': {
      const names = becomes.map((b) => (b.relation === 'mirror' ? `${b.name} (mirrored)` : b.name));
      return names.length > 2 ? `${names.slice(0, 2).join(', ')} …` : names.join(' or ');
    }
  }
}

/**
 * How a learner tells a wrong way, for those who see the picture of it: what lies over what there, and what is right in the knot of this
 * name.
 */
export function tellMistake(figure: Figure, crossings: readonly number[], name: string, words: Vocabulary): string {
  const wrong = flipped(figure, crossings);
  return crossings.map((n) => `Here ${sayCrossing(wrong, n, words)}; in ${theKnot(name)} it lies under.`).join(' ');
}

/** A wrong way as a learner sees it: the figure so laid, where it is wrong, and how to tell it. */
export interface ShownExhibit {
  readonly figure: Figure;
  readonly becomes: string;
  readonly tell: string;
  readonly points: readonly Point[];
  /** What of it is shown: its wrong crossings near enough to be read. */
  readonly box: Box;
}

/** What is shown of a figure whose crossings at some points matter. */
export function boxAbout(figure: Figure, points: readonly Point[]): Box {
  const heart = heartBox(figure);
  const [first, ...more] = points;
  return first && more.length === 0 ? nearBox(heart, first) : heart;
}

/** The wrong ways that are shown of a finished knot of this name; those whose crossings are gone are left out. */
export const shownExhibits = (
  { figure, exhibits = [] }: Layout,
  name: string,
  words: Vocabulary,
): readonly ShownExhibit[] =>
  exhibits.flatMap(({ crossings, becomes, tell }): ShownExhibit[] => {
    const own = crossings.flatMap((c) => crossingAt(figure, c) ?? []);
    if (own.length < crossings.length) return [];
    const numbers = own.map((c) => c.number);
    return [
      {
        figure: flipped(figure, numbers),
        becomes,
        tell: tell ?? tellMistake(figure, numbers, name, words),
        points: own.map((c) => c.point),
        box: boxAbout(
          figure,
          own.map((c) => c.point),
        ),
      },
    ];
  });
