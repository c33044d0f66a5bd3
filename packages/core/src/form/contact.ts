/**
 * Contact: no two strands come nearer than their radii allow, nor a strand to what it is tied to.
 */
import type { Beads } from './beads.js';
import type { Solid } from './form.js';
import type { Vector } from './vector.js';

/** Beads of one rope nearer than this along it, in diameters, are not kept apart: the rope's own stiffness does. */
const ALONG = 1.6;
/** Pairs nearer than this beyond touching are watched until the beads are put anew. */
const WATCH = 1.4;
/** Legs of a loop: their lengths from its peg differ by less than this, in diameters. */
const LEGS = 5;
/** Overlaps deeper than this are parted further, in diameters, in at most so many sweeps. */
const LAPPED = 0.1;
const MOST_SWEEPS = 24;

/** Pairs nearer than this beyond touching are looked at in every sweep, until beads have moved by half of it. */
const CLOSE = 0.3;

/** The number of a cell of space by its places along the axes, each between plus and minus 512. */
const cellAt = (a: number, b: number, c: number): number => (a * 1024 + b) * 1024 + c;
/** From a cell to itself and those round it. */
const CELLS_ROUND = [-1, 0, 1].flatMap((a) => [-1, 0, 1].flatMap((b) => [-1, 0, 1].map((c) => cellAt(a, b, c))));

/** What a bead touched since the beads were put anew. */
export const TOUCHED = { rope: 1, solid: 2 } as const;

export class Contact {
  /** By bead: of `TOUCHED`, one, both or neither. */
  touched = new Uint8Array(0);
  /** Pairs of beads that may touch, the distance at which they do, and whether they are two legs of a loop. */
  private pairs = new Int32Array(0);
  private reach = new Float64Array(0);
  private legs = new Uint8Array(0);
  /** Those of the pairs that are close, in their order, where the beads were when they were found, and how far each has come since at most. */
  private close = new Int32Array(0);
  private found = new Float64Array(0);
  private strayed = new Float64Array(0);
  private farthest = Infinity;
  /** By solid: the beads that may touch it, each with the segments of its middle line that may be the nearest. */
  private near: (readonly (readonly [bead: number, segments: readonly number[]])[])[] = [];

  constructor(
    private readonly beads: Beads,
    private readonly solids: readonly Solid[],
  ) {}

  /** Where the beads were when what may touch was last found. */
  private watched = new Float64Array(0);

  /** Whether beads have moved so far that, after one more step of at most `reach`, two might touch that are not watched. */
  isStale(reach: number): boolean {
    const { x } = this.beads;
    const most = WATCH / 2 - reach;
    for (let i = 0; i < x.length; i += 3) {
      const [dx, dy, dz] = [
        x[i]! - this.watched[i]!,
        x[i + 1]! - this.watched[i + 1]!,
        x[i + 2]! - this.watched[i + 2]!,
      ];
      if (dx * dx + dy * dy + dz * dz > most * most) return true;
    }
    return false;
  }

  /** Finds what may touch until the beads have moved by half of `WATCH`; they are `spacing` diameters apart. */
  watch(spacing: number): void {
    const { beads } = this;
    const n = beads.count;
    const radius = this.radii();
    const widest = beads.sections.reduce((most, s) => Math.max(most, s.radius), 0);
    const cell = 2 * widest + WATCH;
    const cells = new Map<number, number[]>();
    const cellOf = Array.from({ length: n }, (_, i) => {
      const [a, b, c] = beads.placeOf(i);
      return cellAt(Math.floor(a / cell), Math.floor(b / cell), Math.floor(c / cell));
    });
    cellOf.forEach((key, i) => {
      const list = cells.get(key);
      if (list) list.push(i);
      else cells.set(key, [i]);
    });
    const section = new Int32Array(n);
    beads.sections.forEach((s, k) => section.fill(k, s.from, s.to));
    const { x, held } = beads;
    const pairs: number[] = [];
    const meet = (i: number, list: readonly number[]): void => {
      const [px, py, pz] = [x[3 * i]!, x[3 * i + 1]!, x[3 * i + 2]!];
      for (const j of list) {
        if (j <= i) continue;
        const dx = x[3 * j]! - px;
        const dy = x[3 * j + 1]! - py;
        const dz = x[3 * j + 2]! - pz;
        const far = radius[i]! + radius[j]! + WATCH;
        if (dx * dx + dy * dy + dz * dz > far * far || (held[i] === 1 && held[j] === 1)) continue;
        if (section[i] === section[j] && this.along(section[i]!, i, j) * spacing < ALONG) continue;
        pairs.push(i, j);
      }
    };
    for (let i = 0; i < n; i += 1)
      for (const step of CELLS_ROUND) {
        const list = cells.get(cellOf[i]! + step);
        if (list && list.at(-1)! > i) meet(i, list);
      }
    this.pairs = Int32Array.from(pairs);
    this.reach = new Float64Array(pairs.length / 2);
    this.legs = new Uint8Array(pairs.length / 2);
    for (let k = 0; k < this.reach.length; k += 1) {
      const [i, j] = [pairs[2 * k]!, pairs[2 * k + 1]!];
      this.reach[k] = radius[i]! + radius[j]!;
      if (section[i] === section[j] && this.areLegs(i, j, spacing)) this.legs[k] = 1;
    }
    this.near = this.solids.map((solid) => this.reached(solid, radius));
    this.watched = beads.x.slice();
    this.farthest = Infinity;
    if (this.touched.length !== n) this.forget();
  }

