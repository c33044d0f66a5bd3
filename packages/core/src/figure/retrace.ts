/**
 * Retracing: the working end follows a stretch of its own or another rope at one rope's distance, with the same overs and unders,
 * so that each crossing of the single strand comes out as four of the doubled one.
 */
import { badPoint, edited, LEAST_SPACING, LIMITS, missing, onBoard, strandOf, tooMany, type Edited } from './bounds.js';
import { carry, laterOver, withPoints } from './carry.js';
import { diameterOf } from './cordage.js';
import { crossingsOf, meetings } from './crossings.js';
import { atLength, curveOf, directionAt, lengthTo, pointAt } from './curve.js';
import { ropeOf, type Figure, type Rope, type TrailPosition, type TrailSpan } from './figure.js';
import { workingRope } from './laying.js';
import { likeliest } from './likeness.js';
import { IDENTITY } from './mapping.js';
import { add, distance, scale, type Point } from './point.js';
import { refuse } from './refusal.js';

export interface RetraceEdit {
  readonly kind: 'retrace';
  readonly rope: string;
  /** The stretch that is followed; with `from` above `to` it is followed backwards. */
  readonly along: TrailSpan;
  /** On which side of the followed strand, looking along its own trail. */
  readonly side: 'left' | 'right';
  /** From middle to middle, in diameters. */
  readonly spacing?: number;
}

/** Middle to middle, a strand laid close beside another with a clear line between them. */
export const RETRACE_SPACING = 1.45;
/** Control points along the followed curve: close enough to keep its bends, wide enough to be moved by hand. */
const STEP = 1.6;
/** A follower inside a bend tighter than its distance would fold; such places are left out. */
const FOLD = 0.82;
/** How far along the followed strand a crossing may lie from where the follower meets its like, in diameters. */
const REACH = 4.5;

export function retrace(figure: Figure, edit: RetraceEdit): Edited {
  const rope = workingRope(figure, edit.rope);
  if ('ok' in rope) return rope;
  const followed = strandOf(figure, edit.along.strand);
  if (!followed) return missing(edit.along.strand);
  const spacing = edit.spacing ?? RETRACE_SPACING;
  if (!(spacing >= 1 && spacing <= 6))
    return refuse(
      'retrace',
      `A strand cannot follow at ${spacing} diameters.`,
      'Give a distance from 1 to 6 diameters.',
    );
  const curve = curveOf(followed);
  const [a, b] = [lengthTo(curve, edit.along.from), lengthTo(curve, edit.along.to)];
  if (Math.abs(b - a) < 1)
    return refuse('retrace', 'The stretch to follow is shorter than the rope is thick.', 'Choose a longer stretch.');
  const n = Math.max(2, Math.round(Math.abs(b - a) / STEP));
  // From middle to middle: half of each rope and the line between them.
  const apart = (spacing * (diameterOf(rope) + diameterOf(ropeOf(figure, followed.id) ?? {}))) / 2;
  const aside = edit.side === 'left' ? apart : -apart;
  const points: Point[] = [];
  const origin: number[] = [];
  let last = rope.points.at(-1) as Point;
  for (let i = 0; i <= n; i += 1) {
    const at = atLength(curve, a + ((b - a) * i) / n);
    const [dx, dy] = directionAt(curve, at);
    const p = add(pointAt(curve, at), scale([dy, -dx], aside));
    const stretch = { from: Math.min(edit.along.from, edit.along.to), to: Math.max(edit.along.from, edit.along.to) };
    if (distance(last, p) < LEAST_SPACING || foldsAt(followed as Rope, at, stretch, p, apart)) continue;
    points.push(p);
    origin.push(at);
    last = p;
  }
  if (points.length < 2)
    return refuse(
      'retrace',
      'The stretch bends too sharply to be followed on that side.',
      'Follow it on the other side.',
    );
  if (!points.every(onBoard)) return badPoint(`rope ${rope.id}`);
  const before = rope.points.length;
  if (before + points.length > LIMITS.points) return tooMany(rope.id);
  const next = withPoints(figure, rope.id, [...rope.points, ...points]);
  /** Where on the followed strand a place on the follower has its like; other places are their own. */
  const like = (p: TrailPosition): { place: TrailPosition; follows: boolean } => {
    const t = p.at - before;
    if (p.strand !== rope.id || t < 0) return { place: p, follows: false };
    const i = Math.min(origin.length - 2, Math.floor(t));
    const [x, y] = [origin[i] as number, origin[i + 1] as number];
    return { place: { strand: edit.along.strand, at: x + (t - i) * (y - x) }, follows: true };
  };
  const wanted = expected(figure, followed, edit.along, apart);
  const made = meetings(next).filter((m) => like(m.first).follows || like(m.second).follows).length;
  if (made < wanted.least || made > wanted.most)
    return refuse(
      'retrace',
      'Its bends lie too close to be followed at that distance: not every crossing would come out as four.',
      'Draw the single strand larger, follow it closer, or on the other side.',
    );
  const asThere = likeliest(figure, REACH);
  const later = laterOver(next);
  return edited(
    carry(figure, next, IDENTITY, (m) => {
      const [first, second] = [like(m.first), like(m.second)];
      if (!first.follows && !second.follows) return later(m);
      // A crossing that the followed strand does not have is one of the turn: the later passage is over.
      return asThere(first.place, second.place) ?? later(m);
    }),
  );
}

/**
 * How many crossings a follower makes: one more for each that the followed stretch passes, and one of the follower with itself where
 * it passes both ways. What lies just at the stretch's ends may count or not.
 */
function expected(
  figure: Figure,
  followed: { readonly id: string },
  along: RetraceEdit['along'],
  spacing: number,
): { least: number; most: number } {
  const curve = curveOf(strandOf(figure, followed.id) as Rope);
  const ends = [along.from, along.to].map((at) => lengthTo(curve, at)).sort((x, y) => x - y) as [number, number];
  const certain = (p: TrailPosition, slack: number): boolean => {
    const l = lengthTo(curve, p.at);
    return p.strand === followed.id && l > ends[0] + slack && l < ends[1] - slack;
  };
  const count = (slack: number): number =>
    crossingsOf(figure).reduce((sum, c) => {
      const n = Number(certain(c.first, slack)) + Number(certain(c.second, slack));
      return sum + (n === 2 ? 3 : n);
    }, 0);
  const slack = 2.5 * spacing;
  return { least: count(slack), most: count(-slack) + SPARE };
}

/** Crossings more than the followed strand's that a turn at the end of the stretch may force. */
const SPARE = 2;

/** True when a follower's point has come nearer to another part of the same bend than it keeps from its own place. */
function foldsAt(
  followed: Pick<Rope, 'id' | 'points'> & Rope,
  at: number,
  { from, to }: { readonly from: number; readonly to: number },
  p: Point,
  spacing: number,
): boolean {
  const curve = curveOf(followed);
  const here = lengthTo(curve, at);
  // Only the same bend counts: a strand that passes close by elsewhere is crossed, not folded.
  const near = [-1, -0.75, -0.5, -0.25, 0.25, 0.5, 0.75, 1].map((k) => {
    const place = atLength(curve, here + k * spacing * 1.6);
    return place < from || place > to ? Infinity : distance(pointAt(curve, place), p);
  });
  return Math.min(...near) < FOLD * spacing;
}
