/**
 * What an author lays over a film: words that stay with a place of the picture, and stretches that are played otherwise than they were
 * filmed: slowly, after standing still, nearer, or with the drawing beside where a hand hides the knot. The film itself is not changed.
 *
 * Needs nothing else of the core: whatever plays a film can load it.
 */

/** A place in a frame: shares of its width and height as it was filmed. */
export type FramePlace = readonly [x: number, y: number];

/** Where something is in the frame of a time, in seconds; of a ruler, also where it ends. */
export interface PlaceKey {
  readonly at: number;
  readonly place: FramePlace;
  readonly end?: FramePlace | undefined;
}

/**
 * What points out a place: words alone, a ring round it, an arrow down to it, a cross over it, a ruler from it to another; or it is blurred,
 * so that it is not seen.
 */
export const FILM_CALLOUTS = ['label', 'ring', 'arrow', 'cross', 'ruler', 'blur'] as const;

/** Something pointed out at a place of the picture, with words or without; from its first key on it is followed from key to key. */
export interface FilmCallout {
  readonly kind: (typeof FILM_CALLOUTS)[number];
  readonly text: string;
  /** At least one, by time. */
  readonly keys: readonly PlaceKey[];
  /** Until when it is shown, in seconds. */
  readonly until: number;
}

/** A part of the frame that is seen as large as the frame. */
export interface Near {
  readonly place: FramePlace;
  readonly times: number;
  readonly to?: FramePlace | undefined;
}

/** A stretch of a film, in seconds, and how it is played. */
export interface FilmPassage {
  readonly from: number;
  readonly to: number;
  /** So many times as quick as it was filmed; absent: as quick. */
  readonly speed?: number | undefined;
  /** Seconds for which its first frame stands still. */
  readonly still?: number | undefined;
  /** It is played once more from its beginning when it has come to its end. */
  readonly again?: boolean | undefined;
  /** What of the frame is seen: this place in the middle, so many times as large; where it goes `to` another place, evenly. */
  readonly near?: Near | undefined;
  /** Hands hide the knot: the drawing of the step is shown beside. */
  readonly hidden?: boolean | undefined;
}

/** Where two places that do not move are in the frame of a time, in seconds. */
export interface SteadyKey {
  readonly at: number;
  readonly a: FramePlace;
  readonly b: FramePlace;
}

export interface OnFilm {
  /** Two places by which it is held still, followed through the film, by time. */
  readonly steady?: readonly SteadyKey[] | undefined;
  readonly callouts?: readonly FilmCallout[] | undefined;
  readonly passages?: readonly FilmPassage[] | undefined;
}

/**
 * Most callouts and passages of a film, keys of a callout and of what holds it still, characters of its text; speeds, seconds of standing
 * still, and enlargements that are offered.
 */
export const ON_FILM = {
  callouts: 40,
  passages: 40,
  keys: 24,
  text: 80,
  speeds: [0.25, 0.5, 1],
  stills: [0, 1, 2, 4],
  nears: [1, 1.5, 2, 3],
  longestStill: 20,
  steady: 6000,
} as const;

/** Times nearer than this are one frame, in seconds; no passage is shorter than the second, nor shown for less. */
const SAME_FRAME = 0.02;
const SHORTEST = 0.2;

/** How long what begins at a frame goes on at first, in seconds. */
const FIRST_LENGTH = 2;

const betweenPlaces = (a: FramePlace, b: FramePlace, share: number): FramePlace => [
  a[0] + share * (b[0] - a[0]),
  a[1] + share * (b[1] - a[1]),
];

/** The keys before and after a time, and how far it has come from the one to the other; nothing of no keys. */
function keysAbout(keys: readonly PlaceKey[], time: number): readonly [PlaceKey, PlaceKey, number] | undefined {
  const next = keys.findIndex((k) => k.at > time);
  const [a, b] = [keys[next < 0 ? keys.length - 1 : Math.max(0, next - 1)], keys[next < 0 ? keys.length - 1 : next]];
  if (!a || !b) return undefined;
  const span = b.at - a.at;
  return [a, b, span > 0 ? Math.min(1, Math.max(0, (time - a.at) / span)) : 0];
}

