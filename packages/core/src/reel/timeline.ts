/**
 * The demonstration in time. A step lays its stretch at an even pace, then rests while its caption can be read; a step that finishes the
 * knot draws it tight, or turns it over to be looked at from both its faces.
 */
import { PACES, type Pace } from './pace.js';
import { curveOf, atLength, lengthTo } from '../figure/curve.js';
import type { Passage } from '../figure/crossings.js';
import { ropeOf, type Rope } from '../figure/figure.js';
import { playedAt, type PlayedPiece } from '../footage/played.js';
import type { FormSide } from '../form/on-its-way.js';
import { stepText } from '../tying/compose.js';
import {
  extentsAt,
  laidPassages,
  liesIn,
  stepsOf,
  wayOf,
  type Filmed,
  type Method,
  type Step,
} from '../tying/method.js';
import type { LookSide, PartOfStep, SceneCallout, Voice } from '../tying/reels.js';
import type { Vocabulary } from '../words/vocabulary.js';

/** Comfortable reading of captions, in characters a second; the usual subtitling guidance lies between 12 and 20. */
const READING_SPEED = 15;

/** How long a text takes to read, in seconds. */
export const readingTime = (text: string): number => text.length / READING_SPEED;

/** Least time a stretch takes, and least rest after it, in seconds: a glance is enough to see what changed. */
const LEAST_LAYING = 0.8;
const LEAST_REST = 1;
/** Rest on the finished knot, in seconds. */
const LAST_REST = 2;
/** Seconds in which a knot is drawn tight from its drawing, and in which it is turned over, at the pace of 8 diameters a second. */
const TIGHTENING = 6;
const TURNING = 3;
/** Seconds in which a knot is laid anew, at the pace of 8 diameters a second, and in which it is seen before it is tied on. */
const RELAYING = 2.4;
const RELAID_REST = 0.5;
/** Least time for which a face is held to be looked at, in seconds. */
const LEAST_LOOK = 2;
/** Most crossings that are passed in a second at the pace of 8 diameters a second: an eye follows no more. */
const CROSSINGS = 1.6;
/** How much slower a step is shown again. */
const AGAIN = 0.5;
/** How far a knot is drawn tight while it is dressed; the rest is to set it. */
const DRESSED = 0.85;
/** How far, where it is looked over before it is dressed or set. */
const LOOKED_OVER = 0.7;

/** What is filmed in a scene. */
export type Shot =
  /** The stretch of a step is laid, or a part of it; or laid again, slower, to be seen once more. */
  | { readonly kind: 'lay'; readonly again?: true; readonly part?: PartOfStep | undefined }
  /** The knot, laid before, is laid anew: as it is drawn from here on. */
  | { readonly kind: 'relay' }
  /** The knot is drawn tight from one share of the way to another; `pulled` shows which parts are pulled. */
  | { readonly kind: 'tighten'; readonly from: number; readonly to: number; readonly pulled: boolean }
  /** The knot is held to be looked at; its marks on a face are numbered there. */
  | { readonly kind: 'hold'; readonly side: LookSide }
  /** The knot is turned over by a true half turn. */
  | { readonly kind: 'turn'; readonly from: FormSide }
  /** A ruler grows beside each tail to the length that is asked. */
  | { readonly kind: 'tail' }
  /** A stretch of a film, in its seconds. */
  | {
      readonly kind: 'film';
      readonly film: string;
      readonly pieces: readonly PlayedPiece[];
      /** With the drawing of the step beside it. */
      readonly beside?: boolean | undefined;
    }
  /** A wrong way, by its index among those that learners are shown. */
  | { readonly kind: 'wrong'; readonly exhibit: number }
  /** Words, alone or beside the knot as it is once a step is done. */
  | { readonly kind: 'card'; readonly title?: string | undefined; readonly pictured?: number | undefined };

/** What is said at a time of its own, in seconds. */
export interface Said {
  readonly start: number;
  readonly end: number;
  readonly text: string;
}

