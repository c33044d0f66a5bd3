import { changeMethod, CLOSE_UPS, layoutsOf, stepsOf, WORKSHOP_WORDS, type Method } from '../../src/index.js';
import {
  crossingsPassed,
  outOfSight,
  reelTimeline,
  sayOutOfSight,
  timelineOf,
  type OutOfSight,
  type Size,
} from '../../src/reel/index.js';
import type { Footage } from '../../src/footage.js';
import { drawnFiles, drawnKnot } from '../support/figures.js';

const SIZES: readonly Size[] = [
  { width: 1280, height: 600 },
  { width: 720, height: 600 },
  { width: 720, height: 1060 },
];
const seen = (method: Method, size: Size): readonly OutOfSight[] =>
  outOfSight(method, timelineOf(method, 'normal', WORKSHOP_WORDS), 'front', size);

describe('what matters in a demonstration', () => {
  it('is seen: the camera never leaves a crossing while it is passed, from either face, in any shape', () => {
    let passed = 0;
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      passed += stepsOf(method).reduce((sum, s) => sum + crossingsPassed(s).length, 0);
      for (const size of SIZES)
        for (const view of ['front', 'back', 'left'] as const)
          expect(outOfSight(method, timelineOf(method, 'normal', WORKSHOP_WORDS), view, size))
            .withContext(`${file} ${view} ${size.width}`)
            .toEqual([]);
    }
    expect(passed).toBeGreaterThan(80);
  });

  it('is missed where an author looks so near that a crossing is beyond the edge; said when, in the step that passes it', () => {
    let missed = 0;
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      for (const step of stepsOf(method).filter((s) => s.does === 'lay' && s.layout === 0)) {
        const near = changeMethod(method, 0, {
          kind: 'tell',
          index: step.place,
          telling: { closeUp: CLOSE_UPS.most },
        });
        if (!near.ok) throw new Error(near.reason);
        const found = seen(near.value, SIZES[1]!);
        const timeline = timelineOf(near.value, 'normal', WORKSHOP_WORDS);
        for (const f of found) {
          expect(f.step).toBe(step.index);
          const scene = timeline.scenes.find((s) => s.step === step.index && s.shot.kind === 'lay')!;
          expect(f.time).toBeGreaterThanOrEqual(scene.start);
          expect(f.time).toBeLessThanOrEqual(scene.laid + 1e-9);
          expect(crossingsPassed(stepsOf(near.value)[step.index]!).map((p) => p.crossing.number)).toContain(f.number!);
          expect(sayOutOfSight(f)).toContain(`Crossing ${f.number}`);
        }
        missed += found.length;
      }
    }
    expect(missed).toBeGreaterThan(0);
  });

  it('is missed where a film is shown nearer elsewhere than where its crossings are marked', () => {
    const knot = drawnKnot('reef.json');
    const crossing = { first: { strand: 'a', pass: 0 }, second: { strand: 'b', pass: 0 } } as never;
    const take = (place: readonly [number, number], times: number): Footage => ({
      film: 'a'.repeat(64),
      name: 'Take 1',
      duration: 12,
      frames: [{ at: 5, marks: [{ crossing, over: 'first', point: [0.2, 0.2] }] }],
      passages: [{ from: 4, to: 6, near: { place, times } }],
    });
    const last = layoutsOf(knot.method).length - 1;
    const found = (film: Footage): readonly OutOfSight[] => {
      const { method } = knot;
      const layouts = { ...method, ...(last === 0 ? { footage: [film] } : {}) };
      const relaid = method.relaid?.map((l, i) => (i === last - 1 ? { ...l, footage: [film] } : l));
      const filmed: Method = relaid ? { ...layouts, relaid } : layouts;
      const reel = { name: 'R', scenes: [{ kind: 'film', film: film.film, from: 2, to: 8 } as const] };
      const of = { method: filmed, name: 'Reef', words: WORKSHOP_WORDS, pace: 'normal' } as const;
      return outOfSight(filmed, reelTimeline(of, reel), 'front', SIZES[0]!);
    };
    expect(found(take([0.8, 0.8], 2))).toEqual([{ part: 0, time: 3, in: 'film' }]);
    expect(found(take([0.2, 0.2], 2))).toEqual([]);
    // One that goes on to where it is marked shows it by the end: it is marked in the middle of the stretch.
    const goesOn = (to: readonly [number, number]): Footage => {
      const film = take([0.8, 0.8], 2);
      return { ...film, passages: [{ from: 4, to: 6, near: { place: [0.8, 0.8], times: 2, to } }] };
    };
    expect(found(goesOn([0.9, 0.9])).length).toBe(1);
    expect(found(goesOn([0, 0]))).toEqual([]);
  });
});
