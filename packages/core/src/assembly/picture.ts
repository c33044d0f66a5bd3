/**
 * The picture of an assembly: where its ropes run on the board, round things and into knots. Not to scale. Places in units of the board, angles
 * in radians.
 */
import type { Point } from '../figure/point.js';
import { inLines } from '../words/in-lines.js';
import {
  BOARD,
  type Assembly,
  type AssemblyKnot,
  type AssemblyRope,
  type AssemblyThing,
  type RoundWay,
} from './assembly.js';

/** Radius of a knot’s picture. */
export const KNOT_RADIUS = 80;
/** Side of the picture in it: its corners stay inside the ring. */
export const KNOT_PICTURE = 110;
/** Half of what a rope goes round, and half of how long a thing lies. */
export const THING_SIZES: Readonly<Record<AssemblyThing['kind'], { readonly radius: number; readonly reach: number }>> =
  {
    spar: { radius: 17, reach: 190 },
    plank: { radius: 15, reach: 210 },
    post: { radius: 26, reach: 26 },
    ring: { radius: 30, reach: 30 },
    carabiner: { radius: 34, reach: 34 },
    barrel: { radius: 78, reach: 78 },
    load: { radius: 70, reach: 70 },
    waist: { radius: 92, reach: 150 },
    thigh: { radius: 62, reach: 62 },
  };

/** Width of a rope, and what lies between two of its turns. */
export const ROPE_WIDTH = 11;
const PITCH = 8;
/** How long a tail is drawn. */
const TAIL = 84;
const STEP = Math.PI / 12;
/** Turns are drawn as so much of themselves at least. */
const LEAST_SHARE = 0.7;
/** How far the corners of a load stand out beyond its sides, as it is rounded. */
const LOAD_ROUND = 22;
const LOAD_HALF = THING_SIZES.load.radius;
const CORNER = (Math.SQRT2 * (LOAD_HALF - LOAD_ROUND) + LOAD_ROUND) / LOAD_HALF;

const away = ([x, y]: Point, angle: number, by: number): Point => [x + by * Math.cos(angle), y + by * Math.sin(angle)];
const angleTo = (from: Point, to: Point): number => Math.atan2(to[1] - from[1], to[0] - from[0]);
const at = ({ x, y }: { readonly x: number; readonly y: number }): Point => [x, y];

/** Which way round a pass goes on the board. What is upward on one side of it is the other way round on the other, and on the way back. */
function sense(way: RoundWay | null, x: number, from: Point, to: Point): 1 | -1 | undefined {
  if (way === null) return undefined;
  const middle = BOARD.width / 2;
  const isInward = Math.abs(to[0] - middle) < Math.abs(from[0] - middle);
  const isLeft = x < middle;
  return (way === 'upward') === (isLeft === isInward) ? 1 : -1;
}

/** Turns round what is round: from the side it comes from to the side it goes to, about so many turns. */
function coil(thing: AssemblyThing, from: Point, to: Point, turns: number, way: RoundWay | null): Point[] {
  const centre = at(thing);
  const { radius, reach } = THING_SIZES[thing.kind];
  const begin = angleTo(centre, from);
  const whole = 2 * Math.PI;
  const gap = (((angleTo(centre, to) - begin) % whole) + whole) % whole;
  const wanted = turns * whole;
  const asked = sense(way, thing.x, from, to);
  const sweeps = Array.from({ length: 2 * Math.ceil(turns) + 3 }, (_, k) => gap + (k - Math.ceil(turns) - 1) * whole)
    .filter((s) => (asked === undefined || Math.sign(s) === asked) && Math.abs(s) > LEAST_SHARE * wanted)
    .sort((p, q) => Math.abs(Math.abs(p) - wanted) - Math.abs(Math.abs(q) - wanted));
  const sweep = sweeps[0] ?? wanted;
  // What is square is gone round beyond its corners.
  const corner = thing.kind === 'load' ? CORNER : 1;
  const count = Math.max(2, Math.ceil(Math.abs(sweep) / STEP));
  const turn = (thing.turn * Math.PI) / 180;
  return Array.from({ length: count + 1 }, (_, k): Point => {
    const angle = begin + (sweep * k) / count - turn;
    const out = ROPE_WIDTH / 2 + (PITCH * Math.abs(sweep * k)) / count / Math.PI;
    const [x, y] = [(corner * reach + out) * Math.cos(angle), (corner * radius + out) * Math.sin(angle)];
    return [centre[0] + x * Math.cos(turn) - y * Math.sin(turn), centre[1] + x * Math.sin(turn) + y * Math.cos(turn)];
  });
}

