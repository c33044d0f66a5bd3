import { howToSet, WORKSHOP_WORDS, blankKnot, writeKnot, readKnot } from '@foxtrail/core';
import {
  assemblyFindings,
  assemblySchema,
  BODY_THINGS,
  inspectionList,
  purchases,
  withoutKnot,
  type Assembly,
  type AssemblyHouse,
  type Stop,
} from '@foxtrail/core/assembly';
import { eatsOf } from '@foxtrail/core/form';
import { patternOf, patterns } from '@foxtrail/pattern-book';
import {
  BOOK_ASSEMBLIES,
  eatsOfPattern,
  knotFacts,
  patternFacts,
  patternName,
} from '@foxtrail/pattern-book/assemblies';
import { patternForm } from '@foxtrail/pattern-book/forms';

const house: AssemblyHouse = {
  facts: (ref) => patternFacts(ref.slice('pattern:'.length), WORKSHOP_WORDS),
  tail: { diameters: 12, millimetres: 0 },
  patternName,
  eatsOf: eatsOfPattern,
};
const found = (a: Assembly): string[] =>
  assemblyFindings(a, house)
    .filter((f) => f.severity === 'error')
    .map((f) => `${f.code}: ${f.title}`);

describe('Assemblies of the book', () => {
  for (const [id, make] of Object.entries(BOOK_ASSEMBLIES))
    it(`${id}: no error, every knot what it ought to be, everything to look at said`, () => {
      const a = make();
      expect(assemblySchema.parse(a)).toEqual(a);
      expect(found(a)).toEqual([]);
      const list = inspectionList(a, [], house);
      for (const k of a.knots) expect(list.find((g) => g.about === k.id)?.items.length).toBeGreaterThan(1);
      // What ropes eat is known of every knot: of one of two ropes, one may run straight through.
      for (const k of a.knots) expect(eatsOfPattern(k.shouldBe!).some((s) => s.set > 0)).toBeTrue();
    });

  it('are graded for people where they hold one, and say that they are no harness', () => {
    for (const make of Object.values(BOOK_ASSEMBLIES)) {
      const a = make();
      const holds = a.things.some((t) => BODY_THINGS.includes(t.kind));
      expect(a.useGrade === 'people depend on it').toBe(holds);
    }
  });

  it('gain by a purchase what friction leaves of three, in both schools', () => {
    for (const id of ['purchase-slip', 'purchase-butterfly']) {
      const [own] = purchases(BOOK_ASSEMBLIES[id]!());
      expect(own!.parts).toBe(3);
      expect(own!.gains[0]).toBeGreaterThan(1);
      expect(own!.gains[1]).toBeLessThan(3);
    }
    expect(purchases(BOOK_ASSEMBLIES['ridge-line']!())).toEqual([]);
  });

  it('know what a pattern eats as its form has it', () => {
    for (const { id, knot } of patterns()) {
      const form = patternForm(id);
      if (!form) continue;
      const { figure } = howToSet(knot.method);
      const eats = eatsOf(figure, form);
      figure.ropes.forEach((_, i) =>
        expect(eatsOfPattern(id)[i]!.set).toBeCloseTo(eats.find((s) => s.strand === i)?.set ?? 0, 1),
      );
    }
    expect(eatsOfPattern('overhand')).toEqual([{ set: jasmine.any(Number), host: null }]);
    expect(eatsOfPattern('clove-hitch')[0]!.host!.turns).toBeGreaterThan(1);
  });
});

