import fc from 'fast-check';
import {
  backView,
  crossingsOf,
  cutEye,
  evidenceFor,
  exchangeEnds,
  flipped,
  KeyBook,
  keysOf,
  kinshipOf,
  lastAt,
  mirror,
  nearestOf,
  pullOut,
  relate,
  sayCrossing,
  sayKinship,
  signatureOf,
  spillTest,
  tellMistake,
  verdictOf,
  withoutRope,
  WORKSHOP_WORDS,
  type Figure,
  type KnownKnot,
  type Result,
  type Rope,
  type Verdict,
} from '../../src/index.js';
import { drawnKnot } from '../support/figures.js';

function value<T>(r: Result<T>): T {
  if (!r.ok) throw new Error(`${r.place}: ${r.reason}`);
  return r.value;
}
const figure = (file: string): Figure => drawnKnot(`${file}.json`).method.figure;
const known = (id: string): KnownKnot => ({ id, name: `${id.replace('-', ' ')} knot`, figure: figure(id) });
const names = ['overhand', 'figure-eight', 'reef', 'granny', 'clove-hitch', 'bowline', 'sheet-bend'];
const book = new KeyBook(names.map((id) => ({ id, name: known(id).name, ...value(keysOf(figure(id))) })));
const verdict = (f: Figure, claim?: string): Verdict => value(verdictOf(f, claim ? known(claim) : undefined, book));

describe('A verdict', () => {
  it('on a knot that is what it claims holds, in any view and with proof', () => {
    for (const id of names) {
      for (const f of [figure(id), backView(figure(id))]) {
        const v = verdict(f, id);
        expect(v.state).withContext(id).toBe('holds');
        expect(v.headline).toContain('It is the');
        expect(v.proved).withContext(id).toBeTrue();
        expect(v.evidence).toContain('Proved');
      }
    }
  });
  it('on a mirror image says that it is one, or that the knot has none', () => {
    expect(verdict(mirror(figure('overhand')), 'overhand').state).toBe('mirrored');
    expect(verdict(mirror(figure('overhand')), 'overhand').headline).toContain('of the other hand');
    // The figure eight is its own mirror image; that is known by signature, and not called proved.
    const eight = verdict(mirror(figure('figure-eight')), 'figure-eight');
    expect(eight.state).toBe('holds');
    expect(eight.evidence).toContain(eight.proved ? 'Proved' : 'not a proof');
  });
  it('on another knot names it, on a plain rope says that it falls apart', () => {
    expect(verdict(figure('granny'), 'reef').headline).toBe('It is not the reef knot: it is the granny knot.');
    expect(verdict(flipped(figure('overhand'), [2]), 'overhand').headline).toBe(
      'It is not the overhand knot: it falls apart.',
    );
    expect(verdict(flipped(figure('clove-hitch'), [4]), 'clove-hitch').headline).toContain('without a name here');
  });
  it('without a claim says what it is, and names no more than it knows', () => {
    const v = verdict(figure('reef'));
    expect(v.state).toBe('unclaimed');
    expect(v.headline).toBe('It is the reef knot.');
    const odd = verdict(flipped(figure('clove-hitch'), [4]));
    expect(odd.state).toBe('unknown');
    expect(odd.headline).toBe('No known knot has its signature.');
  });
  it('takes matches found elsewhere beside its own, each once', () => {
    const own = [
      { id: 'mine', name: 'Mine', relation: 'same' as const },
      { id: 'reef', name: 'Reef again', relation: 'mirror' as const },
    ];
    const v = value(verdictOf(figure('reef'), undefined, book, own));
    expect(v.matches.map((m) => m.id).sort()).toEqual(['mine', 'reef']);
  });
  it('has a sentence of evidence for every relation', () => {
    const relations = [
      'same',
      'same from behind',
      'mirror',
      'same, a tail laid to the other side',
      'same body, other ends',
      'different',
    ] as const;
    for (const r of relations) expect(evidenceFor(r, false, 'the reef knot')).toMatch(/\.$/);
    const s = value(signatureOf(figure('overhand')));
    expect(relate(s, undefined, s)).toBe('same');
    expect(relate(s, undefined, { ...s, front: 'x' })).toBe('same from behind');
    expect(relate(s, undefined, { ...s, key: 'x', lays: [s.lays[0]!] })).toBe('same, a tail laid to the other side');
    expect(relate(s, undefined, { ...s, key: 'x', lays: [] })).toBe('same body, other ends');
    expect(relate(s, undefined, { ...s, key: 'x', lays: [], body: 'y' })).toBe('different');
  });
});