/** Turns round a bar, beside each other along it. */
function bands(thing: AssemblyThing, from: Point, turns: number): Point[] {
  const { radius } = THING_SIZES[thing.kind];
  const turn = (thing.turn * Math.PI) / 180;
  const side = Math.sign((from[1] - thing.y) * Math.cos(turn) - (from[0] - thing.x) * Math.sin(turn)) || -1;
  const halves = Math.max(1, Math.round(2 * turns));
  return Array.from({ length: halves + 1 }, (_, k): Point => {
    const along = (k - halves / 2) * PITCH * 1.4;
    const across = side * (k % 2 === 0 ? 1 : -1) * (radius + ROPE_WIDTH / 2);
    return [
      thing.x + along * Math.cos(turn) - across * Math.sin(turn),
      thing.y + along * Math.sin(turn) + across * Math.cos(turn),
    ];
  });
}

const isBar = (kind: AssemblyThing['kind']): boolean => kind === 'spar' || kind === 'plank';

/** The course of a rope: places it goes through, from its first end to its last. */
export function courseOf(a: Assembly, rope: AssemblyRope): Point[] {
  const spots = rope.stops.flatMap((stop) => {
    const is =
      stop.kind === 'round' ? a.things.find((t) => t.id === stop.thing) : a.knots.find((k) => k.id === stop.knot);
    return is ? [{ stop, is }] : [];
  });
  const [first, last] = [spots[0], spots.at(-1)];
  if (!first || !last) return [];
  const course: Point[] = [endBeyond(a, at(first.is), spots[1] && at(spots[1].is), 0)];
  spots.forEach(({ stop, is }, i) => {
    const [before, next] = [course.at(-1)!, spots[i + 1]];
    if (stop.kind === 'knot') {
      course.push(at(is));
      return;
    }
    if (stop.kind === 'through') {
      course.push(throughAt(at(is), before, next && at(next.is)));
      return;
    }
    const thing = is as AssemblyThing;
    const to = next ? at(next.is) : before;
    course.push(
      ...(isBar(thing.kind) ? bands(thing, before, stop.turns) : coil(thing, before, to, stop.turns, stop.way)),
    );
  });
  course.push(endBeyond(a, course.at(-1)!, spots.length > 1 ? at(spots.at(-2)!.is) : undefined, 1));
  return course;
}

/** A loop stands out of its knot so far, and is half as wide as this. */
const LOOP_REACH = 44;
const LOOP_HALF = 16;

/** Where a rope goes through the loop of a knot: beside it, between where it comes from and where it goes on. */
function throughAt(knot: Point, from: Point, to: Point | undefined): Point {
  const [a, b] = [angleTo(knot, from), angleTo(knot, to ?? from)];
  const angle = Math.atan2(Math.sin(a) + Math.sin(b), Math.cos(a) + Math.cos(b));
  return away(knot, angle, KNOT_RADIUS + LOOP_REACH / 2);
}

/** The loops that a rope goes through: the leg that it lies over, and the one that lies over it. */
function loopsThrough(a: Assembly, rope: AssemblyRope): { readonly under: RopePiece[]; readonly over: RopePiece[] } {
  const course = courseOf(a, rope);
  const loops = rope.stops.flatMap((s) => {
    const knot = s.kind === 'through' ? a.knots.find((k) => k.id === s.knot) : undefined;
    if (!knot) return [];
    const own = at(knot);
    const through = course.find(
      (p) => Math.abs(Math.hypot(p[0] - own[0], p[1] - own[1]) - KNOT_RADIUS - LOOP_REACH / 2) < 1e-6,
    );
    if (!through) return [];
    const angle = angleTo(own, through);
    const tip = away(own, angle, KNOT_RADIUS + LOOP_REACH);
    const leg = (side: 1 | -1): RopePiece[] =>
      piecesThrough([own, away(through, angle + (side * Math.PI) / 2, LOOP_HALF), tip]);
    return [{ under: leg(1), over: leg(-1) }];
  });
  return { under: loops.flatMap((l) => l.under), over: loops.flatMap((l) => l.over) };
}

/** Where an end lies: beyond its knot, away from where the rope comes from, on the board. */
function endBeyond(a: Assembly, own: Point, other: Point | undefined, end: 0 | 1): Point {
  const angle = other ? angleTo(other, own) : end === 0 ? Math.PI : 0;
  const reach = KNOT_RADIUS + TAIL;
  // Turned aside until it is on the board, and clear of the other knots.
  for (const turn of [0.35, -0.35, 0.8, -0.8, 1.3, -1.3, 1.9, -1.9]) {
    const p = away(own, angle + turn, reach);
    const isOn = p[0] > 12 && p[1] > 12 && p[0] < BOARD.width - 12 && p[1] < BOARD.height - 12;
    const isClear = a.knots.every((k) => Math.hypot(k.x - p[0], k.y - p[1]) > KNOT_RADIUS + 12);
    if (isOn && isClear) return p;
  }
  return away(own, angle, KNOT_RADIUS + 12);
}

