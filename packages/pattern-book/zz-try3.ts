import { go, E } from './zz.js';
import { curveOf, nearestOn, type Point, type Figure, signatureOf, passagesOf } from '@foxtrail/core';
import { patternKeys } from './src/index.js';
const add = (id: string, p: readonly Point[], ends: any = ['standing', 'tail']) => ({ kind: 'add-rope' as const, rope: { id, points: p, curve: 'smooth' as const, closed: false, ends } });
const near = (f: Figure, strand: string, p: Point) => ({ strand, at: nearestOn(curveOf((f.ropes.find((r) => r.id === strand) ?? f.hosts.find((h) => h.id === strand))! as any), p).at });
for (const n of [1, 1.5, 2, 2.5, 3]) for (const side of [-1, 1]) for (const first of ['O', 'U'] as const) for (const lead of ['O', 'U']) for (const tuckLetter of ['O', 'U']) for (const out of ['O','U']) {
  const L = 8 + 4 * n;
  let f = go(E, add('a', [[-L - 16, -1.3], [-L, -1.3], [0, -1.3], [L, -1.3]]), add('b', [[L + 16, 1.3], [L, 1.3], [0, 1.3], [-L, 1.3]]));
  for (const [id, other, s] of [['a', 'b', 1], ['b', 'a', -1]] as const) {
    const q = (x: number, y: number): Point => [x * s, y * s];
    f = go(f, { kind: 'lay', rope: id, points: [q(L + 2, side*2.4), q(L + 1.2, side*5)], pass: lead + lead });
    f = go(f, { kind: 'wrap', rope: id, about: [near(f, other, q(L - 1, 1.3)), near(f, id, q(L - 1, -1.3))], turns: n, direction: 'on', first, spacing: 4 });
    const tip = f.ropes.find((r) => r.id === id)!.points.at(-1)!;
    const x = tip[0] * s, y = Math.sign(tip[1] * s);
    f = go(f, { kind: 'lay', rope: id, points: [q(x - 2.4, 3*y), q(x - 2, .6*y), q(x + 1, 0), q(L, 0), q(L + 5, 0.1), q(L+9, y*3.5), q(L+14, y*4)], pass: 'O' + tuckLetter + 'XXX' + tuckLetter + tuckLetter });
    // inside the wraps: under fronts, over backs
    const laidFrom = f.ropes.find((r) => r.id === id)!.points.length - 6;
    for (const p of passagesOf(f, id)) {
      if (p.at < laidFrom) continue;
      const w = f.ropes.find((r) => r.id === id)!.wraps![0]!;
      if (p.other.strand !== id) continue;
      if (p.other.at < w.from - 1 || p.other.at > w.to) continue;
      const half = Math.floor((p.other.at - w.from + 1) / 4);
      const front = (half % 2 === 0) === (first === 'O');
      if (p.over === front) f = go(f, { kind: 'swap', where: { strand: id, at: p.at } });
    }
    if (side === 1) { /* rise passes the tail: set by out */
      for (const p of passagesOf(f, id)) if (p.at >= laidFrom && p.other.strand === id && p.other.at > 2.5 && p.other.at < f.ropes.find((r) => r.id === id)!.wraps![0]!.from - 1) if (p.over !== (out === 'O')) f = go(f, { kind: 'swap', where: { strand: id, at: p.at } });
    }
  }
  const k = signatureOf(f); const ka = signatureOf(go(f, { kind: 'remove-rope', rope: 'b' }));
  const say = (k: any) => k.ok ? patternKeys().matches(k.value).map((m) => `${m.id}: ${m.relation}`).slice(0,2).join(' | ') || '-' : k.reason;
  if (say(k) !== '-') console.log(n, side, first, lead, tuckLetter, out, say(k), '//', say(ka));
}
