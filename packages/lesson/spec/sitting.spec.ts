import {
  answered,
  askable,
  dueCount,
  known,
  nextDue,
  nextQuestion,
  readProgress,
  written,
  type Progress,
} from '../browser/sitting.js';

const QUESTIONS = [
  { id: 'which:1', level: 1 },
  { id: 'judge:front', level: 1 },
  { id: 'judge:slip-2', level: 2 },
  { id: 'side:back', level: 3 },
];
const NONE: Progress = new Map();
const NOON = new Date('2026-05-04T12:00:00Z');
const later = (from: Date, days: number): Date => new Date(from.getTime() + days * 86_400_000);
const dueOf = (progress: Progress, id: string): number => progress.get(id)!.card.due.getTime();
const fresh = (progress: Progress): string[] => askable(QUESTIONS, progress, NOON).fresh.map((q) => q.id);

describe('A sitting', () => {
  it('begins with what is easy; what is harder comes when most of that was seen', () => {
    expect(fresh(NONE)).toEqual(['which:1', 'judge:front']);
    const half = answered(NONE, 'which:1', 'seen', NOON);
    expect(fresh(half)).toEqual(['judge:front']);
    const missed = answered(half, 'judge:front', 'missed', NOON);
    expect(fresh(missed)).toEqual([]);
    const both = answered(half, 'judge:front', 'seen', NOON);
    expect(fresh(both)).toEqual(['judge:slip-2']);
    expect(fresh(answered(both, 'judge:slip-2', 'seen', NOON))).toEqual(['side:back']);
  });

  it('asks again after longer and longer, as long as it is seen, and soon after it was missed', () => {
    let [progress, now] = [NONE, NOON];
    const gaps: number[] = [];
    for (let i = 0; i < 6; i += 1) {
      progress = answered(progress, 'which:1', 'seen', now);
      gaps.push(dueOf(progress, 'which:1') - now.getTime());
      now = new Date(dueOf(progress, 'which:1'));
    }
    expect(gaps).toEqual([...gaps].sort((a, b) => a - b));
    expect(gaps.at(-1)!).toBeGreaterThan(7 * 86_400_000);
    expect(known(QUESTIONS, progress)).toBe(1);
    const missed = answered(progress, 'which:1', 'missed', now);
    expect(dueOf(missed, 'which:1') - now.getTime()).toBeLessThan(86_400_000);
    expect(known(QUESTIONS, missed)).toBe(0);
    // Seen, and pointed at the wrong place: later than what was missed, sooner than what was seen.
    const misplaced = answered(progress, 'which:1', 'misplaced', now);
    expect(dueOf(misplaced, 'which:1')).toBeGreaterThan(dueOf(missed, 'which:1'));
    expect(dueOf(misplaced, 'which:1')).toBeLessThan(dueOf(answered(progress, 'which:1', 'seen', now), 'which:1'));
  });

  it('goes on with what is due soon where nothing else is left to ask, and not with the same twice in a row', () => {
    const missed = answered(answered(NONE, 'which:1', 'missed', NOON), 'judge:front', 'missed', NOON);
    const soon = later(NOON, 0.0001);
    expect(askable(QUESTIONS, missed, soon)).toEqual({ due: [], fresh: [] });
    expect(nextQuestion(QUESTIONS, missed, soon, { last: 'which:1' })?.id).toBe('judge:front');
    expect(nextQuestion(QUESTIONS, missed, soon, { last: 'judge:front' })?.id).toBe('which:1');
    // Of two that were asked a while ago the one before last.
    expect(nextQuestion(QUESTIONS, missed, later(NOON, 1), { last: 'which:1' })?.id).toBe('judge:front');
    expect(nextQuestion([QUESTIONS[0]!], missed, later(NOON, 1), { last: 'which:1' })?.id).toBe('which:1');
    expect(nextQuestion(QUESTIONS, NONE, NOON, { any: (some) => some.at(-1) })?.id).toBe('judge:front');
  });

  it('asks what has been due for longest, and says when the next is', () => {
    const two = answered(answered(NONE, 'which:1', 'missed', NOON), 'judge:front', 'missed', later(NOON, 0.001));
    expect(askable(QUESTIONS, two, later(NOON, 1)).due.map((q) => q.id)).toEqual(['which:1', 'judge:front']);
    expect(nextDue(QUESTIONS, two)!.getTime()).toBe(dueOf(two, 'which:1'));
    expect(nextDue(QUESTIONS, NONE)).toBeUndefined();
    expect([dueCount(two, NOON), dueCount(two, later(NOON, 1)), dueCount(NONE, NOON)]).toEqual([0, 2, 0]);
  });

  it('goes on the next day from what was kept; what cannot be read begins anew', () => {
    const progress = answered(answered(NONE, 'which:1', 'seen', NOON), 'judge:front', 'missed', NOON);
    const read = readProgress(written(progress));
    expect([...read]).toEqual([...progress]);
    const next = later(NOON, 3);
    expect(dueOf(answered(read, 'which:1', 'seen', next), 'which:1')).toBe(
      dueOf(answered(progress, 'which:1', 'seen', next), 'which:1'),
    );
    for (const text of [null, '', '{}', '[1]', '[["a",{}]]', '[["a",{"card":{"due":"x"}}]]', 'nonsense'])
      expect(readProgress(text).size).withContext(String(text)).toBe(0);
  });
});
