/**
 * The inspection list of an assembly: what a second person looks at, knot by knot in the order of tying, then what is between and around them;
 * and the record that is kept of an inspection.
 */
import * as z from 'zod';
import { plainText } from '../words/plain-text.js';
import { theKnot, uncapital } from '../words/vocabulary.js';
import { legForces } from '../ropes/loads.js';
import { requiredTail } from '../ropes/tail-rule.js';
import { holdsAPerson, sayAngle, type AssemblyFinding, type AssemblyHouse } from './check.js';
import type { Assembly } from './assembly.js';
import { tailsOf } from './run.js';
import { sayThe } from './say.js';

export interface InspectionItem {
  /** The same for the same thing to look at, also after other knots were added. */
  readonly id: string;
  readonly text: string;
}

export interface InspectionGroup {
  readonly title: string;
  /** Which side of the work is looked at: the knot’s number in the order of tying; null: of the whole. */
  readonly number: number | null;
  /** The knot or thing that it is of. */
  readonly about: string | null;
  /** The knot, where it can be opened. */
  readonly ref: string | null;
  readonly items: readonly InspectionItem[];
  /** What is found of it by computation: until it is mended, none of it can be right. */
  readonly findings: readonly AssemblyFinding[];
}

/** Most marks of one knot on the list: more are not looked at. */
const MOST_MARKS = 4;

/** The list, with what is found wrong where it is looked at. */
export function inspectionList(
  a: Assembly,
  findings: readonly AssemblyFinding[],
  { facts, tail, patternName, sayMm = (mm) => `${Math.round(mm)} mm` }: AssemblyHouse,
): InspectionGroup[] {
  const tails = tailsOf(a);
  const of = (about: string): AssemblyFinding[] => findings.filter((f) => f.about === about);
  const knots = a.knots.map((k, i): InspectionGroup => {
    const known = facts(k.ref);
    const items: InspectionItem[] = [];
    const put = (id: string, text: string): void => {
      items.push({ id: `${k.id}-${id}`, text });
    };
    const name = k.shouldBe === null ? k.name : patternName(k.shouldBe);
    const taken = known?.takenFor ?? [];
    put(
      'is',
      `${/^(?:two|three|four) /i.test(name) ? 'They are' : 'It is'} ${theKnot(name)}${taken.length === 0 ? '' : `, and not ${orOf(taken)}`}.`,
    );
    // Faces take turns, so that a short list has both.
    for (const side of ['front', 'back'] as const)
      (known?.marks ?? [])
        .filter((m) => m.side === side)
        .slice(0, MOST_MARKS / 2)
        .forEach((m, n) => put(`${side}${n}`, `${side === 'front' ? 'Front' : 'Back'}: ${m.text}`));
    const own = tails.filter((t) => t.knot === k.id);
    own.forEach(({ rope, end }) => {
      const { diameterMm, name: called } = a.ropes[rope]!;
      const asked = sayMm(requiredTail(tail, diameterMm) * diameterMm);
      const whose = a.ropes.length > 1 ? `, of ${uncapital(sayThe(called))},` : '';
      put(`tail-${rope}-${end}`, `Its tail${whose} is at least ${asked} long.`);
    });
    const guarded = k.guards === null ? undefined : a.knots.find((x) => x.id === k.guards);
    if (guarded) put('close', `It lies close against ${uncapital(sayThe(guarded.role))}, and is drawn tight.`);
    if (k.keepers > 0)
      put('keepers', k.keepers === 1 ? 'Its keeper is there.' : 'Both its keepers are there, one on each tail.');
    return {
      title: k.role,
      number: i + 1,
      about: k.id,
      ref: k.ref,
      items,
      findings: of(k.id),
    };
  });
  return [...knots, ...things(a, of), whole(a, findings)].filter((g) => g.items.length + g.findings.length > 0);
}

const orOf = (names: readonly string[]): string => {
  const said = names.map(theKnot);
  return said.length < 2 ? said.join('') : `${said.slice(0, -1).join(', ')} or ${said.at(-1) ?? ''}`;
};

