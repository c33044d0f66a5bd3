/**
 * Pictures of a method's steps, in any view: front, back (the same knot from behind), left-handed (its mirror).
 */
import { rememberedBy } from '../ground/remembered.js';
import { crossingsOf } from '../figure/crossings.js';
import { curveOf, lineBetween, pointAt } from '../figure/curve.js';
import { ropeOf, type Figure } from '../figure/figure.js';
import { boxOf, type Box, type Point } from '../figure/point.js';
import { backView, mirror } from '../topology/views.js';
import { acrossBight } from '../tying/bight-legs.js';
import {
  apexAt,
  extentsAt,
  finishedFigure,
  isFirstEnd,
  isReached,
  liesIn,
  stepsOf,
  WHOLE,
  type Extents,
  type Layout,
  type Method,
  type Step,
  type Stretch,
} from '../tying/method.js';
import { finishPicture } from './finish.js';
import { drawFigure, heartBox, heartWith, type Drawing, type DrawOptions } from './drawing.js';

export type View = 'front' | 'back' | 'left';
/** A view, or the left-handed knot from behind: what a step that is shown from behind is to the left hand. */
export type Facing = View | 'left back';

const OTHER_FACING: Readonly<Record<Facing, Facing>> = {
  front: 'back',
  back: 'front',
  left: 'left back',
  'left back': 'left',
};
/** The same knot, tied by the same hand, from its other side. */
export const otherFacing = (facing: Facing): Facing => OTHER_FACING[facing];

export const isFromBehind = (view: Facing): boolean => view === 'back' || view === 'left back';

export const VIEWS: readonly { readonly view: View; readonly name: string }[] = [
  { view: 'front', name: 'Front' },
  { view: 'back', name: 'Back' },
  { view: 'left', name: 'Left-handed' },
];

/** A figure seen in a view. */
export const figureInView = rememberedBy((figure: Figure, view: Facing): Figure => {
  switch (view) {
    case 'front':
      return figure;
    case 'back':
      return backView(figure);
    case 'left':
      return mirror(figure);
    case 'left back':
      return backView(mirror(figure));
  }
});

/** The method seen in a view, all its layouts; its halts stay where they are on the trail. */
export const methodInView = rememberedBy((method: Method, view: View): Method => {
  if (view === 'front') return method;
  const inView = <L extends Layout>(l: L): L => ({ ...l, figure: figureInView(l.figure, view) });
  return { ...inView(method), ...(method.relaid ? { relaid: method.relaid.map(inView) } : {}) };
});

/** The view in which a step is shown when a reader looks from the front, or left-handed: the author's own choice of face. */
export function viewOfStep({ telling }: Pick<Step, 'telling'>, wanted: View): Facing {
  if (telling.view !== 'back') return wanted;
  return wanted === 'front' ? 'back' : wanted === 'left' ? 'left back' : wanted;
}

/** A heart wider than this, in diameters, is too small to read in a small picture: the step's own stretch is shown instead. */
const WIDE = 34;
const STRETCH_ROOM = 5;

/** The part of the figure for a small picture of step k: where all crossings are, or in a long figure where this step goes. */
export function stepBox(method: Method, k: number): Box {
  const step = stepsOf(method)[k];
  const view = step ? viewOfStep(step, 'front') : 'front';
  const figure = figureInView(step?.of.figure ?? finishedFigure(method), view);
  if (step?.telling.closeUp !== undefined || step?.telling.callouts) return pictureBox(method, k, 'front', 0);
  const heart = heartBox(figure);
  const { stretch } = step ?? {};
  const rope = stretch && ropeOf(figure, stretch.rope);
  if (!stretch || !rope || heart[2] - heart[0] <= WIDE) return heart;
  const around = boxOf(lineBetween(curveOf(rope), stretch.from, stretch.to)) as Box;
  return [around[0] - STRETCH_ROOM, around[1] - STRETCH_ROOM, around[2] + STRETCH_ROOM, around[3] + STRETCH_ROOM];
}

/**
 * The part of the board that the picture of step k shows: the whole figure, the same for every step of a layout, or in a close-up
 * the place where the step does what it does.
 */
