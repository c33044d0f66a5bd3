/**
 * A knot laid by a learner, a move at a time: the end is led on from where the lesson has it, and what it passes is held against what the lesson's
 * end passes there. A move is told by the crossings it makes, each by what it crosses, between which crossings made before, in which sense, and
 * over or under: drawn larger, rounder or askew it is the same move. What holds of all crossings holds of the drawing.
 */
import { remembered } from '../ground/remembered.js';
import { crossingsOf, weaveFigure, type Crossing } from '../figure/crossings.js';
import { curveOf, directionAt, pointAt } from '../figure/curve.js';
import { hostOf, ropeOf, withRope, type Figure, type Rope, type TrailPosition } from '../figure/figure.js';
import { overPost } from '../figure/hosts.js';
import { add, between, distance, scale, type Point } from '../figure/point.js';
import { extentsAt, isFirstEnd, isReached, stepsOf, truncated, type Method, type Step } from '../tying/method.js';

/** A place of the end as it was led, and whether it went under what it crossed on its way there. */
export interface LedPoint {
  readonly point: Point;
  readonly under: boolean;
}

/** The end as a learner led it, from where the step begins; and crossings of it that were turned over since, by their place on it. */
export interface Led {
  readonly points: readonly LedPoint[];
  readonly turned: readonly number[];
}
export const NOT_LED: Led = { points: [], turned: [] };

/** A crossing that the end makes, in the order of laying. */
export interface Made {
  /** Number in its figure. */
  readonly number: number;
  readonly point: Point;
  /** Where it is on the end's way, in control points from where the step begins. */
  readonly at: number;
  /** What is crossed, and how many of the crossings made before lie before it there. */
  readonly strand: string;
  readonly gap: number;
  readonly turn: 1 | -1;
  /** The end lies over it. */
  readonly over: boolean;
}

/** A stretch of a rope that is being laid: from which place on, and which way along its trail. */
interface Going {
  readonly rope: string;
  readonly from: number;
  readonly way: 1 | -1;
}

/** How late a place is laid: of what was laid before the stretch, 0. */
const lateIn = ({ rope, from, way }: Going, p: TrailPosition): number =>
  p.strand === rope && way * (p.at - from) > 1e-9 ? way * (p.at - from) : 0;

interface Ordered {
  readonly crossing: Crossing;
  readonly own: TrailPosition;
  readonly other: TrailPosition;
}

/** The crossings that a stretch makes, in the order in which it makes them. */
const inOrder = (crossings: readonly Crossing[], going: Going): Ordered[] =>
  crossings
    .map((crossing) => {
      const { first, second } = crossing;
      const [own, other] = lateIn(going, second) > lateIn(going, first) ? [second, first] : [first, second];
      return { crossing, own, other };
    })
    .filter(({ own }) => lateIn(going, own) > 0)
    .sort((a, b) => lateIn(going, a.own) - lateIn(going, b.own));

function madeIn(crossings: readonly Crossing[], going: Going): Made[] {
  const ordered = inOrder(crossings, going);
  const isNew = new Set(ordered.map((o) => o.crossing));
  const before = crossings.filter((c) => !isNew.has(c)).flatMap((c) => [c.first, c.second]);
  return ordered.map(({ crossing, own, other }) => {
    const gap = before.filter((p) => p.strand === other.strand && p.at < other.at).length;
    before.push(own, other);
    return {
      number: crossing.number,
      point: crossing.point,
      at: lateIn(going, own),
      strand: other.strand,
      gap,
      turn: crossing.turn,
      over: crossing.over === own,
    };
  });
}

/** Crossings without those at which a stretch goes across a strand and straight back, over it both times or under it: pulled back, they are gone. */
function withoutReturns(crossings: readonly Crossing[], going: Going): readonly Crossing[] {
  const ordered = inOrder(crossings, going);
  const places = crossings.flatMap((c) => [c.first, c.second]);
  const isFree = (a: TrailPosition, b: TrailPosition): boolean =>
    !places.some((p) => p.strand === a.strand && (p.at - a.at) * (p.at - b.at) < 0);
  for (const [i, a] of ordered.entries()) {
    const b = ordered[i + 1];
    if (!b || a.other.strand !== b.other.strand || a.crossing.turn === b.crossing.turn) continue;
    if ((a.crossing.over === a.own) !== (b.crossing.over === b.own)) continue;
    if (!isFree(a.own, b.own) || !isFree(a.other, b.other)) continue;
    return withoutReturns(
      crossings.filter((c) => c !== a.crossing && c !== b.crossing),
      going,
    );
  }
  return crossings;
}

/** Whether a learner may lay a step: an end that is led. A bight that is drawn out, and what finishes a knot, are shown. */
export const isToLay = (step: Step): boolean =>
  step.stretch !== undefined && step.layout === 0 && step.of.leaders[step.stretch.leader]?.kind === 'end';

