/**
 * Set: from a drawn figure to the knot as it lies in the hand, and the proof that it is still the same knot.
 */
import { grippingTurns } from '../dressing/winding.js';
import type { Figure } from '../figure/figure.js';
import { accept, type Result } from '../figure/refusal.js';
import type { Pull } from './beads.js';
import { onGrid, type Chain, type Form, type Outlet, type Solid } from './form.js';
import { runOut } from '../ground/run-out.js';
import { finishedFigure, layoutsOf, type Method } from '../tying/method.js';
import { lift, type Lift } from './lift.js';
import { proveForm, type FormProof } from './proof.js';
import { onTrail } from './trail.js';
import { tighten, type TightenOptions, type TightenProgress } from './tighten.js';
import { unitOf, type Vector } from './vector.js';

/** How a knot is set. */
export interface SetWishes {
  /** How long the loop round a host stays open, in diameters, where a hitch grips its own rope; absent: it closes on the host. */
  readonly loop?: number | undefined;
}

export interface SetForm extends Form {
  readonly proof: FormProof;
  /** Pulled further it does not stay the knot: the rope runs, or comes apart. What is shown is the last moment at which it was proved. */
  readonly runs: boolean;
}

/**
 * What of a method is set: its first layout, from which the dressed knot is computed, but none with a hand in it. The last layout where
 * every one has.
 */
export const figureToSet = (method: Method): Figure =>
  layoutsOf(method).find((l) => l.figure.hosts.every((h) => h.kind !== 'hand'))?.figure ?? finishedFigure(method);

/** How long the loop round a host stays where a hitch grips its own rope, in diameters. */
const GRIPPED_LOOP = 6;

/** How a figure is set when nothing else is wished: a hitch that grips its own standing part keeps its loop open. */
export const wishesFor = (figure: Figure): SetWishes =>
  figure.hosts.length > 0 && figure.ropes.some((r) => grippingTurns(figure, r) !== undefined)
    ? { loop: GRIPPED_LOOP }
    : {};

const REACHES = { end: 9, eye: 6.5, tail: 3.5 } as const;
const STIFFNESS = 0.35;
const SPACING = { pulling: 0.4, setting: 0.25 } as const;
const STEPS = { pull: 2600, trim: 700, set: 600 } as const;
/** The tension of a loaded end, of a leg of a loop, and of a tail drawn snug by hand. */
const TENSION = { end: 1, eye: 0.7, tail: 0.6 } as const;

/** Which parts of a figure are pulled, how strongly, and by whom. */
function pullsOf(
  figure: Figure,
  chains: readonly Chain[],
  solids: readonly Solid[],
): (outlet: Outlet, chain: Chain) => Pull {
  const outlets = chains.flatMap((c) => c.outlets);
  const loaded = outlets.filter((o) => o.kind !== 'tail' && o.kind !== 'eye').length;
  const eyes = outlets.filter((o) => o.kind === 'eye').length;
  // A knot in the end of a rope that holds nothing else is drawn tight between both its ends.
  const stopper = figure.ropes.length === 1 && solids.length === 0 && eyes === 0;
  const byEye = (): number => {
    if (solids.length > 0 || figure.ropes.length > 1) return 1;
    return loaded > 1 ? 0 : TENSION.end / (2 * TENSION.eye);
  };
  return ({ kind }) => {
    if (kind === 'eye') return { tension: TENSION.eye, held: byEye() };
    if (kind === 'tail') return stopper ? { tension: TENSION.end, held: 1 } : { tension: TENSION.tail, held: 0 };
    return { tension: TENSION.end, held: 1 };
  };
}

const optionsFor = (figure: Figure, lifted: Lift, wishes: SetWishes): TightenOptions => ({
  pullOf: pullsOf(figure, lifted.chains, lifted.solids),
  reaches: { ...REACHES, loop: wishes.loop },
  stiffness: STIFFNESS,
  spacing: SPACING.pulling,
  fineSpacing: SPACING.setting,
  pullSteps: STEPS.pull,
  trimSteps: STEPS.trim,
  setSteps: STEPS.set,
  watched: true,
});

/**
 * A knot that comes apart when it is pulled is pulled once more, from a drawing so much larger: only what comes apart twice is said to
 * run. From one beginning, strands that lie close may slip past each other.
 */
const ROOMIER = 2;

