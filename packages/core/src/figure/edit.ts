/**
 * Edits: small values that say what to do to a figure. Applying one gives the new figure and the mapping of trail positions. A
 * crossing that survives an edit keeps its over and under; a new one is laid over (or under, when asked).
 */
import { bight, pullThrough, type BightEdit, type PullThroughEdit } from './bight.js';
import {
  badPoint,
  BREAKS,
  edited,
  LIMITS,
  missing,
  noPoint,
  onBoard,
  onEachOther,
  strandOf,
  tooClose,
  tooMany,
  withMarks,
  type Edited,
  type Pass,
} from './bounds.js';
import { breakNear, outerBreaks } from './breaks.js';
import { carry, glide, laterOver, movedOver, pointsOf, withPoints } from './carry.js';
import { crossingsOf, isWithinKnot, passagesOf, weaveFigure } from './crossings.js';
import { MOST_FLIPS, DIAMETERS, diameterOf, isFlat, sideAt, type Cordage, type OfCordage } from './cordage.js';
import { curveOf, lengthTo, nearestOn, pointAt } from './curve.js';
import {
  hostOf,
  lastAt,
  ropeOf,
  withRope,
  type Figure,
  type Host,
  type Letter,
  type Rope,
  type TrailPosition,
  type TrailSpan,
} from './figure.js';
import { HOST_SIZES } from './hosts.js';
import { decideStretch, lay, workingRope, type LaidStretch, type LayEdit } from './laying.js';
import { IDENTITY, mapPosition, mapThrough, splice, through, type Mapping } from './mapping.js';
import { clear, transform, type ClearEdit, type TransformEdit } from './part.js';
import { add, type Point } from './point.js';
import { accept, refuse, type Refusal, type Result } from './refusal.js';
import { retrace, type RetraceEdit } from './retrace.js';
import { twist, type TwistEdit } from './twist.js';
import { rewrap, wrapBight, wrapEnd, type RewrapEdit, type WrapBightEdit, type WrapEdit } from './wrap.js';

/** What lays the working end of a rope on. */
export type EndEdit = LayEdit | WrapEdit | RetraceEdit | SeveralEdit;

/** One after another, as one: each is for the figure that the one before it leaves. */
export interface SeveralEdit {
  readonly kind: 'several';
  readonly rope: string;
  readonly edits: readonly EndEdit[];
}

export type Edit =
  | TransformEdit
  | ClearEdit
  | LayEdit
  | WrapEdit
  | WrapBightEdit
  | RewrapEdit
  | RetraceEdit
  | BightEdit
  | PullThroughEdit
  | SeveralEdit
  | TwistEdit
  | {
      readonly kind: 'move-point';
      readonly strand: string;
      readonly index: number;
      readonly to: Point;
      readonly pass?: Letter;
    }
  | { readonly kind: 'insert-point'; readonly strand: string; readonly at: number; readonly point?: Point }
  | { readonly kind: 'remove-point'; readonly strand: string; readonly index: number }
  /** Swaps over and under at the crossing that passes this trail position. */
  | { readonly kind: 'swap'; readonly where: TrailPosition }
  | { readonly kind: 'add-rope'; readonly rope: Omit<Rope, 'weave'>; readonly pass?: string }
  | { readonly kind: 'remove-rope'; readonly rope: string }
  | { readonly kind: 'add-host'; readonly host: Host }
  | { readonly kind: 'move-host'; readonly host: string; readonly by: Point }
  | { readonly kind: 'size-host'; readonly host: string; readonly size: number }
  | { readonly kind: 'remove-host'; readonly host: string }
  | { readonly kind: 'reverse'; readonly rope: string }
  /** What lays the working end on, done with the rope's first end; several are said of the rope turned round. */
  | { readonly kind: 'first-end'; readonly laid: EndEdit }
  /** Declares a loop that is meant to stay, by a place on it; an eye that is there already is taken back. */
  | { readonly kind: 'toggle-eye'; readonly where: TrailPosition }
  /** What a rope is: its diameter, its colours, its construction. Its turns are laid anew as far apart as it is thick. */
  | { readonly kind: 'set-cordage'; readonly rope: string; readonly cordage: Cordage | undefined }
  /** Flat webbing is turned over at a place; where it is turned over already, that is taken back. */
  | { readonly kind: 'turn-over'; readonly where: TrailPosition }
  | {
      readonly kind: 'set-ends';
      readonly rope: string;
      readonly ends: Rope['ends'];
      readonly trimmed?: Rope['trimmed'];
    }
  /** A place at which the rope is drawn short, and how many of its diameters that counts; `undefined` takes the break there back. */
  | { readonly kind: 'set-break'; readonly where: TrailPosition; readonly counts: number | undefined }
  /** Joins a rope's ends to a sling, or opens a sling where its trail begins. */
  | { readonly kind: 'set-closed'; readonly rope: string; readonly closed: boolean }
  /** Puts another drawing of the same knot in place of what is there. */
  | { readonly kind: 'redraw'; readonly figure: Figure; readonly mapping: Mapping };

