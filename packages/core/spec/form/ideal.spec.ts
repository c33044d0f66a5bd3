import { placeOf, tighten, type Chain, type Figure } from '../../src/index.js';
import { lift } from '../../src/form/index.js';
import { asTightAsItGoes, figureEightRing, hopfLink, torusKnot } from '../support/ideal.js';

const distance = (a: Chain, i: number, b: Chain, j: number): number => {
  const [p, q] = [placeOf(a.x, i), placeOf(b.x, j)];
  return Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
};

/** A closed figure drawn as tight as it goes: a rope without stiffness, of diameter one. */
function drawnTight(figure: Figure, spacing: number): { readonly length: number; readonly thickness: number } {
  const lifted = lift(figure);
  if (!lifted.ok) throw new Error(lifted.reason);
  const work = tighten(lifted.value, asTightAsItGoes(spacing));
  let step = work.next();
  let before = Infinity;
  for (; step.done !== true; step = work.next()) {
    // It does not grow while ropes are drawn taut, but for what parting an overlap gives back.
    if (step.value.phase === 'pull') expect(step.value.length).toBeLessThan(before * 1.02);
    before = step.value.length;
  }
  const chains = step.value;
  let [length, thickness] = [0, Infinity];
  for (const a of chains)
    for (const b of chains) {
      const n = a.at.length;
      for (let i = 0; i < n; i += 1) {
        if (a === b) length += distance(a, i, a, (i + 1) % n);
        for (let j = 0; j < b.at.length; j += 1) {
          const apart = Math.abs(i - j);
          if (a !== b || Math.min(apart, n - apart) * spacing > 1.7)
            thickness = Math.min(thickness, distance(a, i, b, j));
        }
      }
    }
  return { length, thickness };
}

/** Known lengths over diameter. Hopf link: exact, J. Cantarella, R. Kusner, J. Sullivan, 2002; the others: numerical, T. Ashton et al., 2011. */
const KNOWN = [
  { name: 'Hopf link', figure: hopfLink, length: 4 * Math.PI, within: 0.01 },
  { name: 'trefoil', figure: () => torusKnot(2, 3), length: 16.37, within: 0.02 },
  { name: 'figure eight', figure: figureEightRing, length: 21.04, within: 0.02 },
  { name: 'cinquefoil', figure: () => torusKnot(2, 5), length: 23.6, within: 0.03 },
] as const;

describe('an ideal knot', () => {
  for (const { name, figure, length, within } of KNOWN)
    it(`is as long as it is known to be: ${name}`, () => {
      const found = drawnTight(figure(), 0.2);
      expect(Math.abs(found.length / length - 1)).toBeLessThan(within);
      expect(found.thickness).toBeGreaterThan(0.98);
    });
});
