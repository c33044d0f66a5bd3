/**
 * Wraps: turns of the working end round a host, a strand or a bundle of strands, laid as one object whose number, direction and
 * spacing can be changed later; everything laid after it follows.
 *
 * The turns are laid along the axis of what they go round. Each half turn passes straight across it, over and under by turns, and
 * bends back beside it in half an ellipse.
 */
import {
  MOST_TURNS,
  SPACINGS,
  badPoint,
  breadthOf,
  edited,
  LIMITS,
  missing,
  onBoard,
  strandOf,
  tooMany,
  withMarks,
  type Edited,
} from './bounds.js';
import { carry, laterOver, withPoints } from './carry.js';
import { crossingsOf, type Crossing } from './crossings.js';
import { atLength, curveOf, directionAt, lengthOf, lengthTo, pointAt } from './curve.js';
import {
  HOST_SIZE,
  type Host,
  hostOf,
  ropeOf,
  withRope,
  type Figure,
  type Letter,
  type Rope,
  type TrailPosition,
  type Wrap,
} from './figure.js';
import { postMiddle } from './hosts.js';
import { legsAlong, spreadOf } from './bight.js';
import { diameterOf } from './cordage.js';
import { workingRope } from './laying.js';
import { IDENTITY, splice, type Mapping, type SpanMap } from './mapping.js';
import { add, between, distance, dot, scale, subtract, type Point } from './point.js';
import { refuse, type Refusal } from './refusal.js';

export interface WrapEdit {
  readonly kind: 'wrap';
  readonly rope: string;
  /** What it goes round, each at the place where the wrap begins. */
  readonly about: readonly TrailPosition[];
  readonly turns: number;
  readonly direction?: Wrap['direction'];
  readonly first?: Letter;
  readonly spacing?: number;
  readonly riding?: boolean;
}

/** Turns of a bight that has been drawn out, from its apex on. */
export interface WrapBightEdit extends Omit<WrapEdit, 'kind'> {
  readonly kind: 'wrap-bight';
  /** The bight's legs begin and end at these trail positions. */
  readonly from: number;
  readonly to: number;
}

export interface RewrapEdit {
  readonly kind: 'rewrap';
  readonly rope: string;
  /** Which of the rope's wraps, from 0. */
  readonly wrap: number;
  readonly turns?: number;
  readonly direction?: Wrap['direction'];
  readonly first?: Letter;
  readonly spacing?: number;
  readonly riding?: boolean;
}

/** Clear board between the rope and what it goes round, in diameters. */
const CLEAR = 0.35;
/** How far a bend reaches out beside the bundle at most. */
const BEND_REACH = 1.5;
/** How far a riding turn slants back across the turns beneath it, in spacings. */
const SLANT = 1.5;
/** Control points for each half turn: the middle of its passage and three on its bend. */
const POINTS_PER_HALF = 4;

/** The line down the middle of what a wrap goes round: a place and a direction at each length, and half its breadth. */
interface Axis {
  readonly at: (s: number) => { readonly middle: Point; readonly normal: Point; readonly half: number };
}

const breadth = (figure: Figure, strand: string): number => breadthOf(strandOf(figure, strand) as Rope);

function axisOf(figure: Figure, about: readonly TrailPosition[], way: 1 | -1, thick: number): Axis {
  const curves = about.map((p) => curveOf(strandOf(figure, p.strand) as Rope));
  const [first] = curves as [ReturnType<typeof curveOf>];
  const start = lengthTo(first, (about[0] as TrailPosition).at);
  const whole = lengthOf(first);
  // Places on the bundle's other strands are sought near where the wrap begins, not on another part of the same rope.
  const beside = about
    .slice(1)
    .map((p, i) => ({ curve: curves[i + 1] as typeof first, from: p.at, size: breadth(figure, p.strand) }));
  const origins = beside.map((b) => lengthTo(b.curve, b.from));
  return {
    at: (s) => {
      const along = start + way * s;
      const inside = Math.min(whole, Math.max(0, along));
      const place = atLength(first, inside);
      const direction = scale(directionAt(first, place), way);
      // Past the strand's end the axis goes straight on.
      const base = add(pointAt(first, place), scale(directionAt(first, place), along - inside));
      const normal: Point = [direction[1], -direction[0]];
      const mine = breadth(figure, (about[0] as TrailPosition).strand) / 2;
      let [low, high] = [-mine, mine];
      beside.forEach(({ curve, size }, i) => {
        const near = nearAlong(curve, base, origins[i] as number, s);
        const lateral = dot(subtract(near, base), normal);
        low = Math.min(low, lateral - size / 2);
        high = Math.max(high, lateral + size / 2);
      });
      return { middle: add(base, scale(normal, (low + high) / 2)), normal, half: (high - low) / 2 + thick / 2 + CLEAR };
    },
  };
}

