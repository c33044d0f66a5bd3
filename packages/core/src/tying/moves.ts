/**
 * The moves of a step: those that its leader makes over all its halts, as far as the step lays them, or the strand that it follows.
 */
import { remembered } from '../ground/remembered.js';
import { curveOf, lineBetween } from '../figure/curve.js';
import type { Point } from '../figure/point.js';
import { ropeOf } from '../figure/figure.js';
import { isCore } from '../figure/held-taut.js';
import { besideOf, type Beside } from './beside.js';
import { isFirstEnd, slipBights, stretchesOf, type Layout, type Stretch } from './method.js';
import type { Move } from './move.js';
import { isDoubledBack, partMet } from './parts.js';
import { metIn, passesBetween, readMoves, type Found, type Met } from './read-moves.js';
import { movesFrom, turnedFor } from './turned.js';

/** A leader's passages, and the moves they are. */
export interface Told {
  readonly met: readonly Met[];
  readonly found: readonly Found[];
}

/** The bight that goes on where the end of its rope has left off, as that of a slipped form does, and the leader that was the end. */
function goneOnAsBight(layout: Layout): { readonly end: number; readonly bight: number } | undefined {
  const steps = (leader: number): number[] => layout.halts.flatMap((h, k) => (h.leader === leader ? [k] : []));
  for (const { rope, from } of slipBights(layout)) {
    const bight = layout.leaders.findIndex((l) => l.kind === 'bight' && l.rope === rope && l.from === from);
    const end = layout.leaders.findIndex((l) => l.kind === 'end' && l.rope === rope && !isFirstEnd(l));
    if (end >= 0 && Math.max(-1, ...steps(end)) < Math.min(...steps(bight))) return { end, bight };
  }
  return undefined;
}

/** The moves of each leader over all its halts; none of a first end, whose moves are read of the turned rope. */
export const toldBy = remembered((layout: Layout) => {
  const stretches = stretchesOf(layout);
  const own = layout.leaders.map((l, leader) =>
    isFirstEnd(l) ? [] : stretches.filter((s) => s.leader === leader).flatMap((s) => metIn(layout, s)),
  );
  const told = own.map((met, leader): Told => ({ met, found: readMoves(layout, met, leader) }));
  const slip = goneOnAsBight(layout);
  const [first, then] = [own[slip?.end ?? -1], own[slip?.bight ?? -1]];
  if (!slip || !first || !then || first.some((m) => m.at > (then[0]?.at ?? 0))) return told;
  // What the end begins the bight ends: read as one, each told its own.
  const begun = first.length;
  const found = readMoves(layout, [...first, ...then], slip.end);
  if (found.some(({ from, to }) => from < begun && to > begun)) return told;
  const ofEnd = found.filter(({ to }) => to <= begun);
  const ofBight = found.flatMap(({ from, to, ...f }) =>
    from < begun ? [] : [{ ...f, from: from - begun, to: to - begun }],
  );
  return told.map((t, leader): Told =>
    leader === slip.end ? { met: first, found: ofEnd } : leader === slip.bight ? { met: then, found: ofBight } : t,
  );
});

/** The moves of a stretch that is not among the layout's halts. */
function toldAlone(layout: Layout, step: Stretch): Told {
  const met = [
    ...stretchesOf(layout)
      .filter((s) => s.leader === step.leader && s.to <= step.from)
      .flatMap((s) => metIn(layout, s)),
    ...metIn(layout, step),
  ];
  return { met, found: readMoves(layout, met, step.leader) };
}

/** What the leader of a step does over all its halts. */
export const toldOf = (layout: Layout, step: Stretch): Told => {
  const { halts } = layout;
  const isHalt = halts[step.index]?.leader === step.leader && halts[step.index]?.at === step.to;
  return (isHalt ? toldBy(layout)[step.leader] : undefined) ?? toldAlone(layout, step);
};

/** What a step leaves of a move that began before it or goes on after it. */
function partly({ move, from, to }: Found, met: readonly Met[], first: number, last: number): Move[] {
  const [a, b] = [Math.max(from, first), Math.min(to, last)];
  const passes = passesBetween(met, a, b);
  if (move.kind === 'turns' && move.what.length === 1 && passes.ways.length > 1) {
    const own = met.slice(a, b).filter((m) => m.part.key === move.what[0]?.key);
    if (own.length > 1)
      return [
        {
          ...move,
          ...passes,
          passes: own.length,
          first: own[0]?.over ? 'over' : 'under',
          before: a > from ? 'turned' : move.before,
        },
      ];
  }
  if (move.kind === 'through' && move.deep === undefined && (a - from) % 2 === 0 && (b - from) % 2 === 0 && b > a)
    return [{ ...move, ...passes, times: (b - a) / 2 }];
  const out: Move[] = [];
  for (let i = a; i < b; i += 1) {
    const { part, over, hidden } = met[i] as Met;
    const before = out.at(-1);
    const one = passesBetween(met, i, i + 1);
    if (before && hidden)
      out[out.length - 1] = {
        ...before,
        crossings: [...before.crossings, ...one.crossings],
        ways: before.ways + one.ways,
      };
    else if (before?.kind === 'pass' && before.over === over && before.what.key === part.key)
      out[out.length - 1] = {
        ...before,
        times: before.times + 1,
        crossings: [...before.crossings, ...one.crossings],
        ways: before.ways + one.ways,
      };
    else out.push({ ...one, kind: 'pass', over, what: part, times: 1, last: i === met.length - 1 });
  }
  return out;
}

