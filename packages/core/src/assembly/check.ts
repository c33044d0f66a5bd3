/**
 * What is wrong or doubtful in an assembly: a knot that is another one, a keeper that is missing or the wrong knot, a leg loop routed the
 * other way, a gate that opens downward, a tail that is too short, an order in which it cannot be tied. Each says what, why it matters and
 * what puts it right; most can be mended with one press.
 */
import { requiredTail, type TailRule } from '../ropes/tail-rule.js';
import { legForces, LEG_ANGLES } from '../ropes/loads.js';
import type { Planned } from '../ropes/plan.js';
import { withArticle } from '../words/inflect.js';
import { theKnot, uncapital } from '../words/vocabulary.js';
import {
  BODY_THINGS,
  withKnotReplaced,
  type Assembly,
  type AssemblyKnot,
  type RoundWay,
  type Stop,
  type StrandUse,
} from './assembly.js';
import { besideIt, keepersAt, withKeeper } from './keepers.js';
import { sayThe } from './say.js';
import { stopsOf, tailsOf } from './run.js';

/** What is known of a knot that an assembly shows. */
export interface KnotFacts {
  readonly ref: string;
  readonly name: string;
  /** Archived: it is on no shelf any more. Gone: it was removed, or is no pattern. */
  readonly state: 'there' | 'archived' | 'gone';
  /** The patterns that it is by computation, in either hand, the closest first. */
  readonly is: readonly { readonly id: string; readonly name: string; readonly mirrored: boolean }[];
  /** Its ropes. */
  readonly strands: number;
  /** What to look for, front and back. */
  readonly marks: readonly { readonly side: 'front' | 'back'; readonly text: string }[];
  /** Knots that are taken for it. */
  readonly takenFor: readonly string[];
  /** Why it is not for people; null: no rule says so. */
  readonly unsuitable: string | null;
  /** Errors that its own proof has; null: it has not been proved yet. */
  readonly errors: number | null;
  /** Where its lesson is, when it is published. */
  readonly slug: string | null;
}

/** Of a knot that is not there any more nothing is known. */
export const NO_FACTS: KnotFacts = {
  ref: 'gone',
  name: '',
  state: 'gone',
  is: [],
  strands: 0,
  marks: [],
  takenFor: [],
  unsuitable: null,
  errors: null,
  slug: null,
};

export type FactsOf = (ref: string) => KnotFacts | undefined;

export type AssemblyCode =
  | 'knot-gone'
  | 'knot-archived'
  | 'another-knot'
  | 'knot-has-errors'
  | 'on-no-rope'
  | 'strand-missing'
  | 'not-for-people'
  | 'keeper-missing'
  | 'keeper-apart'
  | 'keeper-first'
  | 'leg-route'
  | 'gate'
  | 'tail-short'
  | 'legs-wide'
  | 'legs-unclear'
  | 'rope-short';

export interface AssemblyFinding {
  readonly code: AssemblyCode;
  readonly severity: 'error' | 'warning';
  /** The knot or thing that it is about, by its id. */
  readonly about?: string | undefined;
  readonly title: string;
  readonly why: string;
  readonly remedy: string;
  readonly mend?: { readonly label: string; readonly to: (a: Assembly) => Assembly } | undefined;
}

/** What an assembly is held against. */
export interface AssemblyHouse {
  readonly facts: FactsOf;
  readonly tail: TailRule;
  /** The name of a pattern, by its id. */
  readonly patternName: (id: string) => string;
  /** What each rope of a pattern eats. */
  readonly eatsOf: (pattern: string) => readonly StrandUse[];
  readonly sayMm?: (mm: number) => string;
  /** What is cut from what, where the stock is known. */
  readonly planned?: Planned | undefined;
}

/** All that is found, in the order of tying; what is of the whole comes last. */
export function assemblyFindings(a: Assembly, house: AssemblyHouse): AssemblyFinding[] {
  return [
    ...a.knots.flatMap((k) => [...identity(a, k, house), ...onRopes(a, k, house), ...keepers(a, k, house)]),
    ...routes(a),
    ...gates(a),
    ...tails(a, house),
    ...legs(a),
    ...stock(house),
  ];
}