export function pictureBox(method: Method, k: number, wanted: View = 'front', noteSize?: number): Box {
  const step = stepsOf(method)[k];
  const view = step ? viewOfStep(step, wanted) : wanted;
  const figure = figureInView(step?.of.figure ?? finishedFigure(method), view);
  const { closeUp, callouts } = step?.telling ?? {};
  const whole = drawFigure(figure).box;
  const notes = step && callouts ? drawStep(method, k, { view: wanted, noteSize }) : undefined;
  const shown = notes?.box ?? whole;
  if (step && step.does !== 'lay' && step.does !== 'set' && closeUp === undefined)
    return finishBox(method, k, figure, wanted, notes);
  if (!step || closeUp === undefined) return shown;
  const middle = middleOf(figure, step);
  const [w, h] = [(whole[2] - whole[0]) / closeUp, (whole[3] - whole[1]) / closeUp];
  // As near the middle as the figure allows: nothing is gained by showing what lies beyond it.
  const left = Math.min(Math.max(middle[0] - w / 2, shown[0]), Math.max(shown[0], shown[2] - w));
  const top = Math.min(Math.max(middle[1] - h / 2, shown[1]), Math.max(shown[1], shown[3] - h));
  const near: Box = [left, top, left + w, top + h];
  // What is called out is not cut off.
  return (notes?.notes ?? []).reduce<Box>(
    ([l, t, r, b], { box }) => [
      Math.min(l, box[0] - 0.3),
      Math.min(t, box[1] - 0.3),
      Math.max(r, box[2] + 0.3),
      Math.max(b, box[3] + 0.3),
    ],
    near,
  );
}

/** The part of the board on which a knot is dressed or looked at: where its crossings are, with what is said and numbered there. */
function finishBox(method: Method, k: number, figure: Figure, view: View, noted: Drawing | undefined): Box {
  const { marks, markRadius, notes } = noted ?? drawStep(method, k, { view });
  const corners = notes.flatMap(({ box: [l, t, r, b] }): Point[] => [
    [l, t],
    [r, b],
  ]);
  return heartWith(figure, [...marks.map((m) => m.point), ...marks.map((m) => m.at), ...corners], markRadius + 0.4);
}

