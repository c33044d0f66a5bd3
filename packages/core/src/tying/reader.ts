/**
 * The reader: an author's own text read back against the picture. It picks out the words that say how the end passes (over, under, up
 * through …), how often it goes round, to which side and which way round, and compares them with what the leader does in the step. It
 * contradicts only what cannot be true; a text may leave things out.
 */
import { passagesOf } from '../figure/crossings.js';
import { curveOf, directionAt, lineBetween } from '../figure/curve.js';
import { ropeOf } from '../figure/figure.js';
import type { Point } from '../figure/point.js';
import { NUMBER_WORDS, type Vocabulary } from '../words/vocabulary.js';
import { composeStep } from './compose.js';
import { passesOf, type Move } from './move.js';
import { turning } from './parts.js';
import { liesIn, stepsOf, wayOf, type Method } from './method.js';

export interface Contradiction {
  /** Which characters of the text say it. */
  readonly from: number;
  readonly to: number;
  readonly words: string;
  /** What the picture shows, in a sentence. */
  readonly shows: string;
  /** Words that would be true in their place, where that is certain. */
  readonly instead?: string;
  readonly crossings: readonly number[];
  /** The crossings that would lie the other way, were it tied as it is told; absent where that is not certain. */
  readonly told?: readonly number[];
  /** So many turns more than the picture shows (fewer, when negative) are told of those that pass these crossings. */
  readonly toldTurns?: ToldTurns;
}

export interface ToldTurns {
  readonly more: number;
  readonly crossings: readonly number[];
}

type Way = 'O' | 'U';

interface Claim {
  readonly from: number;
  readonly to: number;
  readonly words: string;
  readonly ways: readonly Way[];
}

export interface Seen {
  readonly way: Way;
  readonly crossing: number;
}

const PASSES: readonly { readonly words: RegExp; readonly ways: readonly Way[] }[] = [
  { words: /\bup through\b/gi, ways: ['U', 'O'] },
  { words: /\bdown through\b/gi, ways: ['O', 'U'] },
  { words: /\b(?:over and under)\b/gi, ways: ['O', 'U'] },
  { words: /\b(?:under and over)\b/gi, ways: ['U', 'O'] },
  { words: /\b(?:over|across|in front of)\b/gi, ways: ['O'] },
  { words: /\b(?:under|beneath|underneath|behind|below)\b/gi, ways: ['U'] },
];

/** The words for a passage that mean the opposite. */
const OPPOSITES: Readonly<Record<string, string>> = {
  over: 'under',
  across: 'under',
  'in front of': 'behind',
  under: 'over',
  beneath: 'over',
  underneath: 'over',
  behind: 'in front of',
  below: 'over',
  'up through': 'down through',
  'down through': 'up through',
};

/** What a text claims of passages, in its order; a word inside a longer phrase counts with the phrase. */
function claimsOf(text: string): Claim[] {
  const found: Claim[] = [];
  for (const { words, ways } of PASSES)
    for (const m of text.matchAll(words)) {
      const [from, to] = [m.index, m.index + m[0].length];
      // “over both legs” is said of two passages.
      const both = ways.length === 1 && /^ both\b/i.test(text.slice(to));
      if (!found.some((c) => from < c.to && to > c.from))
        found.push({ from, to, words: m[0], ways: both ? [...ways, ...ways] : ways });
    }
  return found.sort((a, b) => a.from - b.from);
}

export const seenOf = (moves: readonly Move[]): Seen[] => {
  const crossings = moves.flatMap((m) => [...m.crossings]);
  return passesOf(moves)
    .split('')
    .map((way, i) => ({ way: way as Way, crossing: crossings[i] as number }));
};

/** Where claims fit into what is seen, in order, with anything left out between them: for each claim its places; nothing when they do not. */
function fitting(claims: readonly Claim[], seen: readonly Seen[]): number[][] | undefined {
  let at = 0;
  const places: number[][] = [];
  for (const c of claims) {
    const own: number[] = [];
    for (const way of c.ways) {
      while (at < seen.length && seen[at]?.way !== way) at += 1;
      if (at === seen.length) return undefined;
      own.push(at);
      at += 1;
    }
    places.push(own);
  }
  return places;
}

