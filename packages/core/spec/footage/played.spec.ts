import fc from 'fast-check';
import { playedAt, playedFor, playedPieces, shownAt, type FilmPassage, type OnFilm } from '../../src/footage.js';

/** Passages side by side, in whole seconds: some slow, some that stand still first. */
const film: fc.Arbitrary<OnFilm> = fc
  .array(
    fc.record({
      gap: fc.integer({ min: 0, max: 3 }),
      long: fc.integer({ min: 1, max: 4 }),
      speed: fc.constantFrom(undefined, 0.25, 0.5, 2),
      still: fc.constantFrom(undefined, 1, 4),
    }),
    { maxLength: 4 },
  )
  .map((list) => {
    let at = 0;
    const passages = list.map(({ gap, long, speed, still }): FilmPassage => {
      const from = at + gap;
      at = from + long;
      return { from, to: at, speed, still };
    });
    return { passages };
  });

describe('A stretch of a film as it is played', () => {
  it('is all of it, once, in order and without gaps', () => {
    fc.assert(
      fc.property(film, fc.integer({ min: 0, max: 20 }), fc.integer({ min: 1, max: 20 }), (of, from, long) => {
        const pieces = playedPieces(of, from, from + long);
        expect(pieces[0]!.from).toBe(from);
        expect(pieces.at(-1)!.to).toBe(from + long);
        pieces.forEach((p, i) => {
          expect(p.start).toBe(pieces[i - 1]?.end ?? 0);
          if (i > 0) expect(p.from).toBe(pieces[i - 1]!.to);
          expect(p.end).toBeGreaterThan(p.start);
        });
        // Time never runs back, and each piece runs as its passage says.
        for (const p of pieces) {
          const passage = of.passages!.find((q) => p.from >= q.from && p.to <= q.to && p.to > p.from);
          if (p.to > p.from) expect((p.to - p.from) / (p.end - p.start)).toBeCloseTo(passage?.speed ?? 1, 9);
        }
      }),
    );
  });
  it('stands still where a passage says so, and only where that begins', () => {
    const of: OnFilm = { passages: [{ from: 2, to: 4, speed: 0.5, still: 3 }] };
    expect(playedFor(of, 0, 6)).toBe(2 + 3 + 4 + 2);
    expect(playedFor(of, 3, 6)).toBe(2 + 2);
    const pieces = playedPieces(of, 0, 6);
    expect([0, 1, 2, 4.9, 5, 7, 9, 11].map((t) => playedAt(pieces, t))).toEqual([0, 1, 2, 2, 2, 3, 4, 6]);
    expect(playedAt(pieces, -1)).toBe(0);
    expect(playedAt(pieces, 99)).toBe(6);
  });
  it('is played once more where a passage says so, and stands still the first time alone', () => {
    const of: OnFilm = { passages: [{ from: 2, to: 4, speed: 0.5, still: 3, again: true }] };
    expect(playedFor(of, 0, 6)).toBe(2 + 3 + 4 + 4 + 2);
    const pieces = playedPieces(of, 0, 6);
    expect([1, 4.9, 7, 9, 11, 13, 15].map((t) => playedAt(pieces, t))).toEqual([1, 2, 3, 2, 3, 4, 6]);
    expect(shownAt(pieces, 3)).toBe(7);
  });
  it('shows a time of the film when that is played, first where it stands still', () => {
    fc.assert(
      fc.property(
        film,
        fc.integer({ min: 0, max: 20 }),
        fc.integer({ min: 1, max: 20 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (of, from, long, share) => {
          const pieces = playedPieces(of, from, from + long);
          const time = from + share * long;
          const shown = shownAt(pieces, time);
          expect(playedAt(pieces, shown)).toBeCloseTo(time, 6);
          expect(playedAt(pieces, shown - 0.001)).toBeLessThanOrEqual(time + 1e-9);
          expect(shownAt(pieces, from - 1)).toBe(0);
          expect(shownAt(pieces, from + long + 1)).toBe(pieces.at(-1)!.end);
        },
      ),
    );
  });
});
