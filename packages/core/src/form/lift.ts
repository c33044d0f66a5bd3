/**
 * From a drawn figure to ropes in space: every rope a chain of beads, over and under become height, ends are drawn out beyond the
 * drawing, loops that stay are held by a peg. Unit: rope diameters; x and y as on the board, z toward the reader.
 */
import { diameterOf } from '../figure/cordage.js';
import { crossingsOf, passagesOf } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, lengthOf, lengthTo, pointAt } from '../figure/curve.js';
import { hostIsClosed, HOST_SIZE, type End, type Figure, type Host, type Rope } from '../figure/figure.js';
import { isHeldTaut } from '../figure/held-taut.js';
import { postMiddle } from '../figure/hosts.js';
import { add, boxOf, scale, subtract, unit, type Box, type Point } from '../figure/point.js';
import { accept, refuse, type Refusal, type Result } from '../figure/refusal.js';
import type { Chain, Form, Outlet, Solid } from './form.js';
import { dotOf, type Vector } from './vector.js';

export interface Lift extends Form {
  /** How much the drawing was enlarged, so that its strands have room. */
  readonly enlarged: number;
}

/** Spacing of the beads of a lift, in diameters of their rope. */
const LIFT_SPACING = 0.4;
/** How far beyond the drawing ends are drawn out, in diameters. */
const DRAWN_OUT = 10;
/** Radius of the peg that holds a loop, to the middle of the rope. */
const PEG = 1.2;
/** Two crossings of a strand nearer than this leave no room to go from over to under: the drawing is enlarged. */
const ROOM = 1.8;
/** Room that a drawing is given if it need not be enlarged by more than so much for it. */
const NEAT_ROOM = 2.6;
const MOST_IF_NEAT = 1.5;
/** A bend sharper than this radius would press on itself: the drawing is enlarged; bends are measured over twice such a step. */
const BENDS = 1.15;
const BEND_STEP = 0.5;
const MOST_ENLARGED = 4;
/** Where every strand has more room than this between two crossings, the drawing is made smaller: it is the sooner drawn taut. */
const AMPLE = 2.9;
const LEAST_ENLARGED = 0.5;
/** Beads that are computed at most: longer ropes are refused. */
const MOST_BEADS = 4000;

/** A rope as points in the plane: drawn out beyond its ends, with pegs in its loops. */
interface Drawn {
  readonly rope: Rope;
  readonly points: Point[];
  readonly at: number[];
  /** Length of the drawn rope to each point, in diameters of the enlarged drawing; beyond its ends it goes on. */
  readonly along: number[];
  /** The first and the last point that lie on the drawn rope: those before and after were drawn out. */
  readonly first: number;
  readonly last: number;
  readonly outlets: Outlet[];
}

/** Where a ray from inside a box is well beyond it. */
function beyond(from: Point, way: Point, box: Box): number {
  let reach = 0;
  for (const axis of [0, 1] as const) {
    const w = way[axis];
    if (Math.abs(w) < 1e-9) continue;
    const side = w > 0 ? box[axis + 2]! : box[axis];
    const t = (side - from[axis]) / w;
    reach = reach === 0 ? Math.max(t, 0) : Math.min(reach, Math.max(t, 0));
  }
  return reach + DRAWN_OUT;
}

function draw(rope: Rope, by: number, box: Box): Drawn {
  const curve = curveOf(rope);
  const length = lengthOf(curve) * by;
  const spacing = LIFT_SPACING * diameterOf(rope);
  const radius = PEG * diameterOf(rope);
  const n = Math.max(8, Math.ceil(length / spacing));
  const middle: Point = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
  const eyes = [...(rope.eyes ?? [])]
    .map((e) => ({ e, along: lengthTo(curve, e) * by }))
    .sort((p, q) => p.along - q.along);
  // A sling begins well after a peg, so that none is cut in two by its start.
  const begin = rope.closed && eyes[0] ? eyes[0].along + 2 * radius + spacing : 0;
  const drawn: Drawn = { rope, points: [], at: [], along: [], first: 0, last: 0, outlets: [] };
  const put = (p: Point, at: number, along: number): void => {
    drawn.points.push(p);
    drawn.at.push(at);
    drawn.along.push(along);
  };
  const pegged = new Set<number>();
  for (let i = 0; i < (rope.closed ? n : n + 1); i += 1) {
    const along = (begin + (length * i) / n) % (rope.closed ? length : Infinity);
    const eye = eyes.find(
      (q) => Math.abs(q.along - along) < 2 * radius || length - Math.abs(q.along - along) < 2 * radius,
    );
    if (!eye || (!rope.closed && Math.abs(eye.along - along) >= 2 * radius)) {
      const at = atLength(curve, along / by);
      put(scale(pointAt(curve, at), by), at, along);
    } else if (!pegged.has(eye.e)) {
      pegged.add(eye.e);
      const apex = scale(pointAt(curve, eye.e), by);
      const outward = unit(subtract(apex, middle));
      const normal: Point = [-outward[1], outward[0]];
      const way = directionAt(curve, eye.e);
      const across = normal[0] * way[0] + normal[1] * way[1] >= 0 ? normal : scale(normal, -1);
      const first = drawn.points.length;
      for (const p of peg(apex, across, outward, radius, spacing)) put(p, eye.e, eye.along);
      drawn.outlets.push({ kind: 'eye', first, last: drawn.points.length - 1, way: flat(outward) });
    }
  }
  return { ...drawn, last: drawn.points.length - (rope.closed ? 0 : 1) };
}

