/**
 * Reels: demonstrations of a method that its author composed, scene by scene. A scene shows a step, the finished knot, a wrong way or a card;
 * steps may come in any order and more than once. Without a reel a demonstration is its steps, as they are tied.
 */
import type { Exhibit } from '../dressing/shown.js';
import type { FilmedStep, Footage } from '../footage/frame.js';
import { curveOf, nearestOn, pointAt } from '../figure/curve.js';
import { acrossFigures } from '../figure/across.js';
import { lastAt, ropeOf, type Figure, type Rope, type TrailPosition } from '../figure/figure.js';
import { mapPosition, type Mapping } from '../figure/mapping.js';
import { distance } from '../figure/point.js';
import { refuse, type Refusal } from '../figure/refusal.js';
import { FILM_SPEEDS, LONGEST_HOLD } from './limits.js';
import { finishedLayout, layoutsOf, stepsOf, wayOf, type Layout, type Method, type Step } from './method.js';

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
} as const;

/** For a screen, a square, and a telephone that is held upright. */
export const REEL_SHAPES = ['wide', 'square', 'upright'] as const;
export type ReelShape = (typeof REEL_SHAPES)[number];

/** From where the finished knot is looked at. */
export const LOOK_SIDES = ['front', 'back', 'left', 'right'] as const;
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

/** What points out a place: words alone, a ring round it, an arrow to it, a cross over it. */
export const SCENE_CALLOUTS = ['label', 'ring', 'arrow', 'cross'] as const;

/** Something pointed out in a scene, with words or without, at a place of the trail: it goes where that goes. */
export interface SceneCallout extends TrailPosition {
  readonly kind: (typeof SCENE_CALLOUTS)[number];
  readonly text?: string | undefined;
}

interface Pointing {
  readonly callouts?: readonly SceneCallout[] | undefined;
}

/** What every scene may have. */
interface AnyScene {
  readonly pass?: Pass | undefined;
  /** What is said over it, spoken; a scene lasts as long as its voice at least. */
  readonly voice?: Voice | undefined;
}

