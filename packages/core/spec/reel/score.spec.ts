import fc from 'fast-check';
import {
  change,
  changeMethod,
  EXHIBIT_LIMIT,
  FIRST_LAYOUT,
  findingsOf,
  finishedFigure,
  layoutsOf,
  leftHanded,
  LOOK_SIDES,
  placeOfCrossing,
  crossingsOf,
  readKnot,
  REELS,
  reelsTrouble,
  stepsOf,
  composeStep,
  WORKSHOP_WORDS,
  writeKnot,
  type KnotDocument,
  type Method,
  type Reel,
  type ReelScene,
} from '../../src/index.js';
import {
  chaptersOf,
  composeReel,
  cuesOf,
  demonstration,
  lastingFor,
  momentAt,
  paceOf,
  REEL_KINDS,
  REMINDER,
  reelTimeline,
  toChapters,
  tooQuick,
  withMoved,
  withScene,
  type Filmable,
} from '../../src/reel/index.js';
import type { Footage } from '../../src/footage.js';
import { drawnFiles, drawnKnot } from '../support/figures.js';

const steps = (method: Method): number[] => stepsOf(method).map((s) => s.index);
const filmable = ({ method, name }: KnotDocument): Filmable => ({
  method,
  name,
  words: WORKSHOP_WORDS,
  pace: 'normal',
});
const withReels = (method: Method, reels: readonly Reel[]): Method => {
  const done = changeMethod(method, 0, { kind: 'set-reels', reels });
  if (!done.ok) throw new Error(done.reason);
  return done.value;
};
const shownSteps = ({ scenes }: Reel): number[] => scenes.flatMap((s) => (s.kind === 'step' ? [s.step] : []));

/** A knot with its first crossings shown as wrong ways. */
function withWrongWays(knot: KnotDocument): KnotDocument {
  const exhibits = crossingsOf(finishedFigure(knot.method))
    .slice(0, 2)
    .map((c, i) => ({ crossings: [placeOfCrossing(c)], becomes: `Wrong ${i + 1}` }));
  const layout = layoutsOf(knot.method).length - 1;
  const done = change(knot, { ...FIRST_LAYOUT, layout }, { kind: 'show', shown: { exhibits } });
  if (!done.ok) throw new Error(done.reason);
  return done.value;
}

