/**
 * A form as surfaces: a tube of triangles for every rope and what it is tied to, coloured as the house paints it. Unit: rope diameters;
 * x to the right, y up, z toward the reader, so that a viewer or a glTF file takes the places as they are. Triangles go round
 * counterclockwise as seen from outside.
 */
import type { Look, RopeLook } from '../drawing/look.js';
import { hostLook, TICK } from '../drawing/look.js';
import type { Cordage } from '../figure/cordage.js';
import { leadCount, placeOf, type Chain, type Form, type Solid } from './form.js';
import {
  ballRound,
  crossOf,
  dotOf,
  lengthOfVector,
  less,
  sum,
  times,
  turnedAs,
  unitOf,
  type Vector,
} from './vector.js';

export { PAPER_LOOK } from '../drawing/look.js';
export { STATION_TURNS, type Station } from './sight.js';
export { unpacked } from './unpacked.js';

/** A surface, three numbers a vertex in each list; colours are sRGB from 0 to 1. */
export interface Mesh {
  /** The rope or host. */
  readonly strand: string;
  readonly kind: 'rope' | 'host';
  readonly radius: number;
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  readonly colours: Float32Array;
  /** Of a rope, the trail position of each vertex on its strand. */
  readonly at?: Float32Array | undefined;
  /** Three a triangle. */
  readonly indices: Uint32Array;
}

/** A share of a colour as light adds up, of one as it looks (sRGB, IEC 61966-2-1); both from 0 to 1. */
export const asAdded = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** What a rope looks like, apart from where it lies. */
export interface MeshRope {
  readonly id: string;
  readonly cordage?: Cordage | undefined;
}

/** Vertices round a tube; its rings lie so far apart, in diameters of the rope. */
const ROUND = 16;
const RING = 0.13;
/** Of a plain tube, of one colour. */
const PLAIN_RING = 0.4;
/** How much of a loaded part is shown beyond the knot, in diameters; how far a spar reaches, against the size of the knot. */
const LEAD = 3.2;
const SPAR = 2.6;
/** A post reaches so far to each side of the board. */
const POST = 3;
/** Length of the band at a tail's end, in diameters of the rope. */
const BAND = 0.34;
/** From one strand of a laid rope to the next along it, and how often it has gone round by then; the shade of its grooves. */
const LAY = 1.9;
const STRANDS = 3;
const GROOVE = 0.28;
const SHADE = 0.45;

type Colour = readonly [number, number, number];
const colourOf = (hex: string): Colour => {
  const value = Number.parseInt(hex.slice(1), 16);
  return [(value >> 16) / 255, ((value >> 8) & 255) / 255, (value & 255) / 255];
};
const mixed = (a: Colour, b: Colour, share: number): Colour => [
  a[0] + share * (b[0] - a[0]),
  a[1] + share * (b[1] - a[1]),
  a[2] + share * (b[2] - a[2]),
];

/** A line in space; of a rope, with its trail positions. */
interface Line {
  readonly places: readonly Vector[];
  readonly closed: boolean;
  readonly at?: readonly number[] | undefined;
}

/** The colour of a place: so far along the rope of so much in all, and so far round it, from 0 to 1. */
type Paint = (along: number, whole: number, round: number) => Colour;

/** Colours of a rope by its place among the others, its own colours and its construction. */
function paintOf(
  look: Look,
  own: RopeLook,
  cordage: Cordage | undefined,
  radius: number,
  tails: readonly boolean[],
): Paint {
  const bare = cordage?.construction !== undefined || cordage?.colour !== undefined;
  const body = colourOf(cordage?.colour ?? own.body);
  const ink = colourOf(look.ink);
  const second = cordage?.second === undefined ? mixed(body, ink, 0.6) : colourOf(cordage.second);
  const tick = bare || own.tick === 'none' ? undefined : colourOf(own.tick);
  const groove = mixed(body, ink, SHADE);
  const width = 2 * radius;
  const strand = (along: number, round: number, way: 1 | -1): number => {
    const turns = (along / (LAY * width)) * way + round * STRANDS;
    return turns - Math.floor(turns);
  };
  return (along, whole, round) => {
    if ((tails[0] === true && along < BAND * width) || (tails[1] === true && along > whole - BAND * width))
      return colourOf(look.band);
    if (tick !== undefined) return along % (TICK[0] + TICK[1]) < TICK[0] ? tick : body;
    const base = cordage?.mark === 'two-tone' && along > whole / 2 ? second : body;
    if (cordage?.mark === 'tracer' && strand(along / 2, round / STRANDS, 1) < 0.12) return second;
    if (cordage?.construction === 'laid') return strand(along, round, 1) < GROOVE ? groove : base;
    if (cordage?.construction === 'braided') {
      const [a, b] = [strand(along, round, 1), strand(along, round, -1)];
      return a < GROOVE / 2 || b < GROOVE / 2 ? groove : base;
    }
    return base;
  };
}

