/**
 * What holds a knot while it is drawn taut: hands at its ends, pegs in its loops. They follow the knot, and pull in line.
 */
import type { Beads, HeldPart } from './beads.js';
import { TOUCHED, type Contact } from './contact.js';
import { STRAIGHT } from './form.js';
import { ballRound, dotOf, lengthOfVector, less, sum, times, turnedAs, unitOf, type Vector } from './vector.js';

/** A tail is held nearer than a loaded end, in diameters, so that it cannot slip past that end. */
const TAIL_SHORTER = 5;
/** How far from its turn nearest the host a gripping hitch is held, in diameters. */
const GRIP = 2.2;
/** How far what holds a part moves between two respacings, in diameters. */
const FOLLOW = 0.5;
/** How far an end slides along its own straight lead between two respacings, in diameters. */
const SLIDE = 2;
/** A tail that ends among other strands is left this much longer, in diameters: part of it is hidden. */
const INSIDE_LONGER = 0.7;
/** Beads of one rope nearer than so many along it are not over one another. */
const NEXT = 8;
/** So many beads of a tail are cut between two respacings. */
const CUT = 3;
/** Most of a turn that a peg makes between two respacings. */
const TURN = 0.1;

export interface Reaches {
  /** How far beyond the knot ends are held, loops' pegs stand, and tails are shown, in diameters. */
  readonly end: number;
  readonly eye: number;
  readonly tail: number;
  /** How long the loop round a host stays, in diameters, where what grips the rope holds it open; absent: it closes on the host. */
  readonly loop?: number | undefined;
}

export class Holds {
  /** Beads that lie on a straight lead from an end or a peg. */
  private lead = new Uint8Array(0);
  /** What holds a gripping hitch away from its host. */
  private grip: { readonly way: Vector; readonly force: number } | undefined;
  /** The middle of the knot when its holds last followed it. */
  private before: Vector | undefined;

  constructor(
    private readonly beads: Beads,
    private readonly contact: Contact,
    private readonly reaches: Reaches,
    private readonly onHost: boolean,
  ) {}

  /** Everything that holds goes a bit of its way. `trimming`: tails are cut to their length. */
  follow(trimming: boolean): void {
    const { beads, reaches } = this;
    this.findLeads();
    const body = ballRound(this.places((i) => this.lead[i] === 0));
    const core = this.core();
    const moved = core && this.before ? less(core, this.before) : undefined;
    this.before = core;
    if (!body) return;
    const reach = body.radius + reaches.end;
    if (core) this.align(core, reach);
    for (const o of beads.outlets)
      if (o.kind === 'eye') this.followEye(o);
      else if (o.pull.held === 1 && o.kind !== 'tail') this.slide(o, body.middle, reach);
      else if (o.inside) this.stayInside(o);
      else if (trimming) this.trim(o, moved);
      else {
        if (o.pull.held < 1) this.followKnot(o, body.middle, reach - TAIL_SHORTER);
        this.slide(o, body.middle, reach - TAIL_SHORTER);
      }
    if (reaches.loop !== undefined) this.holdLoop(reaches.loop);
  }

  /** The share of a pull that the world does not hold is held by the knot itself: `strength` is the pull of a step. */
  press(strength: number, spacing: number): void {
    const { beads, contact } = this;
    this.pressGrip(strength, spacing);
    for (const o of beads.outlets) {
      if (o.pull.held === 1) continue;
      const s = beads.sectionOf(o);
      const knot: number[] = [];
      for (let i = s.from; i < s.to; i += 1) if (contact.touched[i] !== 0 && beads.held[i] === 0) knot.push(i);
      const legs = o.kind === 'eye' ? 2 : 1;
      const force = (legs * (1 - o.pull.held) * o.pull.tension * strength * spacing * s.radius) / (knot.length || 1);
      for (const i of knot) for (let c = 0; c < 3; c += 1) beads.x[3 * i + c]! -= force * o.way[c]!;
    }
  }

  /** Holds a gripping hitch where it is, against the pull of its leg. */
  private pressGrip(strength: number, spacing: number): void {
    const { beads, grip } = this;
    if (!grip) return;
    const turns = this.gripped(grip.way);
    const force = (grip.force * strength * spacing * 0.5) / (turns.length || 1);
    for (const i of turns) for (let c = 0; c < 3; c += 1) beads.x[3 * i + c]! += force * grip.way[c]!;
  }

  private *places(which: (i: number) => boolean): Generator<Vector> {
    for (let i = 0; i < this.beads.count; i += 1) if (which(i)) yield this.beads.placeOf(i);
  }

  /** The middle of what touches and is no lead. */
  private core(): Vector | undefined {
    let [total, n]: [Vector, number] = [[0, 0, 0], 0];
    for (const p of this.places((i) => this.contact.touched[i] !== 0 && this.lead[i] === 0)) {
      total = sum(total, p);
      n += 1;
    }
    return n === 0 ? undefined : times(total, 1 / n);
  }

