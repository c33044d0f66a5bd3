/**
 * Tightening: ropes in space are drawn taut without ever passing through one another.
 *
 * A rope is a chain of beads under a tension that shortens it, with a stiffness against bending; strands that come nearer than a
 * diameter are pushed apart. Motion keeps some of its speed, so that whole turns travel. No bead moves farther in a step than a bound,
 * and a step that leaves two strands lapped deeper than a bound is taken back: two strands can then never pass through each other.
 *
 * After P. Pierański, “In search of ideal knots” (1998), for shrinking on no overlaps, and M. Macklin, M. Müller and N. Chentanez,
 * “XPBD” (2016), for contacts as bounds on places. Sums, products, quotients and square roots alone are used: every machine finds
 * the same.
 */
import { Beads, type Section } from './beads.js';
import { Contact } from './contact.js';
import { Holds, type Reaches } from './holds.js';
import type { Chain } from './form.js';
import type { Lift } from './lift.js';
import type { PullOf } from './pulls.js';
import { lengthOfVector, less, sum, times, type Vector } from './vector.js';

/** The cosine and the sine of a turn in the plane of the board. */
export type Level = readonly [cosine: number, sine: number];

/** A place of a chain in the hand, as its beads carry it, and how far it is moved, in diameters. */
export interface Grasp {
  readonly chain: number;
  readonly at: number;
  readonly by: Vector;
}

export interface TightenOptions {
  /** How the parts are pulled, moment after moment: the last with all of them. */
  readonly stages: readonly PullOf[];
  /** What is moved by hand once everything is pulled, in order: told by how the ropes lie by then; nothing where it is not there. */
  readonly nudges: readonly ((chains: readonly Chain[]) => Grasp | undefined)[];
  readonly reaches: Reaches;
  /** The length over which a rope under tension bends, in diameters. */
  readonly stiffness: number;
  /** From bead to bead while pulling and while setting, in diameters. */
  readonly spacing: number;
  readonly fineSpacing: number;
  /** Most steps of pulling, and the steps of trimming and of setting. */
  readonly pullSteps: number;
  readonly trimSteps: number;
  readonly setSteps: number;
  /** The ropes on their way are to be shown. */
  readonly watched?: boolean | undefined;
}

export interface TightenProgress {
  readonly phase: 'part' | 'pull' | 'trim' | 'nudge' | 'set';
  /** From 0 to 1. */
  readonly done: number;
  /** Whole length of rope, in diameters. */
  readonly length: number;
  /** The ropes as they lie now. */
  readonly chains: () => Chain[];
}

/** No bead moves farther than this in a step, in diameters. */
const MOST_MOVE = 0.12;
/** The share of its speed that a bead keeps from step to step. */
const KEPT = 0.9;
/** Steps between two respacings. */
const RESPACE = 8;
/** Steps between two words of progress. */
const TELL = 40;
/** What is watched is told more often at first, when the ropes move most. */
const TELL_EARLY = 8;
const EARLY_STEPS = 400;
/** Steps in which overlaps of the lift are parted before anything is pulled. */
const PART_STEPS = 120;
/** A step that leaves strands lapped deeper than this is taken back, in diameters, and the rope is pulled more gently for some steps. */
const TOO_DEEP = 0.28;
const GENTLE_STEPS = 40;
/** Beads of a rope that have come apart by more than so many spacings are put anew at once. */
const WIDEST_GAP = 1.6;
/** Pulling ends when the ropes shorten by less than this in `TELL` steps, in diameters. */
const AT_REST = 0.02;
const LEAST_PULL_STEPS = 400;
/** The strength of a pull: the share of the way to the middle of its neighbours that a bead goes in a step. */
const PULL = 0.5;
const LEAST_PULL = 0.02;
/** Most of the fourth difference that stiffness takes away in a step; more would not be stable. */
const MOST_BEND = 0.06;

/** Steps of an early moment of pulling, of a nudge, and of pulling after it. */
const STAGE_STEPS = 900;
const NUDGE_STEPS = 160;
const SETTLE_STEPS = 900;
/** A nudged bead moves by so much in a step at most, in diameters, and takes so many beads on either side along. */
const NUDGE_MOVE = 0.1;
const NUDGED = 3;

