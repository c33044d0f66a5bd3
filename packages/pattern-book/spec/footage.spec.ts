import { readFileSync } from 'node:fs';
import {
  crossingsOf,
  curveOf,
  finishedFigure,
  finishedLayout,
  flipped,
  backView,
  mirror,
  mistakeOf,
  pointAt,
  readKnotText,
  hostOf,
  ropeOf,
  type Crossing,
  type Figure,
  type Point,
  type TrailPosition,
} from '@foxtrail/core';
import {
  contentsName,
  footageTrouble,
  judgeFootage,
  type FilmView,
  type FootageVerdict,
  type NumberedMark,
} from '@foxtrail/core/footage';
import { patternKeys, patterns } from '../src/index.js';
import { otherwiseOf, verdictOnFilm } from '../src/footage.js';

const VIEWS: readonly FilmView[] = (['tying side', 'behind'] as const).flatMap((side) =>
  [false, true].map((mirrored) => ({ side, mirrored })),
);

/** A frame as a camera sees a drawing from a little aside, turned by a quarter. */
const camera = ([x, y]: Point): Point => {
  const depth = 1 + 0.004 * x - 0.003 * y;
  return [0.5 - (0.01 * (y + 0.2 * x)) / depth, 0.5 + (0.01 * (x - 0.1 * y)) / depth];
};

/** The figure that a camera has before it, drawn as it is seen: from behind, or in a mirror. */
function seen(figure: Figure, { side, mirrored }: FilmView): Figure {
  const turned = side === 'behind' ? backView(figure) : figure;
  return mirrored ? mirror(turned) : turned;
}

const along = (figure: Figure, { strand, at }: TrailPosition): Point =>
  pointAt(curveOf((ropeOf(figure, strand) ?? hostOf(figure, strand))!), at + 0.02);

/** What an author marks of crossings that are seen: read off the picture alone. */
function marked(picture: Figure, numbers: readonly number[], directions: boolean): NumberedMark[] {
  return numbers.map((crossing): NumberedMark => {
    const c = crossingsOf(picture)[crossing - 1] as Crossing;
    return {
      crossing,
      over: c.over === c.first ? 'first' : 'second',
      point: camera(c.point),
      ...(directions ? { first: camera(along(picture, c.first)), second: camera(along(picture, c.second)) } : {}),
    };
  });
}

const judged = (figure: Figure, marks: readonly NumberedMark[], turned = false): FootageVerdict =>
  judgeFootage(figure, [{ at: 1, marks }], otherwiseOf(figure), turned);

const numbersOf = (figure: Figure): number[] => crossingsOf(figure).map((c) => c.number);

/** So many of a list, spread over it, beginning anywhere. */
const some = (list: readonly number[], count: number, from: number): number[] =>
  list.length <= count
    ? [...list]
    : Array.from({ length: count }, (_, i) => list[(from + Math.floor((i * list.length) / count)) % list.length]!);

