/**
 * Captions as WebVTT and SubRip. Source of the first format: W3C, “WebVTT: The Web Video Text Tracks Format”; the second has no standard:
 * numbered cues, times with a comma, plain text.
 */
import { inLines } from '../words/in-lines.js';
import { chaptersOf, type Chapter, type Timeline } from './timeline.js';

const two = (n: number): string => String(n).padStart(2, '0');

/** A time in seconds as hours:minutes:seconds.milliseconds. */
export function cueTime(seconds: number): string {
  const ms = Math.round(seconds * 1000);
  return `${two(Math.floor(ms / 3_600_000))}:${two(Math.floor(ms / 60_000) % 60)}:${two(Math.floor(ms / 1000) % 60)}.${String(ms % 1000).padStart(3, '0')}`;
}

/** One caption and when it is shown, in seconds. */
export interface Cue {
  readonly id: string;
  readonly start: number;
  readonly end: number;
  /** Its lines. */
  readonly lines: readonly string[];
}

/** Most lines of a caption at a time. */
const MOST_LINES = 2;

const wordsOf = (text: string): string[] => text.split(/\s+/).filter((w) => w !== '');

/** Where a text may end and go on in the next cue: after a sentence rather than after a clause, and there rather than between two words. */
const restWorth = (word: string): number => (/[.!?]$/.test(word) ? 2 : /[,;:]$/.test(word) ? 1 : 0);

/** A text in parts of two lines at most, each ending where one would take breath, as evenly long as that allows. */
export function inParts(text: string, perLine: number): string[] {
  const words = wordsOf(text);
  const fits = (from: number, to: number): boolean =>
    inLines(words.slice(from, to).join(' '), perLine).length <= MOST_LINES;
  if (fits(0, words.length)) return [words.join(' ')];
  let most = 1;
  while (most < words.length && fits(0, most + 1)) most += 1;
  // The first part ends where a third of what fits has been said, or later; what is left is half as long at least.
  let best = most;
  let worth = -Infinity;
  const whole = words.join(' ').length;
  for (let k = Math.max(1, Math.ceil(most / 3)); k <= most; k += 1) {
    const said = words.slice(0, k).join(' ').length;
    const lacks = Math.max(0, 1 - (whole - said) / (said / 2));
    const value = 3 * restWorth(words[k - 1] ?? '') + k / most - (k < words.length ? 4 * lacks : 0);
    if (value > worth) [best, worth] = [k, value];
  }
  return [words.slice(0, best).join(' '), ...inParts(words.slice(best).join(' '), perLine)];
}

/** Passages with a name each: by the step that is shown, and how often it was shown before; by their place where they show none. */
function named(chapters: readonly Chapter[]): readonly { readonly id: string; readonly chapter: Chapter }[] {
  const shown = new Map<number, number>();
  return chapters.map((chapter) => {
    const { step, part } = chapter;
    if (step === undefined) return { id: `scene-${part + 1}`, chapter };
    const times = (shown.get(step) ?? 0) + 1;
    shown.set(step, times);
    return { id: times === 1 ? `step-${step + 1}` : `step-${step + 1}-again-${times}`, chapter };
  });
}

/**
 * The captions of a timeline: the cautions, then each passage's text while it is filmed, in parts of two lines that share its time by their
 * length; of a film, what is said in it when it is said.
 */
export function cuesOf(timeline: Timeline, perLine = Infinity): readonly Cue[] {
  const spread = (name: string, text: string, start: number, end: number): Cue[] => {
    const parts = inParts(text, perLine);
    const whole = parts.reduce((sum, p) => sum + p.length, 0);
    let said = 0;
    return parts.map((part, i): Cue => {
      const from = start + ((end - start) * said) / whole;
      said += part.length;
      return {
        id: parts.length === 1 ? name : `${name}-${i + 1}`,
        start: from,
        end: start + ((end - start) * said) / whole,
        lines: inLines(part, perLine),
      };
    });
  };
  const { cautions } = timeline;
  return [
    ...(cautions ? spread('cautions', cautions.lines.join(' '), 0, cautions.end) : []),
    ...named(chaptersOf(timeline))
      .filter(({ chapter }) => chapter.caption.trim() !== '')
      .flatMap(({ id, chapter: { caption, start, end, said } }) =>
        said
          ? said.flatMap((s, i) => spread(said.length === 1 ? id : `${id}-${i + 1}`, s.text, s.start, s.end))
          : spread(id, caption, start, end),
      ),
  ];
}

const escapes: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;' };
/** Cue text is one paragraph: no blank line, no markup, no arrow that would read as a time. */
const escaped = (text: string): string => text.replace(/[&<>]/g, (c) => escapes[c] as string);

/** Captions as WebVTT. */
export function webVtt(title: string, cues: readonly Cue[]): string {
  const written = cues.map(
    ({ id, start, end, lines }) => `${id}\n${cueTime(start)} --> ${cueTime(end)}\n${lines.map(escaped).join('\n')}`,
  );
  return ['WEBVTT', `NOTE ${escaped(wordsOf(title).join(' '))}`, ...written].join('\n\n') + '\n';
}

/** A WebVTT file of captions, in lines of so many characters at most. */
export const toWebVtt = (timeline: Timeline, title: string, perLine = Infinity): string =>
  webVtt(title, cuesOf(timeline, perLine));

/** A WebVTT file of chapters, one a passage: what is said while it is filmed; before the first, the cautions that are shown. */
export function toChapters(timeline: Timeline, title: string): string {
  const { cautions } = timeline;
  const steps = named(chaptersOf(timeline)).map(({ id, chapter: { step, start, end, caption } }): Cue => {
    const said = wordsOf(caption).join(' ');
    return {
      id,
      start,
      end,
      lines: [said !== '' ? said : step === undefined ? 'To be looked at' : `Step ${step + 1}`],
    };
  });
  return webVtt(title, [
    ...(cautions ? [{ id: 'cautions', start: 0, end: cautions.end, lines: ['Cautions'] }] : []),
    ...steps,
  ]);
}

/** A SubRip file, in lines of so many characters at most. */
export const toSubRip = (timeline: Timeline, perLine = Infinity): string => subRip(cuesOf(timeline, perLine));

/** Captions as SubRip. */
export function subRip(cues: readonly Omit<Cue, 'id'>[]): string {
  const time = (seconds: number): string => cueTime(seconds).replace('.', ',');
  return cues
    .map(({ start, end, lines }, i) => `${i + 1}\n${time(start)} --> ${time(end)}\n${lines.join('\n')}\n`)
    .join('\n');
}
