/**
 * The run of a rope through an assembly, as a rope of a plan: what the planner cuts and where the trail strip has its marks. A pass round
 * a thing lies on it like a knot that eats just what goes round.
 */
import { GONE } from '../ropes/knot-ref.js';
import { planKnotSchema, planRopeSchema, planSchema, type Plan, type PlanKnot, type PlanRope } from '../ropes/plan.js';
import { helixLength } from '../ropes/rope-use.js';
import { uncapital } from '../words/vocabulary.js';
import { sayThe } from './say.js';
import type { Assembly, AssemblyRope, Stop } from './assembly.js';

/** “round the waist, 3 times”; half a turn is a pass. */
export function sayRound(name: string, turns: number): string {
  const said = uncapital(name);
  if (turns <= 0.5) return `past the ${said}`;
  if (turns <= 1) return `round the ${said}`;
  return `round the ${said}, ${turns} times`;
}

/** A name cut to what a knot of a plan may be called. */
const asName = (text: string): string => (text.length > 80 ? `${text.slice(0, 79)}…` : text);

function planStop(a: Assembly, rope: AssemblyRope, stop: Stop): PlanKnot {
  if (stop.kind === 'round') {
    const thing = a.things.find((t) => t.id === stop.thing);
    return planKnotSchema.parse({
      ref: GONE,
      name: asName(sayRound(thing?.name ?? '', stop.turns)),
      eats: 0,
      // A length that is known: it does not spread as what a knot eats does.
      loopMm: thing ? Math.round(helixLength(stop.turns, thing.acrossMm, rope.diameterMm)) : 0,
      afterMm: stop.afterMm,
    });
  }
  const knot = a.knots.find((k) => k.id === stop.knot);
  if (stop.kind === 'through')
    return planKnotSchema.parse({
      ref: GONE,
      name: asName(`through ${uncapital(sayThe(knot?.role ?? ''))}`),
      eats: 0,
      afterMm: stop.afterMm,
    });
  const { kind: _, knot: __, ...eats } = stop;
  const on = a.things.find((t) => t.id === knot?.on);
  // What it is tied to is as thick as it stands on the plan now.
  const host = eats.host && on ? { ...eats.host, mm: on.acrossMm } : eats.host;
  return { ...eats, host, ref: knot?.ref ?? GONE, name: knot?.name ?? GONE };
}

/** A rope of an assembly as the planner has it. */
export const asPlanRope = (a: Assembly, rope: AssemblyRope): PlanRope =>
  planRopeSchema.parse({
    name: rope.name,
    rope: rope.rope,
    diameterMm: rope.diameterMm,
    first: rope.first,
    firstMm: rope.firstMm,
    trimMm: rope.trimMm,
    copies: rope.copies,
    knots: rope.stops.map((s) => planStop(a, rope, s)),
  });

/** All ropes of an assembly as a plan: it is cut like one. */
export const asPlan = (a: Assembly): Plan =>
  planSchema.parse({ name: a.name, keepMm: a.keepMm, ropes: a.ropes.map((r) => asPlanRope(a, r)) });

/** Where a knot lies on a rope: which rope, and which of its stops. */
export interface KnotStop {
  readonly rope: number;
  readonly stop: number;
}

/** Every stop of a knot, in the order of the ropes. */
export const stopsOf = (a: Assembly, knot: string): KnotStop[] =>
  a.ropes.flatMap((r, rope) =>
    r.stops.flatMap((s, stop) => (s.kind === 'knot' && s.knot === knot ? [{ rope, stop }] : [])),
  );

/** A tail of an assembly: of the knot that is the last one at an end. */
export interface AssemblyTail {
  readonly knot: string;
  readonly rope: number;
  readonly end: 'first' | 'last';
  readonly mm: number;
}

/** The tails of all ropes. What stands before the first stop is one only where it is said to be. */
export const tailsOf = (a: Assembly): AssemblyTail[] =>
  a.ropes.flatMap((r, rope) => {
    const [first, last] = [r.stops[0], r.stops.at(-1)];
    return [
      ...(r.first === 'tail' && first?.kind === 'knot'
        ? [{ knot: first.knot, rope, end: 'first' as const, mm: r.firstMm }]
        : []),
      ...(last?.kind === 'knot' ? [{ knot: last.knot, rope, end: 'last' as const, mm: last.afterMm }] : []),
    ];
  });
