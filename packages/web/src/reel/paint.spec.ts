import {
  drawFigure,
  DARK_LOOK,
  PAPER_LOOK,
  cautionsFor,
  WORKSHOP_WORDS,
  crossingsOf,
  type Box,
  type Figure,
  type Point,
} from '@foxtrail/core';
import { reelTimeline, timelineOf, withCautions } from '@foxtrail/core/reel';
import { overhand } from '../testing/knots';
import { momentKey, paintMoment } from './paint';
import { paintDrawing } from './paint-drawing';
import type { Scene } from './scene';

const hex = (colour: string): number[] => [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16));

function pixel(context: CanvasRenderingContext2D, x: number, y: number): number[] {
  return [...context.getImageData(Math.round(x), Math.round(y), 1, 1).data].slice(0, 3);
}
const near = (a: number[], b: number[]): boolean => a.every((v, i) => Math.abs(v - b[i]!) < 12);

describe('painting', () => {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [800, 800];
  const context = canvas.getContext('2d', { willReadFrequently: true })!;

  it('shows the over strand whole at a crossing, and clear paper between it and the one beneath', () => {
    const cross: Figure = {
      ropes: [
        {
          id: 'a',
          points: [
            [-6, 0],
            [6, 0],
          ],
          curve: 'straight',
          closed: false,
          ends: ['standing', 'tail'],
          weave: 'O',
        },
        {
          id: 'b',
          points: [
            [0, -6],
            [0, 6],
          ],
          curve: 'straight',
          closed: false,
          ends: ['standing', 'tail'],
          weave: 'U',
        },
      ],
      hosts: [],
    };
    expect(crossingsOf(cross).length).toBe(1);
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = PAPER_LOOK.paper;
    context.fillRect(0, 0, 800, 800);
    const box: Box = [-8, -8, 8, 8];
    paintDrawing(context, drawFigure(cross), PAPER_LOOK, box, 800, 800);
    const scale = (800 - 64) / 16;
    const at = ([x, y]: Point): number[] => pixel(context, 400 + x * scale, 400 + y * scale);
    expect(near(at([0, 0]), hex(PAPER_LOOK.ropes[0]!.core)))
      .withContext('over at the crossing')
      .toBeTrue();
    for (const y of [-0.65, 0.65])
      expect(near(at([0.3, y]), hex(PAPER_LOOK.paper)))
        .withContext(`gap at ${y}`)
        .toBeTrue();
    for (const y of [-1.5, 1.5])
      expect(near(at([0.3, y]), hex(PAPER_LOOK.paper)))
        .withContext(`under strand at ${y}`)
        .toBeFalse();
  });

  it('paints every moment, and moments of rest alike', () => {
    const knot = overhand();
    const timeline = timelineOf(knot.method, 'normal', WORKSHOP_WORDS);
    const scene: Scene = {
      method: knot.method,
      timeline,
      view: 'front',
      look: PAPER_LOOK,
      title: knot.name,
      words: WORKSHOP_WORDS,
    };
    const count = (time: number): number => {
      paintMoment(context, scene, time, 800, 450);
      const { data } = context.getImageData(0, 0, 800, 360);
      let working = 0;
      for (let i = 0; i < data.length; i += 4)
        if (near([data[i]!, data[i + 1]!, data[i + 2]!], hex(PAPER_LOOK.working))) working += 1;
      return working;
    };
    const first = timeline.scenes[0]!;
    expect(count(first.start + 0.3)).toBeLessThan(count(first.laid));
    expect(momentKey(scene, first.laid + 0.1)).toBe(momentKey(scene, first.end - 0.1));
    expect(momentKey(scene, first.start)).not.toBe(momentKey(scene, first.laid));
  });

  it('paints a score the same each time: a frame depends on its time alone, not on what was painted before', () => {
    const knot = overhand();
    const scenes = [
      { kind: 'card', title: 'Look', text: 'Twice.', step: 1 },
      { kind: 'step', step: 0 },
      { kind: 'step', step: 1, speed: 0.5, callouts: [{ kind: 'ring', strand: 'a', at: 3, text: 'here' }] },
    ] as const;
    const method = { ...knot.method, reels: [{ name: 'R', scenes, bands: true, trail: true }] };
    const of = { method, name: knot.name, words: WORKSHOP_WORDS, pace: 'normal' as const };
    const timeline = reelTimeline(of, method.reels[0]!);
    const times = Array.from({ length: 24 }, (_, i) => (timeline.duration * i) / 24);
    const hash = (data: Uint8ClampedArray): number =>
      data.reduce((h, v) => Math.imul(h ^ v, 16_777_619) >>> 0, 2_166_136_261);
    const hashes = (order: readonly number[]): Map<number, number> => {
      // Nothing that was remembered of the first painting is of use to the second.
      const scene: Scene = {
        method: structuredClone(method),
        timeline: structuredClone(timeline),
        view: 'front',
        look: { ...PAPER_LOOK, banded: true },
        title: knot.name,
        words: WORKSHOP_WORDS,
        trail: true,
      };
      const own = new OffscreenCanvas(640, 360).getContext('2d', { willReadFrequently: true })!;
      return new Map(
        order.map((time) => {
          paintMoment(own, scene, time, 640, 360);
          return [time, hash(own.getImageData(0, 0, 640, 360).data)];
        }),
      );
    };
    const [onward, back] = [hashes(times), hashes([...times].reverse())];
    for (const time of times) expect(back.get(time)).withContext(`${time} s`).toBe(onward.get(time));
    expect(new Set(onward.values()).size).toBeGreaterThan(10);
  });

  it('keeps every letter of a caption within a narrow picture, too', () => {
    const knot = overhand();
    const [first] = timelineOf(knot.method, 'normal', WORKSHOP_WORDS).scenes;
    for (const times of [1, 3, 5])
      for (const [w, h] of [
        [800, 450],
        [450, 450],
        [450, 800],
      ] as const) {
        const caption = Array.from({ length: times }, () => first!.caption).join(' ');
        const timeline = { scenes: [{ ...first!, caption }], duration: first!.end };
        const scene: Scene = {
          method: knot.method,
          timeline,
          view: 'front',
          look: PAPER_LOOK,
          title: knot.name,
          words: WORKSHOP_WORDS,
        };
        paintMoment(context, scene, first!.laid, w, h);
        const pale = (x: number, y: number, width: number, height: number): number => {
          const { data } = context.getImageData(x, y, width, height);
          let n = 0;
          for (let i = 0; i < data.length; i += 4) if (data[i]! + data[i + 1]! + data[i + 2]! > 500) n += 1;
          return n;
        };
        const top = Math.ceil(h * 0.83) + 1;
        expect(pale(0, top, w, h - top)).toBeGreaterThan(100);
        for (const edge of [
          pale(0, top, 3, h - top),
          pale(w - 3, top, 3, h - top),
          pale(0, h - 3, w, 3),
          pale(0, top, w, 3),
        ])
          expect(edge).withContext(`${w} × ${h}, said ${times} times`).toBe(0);
      }
  });

  it('paints a card beside the knot as it is once a step is done, in either shape', () => {
    const knot = overhand();
    const card = { kind: 'card', title: 'Look', text: 'The end comes out here.' } as const;
    const painted = (step: number | undefined, [w, h]: readonly [number, number]): { rope: number; words: number } => {
      const method = { ...knot.method, reels: [{ name: 'R', scenes: [{ ...card, step }] }] };
      const of = { method, name: knot.name, words: WORKSHOP_WORDS, pace: 'normal' as const };
      const timeline = reelTimeline(of, method.reels[0]!);
      const scene: Scene = {
        method,
        timeline,
        view: 'front',
        look: PAPER_LOOK,
        title: knot.name,
        words: WORKSHOP_WORDS,
      };
      paintMoment(context, scene, 0.5, w, h);
      const picture = w > h ? ([0, 0, 0.56 * w, h] as const) : ([0, 0, w, 0.6 * h] as const);
      const words = w > h ? ([0.56 * w, 0, 0.44 * w, h] as const) : ([0, 0.6 * h, w, 0.4 * h] as const);
      const count = ([x, y, cw, ch]: readonly [number, number, number, number], colour: string): number => {
        const { data } = context.getImageData(x, y, cw, ch);
        let n = 0;
        for (let i = 0; i < data.length; i += 4) if (near([data[i]!, data[i + 1]!, data[i + 2]!], hex(colour))) n += 1;
        return n;
      };
      return { rope: count(picture, PAPER_LOOK.working), words: count(words, PAPER_LOOK.labelText) };
    };
    for (const shape of [
      [800, 450],
      [450, 800],
    ] as const) {
      const [alone, early, late] = [undefined, 0, 1].map((step) => painted(step, shape));
      expect(alone!.rope).toBeLessThan(early!.rope);
      expect(early!.rope).not.toBe(late!.rope);
      expect(early!.words).toBe(late!.words);
      expect(early!.words).toBeGreaterThan(300);
    }
  });

  it('paints the cautions before the first step, all of them within the frame', () => {
    const knot = overhand();
    const lines = [
      ...cautionsFor('people depend on it', []),
      'It can shake loose when it is loaded and unloaded in turn.',
    ];
    const timeline = withCautions(timelineOf(knot.method, 'normal', WORKSHOP_WORDS), lines);
    const scene: Scene = {
      method: knot.method,
      timeline,
      view: 'front',
      look: PAPER_LOOK,
      title: knot.name,
      words: WORKSHOP_WORDS,
    };
    expect(momentKey(scene, 0)).toBe(momentKey(scene, timeline.cautions!.end - 0.01));
    expect(momentKey(scene, 0)).not.toBe(momentKey(scene, timeline.cautions!.end + 0.01));
    paintMoment(context, scene, 0, 800, 450);
    const dark = (x0: number, y0: number, w: number, h: number): number => {
      const { data } = context.getImageData(x0, y0, w, h);
      let n = 0;
      for (let i = 0; i < data.length; i += 4) if (data[i]! + data[i + 1]! + data[i + 2]! < 300) n += 1;
      return n;
    };
    expect(dark(50, 130, 700, 300)).toBeGreaterThan(1500);
    for (const edge of [dark(0, 0, 800, 8), dark(0, 442, 800, 8), dark(0, 0, 8, 450), dark(792, 0, 8, 450)])
      expect(edge).toBe(0);
    // In the dark they are light: on either paper they can be read.
    paintMoment(context, { ...scene, look: DARK_LOOK }, 0, 800, 450);
    const all = 700 * 300;
    expect(all - dark(50, 130, 700, 300)).toBeGreaterThan(1500);
    expect(dark(50, 130, 700, 300)).toBeGreaterThan(all / 2);
  });
});
