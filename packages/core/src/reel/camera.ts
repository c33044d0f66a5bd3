/**
 * Where the camera looks: near enough that what is tied fills half of the picture at least, moving from one step to the next; and in a wrong
 * way from the whole knot to what is wrong, and back.
 */
import { heartBox } from '../drawing/drawing.js';
import { drawStep, figureInView, pictureBox, viewOfStep, type View } from '../drawing/steps.js';
import { curveOf, lineBetween } from '../figure/curve.js';
import { ropeOf, type Figure } from '../figure/figure.js';
import { boxOf, type Box, type Point } from '../figure/point.js';
import { remembered } from '../ground/remembered.js';
import { stepsOf, type Method, type Step } from '../tying/method.js';
import { crossingsPassed, ease, passedAfter, type Moment } from './timeline.js';

/** The share of the picture's width or height that what is tied fills at least, and how much nearer the camera goes for it at most. */
export const FILLS = 0.5;
/** What is meant to fill that much, for the margin that every picture has. */
const MEANT = 0.56;
const NEAREST = 2.2;
/** Room about what is tied, in diameters: the arrow at its end lies within. */
const ROOM = 1.6;
/** Share of a step's motion in which the camera comes from the step before: sooner where a crossing is passed by then, but never with a jerk. */
export const COMES = 0.4;
const COMES_SOONEST = 0.12;
/** A wrong way: when the camera begins to go near, is near, begins to go back, is back, as shares of its time; and how much nearer it is. */
const WRONG = { from: 0.15, near: 0.35, back: 0.75, to: 0.92, times: 1.9 } as const;

/** A picture's size, in any unit. */
export interface Size {
  readonly width: number;
  readonly height: number;
}

/** A box on the way from one to another. */
export const betweenBoxes = (a: Box, b: Box, share: number): Box =>
  a.map((v, i) => v + ((b[i] as number) - v) * share) as [number, number, number, number];
const widthOf = ([l, , r]: Box): number => r - l;
const heightOf = ([, t, , b]: Box): number => b - t;
const around = ([l, t, r, b]: Box, room: number): Box => [l - room, t - room, r + room, b + room];
const both = (a: Box, b: Box): Box => [
  Math.min(a[0], b[0]),
  Math.min(a[1], b[1]),
  Math.max(a[2], b[2]),
  Math.max(a[3], b[3]),
];

/** How large a box is drawn in a picture. */
const scaleIn = (box: Box, { width, height }: Size): number => Math.min(width / widthOf(box), height / heightOf(box));

/** What of the board the whole canvas shows round a frame: ropes run on to its edge. */
export function shownBox([l, t, r, b]: Box, width: number, height: number): Box {
  const share = width / height;
  const [w, h] = [Math.max(r - l, share * (b - t)), Math.max(b - t, (r - l) / share)];
  const [x, y] = [(l + r) / 2, (t + b) / 2];
  return [x - w / 2, y - h / 2, x + w / 2, y + h / 2];
}

/** A part of a box, so many times nearer, about a place, within the box as far as can be. */
function nearer(box: Box, times: number, [x, y]: Point): Box {
  const [w, h] = [widthOf(box) / times, heightOf(box) / times];
  const left = Math.min(Math.max(x - w / 2, box[0]), box[2] - w);
  const top = Math.min(Math.max(y - h / 2, box[1]), box[3] - h);
  return [left, top, left + w, top + h];
}

const middleOf = ([l, t, r, b]: Box): Point => [(l + r) / 2, (t + b) / 2];

/** Where the stretch of a step lies, with the arrow at its end; nothing where it lays none. */
export function tiedBox({ of, stretch, telling }: Step, view: View): Box | undefined {
  const rope = stretch && ropeOf(figureInView(of.figure, viewOfStep({ telling }, view)), stretch.rope);
  const box = rope && boxOf(lineBetween(curveOf(rope), stretch.from, stretch.to));
  return box && around(box, ROOM);
}

/** Where it has looked: every frame of a step looks there. */
const known = remembered((_method: Method) => new Map<string, Box>());

/** Where the camera looks while a step is laid, in a picture of a size: nearer than the whole figure where the step would be small. */
export function stepCamera(method: Method, k: number, view: View, size: Size): Box {
  const key = `${k} ${view} ${size.width} ${size.height}`;
  const box = known(method).get(key) ?? lookedAt(method, k, view, size);
  known(method).set(key, box);
  return box;
}

function lookedAt(method: Method, k: number, view: View, size: Size): Box {
  const whole = pictureBox(method, k, view);
  const step = stepsOf(method)[k];
  const tied = step?.does === 'lay' && step.telling.closeUp === undefined ? tiedBox(step, view) : undefined;
  if (!tied) return whole;
  const fills = Math.max(widthOf(tied) / size.width, heightOf(tied) / size.height);
  const times = Math.min(NEAREST, MEANT / (fills * scaleIn(whole, size)));
  if (times <= 1) return whole;
  // What is called out is not cut off.
  const { notes } = drawStep(method, k, { view });
  return notes.reduce<Box>((box, note) => both(box, around(note.box, 0.4)), nearer(whole, times, middleOf(tied)));
}

/** After which share of a step's way the camera has come: before its first crossing is passed. */
const comesBy = remembered((step: Step): number => {
  const passed = crossingsPassed(step).map((p) => ease(passedAfter(step, p.at)));
  return Math.max(COMES_SOONEST, Math.min(COMES, ...passed));
});

/** Where the camera looks at a moment of a step that is laid: it comes from where it looked in the step before. */
export function cameraAt(method: Method, { step = 0, before, share }: Moment, view: View, size: Size): Box {
  const box = stepCamera(method, step, view, size);
  if (before === undefined || share >= COMES) return box;
  const steps = stepsOf(method);
  const [was, is] = [steps[before], steps[step]];
  // Another layout, or another face, is another picture: it is cut to.
  if (!was || !is || was.layout !== is.layout || viewOfStep(was, view) !== viewOfStep(is, view)) return box;
  return betweenBoxes(stepCamera(method, before, view, size), box, ease(Math.min(1, share / comesBy(is))));
}

/** Where the camera looks after a share of the time in which a wrong way is shown: at the whole knot, at what is wrong, at the whole again. */
export function wrongCamera(figure: Figure, points: readonly Point[], share: number): Box {
  const whole = heartBox(figure);
  const place = boxOf(points);
  if (!place) return whole;
  const { from, near, back, to, times } = WRONG;
  const gone = Math.min((share - from) / (near - from), (to - share) / (to - back));
  const far = Math.max(widthOf(place) / widthOf(whole), heightOf(place) / heightOf(whole));
  const close = nearer(whole, Math.max(1, Math.min(times, 0.8 / Math.max(far, 0.01))), middleOf(place));
  return betweenBoxes(whole, close, ease(Math.min(1, Math.max(0, gone))));
}