function identity(a: Assembly, knot: AssemblyKnot, house: AssemblyHouse): AssemblyFinding[] {
  const { facts, patternName } = house;
  const known = facts(knot.ref);
  if (!known) return [];
  const about = knot.id;
  const role = sayThe(knot.role);
  if (known.state === 'gone')
    return [
      {
        code: 'knot-gone',
        severity: 'error',
        about,
        title: `${knot.name} is not there any more`,
        why: `${role} was taken from the shelf and removed there: nobody can look up how it is tied.`,
        remedy: 'Put another knot in its place.',
        mend: asPattern(knot, house),
      },
    ];
  const found: AssemblyFinding[] = [];
  if (known.state === 'archived')
    found.push({
      code: 'knot-archived',
      severity: 'warning',
      about,
      title: `${known.name} is archived`,
      why: `${role} is a knot that the house does not teach any more.`,
      remedy: 'Bring it back to the shelf, or put another knot in its place.',
    });
  if (knot.shouldBe !== null && !known.is.some((m) => m.id === knot.shouldBe)) {
    const [own] = known.is;
    const should = patternName(knot.shouldBe);
    found.push({
      code: 'another-knot',
      severity: 'error',
      about,
      title: own
        ? `${role} should be ${sayA(should)} and is ${sayA(own.name)}`
        : `${role} should be ${sayA(should)} and is not`,
      why: own
        ? `“${known.name}” was computed to be ${theKnot(own.name)}, whatever it is called.`
        : `“${known.name}” was computed to be no knot of the book.`,
      remedy: `Put ${theKnot(should)} in its place, or say what it ought to be.`,
      mend: asPattern(knot, house),
    });
  }
  if ((known.errors ?? 0) > 0)
    found.push({
      code: 'knot-has-errors',
      severity: 'error',
      about,
      title: `${known.name} has ${known.errors === 1 ? 'an error' : `${known.errors} errors`} of its own`,
      why: 'What its own proof finds is wrong in the assembly, too.',
      remedy: 'Open it and mend it there.',
    });
  if (a.useGrade === 'people depend on it' && known.unsuitable !== null) {
    const kept = knot.keepers > 0 && keepersAt(a, knot.id).length >= knot.keepers;
    found.push({
      code: 'not-for-people',
      severity: kept ? 'warning' : 'error',
      about,
      title: kept ? `${role} holds people by its keepers` : `${role} is not for people`,
      why: known.unsuitable,
      remedy: kept
        ? 'Teach it as the school does, with a second person who looks at every keeper; where a harness can be had, take the harness.'
        : 'Put another knot in its place, or grade the assembly for what is no life.',
    });
  }
  return found;
}

/** “a reef knot”; “two half hitches”. */
const sayA = (name: string): string =>
  /^(?:two|three|four) /i.test(name) ? uncapital(name) : withArticle(uncapital(name));

/** The pattern that a knot ought to be, in its place. */
function asPattern({ id, shouldBe }: AssemblyKnot, { patternName, eatsOf }: AssemblyHouse): AssemblyFinding['mend'] {
  if (shouldBe === null) return undefined;
  const name = patternName(shouldBe);
  return {
    label: `Put ${theKnot(name)} of the book there`,
    to: (a) => withKnotReplaced(a, id, { ref: `pattern:${shouldBe}`, name }, eatsOf(shouldBe)),
  };
}

function onRopes(a: Assembly, knot: AssemblyKnot, { facts }: AssemblyHouse): AssemblyFinding[] {
  const at = stopsOf(a, knot.id);
  const known = facts(knot.ref);
  if (at.length === 0)
    return [
      {
        code: 'on-no-rope',
        severity: 'error',
        about: knot.id,
        title: `${sayThe(knot.role)} is on no rope`,
        why: 'It is in the order of tying, and no rope goes through it.',
        remedy: 'Put it on a rope, where it is tied.',
      },
    ];
  if (!known || at.length >= known.strands) return [];
  return [
    {
      code: 'strand-missing',
      severity: 'warning',
      about: knot.id,
      title: `${sayThe(knot.role)} has ${known.strands} ropes, and ${at.length === 1 ? 'one goes' : `${at.length} go`} through it`,
      why: 'What its other rope eats is not counted, and the plan does not show what it joins.',
      remedy: 'Put it on the other rope, too, or on the other end of the same one.',
    },
  ];
}