/** Where a step does what it does: the middle of the crossings it passes and of where its leader stops. */
function middleOf(figure: Figure, { stretch }: Step): Point {
  const own = (at: { strand: string; at: number }): boolean =>
    stretch === undefined || (at.strand === stretch.rope && liesIn(stretch, at.at));
  const rope = stretch && ropeOf(figure, stretch.rope);
  const places = crossingsOf(figure)
    .filter((c) => own(c.first) || own(c.second))
    .map((c) => c.point);
  const tip = rope ? [pointAt(curveOf(rope), stretch.to)] : [];
  const box = boxOf(places.length > 0 ? places : tip) ?? drawFigure(figure).box;
  return [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
}

/** Room left round what a small figure lights, in diameters. */
const LIT_ROOM = 1.6;

/** The part of the board for a small figure that explains a word: where its crossings are, and what it lights; all of it when nothing is lit. */
export function litBox(method: Method): Box {
  const step = stepsOf(method).at(-1);
  const figure = step?.of.figure ?? finishedFigure(method);
  const lit = step?.telling.lit ?? [];
  if (lit.length === 0) return pictureBox(method, Math.max(0, stepsOf(method).length - 1));
  const points = lit.flatMap(({ strand, from, to }) => {
    const rope = ropeOf(figure, strand);
    return rope ? lineBetween(curveOf(rope), from, to) : [];
  });
  const [l, t, r, b] = boxOf([...points, ...crossingsOf(figure).map((c) => c.point)]) ?? heartBox(figure);
  return [l - LIT_ROOM, t - LIT_ROOM, r + LIT_ROOM, b + LIT_ROOM];
}

export interface StepPictureOptions {
  readonly view?: View;
  /** Show just this view, whatever face the step itself asks for. */
  readonly exact?: boolean;
  readonly labels?: boolean;
  /** Show the stretch laid next, dotted. */
  readonly ghost?: boolean;
  /** Leave room for numbers that are set by whoever paints the drawing. */
  readonly numbered?: boolean;
  /** Height of the letters of callouts, in diameters; 0 leaves them out. */
  readonly noteSize?: number | undefined;
}

/** The stretch that a step has laid when its leader is at a place: of a bight, what is drawn out of it. */
function workingOf(layout: Layout, step: Stretch, at: number): DrawOptions['working'] {
  const leader = layout.leaders[step.leader];
  const rope = ropeOf(layout.figure, step.rope);
  if (isFirstEnd(leader)) return { strand: step.rope, from: at, to: step.from };
  if (leader?.kind !== 'bight' || !rope || at < step.from) return { strand: step.rope, from: step.from };
  // Drawn out so far, its apex lies between its legs; its first leg speaks for both.
  const apex = apexAt(rope, leader, at);
  return { strand: step.rope, from: step.from, to: acrossBight(rope, leader, step.from), apex };
}

/** The picture of step k (from 0); with k at or past the number of steps, the finished knot. */
export function drawStep(method: Method, k: number, options: StepPictureOptions = {}): Drawing {
  const wanted = options.view ?? 'front';
  const step = stepsOf(method)[k];
  const labels = options.labels === true || step?.telling.numbers === true;
  if (!step) return drawFigure(figureInView(finishedFigure(method), wanted), { labels });
  const view = options.exact === true ? wanted : viewOfStep(step, wanted);
  const following = stepsOf(method)[k + 1];
  const next = following?.layout === step.layout ? following.stretch : undefined;
  const drawing = drawLaid(step, step.stretch?.to, view, {
    ...(options.ghost === true && next && step.telling.ghost !== false
      ? { next: { strand: next.rope, from: next.from, to: next.to } }
      : {}),
    labels,
    lit: step.telling.lit,
    callouts: step.telling.callouts,
    noteSize: options.noteSize,
    numbered: options.numbered,
  });
  return step.telling.arrow === false ? { ...drawing, arrow: undefined } : drawing;
}

/** A step as far as it is laid when its leader is at a place; one that lays nothing is the whole of its layout. */
function drawLaid({ of, does, stretch }: Step, at: number | undefined, view: Facing, more: DrawOptions = {}): Drawing {
  const figure = figureInView(of.figure, view);
  if (!stretch || at === undefined)
    return drawFigure(figure, {
      ...more,
      ...(does === 'lay' ? {} : { finish: finishPicture(of, does, figure, isFromBehind(view)) }),
    });
  return drawFigure(figure, {
    ...more,
    extents: extentsAt(of, stretch.index, at),
    working: workingOf(of, stretch, at),
  });
}

/** The picture when a leader has reached a place between halts: one moment of the demonstration. */
export function drawMoment(method: Method, k: number, at: number, view: View = 'front'): Drawing {
  const step = stepsOf(method)[k];
  if (!step) return drawFigure(figureInView(finishedFigure(method), view));
  // What is called out is called out once it is there to be pointed at.
  const { stretch, telling } = step;
  const arrived = !stretch || Math.abs(at - stretch.to) < 1e-6;
  return drawLaid(step, at, viewOfStep(step, view), {
    runs: true,
    lit: telling.lit,
    ...(arrived ? { callouts: telling.callouts } : {}),
  });
}

/** The same moment as it is seen from the other side: without what is called out on this one. */
export function drawOtherSide(method: Method, k: number, at: number, view: View = 'front'): Drawing {
  const step = stepsOf(method)[k];
  const facing = otherFacing(step ? viewOfStep(step, view) : view);
  return step ? drawLaid(step, at, facing, { runs: true }) : drawFigure(figureInView(finishedFigure(method), facing));
}

/** Callouts and numbers of a step that lie on a crossing, and the crossings they hide; in the view the step is shown in. */
export function hiddenByWords(method: Method, k: number): readonly number[] {
  const step = stepsOf(method)[k];
  if (!step || (!step.telling.callouts && step.telling.numbers !== true)) return [];
  const drawing = drawStep(method, k);
  const figure = figureInView(step.of.figure, viewOfStep(step, 'front'));
  const extents: Extents = step.stretch ? extentsAt(step.of, step.stretch.index, step.stretch.to) : WHOLE;
  const laid = crossingsOf(figure).filter((c) => isReached(extents, c.first) && isReached(extents, c.second));
  const underNumbers = laid.filter((c) =>
    drawing.labels.some(({ point }) => Math.hypot(point[0] - c.point[0], point[1] - c.point[1]) < NUMBER_HIDES),
  );
  return [...new Set([...drawing.notes.flatMap((n) => n.hides), ...underNumbers.map((c) => c.number)])].sort(
    (a, b) => a - b,
  );
}

/** A number's disc nearer than this to a crossing lies on it: its radius and half a rope. */
const NUMBER_HIDES = 1.1;
