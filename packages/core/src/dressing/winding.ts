/**
 * Windings: how often, and which way, a rope goes round a host.
 */
import { crossingsOf, passagesOf, type Passage } from '../figure/crossings.js';
import {
  hostOf,
  lastAt,
  type Figure,
  type Host,
  type Rope,
  type TrailPosition,
  type TrailSpan,
} from '../figure/figure.js';

/**
 * Turns of a rope about an open host, signed: half the sum of the signs of their crossings. Each passage in front going one way
 * and each behind going the other is half a turn; windings that undo each other cancel.
 */
export function windingAbout(figure: Figure, rope: string, host: string): number {
  return crossingsOf(figure).reduce(
    (sum, c) => (c.first.strand === rope && c.second.strand === host ? sum + c.sign / 2 : sum),
    0,
  );
}

const within = (p: TrailPosition, s: TrailSpan): boolean => p.strand === s.strand && p.at >= s.from && p.at <= s.to;

/** Half turns of one span about another in the order of its trail, each +1 or −1. */
function halfTurns(figure: Figure, span: TrailSpan, about: TrailSpan): (1 | -1)[] {
  return crossingsOf(figure)
    .flatMap((c) =>
      [
        { own: c.first, other: c.second },
        { own: c.second, other: c.first },
      ].flatMap(({ own, other }) => (within(own, span) && within(other, about) ? [{ at: own.at, sign: c.sign }] : [])),
    )
    .sort((p, q) => p.at - q.at)
    .map((p) => p.sign);
}

/** Signed turns of a span about another span (of a rope or a host): half the sum of the signs of their crossings. */
export const windingOfSpan = (figure: Figure, span: TrailSpan, about: TrailSpan): number =>
  halfTurns(figure, span, about).reduce((sum, s) => sum + s / 2, 0);

/**
 * Turns of a span about a bundle of strands that run together: the turns about each, when they are the same about all; none when
 * the span goes between them.
 */
export function windingOfBundle(figure: Figure, span: TrailSpan, bundle: readonly TrailSpan[]): number | undefined {
  // A strand of the bundle that runs the other way counts the turns with the other sign.
  const turns = bundle.map((s) => Math.abs(windingOfSpan(figure, span, s)));
  const [first] = turns;
  return first !== undefined && turns.every((t) => t === first) ? first : undefined;
}

export interface Hitches {
  readonly about: TrailSpan;
  /** Full turns, counted whichever way they run. */
  readonly turns: number;
  /** Whether they all run one way round; with one turn, they do. */
  readonly way: 'the same way' | 'reversed';
}

/** The turns of a span about another, and whether they run the same way; none when it goes less than once round. */
export function hitchesAbout(figure: Figure, span: TrailSpan, about: TrailSpan): Hitches | undefined {
  const halves = halfTurns(figure, span, about);
  const turns = Math.floor(halves.length / 2);
  if (turns === 0) return undefined;
  return { about, turns, way: new Set(halves).size === 1 ? 'the same way' : 'reversed' };
}

/** A rope's standing part: from its standing end to where it first meets a host, or to half way when it meets none. */
export function standingSpan(figure: Figure, rope: Rope): TrailSpan {
  const first = passagesOf(figure, rope.id).find((p) => hostOf(figure, p.other.strand));
  return { strand: rope.id, from: 0, to: first ? first.at - 1e-6 : lastAt(rope) / 2 };
}

export interface RidingTurns {
  /** Passes in front of the host that lie over the rope's own standing part. */
  readonly count: number;
  /** The side of the standing part on which they lie, along the host; it holds a pull to that side. */
  readonly side: 'left' | 'right';
  /** Trail position of the first. */
  readonly at: number;
}

/**
 * Riding turns about a host. The last hitch, after them, lies on the side away from the pull, so they are said to lie on the other;
 * without a hitch after them, they lie where they meet the host.
 */
export function ridingTurns(figure: Figure, rope: Rope, host: Host): RidingTurns | undefined {
  const standing: TrailSpan = { ...standingSpan(figure, rope), to: Infinity };
  const passages = passagesOf(figure, rope.id);
  const onHost = passages.filter((p) => p.other.strand === host.id);
  const first = onHost[0];
  if (!first) return undefined;
  const span: TrailSpan = { strand: rope.id, from: standing.from, to: (onHost[1]?.at ?? first.at) - 1e-6 };
  const done = (onHost.at(-1) as Passage).at;
  const riding = passages.filter((p) => p.over && p.at > span.to && p.at < done && within(p.other, span));
  const [beginning, last] = [riding[0], riding.at(-1)];
  if (!beginning || !last) return undefined;
  const mean = (list: readonly Passage[]): number =>
    list.reduce((sum, p) => sum + p.crossing.point[0], 0) / list.length;
  // The pass that rides on the last crossing meets the host after it: the hitch is what comes after that pass.
  const after = onHost.filter((p) => p.at > last.at).slice(1);
  const around = onHost.filter((p) => p.at > first.at && p.at < last.at);
  const [x, far] = [first.crossing.point[0], after.length > 0 ? mean(after) : undefined];
  const left = far === undefined ? mean(around.length > 0 ? around : [first]) < x : far > x;
  return { count: riding.length, side: left ? 'left' : 'right', at: beginning.at };
}

/** Where a hitch is pulled: along its spar, or along its own standing part, toward what that runs to or away from it. */
export const PULLS = ['left', 'right', 'toward', 'away'] as const;
export type PullSide = (typeof PULLS)[number];

/** Turns of an end round its own standing part that grip it one way. */
export interface GrippingTurns {
  /** Turns that lie together, before the last one is led back beyond them. */
  readonly count: number;
  /** Where those lie from the last: toward the host, inside the loop; or away from it. They hold a pull to that side. */
  readonly side: Extract<PullSide, 'toward' | 'away'>;
  /** Trail position of the first. */
  readonly at: number;
}

/**
 * Turns round a rope's own standing part that lie on one side of where the end comes to it, with the last led over to the other side: a
 * hitch that slides one way and grips the other. None where the turns all lie on one side, as two half hitches do.
 */
export function grippingTurns(figure: Figure, rope: Rope): GrippingTurns | undefined {
  const standing = standingSpan(figure, rope);
  if (figure.hosts.length === 0) return undefined;
  const meets = passagesOf(figure, rope.id).filter((p) => p.at > standing.to && within(p.other, standing));
  const places = meets.map((p) => p.other.at);
  const [first, entry] = [meets[0], places[0]];
  const count = Math.floor(places.length / 2) - 1;
  if (!first || entry === undefined || count < 2) return undefined;
  const turns = places.slice(1, -2);
  const last = places.slice(-2).reduce((sum, p) => sum + p / 2, 0);
  // The standing part runs from its load to the host: farther along it is nearer the host.
  const side =
    Math.max(...turns) > entry && last < entry
      ? 'toward'
      : Math.min(...turns) < entry && last > entry
        ? 'away'
        : undefined;
  return side && { count, side, at: first.at };
}
