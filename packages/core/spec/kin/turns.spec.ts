import {
  crossingsOf,
  finishedFigure,
  readMap,
  signatureOf,
  turnsIn,
  withoutTurn,
  withTurns,
  type Figure,
  type Turn,
} from '../../src/index.js';
import { openKnot } from '../support/figures.js';

const FILES = ['overhand', 'figure-eight', 'bowline', 'sheet-bend', 'clove-hitch', 'rolling-hitch', 'reef'];
const figureOf = (file: string): Figure => finishedFigure(openKnot(`${file}.json`).method);
const keyOf = (f: Figure): string => {
  const found = signatureOf(f);
  if (!found.ok) throw new Error(found.reason);
  return found.value.key;
};
const eachTurn = (check: (figure: Figure, turn: Turn, where: string) => void): void => {
  for (const file of FILES) {
    const figure = figureOf(file);
    for (const [i, turn] of turnsIn(figure).entries()) check(figure, turn, `${file}, turn ${i}`);
  }
};

describe('A turn', () => {
  it('lies on one rope, in the order of its trail, and passes as many crossings as it says; the least come first', () => {
    let turns = 0;
    eachTurn((figure, turn, where) => {
      turns += 1;
      expect(turn.from).withContext(where).toBeLessThan(turn.to);
      const passed = crossingsOf(figure)
        .flatMap((c) => [c.first, c.second])
        .filter((p) => p.strand === turn.rope && p.at > turn.from && p.at < turn.to).length;
      expect(turn.passages).withContext(where).toBe(passed);
    });
    expect(turns).toBeGreaterThan(20);
    for (const file of FILES) {
      const counts = turnsIn(figureOf(file)).map((t) => t.passages);
      expect(counts).toEqual([...counts].sort((a, b) => a - b));
    }
  });

  it('taken out leaves just the crossings that it did not pass, woven as they were', () => {
    let taken = 0;
    eachTurn((figure, turn, where) => {
      const left = withoutTurn(figure, turn);
      if (!left) return;
      taken += 1;
      const kept = crossingsOf(figure).filter((c) =>
        [c.first, c.second].every((p) => p.strand !== turn.rope || p.at < turn.from || p.at > turn.to),
      );
      const there = crossingsOf(left);
      expect(there.length).withContext(where).toBe(kept.length);
      // The sign of a crossing is that of its strands' ways, which are what they were.
      expect(there.map((c) => c.sign).sort())
        .withContext(where)
        .toEqual(kept.map((c) => c.sign).sort());
      expect(readMap(left).ok).withContext(where).toBeTrue();
    });
    expect(taken).toBeGreaterThan(10);
  });

  it('laid again passes everything once more, and itself so often that turns lie side by side', () => {
    let laid = 0;
    eachTurn((figure, turn, where) => {
      if (turn.times !== 1) return;
      const made = withTurns(figure, turn);
      if (!made.ok) return;
      laid += 1;
      const inside = (p: { strand: string; at: number }): boolean =>
        p.strand === turn.rope && p.at > turn.from && p.at < turn.to;
      const expected = crossingsOf(figure).reduce((sum, c) => {
        const passes = Number(inside(c.first)) + Number(inside(c.second));
        return sum + (passes === 2 ? (turn.side === 0 ? 2 : 4) : passes === 1 ? 2 : 1);
      }, 0);
      expect(crossingsOf(made.value.figure).length).withContext(where).toBe(expected);
    });
    expect(laid).toBeGreaterThan(3);
  });

  it('of a clove hitch laid again makes the rolling hitch, and of that taken out the clove hitch', () => {
    const [clove, rolling] = [figureOf('clove-hitch'), figureOf('rolling-hitch')];
    const more = turnsIn(clove).flatMap((t) => {
      const made = withTurns(clove, t);
      return made.ok ? [keyOf(made.value.figure)] : [];
    });
    expect(more).toContain(keyOf(rolling));
    const less = turnsIn(rolling).flatMap((t) => withoutTurn(rolling, t) ?? []);
    expect(less.map(keyOf)).toContain(keyOf(clove));
  });

  it('is laid a whole number of times, and a few times at most', () => {
    const figure = figureOf('clove-hitch');
    const [turn] = turnsIn(figure);
    for (const more of [0, -1, 1.5, 7, NaN])
      expect(withTurns(figure, turn!, more).ok)
        .withContext(`${more}`)
        .toBeFalse();
    expect(withTurns(figure, { ...turn!, rope: 'none' }).ok).toBeFalse();
    expect(withoutTurn(figure, { ...turn!, rope: 'none' })).toBeUndefined();
  });
});