const fits = (claims: readonly Claim[], seen: readonly Seen[]): boolean => fitting(claims, seen) !== undefined;

export const sayWay = (way: Way): string => (way === 'O' ? 'over' : 'under');

function passContradictions(text: string, seen: readonly Seen[]): Contradiction[] {
  const claims = claimsOf(text);
  if (seen.length === 0 || fits(claims, seen)) return [];
  const shows = `The picture shows it passing ${seen.map((s) => `${sayWay(s.way)} at ${s.crossing}`).join(', ')}.`;
  // One word that would make the whole text fit is the one that is wrong; of several the first.
  for (const [i, c] of claims.entries()) {
    const instead = OPPOSITES[c.words.toLowerCase()];
    if (instead === undefined) continue;
    const turned: Claim = { ...c, ways: c.ways.map((w) => (w === 'O' ? 'U' : 'O')) };
    const places = fitting([...claims.slice(0, i), turned, ...claims.slice(i + 1)], seen)?.[i];
    if (places) {
      const told = places.map((k) => (seen[k] as Seen).crossing);
      return [{ ...pick(c), shows, instead, crossings: seen.map((s) => s.crossing), told }];
    }
  }
  // No one word mends it: the first that cannot be true of what is left.
  const until = claims.findIndex((_, i) => !fits(claims.slice(0, i + 1), seen));
  const c = claims[Math.max(0, until)] as Claim;
  return [{ ...pick(c), shows, crossings: seen.map((s) => s.crossing) }];
}

const pick = ({ from, to, words }: Claim): Pick<Contradiction, 'from' | 'to' | 'words'> => ({ from, to, words });

const numberSaid = (word: string): number =>
  word === 'once' ? 1 : word === 'twice' ? 2 : /\d/.test(word) ? Number(word) : NUMBER_WORDS.indexOf(word);
const COUNT = new RegExp(
  `\\b(?:(once|twice)(?= (?:round|around|about))|(${NUMBER_WORDS.slice(1).join('|')}|\\d+) (?:times|turns?|wraps?|coils?))\\b`,
  'gi',
);

/** A round turn is seen as two turns from the front. */
const ROUND_TURN = /\bround turn\b/gi;

/** How often the leader goes round one thing in a step. */
interface Turns {
  /** The number to say, and those that may be said: half a turn more or less is counted or not, by school. */
  readonly count: number;
  readonly least: number;
  readonly most: number;
  readonly crossings: readonly number[];
}

/** Turns that were laid as turns count as they were laid; others by the passages over and under one thing. */
function turnsIn(method: Method, index: number): Turns | undefined {
  const { stretch: step, of: layout } = stepsOf(method)[index] ?? {};
  if (!step || !layout) return undefined;
  const own = passagesOf(layout.figure, step.rope).filter((p) => liesIn(step, p.at));
  const way = wayOf(layout.leaders[step.leader]);
  const round = new Map<string, { over: number; under: number; crossings: number[] }>();
  for (const p of own) {
    if (p.other.strand === step.rope && (p.other.at - p.at) * way > 0) continue;
    const known = round.get(p.other.strand) ?? { over: 0, under: 0, crossings: [] };
    known[p.over ? 'over' : 'under'] += 1;
    known.crossings.push(p.crossing.number);
    round.set(p.other.strand, known);
  }
  const most = [...round.values()].sort((a, b) => Math.min(b.over, b.under) - Math.min(a.over, a.under))[0];
  if (!most) return undefined;
  const seen = Math.max(most.over, most.under);
  const laid = (ropeOf(layout.figure, step.rope)?.wraps ?? [])
    .filter((w) => w.from > step.from && w.to <= step.to + 1e-9)
    .reduce((sum, w) => sum + w.turns, 0);
  const half = most.crossings.length % 2;
  return laid > 0
    ? {
        count: Math.ceil(laid),
        least: Math.floor(laid),
        most: Math.max(seen, Math.ceil(laid)),
        crossings: most.crossings,
      }
    : { count: seen, least: seen - half, most: seen, crossings: most.crossings };
}