/** How much farther than the wrap's own length a neighbour's nearest place is sought, in diameters. */
const SEEK = 3;

function nearAlong(curve: ReturnType<typeof curveOf>, place: Point, origin: number, s: number): Point {
  let best = pointAt(curve, atLength(curve, origin));
  const reach = Math.abs(s) + SEEK;
  for (let l = Math.max(0, origin - reach); l <= Math.min(lengthOf(curve), origin + reach); l += 0.25) {
    const p = pointAt(curve, atLength(curve, l));
    if (distance(p, place) < distance(best, place)) best = p;
  }
  return best;
}

/** Control points of a turn round a post: enough to keep it round. */
const POINTS_PER_TURN = 8;
const LEAST_PITCH = 1.5;

/** Turns round a post seen from its end: a spiral, clockwise when it goes on, each turn outside the one before. */
function spiral(
  post: Host,
  { turns, direction, spacing }: Pick<Wrap, 'turns' | 'direction' | 'spacing'>,
  entry: Point,
  thick: number,
): Point[] {
  const middle = postMiddle(post);
  const start = Math.atan2(entry[1] - middle[1], entry[0] - middle[0]);
  const way = direction === 'on' ? 1 : -1;
  const pitch = Math.max(LEAST_PITCH, spacing) * thick;
  const n = Math.round(turns * POINTS_PER_TURN);
  const inner = (post.size ?? HOST_SIZE) / 2 + thick / 2 + CLEAR;
  return Array.from({ length: n + 1 }, (_, i): Point => {
    const angle = start + way * (0.25 * Math.PI + (2 * Math.PI * i) / POINTS_PER_TURN);
    const radius = inner + (pitch * i) / POINTS_PER_TURN;
    return [middle[0] + radius * Math.cos(angle), middle[1] + radius * Math.sin(angle)];
  });
}

/** The control points of a rope's wrap, entered from a place: its turns lie as far apart as the rope is thick. */
function wrapPoints(figure: Figure, rope: Rope, laid: Omit<Wrap, 'from' | 'to'>, entry: Point): Point[] {
  const thick = diameterOf(rope);
  const wrap = { ...laid, spacing: laid.spacing * thick };
  const post = hostOf(figure, (wrap.about[0] as TrailPosition).strand);
  if (post?.kind === 'post') return spiral(post, laid, entry, thick);
  const axis = axisOf(figure, wrap.about, wrap.direction === 'on' ? 1 : -1, thick);
  const put = (s: number, lateral: number, out = 0): Point => {
    const { middle, normal, half } = axis.at(s);
    return add(middle, scale(normal, lateral * half + Math.sign(lateral) * out));
  };
  const start = axis.at(0);
  const side = dot(subtract(entry, start.middle), start.normal) >= 0 ? 1 : -1;
  const halves = Math.round(wrap.turns * 2);
  const rise = wrap.spacing / 2;
  const reach = Math.min(BEND_REACH, Math.max(0.3, rise / 2));
  // A front passage of riding turns slants back over the turns beneath; the bends carry it on.
  const slant = wrap.riding === true ? -SLANT * wrap.spacing : 0;
  const lean = (k: number): number => ((k % 2 === 0) === (wrap.first === 'O') ? slant : 0);
  const points: Point[] = [put(0, side, 0.8)];
  let s = 0;
  for (let k = 0; k < halves; k += 1) {
    const from = k % 2 === 0 ? side : -side;
    points.push(put(s + lean(k) / 2, from * 1e-9));
    s += lean(k);
    if (k === halves - 1) break;
    const step = wrap.riding === true ? rise + (SLANT * wrap.spacing) / 2 : rise;
    for (const turn of [-1, 0, 1]) {
      const angle = (turn * Math.PI) / 4;
      points.push(put(s + step / 2 + (step / 2) * Math.sin(angle), -from, reach * Math.cos(angle) - 0.1));
    }
    s += step;
  }
  points.push(put(s, halves % 2 === 0 ? side : -side, 0.8));
  return points;
}

