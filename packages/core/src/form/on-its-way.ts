/**
 * A knot on its way from the drawing to the knot as it lies in the hand, to be shown in time: how its ropes lie at any share of the way,
 * from where they are seen, and how near.
 *
 * The computation is slow where little moves and quick where much does; here equal shares of the way are equal motion.
 */
import type { Figure } from '../figure/figure.js';
import type { Box } from '../figure/point.js';
import { placeOf, type Chain, type Form } from './form.js';
import type { SetForm, Watched } from './set.js';
import { sightOf, STATIONS, type Sight, type Station } from './sight.js';
import { frameOf, steadyFrame } from './strokes.js';
import { lengthOfVector, less, sum, times, type Vector } from './vector.js';

interface Moment {
  readonly chains: readonly Chain[];
  /** Share of the way, from 0 to 1. */
  readonly at: number;
  /** What is to be seen of it from in front, and from behind. */
  readonly frames: readonly [front: Box, back: Box];
}

/** A knot being drawn tight. */
export interface Tightening {
  readonly figure: Figure;
  readonly form: SetForm;
  readonly moments: readonly Moment[];
  /** The turn in the plane of the board on the way, in radians. */
  readonly level: number;
}

/** Moments nearer to one another than this mean motion of a bead, in diameters, are shown as one. */
const LEAST_MOTION = 0.06;
/** Frames follow the knot over so many moments before and after, so that the view moves evenly. */
const STEADY = 4;

/** Place of a chain at a share of its length. */
function sampled(chain: Chain, count: number): Float64Array {
  const n = chain.at.length;
  const total = chain.closed ? n : n - 1;
  const lengths = [0];
  for (let i = 0; i < total; i += 1)
    lengths.push(lengths[i]! + lengthOfVector(less(placeOf(chain.x, i), placeOf(chain.x, (i + 1) % n))));
  const whole = lengths[total]!;
  const out = new Float64Array(3 * count);
  let i = 0;
  for (let k = 0; k < count; k += 1) {
    const wanted = (whole * k) / (chain.closed ? count : count - 1);
    while (i < total - 1 && lengths[i + 1]! < wanted) i += 1;
    const span = lengths[i + 1]! - lengths[i]!;
    const t = span > 0 ? Math.min(1, (wanted - lengths[i]!) / span) : 0;
    out.set(mixedPlace(placeOf(chain.x, i), placeOf(chain.x, (i + 1) % n), t), 3 * k);
  }
  return out;
}

const mixedPlace = (p: Vector, q: Vector, t: number): Vector => sum(times(p, 1 - t), times(q, t));

/** How the ropes lie between two moments; an outlet stands at its share of the beads. */
function mixedChains(a: readonly Chain[], b: readonly Chain[], t: number): Chain[] {
  return a.map((p, k): Chain => {
    const q = b[k]!;
    if (t <= 0) return p;
    if (t >= 1) return q;
    const n = Math.max(p.at.length, q.at.length);
    const [x, y] = [sampled(p, n), sampled(q, n)];
    const nearer = t < 0.5 ? p : q;
    const share = (n - 1) / (nearer.at.length - 1);
    return {
      ...nearer,
      x: x.map((v, i) => v + t * (y[i]! - v)),
      at: new Float64Array(n),
      outlets: nearer.outlets.map((o) => ({
        ...o,
        first: Math.round(o.first * share),
        last: Math.round(o.last * share),
      })),
    };
  });
}

/** Mean distance that a bead has gone from one moment to another, in diameters. */
function motion(a: readonly Chain[], b: readonly Chain[]): number {
  const SAMPLES = 120;
  let whole = 0;
  a.forEach((p, k) => {
    const [x, y] = [sampled(p, SAMPLES), sampled(b[k]!, SAMPLES)];
    for (let i = 0; i < SAMPLES; i += 1) whole += lengthOfVector(less(placeOf(x, i), placeOf(y, i)));
  });
  return whole / (SAMPLES * Math.max(1, a.length));
}

/** A sight of what has been turned in the plane of the board by an angle, given for how it lies before. */
function beforeTurn({ right, down, near }: Sight, angle: number): Sight {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const back = ([x, y, z]: Vector): Vector => [c * x + s * y, c * y - s * x, z];
  return { right: back(right), down: back(down), near: back(near) };
}