/** Corners are rounded by so much at most: less than a knot’s picture hides. */
const ROUNDED = 44;

/** Corners in one piece of a rope: few, so that a turn lies over the one before it. */
const IN_A_PIECE = 3;
/** A piece begins so far before the last one ended, and its fill before its outline: no seam is seen. */
const LAP = 1.5;
const FILL_LAP = 4;

/** A piece of a rope as SVG paths: its outline, and what is filled in over it. */
export interface RopePiece {
  readonly outline: string;
  readonly fill: string;
}

/**
 * A line through places, its corners rounded, in the order in which the rope goes: drawn one after the other, each with its outline first, a piece
 * lies over those before it.
 */
export function piecesThrough(points: readonly Point[]): RopePiece[] {
  const [first, ...rest] = points;
  if (!first || rest.length === 0) return [];
  const say = ([x, y]: Point): string => `${x.toFixed(1)} ${y.toFixed(1)}`;
  const toward = (p: Point, q: Point, by: number): Point => away(p, angleTo(p, q), by);
  const half = (p: Point, q: Point): number => Math.hypot(q[0] - p[0], q[1] - p[1]) / 2;
  const corners = rest.slice(0, -1).map((p, i) => {
    const [before, after] = [points[i]!, rest[i + 1]!];
    const [into, out] = [half(p, before), half(p, after)];
    return {
      begins: (lap: number): Point => (i === 0 ? before : toward(p, before, into + Math.min(lap, into))),
      path: `L${say(toward(p, before, Math.min(ROUNDED, into)))}Q${say(p)} ${say(toward(p, after, Math.min(ROUNDED, out)))}L${say(toward(p, after, out))}`,
    };
  });
  const [only] = rest;
  if (corners.length === 0) return [`M${say(first)}L${say(only!)}`].map((path) => ({ outline: path, fill: path }));
  return Array.from({ length: Math.ceil(corners.length / IN_A_PIECE) }, (_, n): RopePiece => {
    const own = corners.slice(n * IN_A_PIECE, (n + 1) * IN_A_PIECE);
    const isLast = (n + 1) * IN_A_PIECE >= corners.length;
    const path = own.map((c) => c.path).join('') + (isLast ? `L${say(rest.at(-1)!)}` : '');
    const from = (lap: number): string => `M${say(own[0]!.begins(lap))}${path}`;
    return { outline: from(LAP), fill: from(FILL_LAP) };
  });
}

/** The loop of a knot that holds a thing, from the knot round the thing and back; none where it has none. */
export function loopPieces(a: Assembly, knot: AssemblyKnot): RopePiece[] {
  const thing = a.things.find((t) => t.id === knot.on);
  if (!thing) return [];
  const [from, centre] = [at(knot), at(thing)];
  const { radius } = THING_SIZES[thing.kind];
  const angle = angleTo(from, centre);
  const round = Math.min(radius, 40) + ROPE_WIDTH / 2;
  const sides = [-1, 1].map((s) => away(centre, angle + (s * Math.PI) / 2, round));
  const far = [-0.55, 0.55].map((s) => away(centre, angle + s, round));
  const [a1, a2] = sides as [Point, Point];
  const [b1, b2] = far as [Point, Point];
  return piecesThrough([from, a1, b1, b2, a2, from]);
}

/** What a part of a thing is made of, as it is painted. */
export interface ThingShape {
  readonly is: 'wood' | 'grain' | 'metal' | 'gate' | 'body';
  readonly path: string;
}

const box = (reach: number, radius: number, round: number): string =>
  `M${-reach + round} ${-radius}H${reach - round}Q${reach} ${-radius} ${reach} ${-radius + round}V${radius - round}` +
  `Q${reach} ${radius} ${reach - round} ${radius}H${-reach + round}Q${-reach} ${radius} ${-reach} ${radius - round}V${-radius + round}Q${-reach} ${-radius} ${-reach + round} ${-radius}Z`;
const oval = (rx: number, ry: number): string => `M${-rx} 0A${rx} ${ry} 0 1 1 ${rx} 0A${rx} ${ry} 0 1 1 ${-rx} 0Z`;

/** How the gate of a carabiner lies. */
const GATE_PATHS: Readonly<Record<AssemblyThing['gate'], string>> = {
  'up and out': 'M23 -14L16 18',
  down: 'M-12 34L10 36',
  'toward the body': 'M-20 -14V16',
  'not looked at': 'M23 -14L16 18',
};

