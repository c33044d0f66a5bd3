import {
  changeMethod,
  composeStep,
  figureAtStep,
  findingsOf,
  mended,
  passesOf,
  stepsOf,
  stretchesOf,
  WORKSHOP_WORDS,
  type Method,
  type Move,
} from '../../src/index.js';
import { readTold, saidWrongly } from '../../src/tying/told-parts.js';
import { drawnFiles, openKnot } from '../support/figures.js';

const says = (method: Method, index: number, text: string): Method => {
  const done = changeMethod(method, 0, { kind: 'set-text', index, text });
  if (!done.ok) throw new Error(done.reason);
  return done.value;
};
const read = (method: Method, index: number, text: string): ReturnType<typeof saidWrongly> =>
  saidWrongly(says(method, index, text), index, WORKSHOP_WORDS);
const methods = drawnFiles.map((file) => ({ file, method: openKnot(file).method }));

const movesOf = (method: Method, index: number): readonly Move[] => composeStep(method, index, WORKSHOP_WORDS).moves;

describe('The reader', () => {
  it('finds nothing against what the composer says of any step', () => {
    for (const { file, method } of methods)
      stepsOf(method).forEach(({ index }) => {
        const { text } = composeStep(method, index, WORKSHOP_WORDS);
        expect(read(method, index, text))
          .withContext(`${file} ${index}: ${text}`)
          .toEqual([]);
      });
  });
  it('finds every single over that is said for an under, and the reverse, and knows what would be true', () => {
    let [turned, found] = [0, 0];
    for (const { file, method } of methods)
      stepsOf(method).forEach(({ index }) => {
        const { text, crossings } = composeStep(method, index, WORKSHOP_WORDS);
        const passes = [...text.matchAll(/\b(over|under)\b/g)];
        // With one passage in the step, its word can only be right one way.
        if (passes.length !== 1 || crossings.length !== 1) return;
        const word = passes[0]!;
        const wrong =
          text.slice(0, word.index) + (word[0] === 'over' ? 'under' : 'over') + text.slice(word.index + word[0].length);
        turned += 1;
        const contradictions = read(method, index, wrong);
        if (contradictions.length === 0) return;
        found += 1;
        expect(contradictions[0]!.instead).withContext(`${file} ${wrong}`).toBe(word[0]);
        expect(mended(wrong, contradictions[0]!)).toBe(text);
        expect(contradictions[0]!.crossings).toEqual(crossings);
      });
    expect(turned).toBeGreaterThan(2);
    expect(found).toBe(turned);
  });
  it('finds a part that is named for another one of the knot, and knows which it is', () => {
    let [exchanged, found] = [0, 0];
    for (const { file, method } of methods) {
      const texts = stepsOf(method).map(({ index }) => composeStep(method, index, WORKSHOP_WORDS).text);
      const parts = new Set(
        texts.flatMap((t) =>
          readTold(t).moves.flatMap((m) => (m.kind === 'passes' ? m.passes.map((p) => p.what) : [])),
        ),
      );
      texts.forEach((text, index) => {
        const told = readTold(text);
        const [first] = told.moves;
        const what = first?.kind === 'passes' ? first.passes[0]?.what : undefined;
        const ways = told.moves.flatMap((m) => (m.kind === 'passes' ? m.passes.map((p) => (p.over ? 'O' : 'U')) : []));
        // Said to the end, and no passage left out.
        const whole = told.stopped === undefined && ways.join('') === passesOf(movesOf(method, index));
        if (!whole || told.moves.length !== 1 || what === undefined || !text.includes(what)) return;
        for (const other of parts) {
          if (other === undefined || other === what || other.startsWith('both')) continue;
          const wrong = text.replace(what, other);
          exchanged += 1;
          const [c] = read(method, index, wrong);
          if (!c) continue;
          found += 1;
          expect(c.words).withContext(`${file} ${wrong}`).toBe(other);
          expect(mended(wrong, c)).toBe(text);
        }
      });
    }
    expect(exchanged).toBeGreaterThan(8);
    expect(found).toBe(exchanged);
  });
  it('says nothing of a part by a word that is no part of the knot, or of a text that it does not understand to its end', () => {
    const { method } = openKnot('overhand.json');
    for (const text of [
      'Take the working end over the lead to make an overhand loop.',
      'Take the working end over the loop, as the picture has it.',
    ])
      expect(read(method, 0, text)).toEqual([]);
  });
  const overhand = openKnot('overhand.json').method;
  it('lets a text leave things out, and says nothing of words it does not know', () => {
    for (const text of ['', 'Tie it.', 'Go on as shown, with care.', 'Die Arbeit lobt den Meister.'])
      stepsOf(overhand).forEach(({ index }) => expect(read(overhand, index, text)).toEqual([]));
  });
  it('quotes the words and gives their place', () => {
    const index = stepsOf(overhand).find(
      (s) => composeStep(overhand, s.index, WORKSHOP_WORDS).crossings.length === 1,
    )!.index;
    const over = composeStep(overhand, index, WORKSHOP_WORDS).text.includes('over ');
    const text = `Now lead it ${over ? 'under' : 'over'} the rest.`;
    const [c] = read(overhand, index, text);
    expect(text.slice(c!.from, c!.to)).toBe(c!.words);
    expect(c!.shows).toContain(over ? 'over at' : 'under at');
    const finding = findingsOf(says(overhand, index, text), {
      tail: { diameters: 0, millimetres: 0 },
      cordMm: 10,
      words: WORKSHOP_WORDS,
    }).find((f) => f.code === 'text-contradicts')!;
    expect(finding.step).toBe(index);
    expect(finding.fix).toBeDefined();
    const mendedMethod = changeMethod(says(overhand, index, text), finding.fix!.layout, finding.fix!.edit);
    expect(mendedMethod.ok && saidWrongly(mendedMethod.value, index, WORKSHOP_WORDS)).toEqual([]);
  });
  it('reads sides and the way round', () => {
    const last = stretchesOf(overhand).length - 1;
    const step = stretchesOf(overhand)[last]!;
    const points = figureAtStep(overhand, last).ropes[0]!.points;
    const before = figureAtStep(overhand, last - 1).ropes[0]!.points.at(-1)!;
    const dx = points.at(-1)![0] - before[0];
    expect(step.to).toBeGreaterThan(step.from);
    if (Math.abs(dx) > 2) {
      expect(read(overhand, last, `Lead it away to the ${dx > 0 ? 'left' : 'right'}.`)[0]!.instead).toBe(
        `to the ${dx > 0 ? 'right' : 'left'}`,
      );
      expect(read(overhand, last, `Lead it away to the ${dx > 0 ? 'right' : 'left'}.`)).toEqual([]);
    }
    const ways = stepsOf(overhand).map(({ index }) => [
      read(overhand, index, 'Turn it clockwise.').length,
      read(overhand, index, 'Turn it anticlockwise.').length,
    ]);
    expect(ways.some(([a, b]) => (a ?? 0) + (b ?? 0) === 1)).toBeTrue();
    expect(ways.every(([a, b]) => (a ?? 0) + (b ?? 0) <= 1)).toBeTrue();
  });
});