export interface LeastFollowed {
  readonly passages: number;
  readonly share: number;
  readonly length: number;
}

/** Fewest passages, least share of the way between them, and least length in diameters, that are a strand followed. */
const FOLLOWED: LeastFollowed = { passages: 3, share: 0.5, length: 8 };

/** What stretches of a layout keep beside, worked out once each. */
const besides = remembered((layout: Layout) => {
  const known = new Map<string, Beside | undefined>();
  return (step: Stretch): Beside | undefined => {
    const key = `${step.index} ${step.from} ${step.to}`;
    if (!known.has(key)) known.set(key, besideOf(layout, step));
    return known.get(key);
  };
});

/** Fewest passages that are its own strand followed the way that goes. */
const OWN = 6;

const meetsBight = (layout: Layout, step: Stretch): boolean =>
  metIn(layout, step).some(({ part }) => part.kind === 'bight');

/** What a stretch follows, if it does. Turns of a rope round the bight of another lie beside each other and follow nothing. */
export function followed(layout: Layout, step: Stretch, passages: number, least: LeastFollowed): Beside | undefined {
  if (passages < least.passages) return undefined;
  const beside = besides(layout)(step);
  if (beside && beside.strand.strand === step.rope && !beside.back && (passages < OWN || meetsBight(layout, step)))
    return undefined;
  return beside && beside.share >= least.share && beside.length >= least.length ? beside : undefined;
}

/** Whether a step only lays its rope, doubled back, on what is a core to it: nothing is tied yet. */
function isDoubledAlong(layout: Layout, step: Stretch, met: readonly Met[]): boolean {
  const rope = ropeOf(layout.figure, step.rope);
  return (
    rope !== undefined &&
    step.from === 0 &&
    met.every((m) => m.over && m.part.kind !== 'host' && isCore(layout.figure, m.place, rope)) &&
    turnsBack(lineBetween(curveOf(rope), step.from, step.to))
  );
}

/** Whether a line doubles back, wherever it leads then. */
const turnsBack = (line: readonly Point[]): boolean => line.some((_, i) => isDoubledBack(line.slice(0, i + 1)));

/** The moves of a step, in order. */
export function movesIn(layout: Layout, step: Stretch): Move[] {
  const other = turnedFor(layout, step);
  if (other) return movesFrom(other, movesIn(other.layout, other.step));
  const { met, found } = toldOf(layout, step);
  const first = met.findIndex((m) => m.at > step.from + 1e-9);
  const past = met.findIndex((m) => m.at > step.to + 1e-9);
  const last = past < 0 ? met.length : past;
  if (first < 0 || first >= last) {
    const rope = ropeOf(layout.figure, step.rope);
    const doubled = rope && isDoubledBack(lineBetween(curveOf(rope), step.from, step.to));
    return [{ kind: doubled === true ? 'bight' : 'lay', crossings: [], ways: '' }];
  }
  if (isDoubledAlong(layout, step, met.slice(first, last)))
    return [{ kind: 'bight', ...passesBetween(met, first, last) }];
  const inStep = found.filter((f) => f.to > first && f.from < last);
  const turned = inStep
    .filter(({ move }) => move.kind === 'turns' || move.kind === 'hitch')
    .reduce((sum, f) => sum + Math.min(f.to, last) - Math.max(f.from, first), 0);
  // One tuck through loops is told as that, whatever else goes through them.
  const tuck = inStep.length === 1 && inStep[0]?.move.kind === 'through' && inStep[0].from === first;
  const beside = tuck ? undefined : followed(layout, step, last - first, FOLLOWED);
  // Turns lie beside each other, all laid the same way, and follow nothing.
  if (beside && (beside.back || 2 * turned <= last - first)) {
    const what = partMet(layout, step, step.to, beside.strand);
    return [{ kind: 'follow', what, beside, ...passesBetween(met, first, last) }];
  }
  return inStep.flatMap((f) => (f.from >= first && f.to <= last ? [f.move] : partly(f, met, first, last)));
}
