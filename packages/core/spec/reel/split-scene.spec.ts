import fc from 'fast-check';
import {
  changeMethod,
  composeStep,
  layoutsOf,
  readKnot,
  REELS,
  reelsTrouble,
  stepsOf,
  WORKSHOP_WORDS,
  writeKnot,
  type KnotDocument,
  type Method,
  type Reel,
  type ReelScene,
} from '../../src/index.js';
import {
  chaptersOf,
  crossingsPassed,
  lengthLaid,
  momentAt,
  posterTime,
  reelTimeline,
  splitScene,
  withPoster,
  type Filmable,
} from '../../src/reel/index.js';
import type { Footage } from '../../src/footage.js';
import { drawnFiles, drawnKnot } from '../support/figures.js';

const filmable = ({ method, name }: KnotDocument): Filmable => ({
  method,
  name,
  words: WORKSHOP_WORDS,
  pace: 'normal',
});
const own = (scenes: readonly ReelScene[]): Reel => ({ name: 'R', scenes });
const withReel = (method: Method, reel: Reel): Method => {
  const done = changeMethod(method, 0, { kind: 'set-reels', reels: [reel] });
  if (!done.ok) throw new Error(done.reason);
  return done.value;
};
type StepScene = Extract<ReelScene, { kind: 'step' }>;
const laid = (method: Method): StepScene[] =>
  stepsOf(method).flatMap((s) => (s.does === 'lay' ? [{ kind: 'step', step: s.index } as const] : []));

/** Cuts a scene of a reel after a share of the time in which it moves, or of all of it where nothing does. */
function cut(knot: KnotDocument, reel: Reel, part: number, share: number): ReturnType<typeof splitScene> {
  const timeline = reelTimeline(filmable(knot), reel);
  const scenes = timeline.scenes.filter((s) => s.part === part);
  const scene = scenes.find((s) => s.shot.kind === 'lay') ?? scenes[0]!;
  const end = scene.shot.kind === 'lay' ? scene.laid : scene.end;
  return splitScene(filmable(knot), reel, timeline, part, scene.start + share * (end - scene.start));
}

