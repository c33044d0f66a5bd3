/**
 * Crossings: transverse meetings of two strands, found by computation from the curves and told over from under by the weave.
 *
 * Two flattened curves are compared chord by chord. A chord's ends are put on one side or the other of the other chord's line
 * with exact predicates, a vertex exactly on the line counting as the left side, so that a crossing at a vertex is counted
 * once and a touch is counted twice or not at all. The place is then refined on the Béziers by Newton's method.
 * Predicates: J. R. Shewchuk, "Adaptive precision floating-point arithmetic and fast robust geometric predicates" (1997).
 */
import { remembered } from '../ground/remembered.js';
import { orient2d } from 'robust-predicates';
import { curveOf, pieceTangent, piecePoint, type Curve, type Piece } from './curve.js';
import type { Figure, Letter, TrailPosition } from './figure.js';
import { boxesMeet, cross, distance, subtract, unit, type Box, type Point } from './point.js';
import { accept, refuse, type Result } from './refusal.js';

/** A meeting of two strands before it is known which is over. `first` comes earlier on the trail, ropes before hosts. */
export interface Meeting {
  readonly first: TrailPosition;
  readonly second: TrailPosition;
  readonly point: Point;
  /** +1 when the second strand's direction lies counterclockwise of the first's as seen on the screen, else −1. */
  readonly turn: 1 | -1;
  /** The angle between the strands' lines in radians, in (0, π/2]. */
  readonly angle: number;
}

export interface Crossing {
  /** Numbered from 1 in the order in which the trail first meets them. */
  readonly number: number;
  readonly point: Point;
  readonly over: TrailPosition;
  readonly under: TrailPosition;
  readonly first: TrailPosition;
  readonly second: TrailPosition;
  readonly turn: 1 | -1;
  readonly angle: number;
  /** +1 when the over strand, turned counterclockwise by less than a half turn, points the way the under strand goes. */
  readonly sign: 1 | -1;
}

/** One passage of a strand through a crossing; each crossing has two. */
export interface Passage {
  readonly crossing: Crossing;
  readonly at: number;
  readonly over: boolean;
  readonly other: TrailPosition;
}

/** The side of a directed line that lies to its right as seen on the screen. */
const RIGHT = Math.sign(orient2d(0, 0, 1, 0, 0, 1));

/** On which side of a line a place lies, exactly; a place on it counts as the left side. */
export const side = (a: Point, b: Point, p: Point): 1 | -1 =>
  orient2d(a[0], a[1], b[0], b[1], p[0], p[1]) >= 0 ? 1 : -1;

const pieceAt = (curve: Curve, at: number): [Piece, number, number] => {
  const i = Math.min(curve.pieces.length - 1, Math.floor(at));
  return [curve.pieces[i] as Piece, at - i, i];
};

/** Newton's method stays within a chord's reach of where it began: farther off it has left for another meeting. */
const NEWTON_REACH = 0.3;

function refine(a: Curve, at: number, b: Curve, bt: number): [number, number] {
  const [p, s0, i] = pieceAt(a, at);
  const [q, t0, j] = pieceAt(b, bt);
  let [s, t] = [s0, t0];
  for (let step = 0; step < 6; step += 1) {
    const gap = subtract(piecePoint(q, t), piecePoint(p, s));
    const [u, v] = [pieceTangent(p, s), pieceTangent(q, t)];
    const det = cross(u, v);
    if (Math.abs(det) < 1e-12) break;
    s += cross(gap, v) / det;
    t += cross(gap, u) / det;
    if (Math.abs(s - s0) > NEWTON_REACH || Math.abs(t - t0) > NEWTON_REACH) return [at, bt];
  }
  const inside = (x: number): boolean => x >= 0 && x <= 1;
  return inside(s) && inside(t) ? [i + s, j + t] : [at, bt];
}

interface Found {
  readonly at: number;
  readonly bt: number;
  readonly point: Point;
  readonly turn: 1 | -1;
  readonly angle: number;
}

