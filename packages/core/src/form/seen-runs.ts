/**
 * A form seen from a direction: which stretches of rope are painted in which order, so that what is nearer covers what is farther.
 *
 * Every strand is cut into short chords with a depth. A chord's ink lies a little deeper than its body, so that the body of the same rope
 * beside it covers it and ink is left only where a rope ends against what lies behind. Chords that lie over one another in the
 * picture are put in order by depth; the others are free, and stretches that follow one another are painted as one.
 */

/** One strand as it is seen: points in the picture and their depth (greater is nearer), in diameters. */
export interface SeenStrand {
  readonly points: Float64Array;
  readonly depth: Float64Array;
  readonly radius: number;
  readonly closed: boolean;
}

/** What of a strand is painted: its ink, its body, or what lies on its body. */
export const LAYERS = ['ink', 'body', 'texture'] as const;
export type Layer = (typeof LAYERS)[number];

/** A stretch that is painted at once: from chord `from` to chord `to` (excluded) of a strand; of a ring it may run past its start. */
export interface SeenRun {
  readonly strand: number;
  readonly layer: Layer;
  readonly from: number;
  readonly to: number;
}

/**
 * Ink lies as deep as the deepest body of its rope near it along the rope, but no deeper than this beneath its own, in diameters: a rope
 * that comes toward the reader has no lines across it.
 */
const NEAR_ALONG = 1.2;
/** Of a rope that lies across the line of sight, and of one along it. */
const DEEPEST = { across: 0.3, along: 1.3 };
const INK_DEEPER = 0.1;
/** What lies on a body is nearer than the body of its rope near it, but by no more than this, in diameters. */
const TEXTURE_NEARER = 0.35;
/**
 * Of a rope that comes toward the reader, ink lies beneath and texture above every body of it that they touch in the picture: those up to its
 * radius and a band’s length away. By how much deeper or nearer those are follows from how steeply it comes; beyond this above its
 * radius, in diameters, another strand may lie.
 */
const BAND_LENGTH = 0.4;
const MOST_BETWEEN = 0.35;
/** How far ink reaches beyond a strand's surface, in diameters. */
const INK = 0.06;

interface Chord {
  readonly strand: number;
  readonly index: number;
  readonly layer: Layer;
  readonly depth: number;
  readonly x: number;
  readonly y: number;
  readonly reach: number;
}

const chordCount = (s: SeenStrand): number => s.depth.length - (s.closed ? 0 : 1);

/** For each chord the depth of the deepest and of the nearest of its strand that is near it along the strand. */
function nearDepths(s: SeenStrand): { readonly deepest: Float64Array; readonly nearest: Float64Array } {
  const n = s.depth.length;
  const [deepest, nearest] = [s.depth.slice(), s.depth.slice()];
  const at = (i: number): number | undefined => (s.closed ? ((i % n) + n) % n : i < 0 || i >= n ? undefined : i);
  for (let i = 0; i < n; i += 1)
    for (const step of [1, -1]) {
      let along = 0;
      for (let k = i, next = at(i + step); next !== undefined && next !== i; k = next, next = at(k + step)) {
        const [dx, dy, dz] = [
          s.points[2 * next]! - s.points[2 * k]!,
          s.points[2 * next + 1]! - s.points[2 * k + 1]!,
          s.depth[next]! - s.depth[k]!,
        ];
        along += Math.sqrt(dx * dx + dy * dy + dz * dz);
        if (along > NEAR_ALONG * 2 * s.radius) break;
        deepest[i] = Math.min(deepest[i]!, s.depth[next]!);
        nearest[i] = Math.max(nearest[i]!, s.depth[next]!);
      }
    }
  return { deepest, nearest };
}

/**
 * A rope that comes straight toward the reader goes so little across the picture that the ink of each chord would be seen beside the next
 * one's body. There it lies beneath all of its own rope that it touches, as far as nothing else lies between.
 */
const STRAIGHT_ON = 2;
/** So far across the picture ink is seen beside a body, which is drawn within its surface, in diameters. */
const BESIDE = 4 * INK;

