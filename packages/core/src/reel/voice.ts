/**
 * A voice over a scene: what is heard of a take, how loud it is, its wave; and a stand-in for one, where there is nobody to speak.
 */
import { SPEAKING_SPEED } from './script.js';

/** Length of the windows in which loudness is measured, in seconds. */
const WINDOW = 0.02;
/** Loudness, in decibels below full scale, beneath which nothing is said; and how far below its loudest a voice is still heard. */
const SILENT = -55;
const BELOW_LOUDEST = -34;
/** What is kept before and after what is heard, in seconds: a word begins softly and dies away. */
const BEFORE = 0.12;
const AFTER = 0.2;

/** Loudness of samples between -1 and 1, in decibels of full scale (root mean square); of silence, minus infinity. */
export function loudness(samples: Float32Array, from = 0, to = samples.length): number {
  let sum = 0;
  for (let i = from; i < to; i += 1) sum += (samples[i] as number) ** 2;
  return to > from ? 10 * Math.log10(sum / (to - from)) : -Infinity;
}

/** What is heard of a take of so many samples a second, in seconds, without the silence before and after; nothing where nobody speaks. */
export function spokenPart(
  samples: Float32Array,
  rate: number,
): { readonly from: number; readonly to: number } | undefined {
  const size = Math.max(1, Math.round(WINDOW * rate));
  const windows = Array.from({ length: Math.ceil(samples.length / size) }, (_, i) =>
    loudness(samples, i * size, Math.min(samples.length, (i + 1) * size)),
  );
  const loudest = windows.reduce((most, v) => Math.max(most, v), -Infinity);
  if (loudest < SILENT) return undefined;
  const heard = windows.map((v) => v >= Math.max(SILENT, loudest + BELOW_LOUDEST));
  const hundredth = (v: number): number => Math.round(100 * v) / 100;
  return {
    from: hundredth(Math.max(0, (heard.indexOf(true) * size) / rate - BEFORE)),
    to: hundredth(Math.min(samples.length / rate, ((heard.lastIndexOf(true) + 1) * size) / rate + AFTER)),
  };
}

/** The wave of samples as so many peaks, each between 0 and 1. */
export function peaksOf(samples: Float32Array, count: number): number[] {
  return Array.from({ length: count }, (_, k) => {
    let most = 0;
    for (let i = Math.floor((k * samples.length) / count); i < Math.floor(((k + 1) * samples.length) / count); i += 1)
      most = Math.max(most, Math.abs(samples[i] as number));
    return Math.min(1, most);
  });
}

/** A word of the stand-in voice: when it begins and how long it lasts, in seconds, and its pitch, in hertz. */
export interface StandInWord {
  readonly at: number;
  readonly lasts: number;
  readonly hertz: number;
}

/** Pitch of the stand-in voice, in hertz, how far it wanders, the share of a word's time in which it sounds, and its first breath, in seconds. */
const PITCH = 165;
const WANDERS = 0.18;
const SOUNDS = 0.72;
const LEAD = 0.3;

/** A text as the stand-in says it: a tone for each word, as long as the word, at the pace of calm speech. */
export function standInWords(text: string): readonly StandInWord[] {
  const words = text.split(/\s+/).filter((w) => w !== '');
  const letters = words.reduce((sum, w) => sum + w.length, 0);
  const whole = (60 * words.length) / SPEAKING_SPEED;
  let at = LEAD;
  return words.map((word, i) => {
    const lasts = (whole * word.length) / letters;
    const said = { at, lasts: SOUNDS * lasts, hertz: PITCH * (1 + WANDERS * Math.sin(1.7 * i)) };
    at += lasts;
    return said;
  });
}
