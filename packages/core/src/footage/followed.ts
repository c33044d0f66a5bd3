/**
 * A place of a film followed from frame to frame by what it looks like: the best place of a small part of the picture in the next one, by
 * normalised cross-correlation. Source: J. P. Lewis, "Fast Normalized Cross-Correlation", Vision Interface 1995.
 */
import type { FramePlace, PlaceKey, SteadyKey } from './on-film.js';

/** A picture without its colours: a byte for each pixel, row by row. */
export interface Grey {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array | Uint8ClampedArray;
}

/** What a place looks like: the pixels about it, their mean taken off, their length made one. */
export interface LooksLike {
  readonly values: Float32Array;
}

/** Half the side of what is compared, and how far it is looked for from where it was, in pixels of a picture that is 480 wide. */
const HALF = 10;
const REACH = 26;
/** Every so many pixels it is tried first, then about the best of these. */
const COARSE = 2;
/** Pixels that differ by less than this about their mean, out of 255, look like anything. */
const LEAST_CONTRAST = 4;
/** A place that looks as little like it as this is lost; 1 is the same. */
const LOST = 0.6;

/** The pixels about a place; their mean taken off, their length one. Nothing where they leave the picture or are all alike. */
function patch({ width, height, data }: Grey, x: number, y: number, into: Float32Array): boolean {
  if (x < HALF || y < HALF || x >= width - HALF || y >= height - HALF) return false;
  let k = 0;
  let sum = 0;
  for (let v = y - HALF; v <= y + HALF; v += 1)
    for (let u = x - HALF; u <= x + HALF; u += 1) sum += into[k++] = data[v * width + u] as number;
  const mean = sum / into.length;
  let square = 0;
  for (let i = 0; i < into.length; i += 1) square += (into[i] = (into[i] as number) - mean) ** 2;
  if (square < into.length * LEAST_CONTRAST ** 2) return false;
  const length = Math.sqrt(square);
  for (let i = 0; i < into.length; i += 1) into[i] = (into[i] as number) / length;
  return true;
}

const side = 2 * HALF + 1;
const scratch = new Float32Array(side * side);

const pixelOf = ({ width, height }: Grey, [x, y]: FramePlace): readonly [number, number] => [
  Math.round(x * width - 0.5),
  Math.round(y * height - 0.5),
];

/** What a place of a picture looks like; nothing where it is at the edge, or looks like anything about it. */
export function looksLike(picture: Grey, place: FramePlace): LooksLike | undefined {
  const values = new Float32Array(side * side);
  return patch(picture, ...pixelOf(picture, place), values) ? { values } : undefined;
}

/** Where something is in a picture that was near a place before; nothing where it is lost. */
export function followed(picture: Grey, { values }: LooksLike, near: FramePlace): FramePlace | undefined {
  const alike = (x: number, y: number): number => {
    if (!patch(picture, x, y, scratch)) return -1;
    let sum = 0;
    for (let i = 0; i < values.length; i += 1) sum += (values[i] as number) * (scratch[i] as number);
    return sum;
  };
  const [x0, y0] = pixelOf(picture, near);
  let [x, y, best] = [x0, y0, alike(x0, y0)];
  const look = (fromX: number, fromY: number, reach: number, step: number): void => {
    for (let v = fromY - reach; v <= fromY + reach; v += step)
      for (let u = fromX - reach; u <= fromX + reach; u += step) {
        const worth = alike(u, v);
        if (worth > best) [x, y, best] = [u, v, worth];
      }
  };
  look(x0, y0, REACH, COARSE);
  look(x, y, COARSE - 1, 1);
  if (best < LOST) return undefined;
  // Between pixels it lies where a parabola through the best and its neighbours is highest.
  const between = (before: number, after: number): number => {
    const bend = before - 2 * best + after;
    return bend < -1e-9 ? Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend))) : 0;
  };
  const [dx, dy] = [between(alike(x - 1, y), alike(x + 1, y)), between(alike(x, y - 1), alike(x, y + 1))];
  return [(x + dx + 0.5) / picture.width, (y + dy + 0.5) / picture.height];
}

/** Keys without those that lie within a tolerance of where the others lead, no more than so many in a row; the first and the last stay. */
function thinned<K extends { readonly at: number }>(
  keys: readonly K[],
  placesOf: (key: K) => readonly FramePlace[],
  tolerance: number,
  inRow = Infinity,
): K[] {
  const off = (a: K, b: K, k: K): number => {
    const t = (k.at - a.at) / (b.at - a.at);
    const [p, q, r] = [placesOf(a), placesOf(b), placesOf(k)];
    return r.reduce((most, [x, y], i) => {
      const [[ax, ay], [bx, by]] = [p[i] as FramePlace, q[i] as FramePlace];
      return Math.max(most, Math.abs(x - ax - t * (bx - ax)), Math.abs(y - ay - t * (by - ay)));
    }, 0);
  };
  const kept: K[] = keys.slice(0, 1);
  let from = 0;
  while (from < keys.length - 1) {
    let to = from + 1;
    while (
      to + 1 < keys.length &&
      to - from < inRow &&
      keys.slice(from + 1, to + 1).every((k) => off(keys[from] as K, keys[to + 1] as K, k) <= tolerance)
    )
      to += 1;
    kept.push(keys[to] as K);
    from = to;
  }
  return kept;
}

/** How far a key may lie beside where the others lead, as a share of the frame: less than a pixel of a film. */
const TOLERANCE = 0.0006;

/** The keys of something that was followed, no more than so many: the farther apart, the more there were. */
export function keysOf(found: readonly PlaceKey[], most: number): PlaceKey[] {
  let tolerance = TOLERANCE;
  let keys = thinned(found, (k) => [k.place], tolerance);
  while (keys.length > most) keys = thinned(found, (k) => [k.place], (tolerance *= 1.5));
  return keys;
}

/** A long film in which nothing moves is not compared with all of itself: ten seconds are. */
const IN_ROW = 250;

/** The keys by which a film is held still, without those that change nothing. */
export const steadyKeys = (found: readonly SteadyKey[]): SteadyKey[] =>
  thinned(found, (k) => [k.a, k.b], TOLERANCE, IN_ROW);
