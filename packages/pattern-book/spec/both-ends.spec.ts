import {
  applyEdit,
  composeStep,
  composeStretch,
  cutMoves,
  drawStep,
  figureAtStep,
  lastAt,
  movesIn,
  proposedHalts,
  ropeOf,
  signatureOf,
  stretchesOf,
  WORKSHOP_WORDS,
  type Figure,
  type Layout,
  type Method,
} from '@foxtrail/core';
import { patternOf, patterns } from '../src/index.js';

/** The same laid by the first end of a rope that is drawn the other way along. */
function byFirstEnd({ relaid: _others, ...layout }: Method): Layout | undefined {
  const [leader, other] = layout.leaders;
  if (leader?.kind !== 'end' || leader.from !== 0 || other || layout.halts.length === 0) return undefined;
  const rope = ropeOf(layout.figure, leader.rope);
  // Turns that were laid as one are told as they were laid; turned round they are rope like any other.
  if (!rope || rope.wraps) return undefined;
  const done = applyEdit(layout.figure, { kind: 'reverse', rope: leader.rope });
  if (!done.ok) return undefined;
  const last = lastAt(rope);
  return {
    ...layout,
    figure: done.value.figure,
    leaders: [{ kind: 'end', rope: leader.rope, from: last, leads: 'first' }],
    halts: layout.halts.map((h) => ({ ...h, at: last - h.at })),
  };
}

/** What proves a figure, or why it cannot be proved. */
const keyOf = (figure: Figure): string => {
  const found = signatureOf(figure);
  return found.ok ? found.value.key : found.reason;
};

describe('What the first end of a rope lays', () => {
  const pairs = patterns().flatMap(({ id, knot }): { name: string; one: Method; other: Layout }[] => {
    const other = byFirstEnd(knot.method);
    return other ? [{ name: id, one: knot.method, other }] : [];
  });
  it('is told as what the last end lays, for every pattern that one end ties', () => {
    expect(pairs.length).toBeGreaterThan(10);
    for (const { name, one, other } of pairs) {
      const [a, b] = [stretchesOf(one), stretchesOf(other)];
      a.forEach((step, k) => {
        const said = composeStretch(one, step, WORKSHOP_WORDS).text;
        expect(composeStretch(other, b[k]!, WORKSHOP_WORDS).text)
          .withContext(`${name}, step ${k + 1}`)
          .toBe(said);
        expect(movesIn(other, b[k]!).map((m) => m.ways)).toEqual(movesIn(one, step).map((m) => m.ways));
      });
      expect(cutMoves(other).map((c) => c.index))
        .withContext(name)
        .toEqual(cutMoves(one).map((c) => c.index));
    }
  });
  it('has halts where moves end, as far along', () => {
    for (const { name, one, other } of pairs) {
      const last = lastAt(ropeOf(one.figure, one.leaders[0]!.rope)!);
      const proposed = proposedHalts(one, 0, last);
      const back = proposedHalts(other, 0, 0).map((at) => last - at);
      expect(back.length).withContext(name).toBe(proposed.length);
      back.forEach((at, i) => expect(at).withContext(name).toBeCloseTo(proposed[i]!, 2));
    }
  });
  it('is the same knot at every step, with as much of it in the accent of what is laid, and an arrow the same way', () => {
    for (const { name, one, other } of pairs.slice(0, 8))
      one.halts.forEach((_, k) => {
        const context = `${name}, step ${k + 1}`;
        const [a, b] = [one, other].map((m) => figureAtStep(m, k));
        expect(keyOf(b!)).withContext(context).toBe(keyOf(a!));
        const [p, q] = [one, other].map((m) => drawStep(m, k));
        expect(q!.runs.some((r) => r.working))
          .withContext(context)
          .toBe(p!.runs.some((r) => r.working));
        const [there, here] = [p!.arrow!, q!.arrow!];
        for (const i of [0, 1]) expect(here.point[i]).withContext(context).toBeCloseTo(there.point[i]!, 1);
        const turned = here.direction[0] * there.direction[0] + here.direction[1] * there.direction[1];
        expect(turned).withContext(context).toBeGreaterThan(0.95);
      });
  });
  it('is told by steps that name no other number of a crossing', () => {
    for (const { name, one, other } of pairs)
      one.halts.forEach((_, k) => {
        const numbers = new Set(composeStep(other, k, WORKSHOP_WORDS).crossings);
        expect(numbers.size)
          .withContext(name)
          .toBe(new Set(composeStep(one, k, WORKSHOP_WORDS).crossings).size);
      });
  });
  it('is cut in two by no halt where each of its moves is a step, also when both ends lead', () => {
    const { method } = patternOf('killick-hitch')!.knot;
    expect(method.leaders.length).toBe(2);
    expect(cutMoves(method)).toEqual([]);
    const halts = method.halts.map((h, i) => (i === 3 ? { ...h, at: h.at + (method.leaders[1]!.from - h.at) / 2 } : h));
    const cut = cutMoves({ ...method, halts: [...halts, method.halts[3]!] });
    expect(cut.map((c) => c.index)).toEqual([3]);
    expect(Math.abs(cut[0]!.after - method.halts[3]!.at)).toBeLessThan(1e-6);
  });
});
