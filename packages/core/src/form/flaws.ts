/**
 * What is not dressed on a set form: crossings that the drawing does not ask for, and strands that lie on the wrong side of their
 * neighbour. Each with the stretches of the trail that show it.
 */
import { crossingsOf, type Crossing } from '../figure/crossings.js';
import { curveOf, directionAt, lengthTo, pointAt } from '../figure/curve.js';
import { ropeOf, type Figure, type TrailPosition, type TrailSpan } from '../figure/figure.js';
import type { Point } from '../figure/point.js';
import { beadNearest, onChain, placeOf, type Chain, type Form } from './form.js';
import { marksSeen, type SeenParallel } from './measure.js';
import { figureSeen } from './proof.js';
import { seenBy, sightOf, STATIONS, type Sight } from './sight.js';
import { less } from './vector.js';

/** A crossing seen from the front that is none of the drawing's. */
export interface NeedlessCrossing {
  readonly kind: 'needless crossing';
  readonly over: TrailPosition;
  readonly under: TrailPosition;
}

/** Two strands side by side that lie the other way round than they are drawn. */
export interface WrongSide {
  readonly kind: 'wrong side';
  readonly a: TrailSpan;
  readonly b: TrailSpan;
}
export type Flaw = NeedlessCrossing | WrongSide;

/** Strands are drawn side by side where they are no farther apart than this, in diameters, and about parallel. */
const DRAWN_BESIDE = { apart: 1.9, cosine: 0.9 } as const;
/** Strands that are seen nearly side by side do not cross: the least sine of the angle between them. */
const ACROSS = 0.5;

/** The trail position at a place of what is seen of a chain: its points are beads. */
function onDrawn(form: Form, { strand, at }: TrailPosition): TrailPosition | undefined {
  const chain = form.chains.find((c) => c.rope === strand);
  if (!chain) return undefined;
  const i = Math.floor(at);
  const [from, to] = [chain.at[i], chain.at[onChain(chain, i + 1) ?? i]];
  return from === undefined || to === undefined
    ? undefined
    : { strand, at: to < from ? from : from + (at - i) * (to - from) };
}

interface Met {
  readonly over: TrailPosition;
  readonly under: TrailPosition;
}

/** How far apart two crossings are along both their strands, in diameters; nothing where other strands meet. */
function apart(figure: Figure, a: Met, b: Met): number {
  const between = (p: TrailPosition, q: TrailPosition): number => {
    const rope = ropeOf(figure, p.strand);
    if (p.strand !== q.strand || !rope) return Infinity;
    const curve = curveOf(rope);
    return Math.abs(lengthTo(curve, p.at) - lengthTo(curve, q.at));
  };
  return between(a.over, b.over) + between(a.under, b.under);
}

/** A crossing that is gone when one looks a little from the side is none that is laid: looked at from so far round, in radians. */
const A_LITTLE = [0, -0.2, 0.2, -0.4, 0.4];

/** Crossings between ropes that no crossing of the drawing answers to, from where fewest are seen. */
function needless(figure: Figure, form: Form): NeedlessCrossing[] {
  // A post's line does not turn with the view.
  const turns = figure.hosts.some((h) => h.kind === 'post') ? [0] : A_LITTLE;
  let least: NeedlessCrossing[] | undefined;
  for (const yaw of turns)
    for (const pitch of turns) {
      const some = needlessFrom(sightOf({ yaw, pitch }), figure, form);
      if (some.length === 0) return some;
      if (!least || some.length < least.length) least = some;
    }
  return least ?? [];
}

