import {
  change,
  cooled,
  crossingsOf,
  curveOf,
  KEPT_WARM,
  methodsOf,
  noHistory,
  record,
  redo,
  undo,
  writeKnot,
  type History,
  type KnotDocument,
} from '../../src/index.js';
import { drawnFiles, drawnKnot } from '../support/figures.js';

describe('History', () => {
  it('goes back through everything and forth again, however much there is', () => {
    let history: History<number> = noHistory();
    const count = 3 * KEPT_WARM;
    for (let i = 0; i < count; i += 1) history = record(history, i, undefined, (n) => n);
    let now = count;
    for (let i = count - 1; i >= 0; i -= 1) {
      const back = undo(history, now)!;
      expect(back.state).toBe(i);
      [history, now] = [back.history, back.state];
    }
    expect(undo(history, now)).toBeUndefined();
    for (let i = 1; i <= count; i += 1) {
      const forth = redo(history, now)!;
      expect(forth.state).toBe(i);
      [history, now] = [forth.history, forth.state];
    }
  });
  it('cools each state once, when it is no longer among the last, and undoes changes of one group at once', () => {
    const asked: number[] = [];
    let history: History<number> = noHistory();
    for (let i = 0; i < 2 * KEPT_WARM; i += 1)
      history = record(history, i, `group ${i % 2 === 0 ? i : i - 1}`, (n) => (asked.push(n), n + 0.5));
    const kept = KEPT_WARM;
    expect(history.past.length).toBe(kept);
    expect(asked).toEqual([]);
    for (let i = 0; i < 3; i += 1) history = record(history, 100 + i, undefined, (n) => (asked.push(n), n + 0.5));
    expect(asked).toEqual([0, 2, 4]);
    expect(history.past.slice(0, 3).map((k) => k.state)).toEqual([0.5, 2.5, 4.5]);
  });
});

describe('A knot that is kept cool', () => {
  it('is the same knot, with figures of its own; figures that are one stay one', () => {
    for (const file of drawnFiles) {
      const knot = drawnKnot(file);
      const kept = cooled(knot);
      expect(writeKnot(kept)).withContext(file).toEqual(writeKnot(knot));
      for (const [i, { method }] of methodsOf(kept).entries()) {
        const own = methodsOf(knot)[i]!.method;
        expect(method.figure).not.toBe(own.figure);
        expect(curveOf(method.figure.ropes[0]!)).toEqual(curveOf(own.figure.ropes[0]!));
        expect(crossingsOf(method.figure).map((c) => c.sign)).toEqual(crossingsOf(own.figure).map((c) => c.sign));
      }
      // A change of a text shares its figure with what was there before; so do the two when they are cooled.
      const texts = ['one', 'two'].map((text) => {
        const done = change(knot, { method: 0, layout: 0 }, { kind: 'set-text', index: 0, text });
        if (!done.ok) throw new Error(done.reason);
        return done.value;
      });
      const [a, b] = texts.map((k: KnotDocument) => cooled(k).method.figure);
      expect(a).withContext(file).toBe(b);
    }
  });
});
