import fc from 'fast-check';
import {
  cautionsFor,
  PACE_NAMES,
  stepsOf,
  WORKSHOP_WORDS,
  changeMethod,
  lastAt,
  layoutsOf,
  leaderEnd,
  mirror,
  passagesOf,
  type Filmed,
  type Method,
} from '../../src/index.js';
import {
  chaptersOf,
  drawRelaid,
  warnsAt,
  withCautions,
  cuesOf,
  cueTime,
  inParts,
  momentAt,
  timelineOf,
  tooQuick,
  paceOf,
  stepCamera,
  toChapters,
  toSubRip,
  toWebVtt,
} from '../../src/reel/index.js';
import { drawnFiles, drawnKnot } from '../support/figures.js';

describe('the timeline', () => {
  it('plays every step in order, without gaps, long enough to read', () => {
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      for (const pace of PACE_NAMES) {
        const timeline = timelineOf(method, pace, WORKSHOP_WORDS);
        const { scenes, duration } = timeline;
        const chapters = chaptersOf(timeline);
        expect(chapters.map((c) => c.step)).toEqual(stepsOf(method).map((s) => s.index));
        for (const list of [scenes, chapters])
          list.forEach((s, i) => expect(s.start).toBeCloseTo(list[i - 1]?.end ?? 0, 9));
        for (const s of scenes) {
          expect(s.end).toBeGreaterThan(s.start);
          // What is held is not moved; everything else is.
          expect(s.laid > s.start).toBe(s.shot.kind !== 'hold');
        }
        for (const c of chapters) expect(c.caption.length / (c.end - c.start)).toBeLessThanOrEqual(15.001);
        expect(duration).toBeCloseTo(scenes.at(-1)!.end, 9);
      }
    }
  });
  it('draws a knot tight once, without a gap, where it is dressed and set, or first looked over; what is pulled is shown where it is set', () => {
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      const steps = stepsOf(method);
      const { scenes } = timelineOf(method, 'normal', WORKSHOP_WORDS);
      const first = steps.find((s) => s.does !== 'lay');
      const finishing = steps.filter((s) => s.does === 'dress' || s.does === 'set' || s === first);
      const tight = scenes.flatMap((s) => (s.shot.kind === 'tighten' ? [{ step: s.step, ...s.shot }] : []));
      expect(tight.map((t) => t.step)).toEqual(finishing.map((s) => s.index));
      if (tight.length === 0) continue;
      const byShare = [...tight].sort((a, b) => a.from - b.from);
      expect([byShare[0]!.from, byShare.at(-1)!.to]).toEqual([0, 1]);
      byShare.forEach((t, i) => {
        expect(t.from).toBe(byShare[i - 1]?.to ?? 0);
        expect(t.pulled).toBe(steps[t.step!]!.does === 'set');
      });
    }
  });
  it('turns a knot over where it is checked: in front, behind, and in front again', () => {
    const looks = drawnFiles.flatMap((file) => {
      const { method } = drawnKnot(file);
      const { scenes } = timelineOf(method, 'brisk', WORKSHOP_WORDS);
      return stepsOf(method)
        .filter((s) => s.does === 'check')
        .map((s) => scenes.filter((scene) => scene.step === s.index).map(({ shot }) => shot))
        .map(([first, ...rest]) => (first!.kind === 'tighten' ? rest : [first!, ...rest]));
    });
    expect(looks.length).toBeGreaterThan(5);
    for (const shots of looks)
      expect(shots).toEqual([
        { kind: 'hold', side: 'front' },
        { kind: 'turn', from: 'front' },
        { kind: 'hold', side: 'back' },
        { kind: 'turn', from: 'back' },
      ]);
  });
  it('lays a knot anew, its crossings kept, before it is tied on in another layout', () => {
    const { method: twice } = drawnKnot('bowline.json');
    const [open, dressed] = layoutsOf(twice);
    // The end of its tail is laid in the second layout.
    const rope = dressed!.figure.ropes[0]!;
    const last = passagesOf(dressed!.figure, rope.id).at(-1)!.at;
    const halts = [{ leader: 0, at: leaderEnd(dressed!, 0) }];
    const leaders = [{ ...dressed!.leaders[0]!, from: (last + lastAt(rope)) / 2 }];
    const { finish: _finish, ...second } = dressed!;
    const method: Method = { ...twice, relaid: [{ ...second, leaders, halts }] };
    const timeline = timelineOf(method, 'normal', WORKSHOP_WORDS);
    const k = open!.halts.length;
    const own = timeline.scenes.filter((s) => s.step === k);
    expect(own.map((s) => s.shot.kind)).toEqual(['relay', 'lay']);
    const at = (share: number): number =>
      momentAt(method, timeline, own[0]!.start + share * (own[0]!.laid - own[0]!.start))!.at;
    expect([at(0), at(0.5), at(0.999)]).toEqual([leaders[0]!.from, leaders[0]!.from, leaders[0]!.from]);
    const SIZE = { width: 1280, height: 720 };
    const shown = [0, 0.3, 0.7, 1].map((share) => drawRelaid(method, k, share, 'front', SIZE)!);
    // Strand by strand: nothing is veiled, and as many gaps are seen on the way as in either drawing.
    for (const { veil, drawing } of shown) {
      expect(veil).toBe(0);
      expect(drawing.runs.length).toBe(shown[0]!.drawing.runs.length);
    }
    expect(shown[0]!.box).toEqual(stepCamera(method, k - 1, 'front', SIZE));
    expect(shown[3]!.box).toEqual(stepCamera(method, k, 'front', SIZE));
    // Where another knot is laid, the one picture gives way to the other.
    const other: Method = { ...method, relaid: [{ ...method.relaid![0]!, figure: mirror(dressed!.figure) }] };
    expect([0, 0.25, 0.5, 1].map((share) => drawRelaid(other, k, share, 'front', SIZE)!.veil)).toEqual([0, 0.5, 1, 0]);
    expect(drawRelaid(method, 0, 0.5, 'front', SIZE)).toBeUndefined();
  });
  it('is slower at a slower pace and never goes back', () => {
    const { method } = drawnKnot('reef.json');
    const [slow, normal, brisk] = PACE_NAMES.map((p) => timelineOf(method, p, WORKSHOP_WORDS));
    expect(slow!.duration).toBeGreaterThan(normal!.duration);
    expect(normal!.duration).toBeGreaterThan(brisk!.duration);
    let [step, at] = [0, 0];
    for (let t = 0; t < normal!.duration; t += 0.05) {
      const m = momentAt(method, normal!, t)!;
      const shown = m.step!;
      expect(shown > step || (shown === step && m.at >= at - 1e-9)).toBeTrue();
      [step, at] = [shown, m.at];
    }
    expect(momentAt(method, normal!, 1e6)!.step).toBe(stepsOf(method).length - 1);
    const laid = chaptersOf(normal!)[method.halts.length - 1]!;
    expect(momentAt(method, normal!, laid.end - 0.01)!.at).toBe(method.halts.at(-1)!.at);
  });
  it('begins with the cautions, long enough to read, and is itself after them', () => {
    for (const file of drawnFiles) {
      const { method, entry } = drawnKnot(file);
      const lines = cautionsFor(entry.useGrade, entry.cautions);
      const bare = timelineOf(method, 'normal', WORKSHOP_WORDS);
      const { scenes, duration, cautions } = withCautions(bare, lines);
      const lead = cautions!.end;
      expect(lines.join(' ').length / lead).toBeLessThanOrEqual(30.001);
      expect(scenes[0]!.start).toBeCloseTo(lead, 9);
      expect(duration).toBeCloseTo(bare.duration + lead, 9);
      const timeline = { scenes, duration, cautions };
      expect([0, lead - 0.01, lead + 0.01].map((t) => warnsAt(timeline, t))).toEqual([true, true, false]);
      for (let t = 0; t < bare.duration; t += 0.4) {
        const [a, b] = [momentAt(method, bare, t)!, momentAt(method, timeline, t + lead)!];
        expect([b.step, b.caption]).toEqual([a.step, a.caption]);
        expect(b.at).toBeCloseTo(a.at, 6);
      }
      // While they are read, what comes first waits.
      expect(momentAt(method, timeline, 0)!.step).toBe(0);
      const first = toWebVtt(timeline, 'T').split('\n\n')[2]!;
      expect(first.startsWith('cautions\n00:00:00.000 --> ')).toBeTrue();
      for (const line of lines) expect(first).toContain(line.split(' ')[0]!);
    }
    expect(withCautions({ scenes: [], duration: 0 }, ['x']).cautions).toBeUndefined();
  });
  it('of nothing has no moment', () => {
    const timeline = timelineOf({ figure: { ropes: [], hosts: [] }, leaders: [], halts: [] }, 'normal', WORKSHOP_WORDS);
    expect(timeline.duration).toBe(0);
    expect(momentAt({ figure: { ropes: [], hosts: [] }, leaders: [], halts: [] }, timeline, 0)).toBeUndefined();
  });
});

