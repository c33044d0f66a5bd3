/**
 * Pictures of a method's steps, in any of the three views: front, back (the same knot from behind), left-handed (its mirror).
 */
import { curveOf, lineBetween } from '../figure/curve.js';
import { ropeOf } from '../figure/figure.js';
import { boxOf, type Box } from '../figure/point.js';
import { backView, mirror } from '../topology/views.js';
import { extentsAt, stepsOf, type Method, type Step } from '../tying/method.js';
import { drawFigure, heartBox, type Drawing, type DrawOptions } from './drawing.js';

export type View = 'front' | 'back' | 'left';

export const VIEWS: readonly { readonly view: View; readonly name: string }[] = [
  { view: 'front', name: 'Front' },
  { view: 'back', name: 'Back' },
  { view: 'left', name: 'Left-handed' },
];

const turned = new WeakMap<Method, Map<View, Method>>();

/** The method seen in a view; its halts stay where they are on the trail. */
export function methodInView(method: Method, view: View): Method {
  if (view === 'front') return method;
  const known = turned.get(method) ?? new Map<View, Method>();
  turned.set(method, known);
  let seen = known.get(view);
  if (!seen) {
    seen = { ...method, figure: view === 'back' ? backView(method.figure) : mirror(method.figure) };
    known.set(view, seen);
  }
  return seen;
}

/** A heart wider than this, in diameters, is too small to read in a small picture: the step's own stretch is shown instead. */
const WIDE = 34;
const STRETCH_ROOM = 5;

/** The part of the figure for a small picture of step k: where all crossings are, or in a long figure where this step goes. */
export function stepBox(method: Method, k: number): Box {
  const heart = heartBox(method.figure);
  const step = stepsOf(method)[k];
  const rope = method.figure.ropes.find((r) => r.id === step?.rope);
  if (!step || !rope || heart[2] - heart[0] <= WIDE) return heart;
  const around = boxOf(lineBetween(curveOf(rope), step.from, step.to)) as Box;
  return [around[0] - STRETCH_ROOM, around[1] - STRETCH_ROOM, around[2] + STRETCH_ROOM, around[3] + STRETCH_ROOM];
}

export interface StepPictureOptions {
  readonly view?: View;
  readonly labels?: boolean;
  /** Show the stretch laid next, dotted. */
  readonly ghost?: boolean;
}

/** The stretch that a step has laid when its leader is at a place: of a bight, what is drawn out of it. */
function workingOf(method: Method, step: Step, at: number): DrawOptions['working'] {
  const leader = method.leaders[step.leader];
  const rope = ropeOf(method.figure, step.rope);
  if (leader?.kind !== 'bight' || !rope || at < step.from) return { strand: step.rope, from: step.from };
  return { strand: step.rope, from: leader.from, to: leader.to };
}

/** The picture of step k (from 0); with k at or past the number of steps, the finished knot. */
export function drawStep(method: Method, k: number, options: StepPictureOptions = {}): Drawing {
  const seen = methodInView(method, options.view ?? 'front');
  const steps = stepsOf(seen);
  const step = steps[k];
  const labels = options.labels === true;
  if (!step) return drawFigure(seen.figure, { labels });
  const following = steps[k + 1];
  return drawFigure(seen.figure, {
    extents: extentsAt(seen, step.leader, step.to),
    working: workingOf(seen, step, step.to),
    ...(options.ghost === true && following
      ? { next: { strand: following.rope, from: following.from, to: following.to } }
      : {}),
    labels,
  });
}

/** The picture when a leader has reached a place between halts: one moment of the demonstration. */
export function drawMoment(method: Method, k: number, at: number, view: View = 'front'): Drawing {
  const seen = methodInView(method, view);
  const step = stepsOf(seen)[k];
  if (!step) return drawFigure(seen.figure);
  return drawFigure(seen.figure, {
    extents: extentsAt(seen, step.leader, at),
    working: workingOf(seen, step, at),
  });
}
