import {
  backView,
  closedStrands,
  linkingNumber,
  mirror,
  slimmed,
  skeinTerms,
  tangleOf,
  weaveFigure,
  withoutStrand,
  type Figure,
  type Point,
  type Rope,
} from '../../src/index.js';
import { sayTerms } from '../support/diagrams.js';
import { rope } from '../support/figures.js';

const ring = (id: string, x: number, turned = false): Rope => {
  const points: Point[] = [
    [x - 5, 0.2],
    [x, -5],
    [x + 5, 0.1],
    [x, 5],
  ];
  return rope(id, turned ? points.reverse() : points, { closed: true, ends: ['off', 'off'] });
};
/** Two slings laid across each other: linked when each is over once, else lying on each other. */
const slings = (overs: readonly [boolean, boolean], turned = false): Figure =>
  weaveFigure({ ropes: [ring('a', -3), ring('b', 3, turned)], hosts: [] }, (_, i) => overs[i] ?? true);
const link = (f: Figure): number => {
  const t = tangleOf(f);
  const [a, b] = closedStrands(t) as [number, number];
  return linkingNumber(t, a, b);
};

describe('Two slings', () => {
  it('are linked once when each lies over the other once, and not when one lies over twice', () => {
    expect(Math.abs(link(slings([true, false])))).toBe(1);
    expect(link(slings([true, true]))).toBe(0);
    expect(link(slings([false, false]))).toBe(0);
  });
  it('are linked with the other sign in the mirror, exchanged over and under, and when one runs the other way', () => {
    const own = link(slings([true, false]));
    expect(link(slings([false, true]))).toBe(-own);
    expect(link(mirror(slings([true, false])))).toBe(-own);
    expect(link(slings([true, false], true))).toBe(-own);
    expect(link(backView(slings([true, false])))).toBe(own);
  });
  it('are positive by the right-hand rule', () => {
    // A crossing is positive when the over strand turns counterclockwise to the under one; both of a positive link are.
    const f = slings([true, false]);
    const signs = tangleOf(f).crossings.map((c) => c.sign);
    expect(new Set(signs).size).toBe(1);
    expect(link(f)).toBe(signs[0]!);
  });
});

describe('A strand taken out', () => {
  it('leaves what it linked as a closed curve that crosses nothing', () => {
    const t = tangleOf(slings([true, false]));
    const [a] = closedStrands(t) as [number, number];
    const left = withoutStrand(t, a);
    expect(left.crossings.length).toBe(0);
    expect(left.freeLoops).toBe(t.freeLoops + 1);
    // A closed curve by itself counts −A² − A⁻².
    expect(sayTerms(skeinTerms(left))).toBe('=-2:-1,0,-1');
  });
  it('and what is lifted off it stay as many closed curves as there were', () => {
    const apart = slings([true, true]);
    expect(sayTerms(skeinTerms(tangleOf(apart)))).toBe('=-4:1,0,2,0,1');
    expect(sayTerms(skeinTerms(slimmed(tangleOf(apart))))).toBe('=-4:1,0,2,0,1');
    const alone: Figure = { ropes: [ring('a', -20), ring('b', 20)], hosts: [] };
    expect(tangleOf(alone).freeLoops).toBe(2);
  });
});

describe('Eyes', () => {
  const wave = rope('a', [
    [-30, 0],
    [-10, 6],
    [0, -6],
    [10, 6],
    [30, 0],
  ]);
  it('are cut in the order of the trail, in whatever order they were declared', () => {
    const labels = (eyes: readonly number[]): string[] =>
      tangleOf({ ropes: [{ ...wave, ends: ['standing', 'off'], eyes }], hosts: [] }).rim.map(
        (p) => `${p.label}${p.enters === 1 ? '>' : '<'}${p.strand}`,
      );
    const read = labels([0.7, 1.9, 3.2]);
    expect(labels([3.2, 0.7, 1.9])).toEqual(read);
    // From its standing end to its first eye is one strand, from each eye to the next another.
    const strandOf = (label: string): string => read.find((l) => l.startsWith(label))!.slice(-1);
    expect(strandOf('a.s>')).toBe(strandOf('a.e0a'));
    expect(strandOf('a.e0b')).toBe(strandOf('a.e1a'));
    expect(strandOf('a.e1b')).toBe(strandOf('a.e2a'));
    expect(strandOf('a.e2b')).toBe(strandOf('a.s2'));
    expect(new Set(read.map((l) => l.slice(-1))).size).toBe(4);
  });
});

describe('A held end shut in', () => {
  // A sling with the standing end of a rope inside it; led out to the left it must pass the sling's edge.
  const inner = (from: Point): Rope =>
    rope('a', [from, [-2, 0.3], [2, 0.2], [14, 0.1]], { ends: ['standing', 'off'], curve: 'straight' });
  const around = ring('b', 0);
  const over = (f: Figure): string => sayTerms(skeinTerms(tangleOf(f)));
  it('is led out over what lies above it, as if it had been drawn so', () => {
    const shut = weaveFigure({ ropes: [inner([-3, 0.1]), around], hosts: [] }, () => true);
    const drawn = (first: boolean): Figure =>
      weaveFigure({ ropes: [inner([-14, 0.1]), around], hosts: [] }, (_, i) => (i === 0 ? first : true));
    expect(tangleOf(shut).buried).toEqual([{ strand: 'a', at: 'standing' }]);
    expect(over(shut)).toBe(over(drawn(true)));
    expect(over(shut)).not.toBe(over(drawn(false)));
  });
});
