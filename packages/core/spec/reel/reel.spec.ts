import {
  cautionsFor,
  chaptersOf,
  warnsAt,
  withCautions,
  cueTime,
  momentAt,
  PACE_NAMES,
  stepsOf,
  timelineOf,
  toWebVtt,
  WORKSHOP_WORDS,
} from '../../src/index.js';
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
  it('draws a knot tight once, without a gap, where it is dressed and set; what is pulled is shown where it is set', () => {
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      const steps = stepsOf(method);
      const { scenes } = timelineOf(method, 'normal', WORKSHOP_WORDS);
      const finishing = steps.filter((s) => s.does === 'dress' || s.does === 'set');
      const tight = scenes.flatMap((s) => (s.shot.kind === 'tighten' ? [{ step: s.step, ...s.shot }] : []));
      expect(tight.map((t) => t.step)).toEqual(finishing.map((s) => s.index));
      if (tight.length === 0) continue;
      const byShare = [...tight].sort((a, b) => a.from - b.from);
      expect([byShare[0]!.from, byShare.at(-1)!.to]).toEqual([0, 1]);
      byShare.forEach((t, i) => {
        expect(t.from).toBe(byShare[i - 1]?.to ?? 0);
        expect(t.pulled).toBe(steps[t.step]!.does === 'set');
      });
    }
  });
  it('turns a knot over where it is checked: in front, behind, and in front again', () => {
    const looks = drawnFiles.flatMap((file) => {
      const { method } = drawnKnot(file);
      const { scenes } = timelineOf(method, 'brisk', WORKSHOP_WORDS);
      return stepsOf(method)
        .filter((s) => s.does === 'check')
        .map((s) => scenes.filter((scene) => scene.step === s.index).map(({ shot }) => shot));
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
  it('is slower at a slower pace and never goes back', () => {
    const { method } = drawnKnot('reef.json');
    const [slow, normal, brisk] = PACE_NAMES.map((p) => timelineOf(method, p, WORKSHOP_WORDS));
    expect(slow!.duration).toBeGreaterThan(normal!.duration);
    expect(normal!.duration).toBeGreaterThan(brisk!.duration);
    let [step, at] = [0, 0];
    for (let t = 0; t < normal!.duration; t += 0.05) {
      const m = momentAt(method, normal!, t)!;
      expect(m.step > step || (m.step === step && m.at >= at - 1e-9)).toBeTrue();
      [step, at] = [m.step, m.at];
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
          { step: 0, shot: { kind: 'lay' }, start: 0, laid: 1, end: 2, caption: 'a <b> & c\n\nd --> e' },
          { step: 1, shot: { kind: 'lay' }, start: 2, laid: 3, end: 4, caption: ' ' },
        ],
      },
      'T',
    );
    expect(vtt).toBe('WEBVTT\n\nNOTE T\n\nstep-1\n00:00:00.000 --> 00:00:02.000\na &lt;b&gt; &amp; c d --&gt; e\n');
  });
});
