/**
 * The score of a reel: a first one composed from the method, and any one laid out in time.
 *
 * A lesson introduces the knot, shows it slowly with its words, again at its pace without them, and how it is looked over, with the ways
 * it goes wrong. A reminder shows the steps alone, as quickly as half a minute asks for.
 */
import { cutTo } from '../ground/cut-to.js';
import { playedAt, playedPieces, shownAt, type PlayedPiece } from '../footage/played.js';
import type { FilmCue } from '../footage/frame.js';
import { shownExhibits } from '../identity/atlas.js';
import { stepText } from '../tying/compose.js';
import { FILM_SPEEDS, LONGEST_HOLD } from '../tying/limits.js';
import { finishedLayout, stepsOf, type Method, type Step } from '../tying/method.js';
import { calloutsOf, filmOf, REELS, type LookSide, type Pass, type Reel, type ReelScene } from '../tying/reels.js';
import type { TailAsked } from '../ropes/tail-rule.js';
import type { Vocabulary } from '../words/vocabulary.js';
import type { Pace } from './pace.js';
import { measurable, sayTails } from './tail-ruler.js';
import {
  chaptersOf,
  inTime,
  readingTime,
  shotsOf,
  timelineOf,
  withCautions,
  type FilmPart,
  type Said,
  type Shot,
  type Timed,
  type Timeline,
} from './timeline.js';

/** What a reel is of: the method, what the knot is called, and in what words. */
export interface Filmable {
  readonly method: Method;
  readonly name: string;
  readonly words: Vocabulary;
  readonly pace: Pace;
  /** What the house asks of tails; absent: the usual. */
  readonly tail?: TailAsked | undefined;
}

/** How long a look at the finished knot lasts where nothing is to be read, in seconds. */
const LOOK = 3;
/** How long a ruler takes to be laid along a tail, in seconds. */
const MEASURING = 2;

/** How long a scene goes on after its voice, in seconds. */
const BREATH = 0.4;

/** What is said while the finished knot is looked at. */
const SIDES: Readonly<Record<LookSide, string>> = {
  front: 'The finished knot, from the front.',
  back: 'The finished knot, from behind.',
  left: 'The finished knot, from its left.',
  right: 'The finished knot, from its right.',
  end: 'The finished knot, end on.',
};

/** How a wrong way is told: what it becomes, and how to tell it. */
export const sayWrong = (becomes: string, tell: string): string => `Not so: ${becomes}. ${tell}`;

/** When what is said in a film is said while its pieces are played, from their beginning on. */
const saidWhilePlayed = (pieces: readonly PlayedPiece[], cues: readonly FilmCue[]): Said[] =>
  cues.map(({ start, end, text }): Said => ({ start: shownAt(pieces, start), end: shownAt(pieces, end), text }));

/** A scene of a reel as it is filmed. */
function passageOf({ method, name, words, pace, tail }: Filmable, isLast: (scene: ReelScene) => boolean) {
  const steps = stepsOf(method);
  const last = steps.length - 1;
  const shots = shotsOf(method);
  const wrongWays = shownExhibits(finishedLayout(method), name, words);
  const shown = (scene: ReelScene): FilmPart => {
    const { voice } = scene;
    // A scene with a voice lasts until all is said, and a breath more; one without, until all is read.
    const spoken = voice && voice.to - voice.from + BREATH;
    const saying = (caption: string, more = 0): number => spoken ?? readingTime(caption) + more;
    const still = (shot: Shot, own: number | undefined, usual: number): Timed => [
      shot,
      0,
      Math.max(own ?? usual, spoken ?? 0),
    ];
    switch (scene.kind) {
      case 'step': {
        const step = steps[scene.step] as Step;
        const { filmed = {} } = step.telling;
        const caption = scene.silent === true ? '' : (scene.text ?? stepText(method, scene.step, words));
        const take = {
          part: scene.part,
          speed: scene.speed ?? filmed.speed,
          hold: scene.hold ?? filmed.hold,
          // A reel says by a scene of its own that a step is shown once more.
          again: false,
          reading: saying(caption),
        };
        return { step: scene.step, caption, shots: shots(step, { ...take, pace, isLast: isLast(scene) }) };
      }
      case 'look': {
        const caption = scene.text ?? SIDES[scene.side];
        const usual = Math.max(LOOK, saying(caption));
        // The finished knot is what the last step shows.
        return { step: last, caption, shots: [still({ kind: 'hold', side: scene.side }, scene.seconds, usual)] };
      }
      case 'tail': {
        const caption = scene.text ?? sayTails(finishedLayout(method).figure, words, tail);
        const usual = Math.max(MEASURING + LOOK, saying(caption));
        const [shot, , seconds] = still({ kind: 'tail' }, scene.seconds, usual);
        const moves = Math.min(MEASURING, seconds / 2);
        return { step: last, caption, shots: [[shot, moves, seconds - moves]] };
      }
      case 'film': {
        const film = filmOf(method, scene.film);
        const pieces = playedPieces(film ?? {}, scene.from, scene.to);
        const heard = (film?.captions ?? []).filter((c) => c.end > scene.from && c.start < scene.to);
        const caption = scene.text ?? heard.map((c) => c.text).join(' ');
        const said = scene.text === undefined ? saidWhilePlayed(pieces, heard) : [];
        const shot: Shot = { kind: 'film', film: scene.film, pieces, beside: scene.beside };
        const plays = pieces.at(-1)?.end ?? 0;
        // Where more is said than shown, it stands on its last frame.
        return { caption, said, shots: [[shot, plays, Math.max(0, (spoken ?? 0) - plays)]] };
      }
      case 'wrong': {
        const wrong = wrongWays[scene.exhibit];
        const caption = scene.text ?? (wrong ? sayWrong(wrong.becomes, wrong.tell) : '');
        // The camera moves all the time that it is shown.
        const [shot, , seconds] = still({ kind: 'wrong', exhibit: scene.exhibit }, scene.seconds, saying(caption, 1));
        return { caption, shots: [[shot, seconds, 0]] };
      }
      case 'card': {
        const usual = Math.max(LOOK, saying(`${scene.title ?? ''} ${scene.text}`));
        const shot: Shot = { kind: 'card', title: scene.title, pictured: scene.step };
        return { caption: scene.text, shots: [still(shot, scene.seconds, usual)] };
      }
    }
  };
  return (scene: ReelScene): FilmPart => ({
    ...shown(scene),
    voice: scene.voice,
    callouts: calloutsOf(scene),
  });
}