  /** The beads that may touch a solid until they are watched anew, each with the segments that may be the nearest by then. */
  private reached(solid: Solid, radius: Float64Array): (readonly [number, readonly number[]])[] {
    const { x, count } = this.beads;
    const all = segmentsOf(solid);
    const away = new Float64Array(all.length);
    const found: (readonly [number, readonly number[]])[] = [];
    for (let i = 0; i < count; i += 1) {
      const most = solid.radius + radius[i]! + WATCH;
      let least = Infinity;
      for (const k of all) {
        const far = awayFrom(solid, k, x, i);
        away[k] = far;
        if (far < least) least = far;
      }
      if (least < most) found.push([i, all.filter((k) => away[k]! <= least + WATCH)]);
    }
    return found;
  }

  /** Begins anew to mark what is touched. */
  forget(): void {
    this.touched = new Uint8Array(this.beads.count);
  }

  /** Pushes apart what overlaps, in some sweeps or more. Gives the deepest overlap of the last sweep, in diameters. */
  part(sweeps: number): number {
    let deepest = Infinity;
    this.measureStrays();
    for (let sweep = 0; sweep < sweeps || (LAPPED < deepest && sweep < MOST_SWEEPS); sweep += 1)
      deepest = Math.max(this.partRopes(), this.partSolids());
    return deepest;
  }

  /** The deepest overlap of two strands as they lie, in diameters. */
  deepest(): number {
    let most = 0;
    for (let k = 0; k < this.reach.length; k += 1)
      most = Math.max(most, this.reach[k]! - this.beads.gap(this.pairs[2 * k]!, this.pairs[2 * k + 1]!));
    return most;
  }

  /** How far beads have come since close pairs were found; once the beads are put anew, it cannot be told. */
  private measureStrays(): void {
    if (this.farthest === Infinity) return;
    const { x } = this.beads;
    const { found, strayed } = this;
    let most = 0;
    for (let i = 0, c = 0; c < x.length; i += 1, c += 3) {
      const dx = x[c]! - found[c]!;
      const dy = x[c + 1]! - found[c + 1]!;
      const dz = x[c + 2]! - found[c + 2]!;
      const far = Math.sqrt(dx * dx + dy * dy + dz * dz);
      strayed[i] = far;
      if (far > most) most = far;
    }
    this.farthest = most;
  }

  private findClose(): void {
    const { reach, pairs } = this;
    const { x, count } = this.beads;
    const close: number[] = [];
    for (let k = 0; k < reach.length; k += 1) {
      const [a, b] = [3 * pairs[2 * k]!, 3 * pairs[2 * k + 1]!];
      const dx = x[b]! - x[a]!;
      const dy = x[b + 1]! - x[a + 1]!;
      const dz = x[b + 2]! - x[a + 2]!;
      const far = reach[k]! + CLOSE;
      if (dx * dx + dy * dy + dz * dz < far * far) close.push(k);
    }
    this.close = Int32Array.from(close);
    this.found = x.slice();
    this.strayed = new Float64Array(count);
    this.farthest = 0;
  }

  /** Parts all pairs in their order: none but the close ones can touch, and while beads have hardly moved others are not looked at. */
  private partRopes(): number {
    if (this.farthest >= CLOSE / 2) this.findClose();
    const { close, reach } = this;
    let deepest = 0;
    for (const pair of close) {
      deepest = Math.max(deepest, this.partPair(pair));
      if (this.farthest < CLOSE / 2) continue;
      for (let k = pair + 1; k < reach.length; k += 1) deepest = Math.max(deepest, this.partPair(k));
      break;
    }
    return deepest;
  }

  /** Pushes two beads apart where they overlap; gives by how much they did. */
  private partPair(k: number): number {
    const { x, held } = this.beads;
    const i = this.pairs[2 * k]!;
    const j = this.pairs[2 * k + 1]!;
    const [a, b] = [3 * i, 3 * j];
    const dx = x[b]! - x[a]!;
    const dy = x[b + 1]! - x[a + 1]!;
    const dz = x[b + 2]! - x[a + 2]!;
    const square = dx * dx + dy * dy + dz * dz;
    const touch = this.reach[k]!;
    if (square >= touch * touch) return 0;
    if (this.legs[k] === 0) {
      this.touched[i]! |= TOUCHED.rope;
      this.touched[j]! |= TOUCHED.rope;
    }
    const d = Math.sqrt(square);
    const over = touch - d;
    const share = (held[i] === 0 && held[j] === 0 ? 0.5 : 1) * (over / (d || 1));
    if (held[i] === 0) {
      x[a]! -= share * dx;
      x[a + 1]! -= share * dy;
      x[a + 2]! -= share * dz;
      this.stray(i, over);
    }
    if (held[j] === 0) {
      x[b]! += share * dx;
      x[b + 1]! += share * dy;
      x[b + 2]! += share * dz;
      this.stray(j, over);
    }
    return over;
  }

