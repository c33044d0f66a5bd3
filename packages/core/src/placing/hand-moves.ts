/**
 * Moves laid in one: a half hitch, turns, an overhand of so many turns round a part, a tuck through, a loop, a strand followed. What
 * is asked for is the part and the way; where the end goes on the board is found (`route`). Each comes as ordinary edits that lay the
 * end on, so that they are undone, mapped and told as any stroke is.
 */
import { breadthOf, strandOf } from '../figure/bounds.js';
import { diameterOf } from '../figure/cordage.js';
import { meetings, passagesOf } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, fitPath, lengthOf, lengthTo, nearestOn, pointAt } from '../figure/curve.js';
import { applyEdit, type Edit, type EndEdit } from '../figure/edit.js';
import {
  freshId,
  hostOf,
  lastAt,
  ropeOf,
  type Figure,
  type Letter,
  type Rope,
  type TrailPosition,
} from '../figure/figure.js';
import { opposite, type LayEdit } from '../figure/laying.js';
import { withPoints } from '../figure/carry.js';
import { mapPosition } from '../figure/mapping.js';
import { slingRound, type Raised } from '../figure/sling.js';
import { add, between, cross, distance, dot, scale, subtract, unit, type Point } from '../figure/point.js';
import { accept, refuse, type Refusal, type Result } from '../figure/refusal.js';
import { heading, routeOf, type Leg, type Route, type RouteAsk, type RoutePass } from './route.js';
import { barrel, barrelMeets, barrelWeave, CORE } from '../figure/barrel.js';

/** A move of a rope's last end, as it is asked for. */
export type HandMove = {
  readonly rope: string;
  /** How the part is passed first. */
  readonly first: Letter;
  /** Which way along the part turns go, by its trail; of a loop, round by the right or by the left. */
  readonly way: 1 | -1;
} & (
  | { readonly kind: 'hitch'; readonly about: TrailPosition }
  | { readonly kind: 'turns'; readonly about: TrailPosition; readonly turns: number }
  /** Turns worked back over the end's own lead and the part together, the end led out through all of them. */
  | { readonly kind: 'overhand'; readonly about: TrailPosition; readonly turns: number }
  /** Into a place between strands, and out beyond it the other way. */
  | { readonly kind: 'through'; readonly place: Point }
  /** Across its own part, so that a loop stays open. */
  | { readonly kind: 'loop'; readonly about: TrailPosition }
  | { readonly kind: 'follow'; readonly about: TrailPosition }
);

/** A sling of its own laid round a part, its bight so many times round and through itself. */
export interface SlingMove {
  readonly about: TrailPosition;
  readonly turns: number;
  /** On which side of the part its legs leave, seen along the part: by the right, or by the left. */
  readonly way: 1 | -1;
}
export type HandMoveKind = HandMove['kind'];

/** From one passage of a hitch to the other along what it goes round, and how far either may be off, in diameters. */
const HITCH = 3;
const OFF = 0.9;
/** Turns of one move lie so far apart. */
const TURN_SPACING = 2;
/** A place before turns begin, out from the middle of what they go round. */
const BEFORE_TURNS = 3.2;
/** How far ahead of a place between strands what closes it is sought. */
const FAR_AHEAD = 60;

/** Turns begin at least so far past the end. */
const PAST_PRESSED = 2;

const noWay = (): Refusal =>
  refuse(
    'move',
    'There is no clear way there for the end.',
    'Press farther along the part, or settle the drawing first; then there is room.',
  );

const noPart = (): Refusal =>
  refuse('move', 'The part that it goes round is not there.', 'Press on a strand or a host.');

const noRoom = (turns: number): Refusal =>
  refuse(
    'move',
    `There is no room for ${turns > 1 ? `${turns} turns` : 'a turn'} there: they would cross something else, or leave the part.`,
    'Press where the part runs straight and nothing lies beside it, or settle the drawing first.',
  );

