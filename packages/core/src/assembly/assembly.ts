/**
 * An assembly: several knots on ropes in an order, tied to things, inspected as one. It is a plan of figures that are kept elsewhere: each
 * knot is one of the shelf or of the book. Lengths in millimetres; places on the board in its own units: the board is not to scale.
 */
import * as z from 'zod';
import { nameSchema, plainText } from '../words/plain-text.js';
import { USE_GRADES } from '../words/classes.js';
import { knotRefSchema } from '../ropes/knot-ref.js';
import { planKnotSchema, PLAN_LIMITS } from '../ropes/plan.js';

/** The board on which an assembly is laid out. */
export const BOARD = { width: 1200, height: 720 } as const;
export const ASSEMBLY_LIMITS = { things: 24, knots: 40, ropes: 12, stops: 24, cautions: 12 } as const;

const length = z.number().min(0).max(PLAN_LIMITS.longestMm);
/** What a thing or a knot is called inside its assembly. */
const idSchema = z.string().regex(/^[a-z][a-z0-9]{0,15}$/, 'an id is a small letter, then small letters or digits');
const place = { x: z.number().min(0).max(BOARD.width), y: z.number().min(0).max(BOARD.height) };

export const ASSEMBLY_THINGS = [
  'spar',
  'plank',
  'post',
  'ring',
  'carabiner',
  'barrel',
  'load',
  'waist',
  'thigh',
] as const;
export type AssemblyThingKind = (typeof ASSEMBLY_THINGS)[number];
/** Parts of a person: what holds them is graded for people. */
export const BODY_THINGS: readonly AssemblyThingKind[] = ['waist', 'thigh'];

/** How a carabiner hangs: where its gate looks, and which way it opens. */
export const GATES = ['up and out', 'down', 'toward the body', 'not looked at'] as const;
export type Gate = (typeof GATES)[number];
/** How a rope goes round a leg, a spar or a barrel, as whoever ties it sees it. */
export const ROUND_WAYS = ['upward', 'downward'] as const;
export type RoundWay = (typeof ROUND_WAYS)[number];

export const assemblyThingSchema = z.object({
  id: idSchema,
  name: nameSchema,
  kind: z.enum(ASSEMBLY_THINGS),
  /** What a rope goes round, across. */
  acrossMm: z.number().min(2).max(3000),
  ...place,
  /** Turned on the board, in degrees, clockwise. */
  turn: z.number().min(0).max(359).default(0),
  /** Of a carabiner. */
  gate: z.enum(GATES).default('not looked at'),
});
export type AssemblyThing = z.infer<typeof assemblyThingSchema>;

/** A knot of an assembly, where it is in the order of tying. */
export const assemblyKnotSchema = z.object({
  id: idSchema,
  /** What it is there: “first keeper”. */
  role: nameSchema,
  /** The knot that is shown, and what it was called last. */
  ref: knotRefSchema,
  name: nameSchema,
  /** The pattern of the book that it ought to be; null: any knot will do. */
  shouldBe: z
    .string()
    .regex(/^[a-z0-9-]{1,60}$/)
    .nullable()
    .default(null),
  /** The knot whose tail it guards. */
  guards: idSchema.nullable().default(null),
  /** So many keepers are asked on its tails. */
  keepers: z.number().int().min(0).max(2).default(0),
  /** What it is tied to, or what its loop holds. */
  on: idSchema.nullable().default(null),
  ...place,
});
export type AssemblyKnot = z.infer<typeof assemblyKnotSchema>;

const eaten = planKnotSchema.pick({ strand: true, eats: true, more: true, loopMm: true, host: true }).shape;
/** Where a rope goes, from its first end to its last: through a knot, round a thing, or through the loop of a knot. */
export const stopSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('knot'), knot: idSchema, ...eaten, afterMm: length.default(0) }),
  z.object({
    kind: z.literal('round'),
    thing: idSchema,
    /** In halves: half a turn goes behind it and back. */
    turns: z.number().min(0.5).max(20).multipleOf(0.5).default(0.5),
    way: z.enum(ROUND_WAYS).nullable().default(null),
    afterMm: length.default(0),
  }),
  z.object({ kind: z.literal('through'), knot: idSchema, afterMm: length.default(0) }),
]);
export type Stop = z.infer<typeof stopSchema>;

