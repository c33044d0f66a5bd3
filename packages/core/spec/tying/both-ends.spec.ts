import fc from 'fast-check';
import {
  blankKnot,
  changeMethod,
  composeStep,
  crossingsOf,
  figureAtStep,
  isFirstEnd,
  leaderEnd,
  methodFor,
  readKnot,
  stepsOf,
  stretchesOf,
  WORKSHOP_WORDS,
  writeKnot,
  type Edit,
  type EndEdit,
  type LayoutEdit,
  type Method,
  type Point,
} from '../../src/index.js';
import { EMPTY, edited, go, rope } from '../support/figures.js';

const laidOn = (points: readonly Point[], pass: string): EndEdit => ({ kind: 'lay', rope: 'a', points, pass });
const firstEnd = (points: readonly Point[], pass: string): Edit => ({ kind: 'first-end', laid: laidOn(points, pass) });
const after = (method: Method, ...edits: LayoutEdit[]): Method => edits.reduce<Method>((m, e) => edited(m, e), method);
const halted = (method: Method, leader: number): Method =>
  edited(method, { kind: 'place-halt', leader, at: leaderEnd(method, leader) });

/** A rope led behind a bundle, its two ends crossed over it twice: left over right, then right over left. */
function reefRoundABundle(): Method {
  let m = methodFor(
    go(
      EMPTY,
      {
        kind: 'add-host',
        host: {
          id: 'h',
          kind: 'spar',
          points: [
            [-16, 4],
            [16, 4],
          ],
          size: 5,
        },
      },
      {
        kind: 'add-rope',
        rope: {
          id: 'a',
          points: [
            [-4, -3],
            [-5, 4],
            [-3, 9],
            [3, 9],
            [5, 4],
            [4, -3],
          ],
          curve: 'smooth',
          closed: false,
          ends: ['standing', 'tail'],
        },
        pass: 'UUUUUU',
      },
    ),
  );
  m = halted(m, 0);
  m = halted(
    after(
      m,
      firstEnd(
        [
          [1, -5],
          [4.5, -5.5],
          [3, -9],
        ],
        'OOO',
      ),
    ),
    1,
  );
  m = halted(
    after(
      m,
      laidOn(
        [
          [1.5, -3.6],
          [-2.5, -6],
          [-3, -9],
        ],
        'UUU',
      ),
    ),
    0,
  );
  return m;
}

describe('A rope that both ends lead', () => {
  it('is laid on at its first end: nothing that was laid moves, and the end is a tail', () => {
    const points = fc.array(fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 })), {
      minLength: 1,
      maxLength: 5,
    });
    fc.assert(
      fc.property(points, (path) => {
        const before = methodFor({
          ropes: [
            rope('a', [
              [0, 0],
              [4, 1],
              [9, 0],
            ]),
          ],
          hosts: [],
        });
        const done = changeMethod(before, 0, firstEnd(path, 'O'.repeat(path.length)));
        if (!done.ok) return;
        const [was, now] = [before.figure.ropes[0]!, done.value.figure.ropes[0]!];
        expect(now.points.slice(-was.points.length)).toEqual([...was.points]);
        expect(now.ends).toEqual(['tail', 'tail']);
        const [last, first] = done.value.leaders;
        expect(isFirstEnd(first)).toBeTrue();
        expect(first!.from).toBe(last!.from);
        expect(first!.from).toBe(now.points.length - was.points.length);
      }),
    );
  });
  it('is tied in the order of its halts, each end as far as it has come', () => {
    const method = reefRoundABundle();
    expect(stretchesOf(method).map((s) => [s.leader, s.to > s.from])).toEqual([
      [0, true],
      [1, false],
      [0, true],
    ]);
    const counts = stepsOf(method).map((s) => crossingsOf(figureAtStep(method, s.index)).length);
    expect(counts).toEqual([...counts].sort((a, b) => a - b));
    expect(counts.at(-1)).toBe(crossingsOf(method.figure).length);
    const lengths = stepsOf(method).map((s) => figureAtStep(method, s.index).ropes[0]!.ends);
    expect(lengths[0]).toEqual(['tail', 'tail']);
  });
  it('says which end moves, by where they lie, and calls the other one so', () => {
    const texts = stepsOf(reefRoundABundle()).map((s) => composeStep(reefRoundABundle(), s.index, WORKSHOP_WORDS).text);
    expect(texts[0]).toContain('right working end');
    expect(texts[1]).toContain('left working end');
    expect(texts[2]).toContain('right working end');
    expect(texts[2]).toContain('the other working end');
  });
  it('is the same when the rope is turned round and back, its steps too', () => {
    const method = reefRoundABundle();
    const turn: LayoutEdit = { kind: 'reverse', rope: 'a' };
    const once = after(method, turn);
    expect(once.leaders.map(isFirstEnd)).toEqual([true, false]);
    const words = (m: Method): string[] => stepsOf(m).map((s) => composeStep(m, s.index, WORKSHOP_WORDS).text);
    expect(words(once)).toEqual(words(method));
    const twice = after(once, turn);
    expect(twice.leaders).toEqual([...method.leaders]);
    twice.halts.forEach((h, i) => expect(h.at).toBeCloseTo(method.halts[i]!.at, 9));
  });
  it('keeps halts on their way when one is moved, placed, taken out or asked for where it cannot stand', () => {
    const method = reefRoundABundle();
    const own = (m: Method): number[] => m.halts.filter((h) => h.leader === 1).map((h) => h.at);
    const from = method.leaders[1]!.from;
    const between = after(method, { kind: 'place-halt', leader: 1, at: from / 2 });
    expect(own(between)).toEqual([from / 2, 0]);
    const moved = after(between, {
      kind: 'move-halt',
      index: between.halts.findIndex((h) => h.at === from / 2),
      at: -5,
    });
    expect(own(moved)[0]).toBeGreaterThan(0);
    const wrong = changeMethod(method, 0, { kind: 'place-halt', leader: 1, at: from + 1 });
    expect(wrong.ok).toBeFalse();
  });
  it('is written and read back with both its leaders', () => {
    const method = reefRoundABundle();
    const read = readKnot(writeKnot({ ...blankKnot('Reef round a bundle'), method }));
    if (!read.ok) throw new Error(read.reason);
    expect(read.value.method.leaders).toEqual([...method.leaders]);
    expect(read.value.method.halts.map((h) => h.at)).toEqual(method.halts.map((h) => h.at));
  });
});
