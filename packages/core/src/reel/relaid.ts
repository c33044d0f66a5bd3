/**
 * A knot that is laid anew: strand by strand from how it was drawn to how it is drawn next, its crossings kept. Where something passes
 * something on the way, the one picture gives way to the other.
 */
import { drawFigure, heartBox, type Drawing } from '../drawing/drawing.js';
import { figureInView, viewOfStep, type View } from '../drawing/steps.js';
import { betweenFigures, type OnTheWay } from '../figure/between.js';
import type { Box } from '../figure/point.js';
import { remembered } from '../ground/remembered.js';
import { figureBefore, layoutsOf, stepsOf, type Method } from '../tying/method.js';
import { betweenBoxes, COMES, stepCamera, type Size } from './camera.js';
import { ease } from './timeline.js';

/** A moment of a knot that is laid anew. */
export interface Relaying {
  readonly drawing: Drawing;
  readonly box: Box;
  /** How much of the picture is veiled, from 0 to 1: one picture gives way to the other. */
  readonly veil: number;
}

/** The ways into the layouts of a method, by the step that is shown first in each. */
const waysInto = remembered((_method: Method) => new Map<number, OnTheWay | undefined>());

/** The way to how a knot lies before a step, from how it lies in the layout before; nothing where there is none. */
function wayInto(method: Method, k: number): OnTheWay | undefined {
  const known = waysInto(method);
  if (!known.has(k)) {
    const step = stepsOf(method)[k];
    const former = step && layoutsOf(method)[step.layout - 1];
    known.set(k, former && betweenFigures(former.figure, figureBefore(step)));
  }
  return known.get(k);
}

/** A knot after a share of the time in which it is laid anew for a step of a later layout; nothing for steps of the first. */
export function drawRelaid(method: Method, k: number, share: number, view: View, size: Size): Relaying | undefined {
  const step = stepsOf(method)[k];
  const former = step && layoutsOf(method)[step.layout - 1];
  if (!former) return undefined;
  const first = stepsOf(method).find((s) => s.layout === step.layout)?.index ?? k;
  const facing = viewOfStep(step, view);
  const way = wayInto(method, k);
  const figure = figureInView(way ? way(share) : share < 0.5 ? former.figure : figureBefore(step), facing);
  // The camera comes from where it looked, sees all of the knot on its way, and goes where it looks next.
  const whole = heartBox(figure);
  const box =
    share < 0.5
      ? betweenBoxes(stepCamera(method, first - 1, view, size), whole, ease(Math.min(1, share / COMES)))
      : betweenBoxes(whole, stepCamera(method, k, view, size), ease(Math.max(0, (share - 1 + COMES) / COMES)));
  return {
    drawing: drawFigure(figure, { runs: true }),
    box,
    veil: way ? 0 : 1 - Math.abs(2 * share - 1),
  };
}
