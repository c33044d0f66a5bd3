/**
 * Rules of practice: what a house asks of its knots, begun from a school and changed with a reason. Schools differ in all of this; none of
 * them is wrong, and a house keeps to one. The values are general knowledge, in round figures, and no standard: local codes and
 * makers' instructions come first.
 */
import * as z from 'zod';
import type { PlannedTail, TailAsked, TailRule } from '../ropes/tail-rule.js';
import { CLASS_SCHOOLS, USE_GRADES, type UseGrade } from '../words/classes.js';

/** A palm of a grown person, in millimetres, where a rule counts in palms: learners measure with their own. */
export const PALM_MM = 90;

/** What a tail must measure: the largest demand wins; a zero asks nothing. */
const tailSchema = z.object({
  diameters: z.number().min(0).max(60),
  millimetres: z.number().min(0).max(2000),
  palms: z.number().min(0).max(10),
});
const rangeShape = z.object({ least: z.number().int().min(1).max(12), most: z.number().int().min(1).max(12) });
const rangeSchema = rangeShape.refine((r) => r.most >= r.least, {
  path: ['most'],
  message: 'the most is less than the least',
});
export type TailDemand = z.infer<typeof tailSchema>;
export type TurnRange = z.infer<typeof rangeSchema>;
export type RuleValue = TailDemand | TurnRange | number | string;

/** The schools of practice: the same as those of words. */
export const PRACTICE_SCHOOLS = ['workshop', 'marine', 'rescue', 'camp'] as const;
export type PracticeSchool = (typeof PRACTICE_SCHOOLS)[number];
export const PRACTICE_NAMES: Readonly<Record<PracticeSchool, string>> = {
  workshop: 'Workshop',
  marine: 'Marine',
  rescue: 'Rescue and access',
  camp: 'Camp',
};

interface RuleBase<K extends string, V extends RuleValue> {
  readonly id: string;
  readonly kind: K;
  /** What it is about: “Tail where people depend on it”. */
  readonly title: string;
  readonly bySchool: Readonly<Record<PracticeSchool, V>>;
}
export type Rule =
  | RuleBase<'tail', TailDemand>
  | RuleBase<'turns', TurnRange>
  | (RuleBase<'choice', string> & { readonly options: readonly string[] })
  | (RuleBase<'number', number> & { readonly least: number; readonly most: number; readonly unit: string });

const tail = (diameters: number, millimetres = 0, palms = 0): TailDemand => ({ diameters, millimetres, palms });
const turns = (least: number, most = 12): TurnRange => ({ least, most });
const every = <V extends RuleValue>(value: V): Readonly<Record<PracticeSchool, V>> => ({
  workshop: value,
  marine: value,
  rescue: value,
  camp: value,
});

export const tailRuleId = (grade: UseGrade): string => `tail-${grade.replace(/ /g, '-')}`;
export const keeperRuleId = (grade: UseGrade): string => `keeper-${grade.replace(/ /g, '-')}`;
const [LIGHT, LOAD, PEOPLE] = USE_GRADES;

