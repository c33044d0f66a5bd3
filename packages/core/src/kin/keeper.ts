/**
 * A keeper: the tail goes on and ties an overhand of one or more turns round its own standing part, so that it cannot work back.
 */
import { LIMITS, onBoard } from '../figure/bounds.js';
import { crossingsOf, meetings, passagesOf, weaveFigure, type Meeting } from '../figure/crossings.js';
import { curveOf, directionAt, pointAt } from '../figure/curve.js';
import { lastAt, withRope, ropeOf, type Figure, type Rope } from '../figure/figure.js';
import { add, cross, distance, dot, scale, subtract, type Point } from '../figure/point.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { readMap } from '../topology/planar-map.js';
import { truncate } from '../tying/method.js';
import { barrel, barrelWeave, PITCH } from '../figure/barrel.js';
import type { Remade } from './turns.js';

/** Board between the knot and its keeper, and between the knot and the way of its tail round it, in diameters. */
const CLEAR = 4;

/** The knot with a keeper of n turns in one of its tails round the same rope's standing part. */
export function withKeeper(figure: Figure, id: string, turns: number): Result<Remade> {
  const rope = ropeOf(figure, id);
  if (!rope || rope.closed || rope.ends[0] === 'tail' || rope.ends[1] !== 'tail')
    return refuse(`rope ${id}`, 'It has no tail and standing part of its own.', 'Choose a rope with both.');
  const before = crossingsOf(figure).length;
  // A barrel of n turns: the end meets itself 2n + 2 times in it, and the strand it goes round 2n + 1 times.
  const expected = before + barrelWeave(turns).length - (barrelWeave(turns).length - (2 * turns + 1)) / 2;
  for (const hand of [1, -1] as const)
    for (const way of [1, -1] as const) {
      const made = kept(figure, rope, turns, hand, way);
      if (made && crossingsOf(made.figure).length === expected && readMap(made.figure).ok) return accept(made);
    }
  return refuse(
    `rope ${id}`,
    'Its tail cannot be led beside its standing part without crossing something else.',
    'Draw the tail so that it leaves on the side of its standing part, and try again.',
  );
}

function kept(figure: Figure, rope: Rope, turns: number, hand: 1 | -1, way: 1 | -1): Remade | undefined {
  const start = rope.points[0] as Point;
  const out = scale(directionAt(curveOf(rope), 0), -1);
  const room = turns * PITCH + 26;
  // The standing part goes on beyond where it was drawn to; the keeper lies there.
  const axis = add(start, scale(out, CLEAR + 3));
  const across: Point = scale([-out[1], out[0]], hand);
  const place = ([x, y]: Point): Point => add(axis, add(scale(out, x), scale(across, y + LATERAL)));
  const knot = barrel(turns).map(place);
  const tip = rope.points[lastAt(rope)] as Point;
  const route = routeRound(figure, rope, tip, place([-6, LATERAL]), way);
  if (!route) return undefined;
  const lead: Point[] = [
    add(start, scale(out, room)),
    add(start, scale(out, room * 0.6)),
    add(start, scale(out, room * 0.3)),
  ];
  const points = [...lead, ...rope.points, ...route, ...knot];
  if (points.length > LIMITS.points || !points.every(onBoard)) return undefined;
  const shift = lead.length;
  const { eyes, flips, breaks: _breaks, wraps, ...bare } = rope;
  const laid: Rope = {
    ...bare,
    points,
    weave: '',
    ...(eyes ? { eyes: eyes.map((e) => e + shift) } : {}),
    ...(flips ? { flips: flips.map((f) => f + shift) } : {}),
    ...(wraps ? { wraps: wraps.map((w) => ({ ...w, from: w.from + shift, to: w.to + shift })) } : {}),
  };
  const next: Figure = withRope(figure, rope.id, laid);
  const begins = shift + rope.points.length + route.length;
  const list = meetings(next);
  const letters = barrelWeave(turns);
  const inBarrel = list
    .flatMap((m) =>
      [m.first, m.second].filter((p) => p.strand === rope.id && p.at >= begins - 1).map((p) => ({ m, p })),
    )
    .sort((a, b) => a.p.at - b.p.at);
  if (inBarrel.length !== letters.length) return undefined;
  const over = new Map<Meeting, boolean>();
  for (const [i, { m, p }] of inBarrel.entries()) {
    const firstIsOver = (letters[i] === 'O') === (p === m.first);
    if (over.has(m) && over.get(m) !== firstIsOver) return undefined;
    over.set(m, firstIsOver);
  }
  const known = crossingsOf(figure);
  for (const m of list) {
    if (over.has(m)) continue;
    const was = known.find((c) => distance(c.point, m.point) < 0.2);
    if (!was) return undefined;
    const own = m.first.strand === m.second.strand;
    const earlier = was.first.at < was.second.at ? was.first : was.second;
    over.set(m, own ? (was.over === earlier) === m.first.at < m.second.at : was.over.strand === m.first.strand);
  }
  const end = lastAt(rope);
  return {
    figure: weaveFigure(next, (m) => over.get(m) as boolean),
    mapping: new Map([[rope.id, [{ from: [0, end], to: [shift, end + shift] }]]]),
  };
}

