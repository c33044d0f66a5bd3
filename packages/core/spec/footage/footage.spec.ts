import { createHash } from 'node:crypto';
import fc from 'fast-check';
import {
  changeMethod,
  crossingsOf,
  finishedFigure,
  finishedLayout,
  layoutsOf,
  leftHanded,
  placeOfCrossing,
  readKnot,
  writeKnot,
  type KnotDocument,
} from '../../src/index.js';
import {
  contentsName,
  filmType,
  FOOTAGE,
  judgeFootage,
  judgeFrame,
  readMarksText,
  sayFootage,
  sayFrame,
  sayNext,
  type Footage,
  type NumberedMark,
} from '../../src/footage.js';
import { demoKnot } from '../support/figures.js';
import { torusKnot } from '../support/ideal.js';

/** What a knot with every crossing marked is filmed as: `across` 1 as it is drawn, −1 in a mirror. */
function marksOf(knot: KnotDocument, across: 1 | -1 = 1): NumberedMark[] {
  return crossingsOf(finishedFigure(knot.method)).map((c) => ({
    crossing: c.number,
    over: c.over === c.first ? 'first' : 'second',
    point: [across * c.point[0], c.point[1]],
    first: [across * (c.point[0] + 1), c.point[1]],
    second: [across * c.point[0], c.point[1] - c.turn],
  }));
}
const otherwise = (): { becomes: string; named: boolean } => ({ becomes: 'Another', named: false });

