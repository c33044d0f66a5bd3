import { stepsOf, WORKSHOP_WORDS } from '../../src/index.js';
import {
  chaptersOf,
  composeReel,
  reelTimeline,
  SPEAKING_SPEED,
  spokenOver,
  timelineOf,
  toDescriptions,
  withCautions,
} from '../../src/reel/index.js';
import { drawnFiles, drawnKnot } from '../support/figures.js';

describe('a demonstration for the ear', () => {
  it('is described shot by shot: every shot has its cue, in its time, and says what is laid whatever is read', () => {
    for (const file of drawnFiles) {
      const { method, name } = drawnKnot(file);
      const reel = composeReel({ method, name, words: WORKSHOP_WORDS, pace: 'normal' }, 'lesson', 'What it is for.');
      const timeline = reelTimeline({ method, name, words: WORKSHOP_WORDS, pace: 'normal' }, reel);
      const cues = toDescriptions(timeline, name, method, WORKSHOP_WORDS).trim().split('\n\n').slice(2);
      expect(cues.length).toBe(timeline.scenes.length);
      for (const cue of cues) expect(cue).toMatch(/^shot-\d+\n[\d:.]+ --> [\d:.]+\n\S.*\.$/);
      // A passage without words is described as the one with them.
      const of = (part: number): string => cues[timeline.scenes.findIndex((s) => s.part === part)]!.split('\n')[2]!;
      for (const { index } of stepsOf(method).filter((s) => s.does === 'lay')) {
        const parts = reel.scenes.flatMap((s, i) => (s.kind === 'step' && s.step === index ? [i] : []));
        expect(parts.length).toBe(2);
        expect(new Set(parts.map(of)).size).toBe(1);
      }
    }
  });
  it('has a script: the cautions, then each passage, with what takes longer to say than it lasts', () => {
    const { method } = drawnKnot('reef.json');
    const timeline = withCautions(timelineOf(method, 'normal', WORKSHOP_WORDS), ['Never for people.']);
    const spoken = spokenOver(timeline);
    expect(spoken.map((s) => s.part)).toEqual([-1, ...chaptersOf(timeline).map((c) => c.part)]);
    for (const { text, takes, start, end, tooLong } of spoken) {
      expect(takes).toBeCloseTo((60 * text.split(' ').length) / SPEAKING_SPEED, 9);
      expect(tooLong).toBe(takes > end - start);
    }
    expect(spokenOver({ scenes: [], duration: 0 })).toEqual([]);
  });
});