/** The barrel's axis lies so that the strand it goes round is the standing part. */
const LATERAL = 1.15;

/** The way of a tail from its tip round the knot to a place outside it, on one way round. */
function routeRound(figure: Figure, rope: Rope, tip: Point, goal: Point, way: 1 | -1): Point[] | undefined {
  const heart = crossingsOf(figure).map((c) => c.point);
  if (heart.length === 0) return undefined;
  const middle = scale(
    heart.reduce<Point>((sum, p) => add(sum, p), [0, 0]),
    1 / heart.length,
  );
  const all = figure.ropes.flatMap((r) => passagesOf(figure, r.id).map((p) => pointAt(curveOf(r), p.at)));
  const bulk = Math.max(...[...all, ...heart].map((p) => distance(p, middle)));
  const radius = Math.max(bulk + CLEAR, distance(tip, middle) + 1);
  const angle = (p: Point): number => Math.atan2(p[1] - middle[1], p[0] - middle[0]);
  const [from, to] = [angle(tip), angle(goal)];
  const turn = ((((to - from) * way) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
  if (turn > 1.7 * Math.PI) return undefined;
  const steps = Math.max(1, Math.round((turn * radius) / 5));
  const far = distance(goal, middle);
  const points: Point[] = [];
  for (let i = 1; i < steps; i += 1) {
    const part = i / steps;
    const a = from + way * turn * part;
    const r = radius + (Math.max(radius, far) - radius) * Math.max(0, 2 * part - 1);
    points.push(add(middle, [r * Math.cos(a), r * Math.sin(a)]));
  }
  points.push(goal);
  const first = points[0];
  // A tail that would have to turn straight back is left to be drawn by hand.
  const onward = directionAt(curveOf(rope), lastAt(rope));
  return first && dot(subtract(first, tip), onward) < 0 && Math.abs(cross(subtract(first, tip), onward)) < 1
    ? undefined
    : points;
}

/** A keeper in a drawing: the rope that makes it, and where on it the knot ends and the keeper begins. */
export interface Keeper {
  readonly rope: string;
  readonly from: number;
  /** Turns of the overhand that it is; not known when it is something else. */
  readonly turns?: number;
}

/** Fewest passages of a keeper: an overhand round another strand has more, a mere tuck fewer. */
const KEEPER_PASSAGES = 5;

/** Turns of an overhand round another strand by its passages: each turn has six, and three are its own beginning and end. */
function turnsOf(passages: number): number | undefined {
  const turns = (passages - 3) / 6;
  return Number.isInteger(turns) && turns >= 1 ? turns : undefined;
}

/** The keeper of a knot: the end drawn back through its last passages, as far as that leaves the knot that is meant. */
export function keeperIn(figure: Figure, isKnot: (left: Figure) => boolean): Keeper | undefined {
  if (isKnot(figure)) return undefined;
  for (const rope of figure.ropes) {
    if (rope.closed || rope.ends[1] !== 'tail') continue;
    const passages = [...passagesOf(figure, rope.id)].reverse();
    let found: Keeper | undefined;
    for (const [i, p] of passages.entries()) {
      if (i + 1 < KEEPER_PASSAGES) continue;
      const before = passages[i + 1]?.at ?? 0;
      const left = truncate(figure, new Map([[rope.id, { to: (p.at + before) / 2 }]]));
      if (isKnot(left)) {
        const turns = turnsOf(i + 1);
        found = { rope: rope.id, from: before, ...(turns === undefined ? {} : { turns }) };
      } else if (found) break;
    }
    if (found) return found;
  }
  return undefined;
}