/** The steps of a knot as it is laid, not as it is dressed after it. */
export const stepsToLay = (method: Method): readonly Step[] => stepsOf(method).filter((s) => s.layout === 0);

/** Whether nothing is laid after a step: what lies then is the whole knot. */
export const isLastLaid = (method: Method, step: Step): boolean =>
  stepsToLay(method)
    .filter((s) => s.stretch)
    .at(-1) === step;

/** A step that is to be laid: its figure as far as it is laid before, and what is to be made. */
export interface ToLay {
  readonly figure: Figure;
  readonly rope: string;
  readonly way: 1 | -1;
  /** Where the end is, and the place that it points at, a diameter on. */
  readonly at: Point;
  readonly towards: Point;
  /** What the lesson's end makes; numbers are those of the layout that is laid. */
  readonly asked: readonly Made[];
  /** The way of the lesson's end, point by point. */
  readonly shown: readonly Point[];
}

/** How far apart the places of a way are that is shown, in diameters. */
const SHOWN_EVERY = 0.4;

/** What is to be laid in a step; undefined where it is not laid by an end. */
export const toLay = remembered((step: Step): ToLay | undefined => {
  const { stretch, of } = step;
  if (!stretch || !isToLay(step)) return undefined;
  const whole = ropeOf(of.figure, stretch.rope);
  if (!whole) return undefined;
  const leader = of.leaders[stretch.leader];
  const way = isFirstEnd(leader) ? -1 : 1;
  const curve = curveOf(whole);
  const cut = truncated(of.figure, extentsAt(of, stretch.index, stretch.from));
  const at = pointAt(curve, stretch.from);
  const done = extentsAt(of, stretch.index, stretch.to);
  const laid = crossingsOf(of.figure).filter((c) => isReached(done, c.first) && isReached(done, c.second));
  // A rope of which nothing is laid yet is in no figure of what is laid: it begins with its end.
  const there = ropeOf(cut.figure, stretch.rope) !== undefined;
  const ropes = of.figure.ropes.flatMap((r) => {
    const laidOf = ropeOf(cut.figure, r.id);
    if (laidOf) return [laidOf];
    return r.id === stretch.rope ? [{ ...begun(r), points: [at] }] : [];
  });
  const count = Math.max(2, Math.ceil(Math.abs(stretch.to - stretch.from) * 6));
  const shown: Point[] = [];
  for (let i = 0; i <= count; i += 1) {
    const p = pointAt(curve, stretch.from + ((stretch.to - stretch.from) * i) / count);
    const last = shown.at(-1);
    if (!last || i === count || distance(last, p) >= SHOWN_EVERY) shown.push(p);
  }
  return {
    figure: there ? cut.figure : { ...cut.figure, ropes },
    rope: stretch.rope,
    way,
    at,
    towards: add(at, scale(directionAt(curve, stretch.from), way)),
    asked: madeIn(laid, { rope: stretch.rope, from: stretch.from, way }),
    shown,
  };
});

/** A rope with nothing on it that belongs to places of its trail. */
const begun = ({ eyes: _e, wraps: _w, breaks: _b, ...bare }: Rope): Rope => ({
  ...bare,
  curve: 'straight',
  weave: '',
});

/** The figure with the end led as the learner led it, and what it makes there. */
export interface Laid {
  readonly figure: Figure;
  readonly made: readonly Made[];
  /** The same without what goes across a strand and straight back. */
  readonly plain: readonly Made[];
}

/** Whether a crossing with a strand may be turned over: on which side a rope passes a post says itself whether it is in front. */
export const mayTurn = (figure: Figure, strand: string): boolean => hostOf(figure, strand)?.kind !== 'post';

/** Two places on the end's way are one when they are nearer than this. */
const SAME_PLACE = 1e-3;

