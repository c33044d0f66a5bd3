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
export type Layer = 'ink' | 'body' | 'texture';

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

function chordsOf(strands: readonly SeenStrand[]): Chord[] {
  return strands.flatMap((s, strand) => {
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
      const ink = Math.max(near.deepest[index]!, depth - deepest * Math.min(1, 2 * s.radius)) - INK_DEEPER;
      const texture = Math.min(near.nearest[index]!, depth + TEXTURE_NEARER) + INK_DEEPER / 2;
      return [
        { ...base, layer: 'ink', depth: ink, reach: half + s.radius + INK },
        { ...base, layer: 'body', depth, reach: half + s.radius },
        { ...base, layer: 'texture', depth: texture, reach: half + s.radius },
      ];
    }).flat();
  });
}

/** For each chord, those that must be painted before it: how many, and whom it holds up itself. */
function orderOf(chords: readonly Chord[]): { readonly waits: Int32Array; readonly holds: number[][] } {
  const cell = 2 * chords.reduce((most, c) => Math.max(most, c.reach), 0.1);
  const cells = new Map<string, number[]>();
  chords.forEach((c, i) => {
    const key = `${Math.floor(c.x / cell)} ${Math.floor(c.y / cell)}`;
    const list = cells.get(key);
    if (list) list.push(i);
    else cells.set(key, [i]);
  });
  const waits = new Int32Array(chords.length);
  const holds: number[][] = chords.map(() => []);
  chords.forEach((c, i) => {
    const [cx, cy] = [Math.floor(c.x / cell), Math.floor(c.y / cell)];
    for (let gx = cx - 1; gx <= cx + 1; gx += 1)
      for (let gy = cy - 1; gy <= cy + 1; gy += 1)
        for (const j of cells.get(`${gx} ${gy}`) ?? []) {
          const d = chords[j]!;
          // The deeper holds up the nearer; where they are alike, the one that comes first.
          if (d.depth > c.depth || (d.depth === c.depth && j >= i)) continue;
          const [dx, dy, reach] = [c.x - d.x, c.y - d.y, c.reach + d.reach];
          if (dx * dx + dy * dy >= reach * reach) continue;
          if (c.strand === d.strand && c.layer === d.layer && Math.abs(c.index - d.index) <= 2) continue;
          waits[i]! += 1;
          holds[j]!.push(i);
        }
  });
  return { waits, holds };
}

/** The runs of some strands in the order in which they are painted, the farthest first. */
export function runsInOrder(strands: readonly SeenStrand[]): SeenRun[] {
  const chords = chordsOf(strands);
  const { waits, holds } = orderOf(chords);
  const at = new Map<string, number>();
  const keyOf = (strand: number, index: number, layer: Layer): string => `${strand} ${index} ${layer}`;
  chords.forEach((c, i) => at.set(keyOf(c.strand, c.index, c.layer), i));
  const byDepth = chords.map((_, i) => i).sort((i, j) => chords[i]!.depth - chords[j]!.depth || i - j);
  const done = new Uint8Array(chords.length);
  const runs: SeenRun[] = [];
  const take = (i: number): void => {
    done[i] = 1;
    for (const j of holds[i]!) waits[j]! -= 1;
  };
  const neighbour = (c: Chord, step: number): number | undefined => {
    const n = chordCount(strands[c.strand]!);
    const index = strands[c.strand]!.closed ? (c.index + step + 10 * n) % n : c.index + step;
    const i = at.get(keyOf(c.strand, index, c.layer));
    return i !== undefined && done[i] === 0 && waits[i] === 0 ? i : undefined;
  };
  // What lies on a body waits until nothing else can be painted: it is then painted in the longest stretches.
  const ready = (i: number): boolean => done[i] === 0 && waits[i] === 0;
  const queues = [false, true].map((texture) => byDepth.filter((i) => (chords[i]!.layer === 'texture') === texture));
  for (let left = chords.length; left > 0;) {
    const i = queues[0]!.find(ready) ?? queues[1]!.find(ready) ?? byDepth.find((k) => done[k] === 0)!;
    const c = chords[i]!;
    take(i);
    let [from, to] = [c.index, c.index + 1];
    for (let j = neighbour(c, to - c.index); j !== undefined; j = neighbour(c, to - c.index)) {
      take(j);
      to += 1;
    }
    for (let j = neighbour(c, from - 1 - c.index); j !== undefined; j = neighbour(c, from - 1 - c.index)) {
      take(j);
      from -= 1;
    }
    left -= to - from;
    runs.push({ strand: c.strand, layer: c.layer, from, to });
    queues.forEach((queue, k) => (queues[k] = queue.filter((q) => done[q] === 0)));
  }
  return runs;
}