/** The edit that makes a move with one end of its rope. */
export function moveEdit(figure: Figure, move: HandMove, leads: 'first' | 'last' = 'last'): Result<Edit> {
  const rope = ropeOf(figure, move.rope);
  if (!rope) return refuse('move', 'There is no such rope.', 'Lay a rope first.');
  if (rope.closed) return refuse(`rope ${rope.id}`, 'A closed sling has no working end.', 'Open it first.');
  if (leads === 'last') {
    const laid = laidMove(figure, move);
    return laid.ok ? accept({ kind: 'several', rope: rope.id, edits: laid.value }) : laid;
  }
  const turned = applyEdit(figure, { kind: 'reverse', rope: rope.id });
  if (!turned.ok) return turned;
  const { figure: other, mapping } = turned.value;
  const there: HandMove =
    move.kind === 'through'
      ? move
      : {
          ...move,
          about: mapPosition(mapping, move.about) ?? move.about,
          way: move.kind !== 'loop' && move.about.strand === rope.id ? (move.way === 1 ? -1 : 1) : move.way,
        };
  const laid = laidMove(other, there);
  return laid.ok ? accept({ kind: 'first-end', laid: { kind: 'several', rope: rope.id, edits: laid.value } }) : laid;
}

/** The edit that lays a sling round a part. */
export function slingEdit(figure: Figure, { about, turns: count, way }: SlingMove): Result<Edit> {
  const part = strandOf(figure, about.strand);
  if (!part) return noPart();
  const curve = curveOf(part);
  const [middle, d] = [pointAt(curve, about.at), scale(directionAt(curve, about.at), way)];
  const raised = slingRound(count, breadthOf(part) - 1);
  // The part goes up the board: by its right the legs leave to the right.
  const points = raised.map(([x, y]) => add(middle, add(scale(d, -y), scale([-d[1], d[0]], x))));
  const id = freshId(figure);
  const isAbove = (i: number): boolean => (raised[i] as Raised)[2] + (raised[(i + 1) % raised.length] as Raised)[2] > 0;
  const edit: Edit = {
    kind: 'add-rope',
    rope: { id, points, curve: 'smooth', closed: true, ends: ['off', 'off'], eyes: [0] },
    pass: raised.map((_, i) => (isAbove(i) ? 'O' : 'U')).join(''),
  };
  const done = applyEdit(figure, edit);
  if (!done.ok) return done;
  const others = passagesOf(done.value.figure, id).filter((p) => p.other.strand !== id);
  return others.length === 4 * count && others.every((p) => p.other.strand === about.strand)
    ? accept(edit)
    : noRoom(count);
}

/** What lays a move on with the last end, in order; each edit is for the figure that the one before it leaves. */
function laidMove(figure: Figure, move: HandMove): Result<readonly EndEdit[]> {
  if (move.kind !== 'through' && !strandOf(figure, move.about.strand)) return noPart();
  const hand = new Hand(figure, move.rope);
  return (MOVES[move.kind] as (hand: Hand, move: HandMove) => Refusal | undefined)(hand, move) ?? accept(hand.edits);
}

/** Lays one edit after another on a figure of its own. */
class Hand {
  readonly edits: EndEdit[] = [];
  /** What the ways have cost that were led. */
  cost = 0;

  constructor(
    public figure: Figure,
    readonly id: string,
  ) {}

  get rope(): Rope {
    return ropeOf(this.figure, this.id) as Rope;
  }
  get tip(): Point {
    return this.rope.points.at(-1) as Point;
  }

  do(edit: EndEdit): Refusal | undefined {
    const done = applyEdit(this.figure, edit);
    if (!done.ok) return done;
    this.figure = done.value.figure;
    this.edits.push(edit);
    return undefined;
  }

  /** Leads the end on along the cheapest way. */
  lead(ask: Omit<RouteAsk, 'rope'>): Refusal | undefined {
    const route = routeOf(this.figure, { ...ask, rope: this.id });
    if (!route) return noWay();
    return this.go(route);
  }

