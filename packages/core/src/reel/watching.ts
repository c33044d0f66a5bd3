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
}

/** How a step comes over. */
export interface StepPace {
  readonly step: number;
  readonly start: number;
  readonly end: number;
  /** Characters a second for which its caption stands. */
  readonly reading: number;
  /** Crossings that its leader passes, a second of its motion; nothing where nothing is laid. */
  readonly crossings: number;
}

/** How each step of a demonstration comes over. */
export function paceOf(method: Method, timeline: Timeline): readonly StepPace[] {
  const steps = stepsOf(method);
  return chaptersOf(timeline).map(({ step, start, end, caption }): StepPace => {
    const scene = timeline.scenes.find((s) => s.step === step);
    const passed = steps[step] ? crossingsPassed(steps[step]) : 0;
    const moves = scene ? scene.laid - scene.start : 0;
    return {
      step,
      start,
      end,
      reading: end > start ? caption.trim().length / (end - start) : 0,
      crossings: passed > 0 && moves > 0 ? passed / moves : 0,
    };
  });
}

/** A step that cannot be followed, why, and how it is to be filmed instead; nothing where only shorter steps can be followed. */
export interface TooQuick {
  readonly step: number;
  readonly what: 'reading' | 'crossings';
  readonly value: number;
  readonly most: number;
  readonly mend?: Filmed | undefined;
}

/** What passes a limit by less than this share is not told from it. */
const TOLERANCE = 0.05;

/** Whether something goes by more quickly than the most that is allowed. */
export const isTooQuick = (value: number, most: number): boolean => value > most * (1 + TOLERANCE);

/** To the next tenth, so that what is set holds. */
const up = (v: number): number => Math.ceil(v * 10 - 1e-9) / 10;
const down = (v: number): number => Math.floor(v * 20 + 1e-9) / 20;

/** The steps that go by too quickly. */
export function tooQuick(method: Method, timeline: Timeline, limits: WatchLimits): readonly TooQuick[] {
  const steps = stepsOf(method);
  return paceOf(method, timeline).flatMap((p): TooQuick[] => {
    const filmed = steps[p.step]?.telling.filmed ?? {};
    const found: TooQuick[] = [];
    if (isTooQuick(p.crossings, limits.crossings)) {
      const speed = down(((filmed.speed ?? 1) * limits.crossings) / p.crossings);
      found.push({
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
        step: p.step,
        what: 'reading',
        value: p.reading,
        most: limits.reading,
        ...(hold <= LONGEST_HOLD ? { mend: { ...filmed, hold } } : {}),
      });
    }
    return found;
  });
}
