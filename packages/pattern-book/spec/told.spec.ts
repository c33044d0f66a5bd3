import {
  backView,
  composeStep,
  contradictionsOf,
  crossingsOf,
  checkLesson,
  cutMoves,
  changeMethod,
  methodFor,
  mirror,
  stepsOf,
  TAKEN_AS_KNOWN,
  TermIndex,
  vocabularyOf,
  WORKSHOP_PRACTICE,
  WORKSHOP_WORDS,
  type Figure,
  type Method,
  type Step,
} from '@foxtrail/core';
import { readTold, saidWrongly } from '@foxtrail/core/told';
import { toldTurnsKnot } from '../src/told-turns.js';
import { begunFrom, findingsIn, GLOSSARY, patterns, proofOf, sayTold, toldKnot } from '../src/index.js';

const laid = (method: Method): Step[] => stepsOf(method).filter((s) => s.stretch);
const textsOf = (id: string, words = WORKSHOP_WORDS): string[] => {
  const { method } = patterns().find((p) => p.id === id)!.knot;
  return laid(method).map((s) => composeStep(method, s.index, words).text);
};

describe('The book, told', () => {
  it('has at most one step in ten written by hand', () => {
    const steps = patterns().flatMap(({ id, knot }) => laid(knot.method).map((step) => ({ id, step })));
    const byHand = steps.filter(({ step }) => step.telling.text !== undefined);
    console.log(
      `${byHand.length} of ${steps.length} steps are written by hand:\n${byHand
        .map(({ id, step }) => `  ${id} ${step.index + 1}: ${step.telling.text ?? ''}`)
        .join('\n')}`,
    );
    expect(byHand.length).toBeLessThanOrEqual(steps.length / 10);
  });
  it('ends every step where a move ends', () => {
    for (const { id, knot } of patterns())
      if (!laid(knot.method).some((s) => s.telling.text)) expect(cutMoves(knot.method)).withContext(id).toEqual([]);
  });
  it('is true of its figures, as the reader reads it', () => {
    for (const { id, knot } of patterns())
      for (const { index } of laid(knot.method)) {
        const { text } = composeStep(knot.method, index, WORKSHOP_WORDS);
        const said = changeMethod(knot.method, 0, { kind: 'set-text', index, text });
        if (!said.ok) throw new Error(said.reason);
        expect(saidWrongly(said.value, index, WORKSHOP_WORDS))
          .withContext(`${id}: ${text}`)
          .toEqual([]);
      }
  });
  it('is taken apart into just what it passes, nine steps of ten at least', () => {
    const steps = patterns().flatMap(({ id, knot }) =>
      laid(knot.method).map(({ index }) => {
        const { text, moves } = composeStep(knot.method, index, WORKSHOP_WORDS);
        const told = readTold(text);
        // A strand that is followed passes what it passes: no passage is told by itself.
        const ways = told.moves.map((m) =>
          m.kind === 'passes' ? m.passes.map((p) => (p.over ? 'O' : 'U')).join('') : m.kind === 'follow' ? '~' : '',
        );
        const shown = moves.map((m) => (m.kind === 'follow' ? '~' : m.ways));
        return { id, index, text, whole: told.stopped === undefined && ways.join('') === shown.join('') };
      }),
    );
    const others = steps.filter((s) => !s.whole);
    console.log(
      `${others.length} of ${steps.length} composed steps are not taken apart wholly:\n${others
        .map((s) => `  ${s.id} ${s.index + 1}: ${s.text}`)
        .join('\n')}`,
    );
    expect(others.length).toBeLessThanOrEqual(steps.length / 10);
  });
  it('is told as the trade tells it', () => {
    const says = (id: string, ...expected: readonly RegExp[]): void => {
      const texts = textsOf(id);
      expect(texts.length).withContext(texts.join(' | ')).toBe(expected.length);
      texts.forEach((text, i) => expect(text).withContext(id).toMatch(expected[i]!));
    };
    says(
      'bowline',
      /overhand loop/,
      /up through the loop/,
      /round behind the standing part/,
      /back down through the loop/,
    );
    says(
      'double-nip-bowline',
      /overhand loop/,
      /beneath the loop, then over its own part/,
      /up through both loops/,
      /round behind the standing part/,
      /back down through both loops/,
    );
    says(
      'interlocked-overhands',
      /pale rope .*overhand loop/,
      /dark rope up through the loop of the pale rope, .*overhand loop/,
      /pale rope up through both loops/,
      /dark rope up through both loops/,
    );
    // A mid-rope loop is tied without an end; what is left over is held, and no tail.
    says(
      'directional-eight',
      /^Take a bight over the standing part to make an overhand loop/,
      /^Take the bight round behind the standing part/,
      /down through the loop/,
      /^Lead the other standing part away/,
    );
    says(
      'many-wrap-hitch',
      /taut/,
      /four times round the pale rope, first over it, working to the right/,
      /^Make a half hitch round its own standing part/,
      /^Make another half hitch round its own standing part, the same way round/,
    );
    // Twine lies along the rope before it goes round it: both legs are bound with the rope, and go unsaid.
    says(
      'common-whipping',
      /taut/,
      /^Double the dark rope back along the pale rope to make a bight\.$/,
      /^Take the working end of the dark rope five times round the pale rope, first under it\.$/,
      /./,
    );
    says(
      'flat-seizing',
      /^Double the pale rope back to make a bight\.$/,
      /^Double the dark rope back along the pale rope to make a bight\.$/,
      /^Take the working end of the dark rope four times round both legs of the bight, first under them\.$/,
      /./,
    );
    // What it passes behind the spar, in front of which the standing part lies, is not told.
    says(
      'rolling-hitch',
      /over the spar and round behind it/,
      /^Take the working end over the spar, over the turn just made, and behind the spar\.$/,
      /^Take the working end over the standing part, then over the spar again and round behind it/,
      /over the spar, and tuck it under the turn just made/,
    );
    says(
      'prusik',
      /^Hold the pale rope taut\.$/,
      /three times round the pale rope.*Draw the rest of the sling through/,
    );
    says(
      'anchor-hitch',
      /round turn/,
      /over the standing part and round behind it/,
      /up through the loop/,
      /a half hitch round the standing part, the same way round/,
    );
    says(
      'bowline-backed',
      /overhand loop/,
      /up through the loop/,
      /round behind the standing part/,
      /back down through the loop/,
      /under the leg of the eye, and tie an overhand of two turns round it: twice round both parts, and out through its own turns\.$/,
    );
    says(
      'bowline-led-back',
      /overhand loop/,
      /up through the loop/,
      /round behind the standing part/,
      /back down through the loop/,
      /behind the leg of the eye and back over it/,
      /back up through the loop/,
    );
    says(
      'double-fishermans',
      /^Lay the dark rope out/,
      /pale rope under the dark rope, and tie an overhand of two turns round it: twice round both ropes/,
      /dark rope under the standing part of the pale rope, and tie an overhand of two turns round it/,
    );
    says(
      'triple-sheet-bend',
      /make a bight/,
      /up through the bight/,
      ...[1, 2, 3].flatMap(() => [/round behind both legs/, /across the bight but under its own standing part/]),
    );
    // Both its ends lead: the end first, then what was the standing part.
    says(
      'killick-hitch',
      /^Take the working end over the spar and round behind it/,
      /over the standing part and round behind it/,
      /three times round its own part/,
      /^Make a half hitch round the spar/,
    );
    says('figure-eight', /overhand loop/, /round behind the standing part/, /down through the loop/);
    says('triple-overhand', /overhand loop/, /three times up through the loop, each turn beside the last/);
    says(
      'noose-3',
      /loop/,
      /^Tie an overhand of three turns round the standing part .*three times round both legs of the loop, and out through/,
    );
    says('reef', /make a bight/, /up through the bight/, /round behind both legs/, /back down through the bight/);
    says(
      'sheet-bend',
      /make a bight/,
      /up through the bight/,
      /round behind both legs/,
      /across the bight but under its own standing part/,
    );
    says(
      'clove-hitch',
      /over the spar and round behind/,
      /over the standing part, then over the spar again/,
      /tuck it under the turn just made/,
    );
    says(
      'round-turn-two-half-hitches',
      /round turn on the spar/,
      /a half hitch round the standing part/,
      /another half hitch .*the same way/,
    );
    says('reversed-half-hitches', /over the spar/, /a half hitch/, /another half hitch .*the other way/);
    says(
      'taut-line-hitch',
      /over the spar/,
      /twice round the standing part inside the loop/,
      /half hitch .*outside the loop, the same way/,
    );
    says(
      'reversed-taut-line',
      /over the spar/,
      /twice round the standing part inside the loop/,
      /half hitch .*outside the loop, the other way/,
    );
    // A sling has no end: a bight of it goes round, and the rest through that.
    says(
      'prusik',
      /pale rope/,
      /^Take a bight of the dark rope three times round .*rest of the sling through the bight/,
    );
    says(
      'prusik-4',
      /pale rope/,
      /^Take a bight of the dark rope four times round .*rest of the sling through the bight/,
    );
    says(
      'sling-hitch',
      /^Take a bight over the spar, round behind it, and draw the rest of the sling through the bight/,
    );
    says('half-hitch', /^Make a half hitch round the spar: over it, round behind it, and out over its own part/);
    says(
      'clove-hitch-backed',
      /over the spar and round behind/,
      /over the standing part, then over the spar again/,
      /Make a half hitch round the standing part/,
    );
    says(
      'becket-hitch',
      /^Hold the eye of the pale rope open\.$/,
      /up through the eye/,
      /round behind both legs of the eye/,
      /across the eye but under its own standing part/,
    );
    says(
      'slipped-bowline',
      /overhand loop/,
      /up through the loop/,
      /round behind the standing part/,
      /^Bring a bight back down through the loop\.$/,
    );
    says('overhand-loop', /a bight over the standing part to make an overhand loop/, /the bight up through the loop/);
    says(
      'bowline-on-the-bight',
      /a bight over the standing part to make an overhand loop/,
      /the bight up through the loop/,
    );
    says('timber-hitch', /over the spar/, /over the standing part and round behind/, /three times round its own part/);
    says(
      'eight-on-the-bight',
      /a bight over the standing part/,
      /the bight round behind/,
      /the bight down through the loop/,
    );
    says(
      'followed-eight',
      /loop/,
      /round behind/,
      /down through/,
      /held, and leave an eye/,
      /Follow the first strand back/,
    );
  });
  it('says of a step that does what its leader has done before that it does so again, and of no other', () => {
    const again = (id: string): number[] =>
      textsOf(id).flatMap((text, i) => (/ again(?:, and out [a-z ]+)?\.$/.test(text) ? [i + 1] : []));
    expect(again('double-sheet-bend')).toEqual([5, 6]);
    expect(again('triple-sheet-bend')).toEqual([5, 6, 7, 8]);
    expect(again('granny')).toEqual([4]);
    expect(again('bowline-two-loops')).toEqual([3]);
    for (const id of ['reef', 'bowline', 'clove-hitch', 'two-half-hitches', 'interlocked-overhands', 'killick-hitch'])
      expect(again(id)).withContext(id).toEqual([]);
    expect(readTold(textsOf('granny')[3]!).stopped).toBeUndefined();
  });
  it('goes through both loops at once from whichever side it is looked at, and of either hand', () => {
    const through = (figure: Figure): string[] => {
      const halted = changeMethod(methodFor(figure), 0, { kind: 'propose-halts' });
      if (!halted.ok) throw new Error(halted.reason);
      return laid(halted.value).flatMap((s) =>
        composeStep(halted.value, s.index, WORKSHOP_WORDS).moves.flatMap((m) =>
          m.kind === 'through' && m.deep === 2 ? [m.way] : [],
        ),
      );
    };
    const { figure } = patterns().find((p) => p.id === 'double-nip-bowline')!.knot.method;
    expect(through(figure)).toEqual(['up', 'down']);
    expect(through(mirror(figure))).toEqual(['up', 'down']);
    expect(through(backView(figure))).toEqual(['down', 'up']);
    // Of one loop there are no two, however often it is gone through.
    for (const id of ['bowline', 'triple-overhand', 'followed-eight', 'double-fishermans', 'carrick-bend'])
      expect(through(patterns().find((p) => p.id === id)!.knot.method.figure))
        .withContext(id)
        .toEqual([]);
  });
  it('says how each kind of knot is dressed and drawn tight', () => {
    const finish = (id: string): string => {
      const { method } = begunFrom(patterns().find((p) => p.id === id)!);
      return stepsOf(method)
        .filter((s) => !s.stretch)
        .map((s) => composeStep(method, s.index, WORKSHOP_WORDS).text)
        .join(' ');
    };
    expect(finish('followed-eight')).toMatch(/doubled strands side by side.*hold the eye/);
    expect(finish('prusik')).toMatch(/turns close beside each other, none upon another.*by hand before any load/);
    // The riding turn of a rolling hitch lies upon another: none may be told not to.
    expect(finish('rolling-hitch')).not.toContain('none upon another');
    expect(finish('two-half-hitches')).toMatch(/half hitches close together.*then load the standing part/);
    expect(finish('bowline')).toMatch(/collar snug round the standing part/);
    expect(finish('noose')).toMatch(/see that the loop runs/);
    expect(finish('butterfly')).toMatch(/both standing parts and the eye/);
  });
  it('speaks the words of each school', () => {
    for (const { id } of GLOSSARY.schools) {
      const words = vocabularyOf(GLOSSARY, { school: id, own: {} });
      const texts = textsOf('bowline', words).join(' ');
      expect(texts).toContain(words.workingEnd);
      expect(texts).toContain(words.standingPart);
      expect(textsOf('round-turn-two-half-hitches', words)[0]).toContain(words.roundTurn);
    }
  });
});

