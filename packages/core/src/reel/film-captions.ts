/**
 * Captions of a film: read from a WebVTT or SubRip file as other programs write them, and written again.
 *
 * Source of the first format: W3C, “WebVTT: The Web Video Text Tracks Format”; the second has no standard, and is read as it is found:
 * numbered or not, times with a comma or a point, hours left out.
 */
import { FOOTAGE, playedOf, type FilmCue, type Footage } from '../footage/frame.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { stepText } from '../tying/compose.js';
import { stepsOf, type Method } from '../tying/method.js';
import type { Vocabulary } from '../words/vocabulary.js';
import { inLines } from '../words/in-lines.js';
import { inParts, subRip, webVtt, type Cue } from './captions.js';

/** What was read otherwise than it is written, and in which line of the file, from 1. */
export interface CaptionTrouble {
  readonly line: number;
  readonly says: string;
}

export interface ReadCaptions {
  readonly cues: readonly FilmCue[];
  readonly troubles: readonly CaptionTrouble[];
}

const TIME = String.raw`(?:(\d+):)?(\d{1,2}):(\d{1,2})[.,](\d{1,3})`;
const TIMING = new RegExp(String.raw`^\s*${TIME}\s*-->\s*${TIME}(?:\s.*)?$`);
/** What is longer than so many captions is none, but a file of something else. */
const LONGEST_TEXT = 20 * FOOTAGE.caption;
/** Least time for which a caption is shown, in seconds. */
const LEAST = 0.05;

const ENTITIES: Readonly<Record<string, string>> = {
  amp: '&',
  lt: '‹',
  gt: '›',
  nbsp: ' ',
  lrm: '',
  rlm: '',
  quot: '"',
  apos: '’',
};

/** The words of a caption: without voices, styles and places, its lines as one. */
const wordsOnly = (text: string): string =>
  text
    .replace(/<[^<>\n]*>|\{\\[^{}]*\}/g, '')
    .replace(/&(\w+);/g, (all, name: string) => ENTITIES[name] ?? all)
    .replace(/<</g, '«')
    .replace(/</g, '‹')
    .replace(/>/g, '›')
    .replace(/[\p{Cc}\s]+/gu, ' ')
    .trim();

const secondsOf = ([hours, minutes, seconds, fraction]: readonly (string | undefined)[]): number =>
  3600 * Number(hours ?? 0) + 60 * Number(minutes) + Number(seconds) + Number((fraction ?? '').padEnd(3, '0')) / 1000;

interface Block {
  /** Number of its first line, from 1. */
  readonly line: number;
  readonly lines: readonly string[];
}

/** Paragraphs between blank lines. */
function blocksOf(text: string): Block[] {
  const blocks: { line: number; lines: string[] }[] = [];
  let open = false;
  text.split(/\r\n|\r|\n/).forEach((line, i) => {
    if (line.trim() === '') open = false;
    else if (open) blocks.at(-1)!.lines.push(line);
    else {
      blocks.push({ line: i + 1, lines: [line] });
      open = true;
    }
  });
  return blocks;
}

/** A caption too long for one, as several that share its time by their length. */
function shared({ start, end, text }: FilmCue): FilmCue[] {
  const parts = inParts(text, FOOTAGE.caption / 2).map((part) => part.slice(0, FOOTAGE.caption));
  const whole = parts.reduce((sum, p) => sum + p.length, 0);
  let said = 0;
  return parts.map((part) => {
    const from = start + ((end - start) * said) / whole;
    said += part.length;
    return { start: from, end: start + ((end - start) * said) / whole, text: part };
  });
}

/** Captions in the order of time, each ended before the next begins. */
function inOrder(read: readonly (FilmCue & { line: number })[], troubles: CaptionTrouble[]): FilmCue[] {
  const isUnordered = read.some((c, i) => i > 0 && c.start < read[i - 1]!.start);
  if (isUnordered)
    troubles.push({ line: read[0]!.line, says: 'Captions do not stand in the order of time: they are put in order.' });
  const sorted = read.map((c, i) => ({ c, i })).sort((a, b) => a.c.start - b.c.start || a.i - b.i);
  return sorted.flatMap(({ c: { start, end, text, line } }, k): FilmCue[] => {
    const next = sorted[k + 1]?.c.start ?? Infinity;
    if (end <= next + 1e-9) return [{ start, end, text }];
    if (next - start < LEAST) {
      troubles.push({ line, says: 'It is shown at the same time as the next: it has been left out.' });
      return [];
    }
    troubles.push({ line, says: 'It reaches into the next: it ends where that begins.' });
    return [{ start, end: next, text }];
  });
}

/**
 * Reads a WebVTT or SubRip file. What can be understood is taken, and what was left out or read otherwise is told by its line; a file of
 * which nothing can be understood is refused.
 */