export interface Applied {
  readonly figure: Figure;
  readonly mapping: Mapping;
}

const MOST_EYES = 8;

type Kind = Edit['kind'];
type Of<K extends Kind> = Extract<Edit, { readonly kind: K }>;

/** Applies an edit. The figure given is never changed. */
export function applyEdit(figure: Figure, edit: Edit): Result<Applied> {
  const done = (HANDLERS[edit.kind] as (figure: Figure, edit: Edit) => Edited)(figure, edit);
  if (!done.ok) return done;
  const mapping = done.value[1];
  const next = outerBreaks(done.value[0]);
  const size = crossingsOf(next).length;
  if (size > LIMITS.crossings) {
    const reason = `That makes ${size} crossings; a figure holds ${LIMITS.crossings} at most.`;
    return refuse('figure', reason, 'Split the knot into two figures.');
  }
  return accept({ figure: next, mapping });
}

const HANDLERS: { readonly [K in Kind]: (figure: Figure, edit: Of<K>) => Edited } = {
  lay,
  wrap: wrapEnd,
  'wrap-bight': wrapBight,
  rewrap,
  retrace,
  bight,
  'pull-through': pullThrough,
  twist,
  transform,
  clear,
  'move-point': movePoint,
  'insert-point': insertPoint,
  'remove-point': removePoint,
  swap,
  'add-rope': (figure, { rope, pass }) => {
    const refusal = unfit(figure, rope, `rope ${rope.id}`);
    if (refusal) return refusal;
    const next = { ...figure, ropes: [...figure.ropes, { ...rope, weave: '' }] };
    const letter = (at: number): Pass => {
      const asked = pass?.[Math.floor(at)];
      return asked === 'U' || asked === 'W' ? asked : 'O';
    };
    const whole: LaidStretch = { rope: rope.id, from: -1, to: Infinity, pass: letter };
    return edited(carry(figure, next, IDENTITY, decideStretch(next, whole)));
  },
  'remove-rope': (figure, { rope }) => {
    if (!ropeOf(figure, rope)) return missing(rope);
    return without(figure, rope, { ...figure, ropes: figure.ropes.filter((r) => r.id !== rope) });
  },
  'add-host': (figure, { host }) => {
    const refusal = unfit(figure, host, `host ${host.id}`);
    if (refusal) return refusal;
    const next = { ...figure, hosts: [...figure.hosts, host] };
    return edited(carry(figure, next, IDENTITY, laterOver(next)));
  },
  'move-host': (figure, { host: id, by }) => {
    const host = hostOf(figure, id);
    if (!host) return missing(id);
    const target = host.points.map((p) => add(p, by));
    if (!target.every(onBoard)) return badPoint(`host ${id}`);
    return edited(glide(figure, id, target, (f) => laterOver(f)));
  },
  'size-host': (figure, { host: id, size }) => {
    if (!hostOf(figure, id)) return missing(id);
    if (!(size >= HOST_SIZES.least && size <= HOST_SIZES.most))
      return refuse(
        `host ${id}`,
        `It cannot be ${size} rope diameters thick.`,
        `Give a thickness from ${HOST_SIZES.least} to ${HOST_SIZES.most}.`,
      );
    return edited({ ...figure, hosts: figure.hosts.map((h) => (h.id === id ? { ...h, size } : h)) });
  },
  'remove-host': (figure, { host }) => {
    if (!hostOf(figure, host)) return missing(host);
    return without(figure, host, { ...figure, hosts: figure.hosts.filter((h) => h.id !== host) });
  },
  reverse,
  'first-end': firstEnd,
  several: (figure, { edits }) => inTurn(figure, edits),
  'toggle-eye': (figure, { where }) => {
    const rope = ropeOf(figure, where.strand);
    if (!rope) return missing(where.strand);
    const n = rope.closed ? rope.points.length : lastAt(rope);
    if (!(where.at > 0 && where.at < n))
      return refuse(
        `${rope.id} at ${where.at}`,
        'An eye lies between the ends of its rope.',
        'Choose a place on the loop.',
      );
    const eyes = rope.eyes ?? [];
    // Two places with no crossing between them lie on one loop.
    const stretchOf = (at: number): number => passagesOf(figure, rope.id).filter((p) => p.at < at).length;
    const there = eyes.filter((e) => stretchOf(e) === stretchOf(where.at));
    const next = there.length > 0 ? eyes.filter((e) => !there.includes(e)) : [...eyes, where.at].sort((a, b) => a - b);
    const stretch = stretchOf(where.at);
    if (there.length === 0 && !rope.closed && (stretch === 0 || stretch === passagesOf(figure, rope.id).length))
      return refuse(
        `${rope.id} at ${where.at.toFixed(2)}`,
        'There is no loop: nothing closes it on one side.',
        'Choose a place between two crossings, or lay the rope on until the loop is closed.',
      );
    if (next.length > MOST_EYES)
      return refuse(`rope ${rope.id}`, `A rope has ${MOST_EYES} eyes at most.`, 'Take one back first.');
    return edited(withRope(figure, rope.id, { eyes: next }));
  },
  'set-cordage': setCordage,
  'turn-over': turnOver,
  'set-break': setBreak,
  'set-ends': (figure, { rope: id, ends, trimmed }) => {
    const rope = ropeOf(figure, id);
    if (!rope) return missing(id);
    const { trimmed: _old, ...bare } = rope;
    const next: Rope = { ...bare, ends, ...(trimmed?.includes(true) === true ? { trimmed } : {}) };
    return edited({ ...figure, ropes: figure.ropes.map((r) => (r === rope ? next : r)) });
  },
  'set-closed': (figure, { rope: id, closed }) => {
    const rope = ropeOf(figure, id);
    if (!rope) return missing(id);
    if (closed && rope.points.length < 3)
      return refuse(`rope ${id}`, 'A sling needs three points.', 'Lay the rope farther first.');
    const ends: Rope['ends'] = closed ? ['off', 'off'] : ['standing', 'tail'];
    const next = withRope(figure, id, { closed, ends });
    return edited(carry(figure, next, IDENTITY, laterOver(next)));
  },
  redraw: (_figure, edit) => edited(edit.figure, edit.mapping),
};

