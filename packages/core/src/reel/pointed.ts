/**
 * What a scene points out, where it lies in the picture: on the drawing as far as its rope is laid, on the knot as it lies in the hand.
 */
import { laidRope, setNotes, type Note, type Surroundings } from '../drawing/callouts.js';
import { figureInView, viewOfStep, type View } from '../drawing/steps.js';
import { curveOf, nearestOn, pointAt } from '../figure/curve.js';
import { ropeOf, type TrailPosition } from '../figure/figure.js';
import { between, distance, type Box, type Point } from '../figure/point.js';
import { beadNearest, placeOf, type Chain } from '../form/form.js';
import type { Pose } from '../form/on-its-way.js';
import { dotOf } from '../form/vector.js';
import { extentsAt, isReached, stepsOf, WHOLE, type Extents, type Method, type Step } from '../tying/method.js';
import type { SceneCallout } from '../tying/reels.js';
import type { Moment } from './timeline.js';

/** Something that is pointed out: its place, where a ruler ends, its words where it has some, and whence an arrow comes. */
export interface Pointed {
  readonly kind: SceneCallout['kind'];
  readonly at: Point;
  readonly to?: Point | undefined;
  readonly note?: Note | undefined;
  readonly from: Point;
}

/** How long an arrow without words is, in diameters, and how many ways it is tried from. */
const ARROW = 4;
const WAYS = 24;

/** Whence an arrow comes without covering rope: from where there is most room. */
function arrowFrom([x, y]: Point, { rope, frame }: Surroundings): Point {
  const free = ([u, v]: Point): number => {
    const isOut = frame !== undefined && (u < frame[0] || u > frame[2] || v < frame[1] || v > frame[3]);
    return rope.reduce((d, [a, b]) => Math.min(d, Math.hypot(a - u, b - v)), isOut ? -1 : Infinity);
  };
  const ways = Array.from({ length: WAYS }, (_, k): Point => {
    const angle = (2 * Math.PI * k) / WAYS;
    return [x + ARROW * Math.cos(angle), y + ARROW * Math.sin(angle)];
  });
  return ways.reduce((best, p) => (free(p) > free(best) ? p : best), ways[0] as Point);
}

interface Placed {
  readonly callout: SceneCallout;
  readonly at: Point;
  readonly to?: Point | undefined;
}

/** What is said of it; of a ruler nothing else is said of, how long it is, in diameters. */
const wordsOf = ({ callout: { text = '' }, at, to }: Placed): string =>
  text.trim() === '' && to ? `${distance(at, to).toFixed(1)} d` : text;

function pointedAt(places: readonly Placed[], about: Surroundings): readonly Pointed[] {
  const worded = places.map((p) => ({ at: p.to ? between(p.at, p.to, 0.5) : p.at, text: wordsOf(p) }));
  const notes = setNotes(worded, about);
  let next = 0;
  return places.map((placed, i): Pointed => {
    const { callout, at, to } = placed;
    const note = worded[i]?.text.trim() === '' ? undefined : notes[next];
    if (note) next += 1;
    return { kind: callout.kind, at, to, note, from: note?.from ?? arrowFrom(at, about) };
  });
}

const laidAt = ({ of, stretch }: Step, at: number): Extents => (stretch ? extentsAt(of, stretch.index, at) : WHOLE);

/** What is pointed out on the drawing of a step at a moment: what is laid by then. `frame`: what is in view. */
export function pointedInStep(method: Method, moment: Moment, view: View, frame: Box): readonly Pointed[] {
  const step = stepsOf(method)[moment.step ?? -1];
  const { callouts = [] } = moment;
  if (!step || callouts.length === 0) return [];
  const figure = figureInView(step.of.figure, viewOfStep(step, view));
  const extents = laidAt(step, moment.at);
  const places = callouts.flatMap((callout) => {
    const rope = ropeOf(figure, callout.strand);
    const { strand, to } = callout;
    const isLaid = isReached(extents, callout) && (to === undefined || isReached(extents, { strand, at: to }));
    if (!rope || !isLaid) return [];
    const place = (at: number): Point => pointAt(curveOf(rope), at);
    return [{ callout, at: place(callout.at), to: to === undefined ? undefined : place(to) }];
  });
  return pointedAt(places, { ...laidRope(figure, extents), frame });
}

const flat = (chain: Chain, i: number, { sight }: Pose): Point => {
  const p = placeOf(chain.x, i);
  return [dotOf(p, sight.right), dotOf(p, sight.down)];
};

/** What is pointed out on the knot as it lies in the hand; its words do not cover what is `taken`. */
export function pointedOnForm(
  pose: Pose,
  callouts: readonly SceneCallout[],
  frame: Box,
  taken: readonly Box[] = [],
): readonly Pointed[] {
  const { chains } = pose.form;
  const places = callouts.flatMap((callout) => {
    const chain = chains.find((c) => c.rope === callout.strand);
    if (!chain) return [];
    const place = (at: number): Point => flat(chain, beadNearest(chain, at), pose);
    return [{ callout, at: place(callout.at), to: callout.to === undefined ? undefined : place(callout.to) }];
  });
  const rope = chains.flatMap((c) => Array.from(c.at, (_, i) => flat(c, i, pose)));
  return pointedAt(places, { rope, crossings: [], taken, frame });
}

/** How far from a rope a press still means it, in diameters. */
const NEAR = 2.5;

/** The place of the trail that lies nearest to a place of a step's drawing, as far as it is laid; nothing where none is near. */
export function trailInStep(method: Method, moment: Moment, view: View, place: Point): TrailPosition | undefined {
  const step = stepsOf(method)[moment.step ?? -1];
  if (!step) return undefined;
  const extents = laidAt(step, moment.at);
  const found = figureInView(step.of.figure, viewOfStep(step, view)).ropes.flatMap((rope) => {
    const { at, away } = nearestOn(curveOf(rope), place);
    const own = { strand: rope.id, at };
    return away < NEAR && isReached(extents, own) ? [{ own, away }] : [];
  });
  return found.sort((a, b) => a.away - b.away)[0]?.own;
}

/** The same on the knot as it lies in the hand: of what lies there, what is in front. */
export function trailOnForm(pose: Pose, [x, y]: Point): TrailPosition | undefined {
  let best: { readonly own: TrailPosition; readonly depth: number } | undefined;
  for (const chain of pose.form.chains)
    for (let i = 0; i < chain.at.length; i += 1) {
      const [u, v] = flat(chain, i, pose);
      const depth = dotOf(placeOf(chain.x, i), pose.sight.near);
      if (Math.hypot(u - x, v - y) > chain.radius || (best && best.depth >= depth)) continue;
      best = { own: { strand: chain.rope, at: chain.at[i] as number }, depth };
    }
  return best?.own;
}
