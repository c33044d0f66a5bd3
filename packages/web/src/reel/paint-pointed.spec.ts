import {
  changeMethod,
  curveOf,
  lastAt,
  PAPER_LOOK,
  pointAt,
  stepsOf,
  WORKSHOP_WORDS,
  type SceneCallout,
} from '@foxtrail/core';
import { cameraAt, fitted, momentAt, reelTimeline } from '@foxtrail/core/reel';
import { overhand } from '../testing/knots';
import { paintMoment, trailSeen } from './paint';
import type { Scene } from './scene';

const SIZE = { width: 640, height: 360 };

/** The last step of an overhand knot, something pointed out in it. */
function pointing(callouts: readonly SceneCallout[]): Scene {
  const knot = overhand();
  const step = stepsOf(knot.method).filter((s) => s.does === 'lay').length - 1;
  const reels = [{ name: 'R', scenes: [{ kind: 'step' as const, step, silent: true, callouts }] }];
  const done = changeMethod(knot.method, 0, { kind: 'set-reels', reels });
  if (!done.ok) throw new Error(done.reason);
  const method = done.value;
  const of = { method, name: knot.name, words: WORKSHOP_WORDS, pace: 'normal' as const };
  return {
    method,
    timeline: reelTimeline(of, reels[0]!),
    view: 'front',
    look: PAPER_LOOK,
    title: knot.name,
    words: WORKSHOP_WORDS,
  };
}

describe('What a scene points out', () => {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [SIZE.width, SIZE.height];
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  const rope = overhand().method.figure.ropes[0]!;
  const strand = rope.id;
  const at = 0.3 * lastAt(rope);
  /** Where a place of the rope is in the picture at a time. */
  const seen = (scene: Scene, time: number, place: number): [number, number] => {
    const moment = momentAt(scene.method, scene.timeline, time)!;
    const { scale, move } = fitted(cameraAt(scene.method, moment, 'front', SIZE), SIZE.width, SIZE.height);
    const [x, y] = pointAt(curveOf(rope), place);
    return [scale * x + move[0], scale * y + move[1]];
  };
  const differ = (a: Scene, b: Scene, time: number): [number, number][] => {
    const pixels = [a, b].map((scene) => {
      paintMoment(context, scene, time, SIZE.width, SIZE.height);
      return context.getImageData(0, 0, SIZE.width, SIZE.height).data;
    });
    const found: [number, number][] = [];
    for (let i = 0; i < pixels[0]!.length; i += 4)
      if ([0, 1, 2].some((k) => Math.abs(pixels[0]![i + k]! - pixels[1]![i + k]!) > 40))
        found.push([(i / 4) % SIZE.width, Math.floor(i / 4 / SIZE.width)]);
    return found;
  };

  it('is painted at its place: a ring about it, a cross over it, an arrow to it, words beside it', () => {
    const none = pointing([]);
    const time = none.timeline.duration - 0.1;
    const [x, y] = seen(none, time, at);
    const away = (kind: SceneCallout['kind'], text?: string): number[] =>
      differ(none, pointing([{ kind, strand, at, ...(text === undefined ? {} : { text }) }]), time).map(([u, v]) =>
        Math.hypot(u - x, v - y),
      );
    const ring = away('ring');
    const thick = fittedScale(none, time);
    expect(Math.min(...ring)).toBeGreaterThan(0.8 * thick);
    expect(Math.max(...ring)).toBeLessThan(2 * thick);
    expect(Math.min(...away('cross'))).toBeLessThan(0.3 * thick);
    expect(Math.min(...away('arrow'))).toBeGreaterThan(0.2 * thick);
    expect(Math.max(...away('arrow'))).toBeGreaterThan(3 * thick);
    // Words reach farther than what points alone.
    expect(Math.max(...away('label', 'collar, behind it'))).toBeGreaterThan(4 * thick);
  });
  const fittedScale = (scene: Scene, time: number): number => {
    const moment = momentAt(scene.method, scene.timeline, time)!;
    return fitted(cameraAt(scene.method, moment, 'front', SIZE), SIZE.width, SIZE.height).scale;
  };

  it('is found again by a press where it is seen; beside the rope nothing is', () => {
    const scene = pointing([]);
    const time = scene.timeline.duration - 0.1;
    const found = trailSeen(scene, time, seen(scene, time, at), SIZE)!;
    expect(found.strand).toBe(strand);
    const [u, v] = seen(scene, time, found.at);
    const [x, y] = seen(scene, time, at);
    expect(Math.hypot(u - x, v - y)).toBeLessThan(1);
    expect(trailSeen(scene, time, [2, 2], SIZE)).toBeUndefined();
  });
});
