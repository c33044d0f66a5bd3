/**
 * The composer: the text of a step from the crossings and faces its leader passes, in the house vocabulary.
 *
 * - into a closed-in part under its edge and out over it: *up through*; in over and out under: *down through*;
 * - the first crossing of the rope with itself makes a loop: *overhand* when the end is over, *underhand* when under;
 * - a host is passed *over* or *behind*; other strands *over* or *under*.
 */
import { capital } from '../words/inflect.js';
import { crossingsOf, passagesOf, type Crossing, type Passage } from '../figure/crossings.js';
import { curveOf, lineBetween, pointAt } from '../figure/curve.js';
import { hostOf, lastAt, ropeOf, type Figure, type Rope, type TrailPosition, type Wrap } from '../figure/figure.js';
import { cross, dot, subtract, unit, type Point } from '../figure/point.js';
import { parallelRuns } from '../dressing/dress.js';
import { inside, readMap } from '../topology/planar-map.js';
import { inflect, withArticle } from '../words/inflect.js';
import { hostWord, strandWord, timesWord, type Vocabulary } from '../words/vocabulary.js';
import {
  extentsAt,
  laidPassages,
  reached,
  stepsOf,
  truncate,
  type Again,
  type Layout,
  type Method,
  type Step,
  type Stretch,
} from './method.js';

/** One move of the leader. `crossings` are the numbers of the crossings it passes. */
export type Move =
  | { readonly kind: 'loop'; readonly hand: 'overhand' | 'underhand'; readonly crossings: readonly number[] }
  | {
      readonly kind: 'through';
      readonly way: 'up' | 'down';
      readonly what: string;
      readonly crossings: readonly number[];
    }
  | {
      readonly kind: 'pass';
      readonly over: boolean;
      readonly what: string;
      readonly host: boolean;
      readonly times: number;
      readonly crossings: readonly number[];
    }
  | {
      /** Turns laid one beside the other round one thing. */
      readonly kind: 'wrap';
      readonly turns: number;
      readonly first: 'over' | 'under';
      readonly what: string;
      readonly host: boolean;
      /** Where the turns go: “away from the standing part”, “to the right”. */
      readonly toward?: string | undefined;
      readonly crossings: readonly number[];
      /** How each is passed, where not by turns: turns round several strands pass them together. */
      readonly ways?: string | undefined;
    }
  | { readonly kind: 'bight'; readonly crossings: readonly number[] }
  | { readonly kind: 'lay'; readonly crossings: readonly number[] };

export interface ComposedStep {
  readonly moves: readonly Move[];
  readonly text: string;
  /** Crossings the leader passes in this step, by number, in order. */
  readonly crossings: readonly number[];
}

/** A stretch that turns by more than this, in radians, without crossing anything doubles the rope back: a bight. */
const BIGHT_TURN = 2.4;

/** The step's passages: those of the leader that meet rope or host already laid. */
export function passagesInStep(layout: Layout, step: Stretch): Passage[] {
  const extents = extentsAt(layout, step.index, step.to);
  // Of a bight, the first leg speaks for both; what the rest of its rope has laid is there already.
  const leader = layout.leaders[step.leader];
  return laidPassages(layout.figure, extents, step.rope).filter(
    (p) =>
      p.at > step.from &&
      p.at <= step.to &&
      (p.other.strand !== step.rope || p.other.at < p.at || (leader?.kind === 'bight' && p.other.at > leader.to)),
  );
}

