/**
 * The planner: what ropes a lesson needs, how long each is cut, and where on it every knot begins. A rope runs from its first end to its
 * last; knots lie on it in order. Lengths in millimetres.
 */
import * as z from 'zod';
import { nameSchema, NAME_LIMIT, plainText } from '../words/plain-text.js';
import { sameName } from '../words/glossary.js';
import { knotRefSchema } from './knot-ref.js';
import { cutList, type CutList, type Demand, type Piece } from './cut-list.js';
import { FORM_SPREAD, helixLength, onDrawnHost, ropeUse, type MeasuredTie, type RopeUse } from './rope-use.js';
import type { StockRope } from './stock.js';

export const PLAN_LIMITS = { ropes: 24, knots: 24, copies: 60, longestMm: 500_000 } as const;
const length = z.number().min(0).max(PLAN_LIMITS.longestMm);

/** One knot on a rope of a plan. */
export const planKnotSchema = z.object({
  ref: knotRefSchema,
  name: nameSchema,
  /** Which rope of the knot this one is, in the order of its drawing. */
  strand: z.number().int().min(0).max(24).default(0),
  /** What that strand eats, in diameters, by the form of the knot. */
  eats: z.number().min(0).max(5000),
  /** Turns more than it is drawn with, and what each eats in diameters. */
  more: z
    .object({ turns: z.number().int().min(1).max(20), each: z.number().gt(0).max(200) })
    .nullable()
    .default(null),
  /** Rope in its loop, all round. */
  loopMm: length.default(0),
  /** Turns round something thicker or thinner than it is drawn: how many, how thick that is drawn in diameters, and how thick it is. */
  host: z
    .object({ turns: z.number().min(0).max(60), drawn: z.number().gt(0).max(60), mm: z.number().gt(0).max(3000) })
    .nullable()
    .default(null),
  /** Rope between it and the next knot, or the last end’s own length. */
  afterMm: length.default(0),
});
export type PlanKnot = z.infer<typeof planKnotSchema>;

export const planRopeSchema = z.object({
  name: nameSchema,
  /** The rope of the stock it is cut from; null: none is chosen yet. */
  rope: z.uuid().nullable().default(null),
  diameterMm: z.number().min(0.5).max(120),
  /** What stands before the first knot: a standing part, or the tail of a knot that is tied with this end. */
  first: z.enum(['standing part', 'tail']).default('standing part'),
  firstMm: length.default(0),
  knots: z.array(planKnotSchema).max(PLAN_LIMITS.knots).default([]),
  /** What is cut off an end when it is whipped or sealed, at both ends together. */
  trimMm: length.default(0),
  /** Tied so many times with one rope, and what each time after the first costs of it: an end cut off, a whipping made anew. */
  takes: z.number().int().min(1).max(PLAN_LIMITS.copies).default(1),
  takeMm: length.default(0),
  /** So many such ropes: one a learner. */
  copies: z.number().int().min(1).max(PLAN_LIMITS.copies).default(1),
});
export type PlanRope = z.infer<typeof planRopeSchema>;

export const planSchema = z.object({
  name: nameSchema,
  ropes: z.array(planRopeSchema).max(PLAN_LIMITS.ropes).default([]),
  /** What is left of a piece goes back to the stock from this length on. */
  keepMm: length.default(1000),
  remarks: plainText(4 * NAME_LIMIT).default(''),
});
export type Plan = z.infer<typeof planSchema>;

/** Lengths are cut to the next whole centimetre. */
const STEP_MM = 10;
const upTo = (mm: number): number => Math.ceil(mm / STEP_MM - 1e-9) * STEP_MM;

/** Where a knot lies on its rope. */
export interface KnotMark {
  readonly knot: PlanKnot;
  readonly use: RopeUse;
  /** From the last end to where the knot begins on the side of that end, and to where it ends on the other. */
  readonly nearMm: number;
  readonly farMm: number;
  /** So much more or less, of all that lies between the end and the mark. */
  readonly spread: number;
}

export interface RopePlanned {
  readonly rope: PlanRope;
  /** What is expected to be used, without what is added for safety. */
  readonly usedMm: number;
  /** What knots may eat beyond it. */
  readonly spreadMm: number;
  /** What is cut: used, spread, trimming, and what takes cost, to the next centimetre. */
  readonly cutMm: number;
  /** From the last end to the first. */
  readonly marks: readonly KnotMark[];
}

/** What a knot of a plan eats, on the host it really has. */
export function eatenBy(knot: PlanKnot, diameterMm: number, ties: readonly MeasuredTie[] = []): RopeUse {
  const drawn = ropeUse(
    knot.eats,
    diameterMm,
    ties.map((t) => onDrawnHost(t, knot.host)),
  );
  // Turns beyond those that are drawn, and tied, are as sure as the form is.
  const turnsMm = knot.more ? knot.more.turns * knot.more.each * diameterMm : 0;
  const use = { ...drawn, mm: drawn.mm + turnsMm, spread: drawn.spread + FORM_SPREAD * turnsMm };
  if (!knot.host) return use;
  const { host } = knot;
  const round = (mm: number): number => helixLength(host.turns, mm, diameterMm);
  return { ...use, mm: Math.max(0, use.mm + round(host.mm) - round(host.drawn * diameterMm)) };
}

