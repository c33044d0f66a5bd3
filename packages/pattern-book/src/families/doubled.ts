/**
 * Knots laid in doubled rope: a strand out along a single one, and back beside it.
 */
import {
  atLength,
  curveOf,
  directionAt,
  lengthOf,
  pointAt,
  type Figure,
  type Point,
  type Raised,
  type Rope,
} from '@foxtrail/core';
import { beside, ropeLength, ropesOf, wovenLike, type Laid } from '../lay.js';

/**
 * A knot of one rope doubled to a loop: out along one side of it, round an eye beyond its end, and back along the other side. `lead` is the
 * side of the strand that goes out.
 */
export function asLoop(single: Figure, lead: 'left' | 'right', short = 10): Figure {
  const mirrorLead = lead === 'left';
  const rope = single.ropes[0] as Rope;
  const whole = ropeLength(rope);
  const end = whole - short;
  const side = mirrorLead ? -1.1 : 1.1;
  const out = beside(rope, 0, end, { aside: side, backwards: false });
  const back = beside(rope, 0, end, { aside: -side, backwards: true });
  const [p, q] = [out.at(-1) as Point, back[0] as Point];
  // The eye bulges the way the two strands run.
  const [mx, my] = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
  const [ux, uy] = [(p[0] - q[0]) / 2.2, (p[1] - q[1]) / 2.2];
  // The way the eye points: across the line from one strand to the other.
  const [vx, vy] = mirrorLead ? [uy, -ux] : [-uy, ux];
  const bulge = (along: number, across: number): Point => [
    mx + vx * along + ux * across,
    my + vy * along + uy * across,
  ];
  const eye = [
    bulge(4, 2.4),
    bulge(9, 4.6),
    bulge(14, 3.2),
    bulge(15.6, 0),
    bulge(14, -3.2),
    bulge(9, -4.6),
    bulge(4, -2.4),
  ];
  const laid: Laid = { points: [...out, ...eye, ...back], weave: '', eyes: [out.length + 3] };
  return wovenLike(single, ropesOf([laid]), [], 4.5);
}

/** A knot of one rope made a bend: one rope along one side of it, the other back along its other side; each ends so much short of the whole. */
export function asBend(single: Figure, short = 4): Figure {
  const rope = single.ropes[0] as Rope;
  const whole = ropeLength(rope);
  const [ahead, back] = [
    beside(rope, 0, whole - short, { aside: 1.1, backwards: false }),
    beside(rope, short, whole, { aside: -1.1, backwards: true }),
  ];
  const ropes = ropesOf([
    { points: ahead, weave: '' },
    { points: back, weave: '' },
  ]);
  return wovenLike(single, ropes, []);
}

/** Half of what lies between the middle lines of two strands laid as one, and how close the points of one that follows lie. */
const [HALF, STEP] = [1.05, 1.8];

/** Both legs of a bight that is led along a line: the left one out along it, the right one back, at the heights of the line. */
export function legsAlong(line: readonly Raised[]): readonly [out: readonly Raised[], back: readonly Raised[]] {
  const [rope] = ropesOf([{ points: line.map(([x, y]): Point => [x, y]), weave: '' }]) as [Rope];
  const curve = curveOf(rope);
  const n = Math.round(lengthOf(curve) / STEP);
  const leg = (aside: number): Raised[] =>
    Array.from({ length: n + 1 }, (_, i): Raised => {
      const at = atLength(curve, (lengthOf(curve) * i) / n);
      const [[x, y], [dx, dy]] = [pointAt(curve, at), directionAt(curve, at)];
      const k = Math.min(line.length - 2, Math.floor(at));
      const [p, q] = [line[k]![2], line[k + 1]![2]];
      return [x + dy * aside, y - dx * aside, p + (q - p) * (at - k)];
    });
  return [leg(HALF), leg(-HALF).reverse()];
}