/** Where a callout is at a time: between keys straight on and evenly, before the first and after the last as there. */
export function placeAt(keys: readonly PlaceKey[], time: number): FramePlace {
  const about = keysAbout(keys, time);
  return about ? betweenPlaces(about[0].place, about[1].place, about[2]) : [0.5, 0.5];
}

/** Where a ruler ends at a time; nothing of what is none. */
export function endAt(keys: readonly PlaceKey[], time: number): FramePlace | undefined {
  const about = keysAbout(keys, time);
  return about?.[0].end && about[1].end ? betweenPlaces(about[0].end, about[1].end, about[2]) : undefined;
}

/** What of the frame is seen at a time of a passage; nothing where that is all of it. */
export const nearAt = ({ from, to, near }: FilmPassage, time: number): Near | undefined =>
  near?.to
    ? { ...near, place: betweenPlaces(near.place, near.to, Math.min(1, Math.max(0, (time - from) / (to - from)))) }
    : near;

/** A callout at a time: where it is then. */
export interface CalloutNow {
  readonly kind: FilmCallout['kind'];
  readonly text: string;
  readonly place: FramePlace;
  readonly end?: FramePlace | undefined;
}

/** A ruler is marked off in so many parts. */
export const RULER_PARTS = 8;

/** How far above the middle of a place its words stand, as a share of the picture's height. */
export const WORDS_ABOVE: Readonly<Record<FilmCallout['kind'], number>> = {
  label: 0.04,
  ring: 0.12,
  arrow: 0.21,
  cross: 0.13,
  ruler: 0,
  blur: 0.14,
};

/** What is laid over the frame of a time. */
export const calloutsAt = ({ callouts = [] }: OnFilm, time: number): CalloutNow[] =>
  callouts.flatMap(({ kind, text, keys, until }) => {
    const from = keys[0]?.at ?? Infinity;
    if (time <= from - SAME_FRAME || time >= until) return [];
    const end = endAt(keys, time);
    return [{ kind, text, place: placeAt(keys, time), ...(end ? { end } : {}) }];
  });

/** The passage that a time lies in. */
export const passageAt = ({ passages = [] }: OnFilm, time: number): FilmPassage | undefined =>
  passages.find((p) => time > p.from - SAME_FRAME && time < p.to);

/** The step that is tied at a time of a film. */
export const stepAt = (
  steps: readonly { readonly step: number; readonly at: number }[] | undefined,
  time: number,
): number | undefined => steps?.filter((s) => s.at <= time + SAME_FRAME).at(-1)?.step;

/** How the picture is moved and made larger so that a place is in its middle, as far as it has an edge: shares of its width and height. */
export function nearOf({ place: [x, y], times }: Near): {
  readonly times: number;
  readonly left: number;
  readonly top: number;
} {
  const edge = (v: number): number => Math.min(1 - 1 / times, Math.max(0, v - 0.5 / times));
  return { times, left: edge(x), top: edge(y) };
}

/** How a frame is turned and moved so that it is still: across is counted in heights, so that a turn stays one. */
export interface Steadied {
  readonly cos: number;
  readonly sin: number;
  readonly dx: number;
  readonly dy: number;
}

/** A film that is held still is seen so much nearer at most, for its edges not to come into the picture. */
const STEADY_NEARER = 1.3;

/** The move that brings two places to where they are in the mean, in heights; nothing where they are one. */
function moveOf([a, b]: Pair, [p, q]: Pair): Steadied | undefined {
  const [vx, vy] = [b[0] - a[0], b[1] - a[1]];
  const [wx, wy] = [q[0] - p[0], q[1] - p[1]];
  const square = vx * vx + vy * vy;
  if (square < 1e-6) return undefined;
  const [cos, sin] = [(wx * vx + wy * vy) / square, (wy * vx - wx * vy) / square];
  return { cos, sin, dx: p[0] - cos * a[0] + sin * a[1], dy: p[1] - sin * a[0] - cos * a[1] };
}
type Pair = readonly [FramePlace, FramePlace];