function partName(layout: Layout, step: Stretch, place: TrailPosition, words: Vocabulary): string {
  const { figure } = layout;
  const { rope } = step;
  const host = hostOf(figure, place.strand);
  if (host) return `the ${hostWord(words, host)}`;
  if (place.strand !== rope)
    return bightOf(layout, step, place.strand, step.from)
      ? `the ${words.bight}`
      : `the ${ropeName(figure, place.strand, words)}`;
  const first = passagesOf(figure, rope)[0];
  if (first === undefined || place.at <= first.at + 1e-9) return `the ${words.standingPart}`;
  if (figure.hosts.length > 0) return `its own ${words.turn}`;
  // The crossing that closed the rope's first loop is the one whose later passage comes first.
  const loop = crossingsOf(figure)
    .filter((c) => c.first.strand === rope && c.second.strand === rope)
    .reduce<Crossing | undefined>(
      (best, c) => (best === undefined || c.second.at < best.second.at ? c : best),
      undefined,
    );
  if (loop && place.at > loop.first.at && place.at < loop.second.at) return `the ${words.loop}`;
  return loop && place.at < loop.first.at ? `the ${words.standingPart}` : 'its own part';
}

/** What a place of the trail is called, whichever step one is at: “standing part”, “loop”, “tail”. */
export function nameOfPlace(layout: Layout, place: TrailPosition, words: Vocabulary): string {
  const { figure } = layout;
  const host = hostOf(figure, place.strand);
  if (host) return hostWord(words, host);
  const rope = ropeOf(figure, place.strand);
  const passages = passagesOf(figure, place.strand);
  const [first, last] = [passages[0], passages.at(-1)];
  const end = (role: string | undefined): string => (role === 'tail' ? words.tail : words.standingPart);
  if (!first || !last || place.at < first.at) return end(rope?.ends[0]);
  if (place.at > last.at && rope?.closed === false) return end(rope.ends[1]);
  const bight = layout.leaders.find(
    (l) => l.kind === 'bight' && l.rope === place.strand && place.at > l.from && place.at < l.to,
  );
  if (bight) return words.bight;
  const own = passages.find((p) => p.other.strand === place.strand && p.other.at > p.at);
  if (own && figure.hosts.length === 0 && place.at > own.at && place.at < own.other.at) return words.loop;
  return figure.ropes.length > 1 ? ropeName(figure, place.strand, words) : words.turn;
}

const ropeName = (figure: Figure, rope: string, words: Vocabulary): string => {
  const index = figure.ropes.findIndex((r) => r.id === rope);
  return words.ropes[index] ?? `rope ${rope}`;
};

/** The line of another rope as far as it is laid, when it is doubled back without crossing itself: a bight. */
function bightOf(layout: Layout, step: Stretch, strand: string, at: number): Point[] | undefined {
  const other = ropeOf(layout.figure, strand);
  if (!other || other.closed) return undefined;
  const extents = extentsAt(layout, step.index, at);
  const end = Math.min(lastAt(other), reached(extents, strand));
  if (laidPassages(layout.figure, extents, strand).some((p) => p.other.strand === strand)) return undefined;
  const line = lineBetween(curveOf(other), 0, end);
  return turning(line) > BIGHT_TURN ? line : undefined;
}

/** What closes in the place where the leader is between two passages: a bight, a loop of rope, or nothing. */
function closedIn(layout: Layout, step: Stretch, p: Passage, q: Passage, words: Vocabulary): string | undefined {
  const { figure } = layout;
  if (hostOf(figure, p.other.strand) || hostOf(figure, q.other.strand)) return undefined;
  const curve = curveOf(ropeOf(figure, step.rope) as Rope);
  const middle = pointAt(curve, (p.at + q.at) / 2);
  if (p.other.strand === q.other.strand && p.other.strand !== step.rope) {
    const bight = bightOf(layout, step, p.other.strand, p.at);
    if (bight && inside(bight, middle)) return `the ${words.bight}`;
  }
  const laid = truncate(figure, extentsAt(layout, step.index, p.at - 1e-6));
  const map = readMap(laid);
  if (!map.ok) return undefined;
  return map.value.faces.some((f) => !f.outer && inside(f.outline, middle)) ? `the ${words.loop}` : undefined;
}

/** Sum of the turning along a line, unsigned by direction, in radians. */
function turning(line: readonly Point[]): number {
  let sum = 0;
  for (let i = 2; i < line.length; i += 1) {
    const [u, v] = [
      unit(subtract(line[i - 1] as Point, line[i - 2] as Point)),
      unit(subtract(line[i] as Point, line[i - 1] as Point)),
    ];
    sum += Math.atan2(cross(u, v), dot(u, v));
  }
  return Math.abs(sum);
}