export interface Scene {
  /** Number of the passage that it belongs to: of a step as it is tied, of a scene of a reel. */
  readonly part: number;
  /** The step that it shows; absent: it shows none. */
  readonly step?: number | undefined;
  readonly shot: Shot;
  readonly start: number;
  /** When its motion has ended. */
  readonly laid: number;
  readonly end: number;
  readonly caption: string;
  /** Who speaks from here on. */
  readonly voice?: Voice | undefined;
  /** What is pointed out in it. */
  readonly callouts?: readonly SceneCallout[] | undefined;
  /** When the parts of its caption are said, where they have times of their own. */
  readonly said?: readonly Said[] | undefined;
}

export interface Timeline {
  /** What is to be read before the first step, and until when it is shown, in seconds. */
  readonly cautions?: { readonly lines: readonly string[]; readonly end: number } | undefined;
  readonly scenes: readonly Scene[];
  /** Seconds. */
  readonly duration: number;
}

const WHOLE: PartOfStep = [0, 1];

/** How much rope a step lays, or a part of it, in diameters. */
export function lengthLaid({ of, stretch }: Step, [from, to] = WHOLE): number {
  if (!stretch) return 0;
  const curve = curveOf(ropeOf(of.figure, stretch.rope) as Rope);
  return (to - from) * Math.abs(lengthTo(curve, stretch.to) - lengthTo(curve, stretch.from));
}

/** The crossings that a step passes, or a part of it; one of a rope with itself once, when the second of its two strands is laid. */
export function crossingsPassed(step: Step, part = WHOLE): readonly Passage[] {
  const { of, stretch } = step;
  if (!stretch) return [];
  const extents = extentsAt(of, stretch.index, stretch.to);
  const way = wayOf(of.leaders[stretch.leader]);
  const laid = { ...stretch, from: placeOn(step, part[0]), to: placeOn(step, part[1]) };
  return laidPassages(of.figure, extents, stretch.rope).filter(
    (p) => liesIn(laid, p.at) && (p.other.strand !== stretch.rope || (p.other.at - p.at) * way < 0),
  );
}

/** What is filmed of each step that draws the knot tight: dressing comes first, setting ends it; each kind shares what is its own. */
function tighteningShots(steps: readonly Step[]): ReadonlyMap<number, Shot> {
  const of = (does: Step['does']): readonly Step[] => steps.filter((s) => s.does === does);
  const [dressing, setting] = [of('dress'), of('set')];
  // A knot that is looked over before it is dressed or set is drawn together to be looked over.
  const first = steps.find((s) => s.does !== 'lay');
  const looked = first?.does === 'check' ? [first] : [];
  const begins = looked.length === 0 ? 0 : setting.length + dressing.length === 0 ? 1 : LOOKED_OVER;
  const middle = setting.length === 0 ? 1 : dressing.length === 0 ? begins : DRESSED;
  const shots = (some: readonly Step[], from: number, to: number, pulled: boolean): (readonly [number, Shot])[] =>
    some.map(({ index }, i) => {
      const at = (k: number): number => from + ((to - from) * k) / some.length;
      return [index, { kind: 'tighten', from: at(i), to: at(i + 1), pulled }];
    });
  return new Map([
    ...shots(looked, 0, begins, false),
    ...shots(dressing, begins, middle, false),
    ...shots(setting, middle, 1, true),
  ]);
}

/** A shot, the seconds of its motion, and of its rest. */
export type Timed = readonly [shot: Shot, moves: number, rests: number];

/** How a step is filmed at a time and a place: what it says there, at what pace, and whether the demonstration ends with it. */
export interface Take extends Filmed {
  /** The part of it that is shown; absent: all. */
  readonly part?: PartOfStep | undefined;
  /** Seconds that it takes to read or to say what is said there. */
  readonly reading: number;
  readonly pace: Pace;
  readonly isLast: boolean;
}