function beneathItsRope(chords: readonly Chord[], straightOn: ReadonlySet<number>): Chord[] {
  const bodies = chords.filter((c) => c.layer === 'body');
  const near = (a: Chord, b: Chord): number => Math.hypot(a.x - b.x, a.y - b.y);
  return chords.map((ink, i) => {
    if (ink.layer !== 'ink' || !straightOn.has(i)) return ink;
    const own = chords[i + 1] as Chord;
    let deepest = own.depth;
    const touched = new Set<Chord>();
    for (const step of [-1, 1])
      for (let k = i + 1; ; k += step * LAYERS.length) {
        const c = chords[k];
        if (!c || c.strand !== ink.strand || near(c, own) > BESIDE) break;
        touched.add(c);
        deepest = Math.min(deepest, c.depth);
      }
    const between = bodies.reduce(
      (most, c) =>
        c.depth < own.depth &&
        c.depth > most &&
        !touched.has(c) &&
        near(c, own) < c.reach + own.reach &&
        !isBeside(c, own)
          ? c.depth
          : most,
      -Infinity,
    );
    return {
      ...ink,
      depth: Math.min(ink.depth, Math.max(deepest - INK_DEEPER, between + TEXTURE_NEARER + INK_DEEPER)),
    };
  });
}

/** Chords of one strand that follow one another closely: the one is no more in the way of the other than its own. */
const isBeside = (a: Chord, b: Chord): boolean => a.strand === b.strand && Math.abs(a.index - b.index) <= 6;

function chordsOf(strands: readonly SeenStrand[]): Chord[] {
  const straightOn = new Set<number>();
  let count = 0;
  const chords = strands.flatMap((s, strand) => {
    const n = s.depth.length;
    const near = nearDepths(s);
    return Array.from({ length: chordCount(s) }, (_, index): Chord[] => {
      const next = (index + 1) % n;
      const [ax, ay, bx, by] = [
        s.points[2 * index]!,
        s.points[2 * index + 1]!,
        s.points[2 * next]!,
        s.points[2 * next + 1]!,
      ];
      const depth = (s.depth[index]! + s.depth[next]!) / 2;
      const half = Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay)) / 2;
      const rise = Math.abs(s.depth[next]! - s.depth[index]!) / 2;
      const steep = Math.max(0, rise / (Math.sqrt(half * half + rise * rise) || 1) - 0.75) * 4;
      const deepest = DEEPEST.across + steep * (DEEPEST.along - DEEPEST.across);
      const base = { strand, index, x: (ax + bx) / 2, y: (ay + by) / 2 };
      const touched = Math.min(s.radius + MOST_BETWEEN, (s.radius + BAND_LENGTH) * (rise / (half || 1)) + rise);
      const ink =
        Math.max(near.deepest[index]!, depth - Math.max(touched, deepest * Math.min(1, 2 * s.radius))) - INK_DEEPER;
      if (rise > STRAIGHT_ON * half) straightOn.add(count);
      count += LAYERS.length;
      const texture = Math.min(near.nearest[index]!, depth + Math.max(TEXTURE_NEARER, touched)) + INK_DEEPER / 2;
      return [
        { ...base, layer: 'ink', depth: ink, reach: half + s.radius + INK },
        { ...base, layer: 'body', depth, reach: half + s.radius },
        { ...base, layer: 'texture', depth: texture, reach: half + s.radius },
      ];
    }).flat();
  });
  return straightOn.size === 0 ? chords : beneathItsRope(chords, straightOn);
}

/** Which chords wait for which: `held[starts[j]] … held[starts[j + 1] − 1]` wait for chord j; `waits` counts for how many each waits. */
interface Order {
  readonly waits: Int32Array;
  readonly starts: Int32Array;
  readonly held: Int32Array;
}

/** Puts chords that lie over one another in order: the deeper is painted first; where they are alike, the one that comes first. */
function orderOf(chords: readonly Chord[]): Order {
  const n = chords.length;
  const cell = 2 * chords.reduce((most, c) => Math.max(most, c.reach), 0.1);
  const side = (v: number): number => Math.floor(v / cell);
  const keyOf = (i: number, j: number): number => i * 65_536 + j;
  const cells = new Map<number, number[]>();
  chords.forEach((c, i) => {
    const key = keyOf(side(c.x), side(c.y));
    const list = cells.get(key);
    if (list) list.push(i);
    else cells.set(key, [i]);
  });
  const [x, y, reach, depth] = (['x', 'y', 'reach', 'depth'] as const).map((k) =>
    Float64Array.from(chords, (c) => c[k]),
  ) as [Float64Array, Float64Array, Float64Array, Float64Array];
  const line = Int32Array.from(chords, (c) => LAYERS.length * c.strand + LAYERS.indexOf(c.layer));
  const index = Int32Array.from(chords, (c) => c.index);
  let pairs = new Int32Array(1 << 14);
  let count = 0;
  const waits = new Int32Array(n);
  const starts = new Int32Array(n + 1);
  for (let i = 0; i < n; i += 1) {
    const [cx, cy] = [side(x[i]!), side(y[i]!)];
    for (let gx = cx - 1; gx <= cx + 1; gx += 1)
      for (let gy = cy - 1; gy <= cy + 1; gy += 1) {
        const near = cells.get(keyOf(gx, gy));
        if (!near) continue;
        for (const j of near) {
          if (depth[j]! > depth[i]! || (depth[j] === depth[i] && j >= i)) continue;
          const [dx, dy, r] = [x[i]! - x[j]!, y[i]! - y[j]!, reach[i]! + reach[j]!];
          if (dx * dx + dy * dy >= r * r) continue;
          if (line[i] === line[j] && Math.abs(index[i]! - index[j]!) <= 2) continue;
          if (2 * count + 2 > pairs.length) {
            const more = new Int32Array(2 * pairs.length);
            more.set(pairs);
            pairs = more;
          }
          pairs[2 * count] = j;
          pairs[2 * count + 1] = i;
          count += 1;
          waits[i]! += 1;
          starts[j + 1]! += 1;
        }
      }
  }
  for (let j = 0; j < n; j += 1) starts[j + 1]! += starts[j]!;
  const held = new Int32Array(count);
  const filled = starts.slice();
  for (let k = 0; k < count; k += 1) {
    const j = pairs[2 * k]!;
    held[filled[j]!] = pairs[2 * k + 1]!;
    filled[j]! += 1;
  }
  return { waits, starts, held };
}

