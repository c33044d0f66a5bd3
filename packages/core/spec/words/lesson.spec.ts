import {
  composeStep,
  crossingsOf,
  curveOf,
  litBox,
  pointAt,
  inspectionMarks,
  finishedFigure,
  lessonCheck,
  lessonTexts,
  remarkedKnot,
  remarkedTexts,
  rewordings,
  reworded,
  sayExits,
  SHIPPED_GLOSSARY,
  stepsOf,
  TAKEN_AS_KNOWN,
  vocabularyOf,
  WORKSHOP_CHOICE,
  WORKSHOP_WORDS,
  type KnotDocument,
  type LessonCheck,
} from '../../src/index.js';
import { drawnFiles, drawnKnot, edited, openKnot } from '../support/figures.js';

const inSchool = (school: string) => ({ school, own: {} });
const check = (knot: KnotDocument, school = WORKSHOP_CHOICE.school): LessonCheck =>
  lessonCheck(knot.entry, inSchool(school), SHIPPED_GLOSSARY, TAKEN_AS_KNOWN);

/** A bowline with a text of the author's own in its first step, a callout and a summary. */
function written(): KnotDocument {
  const knot = openKnot('bowline.json');
  const { finish: _finish, ...bare } = knot.method;
  const halts = bare.halts.map(({ leader, at }) => ({ leader, at }));
  let method = edited(
    { ...bare, halts },
    {
      kind: 'set-text',
      index: 0,
      text: 'Take the running end over the standing line.',
    },
  );
  method = edited(method, {
    kind: 'tell',
    index: 1,
    telling: { callouts: [{ strand: method.figure.ropes[0]!.id, at: 3, text: 'The tag end' }] },
  });
  return {
    ...knot,
    method,
    entry: { ...knot.entry, summary: 'For a loop at the free end.', cautions: ['Keep the tag end long.'] },
  };
}

