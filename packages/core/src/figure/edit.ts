/**
 * Edits: small values that say what to do to a figure. Applying one gives the new figure, the mapping of trail positions and
 * the inverse edit. A crossing that survives an edit keeps its over and under; a new one is laid over (or under, when asked).
 *
 * Survival is followed through small steps of the movement: a crossing is the same one when both its trail positions and its
 * handedness carry over, which is what an isotopy of the drawing preserves.
 */
import { curveOf, nearestOn, pointAt } from './curve.js';
import { meetings, weaveFigure, crossingsOf, type Meeting } from './crossings.js';
import {
  hostOf,
  lastAt,
  ropeOf,
  type Figure,
  type Host,
  type Letter,
  type Rope,
  type TrailPosition,
} from './figure.js';
import { IDENTITY, invertMapping, mapPosition, type Mapping } from './mapping.js';
import { add, between, distance, type Point } from './point.js';
import { accept, refuse, type Refusal, type Result } from './refusal.js';

export type Edit =
  /** Lays the working end on through new points; `pass` has one letter a point for the stretch that leads to it. */
  | { readonly kind: 'lay'; readonly rope: string; readonly points: readonly Point[]; readonly pass: string }
  | {
      readonly kind: 'move-point';
      readonly strand: string;
      readonly index: number;
      readonly to: Point;
      readonly pass?: Letter;
    }
  | { readonly kind: 'insert-point'; readonly strand: string; readonly at: number; readonly point?: Point }
  | { readonly kind: 'remove-point'; readonly strand: string; readonly index: number }
  /** Swaps over and under at the crossing that passes this trail position. */
  | { readonly kind: 'swap'; readonly where: TrailPosition }
  | { readonly kind: 'add-rope'; readonly rope: Omit<Rope, 'weave'>; readonly pass?: string }
  | { readonly kind: 'remove-rope'; readonly rope: string }
  | { readonly kind: 'add-host'; readonly host: Host }
  | { readonly kind: 'move-host'; readonly host: string; readonly by: Point }
  | { readonly kind: 'remove-host'; readonly host: string }
  | { readonly kind: 'reverse'; readonly rope: string }
  | { readonly kind: 'set-ends'; readonly rope: string; readonly ends: Rope['ends'] }
  /** Puts strands back as they were: the inverse of any other edit. */
  | { readonly kind: 'restore'; readonly figure: Figure; readonly mapping: Mapping };

export interface Applied {
  readonly figure: Figure;
  readonly mapping: Mapping;
  readonly inverse: Edit;
}

/** Bounds on a figure, so that every computation ends in a moment. They are named in the refusals. */
export const LIMITS = { strands: 12, points: 2000, crossings: 300, reach: 400 } as const;

/** Control points nearer than this are one point: the curve through them has no direction there. */
export const LEAST_SPACING = 0.05;

/** A movement is followed in steps of at most this many diameters, so that a crossing cannot jump to a neighbour. */
const STEP = 0.4;
const MOST_STEPS = 64;

/** Farthest a surviving crossing may slide along a strand in one step, in control-point intervals, both strands together. */
const SLIDE = 1.2;

const isNumber = (n: number): boolean => Number.isFinite(n) && Math.abs(n) <= LIMITS.reach;

type Decide = (m: Meeting) => boolean;