function movesOf(layout: Layout, step: Stretch, words: Vocabulary): Move[] {
  const { figure } = layout;
  const passages = passagesInStep(layout, step);
  if (passages.length === 0) {
    const line = lineBetween(curveOf(ropeOf(figure, step.rope) as Rope), step.from, step.to);
    return [turning(line) > BIGHT_TURN ? { kind: 'bight', crossings: [] } : { kind: 'lay', crossings: [] }];
  }
  const moves: Move[] = [];
  const rope = ropeOf(figure, step.rope) as Rope;
  const before = extentsAt(layout, step.index, step.from);
  let looped =
    laidPassages(figure, before, step.rope).some((p) => p.other.strand === step.rope) || figure.hosts.length > 0;
  for (let i = 0; i < passages.length; i += 1) {
    const p = passages[i] as Passage;
    const q = passages[i + 1];
    const number = p.crossing.number;
    const wrap = laidWrap(rope, step, p.at);
    if (wrap) {
      const own = passages.slice(i).filter((x) => x.at <= wrap.to);
      moves.push(wrapMove(layout, step, wrap, own, words));
      looped ||= own.some((x) => x.other.strand === step.rope);
      i += own.length - 1;
      continue;
    }
    const what = q && p.over !== q.over ? closedIn(layout, step, p, q, words) : undefined;
    if (q && what !== undefined) {
      moves.push({ kind: 'through', way: p.over ? 'down' : 'up', what, crossings: [number, q.crossing.number] });
      i += 1;
      continue;
    }
    if (!looped && p.other.strand === step.rope) {
      looped = true;
      moves.push({ kind: 'loop', hand: p.over ? 'overhand' : 'underhand', crossings: [number] });
      continue;
    }
    const name = partName(layout, step, p.other, words);
    const last = moves.at(-1);
    if (last?.kind === 'pass' && last.over === p.over && last.what === name) {
      moves[moves.length - 1] = { ...last, times: last.times + 1, crossings: [...last.crossings, number] };
    } else {
      moves.push({
        kind: 'pass',
        over: p.over,
        what: name,
        host: hostOf(figure, p.other.strand) !== undefined,
        times: 1,
        crossings: [number],
      });
    }
  }
  return foldWraps(layout, step, moves, words);
}

/** The turns that were laid as one at a place on the trail, when the step lays all of them. */
const laidWrap = (rope: Rope, step: Stretch, at: number): Wrap | undefined =>
  rope.wraps?.find((w) => at > w.from - 1 && at <= w.to && w.from > step.from && w.to <= step.to + 1e-9);

/** Turns are told as they were laid, whatever they pass on their way: what leads on across is no more of them. */
function wrapMove(layout: Layout, step: Stretch, wrap: Wrap, own: readonly Passage[], words: Vocabulary): Move {
  const { figure } = layout;
  const crossings = own.map((p) => p.crossing.number);
  const names = wrap.about.map(({ strand }) =>
    strand === step.rope ? 'its own part' : strandWord(words, figure, strand),
  );
  return {
    kind: 'wrap',
    turns: Math.ceil(wrap.turns),
    first: wrap.first === 'O' ? 'over' : 'under',
    what: [...new Set(names)].join(' and '),
    host: wrap.about.some((p) => hostOf(figure, p.strand)),
    toward: towardOf(layout, step, crossings, words),
    crossings,
    ways: own.map((p) => (p.over ? 'O' : 'U')).join(''),
  };
}

/** From so many passages on, over and under by turns, an end is said to go round a thing. */
const ROUND = 3;
/** Turns that end farther than this to one side of where they begin, in diameters, go to that side. */
const ASIDE = 2;