function keepers(a: Assembly, knot: AssemblyKnot, { patternName, eatsOf }: AssemblyHouse): AssemblyFinding[] {
  const found: AssemblyFinding[] = [];
  const there = keepersAt(a, knot.id);
  if (there.length < knot.keepers) {
    const open = tailsOf(a).filter((t) => t.knot === knot.id);
    const missing = knot.keepers - there.length;
    const [tail] = open;
    found.push({
      code: 'keeper-missing',
      severity: 'error',
      about: knot.id,
      title: `${missing === 1 ? 'A keeper is' : `${missing} keepers are`} missing on ${uncapital(sayThe(knot.role))}`,
      why: `It is held by ${knot.keepers === 1 ? 'a keeper' : `${knot.keepers} keepers`}: without ${missing === 1 ? 'it' : 'them'} a tail can creep back through.`,
      remedy: 'Tie a keeper with its tail, close against it.',
      mend: tail && {
        label: `Add ${sayA(patternName('overhand'))} as a keeper`,
        to: (now) => withKeeper(now, tail, patternName('overhand'), eatsOf('overhand')),
      },
    });
  }
  if (knot.guards !== null) {
    const guarded = a.knots.find((k) => k.id === knot.guards);
    const order = (id: string): number => a.knots.findIndex((k) => k.id === id);
    if (guarded && order(guarded.id) > order(knot.id))
      found.push({
        code: 'keeper-first',
        severity: 'error',
        about: knot.id,
        title: `${sayThe(knot.role)} is tied before what it guards`,
        why: `The tail of ${uncapital(sayThe(guarded.role))} must be there before a keeper is tied with it.`,
        remedy: `Tie it after ${uncapital(sayThe(guarded.role))}.`,
        mend: { label: 'Tie it after it', to: (now) => tiedAfter(now, knot.id, guarded.id) },
      });
    if (guarded && stopsOf(a, knot.id).length > 0 && !besideIt(a, knot.id, guarded.id))
      found.push({
        code: 'keeper-apart',
        severity: 'error',
        about: knot.id,
        title: `${sayThe(knot.role)} does not lie next to ${uncapital(sayThe(guarded.role))}`,
        why: 'A keeper holds a tail only where it lies close against the knot whose tail it is.',
        remedy: 'Put it next to it, on its tail.',
      });
  }
  return found;
}

/** A knot moved in the order of tying, to right after another. */
export function tiedAfter(a: Assembly, id: string, other: string): Assembly {
  const own = a.knots.find((k) => k.id === id);
  if (!own) return a;
  const rest = a.knots.filter((k) => k.id !== id);
  const at = rest.findIndex((k) => k.id === other) + 1;
  return { ...a, knots: [...rest.slice(0, at), own, ...rest.slice(at)] };
}

/** Passes round legs, as they are said to be routed. */
function routes(a: Assembly): AssemblyFinding[] {
  const passes = a.ropes.flatMap((r, rope) =>
    r.stops.flatMap((s, stop) => {
      if (s.kind !== 'round') return [];
      const thing = a.things.find((t) => t.id === s.thing);
      return thing?.kind === 'thigh' ? [{ rope, stop, way: s.way, thing }] : [];
    }),
  );
  const ways = passes.map((p) => p.way);
  const wanted: RoundWay | null = a.legLoops ?? ways.find((w) => w !== null) ?? null;
  if (wanted === null) return [];
  return passes
    .filter((p) => p.way !== wanted)
    .map(({ rope, stop, way, thing }): AssemblyFinding => ({
      code: 'leg-route',
      severity: 'error',
      about: thing.id,
      title:
        way === null
          ? `Nothing says which way the rope goes round the ${uncapital(thing.name)}`
          : `The leg loop round the ${uncapital(thing.name)} is routed ${way}, ${a.legLoops === null ? `the other ${wanted}` : `and the school routes it ${wanted}`}`,
      why: 'Leg loops that are routed differently carry unevenly, and cannot be inspected by the same picture.',
      remedy: `Route it ${wanted}.`,
      mend: {
        label: `Route it ${wanted}`,
        to: (now) => withStop(now, rope, stop, (s) => (s.kind === 'round' ? { ...s, way: wanted } : s)),
      },
    }));
}

/** A stop of a rope changed. */
export const withStop = (a: Assembly, rope: number, stop: number, to: (s: Stop) => Stop): Assembly => ({
  ...a,
  ropes: a.ropes.map((r, i) => (i === rope ? { ...r, stops: r.stops.map((s, j) => (j === stop ? to(s) : s)) } : r)),
});

function gates(a: Assembly): AssemblyFinding[] {
  const forPeople = a.useGrade === 'people depend on it';
  return a.things
    .filter((t) => t.kind === 'carabiner' && t.gate !== 'up and out')
    .filter((t) => forPeople || t.gate !== 'not looked at')
    .map((t): AssemblyFinding => {
      const unknown = t.gate === 'not looked at';
      return {
        code: 'gate',
        severity: unknown ? 'warning' : 'error',
        about: t.id,
        title: unknown
          ? `Nothing says how the gate of the ${uncapital(t.name)} looks`
          : `The gate of the ${uncapital(t.name)} looks ${t.gate === 'down' ? 'down' : 'toward the body'}`,
        why: 'A gate that looks down or inward is pressed open by what it hangs on, and a sleeve turns itself loose.',
        remedy: 'Hang it with its gate up and out, and lock it.',
        mend: {
          label: 'Turn its gate up and out',
          to: (now) => ({
            ...now,
            things: now.things.map((x) => (x.id === t.id ? { ...x, gate: 'up and out' as const } : x)),
          }),
        },
      };
    });
}