  private inward(o: HeldPart): 1 | -1 {
    return o.first === this.beads.sectionOf(o).from ? 1 : -1;
  }

  /** Walks from a held bead into the rope as long as it goes straight: the beads of this lead. */
  private walkLead(o: HeldPart, from: number, inward: 1 | -1): number[] {
    const { beads } = this;
    const s = beads.sectionOf(o);
    const walked = [from];
    let length = 0;
    for (let i = from; walked.length < s.to - s.from;) {
      const j = beads.next(s, i, inward);
      if (j === undefined || beads.held[j] === 1) break;
      const d = beads.gap(i, j);
      // Next to what holds it a rope may still bend.
      if (dotOf(less(beads.placeOf(i), beads.placeOf(j)), o.way) < STRAIGHT * d && length > 2 * s.radius) break;
      length += d;
      walked.push(j);
      i = j;
    }
    return walked;
  }

  private findLeads(): void {
    const { beads } = this;
    this.lead = new Uint8Array(beads.count);
    for (const o of beads.outlets) {
      this.lead.fill(1, o.first, o.last + 1);
      const walks =
        o.kind === 'eye'
          ? [this.walkLead(o, o.first, -1), this.walkLead(o, o.last, 1)]
          : [this.walkLead(o, o.first, this.inward(o))];
      for (const i of walks.flatMap((w) => w.slice(0, -1))) this.lead[i] = 1;
    }
  }

  /**
   * Two ends that are loaded are pulled in one line, away from each other, and a loop between them at right angles; where one end
   * and a loop are loaded, the loop is pulled against the end.
   */
  private align(core: Vector, reach: number): void {
    if (this.onHost) return;
    const { outlets } = this.beads;
    const ends = outlets.filter((o) => o.kind !== 'eye' && o.pull.held === 1);
    const eyes = outlets.filter((o) => o.kind === 'eye');
    const [first, second] = ends;
    if (first && !second && eyes.length === 1) {
      this.swing(first, sum(core, times(first.way, reach)));
      this.turn(eyes[0]!, times(first.way, -1), core);
      return;
    }
    if (!first || !second || ends.length > 2) return;
    const axis = unitOf(less(first.way, second.way));
    // Two parts that leave side by side are not loaded against each other.
    if (dotOf(axis, first.way) < 0.6) return;
    [first.way, second.way] = [axis, times(axis, -1)];
    for (const o of ends) this.swing(o, sum(core, times(o.way, reach)));
    for (const o of eyes) {
      const away = less(this.apex(o), core);
      const across = less(away, times(axis, dotOf(away, axis)));
      // In the plane of the board: there the author has drawn the loop.
      this.turn(o, unitOf([across[0], across[1], 0]), core);
    }
  }

  private apex(o: HeldPart): Vector {
    return this.beads.placeOf((o.first + o.last) >> 1);
  }

  /** Moves what holds an end toward a place, no farther than it may go. */
  private swing(o: HeldPart, to: Vector): void {
    const from = this.beads.placeOf(o.first);
    const shift = less(to, from);
    const share = Math.min(1, FOLLOW / (lengthOfVector(shift) || 1));
    this.beads.put(o.first, sum(from, times(shift, share)));
  }

  /** Turns a peg about the middle of the knot, toward a way. */
  private turn(o: HeldPart, way: Vector, middle: Vector): void {
    const far = lengthOfVector(less(this.apex(o), middle));
    const share = Math.min(TURN, FOLLOW / (far || 1));
    const to = unitOf(sum(o.way, times(less(way, o.way), share)));
    for (let i = o.first; i <= o.last; i += 1)
      this.beads.put(i, sum(middle, turnedAs(less(this.beads.placeOf(i), middle), o.way, to)));
    o.way = to;
  }

  /** An end that is held slides along its straight lead until it is within reach of the knot. */
  private slide(o: HeldPart, middle: Vector, reach: number): void {
    const { beads } = this;
    const s = beads.sectionOf(o);
    const inward = this.inward(o);
    let [k, length] = [o.first, 0];
    for (;;) {
      const next = k + inward;
      if (length >= SLIDE || next + inward < s.from || next + inward >= s.to) break;
      if (lengthOfVector(less(beads.placeOf(next), middle)) <= reach) break;
      length += beads.gap(k, next);
      k = next;
    }
    const place = beads.placeOf(k);
    for (let m = o.first; m !== k; m += inward) beads.put(m, place);
  }

  /** A tail goes where its knot goes: what holds it stays out along its way from where it leaves. */
  private followKnot(o: HeldPart, middle: Vector, reach: number): void {
    const walked = this.walkLead(o, o.first, this.inward(o));
    if (walked.length < 2) return;
    const exit = this.beads.placeOf(walked.at(-1)!);
    const from = less(exit, middle);
    const ahead = dotOf(from, o.way);
    const out = -ahead + Math.sqrt(Math.max(0, ahead * ahead - dotOf(from, from) + reach * reach));
    this.swing(o, sum(exit, times(o.way, out)));
  }

