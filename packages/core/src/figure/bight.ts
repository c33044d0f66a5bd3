/**
 * Bights: a part of a rope drawn out and laid with both its legs at once, and the end pulled through after it.
 */
import {
  badPoint,
  edited,
  LIMITS,
  missing,
  onBoard,
  tooClose,
  tooMany,
  withMarks,
  type Edited,
  type Pass,
} from './bounds.js';
import { carry, withPoints } from './carry.js';
import { diameterOf, type OfCordage } from './cordage.js';
import { passagesOf } from './crossings.js';
import { atLength, curveOf, directionAt, lengthOf, lengthTo, pointAt } from './curve.js';
import { freshId, lastAt, ropeOf, type Figure, type Letter, type Rope } from './figure.js';
import { decideStretch, type LaidStretch } from './laying.js';
import { IDENTITY, through, type Mapping } from './mapping.js';
import { add, distance, dot, scale, subtract, unit, type Point } from './point.js';
import { refuse } from './refusal.js';

export interface BightEdit {
  readonly kind: 'bight';
  readonly rope: string;
  /** Where on the rope the bight is drawn out. */
  readonly at: number;
  /** The way its apex goes, from near the rope on; `pass` has one letter a point, for both legs. */
  readonly points: readonly Point[];
  readonly pass: string;
}

/** The end follows the bight on a rope between two trail positions: the second leg is drawn out through it. */
export interface PullThroughEdit {
  readonly kind: 'pull-through';
  readonly rope: string;
  readonly from: number;
  readonly to: number;
}

/** Between the legs of a bight, from middle to middle, in diameters. */
export const BIGHT_SPREAD = 1.7;
/** The same of a rope, in the figure's unit. */
export const spreadOf = (rope: OfCordage): number => BIGHT_SPREAD * diameterOf(rope);

/** Points left and right of a path, and the round end between them. */
function legsOf(path: readonly Point[], spread: number): { out: Point[]; apex: Point; back: Point[] } {
  const directions = path.map((_, i) =>
    unit(subtract(path[Math.min(path.length - 1, i + 1)] as Point, path[Math.max(0, i - 1)] as Point)),
  );
  const aside = (i: number, by: number): Point => {
    const d = directions[i] as Point;
    return add(path[i] as Point, scale([d[1], -d[0]], by));
  };
  const n = path.length - 1;
  const inner = path.map((_, i) => i).slice(1);
  return {
    out: inner.map((i) => aside(i, spread / 2)),
    apex: add(path[n] as Point, scale(directions[n] as Point, Math.abs(spread) / 2)),
    back: inner.map((i) => aside(i, -spread / 2)).reverse(),
  };
}

/** Control points of both legs of a bight along the way of its middle, the leg nearer to a place first. */
export function legsAlong(path: readonly Point[], near: Point, spread: number): Point[] {
  const widened = (by: number): Point[] => {
    const { out, apex, back } = legsOf([path[0] as Point, ...path], by);
    return [...out, apex, ...back];
  };
  const [a, b] = [widened(spread), widened(-spread)];
  return distance(a[0] as Point, near) <= distance(b[0] as Point, near) ? a : b;
}

export function bight(figure: Figure, edit: BightEdit): Edited {
  const rope = ropeOf(figure, edit.rope);
  if (!rope) return missing(edit.rope);
  const n = rope.closed ? rope.points.length : lastAt(rope);
  const place = `${rope.id} at ${edit.at.toFixed(2)}`;
  if (!(edit.at > 0 && edit.at < n))
    return refuse(place, 'A bight is drawn out of the rope between its ends.', 'Choose a place on the rope.');
  if (!edit.points.every(onBoard)) return badPoint(place);
  const curve = curveOf(rope);
  const base = pointAt(curve, edit.at);
  const path = [base, ...edit.points].filter((p, i, all) => i === 0 || distance(all[i - 1] as Point, p) > 0.3);
  if (path.length < 2) return refuse(place, 'The bight has not been drawn out.', 'Draw it farther.');
  const spread = spreadOf(rope);
  // The leg that comes first along the trail lies on the side the rope comes from.
  const start = unit(subtract(path[1] as Point, base));
  const along = directionAt(curve, edit.at);
  const first = dot([start[1], -start[0]], along) <= 0 ? spread : -spread;
  const { out, apex, back } = legsOf(path, first);
  // The rope turns into the legs: the points of the rope next to them give way.
  const k = Math.floor(edit.at);
  const here = lengthTo(curve, edit.at);
  const clear = spread * 0.9;
  const keepBefore = rope.points.findIndex((_, i) => i > k || lengthTo(curve, i) > here - clear);
  const before = Math.max(1, keepBefore < 0 ? k + 1 : keepBefore);
  let after = k + 1;
  while (after < rope.points.length - 1 && lengthTo(curve, after) < here + clear) after += 1;
  const tail = rope.points.slice(after);
  const legs = [...out, apex, ...back];
  const points = [...rope.points.slice(0, before), ...legs, ...tail];
  if (points.length > LIMITS.points) return tooMany(rope.id);
  if (tooClose(points)) return refuse(place, 'The legs would lie on the rope.', 'Draw the bight out a little farther.');
  const last = before + legs.length - 1;
  const shift = points.length - rope.points.length;
  const mapping = through(
    rope.id,
    [0, 0],
    [before - 1, before - 1],
    [edit.at, before],
    [edit.at, last],
    [after, after + shift],
    [n, n + shift],
  );
  const next = withMarks(withPoints(figure, rope.id, points), mapping);
  const letters = path.slice(1).map((_, i): Pass => {
    const asked = edit.pass[i];
    return asked === 'U' || asked === 'W' ? asked : 'O';
  });
  const woven = letters.includes('W') ? wovenWay(figure, path, letters) : undefined;
  const pass = (at: number): Pass => {
    const i = Math.floor(at) - before + 1;
    // Out along the path, and back along it: the piece between two points of a leg has the letter of the farther one.
    const piece = i < out.length ? i : Math.min(letters.length - 1, legs.length - i);
    return letters[piece] === 'W' ? (woven?.(Math.min(at - before, last - at) + 1) ?? 'O') : (letters[piece] ?? 'O');
  };
  // Where the bight crosses its own way, the part nearer to its apex was laid later, on either leg.
  const laidAt = (at: number): number => Math.min(at - before, last - at);
  const stretch: LaidStretch = { rope: rope.id, from: before - 1, to: last + 1, pass, laidAt };
  return edited(carry(figure, next, mapping, decideStretch(next, stretch)), mapping);
}