  go(route: Route): Refusal | undefined {
    this.cost += route.cost;
    if (route.points.length === 0) return undefined;
    const edit = laidAlong(this.figure, this.rope, route);
    return edit ? this.do(edit) : noWay();
  }
}

/** A way as an edit whose crossings are just those of the way: few points where few will do. */
function laidAlong(figure: Figure, rope: Rope, route: Route): LayEdit | undefined {
  const tip = rope.points.at(-1) as Point;
  const path = [tip, ...route.points].filter((p, i, all) => i === 0 || distance(all[i - 1] as Point, p) > 0.1);
  for (const points of [fitPath(path, 1.6, 0.3), fitPath(path, 1.2, 0.2), fitPath(path, 0.8, 0.1), path]) {
    const edit = withPasses(figure, rope, points.slice(1), route.passes);
    if (edit) return edit;
  }
  return undefined;
}

/** What a stretch that is laid meets, in its order, and where; each crossing with itself twice. */
function met(figure: Figure, rope: string, after: number): { readonly own: number; readonly other: TrailPosition }[] {
  return meetings(figure)
    .flatMap((m) => [
      { own: m.first, other: m.second },
      { own: m.second, other: m.first },
    ])
    .filter((p) => p.own.strand === rope && p.own.at > after + 1e-9)
    .sort((p, q) => p.own.at - q.own.at)
    .map(({ own, other }) => ({ own: own.at, other }));
}

/**
 * Points laid on with just these passages, each over or under; nothing when they meet anything else. Of a crossing with itself the later
 * passage decides. Where two letters would fall into one piece, it is divided.
 */
function withPasses(
  figure: Figure,
  rope: Rope,
  points: readonly Point[],
  passes: readonly RoutePass[],
): LayEdit | undefined {
  const before = rope.points.length - 1;
  let list = points;
  for (let round = 0; round < MOST_DIVISIONS; round += 1) {
    const next = withPoints(figure, rope.id, [...rope.points, ...list]);
    // Where the end bends off from now on, what it had laid meets what it met.
    const old = met(next, rope.id, -1).filter(
      (p) => p.own <= before + 1e-9 && !(p.other.strand === rope.id && p.other.at > before + 1e-9),
    );
    if (old.length !== met(figure, rope.id, -1).length) return undefined;
    const own = met(next, rope.id, before);
    if (own.length !== passes.length || own.some((p, i) => p.other.strand !== passes[i]?.strand)) return undefined;
    const letters = list.map((): Letter | undefined => undefined);
    let last = before;
    let divided: number | undefined;
    own.forEach((p, i) => {
      if (p.other.strand === rope.id && p.other.at > p.own) return;
      const piece = Math.floor(p.own) - before;
      const letter = passes[i]?.over === true ? 'O' : 'U';
      if (letters[piece] !== undefined && letters[piece] !== letter) divided ??= (last + p.own) / 2;
      letters[piece] ??= letter;
      last = p.own;
    });
    if (divided === undefined) {
      const pass = letters.map((l) => l ?? 'O').join('');
      const edit: LayEdit = { kind: 'lay', rope: rope.id, points: list, pass };
      return passesAre(figure, edit, passes) ? edit : undefined;
    }
    const place = pointAt(curveOf(ropeOf(next, rope.id) as Rope), divided);
    const piece = Math.floor(divided) - before;
    list = [...list.slice(0, piece), place, ...list.slice(piece)];
  }
  return undefined;
}

/** Whether what an edit lays passes as it should. */
function passesAre(figure: Figure, edit: LayEdit, passes: readonly RoutePass[]): boolean {
  const done = applyEdit(figure, edit);
  const before = lastAt(ropeOf(figure, edit.rope) as Rope);
  if (!done.ok) return false;
  const laid = passagesOf(done.value.figure, edit.rope).filter((p) => p.at > before + 1e-9);
  return laid.length === passes.length && laid.every((p, i) => p.over === passes[i]?.over);
}

/** A piece is divided so often at most until each has one letter. */
const MOST_DIVISIONS = 40;

