/**
 * The caption cleaner: what speech leaves in captions and no reader needs. Misheard and foreign names, by the glossary; fillers; a side
 * said wrongly and put right in the same breath; a word said twice. Each is shown with what may stand instead, and nothing is changed by
 * itself.
 */
import type { FilmCue } from '../footage/frame.js';
import { capital } from '../words/inflect.js';
import { checkLesson, type LessonCheck, type Mend } from '../words/lint.js';
import { isTooQuick } from './watching.js';

export interface CueRemark {
  readonly kind: 'word' | 'filler' | 'corrected' | 'said twice' | 'quick';
  /** Which characters of the caption are meant. */
  readonly from: number;
  readonly to: number;
  readonly words: string;
  readonly says: string;
  /** What may stand instead, the likeliest first. */
  readonly mends: readonly Mend[];
}

/** What the check of texts says that is true of speech, too; words are introduced by the lesson, not by its film. */
const OF_SPEECH = new Set(['misheard', 'discouraged', 'foreign', 'loop of the other hand']);

const FILLER =
  /(?:^|[\s,])(?:u+[mh]+|e+r+m?|a+h+|h+m+|you know|i mean|sort of like|like i said|okay so|ok so|basically)(?=$|[\s,.?!…])[,…]?/giu;

const SIDES =
  'left|right|up|down|over|under|above|below|front|behind|back|clockwise|anticlockwise|counterclockwise|inside|outside';
/** “to the left, sorry, to the right”: a side, a word that takes it back, and a side. */
const CORRECTED = new RegExp(
  String.raw`\b((?:(?:to|on|from) the )?)(${SIDES})\b[\s,.…–—-]+(?:(?:no|sorry|i mean|i meant|rather|oops|wait|er|erm|uh|um|actually)[\s,.…–—-]+)+((?:(?:to|on|from) the )?)(${SIDES})\b`,
  'giu',
);
const TWICE = /\b(\p{L}+)([\s,]+\1)+\b/giu;
/** Words that are rightly said twice. */
const RIGHTLY = new Set(['that', 'had', 'very', 'again', 'over', 'round', 'on']);

const found = (text: string, pattern: RegExp): RegExpExecArray[] => [...text.matchAll(pattern)];

function fillers(text: string): CueRemark[] {
  return found(text, FILLER).map((m): CueRemark => {
    const from = m.index + (/^[\s,]/.test(m[0]) ? 1 : 0);
    const to = m.index + m[0].length;
    const words = text.slice(from, to).trim();
    return { kind: 'filler', from, to, words, says: 'It says nothing.', mends: [{ from, to, instead: '' }] };
  });
}

const corrections = (text: string): CueRemark[] =>
  found(text, CORRECTED).flatMap((m): CueRemark[] => {
    const [all, before = '', wrong = '', after = '', right = ''] = m;
    if (wrong.toLowerCase() === right.toLowerCase()) return [];
    const [from, to] = [m.index, m.index + all.length];
    const says = `“${wrong}” is put right to “${right}” in the same breath: a learner has done the first by then.`;
    return [
      {
        kind: 'corrected',
        from,
        to,
        words: all,
        says,
        mends: [{ from, to, instead: `${after === '' ? before : after}${right}` }],
      },
    ];
  });

const repeats = (text: string): CueRemark[] =>
  found(text, TWICE).flatMap((m): CueRemark[] => {
    const word = m[1] ?? '';
    if (RIGHTLY.has(word.toLowerCase())) return [];
    const [from, to] = [m.index, m.index + m[0].length];
    return [
      { kind: 'said twice', from, to, words: m[0], says: 'It is said twice.', mends: [{ from, to, instead: word }] },
    ];
  });

/** A caption that is gone before it can be read, at so many characters a second at most. */
function quickness({ start, end, text }: FilmCue, most: number): CueRemark[] {
  const speed = text.length / (end - start);
  if (!isTooQuick(speed, most)) return [];
  const says = `It is read at ${speed.toFixed(0)} characters a second; ${most} are the house’s most. Shorten it, or let it stand longer.`;
  return [{ kind: 'quick', from: 0, to: text.length, words: text, says, mends: [] }];
}

/** What is to be said of each caption of a film; `reading` is the house’s most characters a second. */
export function cueRemarks(cues: readonly FilmCue[], check: LessonCheck, reading: number): CueRemark[][] {
  const words = checkLesson(
    cues.map(({ text }, i) => ({ place: `caption ${i + 1}`, text })),
    check,
  );
  return cues.map((cue, i) => {
    const spoken = [...corrections(cue.text), ...fillers(cue.text), ...repeats(cue.text)];
    const taken = (from: number, to: number): boolean => spoken.some((r) => r.from < to && from < r.to);
    const named = (words[i] ?? []).flatMap((r): CueRemark[] =>
      OF_SPEECH.has(r.kind) && !taken(r.from, r.to)
        ? [{ kind: 'word', from: r.from, to: r.to, words: r.words, says: r.says, mends: r.mends }]
        : [],
    );
    const first = spoken.filter((r, k) => !spoken.slice(0, k).some((o) => o.from < r.to && r.from < o.to));
    return [...[...first, ...named].sort((a, b) => a.from - b.from), ...quickness(cue, reading)];
  });
}

/** A text with one thing in it mended: no two blanks, no blank before a comma, and a capital where it began with one. */
export function mended(text: string, { from, to, instead }: Mend): string {
  const done = (text.slice(0, from) + instead + text.slice(to))
    .replace(/\s+/g, ' ')
    .replace(/\s+([,.;:!?…])/g, '$1')
    .replace(/^[\s,;:]+/, '')
    .replace(/,(?=[.!?])/g, '')
    .trim();
  return /^\p{Lu}/u.test(text) ? capital(done) : done;
}
