import fc from 'fast-check';
import {
  changeMethod,
  composeStep,
  crossingsOf,
  cutMoves,
  extentsAt,
  laidPassages,
  methodFor,
  mirror,
  movesIn,
  passagesInStep,
  passesOf,
  stepsOf,
  stretchesOf,
  WORKSHOP_WORDS,
  type Figure,
  type Layout,
  type Method,
  type Move,
} from '../../src/index.js';
import { saidWrongly } from '../../src/tying/told-parts.js';
import { anyFigure, drawnFiles, drawnKnot, edited, oneRope } from '../support/figures.js';

/** The figure told move by move: every end by the halts that are proposed for it. */
const told = (figure: Figure): Method => edited(methodFor(figure), { kind: 'propose-halts' });
const movesOf = (method: Layout): Move[] => stretchesOf(method).flatMap((s) => movesIn(method, s));
const kinds = (figure: Figure): string =>
  movesOf(told(figure))
    .map((m) => m.kind)
    .join(' ');
const texts = (figure: Figure): string[] => {
  const method = told(figure);
  return stepsOf(method).map((s) => composeStep(method, s.index, WORKSHOP_WORDS).text);
};
const drawn = (file: string): Figure => drawnKnot(`${file}.json`).method.figure;
/** Seen from behind: what is over is under, and left is right. */
const fromBehind = (figure: Figure): Figure =>
  crossingsOf(mirror(figure)).reduce(
    (method, c) => edited(method, { kind: 'swap', where: c.over }),
    methodFor(mirror(figure)),
  ).figure;