describe('the score of a reel', () => {
  it('is composed: a lesson shows every step slowly, what is laid once more at its pace, and looks the knot over', () => {
    for (const file of drawnFiles) {
      const knot = withWrongWays(drawnKnot(file));
      const { method } = knot;
      const reel = composeReel(filmable(knot), 'lesson', 'What it is for.');
      expect(reelsTrouble(method, [reel]))
        .withContext(file)
        .toBeUndefined();
      const of = (pass: string): readonly ReelScene[] => reel.scenes.filter((s) => s.pass === pass);
      expect(reel.scenes.map((s) => s.pass)).toEqual(
        ['introduction', 'slow', 'normal', 'inspection'].flatMap((p) => of(p).map((s) => s.pass)),
      );
      expect(of('introduction').map((s) => s.kind)).toEqual(['card', 'look']);
      const tying = stepsOf(method).filter((s) => s.does !== 'check');
      expect(shownSteps({ ...reel, scenes: of('slow') })).toEqual(tying.map((s) => s.index));
      const laying = stepsOf(method).filter((s) => s.does === 'lay');
      expect(shownSteps({ ...reel, scenes: of('normal') })).toEqual(laying.map((s) => s.index));
      expect(of('inspection').filter((s) => s.kind === 'wrong').length).toBe(2);
      // Slowly is slower than at its pace, and what is shown slowly is read.
      const timeline = reelTimeline(filmable(knot), reel);
      const chapters = chaptersOf(timeline);
      expect(chapters.length).toBe(reel.scenes.length);
      const moves = (part: number): number =>
        timeline.scenes.filter((s) => s.part === part).reduce((sum, s) => sum + s.laid - s.start, 0);
      for (const { index } of laying) {
        const [slow, normal] = reel.scenes.flatMap((s, i) => (s.kind === 'step' && s.step === index ? [i] : []));
        expect(moves(slow!)).toBeGreaterThan(1.2 * moves(normal!));
      }
      expect(tooQuick(method, timeline, { reading: 17, crossings: Infinity, speaking: Infinity })).toEqual([]);
    }
  });

  it('is composed: a reminder lasts half a minute at most, with its cautions, or is as quick as can be', () => {
    for (const file of drawnFiles) {
      const knot = drawnKnot(file);
      for (const cautions of [0, 8]) {
        const reel = composeReel(filmable(knot), 'reminder', '', cautions);
        const { duration } = reelTimeline(filmable(knot), reel);
        const quickest = reel.scenes.every((s) => s.kind === 'step' && s.speed === 4);
        if (!quickest)
          expect(duration + cautions)
            .withContext(file)
            .toBeLessThanOrEqual(REMINDER);
        expect(chaptersOf(reelTimeline(filmable(knot), reel)).every((c) => c.caption === '')).toBeTrue();
      }
    }
  });

  it('lies in time without gaps, shows what its scenes say, and names each passage once', () => {
    for (const file of drawnFiles) {
      const knot = withWrongWays(drawnKnot(file));
      for (const kind of REEL_KINDS) {
        const reel = composeReel(filmable(knot), kind, 'What it is for.');
        const timeline = reelTimeline(filmable(knot), reel);
        timeline.scenes.forEach((s, i) => expect(s.start).toBeCloseTo(timeline.scenes[i - 1]?.end ?? 0, 9));
        const chapters = chaptersOf(timeline);
        chapters.forEach((c, i) => {
          const scene = reel.scenes[i]!;
          const moment = momentAt(knot.method, timeline, (c.start + c.end) / 2)!;
          expect(moment.part).toBe(i);
          if (scene.kind === 'step') expect(moment.step).toBe(scene.step);
          if (scene.kind === 'wrong') expect(moment.shot).toEqual({ kind: 'wrong', exhibit: scene.exhibit });
          if (scene.kind === 'card') expect(moment.caption).toBe(scene.text);
        });
        const ids = toChapters(timeline, 'T').match(/^(step|scene)-.*$/gm)!;
        expect(ids.length).toBe(reel.scenes.length);
        expect(new Set(ids).size).toBe(ids.length);
        const cues = cuesOf(timeline, 42).map((c) => c.id);
        expect(new Set(cues).size).toBe(cues.length);
        expect(paceOf(knot.method, timeline).map((p) => p.part)).toEqual(chapters.map((c) => c.part));
      }
    }
  });

  it('begins with its cautions, as steps do; a reel that is not there is the steps as they are tied', () => {
    const knot = drawnKnot('reef.json');
    const method = withReels(knot.method, [composeReel(filmable(knot), 'reminder')]);
    const all = { ...filmable(knot), method, cautions: ['Never for people.'] };
    const [plain, reel, none] = [undefined, 0, 5].map((r) => demonstration({ ...all, reel: r }));
    expect(reel!.cautions?.lines).toEqual(['Never for people.']);
    expect(reel!.scenes[0]!.start).toBe(reel!.cautions!.end);
    expect(none).toEqual(plain);
    expect(reel!.duration).not.toBe(plain!.duration);
  });

  it('is dragged into another order and made longer or shorter, without losing a scene', () => {
    const knot = drawnKnot('reef.json');
    const reel = composeReel(filmable(knot), 'lesson', 'What it is for.');
    const n = reel.scenes.length;
    fc.assert(
      fc.property(fc.nat(n - 1), fc.nat(n - 1), (from, to) => {
        const moved = withMoved(reel, from, to);
        expect(moved.scenes[to]).toBe(reel.scenes[from]);
        expect([...moved.scenes].sort((a, b) => reel.scenes.indexOf(a) - reel.scenes.indexOf(b))).toEqual([
          ...reel.scenes,
        ]);
        expect(withMoved(moved, to, from)).toEqual(reel);
      }),
    );
    expect(withScene(reel, 0, undefined).scenes).toEqual(reel.scenes.slice(1));
    expect(withScene(reel, 1, reel.scenes[1], reel.scenes[1]!).scenes.length).toBe(n + 1);
    const lasts = (r: Reel, part: number): number => {
      const c = chaptersOf(reelTimeline(filmable(knot), r))[part]!;
      return c.end - c.start;
    };
    fc.assert(
      fc.property(fc.nat(n - 2), fc.integer({ min: 5, max: 200 }), (part, tenths) => {
        const scene = reel.scenes[part]!;
        const before = lasts(reel, part);
        const wanted = tenths / 10;
        const made = lastingFor(knot.method, reelTimeline(filmable(knot), reel), part, scene, wanted);
        const after = lasts(withScene(reel, part, made), part);
        // What is longer is as long as it was asked to be; what is shorter is so where its words can still be read.
        if (scene.kind !== 'step' || wanted >= before) expect(Math.abs(after - wanted)).toBeLessThan(0.11);
        else expect(after).toBeLessThanOrEqual(before + 0.11);
        const { caption } = chaptersOf(reelTimeline(filmable(knot), withScene(reel, part, made)))[part]!;
        if (scene.kind === 'step') expect(caption.length / after).toBeLessThanOrEqual(15.001);
      }),
    );
  });
});