describe('captions', () => {
  it('write times as WebVTT does', () => {
    expect(cueTime(0)).toBe('00:00:00.000');
    expect(cueTime(3725.0416)).toBe('01:02:05.042');
    expect(cueTime(59.9999)).toBe('00:01:00.000');
  });
  it('hold one cue a step, with markup escaped and no blank line inside', () => {
    const vtt = toWebVtt(
      {
        duration: 4,
        scenes: [
          { part: 0, step: 0, shot: { kind: 'lay' }, start: 0, laid: 1, end: 2, caption: 'a <b> & c\n\nd --> e' },
          { part: 1, step: 1, shot: { kind: 'lay' }, start: 2, laid: 3, end: 4, caption: ' ' },
        ],
      },
      'T',
    );
    expect(vtt).toBe('WEBVTT\n\nNOTE T\n\nstep-1\n00:00:00.000 --> 00:00:02.000\na &lt;b&gt; &amp; c d --&gt; e\n');
  });
});

/** A method with a step filmed otherwise. */
function filmed(method: Method, index: number, how: Filmed): Method {
  const { layout, place } = stepsOf(method)[index]!;
  const next = changeMethod(method, layout, { kind: 'tell', index: place, telling: { filmed: how } });
  if (!next.ok) throw new Error(next.reason);
  return next.value;
}