describe('The words of a lesson', () => {
  it('composed texts, marks and exits take every term from the vocabulary', () => {
    const camp = vocabularyOf(SHIPPED_GLOSSARY, inSchool('camp'));
    expect([WORKSHOP_WORDS.workingEnd, camp.workingEnd, camp.tail, camp.hosts.spar]).toEqual([
      'working end',
      'free end',
      'tag end',
      'pole',
    ]);
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      const figure = finishedFigure(method);
      const texts = (words: typeof camp): string =>
        [
          ...stepsOf(method).map((s) => composeStep(method, s.index, words).text),
          ...inspectionMarks(figure, words).map((m) => m.text),
          ...sayExits(figure, words),
        ].join(' ');
      const said = texts(camp);
      for (const word of ['working end', 'standing part', 'spar', 'dress', 'overhand loop', 'underhand loop'])
        expect(said.toLowerCase())
          .withContext(file)
          .not.toMatch(new RegExp(`\\b${word}\\b`));
      // A round of other words leaves what is said as it was.
      expect(texts(vocabularyOf(SHIPPED_GLOSSARY, WORKSHOP_CHOICE))).toBe(texts(WORKSHOP_WORDS));
    }
  });

  it('reads the texts in a learner’s order and remarks only on what the author wrote', () => {
    const knot = written();
    const texts = remarkedTexts(knot, knot.method, check(knot));
    expect(texts.map((t) => t.place).slice(0, 4)).toEqual(['what it is for', 'caution 1', 'step 1', 'step 2']);
    expect(texts.filter((t) => t.remarks.length > 0).map((t) => [t.place, t.remarks.map((r) => r.words)])).toEqual([
      ['what it is for', ['free end']],
      ['caution 1', ['tag end']],
      ['step 1', ['running end', 'standing line']],
      ['a callout of step 2', ['tag end']],
    ]);
    expect(texts.filter((t) => !t.own).length).toBeGreaterThan(2);
  });

  it('a loop said of the other hand than the picture shows is told', () => {
    const knot = drawnKnot('bowline.json');
    const words = vocabularyOf(SHIPPED_GLOSSARY, WORKSHOP_CHOICE);
    const at = lessonTexts(knot, knot.method, words).find((t) => t.loop !== undefined)!;
    if (at.at.kind !== 'step') throw new Error('no step makes a loop');
    const other = at.loop === 'overhand' ? 'underhand' : 'overhand';
    const says = (hand: string): KnotDocument => ({
      ...knot,
      method: edited(knot.method, {
        kind: 'set-text',
        index: at.at.kind === 'step' ? at.at.index : 0,
        text: `Make an ${hand} loop.`,
      }),
    });
    const kinds = (k: KnotDocument): string[] =>
      remarkedTexts(k, k.method, check(k)).flatMap((t) => t.remarks.map((r) => r.kind));
    expect(kinds(says(other))).toContain('loop of the other hand');
    expect(kinds(says(at.loop!))).not.toContain('loop of the other hand');
  });

  it('a lesson may have a school of its own, and terms it explains itself', () => {
    const knot = written();
    const camp: KnotDocument = { ...knot, entry: { ...knot.entry, words: { school: 'camp', introduces: ['collar'] } } };
    const words = remarkedTexts(camp, camp.method, check(camp)).flatMap((t) => t.remarks.map((r) => r.words));
    expect(words).toEqual(['running end']);
    expect(check(camp).known.has('collar')).toBeTrue();
  });

  it('offers every own text in other words, and writes those that are taken', () => {
    const knot = written();
    const offers = rewordings(knot, check(knot, 'camp'));
    expect(offers.map((o) => [o.place, o.after])).toEqual([['step 1', 'Take the free end over the standing line.']]);
    const marine = rewordings(knot, check(knot, 'marine'));
    expect(marine.map((o) => o.place)).toEqual(['what it is for', 'caution 1', 'step 1', 'a callout of step 2']);
    const done = reworded(knot, marine);
    expect(done.entry.summary).toBe('For a loop at the running end.');
    expect(done.entry.cautions).toEqual(['Keep the tail long.']);
    expect(stepsOf(done.method)[0]!.telling.text).toBe('Take the running end over the standing part.');
    expect(stepsOf(done.method)[1]!.telling.callouts![0]!.text).toBe('The tail');
    expect(rewordings(done, check(knot, 'marine'))).toEqual([]);
    // With another way to tie it, the entry's texts are told once.
    const twice = { ...knot, others: [{ name: 'Another', method: knot.method }] };
    const places = remarkedKnot(twice, check(twice)).map((t) => t.place);
    expect(places.filter((p) => p === 'what it is for').length).toBe(1);
    expect(places.filter((p) => p === 'step 1').length).toBe(2);
    expect(reworded(knot, marine.slice(1)).entry.summary).toBe(knot.entry.summary);
    expect(done.method.figure).toBe(knot.method.figure);
  });
});

describe('The small figure of a word', () => {
  it('shows every crossing and all that is lit', () => {
    const knot = drawnKnot('bowline.json');
    const [rope] = knot.method.figure.ropes;
    const whole = { ...openKnot('bowline.json').method, leaders: [], halts: [] };
    for (const [from, to] of [
      [0, 1],
      [10, 14],
      [20, 29.5],
    ] as const) {
      const method = { ...whole, finish: [{ kind: 'check' as const, lit: [{ strand: rope!.id, from, to }] }] };
      const [l, t, r, b] = litBox(method);
      const curve = curveOf(method.figure.ropes[0]!);
      const inside = ([x, y]: readonly [number, number]): boolean => x > l && x < r && y > t && y < b;
      for (let at = from; at <= to; at += 0.1) expect(inside(pointAt(curve, at))).toBeTrue();
      for (const c of crossingsOf(method.figure)) expect(inside(c.point)).toBeTrue();
    }
  });
});
