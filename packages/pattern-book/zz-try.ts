
import { go, E, show } from './zz.js';
import { curveOf, lastAt, lengthTo, nearestOn, type Point } from '@foxtrail/core';
const end = (p: readonly Point[], ends: any = ['standing', 'tail']) => ({ kind: 'add-rope' as const, rope: { id: 'a', points: p, curve: 'smooth' as const, closed: false, ends } });
// Eight: single, then an eye, then retraced.
let f = go(E, end([[0, 26], [0.2, 17], [0, 9], [0, 3], [0, -5], [-0.7, -13], [-5.5, -19], [-13, -18], [-14.5, -11], [-9,-5.2]]));
f = go(f, { kind: 'lay', rope: 'a', points: [[-4,-3],[2,-1],[5.6,2],[5,6],[0.4,7.4],[-6,7.4],[-13,6],[-17.4,-2],[-14,-9.8],[-10,-16.8],[-10.4,-25],[-18,-32]], pass: 'WWWWWWWWWWWW' });
show('eight', f);
const n0 = lastAt(f.ropes[0]!);
f = go(f, { kind: 'lay', rope: 'a', points: [[-26,-37],[-32,-34],[-31,-28],[-25,-28.2],[-21,-30.6]], pass: 'OOOOO' });
f = go(f, { kind: 'retrace', rope: 'a', along: { strand: 'a', from: n0 - 0.6, to: 0.4 }, side: process.argv[2] as any ?? 'left' });
f = { ...f, ropes: f.ropes.map((r) => ({ ...r, eyes: [n0 + 3] })) };
show('followed', f);
// Wraps
let w = go(E, { kind: 'add-host', host: { id: 'spar', kind: 'spar', points: [[-20, 0], [20, 0]], size: 2.4 } }, end([[-2, 14], [-2, 6]]));
w = go(w, { kind: 'wrap', rope: 'a', about: [{ strand: 'spar', at: 0.45 }], turns: 3, direction: 'on', first: 'O', spacing: 3 });
w = go(w, { kind: 'lay', rope: 'a', points: [[8, 8], [9, 14]], pass: 'OO' });
show('wrap3', w);
show('wrap5', go(w, { kind: 'rewrap', rope: 'a', wrap: 0, turns: 5, spacing: 1.3 }));
show('wrapr', go(w, { kind: 'rewrap', rope: 'a', wrap: 0, turns: 3, riding: true }));
