/**
 * What is asked next: questions that are due again, then new ones, easy ones first; which, a scheduler says by how they were answered. Kept in
 * the browser, and nowhere else.
 */
import { createEmptyCard, fsrs, generatorParameters, Rating, State, type Card, type Grade } from 'ts-fsrs';

/** A question as far as it is scheduled. */
export interface Askable {
  readonly id: string;
  readonly level: number;
}

/** How a question was answered: not seen; seen, and the wrong place pointed at; seen. */
export type Outcome = 'missed' | 'misplaced' | 'seen';
const GRADES: Readonly<Record<Outcome, Grade>> = {
  missed: Rating.Again,
  misplaced: Rating.Hard,
  seen: Rating.Good,
};

/** What is known of a learner: how each question stands, and whether its last answer was right. */
interface Standing {
  readonly card: Card;
  readonly wasSeen: boolean;
}
export type Progress = ReadonlyMap<string, Standing>;

/** Questions of a level are new only when so many of those below it that were asked were seen at last. */
const ENOUGH = 0.6;
/** Days of stability from which a question counts as known. */
const KNOWN_FOR = 3;

const scheduler = fsrs(generatorParameters({ enable_fuzz: false }));

/** How things stand after an answer. */
export function answered(progress: Progress, id: string, outcome: Outcome, now: Date): Progress {
  const before: Card = progress.get(id)?.card ?? createEmptyCard(now);
  const { card } = scheduler.next(before, now, GRADES[outcome]);
  return new Map([...progress, [id, { card, wasSeen: outcome === 'seen' }]]);
}

/** What may be asked now: what is due, the longest first; then what is new, as far as the learner has come. */
export function askable<Q extends Askable>(
  questions: readonly Q[],
  progress: Progress,
  now: Date,
): { due: Q[]; fresh: Q[] } {
  const due = questions
    .filter((q) => (progress.get(q.id)?.card.due.getTime() ?? Infinity) <= now.getTime())
    .sort((a, b) => progress.get(a.id)!.card.due.getTime() - progress.get(b.id)!.card.due.getTime());
  const fresh = questions.filter((q) => !progress.has(q.id) && isOpen(q.level, questions, progress));
  const easiest = Math.min(...fresh.map((q) => q.level));
  return { due, fresh: fresh.filter((q) => q.level === easiest) };
}

/** What is due so soon may be asked again before, where there is nothing else, in milliseconds. */
const AHEAD = 20 * 60_000;

/** The next question: what is due, else something new, else what is due soon; not the same twice in a row where there is another. */
export function nextQuestion<Q extends Askable>(
  questions: readonly Q[],
  progress: Progress,
  now: Date,
  { last, any = ([first]) => first }: { last?: string | undefined; any?: (some: readonly Q[]) => Q | undefined } = {},
): Q | undefined {
  const { due, fresh } = askable(questions, progress, now);
  const ahead = askable(questions, progress, new Date(now.getTime() + AHEAD)).due;
  const other = (some: readonly Q[]): Q[] => some.filter((q) => q.id !== last);
  return other(due)[0] ?? any(other(fresh)) ?? other(ahead)[0] ?? due[0];
}

function isOpen(level: number, questions: readonly Askable[], progress: Progress): boolean {
  const below = questions.filter((q) => q.level < level);
  const asked = below.flatMap((q) => progress.get(q.id) ?? []);
  return below.length === 0 || asked.filter((s) => s.wasSeen).length >= ENOUGH * below.length;
}

/** How many questions are known for some days. */
export const known = (questions: readonly Askable[], progress: Progress): number =>
  questions.filter((q) => {
    const card = progress.get(q.id)?.card;
    return card !== undefined && card.state === State.Review && card.stability >= KNOWN_FOR;
  }).length;

/** How many questions that were asked are due again. */
export const dueCount = (progress: Progress, now: Date): number =>
  [...progress.values()].filter(({ card }) => card.due.getTime() <= now.getTime()).length;

/** When the next question is due; undefined while something may be asked now, or all is new. */
export function nextDue(questions: readonly Askable[], progress: Progress): Date | undefined {
  const times = questions.flatMap((q) => progress.get(q.id)?.card.due.getTime() ?? []);
  return times.length === 0 ? undefined : new Date(Math.min(...times));
}

/** Progress as text; and from it again, without what cannot be read. */
export const written = (progress: Progress): string => JSON.stringify([...progress]);

export function readProgress(text: string | null): Progress {
  const out = new Map<string, Standing>();
  try {
    for (const entry of JSON.parse(text ?? '[]') as unknown[]) {
      const [id, standing] = entry as [unknown, { card?: Partial<Record<keyof Card, unknown>>; wasSeen?: unknown }];
      const { card } = standing;
      const due = new Date(typeof card?.due === 'string' ? card.due : NaN);
      if (typeof id !== 'string' || !card || Number.isNaN(due.getTime())) continue;
      const last = typeof card.last_review === 'string' ? new Date(card.last_review) : undefined;
      const whole = { ...createEmptyCard(due), ...card, due } as Card;
      if (last && !Number.isNaN(last.getTime())) whole.last_review = last;
      else delete whole.last_review;
      if (![whole.stability, whole.difficulty, whole.reps, whole.lapses, whole.state].every(Number.isFinite)) continue;
      out.set(id, { card: whole, wasSeen: standing.wasSeen === true });
    }
  } catch {
    // Written by nobody who knows how: it begins anew.
  }
  return out;
}