/** The shots of each step of a method, in time. */
export function shotsOf(method: Method): (step: Step, take: Take) => readonly Timed[] {
  const tightenings = tighteningShots(stepsOf(method));
  return (step, { part, reading, pace, isLast, speed = 1, hold = 0, again = false }) => {
    const swift = PACES[pace] / PACES.normal;
    const rest = (moves: number): number => Math.max(isLast ? LAST_REST : LEAST_REST, reading - moves) + hold;
    const tight = tightenings.get(step.index);
    const tightened =
      tight?.kind === 'tighten' ? Math.max(LEAST_LAYING, (TIGHTENING * (tight.to - tight.from)) / swift) / speed : 0;
    if (step.does === 'check') {
      const turn = TURNING / (swift * speed);
      const look = Math.max(LEAST_LOOK / (swift * speed), (reading - 2 * turn - tightened) / 2) + hold / 2;
      return [
        ...(tight ? [[tight, tightened, 0] as const] : []),
        [{ kind: 'hold', side: 'front' }, 0, look],
        [{ kind: 'turn', from: 'front' }, turn, 0],
        [{ kind: 'hold', side: 'back' }, 0, look],
        [{ kind: 'turn', from: 'back' }, turn, isLast ? LAST_REST : LEAST_REST],
      ];
    }
    if (tight) return [[tight, tightened, rest(tightened)]];
    const relaying = RELAYING / (swift * speed);
    const relaid: readonly Timed[] =
      step.layout > 0 && step.place === 0 && (part?.[0] ?? 0) === 0 ? [[{ kind: 'relay' }, relaying, RELAID_REST]] : [];
    const followed = crossingsPassed(step, part).length / (CROSSINGS * swift);
    const moves = Math.max(LEAST_LAYING, lengthLaid(step, part) / PACES[pace], followed) / speed;
    const lay = { kind: 'lay', ...(part ? { part } : {}) } as const;
    const once: Timed = [lay, moves, rest(moves)];
    return again ? [...relaid, once, [{ ...lay, again: true }, moves / AGAIN, LEAST_REST + hold]] : [...relaid, once];
  };
}

/** What is filmed, one passage after another. */
export interface FilmPart {
  readonly step?: number | undefined;
  readonly caption: string;
  /** Who speaks over it, from its beginning on. */
  readonly voice?: Voice | undefined;
  /** What is pointed out in it. */
  readonly callouts?: readonly SceneCallout[] | undefined;
  /** When the parts of its caption are said, from its beginning on, where they have times of their own. */
  readonly said?: readonly Said[] | undefined;
  readonly shots: readonly Timed[];
}

const later = (said: Said, by: number): Said => ({ ...said, start: said.start + by, end: said.end + by });

/** Passages laid out in time. */
export function inTime(passages: readonly FilmPart[]): Timeline {
  const scenes: Scene[] = [];
  let now = 0;
  for (const [part, { step, caption, voice, callouts = [], said = [], shots }] of passages.entries())
    for (const [i, [shot, moves, rests]] of shots.entries()) {
      const spoken = i === 0 && voice ? { voice } : {};
      const pointed = callouts.length > 0 ? { callouts } : {};
      const timed = i === 0 && said.length > 0 ? { said: said.map((s) => later(s, now)) } : {};
      const [laid, end] = [now + moves, now + moves + rests];
      scenes.push({ part, step, shot, start: now, laid, end, caption, ...spoken, ...pointed, ...timed });
      now += moves + rests;
    }
  return { scenes, duration: now };
}

/** The demonstration as it is tied: each step as it is filmed. */
export function timelineOf(method: Method, pace: Pace, words: Vocabulary): Timeline {
  const steps = stepsOf(method);
  const shots = shotsOf(method);
  return inTime(
    steps.map((step): FilmPart => {
      const caption = stepText(method, step.index, words);
      const isLast = step.index === steps.length - 1;
      const take = { ...step.telling.filmed, reading: readingTime(caption), pace, isLast };
      return { step: step.index, caption, shots: shots(step, take) };
    }),
  );
}

/** A passage in time. */
export type Chapter = Pick<Scene, 'part' | 'step' | 'start' | 'end' | 'caption' | 'said'>;

/** The passages of a timeline in time: each with its scenes as one. */
export function chaptersOf({ scenes }: Timeline): readonly Chapter[] {
  return scenes.flatMap(({ part, step, start, caption, said }, i): Chapter[] => {
    if (scenes[i - 1]?.part === part) return [];
    let last = i;
    while (scenes[last + 1]?.part === part) last += 1;
    return [{ part, step, start, end: (scenes[last] as Scene).end, caption, said }];
  });
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
    scenes: scenes.map((s) => ({
      ...s,
      start: s.start + lead,
      laid: s.laid + lead,
      end: s.end + lead,
      ...(s.said ? { said: s.said.map((said) => later(said, lead)) } : {}),
    })),
    duration: duration + lead,
  };
}