export const assemblyRopeSchema = z.object({
  name: nameSchema,
  /** The rope of the stock it is cut from; null: none is chosen yet. */
  rope: z.uuid().nullable().default(null),
  diameterMm: z.number().min(0.5).max(120),
  /** What stands before its first stop. */
  first: z.enum(['standing part', 'tail']).default('standing part'),
  firstMm: length.default(0),
  stops: z.array(stopSchema).max(ASSEMBLY_LIMITS.stops).default([]),
  trimMm: length.default(0),
  copies: z.number().int().min(1).max(PLAN_LIMITS.copies).default(1),
});
export type AssemblyRope = z.infer<typeof assemblyRopeSchema>;

/** Two legs that carry one load: how far their anchors are apart, and how long they are. */
const legsSchema = z.object({
  spanMm: z.number().min(1).max(PLAN_LIMITS.longestMm),
  firstMm: z.number().min(1).max(PLAN_LIMITS.longestMm),
  secondMm: z.number().min(1).max(PLAN_LIMITS.longestMm),
});

const parts = z.object({
  name: nameSchema,
  summary: plainText(400).default(''),
  useGrade: z.enum(USE_GRADES).default('load-bearing'),
  /** The school it is tied by, where schools differ. */
  school: plainText(80).default(''),
  cautions: z.array(plainText(200).min(1)).max(ASSEMBLY_LIMITS.cautions).default([]),
  things: z.array(assemblyThingSchema).max(ASSEMBLY_LIMITS.things).default([]),
  /** In the order in which they are tied. */
  knots: z.array(assemblyKnotSchema).max(ASSEMBLY_LIMITS.knots).default([]),
  ropes: z.array(assemblyRopeSchema).max(ASSEMBLY_LIMITS.ropes).default([]),
  /** How leg loops are routed by its school; null: either way, both alike. */
  legLoops: z.enum(ROUND_WAYS).nullable().default(null),
  legs: legsSchema.nullable().default(null),
  /** What is left of a piece of stock goes back to it from this length on. */
  keepMm: length.default(1000),
});
export type Assembly = z.infer<typeof parts>;

/** An assembly whose parts name one another rightly. */
export const assemblySchema = parts.superRefine((a, ctx) => {
  const knots = new Set<string>();
  const things = new Set<string>();
  const bad = (path: (string | number)[], message: string): void => ctx.addIssue({ code: 'custom', path, message });
  const named: readonly (readonly [readonly { readonly id: string }[], Set<string>, string])[] = [
    [a.knots, knots, 'knots'],
    [a.things, things, 'things'],
  ];
  for (const [list, ids, what] of named)
    list.forEach(({ id }, i) => {
      if (ids.has(id)) bad([what, i, 'id'], `there is a “${id}” already`);
      ids.add(id);
    });
  a.knots.forEach((k, i) => {
    if (k.guards !== null && !knots.has(k.guards)) bad(['knots', i, 'guards'], `there is no knot “${k.guards}” in it`);
    if (k.on !== null && !things.has(k.on)) bad(['knots', i, 'on'], `there is no thing “${k.on}” in it`);
    if (guardsItself(a.knots, k)) bad(['knots', i, 'guards'], 'a knot cannot guard itself, by way of others either');
  });
  a.ropes.forEach((r, i) =>
    r.stops.forEach((s, j) => {
      const at = ['ropes', i, 'stops', j];
      if (s.kind === 'round') {
        if (!things.has(s.thing)) bad([...at, 'thing'], `there is no thing “${s.thing}” in it`);
      } else if (!knots.has(s.knot)) bad([...at, 'knot'], `there is no knot “${s.knot}” in it`);
    }),
  );
});

/** Whether what guards what comes round to a knot again. */
function guardsItself(knots: readonly AssemblyKnot[], knot: AssemblyKnot): boolean {
  let at: string | null = knot.guards;
  for (let n = 0; at !== null && n <= knots.length; n += 1) {
    if (at === knot.id) return true;
    const next: string = at;
    at = knots.find((k) => k.id === next)?.guards ?? null;
  }
  return false;
}