/** Which half turn a place on a wrap belongs to; the second leg of a bight goes through them backwards. */
function halfAt(wrap: Pick<Wrap, 'from' | 'to' | 'bight'>, at: number): number {
  const middle = (wrap.from + wrap.to) / 2;
  const along = wrap.bight === true && at > middle ? wrap.from + wrap.to - at : at;
  return Math.max(0, Math.floor((along - wrap.from + 1) / POINTS_PER_HALF));
}

const letterAt = (wrap: Pick<Wrap, 'from' | 'to' | 'first' | 'bight'>, at: number): Letter =>
  (halfAt(wrap, at) % 2 === 0) === (wrap.first === 'O') ? 'O' : 'U';

function unfit(figure: Figure, wrap: Omit<Wrap, 'from' | 'to'>): Refusal | undefined {
  if (wrap.about.length === 0)
    return refuse('wrap', 'It goes round nothing.', 'Choose a host or a strand on the board.');
  for (const p of wrap.about) if (!strandOf(figure, p.strand)) return missing(p.strand);
  if (!(wrap.turns >= 0.5 && wrap.turns <= MOST_TURNS && Number.isInteger(wrap.turns * 2)))
    return refuse(
      'wrap',
      `${wrap.turns} turns cannot be laid.`,
      `Give whole or half turns, from half a turn to ${MOST_TURNS}.`,
    );
  if (!(wrap.spacing >= SPACINGS.least && wrap.spacing <= SPACINGS.most))
    return refuse(
      'wrap',
      `Turns cannot lie ${wrap.spacing} diameters apart.`,
      `Give a spacing from ${SPACINGS.least} to ${SPACINGS.most} diameters.`,
    );
  return undefined;
}

/** True when a place lies on a wrap of a rope; of a bight also the piece that leads back from its turns. */
const onWrap = (rope: string, wrap: Pick<Wrap, 'from' | 'to' | 'bight'>, p: TrailPosition): boolean =>
  p.strand === rope && p.at > wrap.from - 1 && p.at <= wrap.to + (wrap.bight === true ? 1 : 0);

export function wrapEnd(figure: Figure, edit: WrapEdit): Edited {
  const rope = workingRope(figure, edit.rope);
  if ('ok' in rope) return rope;
  const asked: Omit<Wrap, 'from' | 'to'> = {
    about: edit.about,
    turns: edit.turns,
    direction: edit.direction ?? 'on',
    first: edit.first ?? 'O',
    spacing: edit.spacing ?? SPACINGS.usual,
    ...(edit.riding === true ? { riding: true } : {}),
  };
  const refusal = unfit(figure, asked);
  if (refusal) return refusal;
  const points = wrapPoints(figure, rope, asked, rope.points.at(-1) as Point);
  if (!points.every(onBoard)) return badPoint(`rope ${rope.id}`);
  if (rope.points.length + points.length > LIMITS.points) return tooMany(rope.id);
  const from = rope.points.length;
  const wrap: Wrap = { ...asked, from, to: from + points.length - 1 };
  const next = withWraps(withPoints(figure, rope.id, [...rope.points, ...points]), rope.id, [
    ...(rope.wraps ?? []),
    wrap,
  ]);
  return edited(carry(figure, next, IDENTITY, decideWrap(next, rope.id, wrap)));
}

/** Least spacing of a bight's turns, in diameters: two ropes and the gaps beside them. */
const BIGHT_SPACING = 7;

/** The control points of a bight's turns: out along the one leg, round the apex, and back along the other. */
function bightPoints(figure: Figure, rope: Rope, wrap: Omit<Wrap, 'from' | 'to'>, out: Point, back: Point): Point[] {
  const path = wrapPoints(figure, rope, wrap, between(out, back, 0.5));
  return legsAlong(path, out, spreadOf(rope));
}

/** The control point at a bight's apex: where the points before and after it lie side by side, at the legs' own distance. */
function apexPoint(rope: Rope, from: number, to: number): number {
  let [best, least] = [Math.round((from + to) / 2), Infinity];
  for (let i = Math.ceil(from) + 1; i < to; i += 1) {
    const beside = [1, 2, 3].flatMap((k) => {
      const [p, q] = [rope.points[i - k], rope.points[i + k]];
      return p && q && i - k >= from - 1 && i + k <= to + 1 ? [Math.abs(distance(p, q) - spreadOf(rope))] : [];
    });
    const off = beside.reduce((sum, d) => sum + d, 0) / Math.max(1, beside.length);
    if (off < least) [best, least] = [i, off];
  }
  return best;
}

