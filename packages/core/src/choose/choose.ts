/**
 * Choosing a knot: wishes held against what is known of each, the best answers first, every reason traceable to what it rests on.
 */
import type { UseGrade } from '../words/classes.js';
import type { Evidence, Holds, Known, Place, Traits } from './traits.js';
import { takesLoad, type LoadWay } from '../words/classes.js';

/** What is wished for; what is left out does not matter. */
export interface Wishes {
  readonly place?: Place;
  readonly holds?: Holds;
  readonly fixed?: boolean;
  readonly slipped?: boolean;
  readonly load?: LoadWay;
  readonly unlikeRopes?: boolean;
  readonly underLoad?: boolean;
  readonly oneHand?: boolean;
  readonly comesUndone?: boolean;
  readonly staysWhenShaken?: boolean;
  readonly webbing?: boolean;
  readonly grade?: UseGrade;
}

/** A knot to choose among. */
export interface Choosable {
  readonly ref: string;
  readonly traits: Traits;
  /** Why it is not for people, if a rule says so. */
  readonly notForPeople?: string | undefined;
  /** Why it is not to be used at all: a wrong way, shown to be known. */
  readonly notToUse?: string | undefined;
}

export interface Reason {
  /** What is so or not: “It comes undone after load”. */
  readonly says: string;
  readonly by: Evidence | 'rule';
  /** What it rests on. */
  readonly why: string;
}

export interface Answer {
  readonly ref: string;
  readonly pro: readonly Reason[];
  readonly contra: readonly Reason[];
  /** Wishes of which nothing is known. */
  readonly unknown: readonly string[];
  /** Ruled out, whatever else speaks for it. */
  readonly ruledOut?: Reason;
}

type Yes =
  'fixed' | 'slipped' | 'unlikeRopes' | 'underLoad' | 'oneHand' | 'comesUndone' | 'staysWhenShaken' | 'webbing';

/** What is said of a yes-or-no trait: when it is so, when it is not, and as a wish. */
export const YES_OR_NO: Readonly<Record<Yes, readonly [yes: string, no: string, asked: string]>> = {
  fixed: ['Its loop stays its size', 'Its loop runs', 'whether its loop is fixed'],
  slipped: ['It is slipped: one pull undoes it', 'It is not slipped', 'whether it is slipped'],
  unlikeRopes: ['It joins unlike ropes', 'It wants ropes alike', 'whether it joins unlike ropes'],
  underLoad: [
    'It is tied while the rope is loaded',
    'It wants a slack rope to be tied',
    'whether it is tied under load',
  ],
  oneHand: ['It can be tied with one hand', 'It takes both hands', 'whether one hand is enough'],
  comesUndone: ['It comes undone after load', 'It jams under load', 'whether it comes undone after load'],
  staysWhenShaken: ['It stays tied when shaken', 'It shakes loose', 'whether it stays tied when shaken'],
  webbing: ['It is made for flat webbing', 'It is not for flat webbing', 'whether it suits webbing'],
};

/** What a knot does, by what it holds. */
const HOLDING: Readonly<Record<Holds, string>> = {
  'an object': 'It holds to an object',
  'another rope': 'It joins another rope',
  'a loop in itself': 'It makes a loop',
  'nothing: it stops': 'It stops a rope from running out',
  'a bundle': 'It binds a bundle',
};

const because = (says: string, { by, why }: Known<unknown>): Reason => ({ says, by, why });

function answerFor({ ref, traits, notForPeople, notToUse }: Choosable, wishes: Wishes): Answer {
  const [pro, contra]: [Reason[], Reason[]] = [[], []];
  const unknown: string[] = [];
  const weigh = <V>(
    known: Known<V> | undefined,
    fits: (v: V) => boolean,
    says: (v: V) => string,
    asked: string,
  ): void => {
    if (!known) unknown.push(asked);
    else (fits(known.value) ? pro : contra).push(because(says(known.value), known));
  };
  if (wishes.place !== undefined)
    weigh(
      traits.place,
      (v) => v === wishes.place,
      (v) => `It is tied ${v} of a rope`,
      'where in the rope it is tied',
    );
  if (wishes.holds !== undefined)
    weigh(
      traits.holds,
      (v) => v === wishes.holds,
      (v) => HOLDING[v],
      'what it holds to',
    );
  if (wishes.load !== undefined) {
    const { load } = wishes;
    weigh(
      traits.loads,
      (v) => takesLoad(v, load),
      (v) => `It takes a load ${v.join(', ')}`,
      'which loads it takes',
    );
  }
  for (const [key, [yes, no, asked]] of Object.entries(YES_OR_NO) as [Yes, (typeof YES_OR_NO)[Yes]][]) {
    const wished = wishes[key];
    if (wished !== undefined)
      weigh(
        traits[key],
        (v) => v === wished,
        (v) => (v ? yes : no),
        asked,
      );
  }
  const ruled: Reason | undefined =
    notToUse !== undefined
      ? { says: 'It is not to be used', by: 'rule', why: notToUse }
      : wishes.grade === 'people depend on it' && notForPeople !== undefined
        ? { says: 'It is not for people', by: 'rule', why: notForPeople }
        : undefined;
  return { ref, pro, contra, unknown, ...(ruled ? { ruledOut: ruled } : {}) };
}

/** One thing against a knot weighs as much as two for it: a wish not met is a reason to look on. */
const AGAINST = 2;

const scoreOf = ({ pro, contra }: Answer): number => pro.length - AGAINST * contra.length;

/** All answers, the best first; what is ruled out comes last, and of equals what is better known comes first. */
export function chooseAmong(list: readonly Choosable[], wishes: Wishes): readonly Answer[] {
  return list
    .map((c) => answerFor(c, wishes))
    .sort(
      (a, b) =>
        Number(a.ruledOut !== undefined) - Number(b.ruledOut !== undefined) ||
        scoreOf(b) - scoreOf(a) ||
        a.unknown.length - b.unknown.length,
    );
}
