/**
 * Laying the working end on: new points at the end of a rope, and which of what they cross they pass over.
 */
import {
  badPoint,
  edited,
  LEAST_SPACING,
  LIMITS,
  missing,
  onBoard,
  tooMany,
  type Edited,
  type Pass,
} from './bounds.js';
import { carry, laterOver, withPoints, type Decide } from './carry.js';
import { meetings, type Meeting } from './crossings.js';
import { hostOf, ropeOf, type Figure, type Letter, type Rope, type TrailPosition } from './figure.js';
import { IDENTITY } from './mapping.js';
import { distance, type Point } from './point.js';
import { refuse } from './refusal.js';

/** Lays the working end on through new points; `pass` has one letter a point for the stretch that leads to it. */
export interface LayEdit {
  readonly kind: 'lay';
  readonly rope: string;
  readonly points: readonly Point[];
  readonly pass: string;
}

/** A stretch of a rope that is being laid, and how each place on it passes what it meets. */
export interface LaidStretch {
  readonly rope: string;
  readonly from: number;
  readonly to: number;
  readonly pass: (at: number) => Pass;
  /** How late a place on it is laid; absent: in the order of the trail. Both legs of a bight are laid together, from its base to its apex. */
  readonly laidAt?: (at: number) => number;
}

/** Over for under, and under for over. */
export const opposite = (letter: Letter): Letter => (letter === 'O' ? 'U' : 'O');

/**
 * Decides the crossings of a stretch: over or under as its letters say, the later passage where it crosses itself; woven passages
 * take turns, the first of them opposite to what the rope did last. Crossings elsewhere are decided by `laterOver`.
 */
export function decideStretch(figure: Figure, stretch: LaidStretch): Decide {
  const laid = (p: TrailPosition): boolean =>
    p.strand === stretch.rope && p.at > stretch.from + 1e-9 && p.at <= stretch.to + 1e-9;
  const laidAt = stretch.laidAt ?? ((at: number): number => at);
  const post = (m: Meeting): boolean => hostOf(figure, m.second.strand)?.kind === 'post';
  const passages = meetings(figure)
    .filter((m) => !post(m))
    .flatMap((m) => [
      { m, own: m.first, other: m.second },
      { m, own: m.second, other: m.first },
    ])
    .filter((p) => laid(p.own))
    .sort((p, q) => p.own.at - q.own.at);
  const over = new Map<Meeting, TrailPosition>();
  let last = lastLetter(figure, stretch);
  for (const { m, own, other } of passages) {
    const decided = over.get(m);
    if (decided) {
      last = decided === own ? 'O' : 'U';
      continue;
    }
    const pass = stretch.pass(own.at);
    const letter = pass === 'W' ? opposite(last) : pass;
    // A stretch told to go over lies over itself too: there the later passage has its way.
    if (pass !== 'W' && laid(other) && laidAt(other.at) > laidAt(own.at)) {
      const later = stretch.pass(other.at);
      const laterLetter = later === 'W' ? opposite(letter) : later;
      over.set(m, laterLetter === 'O' ? other : own);
      last = laterLetter === 'O' ? 'U' : 'O';
      continue;
    }
    over.set(m, letter === 'O' ? own : other);
    last = letter;
  }
  const elsewhere = laterOver(figure);
  return (m) => {
    const winner = over.get(m);
    return winner ? winner === m.first : elsewhere(m);
  };
}

/** What the rope did at the last crossing before a stretch; under when there is none, so that a weave begins over. */
function lastLetter(figure: Figure, { rope, from }: LaidStretch): Letter {
  const weave = ropeOf(figure, rope)?.weave ?? '';
  const before = meetings(figure)
    .flatMap((m) => [m.first, m.second])
    .filter((p) => p.strand === rope && p.at <= from).length;
  return weave[Math.min(before, weave.length) - 1] === 'O' ? 'O' : 'U';
}

/** Points that do not lie on the one before them, and their letters. */
export function freshPoints(from: Point, points: readonly Point[], pass: string): { points: Point[]; pass: string } {
  const fresh: Point[] = [];
  let letters = '';
  points.forEach((p, i) => {
    if (distance(fresh.at(-1) ?? from, p) < LEAST_SPACING) return;
    fresh.push(p);
    letters += pass[i] === 'U' || pass[i] === 'W' ? pass[i] : 'O';
  });
  return { points: fresh, pass: letters };
}

/** The rope that is to be laid on, or why it cannot be. */
export function workingRope(figure: Figure, id: string): Rope | Edited {
  const rope = ropeOf(figure, id);
  if (!rope) return missing(id);
  if (rope.closed) return refuse(`rope ${rope.id}`, 'A closed sling has no working end.', 'Open it first.');
  return rope;
}

export function lay(figure: Figure, edit: LayEdit): Edited {
  const rope = workingRope(figure, edit.rope);
  if ('ok' in rope) return rope;
  if (!edit.points.every(onBoard)) return badPoint(`rope ${rope.id}`);
  const fresh = freshPoints(rope.points.at(-1) as Point, edit.points, edit.pass);
  if (fresh.points.length === 0) return refuse(`rope ${rope.id}`, 'The end has not moved.', 'Lay it farther on.');
  const before = rope.points.length;
  if (before + fresh.points.length > LIMITS.points) return tooMany(rope.id);
  const next = withPoints(figure, rope.id, [...rope.points, ...fresh.points]);
  const pass = (at: number): Pass => (fresh.pass[Math.floor(at) - before + 1] as Pass | undefined) ?? 'O';
  const stretch: LaidStretch = { rope: rope.id, from: before - 1, to: Infinity, pass };
  return edited(carry(figure, next, IDENTITY, decideStretch(next, stretch)));
}