describe('chapters', () => {
  it('are the steps, one after another without a gap from the cautions to the end, each on one line', () => {
    const { method } = drawnKnot('reef.json');
    const timeline = withCautions(timelineOf(method, 'slow', WORKSHOP_WORDS), ['Look at it twice.']);
    const [head, , ...cues] = toChapters(timeline, 'Reef <knot>').trim().split('\n\n');
    expect(head).toBe('WEBVTT');
    const read = cues.map((c) => {
      const [id, times, ...text] = c.split('\n');
      return { id, times: (times ?? '').split(' --> '), text };
    });
    expect(read.map((c) => c.id)).toEqual(['cautions', ...chaptersOf(timeline).map((c) => `step-${c.step! + 1}`)]);
    expect(read[0]?.times[0]).toBe('00:00:00.000');
    expect(read.at(-1)?.times[1]).toBe(cueTime(timeline.duration));
    read.forEach((c, i) => {
      expect(c.text.length).toBe(1);
      expect(c.text[0]).not.toMatch(/[<>]/);
      if (i > 0) expect(c.times[0]).toBe(read[i - 1]?.times[1] as string);
    });
  });
});

describe('how a step is filmed', () => {
  const { method } = drawnKnot('bowline.json');
  const of = (m: Method): ReturnType<typeof timelineOf> => timelineOf(m, 'normal', WORKSHOP_WORDS);
  const bare = of(method);

  it('quicker or slower, its own motion alone is', () => {
    const slow = of(filmed(method, 1, { speed: 0.5 }));
    const [a, b] = [bare.scenes[1]!, slow.scenes[1]!];
    expect(b.laid - b.start).toBeCloseTo(2 * (a.laid - a.start), 9);
    expect(slow.scenes[0]).toEqual(bare.scenes[0]);
    expect(slow.scenes[2]!.end - slow.scenes[2]!.start).toBeCloseTo(bare.scenes[2]!.end - bare.scenes[2]!.start, 9);
  });
  it('held, it rests for as long beside', () => {
    for (const index of stepsOf(method).map((s) => s.index))
      expect(of(filmed(method, index, { hold: 2.5 })).duration).toBeCloseTo(bare.duration + 2.5, 9);
  });
  it('again, it is laid a second time at half the speed, under the same caption', () => {
    const twice = of(filmed(method, 1, { again: true }));
    const own = twice.scenes.filter((s) => s.step === 1);
    expect(own.map((s) => s.shot)).toEqual([{ kind: 'lay' }, { kind: 'lay', again: true }]);
    expect(own[1]!.laid - own[1]!.start).toBeCloseTo(2 * (own[0]!.laid - own[0]!.start), 9);
    const shown = method;
    expect(momentAt(shown, twice, own[1]!.start + 0.01)!.at).toBeLessThan(momentAt(shown, twice, own[0]!.laid)!.at);
    expect(chaptersOf(twice).length).toBe(chaptersOf(bare).length);
  });
  it('beyond its bounds is refused, and says which they are', () => {
    for (const how of [{ speed: 9 }, { speed: 0 }, { hold: 31 }, { hold: -1 }]) {
      const next = changeMethod(method, 0, { kind: 'tell', index: 0, telling: { filmed: how } });
      expect(next.ok).toBeFalse();
      if (!next.ok) expect(next.reason).toMatch(/0\.25 to 4|30 seconds/);
    }
  });
});

