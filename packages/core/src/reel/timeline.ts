/**
 * The demonstration in time: each step lays its stretch at an even pace, then rests while its caption can be read.
 */
import { PACES, type Pace } from './pace.js';
import { curveOf, atLength, lengthTo } from '../figure/curve.js';
import { ropeOf, type Rope } from '../figure/figure.js';
import { stepText } from '../tying/compose.js';
import { stepsOf, type Method, type Step } from '../tying/method.js';
import type { Vocabulary } from '../words/vocabulary.js';

/** Comfortable reading of captions, in characters a second; the usual subtitling guidance lies between 12 and 20. */
export const READING_SPEED = 15;
/** Least time a stretch takes, and least rest after it, in seconds: a glance is enough to see what changed. */
const LEAST_LAYING = 0.8;
const LEAST_REST = 1;
/** Rest on the finished knot, in seconds. */
const LAST_REST = 2;

export interface Scene {
  readonly step: number;
  readonly start: number;
  /** When the stretch is laid. */
  readonly laid: number;
  readonly end: number;
  readonly caption: string;
}

export interface Timeline {
  /** What is to be read before the first step, and until when it is shown, in seconds. */
  readonly cautions?: { readonly lines: readonly string[]; readonly end: number } | undefined;
  readonly scenes: readonly Scene[];
  /** Seconds. */
  readonly duration: number;
}

/** How much rope a step lays, in diameters. */
function lengthLaid({ of, stretch }: Step): number {
  if (!stretch) return 0;
  const curve = curveOf(ropeOf(of.figure, stretch.rope) as Rope);
  return lengthTo(curve, stretch.to) - lengthTo(curve, stretch.from);
}

export function timelineOf(method: Method, pace: Pace, words: Vocabulary): Timeline {
  const scenes: Scene[] = [];
  let now = 0;
  const steps = stepsOf(method);
  for (const step of steps) {
    const caption = stepText(method, step.index, words);
    const laying = Math.max(LEAST_LAYING, lengthLaid(step) / PACES[pace]);
    const rest = Math.max(
      step.index === steps.length - 1 ? LAST_REST : LEAST_REST,
      caption.length / READING_SPEED - laying,
    );
    scenes.push({ step: step.index, start: now, laid: now + laying, end: now + laying + rest, caption });
    now += laying + rest;
  }
  return { scenes, duration: now };
}

/** Cautions stand still and are read like a page, in characters a second; they are shown for a while at least. */
const CARD_SPEED = 30;
const LEAST_CARD = 3;

/** The demonstration with its cautions before the first step. */
export function withCautions({ scenes, duration }: Timeline, lines: readonly string[]): Timeline {
  if (scenes.length === 0 || lines.length === 0) return { scenes, duration };
  const lead = Math.max(LEAST_CARD, lines.join(' ').length / CARD_SPEED);
  return {
    cautions: { lines, end: lead },
    scenes: scenes.map((s) => ({ ...s, start: s.start + lead, laid: s.laid + lead, end: s.end + lead })),
    duration: duration + lead,
  };
}

/** Whether the cautions are shown at a time. */
export const warnsAt = ({ cautions }: Timeline, time: number): boolean => cautions !== undefined && time < cautions.end;

export interface Moment {
  readonly step: number;
  /** Trail position of the leader; in a step that lays nothing, 0. */
  readonly at: number;
  readonly caption: string;
}

/** Slow in, slow out. */
const ease = (t: number): number => t * t * (3 - 2 * t);

/** What is shown at a time in seconds; before the start and past the end, the first and last moment. */
export function momentAt(method: Method, timeline: Timeline, time: number): Moment | undefined {
  const scene = timeline.scenes.find((s) => time < s.end) ?? timeline.scenes.at(-1);
  if (!scene) return undefined;
  const step = stepsOf(method)[scene.step];
  if (!step) return undefined;
  const { stretch } = step;
  if (!stretch) return { step: scene.step, at: 0, caption: scene.caption };
  const t = Math.min(1, Math.max(0, (time - scene.start) / (scene.laid - scene.start)));
  const curve = curveOf(ropeOf(step.of.figure, stretch.rope) as Rope);
  const [a, b] = [lengthTo(curve, stretch.from), lengthTo(curve, stretch.to)];
  return { step: scene.step, at: t >= 1 ? stretch.to : atLength(curve, a + (b - a) * ease(t)), caption: scene.caption };
}