  /** Notes that a bead was moved by no more than so much. */
  private stray(bead: number, by: number): void {
    const far = this.strayed[bead]! + by;
    this.strayed[bead] = far;
    if (far > this.farthest) this.farthest = far;
  }

  private partSolids(): number {
    const { x, held } = this.beads;
    const radius = this.radii();
    let deepest = 0;
    this.solids.forEach((solid, k) => {
      for (const [i, segments] of this.near[k]!) {
        if (held[i] === 1) continue;
        const [qx, qy, qz, d] = nearestOn(solid, x, i, segments);
        const touch = solid.radius + radius[i]!;
        if (d >= touch) continue;
        this.touched[i]! |= TOUCHED.solid;
        if (touch - d > deepest) deepest = touch - d;
        this.stray(i, touch - d);
        const share = touch / (d || 1);
        x[3 * i] = qx + share * (x[3 * i]! - qx);
        x[3 * i + 1] = qy + share * (x[3 * i + 1]! - qy);
        x[3 * i + 2] = qz + share * (x[3 * i + 2]! - qz);
      }
    });
    return deepest;
  }

  private known: { readonly sections: Beads['sections']; readonly radii: Float64Array } | undefined;
  private radii(): Float64Array {
    const { sections, count } = this.beads;
    if (this.known?.sections !== sections) {
      const radii = new Float64Array(count);
      for (const s of sections) radii.fill(s.radius, s.from, s.to);
      this.known = { sections, radii };
    }
    return this.known.radii;
  }

  /** Beads from one to the other along their rope, the shorter way. */
  private along(section: number, i: number, j: number): number {
    const s = this.beads.sections[section]!;
    const apart = Math.abs(j - i);
    return s.closed ? Math.min(apart, s.to - s.from - apart) : apart;
  }

  /** Whether two beads of one rope lie on the two legs of a loop, about as far from its peg: side by side they are not the knot. */
  private areLegs(i: number, j: number, spacing: number): boolean {
    return this.beads.outlets.some(
      (o) => o.kind === 'eye' && i < o.first && j > o.last && Math.abs(o.first - i - (j - o.last)) * spacing < LEGS,
    );
  }
}

/** The segments of a solid's middle line, by where they begin. */
const segmentsOf = ({ x, closed }: Solid): readonly number[] =>
  Array.from({ length: x.length / 3 - (closed ? 0 : 1) }, (_, k) => k);

/** How far a bead is from a segment of a solid's middle line. */
function awayFrom({ x: s }: Solid, k: number, x: Float64Array, i: number): number {
  const m = 3 * k + 3 < s.length ? 3 * k + 3 : 0;
  const px = x[3 * i]! - s[3 * k]!;
  const py = x[3 * i + 1]! - s[3 * k + 1]!;
  const pz = x[3 * i + 2]! - s[3 * k + 2]!;
  const bx = s[m]! - s[3 * k]!;
  const by = s[m + 1]! - s[3 * k + 1]!;
  const bz = s[m + 2]! - s[3 * k + 2]!;
  const t = Math.min(1, Math.max(0, (px * bx + py * by + pz * bz) / (bx * bx + by * by + bz * bz)));
  const dx = px - t * bx;
  const dy = py - t * by;
  const dz = pz - t * bz;
  return Math.sqrt(dx * dx + dy * dy + dz * dz);
}

/** The nearest place on some segments of a solid's middle line to a bead, and how far off it is. */
export function nearestOn(
  solid: Solid,
  x: Float64Array,
  i: number,
  segments: readonly number[] = segmentsOf(solid),
): readonly [...Vector, number] {
  const [px, py, pz] = [x[3 * i]!, x[3 * i + 1]!, x[3 * i + 2]!];
  const s = solid.x;
  const n = s.length / 3;
  let best: [number, number, number, number] = [0, 0, 0, Infinity];
  for (const k of segments) {
    const m = (k + 1) % n;
    const [ax, ay, az] = [s[3 * k]!, s[3 * k + 1]!, s[3 * k + 2]!];
    const [bx, by, bz] = [s[3 * m]! - ax, s[3 * m + 1]! - ay, s[3 * m + 2]! - az];
    const square = bx * bx + by * by + bz * bz;
    const t = Math.min(1, Math.max(0, ((px - ax) * bx + (py - ay) * by + (pz - az) * bz) / square));
    const [qx, qy, qz] = [ax + t * bx, ay + t * by, az + t * bz];
    const d = Math.sqrt((px - qx) * (px - qx) + (py - qy) * (py - qy) + (pz - qz) * (pz - qz));
    if (d < best[3]) best = [qx, qy, qz, d];
  }
  return best;
}