describe('a scene that is cut in two', () => {
  it('shows all of its step still: the second goes on where the first ends, and says what is left to say', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...drawnFiles),
        fc.nat(20),
        fc.double({ min: 0.3, max: 0.7, noNaN: true }),
        (file, n, share) => {
          const knot = drawnKnot(file);
          const { method } = knot;
          const reel = own(laid(method));
          const part = n % reel.scenes.length;
          const done = cut(knot, reel, part, share);
          if (!done.ok) throw new Error(`${file} ${part}: ${done.reason}`);
          expect(reelsTrouble(method, [done.value])).toBeUndefined();
          expect(done.value.scenes.length).toBe(reel.scenes.length + 1);
          const [first, second] = done.value.scenes.slice(part, part + 2) as [StepScene, StepScene];
          const step = stepsOf(method)[first.step]!;
          expect([first.part![0], first.part![1], second.part![1]]).toEqual([0, second.part![0], 1]);
          const passed = [...crossingsPassed(step, first.part), ...crossingsPassed(step, second.part)];
          expect(passed.map((p) => p.at)).toEqual(crossingsPassed(step).map((p) => p.at));
          expect(lengthLaid(step, first.part) + lengthLaid(step, second.part)).toBeCloseTo(lengthLaid(step), 6);
          const timeline = reelTimeline(filmable(knot), done.value);
          const [a, b] = chaptersOf(timeline).slice(part, part + 2);
          const [ends, begins] = [a!.end - 1e-6, b!.start + 1e-6].map((t) => momentAt(method, timeline, t)!.at);
          expect(begins).toBeCloseTo(ends!, 3);
          expect(momentAt(method, timeline, b!.end - 1e-6)!.at).toBeCloseTo(step.stretch!.to, 9);
          const whole = composeStep(method, first.step, WORKSHOP_WORDS).text;
          if (step.telling.text === undefined) expect(`${a!.caption} ${b!.caption}`.trim()).toBe(whole);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is cut again and again, down to what can be seen, and stands in the file as it is', () => {
    const knot = drawnKnot('bowline.json');
    let reel = own(laid(knot.method));
    for (let n = 0; n < 40; n += 1) {
      const done = cut(knot, reel, 0, 0.5);
      if (!done.ok) break;
      reel = done.value;
    }
    const [first] = reel.scenes as readonly StepScene[];
    expect(reel.scenes.length).toBeGreaterThan(laid(knot.method).length + 2);
    expect(first!.part![1]).toBeGreaterThanOrEqual(REELS.part);
    expect(first!.part![1]).toBeLessThan(2 * REELS.part);
    const method = withReel(knot.method, reel);
    const again = readKnot(JSON.parse(JSON.stringify(writeKnot({ ...knot, method }))));
    expect(again.ok && again.value.method.reels).toEqual([reel]);
  });

  it('keeps the time of what stands still and of a film, and divides who speaks', () => {
    const knot = drawnKnot('reef.json');
    const take: Footage = { film: 'a'.repeat(64), name: 'Take 1', duration: 12, frames: [] };
    const last = layoutsOf(knot.method).length - 1;
    const filmed = changeMethod(knot.method, last, { kind: 'show', shown: { footage: [take] } });
    if (!filmed.ok) throw new Error(filmed.reason);
    const voice = { sound: 'b'.repeat(64), from: 0.5, to: 4.5 };
    const scenes: readonly ReelScene[] = [
      { kind: 'look', side: 'back', seconds: 6, voice },
      { kind: 'card', text: 'Look at the tail.', seconds: 5 },
      { kind: 'film', film: take.film, from: 2, to: 8, text: 'So.', voice },
    ];
    const of = { ...knot, method: filmed.value };
    for (const [part, scene] of scenes.entries()) {
      const before = reelTimeline(filmable(of), own(scenes));
      const done = cut(of, own(scenes), part, 0.5);
      if (!done.ok) throw new Error(done.reason);
      expect(reelsTrouble(of.method, [done.value])).toBeUndefined();
      // A part that is spoken over lasts a breath longer than its voice.
      expect(Math.abs(reelTimeline(filmable(of), done.value).duration - before.duration)).toBeLessThan(0.5);
      const [a, b] = done.value.scenes.slice(part, part + 2) as [ReelScene, ReelScene];
      expect([a.kind, b.kind]).toEqual([scene.kind, scene.kind]);
      if (scene.voice) {
        expect([a.voice?.from, b.voice?.to ?? a.voice?.to]).toEqual([voice.from, voice.to]);
        if (b.voice) expect(b.voice.from).toBe(a.voice!.to);
      }
    }
  });

  it('keeps the picture that stands for the reel the same one', () => {
    const knot = drawnKnot('bowline.json');
    const reel = own(laid(knot.method));
    const at = (r: Reel): number => {
      const timeline = reelTimeline(filmable(knot), r);
      return momentAt(knot.method, timeline, posterTime(r, timeline))!.at;
    };
    const timeline = reelTimeline(filmable(knot), reel);
    expect(posterTime(reel, timeline)).toBe(timeline.duration);
    for (const after of [0.4, 1.9]) {
      const chosen = withPoster(reel, 1, after);
      const done = cut(knot, chosen, 1, 0.5);
      if (!done.ok) throw new Error(done.reason);
      expect(done.value.scenes.filter((s) => s.poster !== undefined).length).toBe(1);
      const step = stepsOf(knot.method)[laid(knot.method)[1]!.step]!.stretch!;
      // Cut in two, a step is slow at the cut: it is near where it was.
      expect(Math.abs(at(done.value) - at(chosen))).toBeLessThan(0.2 * Math.abs(step.to - step.from));
    }
    // Chosen elsewhere, it is there alone.
    expect(withPoster(withPoster(reel, 1, 1), 0, 0.5).scenes.map((s) => s.poster)).toEqual([
      0.5,
      ...reel.scenes.slice(1).map(() => undefined),
    ]);
  });

  it('takes what is pointed out on its rope with the part that lays it', () => {
    const knot = drawnKnot('bowline.json');
    const [scene] = laid(knot.method);
    const { rope, from, to } = stepsOf(knot.method)[scene!.step]!.stretch!;
    const callouts = [0.2, 0.8].map((k) => ({ kind: 'ring', strand: rope, at: from + k * (to - from) }) as const);
    const done = cut(knot, own([{ ...scene!, callouts }]), 0, 0.5);
    if (!done.ok) throw new Error(done.reason);
    expect(done.value.scenes.map((s) => (s as StepScene).callouts)).toEqual([[callouts[0]!], [callouts[1]!]]);
  });

  it('is not cut where a part would not be seen, nor where it is shown in one go', () => {
    const knot = drawnKnot('reef.json');
    const reel = own([...laid(knot.method), { kind: 'tail' }]);
    for (const share of [0, 0.02, 1])
      expect(cut(knot, reel, 0, share)).toEqual(jasmine.objectContaining({ ok: false, place: 'scene 1' }));
    const tail = cut(knot, reel, reel.scenes.length - 1, 0.5);
    expect(!tail.ok && tail.reason).toContain('in one go');
    // A part of what lays no rope is no part.
    const still = stepsOf(knot.method).find((s) => s.does !== 'lay');
    for (const part of [
      [0, 1],
      [0.4, 0.42],
      [0.6, 0.2],
    ] as const)
      expect(
        reelsTrouble(knot.method, [own([{ kind: 'step', step: part[1] === 1 ? (still?.index ?? 99) : 0, part }])]),
      ).toBeDefined();
  });

  it('shows what it showed when its step is cut, or drawn anew', () => {
    const knot = drawnKnot('reef.json');
    const [scene] = laid(knot.method);
    const step = stepsOf(knot.method)[scene!.step]!;
    const parts = own([
      { ...scene!, part: [0, 0.3] },
      { ...scene!, part: [0.3, 1] },
    ]);
    const method = withReel(knot.method, parts);
    const { stretch } = step;
    const middle = (stretch!.from + stretch!.to) / 2;
    const split = changeMethod(method, 0, { kind: 'place-halt', leader: stretch!.leader, at: middle });
    if (!split.ok) throw new Error(split.reason);
    const now = split.value.reels![0]!.scenes as readonly StepScene[];
    const length = (m: Method, s: StepScene): number => lengthLaid(stepsOf(m)[s.step]!, s.part);
    expect(now.reduce((sum, s) => sum + length(split.value, s), 0)).toBeCloseTo(lengthLaid(step), 6);
    expect(length(split.value, now[0]!)).toBeCloseTo(0.3 * lengthLaid(step), 6);
    expect(now.map((s) => s.step)).toEqual([step.index, step.index, step.index + 1].slice(0, now.length));
    const told = changeMethod(method, 0, { kind: 'tell', index: step.place, telling: { text: 'So.' } });
    expect(told.ok && told.value.reels).toEqual([parts]);
  });
});
