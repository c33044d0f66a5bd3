/**
 * Reels: demonstrations of a method that its author composed, scene by scene. A scene shows a step, the finished knot, a wrong way or a card;
 * steps may come in any order and more than once. Without a reel a demonstration is its steps, as they are tied.
 */
import type { Footage } from '../footage/frame.js';
import { lastAt, ropeOf, type Figure, type TrailPosition } from '../figure/figure.js';
import { refuse, type Refusal } from '../figure/refusal.js';
import { FILM_SPEEDS, LONGEST_HOLD } from './limits.js';
import { finishedLayout, layoutsOf, stepsOf, type Method } from './method.js';

/**
 * Most reels of a method, scenes of a reel and callouts of a scene, longest texts, and how long a card or a look may last, in seconds.
 */
export const REELS = {
  most: 6,
  scenes: 200,
  callouts: 8,
  name: 60,
  title: 80,
  text: 240,
  callout: 60,
  shortest: 0.5,
  longest: 60,
  part: 0.05,
} as const;

/** For a screen, a square, and a telephone that is held upright. */
export const REEL_SHAPES = ['wide', 'square', 'upright'] as const;
export type ReelShape = (typeof REEL_SHAPES)[number];

/** From where the finished knot is looked at. */
export const LOOK_SIDES = ['front', 'back', 'left', 'right', 'end'] as const;
export type LookSide = (typeof LOOK_SIDES)[number];

/** What a passage of a reel is for. */
export const PASSES = ['introduction', 'slow', 'normal', 'inspection'] as const;
export type Pass = (typeof PASSES)[number];

/** A take of somebody speaking: the hash of its sound, and from when to when it is heard, in its seconds. */
export interface Voice {
  readonly sound: string;
  readonly from: number;
  readonly to: number;
}

/** What points out a place: words alone, a ring round it, an arrow to it, a cross over it, a ruler from it to another of its rope. */
export const SCENE_CALLOUTS = ['label', 'ring', 'arrow', 'cross', 'ruler'] as const;

/** Something pointed out in a scene, with words or without, at a place of the trail: it goes where that goes. */
export interface SceneCallout extends TrailPosition {
  readonly kind: (typeof SCENE_CALLOUTS)[number];
  /** Of a ruler: where it ends, on the same rope. */
  readonly to?: number | undefined;
  readonly text?: string | undefined;
}

/** What may point something out. */
export interface Pointing {
  readonly callouts?: readonly SceneCallout[] | undefined;
}

/** What every scene may have. */
interface AnyScene {
  readonly pass?: Pass | undefined;
  /** What is said over it, spoken; a scene lasts as long as its voice at least. */
  readonly voice?: Voice | undefined;
  /** Seconds after its beginning: what is shown then stands for the whole reel before it is played. */
  readonly poster?: number | undefined;
}

/** A part of what a step lays, from one share of its length to another. */
export type PartOfStep = readonly [from: number, to: number];

export type ReelScene = AnyScene &
  (
    | ({
        readonly kind: 'step';
        /** Index among all steps of the method. */
        readonly step: number;
        /** What of its stretch is shown; absent: all of it. */
        readonly part?: PartOfStep | undefined;
        /** So many times as quick as the rest; absent: as the step is filmed. */
        readonly speed?: number | undefined;
        /** Seconds of rest after it; absent: as the step is filmed. */
        readonly hold?: number | undefined;
        /** Without its caption, and without the time that takes to read. */
        readonly silent?: boolean | undefined;
        /** What is said of it here; absent: what the step says. */
        readonly text?: string | undefined;
      } & Pointing)
    /** The finished knot, held to be looked at. */
    | ({
        readonly kind: 'look';
        readonly side: LookSide;
        readonly text?: string | undefined;
        readonly seconds?: number | undefined;
      } & Pointing)
    /** One of the wrong ways that learners are shown: its index among them. */
    | {
        readonly kind: 'wrong';
        readonly exhibit: number;
        /** Absent: what it becomes, and how that is told. */
        readonly text?: string | undefined;
        readonly seconds?: number | undefined;
      }
    /** A ruler laid beside each tail of the finished knot, as long as the house asks for. */
    | ({ readonly kind: 'tail'; readonly text?: string | undefined; readonly seconds?: number | undefined } & Pointing)
    /** A stretch of a film of the knot, in its seconds; how it is played there is the film's. */
    | {
        readonly kind: 'film';
        /** The film's hash. */
        readonly film: string;
        readonly from: number;
        readonly to: number;
        /** Absent: what is said in it. */
        readonly text?: string | undefined;
        /** The step that is tied then is drawn beside it, as far as it has come. */
        readonly beside?: boolean | undefined;
      }
    /** Words, alone or beside a still picture: of the knot as it is once a step is done. */
    | {
        readonly kind: 'card';
        readonly title?: string | undefined;
        readonly text: string;
        /** Index of the step that is pictured, among all steps of the method; absent: words alone. */
        readonly step?: number | undefined;
        readonly seconds?: number | undefined;
      }
  );

