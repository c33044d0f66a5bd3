/**
 * Where schools differ on a knot: said so that a lesson can teach one way without denying the others.
 */
import type { KnotClass, UseGrade } from '../words/classes.js';
import {
  heldRule,
  keeperRuleId,
  PRACTICE_NAMES,
  PRACTICE_SCHOOLS,
  sayValue,
  tailRuleId,
  type HousePractice,
  type PracticeSchool,
  type Rule,
} from './practice.js';

/** What decides which rules are about a knot. */
export interface RuledKnot {
  readonly class: KnotClass;
  readonly useGrade: UseGrade;
  /** The pattern it is drawn as, where that is known. */
  readonly pattern?: string | undefined;
}

/** Rules of single patterns. */
const OF_PATTERN: Readonly<Record<string, readonly string[]>> = {
  bowline: ['bowline-tail'],
  'bowline-outside': ['bowline-tail'],
  'rolling-hitch': ['rolling-turns', 'rolling-finish'],
  'taut-line-hitch': ['rolling-turns'],
  prusik: ['prusik-turns'],
  'timber-hitch': ['timber-turns'],
  'clove-hitch': ['clove-alone'],
  reef: ['reef-as-bend'],
};
const TAILED: ReadonlySet<KnotClass> = new Set(['loop in the end', 'noose', 'bend', 'hitch', 'binding', 'stopper']);

/** The rules that are about a knot, in the order of the house's list. */
export function rulesAbout({ class: cls, useGrade, pattern }: RuledKnot): readonly string[] {
  return [
    ...(TAILED.has(cls) ? [tailRuleId(useGrade)] : []),
    ...(cls === 'loop in the end' ? [keeperRuleId(useGrade), 'keeper-turns', 'tail-counted'] : []),
    ...(pattern === undefined ? [] : (OF_PATTERN[pattern] ?? [])),
  ];
}

export interface Difference {
  readonly rule: Rule;
  /** What this house asks. */
  readonly house: string;
  /** What other schools ask who ask otherwise, each value once. */
  readonly others: readonly { readonly schools: readonly PracticeSchool[]; readonly says: string }[];
}

/** How schools differ on a knot from what the house keeps to; rules on which all agree are left out. */
export function differencesOn(knot: RuledKnot, house: HousePractice): readonly Difference[] {
  return rulesAbout(knot).flatMap((id): Difference[] => {
    const held = heldRule(house, id);
    const own = sayValue(held.rule, held.value);
    const bySaying = new Map<string, PracticeSchool[]>();
    for (const school of PRACTICE_SCHOOLS) {
      const says = sayValue(held.rule, held.rule.bySchool[school]);
      if (says !== own) bySaying.set(says, [...(bySaying.get(says) ?? []), school]);
    }
    const others = [...bySaying].map(([says, schools]) => ({ schools, says }));
    return others.length === 0 ? [] : [{ rule: held.rule, house: own, others }];
  });
}

const listed = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1) as string}`;

/** Differences as sentences for a lesson: “Tail of the bowline: here either side. Other schools: Marine inside the loop.” */
export const sayDifference = ({ rule, house, others }: Difference): string =>
  `${rule.title}: here ${house}. Other schools: ${others
    .map(({ schools, says }) => `${listed(schools.map((s) => PRACTICE_NAMES[s]))}, ${says}`)
    .join('; ')}.`;