export const RULES: readonly Rule[] = [
  {
    id: tailRuleId(LIGHT),
    kind: 'tail',
    title: 'Tail, light duty',
    bySchool: { workshop: tail(12), marine: tail(6), rescue: tail(10, 100), camp: tail(0, 0, 1) },
  },
  {
    id: tailRuleId(LOAD),
    kind: 'tail',
    title: 'Tail, load-bearing',
    bySchool: { workshop: tail(12), marine: tail(8), rescue: tail(10, 100), camp: tail(0, 0, 1) },
  },
  {
    id: tailRuleId(PEOPLE),
    kind: 'tail',
    title: 'Tail, people depend on it',
    bySchool: { workshop: tail(12, 100), marine: tail(12, 100), rescue: tail(12, 150), camp: tail(12, 0, 2) },
  },
  {
    id: 'tail-counted',
    kind: 'choice',
    title: 'Where a tail with a keeper is measured',
    options: ['after the keeper', 'before the keeper'],
    bySchool: {
      workshop: 'after the keeper',
      marine: 'before the keeper',
      rescue: 'after the keeper',
      camp: 'before the keeper',
    },
  },
  {
    id: keeperRuleId(LIGHT),
    kind: 'choice',
    title: 'Keeper on end loops, light duty',
    options: ['optional', 'required'],
    bySchool: every('optional'),
  },
  {
    id: keeperRuleId(LOAD),
    kind: 'choice',
    title: 'Keeper on end loops, load-bearing',
    options: ['optional', 'required'],
    bySchool: { workshop: 'optional', marine: 'optional', rescue: 'required', camp: 'optional' },
  },
  {
    id: keeperRuleId(PEOPLE),
    kind: 'choice',
    title: 'Keeper on end loops, people depend on it',
    options: ['optional', 'required'],
    bySchool: { workshop: 'required', marine: 'required', rescue: 'required', camp: 'required' },
  },
  {
    id: 'keeper-turns',
    kind: 'turns',
    title: 'Turns of a keeper',
    bySchool: { workshop: turns(1), marine: turns(1), rescue: turns(2), camp: turns(1, 2) },
  },
  {
    id: 'bowline-tail',
    kind: 'choice',
    title: 'Tail of the bowline',
    options: ['inside the loop', 'outside the loop', 'either side'],
    bySchool: { workshop: 'either side', marine: 'inside the loop', rescue: 'inside the loop', camp: 'either side' },
  },
  {
    id: 'rolling-turns',
    kind: 'turns',
    title: 'Riding turns of the rolling hitch',
    bySchool: { workshop: turns(2), marine: turns(2, 3), rescue: turns(3), camp: turns(2) },
  },
  {
    id: 'rolling-finish',
    kind: 'choice',
    title: 'Finish of the rolling hitch',
    options: ['one hitch', 'two hitches', 'either'],
    bySchool: { workshop: 'either', marine: 'one hitch', rescue: 'two hitches', camp: 'either' },
  },
  {
    id: 'prusik-turns',
    kind: 'turns',
    title: 'Wraps of the prusik',
    bySchool: { workshop: turns(3), marine: turns(3), rescue: turns(3, 4), camp: turns(2) },
  },
  {
    id: 'timber-turns',
    kind: 'turns',
    title: 'Turns of the timber hitch',
    bySchool: { workshop: turns(3), marine: turns(3), rescue: turns(4), camp: turns(2) },
  },
  {
    id: 'clove-alone',
    kind: 'choice',
    title: 'Clove hitch',
    options: ['trusted alone', 'always backed'],
    bySchool: { workshop: 'always backed', marine: 'always backed', rescue: 'always backed', camp: 'trusted alone' },
  },
  {
    id: 'reef-as-bend',
    kind: 'choice',
    title: 'Reef joining two ropes',
    options: ['handy for light duty', 'forbidden'],
    bySchool: { workshop: 'forbidden', marine: 'forbidden', rescue: 'forbidden', camp: 'handy for light duty' },
  },
  {
    id: 'class-words',
    kind: 'choice',
    title: 'What the word “knot” means',
    options: [...CLASS_SCHOOLS],
    bySchool: { workshop: 'strict', marine: 'strict', rescue: 'general', camp: 'general' },
  },
  {
    id: 'units',
    kind: 'choice',
    title: 'Units of length',
    options: ['millimetres', 'inches'],
    bySchool: every('millimetres'),
  },
  { id: 'hand', kind: 'choice', title: 'Hand shown first', options: ['right', 'left'], bySchool: every('right') },
  {
    id: 'caption-line',
    kind: 'number',
    title: 'Longest line of a caption',
    least: 24,
    most: 80,
    unit: 'characters',
    bySchool: { workshop: 42, marine: 42, rescue: 38, camp: 42 },
  },
  {
    id: 'caption-speed',
    kind: 'number',
    title: 'Quickest reading of a caption',
    least: 8,
    most: 25,
    unit: 'characters a second',
    bySchool: { workshop: 17, marine: 17, rescue: 15, camp: 15 },
  },
  {
    id: 'film-pace',
    kind: 'number',
    title: 'Quickest tying in a demonstration',
    least: 1,
    most: 6,
    unit: 'crossings a second',
    bySchool: { workshop: 2, marine: 2, rescue: 1, camp: 2 },
  },
  {
    id: 'voice-pace',
    kind: 'number',
    title: 'Quickest speaking over a demonstration',
    least: 90,
    most: 220,
    unit: 'words a minute',
    bySchool: { workshop: 160, marine: 160, rescue: 140, camp: 150 },
  },
];

export const ruleOf = (id: string): Rule | undefined => RULES.find((r) => r.id === id);

/** A rule that the house has changed, and why. */
export interface RuleChange {
  readonly value: RuleValue;
  readonly reason: string;
}

/** What a house keeps to. */
export interface HousePractice {
  readonly school: PracticeSchool;
  readonly changes: Readonly<Record<string, RuleChange>>;
}

export const WORKSHOP_PRACTICE: HousePractice = { school: 'workshop', changes: {} };

/** The shape of a rule's value. */
export function ruleValueSchema(rule: Rule): z.ZodType<RuleValue> {
  switch (rule.kind) {
    case 'tail':
      return tailSchema;
    case 'turns':
      return rangeSchema;
    case 'choice':
      return z.enum(rule.options as [string, ...string[]]);
    case 'number':
      return z.number().min(rule.least).max(rule.most);
  }
}