const movedBy = ({ cos, sin, dx, dy }: Steadied, [x, y]: FramePlace): FramePlace => [
  cos * x - sin * y + dx,
  sin * x + cos * y + dy,
];

/** How a film of so many heights across is held still: the move of each of its keys. */
const steadyOf = new WeakMap<
  readonly SteadyKey[],
  { readonly shape: number; readonly mean: Pair; readonly times: number }
>();

function heldStill(keys: readonly SteadyKey[], shape: number): { readonly mean: Pair; readonly times: number } {
  const known = steadyOf.get(keys);
  if (known?.shape === shape) return known;
  const mean = (of: 'a' | 'b'): FramePlace => {
    const sum = keys.reduce<FramePlace>(([x, y], k) => [x + k[of][0], y + k[of][1]], [0, 0]);
    return [(shape * sum[0]) / keys.length, sum[1] / keys.length];
  };
  const still: Pair = [mean('a'), mean('b')];
  // How far an edge comes into the picture, as a share of it.
  const inward = keys.reduce((most, { a, b }) => {
    const move = moveOf([inHeights(a, shape), inHeights(b, shape)], still);
    if (!move) return most;
    const corners = [
      [0, 0],
      [shape, 0],
      [shape, 1],
      [0, 1],
    ] as const;
    return corners.reduce((far, [x, y]) => {
      const [u, v] = movedBy(move, [x, y]);
      return Math.max(far, (x === 0 ? u : shape - u) / shape, y === 0 ? v : 1 - v);
    }, most);
  }, 0);
  const held = { shape, mean: still, times: Math.min(STEADY_NEARER, 1 / Math.max(0.1, 1 - 2 * inward)) };
  steadyOf.set(keys, held);
  return held;
}

const inHeights = ([x, y]: FramePlace, shape: number): FramePlace => [shape * x, y];

/** How the frame of a time is held still in a film of so many heights across; nothing where it is shown as it was filmed. */
export function steadyAt({ steady }: OnFilm, time: number, shape: number): Steadied | undefined {
  if (!steady || steady.length === 0) return undefined;
  const { mean, times } = heldStill(steady, shape);
  const place = (of: 'a' | 'b'): FramePlace =>
    inHeights(
      placeAt(
        steady.map((k) => ({ at: k.at, place: k[of] })),
        time,
      ),
      shape,
    );
  const move = moveOf([place('a'), place('b')], mean);
  return (
    move && {
      cos: times * move.cos,
      sin: times * move.sin,
      dx: times * (move.dx - shape / 2) + shape / 2,
      dy: times * (move.dy - 0.5) + 0.5,
    }
  );
}

/** Where a place is in a frame that is held still. */
export function steadied(place: FramePlace, steady: Steadied | undefined, shape: number): FramePlace {
  if (!steady) return place;
  const [x, y] = movedBy(steady, inHeights(place, shape));
  return [x / shape, y];
}

/** Whether a callout may have a place in the frame of a time: one that it has there is put elsewhere, and it has so many at most. */
export const mayKey = ({ keys }: FilmCallout, at: number): boolean =>
  keys.length < ON_FILM.keys || keys.some((k) => Math.abs(k.at - at) <= SAME_FRAME);

/** A callout with its place in the frame of a time; it is shown at least until then. */
export function keyed(callout: FilmCallout, at: number, place: FramePlace): FilmCallout {
  const others = callout.keys.filter((k) => Math.abs(k.at - at) > SAME_FRAME);
  // A ruler goes with its beginning, as long as it was there.
  const [was, ended] = [placeAt(callout.keys, at), endAt(callout.keys, at)];
  const end: FramePlace | undefined = ended && [ended[0] + place[0] - was[0], ended[1] + place[1] - was[1]];
  const keys = [...others, { at, place, ...(end ? { end: inFrame(end) } : {}) }].sort((a, b) => a.at - b.at);
  return { ...callout, keys, until: Math.max(callout.until, at + SHORTEST) };
}

