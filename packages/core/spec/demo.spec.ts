import * as laurent from '../src/topology/laurent.js';
import { crossingsOf, cautionsFor, figureClosure, windingAbout, type Laurent } from '../src/index.js';
import { inT } from './support/diagrams.js';
import { demoKnot } from './support/figures.js';

const jones = (file: string): Laurent => {
  const closure = figureClosure(demoKnot(file).method.figure);
  if (!closure.ok) throw new Error(closure.reason);
  return closure.jones;
};
const trefoil = inT([
  [1, 1],
  [3, 1],
  [4, -1],
]);

describe('the demo knots are what they say', () => {
  it('the overhand is a trefoil', () => {
    expect(
      laurent.equal(jones('overhand.json'), trefoil) ||
        laurent.equal(jones('overhand.json'), laurent.inverted(trefoil)),
    ).toBeTrue();
  });
  it('the figure eight is the figure-eight knot', () => {
    expect(
      laurent.equal(
        jones('figure-eight.json'),
        inT([
          [-2, 1],
          [-1, -1],
          [0, 1],
          [1, -1],
          [2, 1],
        ]),
      ),
    ).toBeTrue();
  });
  it('the reef is a left- and a right-handed trefoil composed, the granny two of one hand', () => {
    const both = laurent.times(trefoil, laurent.inverted(trefoil));
    const twice = laurent.times(trefoil, trefoil);
    expect(laurent.equal(jones('reef.json'), both)).toBeTrue();
    expect(
      laurent.equal(jones('granny.json'), twice) || laurent.equal(jones('granny.json'), laurent.inverted(twice)),
    ).toBeTrue();
    expect(laurent.equal(jones('reef.json'), jones('granny.json'))).toBeFalse();
  });
  it('the granny is the reef with other crossings, not another drawing', () => {
    const [reef, granny] = [demoKnot('reef.json'), demoKnot('granny.json')];
    expect(granny.method.figure.ropes.map((r) => r.points)).toEqual(reef.method.figure.ropes.map((r) => r.points));
    expect(granny.entry.wrongWayOf).toBe(reef.name);
  });
  it('the clove hitch winds twice about the spar, all the same way', () => {
    const { figure } = demoKnot('clove-hitch.json').method;
    expect(Math.floor(Math.abs(windingAbout(figure, 'a', 'spar')))).toBe(2);
    expect(
      new Set(
        crossingsOf(figure)
          .filter((c) => c.second.strand === 'spar')
          .map((c) => c.sign),
      ).size,
    ).toBe(1);
  });
  it('people who depend on a knot are sent to an instructor, the code and the maker', () => {
    const said = cautionsFor('people depend on it', []).join(' ');
    for (const word of ['qualified instructor', 'local code', 'maker', 'second person', 'height'])
      expect(said).toContain(word);
  });
});
