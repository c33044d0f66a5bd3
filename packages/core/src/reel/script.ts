/**
 * A demonstration for the ear: what its picture shows, described for those who do not see it, and a script to be read aloud, with its times.
 */
import { composeStep } from '../tying/compose.js';
import type { Method } from '../tying/method.js';
import type { LookSide } from '../tying/reels.js';
import type { Vocabulary } from '../words/vocabulary.js';
import { webVtt, type Cue } from './captions.js';
import { chaptersOf, type Chapter, type Scene, type Timeline } from './timeline.js';

/** How quickly a script is read aloud, in words a minute: calm speech over something that is watched lies between 120 and 150. */
export const SPEAKING_SPEED = 140;

const wordsIn = (text: string): number => text.split(/\s+/).filter((w) => w !== '').length;

/** From where the knot is looked at, in words. */
const FROM: Readonly<Record<LookSide, string>> = {
  front: 'from the front',
  back: 'from behind',
  left: 'from its left',
  right: 'from its right',
  end: 'end on',
};

/** What a shot shows, in a sentence. */
function describeShot({ shot, step }: Scene, method: Method, words: Vocabulary): string {
  switch (shot.kind) {
    case 'lay': {
      const again = shot.again === true ? 'Once more, slower: ' : '';
      const { text } = composeStep(method, step ?? 0, words);
      return again === '' ? text : again + text.charAt(0).toLowerCase() + text.slice(1);
    }
    case 'relay':
      return 'The knot is laid anew, as it is tied on from here.';
    case 'tighten':
      return shot.pulled ? 'The knot is pulled tight, arrows show where.' : 'The knot is drawn together.';
    case 'hold':
      return `The knot, ${FROM[shot.side]}.`;
    case 'turn':
      return shot.from === 'front' ? 'It is turned over.' : 'It is turned back.';
    case 'tail':
      return 'A ruler is laid beside the tail, from where it leaves the knot.';
    case 'film':
      return 'The knot is tied by hand, on film.';
    case 'wrong':
      return 'A knot that is tied wrong: the crossing is ringed.';
    case 'card':
      return `${shot.pictured === undefined ? 'Words alone' : `The knot after step ${shot.pictured + 1}, and words`}${shot.title === undefined ? '' : `: ${shot.title}`}.`;
  }
}

/** A WebVTT file of descriptions: what each shot shows, for a reader of screens to say. */
export function toDescriptions(timeline: Timeline, title: string, method: Method, words: Vocabulary): string {
  const cues = timeline.scenes.map((scene, i): Cue => {
    const { start, end } = scene;
    return { id: `shot-${i + 1}`, start, end, lines: [describeShot(scene, method, words)] };
  });
  return webVtt(title, cues);
}

/** A passage of a script: what is said while it is shown, and whether that takes longer than it lasts. */
export interface Spoken {
  readonly part: number;
  readonly start: number;
  readonly end: number;
  readonly text: string;
  /** Seconds that it takes to say. */
  readonly takes: number;
  readonly tooLong: boolean;
}

/** What is said over a demonstration: its cautions, then the words of each passage; where it has none of its own, nothing. */
export function spokenOver(timeline: Timeline): readonly Spoken[] {
  const spoken = ({ part, start, end, caption }: Omit<Chapter, 'step'>): Spoken => {
    const text = caption.split(/\s+/).join(' ').trim();
    const takes = (60 * wordsIn(text)) / SPEAKING_SPEED;
    return { part, start, end, text, takes, tooLong: takes > end - start };
  };
  const { cautions } = timeline;
  return [
    ...(cautions ? [spoken({ part: -1, start: 0, end: cautions.end, caption: cautions.lines.join(' ') })] : []),
    ...chaptersOf(timeline).map(spoken),
  ];
}