function tails(a: Assembly, { tail, sayMm = inMm }: AssemblyHouse): AssemblyFinding[] {
  return tailsOf(a).flatMap(({ knot, rope, end, mm }): AssemblyFinding[] => {
    const { diameterMm, name } = a.ropes[rope]!;
    const asked = requiredTail(tail, diameterMm) * diameterMm;
    // A millimetre is no tail’s matter.
    if (mm >= asked - 1) return [];
    const role = uncapital(sayThe(a.knots.find((k) => k.id === knot)?.role ?? ''));
    return [
      {
        code: 'tail-short',
        severity: 'error',
        about: knot,
        title: `The tail of ${role} is ${sayMm(mm)} long, and ${sayMm(asked)} are asked`,
        why: `A tail that is short creeps out when the rope is loaded and unloaded.${tail.cites === undefined ? '' : ` ${tail.cites}`}`,
        remedy: `Leave more of ${uncapital(sayThe(name))} there.`,
        mend: { label: `Leave ${sayMm(upTo(asked))}`, to: (now) => withTail(now, rope, end, upTo(asked)) },
      },
    ];
  });
}

const inMm = (mm: number): string => `${Math.round(mm)} mm`;
/** To the next whole centimetre: nobody measures a tail closer. */
const upTo = (mm: number): number => Math.ceil(mm / 10 - 1e-9) * 10;

/** A rope with another tail at one of its ends. */
const withTail = (a: Assembly, rope: number, end: 'first' | 'last', mm: number): Assembly =>
  end === 'last'
    ? withStop(a, rope, a.ropes[rope]!.stops.length - 1, (s) => ({ ...s, afterMm: mm }))
    : { ...a, ropes: a.ropes.map((r, i) => (i === rope ? { ...r, firstMm: mm } : r)) };

/** Degrees, as they are said. */
export const sayAngle = (radians: number): string => `${Math.round((radians * 180) / Math.PI)}°`;

function legs(a: Assembly): AssemblyFinding[] {
  if (!a.legs) return [];
  const { spanMm, firstMm, secondMm } = a.legs;
  const forces = legForces({ span: spanMm, rise: 0, legs: 'fixed', first: firstMm, second: secondMm });
  if (!forces.ok)
    return [
      {
        code: 'legs-unclear',
        severity: 'error',
        title: 'The legs cannot be so',
        why: forces.reason,
        remedy: forces.remedy,
      },
    ];
  const { between, first, second, slack } = forces.value;
  if (slack)
    return [
      {
        code: 'legs-unclear',
        severity: 'error',
        title: `The ${slack} leg hangs slack: the other carries everything`,
        why: 'Legs of such lengths do not share the load.',
        remedy: 'Shorten the longer leg.',
      },
    ];
  if (between < LEG_ANGLES.wide) return [];
  const most = Math.max(first, second);
  const beyond = between >= LEG_ANGLES.whole;
  return [
    {
      code: 'legs-wide',
      severity: beyond ? 'error' : 'warning',
      title: `The legs open ${sayAngle(between)}`,
      why: `Each carries up to ${Math.round(100 * most)} % of the load${beyond ? ': as much as if it hung on one alone, or more' : ''}.`,
      remedy: 'Keep the angle small: make the legs longer.',
    },
  ];
}

function stock({ planned, sayMm = inMm }: AssemblyHouse): AssemblyFinding[] {
  return (planned?.cuts ?? []).flatMap(({ stock: of, list }) =>
    of
      ? list.missing.map((m): AssemblyFinding => ({
          code: 'rope-short',
          severity: 'error',
          title: `No piece of ${of.name} is long enough for ${uncapital(m.label)}`,
          why: `${sayMm(m.mm)} are needed in one piece${of.unfit === null ? '' : `, and ${of.unfit}`}.`,
          remedy: 'Choose another rope of the stock, or leave less between the knots.',
        }))
      : [],
  );
}

/** Whether parts of a person are in it. */
export const holdsAPerson = (a: Assembly): boolean => a.things.some((t) => BODY_THINGS.includes(t.kind));
