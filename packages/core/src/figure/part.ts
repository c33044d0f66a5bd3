/**
 * A whole drawing, or a part of it, moved, turned, scaled, turned over into its mirror image, or cleared.
 */
import { badPoint, edited, missing, noPoint, onBoard, onEachOther, tooClose, type Edited } from './bounds.js';
import { carry, laterOver, pointsOf, withPoints, type Decide } from './carry.js';
import { hostOf, type Figure, type Letter, type TrailPosition } from './figure.js';
import { IDENTITY, type Mapping } from './mapping.js';
import { boxOf, distance, type Point } from './point.js';
import { refuse } from './refusal.js';

/** A control point of a rope or host. */
export interface PointPlace {
  readonly strand: string;
  readonly index: number;
}

/** What is done to the points, about the middle of them; one after the other, in this order. */
export interface Change {
  readonly mirror?: boolean;
  readonly scale?: number;
  /** In radians, clockwise as seen on the board. */
  readonly turn?: number;
  readonly move?: Point;
}

export interface TransformEdit {
  readonly kind: 'transform';
  readonly points: 'all' | readonly PointPlace[];
  readonly by: Change;
  /** How a part that is moved passes what it comes to lie on; absent: over. */
  readonly pass?: Letter;
}

export interface ClearEdit {
  readonly kind: 'clear';
}

export const SCALES = { least: 0.2, most: 5 } as const;
/** A part is moved in steps of at most this many diameters, so that its crossings are followed. */
const STEP = 0.4;
const MOST_STEPS = 64;

/** The middle of places: of the box round them. */
function middleOf(places: readonly Point[]): Point {
  const box = boxOf(places);
  return box ? [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2] : [0, 0];
}

const changed = ([mx, my]: Point, { mirror, scale = 1, turn = 0, move = [0, 0] }: Change, share = 1) => {
  const k = 1 + (scale - 1) * share;
  const [cos, sin] = [Math.cos(turn * share), Math.sin(turn * share)];
  return ([x, y]: Point): Point => {
    const [dx, dy] = [(mirror === true ? mx - x : x - mx) * k, (y - my) * k];
    return [mx + dx * cos - dy * sin + move[0] * share, my + dx * sin + dy * cos + move[1] * share];
  };
};

export function transform(figure: Figure, { points, by, pass = 'O' }: TransformEdit): Edited {
  const { scale = 1 } = by;
  if (!(scale >= SCALES.least && scale <= SCALES.most))
    return refuse(
      'drawing',
      `It cannot be made ${scale} times as large.`,
      `Give from ${SCALES.least} to ${SCALES.most}.`,
    );
  return points === 'all' ? transformAll(figure, by) : transformPart(figure, points, by, pass);
}

/** The whole drawing keeps every crossing; its mirror image is tied by the other hand. */
function transformAll(figure: Figure, by: Change): Edited {
  const drawn = figure.ropes.length > 0 ? figure.ropes : figure.hosts;
  const to = changed(middleOf(drawn.flatMap((s) => s.points)), by);
  const moved = <S extends { readonly points: readonly Point[] }>(s: S): S => ({ ...s, points: s.points.map(to) });
  const next: Figure = { ropes: figure.ropes.map(moved), hosts: figure.hosts.map(moved) };
  if (![...next.ropes, ...next.hosts].every((s) => s.points.every(onBoard))) return badPoint('drawing');
  if ([...next.ropes, ...next.hosts].some((s) => tooClose(s.points))) return onEachOther('drawing');
  return edited(next);
}

function transformPart(figure: Figure, points: readonly PointPlace[], by: Change, pass: Letter): Edited {
  if (by.mirror === true)
    return refuse(
      'part',
      'Only a whole drawing has a mirror image.',
      'Choose all of it (Ctrl A), or twist the part over.',
    );
  const chosen = new Map<string, Set<number>>();
  const places: Point[] = [];
  for (const { strand, index } of points) {
    const own = pointsOf(figure, strand);
    if (!own) return missing(strand);
    const place = own[index];
    if (!place) return noPoint(`${strand}, point ${index}`);
    places.push(place);
    chosen.set(strand, (chosen.get(strand) ?? new Set()).add(index));
  }
  if (places.length === 0) return refuse('part', 'Nothing is chosen.', 'Draw a band round what is meant.');
  const middle = middleOf(places);
  const target = (share: number, from: Figure): Figure => {
    const to = changed(middle, by, share);
    return [...chosen].reduce(
      (f, [strand, indices]) =>
        withPoints(
          f,
          strand,
          (pointsOf(figure, strand) ?? []).map((p, i) => (indices.has(i) ? to(p) : p)),
        ),
      from,
    );
  };
  const end = target(1, figure);
  for (const strand of chosen.keys()) {
    const own = pointsOf(end, strand) ?? [];
    if (!own.every(onBoard)) return badPoint(strand);
    if (tooClose(own)) return onEachOther(strand);
  }
  const to = changed(middle, by);
  const steps = Math.min(MOST_STEPS, Math.max(1, Math.ceil(Math.max(...places.map((p) => distance(p, to(p)))) / STEP)));
  let now = figure;
  for (let s = 1; s <= steps; s += 1) {
    const next = target(s / steps, now);
    now = carry(now, next, IDENTITY, partOver(next, chosen, pass));
  }
  return edited(now);
}

/** What the part comes to lie on it passes over, or under when asked. */
function partOver(figure: Figure, chosen: ReadonlyMap<string, ReadonlySet<number>>, pass: Letter): Decide {
  const moves = ({ strand, at }: TrailPosition): boolean => {
    const own = chosen.get(strand);
    return own !== undefined && (own.has(Math.floor(at)) || own.has(Math.ceil(at)));
  };
  return (m) => {
    const [a, b] = [moves(m.first), moves(m.second)];
    if (a === b || hostOf(figure, m.second.strand)?.kind === 'post') return laterOver(figure, () => pass)(m);
    return a === (pass === 'O');
  };
}

/** The board is bare again; undo brings it back. */
export function clear(figure: Figure): Edited {
  if (figure.ropes.length + figure.hosts.length === 0)
    return refuse('board', 'There is nothing on it.', 'Lay a rope, or a host.');
  const gone: Mapping = new Map([...figure.ropes, ...figure.hosts].map((s) => [s.id, []]));
  return edited({ ropes: [], hosts: [] }, gone);
}