/** An id that is not taken yet: the letter, and the first number that is free. */
export function freeId(letter: string, taken: readonly { readonly id: string }[]): string {
  const ids = new Set(taken.map((t) => t.id));
  for (let n = 1; ; n += 1) if (!ids.has(`${letter}${n}`)) return `${letter}${n}`;
}

/** What a rope of a knot eats as it is set, in diameters; and its turns round a host, with how thick that is drawn. */
export interface StrandUse {
  readonly set: number;
  readonly host: { readonly turns: number; readonly drawn: number } | null;
}

/** A stop at a knot: which of its ropes this one is, and what that eats. What it is wound round is as thick as it is drawn, until it is tied to a thing. */
export const knotStop = (
  rope: Pick<AssemblyRope, 'diameterMm'>,
  knot: string,
  uses: readonly StrandUse[],
  { strand = 0, loopMm = 0, afterMm = 0 } = {},
): Stop => {
  const use = uses[strand];
  return {
    kind: 'knot',
    knot,
    strand,
    eats: use?.set ?? 0,
    more: null,
    loopMm,
    host: use?.host ? { ...use.host, mm: use.host.drawn * rope.diameterMm } : null,
    afterMm,
  };
};

/** The tail that the first knot on a rope is given, in millimetres, until its author says otherwise. */
const FIRST_TAIL = 200;

/** A rope with one more stop: its tail lies beyond it. */
export function withNextStop(rope: AssemblyRope, stop: Stop): AssemblyRope {
  const last = rope.stops.at(-1);
  const inner = last ? [...rope.stops.slice(0, -1), { ...last, afterMm: 0 }] : [];
  return { ...rope, stops: [...inner, { ...stop, afterMm: last?.afterMm ?? FIRST_TAIL }] };
}

/** A rope with two neighbouring stops exchanged: what lies between places stays, and only what is tied there changes places. */
export function withStopsExchanged(rope: AssemblyRope, at: number): AssemblyRope {
  const [one, other] = [rope.stops[at], rope.stops[at + 1]];
  if (!one || !other) return rope;
  const stops = [...rope.stops];
  stops[at] = { ...other, afterMm: one.afterMm };
  stops[at + 1] = { ...one, afterMm: other.afterMm };
  return { ...rope, stops };
}

/** An assembly with another knot in the place of one: what its ropes eat is that of the other. */
export const withKnotReplaced = (
  a: Assembly,
  id: string,
  by: Pick<AssemblyKnot, 'ref' | 'name'>,
  uses: readonly StrandUse[],
): Assembly => ({
  ...a,
  knots: a.knots.map((k) => (k.id === id ? { ...k, ...by } : k)),
  ropes: a.ropes.map((r) => ({
    ...r,
    stops: r.stops.map((s) => (s.kind === 'knot' && s.knot === id ? { ...knotStop(r, id, uses, s), more: s.more } : s)),
  })),
});

/** A rope without some of its stops: what lay beyond one lies beyond the stop before it. */
export function withoutStops(rope: AssemblyRope, goes: (s: Stop, at: number) => boolean): AssemblyRope {
  let { firstMm } = rope;
  const stops: Stop[] = [];
  rope.stops.forEach((s, at) => {
    const last = stops.at(-1);
    if (!goes(s, at)) stops.push(s);
    else if (last) stops[stops.length - 1] = { ...last, afterMm: last.afterMm + s.afterMm };
    else firstMm += s.afterMm;
  });
  return { ...rope, firstMm, stops };
}

/** An assembly without a knot, and without every stop of it. */
export const withoutKnot = (a: Assembly, id: string): Assembly => ({
  ...a,
  knots: a.knots.filter((k) => k.id !== id).map((k) => (k.guards === id ? { ...k, guards: null } : k)),
  ropes: a.ropes.map((r) => withoutStops(r, (s) => s.kind !== 'round' && s.knot === id)),
});

/** An assembly without a thing: what was tied to it is tied to nothing. */
export const withoutThing = (a: Assembly, id: string): Assembly => ({
  ...a,
  things: a.things.filter((t) => t.id !== id),
  knots: a.knots.map((k) => (k.on === id ? { ...k, on: null } : k)),
  ropes: a.ropes.map((r) => withoutStops(r, (s) => s.kind === 'round' && s.thing === id)),
});
