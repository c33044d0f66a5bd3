import { go, E, show } from './zz.js';
import { crossingsOf, curveOf, lastAt, lengthTo, nearestOn, type Point, type Figure } from '@foxtrail/core';
const add = (id: string, p: readonly Point[], ends: any = ['standing', 'tail']) => ({ kind: 'add-rope' as const, rope: { id, points: p, curve: 'smooth' as const, closed: false, ends } });
const near = (f: Figure, strand: string, p: Point) => ({ strand, at: nearestOn(curveOf((f.ropes.find((r) => r.id === strand) ?? f.hosts.find((h) => h.id === strand))! as any), p).at });
for (const n of [1, 2, 3]) {
  const L = 8 + 4 * n;
  let f = go(E, add('a', [[-L - 16, -1.3], [-L, -1.3], [0, -1.3], [L, -1.3]]), add('b', [[L + 16, 1.3], [L, 1.3], [0, 1.3], [-L, 1.3]]));
  for (const [id, other, s] of [['a', 'b', 1], ['b', 'a', -1]] as const) {
    const q = (x: number, y: number): Point => [x * s, y * s];
    f = go(f, { kind: 'lay', rope: id, points: [q(L + 2, -2.4), q(L + 1.2, -5)], pass: 'OO' });
    f = go(f, { kind: 'wrap', rope: id, about: [near(f, other, q(L - 1, 1.3)), near(f, id, q(L - 1, -1.3))], turns: n, direction: 'on', spacing: 4 });
    const tip = f.ropes.find((r) => r.id === id)!.points.at(-1)!;
    const x = tip[0] * s;
    f = go(f, { kind: 'lay', rope: id, points: [q(x - 2.4, -3), q(x - 2, -.6), q(x + 1, 0), q(L, 0), q(L + 8, 0.1)], pass: process.argv[2] as string });
  }
  show('fish' + n, f);
  show('fish'+n+'a', go(f, {kind:'remove-rope', rope:'b'}));
}
import { patternOf } from './src/index.js';
import { applyEdit, signatureOf, compareFigures, weaveFigure } from '@foxtrail/core';
{
  const p = patternOf('double-fishermans')!.knot.method.figure;
  show('book', p);
  show('book-a', go(p, { kind: 'remove-rope', rope: 'b' }));
  console.log(p.ropes.map(r=>[r.weave, r.ends, r.points.length]));
}