/** A bead of a section by its number: round and round on a ring, no farther than the last on an open rope. */
function along({ from, to, closed }: Section, i: number): number {
  if (closed) return from + ((i - from + (to - from)) % (to - from));
  return i < from ? from : i >= to ? to - 1 : i;
}

class Tightening {
  private readonly beads: Beads;
  private readonly contact: Contact;
  private readonly holds: Holds;
  private spacing: number;
  private gentle = 0;
  /** The deepest overlap before a step, in diameters. */
  private lapped = Infinity;

  constructor(
    lift: Lift,
    private readonly options: TightenOptions,
  ) {
    this.spacing = options.spacing;
    this.beads = new Beads(lift.chains, options.stages[0]!);
    this.contact = new Contact(this.beads, lift.solids);
    this.holds = new Holds(this.beads, this.contact, options.reaches, lift.solids.length > 0);
  }

  /** Runs it; yields now and then, so that one can stop. */
  *run(): Generator<TightenProgress, Chain[], unknown> {
    const { options: o, beads } = this;
    const early = o.stages.length - 1;
    const nudged = o.nudges.length * (NUDGE_STEPS + SETTLE_STEPS);
    const total = PART_STEPS + early * STAGE_STEPS + o.pullSteps + o.trimSteps + nudged + o.setSteps;
    let told = 0;
    const tell = (phase: TightenProgress['phase'], step: number): TightenProgress => {
      told = Math.max(told, step / total);
      return { phase, done: told, length: beads.length(), chains: () => beads.toChains() };
    };
    for (let step = 0; step < PART_STEPS; step += 1) {
      if (step % RESPACE === 0) this.refresh();
      this.step(LEAST_PULL, 6);
      if (step % TELL === 0) yield tell('part', step);
    }
    let begun = PART_STEPS;
    for (const [stage, pullOf] of o.stages.entries()) {
      beads.pullBy(pullOf);
      const steps = stage < early ? STAGE_STEPS : o.pullSteps;
      yield* this.pullTaut(steps, false, stage === 0, (step) => tell('pull', begun + step));
      begun += steps;
    }
    for (let step = 0; step < o.trimSteps; step += 1) {
      this.pullOn(step, true);
      if (step % TELL === 0) yield tell('trim', begun + step);
    }
    begun += o.trimSteps;
    for (const nudge of o.nudges) {
      const grasp = nudge(beads.toChains());
      if (grasp) for (const step of this.nudge(grasp)) if (step % TELL_EARLY === 0) yield tell('nudge', begun + step);
      begun += NUDGE_STEPS;
      yield* this.pullTaut(SETTLE_STEPS, true, false, (step) => tell('nudge', begun + step));
      begun += SETTLE_STEPS;
    }
    this.spacing = o.fineSpacing;
    for (let step = 0; step < o.setSteps; step += 1) {
      if (step % RESPACE === 0) this.refresh();
      const left = 1 - step / o.setSteps;
      this.step(LEAST_PULL + 0.8 * PULL * left * left, 6);
      if (step % TELL === 0) yield tell('set', total - o.setSteps + step);
    }
    this.contact.part(30);
    return beads.toChains();
  }

  /** Pulls until the ropes are at rest, for so many steps at most. */
  private *pullTaut(
    steps: number,
    trimming: boolean,
    first: boolean,
    tell: (step: number) => TightenProgress,
  ): Generator<TightenProgress, void, unknown> {
    const { beads, options: o } = this;
    let before = Infinity;
    for (let step = 0; step < steps; step += 1) {
      this.pullOn(step, trimming);
      const often = first && o.watched === true && step < EARLY_STEPS;
      if (step % (often ? TELL_EARLY : TELL) === 0) yield tell(step);
      if (step % TELL !== 0) continue;
      const length = beads.length();
      if (step > LEAST_PULL_STEPS && Math.abs(before - length) < AT_REST) break;
      before = length;
    }
  }

  /** Moves the rope at a place by hand, a little each step, while nothing else is pulled hard; yields the step. */
  private *nudge({ chain, at, by }: Grasp): Generator<number, void, unknown> {
    const { beads } = this;
    const nearest = (): number => {
      const { from, to } = beads.sections[chain]!;
      let best = -1;
      for (let i = from; i < to; i += 1)
        if (beads.held[i] === 0 && (best < 0 || Math.abs(beads.at[i]! - at) < Math.abs(beads.at[best]! - at))) best = i;
      return best;
    };
    if (nearest() < 0) return;
    const from = beads.placeOf(nearest());
    for (let step = 0; step < NUDGE_STEPS; step += 1) {
      if (step % RESPACE === 0) this.refresh();
      const target = sum(from, times(by, (step + 1) / NUDGE_STEPS));
      this.step(LEAST_PULL, 4, () => this.take(nearest(), target, beads.sections[chain]!));
      yield step;
    }
  }