export function wrapBight(figure: Figure, edit: WrapBightEdit): Edited {
  const rope = ropeOf(figure, edit.rope);
  if (!rope) return missing(edit.rope);
  const apex = apexPoint(rope, edit.from, edit.to);
  const [out, back] = [rope.points[apex - 1], rope.points[apex + 1]];
  if (rope.closed || !out || !back || !(edit.to > edit.from) || edit.to > rope.points.length - 1)
    return refuse(`rope ${rope.id}`, 'There is no bight there.', 'Draw a bight out first; then it can be wrapped.');
  const asked: Omit<Wrap, 'from' | 'to'> = {
    about: edit.about.filter((p) => p.strand !== rope.id),
    turns: edit.turns,
    direction: edit.direction ?? 'on',
    first: edit.first ?? 'O',
    spacing: Math.max(BIGHT_SPACING, edit.spacing ?? BIGHT_SPACING),
    bight: true,
  };
  const refusal = unfit(figure, asked);
  if (refusal) return refusal;
  const fresh = bightPoints(figure, rope, asked, out, back);
  const points = [...rope.points.slice(0, apex), ...fresh, ...rope.points.slice(apex + 1)];
  return laidAnew(figure, rope, { ...asked, from: apex, to: apex }, points, fresh.length);
}

/** The figure with a span of a rope, the turns of a bight, laid anew: the rest of the rope stays where it is. */
function laidAnew(figure: Figure, rope: Rope, old: Wrap, points: Point[], length: number, tucked?: Wrap): Edited {
  if (!points.every(onBoard)) return badPoint(`rope ${rope.id}`);
  if (points.length > LIMITS.points) return tooMany(rope.id);
  const to = old.from + length - 1;
  const last = rope.points.length - 1;
  const mapping = splice(rope.id, last, old.from - 1, old.to - old.from + 2, to - old.from + 2);
  const wrap: Wrap = { ...old, to };
  const others = (rope.wraps ?? []).filter((w) => w.from !== old.from || w.to !== old.to);
  const moved = withMarks(withPoints(withWraps(figure, rope.id, others), rope.id, points), mapping);
  const next = withWraps(moved, rope.id, [...(ropeOf(moved, rope.id)?.wraps ?? []), wrap]);
  const kept = withoutSpans(mapping, rope.id, old.from - 1, old.to + 1);
  const tucks = tucked ? habits(figure, rope.id, tucked) : undefined;
  return edited(carry(figure, next, kept, decideWrap(next, rope.id, wrap, tucks)), mapping);
}

/** A mapping in which what lies between two places of a strand is gone. */
const withoutSpans = (mapping: Mapping, strand: string, from: number, to: number): Mapping =>
  new Map([
    [
      strand,
      (mapping.get(strand) ?? []).flatMap((s): SpanMap[] =>
        s.from[1] <= from || s.from[0] >= to
          ? [s]
          : s.from[0] < from
            ? [{ from: [s.from[0], from], to: [s.to[0], s.to[0] + from - s.from[0]] }]
            : [],
      ),
    ],
  ]);

const withWraps = (figure: Figure, rope: string, wraps: readonly Wrap[]): Figure => withRope(figure, rope, { wraps });

/**
 * A wrap's front half turns are over what they go round and its back ones under. What comes later passes the turns as it did
 * (`tucked`) where that is known, and lies over them where it is not.
 */
function decideWrap(next: Figure, rope: string, wrap: Wrap, tucked?: ReadonlyMap<string, boolean>) {
  const later = laterOver(next);
  // Turns round a post are laid flat: what comes later lies over, and the post decides for itself.
  const flat = hostOf(next, (wrap.about[0] as TrailPosition).strand)?.kind === 'post';
  return (
    m: { readonly first: TrailPosition; readonly second: TrailPosition } & Parameters<typeof later>[0],
  ): boolean => {
    const [a, b] = [onWrap(rope, wrap, m.first), onWrap(rope, wrap, m.second)];
    if (a === b || flat) return later(m);
    const [own, other] = a ? [m.first, m.second] : [m.second, m.first];
    const letter = letterAt(wrap, own.at);
    const known = tucked?.get(groupOf(rope, wrap, letter, other));
    if (known !== undefined) return a === known;
    if (other.strand === rope && other.at > wrap.to) return later(m);
    return a === (letter === 'O');
  };
}

