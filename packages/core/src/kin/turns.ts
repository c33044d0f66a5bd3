/**
 * Turns: where a rope comes back to a region of the board that it has bordered before, what lies between goes round something: a turn. It
 * is taken out by going straight from the one place to the other. One more is laid beside it, where the rope passes beside itself the
 * same way round, or after it, where the turns follow each other along what they go round, as those of a coil do.
 */
import { MOST_MORE } from './kinds.js';
import { LIMITS, onBoard } from '../figure/bounds.js';
import { crossingsOf, meetings, passagesOf, weaveFigure, type Crossing } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, lengthOf, lengthTo, lineBetween, pointAt } from '../figure/curve.js';
import { lastAt, withRope, ropeOf, type Figure, type Host, type Rope } from '../figure/figure.js';
import { through, type Mapping } from '../figure/mapping.js';
import { add, distance, dot, scale, subtract, unit, type Point } from '../figure/point.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { readMap } from '../topology/planar-map.js';
import { besidePlace, enlarged, LANE, laneBeside, SIZES, wovenAlike, type Lane } from './lanes.js';

/** A turn of a rope: what lies between two places on the border of one face. */
export interface Turn {
  readonly rope: string;
  readonly from: number;
  readonly to: number;
  /** How its beginning and end lie: the later to the left of the earlier (1), to its right (−1), or after it (0). */
  readonly side: 1 | -1 | 0;
  /** Strands it goes round, over them and under them. */
  readonly about: readonly string[];
  /** How often it goes round them. */
  readonly times: number;
  /** Passages on it. */
  readonly passages: number;
  /** The darts of the planar map on which it begins and ends, on the border of one face. */
  readonly darts: readonly [number, number];
}

/** How far from the crossing that begins or ends it a place is sought on a long run, in diameters. */
const SEEK = 8;
const SAMPLES = 9;
/** What it costs, in diameters, that the rope does not run alike at both places: the lanes would meet at an angle. */
const UNLIKE = 2;

/** Every turn of a figure, those with the fewest passages first. */
export function turnsIn(figure: Figure): readonly Turn[] {
  const map = readMap(figure);
  if (!map.ok) return [];
  const { edges, faces } = map.value;
  const turns = new Map<string, Turn>();
  for (const face of faces)
    for (const [i, a] of face.darts.entries())
      for (const b of face.darts.slice(i + 1)) {
        if (a >> 1 === b >> 1) continue;
        const [p, q] = [edges[a >> 1], edges[b >> 1]];
        if (!q || p?.strand !== q.strand) continue;
        const rope = ropeOf(figure, p.strand);
        if (!rope || rope.closed) continue;
        const [first, second, dart, other] = p.from < q.from ? [p, q, a, b] : [q, p, b, a];
        // One along the face and the other against it: the rope passes twice the same way, the face between.
        const side = (a & 1) === (b & 1) ? 0 : (dart & 1) === 0 ? 1 : -1;
        const turn = turnBetween(figure, rope, first, second, side, [dart, other]);
        if (turn) turns.set(`${turn.rope} ${turn.side === 0} ${passedNumbers(figure, turn).join()}`, turn);
      }
  return [...turns.values()].sort((x, y) => x.passages - y.passages);
}

const passedNumbers = (figure: Figure, { rope, from, to }: Turn): readonly number[] =>
  passagesOf(figure, rope).flatMap((p) => (p.at > from && p.at < to ? [p.crossing.number] : []));

