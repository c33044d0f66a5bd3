/**
 * Carrying the weave of a figure over to a changed drawing of it.
 *
 * Survival is followed through small steps of the movement: a crossing is the same one when both its trail positions and its
 * handedness carry over, which is what an isotopy of the drawing preserves.
 */
import { crossingsOf, meetings, weaveFigure, type Meeting } from './crossings.js';
import { hostOf, ropeOf, type Figure, type Letter, type TrailPosition } from './figure.js';
import { overPost } from './hosts.js';
import { IDENTITY, mapPosition, type Mapping } from './mapping.js';
import { between, distance, type Point } from './point.js';

/** A movement is followed in steps of at most this many diameters, so that a crossing cannot jump to a neighbour. */
const STEP = 0.4;
const MOST_STEPS = 64;

/** Farthest a surviving crossing may slide along a strand in one step, in control-point intervals, both strands together. */
const SLIDE = 1.2;

/** Whether the first strand of a new meeting is over. */
export type Decide = (m: Meeting) => boolean;

/** Carries the weave of `old` over to the geometry of `next`; meetings that are new are decided by `decide`. */
export function carry(old: Figure, next: Figure, mapping: Mapping, decide: Decide): Figure {
  const list = meetings(next);
  const period = new Map(next.ropes.filter((r) => r.closed).map((r) => [r.id, r.points.length]));
  const slide = (p: TrailPosition, q: TrailPosition): number => {
    const d = Math.abs(p.at - q.at);
    const n = period.get(p.strand);
    return n === undefined ? d : Math.min(d, n - d);
  };
  const runs = (strand: string): 1 | -1 => ((mapping.get(strand) ?? []).some(({ to }) => to[0] > to[1]) ? -1 : 1);
  const candidates: { was: number; now: number; cost: number; firstIsOver: boolean }[] = [];
  crossingsOf(old).forEach((c, was) => {
    const [a, b] = [mapPosition(mapping, c.first), mapPosition(mapping, c.second)];
    if (!a || !b) return;
    list.forEach((m, now) => {
      const straight =
        m.first.strand === a.strand && m.second.strand === b.strand ? slide(a, m.first) + slide(b, m.second) : Infinity;
      const turned =
        m.first.strand === b.strand && m.second.strand === a.strand ? slide(b, m.first) + slide(a, m.second) : Infinity;
      const cost = Math.min(straight, turned);
      if (cost > SLIDE) return;
      // Naming the passages the other way round turns the handedness, and so does one strand running backwards past another.
      const renamed = turned < straight ? -1 : 1;
      const turns = a.strand === b.strand ? 1 : runs(a.strand) * runs(b.strand);
      if (m.turn !== c.turn * renamed * turns) return;
      const overIsFirst = c.over === c.first;
      candidates.push({ was, now, cost, firstIsOver: straight <= turned ? overIsFirst : !overIsFirst });
    });
  });
  candidates.sort((p, q) => p.cost - q.cost);
  const fate = new Map<number, boolean>();
  const spent = new Set<number>();
  for (const { was, now, firstIsOver } of candidates) {
    if (spent.has(was) || fate.has(now)) continue;
    spent.add(was);
    fate.set(now, firstIsOver);
  }
  return weaveFigure(next, (m, i) => fate.get(i) ?? decide(m));
}

/** The later passage of a self-crossing, the later rope, or a rope before its host, is over; its letter may ask otherwise. */
export const laterOver =
  (figure: Figure, letter: (p: TrailPosition) => Letter = () => 'O'): Decide =>
  (m) => {
    const host = hostOf(figure, m.second.strand);
    if (host?.kind === 'post') return overPost(host, m.second.at);
    const secondIsHost = host !== undefined;
    const later = secondIsHost ? m.first : m.second;
    const over = letter(later) === 'O';
    return later === m.first ? over : !over;
  };

/** New meetings of the strand near an index: the moved stretch is over, or under when asked. */
export const movedOver =
  (figure: Figure, strand: string, index: number, pass: Letter): Decide =>
  (m) => {
    const active = (p: TrailPosition): boolean => p.strand === strand && Math.abs(p.at - index) <= 2;
    const [a, b] = [active(m.first), active(m.second)];
    if (a === b || hostOf(figure, m.second.strand)?.kind === 'post') return laterOver(figure, () => pass)(m);
    return a === (pass === 'O');
  };

/** The figure with other control points for one of its strands; its weave is to be carried over. */
export const withPoints = (figure: Figure, strand: string, points: readonly Point[]): Figure => ({
  ...figure,
  ropes: figure.ropes.map((r) => (r.id === strand ? { ...r, points } : r)),
  hosts: figure.hosts.map((h) => (h.id === strand ? { ...h, points } : h)),
});

/** Moves control points to where they go in small steps, carrying the weave along the way. */
export function glide(figure: Figure, strand: string, target: readonly Point[], decide: (f: Figure) => Decide): Figure {
  const source = pointsOf(figure, strand) as readonly Point[];
  const far = Math.max(0, ...source.map((p, i) => distance(p, target[i] as Point)));
  const steps = Math.min(MOST_STEPS, Math.max(1, Math.ceil(far / STEP)));
  let now = figure;
  for (let s = 1; s <= steps; s += 1) {
    const points = s === steps ? target : source.map((p, i) => between(p, target[i] as Point, s / steps));
    const next = withPoints(now, strand, points);
    now = carry(now, next, IDENTITY, decide(next));
  }
  return now;
}

/** The control points of a rope or host. */
export const pointsOf = (figure: Figure, strand: string): readonly Point[] | undefined =>
  ropeOf(figure, strand)?.points ?? hostOf(figure, strand)?.points;