/** Chords that can be painted, the deepest first. */
class Ready {
  private readonly heap: number[] = [];
  constructor(private readonly chords: readonly Chord[]) {}

  private isBefore(i: number, j: number): boolean {
    const [a, b] = [this.chords[i]!, this.chords[j]!];
    return a.depth < b.depth || (a.depth === b.depth && i < j);
  }

  put(chord: number): void {
    const { heap } = this;
    let k = heap.push(chord) - 1;
    while (k > 0) {
      const up = (k - 1) >> 1;
      if (!this.isBefore(heap[k]!, heap[up]!)) break;
      [heap[k], heap[up]] = [heap[up]!, heap[k]!];
      k = up;
    }
  }

  take(): number | undefined {
    const { heap } = this;
    const first = heap[0];
    const last = heap.pop();
    if (first === undefined || last === undefined || heap.length === 0) return first;
    heap[0] = last;
    for (let k = 0; ;) {
      let least = k;
      for (const down of [2 * k + 1, 2 * k + 2])
        if (down < heap.length && this.isBefore(heap[down]!, heap[least]!)) least = down;
      if (least === k) return first;
      [heap[k], heap[least]] = [heap[least]!, heap[k]!];
      k = least;
    }
  }
}

/** The runs of some strands in the order in which they are painted, the farthest first. */
export function runsInOrder(strands: readonly SeenStrand[]): SeenRun[] {
  const chords = chordsOf(strands);
  const { waits, starts, held } = orderOf(chords);
  const begins: number[] = [0];
  for (const s of strands) begins.push(begins.at(-1)! + LAYERS.length * chordCount(s));
  const done = new Uint8Array(chords.length);
  // What lies on a body waits until nothing else can be painted: it is then painted in the longest stretches.
  const [first, textures] = [new Ready(chords), new Ready(chords)];
  const offer = (i: number): void => (chords[i]!.layer === 'texture' ? textures : first).put(i);
  chords.forEach((_, i) => {
    if (waits[i] === 0) offer(i);
  });
  const paint = (i: number): void => {
    done[i] = 1;
    for (let k = starts[i]!; k < starts[i + 1]!; k += 1) {
      const j = held[k]!;
      waits[j]! -= 1;
      if (waits[j] === 0) offer(j);
    }
  };
  const next = (ready: Ready): number | undefined => {
    for (let i = ready.take(); i !== undefined; i = ready.take()) if (done[i] === 0) return i;
    return undefined;
  };
  const neighbour = (c: Chord, index: number): number | undefined => {
    const n = chordCount(strands[c.strand]!);
    const k = strands[c.strand]!.closed ? ((index % n) + n) % n : index;
    if (k < 0 || k >= n) return undefined;
    const i = begins[c.strand]! + LAYERS.length * k + LAYERS.indexOf(c.layer);
    return done[i] === 0 && waits[i] === 0 ? i : undefined;
  };
  const runs: SeenRun[] = [];
  for (let i = next(first) ?? next(textures); i !== undefined; i = next(first) ?? next(textures)) {
    const c = chords[i]!;
    paint(i);
    let [from, to] = [c.index, c.index + 1];
    for (let j = neighbour(c, to); j !== undefined; j = neighbour(c, to)) {
      paint(j);
      to += 1;
    }
    for (let j = neighbour(c, from - 1); j !== undefined; j = neighbour(c, from - 1)) {
      paint(j);
      from -= 1;
    }
    runs.push({ strand: c.strand, layer: c.layer, from, to });
  }
  return runs;
}