function setCordage(figure: Figure, { rope: id, cordage }: Of<'set-cordage'>): Edited {
  const rope = ropeOf(figure, id);
  if (!rope) return missing(id);
  const d = cordage?.diameter;
  if (d !== undefined && !(d >= DIAMETERS.least && d <= DIAMETERS.most))
    return refuse(
      `rope ${id}`,
      `It cannot be ${d} times as thick as the others.`,
      `Give a diameter from ${DIAMETERS.least} to ${DIAMETERS.most}.`,
    );
  const { cordage: _old, backUp: _backUp, flips: _flips, ...bare } = rope;
  const sides: OfCordage = {
    ...(rope.backUp === undefined ? {} : { backUp: rope.backUp }),
    ...(rope.flips === undefined ? {} : { flips: rope.flips }),
  };
  const next: Rope = { ...bare, ...(isFlat(cordage) ? sides : {}), ...(cordage ? { cordage } : {}) };
  const made: Figure = { ...figure, ropes: figure.ropes.map((r) => (r === rope ? next : r)) };
  if (diameterOf(rope) === diameterOf(next)) return edited(made);
  // Turns of it, and turns of others round it, are as far apart and as wide as the rope is thick; turns that do not fit stay as they are.
  return made.ropes.reduce<Edited>(
    (done, r) =>
      (r.wraps ?? []).reduce<Edited>((before, w, wrap) => {
        if (!before.ok || (r.id !== id && !w.about.some((p) => p.strand === id))) return before;
        const [now, mapping] = before.value;
        const again = rewrap(now, { kind: 'rewrap', rope: r.id, wrap });
        return again.ok ? edited(again.value[0], mapThrough(mapping, again.value[1])) : before;
      }, done),
    edited(made),
  );
}