  /** Brings a bead nearer to a place, and its neighbours along. */
  private take(bead: number, target: Vector, { from, to }: Section): void {
    const { beads } = this;
    const short = less(target, beads.placeOf(bead));
    const share = Math.min(1, NUDGE_MOVE / (lengthOfVector(short) || 1));
    for (let i = Math.max(from, bead - NUDGED); i <= Math.min(to - 1, bead + NUDGED); i += 1) {
      if (beads.held[i] === 1) continue;
      const near = share * (1 - Math.abs(i - bead) / (NUDGED + 1));
      for (let c = 0; c < 3; c += 1) beads.x[3 * i + c]! += near * short[c]!;
    }
  }

  private pullOn(step: number, trimming: boolean): void {
    if (step % RESPACE === 0) {
      this.holds.follow(trimming);
      this.refresh();
    }
    this.step(PULL, 4);
  }

  private refresh(): void {
    this.beads.respace(this.spacing);
    this.contact.watch(this.spacing);
    this.contact.forget();
    this.lapped = this.contact.deepest();
  }

  /** One step; `hand` moves beads by no more than `NUDGE_MOVE`. */
  private step(strength: number, sweeps: number, hand?: () => void): void {
    const { beads } = this;
    // A step's own move, and what parting adds to it.
    if (this.contact.isStale(MOST_MOVE + TOO_DEEP + (hand ? NUDGE_MOVE : 0))) this.contact.watch(this.spacing);
    const before = beads.x;
    const pull = this.gentle > 0 ? strength / 4 : strength;
    this.gentle -= 1;
    this.move(pull);
    this.holds.press(pull, this.spacing);
    hand?.();
    const deepest = this.contact.part(sweeps);
    // What lay lapped when the step began is parted bit by bit.
    if (deepest <= Math.max(TOO_DEEP, this.lapped)) {
      this.lapped = deepest;
      // Where beads have been pushed apart along their rope, another strand could pass between them.
      if (beads.widestGap() > WIDEST_GAP * this.spacing) this.refresh();
      return;
    }
    [beads.x, beads.p] = [before, before.slice()];
    this.gentle = GENTLE_STEPS;
  }

  /** Moves every free bead by tension, stiffness and the speed it kept. */
  private move(pull: number): void {
    const { beads, spacing, options } = this;
    const { x, p, tension, held } = beads;
    const next = x.slice();
    const bend = Math.min(MOST_BEND, (pull * options.stiffness * options.stiffness) / (2 * spacing * spacing));
    for (const s of beads.sections) {
      for (let i = s.from; i < s.to; i += 1) {
        if (held[i] === 1) continue;
        const [a, b, c, d, e] = [
          3 * along(s, i - 2),
          3 * along(s, i - 1),
          3 * i,
          3 * along(s, i + 1),
          3 * along(s, i + 2),
        ];
        const t = pull * tension[i]!;
        let square = 0;
        for (let k = 0; k < 3; k += 1) {
          const by =
            KEPT * (x[c + k]! - p[c + k]!) +
            t * ((x[b + k]! + x[d + k]!) / 2 - x[c + k]!) -
            bend * (x[a + k]! - 4 * x[b + k]! + 6 * x[c + k]! - 4 * x[d + k]! + x[e + k]!);
          next[c + k] = by;
          square += by * by;
        }
        const length = Math.sqrt(square);
        const share = length > MOST_MOVE ? MOST_MOVE / length : 1;
        for (let k = 0; k < 3; k += 1) next[c + k] = x[c + k]! + share * next[c + k]!;
      }
    }
    [beads.p, beads.x] = [x, next];
  }
}

/** Draws the ropes of a lift taut; yields progress and gives the ropes as they lie in the end. */
export const tighten = (lift: Lift, options: TightenOptions): Generator<TightenProgress, Chain[], unknown> =>
  new Tightening(lift, options).run();
