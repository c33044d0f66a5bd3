/**
 * Reels and films after their method was changed: they show the same steps, wherever those are now, and point out the same places.
 */
import type { Exhibit } from '../dressing/shown.js';
import { acrossFigures } from '../figure/across.js';
import { curveOf, lengthTo, nearestOn, pointAt } from '../figure/curve.js';
import { lastAt, ropeOf, type Figure, type Rope } from '../figure/figure.js';
import { mapPosition, type Mapping } from '../figure/mapping.js';
import { distance } from '../figure/point.js';
import type { FilmedStep, Footage } from '../footage/frame.js';
import { finishedLayout, layoutsOf, stepsOf, wayOf, type Layout, type Method, type Step } from './method.js';
import {
  calloutsOf,
  figureShown,
  filmOf,
  REELS,
  type Pointing,
  type Reel,
  type ReelScene,
  type SceneCallout,
} from './reels.js';

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

/** A scene of a part of a step, once the step has become others: of each it shows what it showed of it before. */
function carryPart(was: Step, become: readonly Step[], scene: Extract<ReelScene, { kind: 'step' }>): ReelScene[] {
  const { part = [0, 1], ...rest } = scene;
  const [only] = become;
  // A step that stays one step keeps its parts, however it is drawn now.
  if (become.length === 1 && only) return [{ ...scene, step: only.index }];
  const shareAt = (at: number): number => {
    if (!was.stretch) return 0;
    const curve = curveOf(ropeOf(was.of.figure, was.stretch.rope) as Rope);
    const [a, b] = [lengthTo(curve, was.stretch.from), lengthTo(curve, was.stretch.to)];
    return (lengthTo(curve, at) - a) / (b - a);
  };
  return become.flatMap(({ index, stretch }): ReelScene[] => {
    if (!stretch) return [];
    const [from, to] = [shareAt(stretch.from), shareAt(stretch.to)];
    const within = (v: number): number => Math.min(1, Math.max(0, (v - from) / (to - from)));
    const [first, last] = [within(part[0]), within(part[1])];
    if (last - first < REELS.part) return [];
    return [{ ...rest, step: index, ...(first > 0 || last < 1 ? { part: [first, last] as const } : {}) }];
  });
}

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
    const carried = (at: number): number => Math.min(carryPlace(was, is, at, across), lastAt(is));
    return [{ ...c, at: carried(c.at), ...(c.to === undefined ? {} : { to: carried(c.to) }) }];
  });
  const { callouts: _before, ...rest } = scene as Extract<ReelScene, Pointing>;
  return carried.length > 0 ? { ...rest, callouts: carried } : rest;
}

/** The reels of a method after it was changed: a step that was split is shown in both its parts, one that is gone is left out. */
function carryReels(before: Method, after: Method, steps: readonly (readonly number[])[]): Method {
  if (!before.reels) return after;
  const wrongWays = (method: Method): readonly Exhibit[] => finishedLayout(method).exhibits ?? [];
  const [old, now] = [wrongWays(before), wrongWays(after)];
  const wrongNow = (i: number): number =>
    old.length === now.length ? i : now.findIndex((e) => e.becomes === old[i]?.becomes);
  const carried = (scene: ReelScene): readonly ReelScene[] => {
    if (scene.kind === 'step') {
      const become = steps[scene.step] ?? [];
      return scene.part
        ? carryPart(
            stepsOf(before)[scene.step] as Step,
            become.map((i) => stepsOf(after)[i] as Step),
            scene,
          )
        : become.map((step) => ({ ...scene, step }));
    }
    if (scene.kind === 'card') {
      const { step: was, ...card } = scene;
      const step = was === undefined ? undefined : steps[was]?.at(-1);
      return [step === undefined ? card : { ...card, step }];
    }
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