/** A reel laid out in time; its passages are its scenes. */
export function reelTimeline(of: Filmable, { scenes }: Reel): Timeline {
  const last = scenes.at(-1);
  const shown = passageOf(of, (scene) => scene === last);
  return inTime(scenes.map(shown));
}

/** A demonstration: of a method as it is tied or, by its index, a reel of it, after the cautions that are read first. */
export interface Demonstrated extends Filmable {
  readonly cautions: readonly string[];
  readonly reel?: number | undefined;
}

/** A demonstration in time. */
export function demonstration({ cautions, reel, ...of }: Demonstrated): Timeline {
  const composed = reel === undefined ? undefined : of.method.reels?.[reel];
  return withCautions(composed ? reelTimeline(of, composed) : timelineOf(of.method, of.pace, of.words), cautions);
}

/** The time of the picture that stands for a demonstration before it is played: the one that its author chose, else its last. */
export function posterTime(reel: Reel | undefined, timeline: Timeline): number {
  const part = reel?.scenes.findIndex((s) => s.poster !== undefined) ?? -1;
  const chapter = chaptersOf(timeline)[part];
  const after = reel?.scenes[part]?.poster ?? 0;
  return chapter ? Math.min(chapter.start + after, Math.max(chapter.start, chapter.end - 0.01)) : timeline.duration;
}

/** A reel for which the picture of a scene stands, so many seconds after its beginning. */
export const withPoster = (reel: Reel, part: number, after: number): Reel => ({
  ...reel,
  scenes: reel.scenes.map(({ poster: _before, ...scene }, i) =>
    i === part ? { ...scene, poster: Math.round(after * 100) / 100 } : scene,
  ),
});

/** What a first score is composed for. */
export const REEL_KINDS = ['lesson', 'reminder', 'upright'] as const;
export type ReelKind = (typeof REEL_KINDS)[number];

/** Names of reels as they are composed. */
export const REEL_NAMES: Readonly<Record<ReelKind, string>> = {
  lesson: 'Whole lesson',
  reminder: 'Reminder',
  upright: 'Upright, for a telephone',
};

/** How long a reminder is to be, in seconds, and how much slower than its pace the slow passage of a lesson is. */
export const REMINDER = 30;
const SLOW = 0.6;

const inPass = (pass: Pass, scenes: readonly ReelScene[]): ReelScene[] => scenes.map((s) => ({ ...s, pass }));

