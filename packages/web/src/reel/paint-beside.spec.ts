import { PAPER_LOOK, WORKSHOP_WORDS } from '@foxtrail/core';
import { timelineOf } from '@foxtrail/core/reel';
import { overhand } from '../testing/knots';
import { paintMoment } from './paint';
import { roomsOf, type Room } from './paint-beside';
import type { Scene } from './scene';

const inside = (a: Room, w: number, h: number): boolean =>
  a.left >= 0 && a.top >= 0 && a.left + a.width <= w + 1e-6 && a.top + a.height <= h + 1e-6;
const apart = (a: Room, b: Room): boolean =>
  a.left + a.width <= b.left + 1e-6 ||
  b.left + b.width <= a.left + 1e-6 ||
  a.top + a.height <= b.top + 1e-6 ||
  b.top + b.height <= a.top + 1e-6;

describe('What is painted beside a step', () => {
  it('shares the picture without overlap; what is tied keeps more than half of it', () => {
    for (const [w, h] of [
      [1280, 600],
      [720, 720],
      [720, 1060],
    ] as const)
      for (const back of [true, false])
        for (const trail of [true, false]) {
          const rooms = roomsOf({ back, trail }, w, h);
          const all = [rooms.step, rooms.back, rooms.trail].flatMap((r) => r ?? []);
          expect(all.length).toBe(1 + Number(back) + Number(trail));
          expect(all.every((r) => inside(r, w, h))).toBeTrue();
          all.forEach((a, i) => all.slice(i + 1).forEach((b) => expect(apart(a, b)).toBeTrue()));
          expect((rooms.step.width * rooms.step.height) / (w * h)).toBeGreaterThan(0.5);
        }
  });

  it('is the knot from its other side, and the trail that grows with what is laid', () => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [800, 450];
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    const knot = overhand();
    const timeline = timelineOf(knot.method, 'normal', WORKSHOP_WORDS);
    const scene: Scene = {
      method: knot.method,
      timeline,
      view: 'front',
      look: PAPER_LOOK,
      title: knot.name,
      words: WORKSHOP_WORDS,
      captioned: false,
      back: true,
      trail: true,
    };
    const { back, trail } = roomsOf(scene, 800, 450);
    const working = (room: Room, time: number, of: Scene = scene): number => {
      paintMoment(context, of, time, 800, 450);
      const { data } = context.getImageData(room.left, room.top, room.width, room.height);
      const [r, g, b] = [1, 3, 5].map((i) => parseInt(PAPER_LOOK.working.slice(i, i + 2), 16));
      let n = 0;
      for (let i = 0; i < data.length; i += 4)
        if (Math.abs(data[i]! - r!) + Math.abs(data[i + 1]! - g!) + Math.abs(data[i + 2]! - b!) < 24) n += 1;
      return n;
    };
    const { start, laid } = timeline.scenes[0]!;
    const middle = (start + laid) / 2;
    for (const room of [back!, trail!]) {
      expect(working(room, middle)).toBeGreaterThan(20);
      expect(working(room, laid)).toBeGreaterThan(working(room, middle));
      expect(working(room, laid, { ...scene, back: false, trail: false })).toBeLessThan(working(room, laid));
    }
  });
});