describe('Footage of the patterns of the book', () => {
  const figures = patterns().map((p) => ({ id: p.id, figure: finishedFigure(p.knot.method) }));

  it('with every crossing marked is told right: the side, and whether it is mirrored', () => {
    for (const { id, figure } of figures)
      for (const view of VIEWS) {
        const found = judged(figure, marked(seen(figure, view), numbersOf(figure), true));
        const wanted = numbersOf(figure).length < 3 ? found.state : view.mirrored ? 'mirrored' : 'agrees';
        expect(found.state)
          .withContext(`${id}, ${JSON.stringify(view)}`)
          .toBe(wanted);
        expect(found.view).withContext(id).toEqual(view);
      }
  });

  it('played mirrored, a mirrored film is right, and a right one is mirrored', () => {
    for (const { id, figure } of figures.filter((f) => numbersOf(f.figure).length >= 3)) {
      const film = (mirrored: boolean): NumberedMark[] =>
        marked(seen(figure, { side: 'tying side', mirrored }), numbersOf(figure), true);
      expect(judged(figure, film(true), true).state)
        .withContext(id)
        .toBe('agrees');
      expect(judged(figure, film(false), true).state)
        .withContext(id)
        .toBe('mirrored');
    }
  });

  it('with one wrong crossing, all marked, is found not to agree, and the crossing is named', () => {
    for (const { id, figure } of figures)
      for (const wrong of numbersOf(figure))
        for (const view of VIEWS) {
          const picture = seen(flipped(figure, [wrong]), view);
          const found = judged(figure, marked(picture, numbersOf(figure), true));
          if (numbersOf(figure).length < 3) continue;
          expect(found.state)
            .withContext(`${id}, ${wrong}, ${JSON.stringify(view)}`)
            .toBe('differs');
          expect(found.frames[0]?.wrong)
            .withContext(`${id}, ${wrong}, ${JSON.stringify(view)}`)
            .toEqual([[wrong]]);
        }
  });

  it('from three or four marks is never said to agree when it shows another knot or the mirror image', () => {
    for (const { id, figure } of figures) {
      const numbers = numbersOf(figure);
      for (const [i, wrong] of [undefined, ...numbers].entries()) {
        const filmed = wrong === undefined ? figure : flipped(figure, [wrong]);
        const made = wrong === undefined ? undefined : mistakeOf(figure, [wrong], patternKeys());
        const same = wrong === undefined || (made?.ok === true && made.value.outcome === 'same');
        for (const view of VIEWS)
          for (const count of [3, 4])
            for (const directions of [true, false]) {
              const marks = some(numbers, count, i);
              const { state, ...rest } = judged(figure, marked(seen(filmed, view), marks, directions));
              const told = `${id}, wrong ${wrong ?? 'none'}, ${JSON.stringify(view)}, ${marks.join(' ')}: ${JSON.stringify(rest)}`;
              if (!same || view.mirrored) expect(state).withContext(told).not.toBe('agrees');
              if (!view.mirrored && !(wrong !== undefined && marks.includes(wrong)))
                expect(state).withContext(told).not.toBe('mirrored');
              if (wrong === undefined) expect(state).withContext(told).not.toBe('differs');
              if (wrong !== undefined && marks.includes(wrong) && marks.length >= 3)
                expect(state).withContext(told).toBe('differs');
            }
      }
    }
  });

  it('is decided by the marks that are asked for, one after the other', () => {
    for (const { id, figure } of figures.filter((f) => numbersOf(f.figure).length >= 3)) {
      const picture = seen(figure, { side: 'behind', mirrored: false });
      const own = new Set(some(numbersOf(figure), 3, 0));
      let found = judged(figure, marked(picture, [...own], true));
      while (found.next?.kind === 'crossing' && own.size <= numbersOf(figure).length) {
        own.add(found.next.crossing);
        found = judged(figure, marked(picture, [...own], true));
      }
      expect(found.state).withContext(id).toBe('agrees');
    }
  });
});

describe('The film of the demo', () => {
  it('shows its knot from the tying side, by every crossing, and its steps and captions lie in it', () => {
    const read = readKnotText(readFileSync(new URL('../../../demo/figure-eight.json', import.meta.url), 'utf8'));
    if (!read.ok) throw new Error(read.reason);
    const { figure, footage = [] } = finishedLayout(read.value.method);
    const [film] = footage;
    const verdict = verdictOnFilm(figure, film!);
    expect([verdict.state, verdict.view]).toEqual(['agrees', { side: 'tying side', mirrored: false }]);
    expect(footageTrouble(footage)).toBeUndefined();
    const bytes = readFileSync(new URL('../../../demo/films/figure-eight.webm', import.meta.url));
    const contents = contentsName();
    contents.take(bytes);
    expect(contents.name()).toBe(film!.film);
    expect(bytes.length).toBeLessThan(300_000);
    expect(film!.captions!.length).toBe(film!.steps!.length);
  });
});