/** The outlines of a thing about its own middle, before it is turned. */
export function shapesOf({ kind, gate }: Pick<AssemblyThing, 'kind' | 'gate'>): ThingShape[] {
  const { radius, reach } = THING_SIZES[kind];
  switch (kind) {
    case 'ring':
      return [{ is: 'metal', path: oval(radius - 6, radius - 6) }];
    case 'carabiner':
      return [
        { is: 'metal', path: 'M-20 -26Q-20 -40 -4 -40H8Q26 -38 24 -18L14 28Q10 40 -4 38Q-18 36 -20 20Z' },
        { is: 'gate', path: GATE_PATHS[gate] },
      ];
    case 'spar':
      return [{ is: 'wood', path: box(reach, radius, radius) }];
    case 'plank':
      return [{ is: 'wood', path: box(reach, radius, 3) }];
    case 'load':
      return [{ is: 'wood', path: box(reach, radius, LOAD_ROUND) }];
    case 'waist':
    case 'thigh':
      return [{ is: 'body', path: oval(reach, radius) }];
    case 'post':
    case 'barrel':
      return [
        { is: 'wood', path: oval(radius, radius) },
        { is: 'grain', path: oval(radius * 0.55, radius * 0.55) },
      ];
  }
}

/** A name on the board: its lines, where the first of them stands, and whether it is a knot’s. */
export interface BoardName {
  readonly lines: readonly string[];
  readonly x: number;
  readonly y: number;
  readonly anchor: 'start' | 'middle' | 'end';
  readonly role: boolean;
}

/** A line of a name has so many letters, and a name so many lines; a name at the edge of the board begins or ends there. */
const LETTERS = 17;
const LINES = 2;
const AT_EDGE = 120;

/** A name in short lines; what is left over is cut. */
function shortLines(text: string): string[] {
  const lines = inLines(text, LETTERS);
  return lines.length <= LINES ? lines : [...lines.slice(0, LINES - 1), `${lines[LINES - 1]} …`];
}

/** The names of things and knots, where they can be read. */
export function boardNames({ things, knots }: Assembly): BoardName[] {
  const name = (text: string, x: number, y: number, edge: number, role: boolean): BoardName => {
    const anchor = x < AT_EDGE ? 'start' : x > BOARD.width - AT_EDGE ? 'end' : 'middle';
    const own = anchor === 'start' ? x - edge : anchor === 'end' ? x + edge : x;
    return { lines: shortLines(text), x: own, y, anchor, role };
  };
  return [
    ...things.map((t) => {
      const { radius, reach } = THING_SIZES[t.kind];
      const turn = (t.turn * Math.PI) / 180;
      // Beside a bar, at the end of it that is farther from what is tied there.
      const ends = isBar(t.kind) ? [-0.75, 0.75] : [0];
      const spots = ends.map((e): Point => [
        Math.min(BOARD.width - 20, Math.max(20, t.x + e * reach * Math.cos(turn))),
        Math.min(BOARD.height - 60, Math.max(20, t.y + e * reach * Math.sin(turn))),
      ]);
      const clear = ([x, y]: Point): number => Math.min(...knots.map((k) => Math.hypot(k.x - x, k.y - y)), Infinity);
      const [x, y] = spots.reduce((p, q) => (clear(q) > clear(p) ? q : p));
      return name(t.name, x, radius > 50 ? y + 7 : y + radius + 30, radius, false);
    }),
    ...knots.map((k) => name(k.role, k.x, k.y + KNOT_RADIUS + 25, KNOT_RADIUS, true)),
  ];
}

/** Colours of ropes that are of no stock, in their order: told apart by lightness, too. */
export const ROPE_COLOURS = ['#f0e7d3', '#9db3bf', '#c9b98a', '#b7c4a1'] as const;

/** The pieces of a rope with its loops, in the order in which they are drawn. A loop is of the rope that is tied to it last. */
export function ropePieces(a: Assembly, rope: number): RopePiece[] {
  const own = a.ropes[rope];
  if (!own) return [];
  const lastRope = (knot: string): number =>
    a.ropes.map((r) => r.stops.some((s) => s.kind === 'knot' && s.knot === knot)).lastIndexOf(true);
  const loops = a.knots.filter((k) => lastRope(k.id) === rope);
  const { under, over } = loopsThrough(a, own);
  return [...loops.flatMap((k) => loopPieces(a, k)), ...under, ...piecesThrough(courseOf(a, own)), ...over];
}

/** Spots that are tried, so far apart and from the edge; and how far from all others is far enough. */
const SPOTS = 100;
const FAR = 400;

/** A place on the board where nothing lies yet. */
export function freeSpot({ knots, things }: Assembly): { x: number; y: number } {
  const taken = [...knots, ...things];
  let best = { x: BOARD.width / 2, y: BOARD.height / 2 };
  let farthest = -1;
  for (let x = SPOTS; x < BOARD.width - SPOTS; x += SPOTS)
    for (let y = SPOTS; y < BOARD.height - SPOTS; y += SPOTS) {
      const near = Math.min(FAR, ...taken.map((t) => Math.hypot(t.x - x, t.y - y)));
      if (near > farthest) [best, farthest] = [{ x, y }, near];
    }
  return best;
}