/** An open rope with its ends drawn out straight beyond the drawing, but for a tail that would have to pass other strands. */
function drawnOut(figure: Figure, own: Drawn, all: readonly Drawn[], box: Box, by: number): Drawn {
  const { rope, points, at, along, outlets } = own;
  if (rope.closed) return own;
  const curve = curveOf(rope);
  const spacing = LIFT_SPACING * diameterOf(rope);
  const isFree = (from: Point, to: Point): boolean =>
    all.every((d) =>
      d.points.every((p, i) => {
        const q = d.points[i + 1] ?? (d.rope.closed ? d.points[0] : undefined);
        return q === undefined || p === from || q === from || !chordsMeet(from, to, p, q);
      }),
    );
  const out = (end: End, from: Point, way: Point): Point[] => {
    const reach = beyond(from, way, box);
    if (end === 'tail' && !isFree(from, add(from, scale(way, reach)))) return [];
    return Array.from({ length: Math.ceil(reach / spacing) }, (_, k) => add(from, scale(way, (k + 1) * spacing)));
  };
  const lastTrail = at.at(-1)!;
  const ways = [scale(directionAt(curve, 0), -1), directionAt(curve, lastTrail)] as const;
  const before = out(rope.ends[0], points[0]!, ways[0]).reverse();
  const after = out(rope.ends[1], points.at(-1)!, ways[1]);
  const shifted = outlets.map((o) => ({ ...o, first: o.first + before.length, last: o.last + before.length }));
  const last = before.length + points.length + after.length - 1;
  const passages = passagesOf(figure, rope.id);
  const slack = (k: 0 | 1): number => {
    const to = (k === 0 ? passages[0] : passages.at(-1))?.at ?? 0;
    return by * (k === 0 ? lengthTo(curve, to) : lengthOf(curve) - lengthTo(curve, to));
  };
  const outlet = (k: 0 | 1, bead: number, drawn: readonly Point[]): Outlet => ({
    kind: rope.ends[k],
    first: bead,
    last: bead,
    way: flat(ways[k]),
    ...(drawn.length === 0 && rope.ends[k] === 'tail' ? { inside: true, slack: slack(k) } : {}),
  });
  return {
    rope,
    points: [...before, ...points, ...after],
    at: [...before.map(() => 0), ...at, ...after.map(() => lastTrail)],
    along: [
      ...before.map((_, k) => (k - before.length) * spacing),
      ...along,
      ...after.map((_, k) => along.at(-1)! + (k + 1) * spacing),
    ],
    first: before.length,
    last: before.length + points.length - 1,
    outlets: [outlet(0, 0, before), ...shifted, outlet(1, last, after)],
  };
}

/** Tails leave beside a loaded part at least this far apart, as the sine and cosine of the angle. */
const SPREAD = { sine: 0.45, cosine: 0.893 } as const;

/** Tails that leave nearly as a loaded part does are spread from it, to the side on which they are drawn. */
function spreadTails(drawn: readonly Drawn[]): Drawn[] {
  const loaded = drawn.flatMap((d) =>
    d.outlets.flatMap((o) => (o.kind === 'tail' ? [] : [{ way: o.way, place: d.points[(o.first + o.last) >> 1]! }])),
  );
  return drawn.map((d) => ({
    ...d,
    outlets: d.outlets.map((o) => {
      if (o.kind !== 'tail' || o.inside === true) return o;
      const beside = loaded.find((q) => dotOf(q.way, o.way) > SPREAD.cosine);
      if (!beside) return o;
      const [u, place] = [beside.way, d.points[o.first]!];
      const side = Math.sign(u[0] * (place[1] - beside.place[1]) - u[1] * (place[0] - beside.place[0])) || 1;
      const way: Vector = [
        SPREAD.cosine * u[0] - side * SPREAD.sine * u[1],
        SPREAD.cosine * u[1] + side * SPREAD.sine * u[0],
        0,
      ];
      return { ...o, way };
    }),
  }));
}

