/**
 * The left-handed edition: a knot mirrored as a whole, its texts said for the other hand.
 */
import { capital } from '../words/inflect.js';
import { cutTo } from '../ground/cut-to.js';
import { remembered } from '../ground/remembered.js';
import type { Exhibit } from '../dressing/shown.js';
import { mirroredDressing } from '../dressing/dressed.js';
import type { Footage } from '../footage/frame.js';
import { mirror } from '../topology/views.js';
import { sayOutcome } from '../identity/atlas.js';
import type { KnotDocument } from './document.js';
import type { PullSide } from '../dressing/winding.js';
import type { Entry } from './entry.js';
import { methodsOf, FIRST_METHOD } from './methods.js';
import type { Layout, Method, Telling } from '../tying/method.js';
import type { LookSide, Reel } from '../tying/reels.js';

/** Words that are exchanged with each other. */
const PAIRS: readonly (readonly [string, string])[] = [
  ['left', 'right'],
  ['clockwise', 'anticlockwise'],
];
const OTHER = new Map(PAIRS.flatMap(([a, b]) => [[a, b] as const, [b, a] as const]));
OTHER.set('anti-clockwise', 'clockwise').set('counterclockwise', 'clockwise').set('counter-clockwise', 'clockwise');

const SIDED = /\b(?:anti-?clockwise|counter-?clockwise|clockwise|left|right)(?=\b|-?hand(?:ed)?\b|most\b|wards?\b)/gi;
/** “Right” and “left” that name no side: what stands before them, and after “right”. */
const NO_SIDE_BEFORE = /(?:\b(?:all|put|set|is|are|was|were|be|been|has|have|not|nothing) )$/i;
const NO_SIDE_AFTER =
  /^ (?:way|angles?|side up|away|through|round|around|knot|one|order|now|there|here|after|before)\b/i;

const likeCase = (model: string, word: string): string => (/^[A-Z]/.test(model) ? capital(word) : word);

/** A text for the other hand: left and right, clockwise and anticlockwise exchanged; “put right”, “right angle”, “is left” stay. */
export function forOtherHand(text: string): string {
  return text.replace(SIDED, (word: string, at: number) => {
    const lower = word.toLowerCase();
    if (lower === 'left' || lower === 'right') {
      if (NO_SIDE_BEFORE.test(text.slice(0, at))) return word;
      if (lower === 'right' && NO_SIDE_AFTER.test(text.slice(at + word.length))) return word;
    }
    return likeCase(word, OTHER.get(lower) ?? word);
  });
}

const tellingForOtherHand = <T extends Telling>(telling: T): T => ({
  ...telling,
  ...(telling.text === undefined ? {} : { text: forOtherHand(telling.text) }),
  ...(telling.callouts ? { callouts: telling.callouts.map((c) => ({ ...c, text: forOtherHand(c.text) })) } : {}),
});

/** What is said of a wrong way that is no known knot is true of either hand. */
const OF_EITHER_HAND = new Set(
  (['falls apart', 'mirror', 'same', 'unnamed knot'] as const).map((outcome) => sayOutcome({ outcome, becomes: [] })),
);

/** What a wrong way becomes in the other hand: each knot's mirror image, and the other way round. */
const becomesOfOtherHand = (becomes: string): string =>
  OF_EITHER_HAND.has(becomes)
    ? becomes
    : becomes.replace(
        /(.+?)( \(mirrored\))?(, | or | …$|$)/g,
        (_all, name: string, mirrored: string | undefined, end: string) =>
          mirrored === undefined ? `${name} (mirrored)${end}` : `${name}${end}`,
      );

const exhibitForOtherHand = (exhibit: Exhibit): Exhibit => ({
  ...exhibit,
  becomes: becomesOfOtherHand(forOtherHand(exhibit.becomes)),
  ...(exhibit.tell === undefined ? {} : { tell: forOtherHand(exhibit.tell) }),
});

const filmForOtherHand = (film: Footage): Footage => ({
  ...film,
  turned: film.turned !== true,
  ...(film.captions ? { captions: film.captions.map((c) => ({ ...c, text: forOtherHand(c.text) })) } : {}),
});

const layoutForOtherHand = <L extends Layout>(layout: L): L => ({
  ...layout,
  figure: mirror(layout.figure),
  halts: layout.halts.map(tellingForOtherHand),
  ...(layout.finish ? { finish: layout.finish.map(tellingForOtherHand) } : {}),
  ...(layout.passes === undefined ? {} : { passes: forOtherHand(layout.passes) }),
  ...(layout.exhibits ? { exhibits: layout.exhibits.map(exhibitForOtherHand) } : {}),
  ...(layout.dressings ? { dressings: layout.dressings.map(mirroredDressing) } : {}),
  // A film of the one hand, played mirrored, is one of the other.
  ...(layout.footage ? { footage: layout.footage.map(filmForOtherHand) } : {}),
});

/** From where what is looked at is seen in the mirror. */
const LOOK_FROM: Readonly<Record<LookSide, LookSide>> = {
  front: 'front',
  back: 'back',
  left: 'right',
  right: 'left',
  end: 'end',
};

/** A reel for the other hand: its own words say the other side. */
const reelForOtherHand = (reel: Reel): Reel => ({
  ...reel,
  scenes: reel.scenes.map((scene) => ({
    ...scene,
    ...('text' in scene && scene.text !== undefined ? { text: forOtherHand(scene.text) } : {}),
    ...(scene.kind === 'look' ? { side: LOOK_FROM[scene.side] } : {}),
    ...('callouts' in scene && scene.callouts
      ? { callouts: scene.callouts.map((c) => (c.text === undefined ? c : { ...c, text: forOtherHand(c.text) })) }
      : {}),
  })),
});

/** A method for the left hand: every layout mirrored, every text said for the other hand. */
export const leftHanded = remembered((method: Method): Method => ({
  ...layoutForOtherHand(method),
  ...(method.relaid ? { relaid: method.relaid.map(layoutForOtherHand) } : {}),
  ...(method.reels ? { reels: method.reels.map(reelForOtherHand) } : {}),
}));

/** What the left-handed edition of a knot is called. */
export const leftHandedName = (name: string): string => `${cutTo(name, 64)}, left-handed`;

const entryForOtherHand = (entry: Entry, hand: Entry['hand']): Entry => ({
  ...entry,
  hand,
  aliases: entry.aliases.map((a) => leftHandedName(a)),
  summary: forOtherHand(entry.summary),
  cautions: entry.cautions.map(forOtherHand),
  ...(entry.pull === undefined ? {} : { pull: OTHER_SIDE[entry.pull] }),
});

/** Left and right are exchanged; along its own standing part it is pulled as before. */
const OTHER_SIDE: Readonly<Record<PullSide, PullSide>> = {
  left: 'right',
  right: 'left',
  toward: 'toward',
  away: 'away',
};

/** The left-handed edition of a knot, all its methods. `claim` is the known knot that it is the other hand of. */
export function leftHandedEdition(knot: KnotDocument, claim?: string): KnotDocument {
  const [first, ...others] = methodsOf(knot).map(({ name, method }) => ({ name, method: leftHanded(method) }));
  const { others: _others, methodName: _name, ...rest } = knot;
  return {
    ...rest,
    name: leftHandedName(knot.name),
    entry: {
      ...entryForOtherHand(knot.entry, knot.entry.hand === 'left' ? undefined : 'left'),
      ...(claim === undefined ? {} : { claim }),
    },
    method: first?.method ?? knot.method,
    ...(first && first.name !== FIRST_METHOD ? { methodName: first.name } : {}),
    ...(others.length > 0 ? { others } : {}),
  };
}