/** Passages over and under one thing by turns are turns round it. */
function foldWraps(layout: Layout, step: Stretch, moves: readonly Move[], words: Vocabulary): Move[] {
  const out: Move[] = [];
  for (let i = 0; i < moves.length;) {
    const first = moves[i] as Move;
    let end = i + 1;
    if (first.kind === 'pass' && first.times === 1)
      for (let last = first; end < moves.length; end += 1) {
        const next = moves[end] as Move;
        if (next.kind !== 'pass' || next.times !== 1 || next.what !== first.what || next.over === last.over) break;
        last = next;
      }
    const run = moves.slice(i, end);
    i = end;
    if (first.kind !== 'pass' || run.length < ROUND) {
      out.push(...run);
      continue;
    }
    const crossings = run.flatMap((m) => [...m.crossings]);
    out.push({
      kind: 'wrap',
      turns: Math.ceil(run.length / 2),
      first: first.over ? 'over' : 'under',
      what: first.what,
      host: first.host,
      toward: towardOf(layout, step, crossings, words),
      crossings,
    });
  }
  return out;
}

/** Where turns go along what they are laid on: by where its own standing part meets that, else by the side of the board. */
function towardOf(layout: Layout, step: Stretch, crossings: readonly number[], words: Vocabulary): string | undefined {
  const own = passagesOf(layout.figure, step.rope);
  const turns = own.filter((p) => p.at > step.from && p.at <= step.to && crossings.includes(p.crossing.number));
  const [first, last] = [turns[0], turns.at(-1)];
  if (!first || !last || first.other.strand === step.rope) return undefined;
  const before = own.find((p) => p.at < step.from && p.other.strand === first.other.strand);
  const away = (p: Passage): number => (before === undefined ? 0 : Math.abs(p.other.at - before.other.at));
  if (before && Math.abs(away(last) - away(first)) > 1e-3)
    return `${away(last) > away(first) ? 'away from' : 'toward'} the ${words.standingPart}`;
  const curve = curveOf(ropeOf(layout.figure, step.rope) as Rope);
  const along = last.crossing.point[0] - first.crossing.point[0];
  const whole = pointAt(curve, step.to)[0] - pointAt(curve, step.from)[0];
  if (Math.abs(whole) < ASIDE || Math.abs(along) < 1 || along > 0 !== whole > 0) return undefined;
  return along > 0 ? 'to the right' : 'to the left';
}

function sayMove(move: Move, words: Vocabulary): string {
  switch (move.kind) {
    case 'loop':
      return `${move.hand === 'overhand' ? 'over' : 'under'} the ${words.standingPart} to make ${withArticle(move.hand === 'overhand' ? words.overhandLoop : words.underhandLoop)}`;
    case 'through':
      return `${move.way} through ${move.what}`;
    case 'pass': {
      const way = move.over ? 'over' : move.host ? 'behind' : 'under';
      if (move.times === 2 && move.what === `the ${words.bight}`) return `${way} both legs of ${move.what}`;
      return `${way} ${move.what}${move.times > 1 ? ` ${timesWord(move.times)}` : ''}`;
    }
    case 'wrap': {
      const way = move.first === 'over' ? 'over' : move.host ? 'behind' : 'under';
      return `${timesWord(move.turns)} round ${move.what}, first ${way} it${move.toward === undefined ? '' : `, working ${move.toward}`}`;
    }
    case 'bight':
    case 'lay':
      return '';
  }
}

/** What moves pass, over or under, in order. */
export const passesOf = (moves: readonly Move[]): string =>
  moves
    .map((m) => {
      const run = (over: boolean, n: number): string => (over ? 'O' : 'U').repeat(n);
      switch (m.kind) {
        case 'loop':
          return run(m.hand === 'overhand', m.crossings.length);
        case 'through':
          return m.way === 'up' ? 'UO' : 'OU';
        case 'pass':
          return run(m.over, m.crossings.length);
        case 'wrap':
          return m.ways ?? m.crossings.map((_, i) => run((i % 2 === 0) === (m.first === 'over'), 1)).join('');
        case 'bight':
        case 'lay':
          return '';
      }
    })
    .join('');

