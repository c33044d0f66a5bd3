/**
 * Films of a knot held against it: what its crossings make of it when they lie the other way, by the pattern book.
 */
import {
  crossingAt,
  finishedLayout,
  layoutsOf,
  mistakesOf,
  remembered,
  sayOutcome,
  type Figure,
  type Finding,
  type KnotDocument,
} from '@foxtrail/core';
import {
  judgeFootage,
  sayFootage,
  sayNext,
  wrongIn,
  type Footage,
  type FootageVerdict,
  type MarkedFrame,
  type Otherwise,
} from '@foxtrail/core/footage';
import { patternKeys } from './known.js';

/** What becomes of a figure when crossings of it are laid the other way. What cannot be worked out counts as another knot. */
export const otherwiseOf = remembered((figure: Figure): Otherwise => {
  const made = mistakesOf(figure, patternKeys());
  const known = new Map<string, ReturnType<Otherwise>>();
  const workOut: Otherwise = (crossings) => {
    const found = made.ok ? made.value(crossings) : made;
    if (!found.ok) return { becomes: 'What it would be is not worked out', named: false };
    const { outcome } = found.value;
    if (outcome === 'same') return outcome;
    return { becomes: sayOutcome(found.value), named: outcome === 'another knot' || outcome === 'mirror' };
  };
  return (crossings) => {
    const key = [...crossings].sort((a, b) => a - b).join(' ');
    const before = known.get(key) ?? workOut(crossings);
    known.set(key, before);
    return before;
  };
});

/** What a film's marks say of the figure, each by the number that its crossing has now. */
export function verdictOnFilm(figure: Figure, { frames, turned }: Footage): FootageVerdict {
  const numbered = frames.map((frame): MarkedFrame => ({
    ...frame,
    marks: frame.marks.flatMap((m) => {
      const crossing = crossingAt(figure, m.crossing);
      return crossing ? [{ ...m, crossing: crossing.number }] : [];
    }),
  }));
  return judgeFootage(figure, numbered, otherwiseOf(figure), turned);
}

/** Films that show another knot or its mirror image, and those of which it is not told. */
export function footageFindings({ name, method }: Pick<KnotDocument, 'name' | 'method'>): Finding[] {
  const { figure, footage = [] } = finishedLayout(method);
  const layout = layoutsOf(method).length - 1;
  return footage.flatMap((film): Finding[] => {
    const verdict = verdictOnFilm(figure, film);
    const base = { layout, why: sayFootage(verdict, name) };
    switch (verdict.state) {
      case 'agrees':
        return [];
      case 'mirrored':
        return [
          {
            ...base,
            code: 'footage-mirrored',
            severity: 'error',
            title: `The film “${film.name}” shows the mirror image`,
            remedy: 'Have it played mirrored, or film it with a camera that does not mirror.',
            fix: {
              label: film.turned === true ? 'Play it as it was filmed' : 'Play it mirrored',
              layout,
              edit: {
                kind: 'show',
                shown: { footage: footage.map((f) => (f === film ? { ...f, turned: f.turned !== true } : f)) },
              },
            },
          },
        ];
      case 'differs':
        return [
          {
            ...base,
            code: 'footage-differs',
            severity: 'error',
            title: `The film “${film.name}” does not show this knot`,
            remedy: 'Look at the frame again in Reel; if it is marked rightly, film it anew.',
            crossings: wrongIn(verdict),
          },
        ];
      case 'undecided':
        return [
          {
            ...base,
            code: 'footage-undecided',
            severity: 'error',
            title: `It is not told yet whether the film “${film.name}” shows this knot`,
            remedy: sayNext(verdict) ?? 'Mark its crossings in Reel.',
          },
        ];
    }
  });
}
