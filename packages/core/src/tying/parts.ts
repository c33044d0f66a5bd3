/**
 * Parts: what a place of the trail has become by the time it is met again: standing part, loop, leg of a bight, turn, bridge.
 *
 * A rope that goes round a host, or round another rope that is plain, is told by its turns; else by the loop that it closes first.
 */
import { crossingsOf, passagesOf, type Crossing } from '../figure/crossings.js';
import { curveOf, lengthTo, lineBetween, pointAt } from '../figure/curve.js';
import { hostIsClosed, hostOf, lastAt, ropeOf, type Figure, type Rope, type TrailPosition } from '../figure/figure.js';
import { cross, distance, dot, subtract, unit, type Point } from '../figure/point.js';
import { hostWord, type Vocabulary } from '../words/vocabulary.js';
import {
  begun,
  extentsAt,
  isFirstEnd,
  laidPassages,
  reached,
  type Extents,
  type Layout,
  type Stretch,
} from './method.js';

export type PartKind =
  'host' | 'standing' | 'other' | 'loop' | 'bight' | 'rope' | 'end' | 'turn' | 'bridge' | 'leg' | 'own';

/** A stretch of the trail that is one thing to whoever ties. Two places of one part have the same `key`. */
export interface Part {
  readonly kind: PartKind;
  readonly strand: string;
  readonly key: string;
  /** Which turn it is, from 1; whether it is the last that was laid. */
  readonly turn?: { readonly number: number; readonly last: boolean } | undefined;
  /** Of the leader's own rope. */
  readonly own: boolean;
}

/** A loop of a rope: the stretch between the two passages of a crossing with itself. */
export interface Loop {
  readonly strand: string;
  readonly from: number;
  readonly to: number;
  readonly number: number;
}

/** A stretch that turns by more than this, in radians, without crossing anything doubles the rope back: a bight. */
const BIGHT_TURN = 2.4;

/** Sum of the turning along a line, in radians; with y down, clockwise as seen on the screen when it is positive. */
export function turning(line: readonly Point[]): number {
  let sum = 0;
  for (let i = 2; i < line.length; i += 1) {
    const [u, v] = [
      unit(subtract(line[i - 1] as Point, line[i - 2] as Point)),
      unit(subtract(line[i] as Point, line[i - 1] as Point)),
    ];
    sum += Math.atan2(cross(u, v), dot(u, v));
  }
  return sum;
}

/** Whether a line turns so far that it is doubled back. */
export const isDoubledBack = (line: readonly Point[]): boolean => Math.abs(turning(line)) > BIGHT_TURN;

/** How often a closed outline goes round a place, counted one way. */
export function windingRound(outline: readonly Point[], place: Point): number {
  let sum = 0;
  outline.forEach((p, i) => {
    const q = outline[(i + 1) % outline.length] as Point;
    const [u, v] = [subtract(p, place), subtract(q, place)];
    sum += Math.atan2(cross(u, v), dot(u, v));
  });
  return Math.round(sum / (2 * Math.PI));
}

/** Loops of a rope that are closed once so much of it is laid, before a place, in the order in which they close. */
export const loopsOf = (figure: Figure, strand: string, extents: Extents, before = Infinity): Loop[] =>
  crossingsOf(figure)
    .filter((c) => c.first.strand === strand && c.second.strand === strand)
    .filter((c) => c.first.at >= begun(extents, strand) && c.second.at <= Math.min(before, reached(extents, strand)))
    .sort((a, b) => a.second.at - b.second.at)
    .map((c: Crossing) => ({ strand, from: c.first.at, to: c.second.at, number: c.number }));

/** A rope that is doubled back without crossing itself. */
export interface Bight {
  readonly strand: string;
  readonly line: readonly Point[];
  /** Where it turns: what comes before is its first leg, what comes after its second. */
  readonly tip: number;
}