/** Point of a drawn rope that is nearest to a trail position. */
function beadAt({ rope, along, first, last }: Drawn, at: number, by: number): number {
  const wanted = lengthTo(curveOf(rope), at) * by;
  let best = first;
  for (let i = first; i <= Math.min(last, along.length - 1); i += 1)
    if (Math.abs(along[i]! - wanted) < Math.abs(along[best]! - wanted)) best = i;
  return best;
}

const isDrawnOut = ({ rope, first, last }: Drawn, bead: number): boolean =>
  !rope.closed && (bead < first || bead >= last);

/** A demand on heights: bead `a` lies at least `gap` above bead `b`, or above (−1: beneath) what does not move. */
interface Above {
  readonly a: number;
  readonly b: number;
  readonly gap: number;
}

/** The number of a fixed height of nought, among beads. */
const FIXED = -1;

/** Heights that satisfy what the weave demands, as flat as they can be. */
function heights(
  runs: readonly (readonly [number, number, boolean])[],
  pegs: Uint8Array,
  demands: readonly Above[],
): Float64Array {
  const z = new Float64Array(pegs.length);
  const next = new Float64Array(pegs.length);
  const isFixed = (i: number): boolean => i === FIXED || pegs[i] === 1;
  for (let round = 0; round < 240; round += 1) {
    for (const [from, to, ring] of runs)
      for (let i = from; i < to; i += 1) {
        const [p, q] = [i > from ? i - 1 : ring ? to - 1 : i, i < to - 1 ? i + 1 : ring ? from : i];
        next[i] = pegs[i] === 1 ? 0 : round < 200 ? 0.498 * (z[p]! + z[q]!) : z[i]!;
      }
    z.set(next);
    for (let sweep = 0; sweep < 4; sweep += 1)
      for (const { a, b, gap } of demands) {
        const lacking = gap - ((a === FIXED ? 0 : z[a]!) - (b === FIXED ? 0 : z[b]!));
        if (lacking <= 0) continue;
        const share = isFixed(a) || isFixed(b) ? lacking : lacking / 2;
        if (!isFixed(a)) z[a]! += share;
        if (!isFixed(b)) z[b]! -= share;
      }
  }
  return z;
}

/** Where two chords meet, as fractions of them. */
function chordsMeet(p: Point, q: Point, r: Point, s: Point): boolean {
  const side = (a: Point, b: Point, c: Point): number => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
  return side(p, q, r) > 0 !== side(p, q, s) > 0 && side(r, s, p) > 0 !== side(r, s, q) > 0;
}

const spaced = (from: Point, to: Point): Float64Array => Float64Array.of(from[0], from[1], 0, to[0], to[1], 0);

function solidOf(host: Host, by: number, box: Box): Solid {
  const radius = (host.size ?? HOST_SIZE) / 2;
  const base = { host: host.id, kind: host.kind, radius };
  if (host.kind === 'post') {
    const [x, y] = scale(postMiddle(host), by);
    return { ...base, closed: false, x: Float64Array.of(x, y, -400, x, y, 400) };
  }
  if (host.kind === 'spar') {
    const [a, b] = [scale(host.points[0]!, by), scale(host.points.at(-1)!, by)];
    const far = scale(unit(subtract(b, a)), 400 + box[2] - box[0]);
    return { ...base, closed: false, x: spaced(subtract(a, far), add(b, far)) };
  }
  const curve = curveOf(host);
  const n = Math.ceil((lengthOf(curve) * by) / 0.3);
  const closed = hostIsClosed(host);
  const x = new Float64Array(3 * (closed ? n : n + 1));
  for (let i = 0; i < x.length / 3; i += 1) {
    const p = scale(pointAt(curve, atLength(curve, (lengthOf(curve) * i) / n)), by);
    x.set([p[0], p[1], 0], 3 * i);
  }
  return { ...base, closed, x };
}

