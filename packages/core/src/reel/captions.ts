/**
 * Captions as WebVTT. Source of the format: W3C, "WebVTT: The Web Video Text Tracks Format".
 */
import { chaptersOf, type Timeline } from './timeline.js';

const two = (n: number): string => String(n).padStart(2, '0');

/** A time in seconds as hours:minutes:seconds.milliseconds. */
export function cueTime(seconds: number): string {
  const ms = Math.round(seconds * 1000);
  return `${two(Math.floor(ms / 3_600_000))}:${two(Math.floor(ms / 60_000) % 60)}:${two(Math.floor(ms / 1000) % 60)}.${String(ms % 1000).padStart(3, '0')}`;
}

const escapes: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;' };
/** Cue text is one paragraph: no blank line, no markup, no arrow that would read as a time. */
const cueText = (text: string): string =>
  text
    .replace(/\s*\n\s*/g, ' ')
    .trim()
    .replace(/[&<>]/g, (c) => escapes[c] as string);

/** A text in lines of so many characters at most; a longer word has a line of its own. */
export function inLines(text: string, perLine: number): string {
  const lines: string[] = [];
  for (const word of text.split(/\s+/).filter((w) => w !== '')) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= perLine) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines.join('\n');
}

/** A caption file, one cue a step, the cautions before them, in lines of so many characters at most. */
export function toWebVtt(timeline: Timeline, title: string, perLine = Infinity): string {
  const { cautions } = timeline;
  const cue = (text: string): string => inLines(cueText(text), perLine);
  const warned = cautions
    ? [`cautions\n${cueTime(0)} --> ${cueTime(cautions.end)}\n${cue(cautions.lines.join(' '))}`]
    : [];
  const cues = chaptersOf(timeline)
    .filter((s) => s.caption.trim() !== '')
    .map((s) => `step-${s.step + 1}\n${cueTime(s.start)} --> ${cueTime(s.end)}\n${cue(s.caption)}`);
  return ['WEBVTT', `NOTE ${cueText(title)}`, ...warned, ...cues].join('\n\n') + '\n';
}