export interface Reel {
  readonly name: string;
  /** Absent: wide. */
  readonly shape?: ReelShape | undefined;
  /** While a step is tied, the knot is shown from its other side, too. */
  readonly back?: boolean | undefined;
  /** While a step is tied, the trail is shown beneath. */
  readonly trail?: boolean | undefined;
  /** Plain ropes have bands, by which they are seen to run. */
  readonly bands?: boolean | undefined;
  readonly scenes: readonly ReelScene[];
}

const within = (value: number | undefined, least: number, most: number): boolean =>
  value === undefined || (value >= least && value <= most);

/** The film of a method that has a hash. */
export const filmOf = (method: Method, film: string): Footage | undefined =>
  layoutsOf(method)
    .flatMap((l) => l.footage ?? [])
    .find((f) => f.film === film);

/** What is wrong with a stretch of a film, if anything. */
function filmTrouble(
  method: Method,
  { film, from, to }: Extract<ReelScene, { kind: 'film' }>,
  place: string,
): Refusal | undefined {
  const shown = filmOf(method, film);
  if (!shown) return refuse(place, 'There is no such film.', 'Choose one of the films of the method.');
  return from >= 0 && to <= shown.duration + 0.25 && to - from >= REELS.shortest - 1e-9
    ? undefined
    : refuse(
        place,
        'It leaves the film, or is too short to be seen.',
        `Show ${REELS.shortest} seconds or more of the ${shown.duration.toFixed(1)} that it has.`,
      );
}

/** What a scene points out. */
export const calloutsOf = (scene: ReelScene): readonly SceneCallout[] =>
  ('callouts' in scene ? scene.callouts : undefined) ?? [];

/** The figure that a scene shows: of its step, or of the finished knot. */
export const figureShown = (method: Method, scene: ReelScene): Figure =>
  (scene.kind === 'step' ? stepsOf(method)[scene.step]?.of : undefined)?.figure ?? finishedLayout(method).figure;

/** What is wrong with what a scene points out, if anything. */
function calloutTrouble(method: Method, scene: ReelScene, place: string): Refusal | undefined {
  const callouts = calloutsOf(scene);
  if (callouts.length > REELS.callouts)
    return refuse(
      place,
      `A scene has ${REELS.callouts} callouts at most.`,
      'Point out less, or make two scenes of it.',
    );
  if (callouts.some((c) => (c.text ?? '').length > REELS.callout))
    return refuse(place, `A callout has ${REELS.callout} characters at most.`, 'Say it shorter.');
  const figure = figureShown(method, scene);
  const lost = callouts.some(({ strand, at, to = at }) => {
    const rope = ropeOf(figure, strand);
    return !rope || Math.min(at, to) < 0 || Math.max(at, to) > lastAt(rope) + 1e-6;
  });
  if (callouts.some((c) => (c.kind === 'ruler') !== (c.to !== undefined)))
    return refuse(place, 'A ruler has two ends, and nothing else has.', 'Say from where to where it is laid.');
  return lost
    ? refuse(place, 'It points out a place that no rope has.', 'Point out a place on a rope of that step.')
    : undefined;
}