/** How often moves are made, as they may be counted: half turns left out or made whole. */
const countsOf = (moves: readonly Move[]): number[] =>
  moves.flatMap((m) => {
    if (m.kind === 'turns') return [Math.floor(m.passes / 2), Math.ceil(m.passes / 2)];
    if (m.kind === 'through' || m.kind === 'pass') return m.times > 1 ? [m.times] : [];
    return m.kind === 'hitch' && m.turns > 1 ? [m.turns] : [];
  });

function countContradictions(text: string, method: Method, index: number, moves: readonly Move[]): Contradiction[] {
  const seen = turnsIn(method, index);
  if (!seen || seen.count === 0) return [];
  const counts = countsOf(moves);
  for (const m of [...text.matchAll(COUNT), ...text.matchAll(ROUND_TURN)]) {
    const word = (m[1] ?? m[2])?.toLowerCase();
    const said = word === undefined ? 2 : numberSaid(word);
    if ((said <= seen.most && said >= seen.least) || counts.includes(said)) continue;
    const shows = `The picture shows ${seen.count} ${seen.count === 1 ? 'turn' : 'turns'}.`;
    const { crossings } = seen;
    const toldTurns = { more: said - (said > seen.most ? seen.most : seen.least), crossings };
    return [{ from: m.index, to: m.index + m[0].length, words: m[0], shows, crossings, toldTurns }];
  }
  return [];
}

/** A move smaller than this, in diameters, has no side. */
const SIDEWAYS = 2;
/** An end that heads less to one side than this, of 1, has no side. */
const HEADING = 0.3;
/** A turning smaller than this, in radians, has no way round. */
const ROUND = 2.2;

function sideContradictions(text: string, method: Method, index: number): Contradiction[] {
  const { stretch: step, of: layout } = stepsOf(method)[index] ?? {};
  const rope = step && layout && ropeOf(layout.figure, step.rope);
  if (!step || !rope) return [];
  const line = lineBetween(curveOf(rope), step.from, step.to);
  const [first, last] = [line[0] as Point, line.at(-1) as Point];
  const out: Contradiction[] = [];
  const dx = last[0] - first[0];
  const sides = [...text.matchAll(/\bto (?:the|its|your) (left|right)\b/gi)];
  const [side] = sides;
  // “And out to the left” is said of where the end comes out, not of the whole way.
  const isOut = side !== undefined && /\bout $/i.test(text.slice(0, side.index));
  const heading = directionAt(curveOf(rope), step.to)[0] * (step.from > step.to ? -1 : 1);
  const way = isOut ? heading : dx;
  if (side && sides.length === 1 && Math.abs(way) > (isOut ? HEADING : SIDEWAYS)) {
    const goes = way > 0 ? 'right' : 'left';
    if (side[1]?.toLowerCase() !== goes)
      out.push({
        from: side.index,
        to: side.index + side[0].length,
        words: side[0],
        shows: `The picture shows it going to the ${goes}.`,
        instead: side[0].replace(/left|right/i, goes),
        crossings: [],
      });
  }
  const clock = /\b(anti-?clockwise|counter-?clockwise|clockwise)\b/i.exec(text);
  const turned = turning(line);
  if (clock && Math.abs(turned) > ROUND) {
    const goes = turned > 0 ? 'clockwise' : 'anticlockwise';
    if ((clock[0].toLowerCase() === 'clockwise') !== (goes === 'clockwise'))
      out.push({
        from: clock.index,
        to: clock.index + clock[0].length,
        words: clock[0],
        shows: `The picture shows it turning ${goes}.`,
        instead: goes,
        crossings: [],
      });
  }
  return out;
}

/** Where the author's own text of a step, or what is said of it elsewhere, contradicts the picture; nothing for a composed text. */
export function contradictionsOf(
  method: Method,
  index: number,
  words: Vocabulary,
  text = stepsOf(method)[index]?.telling.text,
): Contradiction[] {
  if (text === undefined) return [];
  const { moves } = composeStep(method, index, words);
  return [
    ...passContradictions(text, seenOf(moves)),
    ...countContradictions(text, method, index, moves),
    ...sideContradictions(text, method, index),
  ].sort((a, b) => a.from - b.from);
}

/** The text with a contradiction's words put right. */
export const mended = (text: string, { from, to, instead }: Contradiction): string =>
  instead === undefined ? text : text.slice(0, from) + instead + text.slice(to);
