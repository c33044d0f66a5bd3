import fc from 'fast-check';
import {
  articleFor,
  capitalsOf,
  formsOf,
  inflect,
  SHIPPED_GLOSSARY,
  TermIndex,
  withArticle,
  type ConceptKind,
  type Form,
} from '../../src/index.js';

/** Some verbs look alike in two forms: “set” is its own past. */
const sameForm = (a: Form, b: Form, term: string, kind: ConceptKind): boolean =>
  inflect(term, kind, a) === inflect(term, kind, b);

describe('Inflection', () => {
  it('bends nouns at their head and verbs at their first word', () => {
    expect(inflect('bight', 'shape', 'plural')).toBe('bights');
    expect(inflect('half hitch', 'knot', 'plural')).toBe('half hitches');
    expect(inflect('bowline on the bight', 'knot', 'plural')).toBe('bowlines on the bight');
    expect(inflect('working end', 'part of a rope', 'possessive')).toBe('working end’s');
    expect(inflect('working end', 'part of a rope', 'plural possessive')).toBe('working ends’');
    expect(inflect('tie off', 'action', 'past')).toBe('tied off');
    expect(inflect('tie off', 'action', 'participle')).toBe('tying off');
    expect(inflect('slip', 'action', 'past')).toBe('slipped');
    expect(inflect('set', 'action', 'past')).toBe('set');
    expect(inflect('set', 'action', 'participle')).toBe('setting');
    expect(inflect('tuck', 'action', 'third person')).toBe('tucks');
    expect(inflect('splice', 'action', 'participle')).toBe('splicing');
    expect(inflect('tighten', 'action', 'past')).toBe('tightened');
  });

  it('gives each term the article it is spoken with', () => {
    expect(
      ['overhand loop', 'eye', 'round turn', 'one-handed bowline', 'underhand loop', 'elbow'].map(withArticle),
    ).toEqual(['an overhand loop', 'an eye', 'a round turn', 'a one-handed bowline', 'an underhand loop', 'an elbow']);
    expect(articleFor('A', 'overhand loop')).toBe('An');
    expect(articleFor('an', 'bight')).toBe('a');
  });

  it('keeps the capitals of what it replaces', () => {
    expect(capitalsOf('Bite', 'bight')).toBe('Bight');
    expect(capitalsOf('BITE', 'bight')).toBe('BIGHT');
    expect(capitalsOf('bite', 'bight')).toBe('bight');
  });

  it('every name of the glossary is found in each of its forms, as the concept it names', () => {
    const index = new TermIndex(SHIPPED_GLOSSARY);
    const names = SHIPPED_GLOSSARY.concepts.flatMap((concept) =>
      concept.labels
        // Of an everyday state nothing is made, and of an everyday verb only an instruction.
        .filter((l) => l.everyday !== true || concept.kind !== 'state')
        .map((label) => ({ concept, label })),
    );
    fc.assert(
      fc.property(
        fc.constantFrom(...names),
        fc.nat(3),
        fc.constantFrom(
          (t: string) => t,
          (t: string) => t.toUpperCase(),
          (t: string) => t.replace(/ /g, '-'),
        ),
        ({ concept, label }, n, written) => {
          const form = label.everyday && concept.kind === 'action' ? 'plain' : formsOf(concept.kind)[n]!;
          const said = written(inflect(label.text, concept.kind, form));
          // Where an everyday word is the term: an action is told to somebody, a thing is named.
          const before = concept.kind === 'action' ? 'You must ' : 'Look at the ';
          const found = index.termsIn(`${before}${said} there.`);
          const term = found.find((t) => t.words === said);
          expect(term?.senses.some((s) => s.concept === concept && sameForm(s.form, form, label.text, concept.kind)))
            .withContext(`${said} (${concept.id}, ${form})`)
            .toBeTrue();
        },
      ),
      { numRuns: 400 },
    );
  });
});