function turnOver(figure: Figure, { where }: Of<'turn-over'>): Edited {
  const rope = ropeOf(figure, where.strand);
  if (!rope) return missing(where.strand);
  const place = `rope ${rope.id} at ${where.at.toFixed(2)}`;
  if (!isFlat(rope.cordage))
    return refuse(place, 'Only flat webbing has a face and a back.', 'Say first that the rope is flat webbing.');
  if (!(where.at > 0 && where.at < lastAt(rope)))
    return refuse(place, 'Webbing is turned over between its ends.', 'Choose a place on it.');
  const flips = rope.flips ?? [];
  const curve = curveOf(rope);
  const near = flips.filter((f) => Math.abs(lengthTo(curve, f) - lengthTo(curve, where.at)) < FLIP_REACH);
  const next = near.length > 0 ? flips.filter((f) => !near.includes(f)) : [...flips, where.at].sort((a, b) => a - b);
  if (next.length > MOST_FLIPS)
    return refuse(place, `Webbing is turned over ${MOST_FLIPS} times at most.`, 'Take one back first.');
  return edited(withRope(figure, rope.id, { flips: next }));
}

function setBreak(figure: Figure, { where, counts }: Of<'set-break'>): Edited {
  const rope = ropeOf(figure, where.strand);
  if (!rope) return missing(where.strand);
  const place = `rope ${rope.id} at ${where.at.toFixed(2)}`;
  if (rope.closed || !(where.at > 0 && where.at < lastAt(rope)) || isWithinKnot(figure, where))
    return refuse(
      place,
      'Within the knot the rope is drawn as long as it is.',
      'Choose a place on its standing part or its tail.',
    );
  if (counts !== undefined && !(counts > 0 && counts <= BREAKS.counts))
    return refuse(
      place,
      `A break cannot count ${counts} diameters.`,
      `Give a length above 0, and ${BREAKS.counts} at most.`,
    );
  const there = breakNear(rope, where.at);
  const others = (rope.breaks ?? []).filter((b) => b !== there);
  const breaks =
    counts === undefined ? others : [...others, { at: there?.at ?? where.at, counts }].sort((a, b) => a.at - b.at);
  if (breaks.length > BREAKS.most)
    return refuse(place, `A rope has ${BREAKS.most} breaks at most.`, 'Take one back, or let one count more.');
  return edited(withRope(figure, rope.id, { breaks }));
}

/** How near a place where webbing is turned over must be to mean it, in diameters. */
const FLIP_REACH = 1.5;

/** Why a new strand cannot join the figure, if it cannot. */
function unfit(figure: Figure, strand: Pick<Rope, 'id' | 'points'>, place: string): Refusal | undefined {
  if (strandOf(figure, strand.id)) {
    return refuse(strand.id, 'That name is taken by another strand.', 'Give it another.');
  }
  if (figure.ropes.length + figure.hosts.length >= LIMITS.strands) {
    const reason = `A figure holds ${LIMITS.strands} ropes and hosts at most.`;
    return refuse('figure', reason, 'Split the knot into two figures.');
  }
  if (strand.points.length < 2 || tooClose(strand.points) || !strand.points.every(onBoard)) return badPoint(place);
  return strand.points.length > LIMITS.points ? tooMany(strand.id) : undefined;
}