/** How much a drawing is enlarged so that every strand has room between two of its crossings, or made smaller where there is ample room. */
function enlargement(figure: Figure): number {
  let least = Infinity;
  for (const rope of figure.ropes) {
    const curve = curveOf(rope);
    const own = crossingsOf(figure)
      .flatMap((c) => [c.first, c.second])
      .filter((p) => p.strand === rope.id)
      .map((p) => lengthTo(curve, p.at))
      .sort((a, b) => a - b);
    own.forEach((s, i) => {
      if (i > 0) least = Math.min(least, (s - own[i - 1]!) / diameterOf(rope));
    });
  }
  const sharp = BENDS / Math.min(...figure.ropes.map(sharpest));
  // What is drawn neatly is given room for its slopes and bends; a scrawl only what it cannot do without.
  const neat = Math.min(MOST_IF_NEAT, Math.max(NEAT_ROOM / least, sharp));
  const need = Math.max(ROOM / least, neat);
  return need > 1 ? Math.min(MOST_ENLARGED, need) : Math.max(LEAST_ENLARGED, sharp, Math.min(1, AMPLE / least));
}

/** Radius of the sharpest bend of a drawn rope, in its diameters. */
function sharpest(rope: Rope): number {
  const curve = curveOf(rope);
  const [whole, thick] = [lengthOf(curve), diameterOf(rope)];
  let least = Infinity;
  for (let at = BEND_STEP; at < whole - BEND_STEP; at += BEND_STEP) {
    const [d, e] = [at - BEND_STEP, at + BEND_STEP].map((l) => directionAt(curve, atLength(curve, l))) as [
      Point,
      Point,
    ];
    const chord = Math.sqrt((e[0] - d[0]) * (e[0] - d[0]) + (e[1] - d[1]) * (e[1] - d[1]));
    if (chord > 1e-6) least = Math.min(least, (2 * BEND_STEP) / chord / thick);
  }
  return least;
}

/** The peg's half circle about a loop's apex, from the leg that comes to the leg that goes. */
function peg(apex: Point, along: Point, out: Point, radius: number, spacing: number): Point[] {
  const n = Math.max(4, Math.round((Math.PI * radius) / spacing));
  return Array.from({ length: n + 1 }, (_, k) => {
    const turn = Math.PI * (k / n) - Math.PI / 2;
    return add(apex, add(scale(along, radius * Math.sin(turn)), scale(out, radius * Math.cos(turn))));
  });
}

const tooLong = (diameters: number): Refusal =>
  refuse(
    'figure',
    `Its ropes are ${Math.round(diameters)} diameters long as they must be laid out; ${Math.round(MOST_BEADS * LIFT_SPACING)} are the most that are set.`,
    'Draw it smaller, with shorter loops and ends, and give strands that lie close more room.',
  );

/**
 * Lifts a figure into space, drawn so much `roomier` than need be. A hand is taken out: it is no part of the knot. Refuses a figure without rope, and one whose heights
 * cannot be told.
 */
export function lift(whole: Figure, roomier = 1): Result<Lift> {
  const figure: Figure = whole.hosts.some((h) => h.kind === 'hand')
    ? { ...whole, hosts: whole.hosts.filter((h) => h.kind !== 'hand') }
    : whole;
  if (figure.hosts.length !== whole.hosts.length)
    return refuse('figure', 'A hand still lies in the knot.', 'Set the layout in which the hand is taken out.');
  if (figure.ropes.length === 0)
    return refuse('figure', 'There is no rope on the board.', 'Lay one from its standing part to its end.');
  const by = roomier * enlargement(figure);
  const moving = figure.ropes.filter((r) => !isHeldTaut(r, figure));
  const box =
    boxOf(
      crossingsOf(figure)
        .map((c) => scale(c.point, by))
        .concat(moving.flatMap((r) => (r.eyes ?? []).map((e) => scale(pointAt(curveOf(r), e), by)))),
    ) ?? boxOf(figure.ropes.flatMap((r) => r.points.map((p) => scale(p, by))))!;
  const solids = figure.hosts.map((h) => solidOf(h, by, box));
  for (const rope of figure.ropes.filter((r) => !moving.includes(r))) {
    const [a, b] = [scale(rope.points[0]!, by), scale(rope.points.at(-1)!, by)];
    const far = scale(unit(subtract(b, a)), 400);
    solids.push({
      host: rope.id,
      kind: 'rope',
      closed: false,
      radius: diameterOf(rope) / 2,
      x: spaced(subtract(a, far), add(b, far)),
    });
  }
  const length = moving.reduce((sum, r) => sum + (lengthOf(curveOf(r)) * by) / diameterOf(r), 0);
  if (length / LIFT_SPACING > MOST_BEADS) return tooLong(length);
  const bare = moving.map((r) => draw(r, by, box));
  const drawn = spreadTails(bare.map((d) => drawnOut(figure, d, bare, box, by)));
  const starts: number[] = [];
  let count = 0;
  for (const d of drawn) {
    starts.push(count);
    count += d.points.length;
  }
  if (count > MOST_BEADS) return tooLong(count * LIFT_SPACING);
  const demands = heightDemands(figure, drawn, starts, by);
  const pegs = new Uint8Array(count);
  drawn.forEach((d, k) => {
    for (const o of d.outlets) if (o.kind === 'eye') pegs.fill(1, starts[k]! + o.first, starts[k]! + o.last + 1);
  });
  const z = heights(
    drawn.map((d, k) => [starts[k]!, starts[k]! + d.points.length, d.rope.closed] as const),
    pegs,
    demands,
  );
  return accept({
    chains: drawn.map((d, k) => chainOf(d, z.subarray(starts[k], starts[k]! + d.points.length))),
    solids,
    enlarged: by,
  });
}