/** Places along a line at even lengths, on a smooth curve through those given (Catmull and Rom). */
function evened({ places, closed, at: trail }: Line, step: number): Pick<Course, 'places' | 'whole' | 'trail'> {
  const n = places.length;
  const at = (i: number): Vector => places[closed ? ((i % n) + n) % n : Math.min(n - 1, Math.max(0, i))]!;
  const count = closed ? n : n - 1;
  const lengths = [0];
  for (let i = 0; i < count; i += 1) lengths.push(lengths[i]! + lengthOfVector(less(at(i + 1), at(i))));
  const whole = lengths[count]!;
  const rings = Math.max(closed ? 3 : 1, Math.ceil(whole / step));
  let i = 0;
  const onTrail: number[] = [];
  const out = Array.from({ length: closed ? rings : rings + 1 }, (_, k): Vector => {
    const s = Math.min(whole, (whole * k) / rings);
    while (i < count - 1 && lengths[i + 1]! < s) i += 1;
    const t = (s - lengths[i]!) / (lengths[i + 1]! - lengths[i]! || 1);
    const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    // Where a sling’s trail begins anew it goes no way back.
    const [from, to] = [trail?.[i] ?? 0, trail?.[i + 1] ?? trail?.[i] ?? 0];
    onTrail.push(from + t * (to - from));
    const on = (x: 0 | 1 | 2): number =>
      0.5 *
      (2 * b[x] +
        (c[x] - a[x]) * t +
        (2 * a[x] - 5 * b[x] + 4 * c[x] - d[x]) * t * t +
        (3 * b[x] - a[x] - 3 * c[x] + d[x]) * t * t * t);
    return [on(0), on(1), on(2)];
  });
  return { places: out, whole, ...(trail ? { trail: onTrail } : {}) };
}

/** Directions along a line at each of its places. */
function waysOf(places: readonly Vector[], closed: boolean): Vector[] {
  const n = places.length;
  return places.map((_, i) => {
    const [before, after] = closed ? [(i + n - 1) % n, (i + 1) % n] : [Math.max(0, i - 1), Math.min(n - 1, i + 1)];
    return unitOf(less(places[after]!, places[before]!));
  });
}

/** For every place a direction across, carried along without twist; round a closed line what is left over is shared out. */
function acrossOf(ways: readonly Vector[], closed: boolean): Vector[] {
  const first = ways[0]!;
  const least: Vector = Math.abs(first[0]) < 0.6 ? [1, 0, 0] : [0, 1, 0];
  const across: Vector[] = [unitOf(crossOf(first, least))];
  for (let i = 1; i < ways.length; i += 1) {
    const carried = turnedAs(across[i - 1]!, ways[i - 1]!, ways[i]!);
    across.push(unitOf(less(carried, times(ways[i]!, dotOf(carried, ways[i]!)))));
  }
  if (!closed) return across;
  const back = turnedAs(across.at(-1)!, ways.at(-1)!, first);
  const off = Math.atan2(dotOf(crossOf(back, across[0]!), first), dotOf(back, across[0]!));
  return across.map((u, i) => {
    const angle = (off * i) / across.length;
    return sum(times(u, Math.cos(angle)), times(crossOf(ways[i]!, u), Math.sin(angle)));
  });
}

/** A tube that is to be made. */
interface Course {
  readonly strand: string;
  readonly kind: Mesh['kind'];
  readonly closed: boolean;
  readonly radius: number;
  readonly paint: Paint;
  readonly places: readonly Vector[];
  readonly whole: number;
  /** Trail position of each place. */
  readonly trail?: readonly number[] | undefined;
}

/** A ball within a tube: what lies near another strand is darkened, as the groove between them is in shade. */
interface Ball {
  readonly course: Course;
  /** Length along its course. */
  readonly along: number;
  readonly middle: Vector;
}

/** Strands nearer than this are in each other's shade, so dark where they touch; every so many rings of a rope there is a ball. */
const NEAR = 0.2;
const DARKEST = 0.85;
const EVERY = 3;
/** A strand is not in its own shade nearer along it than this, in its radii. */
const OWN = 4.4;