/** Carries the weave of `old` over to the geometry of `next`; meetings that are new are decided by `decide`. */
function carry(old: Figure, next: Figure, mapping: Mapping, decide: Decide): Figure {
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
const laterOver =
  (figure: Figure, letter: (p: TrailPosition) => Letter = () => 'O'): Decide =>
  (m) => {
    const secondIsHost = hostOf(figure, m.second.strand) !== undefined;
    const later = secondIsHost ? m.first : m.second;
    const over = letter(later) === 'O';
    return later === m.first ? over : !over;
  };

/** New meetings of the strand near an index: the moved stretch is over, or under when asked. */
const movedOver =
  (figure: Figure, strand: string, index: number, pass: Letter): Decide =>
  (m) => {
    const active = (p: TrailPosition): boolean => p.strand === strand && Math.abs(p.at - index) <= 2;
    const [a, b] = [active(m.first), active(m.second)];
    if (a === b) return laterOver(figure, () => pass)(m);
    return a === (pass === 'O');
  };

const withPoints = (figure: Figure, strand: string, points: readonly Point[]): Figure => ({
  ...figure,
  ropes: figure.ropes.map((r) => (r.id === strand ? { ...r, points } : r)),
  hosts: figure.hosts.map((h) => (h.id === strand ? { ...h, points } : h)),
});

/** Moves control points to where they go in small steps, carrying the weave along the way. */
function glide(figure: Figure, strand: string, target: readonly Point[], decide: (f: Figure) => Decide): Figure {
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

const pointsOf = (figure: Figure, strand: string): readonly Point[] | undefined =>
  ropeOf(figure, strand)?.points ?? hostOf(figure, strand)?.points;

const missing = (strand: string): Refusal =>
  refuse(strand, 'There is no such rope or host in the figure.', 'Choose one that is on the board.');

const badPoint = (place: string): Refusal =>
  refuse(
    place,
    `A point must be two numbers within ${LIMITS.reach} diameters of the board's middle.`,
    'Put it back on the board.',
  );

const tooClose = (points: readonly Point[]): boolean =>
  points.some((p, i) => i > 0 && distance(points[i - 1] as Point, p) < LEAST_SPACING);

/** Applies an edit. The figure given is never changed. */
export function applyEdit(figure: Figure, edit: Edit): Result<Applied> {
  const done = (next: Figure, mapping: Mapping = IDENTITY): Result<Applied> => {
    const size = crossingsOf(next).length;
    if (size > LIMITS.crossings)
      return refuse(
        'figure',
        `That makes ${size} crossings; a figure holds ${LIMITS.crossings} at most.`,
        'Split the knot into two figures.',
      );
    return accept({ figure: next, mapping, inverse: { kind: 'restore', figure, mapping: invertMapping(mapping) } });
  };
  switch (edit.kind) {
    case 'lay': {
      const rope = ropeOf(figure, edit.rope);
      if (!rope) return missing(edit.rope);
      if (rope.closed) return refuse(`rope ${rope.id}`, 'A closed sling has no working end.', 'Open it first.');
      if (edit.points.some((p) => !isNumber(p[0]) || !isNumber(p[1]))) return badPoint(`rope ${rope.id}`);
      const fresh: Point[] = [];
      let letters = '';
      edit.points.forEach((p, i) => {
        if (distance(fresh.at(-1) ?? (rope.points.at(-1) as Point), p) < LEAST_SPACING) return;
        fresh.push(p);
        letters += edit.pass[i] === 'U' ? 'U' : 'O';
      });
      if (fresh.length === 0) return refuse(`rope ${rope.id}`, 'The end has not moved.', 'Lay it farther on.');
      const before = rope.points.length;
      if (before + fresh.length > LIMITS.points) return tooMany(rope.id);
      const next = withPoints(figure, rope.id, [...rope.points, ...fresh]);
      const letter = (p: TrailPosition): Letter => (letters[Math.floor(p.at) - before + 1] === 'U' ? 'U' : 'O');
      const laid = (p: TrailPosition): boolean => p.strand === rope.id && p.at > before - 1;
      const decide: Decide = (m) => {
        const [a, b] = [laid(m.first), laid(m.second)];
        if (a === b) return laterOver(next, letter)(m);
        return a === (letter(a ? m.first : m.second) === 'O');
      };
      return done(carry(figure, next, IDENTITY, decide));
    }
    case 'move-point': {
      const points = pointsOf(figure, edit.strand);
      if (!points) return missing(edit.strand);
      if (points[edit.index] === undefined)
        return refuse(
          `${edit.strand}, point ${edit.index}`,
          'There is no such control point.',
          'Choose one of the strand’s points.',
        );
      if (!isNumber(edit.to[0]) || !isNumber(edit.to[1])) return badPoint(`${edit.strand}, point ${edit.index}`);
      const target = points.map((p, i) => (i === edit.index ? edit.to : p));
      if (tooClose(target))
        return refuse(
          `${edit.strand}, point ${edit.index}`,
          'Two control points would lie on each other.',
          'Move it farther off, or remove one of them.',
        );
      return done(glide(figure, edit.strand, target, (f) => movedOver(f, edit.strand, edit.index, edit.pass ?? 'O')));
    }
    case 'insert-point': {
      const strand = ropeOf(figure, edit.strand) ?? hostOf(figure, edit.strand);
      if (!strand) return missing(edit.strand);
      if (strand.points.length >= LIMITS.points) return tooMany(strand.id);
      const k = Math.floor(edit.at);
      const t = edit.at - k;
      const n = curveOf(strand).pieces.length;
      if (!(edit.at > 0 && edit.at < n) || t === 0)
        return refuse(
          `${edit.strand} at ${edit.at}`,
          'A point goes between two others.',
          'Choose a place on the rope between its points.',
        );
      const onCurve = pointAt(curveOf(strand), edit.at);
      const points = [...strand.points.slice(0, k + 1), onCurve, ...strand.points.slice(k + 1)];
      if (tooClose(points))
        return refuse(
          `${edit.strand} at ${edit.at}`,
          'There is a control point there already.',
          'Move that one instead.',
        );
      const mapping: Mapping = new Map([
        [
          strand.id,
          [
            { from: [0, k], to: [0, k] },
            { from: [k, k + t], to: [k, k + 1] },
            { from: [k + t, k + 1], to: [k + 1, k + 2] },
            { from: [k + 1, n], to: [k + 2, n + 1] },
          ],
        ],
      ]);
      const next = withPoints(figure, strand.id, points);
      let woven = carry(figure, next, mapping, movedOver(next, strand.id, k + 1, 'O'));
      if (edit.point) {
        const target = points.map((p, i) => (i === k + 1 ? (edit.point as Point) : p));
        if (tooClose(target))
          return refuse(
            `${edit.strand} at ${edit.at}`,
            'Two control points would lie on each other.',
            'Put it farther off.',
          );
        woven = glide(woven, strand.id, target, (f) => movedOver(f, strand.id, k + 1, 'O'));
      }
      return done(woven, mapping);
    }
    case 'remove-point': {
      const strand = ropeOf(figure, edit.strand) ?? hostOf(figure, edit.strand);
      if (!strand) return missing(edit.strand);
      const i = edit.index;
      const n = strand.points.length;
      if (strand.points[i] === undefined)
        return refuse(
          `${edit.strand}, point ${i}`,
          'There is no such control point.',
          'Choose one of the strand’s points.',
        );
      if (n <= ('closed' in strand && strand.closed ? 3 : 2))
        return refuse(edit.strand, 'A strand needs its last points.', 'Remove the whole strand instead.');
      return done(...removePoint(figure, strand, i));
    }
    case 'swap': {
      const passing = crossingsOf(figure)
        .flatMap((c) =>
          [c.first, c.second].map((p) => ({
            c,
            away: p.strand === edit.where.strand ? Math.abs(p.at - edit.where.at) : Infinity,
          })),
        )
        .sort((p, q) => p.away - q.away)[0];
      if (!passing || passing.away > 0.5)
        return refuse(
          `${edit.where.strand} at ${edit.where.at.toFixed(2)}`,
          'There is no crossing there.',
          'Choose a waymark.',
        );
      const { first, over } = passing.c;
      const list = crossingsOf(figure);
      return done(
        weaveFigure(figure, (m) => {
          const c = list.find((x) => x.first === m.first && x.second === m.second) as (typeof list)[number];
          return c === passing.c ? over !== first : c.over === c.first;
        }),
      );
    }
    case 'add-rope': {
      const { rope } = edit;
      if (pointsOf(figure, rope.id))
        return refuse(rope.id, 'That name is taken by another strand.', 'Give it another.');
      if (figure.ropes.length + figure.hosts.length >= LIMITS.strands)
        return refuse(
          'figure',
          `A figure holds ${LIMITS.strands} ropes and hosts at most.`,
          'Split the knot into two figures.',
        );
      if (
        rope.points.length < 2 ||
        tooClose(rope.points) ||
        rope.points.some((p) => !isNumber(p[0]) || !isNumber(p[1]))
      )
        return badPoint(`rope ${rope.id}`);
      if (rope.points.length > LIMITS.points) return tooMany(rope.id);
      const next = { ...figure, ropes: [...figure.ropes, { ...rope, weave: '' }] };
      const letter = (p: TrailPosition): Letter => (edit.pass?.[Math.floor(p.at)] === 'U' ? 'U' : 'O');
      return done(carry(figure, next, IDENTITY, laterOver(next, letter)));
    }
    case 'remove-rope': {
      if (!ropeOf(figure, edit.rope)) return missing(edit.rope);
      const next = { ...figure, ropes: figure.ropes.filter((r) => r.id !== edit.rope) };
      const mapping: Mapping = new Map([[edit.rope, []]]);
      return done(carry(figure, next, mapping, laterOver(next)), mapping);
    }
    case 'add-host': {
      const { host } = edit;
      if (pointsOf(figure, host.id))
        return refuse(host.id, 'That name is taken by another strand.', 'Give it another.');
      if (figure.ropes.length + figure.hosts.length >= LIMITS.strands)
        return refuse(
          'figure',
          `A figure holds ${LIMITS.strands} ropes and hosts at most.`,
          'Split the knot into two figures.',
        );
      if (
        host.points.length < 2 ||
        tooClose(host.points) ||
        host.points.some((p) => !isNumber(p[0]) || !isNumber(p[1]))
      )
        return badPoint(`host ${host.id}`);
      const next = { ...figure, hosts: [...figure.hosts, host] };
      return done(carry(figure, next, IDENTITY, laterOver(next)));
    }
    case 'move-host': {
      const host = hostOf(figure, edit.host);
      if (!host) return missing(edit.host);
      const target = host.points.map((p) => add(p, edit.by));
      if (target.some((p) => !isNumber(p[0]) || !isNumber(p[1]))) return badPoint(`host ${host.id}`);
      return done(glide(figure, host.id, target, (f) => laterOver(f)));
    }
    case 'remove-host': {
      if (!hostOf(figure, edit.host)) return missing(edit.host);
      const next = { ...figure, hosts: figure.hosts.filter((h) => h.id !== edit.host) };
      const mapping: Mapping = new Map([[edit.host, []]]);
      return done(carry(figure, next, mapping, laterOver(next)), mapping);
    }
    case 'reverse': {
      const rope = ropeOf(figure, edit.rope);
      if (!rope) return missing(edit.rope);
      const n = lastAt(rope);
      const turned: Rope = {
        ...rope,
        points: rope.closed ? [rope.points[0] as Point, ...rope.points.slice(1).reverse()] : [...rope.points].reverse(),
        ends: [rope.ends[1], rope.ends[0]],
        ...(rope.eyes ? { eyes: rope.eyes.map((e) => n - e).reverse() } : {}),
      };
      const mapping: Mapping = new Map([[rope.id, [{ from: [0, n], to: [n, 0] }]]]);
      const next = { ...figure, ropes: figure.ropes.map((r) => (r.id === rope.id ? turned : r)) };
      return done(carry(figure, next, mapping, laterOver(next)), mapping);
    }
    case 'set-ends': {
      if (!ropeOf(figure, edit.rope)) return missing(edit.rope);
      return done({ ...figure, ropes: figure.ropes.map((r) => (r.id === edit.rope ? { ...r, ends: edit.ends } : r)) });
    }
    case 'restore':
      return accept({
        figure: edit.figure,
        mapping: edit.mapping,
        inverse: { kind: 'restore', figure, mapping: invertMapping(edit.mapping) },
      });
  }
}

const tooMany = (id: string): Refusal =>
  refuse(`rope ${id}`, `A rope holds ${LIMITS.points} control points at most.`, 'Draw it with fewer points.');

function removePoint(figure: Figure, strand: Rope | Host, i: number): [Figure, Mapping] {
  const n = lastAt(strand);
  const closed = 'closed' in strand && strand.closed;
  const points = strand.points.filter((_, k) => k !== i);
  const without = withPoints(figure, strand.id, points);
  const decide = (f: Figure): Decide => movedOver(f, strand.id, Math.max(0, i - 1), 'O');
  if (!closed && (i === 0 || i === strand.points.length - 1)) {
    const mapping: Mapping = new Map([
      [strand.id, i === 0 ? [{ from: [1, n], to: [0, n - 1] }] : [{ from: [0, n - 1], to: [0, n - 1] }]],
    ]);
    return [carry(figure, without, mapping, decide(without)), mapping];
  }
  // First slide the point onto the curve that will be left, so that taking it out changes next to nothing.
  const left = (ropeOf(without, strand.id) ?? hostOf(without, strand.id)) as Rope | Host;
  const rest = nearestOn(curveOf(left), strand.points[i] as Point);
  const target = strand.points.map((p, k) => (k === i ? pointAt(curveOf(left), rest.at) : p));
  const slid = tooClose(target) ? figure : glide(figure, strand.id, target, (f) => movedOver(f, strand.id, i, 'O'));
  const low = Math.max(0, i - 1);
  const mapping: Mapping = new Map([
    [
      strand.id,
      [
        { from: [0, low], to: [0, low] },
        { from: [low, i + 1], to: [low, i] },
        { from: [i + 1, n], to: [i, n - 1] },
      ],
    ],
  ]);
  return [carry(slid, without, mapping, decide(without)), mapping];
}