function meetLines(a: Curve, i: number, b: Curve, j: number): Found | undefined {
  const [p, q, r, s] = [a.line[i] as Point, a.line[i + 1] as Point, b.line[j] as Point, b.line[j + 1] as Point];
  const rSide = side(p, q, r);
  if (rSide === side(p, q, s) || side(r, s, p) === side(r, s, q)) return undefined;
  const [u, v] = [subtract(q, p), subtract(s, r)];
  const det = cross(u, v);
  const gap = subtract(r, p);
  const clamp = (x: number): number => Math.min(1, Math.max(0, x));
  const fa = det === 0 ? 0.5 : clamp(cross(gap, v) / det);
  const fb = det === 0 ? 0.5 : clamp(cross(gap, u) / det);
  const [ai, aj] = [a.lineAt[i] as number, a.lineAt[i + 1] as number];
  const [bi, bj] = [b.lineAt[j] as number, b.lineAt[j + 1] as number];
  const [at, bt] = refine(a, ai + fa * (aj - ai), b, bi + fb * (bj - bi));
  const [pa, ta] = pieceAt(a, at);
  // The side the second strand comes from decides its direction across the first: exact, so never undecided.
  const turn = rSide === RIGHT ? 1 : -1;
  const angle = Math.asin(Math.min(1, Math.abs(cross(unit(u), unit(v)))));
  return { at, bt, point: piecePoint(pa, ta), turn, angle };
}

const chordBox = (p: Point, q: Point): Box => [
  Math.min(p[0], q[0]),
  Math.min(p[1], q[1]),
  Math.max(p[0], q[0]),
  Math.max(p[1], q[1]),
];

/** Whether both ends of a chord lie beyond the same side of a box: then it does not reach into it. */
const isBeside = ([left, top, right, bottom]: Box, p: Point, q: Point): boolean =>
  (p[0] < left && q[0] < left) ||
  (p[0] > right && q[0] > right) ||
  (p[1] < top && q[1] < top) ||
  (p[1] > bottom && q[1] > bottom);

/** Where piece `x` of one strand meets piece `y` of another, or of itself (`same`), put to `out`. */
function meetPieces(a: Curve, x: number, b: Curve, y: number, same: boolean, out: (found: Found) => void): void {
  const lastChord = a.line.length - 2;
  const [i0, i1] = [a.starts[x]!, a.starts[x + 1]!];
  const [j0, j1] = [b.starts[y]!, b.starts[y + 1]!];
  const all = b.boxes[y]!;
  for (let i = i0; i < i1; i += 1) {
    // Nearly all chords lie wholly on one side of one another's boxes: told by comparing numbers, far from the exact predicates.
    if (isBeside(all, a.line[i]!, a.line[i + 1]!)) continue;
    const own = chordBox(a.line[i]!, a.line[i + 1]!);
    for (let j = same && x === y ? i + 2 : j0; j < j1; j += 1) {
      if (isBeside(own, b.line[j]!, b.line[j + 1]!)) continue;
      if (same && (j <= i + 1 || (a.closed && i === 0 && j === lastChord))) continue;
      const found = meetLines(a, i, b, j);
      if (found) out(found);
    }
  }
}

/** A pair of pieces whose boxes meet: strands `i` ≤ `j`, of one strand `x` ≤ `y`. Returns false to stop. */
type OfPair = (i: number, x: number, j: number, y: number) => boolean;

/** Every pair of pieces, strand by strand: for figures as people draw them. */
function pairsInOrder(curves: readonly Curve[], ropes: number, visit: OfPair): void {
  for (let i = 0; i < ropes; i += 1)
    for (let j = i; j < curves.length; j += 1) {
      const [a, b] = [curves[i]!, curves[j]!];
      for (let x = 0; x < a.pieces.length; x += 1)
        for (let y = i === j ? x : 0; y < b.pieces.length; y += 1)
          if (boxesMeet(a.boxes[x]!, b.boxes[y]!) && !visit(i, x, j, y)) return;
    }
}

/** The same pairs by a line swept over the board: what it has left behind is compared with nothing more. */
function pairsBySweep(curves: readonly Curve[], ropes: number, visit: OfPair): void {
  const all = curves.flatMap((curve, strand) => curve.boxes.map((box, piece) => ({ strand, piece, box })));
  all.sort((p, q) => p.box[0] - q.box[0]);
  let swept: typeof all = [];
  for (const own of all) {
    swept = swept.filter((p) => p.box[2] >= own.box[0]);
    swept.push(own);
    for (const other of swept) {
      if (!boxesMeet(own.box, other.box)) continue;
      const ahead = other.strand < own.strand || (other.strand === own.strand && other.piece <= own.piece);
      const [p, q] = ahead ? [other, own] : [own, other];
      if (p.strand < ropes && !visit(p.strand, p.piece, q.strand, q.piece)) return;
    }
  }
}

/** More pieces than this are swept over. */
const MANY_PIECES = 512;