const alongOf = ({ closed, places, whole }: Course, i: number): number =>
  (whole * i) / (closed ? places.length : Math.max(1, places.length - 1));

/** How dark a place of a course is, from 0 to 1, by the balls that may be near it. */
function shadeAt(p: Vector, near: readonly Ball[]): number {
  let away = NEAR;
  for (const { course, middle } of near) away = Math.min(away, lengthOfVector(less(p, middle)) - course.radius);
  const share = 1 - Math.max(0, away) / NEAR;
  return DARKEST * share * share;
}

/** Balls of all courses by the cells of space, and those near a ring of one. */
function shades(courses: readonly Course[]): (course: Course, i: number) => Ball[] {
  const cell = NEAR + 2 * Math.max(...courses.map((c) => c.radius));
  const cells = new Map<string, Ball[]>();
  const keyOf = (p: Vector, dx = 0, dy = 0, dz = 0): string =>
    [p[0] / cell + dx, p[1] / cell + dy, p[2] / cell + dz].map(Math.floor).join(' ');
  for (const course of courses)
    for (let i = 0; i < course.places.length; i += course.kind === 'rope' ? EVERY : 1) {
      const ball = { course, along: alongOf(course, i), middle: course.places[i]! };
      const key = keyOf(ball.middle);
      const list = cells.get(key);
      if (list) list.push(ball);
      else cells.set(key, [ball]);
    }
  return (course, i) => {
    const [middle, along] = [course.places[i]!, alongOf(course, i)];
    const found: Ball[] = [];
    for (const dx of [-1, 0, 1])
      for (const dy of [-1, 0, 1])
        for (const dz of [-1, 0, 1])
          for (const ball of cells.get(keyOf(middle, dx, dy, dz)) ?? []) {
            const apart = Math.abs(ball.along - along);
            const off = course.closed ? Math.min(apart, course.whole - apart) : apart;
            if (ball.course === course && off < OWN * course.radius) continue;
            if (lengthOfVector(less(ball.middle, middle)) < course.radius + ball.course.radius + NEAR) found.push(ball);
          }
    return found;
  };
}