/** Whether the cautions are shown at a time. */
export const warnsAt = ({ cautions }: Timeline, time: number): boolean => cautions !== undefined && time < cautions.end;

export interface Moment {
  readonly part: number;
  /** The step that is shown; absent: none. */
  readonly step?: number | undefined;
  readonly shot: Shot;
  /** Trail position of the leader; of a film its time, in seconds; in a scene that shows neither, 0. */
  readonly at: number;
  /** Share of the scene's motion that is done, slow in and slow out. */
  readonly share: number;
  readonly caption: string;
  /** What of it is said now; of what has no times of its own, all of it. */
  readonly said: string;
  /** The step that was laid just before, where one was. */
  readonly before?: number | undefined;
  /** What is pointed out. */
  readonly callouts?: readonly SceneCallout[] | undefined;
}

/** Slow in, slow out. */
export const ease = (t: number): number => t * t * (3 - 2 * t);

/** The trail position that lies a share of its length along what a step lays; of one that lays nothing, 0. */
export function placeOn({ of, stretch }: Step, share: number): number {
  if (!stretch) return 0;
  if (share <= 0) return stretch.from;
  if (share >= 1) return stretch.to;
  const curve = curveOf(ropeOf(of.figure, stretch.rope) as Rope);
  const [a, b] = [lengthTo(curve, stretch.from), lengthTo(curve, stretch.to)];
  return atLength(curve, a + (b - a) * share);
}

/** The trail position that a leader has reached on a stretch, or on a part of it, after a share of its time. */
export const reachedAt = (step: Step, t: number, [from, to] = WHOLE): number =>
  placeOn(step, t >= 1 ? to : from + (to - from) * ease(t));

/** After which share of its motion a step, or a part of it, passes a place of the rope that it lays: the inverse of `reachedAt`. */
export function passedAfter({ of, stretch }: Step, at: number, [from, to] = WHOLE): number {
  if (!stretch) return 0;
  const curve = curveOf(ropeOf(of.figure, stretch.rope) as Rope);
  const [a, b] = [lengthTo(curve, stretch.from), lengthTo(curve, stretch.to)];
  const share = ((lengthTo(curve, at) - a) / (b - a || 1) - from) / (to - from);
  // The inverse of `ease`.
  return 0.5 - Math.sin(Math.asin(1 - 2 * Math.min(1, Math.max(0, share))) / 3);
}

/** Where its leader, or its film, has come to in a shot after a share of its motion. */
function shownAt(shot: Shot, step: Step | undefined, share: number, seconds: number): number {
  if (shot.kind === 'film') return playedAt(shot.pieces, seconds);
  if (!step) return 0;
  if (shot.kind === 'relay') return step.stretch?.from ?? 0;
  return reachedAt(step, share, shot.kind === 'lay' ? shot.part : undefined);
}

/** What is shown at a time in seconds; before the start and past the end, the first and last moment. */
export function momentAt(method: Method, timeline: Timeline, time: number): Moment | undefined {
  const found = timeline.scenes.findIndex((s) => time < s.end);
  const at = found < 0 ? timeline.scenes.length - 1 : found;
  const scene = timeline.scenes[at];
  if (!scene) return undefined;
  const last = timeline.scenes[at - 1];
  const step = scene.step === undefined ? undefined : stepsOf(method)[scene.step];
  const moves = scene.laid - scene.start;
  const t = moves > 0 ? Math.min(1, Math.max(0, (time - scene.start) / moves)) : 1;
  return {
    part: scene.part,
    step: scene.step,
    shot: scene.shot,
    share: ease(t),
    caption: scene.caption,
    said: scene.said
      ? scene.said.flatMap((s) => (time >= s.start && time < s.end ? [s.text] : [])).join(' ')
      : scene.caption,
    callouts: scene.callouts,
    before: last?.shot.kind === 'lay' ? last.step : undefined,
    at: shownAt(scene.shot, step, t, time - scene.start),
  };
}
