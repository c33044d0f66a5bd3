import { crossingsOf, finishedFigure, stepsOf, WORKSHOP_WORDS, type Box, type Method } from '../../src/index.js';
import { cameraAt, FILLS, momentAt, stepCamera, tiedBox, timelineOf, wrongCamera } from '../../src/reel/index.js';
import { heartBox, drawMoment, pictureBox } from '../../src/index.js';
import { drawnFiles, drawnKnot } from '../support/figures.js';

const SIZES = [
  { width: 1280, height: 600 },
  { width: 720, height: 720 },
  { width: 720, height: 1060 },
] as const;
const isWithin = ([l, t, r, b]: Box, [x, y, z, w]: Box): boolean =>
  l >= x - 1e-6 && t >= y - 1e-6 && r <= z + 1e-6 && b <= w + 1e-6;
const across = ([l, t, r, b]: Box): readonly [number, number] => [r - l, b - t];

/** What a box shows of the board in a picture of a size. */
function seen(box: Box, { width, height }: { readonly width: number; readonly height: number }): Box {
  const [w, h] = across(box);
  const scale = Math.min(width / w, height / h);
  const [x, y] = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
  return [x - width / scale / 2, y - height / scale / 2, x + width / scale / 2, y + height / scale / 2];
}

describe('the camera', () => {
  it('shows what is tied: all of its stretch, filling half of the picture’s width or height', () => {
    let steps = 0;
    const small: string[] = [];
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      for (const step of stepsOf(method).filter((s) => s.does === 'lay' && s.telling.closeUp === undefined))
        for (const size of SIZES) {
          steps += 1;
          const picture = seen(stepCamera(method, step.index, 'front', size), size);
          const tied = tiedBox(step, 'front')!;
          const [w, h] = across(tied);
          const [all, tall] = across(picture);
          expect(isWithin([tied[0] + 1.6, tied[1] + 1.6, tied[2] - 1.6, tied[3] - 1.6], picture))
            .withContext(`${file}, step ${step.index + 1}`)
            .toBeTrue();
          if (Math.max(w / all, h / tall) < FILLS)
            small.push(`${file}, step ${step.index + 1}, ${size.width} x ${size.height}`);
        }
    }
    expect(steps).toBeGreaterThan(90);
    // A step of few diameters would be shown without what it is tied to: there the camera stays farther off.
    expect(small.length / steps)
      .withContext(small.join('\n'))
      .toBeLessThan(0.1);
  });

  it('moves from step to step without a jump, and stands still once it is there', () => {
    const { method } = drawnKnot('bowline.json');
    const timeline = timelineOf(method, 'normal', WORKSHOP_WORDS);
    const size = SIZES[0];
    const laying = timeline.scenes.filter((s) => s.shot.kind === 'lay');
    const at = (time: number): Box => cameraAt(method, momentAt(method, timeline, time)!, 'front', size);
    let moved = 0;
    for (const { start, laid, end } of laying.slice(1)) {
      for (let t = start - 0.04; t < end - 0.08; t += 0.04) {
        const [a, b] = [at(t), at(t + 0.04)];
        const step = Math.max(...a.map((v, i) => Math.abs(v - b[i]!)));
        moved += step;
        expect(step).toBeLessThan(0.12 * Math.max(...across(a)));
      }
      expect(at(laid)).toEqual(at(end - 0.01));
    }
    expect(moved).toBeGreaterThan(0);
  });

  it('goes from the whole of a wrong way to what is wrong in it, and back', () => {
    for (const file of drawnFiles) {
      const figure = finishedFigure(drawnKnot(file).method);
      const { point } = crossingsOf(figure)[1]!;
      const whole = heartBox(figure);
      const near = wrongCamera(figure, [point], 0.5);
      expect(wrongCamera(figure, [point], 0)).toEqual(whole);
      expect(wrongCamera(figure, [point], 1)).toEqual(whole);
      expect(across(near)[0]).toBeLessThan(0.7 * across(whole)[0]);
      expect(isWithin([point[0], point[1], point[0], point[1]], near)).toBeTrue();
      expect(isWithin(near, whole)).toBeTrue();
    }
  });
});

describe('the rope while its end goes on', () => {
  const starts = (method: Method, k: number, at: number): readonly number[] =>
    drawMoment(method, k, at)
      .runs.filter((r) => r.kind === 'rope')
      .map((r) => r.start);

  it('runs: what is at its very end goes with it, and lies where it is drawn once all is laid', () => {
    const { method } = drawnKnot('overhand.json');
    const steps = stepsOf(method).filter((s) => s.does === 'lay');
    const [first, last] = [steps[0]!, steps.at(-1)!];
    const early = starts(method, first.index, (first.stretch!.from + first.stretch!.to) / 2)[0]!;
    const later = starts(method, first.index, first.stretch!.to)[0]!;
    // Less of it is still to come.
    expect(later).toBeLessThan(early);
    expect(early).toBeGreaterThan(1);
    expect(starts(method, last.index, last.stretch!.to)[0]).toBeCloseTo(0, 6);
    expect(pictureBox(method, last.index)).toBeDefined();
  });
});