/** What is wrong with the part of a step that a scene shows, if anything. */
function partTrouble(
  method: Method,
  { part, step }: Extract<ReelScene, { kind: 'step' }>,
  place: string,
): Refusal | undefined {
  if (!part) return undefined;
  const [from, to] = part;
  if (!stepsOf(method)[step]?.stretch)
    return refuse(place, `Step ${step + 1} lays no rope, so that there is no part of it.`, 'Show all of it.');
  return from >= 0 && to <= 1 && to - from >= REELS.part - 1e-9
    ? undefined
    : refuse(
        place,
        `It shows a part of its step from ${from} to ${to} of its length.`,
        `Show a part from 0 to 1, ${REELS.part} long at least.`,
      );
}

/** What is wrong with a scene of a method, if anything. */
function sceneTrouble(method: Method, scene: ReelScene, place: string): Refusal | undefined {
  const { voice } = scene;
  if ('step' in scene && scene.step !== undefined && !stepsOf(method)[scene.step])
    return refuse(place, `There is no step ${scene.step + 1}.`, 'Name a step of the method.');
  if (scene.kind !== 'card' && (scene.text ?? '').length > REELS.text)
    return refuse(place, `What is said has ${REELS.text} characters at most.`, 'Say it shorter.');
  if (voice && !(voice.from >= 0 && within(voice.to - voice.from, 0.1, REELS.longest)))
    return refuse(
      place,
      `Its voice is heard for ${(voice.to - voice.from).toFixed(1)} seconds.`,
      `A voice lasts ${REELS.longest} seconds at most: say less, or make two scenes of it.`,
    );
  switch (scene.kind) {
    case 'step': {
      const part = partTrouble(method, scene, place);
      if (part) return part;
      return within(scene.speed, FILM_SPEEDS.least, FILM_SPEEDS.most) && within(scene.hold, 0, LONGEST_HOLD)
        ? calloutTrouble(method, scene, place)
        : refuse(
            place,
            'Its speed or its rest is out of bounds.',
            `Film it from ${FILM_SPEEDS.least} to ${FILM_SPEEDS.most} times as quick, with ${LONGEST_HOLD} seconds of rest at most.`,
          );
    }
    case 'wrong':
      if (!(finishedLayout(method).exhibits ?? [])[scene.exhibit])
        return refuse(place, 'There is no such wrong way.', 'Show it to learners first, in Proof.');
      break;
    case 'card':
      if (scene.text.length > REELS.text || (scene.title ?? '').length > REELS.title)
        return refuse(
          place,
          `A card has ${REELS.text} characters at most, its title ${REELS.title}.`,
          'Say it shorter.',
        );
  }
  const pointing = calloutTrouble(method, scene, place);
  if (pointing) return pointing;
  if (scene.kind === 'film') return filmTrouble(method, scene, place);
  return within(scene.seconds, REELS.shortest, REELS.longest)
    ? undefined
    : refuse(place, `It lasts ${REELS.shortest} to ${REELS.longest} seconds.`, 'Let it last as long as it is read.');
}

/** What is wrong with the reels of a method, if anything. */
export function reelsTrouble(method: Method, reels: readonly Reel[]): Refusal | undefined {
  if (reels.length > REELS.most)
    return refuse('reels', `A method has ${REELS.most} reels at most.`, 'Let one go first.');
  const names = reels.map((r) => r.name.trim().toLowerCase());
  const twice = names.find((n, i) => names.indexOf(n) !== i);
  if (twice !== undefined) return refuse('reels', `There are two called “${twice}”.`, 'Give each a name of its own.');
  for (const [i, reel] of reels.entries()) {
    if (reel.name.trim() === '' || reel.name.length > REELS.name)
      return refuse(`reels[${i}]`, `A reel has a name of ${REELS.name} characters at most.`, 'Say what it is for.');
    if (reel.scenes.length > REELS.scenes)
      return refuse(`reels[${i}]`, `A reel has ${REELS.scenes} scenes at most.`, 'Leave some out, or make two of it.');
    for (const [k, scene] of reel.scenes.entries()) {
      const trouble = sceneTrouble(method, scene, `reels[${i}].scenes[${k}]`);
      if (trouble) return trouble;
    }
  }
  return undefined;
}