describe('Footage', () => {
  const knot = demoKnot('reef.json');
  const figure = finishedFigure(knot.method);
  const judged = (marks: readonly NumberedMark[]): ReturnType<typeof judgeFootage> =>
    judgeFootage(figure, [{ at: 1, marks }], otherwise);

  it('is said in a sentence, with the mark that would decide', () => {
    const marks = marksOf(knot);
    expect(sayFootage(judged(marks), 'Reef knot')).toBe('It shows the reef knot, seen from the tying side.');
    const few = judged(marks.slice(0, 2));
    expect([few.state, sayNext(few)]).toEqual(['undecided', 'Mark one crossing more.']);
    const bare = marks.map(({ crossing, over }) => ({ crossing, over }));
    expect(sayNext(judged(bare))).toContain('which way both of its strands run on');
    expect(sayFrame(judgeFrame(figure, { at: 1, marks: bare }))).toContain('which of them is not told');
    const four = judged(marks.slice(0, 4));
    expect(four.next).toEqual({ kind: 'crossing', crossing: 5, becomes: 'Another' });
    expect(sayFootage(four, 'Reef knot')).toContain('crossings 5 and 6 are not marked');
  });

  it('of two frames tells more than of each; frames of two films do not agree', () => {
    const marks = marksOf(knot);
    const bare = marks.slice(3).map(({ crossing, over }) => ({ crossing, over }));
    const both = judgeFootage(
      figure,
      [
        { at: 1, marks: marks.slice(0, 3) },
        { at: 2, marks: bare },
      ],
      otherwise,
    );
    expect(both.state).toBe('agrees');
    const torn = judgeFootage(
      figure,
      [
        { at: 1, marks },
        { at: 2, marks: marksOf(knot, -1) },
      ],
      otherwise,
    );
    expect([torn.state, sayFootage(torn, 'Reef knot')]).toEqual([
      'differs',
      jasmine.stringContaining('not of one film'),
    ]);
  });

  it('marked with strands that run across each other otherwise at one crossing does not agree there', () => {
    const marks = marksOf(knot).map((m) => (m.crossing === 2 ? { ...m, first: m.second, second: m.first } : m));
    const found = judged(marks);
    expect([found.state, found.frames[0]?.runsOtherwise]).toEqual(['differs', [2]]);
  });

  it('is told whatever the size, place and turn of the frame', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 0.01, max: 50, noNaN: true }),
        fc.tuple(fc.integer({ min: -99, max: 99 }), fc.integer({ min: -99, max: 99 })),
        fc.constantFrom<1 | -1>(1, -1),
        (angle, size, [dx, dy], across) => {
          const move = ([x, y]: readonly [number, number]): [number, number] => [
            dx + size * (x * Math.cos(angle) - y * Math.sin(angle)),
            dy + size * (x * Math.sin(angle) + y * Math.cos(angle)),
          ];
          const marks = marksOf(knot, across).map(({ point, first, second, ...m }) => ({
            ...m,
            point: move(point!),
            first: move(first!),
            second: move(second!),
          }));
          expect(judged(marks).state).toBe(across === 1 ? 'agrees' : 'mirrored');
          const places = marks.map(({ first: _f, second: _s, ...m }) => m);
          expect(judged(places).view).toEqual({ side: 'tying side', mirrored: across === -1 });
        },
      ),
    );
  });

  it('of a figure with many crossings without a mark is open in all of them, and nothing is worked out', () => {
    let asked = 0;
    const board = torusKnot(2, 21);
    const found = judgeFootage(board, [{ at: 1, marks: [] }], () => ((asked += 1), 'same'));
    expect([found.state, found.open.length, asked]).toEqual(['undecided', 21, 0]);
  });

  it('is known by how it begins, or not at all', () => {
    const begins = (...bytes: readonly number[]): Uint8Array =>
      Uint8Array.from([...bytes, ...Array<number>(12).fill(0)]);
    expect(filmType(begins(0x1a, 0x45, 0xdf, 0xa3))).toBe('video/webm');
    expect(filmType(begins(0, 0, 0, 24, ...Buffer.from('ftypisom')))).toBe('video/mp4');
    for (const other of [begins(), begins(0x1a, 0x45), new Uint8Array(), begins(...Buffer.from('RIFF'))])
      expect(filmType(other)).toBeUndefined();
  });

  it('is named by its contents, however they are cut', () => {
    fc.assert(
      fc.property(fc.array(fc.uint8Array({ maxLength: 50 })), (parts) => {
        const own = contentsName();
        parts.forEach(own.take);
        expect(own.name()).toBe(createHash('sha256').update(Buffer.concat(parts)).digest('hex'));
      }),
    );
  });

  describe('kept with a knot', () => {
    const film: Footage = {
      film: 'a'.repeat(64),
      name: 'First take',
      duration: 12,
      frames: [
        {
          at: 3,
          marks: crossingsOf(figure).map((c) => ({ crossing: placeOfCrossing(c), over: 'first', point: [0.5, 0.5] })),
        },
      ],
    };
    const last = layoutsOf(knot.method).length - 1;
    const show = (footage: readonly Footage[]): ReturnType<typeof changeMethod> =>
      changeMethod(knot.method, last, { kind: 'show', shown: { footage } });
    const shown = show([film]);
    if (!shown.ok) throw new Error(shown.reason);
    const filmed: KnotDocument = { ...knot, method: shown.value };

    it('is read as it was written', () => {
      const read = readKnot(JSON.parse(JSON.stringify(writeKnot(filmed))));
      if (!read.ok) throw new Error(read.reason);
      expect(finishedLayout(read.value.method).footage).toEqual([film]);
    });
    it('follows the figure when it is moved, and loses what is gone with it', () => {
      const moved = changeMethod(filmed.method, last, { kind: 'remove-rope', rope: figure.ropes[1]!.id });
      if (!moved.ok) throw new Error(moved.reason);
      const left = finishedLayout(moved.value).footage?.[0]?.frames[0]?.marks ?? [];
      expect(left.length).toBeLessThan(film.frames[0]!.marks.length);
    });
    it('is played the other way round for the left hand', () => {
      expect(finishedLayout(leftHanded(filmed.method)).footage?.[0]?.turned).toBeTrue();
    });
    it('has limits', () => {
      expect(show(Array<Footage>(FOOTAGE.films + 1).fill(film)).ok).toBeFalse();
      expect(
        show([{ ...film, frames: Array(FOOTAGE.frames + 1).fill(film.frames[0]) as Footage['frames'] }]).ok,
      ).toBeFalse();
    });
  });

  it('in a marks file is refused with the place where it is wrong', () => {
    const file = (frames: unknown): string => JSON.stringify({ format: 'foxtrail-marks/1', frames });
    const mark = { crossing: 1, over: 'first' };
    expect(readMarksText(file([{ at: 1, marks: [mark] }]), 6).ok).toBeTrue();
    for (const [frames, place] of [
      [[], 'frames'],
      [[{ marks: [{ ...mark, over: 'above' }] }], 'frames[0].marks[0].over'],
      [[{ marks: [{ ...mark, crossing: 7 }] }], 'frames[0].marks[0].crossing'],
      [[{ marks: [mark, mark] }], 'frames[0].marks[1].crossing'],
      [[{ marks: [{ ...mark, point: [1] }] }], 'frames[0].marks[0].point'],
    ] as const) {
      const read = readMarksText(file(frames), 6);
      expect(read.ok ? '' : read.place)
        .withContext(JSON.stringify(frames))
        .toContain(place);
    }
  });
});