/** A lesson: the knot introduced, tied slowly, tied at its pace, looked over. */
function lesson({ method, name }: Filmable, summary: string): ReelScene[] {
  const steps = stepsOf(method);
  const of = (some: readonly Step[], more: Partial<Extract<ReelScene, { kind: 'step' }>> = {}): ReelScene[] =>
    some.map(({ index, telling }): ReelScene => {
      const { speed = 1 } = telling.filmed ?? {};
      const own = more.speed === undefined ? {} : { speed: Math.max(FILM_SPEEDS.least, speed * more.speed) };
      return { kind: 'step', step: index, ...more, ...own };
    });
  const laying = steps.filter((s) => s.does === 'lay');
  const checks = steps.filter((s) => s.does === 'check');
  const tying = steps.filter((s) => s.does !== 'check');
  const { figure, exhibits = [] } = finishedLayout(method);
  const wrongWays = exhibits.map((_, exhibit): ReelScene => ({ kind: 'wrong', exhibit }));
  const tails: ReelScene[] = measurable(figure).length > 0 ? [{ kind: 'tail' }] : [];
  const looks: ReelScene[] =
    checks.length > 0
      ? of(checks)
      : [
          { kind: 'look', side: 'front' },
          { kind: 'look', side: 'back' },
        ];
  return [
    ...inPass('introduction', [
      ...(summary === ''
        ? []
        : [{ kind: 'card', title: cutTo(name, REELS.title), text: cutTo(summary, REELS.text) } as const]),
      { kind: 'look', side: 'front' },
    ]),
    ...inPass('slow', of(tying, { speed: SLOW })),
    ...inPass('normal', of(laying, { silent: true })),
    ...inPass('inspection', [...looks, ...tails, ...wrongWays]),
  ];
}

/** The steps alone, as quick as a time asks for: `short` seconds of it are needed for what is read before. */
function reminder(of: Filmable, short: number): ReelScene[] {
  const at = (speed: number): ReelScene[] =>
    stepsOf(of.method)
      .filter((s) => s.does !== 'check')
      .map((s): ReelScene => ({
        kind: 'step',
        step: s.index,
        silent: true,
        hold: 0,
        ...(speed === 1 ? {} : { speed }),
      }));
  const lasts = (speed: number): number => reelTimeline(of, { name: '', scenes: at(speed) }).duration;
  // The slowest at which it fits; the quickest there is where none does.
  const speeds = Array.from({ length: 20 * (FILM_SPEEDS.most - 1) + 1 }, (_, i) => 1 + i / 20);
  return at(speeds.find((s) => lasts(s) + short <= REMINDER) ?? FILM_SPEEDS.most);
}

/** A first score of a method: for a knot of this summary, with so many seconds of cautions before it. */
export function composeReel(of: Filmable, kind: ReelKind, summary = '', cautions = 0): Reel {
  const scenes = kind === 'reminder' ? reminder(of, cautions) : lesson(of, summary);
  return {
    name: REEL_NAMES[kind],
    ...(kind === 'upright' ? { shape: 'upright' as const } : {}),
    scenes: scenes.slice(0, REELS.scenes),
  };
}

const tenth = (v: number): number => Math.round(v * 10) / 10;
const between = (least: number, v: number, most: number): number => Math.min(most, Math.max(least, v));

/**
 * A scene of a timeline that is to last so many seconds. What stands still is held so long; a step rests longer, and where it has no rest to
 * spare, it is quicker: never so that its caption cannot be read.
 */
export function lastingFor(
  method: Method,
  timeline: Timeline,
  part: number,
  scene: ReelScene,
  seconds: number,
): ReelScene {
  if (scene.kind === 'film') {
    // More or less of the film is shown, as far as it goes.
    const film = filmOf(method, scene.film);
    const pieces = playedPieces(film ?? {}, scene.from, film?.duration ?? scene.to);
    return { ...scene, to: Math.max(scene.from + REELS.shortest, tenth(playedAt(pieces, seconds))) };
  }
  if (scene.kind !== 'step') return { ...scene, seconds: tenth(between(REELS.shortest, seconds, REELS.longest)) };
  const own = timeline.scenes.filter((s) => s.part === part);
  const sum = (of: (s: (typeof own)[number]) => number): number => own.reduce((all, s) => all + of(s), 0);
  const [lasts, moves] = [sum((s) => s.end - s.start), sum((s) => s.laid - s.start)];
  const { filmed = {} } = stepsOf(method)[scene.step]?.telling ?? {};
  const hold = (scene.hold ?? filmed.hold ?? 0) + seconds - lasts;
  if (hold >= 0 || moves <= 0) return { ...scene, hold: tenth(between(0, hold, LONGEST_HOLD)) };
  const quicker = ((scene.speed ?? filmed.speed ?? 1) * moves) / Math.max(0.05, moves + hold);
  return { ...scene, hold: 0, speed: Math.round(20 * between(FILM_SPEEDS.least, quicker, FILM_SPEEDS.most)) / 20 };
}

/** A reel with a scene moved to another place. */
export function withMoved(reel: Reel, from: number, to: number): Reel {
  const scenes = [...reel.scenes];
  const [scene] = scenes.splice(from, 1);
  if (scene) scenes.splice(Math.max(0, Math.min(scenes.length, to)), 0, scene);
  return { ...reel, scenes };
}

/** A reel with a scene exchanged, left out where it is nothing, or followed by others. */
export const withScene = (
  reel: Reel,
  at: number,
  scene: ReelScene | undefined,
  ...more: readonly ReelScene[]
): Reel => ({
  ...reel,
  scenes: reel.scenes.flatMap((s, i) => (i === at ? [...(scene ? [scene] : []), ...more] : [s])),
});