function turnBetween(
  figure: Figure,
  rope: Rope,
  first: { readonly from: number; readonly to: number },
  second: { readonly from: number; readonly to: number },
  side: Turn['side'],
  darts: Turn['darts'],
): Turn | undefined {
  const curve = curveOf(rope);
  // Places on a run, not so near its crossings that a lane would lie on them.
  const placesOn = ({ from, to }: { readonly from: number; readonly to: number }): number[] => {
    let [a, b] = [lengthTo(curve, from), lengthTo(curve, to)];
    if (from === 0) a = Math.max(a, b - SEEK);
    if (to === lastAt(rope)) b = Math.min(b, a + SEEK);
    const clear = Math.min(LANE, (b - a) / 3);
    return Array.from({ length: SAMPLES }, (_, i) =>
      atLength(curve, a + clear + ((b - a - 2 * clear) * i) / (SAMPLES - 1)),
    );
  };
  let best: { readonly from: number; readonly to: number; readonly off: number } | undefined;
  for (const from of placesOn(first))
    for (const to of placesOn(second)) {
      const [p, q] = [pointAt(curve, from), pointAt(curve, to)];
      const way = unit(subtract(q, p));
      const [d, e] = [directionAt(curve, from), directionAt(curve, to)];
      // Beside each other, about two lanes apart and running alike is best: nearer is too tight for one more, farther leaves a
      // step. After each other, the rope best runs the way from the one place to the other.
      const off =
        side === 0
          ? 2 - dot(d, way) - dot(e, way)
          : Math.abs(distance(p, q) - 2 * LANE) +
            UNLIKE * (1 - dot(d, e)) +
            UNLIKE * (Math.abs(dot(d, way)) + Math.abs(dot(e, way)));
      if (to > from && (!best || off < best.off)) best = { from, to, off };
    }
  if (!best) return undefined;
  const { from, to } = best;
  const passed = passagesOf(figure, rope.id).filter((p) => p.at > from && p.at < to);
  const ways = new Map<string, boolean[]>();
  for (const p of passed) {
    const own = p.other.strand === rope.id && p.other.at > from && p.other.at < to;
    if (!own) ways.set(p.other.strand, [...(ways.get(p.other.strand) ?? []), p.over]);
  }
  const all = new Set([...ways.values()].flat());
  // What passes all over, or all under, comes away: it goes round nothing.
  if (all.size < 2) return undefined;
  const round = [...ways].map(([strand, w]) => ({
    strand,
    times: w.filter((over, i) => over !== w.at(i - 1)).length / 2,
  }));
  const about = round.filter((r) => r.times > 0).map((r) => r.strand);
  const times = Math.max(1, ...round.map((r) => r.times));
  return {
    rope: rope.id,
    from,
    to,
    side,
    about: about.length > 0 ? about : [...ways.keys()],
    times,
    passages: passed.length,
    darts,
  };
}

/** How far from a face's border a link across it runs, in diameters: nearer than anything else of the drawing. */
const HUG = 0.02;
/** How far before a corner of the face the link turns off, in diameters: so that it is clear of the other strand there. */
const CUT_CORNER = 0.3;

const withoutRepeats = (points: readonly Point[]): Point[] =>
  points.filter((p, i, all) => i === 0 || distance(all[i - 1] as Point, p) > 1e-6);

/** The way from the beginning of a turn to its end along the border of their face; none when a held end stands in it both ways. */
function linkOf(figure: Figure, { from, to, darts: [a, b] }: Turn): readonly Point[] | undefined {
  const map = readMap(figure);
  if (!map.ok) return undefined;
  const { edges, faceOf, faces, origin, vertices } = map.value;
  const cycle = faces[faceOf[a] as number]?.darts ?? [];
  const strands = new Map<string, Rope | Host>([...figure.ropes, ...figure.hosts].map((s) => [s.id, s]));
  /** A dart's run beside its strand, between two places on it or its corners. */
  const beside = (dart: number, start?: number, end?: number): readonly Point[] => {
    const { strand, from: low, to: high } = edges[dart >> 1] as (typeof edges)[number];
    const curve = curveOf(strands.get(strand) as Rope);
    const forward = (dart & 1) === 0;
    const whole = lengthOf(curve);
    const [first, last] = [lengthTo(curve, low), lengthTo(curve, high) + (low > high ? whole : 0)];
    const cut = Math.min(CUT_CORNER, (last - first) / 3);
    const at = (place: number | undefined, corner: number): number =>
      place === undefined ? corner : lengthTo(curve, place);
    const [s, e] = forward
      ? [at(start, first + cut), at(end, last - cut)]
      : [at(start, last - cut), at(end, first + cut)];
    const n = Math.max(1, Math.ceil(Math.abs(e - s) / 0.4));
    return Array.from({ length: n + 1 }, (_, i): Point => {
      const place = atLength(curve, (s + ((e - s) * i) / n) % whole);
      const [dx, dy] = directionAt(curve, place);
      return add(pointAt(curve, place), scale([dy, -dx], forward ? HUG : -HUG));
    });
  };
  /** From a place on one dart to a place on another, on with the face to the left. */
  const walk = (d: number, start: number, e: number, end: number): readonly Point[] | undefined => {
    const i = cycle.indexOf(d);
    const points: Point[] = [...beside(d, start)];
    for (let k = 1; k <= cycle.length; k += 1) {
      const next = cycle[(i + k) % cycle.length] as number;
      const tip = vertices[origin[next] as number]?.end;
      if (tip) {
        const rope = ropeOf(figure, tip.strand);
        // Round an end that is held the link would cut off what it holds to.
        if (rope?.ends[tip.at === 0 ? 0 : 1] !== 'tail') return undefined;
        const curve = curveOf(rope);
        points.push(add(pointAt(curve, tip.at), scale(directionAt(curve, tip.at), (tip.at === 0 ? -2 : 2) * HUG)));
      }
      if (next === e) return [...points, ...beside(e, undefined, end)];
      points.push(...beside(next));
    }
    return undefined;
  };
  const there = walk(a, from, b, to);
  const back = walk(b, to, a, from);
  return there && (!back || there.length <= back.length) ? there : back && [...back].reverse();
}