/** A stretch of a strand about a length along it. */
function windowAt(figure: Figure, strand: string, length: number, off: number, over: boolean): Leg {
  const curve = curveOf(strandOf(figure, strand) as Rope);
  return { strand, from: atLength(curve, length - off), to: atLength(curve, length + off), over };
}

const lengthOn = (figure: Figure, { strand, at }: TrailPosition): number =>
  lengthTo(curveOf(strandOf(figure, strand) as Rope), at);

type Doing<K extends HandMoveKind> = (hand: Hand, move: Extract<HandMove, { kind: K }>) => Refusal | undefined;

/** Round the part and out across the end's own lead, on the side on which the part was first passed: along the part as there is room. */
const hitch: Doing<'hitch'> = (hand, { about, first }) => {
  const tried = [1, -1].map((way) => {
    const other = new Hand(hand.figure, hand.id);
    const refused = hitchAlong(other, about, first, way);
    return { other, refused, cost: other.cost };
  });
  const [best] = tried.filter((t) => !t.refused).sort((a, b) => a.cost - b.cost);
  if (!best) return tried[0]?.refused ?? noWay();
  for (const edit of best.other.edits) {
    const refused = hand.do(edit);
    if (refused) return refused;
  }
  return undefined;
};

function hitchAlong(hand: Hand, about: TrailPosition, first: Letter, way: number): Refusal | undefined {
  const at = lengthOn(hand.figure, about);
  const over = first === 'O';
  const began = lastAt(hand.rope);
  const passes = (length: number, isOver: boolean): Leg => windowAt(hand.figure, about.strand, length, OFF, isOver);
  const refused = hand.lead({
    legs: [passes(at - (way * HITCH) / 2, over), passes(at + (way * HITCH) / 2, !over)],
    by: first,
    short: true,
  });
  if (refused) return refused;
  // Its own lead: from where the move began to where it first passed the part.
  const passed = met(hand.figure, hand.id, began).find((p) => p.other.strand === about.strand);
  if (!passed) return noWay();
  return hand.lead({ legs: [{ strand: hand.id, from: leadFrom(hand, began), to: passed.own, over }], by: first });
}

/** Where the lead of a move begins: a little of what was laid before it belongs to it, as far as that crosses nothing. */
function leadFrom(hand: Hand, began: number): number {
  const curve = curveOf(hand.rope);
  const before = meetings(hand.figure)
    .flatMap((m) => [m.first, m.second])
    .filter((p) => p.strand === hand.id && p.at < began)
    .map((p) => p.at);
  return Math.max(0, ...before, atLength(curve, lengthTo(curve, began) - 12));
}

/** The end led to where turns begin, on the side from which it comes. */
function leadToTurns(hand: Hand, about: TrailPosition, first: Letter): Refusal | undefined {
  const strand = strandOf(hand.figure, about.strand) as Rope;
  const curve = curveOf(strand);
  const [middle, along] = [pointAt(curve, about.at), directionAt(curve, about.at)];
  const out = (breadthOf(strand) + diameterOf(hand.rope)) / 2 + BEFORE_TURNS;
  const routes = [1, -1].flatMap((side) => {
    const goal = add(middle, scale([along[1], -along[0]], side * out));
    const route = routeOf(hand.figure, { rope: hand.id, legs: [], goal, by: first });
    return route ? [route] : [];
  });
  const [best] = routes.sort((a, b) => a.cost - b.cost);
  return best ? hand.go(best) : noWay();
}

/** So far the end is led out of turns, and what the way there may cost. */
const OUT = 3.5;
const STRAIGHT_OUT = 2.5 * OUT;

/** The end led clear of what it was laid round: straight on, where nothing lies there. */
function leadOut(hand: Hand, first: Letter): Refusal | undefined {
  const goal = add(hand.tip, scale(heading(hand.rope), OUT));
  const straight = routeOf(hand.figure, { rope: hand.id, legs: [], goal, by: first });
  if (straight?.passes.length === 0 && straight.cost < STRAIGHT_OUT) return hand.go(straight);
  return hand.lead({ legs: [], by: first });
}

