import fc from 'fast-check';
import { changeMethod, readKnot, REELS, reelsTrouble, WORKSHOP_WORDS, writeKnot } from '../../src/index.js';
import type { Method, Reel, ReelScene } from '../../src/index.js';
import {
  chaptersOf,
  composeReel,
  loudness,
  peaksOf,
  reelTimeline,
  SPEAKING_SPEED,
  spokenPart,
  standInWords,
} from '../../src/reel/index.js';
import { drawnKnot } from '../support/figures.js';

const RATE = 8000;

/** A hum of a room, and in it tones: from when to when, in seconds, and how loud. */
function take(seconds: number, tones: readonly (readonly [number, number, number])[], hum = 0.0005): Float32Array {
  return Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => {
    const t = i / RATE;
    const tone = tones.find(([from, to]) => t >= from && t < to);
    return hum * Math.sin(2 * Math.PI * 50 * t) + (tone ? tone[2] * Math.sin(2 * Math.PI * 200 * t) : 0);
  });
}

describe('a voice over a scene', () => {
  it('is loud as its samples are: a full sine lies 3 dB below full scale, half of it 9', () => {
    expect(loudness(take(1, [[0, 1, 1]], 0))).toBeCloseTo(-3.01, 1);
    expect(loudness(take(1, [[0, 1, 0.5]], 0))).toBeCloseTo(-9.03, 1);
    expect(loudness(new Float32Array(100))).toBe(-Infinity);
  });

  it('is heard from its first word to its last, pauses within it kept, whatever the silence before and after', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 3, noNaN: true }),
        fc.double({ min: 0.2, max: 2, noNaN: true }),
        fc.double({ min: 0.3, max: 3, noNaN: true }),
        fc.double({ min: 0.05, max: 0.9, noNaN: true }),
        (before, pause, after, loud) => {
          const [first, second] = [before + 0.5, before + 0.5 + pause];
          const samples = take(second + 0.4 + after, [
            [before, first, loud],
            [second, second + 0.4, loud],
          ]);
          const heard = spokenPart(samples, RATE);
          expect(heard?.from).toBeLessThanOrEqual(before);
          expect(heard?.from).toBeGreaterThan(before - 0.25);
          expect(heard?.to).toBeGreaterThanOrEqual(Math.min(second + 0.4, samples.length / RATE) - 0.01);
          expect(heard?.to).toBeLessThan(second + 0.4 + 0.3);
        },
      ),
    );
    expect(spokenPart(take(2, []), RATE)).toBeUndefined();
    expect(spokenPart(new Float32Array(0), RATE)).toBeUndefined();
  });

  it('has a wave: one peak where one sound is', () => {
    const peaks = peaksOf(take(4, [[1, 2, 0.8]], 0), 4);
    expect(peaks.map((p) => p > 0.5)).toEqual([false, true, false, false]);
    expect(peaksOf(new Float32Array(0), 3)).toEqual([0, 0, 0]);
  });

  it('has a stand-in: a tone for each word, one after another, at the pace of calm speech', () => {
    const words = standInWords('Take the working end round behind the standing part.');
    expect(words.length).toBe(9);
    words.forEach((w, i) => {
      expect(w.lasts).toBeGreaterThan(0);
      expect(w.at).toBeGreaterThanOrEqual(i === 0 ? 0 : words[i - 1]!.at + words[i - 1]!.lasts);
    });
    const [first, last] = [words[0]!, words.at(-1)!];
    expect(last.at + last.lasts - first.at).toBeLessThanOrEqual((60 * 9) / SPEAKING_SPEED);
    expect(last.at + last.lasts - first.at).toBeGreaterThan((50 * 9) / SPEAKING_SPEED);
    expect(standInWords('  ')).toEqual([]);
  });
});

describe('a scene with a voice', () => {
  const { method, name } = drawnKnot('reef.json');
  const of = { method, name, words: WORKSHOP_WORDS, pace: 'normal' as const };
  const lesson = composeReel(of, 'lesson', 'What it is for.');
  const voice = (lasts: number): ReelScene['voice'] => ({ sound: 'c'.repeat(64), from: 0.5, to: 0.5 + lasts });
  const spoken = (lasts: number): Reel => ({
    ...lesson,
    scenes: lesson.scenes.map((s) => ({ ...s, voice: voice(lasts) })),
  });

  it('lasts until all is said, of whatever kind; what stands still no longer than that', () => {
    for (const lasts of [0.5, 7, 31]) {
      const reel = spoken(lasts);
      const timeline = reelTimeline(of, reel);
      const chapters = chaptersOf(timeline);
      expect(chapters.length).toBe(reel.scenes.length);
      chapters.forEach((c, i) => {
        expect(c.end - c.start)
          .withContext(`scene ${i + 1}: ${reel.scenes[i]?.kind}`)
          .toBeGreaterThanOrEqual(lasts);
        if (reel.scenes[i]?.kind === 'card') expect(c.end - c.start).toBeLessThan(Math.max(3, lasts) + 1);
      });
      // It begins with its scene, and once.
      const heard = timeline.scenes.filter((s) => s.voice);
      expect(heard.map((s) => s.start)).toEqual(chapters.map((c) => c.start));
    }
  });

  it('lasts as long as its author says, but not less than what is said', () => {
    const card = (seconds: number): Reel => ({
      name: 'Card',
      scenes: [{ kind: 'card', text: 'Look.', seconds, voice: voice(6) }],
    });
    expect(reelTimeline(of, card(12)).duration).toBeCloseTo(12, 6);
    expect(reelTimeline(of, card(2)).duration).toBeCloseTo(6.4, 6);
  });

  it('stands in the file as it is, and is read again', () => {
    const done = changeMethod(method, 0, { kind: 'set-reels', reels: [spoken(4)] });
    if (!done.ok) throw new Error(done.reason);
    const changed: Method = done.value;
    const read = readKnot(
      JSON.parse(JSON.stringify(writeKnot({ ...drawnKnot('reef.json'), method: changed }))) as unknown,
    );
    expect(read.ok && read.value.method.reels).toEqual(changed.reels);
  });

  it('is refused with its place where its voice is none, or has no end', () => {
    for (const v of [
      { sound: 'c'.repeat(64), from: 3, to: 3 },
      { sound: 'c'.repeat(64), from: 0, to: REELS.longest + 1 },
    ])
      expect(reelsTrouble(method, [{ name: 'R', scenes: [{ kind: 'card', text: 'Look.', voice: v }] }])?.place).toBe(
        'reels[0].scenes[0]',
      );
  });
});