/** The figure with a turn taken out: the rope goes straight on across the face on which it begins and ends. For comparing, not for showing. */
export function withoutTurn(figure: Figure, turn: Turn): Figure | undefined {
  const { rope: id, from, to } = turn;
  const rope = ropeOf(figure, id);
  const link = linkOf(figure, turn);
  if (!rope || !link) return undefined;
  const curve = curveOf(rope);
  const before = withoutRepeats([...lineBetween(curve, 0, from), ...link]);
  const points = withoutRepeats([...before, ...lineBetween(curve, to, lastAt(rope))]);
  const joint = before.length - 1;
  const { wraps: _wraps, flips: _flips, breaks: _breaks, eyes, ...bare } = rope;
  const bent: Rope = {
    ...bare,
    curve: 'straight',
    points,
    weave: '',
    ...(eyes ? { eyes: eyes.flatMap((e) => eyeOn(rope, points, e, from, to, joint)) } : {}),
  };
  const next: Figure = withRope(figure, id, bent);
  const left = crossingsOf(figure).filter((c) =>
    [c.first, c.second].every((p) => p.strand !== id || p.at < from || p.at > to),
  );
  const list = meetings(next);
  // The link across crosses nothing: what is left are the crossings that were there.
  if (list.length !== left.length) return undefined;
  const places = new Set(left);
  const over: boolean[] = [];
  for (const m of list) {
    const was = nearest(places, m.point);
    if (!was) return undefined;
    places.delete(was);
    // Both on one strand: the earlier passage is the earlier one still.
    const own = m.first.strand === m.second.strand;
    over.push(
      own
        ? m.first.at < m.second.at === was.over.at < (was.over === was.first ? was.second : was.first).at
        : was.over.strand === m.first.strand,
    );
  }
  return weaveFigure(next, (_m, i) => over[i] as boolean);
}

/** Farther than this, in diameters, a crossing of the figure drawn in short straight pieces is not the one it was. */
const SAME_PLACE = 0.2;

function nearest(crossings: Iterable<Crossing>, place: Point): Crossing | undefined {
  let best: Crossing | undefined;
  let least = SAME_PLACE;
  for (const c of crossings) {
    const off = distance(c.point, place);
    if (off < least) [best, least] = [c, off];
  }
  return best;
}

/** An eye's place on the rope after a turn is taken out; one on the turn itself goes with it. */
function eyeOn(rope: Rope, points: readonly Point[], eye: number, from: number, to: number, link: number): number[] {
  if (eye > from && eye < to) return [];
  const place = pointAt(curveOf(rope), eye);
  const range = eye <= from ? [0, link] : [link + 1, points.length - 1];
  let best = range[0] as number;
  for (let i = best; i <= (range[1] as number); i += 1)
    if (distance(points[i] as Point, place) < distance(points[best] as Point, place)) best = i;
  return [best];
}

/** From one turn to the next along what they go round, in diameters: nearer, their bends would be too sharp to be read. */
const LEAST_PITCH = 5;
/** Part of a lane that must be left from one turn to the next beside it. */
const LEAST_LANE = 0.85;
/** A figure made from another one, and where its trail positions lie. */
export interface Remade {
  readonly figure: Figure;
  readonly mapping: Mapping;
}

/**
 * The figure with a turn laid one or more times again beside itself: what it passes over and under, the new ones do too. The drawing is
 * enlarged where there is no room.
 */
export function withTurns(figure: Figure, turn: Turn, more = 1): Result<Remade> {
  const rope = ropeOf(figure, turn.rope);
  if (!rope) return refuse(`rope ${turn.rope}`, 'There is no such rope.', 'Choose a turn of the knot.');
  if (!(Number.isInteger(more) && more >= 1 && more <= MOST_MORE))
    return refuse('turns', `${more} more turns cannot be laid.`, `Give a whole number from 1 to ${MOST_MORE}.`);
  const m = more + 1;
  const inside = (at: number): boolean => at > turn.from && at < turn.to;
  const expected = crossingsOf(figure).reduce((sum, c) => {
    const n = [c.first, c.second].filter((p) => p.strand === turn.rope && inside(p.at)).length;
    return sum + (n === 0 ? 1 : n === 1 || turn.side === 0 ? m : m * m);
  }, 0);
  const curve = curveOf(rope);
  const apart = distance(pointAt(curve, turn.from), pointAt(curve, turn.to)) / m;
  const least = turn.side === 0 ? LEAST_PITCH : LANE * LEAST_LANE;
  for (const k of SIZES) {
    if (apart * k < least) continue;
    const made = laidAgain(enlarged(figure, k), turn, m);
    if (made && crossingsOf(made.figure).length === expected && readMap(made.figure).ok) return accept(made);
  }
  return refuse(
    `rope ${turn.rope}`,
    'There is no room beside that turn for more.',
    'Tidy the figure, or draw the turn more openly, and try again.',
  );
}

