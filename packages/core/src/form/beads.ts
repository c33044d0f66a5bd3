/**
 * Beads: the state of ropes in space while they are drawn taut, in flat arrays. Unit: rope diameters.
 */
import type { Chain, Outlet } from './form.js';
import { unitOf, type Vector } from './vector.js';

/** How one outlet is pulled. */
export interface Pull {
  /** Tension of the rope there, against 1 of a standing part. */
  readonly tension: number;
  /** The share of that tension that the world holds: 1 draws the knot along, 0 is a tail drawn snug by hand against its own knot. */
  readonly held: number;
}

/** An outlet among the beads: from bead `first` to bead `last` it is held. */
export interface HeldPart {
  readonly chain: number;
  readonly kind: Outlet['kind'];
  first: number;
  last: number;
  way: Vector;
  pull: Pull;
  readonly inside: boolean;
  /** How far a tail that ends among other strands may still be drawn in, in diameters. */
  slack: number;
}

/** The beads of one chain. */
export interface Section {
  readonly from: number;
  readonly to: number;
  readonly closed: boolean;
  readonly radius: number;
}

/** What is carried along when beads are put anew. */
class Column {
  readonly x: number[] = [];
  readonly p: number[] = [];
  readonly at: number[] = [];
  readonly held: number[] = [];
}

export class Beads {
  /** Places now and a step before, three numbers each. */
  x: Float64Array;
  p: Float64Array;
  /** Trail position of each bead on the drawn rope. */
  at: Float64Array;
  /** 1 where a bead is held and does not move by itself. */
  held: Uint8Array;
  tension = new Float64Array(0);
  sections: Section[] = [];
  readonly outlets: HeldPart[] = [];

  constructor(
    private readonly chains: readonly Chain[],
    pullOf: (outlet: Outlet, chain: Chain) => Pull,
  ) {
    const count = chains.reduce((n, c) => n + c.at.length, 0);
    [this.x, this.at, this.held] = [new Float64Array(3 * count), new Float64Array(count), new Uint8Array(count)];
    let start = 0;
    chains.forEach((c, chain) => {
      const to = start + c.at.length;
      this.x.set(c.x, 3 * start);
      this.at.set(c.at, start);
      this.sections.push({ from: start, to, closed: c.closed, radius: c.radius });
      for (const o of c.outlets) {
        const [first, last] = [start + o.first, start + o.last];
        this.outlets.push({
          chain,
          kind: o.kind,
          first,
          last,
          way: o.way,
          pull: pullOf(o, c),
          inside: o.inside === true,
          slack: o.slack ?? 0,
        });
        this.held.fill(1, first, last + 1);
      }
      start = to;
    });
    this.p = this.x.slice();
    this.settleTensions();
  }

  /** Pulls every part as is said of it as it was lifted. */
  pullBy(pullOf: (outlet: Outlet, chain: Chain) => Pull): void {
    const lifted = this.chains.flatMap((c) => c.outlets.map((o) => pullOf(o, c)));
    this.outlets.forEach((o, i) => (o.pull = lifted[i]!));
    this.settleTensions();
  }

  get count(): number {
    return this.at.length;
  }

  sectionOf(outlet: HeldPart): Section {
    return this.sections[outlet.chain]!;
  }

  /** Distance of two beads. */
  gap(i: number, j: number): number {
    const { x } = this;
    const [dx, dy, dz] = [x[3 * i]! - x[3 * j]!, x[3 * i + 1]! - x[3 * j + 1]!, x[3 * i + 2]! - x[3 * j + 2]!];
    return Math.sqrt(dx * dx + dy * dy + dz * dz);
  }

  placeOf(i: number): Vector {
    return [this.x[3 * i]!, this.x[3 * i + 1]!, this.x[3 * i + 2]!];
  }

  /** Puts a held bead somewhere: it does not keep the speed of that. */
  put(i: number, place: Vector): void {
    for (let c = 0; c < 3; c += 1) this.x[3 * i + c] = this.p[3 * i + c] = place[c]!;
  }

  /** The bead a step along its section, or none beyond an open end. */
  next(s: Section, i: number, step: number): number | undefined {
    const n = s.to - s.from;
    if (s.closed) return s.from + ((i - s.from + step + n) % n);
    return i + step < s.from || i + step >= s.to ? undefined : i + step;
  }

  /** The widest gap between two free beads that follow one another, in diameters of their rope. */
  widestGap(): number {
    let widest = 0;
    for (const s of this.sections)
      for (let i = s.from; i < s.to; i += 1) {
        const j = this.next(s, i, 1);
        if (j !== undefined && this.held[i] === 0 && this.held[j] === 0)
          widest = Math.max(widest, this.gap(i, j) / (2 * s.radius));
      }
    return widest;
  }

  /** Whole length of all ropes. */
  length(): number {
    let sum = 0;
    for (const s of this.sections)
      for (let i = s.from; i < s.to; i += 1) {
        const j = this.next(s, i, 1);
        if (j !== undefined) sum += this.gap(i, j);
      }
    return sum;
  }