/** Measured ties of a rope of a knot. */
export type TiesOf = (knot: PlanKnot) => readonly MeasuredTie[];

/** Where the knots of a rope lie, and how long it is. */
export function planRope(rope: PlanRope, tiesOf: TiesOf = () => []): RopePlanned {
  let [here, spread] = [0, 0];
  const marks: KnotMark[] = [];
  for (const knot of [...rope.knots].reverse()) {
    here += knot.afterMm;
    const use = eatenBy(knot, rope.diameterMm, tiesOf(knot));
    const nearMm = here;
    here += use.mm + knot.loopMm;
    spread += use.spread;
    marks.push({ knot, use, nearMm, farMm: here, spread });
  }
  const usedMm = here + rope.firstMm;
  return {
    rope,
    usedMm,
    spreadMm: spread,
    cutMm: upTo(usedMm + spread + rope.trimMm + (rope.takes - 1) * rope.takeMm),
    marks,
  };
}

/** A tail that a plan leaves of a knot: of one of its ropes, in a rope of so many millimetres. */
export interface TailInPlan {
  readonly plan: string;
  readonly rope: string;
  readonly strand: number;
  readonly mm: number;
  readonly diameterMm: number;
}

/** A knot goes by its name, too: one of the shelf and the same of the book are one. */
export interface KnotNamed {
  readonly ref: string;
  readonly name: string;
}
const isOf = (knot: PlanKnot, { ref, name }: KnotNamed): boolean =>
  knot.ref === ref || sameName(knot.name) === sameName(name);

/** The tails that plans leave of a knot where it is tied with the end of a rope; what lies between two knots is no tail. */
export const tailsInPlans = (plans: readonly Plan[], wanted: KnotNamed): TailInPlan[] =>
  plans.flatMap((plan) =>
    plan.ropes.flatMap(({ name, first, firstMm, knots, diameterMm }) => {
      const of = (knot: PlanKnot | undefined, mm: number): TailInPlan[] =>
        knot && isOf(knot, wanted) && mm > 0
          ? [{ plan: plan.name, rope: name, strand: knot.strand, mm, diameterMm }]
          : [];
      return [...(first === 'tail' ? of(knots[0], firstMm) : []), ...of(knots.at(-1), knots.at(-1)?.afterMm ?? 0)];
    }),
  );

/** A rope of a plan on which a knot is tied: how much of it one take wants, and all takes it is planned for. */
export interface RopeForTakes {
  readonly plan: string;
  readonly rope: string;
  readonly takes: number;
  readonly oneMm: number;
  readonly allMm: number;
}

/** The ropes on which plans have a knot, as a shoot needs them. */
export const ropesForTakes = (plans: readonly Plan[], wanted: KnotNamed, tiesOf?: TiesOf): RopeForTakes[] =>
  plans.flatMap((plan) =>
    plan.ropes
      .filter((r) => r.knots.some((k) => isOf(k, wanted)))
      .map((r) => ({
        plan: plan.name,
        rope: r.name,
        takes: r.takes,
        oneMm: planRope({ ...r, takes: 1 }, tiesOf).cutMm,
        allMm: planRope(r, tiesOf).cutMm,
      })),
  );

/** The loop that comes out when a knot is begun so far from the last end; less than nothing where it cannot be reached. */
export const loopFrom = (mark: KnotMark, farMm: number): number => farMm - mark.nearMm - mark.use.mm;

/** Ropes of the stock as the planner meets them. */
export interface PlannerRope extends Pick<StockRope, 'name' | 'pieces'> {
  readonly id: string;
  /** Why none of it may be cut; null: it may. */
  readonly unfit: string | null;
}

/** The cut list of one rope of the stock. */
export interface StockCut {
  /** Undefined: ropes for which none of the stock is chosen. */
  readonly stock: PlannerRope | undefined;
  readonly demands: readonly Demand[];
  readonly list: CutList;
}

export interface Planned {
  readonly ropes: readonly RopePlanned[];
  readonly cuts: readonly StockCut[];
}

/** Plans a lesson: every rope, and what is cut from what. */
export function planned(plan: Plan, stock: readonly PlannerRope[], tiesOf?: TiesOf): Planned {
  const ropes = plan.ropes.map((rope) => planRope(rope, tiesOf));
  const ids = [...new Set(plan.ropes.map((r) => r.rope))];
  const cuts = ids.map((id): StockCut => {
    const own = stock.find((s) => s.id === id);
    const demands = ropes
      .filter((r) => r.rope.rope === id && r.cutMm > 0)
      .flatMap(({ rope, cutMm }) =>
        Array.from({ length: rope.copies }, (_, k): Demand => ({
          label: rope.copies > 1 ? `${rope.name}, ${k + 1}` : rope.name,
          mm: cutMm,
        })),
      );
    const pieces = own?.unfit === null ? own.pieces.map((mm, i): Piece => ({ label: `piece ${i + 1}`, mm })) : [];
    return { stock: own, demands, list: cutList(demands, pieces, plan.keepMm) };
  });
  return { ropes, cuts };
}
