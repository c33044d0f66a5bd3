/**
 * What a form tells: the rope that a knot eats, its size, its sharpest bends, what presses on what, where its parts leave, and which
 * strands are seen side by side and which cross, from each side. Unit: rope diameters.
 */
import type { TrailPosition, TrailSpan } from '../figure/figure.js';
import { nearestOn } from './contact.js';
import { knotBeads, onChain, placeOf, type Chain, type Form, type Outlet, type Solid } from './form.js';
import { STATIONS, type Station } from './sight.js';
import { crossOf, dotOf, lengthOfVector, less, times, unitOf, type Vector } from './vector.js';

/** One rope's share of a knot. */
export interface StrandMeasure {
  readonly rope: string;
  /** Rope between the places where its parts leave straight, without its loops. */
  readonly eaten: number;
  /** Radius of its sharpest bend, to the middle of the rope, and where it is on the drawn trail. */
  readonly sharpest: { readonly radius: number; readonly at: number };
}

/** A stretch of one strand that presses on a stretch of another, of itself, or on a host. */
export interface ContactStretch {
  readonly a: TrailSpan;
  /** A host has no places along it: from 0 to 0. */
  readonly b: TrailSpan;
  /** How long they touch. */
  readonly length: number;
  /**
   * How hard they press on each other, against the pull of a standing part: a rope under a tension T that turns by an angle dθ presses
   * with T·dθ on what it turns about (Euler, “Remarques sur l’effet du frottement”, 1762). Of the two strands the one that presses
   * harder counts: the other may be held from behind. Ropes without friction; what gives way under pressure is not reckoned with.
   */
  readonly force: number;
}

/** Where a part leaves the knot, and which way. */
export interface ExitMeasure {
  readonly rope: string;
  readonly kind: Outlet['kind'];
  readonly place: Vector;
  readonly way: Vector;
}

/** Two strands that are seen side by side. */
export interface SeenParallel {
  readonly a: TrailSpan;
  readonly b: TrailSpan;
  readonly length: number;
}

/** A strand that is seen to lie across another. */
export interface SeenCross {
  readonly over: TrailPosition;
  readonly under: TrailPosition;
  /** The angle between them, in degrees up to 90. */
  readonly angle: number;
}

export interface SideMarks {
  readonly parallels: readonly SeenParallel[];
  readonly crosses: readonly SeenCross[];
}

export interface FormMeasure {
  readonly strands: readonly StrandMeasure[];
  /** Length, breadth and thickness of the knot without its leads, loops and tails: rope surface to rope surface, the greatest first. */
  readonly size: readonly [number, number, number];
  readonly contacts: readonly ContactStretch[];
  readonly exits: readonly ExitMeasure[];
}

/** Strands whose surfaces are nearer than this touch. */
const TOUCH = 0.06;
/** Places of one rope nearer than this along it are one place. */
const ALONG = 1.6;
/** Strands are seen side by side where their middles are no farther apart than this, and their directions have at least this cosine. */
const BESIDE = { apart: 1.25, cosine: 0.9, shortest: 1.2 } as const;
/** Strands cross where the cosine of their directions is less than this. */
const ACROSS = 0.85;

const wayAt = (chain: Chain, i: number): Vector =>
  unitOf(less(placeOf(chain.x, onChain(chain, i + 1) ?? i), placeOf(chain.x, onChain(chain, i - 1) ?? i)));

/** Radius of the circle through three places. */
function radiusThrough(a: Vector, b: Vector, c: Vector): number {
  const [u, v, w] = [less(b, a), less(c, b), less(c, a)];
  const area = lengthOfVector(crossOf(u, v));
  return area < 1e-9 ? Infinity : (lengthOfVector(u) * lengthOfVector(v) * lengthOfVector(w)) / (2 * area);
}

function measureStrand(chain: Chain): StrandMeasure {
  const beads = knotBeads(chain);
  let eaten = 0;
  let sharpest = { radius: Infinity, at: chain.at[0]! };
  const reach = 2;
  for (const i of beads) {
    const next = onChain(chain, i + 1);
    if (next !== undefined) eaten += lengthOfVector(less(placeOf(chain.x, i), placeOf(chain.x, next)));
    const [before, after] = [onChain(chain, i - reach), onChain(chain, i + reach)];
    if (before === undefined || after === undefined) continue;
    const radius = radiusThrough(placeOf(chain.x, before), placeOf(chain.x, i), placeOf(chain.x, after));
    if (radius < sharpest.radius) sharpest = { radius, at: chain.at[i]! };
  }
  return { rope: chain.rope, eaten, sharpest };
}

