import {
  courseFindings,
  courseSchema,
  courseTime,
  inOrder,
  movedBefore,
  MOST_NEW_WORDS,
  needsOf,
  newWords,
  orderedBy,
  sayMinutes,
  type Course,
  type CourseHouse,
  type LessonFacts,
  type Need,
} from '@foxtrail/core/course';
import fc from 'fast-check';

const REF = (n: number, kind = 'knot'): string => `${kind}:00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const course = (refs: readonly string[], more: object = {}): Course =>
  courseSchema.parse({ name: 'It', items: refs.map((ref) => ({ ref, name: ref.slice(-2) })), ...more });
const fact = (ref: string, more: Partial<LessonFacts> = {}): LessonFacts => ({
  ref,
  name: ref.slice(-2),
  state: 'there',
  slug: ref.slice(-2),
  pattern: null,
  words: [],
  introduces: [],
  seconds: null,
  uses: [],
  ...more,
});
const house = (all: readonly LessonFacts[], kin: CourseHouse['kin'] = []): CourseHouse => ({
  facts: (ref) => all.find((f) => f.ref === ref),
  kin,
  wordOf: (c) => c,
  patternOfConcept: (c) => (c.startsWith('knot-') ? c.slice(5) : undefined),
  isKnown: (c) => c === 'rope',
});
const [A, B, C] = [REF(1), REF(2), REF(3)];

describe('What comes before what in a course', () => {
  it('is a knot before the assembly that is tied with it, as a knot of the shelf or as the pattern that it is', () => {
    const rig = REF(9, 'assembly');
    const uses = [
      { ref: A, pattern: null, name: 'It' },
      { ref: 'pattern:bowline', pattern: 'bowline', name: 'Bowline' },
    ];
    const all = [fact(A), fact(B, { pattern: 'bowline' }), fact(rig, { uses, slug: null })];
    const needs = needsOf(course([rig, A, B]), house(all));
    expect(needs.map((n) => [n.first, n.then, n.kind])).toEqual([
      [1, 0, 'uses'],
      [2, 0, 'uses'],
    ]);
    const found = courseFindings(course([rig, A]), house(all));
    expect(found.map((f) => f.code)).toEqual(['before-its-lesson', 'not-taught']);
    expect(found[1]!.why).toBe('Bowline.');
  });

  it('is a knot before what is made of it, and not before what is only mistaken for it', () => {
    const all = [fact(A, { pattern: 'clove-hitch' }), fact(B), fact(C)];
    const needs = needsOf(
      course([C, B, A]),
      house(all, [
        { from: 'pattern:clove-hitch', to: B, kind: 'one more turn' },
        { from: A, to: C, kind: 'mistaken for' },
        { from: B, to: C, kind: 'mirrored' },
      ]),
    );
    expect(needs.map((n) => [n.first, n.then, n.kind])).toEqual([[2, 1, 'derived']]);
    expect(needs[0]!.why).toContain('one more turn');
  });

  it('is a word before the text that says it: where it is explained, or where the knot is taught that it names', () => {
    const all = [
      fact(A, { words: ['bight', 'knot-bowline', 'rope'] }),
      fact(B, { introduces: ['bight'], words: ['bight'] }),
      fact(C, { pattern: 'bowline' }),
    ];
    expect(needsOf(course([A, B, C]), house(all)).map((n) => [n.first, n.then])).toEqual([
      [1, 0],
      [2, 0],
    ]);
    // Learners bring it, or the lesson explains it itself.
    expect(needsOf(course([A, B], { known: ['bight'] }), house(all))).toEqual([]);
    const own = [fact(A, { words: ['bight'], introduces: ['bight'] }), all[1]!];
    expect(needsOf(course([A, B]), house(own))).toEqual([]);
  });

  it('makes an order that keeps every need, moves nothing where there is none, and is a mend of all that comes too early', () => {
    const needs = fc.integer({ min: 2, max: 9 }).chain((count) =>
      fc.tuple(
        fc.constant(count),
        fc.shuffledSubarray(
          Array.from({ length: count }, (_, i) => i),
          { minLength: count },
        ),
        fc.array(fc.tuple(fc.nat(count - 1), fc.nat(count - 1)), { maxLength: 14 }),
      ),
    );
    fc.assert(
      fc.property(needs, ([count, hidden, pairs]) => {
        // Needs that agree with some hidden order: no circle.
        const place = (i: number): number => hidden.indexOf(i);
        const list = pairs
          .filter(([p, q]) => p !== q)
          .map(([p, q]): Need => {
            const [first, then] = place(p) < place(q) ? [p, q] : [q, p];
            return { first, then, kind: 'uses', why: '' };
          });
        const { order, circles } = orderedBy(count, list);
        expect(circles).toEqual([]);
        expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: count }, (_, i) => i));
        for (const n of list) expect(order.indexOf(n.first)).toBeLessThan(order.indexOf(n.then));
        const again = orderedBy(
          count,
          list.map((n) => ({ ...n, first: order.indexOf(n.first), then: order.indexOf(n.then) })),
        );
        expect(again.order).toEqual(Array.from({ length: count }, (_, i) => i));
      }),
    );
  });

  it('opens a circle at a word before it opens it at a knot, and says so', () => {
    const need = (first: number, then: number, kind: Need['kind']): Need => ({
      first,
      then,
      kind,
      why: `${then} after ${first}`,
    });
    const { order, circles } = orderedBy(3, [need(0, 1, 'uses'), need(1, 2, 'derived'), need(2, 0, 'word')]);
    expect(circles.length).toBe(1);
    expect(circles[0]!.length).toBe(3);
    expect(order).toEqual([0, 1, 2]);
    const all = [
      fact(A, { pattern: 'reef', words: ['knot-granny'] }),
      fact(B, { pattern: 'granny', words: ['knot-reef'] }),
    ];
    const found = courseFindings(course([A, B]), house(all));
    expect(found.map((f) => [f.code, f.severity])).toEqual([['circular', 'warning']]);
    expect(found[0]!.title).toBe('01 and 02 need each other');
  });
});

describe('A course', () => {
  it('is mended by a press where something comes too early', () => {
    const all = [fact(A, { pattern: 'reef' }), fact(B, { words: ['knot-reef'] }), fact(C)];
    const wrong = course([B, C, A]);
    const [found] = courseFindings(wrong, house(all));
    expect(found!.code).toBe('before-its-lesson');
    const mended = found!.mend!.to(wrong);
    expect(mended.items.map((i) => i.ref)).toEqual([A, B, C]);
    expect(courseFindings(mended, house(all))).toEqual([]);
    const { order } = orderedBy(3, needsOf(wrong, house(all)));
    expect(inOrder(wrong, order).items.map((i) => i.ref)).toEqual([A, B, C]);
    expect(movedBefore(wrong, 0, 2).items.map((i) => i.ref)).toEqual([C, B, A]);
  });

  it('tells of lessons that are gone, archived, withdrawn, or there twice', () => {
    const codes = (more: Partial<LessonFacts>, refs = [A]): string[] =>
      courseFindings(course(refs), house([fact(A, more)])).map((f) => f.code);
    expect(codes({ state: 'gone' })).toEqual(['not-there']);
    expect(codes({ state: 'archived' })).toEqual(['not-there']);
    expect(codes({ slug: null })).toEqual(['not-published']);
    expect(codes({}, [A, A])).toEqual(['twice']);
    const twice = course([A, A]);
    const [found] = courseFindings(twice, house([fact(A)]));
    expect(found!.mend!.to(twice).items.length).toBe(1);
    // Of an assembly nothing is published: it is inspected.
    const rig = REF(9, 'assembly');
    expect(courseFindings(course([rig]), house([fact(rig, { slug: null })]))).toEqual([]);
  });

  it('counts words as new once, and says where they are too many', () => {
    const many = Array.from({ length: MOST_NEW_WORDS + 1 }, (_, i) => `w${i}`);
    const all = [fact(A, { words: [...many, 'rope'] }), fact(B, { words: ['w0', 'w99'] })];
    expect(newWords(course([A, B]), house(all).facts, house(all).isKnown)).toEqual([many, ['w99']]);
    expect(courseFindings(course([A, B]), house(all)).map((f) => [f.code, f.item])).toEqual([['many-new-words', 0]]);
    expect(courseFindings(course([A, B], { known: ['w1'] }), house(all))).toEqual([]);
  });

  it('takes what its films take unless its author says otherwise, and practice; what is not known is counted', () => {
    const all = [fact(A, { seconds: 90 }), fact(B), fact(C, { seconds: 600 })];
    const items = [
      { ref: A, name: 'a', practice: 5 },
      { ref: B, name: 'b', practice: 20 },
      { ref: C, name: 'c', minutes: 3, practice: 0 },
    ];
    expect(courseTime(course([], { items }), house(all).facts)).toEqual({ minutes: 1.5 + 5 + 20 + 3, unknown: 1 });
    expect(courseSchema.safeParse({ name: 'x', items: [{ ref: 'bowline', name: 'b' }] }).success).toBeFalse();
  });

  it('times are said as people say them', () => {
    expect([0.5, 3, 59.6, 60, 95, 120].map(sayMinutes)).toEqual(['30 s', '3 min', '1 h', '1 h', '1 h 35 min', '2 h']);
  });
});