/** A way begins this far from the rope that it is drawn out of, in diameters: it does not cross it there. */
const CLEAR_OF_BASE = 0.6;

/** How the middle of a bight passes what it meets, at a place on its way: the way woven as one rope, so that both legs pass alike. */
function wovenWay(figure: Figure, path: readonly Point[], letters: readonly Pass[]): (at: number) => Letter {
  const id = freshId(figure, 'way');
  const [base, second] = path as readonly [Point, Point];
  const begins = add(base, scale(unit(subtract(second, base)), Math.min(CLEAR_OF_BASE, distance(base, second) / 2)));
  const way: Rope = {
    id,
    points: [begins, ...path.slice(1)],
    curve: 'smooth',
    closed: false,
    ends: ['off', 'off'],
    weave: '',
  };
  const beside: Figure = { ...figure, ropes: [...figure.ropes, way] };
  const stretch: LaidStretch = { rope: id, from: -1, to: Infinity, pass: (at) => letters[Math.floor(at)] ?? 'O' };
  const passages = passagesOf(carry(figure, beside, IDENTITY, decideStretch(beside, stretch)), id);
  return (at) => {
    const nearest = passages.reduce<(typeof passages)[number] | undefined>(
      (best, p) => (best && Math.abs(best.at - at) <= Math.abs(p.at - at) ? best : p),
      undefined,
    );
    return nearest?.over === false ? 'U' : 'O';
  };
}

/** Where the legs of a bight just laid at a place begin and end on the new trail. */
export function legsAfter(mapping: Mapping, rope: string): { from: number; to: number } | undefined {
  const spans = mapping.get(rope) ?? [];
  // The place where it was laid is where the trail was cut open: what lay together there lies apart now.
  const cut = spans.findIndex(
    (s, i) => i > 0 && spans[i - 1]?.from[1] === s.from[0] && spans[i - 1]?.to[1] !== s.to[0],
  );
  const [lead, follow] = [spans[cut - 1], spans[cut]];
  return lead && follow ? { from: lead.to[0], to: follow.to[1] } : undefined;
}

/** The end is drawn out through its bight: what was the second leg, and the tail after it, lies straight on from the apex. */
export function pullThrough(figure: Figure, edit: PullThroughEdit): Edited {
  const rope = ropeOf(figure, edit.rope);
  if (!rope) return missing(edit.rope);
  if (rope.closed) return refuse(`rope ${rope.id}`, 'A closed sling has no end to pull through.', 'Open it first.');
  const n = lastAt(rope);
  if (!(edit.from >= 0 && edit.to > edit.from && edit.to <= n))
    return refuse(`rope ${rope.id}`, 'There is no bight there.', 'Choose a bight laid at the tail.');
  const curve = curveOf(rope);
  const along = (at: number): number => lengthTo(curve, at);
  const middle = (along(edit.from) + along(edit.to)) / 2;
  // What one leg passes the other passes too: the apex lies between the two halves of what is passed.
  const passed = passagesOf(figure, rope.id).filter((p) => p.at > edit.from && p.at < edit.to);
  const [last, first] = [passed[passed.length / 2 - 1], passed[passed.length / 2]];
  const isBetween = !last || !first || (along(last.at) < middle && middle < along(first.at));
  const apex = isBetween ? middle : (along(last.at) + along(first.at)) / 2;
  // The apex itself bends back; the leg is straight just before it, wherever its control points lie.
  const straight = apex - spreadOf(rope);
  const leaves = atLength(curve, last ? Math.max(straight, (along(last.at) + apex) / 2) : straight);
  const tip = pointAt(curve, leaves);
  let before = Math.max(0, Math.ceil(leaves) - 1);
  while (before > 0 && distance(rope.points[before] as Point, tip) < CLEAR_OF_TIP) before -= 1;
  const direction = directionAt(curve, leaves);
  const rest = Math.min(MOST_TAIL, lengthOf(curve) - apex);
  const onward = [0, 0.5, 1].map((share) => add(tip, scale(direction, share * rest)));
  const points = [...rope.points.slice(0, before + 1), ...onward];
  if (!points.every(onBoard)) return badPoint(`rope ${rope.id}`);
  const keep = before + 1;
  const mapping = through(rope.id, [0, 0], [before, before], [leaves, keep]);
  const next = withMarks(withPoints(figure, rope.id, points), mapping);
  const pass = (): Pass => 'O';
  return edited(
    carry(figure, next, mapping, decideStretch(next, { rope: rope.id, from: keep, to: Infinity, pass })),
    mapping,
  );
}

/** Control points nearer to where the new tail begins give way to it, in diameters. */
const CLEAR_OF_TIP = 0.3;

/** The tail left when an end is pulled through, in diameters: no more than the board has room for. */
const MOST_TAIL = 14;
