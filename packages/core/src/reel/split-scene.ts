/**
 * A scene of a reel cut in two: of a step each shows a part of what is laid, of a film a stretch of it; what stands still is shown twice.
 */
import { accept, refuse, type Result } from '../figure/refusal.js';
import { playedAt } from '../footage/played.js';
import { stepText } from '../tying/compose.js';
import { stepsOf, type Method } from '../tying/method.js';
import { calloutsOf, REELS, type PartOfStep, type Reel, type ReelScene, type SceneCallout } from '../tying/reels.js';
import type { Vocabulary } from '../words/vocabulary.js';
import { withScene } from './score.js';
import { ease, placeOn, type Scene, type Timeline } from './timeline.js';

/** A text in two parts that are whole sentences, the first about as long as a share of it; nothing where it is a single sentence. */
function sentencesIn(text: string, share: number): readonly [string, string] | undefined {
  const sentences = text.trim().split(/(?<=[.!?])\s+/);
  if (sentences.length < 2) return undefined;
  const cut = Math.min(sentences.length - 1, Math.max(1, Math.round(share * sentences.length)));
  return [sentences.slice(0, cut).join(' '), sentences.slice(cut).join(' ')];
}

const tenth = (v: number): number => Math.round(v * 10) / 10;

/** Least voice that is left to a part, in seconds. */
const LEAST_VOICE = 0.1;

/** Who speaks in each part, cut after so many seconds. */
function voicesIn({ voice }: ReelScene, seconds: number): readonly [Partial<ReelScene>, Partial<ReelScene>] {
  if (!voice) return [{}, {}];
  const cut = voice.from + seconds;
  const kept = (from: number, to: number): Partial<ReelScene> =>
    to - from >= LEAST_VOICE ? { voice: { ...voice, from, to } } : {};
  return [kept(voice.from, Math.min(cut, voice.to)), kept(Math.min(cut, voice.to), voice.to)];
}

function splitStep(
  method: Method,
  words: Vocabulary,
  scene: Extract<ReelScene, { kind: 'step' }>,
  shot: Scene,
  time: number,
): readonly [ReelScene, ReelScene] | undefined {
  const step = stepsOf(method)[scene.step];
  if (!step?.stretch || shot.shot.kind !== 'lay') return undefined;
  const [from, to]: PartOfStep = scene.part ?? [0, 1];
  const done = ease(Math.min(1, Math.max(0, (time - shot.start) / (shot.laid - shot.start))));
  const cut = from + (to - from) * done;
  if (cut - from < REELS.part || to - cut < REELS.part) return undefined;
  const { callouts: _both, voice: _whole, text: _said, silent, ...rest } = scene;
  const said = silent === true ? undefined : sentencesIn(scene.text ?? stepText(method, scene.step, words), done);
  // A single sentence is said in the first part; so is what was written of the whole.
  const first = said ? { text: said[0] } : scene.text === undefined ? {} : { text: scene.text };
  const second = said ? { text: said[1] } : { silent: true };
  // What is pointed out on the rope that is laid goes with the part that lays it; what lies elsewhere, with both.
  const lies = (c: SceneCallout, [a, b]: PartOfStep): boolean =>
    c.strand === step.stretch?.rope && (c.at - placeOn(step, a)) * (c.at - placeOn(step, b)) <= 0;
  const pointed = (own: PartOfStep): { callouts?: readonly SceneCallout[] } => {
    const callouts = calloutsOf(scene).filter((c) => !lies(c, [from, to]) || lies(c, own));
    return callouts.length > 0 ? { callouts } : {};
  };
  const before = [from, cut] as const;
  const after = [cut, to] as const;
  return [
    { ...rest, part: before, hold: 0, ...(silent === true ? { silent } : first), ...pointed(before) },
    { ...rest, part: after, ...(silent === true ? { silent } : second), ...pointed(after) },
  ];
}

/**
 * A reel with a scene cut in two at a time of its timeline, in seconds. Refused where one part would be too short to be seen, and for what
 * is shown in one go: a knot drawn tight or turned over, a wrong way, a measured tail.
 */
export function splitScene(
  { method, words }: { readonly method: Method; readonly words: Vocabulary },
  reel: Reel,
  timeline: Timeline,
  part: number,
  time: number,
): Result<Reel> {
  const scene = reel.scenes[part];
  const shots = timeline.scenes.filter((s) => s.part === part);
  const [begins, ends] = [shots[0]?.start ?? 0, shots.at(-1)?.end ?? 0];
  const place = `scene ${part + 1}`;
  const short = refuse(
    place,
    'It cannot be cut here: one of the two would be too short to be seen.',
    'Go to the place in the middle of what it shows.',
  );
  if (!scene) return short;
  const laid = shots.find((s) => s.shot.kind === 'lay');
  if (scene.kind === 'tail' || scene.kind === 'wrong' || (scene.kind === 'step' && !laid))
    return refuse(
      place,
      'It is shown in one go, and is not cut in two.',
      'Show it again after itself, or cut a step that lays rope, a look, a card or a film.',
    );
  if (time <= begins || time >= ends) return short;
  const voices = voicesIn(scene, time - begins);
  const { voice: _whole, ...unspoken } = scene;
  // The picture that stands for the reel stays the same one.
  const { poster } = scene;
  const after = poster === undefined ? undefined : poster - (time - begins);
  const posters = after === undefined ? [] : after < 0 ? [{ poster }] : [{}, { poster: after }];
  const made = (i: 0 | 1, own: object): ReelScene => {
    const { poster: _whole, ...rest } = own as ReelScene;
    return { ...rest, ...voices[i], ...posters[i] } as ReelScene;
  };
  const cut = (first: object, second: object, of: object = unspoken): Result<Reel> =>
    accept(withScene(reel, part, made(0, { ...of, ...first }), made(1, { ...of, ...second })));
  switch (scene.kind) {
    case 'look':
    case 'card': {
      const seconds = [tenth(time - begins), tenth(ends - time)] as const;
      return Math.min(...seconds) < REELS.shortest ? short : cut({ seconds: seconds[0] }, { seconds: seconds[1] });
    }
    case 'film': {
      const shot = shots[0]?.shot;
      const at = tenth(shot?.kind === 'film' ? playedAt(shot.pieces, time - begins) : scene.from);
      if (at - scene.from < REELS.shortest || scene.to - at < REELS.shortest) return short;
      // What was written of the whole is said in the first part.
      const { text, voice: _voice, ...rest } = scene;
      return cut({ to: at, ...(text === undefined ? {} : { text }) }, { from: at }, rest);
    }
    case 'step': {
      const parts = laid && splitStep(method, words, scene, laid, time);
      return parts ? cut(parts[0], parts[1], {}) : short;
    }
  }
}