export type ReelScene = AnyScene &
  (
    | ({
        readonly kind: 'step';
        /** Index among all steps of the method. */
        readonly step: number;
        /** So many times as quick as the rest; absent: as the step is filmed. */
        readonly speed?: number | undefined;
        /** Seconds of rest after it; absent: as the step is filmed. */
        readonly hold?: number | undefined;
        /** Without its caption, and without the time that takes to read. */
        readonly silent?: boolean | undefined;
      } & Pointing)
    /** The finished knot, held to be looked at. */
    | ({
        readonly kind: 'look';
        readonly side: LookSide;
        readonly text?: string | undefined;
        readonly seconds?: number | undefined;
      } & Pointing)
    /** One of the wrong ways that learners are shown: its index among them. */
    | { readonly kind: 'wrong'; readonly exhibit: number; readonly seconds?: number | undefined }
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
    | {
        readonly kind: 'card';
        readonly title?: string | undefined;
        readonly text: string;
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
  const lost = callouts.some(({ strand, at }) => {
    const rope = ropeOf(figure, strand);
    return !rope || at < 0 || at > lastAt(rope) + 1e-6;
  });
  return lost
    ? refuse(place, 'It points out a place that no rope has.', 'Point out a place on a rope of that step.')
    : undefined;
}

/** What is wrong with a scene of a method, if anything. */
function sceneTrouble(method: Method, scene: ReelScene, place: string): Refusal | undefined {
  const { voice } = scene;
  if (voice && !(voice.from >= 0 && within(voice.to - voice.from, 0.1, REELS.longest)))
    return refuse(
      place,
      `Its voice is heard for ${(voice.to - voice.from).toFixed(1)} seconds.`,
      `A voice lasts ${REELS.longest} seconds at most: say less, or make two scenes of it.`,
    );
  switch (scene.kind) {
    case 'step':
      if (!stepsOf(method)[scene.step])
        return refuse(place, `There is no step ${scene.step + 1}.`, 'Name a step of the method.');
      return within(scene.speed, FILM_SPEEDS.least, FILM_SPEEDS.most) && within(scene.hold, 0, LONGEST_HOLD)
        ? calloutTrouble(method, scene, place)
        : refuse(
            place,
            'Its speed or its rest is out of bounds.',
            `Film it from ${FILM_SPEEDS.least} to ${FILM_SPEEDS.most} times as quick, with ${LONGEST_HOLD} seconds of rest at most.`,
          );
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
      break;
    case 'look':
    case 'tail':
    case 'film':
      if ((scene.text ?? '').length > REELS.text)
        return refuse(place, `What is said has ${REELS.text} characters at most.`, 'Say it shorter.');
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

/** The voices of reels, each by its hash, with the reel that it belongs to. */
export const voicesOf = (reels: readonly Reel[]): readonly { readonly sound: string; readonly reel: string }[] =>
  reels.flatMap(({ name, scenes }) =>
    scenes.flatMap(({ voice }) => (voice ? [{ sound: voice.sound, reel: name }] : [])),
  );

/** Whether a step of the same layout lays what an earlier one did, or some of it: by where its stretch ends. */
function covers(before: Step, after: Step): boolean {
  if (before.does !== after.does) return false;
  const [a, b] = [before.stretch, after.stretch];
  if (!a || !b) return !a && !b;
  const way = wayOf(before.of.leaders[a.leader]);
  return leads(before) === leads(after) && (b.to - a.from) * way > 1e-9 && (b.to - a.to) * way <= 1e-9;
}

/** What moves in a step, by its rope and which way it goes, wherever it stands among the leaders; a step that lays nothing, by what it does. */
function leads({ does, of, stretch }: Step): string {
  const leader = stretch && of.leaders[stretch.leader];
  return leader ? `${leader.kind} ${leader.rope} ${wayOf(leader)}` : does;
}

/**
 * Which layout of a changed method each of its layouts has become: the same one wherever it is now, else the one in its place; the last, in
 * which the knot is finished, the one that is last now.
 */
function layoutsBecome(before: Method, after: Method): readonly (number | undefined)[] {
  const [old, now] = [layoutsOf(before), layoutsOf(after)];
  const kept = old.map((l) => now.indexOf(l));
  return kept.map((at, i) => {
    const place = i === old.length - 1 ? now.length - 1 : i;
    return at >= 0 ? at : place < now.length && !kept.includes(place) ? place : undefined;
  });
}

/** The steps of a changed method that each step of it has become: two where it was split, none where it was joined to the next. */
function stepsBecome(before: Method, after: Method): (readonly number[])[] {
  const [old, now] = [stepsOf(before), stepsOf(after)];
  // Drawn otherwise, a step keeps its place, but not where its stretch ends.
  const inPlace = old.length === now.length && old.every((s, i) => leads(s) === leads(now[i] as Step));
  if (inPlace) return old.map((_, i) => [i]);
  const layouts = layoutsBecome(before, after);
  const taken = new Set<number>();
  return old.map((step) => {
    const own = now.filter((s) => s.layout === layouts[step.layout] && !taken.has(s.index) && covers(step, s));
    // Of steps that lay nothing each becomes one.
    const become = (step.stretch ? own : own.slice(0, 1)).map((s) => s.index);
    for (const i of become) taken.add(i);
    return become;
  });
}

/** A film whose steps begin where those did that they have become: of a step that was split the first part begins there. */
function carryFilm(film: Footage, steps: readonly (readonly number[])[]): Footage {
  if (!film.steps) return film;
  const now = film.steps.flatMap(({ step, at }): FilmedStep[] => {
    const [first] = steps[step] ?? [];
    return first === undefined ? [] : [{ step: first, at }];
  });
  const { steps: _old, ...rest } = film;
  return now.length > 0 ? { ...rest, steps: now } : rest;
}

/** The films of a method after it was changed, where steps begin in them. */
function carryFilms(after: Method, steps: readonly (readonly number[])[]): Method {
  const carried = <L extends Layout>(layout: L): L =>
    layout.footage?.some((f) => f.steps)
      ? { ...layout, footage: layout.footage.map((f) => carryFilm(f, steps)) }
      : layout;
  return { ...carried(after), ...(after.relaid ? { relaid: after.relaid.map(carried) } : {}) };
}

/** What a method tells by its steps, after it was changed: its reels, and where steps begin in its films. */
export function carrySteps(before: Method, after: Method): Method {
  if (before === after) return after;
  const isFilmed = layoutsOf(after).some((l) => l.footage?.some((f) => f.steps));
  if (!before.reels && !isFilmed) return after;
  const steps = stepsBecome(before, after);
  const isMoved = steps.some((become, i) => become.length !== 1 || become[0] !== i);
  const films = isFilmed && isMoved ? carryFilms(after, steps) : after;
  return carryReels(before, films, steps);
}

/** The reels of a method after it was changed: a step that was split is shown in both its parts, one that is gone is left out. */
/** Places nearer than this are the same, in diameters. */
const SAME_PLACE = 0.02;

/** Where a place of a rope is on the same rope, drawn otherwise: there, if it still goes there; else where it passes as before; else near. */
function carryPlace(was: Rope, is: Rope, at: number, across: Mapping): number {
  const place = pointAt(curveOf(was), at);
  const near = nearestOn(curveOf(is), place);
  const passes = mapPosition(across, { strand: was.id, at })?.at;
  const goesThere = passes !== undefined && distance(pointAt(curveOf(is), passes), place) < SAME_PLACE;
  return passes === undefined || (near.away < SAME_PLACE && !goesThere) ? near.at : passes;
}

/** A scene after the drawing was changed: what it points out goes with its rope, and is gone with a rope that is gone. */
function carryCallouts(before: Figure, method: Method, scene: ReelScene): ReelScene {
  const callouts = calloutsOf(scene);
  const after = figureShown(method, scene);
  if (callouts.length === 0 || before === after) return scene;
  const across = acrossFigures(before, after);
  const carried = callouts.flatMap((c): SceneCallout[] => {
    const [was, is] = [ropeOf(before, c.strand), ropeOf(after, c.strand)];
    if (!was || !is) return [];
    return [{ ...c, at: Math.min(carryPlace(was, is, c.at, across), lastAt(is)) }];
  });
  const { callouts: _before, ...rest } = scene as Extract<ReelScene, Pointing>;
  return carried.length > 0 ? { ...rest, callouts: carried } : rest;
}

function carryReels(before: Method, after: Method, steps: readonly (readonly number[])[]): Method {
  if (!before.reels) return after;
  const wrongWays = (method: Method): readonly Exhibit[] => finishedLayout(method).exhibits ?? [];
  const [old, now] = [wrongWays(before), wrongWays(after)];
  const wrongNow = (i: number): number =>
    old.length === now.length ? i : now.findIndex((e) => e.becomes === old[i]?.becomes);
  const carried = (scene: ReelScene): readonly ReelScene[] => {
    if (scene.kind === 'step') return (steps[scene.step] ?? []).map((step) => ({ ...scene, step }));
    if (scene.kind === 'film') return filmOf(after, scene.film) ? [scene] : [];
    if (scene.kind !== 'wrong') return [scene];
    const exhibit = wrongNow(scene.exhibit);
    return exhibit < 0 ? [] : [{ ...scene, exhibit }];
  };
  const reels = before.reels.map((reel): Reel => ({
    ...reel,
    scenes: reel.scenes
      .flatMap((scene) => carried(scene).map((now) => carryCallouts(figureShown(before, scene), after, now)))
      .slice(0, REELS.scenes),
  }));
  const isSame = reels.every(
    (reel, i) =>
      reel.scenes.length === before.reels?.[i]?.scenes.length &&
      reel.scenes.every((s, k) => JSON.stringify(s) === JSON.stringify(before.reels?.[i]?.scenes[k])),
  );
  return { ...after, reels: isSame ? before.reels : reels };
}
