/**
 * What every edit of a figure keeps to: the bounds on its size, the refusals that name them, and the marks on a rope (eyes, flips, breaks, wraps)
 * that follow its trail.
 */
import { diameterOf } from './cordage.js';
import { HOST_SIZE, hostOf, ropeOf, type Figure, type Host, type Letter, type Rope, type Wrap } from './figure.js';
import { IDENTITY, mapPosition, type Mapping } from './mapping.js';
import { distance, type Point } from './point.js';
import { accept, refuse, type Refusal, type Result } from './refusal.js';

/** Bounds on a figure, so that every computation ends in a moment. They are named in the refusals. */
export const LIMITS = { strands: 12, points: 2000, crossings: 300, reach: 400 } as const;

/** Turns laid as one, and the room between them, in diameters. */
export const MOST_TURNS = 12;
export const SPACINGS = { least: 1.1, most: 12, usual: 3 } as const;

/** Breaks of a rope, and the diameters that one counts, at most. */
export const BREAKS = { most: 4, counts: 200 } as const;

/** Control points nearer than this are one point: the curve through them has no direction there. */
export const LEAST_SPACING = 0.05;

export const onBoard = (p: Point): boolean => p.every((n) => Number.isFinite(n) && Math.abs(n) <= LIMITS.reach);

export const tooClose = (points: readonly Point[]): boolean =>
  points.some((p, i) => i > 0 && distance(points[i - 1] as Point, p) < LEAST_SPACING);

export const missing = (strand: string): Refusal =>
  refuse(strand, 'There is no such rope or host in the figure.', 'Choose one that is on the board.');

export const badPoint = (place: string): Refusal =>
  refuse(
    place,
    `A point must be two numbers within ${LIMITS.reach} diameters of the board's middle.`,
    'Put it back on the board.',
  );

export const noPoint = (place: string): Refusal =>
  refuse(place, 'There is no such control point.', 'Choose one of the strand’s points.');

export const onEachOther = (place: string): Refusal =>
  refuse(place, 'Two control points would lie on each other.', 'Put it farther off, or remove one of them.');

export const tooMany = (id: string): Refusal =>
  refuse(`rope ${id}`, `A rope holds ${LIMITS.points} control points at most.`, 'Draw it with fewer points.');

export const strandOf = (figure: Figure, id: string): Rope | Host | undefined =>
  ropeOf(figure, id) ?? hostOf(figure, id);

/** How broad a strand lies on the board, in the figure's unit. */
export const breadthOf = (strand: Rope | Host): number =>
  'kind' in strand ? (strand.size ?? HOST_SIZE) : diameterOf(strand);

/** An edited figure and where its trail positions went. */
export type Edited = Result<readonly [Figure, Mapping]>;

export const edited = (figure: Figure, mapping: Mapping = IDENTITY): Edited => accept([figure, mapping]);

/** The figure with the marks on its ropes carried through a mapping: eyes, flips, and wraps that can still be changed. */
export function withMarks(figure: Figure, mapping: Mapping): Figure {
  const at = (strand: string, place: number): number | undefined => mapPosition(mapping, { strand, at: place })?.at;
  const wrapThrough = (rope: Rope, wrap: Wrap): Wrap[] => {
    const [a, b] = [at(rope.id, wrap.from), at(rope.id, wrap.to)];
    const about = wrap.about.flatMap((p) => mapPosition(mapping, p) ?? []);
    // A wrap that is turned round, or that lost what it goes round, is rope like any other.
    if (a === undefined || b === undefined || about.length < wrap.about.length) return [];
    const [from, to] = [Math.round(a), Math.round(b)];
    return to > from ? [{ ...wrap, from, to, about }] : [];
  };
  const through = (rope: Rope): Rope => {
    const places = (list: readonly number[] | undefined): readonly number[] | undefined =>
      list && mapping.has(rope.id) ? list.flatMap((e) => at(rope.id, e) ?? []).sort((x, y) => x - y) : list;
    const [eyes, flips] = [places(rope.eyes), places(rope.flips)];
    const wraps = rope.wraps?.flatMap((w) => wrapThrough(rope, w));
    const breaks =
      rope.breaks && mapping.has(rope.id)
        ? rope.breaks.flatMap((b) => {
            const now = at(rope.id, b.at);
            return now === undefined ? [] : [{ ...b, at: now }];
          })
        : rope.breaks;
    if (eyes === rope.eyes && flips === rope.flips && wraps === rope.wraps && breaks === rope.breaks) return rope;
    const { eyes: _eyes, flips: _flips, wraps: _wraps, breaks: _breaks, ...bare } = rope;
    return {
      ...bare,
      ...(eyes ? { eyes } : {}),
      ...(flips && flips.length > 0 ? { flips } : {}),
      ...(wraps && wraps.length > 0 ? { wraps } : {}),
      ...(breaks && breaks.length > 0 ? { breaks: [...breaks].sort((a, b) => a.at - b.at) } : {}),
    };
  };
  return { ...figure, ropes: figure.ropes.map(through) };
}

/** How a stretch passes what it meets: over, under, or by turns (each passage the opposite of the one before it). */
export type Pass = Letter | 'W';
