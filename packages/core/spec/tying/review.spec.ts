import { finishedLayout, layoutsOf, needsForPeople, reviewItems, stepsOf, WORKSHOP_WORDS } from '../../src/index.js';
import { drawnFiles, drawnKnot, edited } from '../support/figures.js';

describe('A review', () => {
  it('goes through cautions, every step, both faces and every mark of the card, each once', () => {
    for (const file of drawnFiles) {
      const knot = drawnKnot(file);
      const items = reviewItems(knot, WORKSHOP_WORDS);
      expect(new Set(items.map((i) => i.key)).size).toBe(items.length);
      const count = (kind: string): number => items.filter((i) => i.kind === kind).length;
      expect(count('step')).toBe(stepsOf(knot.method).length);
      expect([count('cautions'), count('front'), count('back')]).toEqual([1, 1, 1]);
      expect(count('mark')).toBe((finishedLayout(knot.method).marks ?? []).length);
      for (const i of items) expect(i.text.length).withContext(`${file}, ${i.key}`).toBeGreaterThan(5);
      // A learner reads the cautions first.
      expect(items[0]!.kind).toBe('cautions');
    }
  });

  it('a knot for people needs all four things, and each is met by what it names', () => {
    const knot = drawnKnot('bowline.json');
    const entry = { ...knot.entry, cautions: ['Back it up.'] };
    const last = layoutsOf(knot.method).length - 1;
    const bare = edited(knot.method, { kind: 'show', shown: { marks: [] } }, last);
    const met = (k: typeof knot, errors: number, reviewed: boolean): boolean[] =>
      needsForPeople(
        k,
        Array.from({ length: errors }, () => ({ severity: 'error' as const })),
        reviewed,
      ).map((n) => n.met);
    expect(met({ ...knot, entry }, 0, true)).toEqual([true, true, true, true]);
    expect(met({ ...knot, entry }, 1, true)).toEqual([false, true, true, true]);
    expect(met({ ...knot, entry: { ...entry, cautions: [] } }, 0, false)).toEqual([true, false, true, false]);
    expect(met({ ...knot, entry, method: bare }, 0, true)).toEqual([true, true, false, true]);
  });
});