/** A set form, and how its ropes lay on the way there: from the drawing, lifted, to the last moment before they were turned level. */
export interface Watched {
  readonly form: SetForm;
  readonly moments: readonly (readonly Chain[])[];
  /** The cosine and the sine of the turn, in the plane of the board, that takes the last moment to the form. */
  readonly level: readonly [number, number];
}

/** Sets a figure; yields progress. Refuses what cannot be lifted, and a result that is another knot. */
export function* setForm(
  figure: Figure,
  wishes: SetWishes = wishesFor(figure),
): Generator<TightenProgress, Result<SetForm>, unknown> {
  const done = yield* setWatched(figure, wishes);
  return done.ok ? accept(done.value.form) : done;
}

/** Sets a figure and keeps how the ropes lay on the way; for the rest as `setForm`. */
export function* setWatched(
  figure: Figure,
  wishes: SetWishes = wishesFor(figure),
): Generator<TightenProgress, Result<Watched>, unknown> {
  const first = yield* setOnce(figure, wishes, 1);
  if (!first.ok || !first.value.form.runs) return first;
  const second = yield* setOnce(figure, wishes, ROOMIER);
  return second.ok && !second.value.form.runs ? second : first;
}

function* setOnce(
  figure: Figure,
  wishes: SetWishes,
  roomier: number,
): Generator<TightenProgress, Result<Watched>, unknown> {
  const lifted = lift(figure, roomier);
  if (!lifted.ok) return lifted;
  const work = tighten(lifted.value, optionsFor(figure, lifted.value, wishes));
  const moments: (readonly Chain[])[] = [lifted.value.chains];
  let step = work.next();
  for (; step.done !== true; step = work.next()) {
    // The first pulls leave it loose; a moment of those is no picture of a knot.
    if (step.value.phase !== 'part') moments.push(step.value.chains());
    yield step.value;
  }
  moments.push(step.value);
  const { solids } = lifted.value;
  for (let k = moments.length - 1; ; k -= 1) {
    const form: Form = { chains: moments[k]!, solids };
    const proof = proveForm(figure, form);
    if (proof.ok) {
      const level = levelTurn(form);
      const set = gridded(onTrail(figure, turned(form, level)));
      return accept({
        form: { ...set, proof: proof.value, runs: k < moments.length - 1 },
        moments: moments.slice(0, k + 1),
        level,
      });
    }
    if (k === 0) return proof;
  }
}

const gridded = ({ chains, solids }: Form): Form => ({
  chains: chains.map((c) => ({ ...c, x: onGrid(c.x), at: onGrid(c.at) })),
  solids: solids.map((s) => ({ ...s, x: onGrid(s.x) })),
});

/** Runs a setting to its end at once. */
export const setNow = (figure: Figure, wishes: SetWishes = wishesFor(figure)): Result<SetForm> =>
  runOut(setForm(figure, wishes));

/** The turn in the plane of the board after which the load of a form without hosts lies level or upright, whichever is nearer. */
function levelTurn(form: Form): readonly [number, number] {
  const loads = form.chains.flatMap((c) => c.outlets).filter((o) => o.kind !== 'tail' && o.kind !== 'eye');
  if (form.solids.length > 0 || loads.length === 0) return [1, 0];
  const [first, second] = loads;
  const axis: Vector = second
    ? unitOf([first!.way[0] - second.way[0], first!.way[1] - second.way[1], 0])
    : unitOf([first!.way[0], first!.way[1], 0]);
  const [x, y] = [axis[0], axis[1]];
  return Math.abs(x) > Math.abs(y) ? [Math.abs(x), -y * Math.sign(x)] : [Math.abs(y), x * Math.sign(y)];
}

/** The ropes of a form turned in the plane of the board. */
function turned(form: Form, [c, s]: readonly [number, number]): Form {
  if (c === 1 && s === 0) return form;
  const turn = (v: Vector): Vector => [c * v[0] - s * v[1], s * v[0] + c * v[1], v[2]];
  return {
    ...form,
    chains: form.chains.map((chain) => {
      const places = chain.x.slice();
      for (let i = 0; i < places.length; i += 3) places.set(turn([places[i]!, places[i + 1]!, places[i + 2]!]), i);
      return { ...chain, x: places, outlets: chain.outlets.map((o) => ({ ...o, way: turn(o.way) })) };
    }),
  };
}