const turns: Doing<'turns'> = (hand, { about, turns: count, first, way }) => {
  // Round a post's end turns are laid flat, from wherever the end is.
  const post = hostOf(hand.figure, about.strand)?.kind === 'post';
  const refused = post ? undefined : leadToTurns(hand, about, first);
  if (refused) return refused;
  const began = lastAt(hand.rope);
  const wound = hand.do({
    kind: 'wrap',
    rope: hand.id,
    about: [about],
    turns: count,
    direction: way === 1 ? 'on' : 'back',
    first,
    spacing: TURN_SPACING,
  });
  if (wound) return wound;
  // Each half turn passes the part, where it was pressed, and nothing else.
  const reach = count * TURN_SPACING + BEFORE_TURNS;
  const isThere = (p: TrailPosition): boolean =>
    p.strand === about.strand && Math.abs(lengthOn(hand.figure, p) - lengthOn(hand.figure, about)) <= reach;
  const own = met(hand.figure, hand.id, began);
  if (!post && !(own.length === 2 * count && own.every((p) => isThere(p.other)))) return noRoom(count);
  return leadOut(hand, first);
};

/**
 * A barrel on a stretch of the part, its other strand: as the book lays it, turned to where it is, never mirrored, so that two of them
 * worked toward each other have the same hand; of the other hand when it begins behind.
 */
const overhand: Doing<'overhand'> = (hand, { about, turns: count, first, way }) => {
  const curve = curveOf(strandOf(hand.figure, about.strand) as Rope);
  // Where the end is past the place already, beside another strand, it goes on from there.
  const pressed = lengthTo(curve, about.at);
  const tipAt =
    about.strand === hand.id ? pressed : lengthTo(curve, nearestOn(curve, hand.tip).at) + way * PAST_PRESSED;
  const at = atLength(curve, pressed + way * Math.max(0, way * (tipAt - pressed)));
  const [middle, d] = [pointAt(curve, at), scale(directionAt(curve, at), way)];
  const normal: Point = [-d[1], d[0]];
  // On which side of the part the end comes alongside.
  const side = dot(subtract(hand.tip, middle), normal) >= 0 ? 1 : -1;
  const put = ([x, y]: Point): Point => add(middle, add(scale(d, x), scale(normal, side * (y + CORE))));
  const [entry, ...rest] = barrel(count).slice(0, -2) as [Point, ...Point[]];
  const refused = hand.lead({ legs: [], goal: put([entry[0] - 1.5, entry[1] + 0.3]), by: first });
  if (refused) return refused;
  const meets = barrelMeets(count);
  const turned = (side === 1) === (first === 'O');
  const passes = Array.from(barrelWeave(count), (letter, k) => ({
    strand: meets[k] === 'b' ? about.strand : hand.id,
    over: (letter === 'O') === turned,
  }));
  const edit = withPasses(hand.figure, hand.rope, [entry, ...rest].map(put), passes);
  return edit ? hand.do(edit) : noRoom(count);
};

const through: Doing<'through'> = (hand, { place, first }) => {
  const { tip } = hand;
  const into = routeOf(hand.figure, { rope: hand.id, legs: [], goal: place, by: first });
  if (!into) return noWay();
  const refused = hand.go(into);
  if (refused) return refused;
  const way = unit(subtract(place, into.points.at(-4) ?? tip));
  const ahead = firstAhead(hand.figure, hand.id, place, way);
  if (!ahead)
    return refuse(
      'move',
      'Nothing closes that place: there is nothing to go through.',
      'Press between strands, within a loop or a bight.',
    );
  const at = lengthOn(hand.figure, ahead);
  return hand.lead({
    legs: [windowAt(hand.figure, ahead.strand, at, 1.4, first !== 'O')],
    by: opposite(first),
    toward: way,
  });
};