/** The composed text of one step. */
export function composeStep(method: Method, index: number, words: Vocabulary): ComposedStep {
  const step = stepsOf(method)[index];
  if (!step) return { moves: [], text: '', crossings: [] };
  const composed = step.stretch ? composeStretch(step.of, step.stretch, words) : composeFinish(step, words);
  const { passes } = step.of;
  const begins = stepsOf(method)[index - 1]?.layout !== step.layout;
  const { again } = step.telling as { readonly again?: Again | undefined };
  let { text } = composed;
  if (again) text = `As in step ${numberOf(method, step, again.of)}, ${again.way}: ${uncapital(text)}`;
  if (begins && passes !== undefined) text = `${capital(passes.replace(/[.!?]*$/, '.'))} ${text}`;
  return { ...composed, text };
}

const uncapital = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

/** The number of a layout's step among all steps, as it is said to people. */
const numberOf = (method: Method, step: Step, index: number): number =>
  (stepsOf(method).find((s) => s.layout === step.layout)?.index ?? 0) + index + 1;

/** A stretch laid, in words: composed also where no step ends. */
export function composeStretch(layout: Layout, step: Stretch, words: Vocabulary): ComposedStep {
  const moves = movesOf(layout, step, words);
  const several = layout.figure.ropes.length > 1;
  const rope = `the ${several ? ropeName(layout.figure, step.rope, words) : words.rope}`;
  const ofRope = several ? ` of ${rope}` : '';
  const drawsBight = layout.leaders[step.leader]?.kind === 'bight';
  const end = drawsBight ? `${withArticle(words.bight)}${ofRope}` : `the ${words.workingEnd}${ofRope}`;
  const finishes = step.to >= lastAt(ropeOf(layout.figure, step.rope) as Rope) - 1e-6;
  const only = moves[0];
  let text: string;
  if (drawsBight && (only?.kind === 'bight' || only?.kind === 'lay')) text = `Draw out ${end} as shown.`;
  else if (only?.kind === 'bight') text = `Double ${rope} back to make ${withArticle(words.bight)}.`;
  else if (only?.kind === 'lay')
    text =
      step.from > 0
        ? finishes
          ? `Lead ${end} away and leave the ${words.tail}.`
          : `Bring ${end} round as shown.`
        : `Lay ${rope} out as shown.`;
  else text = `Take ${end} ${moves.map((m) => sayMove(m, words)).join(', then ')}.`;
  return { moves, text, crossings: moves.flatMap((m) => [...m.crossings]) };
}

/** How a knot is dressed, set or checked, as far as its drawing tells. */
function composeFinish(step: Step, words: Vocabulary): ComposedStep {
  const { figure } = step.of;
  const tails = figure.ropes.filter((r) => !r.closed).flatMap((r) => r.ends.filter((e) => e === 'tail')).length;
  const text = {
    lay: '',
    dress:
      parallelRuns(figure).length > 0
        ? `${capital(words.dress)} the knot: lay the doubled ${inflect(words.strand, 'part of a rope', 'plural')} side by side, as shown.`
        : `${capital(words.dress)} the knot: work it into the shape shown, with no ${words.strand} crossed for nothing.`,
    set:
      figure.ropes.length > 1
        ? `${capital(words.set)} the knot: draw every end tight in turn.`
        : `${capital(words.set)} the knot: draw the ${words.standingPart}${tails > 0 ? ` and the ${words.tail}` : ''} tight in turn.`,
    check: `Check the knot, front and back${tails === 0 ? '' : tails === 1 ? `, and that the ${words.tail} is long enough` : `, and that each ${words.tail} is long enough`}.`,
  }[step.does];
  return { moves: [], text, crossings: [] };
}

/** The text a step shows: the author's own, or the composed one. */
export function stepText(method: Method, index: number, words: Vocabulary): string {
  return stepsOf(method)[index]?.telling.text ?? composeStep(method, index, words).text;
}
