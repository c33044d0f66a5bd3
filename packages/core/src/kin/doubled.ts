/**
 * The doubled forms of a knot in one rope: tied with a bight, so that an eye stays at its end; or followed back by a second rope, so that
 * two ropes are joined. Both strands run side by side all the way.
 */
import { LIMITS } from '../figure/bounds.js';
import { crossingsOf } from '../figure/crossings.js';
import { atLength, curveOf, lengthOf } from '../figure/curve.js';
import { freshId, lastAt, type Figure, type Rope } from '../figure/figure.js';
import type { Mapping } from '../figure/mapping.js';
import { add, between, scale, subtract, unit, type Point } from '../figure/point.js';
import { accept, refuse, type Refusal, type Result } from '../figure/refusal.js';
import { readMap } from '../topology/planar-map.js';
import { besidePlace, enlarged, LANE, laneBeside, SIZES, wovenAlike, type Lane } from './lanes.js';
import type { Remade } from './turns.js';

/** What a doubled knot is made of: one rope with an eye, or two ropes. */
export type DoubledAs = 'loop' | 'bend';

/** Rope left out at the tail end, where the eye begins or the second rope comes in, in diameters of the single knot. */
const SHORT = 3;

const notOne = (): Refusal =>
  refuse(
    'figure',
    'Only a knot in one open rope can be doubled as a whole.',
    'Choose a knot tied in one rope, without a loop that stays.',
  );

/**
 * A knot in one rope, doubled. The first strand keeps the trail of the single one; the other comes back beside it. Crossings become four
 * each.
 */
export function doubled(figure: Figure, as: DoubledAs): Result<Remade> {
  const [rope, second] = figure.ropes;
  if (!rope || second || rope.closed || (rope.eyes ?? []).length > 0) return notOne();
  const expected = crossingsOf(figure).reduce((sum, c) => sum + (c.first.strand === c.second.strand ? 4 : 2), 0);
  for (const k of SIZES) {
    const made = doubledAt(enlarged(figure, k), as);
    if (made && crossingsOf(made.figure).length === expected && readMap(made.figure).ok) return accept(made);
  }
  return refuse(
    `rope ${rope.id}`,
    'Its bends lie too close to be doubled: not every crossing would come out as four.',
    'Tidy the figure, or draw it more openly, and try again.',
  );
}

function doubledAt(figure: Figure, as: DoubledAs): Remade | undefined {
  const rope = figure.ropes[0] as Rope;
  const curve = curveOf(rope);
  const end = lengthOf(curve);
  const last = atLength(curve, end - SHORT);
  const aside = LANE / 2;
  const [left, right] = [laneBeside(rope, 0, last, () => aside), laneBeside(rope, 0, last, () => -aside)];
  const backward: Lane = { points: [...right.points].reverse(), origin: [...right.origin].reverse() };
  const { wraps: _wraps, flips: _flips, breaks: _breaks, eyes: _eyes, ...bare } = rope;
  const count = left.points.length;
  const toLane = (lane: Lane, length: number): Mapping =>
    new Map([
      [
        rope.id,
        lane.origin
          .slice(1)
          .flatMap((at, i) => {
            const from = lane.origin[i] as number;
            return at > from ? [{ from: [from, at] as const, to: [i, i + 1] as const }] : [];
          })
          .concat([{ from: [lane.origin.at(-1) as number, lastAt(rope)], to: [lane.points.length - 1, length] }]),
      ],
    ]);
  if (as === 'bend') {
    const other = freshId(figure);
    const pair: Rope[] = [
      { ...bare, points: left.points, weave: '', ends: ['standing', 'tail'] },
      { ...bare, id: other, points: backward.points, weave: '', ends: ['standing', 'tail'] },
    ];
    if (pair.some((r) => r.points.length > LIMITS.points)) return undefined;
    const next = wovenAlike(figure, { ...figure, ropes: pair }, (p) =>
      p.strand === rope.id
        ? { strand: rope.id, at: besidePlace(left, p.at) }
        : p.strand === other
          ? { strand: rope.id, at: besidePlace(backward, p.at) }
          : p,
    );
    return next && { figure: next, mapping: toLane(left, count - 1) };
  }
  const eye = eyeBetween(left.points, backward.points);
  const points = [...left.points, ...eye, ...backward.points];
  if (points.length > LIMITS.points) return undefined;
  const laid: Rope = { ...bare, points, weave: '', ends: ['standing', 'tail'], eyes: [count + (eye.length - 1) / 2] };
  const after = count + eye.length;
  const next = wovenAlike(figure, { ...figure, ropes: [laid] }, (p) =>
    p.strand === rope.id
      ? {
          strand: rope.id,
          at: p.at <= count - 1 ? besidePlace(left, p.at) : p.at >= after ? besidePlace(backward, p.at - after) : last,
        }
      : p,
  );
  return next && { figure: next, mapping: toLane(left, count + (eye.length - 1) / 2) };
}

/** The eye that joins two strands at their ends: a drop-shaped loop on the way they run. */
function eyeBetween(out: readonly Point[], back: readonly Point[]): Point[] {
  const [p, q] = [out.at(-1) as Point, back[0] as Point];
  const way = unit(subtract(p, out.at(-2) as Point));
  const middle = between(p, q, 0.5);
  const side = unit(subtract(p, q));
  const at = (along: number, across: number): Point => add(add(middle, scale(way, along)), scale(side, across));
  return [at(4, 2.4), at(9, 4.6), at(14, 3.2), at(15.6, 0), at(14, -3.2), at(9, -4.6), at(4, -2.4)];
}
