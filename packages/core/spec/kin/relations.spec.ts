import { BOTH_WAYS, differenceOf, KIN_KINDS, sayKin, verbFor } from '../../src/index.js';

describe('What is said of kin', () => {
  it('is a sentence that names both knots, for every kind', () => {
    for (const kind of KIN_KINDS) {
      const said = sayKin(kind, 'Reef knot', 'Carrick bend');
      expect(said).toMatch(/^The .*\.$/);
      expect(said).toContain('reef knot');
      expect(said).toContain('carrick bend');
    }
  });

  it('counts turns', () => {
    expect(sayKin('one more turn', 'Overhand knot', 'Double overhand knot')).toContain('one more turn');
    expect(sayKin('one more turn', 'Overhand knot', 'Triple overhand knot', 2)).toContain('2 more turns');
    expect(differenceOf('one more turn', true, 3)).toBe('3 turns more');
    expect(differenceOf('one more turn', false)).toBe('one turn less');
  });

  it('is the same both ways just for the kinds that lead both ways', () => {
    for (const kind of KIN_KINDS)
      expect(differenceOf(kind, true) === differenceOf(kind, false))
        .withContext(kind)
        .toBe(BOTH_WAYS.has(kind));
  });

  it('has the verb of the noun that the name is built on', () => {
    expect(verbFor('Two half hitches')).toBe('are');
    expect(verbFor('Two half hitches, second reversed')).toBe('are');
    expect(verbFor('Turns with a tail')).toBe('are');
    expect(verbFor('Loops in a bight')).toBe('are');
    expect(verbFor('Hitch on two spars')).toBe('is');
    expect(verbFor('Truss')).toBe('is');
    expect(verbFor('Riggers’')).toBe('is');
    expect(verbFor('Noose of three turns')).toBe('is');
    expect(verbFor('Double fisherman’s bend')).toBe('is');
    expect(verbFor('Cat’s paw')).toBe('is');
  });
});