/** Axes of greatest extent: the load's, then across it in the plane of the board, then toward the reader. */
function sizeOf(form: Form): [number, number, number] {
  const load = form.chains.flatMap((c) => c.outlets).find((o) => o.kind !== 'tail')?.way ?? [1, 0, 0];
  const along = unitOf([load[0], load[1], 0]);
  const axes: Vector[] = [along, [-along[1], along[0], 0], [0, 0, 1]];
  const extents = axes.map((axis) => {
    let [low, high] = [Infinity, -Infinity];
    for (const c of form.chains)
      for (const i of knotBeads(c)) {
        const v = dotOf(placeOf(c.x, i), axis);
        low = Math.min(low, v - c.radius);
        high = Math.max(high, v + c.radius);
      }
    return high < low ? 0 : high - low;
  });
  return extents.sort((a, b) => b - a) as [number, number, number];
}

interface Near {
  readonly i: number;
  readonly j: number;
}

/** Consecutive pairs of beads, as runs along both strands. */
function runsOf(pairs: readonly Near[], jump: number): Near[][] {
  const runs: Near[][] = [];
  for (const pair of [...pairs].sort((p, q) => p.i - q.i)) {
    const run = [...runs].reverse().find((r) => pair.i - r.at(-1)!.i <= 2 && Math.abs(pair.j - r.at(-1)!.j) <= jump);
    if (run) run.push(pair);
    else runs.push([pair]);
  }
  return runs;
}

const spanOf = (chain: Chain, beads: readonly number[]): TrailSpan => {
  const places = beads.map((i) => chain.at[i]!);
  return { strand: chain.rope, from: Math.min(...places), to: Math.max(...places) };
};

const lengthAlong = (chain: Chain, beads: readonly number[]): number => {
  const [first, last] = [Math.min(...beads), Math.max(...beads)];
  let length = 0;
  for (let i = first; i < last; i += 1) length += lengthOfVector(less(placeOf(chain.x, i), placeOf(chain.x, i + 1)));
  return length;
};

/** Every pair of chains, each with itself too. */
function* pairsOf(form: Form): Generator<readonly [Chain, Chain]> {
  for (const [k, a] of form.chains.entries()) for (const b of form.chains.slice(k)) yield [a, b];
}

/** For each bead of a chain the nearest bead of another that `counts`, if any is within reach. */
function nearestPairs(
  a: Chain,
  b: Chain,
  counts: (i: number, j: number) => boolean,
  distance: (i: number, j: number) => number,
  reach: number,
): Near[] {
  const spacing = lengthOfVector(less(placeOf(a.x, 0), placeOf(a.x, 1))) || 0.25;
  const apart = Math.ceil(ALONG / spacing);
  const out: Near[] = [];
  for (let i = 0; i < a.at.length; i += 1) {
    let best: Near | undefined;
    let least = reach;
    for (let j = a === b ? i + apart : 0; j < b.at.length; j += 1) {
      if (a === b && a.closed && a.at.length - (j - i) < apart) continue;
      const d = distance(i, j);
      if (d < least && counts(i, j)) [best, least] = [{ i, j }, d];
    }
    if (best) out.push(best);
  }
  return out;
}

/** Tensions where nothing is said of them: see `pulls.ts`. */
const TENSIONS: Readonly<Record<Outlet['kind'], number>> = { standing: 1, off: 1, eye: 0.7, tail: 0.6 };

/** The tension at a bead: it goes evenly from one outlet to the next. */
function tensionAt({ outlets, closed, at }: Chain, i: number): number {
  const tensionOf = (o: Outlet): number => o.tension ?? TENSIONS[o.kind];
  const on = outlets.find((o) => i >= o.first && i <= o.last);
  if (on || outlets.length === 0) return on ? tensionOf(on) : 1;
  const before = outlets.filter((o) => o.last < i).at(-1) ?? (closed ? outlets.at(-1) : undefined);
  const after = outlets.find((o) => o.first > i) ?? (closed ? outlets[0] : undefined);
  if (!before || !after) return tensionOf((before ?? after)!);
  const n = at.length;
  const along = (from: number, to: number): number => (closed ? (to - from + n) % n : to - from);
  return (
    tensionOf(before) +
    (along(before.last, i) / (along(before.last, after.first) || 1)) * (tensionOf(after) - tensionOf(before))
  );
}

