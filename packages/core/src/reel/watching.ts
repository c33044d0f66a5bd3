/**
 * Whether a demonstration can be followed: how quickly rope passes rope, and how quickly its captions must be read, against what the house
 * holds for the most.
 */
import { FILM_SPEEDS, LONGEST_HOLD } from '../tying/limits.js';
import { stepsOf, type Filmed, type Method } from '../tying/method.js';
import { chaptersOf, crossingsPassed, type Timeline } from './timeline.js';

/** The most that a house allows. */
export interface WatchLimits {
  /** Characters of a caption a second. */
  readonly reading: number;
  /** Crossings passed a second. */
  readonly crossings: number;
  /** Words spoken a minute. */
  readonly speaking: number;
}

/** How a passage comes over. */
export interface StepPace {
  readonly part: number;
  /** The step that it shows; absent: none. */
  readonly step?: number | undefined;
  readonly start: number;
  readonly end: number;
  /** Characters a second for which its caption stands. */
  readonly reading: number;
  /** Crossings that its leader passes, a second of its motion; nothing where nothing is laid. */
  readonly crossings: number;
  /** Words a minute at which it is spoken over; nothing where nobody speaks. */
  readonly speaking: number;
}

const wordsOf = (text: string): number => text.split(/\s+/).filter((w) => w !== '').length;

/** How each passage of a demonstration comes over. */
export function paceOf(method: Method, timeline: Timeline): readonly StepPace[] {
  const steps = stepsOf(method);
  return chaptersOf(timeline).map(({ part, step, start, end, caption }): StepPace => {
    const scene = timeline.scenes.find((s) => s.part === part && s.shot.kind === 'lay');
    const shown = step === undefined ? undefined : steps[step];
    const passed = shown && scene?.shot.kind === 'lay' ? crossingsPassed(shown, scene.shot.part).length : 0;
    const moves = scene ? scene.laid - scene.start : 0;
    const voice = timeline.scenes.find((s) => s.part === part && s.voice)?.voice;
    return {
      part,
      step,
      start,
      end,
      reading: end > start ? caption.trim().length / (end - start) : 0,
      crossings: passed > 0 && moves > 0 ? passed / moves : 0,
      speaking: voice ? (60 * wordsOf(caption)) / (voice.to - voice.from) : 0,
    };
  });
}

/** A passage that cannot be followed, why, and how it is to be filmed instead; nothing where only shorter steps can be followed. */
export interface TooQuick {
  readonly part: number;
  readonly step?: number | undefined;
  readonly what: 'reading' | 'crossings' | 'speaking';
  readonly value: number;
  readonly most: number;
  readonly mend?: Filmed | undefined;
}

/** What goes by too quickly, in a sentence. */
export function sayTooQuick({ what, value, most }: TooQuick): string {
  switch (what) {
    case 'reading':
      return `It is read at ${value.toFixed(0)} characters a second; ${most} are the house’s most.`;
    case 'speaking':
      return `It is spoken at ${value.toFixed(0)} words a minute; ${most} are the house’s most.`;
    case 'crossings':
      return `It passes ${value.toFixed(1)} crossings a second; ${most} are the house’s most.`;
  }
}

/** What passes a limit by less than this share is not told from it. */
const TOLERANCE = 0.05;

/** Whether something goes by more quickly than the most that is allowed. */
export const isTooQuick = (value: number, most: number): boolean => value > most * (1 + TOLERANCE);

/** To the next tenth, so that what is set holds. */
const up = (v: number): number => Math.ceil(v * 10 - 1e-9) / 10;
const down = (v: number): number => Math.floor(v * 20 + 1e-9) / 20;

/** The passages that go by too quickly; `filmedSo` says how one is filmed, where not as its step. */
export function tooQuick(
  method: Method,
  timeline: Timeline,
  limits: WatchLimits,
  filmedSo: (pace: StepPace) => Filmed | undefined = () => undefined,
): readonly TooQuick[] {
  const steps = stepsOf(method);
  return paceOf(method, timeline).flatMap((p): TooQuick[] => {
    const filmed = filmedSo(p) ?? (p.step === undefined ? undefined : steps[p.step]?.telling.filmed) ?? {};
    const found: TooQuick[] = [];
    if (isTooQuick(p.crossings, limits.crossings)) {
      const speed = down(((filmed.speed ?? 1) * limits.crossings) / p.crossings);
      found.push({
        part: p.part,
        step: p.step,
        what: 'crossings',
        value: p.crossings,
        most: limits.crossings,
        ...(speed >= FILM_SPEEDS.least ? { mend: { ...filmed, speed } } : {}),
      });
    }
    if (isTooQuick(p.reading, limits.reading)) {
      const wanted = (p.reading * (p.end - p.start)) / limits.reading;
      const hold = up((filmed.hold ?? 0) + wanted - (p.end - p.start));
      found.push({
        part: p.part,
        step: p.step,
        what: 'reading',
        value: p.reading,
        most: limits.reading,
        ...(hold <= LONGEST_HOLD ? { mend: { ...filmed, hold } } : {}),
      });
    }
    // What was spoken too quickly is spoken anew: no other time makes it slower.
    if (isTooQuick(p.speaking, limits.speaking))
      found.push({ part: p.part, step: p.step, what: 'speaking', value: p.speaking, most: limits.speaking });
    return found;
  });
}