/** What a learner has laid; nothing while the end has not been led. */
export function laidBy(step: ToLay, led: Led): Laid | undefined {
  const { figure, rope: id, way } = step;
  const rope = ropeOf(figure, id);
  if (!rope || led.points.length === 0 || rope.points.length + led.points.length < 2) return undefined;
  const fresh = led.points.map((p) => p.point);
  const points = way === 1 ? [...rope.points, ...fresh] : [...fresh.slice().reverse(), ...rope.points];
  const from = way === 1 ? rope.points.length - 1 : fresh.length;
  const shift = way === 1 ? 0 : fresh.length;
  const moved = (at: number): number => at + shift;
  const places = (list: readonly number[] | undefined): number[] => (list ?? []).map(moved);
  const bare = withRope(figure, id, {
    points,
    curve: 'straight',
    weave: '',
    ...(rope.eyes ? { eyes: places(rope.eyes) } : {}),
    ...(rope.flips ? { flips: places(rope.flips) } : {}),
    ...(rope.breaks ? { breaks: rope.breaks.map((b) => ({ ...b, at: moved(b.at) })) } : {}),
  });
  const was = rope.points.length < 2 ? [] : crossingsOf(figure);
  const before = (p: TrailPosition): TrailPosition => (p.strand === id ? { ...p, at: p.at - shift } : p);
  const going: Going = { rope: id, from, way };
  const late = (p: TrailPosition): number => lateIn(going, p);
  const same = (p: TrailPosition, q: TrailPosition): boolean =>
    p.strand === q.strand && Math.abs(p.at - q.at) < SAME_PLACE;
  const woven = weaveFigure(bare, (m) => {
    const [a, b] = [late(m.first), late(m.second)];
    if (a === 0 && b === 0) {
      const known = was.find((c) => same(c.first, before(m.first)) && same(c.second, before(m.second)));
      return known === undefined || known.over === known.first;
    }
    const host = hostOf(bare, m.second.strand);
    if (host?.kind === 'post') return overPost(host, m.second.at);
    const own = a > b ? m.first : m.second;
    const under = led.points[Math.ceil(late(own)) - 1]?.under ?? false;
    const isTurned = led.turned.some((at) => Math.abs(at - late(own)) < SAME_PLACE);
    const over = under === isTurned;
    return over === (own === m.first);
  });
  const crossings = crossingsOf(woven);
  return {
    figure: woven,
    made: madeIn(crossings, going),
    plain: madeIn(withoutReturns(crossings, going), going),
  };
}

/** What a move comes to. Numbers of crossings are those of the layout that is laid. */
export type LaidVerdict =
  /** It is the lesson's. */
  | { readonly state: 'right' }
  /** So far it is; so many crossings are made. */
  | { readonly state: 'short'; readonly made: number }
  /** It goes where the lesson's does, but lies the other way at some crossings. */
  | {
      readonly state: 'wrong';
      readonly crossings: readonly number[];
      readonly points: readonly Point[];
      /** What the end crosses at each of them. */
      readonly strands: readonly string[];
    }
  /** It is the mirror image of the lesson's. */
  | { readonly state: 'mirrored' }
  /** It is right for so many crossings, then goes elsewhere: it crosses what it should not, or something else than it should. */
  | {
      readonly state: 'elsewhere';
      readonly made: number;
      readonly went: Made;
      /** What it should cross there; undefined where it should cross nothing any more. */
      readonly should: Made | undefined;
    };

const isOne = (a: Made, b: Made, mirrored = false): boolean =>
  a.strand === b.strand && a.gap === b.gap && a.turn === (mirrored ? -b.turn : b.turn);

function held(asked: readonly Made[], made: readonly Made[]): LaidVerdict {
  const agree = made.findIndex((m, i) => asked[i] === undefined || !isOne(asked[i], m));
  if (agree >= 0) {
    const isMirrored = made.length === asked.length && made.every((m, i) => isOne(asked[i]!, m, true));
    if (isMirrored) return { state: 'mirrored' };
    return { state: 'elsewhere', made: agree, went: made[agree]!, should: asked[agree] };
  }
  const wrong = made.flatMap((m, i) =>
    m.over === asked[i]!.over ? [] : [{ number: asked[i]!.number, point: m.point, strand: m.strand }],
  );
  if (wrong.length > 0)
    return {
      state: 'wrong',
      crossings: wrong.map((w) => w.number),
      points: wrong.map((w) => w.point),
      strands: wrong.map((w) => w.strand),
    };
  return made.length < asked.length ? { state: 'short', made: made.length } : { state: 'right' };
}

/** What a learner's move comes to, held against the lesson's. A hand wavers: across a strand and back is nothing, unless the lesson does it. */
export function judgeLaid({ asked }: Pick<ToLay, 'asked'>, { made, plain }: Pick<Laid, 'made' | 'plain'>): LaidVerdict {
  const verdict = held(asked, made);
  if (verdict.state !== 'elsewhere' || plain.length === made.length) return verdict;
  const second = held(asked, plain);
  return second.state === 'elsewhere' ? verdict : second;
}

/** Places of a hand's way nearer than this, in diameters, are one. */
const LED_EVERY = 0.5;
/** How often a hand's way is rounded. */
const ROUNDED = 2;

/** A way as a hand leads it, made even: places half a diameter apart, its trembling taken out; it begins and ends where the hand did. */
export function evenWay(points: readonly Point[]): Point[] {
  let way = points.filter((p, i) => i === 0 || distance(p, points[i - 1]!) > 1e-6);
  for (let k = 0; k < ROUNDED; k += 1)
    way = way.map((p, i) =>
      i === 0 || i === way.length - 1 ? p : between(between(way[i - 1]!, way[i + 1]!, 0.5), p, 0.5),
    );
  const out: Point[] = way.length > 0 ? [way[0]!] : [];
  for (let i = 1; i < way.length; i += 1) {
    const to = way[i]!;
    for (let last = out.at(-1)!; distance(last, to) >= LED_EVERY; last = out.at(-1)!)
      out.push(between(last, to, LED_EVERY / distance(last, to)));
  }
  return out;
}