/** How hard the rope at a bead presses toward a place, by its tension and how it turns there. */
function pressAt(chain: Chain, i: number, toward: Vector): number {
  const [before, after] = [onChain(chain, i - 1), onChain(chain, i + 1)];
  if (before === undefined || after === undefined) return 0;
  const here = placeOf(chain.x, i);
  const turn = less(unitOf(less(placeOf(chain.x, after), here)), unitOf(less(here, placeOf(chain.x, before))));
  return tensionAt(chain, i) * Math.max(0, dotOf(turn, unitOf(less(toward, here))));
}

const total = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0);

function contactsOf(form: Form): ContactStretch[] {
  const between = [...pairsOf(form)].flatMap(([a, b]) => {
    const distance = (i: number, j: number): number => lengthOfVector(less(placeOf(a.x, i), placeOf(b.x, j)));
    const pairs = nearestPairs(a, b, () => true, distance, a.radius + b.radius + TOUCH);
    return runsOf(pairs, 6).map((run): ContactStretch => {
      const [own, other] = [run.map((p) => p.i), run.map((p) => p.j)];
      const back = new Map(run.map(({ i, j }) => [j, i] as const));
      const force = Math.max(
        total(run.map(({ i, j }) => pressAt(a, i, placeOf(b.x, j)))),
        total([...back].map(([j, i]) => pressAt(b, j, placeOf(a.x, i)))),
      );
      return { a: spanOf(a, own), b: spanOf(b, other), length: lengthAlong(a, own), force };
    });
  });
  const onHosts = form.chains.flatMap((a) => form.solids.flatMap((solid) => onSolid(a, solid)));
  return [...between, ...onHosts].sort((p, q) => q.force - p.force);
}

/** The stretches of a rope that lie on a host. */
function onSolid(a: Chain, solid: Solid): ContactStretch[] {
  const touching = Array.from(a.at, (_, i) => ({ i, on: nearestOn(solid, a.x, i) })).filter(
    ({ on }) => on[3] <= solid.radius + a.radius + TOUCH,
  );
  const runs: (typeof touching)[] = [];
  for (const one of touching) {
    const last = runs.at(-1)?.at(-1);
    if (last && one.i - last.i <= 2) runs.at(-1)!.push(one);
    else runs.push([one]);
  }
  return runs.map((run) => {
    const own = run.map(({ i }) => i);
    return {
      a: spanOf(a, own),
      b: { strand: solid.host, from: 0, to: 0 },
      length: lengthAlong(a, own),
      force: total(run.map(({ i, on }) => pressAt(a, i, [on[0], on[1], on[2]]))),
    };
  });
}

function exitsOf(form: Form): ExitMeasure[] {
  return form.chains.flatMap((c) => {
    const beads = knotBeads(c);
    const [first, last] = [beads[0] ?? 0, beads.at(-1) ?? c.at.length - 1];
    return c.outlets
      .filter((o) => o.kind !== 'eye')
      .map((o): ExitMeasure => {
        const exit = o.first === 0 ? first : last;
        const inward = wayAt(c, exit);
        return {
          rope: c.rope,
          kind: o.kind,
          place: placeOf(c.x, exit),
          way: o.first === 0 ? times(inward, -1) : inward,
        };
      });
  });
}

/** What a form measures. */
export const measureForm = (form: Form): FormMeasure => ({
  strands: form.chains.map(measureStrand),
  size: sizeOf(form),
  contacts: contactsOf(form),
  exits: exitsOf(form),
});

