/**
 * Set: from a drawn figure to the knot as it lies in the hand, and the proof that it is still the same knot.
 */
import type { Nudge } from '../dressing/dressed.js';
import type { Figure } from '../figure/figure.js';
import { accept, type Result } from '../figure/refusal.js';
import { beadNearest, onGrid, type Chain, type Form } from './form.js';
import { runOut } from '../ground/run-out.js';
import { lift, type Lift } from './lift.js';
import { loadsOf, stagesOf, type Load } from './pulls.js';
import { proveForm, type FormProof } from './proof.js';
import { wishesFor, type SetWishes } from './setting.js';
import { onTrail } from './trail.js';
import { tighten, type Grasp, type Level, type TightenOptions, type TightenProgress } from './tighten.js';
import { unitOf, type Vector } from './vector.js';

export interface SetForm extends Form {
  readonly proof: FormProof;
  /** Pulled further it does not stay the knot: the rope runs, or comes apart. What is shown is the last moment at which it was proved. */
  readonly runs: boolean;
}

const REACHES = { end: 9, eye: 6.5, tail: 3.5 } as const;
const STIFFNESS = 0.35;
const SPACING = { pulling: 0.4, setting: 0.25 } as const;
const STEPS = { pull: 2600, trim: 700, set: 600 } as const;

const optionsFor = (
  figure: Figure,
  lifted: Lift,
  wishes: SetWishes,
  levelled: (form: Form) => Level,
): TightenOptions => {
  const finer = wishes.finer ?? 1;
  // A pull comes along twice as many beads in four times as many steps.
  const longer = finer * finer;
  return {
    stages: stagesOf(figure, lifted, wishes),
    nudges: (wishes.nudges ?? []).map((nudge) => (chains) => {
      const form = { ...lifted, chains };
      return graspOf(figure, form, nudge, levelled(form));
    }),
    reaches: { ...REACHES, loop: wishes.loop },
    stiffness: STIFFNESS,
    spacing: SPACING.pulling / finer,
    fineSpacing: SPACING.setting / finer,
    pullSteps: STEPS.pull * longer,
    trimSteps: STEPS.trim * longer,
    setSteps: STEPS.set * longer,
    watched: true,
  };
};

/** Where a nudge takes hold of ropes that are not turned level yet: it was told by the places and the ways of a form, which is. */
function graspOf(figure: Figure, form: Form, { place, by: [x, y, z] }: Nudge, [c, s]: Level): Grasp | undefined {
  const chain = form.chains.findIndex((k) => k.rope === place.strand);
  const named = onTrail(figure, form).chains[chain];
  if (!named) return undefined;
  const at = form.chains[chain]!.at[beadNearest(named, place.at)]!;
  return { chain, at, by: [c * x + s * y, c * y - s * x, z] };
}

/**
 * A knot that comes apart when it is pulled is pulled once more, from a drawing so much larger: only what comes apart twice is said to
 * run. From one beginning, strands that lie close may slip past each other.
 */
const ROOMIER = 2;
/** But not where that is so many beads: a drawing so crowded that it is laid out this long has had its room, and would be pulled for minutes. */
const BEADS_AGAIN = 3000;

const beadsOf = ({ chains }: Lift): number => chains.reduce((n, { x }) => n + x.length / 3, 0);

/** A set form, and how its ropes lay on the way there: from the drawing, lifted, to the last moment before they were turned level. */
export interface Watched {
  readonly form: SetForm;
  readonly moments: readonly (readonly Chain[])[];
  /** The cosine and the sine of the turn, in the plane of the board, that takes the last moment to the form. */
  readonly level: Level;
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
  const roomier = lift(figure, ROOMIER);
  if (!roomier.ok || beadsOf(roomier.value) > BEADS_AGAIN) return first;
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
  const levelled = (form: Form): Level => levelTurn(form, loadsOf(figure, form, wishes));
  const work = tighten(lifted.value, optionsFor(figure, lifted.value, wishes, levelled));
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
      const level = levelled(form);
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
function levelTurn(form: Form, loads: readonly Load[]): Level {
  if (form.solids.length > 0 || loads.length === 0) return [1, 0];
  const [first, second] = loads;
  // A tail that is jerked comes to lie in one line with its own rope, whichever way it left.
  const by = second && [first!, second].some((l) => l.kind === 'tail') ? 'place' : 'way';
  const [toX, toY] = first![by];
  const [fromX, fromY] = second ? second[by] : [0, 0];
  const [x, y] = unitOf([toX - fromX, toY - fromY, 0]);
  return Math.abs(x) > Math.abs(y) ? [Math.abs(x), -y * Math.sign(x)] : [Math.abs(y), x * Math.sign(y)];
}

/** The ropes of a form turned in the plane of the board. */
function turned(form: Form, [c, s]: Level): Form {
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