function without(figure: Figure, strand: string, next: Figure): Edited {
  const mapping: Mapping = new Map([[strand, []]]);
  const left = withMarks(next, mapping);
  return edited(carry(figure, left, mapping, laterOver(left)), mapping);
}

function movePoint(figure: Figure, { strand, index, to, pass }: Of<'move-point'>): Edited {
  const place = `${strand}, point ${index}`;
  const points = pointsOf(figure, strand);
  if (!points) return missing(strand);
  if (points[index] === undefined) return noPoint(place);
  if (!onBoard(to)) return badPoint(place);
  const target = points.map((p, i) => (i === index ? to : p));
  if (tooClose(target)) return onEachOther(place);
  return edited(glide(figure, strand, target, (f) => movedOver(f, strand, index, pass ?? 'O')));
}

function insertPoint(figure: Figure, edit: Of<'insert-point'>): Edited {
  const strand = strandOf(figure, edit.strand);
  if (!strand) return missing(edit.strand);
  if (strand.points.length >= LIMITS.points) return tooMany(strand.id);
  const place = `${edit.strand} at ${edit.at}`;
  const k = Math.floor(edit.at);
  const t = edit.at - k;
  const n = curveOf(strand).pieces.length;
  if (!(edit.at > 0 && edit.at < n) || t === 0) {
    return refuse(place, 'A point goes between two others.', 'Choose a place on the rope between its points.');
  }
  const onCurve = pointAt(curveOf(strand), edit.at);
  const points = [...strand.points.slice(0, k + 1), onCurve, ...strand.points.slice(k + 1)];
  if (tooClose(points)) return refuse(place, 'There is a control point there already.', 'Move that one instead.');
  const mapping = through(strand.id, [0, 0], [k, k], [k + t, k + 1], [k + 1, k + 2], [n, n + 1]);
  const next = withMarks(withPoints(figure, strand.id, points), mapping);
  const woven = carry(figure, next, mapping, movedOver(next, strand.id, k + 1, 'O'));
  if (!edit.point) return edited(woven, mapping);
  const moved = movePoint(woven, { kind: 'move-point', strand: strand.id, index: k + 1, to: edit.point });
  return moved.ok ? edited(moved.value[0], mapping) : moved;
}

function removePoint(figure: Figure, { strand: id, index: i }: Of<'remove-point'>): Edited {
  const strand = strandOf(figure, id);
  if (!strand) return missing(id);
  if (strand.points[i] === undefined) return noPoint(`${id}, point ${i}`);
  const closed = 'closed' in strand && strand.closed;
  if (strand.points.length <= (closed ? 3 : 2)) {
    return refuse(id, 'A strand needs its last points.', 'Remove the whole strand instead.');
  }
  const n = lastAt(strand);
  const left = withPoints(
    figure,
    id,
    strand.points.filter((_, k) => k !== i),
  );
  const atEnd = !closed && (i === 0 || i === strand.points.length - 1);
  const low = Math.max(0, i - 1);
  const mapping = !atEnd
    ? splice(id, n, low, i + 1 - low, i - low)
    : i === 0
      ? through(id, [1, 0], [n, n - 1])
      : through(id, [0, 0], [n - 1, n - 1]);
  const next = withMarks(left, mapping);
  // An inner point first slides onto the curve that will be left, so that taking it out changes next to nothing.
  const before = atEnd ? figure : slidOnto(figure, strand, i, curveOf(strandOf(next, id) as Rope | Host));
  return edited(carry(before, next, mapping, movedOver(next, id, low, 'O')), mapping);
}

function slidOnto(figure: Figure, strand: Rope | Host, i: number, curve: ReturnType<typeof curveOf>): Figure {
  const rest = pointAt(curve, nearestOn(curve, strand.points[i] as Point).at);
  const target = strand.points.map((p, k) => (k === i ? rest : p));
  return tooClose(target) ? figure : glide(figure, strand.id, target, (f) => movedOver(f, strand.id, i, 'O'));
}