/** Meetings of ropes with ropes and hosts, in the order of strands and pieces; given up, and none told, when there are more than `most`. */
function meetingsOf(figure: Figure, most: number): Meeting[] | undefined {
  const strands = [...figure.ropes, ...figure.hosts];
  const curves = strands.map(curveOf);
  const found: { readonly order: readonly number[]; readonly meeting: Meeting }[] = [];
  const pairs = curves.reduce((n, c) => n + c.pieces.length, 0) > MANY_PIECES ? pairsBySweep : pairsInOrder;
  pairs(curves, figure.ropes.length, (i, x, j, y) => {
    meetPieces(curves[i]!, x, curves[j]!, y, i === j, ({ at, bt, point, turn, angle }) => {
      const [first, second] = [
        { strand: strands[i]!.id, at },
        { strand: strands[j]!.id, at: bt },
      ];
      found.push({ order: [i, j, x, y, found.length], meeting: { first, second, point, turn, angle } });
    });
    return found.length <= most;
  });
  if (found.length > most) return undefined;
  if (pairs === pairsBySweep) found.sort((p, q) => firstDifference(p.order, q.order));
  return found.map((f) => f.meeting);
}

function firstDifference(p: readonly number[], q: readonly number[]): number {
  const at = p.findIndex((n, i) => n !== q[i]);
  return at < 0 ? 0 : p[at]! - q[at]!;
}

const known = new WeakMap<Figure, readonly Meeting[]>();

/** Every meeting of ropes with ropes and hosts. Hosts crossing hosts are not crossings of the knot and are left out. */
export function meetings(figure: Figure): readonly Meeting[] {
  const remembered = known.get(figure);
  if (remembered) return remembered;
  const out = meetingsOf(figure, Infinity) ?? [];
  known.set(figure, out);
  return out;
}

/** True when a figure has more than so many meetings: no more are looked for then, however many there are. */
export function meetsMoreThan(figure: Figure, most: number): boolean {
  const remembered = known.get(figure);
  if (remembered) return remembered.length > most;
  const found = meetingsOf(figure, most);
  if (found) known.set(figure, found);
  return !found;
}

/** The same figure with its meetings already known; spares computing them again. */
export function rememberMeetings(figure: Figure, list: readonly Meeting[]): Figure {
  known.set(figure, list);
  return figure;
}

interface Slot {
  readonly meeting: number;
  readonly at: number;
}

/** The meetings each rope passes, in trail order. */
function slotsOf(figure: Figure, list: readonly Meeting[]): Map<string, Slot[]> {
  const slots = new Map<string, Slot[]>(figure.ropes.map((r) => [r.id, []]));
  list.forEach((m, meeting) => {
    slots.get(m.first.strand)?.push({ meeting, at: m.first.at });
    slots.get(m.second.strand)?.push({ meeting, at: m.second.at });
  });
  for (const own of slots.values()) own.sort((p, q) => p.at - q.at);
  return slots;
}

/** Two crossings on one strand nearer than this cannot be put in order along it, so a weave cannot be read there. */
const ORDER_TOLERANCE = 0.02;

/**
 * Reads the weave of a figure: which strand is over at every meeting.
 * Refuses a weave with too few or too many letters, unknown letters, or passages that do not disagree.
 */
export function readWeave(figure: Figure): Result<readonly Crossing[]> {
  const list = meetings(figure);
  const slots = slotsOf(figure, list);
  const letters: { first?: Letter; second?: Letter }[] = list.map(() => ({}));
  for (const rope of figure.ropes) {
    const own = slots.get(rope.id) ?? [];
    for (const [n, slot] of own.entries()) {
      const next = own[n + 1];
      if (
        next &&
        distance(list[slot.meeting]!.point, list[next.meeting]!.point) < ORDER_TOLERANCE &&
        slot.meeting !== next.meeting
      ) {
        return refuse(
          `rope ${rope.id}, trail position ${slot.at.toFixed(2)}`,
          'Three strands meet at one point there, so their order along the rope cannot be told.',
          'Move one of them aside.',
        );
      }
    }
    if (rope.weave.length !== own.length) {
      const place = own[rope.weave.length];
      return refuse(
        `rope ${rope.id}${place ? `, trail position ${place.at.toFixed(2)}` : ''}`,
        `The weave has ${rope.weave.length} letters, but the rope meets ${own.length} crossings.`,
        'Give one letter, O or U, for every crossing met along the rope.',
      );
    }
    for (const [n, slot] of own.entries()) {
      const letter = rope.weave[n];
      if (letter !== 'O' && letter !== 'U') {
        return refuse(
          `rope ${rope.id}, weave letter ${n + 1}`,
          `“${String(letter)}” is not a weave letter.`,
          'Use O for over and U for under.',
        );
      }
      const m = list[slot.meeting]!;
      const isFirst = m.first.strand === rope.id && m.first.at === slot.at;
      letters[slot.meeting]![isFirst ? 'first' : 'second'] = letter;
    }
  }
  const overs: boolean[] = [];
  for (const [i, m] of list.entries()) {
    const { first, second } = letters[i]!;
    if (first !== undefined && second !== undefined && first === second) {
      return refuse(
        `rope ${m.first.strand} at ${m.first.at.toFixed(2)} and rope ${m.second.strand} at ${m.second.at.toFixed(2)}`,
        `Both passages of this crossing say ${first === 'O' ? 'over' : 'under'}.`,
        'Make one O and the other U.',
      );
    }
    overs.push(first === 'O');
  }
  return accept(numbered(figure, list, overs));
}