export const practiceSchema = z
  .object({
    school: z.enum(PRACTICE_SCHOOLS),
    changes: z.record(
      z.string(),
      z.object({
        value: z.union([tailSchema, rangeShape, z.number(), z.string()]),
        reason: z.string().trim().min(1, 'say why the house differs').max(300),
      }),
    ),
  })
  .superRefine(({ changes }, context) => {
    for (const [id, { value }] of Object.entries(changes)) {
      const rule = ruleOf(id);
      const parsed = rule && ruleValueSchema(rule).safeParse(value);
      if (!parsed?.success)
        context.addIssue({
          code: 'custom',
          path: ['changes', id],
          message: rule
            ? `that is no value for “${rule.title}”: ${parsed?.error.issues[0]?.message ?? ''}`
            : 'there is no such rule',
        });
    }
  });

/** A rule as it holds in a house. */
export interface HeldRule {
  readonly rule: Rule;
  readonly value: RuleValue;
  readonly school: PracticeSchool;
  /** Why the house does otherwise than its school. */
  readonly reason?: string;
}

/** A rule resolved: the house's own value where it has one that fits, else its school's. */
export function heldRule({ school, changes }: HousePractice, id: string): HeldRule {
  const rule = ruleOf(id);
  if (!rule) throw new Error(`there is no rule ${id}`);
  const own = changes[id];
  const fits = own !== undefined && ruleValueSchema(rule).safeParse(own.value).success;
  return fits ? { rule, school, value: own.value, reason: own.reason } : { rule, school, value: rule.bySchool[school] };
}

export const heldRules = (house: HousePractice): readonly HeldRule[] => RULES.map((r) => heldRule(house, r.id));

/** A rule's value in words: “12 diameters and 100 mm at least”. */
export function sayValue(rule: Rule, value: RuleValue): string {
  if (rule.kind === 'tail') {
    const { diameters, millimetres, palms } = value as TailDemand;
    const parts = [
      diameters > 0 ? `${diameters} diameters` : '',
      millimetres > 0 ? `${millimetres} mm` : '',
      palms > 0 ? `${palms} ${palms === 1 ? 'palm' : 'palms'}` : '',
    ].filter((p) => p !== '');
    if (parts.length === 0) return 'any length';
    return parts.length === 1 ? `at least ${parts[0] as string}` : `at least ${parts.join(', ')}, the longest of them`;
  }
  if (rule.kind === 'turns') {
    const { least, most } = value as TurnRange;
    return most >= 12 ? `at least ${least}` : least === most ? String(least) : `${least} to ${most}`;
  }
  const said = value as string | number;
  return rule.kind === 'number' ? `${said} ${rule.unit}` : String(said);
}

/** What a finding cites: the rule, what it asks, and whose it is. */
export const citeRule = ({ rule, value, school, reason }: HeldRule): string =>
  reason === undefined
    ? `Rule “${rule.title}”: ${sayValue(rule, value)} (school: ${PRACTICE_NAMES[school]}).`
    : `Rule “${rule.title}”: ${sayValue(rule, value)} (this house, unlike ${PRACTICE_NAMES[school]}: ${reason})`;

/** What an entry says that bears on its tails: what rests on the knot, and what a plan leaves of its ropes. */
export interface TailSaid {
  readonly useGrade: UseGrade;
  readonly tail?: PlannedTail | undefined;
}

/** The tail that a house asks of a knot, or its plan where that is more, with the rule to be cited. */
export function tailRuleFor(house: HousePractice, { useGrade, tail: own }: TailSaid): TailRule {
  const held = heldRule(house, tailRuleId(useGrade));
  const { diameters, millimetres, palms } = held.value as TailDemand;
  const cites = citeRule(held);
  return {
    diameters,
    millimetres: Math.max(millimetres, palms * PALM_MM, own?.mm ?? 0),
    cites: own ? `${cites} The plan “${own.plan}” leaves ${Math.round(own.mm)} mm.` : cites,
  };
}

/** What is asked of the tails of a knot in its cord, in the unit that the house measures in. */
export const tailAskedOf = (
  house: HousePractice,
  entry: TailSaid & { readonly cord: { readonly diameterMm: number } },
): TailAsked => ({
  rule: tailRuleFor(house, entry),
  cordMm: entry.cord.diameterMm,
  unit: choiceOf(house, 'units') === 'inches' ? 'inches' : 'millimetres',
});

/** A choice or number of a house. */
export function choiceOf(house: HousePractice, id: string): string {
  const { rule, value } = heldRule(house, id);
  return typeof value === 'object' ? sayValue(rule, value) : String(value);
}
export const numberOf = (house: HousePractice, id: string): number => Number(heldRule(house, id).value);