/** Crossings between ropes that are seen from a side and that no crossing of the drawing answers to, each answering once. */
function needlessFrom(sight: Sight, figure: Figure, form: Form): NeedlessCrossing[] {
  const isOfRopes = ({ over, under }: Crossing): boolean =>
    ropeOf(figure, over.strand) !== undefined && ropeOf(figure, under.strand) !== undefined;
  const drawn: Met[] = crossingsOf(figure).filter(isOfRopes);
  const front = figureSeen(figure, form, sight);
  const wayOf = ({ strand, at }: TrailPosition): Point | undefined => {
    const rope = ropeOf(front, strand);
    return rope && directionAt(curveOf(rope), at);
  };
  const seen = crossingsOf(front).flatMap((c): (Met & { readonly sine: number })[] => {
    const [over, under] = [onDrawn(form, c.over), onDrawn(form, c.under)];
    const [u, v] = [wayOf(c.over), wayOf(c.under)];
    return over && under && u && v ? [{ over, under, sine: Math.abs(u[0] * v[1] - u[1] * v[0]) }] : [];
  });
  const pairs = seen
    .flatMap((s) => drawn.map((d) => ({ s, d, far: apart(figure, s, d) })))
    .filter((p) => p.far < Infinity)
    .sort((p, q) => p.far - q.far);
  const [answered, used] = [new Set<Met>(), new Set<Met>()];
  for (const { s, d } of pairs) {
    if (answered.has(s) || used.has(d)) continue;
    answered.add(s);
    used.add(d);
  }
  return seen.flatMap(({ over, under, sine }, i) =>
    answered.has(seen[i] as Met) || sine < ACROSS ? [] : [{ kind: 'needless crossing', over, under }],
  );
}

/** On which side of a way a place lies: 1 to its right as the board is seen, −1 to its left. */
const sideOf = (way: Point, off: Point): number => Math.sign(way[0] * off[1] - way[1] * off[0]);

/** On which side of a stretch its neighbour is drawn; nothing where they are not drawn side by side. */
function sideDrawn(figure: Figure, { a, b }: SeenParallel): number | undefined {
  const [one, two] = [ropeOf(figure, a.strand), ropeOf(figure, b.strand)];
  if (!one || !two) return undefined;
  const [p, q] = [(a.from + a.to) / 2, (b.from + b.to) / 2];
  const [from, to] = [pointAt(curveOf(one), p), pointAt(curveOf(two), q)];
  const [way, other] = [directionAt(curveOf(one), p), directionAt(curveOf(two), q)];
  const off: Point = [to[0] - from[0], to[1] - from[1]];
  const isBeside =
    Math.hypot(off[0], off[1]) < DRAWN_BESIDE.apart &&
    Math.abs(way[0] * other[0] + way[1] * other[1]) > DRAWN_BESIDE.cosine;
  return isBeside ? sideOf(way, off) : undefined;
}

function sideLying(form: Form, { a, b }: SeenParallel): number | undefined {
  const chainOf = (id: string): Chain | undefined => form.chains.find((c) => c.rope === id);
  const [one, two] = [chainOf(a.strand), chainOf(b.strand)];
  if (!one || !two) return undefined;
  const [i, j] = [beadNearest(one, (a.from + a.to) / 2), beadNearest(two, (b.from + b.to) / 2)];
  const [before, after] = [onChain(one, i - 1) ?? i, onChain(one, i + 1) ?? i];
  const flat = (chain: Chain, from: number, other: Chain, to: number): Point => {
    const [x, y] = seenBy(STATIONS.front, less(placeOf(other.x, to), placeOf(chain.x, from)));
    return [x, y];
  };
  return sideOf(flat(one, before, one, after), flat(one, i, two, j));
}

/** What is not dressed on a form of a figure, as it is seen from the front. */
export function flawsOf(figure: Figure, form: Form): Flaw[] {
  const wrong = marksSeen(form, 'front').parallels.flatMap((p): WrongSide[] => {
    const drawn = sideDrawn(figure, p);
    return drawn !== undefined && drawn === -(sideLying(form, p) ?? drawn)
      ? [{ kind: 'wrong side', a: p.a, b: p.b }]
      : [];
  });
  return [...needless(figure, form), ...wrong];
}