function chainOf({ rope, points, at, outlets }: Drawn, z: Float64Array): Chain {
  return {
    rope: rope.id,
    closed: rope.closed,
    radius: diameterOf(rope) / 2,
    x: Float64Array.from(points.flatMap((p, i) => [p[0], p[1], z[i]!])),
    at: Float64Array.from(at),
    outlets,
  };
}

const flat = (p: Point): Vector => [p[0], p[1], 0];

/** What the weave demands of the heights: along every crossing as far as its strands lie over one another. */
function heightDemands(figure: Figure, drawn: readonly Drawn[], starts: readonly number[], by: number): Above[] {
  const demands: Above[] = [];
  const indexOf = new Map(drawn.map((d, k) => [d.rope.id, k]));
  /** Walks both ways from a meeting of two chains and demands height wherever they lie over one another. */
  const stack = (over: number, overBead: number, under: number, underBead: number): void => {
    const [o, u] = [drawn[over]!, drawn[under]!];
    const reach = ((diameterOf(o.rope) + diameterOf(u.rope)) / 2) * 1.02;
    const wrap = (d: Drawn, i: number): number | undefined => {
      if (d.rope.closed) return (i + d.points.length) % d.points.length;
      return i < 0 || i >= d.points.length ? undefined : i;
    };
    for (let k = -6; k <= 6; k += 1)
      for (let m = -6; m <= 6; m += 1) {
        const [i, j] = [wrap(o, overBead + k), wrap(u, underBead + m)];
        if (i === undefined || j === undefined) continue;
        if (over === under && Math.abs(i - j) < 5) continue;
        const [dx, dy] = subtract(o.points[i]!, u.points[j]!);
        const rest = reach * reach - dx * dx - dy * dy;
        if (rest > 0) demands.push({ a: starts[over]! + i, b: starts[under]! + j, gap: Math.sqrt(rest) });
      }
  };
  const onHost = (k: number, bead: number, over: boolean, size: number): void => {
    const gap = (size + diameterOf(drawn[k]!.rope)) / 2;
    const i = starts[k]! + bead;
    demands.push(over ? { a: i, b: FIXED, gap } : { a: FIXED, b: i, gap });
  };
  const hostSize = (strand: string): number => {
    const host = figure.hosts.find((h) => h.id === strand);
    if (host) return host.kind === 'post' ? 0.2 : (host.size ?? HOST_SIZE);
    return diameterOf(figure.ropes.find((r) => r.id === strand)!);
  };
  for (const c of crossingsOf(figure)) {
    const [over, under] = [indexOf.get(c.over.strand), indexOf.get(c.under.strand)];
    if (over !== undefined && under !== undefined)
      stack(over, beadAt(drawn[over]!, c.over.at, by), under, beadAt(drawn[under]!, c.under.at, by));
    else if (over !== undefined) onHost(over, beadAt(drawn[over]!, c.over.at, by), true, hostSize(c.under.strand));
    else if (under !== undefined) onHost(under, beadAt(drawn[under]!, c.under.at, by), false, hostSize(c.over.strand));
  }
  // What is drawn out passes over everything it meets.
  drawn.forEach((d, k) => {
    for (let i = 0; i < d.points.length - 1; i += 1) {
      if (!isDrawnOut(d, i)) continue;
      drawn.forEach((e, m) => {
        for (let j = 0; j < e.points.length - 1; j += 1) {
          if ((k === m && Math.abs(i - j) < 3) || (isDrawnOut(e, j) && m <= k)) continue;
          if (chordsMeet(d.points[i]!, d.points[i + 1]!, e.points[j]!, e.points[j + 1]!)) stack(k, i, m, j);
        }
      });
    }
  });
  return demands;
}