/** The first strand that is met straight ahead of a place. */
function firstAhead(figure: Figure, rope: string, place: Point, way: Point): TrailPosition | undefined {
  let best: { at: TrailPosition; away: number } | undefined;
  const last = lastAt(ropeOf(figure, rope) as Rope);
  for (const strand of [...figure.ropes, ...figure.hosts]) {
    const { line, lineAt } = curveOf(strand);
    for (let i = 1; i < line.length; i += 1) {
      const [a, b] = [line[i - 1] as Point, line[i] as Point];
      const v = subtract(b, a);
      const n = cross(way, v);
      if (Math.abs(n) < 1e-9) continue;
      const w = subtract(a, place);
      const [s, t] = [cross(w, v) / n, cross(w, way) / n];
      if (s < 0.2 || s > FAR_AHEAD || t < 0 || t > 1) continue;
      const at = (lineAt[i - 1] as number) + t * ((lineAt[i] as number) - (lineAt[i - 1] as number));
      if (strand.id === rope && at > last - 1) continue;
      if (!best || s < best.away) best = { at: { strand: strand.id, at }, away: s };
    }
  }
  return best?.at;
}

/** A loop is drawn so far out to its side, as a share of how far off it crosses, and at least so far. */
const LOOP_SHARE = 0.6;
const LEAST_LOOP = 3;

const loop: Doing<'loop'> = (hand, { about, first, way }) => {
  if (about.strand !== hand.id)
    return refuse('move', 'A loop is closed across the end’s own part.', 'Press on the rope that is laid.');
  const curve = curveOf(hand.rope);
  const [tip, at] = [hand.tip, pointAt(curve, about.at)];
  const back = subtract(at, tip);
  const far = Math.hypot(...back);
  if (far < 2) return refuse('move', 'The loop would be no wider than the rope.', 'Press farther back along the rope.');
  const forward = heading(hand.rope);
  const out: Point = scale([-forward[1], forward[0]], way);
  const wide = Math.max(LEAST_LOOP, LOOP_SHARE * far);
  const along = directionAt(curve, about.at);
  const over: Point = [along[1], -along[0]];
  // Across its own part from the side of the loop to the other one.
  const side = Math.sign(dot(out, over)) || 1;
  const points: Point[] = [
    add(add(tip, scale(forward, wide * 0.5)), scale(out, wide * 0.2)),
    add(add(tip, scale(forward, wide * 0.55)), scale(out, wide * 0.9)),
    add(between(tip, at, 0.5), scale(out, wide * 1.35)),
    add(at, scale(over, side * 1.9)),
    at,
    add(at, scale(over, -side * 2)),
    add(at, scale(over, -side * 4)),
  ];
  const edit = withPasses(hand.figure, hand.rope, points, [{ strand: hand.id, over: first === 'O' }]);
  return edit
    ? hand.do(edit)
    : refuse(
        'move',
        'The loop would cross something else.',
        'Press nearer to the end, or let it lie on the other side.',
      );
};

const follow: Doing<'follow'> = (hand, { about }) => {
  const part = ropeOf(hand.figure, about.strand);
  if (!part) return refuse('move', 'A host is not followed.', 'Press on the rope that the end is to follow.');
  const curve = curveOf(part);
  const end = part.id === hand.id ? atLength(curve, lengthOf(curve) - 2) : lastAt(part);
  const near = part.id === hand.id ? end : nearestOn(curve, hand.tip).at;
  const to = near > end / 2 ? 0 : end;
  const d = scale(directionAt(curve, near), to > near ? 1 : -1);
  const side = cross(d, subtract(hand.tip, pointAt(curve, near)));
  const left = side < 0 === to > near;
  return hand.do({
    kind: 'retrace',
    rope: hand.id,
    along: { strand: part.id, from: near, to },
    side: left ? 'left' : 'right',
  });
};

const MOVES: { readonly [K in HandMoveKind]: Doing<K> } = { hitch, turns, overhand, through, loop, follow };