describe('what goes by too quickly', () => {
  it('is found where the limit is passed, and nowhere else; filmed as is said, it is not found again', () => {
    for (const file of drawnFiles) {
      let { method } = drawnKnot(file);
      const limits = { reading: 9, crossings: 0.4, speaking: 160 };
      const timeline = timelineOf(method, 'brisk', WORKSHOP_WORDS);
      const found = tooQuick(method, timeline, limits);
      const over = paceOf(method, timeline).flatMap((p) => [
        ...(p.crossings > 1.05 * limits.crossings ? [`${p.step} crossings`] : []),
        ...(p.reading > 1.05 * limits.reading ? [`${p.step} reading`] : []),
      ]);
      expect(found.map((f) => `${f.step} ${f.what}`)).toEqual(over);
      // One at a time, as they would be pressed.
      for (let turn = 0; turn < 40; turn += 1) {
        const next = tooQuick(method, timelineOf(method, 'brisk', WORKSHOP_WORDS), limits).find((f) => f.mend);
        if (!next) break;
        method = filmed(method, next.step!, next.mend ?? {});
      }
      // What is left has so many crossings in so little rope that only shorter steps help.
      const left = tooQuick(method, timelineOf(method, 'brisk', WORKSHOP_WORDS), limits);
      for (const f of left)
        expect(f)
          .withContext(file)
          .toEqual(jasmine.objectContaining({ what: 'crossings' }));
      expect(
        left.every((f) => f.value > 4 * f.most * (stepsOf(method)[f.step!]!.telling.filmed?.speed ?? 1)),
      ).toBeTrue();
    }
  });
  it('is nothing of a demo at the pace of every day, by the limits of the Workshop', () => {
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      for (const pace of ['slow', 'normal'] as const)
        expect(tooQuick(method, timelineOf(method, pace, WORKSHOP_WORDS), { reading: 17, crossings: 2, speaking: 160 }))
          .withContext(file)
          .toEqual([]);
    }
  });
  it('counts the crossings that a step passes: all that a knot of one rope has, over its steps', () => {
    const { method } = drawnKnot('overhand.json');
    const timeline = timelineOf(method, 'normal', WORKSHOP_WORDS);
    const passed = paceOf(method, timeline).map((p) => {
      const scene = timeline.scenes.find((s) => s.step === p.step)!;
      return Math.round(p.crossings * (scene.laid - scene.start));
    });
    // Three crossings, each met once by the end as it is laid over or under what is there.
    expect(passed.reduce((a, b) => a + b, 0)).toBe(3);
  });
});

describe('captions in lines', () => {
  it('keep every word in order, in two lines of the length at most, over the time of their step', () => {
    const word = fc.stringMatching(/^[a-z]{1,12}[.,;]?$/);
    fc.assert(
      fc.property(
        fc.array(word, { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 20, max: 50 }),
        (words, perLine) => {
          const text = words.join(' ');
          const cues = cuesOf(
            {
              duration: 9,
              scenes: [{ part: 0, step: 0, shot: { kind: 'lay' }, start: 2, laid: 4, end: 9, caption: text }],
            },
            perLine,
          );
          expect(cues.flatMap((c) => c.lines).join(' ')).toBe(text);
          expect([cues[0]!.start, cues.at(-1)!.end]).toEqual([2, 9]);
          cues.forEach((c, i) => {
            expect(c.lines.length).toBeLessThanOrEqual(2);
            expect(c.lines.every((l) => l.length <= perLine)).toBeTrue();
            expect(c.start).toBe(cues[i - 1]?.end ?? 2);
          });
        },
      ),
    );
  });
  it('end where one takes breath', () => {
    expect(
      inParts(
        'Hold the standing part in the left hand. Lead the working end over it to make an overhand loop, and draw it up.',
        42,
      ),
    ).toEqual([
      'Hold the standing part in the left hand.',
      'Lead the working end over it to make an overhand loop, and draw it up.',
    ]);
  });
  it('leave no word or two behind', () => {
    const parts = inParts(
      'Look at the finished knot from both sides and compare it with the figure before you load it.',
      42,
    );
    expect(parts.length).toBe(2);
    expect(parts[1]!.length).toBeGreaterThan(parts[0]!.length / 3);
  });
  it('as SubRip are numbered, with times after a comma', () => {
    const srt = toSubRip(
      {
        duration: 4,
        scenes: [{ part: 0, step: 0, shot: { kind: 'lay' }, start: 0.5, laid: 1, end: 2, caption: 'a <b> & c' }],
      },
      42,
    );
    expect(srt).toBe('1\n00:00:00,500 --> 00:00:02,000\na <b> & c\n');
  });
});