/** The turn m times, beside itself: lanes that lead from the one place to the other like a spiral. */
function inLanes(rope: Rope, { from, to, side }: Turn, m: number): readonly Lane[] {
  const curve = curveOf(rope);
  const apart = distance(pointAt(curve, from), pointAt(curve, to));
  return Array.from({ length: m }, (_, j) => laneBeside(rope, from, to, (t) => side * apart * ((j + t) / m - t)));
}

/** The turn m times, one after the other: each drawn together along the way from the one place to the other. */
function inSequence(rope: Rope, { from, to }: Turn, m: number): readonly Lane[] {
  const curve = curveOf(rope);
  const [p, q] = [pointAt(curve, from), pointAt(curve, to)];
  const way = unit(subtract(q, p));
  const plain = laneBeside(rope, from, to, () => 0);
  const part = distance(p, q) / m;
  return Array.from({ length: m }, (_, j) => ({
    ...plain,
    points: plain.points.map((x) => add(x, scale(way, j * part - dot(subtract(x, p), way) * (1 - 1 / m)))),
  }));
}

function laidAgain(figure: Figure, turn: Turn, m: number): Remade | undefined {
  const { rope: id, from, to } = turn;
  const rope = ropeOf(figure, id) as Rope;
  const raw = turn.side === 0 ? inSequence(rope, turn, m) : inLanes(rope, turn, m);
  const keep = Math.floor(from);
  const rest = Math.ceil(to);
  const [before, after] = [rope.points.slice(0, keep + 1), rope.points.slice(rest)];
  // Lanes meet between the two places: one point is enough there.
  const lanes: Lane[] = [];
  for (const [j, lane] of raw.entries())
    lanes.push(trimmed(lane, j === 0 ? before.at(-1) : lanes[j - 1]?.points.at(-1), raw[j + 1]?.points[0] ?? after[0]));
  if (lanes.some((l) => l.points.length < 2)) return undefined;
  const points = [...before, ...lanes.flatMap((l) => l.points), ...after];
  if (points.length > LIMITS.points || !points.every(onBoard)) return undefined;
  const begins: number[] = [];
  let next = before.length;
  for (const l of lanes) {
    begins.push(next);
    next += l.points.length;
  }
  const shift = next - rest;
  const [first, last] = [lanes[0] as Lane, lanes.at(-1) as Lane];
  const [start, end] = [first.origin[0] as number, last.origin.at(-1) as number];
  const a = before.length;
  const like = (at: number): number => {
    if (at < a - 1) return at;
    if (at < a) return keep + (at - (a - 1)) * (start - keep);
    if (at > next - 1) return at < next ? end + (at - (next - 1)) * (rest - end) : at - shift;
    const j = Math.max(0, begins.filter((b) => at >= b - 0.5).length - 1);
    return besidePlace(lanes[j] as Lane, Math.max(0, at - (begins[j] as number)));
  };
  const { wraps: _wraps, flips: _flips, breaks: _breaks, eyes, ...bare } = rope;
  const movedEye = (e: number): number => (e <= from ? e : e >= to ? e + shift : a + indexOn(first, e));
  const laid: Rope = { ...bare, points, weave: '', ...(eyes ? { eyes: eyes.map(movedEye) } : {}) };
  const woven = wovenAlike(figure, withRope(figure, id, laid), (p) =>
    p.strand === id ? { strand: id, at: like(p.at) } : p,
  );
  const whole = lastAt(rope);
  return (
    woven && {
      figure: woven,
      mapping: through(
        id,
        [0, 0],
        [from, a + 0.01],
        [to, a + first.points.length - 1],
        [to, next - 1],
        [whole, whole + shift],
      ),
    }
  );
}

/** Points nearer than this to where a lane begins or ends are left out, so that it is joined in a round bend. */
const JOIN = 1.3;

/** A lane without the points that lie on its neighbours before and after it. */
function trimmed({ points, origin }: Lane, before: Point | undefined, after: Point | undefined): Lane {
  const kept = points.flatMap((p, i) =>
    (before && distance(p, before) < JOIN) || (after && distance(p, after) < JOIN) ? [] : [i],
  );
  return { points: kept.map((i) => points[i] as Point), origin: kept.map((i) => origin[i] as number) };
}

const indexOn = ({ origin }: Lane, at: number): number =>
  Math.max(
    0,
    origin.findIndex((o) => o >= at),
  );
