/**
 * Knots laid in doubled rope: a strand out along a single one, and back beside it.
 */
import type { Figure, Point, Rope } from '@foxtrail/core';
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