/** The other rope as far as it is laid when the leader is at `at`, when it is doubled back without crossing itself. */
export function bightOf(layout: Layout, step: Stretch, strand: string, at: number): Bight | undefined {
  const other = ropeOf(layout.figure, strand);
  if (!other || other.closed || strand === step.rope) return undefined;
  const extents = extentsAt(layout, step.index, at);
  const end = Math.min(lastAt(other), reached(extents, strand));
  if (laidPassages(layout.figure, extents, strand).some((p) => p.other.strand === strand)) return undefined;
  const curve = curveOf(other);
  const line = lineBetween(curve, 0, end);
  if (!isDoubledBack(line)) return undefined;
  const middle: Point = [
    ((line[0] as Point)[0] + (line.at(-1) as Point)[0]) / 2,
    ((line[0] as Point)[1] + (line.at(-1) as Point)[1]) / 2,
  ];
  let tip = 0;
  for (let k = 0; k <= 60; k += 1) {
    const place = (end * k) / 60;
    if (distance(pointAt(curve, place), middle) > distance(pointAt(curve, tip), middle)) tip = place;
  }
  return { strand, line, tip };
}

/** Whether a strand is gone round as a host is: it is one, or a rope that as far as it is laid is plain. */
function isAxle(layout: Layout, step: Stretch, strand: string, at: number): boolean {
  if (hostOf(layout.figure, strand)) return true;
  if (strand === step.rope) return false;
  const extents = extentsAt(layout, step.index, at);
  return loopsOf(layout.figure, strand, extents).length === 0 && bightOf(layout, step, strand, at) === undefined;
}

/** What a place is when the leader of a step meets it at its own place `at`. */
export function partMet(layout: Layout, step: Stretch, at: number, place: TrailPosition): Part {
  const { figure } = layout;
  const { strand } = place;
  const part = (kind: PartKind, key: string = kind, more: Partial<Part> = {}): Part => ({
    kind,
    strand,
    key: `${strand} ${key}`,
    own: strand === step.rope,
    ...more,
  });
  if (hostOf(figure, strand)) return part('host');
  const extents = extentsAt(layout, step.index, at);
  if (strand !== step.rope) {
    const [loop] = loopsOf(figure, strand, extents);
    if (loop) {
      if (place.at < loop.from) return part('standing');
      return place.at <= loop.to ? part('loop', `loop ${loop.number}`) : part('end');
    }
    return bightOf(layout, step, strand, at) ? part('bight') : part('rope');
  }
  const other = layout.leaders.find((l) => isFirstEnd(l) && l.rope === strand);
  if (other && place.at < other.from) return part('other');
  // Own rope: what it had met before it was here.
  const before = laidPassages(figure, extents, strand).filter(
    (p) => p.at < at && p.at > (other?.from ?? 0) && (p.other.strand !== strand || p.other.at < p.at),
  );
  const round = before.filter((p) => p.other.strand !== strand && isAxle(layout, step, p.other.strand, at));
  const [first, second] = round;
  if (first && second) {
    if (place.at < first.at) return part('standing');
    const k = round.findIndex((p) => p.at > place.at);
    // What leads through a ring stands on both sides of its rim.
    const ring = hostOf(figure, first.other.strand);
    if (k === 1 && ring && hostIsClosed(ring)) return part('standing');
    if (k < 0) return part('own', `after ${round.length}`);
    const between = before.filter(
      (p) => p.at > (round[k - 1]?.at ?? 0) && p.at < (round[k]?.at ?? 0) && p.other.strand === strand,
    );
    if (between.some((p) => p.other.at < first.at)) return part('bridge', `bridge ${k}`);
    const [number, all] = [Math.ceil(k / 2), Math.ceil(round.length / 2)];
    return part('turn', `turn ${k}`, { turn: { number, last: number >= all - 1 && all > 1 } });
  }
  const [loop] = loopsOf(figure, strand, extents, at - 1e-6);
  if (loop) {
    if (place.at < loop.from) return part('standing');
    if (place.at <= loop.to) return part('loop', `loop ${loop.number}`);
    return legOfEye(layout, step, at, place) ?? part('own', `after ${loop.number}`);
  }
  return part('standing');
}

