import fc from 'fast-check';
import {
  checkLesson,
  inWordsOf,
  lessonCheck,
  mendText,
  sameName,
  SHIPPED_GLOSSARY,
  TAKEN_AS_KNOWN,
  TermIndex,
  wordFor,
  WORKSHOP_CHOICE,
  type Glossary,
  type LessonCheck,
  type LessonText,
  type Remark,
  type Worded,
} from '../../src/index.js';

const index = new TermIndex(SHIPPED_GLOSSARY);
const checkFor = (
  school: string,
  own: Record<string, string> = {},
  glossary: Glossary = SHIPPED_GLOSSARY,
): LessonCheck => ({
  glossary,
  index: glossary === SHIPPED_GLOSSARY ? index : new TermIndex(glossary),
  choice: { school, own },
  known: new Set(TAKEN_AS_KNOWN),
});
const lesson = (...texts: readonly (string | LessonText)[]): LessonText[] =>
  texts.map((t, i) => (typeof t === 'string' ? { place: `step ${i + 1}`, text: t } : t));
const remarks = (check: LessonCheck, ...texts: readonly (string | LessonText)[]): Remark[] =>
  checkLesson(lesson(...texts), check).flat();

describe('The text check', () => {
  it('finds another school’s word in any form, says whose it is, and mends it in the same form', () => {
    const text = 'Lead the Running-Ends’ wraps over the standing line.';
    const found = remarks(checkFor('workshop'), text);
    expect(found.map((r) => [r.kind, r.words])).toEqual([
      ['foreign', 'Running-Ends’'],
      ['foreign', 'standing line'],
    ]);
    expect(found[0]!.says).toContain('Marine');
    expect(
      mendText(
        text,
        found.map((r) => r.mends[0]!),
      ),
    ).toBe('Lead the Working ends’ wraps over the standing part.');
  });

  it('takes no word for another school’s that the author has named so, and “bight of the slack” for nothing misheard', () => {
    const say = (entry: Worded, text: string): string[] =>
      (
        checkLesson(
          [{ place: 'step 1', text }],
          lessonCheck(entry, WORKSHOP_CHOICE, SHIPPED_GLOSSARY, TAKEN_AS_KNOWN),
        )[0] ?? []
      ).map((r) => `${r.kind} ${r.words}`);
    const text = 'Lead the strap round, and the strap once more.';
    expect(say({}, text)).toEqual(['foreign strap', 'foreign strap']);
    expect(say({ cord: { name: 'Blue strap', diameterMm: 20 } }, text)).toEqual([]);
    expect(say({ aliases: ['Strap hitch'] }, text)).toEqual([]);
    // Another word that only holds it is not that word.
    expect(say({ aliases: ['Strapped hitch'] }, text)).toEqual(['foreign strap', 'foreign strap']);
    expect(say({}, 'Pull a bight of the slack through the loop.')).toEqual([]);
    expect(say({}, 'Pull a bite of the slack through the loop.').length).toBe(1);
  });
  it('tells a misheard spelling from an everyday word', () => {
    const check = checkFor('workshop');
    expect(remarks(check, 'Make a bite and hold it.').map((r) => [r.kind, r.mends[0]?.instead])).toEqual([
      ['misheard', 'bight'],
    ]);
    expect(remarks(check, 'The turns bite into the spar.')).toEqual([]);
    expect(remarks(checkFor('camp'), 'Turn it over, and turn the end back.')).toEqual([]);
    expect(remarks(checkFor('camp'), 'Lay two turns.').map((r) => r.mends[0]?.instead)).toEqual(['wraps']);
  });

  it('gives the reason why a name is discouraged, except to those whose word it is', () => {
    const text = 'Take the bitter end round.';
    expect(remarks(checkFor('workshop'), text)[0]).toEqual(
      jasmine.objectContaining<Remark>({
        kind: 'discouraged',
        says: jasmine.stringContaining('inboard end'),
      }),
    );
    expect(remarks(checkFor('marine'), text).filter((r) => r.kind === 'discouraged')).toEqual([]);
  });

  it('puts the article and a parted verb right', () => {
    const underhand = { place: 'step 1', text: 'Make an overhand loop.', loop: 'underhand' as const };
    const [loop] = remarks(checkFor('camp'), underhand);
    expect(loop!.kind).toBe('loop of the other hand');
    expect(mendText(underhand.text, loop!.mends)).toBe('Make a back loop.');
    expect(inWordsOf('Set it, then set the knot.', checkFor('marine')).text).toBe('Draw it up, then draw up the knot.');
  });

  it('says nothing of a loop whose hand the picture shows, or where there is no picture', () => {
    const check = checkFor('workshop');
    expect(remarks(check, { place: 'step 1', text: 'Make an overhand loop.', loop: 'overhand' })).toEqual([]);
    expect(remarks(check, 'Make an overhand loop.')).toEqual([]);
  });

  it('wants a part or shape introduced before it is spoken of', () => {
    const check = checkFor('workshop');
    const kinds = (...texts: string[]): string[] => remarks(check, ...texts).map((r) => `${r.kind} ${r.concept}`);
    expect(kinds('Lead the end through the bight.')).toEqual(['not introduced bight']);
    expect(kinds('Make a bight.', 'Lead the end through the bight.')).toEqual([]);
    expect(kinds('Lead the end through the bight.', 'Make a bight.', 'Hold the bight.')).toEqual([
      'not introduced bight',
    ]);
    const known = { ...check, known: new Set([...TAKEN_AS_KNOWN, 'bight']) };
    expect(remarks(known, 'Lead the end through the bight.')).toEqual([]);
  });

  it('finds two names for one thing in a lesson, and one name for two things', () => {
    const check = checkFor('workshop');
    const [two] = remarks(check, 'Make a nipping turn.', 'Lead the end up through the nipping loop.');
    expect(two).toEqual(jasmine.objectContaining<Remark>({ kind: 'two names', words: 'nipping loop' }));
    expect(two!.says).toContain('step 1');
    expect(two!.mends[0]!.instead).toBe('nipping turn');
    const collar = SHIPPED_GLOSSARY.concepts.find((c) => c.id === 'collar')!;
    const glossary: Glossary = {
      ...SHIPPED_GLOSSARY,
      concepts: [
        ...SHIPPED_GLOSSARY.concepts,
        { ...collar, id: 'neck-band', definition: 'A band of another kind.', labels: collar.labels },
      ],
    };
    const [both] = remarks(checkFor('workshop', {}, glossary), 'Make a collar.');
    expect(both!.kind).toBe('two meanings');
    expect(both!.says).toContain('A band of another kind'.toLowerCase());
    // A word of the house's own for one of them settles it.
    expect(remarks(checkFor('workshop', { 'neck-band': 'band' }, glossary), 'Make a collar.')).toEqual([]);
  });

  describe('of a name that two things have', () => {
    const school = (id: string) => ({ id, name: id, note: 'A school of the tests.' });
    const thing = (id: string, ...labels: Glossary['concepts'][number]['labels']): Glossary['concepts'][number] => ({
      id,
      kind: 'part of a rope',
      definition: `What is called ${id}.`,
      broader: [],
      related: [],
      labels: [{ school: 'here', status: 'preferred', text: `${id} word` }, ...labels],
    });
    const meant = (...concepts: Glossary['concepts']): readonly string[] => {
      const glossary: Glossary = { schools: [school('here'), school('there')], concepts };
      const check = { ...checkFor('here', {}, glossary), known: new Set(concepts.map((c) => c.id)) };
      return remarks(check, 'Take the wump over.').map((r) => `${r.kind} ${r.concept}`);
    };
    const wump = (school: string | null, status: 'preferred' | 'also used' | 'discouraged' | 'misheard') =>
      ({ school, status, text: 'wump' }) as const;

    it('takes the one that stands better in the school: its own before another’s, that before what is misheard', () => {
      const ranks = [
        wump('here', 'also used'),
        wump('here', 'discouraged'),
        wump('there', 'preferred'),
        wump(null, 'misheard'),
        wump('there', 'discouraged'),
      ];
      for (const [i, better] of ranks.entries())
        for (const worse of ranks.slice(i + 1)) {
          const [one, two] = [thing('one', better), thing('two', worse)];
          const expected = meant(one);
          expect(meant(one, two)).withContext(`${better.status} ${worse.status}`).toEqual(expected);
          expect(meant(two, one)).withContext(`${worse.status} ${better.status}`).toEqual(expected);
        }
    });
    it('says that it has two meanings where both stand alike, with a mend for each', () => {
      const glossary: Glossary = {
        schools: [school('here')],
        concepts: [thing('one', wump('here', 'also used')), thing('two', wump('here', 'also used'))],
      };
      const [found, ...more] = remarks(checkFor('here', {}, glossary), 'Take the wump over.');
      expect(more).toEqual([]);
      expect(found!.kind).toBe('two meanings');
      expect(found!.mends.map((m) => mendText('Take the wump over.', [m]))).toEqual([
        'Take the one word over.',
        'Take the two word over.',
      ]);
    });
  });

  it('puts mends in side by side as they would be put in one after the other from the end', () => {
    fc.assert(
      fc.property(
        fc.string({ minLength: 1, maxLength: 40 }),
        fc.array(fc.nat(40), { maxLength: 10 }),
        fc.string({ maxLength: 5 }),
        (text, cuts, instead) => {
          const stops = [...new Set(cuts.map((c) => Math.min(c, text.length)))].sort((a, b) => a - b);
          const mends = stops.slice(1).map((to, i) => ({ from: stops[i]!, to, instead: `${instead}${i}` }));
          const oneByOne = [...mends].reverse().reduce((t, m) => t.slice(0, m.from) + m.instead + t.slice(m.to), text);
          expect(mendText(text, mends)).toBe(oneByOne);
          expect(mendText(text, [...mends].reverse())).toBe(oneByOne);
        },
      ),
      { numRuns: 100 },
    );
  });

  it('tells a thing from what is done where both have one name', () => {
    const check = checkFor('workshop');
    expect(remarks(check, 'Back it with a further hitch, then hitch it again.')).toEqual([]);
    expect(inWordsOf('Wrap it, then lay two wraps.', check).text).toBe('Wind it, then lay two turns.');
  });

  it('leaves the everyday use of a word alone', () => {
    const check = checkFor('rescue');
    expect(remarks(checkFor('workshop'), 'Join a thin line to it.', 'Take the dark rope over.')).toEqual([]);
    for (const text of ['A loose knot.', 'Binds a rolled kite.', 'Joins the winch line.', 'The crew sets sail.'])
      expect(remarks(check, text)).withContext(text).toEqual([]);
  });

  it('follows the house’s own word', () => {
    const check = checkFor('workshop', { tail: 'kite tail' });
    const text = 'Leave the tail long.';
    expect(remarks(check, text).map((r) => r.kind)).toEqual(['foreign']);
    expect(inWordsOf(text, check).text).toBe('Leave the kite tail long.');
  });

  it('has nothing to say of the school’s own words, and rewriting twice changes nothing more', () => {
    for (const { id } of SHIPPED_GLOSSARY.schools) {
      const check = checkFor(id);
      for (const concept of SHIPPED_GLOSSARY.concepts) {
        const word = wordFor(SHIPPED_GLOSSARY, check.choice, concept.id);
        if (word === undefined) continue;
        const text = concept.kind === 'action' ? `Now ${word} the knot.` : `Look at a ${word}.`;
        const kinds = remarks(check, text).filter((r) => !['two meanings', 'not introduced'].includes(r.kind));
        // A word that the school shares among several things may be another's own.
        const shared = SHIPPED_GLOSSARY.concepts.filter((c) =>
          c.labels.some((l) => sameName(l.text) === sameName(word)),
        ).length;
        if (shared === 1) expect(kinds).withContext(`${id}: ${text}`).toEqual([]);
        const once = inWordsOf(text, check).text;
        expect(inWordsOf(once, check).text).withContext(`${id}: ${text}`).toBe(once);
      }
    }
  });

  it('between two schools and back, a text keeps what it said', () => {
    const text =
      'Take the working end over the standing part, make a bight, and leave the tail. Lay three turns round the spar.';
    const marine = inWordsOf(text, checkFor('marine')).text;
    const camp = inWordsOf(marine, checkFor('camp')).text;
    expect(marine).toContain('running end');
    expect(camp).toBe(
      'Take the free end over the standing line, make a bight, and leave the tag end. Lay three wraps round the pole.',
    );
    expect(inWordsOf(camp, checkFor('workshop')).text).toBe(text);
  });
});
