/**
 * Whether what matters is seen: every crossing that is passed, while it is passed; in a film every crossing that was marked in it, while it
 * is shown nearer.
 */
import { figureInView, viewOfStep, type View } from '../drawing/steps.js';
import { curveOf, pointAt } from '../figure/curve.js';
import { ropeOf, type Rope } from '../figure/figure.js';
import type { Box, Point } from '../figure/point.js';
import { nearAt, nearOf, passageAt } from '../footage/on-film.js';
import { shownAt } from '../footage/played.js';
import { stepsOf, type Method } from '../tying/method.js';
import { filmOf } from '../tying/reels.js';
import { cameraAt, shownBox, type Size } from './camera.js';
import { crossingsPassed, momentAt, passedAfter, type Scene, type Timeline } from './timeline.js';

/** A crossing that is not seen where it matters: in which passage, and when, in seconds of the demonstration. */
export interface OutOfSight {
  readonly part: number;
  readonly step?: number | undefined;
  readonly time: number;
  /** The drawing looks elsewhere while the crossing is passed; or a film is shown nearer elsewhere. */
  readonly in: 'drawing' | 'film';
  /** Its number in the figure; of a film none is named. */
  readonly number?: number | undefined;
}

/** What is not seen, in a sentence. */
export const sayOutOfSight = (unseen: OutOfSight): string =>
  unseen.in === 'drawing'
    ? `Crossing ${unseen.number} is passed outside the picture.`
    : 'The film is shown nearer elsewhere than where its crossings are marked.';

/** What is nearer to the edge of the picture than half a rope is cut by it, in diameters. */
const EDGE = 0.5;

const isIn = ([x, y]: Point, [l, t, r, b]: Box): boolean => x >= l && x <= r && y >= t && y <= b;

function passedOutOfSight(method: Method, timeline: Timeline, scene: Scene, view: View, size: Size): OutOfSight[] {
  const step = stepsOf(method)[scene.step ?? -1];
  if (scene.shot.kind !== 'lay' || !step?.stretch) return [];
  const { part } = scene.shot;
  const rope = ropeOf(figureInView(step.of.figure, viewOfStep(step, view)), step.stretch.rope) as Rope;
  return crossingsPassed(step, part).flatMap(({ at, crossing }): OutOfSight[] => {
    const time = scene.start + (scene.laid - scene.start) * passedAfter(step, at, part);
    const moment = momentAt(method, timeline, time);
    if (!moment) return [];
    const [l, t, r, b] = shownBox(cameraAt(method, moment, view, size), size.width, size.height);
    return isIn(pointAt(curveOf(rope), at), [l + EDGE, t + EDGE, r - EDGE, b - EDGE])
      ? []
      : [{ part: scene.part, step: scene.step, time, in: 'drawing', number: crossing.number }];
  });
}

function filmedOutOfSight(method: Method, { part, shot, start }: Scene): OutOfSight[] {
  const film = shot.kind === 'film' ? filmOf(method, shot.film) : undefined;
  if (!film || shot.kind !== 'film') return [];
  const [first, last] = [shot.pieces[0]?.from ?? 0, shot.pieces.at(-1)?.to ?? 0];
  return film.frames
    .filter((f) => f.at >= first && f.at <= last)
    .flatMap(({ at, marks }): OutOfSight[] => {
      const passage = passageAt(film, at);
      const near = passage && nearAt(passage, at);
      if (!near) return [];
      const { times, left, top } = nearOf(near);
      const seen: Box = [left, top, left + 1 / times, top + 1 / times];
      const isLost = marks.some(({ point }) => point && !isIn(point, seen));
      return isLost ? [{ part, time: start + shownAt(shot.pieces, at), in: 'film' }] : [];
    });
}

/**
 * The crossings of a demonstration that are not seen when they matter, in the order in which they come; in a picture of a size, less what
 * is shown beside.
 */
export const outOfSight = (method: Method, timeline: Timeline, view: View, size: Size): readonly OutOfSight[] =>
  timeline.scenes.flatMap((scene) => [
    ...passedOutOfSight(method, timeline, scene, view, size),
    ...filmedOutOfSight(method, scene),
  ]);
