import { howToSet } from '@foxtrail/core';
import { eatsOf } from '@foxtrail/core/form';
import { perTurn } from '@foxtrail/core/ropes';
import { patternOf, patterns } from '../src/index.js';
import { patternForm } from '../src/forms.js';

const eaten = (id: string, strand = 0): number => {
  const { figure } = howToSet(patternOf(id)!.knot.method);
  return eatsOf(figure, patternForm(id)!)[strand]!.set;
};

describe('What the patterns eat', () => {
  // Of each the same knot with one turn more and more.
  const FAMILIES: readonly (readonly [first: number, ...ids: string[]])[] = [
    [1, 'overhand', 'double-overhand', 'triple-overhand'],
    [1, 'fishermans', 'double-fishermans', 'triple-fishermans'],
    [1, 'noose', 'noose-2', 'noose-3'],
    [2, 'prusik-2', 'prusik', 'prusik-4'],
  ];
  it('grows evenly with their turns: what two say of the third is what its form says', () => {
    for (const [first, ...ids] of FAMILIES) {
      const known = ids.map((id, i) => ({ turns: first + i, diameters: eaten(id) }));
      const told = perTurn(known.slice(0, 2))!;
      expect(Math.abs(told.at(first + 2) / known[2]!.diameters - 1))
        .withContext(ids.join(', '))
        .toBeLessThan(0.05);
      // A turn round one rope of its own thickness, or round two that lie together, and no more.
      expect(told.each).toBeGreaterThan(6);
      expect(told.each).toBeLessThan(14);
    }
  });

  it('is less than what is drawn of it, but for hitches that close on what they are tied to', () => {
    for (const { id, knot } of patterns()) {
      const form = patternForm(id);
      if (!form) continue;
      const { figure } = howToSet(knot.method);
      for (const strand of eatsOf(figure, form)) {
        expect(strand.set).withContext(id).toBeGreaterThan(0);
        if (!strand.host) expect(strand.set).withContext(id).toBeLessThan(strand.open);
      }
    }
  });

  it('is shared alike by the two ropes of a bend that is the same from both sides', () => {
    for (const id of ['reef', 'fishermans', 'double-fishermans', 'carrick-bend', 'granny'])
      expect(eaten(id) / eaten(id, 1))
        .withContext(id)
        .toBeCloseTo(1, 0);
  });

  it('counts turns round a host, and how thick that is drawn', () => {
    const { figure } = howToSet(patternOf('rolling-hitch')!.knot.method);
    const [own] = eatsOf(figure, patternForm('rolling-hitch')!);
    expect(own?.host?.turns).toBeGreaterThan(2);
    expect(own?.host?.drawn).toBeGreaterThan(1);
  });
});