const inFrame = ([x, y]: FramePlace): FramePlace => [Math.min(1, Math.max(0, x)), Math.min(1, Math.max(0, y))];

/** A ruler that ends at a place of the frame of a time: by as much it ends elsewhere all the time. */
export function endedAt(callout: FilmCallout, at: number, end: FramePlace): FilmCallout {
  const was = endAt(callout.keys, at) ?? end;
  const [dx, dy] = [end[0] - was[0], end[1] - was[1]];
  return {
    ...callout,
    keys: callout.keys.map((k) => ({ ...k, end: inFrame([(k.end ?? end)[0] + dx, (k.end ?? end)[1] + dy]) })),
  };
}

/** How long a ruler is at first, as a share of the width. */
const FIRST_RULER = 0.2;

/** A new callout at a frame, shown for a while, but not beyond the film. */
export const calloutFrom = (
  kind: FilmCallout['kind'],
  text: string,
  at: number,
  place: FramePlace,
  duration: number,
): FilmCallout => ({
  kind,
  text,
  keys: [{ at, place, ...(kind === 'ruler' ? { end: inFrame([place[0] + FIRST_RULER, place[1]]) } : {}) }],
  until: Math.min(Math.max(duration, at + SHORTEST), at + FIRST_LENGTH),
});

/** A passage put in among others: those that it overlaps make room for it; what is left of them too short is gone. */
export function withPassage(passages: readonly FilmPassage[], passage: FilmPassage): FilmPassage[] {
  const cut = passages.flatMap((p): FilmPassage[] => {
    if (p.to <= passage.from || p.from >= passage.to) return [p];
    const before = { ...p, to: passage.from };
    // What stood still at its beginning has done so already.
    const { still: _still, ...rest } = p;
    const after = { ...rest, from: passage.to };
    return [before, after].filter((q) => q.to - q.from >= SHORTEST);
  });
  return [...cut, passage].sort((a, b) => a.from - b.from);
}

/** A new passage from a frame on, or nothing where the film has no room for one. */
export function passageFrom(at: number, duration: number): FilmPassage | undefined {
  const to = Math.min(duration, at + FIRST_LENGTH);
  return to - at >= SHORTEST ? { from: at, to, speed: 0.5 } : undefined;
}

/** What is laid over a film, without what is empty. */
export const onFilm = <F extends OnFilm>(film: F, { callouts, passages }: Pick<OnFilm, 'callouts' | 'passages'>): F => {
  const { callouts: _callouts, passages: _passages, ...rest } = film;
  return {
    ...rest,
    ...(callouts && callouts.length > 0 ? { callouts } : {}),
    ...(passages && passages.length > 0 ? { passages } : {}),
  } as F;
};

/** Why what is laid over a film of so many seconds does not fit it. */
export function onFilmTrouble(
  { callouts = [], passages = [], steady = [] }: OnFilm,
  duration: number,
): string | undefined {
  const beyond = (at: number): boolean => at < 0 || at > duration + 0.25;
  if (steady.some((k, i) => beyond(k.at) || (i > 0 && k.at <= (steady[i - 1]?.at ?? 0))))
    return 'The places by which it is held still are not in the order of time, or where the film is not.';
  const said = callouts.find((c) => c.keys.length === 0 || c.keys.some((k) => beyond(k.at)) || beyond(c.until));
  if (said) return `“${said.text}” is shown where the film is not.`;
  if (callouts.some((c) => c.keys.some((k, i) => i > 0 && k.at <= (c.keys[i - 1]?.at ?? 0))))
    return 'The places of a callout are not in the order of time.';
  const sorted = [...passages].sort((a, b) => a.from - b.from);
  const wrong = sorted.find((p, i) => p.to <= p.from || beyond(p.to) || p.from < (sorted[i - 1]?.to ?? 0) - 1e-6);
  return (
    wrong &&
    `What is played otherwise from ${wrong.from.toFixed(1)} s ends before it begins, overlaps, or leaves the film.`
  );
}