describe('the reels of a method', () => {
  const knot = drawnKnot('reef.json');
  const own = (scenes: readonly ReelScene[]): Reel => ({ name: 'R', scenes });
  const all = own(steps(knot.method).map((step) => ({ kind: 'step', step })));

  it('stand in the file as they are, and are read again', () => {
    const many = withWrongWays(knot);
    const reels: readonly Reel[] = [
      composeReel(filmable(many), 'lesson', 'What it is for.'),
      { ...composeReel(filmable(many), 'upright'), shape: 'square' },
    ];
    const filmed = { ...many, method: withReels(many.method, reels) };
    const again = readKnot(JSON.parse(JSON.stringify(writeKnot(filmed))));
    expect(again.ok && again.value.method.reels).toEqual(reels);
    expect(withReels(filmed.method, []).reels).toBeUndefined();
  });

  it('are refused with their place where they name what is not there, are too many or say too much', () => {
    const wrong: readonly (readonly [readonly Reel[], string])[] = [
      [[own([{ kind: 'step', step: 99 }])], 'reels[0].scenes[0]'],
      [[all, { ...own([{ kind: 'wrong', exhibit: EXHIBIT_LIMIT }]), name: 'S' }], 'reels[1].scenes[0]'],
      [[own([{ kind: 'step', step: 0, speed: 9 }])], 'reels[0].scenes[0]'],
      [[own([{ kind: 'card', text: 'x'.repeat(REELS.text + 1) }])], 'reels[0].scenes[0]'],
      [[own([{ kind: 'look', side: 'back', seconds: 0 }])], 'reels[0].scenes[0]'],
      [[own([{ kind: 'card', text: 'Look.', step: 99 }])], 'reels[0].scenes[0]'],
      [[own([{ kind: 'step', step: 0, text: 'x'.repeat(REELS.text + 1) }])], 'reels[0].scenes[0]'],
      [[all, { ...all, name: 'r ' }], 'reels'],
      [[own(Array.from({ length: REELS.scenes + 1 }, () => ({ kind: 'step', step: 0 })))], 'reels[0]'],
      [[{ ...all, name: ' ' }], 'reels[0]'],
      [Array.from({ length: REELS.most + 1 }, (_, i) => ({ ...all, name: `R${i}` })), 'reels'],
    ];
    for (const [reels, place] of wrong) {
      const done = changeMethod(knot.method, 0, { kind: 'set-reels', reels });
      expect(done.ok ? undefined : done.place).toBe(place);
      const file = { ...writeKnot(knot), method: { ...writeKnot(knot).method, reels } };
      expect(readKnot(JSON.parse(JSON.stringify(file))).ok).toBeFalse();
    }
  });

  it('show both parts of a step that was split, and leave out one that was joined to the next', () => {
    const method = withReels(knot.method, [all]);
    const laying = stepsOf(method).filter((s) => s.does === 'lay');
    const { stretch } = laying[1]!;
    const middle = (stretch!.from + stretch!.to) / 2;
    const split = changeMethod(method, 0, { kind: 'place-halt', leader: stretch!.leader, at: middle });
    if (!split.ok) throw new Error(split.reason);
    expect(stepsOf(split.value).length).toBe(stepsOf(method).length + 1);
    expect(shownSteps(split.value.reels![0]!)).toEqual(steps(split.value));
    const joined = changeMethod(split.value, 0, { kind: 'join-step', index: laying[1]!.place });
    if (!joined.ok) throw new Error(joined.reason);
    expect(shownSteps(joined.value.reels![0]!)).toEqual(steps(joined.value));
    // What changes no step changes no reel.
    const told = changeMethod(method, 0, { kind: 'tell', index: 0, telling: { numbers: true } });
    expect(told.ok && told.value.reels).toBe(method.reels);
  });

  it('show the same steps when these are put in another order', () => {
    const texts = stepsOf(knot.method).map(({ of, stretch }) => of.leaders[stretch?.leader ?? -1]?.rope);
    const first = texts.findIndex(
      (rope, i) => rope !== undefined && texts[i + 1] !== undefined && texts[i + 1] !== rope,
    );
    expect(first).toBeGreaterThanOrEqual(0);
    const method = withReels(knot.method, [all]);
    const done = changeMethod(method, 0, { kind: 'move-step', index: first, by: 1 });
    if (!done.ok) throw new Error(done.reason);
    const swapped = steps(method).map((i) => (i === first ? first + 1 : i === first + 1 ? first : i));
    expect(shownSteps(done.value.reels![0]!)).toEqual(swapped);
  });

  it('go on with the layouts that are left when one is taken out', () => {
    const twice = changeMethod(knot.method, 0, { kind: 'add-layout', name: 'On its way' });
    const thrice = twice.ok && changeMethod(twice.value, 0, { kind: 'add-layout', name: 'Dressed' });
    if (!thrice || !thrice.ok) throw new Error('no layouts');
    const method = withReels(thrice.value, [own(steps(thrice.value).map((step) => ({ kind: 'step', step })))]);
    const last = layoutsOf(method).length - 2;
    const done = changeMethod(method, last, { kind: 'remove-layout' });
    if (!done.ok) throw new Error(done.reason);
    const gone = stepsOf(method).filter((s) => s.layout === last).length;
    expect(stepsOf(done.value).length).toBe(stepsOf(method).length - gone);
    expect(shownSteps(done.value.reels![0]!)).toEqual(steps(done.value));
  });

  it('keep their wrong ways when another one is taken back', () => {
    const many = withWrongWays(knot);
    const reel = own([0, 1].map((exhibit) => ({ kind: 'wrong', exhibit })));
    const method = withReels(many.method, [reel]);
    const exhibits = layoutsOf(method).at(-1)!.exhibits!.slice(1);
    const done = changeMethod(method, layoutsOf(method).length - 1, { kind: 'show', shown: { exhibits } });
    expect(done.ok && done.value.reels![0]!.scenes).toEqual([{ kind: 'wrong', exhibit: 0 }]);
  });

  it('show a stretch of a film as it is played, with what is said in it, and only films that there are', () => {
    const take: Footage = {
      film: 'a'.repeat(64),
      name: 'Take 1',
      duration: 12,
      frames: [],
      captions: [
        { start: 1, end: 2, text: 'Cross the ends.' },
        { start: 8, end: 9, text: 'Pull.' },
      ],
      passages: [{ from: 2, to: 4, speed: 0.5, still: 1 }],
    };
    const last = layoutsOf(knot.method).length - 1;
    const filmed = changeMethod(knot.method, last, { kind: 'show', shown: { footage: [take] } });
    if (!filmed.ok) throw new Error(filmed.reason);
    const scene: ReelScene = { kind: 'film', film: take.film, from: 1, to: 6 };
    const method = withReels(filmed.value, [own([{ kind: 'step', step: 0 }, scene])]);
    const timeline = reelTimeline(filmable({ ...knot, method }), method.reels![0]!);
    const { start, end, caption } = chaptersOf(timeline)[1]!;
    expect(end - start).toBeCloseTo(1 + (1 + 4) + 2, 9);
    expect(caption).toBe('Cross the ends.');
    const shownAt = (t: number): number => momentAt(method, timeline, start + t)!.at;
    [
      [0, 1],
      [1.5, 2],
      [4, 3],
      [7, 5],
    ].forEach(([t, at]) => expect(shownAt(t!)).toBeCloseTo(at!, 9));
    // It is said when it is said in the film, and nothing beside.
    const saidAt = (t: number): string => momentAt(method, timeline, start + t)!.said;
    expect([0.2, 0.9, 1.1, 6].map(saidAt)).toEqual(['Cross the ends.', 'Cross the ends.', '', '']);
    const all = own([{ ...scene, to: 10 }]);
    const cues = cuesOf(
      demonstration({ ...filmable({ ...knot, method: withReels(filmed.value, [all]) }), cautions: ['Wait.'], reel: 0 }),
    );
    const lead = cues[0]!.end;
    expect(cues.slice(1).map((c) => [c.lines, c.start - lead, c.end - lead])).toEqual([
      [['Cross the ends.'], 0, 1],
      [['Pull.'], 10, 11],
    ]);
    // Longer, it shows more of the film; never what the film has not.
    const lasting = lastingFor(method, timeline, 1, scene, 10);
    expect(lasting).toEqual({ ...scene, to: 8 });
    expect(reelsTrouble(method, [own([lastingFor(method, timeline, 1, scene, 99)])])).toBeUndefined();
    for (const wrong of [
      { ...scene, film: 'b'.repeat(64) },
      { ...scene, to: 13 },
      { ...scene, to: 1.2 },
    ])
      expect(reelsTrouble(method, [own([wrong])])?.place).toBe('reels[0].scenes[0]');
    const file = readKnot(JSON.parse(JSON.stringify(writeKnot({ ...knot, method }))));
    expect(file.ok && file.value.method.reels).toEqual(method.reels);
    // Without its film the scene goes.
    const gone = changeMethod(method, last, { kind: 'show', shown: { footage: [] } });
    expect(gone.ok && gone.value.reels![0]!.scenes).toEqual([{ kind: 'step', step: 0 }]);
  });

  it('say what is written for them, of steps and wrong ways too, and picture a step beside a card', () => {
    const many = withWrongWays(knot);
    const scenes: readonly ReelScene[] = [
      { kind: 'step', step: 0, text: 'Cross them.' },
      { kind: 'wrong', exhibit: 0, text: 'A granny!' },
      { kind: 'card', text: 'So it looks.', step: 1 },
    ];
    const method = withReels(many.method, [own(scenes)]);
    const timeline = reelTimeline(filmable({ ...many, method }), method.reels![0]!);
    expect(chaptersOf(timeline).map((c) => c.caption)).toEqual(['Cross them.', 'A granny!', 'So it looks.']);
    expect(timeline.scenes.at(-1)!.shot).toEqual({ kind: 'card', title: undefined, pictured: 1 });
    const file = readKnot(JSON.parse(JSON.stringify(writeKnot({ ...many, method }))));
    expect(file.ok && file.value.method.reels).toEqual(method.reels);
    // A card keeps its words when its step is gone, and its step when that has another place.
    const joined = changeMethod(method, 0, { kind: 'remove-step', index: 0 });
    expect(joined.ok && joined.value.reels![0]!.scenes.at(-1)).toEqual({ kind: 'card', text: 'So it looks.', step: 0 });
  });

  it('are held against the picture in what they say of a step', () => {
    const overhand = drawnKnot('overhand.json');
    const found = (text: string): readonly string[] =>
      findingsOf(withReels(overhand.method, [own([{ kind: 'step', step: 0, text }])]), {
        tail: { diameters: 0, millimetres: 0 },
        cordMm: 10,
        words: WORKSHOP_WORDS,
      }).flatMap((f) => (f.code === 'text-contradicts' ? [f.title] : []));
    const told = composeStep(overhand.method, 0, WORKSHOP_WORDS).text;
    const other = told.replace(/\b(over|under)\b/, (way) => (way === 'over' ? 'under' : 'over'));
    expect(other).not.toBe(told);
    expect(found(told)).toEqual([]);
    expect(found(other)).toEqual([jasmine.stringMatching(/^Scene 1 of “R” says “.*of step 1$/)]);
  });

  it('measure the tails as the house asks', () => {
    const reel = own([{ kind: 'tail' }]);
    const tail = { rule: { diameters: 10, millimetres: 100 }, cordMm: 8 };
    const [chapter] = chaptersOf(reelTimeline({ ...filmable(knot), tail }, reel));
    expect(chapter!.caption).toBe('Measure each tail from where it leaves the knot: at least 12.5 d (100 mm).');
    expect(chapter!.end).toBeGreaterThan(4);
    const own4 = reelTimeline(filmable(knot), own([{ kind: 'tail', text: 'Four fingers.', seconds: 4 }]));
    expect([own4.duration, own4.scenes[0]!.caption]).toEqual([4, 'Four fingers.']);
  });

  it('look at the knot from its sides, of the other hand from the other ones, and say so', () => {
    const knot = drawnKnot('bowline.json');
    const scenes = LOOK_SIDES.map((side): ReelScene => ({ kind: 'look', side }));
    const method = withReels(knot.method, [{ name: 'Round it', scenes }]);
    const said = (of: Method): readonly string[] =>
      reelTimeline({ ...filmable(knot), method: of }, of.reels![0]!).scenes.map((s) => s.caption);
    expect(said(method)).toEqual(
      ['front', 'behind', 'left', 'right', 'end on'].map((from) => jasmine.stringContaining(from)),
    );
    expect(said(leftHanded(method))).toEqual(
      ['front', 'behind', 'right', 'left', 'end on'].map((from) => jasmine.stringContaining(from)),
    );
    const file = writeKnot({ ...knot, method });
    const read = readKnot(JSON.parse(JSON.stringify(file)) as unknown);
    expect(read.ok && read.value.method.reels).toEqual(method.reels);
  });

  it('say the other hand in the left-handed edition', () => {
    const reel = own([{ kind: 'card', text: 'The tail lies to the left.' }]);
    expect(leftHanded(withReels(knot.method, [reel])).reels![0]!.scenes[0]).toEqual({
      kind: 'card',
      text: 'The tail lies to the right.',
    });
  });
});