/** Strands that pass a wrap alike: by rope (before or after the wrap on its own), and by front or back of the turns. */
const groupOf = (rope: string, wrap: Pick<Wrap, 'to'>, letter: Letter, other: TrailPosition): string =>
  `${letter} ${other.strand} ${other.strand === rope && other.at > wrap.to ? 'after' : 'before'}`;

/** Whether the turns are mostly over each group of what they meet. */
function habits(figure: Figure, rope: string, wrap: Wrap): Map<string, boolean> {
  const votes = new Map<string, number>();
  const vote = (c: Crossing, own: TrailPosition, other: TrailPosition): void => {
    if (!onWrap(rope, wrap, own) || onWrap(rope, wrap, other)) return;
    const group = groupOf(rope, wrap, letterAt(wrap, own.at), other);
    votes.set(group, (votes.get(group) ?? 0) + (c.over === own ? 1 : -1));
  };
  for (const c of crossingsOf(figure)) {
    vote(c, c.first, c.second);
    vote(c, c.second, c.first);
  }
  return new Map([...votes].filter(([, n]) => n !== 0).map(([group, n]) => [group, n > 0]));
}

/** Lays a wrap anew with another number, direction or spacing; what was laid after it moves as its end does. */
export function rewrap(figure: Figure, edit: RewrapEdit): Edited {
  const rope = ropeOf(figure, edit.rope);
  if (!rope) return missing(edit.rope);
  const old = rope.wraps?.[edit.wrap];
  if (!old) return refuse(`rope ${rope.id}`, 'There is no such wrap on it.', 'Choose turns that were laid as a wrap.');
  const asked: Wrap = {
    ...old,
    turns: edit.turns ?? old.turns,
    direction: edit.direction ?? old.direction,
    first: edit.first ?? old.first,
    spacing: edit.spacing ?? old.spacing,
  };
  const wanted: Wrap = edit.riding === undefined ? asked : { ...asked, riding: edit.riding };
  const refusal = unfit(figure, wanted);
  if (refusal) return refusal;
  if (wanted.bight === true) return rewrapBight(figure, rope, old, wanted);
  const fresh = wrapPoints(figure, rope, wanted, rope.points[old.from - 1] as Point);
  const shift = subtract(fresh.at(-1) as Point, rope.points[old.to] as Point);
  const after = rope.points.slice(old.to + 1).map((p) => add(p, shift));
  const points = [...rope.points.slice(0, old.from), ...fresh, ...after];
  if (!points.every(onBoard)) return badPoint(`rope ${rope.id}`);
  if (points.length > LIMITS.points) return tooMany(rope.id);
  const to = old.from + fresh.length - 1;
  const last = rope.points.length - 1;
  const mapping = splice(rope.id, last, old.from, old.to - old.from, to - old.from);
  const wrap: Wrap = { ...wanted, to };
  const moved = withMarks(withPoints(figure, rope.id, points), mapping);
  const wraps = (ropeOf(moved, rope.id)?.wraps ?? []).map((w) =>
    w.from === old.from ? { ...wrap, about: w.about } : w,
  );
  const next = withWraps(moved, rope.id, wraps);
  // The turns are laid anew: none of their crossings is an old one. What goes through them goes through them still.
  const kept = withoutSpans(mapping, rope.id, old.from - 1, old.to);
  return edited(carry(figure, next, kept, decideWrap(next, rope.id, wrap, habits(figure, rope.id, old))), mapping);
}

/** The turns of a bight laid anew from where its legs lead to them. */
function rewrapBight(figure: Figure, rope: Rope, old: Wrap, wanted: Wrap): Edited {
  const [out, back] = [rope.points[old.from - 1], rope.points[old.to + 1]];
  if (!out || !back) return refuse(`rope ${rope.id}`, 'There is no bight there.', 'Draw a bight out first.');
  const spaced: Wrap = { ...wanted, spacing: Math.max(BIGHT_SPACING, wanted.spacing) };
  const fresh = bightPoints(figure, rope, spaced, out, back);
  const points = [...rope.points.slice(0, old.from), ...fresh, ...rope.points.slice(old.to + 1)];
  return laidAnew(figure, rope, { ...spaced, from: old.from, to: old.to }, points, fresh.length, old);
}
