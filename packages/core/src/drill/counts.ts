/**
 * What learners answered, as counts, and what may be said of a share that was counted few times.
 */

/** How a question of an edition was answered. */
export interface AnswerCount {
  readonly revision: number;
  readonly question: string;
  readonly right: number;
  readonly wrong: number;
}

/** A share with the interval that the counts leave open. */
export interface Share {
  readonly share: number;
  readonly low: number;
  readonly high: number;
  readonly of: number;
}

/** Quantile of the bell for 95 %, two-sided. */
const Z = 1.959963984540054;

/**
 * The share of so many, with its score interval of 95 % (Wilson, “Probable inference, the law of succession, and statistical inference”, JASA 22,
 * 1927): honest for few, and never beyond nothing or all.
 */
export function shareOf(count: number, of: number): Share {
  if (of <= 0) return { share: 0, low: 0, high: 1, of: 0 };
  const p = count / of;
  const scale = 1 + Z ** 2 / of;
  const middle = (p + Z ** 2 / (2 * of)) / scale;
  const half = (Z / scale) * Math.sqrt((p * (1 - p)) / of + Z ** 2 / (4 * of ** 2));
  return { share: p, low: Math.max(0, middle - half), high: Math.min(1, middle + half), of };
}

/** The crossing that a question is about; undefined where it is about none. */
export function crossingAsked(question: string): number | undefined {
  const found = /^(?:judge:slip|judge:hand-slip|lay:crossing)-(\d{1,3})$/.exec(question)?.[1];
  return found === undefined ? undefined : Number(found);
}

/** How often a crossing was missed in a picture or laid the wrong way, by its number, in one edition. */
export function missedAt(counts: readonly AnswerCount[], revision: number): ReadonlyMap<number, Share> {
  const tally = new Map<number, { wrong: number; all: number }>();
  for (const c of counts) {
    const crossing = c.revision === revision ? crossingAsked(c.question) : undefined;
    if (crossing === undefined || c.right + c.wrong === 0) continue;
    const { wrong, all } = tally.get(crossing) ?? { wrong: 0, all: 0 };
    tally.set(crossing, { wrong: wrong + c.wrong, all: all + c.right + c.wrong });
  }
  return new Map([...tally].map(([crossing, { wrong, all }]) => [crossing, shareOf(wrong, all)]));
}

/** A question before and after an edit of the lesson; whether the difference is more than chance leaves open: their intervals do not meet. */
export interface Compared {
  readonly question: string;
  readonly before: Share | undefined;
  readonly after: Share | undefined;
  readonly differs: boolean;
}

/** What was missed in two editions, by question. */
export function compared(counts: readonly AnswerCount[], before: number, after: number): readonly Compared[] {
  const of = (revision: number, question: string): Share | undefined => {
    const found = counts.find((c) => c.revision === revision && c.question === question);
    return found && found.right + found.wrong > 0 ? shareOf(found.wrong, found.right + found.wrong) : undefined;
  };
  const questions = [...new Set(counts.filter((c) => [before, after].includes(c.revision)).map((c) => c.question))];
  return questions.sort().map((question) => {
    const [a, b] = [of(before, question), of(after, question)];
    return { question, before: a, after: b, differs: !!a && !!b && (a.low > b.high || b.low > a.high) };
  });
}