export function readCaptions(file: string): Result<ReadCaptions> {
  const troubles: CaptionTrouble[] = [];
  const whole = file.replace(/^\uFEFF/, '');
  const isVtt = /^WEBVTT(?:[ \t\r\n]|$)/.test(whole);
  const read = blocksOf(whole).flatMap(({ line, lines }, i): (FilmCue & { line: number })[] => {
    if (isVtt && (i === 0 || /^(?:NOTE|STYLE|REGION)\b/.test(lines[0]!)) && !lines.some((l) => l.includes('-->')))
      return [];
    const at = lines.findIndex((l) => l.includes('-->'));
    if (at < 0) {
      troubles.push({ line, says: 'This is no caption: it has no line “from --> to”. It is left out.' });
      return [];
    }
    const times = TIMING.exec(lines[at]!);
    if (!times) {
      troubles.push({
        line: line + at,
        says: 'Its times cannot be read; they look like 00:01:02.500 --> 00:01:05.000. It is left out.',
      });
      return [];
    }
    const [start, end] = [secondsOf(times.slice(1, 5)), secondsOf(times.slice(5, 9))];
    const text = lines.slice(at + 1).join(' ');
    if (text.length > LONGEST_TEXT) {
      troubles.push({ line: line + at, says: `It has ${text.length} characters: that is no caption. It is left out.` });
      return [];
    }
    const words = wordsOnly(text);
    if (words === '') return [];
    if (end - start < LEAST || end > FOOTAGE.longest) {
      troubles.push({
        line: line + at,
        says: end > start ? 'It lies beyond any film. It is left out.' : 'It ends before it begins. It is left out.',
      });
      return [];
    }
    if (words.length <= FOOTAGE.caption) return [{ start, end, text: words, line }];
    troubles.push({ line, says: 'It is too long for one caption: it is several now.' });
    return shared({ start, end, text: words }).map((c) => ({ ...c, line }));
  });
  if (read.length === 0) {
    const [first] = troubles;
    return refuse(
      first ? `line ${first.line}` : 'the file',
      'No caption can be read in it.',
      'Choose a WebVTT (.vtt) or SubRip (.srt) file: each caption a line of two times with --> between them, and its words beneath.',
    );
  }
  if (read.length > FOOTAGE.captions)
    return refuse(
      'the file',
      `It has ${read.length} captions; a film has ${FOOTAGE.captions} at most.`,
      'Leave some out, or cut the film.',
    );
  const cues = inOrder(read, troubles);
  return accept({ cues, troubles: troubles.sort((a, b) => a.line - b.line) });
}

const asCue = ({ start, end, text }: FilmCue, index: number, perLine: number): Cue => ({
  id: String(index + 1),
  start,
  end,
  lines: inLines(text, perLine),
});

/** The captions of a film as WebVTT, in lines of so many characters at most. */
export const filmWebVtt = (cues: readonly FilmCue[], title: string, perLine = Infinity): string =>
  webVtt(
    title,
    cues.map((c, i) => asCue(c, i, perLine)),
  );

/** The captions of a film as SubRip, in lines of so many characters at most. */
export const filmSubRip = (cues: readonly FilmCue[], perLine = Infinity): string =>
  subRip(cues.map((c, i) => asCue(c, i, perLine)));

/** What is said at a time, if anything. */
export const cueAt = (cues: readonly FilmCue[], time: number): FilmCue | undefined =>
  cues.find((c) => time >= c.start && time < c.end);

/** How long a caption stands that is written anew, in seconds. */
const STANDS = 3;

/**
 * Captions with one begun or ended at another time, in seconds: what stood there before ends or begins with it, so that no two stand at
 * once. Nothing where it would stand for less than it can be read.
 */
export function retimed(
  cues: readonly FilmCue[],
  index: number,
  { start, end }: Partial<Pick<FilmCue, 'start' | 'end'>>,
): readonly FilmCue[] | undefined {
  const cue = cues[index];
  if (!cue) return undefined;
  const now = { ...cue, start: start ?? cue.start, end: end ?? cue.end };
  const [before, after] = [cues[index - 1], cues[index + 1]];
  const next = cues.map((c, i): FilmCue => {
    if (i === index) return now;
    if (c === before && c.end > now.start) return { ...c, end: now.start };
    return c === after && c.start < now.end ? { ...c, start: now.end } : c;
  });
  return next.every((c) => c.end - c.start >= LEAST) ? next : undefined;
}

/** Captions with a new one at a time in a film so long; nothing where one stands already, or there is no room for another. */
export function withCue(
  cues: readonly FilmCue[],
  at: number,
  duration: number,
  text: string,
): readonly FilmCue[] | undefined {
  const later = cues.findIndex((c) => c.start > at);
  const end = Math.min(at + STANDS, later < 0 ? duration : cues[later]!.start);
  if (cueAt(cues, at) || end - at < LEAST || cues.length >= FOOTAGE.captions) return undefined;
  const index = later < 0 ? cues.length : later;
  return [...cues.slice(0, index), { start: at, end, text }, ...cues.slice(index)];
}

/** A WebVTT file of the chapters of a film: each step from where it begins in it to the next, in what is played of it. */
export function filmChapters(film: Footage, method: Method, words: Vocabulary): string {
  const [from, to] = playedOf(film);
  const own = (film.steps ?? []).filter((s) => s.at < to && stepsOf(method)[s.step]);
  const cues = own.flatMap(({ step, at }, i): Cue[] => {
    const [start, end] = [Math.max(from, at), own[i + 1]?.at ?? to];
    return end > start ? [{ id: `step-${step + 1}`, start, end, lines: [stepText(method, step, words)] }] : [];
  });
  return webVtt(film.name, cues);
}
