import { howToSet, settle } from '@foxtrail/core';
import { eatsOf, openEats } from '@foxtrail/core/form';
import { perTurn } from '@foxtrail/core/ropes';
import { patternOf, patterns } from '../src/index.js';
import { patternForm } from '../src/forms.js';
import { eatenOf, TURN_FAMILIES, turnEats } from '../src/turn-families.js';

const eaten = (id: string, strand = 0): number => eatenOf(id, strand)!;

describe('What the patterns eat', () => {
  it('grows evenly with their turns: what two say of the third is what its form says', () => {
    for (const { first, members: ids } of TURN_FAMILIES) {
      const known = ids.map((id, i) => ({ turns: first + i, diameters: eaten(id) }));
      const told = perTurn(known.slice(0, 2))!;
      expect(Math.abs(told.at(first + 2) / known[2]!.diameters - 1))
        .withContext(ids.join(', '))
        .toBeLessThan(0.05);
      // A turn round one rope of its own thickness, or round two that lie together, and no more.
      expect(turnEats(ids[0]!)! / told.each).toBeCloseTo(1, 0);
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

  it('settled on a table is more than what is set', () => {
    for (const id of ['overhand', 'figure-eight', 'bowline', 'reef']) {
      const { figure } = howToSet(patternOf(id)!.knot.method);
      const settled = settle(figure);
      expect(settled.ok).withContext(id).toBeTrue();
      if (!settled.ok) continue;
      const [loose, own] = [openEats(settled.value.figure)[0]!, eaten(id)];
      expect(loose).withContext(id).toBeGreaterThan(own);
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

  it('is told for one turn more of families of turns alone', () => {
    expect(turnEats('bowline')).toBeUndefined();
    expect(eatenOf('no-such-knot')).toBeUndefined();
  });
});
