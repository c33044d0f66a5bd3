/**
 * What a picture shows of a knot that is laid and is now dressed, set or checked: the strands that lie side by side, the ends to pull,
 * the places to look at.
 */
import { parallelRuns } from '../dressing/dress.js';
import { chosenMarks, markPoints } from '../dressing/inspection.js';
import { crossingsOf, passagesOf } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, lengthOf, lengthTo, pointAt } from '../figure/curve.js';
import { lastAt, ropeOf, type Figure, type Rope, type TrailPosition, type TrailSpan } from '../figure/figure.js';
import { add, scale, subtract, type Box, type Point } from '../figure/point.js';
import type { FinishKind, Layout } from '../tying/method.js';
import { isOneEnd, ONE_END_WAYS, type LoadWay } from '../words/classes.js';
import { WORKSHOP_WORDS } from '../words/vocabulary.js';

/** A number beside a place of the picture, and the place. */
export interface NumberedPlace {
  readonly point: Point;
  readonly at: Point;
  readonly label: string;
}

/** A pull: from where on the picture, and which way. */
export interface Pull {
  readonly point: Point;
  readonly direction: Point;
}

export interface FinishPicture {
  /** What is lit: dressed, the strands that lie side by side. */
  readonly lit: readonly TrailSpan[];
  /** Where it is pulled to be set: every end that is held or free. */
  readonly pulls: readonly Pull[];
  /** What is looked at: the marks of the inspection card on this face, with their numbers on the card. */
  readonly marks: readonly { readonly at: Point; readonly label: string }[];
}

const NOTHING: FinishPicture = { lit: [], pulls: [], marks: [] };

/** Most pairs of strands that are lit as side by side. */
const MOST_PAIRS = 2;

/** What is shown of a finishing step of a layout; `figure` is the layout's, in the view it is shown in. */
export function finishPicture(layout: Layout, does: FinishKind, figure: Figure, behind: boolean): FinishPicture {
  switch (does) {
    case 'dress':
      return { ...NOTHING, lit: pairs(figure) };
    case 'set':
      return { ...NOTHING, pulls: figure.ropes.flatMap((rope) => pullsOf(rope)) };
    case 'check': {
      const chosen = chosenMarks(layout.figure, layout.marks ?? [], WORKSHOP_WORDS).flatMap(({ mark }) => mark ?? []);
      return {
        ...NOTHING,
        marks: chosen.flatMap((mark, i) => {
          const seen = (mark.side === 'back') === behind;
          return seen ? markPoints(figure, mark).map((at) => ({ at, label: String(i + 1) })) : [];
        }),
      };
    }
  }
}

/** How far beyond its outermost crossing a load is shown on a part, in diameters: near enough to be in the picture of the knot. */
const LOAD_BEYOND = 2.2;

/** A load on an end: on the part that leaves the knot there, away from it. */
function endLoad(figure: Figure, rope: Rope, end: 0 | 1): Pull[] {
  if (rope.closed) return [];
  const curve = curveOf(rope);
  const passed = passagesOf(figure, rope.id).map((p) => lengthTo(curve, p.at));
  const [first, last] = [passed[0], passed.at(-1)];
  if (first === undefined || last === undefined) return [];
  const along = end === 0 ? Math.max(0, first - LOAD_BEYOND) : Math.min(lengthOf(curve), last + LOAD_BEYOND);
  const at = atLength(curve, along);
  return [{ point: pointAt(curve, at), direction: scale(directionAt(curve, at), end === 0 ? -1 : 1) }];
}

/** Loads on an eye: outward at its far end, or to both sides there. */
function eyeLoads(figure: Figure, rope: Rope, eye: number, across: boolean): Pull[] {
  const curve = curveOf(rope);
  const [apex, along] = [pointAt(curve, eye), directionAt(curve, eye)];
  if (across) return [along, scale(along, -1)].map((direction) => ({ point: apex, direction }));
  const knot = crossingsOf(figure).map((c) => c.point);
  const middle = knot.reduce<Point>((sum, p) => add(sum, scale(p, 1 / knot.length)), [0, 0]);
  const out = subtract(apex, middle);
  const long = Math.hypot(...out);
  return long < 1e-6 ? [] : [{ point: apex, direction: scale(out, 1 / long) }];
}

/**
 * Where a finished knot is loaded, by the ways that its lesson loads it: arrows on its standing parts, its ends and its loops. What holds to a
 * host is loaded against that: a loop of its rope is the bight by which it is let go.
 */
export function loadPulls(figure: Figure, ways: readonly LoadWay[]): readonly Pull[] {
  const both = ways.some((w) => w === 'three ways' || w === 'either way');
  const onLoops = ways.some((w) => w !== 'either way' && w !== 'across the rope');
  const across = ways.includes('across the rope');
  // Loaded against one end alone, the other hangs free.
  const free = ways.every(isOneEnd) ? ONE_END_WAYS.map((way) => !ways.includes(way)) : ONE_END_WAYS.map(() => false);
  return figure.ropes.flatMap((rope) => [
    ...([0, 1] as const).flatMap((end) =>
      (rope.ends[end] === 'tail' && !both) || free[end] || ways.length === 0 ? [] : endLoad(figure, rope, end),
    ),
    ...(figure.hosts.length > 0 && !rope.closed ? [] : (rope.eyes ?? [])).flatMap((eye) => [
      ...(onLoops ? eyeLoads(figure, rope, eye, false) : []),
      ...(across ? eyeLoads(figure, rope, eye, true) : []),
    ]),
  ]);
}

/** How much room an arrow takes beyond where it begins, in diameters. */
const ARROW = 2.6;

/** A picture’s box with the arrows of pulls in it. */
export const boxWithPulls = ([l, t, r, b]: Box, pulls: readonly Pull[]): Box => {
  const ends = pulls.flatMap(({ point, direction }) => [point, add(point, scale(direction, ARROW))]);
  return [
    Math.min(l, ...ends.map(([x]) => x)),
    Math.min(t, ...ends.map(([, y]) => y)),
    Math.max(r, ...ends.map(([x]) => x)),
    Math.max(b, ...ends.map(([, y]) => y)),
  ];
};

/** The longest stretches that run side by side, both strands of each. */
function pairs(figure: Figure): TrailSpan[] {
  return parallelRuns(figure)
    .slice(0, MOST_PAIRS)
    .flatMap(({ a, b, length }) => [spanAbout(figure, a, length), spanAbout(figure, b, length)]);
}

function spanAbout(figure: Figure, { strand, at }: TrailPosition, length: number): TrailSpan {
  const curve = curveOf(ropeOf(figure, strand) as Rope);
  const along = lengthTo(curve, at);
  return {
    strand,
    from: atLength(curve, Math.max(0, along - length / 2)),
    to: atLength(curve, along + length / 2),
  };
}

/** Pulls at the ends of a rope; an end that is trimmed is not pulled again. */
function pullsOf(rope: Rope): Pull[] {
  if (rope.closed) return [];
  const curve = curveOf(rope);
  return ([0, 1] as const).flatMap((end): Pull[] => {
    if (rope.trimmed?.[end] === true) return [];
    const at = end === 0 ? 0 : lastAt(rope);
    return [{ point: pointAt(curve, at), direction: scale(directionAt(curve, at), end === 0 ? -1 : 1) }];
  });
}