  /** Between two outlets the tension goes evenly from one to the other. */
  settleTensions(): void {
    const tension = new Float64Array(this.count);
    this.sections.forEach((s, chain) => {
      const own = this.outlets.filter((o) => o.chain === chain);
      tension.fill(own[0]?.pull.tension ?? 1, s.from, s.to);
      own.forEach((o, k) => {
        tension.fill(o.pull.tension, o.first, o.last + 1);
        const next = own[k + 1] ?? (s.closed ? own[0] : undefined);
        if (!next) return;
        const to = next.first > o.last ? next.first : s.to;
        for (let i = o.last + 1; i < to; i += 1)
          tension[i] = o.pull.tension + ((i - o.last) / (to - o.last)) * (next.pull.tension - o.pull.tension);
      });
    });
    this.tension = tension;
  }

  /** Puts the free beads of every stretch anew, evenly, at about `spacing` diameters of their rope. */
  respace(spacing: number): void {
    const column = new Column();
    const moved = new Map<number, number>();
    const keep = (i: number): void => {
      moved.set(i, column.at.length);
      column.x.push(...this.placeOf(i));
      column.p.push(this.p[3 * i]!, this.p[3 * i + 1]!, this.p[3 * i + 2]!);
      column.at.push(this.at[i]!);
      column.held.push(this.held[i]!);
    };
    this.sections = this.sections.map((s) => {
      const from = column.at.length;
      const fixed: number[] = [];
      for (let i = s.from; i < s.to; i += 1) if (this.held[i] === 1) fixed.push(i);
      // A ring that nothing holds is put anew from wherever it begins.
      if (fixed.length === 0) fixed.push(s.from);
      fixed.forEach((i, k) => {
        if (!(s.closed && k === 0 && i !== s.from)) keep(i);
        else {
          this.resample(this.between(s, fixed.at(-1)!, i), spacing * 2 * s.radius, column);
          keep(i);
        }
        const onward = fixed[k + 1] ?? (s.closed && fixed[0] === s.from ? fixed[0] : undefined);
        if (onward !== undefined) this.resample(this.between(s, i, onward), spacing * 2 * s.radius, column);
      });
      return { ...s, from, to: column.at.length };
    });
    this.x = Float64Array.from(column.x);
    this.p = Float64Array.from(column.p);
    this.at = Float64Array.from(column.at);
    this.held = Uint8Array.from(column.held);
    for (const o of this.outlets) [o.first, o.last] = [moved.get(o.first)!, moved.get(o.last)!];
    this.settleTensions();
  }

  /** The beads from one to another along a section, both included. */
  private between(s: Section, first: number, last: number): number[] {
    const list = [first];
    for (let i = this.next(s, first, 1); i !== undefined; i = this.next(s, i, 1)) {
      list.push(i);
      if (i === last) break;
    }
    return list;
  }

  /** Puts the inner beads of a stretch anew; its two ends stay as they are. */
  private resample(stretch: readonly number[], spacing: number, column: Column): void {
    // Held beads that follow one another have nothing between them.
    if (stretch.length <= 2 && this.held[stretch[0]!] === 1 && this.held[stretch.at(-1)!] === 1) return;
    const along = [0];
    for (let k = 1; k < stretch.length; k += 1) along.push(along[k - 1]! + this.gap(stretch[k - 1]!, stretch[k]!));
    const length = along.at(-1)!;
    const n = Math.max(2, Math.round(length / spacing));
    let k = 0;
    for (let m = 1; m < n; m += 1) {
      const want = (length * m) / n;
      while (k < stretch.length - 2 && along[k + 1]! < want) k += 1;
      const [u, v] = [stretch[k]!, stretch[k + 1]!];
      const t = (want - along[k]!) / (along[k + 1]! - along[k]! || 1);
      for (let c = 0; c < 3; c += 1) {
        column.x.push(this.x[3 * u + c]! + t * (this.x[3 * v + c]! - this.x[3 * u + c]!));
        column.p.push(this.p[3 * u + c]! + t * (this.p[3 * v + c]! - this.p[3 * u + c]!));
      }
      const [from, to] = [this.at[u]!, this.at[v]!];
      // Of a ring the trail begins anew where it closes.
      column.at.push(to < from ? (t < 0.5 ? from : to) : from + t * (to - from));
      column.held.push(0);
    }
  }

  /** The ropes as chains again. */
  toChains(): Chain[] {
    return this.sections.map((s, chain) => ({
      ...this.chains[chain]!,
      x: this.x.slice(3 * s.from, 3 * s.to),
      at: this.at.slice(s.from, s.to),
      outlets: this.outlets
        .filter((o) => o.chain === chain)
        .map((o) => ({
          kind: o.kind,
          first: o.first - s.from,
          last: o.last - s.from,
          way: unitOf(o.way),
          tension: o.pull.tension,
        })),
    }));
  }
}
