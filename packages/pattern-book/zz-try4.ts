import { go, E, show } from './zz.js';
import { curveOf, nearestOn, type Point, type Figure } from '@foxtrail/core';
const add = (id: string, p: readonly Point[], ends: any = ['standing', 'tail']) => ({ kind: 'add-rope' as const, rope: { id, points: p, curve: 'smooth' as const, closed: false, ends } });
// Slipped sheet bend: a = bight from left; b = comes from right up through, round behind, then a bight tucked under itself.
let f = go(E, add('a', [[-24, -3], [-12, -3], [-3, -3], [3.4, -3], [6, 0], [3.4, 3], [-3, 3], [-9, 3.4]]));
f = go(f, add('b', [[24, 0], [12, 0.4], [8, 0.2]]));
f = go(f, { kind: 'lay', rope: 'b', points: [[2, -0.6], [-1, -3], [-3.6, -6.6], [-7, -5], [-7.6, 0], [-6.6, 6], [-3, 7], [0.6, 4.6]], pass: 'UOOUUUOU'.replace(/./g, (c) => c) });
show('sb0', f);
// twist
let t = go(E, add('a', [[-20, 8], [-10, 8], [-2, 7], [-1.6, 2], [-4, -4], [0, -8], [4, -4], [1.6, 2], [2, 7], [10, 8], [20, 8]]));
for (const k of [1, 2, -3]) show('tw' + k, go(t, { kind: 'twist', rope: 'a', from: 3, to: 7, halfTurns: k }));
const b = go(t, { kind: 'bight', rope: 'a', at: 1.5, points: [[-7, 2], [-10, -3], [-6, -7]], pass: 'OOO' });
show('bight', b);
const b2 = go(t, { kind: 'bight', rope: 'a', at: 1.5, points: [[-5, 3], [0, 1], [6, -2], [8, -7]], pass: 'OOU' });
show('bight2', b2);
