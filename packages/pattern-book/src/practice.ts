/**
 * A knot against the house's rules of practice: keeper, side of the bowline's tail, turns, uses. What a drawing is counts: the rules are
 * tried on the pattern that it has been found to be.
 */
import {
  choiceOf,
  citeRule,
  differencesOn,
  heldRule,
  keeperIn,
  keeperRuleId,
  signatureOf,
  finishedFigure,
  type Difference,
  type Entry,
  type Figure,
  type Finding,
  type HousePractice,
  type Keeper,
  type KnotDocument,
  type TurnRange,
} from '@foxtrail/core';
import { claimOf, type Claimant } from './claim.js';

/** Turns of the patterns whose number a rule limits: the drawing is the pattern, so it has them. */
const TURNS: Readonly<Record<string, readonly [rule: string, turns: number]>> = {
  'rolling-hitch': ['rolling-turns', 2],
  'taut-line-hitch': ['rolling-turns', 2],
  'prusik-2': ['prusik-turns', 2],
  prusik: ['prusik-turns', 3],
  'prusik-4': ['prusik-turns', 4],
  'timber-hitch': ['timber-turns', 3],
};

/** What the drawing was found to be: the pattern it claims and, beyond it, a keeper. */
export interface Practised {
  readonly pattern?: string;
  readonly keeper?: Keeper;
}

/** Whether a drawing is the pattern that its entry claims, with a keeper or without. */
export function practised(knot: KnotDocument): Practised {
  const claim = claimOf(knot);
  if (!claim) return {};
  const figure = finishedFigure(knot.method);
  const goal = signatureOf(finishedFigure(claim.knot.method));
  if (!goal.ok) return {};
  const isKnot = (left: Figure): boolean => {
    const found = signatureOf(left);
    return found.ok && found.value.key === goal.value.key;
  };
  if (isKnot(figure)) return { pattern: claim.id };
  const keeper = keeperIn(figure, isKnot);
  return keeper ? { pattern: claim.id, keeper } : {};
}

/** Findings of a knot against the rules, each citing rule and school. */
export function practiceFindings(
  knot: KnotDocument,
  house: HousePractice,
  { pattern, keeper }: Practised = practised(knot),
): readonly Finding[] {
  const { entry } = knot;
  // What is shown to be known as wrong keeps to no rule.
  if (entry.wrongWayOf !== undefined) return [];
  const against = (id: string, title: string, why: string, remedy: string): Finding => ({
    code: 'against-house-rule',
    severity: 'warning',
    title,
    why: `${why} ${citeRule(heldRule(house, id))}`,
    remedy,
  });
  const findings: Finding[] = [];
  const asks = (id: string): string => choiceOf(house, id);
  const keeperRule = keeperRuleId(entry.useGrade);
  if (pattern !== undefined && entry.class === 'loop in the end' && asks(keeperRule) === 'required' && !keeper)
    findings.push(
      against(
        keeperRule,
        'It has no keeper',
        'Beyond the knot itself the tail makes no second knot.',
        'On Kin, derive the form with a keeper, or grade it for other use.',
      ),
    );
  if (keeper?.turns !== undefined) {
    const { least, most } = heldRule(house, 'keeper-turns').value as TurnRange;
    if (keeper.turns < least || keeper.turns > most)
      findings.push(
        against(
          'keeper-turns',
          keeper.turns < least ? 'Its keeper has too few turns' : 'Its keeper has too many turns',
          `It is an overhand of ${keeper.turns === 1 ? 'one turn' : `${keeper.turns} turns`}.`,
          'On Kin, derive the keeper anew with the turns that are wanted.',
        ),
      );
  }
  const side = asks('bowline-tail');
  const outside = pattern === 'bowline-outside';
  if ((pattern === 'bowline' && side === 'outside the loop') || (outside && side === 'inside the loop'))
    findings.push(
      against(
        'bowline-tail',
        `Its tail lies ${outside ? 'outside' : 'inside'} the loop`,
        'The house teaches the bowline with its tail on the other side.',
        'Lead the end round the standing part the other way.',
      ),
    );
  const counted = pattern === undefined ? undefined : TURNS[pattern];
  if (counted) {
    const [id, turns] = counted;
    const { least, most } = heldRule(house, id).value as TurnRange;
    if (turns < least || turns > most)
      findings.push(
        against(
          id,
          turns < least ? 'It has too few turns' : 'It has too many turns',
          `It is drawn with ${turns}.`,
          turns < least ? 'On Kin, derive the form with more turns.' : 'Draw it with fewer turns.',
        ),
      );
  }
  // The book's rolling hitch is finished with one.
  if (pattern === 'rolling-hitch' && asks('rolling-finish') === 'two hitches')
    findings.push(
      against(
        'rolling-finish',
        'It is finished with one hitch',
        'Beyond its riding turns one hitch is drawn.',
        'Lay one more hitch the same way round, or enter it as a knot of its own.',
      ),
    );
  if (
    pattern === 'clove-hitch' &&
    entry.useGrade !== 'light duty' &&
    asks('clove-alone') === 'always backed' &&
    !keeper
  )
    findings.push(
      against(
        'clove-alone',
        'It stands alone',
        'Nothing backs it: a clove hitch creeps when the load comes and goes.',
        'Back it with a further hitch, or say in its cautions that it is backed.',
      ),
    );
  if (pattern === 'reef' && entry.class === 'bend' && asks('reef-as-bend') === 'forbidden')
    findings.push(
      against(
        'reef-as-bend',
        'A reef joins two ropes',
        'It is entered as a bend.',
        'Enter it as a binding, and teach another bend.',
      ),
    );
  return findings;
}

/** How schools differ from the house on a knot, by what its entry claims it to be. */
export const differencesFor = (claimant: Claimant & RuledEntry, house: HousePractice): readonly Difference[] =>
  differencesOn(
    { class: claimant.entry.class, useGrade: claimant.entry.useGrade, pattern: claimOf(claimant)?.id },
    house,
  );

interface RuledEntry {
  readonly entry: Pick<Entry, 'class' | 'useGrade'>;
}