const meanBox = (boxes: readonly Box[]): Box =>
  [0, 1, 2, 3].map((k) => boxes.reduce((total, b) => total + b[k]!, 0) / boxes.length) as unknown as Box;
const mixedBox = (a: Box, b: Box, t: number): Box =>
  [0, 1, 2, 3].map((k) => a[k]! + t * (b[k]! - a[k]!)) as unknown as Box;

/** The way of a knot that was watched while it was set. */
export function onItsWay(figure: Figure, { form, moments, level }: Watched): Tightening {
  const angle = Math.atan2(level[1], level[0]);
  const last = moments.length - 1;
  const kept: { readonly chains: readonly Chain[]; readonly gone: number }[] = [];
  moments.forEach((chains, i) => {
    const before = kept.at(-1);
    const moved = before ? motion(before.chains, chains) : 0;
    if (before && moved < LEAST_MOTION && i < last) return;
    kept.push({ chains, gone: (before?.gone ?? 0) + moved });
  });
  const gone = kept.at(-1)?.gone ?? 0;
  const whole = gone > 0 ? gone : 1;
  const framed = kept.map((moment) => {
    const { chains } = moment;
    const at = moment.gone / whole;
    const seen = (base: Sight): Box => frameOf({ chains, solids: form.solids }, beforeTurn(base, at * angle));
    return { chains, at, frames: [seen(STATIONS.front), seen(STATIONS.back)] as const };
  });
  return {
    figure,
    form,
    level: angle,
    moments: framed.map((m, i): Moment => {
      // The first and the last are seen as they are.
      const reach = Math.min(STEADY, i, framed.length - 1 - i);
      const around = framed.slice(i - reach, i + reach + 1);
      return { ...m, frames: [meanBox(around.map((a) => a.frames[0])), meanBox(around.map((a) => a.frames[1]))] };
    }),
  };
}

/** A form, from where it is seen, and the frame of the picture. */
export interface Pose {
  readonly form: Form;
  readonly sight: Sight;
  readonly frame: Box;
}

/** The face of the knot that is shown. */
export type FormSide = 'front' | 'back';

/** The knot at a share of the way. */
export function wayAt({ moments, form, level }: Tightening, share: number, face: FormSide = 'front'): Pose {
  const next = moments.findIndex((m) => m.at >= share);
  const [a, b] = [
    moments[Math.max(0, next < 0 ? moments.length - 2 : next - 1)]!,
    moments[next < 0 ? moments.length - 1 : next]!,
  ];
  const t = b.at > a.at ? Math.min(1, Math.max(0, (share - a.at) / (b.at - a.at))) : 1;
  const k = face === 'front' ? 0 : 1;
  return {
    form: { chains: mixedChains(a.chains, b.chains, t), solids: form.solids },
    sight: beforeTurn(STATIONS[face], Math.min(1, Math.max(0, share)) * level),
    frame: mixedBox(a.frames[k], b.frames[k], t),
  };
}

/** The set knot, held to be looked at. */
export const heldFrom = ({ form }: Tightening, station: Station): Pose => {
  const sight = STATIONS[station];
  return { form, sight, frame: frameOf(form, sight) };
};

/** The set knot while it is turned over by a true half turn about its upright axis; from a face at 0 to the other at 1. */
export function turningOver(way: Tightening, from: FormSide, share: number): Pose {
  if (share <= 0) return heldFrom(way, from);
  if (share >= 1) return heldFrom(way, from === 'front' ? 'back' : 'front');
  const start = from === 'front' ? 0 : Math.PI;
  const sight = sightOf({ yaw: start + Math.PI * share, pitch: 0 });
  const near = heldFrom(way, share < 0.5 ? from : from === 'front' ? 'back' : 'front').frame;
  // Widest half way, where nothing is known of how much of it is seen.
  const away = Math.sin(Math.PI * share);
  return { form: way.form, sight, frame: mixedBox(near, steadyFrame(way.form, sight), away) };
}

/** The mirror image of what is shown: the knot of the other hand. */
export const inOtherHand = ({ form, sight, frame: [l, t, r, b] }: Pose): Pose => ({
  form,
  sight: { ...sight, right: times(sight.right, -1) },
  frame: [-r, t, -l, b],
});
