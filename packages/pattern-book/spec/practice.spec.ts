import {
  drive,
  derivingOne,
  findingsOf,
  WORKSHOP_WORDS,
  type HousePractice,
  type KnotDocument,
  type UseGrade,
} from '@foxtrail/core';
import { patternKeys, patternOf, practised, practiceFindings } from '../src/index.js';

const knotOf = (id: string, useGrade: UseGrade): KnotDocument => {
  const { knot } = patternOf(id)!;
  return { ...knot, entry: { ...knot.entry, useGrade } };
};
const house = (school: HousePractice['school'], changes: HousePractice['changes'] = {}): HousePractice => ({
  school,
  changes,
});
const titles = (knot: KnotDocument, practice: HousePractice): readonly string[] =>
  practiceFindings(knot, practice).map((f) => f.title);

describe('A knot against the rules of the house', () => {
  it('lies on the side that the house teaches, or is told so with rule and school', () => {
    for (const [id, title] of [
      ['bowline', 'Its tail lies inside the loop'],
      ['bowline-outside', 'Its tail lies outside the loop'],
    ] as const)
      for (const value of ['inside the loop', 'outside the loop', 'either side']) {
        const practice = house('camp', { 'bowline-tail': { value, reason: 'It is taught so here.' } });
        const found = practiceFindings(knotOf(id, 'light duty'), practice);
        const wrong = value !== 'either side' && !title.includes(value.replace(' the loop', ''));
        expect(found.map((f) => f.title))
          .withContext(`${id} ${value}`)
          .toEqual(wrong ? [title] : []);
        if (wrong) expect(found[0]?.why).toContain('It is taught so here.');
      }
  });

  it('has the turns that its school asks for', () => {
    expect(titles(knotOf('rolling-hitch', 'load-bearing'), house('rescue'))).toEqual([
      'It has too few turns',
      'It is finished with one hitch',
    ]);
    expect(titles(knotOf('rolling-hitch', 'load-bearing'), house('marine'))).toEqual([]);
    expect(titles(knotOf('timber-hitch', 'light duty'), house('rescue'))).toEqual(['It has too few turns']);
    const two = house('marine', { 'prusik-turns': { value: { least: 1, most: 2 }, reason: 'Thin cord.' } });
    expect(titles(knotOf('prusik', 'light duty'), two)).toEqual(['It has too many turns']);
  });

  it('wants a keeper where its school does, and is at rest once it has one', () => {
    const loop = knotOf('followed-eight', 'load-bearing');
    expect(titles(loop, house('rescue'))).toEqual(['It has no keeper']);
    expect(titles(loop, house('marine'))).toEqual([]);
    const withTurns = (turns: number): KnotDocument => {
      const made = drive(derivingOne(loop, { kind: 'keeper', rope: 'a', turns }, patternKeys()));
      if (!made.ok) throw new Error(made.reason);
      // Entered as what it is with a keeper beyond.
      const { entry } = made.value.knot;
      return {
        ...made.value.knot,
        entry: { ...entry, claim: 'followed-eight', useGrade: 'load-bearing', class: 'loop in the end' },
      };
    };
    const kept = withTurns(1);
    expect(practised(kept).keeper).toEqual(jasmine.objectContaining({ rope: 'a', turns: 1 }));
    expect(practised(withTurns(2)).keeper?.turns).toBe(2);
    expect(titles(kept, house('rescue'))).toEqual(['Its keeper has too few turns']);
    expect(titles(withTurns(2), house('rescue'))).toEqual([]);
    expect(titles(kept, house('camp'))).toEqual([]);
    // Measured before the keeper the tail is longer than after it.
    const rules = { tail: { diameters: 40, millimetres: 0 }, cordMm: 10, words: WORKSHOP_WORDS };
    const short = (tailFrom?: ReadonlyMap<string, number>): boolean =>
      findingsOf(kept.method, { ...rules, tailFrom }).some((f) => f.code === 'tail-short');
    const { rope, from } = practised(kept).keeper!;
    expect(short()).toBeTrue();
    expect(short(new Map([[rope, from]]))).toBeFalse();
  });

  it('is no clove hitch alone, and no reef between two ropes, where that is not done', () => {
    expect(titles(knotOf('clove-hitch', 'load-bearing'), house('marine'))).toEqual(['It stands alone']);
    expect(titles(knotOf('clove-hitch', 'load-bearing'), house('camp'))).toEqual([]);
    const joining = knotOf('reef', 'light duty');
    const bend: KnotDocument = { ...joining, entry: { ...joining.entry, class: 'bend' } };
    expect(titles(bend, house('rescue'))).toEqual(['A reef joins two ropes']);
    expect(titles(joining, house('rescue'))).toEqual([]);
  });

  it('keeps to no rule when it is shown as a wrong way', () => {
    expect(titles(knotOf('false-bowline', 'load-bearing'), house('rescue'))).toEqual([]);
  });
});