describe('The nearest known knots', () => {
  it('have the same ropes, loops and hosts, the most alike first', () => {
    const all = names.map(known);
    expect(nearestOf(figure('reef'), all)[0]?.id).toBe('reef');
    expect(nearestOf(flipped(figure('clove-hitch'), [4]), all).map((k) => k.id)).toEqual(['clove-hitch']);
    expect(nearestOf({ ropes: [], hosts: [] }, all)).toEqual([]);
    expect(nearestOf(figure('overhand'), all, 1).length).toBe(1);
  });
});

describe('Structure', () => {
  it('changed keeps the crossings it does not touch', () => {
    const bowline = figure('bowline');
    const cut = value(cutEye(bowline, 'a'));
    expect(cut.ropes.length).toBe(2);
    expect(crossingsOf(cut).length).toBe(crossingsOf(bowline).length);
    expect(crossingsOf(cut).reduce((s, c) => s + Math.abs(c.sign), 0)).toBe(crossingsOf(bowline).length);
    const reef = figure('reef');
    expect(crossingsOf(value(withoutRope(reef, 'b'))).length).toBe(0);
  });
  it('exchanged twice is as it was', () => {
    for (const id of ['overhand', 'reef', 'clove-hitch']) {
      const twice = value(exchangeEnds(value(exchangeEnds(figure(id), 'a')), 'a'));
      expect(value(signatureOf(twice)).key).toBe(value(signatureOf(figure(id))).key);
    }
  });
  it('pulled out from further on keeps at least as many crossings', () => {
    const [rope] = figure('figure-eight').ropes as [Rope];
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: lastAt(rope), noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        (at, more) => {
          const count = (x: number): number => crossingsOf(value(pullOut(figure('figure-eight'), 'a', x))).length;
          expect(count(Math.min(lastAt(rope), at + more))).toBeGreaterThanOrEqual(count(at));
        },
      ),
      { numRuns: 25 },
    );
  });
  it('refuses what is not there, with place and remedy', () => {
    const refused = (r: Result<Figure>): string => (r.ok ? '' : `${r.place}: ${r.reason} ${r.remedy}`);
    expect(refused(cutEye(figure('overhand'), 'a'))).toContain('no loop that is declared to stay');
    expect(refused(cutEye(figure('overhand'), 'z'))).toContain('no such rope');
    expect(refused(pullOut(figure('overhand'), 'a', 999))).toContain('not on the rope');
    expect(refused(withoutRope(figure('overhand'), 'z'))).not.toBe('');
    expect(refused(exchangeEnds(figure('overhand'), 'z'))).not.toBe('');
  });
  it('makes kin, said in a sentence', () => {
    expect(kinshipOf(figure('bowline'), book).map(sayKinship)).toEqual([
      'Cut its loop and it is the sheet bend knot, of the other hand.',
    ]);
    expect(kinshipOf(figure('overhand'), book)).toEqual([]);
  });
});

describe('Taking out what it is tied to', () => {
  it('spills the clove hitch, and is no question where there is nothing', () => {
    expect(spillTest(figure('clove-hitch'))).toEqual([jasmine.objectContaining({ host: 'spar', spills: true })]);
    expect(spillTest(figure('overhand'))).toEqual([]);
  });
});

describe('A mistake told to learners', () => {
  it('says what lies over what in the picture that is shown, which is the other way than in the knot', () => {
    for (const id of ['reef', 'bowline', 'clove-hitch']) {
      const right = figure(id);
      for (const { number } of crossingsOf(right)) {
        const told = tellMistake(right, [number], 'Named knot', WORKSHOP_WORDS);
        expect(told).toBe(
          `Here ${sayCrossing(flipped(right, [number]), number, WORKSHOP_WORDS)}; in the named knot it lies under.`,
        );
        // What is said of the wrong picture is not what is said of the right one, and names nothing that is not drawn.
        expect(told).not.toContain(sayCrossing(right, number, WORKSHOP_WORDS));
        expect(told).not.toMatch(/\d|laid (?:first|last)/);
      }
    }
  });
});