/** The tube of a course. */
function tube(course: Course, nearOf: (course: Course, i: number) => Ball[], ink: Colour): Mesh {
  const { strand, kind, radius, paint, places, whole, closed, trail } = course;
  const ways = waysOf(places, closed);
  const across = acrossOf(ways, closed);
  const rings = places.length;
  const ends = closed ? 0 : 2;
  const count = rings * ROUND + ends * (ROUND + 1);
  const [positions, normals, colours] = [0, 0, 0].map(() => new Float32Array(3 * count)) as [
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  const indices: number[] = [];
  const at = trail && new Float32Array(count);
  let used = 0;
  /** The board's y goes down, the surface's goes up. */
  const put = (i: number, p: Vector, normal: Vector, colour: Colour): number => {
    if (at) at[used] = trail[i] ?? 0;
    positions.set([p[0], -p[1], p[2]], 3 * used);
    normals.set([normal[0], -normal[1], normal[2]], 3 * used);
    colours.set(colour, 3 * used);
    return used++;
  };
  const outward = (i: number, k: number): Vector => {
    const angle = (2 * Math.PI * k) / ROUND;
    const u = across[i]!;
    return sum(times(u, Math.cos(angle)), times(crossOf(ways[i]!, u), Math.sin(angle)));
  };
  for (let i = 0; i < rings; i += 1) {
    const near = nearOf(course, i);
    for (let k = 0; k < ROUND; k += 1) {
      const out = outward(i, k);
      const p = sum(places[i]!, times(out, radius));
      put(i, p, out, mixed(paint(alongOf(course, i), whole, k / ROUND), ink, shadeAt(p, near)));
    }
  }
  const vertex = (i: number, k: number): number => (i % rings) * ROUND + (k % ROUND);
  for (let i = 0; i < (closed ? rings : rings - 1); i += 1)
    for (let k = 0; k < ROUND; k += 1) {
      const [a, b, c, d] = [vertex(i, k), vertex(i + 1, k), vertex(i + 1, k + 1), vertex(i, k + 1)];
      indices.push(a, b, c, a, c, d);
    }
  for (const [i, side] of closed
    ? []
    : ([
        [0, -1],
        [rings - 1, 1],
      ] as const)) {
    const normal = times(ways[i]!, side);
    const middle = put(i, places[i]!, normal, paint(alongOf(course, i), whole, 0));
    const rim = Array.from({ length: ROUND }, (_, k) =>
      put(i, sum(places[i]!, times(outward(i, k), radius)), normal, paint(alongOf(course, i), whole, k / ROUND)),
    );
    rim.forEach((v, k) => {
      const w = rim[(k + 1) % ROUND]!;
      indices.push(...(side > 0 ? [middle, w, v] : [middle, v, w]));
    });
  }
  return {
    strand,
    kind,
    radius,
    positions,
    normals,
    colours,
    ...(at ? { at } : {}),
    indices: Uint32Array.from(indices),
  };
}

/** The beads of a chain that are shown: its straight leads are cut a little beyond the knot. */
function shownPart(chain: Chain): [number, number] {
  const [first, last] = leadCount(chain);
  const n = chain.at.length;
  const isTail = (bead: number): boolean => chain.outlets.some((o) => o.kind === 'tail' && o.first === bead);
  const walk = (from: number, step: 1 | -1, end: number): number => {
    let length = 0;
    for (let i = from; i !== end; i += step) {
      length += lengthOfVector(less(placeOf(chain.x, i + step), placeOf(chain.x, i)));
      if (length > LEAD) return i;
    }
    return end;
  };
  const from = isTail(0) ? 0 : walk(first, -1, 0);
  const to = isTail(n - 1) ? n - 1 : walk(n - 1 - last, 1, n - 1);
  return [from, to + 1];
}

/** What is near the knot of something straight. */
function nearPart({ closed, x, kind, radius }: Solid, ball: { middle: Vector; radius: number }): Line {
  const places = Array.from({ length: x.length / 3 }, (_, i) => placeOf(x, i));
  if (closed || places.length > 2) return { places, closed };
  const [a, b] = places as [Vector, Vector];
  const way = unitOf(less(b, a));
  const middle = sum(a, times(way, dotOf(less(ball.middle, a), way)));
  const reach = kind === 'post' ? POST : SPAR * (ball.radius + radius);
  return { places: [sum(middle, times(way, -reach)), middle, sum(middle, times(way, reach))], closed: false };
}

/** The surfaces of a form: its ropes, then what they are tied to. */
export function meshesOf(ropes: readonly MeshRope[], form: Form, look: Look): Mesh[] {
  const indexOf = (id: string): number =>
    Math.max(
      0,
      ropes.findIndex((r) => r.id === id),
    );
  const own = (id: string): RopeLook => look.ropes[indexOf(id) % look.ropes.length] as RopeLook;
  const shown = form.chains.map((c) => ({ c, part: shownPart(c) }));
  const ball = ballRound(
    shown.flatMap(({ c, part: [from, to] }) => Array.from({ length: to - from }, (_, k) => placeOf(c.x, from + k))),
  ) ?? { middle: [0, 0, 0] as Vector, radius: 1 };
  const ofRopes = shown.map(({ c, part: [from, to] }): Course => {
    const isTail = (bead: number): boolean => c.outlets.some((o) => o.kind === 'tail' && o.first === bead);
    const tails = [from === 0 && isTail(0), to === c.at.length && isTail(c.at.length - 1)];
    const { cordage } = ropes[indexOf(c.rope)] ?? {};
    const line = {
      places: Array.from({ length: to - from }, (_, k) => placeOf(c.x, from + k)),
      closed: c.closed,
      at: Array.from(c.at.subarray(from, to)),
    };
    const paint = paintOf(look, own(c.rope), cordage, c.radius, tails);
    return { ...line, strand: c.rope, kind: 'rope', radius: c.radius, paint, ...evened(line, RING * 2 * c.radius) };
  });
  const ofSolids = form.solids.map((s): Course => {
    const isRope = s.kind === 'rope';
    const plain = colourOf(hostLook(look, s.kind === 'rope' ? undefined : s.kind).body);
    const { cordage } = isRope ? (ropes[indexOf(s.host)] ?? {}) : {};
    const paint = isRope ? paintOf(look, own(s.host), cordage, s.radius, []) : (): Colour => plain;
    const line = nearPart(s, ball);
    const even = evened(line, isRope ? RING * 2 * s.radius : PLAIN_RING);
    return { ...line, strand: s.host, kind: isRope ? 'rope' : 'host', radius: s.radius, paint, ...even };
  });
  const courses = [...ofRopes, ...ofSolids];
  const nearOf = shades(courses);
  return courses.map((c) => tube(c, nearOf, colourOf(look.ink)));
}