/** Passes round legs and the waist, and carabiners. */
function things(a: Assembly, of: (about: string) => AssemblyFinding[]): InspectionGroup[] {
  return a.things.flatMap((t): InspectionGroup[] => {
    const passes = a.ropes.flatMap((r) => r.stops.flatMap((s) => (s.kind === 'round' && s.thing === t.id ? [s] : [])));
    const items: InspectionItem[] = [];
    const put = (id: string, text: string): void => {
      items.push({ id: `${t.id}-${id}`, text });
    };
    if (t.kind === 'carabiner') {
      put('gate', 'Its gate is up and out, closed and locked.');
      put('spine', 'It is loaded along its spine; nothing lies across its gate.');
    }
    const turns = passes.reduce((sum, p) => sum + p.turns, 0);
    if (t.kind === 'waist' && passes.length > 0)
      put('wraps', `${turns} wraps lie flat beside each other above the hips, without twist.`);
    if (t.kind === 'thigh' && passes.length > 0) {
      const way = a.legLoops ?? passes[0]?.way;
      put('route', `The rope goes round it${way == null ? '' : ` ${way}`}, as on the other leg, without twist.`);
    }
    if ((t.kind === 'barrel' || t.kind === 'load') && passes.length > 0)
      put('centre', 'The sling lies under its middle, and what is lifted cannot tip.');
    return [{ title: t.name, number: null, about: t.id, ref: null, items, findings: of(t.id) }];
  });
}

function whole(a: Assembly, findings: readonly AssemblyFinding[]): InspectionGroup {
  const items: InspectionItem[] = [];
  if (a.knots.length > 1)
    items.push({ id: 'all-order', text: `All ${a.knots.length} knots are there, in their places, and none more.` });
  if (a.legs) {
    const { spanMm, firstMm, secondMm } = a.legs;
    const forces = legForces({ span: spanMm, rise: 0, legs: 'fixed', first: firstMm, second: secondMm });
    if (forces.ok && !forces.value.slack)
      items.push({ id: 'all-legs', text: `The legs open no more than ${sayAngle(forces.value.between)}.` });
  }
  if (a.knots.length > 0) {
    items.push({ id: 'all-rope', text: 'The rope is sound: no cut, no flattened place, nothing melted.' });
    items.push({ id: 'all-load', text: 'Loaded a little, close to the ground, nothing creeps.' });
  }
  if (holdsAPerson(a))
    items.push({ id: 'all-person', text: 'Who wears it can breathe, and it cannot slide down over the hips.' });
  return {
    title: 'The whole',
    number: null,
    about: null,
    ref: null,
    items,
    findings: findings.filter((f) => f.about === undefined),
  };
}

/** The caution that an assembly has by what is in it, before its own. */
export const assemblyCautions = (a: Assembly): readonly string[] => [
  ...(holdsAPerson(a)
    ? [
        'A knotted seat is a last resort. It is never a substitute for a harness used by its maker’s rules: whoever hangs in it still is in danger within minutes.',
      ]
    : []),
  ...a.cautions,
];

/** How an item was found: right, wrong, or not looked at. */
export const TICKS = ['right', 'wrong', 'not looked at'] as const;
export type Tick = (typeof TICKS)[number];
export const MOST_ITEMS = 400;

/** What an inspection came to. It names what it was of as it stood then: the list may change, the record does not. */
export const inspectionSchema = z.object({
  /** The revision that was inspected. */
  revision: z.number().int().min(1),
  items: z
    .array(z.object({ group: plainText(80), text: plainText(400).min(1), tick: z.enum(TICKS) }))
    .min(1)
    .max(MOST_ITEMS),
  /** What it was tied by, where, for whom: as the inspector writes it. */
  remarks: plainText(400).default(''),
});
export type Inspection = z.infer<typeof inspectionSchema>;

export const VERDICTS = ['good', 'not good', 'not finished'] as const;
export type InspectionVerdict = (typeof VERDICTS)[number];

/** What an inspection comes to: good only where all was looked at, and found right. */
export const inspectionVerdict = (items: Inspection['items']): InspectionVerdict =>
  items.some((i) => i.tick === 'wrong') ? 'not good' : items.every((i) => i.tick === 'right') ? 'good' : 'not finished';