describe('What is composed', () => {
  const index = new TermIndex(GLOSSARY);
  const known = new Set([...TAKEN_AS_KNOWN, ...GLOSSARY.concepts.map((c) => c.id)]);
  for (const { id, name } of GLOSSARY.schools)
    it(`has no word of another school, none that is discouraged and none of two meanings: ${name}`, () => {
      const choice = { school: id, own: {} };
      const words = vocabularyOf(GLOSSARY, choice);
      for (const { id: pattern, knot } of patterns()) {
        const steps = stepsOf(knot.method).map(({ index: n }) => {
          const { text, moves } = composeStep(knot.method, n, words);
          const loop = moves.find((m) => m.kind === 'loop');
          return { place: `step ${n + 1}`, text, loop: loop?.hand };
        });
        for (const remarks of checkLesson(steps, { glossary: GLOSSARY, index, choice, known }))
          expect(remarks.map((r) => `${r.kind}: ${r.words}. ${r.says}`))
            .withContext(`${pattern}: ${steps.map((s) => s.text).join(' ')}`)
            .toEqual([]);
      }
    });
});

describe('A text that contradicts its picture', () => {
  it('is none of the book', () => {
    for (const { id, knot } of patterns())
      for (const { index } of stepsOf(knot.method))
        expect(contradictionsOf(knot.method, index, WORKSHOP_WORDS))
          .withContext(`${id}, step ${index + 1}`)
          .toEqual([]);
  });
  it('names the part that the picture shows: another one of the knot is found, with what would be true', () => {
    const { knot } = patterns().find((p) => p.id === 'two-half-hitches')!;
    const text = 'Take the working end over the standing part and round behind it, and out at the bottom.';
    const said = changeMethod(knot.method, 0, { kind: 'set-text', index: 0, text });
    if (!said.ok) throw new Error(said.reason);
    const proof = proofOf({ ...knot, method: said.value }, { practice: WORKSHOP_PRACTICE, words: WORKSHOP_WORDS });
    const found = findingsIn(proof).filter((f) => f.code === 'text-contradicts');
    expect(found.length).toBe(saidWrongly(said.value, 0, WORKSHOP_WORDS).length);
    expect(found[0]?.remedy).toContain('the spar');
    expect(found[0]?.fix).toBeDefined();
  });
  const bowline = patterns().find((p) => p.id === 'bowline')!.knot;
  it('is shown with the knot that it leads to: the loop of a bowline laid the other way is the false one', () => {
    const said = changeMethod(bowline.method, 0, {
      kind: 'set-text',
      index: 0,
      text: 'Take the working end under the standing part.',
    });
    if (!said.ok) throw new Error(said.reason);
    const knot = { ...bowline, method: said.value };
    const found = findingsIn(proofOf(knot, { practice: WORKSHOP_PRACTICE, words: WORKSHOP_WORDS })).find(
      (f) => f.code === 'text-contradicts',
    );
    expect(found?.why).toContain('Tied as it is told, it would be the false bowline.');
  });
  it('leads to the knot of as many turns as it tells', () => {
    const leads = (id: string, text: string): string => {
      const { knot } = patterns().find((p) => p.id === id)!;
      const said = changeMethod(knot.method, 0, { kind: 'set-text', index: 1, text });
      if (!said.ok) throw new Error(said.reason);
      const told = contradictionsOf(said.value, 1, WORKSHOP_WORDS).find((c) => c.toldTurns)?.toldTurns;
      const found = told && toldTurnsKnot(knot.method.figure, told);
      return found ? sayTold(found) : '';
    };
    const through = (times: string): string => `Take the working end ${times} up through the loop.`;
    expect(leads('double-overhand', through('three times'))).toContain('it would be the triple overhand');
    expect(leads('triple-overhand', through('twice round the loop, then'))).toContain(
      'it would be the double overhand',
    );
    expect(leads('triple-overhand', through('three times'))).toBe('');
  });
  it('leads to what the figure is with those crossings the other way, whatever that is', () => {
    const outcomes = patterns().flatMap(({ knot }) => {
      const { figure } = knot.method;
      return crossingsOf(figure)
        .slice(0, 3)
        .flatMap(({ number }) => {
          const led = toldKnot(figure, [number]);
          return led ? [sayTold(led)] : [];
        });
    });
    expect(outcomes.length).toBeGreaterThan(50);
    for (const said of outcomes) expect(said).toMatch(/^Tied as it is told, it would .+\.$/);
    expect(new Set(outcomes).size).toBeGreaterThan(4);
  });
});