/** How near a trail position must be to a passage, in control-point intervals, to mean it. */
const PASSAGE_REACH = 0.5;

function swap(figure: Figure, { where }: Of<'swap'>): Edited {
  const list = crossingsOf(figure);
  const away = (p: TrailPosition): number => (p.strand === where.strand ? Math.abs(p.at - where.at) : Infinity);
  const distances = list.map((c) => Math.min(away(c.first), away(c.second)));
  const least = Math.min(...distances, Infinity);
  if (least > PASSAGE_REACH) {
    const place = `${where.strand} at ${where.at.toFixed(2)}`;
    return refuse(place, 'There is no crossing there.', 'Choose a waymark.');
  }
  const swapped = list[distances.indexOf(least)];
  return edited(
    weaveFigure(figure, (m) => {
      const c = list.find((x) => x.first === m.first && x.second === m.second);
      return (c?.over === m.first) !== (c === swapped);
    }),
  );
}

/** Laying with the first end: the rope is turned round, laid on, and turned back. A standing part that is laid on is a tail. */
/** Edits one after another, with what became of every place. */
function inTurn(figure: Figure, edits: readonly Edit[]): Edited {
  let [now, mapping] = [figure, IDENTITY];
  for (const edit of edits) {
    const done = (HANDLERS[edit.kind] as (figure: Figure, edit: Edit) => Edited)(now, edit);
    if (!done.ok) return done;
    [now, mapping] = [done.value[0], mapThrough(mapping, done.value[1])];
  }
  return edited(now, mapping);
}

function firstEnd(figure: Figure, { laid }: Of<'first-end'>): Edited {
  const rope = workingRope(figure, laid.rope);
  if ('ok' in rope) return rope;
  const turn = { kind: 'reverse', rope: rope.id } as const;
  const last = lastAt(rope);
  const there = <P extends TrailPosition>(p: P): P => (p.strand === rope.id ? { ...p, at: last - p.at } : p);
  const along = (s: TrailSpan): TrailSpan =>
    s.strand === rope.id ? { ...s, from: last - s.from, to: last - s.to } : s;
  const turned: Edit =
    laid.kind === 'wrap'
      ? { ...laid, about: laid.about.map(there) }
      : laid.kind === 'retrace'
        ? { ...laid, along: along(laid.along) }
        : laid;
  const done = inTurn(figure, [turn, turned, turn]);
  if (!done.ok) return done;
  const [now, mapping] = done.value;
  const ends: Rope['ends'] = [rope.ends[0] === 'standing' ? 'tail' : rope.ends[0], rope.ends[1]];
  // Turns laid as one stay so; turned round twice they would be rope like any other.
  const moved = (at: number): number => mapPosition(mapping, { strand: rope.id, at })?.at ?? at;
  const wraps = rope.wraps?.map((w) => ({
    ...w,
    from: moved(w.from),
    to: moved(w.to),
    about: w.about.map((p) => mapPosition(mapping, p) ?? p),
  }));
  return edited(withRope(now, rope.id, { ends, ...(wraps ? { wraps } : {}) }), mapping);
}

function reverse(figure: Figure, edit: Of<'reverse'>): Edited {
  const rope = ropeOf(figure, edit.rope);
  if (!rope) return missing(edit.rope);
  const n = lastAt(rope);
  const [first, ...others] = rope.points;
  const points = rope.closed ? [first as Point, ...others.reverse()] : [...rope.points].reverse();
  const turned: Partial<Rope> = {
    points,
    ends: [rope.ends[1], rope.ends[0]],
    ...(isFlat(rope.cordage) ? { backUp: sideAt(rope, n) === 'back' } : {}),
    ...(rope.trimmed ? { trimmed: [rope.trimmed[1], rope.trimmed[0]] } : {}),
  };
  const mapping = through(rope.id, [0, n], [n, 0]);
  const next = withMarks(withRope(figure, rope.id, turned), mapping);
  return edited(carry(figure, next, mapping, laterOver(next)), mapping);
}