function numbered(figure: Figure, list: readonly Meeting[], firstIsOver: readonly boolean[]): Crossing[] {
  const order = new Map<string, number>(figure.ropes.map((r, i) => [r.id, i]));
  return list
    .map((m, i) => {
      const over = firstIsOver[i] === true;
      const [a, b] = over ? [m.first, m.second] : [m.second, m.first];
      const sign: 1 | -1 = over === (m.turn === 1) ? 1 : -1;
      return {
        number: 0,
        point: m.point,
        over: a,
        under: b,
        first: m.first,
        second: m.second,
        turn: m.turn,
        angle: m.angle,
        sign,
      };
    })
    .sort((p, q) => (order.get(p.first.strand) ?? 0) - (order.get(q.first.strand) ?? 0) || p.first.at - q.first.at)
    .map((c, i) => ({ ...c, number: i + 1 }));
}

const crossingsKnown = new WeakMap<Figure, readonly Crossing[]>();

/** The crossings of a figure, or why its weave does not say them: of what was seen from a side or cut out of another, nothing is sure. */
export function readCrossings(figure: Figure): Result<readonly Crossing[]> {
  const remembered = crossingsKnown.get(figure);
  if (remembered) return accept(remembered);
  const read = readWeave(figure);
  if (read.ok) crossingsKnown.set(figure, read.value);
  return read;
}

/** The crossings of a figure whose weave is known to be good. A bad weave here is a bug, and throws. */
export function crossingsOf(figure: Figure): readonly Crossing[] {
  const read = readCrossings(figure);
  if (!read.ok) throw new Error(`figure with a bad weave: ${read.place}: ${read.reason}`);
  return read.value;
}

/** A figure's weave written anew from a decision for each of its meetings. */
export function weaveFigure(figure: Figure, firstIsOver: (m: Meeting, index: number) => boolean): Figure {
  const list = meetings(figure);
  const overs = list.map(firstIsOver);
  const slots = slotsOf(figure, list);
  const ropes = figure.ropes.map((rope) => {
    const weave = (slots.get(rope.id) ?? [])
      .map((slot) => {
        const m = list[slot.meeting]!;
        const isFirst = m.first.strand === rope.id && m.first.at === slot.at;
        return overs[slot.meeting] === isFirst ? 'O' : 'U';
      })
      .join('');
    return weave === rope.weave ? rope : { ...rope, weave };
  });
  const woven = rememberMeetings({ ...figure, ropes }, list);
  crossingsKnown.set(woven, numbered(woven, list, overs));
  return woven;
}

const passagesKnown = remembered((figure: Figure): ReadonlyMap<string, readonly Passage[]> => {
  const lists = new Map<string, Passage[]>([...figure.ropes, ...figure.hosts].map((s) => [s.id, []]));
  for (const crossing of crossingsOf(figure)) {
    const { over, under } = crossing;
    lists.get(over.strand)?.push({ crossing, at: over.at, over: true, other: under });
    lists.get(under.strand)?.push({ crossing, at: under.at, over: false, other: over });
  }
  for (const own of lists.values()) own.sort((p, q) => p.at - q.at);
  return lists;
});

/** The passages of a strand through crossings, in trail order. */
export const passagesOf = (figure: Figure, strand: string): readonly Passage[] =>
  passagesKnown(figure).get(strand) ?? [];

/** Whether a place lies between the first and the last passage of its strand: in the knot, not on what leads to it or out of it. */
export function isWithinKnot(figure: Figure, { strand, at }: TrailPosition): boolean {
  const passages = passagesOf(figure, strand);
  const [first, last] = [passages[0], passages.at(-1)];
  return first !== undefined && last !== undefined && at >= first.at && at <= last.at;
}