describe('Moves', () => {
  const KNOWN: Record<string, string> = {
    overhand: 'loop through',
    'figure-eight': 'loop round through',
    bowline: 'loop through round through',
    reef: 'bight through legs through',
    'sheet-bend': 'bight through legs trap',
    'clove-hitch': 'turns pass turns pass pass',
    'taut-line-hitch': 'turns turns hitch',
  };
  for (const [file, expected] of Object.entries(KNOWN))
    it(`are those a teacher names: ${file}`, () => {
      expect(kinds(drawn(file))).toBe(expected);
    });
  it('are the same in the mirror, and from behind', () => {
    for (const file of Object.keys(KNOWN)) {
      const figure = drawn(file);
      expect(kinds(mirror(figure)))
        .withContext(`${file}, mirrored`)
        .toBe(KNOWN[file] ?? '');
      expect(kinds(fromBehind(figure)))
        .withContext(`${file}, from behind`)
        .toBe(KNOWN[file] ?? '');
    }
  });
  it('go up through a loop from the front and down through it from behind', () => {
    const ways = (f: Figure): string[] => movesOf(told(f)).flatMap((m) => (m.kind === 'through' ? [m.way] : []));
    const figure = drawn('bowline');
    expect(ways(figure)).toEqual(['up', 'down']);
    expect(ways(mirror(figure))).toEqual(['up', 'down']);
    expect(ways(fromBehind(figure))).toEqual(['down', 'up']);
  });
  it('pass what the leader passes, each crossing once, in the order of the trail, wherever halts stand', () => {
    fc.assert(
      fc.property(
        anyFigure,
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 4 }),
        (figure, places) => {
          let method = methodFor(figure);
          method.leaders.forEach((l, leader) => {
            const length = figure.ropes.find((r) => r.id === l.rope)!.points.length - 1;
            for (const at of [...places.map((p) => p * length), Infinity]) {
              const done = changeMethod(method, 0, { kind: 'place-halt', leader, at });
              if (done.ok) method = done.value;
            }
          });
          for (const step of stretchesOf(method)) {
            const leader = method.leaders[step.leader]!;
            const passed = laidPassages(method.figure, extentsAt(method, step.index, step.to), step.rope).filter(
              (p) =>
                p.at > step.from &&
                p.at <= step.to &&
                (p.other.strand !== step.rope ||
                  p.other.at < p.at ||
                  (leader.kind === 'bight' && p.other.at > leader.to)),
            );
            const moves = movesIn(method, step);
            expect(moves.flatMap((m) => [...m.crossings])).toEqual(passed.map((p) => p.crossing.number));
            expect(passesOf(moves)).toBe(passed.map((p) => (p.over ? 'O' : 'U')).join(''));
          }
        },
      ),
      { numRuns: 60 },
    );
  });
  it('are told in words that the reader, who goes by the picture, finds true', () => {
    const check = (method: Method, name: string): void =>
      stepsOf(method).forEach((step) => {
        if (!step.stretch) return;
        const { text } = composeStep(method, step.index, WORKSHOP_WORDS);
        const said = edited(method, { kind: 'set-text', index: step.index, text });
        expect(saidWrongly(said, step.index, WORKSHOP_WORDS))
          .withContext(`${name}: ${text}`)
          .toEqual([]);
      });
    for (const file of drawnFiles) check(told(drawnKnot(file).method.figure), file);
    fc.assert(
      fc.property(oneRope, (figure) => check(told(figure), 'a random knot')),
      { numRuns: 40 },
    );
  });
  it('are half hitches only where the rope cannot fall off what it goes round', () => {
    const figure = drawn('taut-line-hitch');
    expect(movesOf(told(figure)).filter((m) => m.kind === 'hitch').length).toBe(1);
    // The last crossing swapped, nothing keeps the end from coming away.
    const last = crossingsOf(figure).reduce((a, b) =>
      Math.max(b.second.at, b.first.at) > Math.max(a.second.at, a.first.at) ? b : a,
    );
    const loose = edited(methodFor(figure), { kind: 'swap', where: last.over }).figure;
    expect(movesOf(told(loose)).some((m) => m.kind === 'hitch')).toBeFalse();
  });
  it('that a halt cuts in two are told plainly, and mended with one edit', () => {
    const whole = told(drawn('bowline'));
    const through = stretchesOf(whole)[1]!;
    const middle = passagesInStep(whole, through)[0]!.at;
    const cut = edited(whole, { kind: 'move-halt', index: 1, at: middle + 0.2 });
    expect(cutMoves(whole)).toEqual([]);
    expect(cutMoves(cut).map((c) => [c.index, c.move.kind])).toContain([1, 'through']);
    expect(composeStep(cut, 1, WORKSHOP_WORDS).text).not.toContain('through');
    const mended = edited(cut, { kind: 'whole-move', index: 1 });
    expect(composeStep(mended, 1, WORKSHOP_WORDS).text).toContain('up through the loop');
    expect(stretchesOf(mended).length).toBe(stretchesOf(whole).length);
  });
  it('proposed for an end leave the steps of another as they are, and nothing where all is told', () => {
    const reef = told(drawn('reef'));
    const without = { ...reef, halts: reef.halts.filter((h) => h.leader === 0) };
    const again = edited(without, { kind: 'propose-halts' });
    expect(again.halts).toEqual(reef.halts);
    expect(changeMethod(reef, 0, { kind: 'propose-halts' }).ok).toBeFalse();
  });
});

describe('A teacher’s sentences', () => {
  it('say where the end goes round, and back through', () => {
    expect(texts(drawn('bowline')).slice(0, 2).join(' ')).toMatch(
      /to make an overhand loop\. Take the working end up through the loop\b/,
    );
    expect(texts(drawn('bowline'))[2]).toMatch(
      /^Take the working end round behind the standing part, from \w+ to \w+\b/,
    );
    expect(texts(drawn('bowline'))[3]).toMatch(/^Bring the working end back down through the loop\b/);
  });
  it('never chain then upon then, and end once', () => {
    for (const file of drawnFiles)
      for (const text of texts(drawnKnot(file).method.figure)) {
        for (const sentence of text.split(/(?<=\.) /))
          expect(sentence.match(/\bthen\b/gi)?.length ?? 0)
            .withContext(text)
            .toBeLessThan(2);
        expect(text).toMatch(/^[A-Z].*[^.]\.$/);
      }
  });
});