  /** A tail is cut to its length. */
  private trim(o: HeldPart, moved: Vector | undefined): void {
    if (moved && this.beads.outlets.some((q) => q.kind !== 'tail'))
      this.swing(o, sum(this.beads.placeOf(o.first), moved));
    const lead = this.walkLead(o, o.first, this.inward(o));
    const met = lead.findIndex((i) => this.isCovered(i));
    const walked = met < 0 ? lead : lead.slice(0, met + 1);
    if (walked.length < 2) return;
    // Cut: what holds the tail slides in along it, never the knot out.
    let [cut, length] = [walked.length - 1, 0];
    while (cut > 0 && length < this.reaches.tail) {
      length += this.beads.gap(walked[cut]!, walked[cut - 1]!);
      cut -= 1;
    }
    const tip = this.beads.placeOf(walked[Math.min(cut, CUT)]!);
    for (let k = 0; k < Math.min(cut, CUT); k += 1) this.beads.put(walked[k]!, tip);
  }

  /** Whether a bead lies over or under another strand, or a host, as the board is seen. */
  private isCovered(i: number): boolean {
    const { beads, contact } = this;
    if ((contact.touched[i]! & TOUCHED.solid) !== 0) return true;
    const s = beads.sections.find((q) => i >= q.from && i < q.to)!;
    const [x, y] = beads.placeOf(i);
    return beads.sections.some((q) => {
      for (let j = q.from; j < q.to; j += 1) {
        if (q === s && Math.abs(i - j) < NEXT) continue;
        const [dx, dy] = [beads.x[3 * j]! - x, beads.x[3 * j + 1]! - y];
        if (dx * dx + dy * dy < (s.radius + q.radius) * (s.radius + q.radius)) return true;
      }
      return false;
    });
  }

  /** A tail that ends among other strands stays there: out from where it leaves, along a loop where it lies in one. */
  private stayInside(o: HeldPart): void {
    const walked = this.walkLead(o, o.first, this.inward(o));
    if (walked.length < 2) return;
    const loop = this.beads.outlets.find((q) => q.kind === 'eye' && q.chain === o.chain);
    if (loop && dotOf(loop.way, o.way) > 0.5) o.way = loop.way;
    const place = this.beads.placeOf(o.first);
    const to = sum(this.beads.placeOf(walked.at(-1)!), times(o.way, this.reaches.tail + INSIDE_LONGER));
    // It follows in as far as it was drawn long, and no farther: a knot that runs does not run on for ever.
    const inward = -dotOf(less(to, place), o.way);
    const spent = Math.min(FOLLOW, inward);
    if (spent > o.slack) return;
    o.slack -= Math.max(0, spent);
    this.swing(o, to);
  }

  /** A peg stands out from the knot as far as loops are shown. */
  private followEye(o: HeldPart): void {
    let knot = -Infinity;
    for (const p of this.places((i) => this.contact.touched[i] !== 0 && this.lead[i] === 0))
      knot = Math.max(knot, dotOf(p, o.way));
    if (knot === -Infinity) return;
    const slide = Math.max(-0.6, Math.min(0.3, this.reaches.eye - (dotOf(this.apex(o), o.way) - knot)));
    if (Math.abs(slide) < 0.02) return;
    for (let i = o.first; i <= o.last; i += 1) this.beads.put(i, sum(this.beads.placeOf(i), times(o.way, slide)));
  }

  /**
   * A hitch that grips its own rope holds the loop round the host open: the turns nearest the host are held there, as strongly as it
   * takes for the loop to come to the wanted length.
   */
  private holdLoop(wanted: number): void {
    const { beads, contact } = this;
    this.grip = undefined;
    const load = beads.outlets.find((o) => o.kind !== 'tail' && o.kind !== 'eye');
    const tail = beads.outlets.find((o) => o.kind === 'tail');
    if (!load || !tail) return;
    const s = beads.sectionOf(tail);
    const inward = this.inward(tail);
    let length = 0;
    // From the tail back to the host: the free stretch before it is the loop's leg.
    for (let i = tail.first; i >= s.from && i < s.to; i += inward) {
      if ((contact.touched[i]! & TOUCHED.solid) !== 0) {
        const strength = Math.max(0, Math.min(2, 1 + (wanted - length) / 2));
        this.grip = { way: load.way, force: strength * tail.pull.tension };
        return;
      }
      length = (contact.touched[i]! & TOUCHED.rope) !== 0 ? 0 : length + beads.gap(i, i + inward);
    }
  }

  /** The beads by which a gripping hitch is held: those of its turns that are nearest the host. */
  private gripped(way: Vector): number[] {
    const { beads, contact } = this;
    const turns = Array.from({ length: beads.count }, (_, i) => i).filter(
      (i) => contact.touched[i] === TOUCHED.rope && this.lead[i] !== 1,
    );
    const along = (i: number): number => dotOf(beads.placeOf(i), way);
    const nearest = Math.min(...turns.map(along));
    return turns.filter((i) => along(i) < nearest + GRIP);
  }
}