describe('A knotted seat that is tied wrong', () => {
  const seat = (): Assembly => BOOK_ASSEMBLIES['seat-upward']!();
  const withPattern = (id: string, pattern: string): Assembly => {
    const a = seat();
    return { ...a, knots: a.knots.map((k) => (k.id === id ? { ...k, ref: `pattern:${pattern}` } : k)) };
  };
  const withStops = (to: (s: Stop, i: number) => Stop): Assembly => {
    const a = seat();
    return { ...a, ropes: a.ropes.map((r) => ({ ...r, stops: r.stops.map(to) })) };
  };

  it('1: a keeper is a half hitch where it should be an overhand', () => {
    expect(found(withPattern('k1', 'half-hitch'))).toEqual([
      'another-knot: The first keeper should be an overhand knot and is a half hitch',
    ]);
  });
  it('2: the square knot is a granny', () => {
    expect(found(withPattern('sq', 'granny'))).toEqual([
      'another-knot: The square knot at the side should be a reef knot and is a granny knot',
    ]);
  });
  it('3: the square knot is a thief', () => {
    expect(found(withPattern('sq', 'thief'))[0]).toContain('and is a thief knot');
  });
  it('4: a keeper is missing, and then the reef holds nobody', () => {
    expect(found(withoutKnot(seat(), 'k2')).map((f) => f.split(':')[0])).toEqual(['not-for-people', 'keeper-missing']);
  });
  it('5: a leg loop is routed the other way', () => {
    const wrong = withStops((s) => (s.kind === 'round' && s.thing === 'r' ? { ...s, way: 'downward' } : s));
    expect(found(wrong)).toEqual([
      'leg-route: The leg loop round the right thigh is routed downward, and the school routes it upward',
    ]);
    // Both the other way are the other school, and that is asked of neither.
    const both = withStops((s) => (s.kind === 'round' && s.way !== null ? { ...s, way: 'downward' } : s));
    expect(found({ ...both, legLoops: null })).toEqual([]);
    expect(found({ ...wrong, legLoops: null }).length).toBe(1);
  });
  it('6: the gate looks down', () => {
    const a = seat();
    const down = { ...a, things: a.things.map((t) => (t.kind === 'carabiner' ? { ...t, gate: 'down' as const } : t)) };
    expect(found(down)).toEqual(['gate: The gate of the carabiner looks down']);
  });
  it('7: a tail is short', () => {
    const short = withStops((s, i) => (i === seat().ropes[0]!.stops.length - 1 ? { ...s, afterMm: 60 } : s));
    expect(found(short)).toEqual(['tail-short: The tail of the second keeper is 60 mm long, and 120 mm are asked']);
  });
  it('8: a keeper has slid away from the knot', () => {
    const a = seat();
    const [k1, sq, ...rest] = a.ropes[0]!.stops as [Stop, Stop, ...Stop[]];
    const slid = { ...a, ropes: [{ ...a.ropes[0]!, stops: [k1, rest[0]!, sq, ...rest.slice(1)] }] };
    expect(found(slid).map((f) => f.split(':')[0])).toContain('keeper-apart');
  });
});

describe('Facts of a knot', () => {
  it('are the same of a pattern by its keys and of its drawing on the shelf', () => {
    for (const id of ['reef', 'granny', 'overhand', 'half-hitch', 'bowline', 'prusik', 'butterfly']) {
      const { knot } = patternOf(id)!;
      const drawn = readKnot(writeKnot({ ...knot, name: 'Called otherwise' }));
      if (!drawn.ok) throw new Error(drawn.reason);
      const standing = { ref: `pattern:${id}`, state: 'there', errors: 0, slug: null } as const;
      const own = knotFacts(drawn.value, standing, WORKSHOP_WORDS);
      const known = patternFacts(id, WORKSHOP_WORDS)!;
      expect({ ...own, name: known.name }).toEqual(known);
      expect(own.is[0]?.id).toBe(id);
      expect(own.marks.length).toBeGreaterThan(0);
    }
  });

  it('of an empty drawing are none, and of a pattern that the book has not there are none', () => {
    const standing = { ref: 'knot:x', state: 'there', errors: null, slug: null } as const;
    expect(knotFacts(blankKnot('New'), standing, WORKSHOP_WORDS).is).toEqual([]);
    expect(patternFacts('no-such', WORKSHOP_WORDS)).toBeUndefined();
  });
});
