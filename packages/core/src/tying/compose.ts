/**
 * The composer: the text of a step from the crossings and faces its leader passes, in the house vocabulary.
 *
 * - into a closed-in part under its edge and out over it: *up through*; in over and out under: *down through*;
 * - the first crossing of the rope with itself makes a loop: *overhand* when the end is over, *underhand* when under;
 * - a host is passed *over* or *behind*; other strands *over* or *under*.
 */
import { crossingsOf, passagesOf, type Crossing, type Passage } from '../figure/crossings.js';
import { curveOf, lineBetween, pointAt } from '../figure/curve.js';
import { hostOf, lastAt, ropeOf, type Figure, type Rope, type TrailPosition } from '../figure/figure.js';
import { cross, dot, subtract, unit, type Point } from '../figure/point.js';
import { inside, readMap } from '../topology/planar-map.js';
import type { Vocabulary } from '../words/vocabulary.js';
import { extentsAt, laidPassages, reached, stepsOf, truncate, type Method, type Step } from './method.js';

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
function passagesInStep(method: Method, step: Step): Passage[] {
  const extents = extentsAt(method, step.leader, step.to);
  // Of a bight, the first leg speaks for both; what the rest of its rope has laid is there already.
  const leader = method.leaders[step.leader];
  return laidPassages(method.figure, extents, step.rope).filter(
    (p) =>
      p.at > step.from &&
      p.at <= step.to &&
      (p.other.strand !== step.rope || p.other.at < p.at || (leader?.kind === 'bight' && p.other.at > leader.to)),
  );
}

function partName(method: Method, step: Step, place: TrailPosition, words: Vocabulary): string {
  const { figure } = method;
  const { rope } = step;
  const host = hostOf(figure, place.strand);
  if (host) return `the ${words.hosts[host.kind] ?? host.kind}`;
  if (place.strand !== rope)
    return bightOf(method, step, place.strand, step.from)
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

const ropeName = (figure: Figure, rope: string, words: Vocabulary): string => {
  const index = figure.ropes.findIndex((r) => r.id === rope);
  return words.ropes[index] ?? `rope ${rope}`;
};

/** The line of another rope as far as it is laid, when it is doubled back without crossing itself: a bight. */
function bightOf(method: Method, step: Step, strand: string, at: number): Point[] | undefined {
  const other = ropeOf(method.figure, strand);
  if (!other || other.closed) return undefined;
  const extents = extentsAt(method, step.leader, at);
  const end = Math.min(lastAt(other), reached(extents, strand));
  if (laidPassages(method.figure, extents, strand).some((p) => p.other.strand === strand)) return undefined;
  const line = lineBetween(curveOf(other), 0, end);
  return turning(line) > BIGHT_TURN ? line : undefined;
}

/** What closes in the place where the leader is between two passages: a bight, a loop of rope, or nothing. */
function closedIn(method: Method, step: Step, p: Passage, q: Passage, words: Vocabulary): string | undefined {
  const { figure } = method;
  if (hostOf(figure, p.other.strand) || hostOf(figure, q.other.strand)) return undefined;
  const curve = curveOf(ropeOf(figure, step.rope) as Rope);
  const middle = pointAt(curve, (p.at + q.at) / 2);
  if (p.other.strand === q.other.strand && p.other.strand !== step.rope) {
    const bight = bightOf(method, step, p.other.strand, p.at);
    if (bight && inside(bight, middle)) return `the ${words.bight}`;
  }
  const laid = truncate(figure, extentsAt(method, step.leader, p.at - 1e-6));
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

function movesOf(method: Method, step: Step, words: Vocabulary): Move[] {
  const { figure } = method;
  const passages = passagesInStep(method, step);
  if (passages.length === 0) {
    const line = lineBetween(curveOf(ropeOf(figure, step.rope) as Rope), step.from, step.to);
    return [turning(line) > BIGHT_TURN ? { kind: 'bight', crossings: [] } : { kind: 'lay', crossings: [] }];
  }
  const moves: Move[] = [];
  const before = extentsAt(method, step.leader, step.from);
  let looped =
    laidPassages(figure, before, step.rope).some((p) => p.other.strand === step.rope) || figure.hosts.length > 0;
  for (let i = 0; i < passages.length; i += 1) {
    const p = passages[i] as Passage;
    const q = passages[i + 1];
    const number = p.crossing.number;
    const what = q && p.over !== q.over ? closedIn(method, step, p, q, words) : undefined;
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
    const name = partName(method, step, p.other, words);
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
  return moves;
}

const TIMES = ['', '', ' twice', ' three times', ' four times'];

function sayMove(move: Move, words: Vocabulary): string {
  switch (move.kind) {
    case 'loop':
      return `${move.hand === 'overhand' ? 'over' : 'under'} the ${words.standingPart} to make an ${move.hand === 'overhand' ? words.overhandLoop : words.underhandLoop}`;
    case 'through':
      return `${move.way} through ${move.what}`;
    case 'pass': {
      const way = move.over ? 'over' : move.host ? 'behind' : 'under';
      if (move.times === 2 && move.what === `the ${words.bight}`) return `${way} both legs of ${move.what}`;
      return `${way} ${move.what}${TIMES[move.times] ?? ` ${move.times} times`}`;
    }
    case 'bight':
    case 'lay':
      return '';
  }
}

/** The composed text of one step. */
export function composeStep(method: Method, index: number, words: Vocabulary): ComposedStep {
  const step = stepsOf(method)[index];
  if (!step) return { moves: [], text: '', crossings: [] };
  const moves = movesOf(method, step, words);
  const several = method.figure.ropes.length > 1;
  const rope = `the ${ropeName(method.figure, step.rope, words)}`;
  const ofRope = several ? ` of ${rope}` : '';
  const drawsBight = method.leaders[step.leader]?.kind === 'bight';
  const end = drawsBight ? `a ${words.bight}${ofRope}` : `the ${words.workingEnd}${ofRope}`;
  const finishes = step.to >= lastAt(ropeOf(method.figure, step.rope) as Rope) - 1e-6;
  const only = moves[0];
  let text: string;
  if (drawsBight && (only?.kind === 'bight' || only?.kind === 'lay')) text = `Draw out ${end} as shown.`;
  else if (only?.kind === 'bight') text = `Double ${several ? rope : 'the rope'} back to make a ${words.bight}.`;
  else if (only?.kind === 'lay')
    text =
      step.from > 0
        ? finishes
          ? `Lead ${end} away and leave the ${words.tail}.`
          : `Bring ${end} round as shown.`
        : `Lay ${several ? rope : 'the rope'} out as shown.`;
  else text = `Take ${end} ${moves.map((m) => sayMove(m, words)).join(', then ')}.`;
  return { moves, text, crossings: moves.flatMap((m) => [...m.crossings]) };
}

/** The text a step shows: the author's own, or the composed one. */
export function stepText(method: Method, index: number, words: Vocabulary): string {
  return method.halts[index]?.text ?? composeStep(method, index, words).text;
}