export const ropeName = (figure: Figure, rope: string, words: Vocabulary): string => {
  const index = figure.ropes.findIndex((r) => r.id === rope);
  return words.ropes[index] ?? `rope ${rope}`;
};

/** Whether what of a rope is doubled back is there before anything is bent to it, as an eye is: neither of its ends is free. */
export const isHeldBight = (rope: Rope | undefined): boolean => rope?.closed === false && !rope.ends.includes('tail');

/** What a part is called: “the standing part”, “the second turn”, “the loop of the pale rope”. */
export function sayPart(figure: Figure, part: Part, words: Vocabulary): string {
  const host = hostOf(figure, part.strand);
  if (host) return `the ${hostWord(words, host)}`;
  const several = figure.ropes.length > 1;
  const of = several && !part.own ? ` of the ${ropeName(figure, part.strand, words)}` : '';
  switch (part.kind) {
    case 'other':
      return `the other ${words.workingEnd}`;
    case 'standing':
      return part.own && several ? `its own ${words.standingPart}` : `the ${words.standingPart}${of}`;
    case 'loop':
      return `the ${words.loop}${of}`;
    case 'bight':
      return `the ${isHeldBight(ropeOf(figure, part.strand)) ? words.eye : words.bight}`;
    case 'end':
      return `the ${words.tail}${of}`;
    case 'turn':
      return part.turn?.last === true
        ? `the ${words.turn} just made`
        : `the ${['first', 'second', 'third', 'fourth', 'fifth'][(part.turn?.number ?? 1) - 1] ?? 'earlier'} ${words.turn}`;
    case 'bridge':
      return several ? `the ${words.bridge}` : `the part that crosses the ${words.standingPart}`;
    case 'leg':
      return `the ${words.leg} of the ${words.eye}`;
    case 'own':
      return 'its own part';
    case 'host':
    case 'rope':
      return `the ${ropeName(figure, part.strand, words)}`;
  }
}

/** What a place of the trail is called, whichever step one is at: “standing part”, “loop”, “tail”. */
export function nameOfPlace(layout: Layout, place: TrailPosition, words: Vocabulary): string {
  const { figure } = layout;
  const host = hostOf(figure, place.strand);
  if (host) return hostWord(words, host);
  const rope = ropeOf(figure, place.strand);
  const passages = passagesOf(figure, place.strand);
  const [first, last] = [passages[0], passages.at(-1)];
  const end = (role: string | undefined): string => (role === 'tail' ? words.tail : words.standingPart);
  if (!first || !last || place.at < first.at) return end(rope?.ends[0]);
  if (place.at > last.at && rope?.closed === false) return end(rope.ends[1]);
  const bight = layout.leaders.find(
    (l) => l.kind === 'bight' && l.rope === place.strand && place.at > l.from && place.at < l.to,
  );
  if (bight) return words.bight;
  const own = passages.find((p) => p.other.strand === place.strand && p.other.at > p.at);
  if (own && figure.hosts.length === 0 && place.at > own.at && place.at < own.other.at) return words.loop;
  return figure.ropes.length > 1 ? ropeName(figure, place.strand, words) : words.turn;
}

/** A place on the leg by which its rope comes back from the eye: it met nothing on the way there. */
function legOfEye(layout: Layout, step: Stretch, at: number, place: TrailPosition): Part | undefined {
  const { strand } = place;
  const laid = laidPassages(layout.figure, extentsAt(layout, step.index, at - 1e-6), strand).filter(
    (p) => p.other.strand !== strand || p.other.at < p.at,
  );
  const held = (ropeOf(layout.figure, strand)?.eyes ?? []).find(
    (eye) => eye < place.at && !laid.some((p) => p.at > eye && p.at < place.at),
  );
  return held === undefined
    ? undefined
    : { kind: 'leg', strand, key: `${strand} leg ${held}`, own: strand === step.rope };
}

/** Length of rope between two trail positions, in diameters. */
export const lengthBetween = (rope: Rope, from: number, to: number): number =>
  Math.abs(lengthTo(curveOf(rope), to) - lengthTo(curveOf(rope), from));