/** By chain and bead: whether the middle of the strand is seen, nothing lying over it. */
function visibility(form: Form, station: Station): ReadonlyMap<Chain, Uint8Array> {
  const { right, down, near } = STATIONS[station];
  const strands = [
    ...form.chains.map((c) => ({ x: c.x, radius: c.radius, chain: c })),
    ...form.solids.filter((s) => s.x.length > 6).map((s) => ({ x: s.x, radius: s.radius, chain: undefined })),
  ];
  return new Map(
    form.chains.map((c) => {
      const seen = new Uint8Array(c.at.length).fill(1);
      for (let i = 0; i < c.at.length; i += 1) {
        const p = placeOf(c.x, i);
        const [x, y, z] = [dotOf(p, right), dotOf(p, down), dotOf(p, near)];
        const isHidden = strands.some(({ x: other, radius, chain }) => {
          for (let j = 0; j < other.length / 3; j += 1) {
            const q = placeOf(other, j);
            const [dx, dy] = [dotOf(q, right) - x, dotOf(q, down) - y];
            if (chain === c && Math.abs(j - i) < 6) continue;
            if (dx * dx + dy * dy < radius * radius * 0.8 && dotOf(q, near) > z + radius * 0.5) return true;
          }
          return false;
        });
        if (isHidden) seen[i] = 0;
      }
      return [c, seen] as const;
    }),
  );
}

/** The marks of a form as they are seen from a side. */
export function marksSeen(form: Form, station: Station): SideMarks {
  const { right, down, near } = STATIONS[station];
  const seen = visibility(form, station);
  const knot = new Map(form.chains.map((c) => [c, new Set(knotBeads(c))]));
  const flat = (c: Chain, i: number): Vector => [dotOf(placeOf(c.x, i), right), dotOf(placeOf(c.x, i), down), 0];
  const flatWay = (c: Chain, i: number): Vector => {
    const w = wayAt(c, i);
    return unitOf([dotOf(w, right), dotOf(w, down), 0]);
  };
  const apart =
    (a: Chain, b: Chain) =>
    (i: number, j: number): number =>
      lengthOfVector(less(flat(a, i), flat(b, j)));
  const parallels = [...pairsOf(form)].flatMap(([a, b]) => {
    const counts = (i: number, j: number): boolean =>
      seen.get(a)![i] === 1 &&
      seen.get(b)![j] === 1 &&
      knot.get(a)!.has(i) &&
      knot.get(b)!.has(j) &&
      apart(a, b)(i, j) > 0.6 * (a.radius + b.radius) &&
      Math.abs(dotOf(flatWay(a, i), flatWay(b, j))) > BESIDE.cosine &&
      // Both run across the line of sight: what comes toward the reader is no line that is seen.
      Math.abs(dotOf(wayAt(a, i), near)) < 0.7;
    const pairs = nearestPairs(a, b, counts, apart(a, b), BESIDE.apart * (a.radius + b.radius));
    return runsOf(pairs, 6)
      .map((run): SeenParallel => {
        const [own, other] = [run.map((p) => p.i), run.map((p) => p.j)];
        return { a: spanOf(a, own), b: spanOf(b, other), length: lengthAlong(a, own) };
      })
      .filter((p) => p.length >= BESIDE.shortest);
  });
  const crosses = [...pairsOf(form)].flatMap(([a, b]) => {
    const counts = (i: number, j: number): boolean =>
      (knot.get(a)!.has(i) || knot.get(b)!.has(j)) && Math.abs(dotOf(flatWay(a, i), flatWay(b, j))) < ACROSS;
    return runsOf(nearestPairs(a, b, counts, apart(a, b), 0.2), 8).flatMap((run): SeenCross[] => {
      const { i, j } = run[run.length >> 1]!;
      const [over, k, under, m] =
        dotOf(placeOf(a.x, i), near) > dotOf(placeOf(b.x, j), near) ? ([a, i, b, j] as const) : ([b, j, a, i] as const);
      // Seen only where nothing lies over the upper strand, and the lower one comes out on both its sides.
      const isSeen = (c: Chain, from: number, step: 1 | -1): boolean =>
        Array.from({ length: 9 }, (_, s) => onChain(c, from + step * s)).some(
          (q) => q !== undefined && seen.get(c)![q] === 1,
        );
      if (seen.get(over)![k] !== 1 || !isSeen(under, m, 1) || !isSeen(under, m, -1)) return [];
      const cosine = Math.abs(dotOf(flatWay(over, k), flatWay(under, m)));
      const angle = (Math.acos(Math.min(1, cosine)) * 180) / Math.PI;
      return [
        {
          over: { strand: over.rope, at: over.at[k]! },
          under: { strand: under.rope, at: under.at[m]! },
          angle,
        },
      ];
    });
  });
  return { parallels, crosses };
}
