import fc from 'fast-check';
import {
  choiceOf,
  citeRule,
  differencesOn,
  heldRule,
  heldRules,
  KNOT_CLASSES,
  PALM_MM,
  PRACTICE_SCHOOLS,
  practiceSchema,
  requiredTail,
  RULES,
  rulesAbout,
  ruleValueSchema,
  sayDifference,
  sayLength,
  sayValue,
  tailRuleFor,
  tailRuleId,
  USE_GRADES,
  type HousePractice,
} from '../../src/index.js';

const of = (school: HousePractice['school'], changes: HousePractice['changes'] = {}): HousePractice => ({
  school,
  changes,
});

describe('Rules of practice', () => {
  it('have a value that fits in every school, and an id of their own', () => {
    expect(new Set(RULES.map((r) => r.id)).size).toBe(RULES.length);
    for (const rule of RULES)
      for (const school of PRACTICE_SCHOOLS) {
        expect(ruleValueSchema(rule).safeParse(rule.bySchool[school]).success)
          .withContext(`${rule.id} ${school}`)
          .toBeTrue();
        expect(sayValue(rule, rule.bySchool[school])).not.toBe('');
      }
  });

  it('hold as the school has them until the house says otherwise, with its reason', () => {
    for (const school of PRACTICE_SCHOOLS)
      for (const { rule, value, reason } of heldRules(of(school))) {
        expect(value).toEqual(rule.bySchool[school]);
        expect(reason).toBeUndefined();
      }
    const own = of('rescue', { 'bowline-tail': { value: 'either side', reason: 'Both are taught here.' } });
    expect(choiceOf(own, 'bowline-tail')).toBe('either side');
    expect(citeRule(heldRule(own, 'bowline-tail'))).toContain('unlike Rescue and access: Both are taught here.');
    expect(citeRule(heldRule(own, 'prusik-turns'))).toContain('3 to 4 (school: Rescue and access)');
  });

  it('fall back on the school where a stored value does not fit any more', () => {
    expect(choiceOf(of('marine', { hand: { value: 'third', reason: 'x' } }), 'hand')).toBe('right');
  });

  it('are refused with the rule’s name, without a reason, or when there is no such rule', () => {
    const refused = (changes: object): string => {
      const read = practiceSchema.safeParse({ school: 'camp', changes });
      return read.success ? '' : (read.error.issues[0]?.message ?? '');
    };
    expect(refused({ 'prusik-turns': { value: { least: 4, most: 3 }, reason: 'x' } })).toContain('Wraps of the prusik');
    expect(refused({ hand: { value: 'left', reason: '' } })).toContain('say why');
    expect(refused({ nothing: { value: 1, reason: 'x' } })).toContain('no such rule');
    expect(refused({ hand: { value: 'left', reason: 'Most of the crew is left-handed.' } })).toBe('');
  });
});

describe('The tail a house asks for', () => {
  it('is the longest of diameters, millimetres and palms, for every cord', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...USE_GRADES),
        fc.integer({ min: 0, max: 40 }),
        fc.integer({ min: 0, max: 500 }),
        fc.integer({ min: 0, max: 5 }),
        fc.integer({ min: 2, max: 60 }),
        (grade, diameters, millimetres, palms, cord) => {
          const house = of('camp', { [tailRuleId(grade)]: { value: { diameters, millimetres, palms }, reason: 'x' } });
          const mm = requiredTail(tailRuleFor(house, { useGrade: grade }), cord) * cord;
          expect(mm).toBeCloseTo(Math.max(diameters * cord, millimetres, palms * PALM_MM), 6);
        },
      ),
    );
  });

  it('is what a plan leaves, where that is more', () => {
    const tail = { mm: 264, plan: 'First day' };
    const asked = (mm: number): number =>
      10 * requiredTail(tailRuleFor(of('workshop'), { useGrade: 'light duty', tail: { ...tail, mm } }), 10);
    expect(asked(264)).toBeCloseTo(264, 6);
    expect(asked(90)).toBeCloseTo(120, 6);
    expect(tailRuleFor(of('workshop'), { useGrade: 'light duty', tail }).cites).toContain('“First day” leaves 264 mm');
  });

  it('cites its rule, and is said in the units of the house', () => {
    expect(tailRuleFor(of('rescue'), { useGrade: 'people depend on it' }).cites).toContain('Rescue and access');
    expect(sayLength(12, 10)).toBe('12 d (120 mm)');
    expect(sayLength(12, 12.7, 'inches')).toBe('12 d (6 in)');
  });
});

describe('Where schools differ', () => {
  const bowline = { class: 'loop in the end', useGrade: 'load-bearing', pattern: 'bowline' } as const;

  it('is told of the rules that are about the knot, never of what the house itself does', () => {
    for (const school of PRACTICE_SCHOOLS)
      for (const d of differencesOn(bowline, of(school))) {
        expect(rulesAbout(bowline)).toContain(d.rule.id);
        expect(d.others.map((o) => o.says)).not.toContain(d.house);
        for (const o of d.others) for (const s of o.schools) expect(sayValue(d.rule, d.rule.bySchool[s])).toBe(o.says);
      }
  });

  it('names the side of the bowline’s tail, and says it in one sentence', () => {
    const side = differencesOn(bowline, of('workshop')).find((d) => d.rule.id === 'bowline-tail');
    expect(side && sayDifference(side)).toBe(
      'Tail of the bowline: here either side. Other schools: Marine and Rescue and access, inside the loop.',
    );
  });

  it('says nothing of a knot that no rule is about', () => {
    expect(differencesOn({ class: 'not classed', useGrade: 'light duty' }, of('camp'))).toEqual([]);
    for (const cls of KNOT_CLASSES)
      expect(rulesAbout({ class: cls, useGrade: 'light duty' })).not.toContain('bowline-tail');
  });
});
