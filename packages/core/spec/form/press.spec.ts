import { howToSet, setNow, type Chain, type RopeForm, type Solid } from '../../src/index.js';
import { measureForm } from '../../src/form/index.js';
import { demoKnot } from '../support/figures.js';

/** A rope over a post of a radius, to its middle line, through an angle, with straight leads; of the tension that its ends say. */
function overPost(radius: number, angle: number, tension: number): RopeForm {
  const step = 0.1 / radius;
  const places: number[] = [];
  const put = (x: number, y: number): void => void places.push(x, y, 0);
  const n = Math.round(angle / step);
  const at = (t: number): readonly [number, number] => [radius * Math.sin(t), -radius * Math.cos(t)];
  for (let k = 40; k > 0; k -= 1) put(at(0)[0] - 0.1 * k, at(0)[1]);
  for (let k = 0; k <= n; k += 1) put(...at((angle * k) / n));
  for (let k = 1; k <= 40; k += 1)
    put(at(angle)[0] + 0.1 * k * Math.cos(angle), at(angle)[1] + 0.1 * k * Math.sin(angle));
  const count = places.length / 3;
  const end = (first: number, x: number, y: number): Chain['outlets'][number] => ({
    kind: 'standing',
    first,
    last: first,
    way: [x, y, 0],
    tension,
  });
  const chain: Chain = {
    rope: 'a',
    closed: false,
    radius: 0.5,
    x: Float64Array.from(places),
    at: Float64Array.from({ length: count }, (_, i) => i),
    outlets: [end(0, -1, 0), end(count - 1, Math.cos(angle), Math.sin(angle))],
  };
  const post: Solid = {
    host: 'p',
    kind: 'spar',
    closed: false,
    radius: radius - 0.5,
    x: Float64Array.from([0, 0, -20, 0, 0, 20]),
  };
  return { chains: [chain], solids: [post] };
}

describe('how hard strands press', () => {
  it('is, of a rope over a post, its tension times the angle through which it turns, whatever the post’s radius', () => {
    for (const [radius, angle, tension] of [
      [2, Math.PI, 1],
      [5, Math.PI, 1],
      [3, Math.PI / 2, 1],
      [3, Math.PI, 0.6],
    ] as const) {
      const [press, ...more] = measureForm(overPost(radius, angle, tension)).contacts;
      expect(more).toEqual([]);
      expect(press!.b.strand).toBe('p');
      expect(press!.force / (tension * angle))
        .withContext(`${radius} ${angle}`)
        .toBeCloseTo(1, 1);
    }
  });

  it('is, of the two bights of a reef, about that of a half turn, of one rope on the other', () => {
    const { figure, wishes } = howToSet(demoKnot('reef.json').method);
    const done = setNow(figure, wishes);
    if (!done.ok) throw new Error(done.reason);
    const { contacts } = measureForm(done.value);
    expect(contacts.map((c) => c.force)).toEqual(contacts.map((c) => c.force).sort((a, b) => b - a));
    const [hardest] = contacts;
    expect(hardest!.force).toBeGreaterThan(0.6 * Math.PI);
    expect(hardest!.force).toBeLessThan(1.3 * Math.PI);
    expect(new Set([hardest!.a.strand, hardest!.b.strand])).toEqual(new Set(['a', 'b']));
  });
});
