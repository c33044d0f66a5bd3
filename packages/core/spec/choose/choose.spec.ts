import fc from 'fast-check';
import {
  behaviourFindings,
  behaviourOf,
  chooseAmong,
  ropeInKnot,
  traitsOf,
  writeKnot,
  readKnot,
  finishedFigure,
  type Choosable,
  type KnotDocument,
  type Known,
  type Tried,
  type Wishes,
} from '../../src/index.js';
import { drawnFiles, drawnKnot } from '../support/figures.js';

const known = <V>(value: V): Known<V> => ({ value, by: 'judged', why: 'so it is' });
const withRows = (knot: KnotDocument, behaviour: Tried[]): KnotDocument => ({
  ...knot,
  entry: { ...knot.entry, behaviour },
});

describe('Traits', () => {
  it('are computed from the drawing, and say so', () => {
    const clove = traitsOf(drawnKnot('clove-hitch.json'), undefined);
    expect(clove.holds?.value).toBe('an object');
    expect(clove.holds?.by).toBe('computed');
    expect(traitsOf(drawnKnot('bowline.json'), undefined).fixed?.value).toBeTrue();
    expect(traitsOf(drawnKnot('overhand.json'), undefined).holds?.value).toBe('nothing: it stops');
    expect(traitsOf(drawnKnot('sheet-bend.json'), undefined).holds?.value).toBe('another rope');
    // Two ropes joined or a bundle bound: that is its use, so its entry says which.
    expect(traitsOf(drawnKnot('reef.json'), undefined).holds?.value).toBe('a bundle');
  });

  it('keep what is judged apart, with its reason, and leave out what nobody has judged', () => {
    const traits = traitsOf(drawnKnot('bowline.json'), {
      oneHand: true,
      because: { oneHand: 'By a turn of the wrist.' },
    });
    expect(traits.oneHand).toEqual({ value: true, by: 'judged', why: 'By a turn of the wrist.' });
    expect(traits.webbing).toBeUndefined();
  });

  it('measure the rope in a knot between its first and its last crossing', () => {
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      expect(ropeInKnot(finishedFigure(method)))
        .withContext(file)
        .toBeGreaterThan(5);
    }
  });
});

describe('The behaviour table', () => {
  it('computes what is left when the object is taken out', () => {
    const row = (file: string) => behaviourOf(drawnKnot(file)).find((r) => r.trial === 'take the object out');
    expect(row('clove-hitch.json')?.does).toBe('spills');
    expect(row('taut-line-hitch.json')?.does).toBe('holds');
    expect(row('reef.json')).toBeUndefined();
  });

  it('puts what is computed before what was tested, and that before what is judged; one row a trial', () => {
    const knot = withRows(drawnKnot('clove-hitch.json'), [
      { trial: 'take the object out', does: 'holds', by: 'judged', why: 'It looked so.', undo: 'Slide it off.' },
      { trial: 'shake it', does: 'holds', by: 'tested', why: 'A hundred shakes.' },
    ]);
    const table = behaviourOf(knot, { staysWhenShaken: false });
    const taken = table.find((r) => r.trial === 'take the object out');
    expect([taken?.does, taken?.by, taken?.undo]).toEqual(['spills', 'computed', 'Slide it off.']);
    expect(table.find((r) => r.trial === 'shake it')?.by).toBe('tested');
    expect(new Set(table.map((r) => r.trial)).size).toBe(table.length);
    expect(behaviourFindings(knot).map((f) => f.code)).toEqual(['behaviour-contradicts']);
    expect(behaviourFindings(drawnKnot('clove-hitch.json'))).toEqual([]);
  });

  it('goes with the figure file and back', () => {
    const knot = withRows(drawnKnot('reef.json'), [{ trial: 'wet it', does: 'slips', by: 'tested', why: 'In rain.' }]);
    const read = readKnot(writeKnot(knot));
    expect(read.ok && read.value.entry.behaviour).toEqual(knot.entry.behaviour);
    const spoilt = { ...writeKnot(knot), entry: { behaviour: [{ trial: 'sing to it', does: 'holds' }] } };
    expect(readKnot(spoilt).ok).toBeFalse();
  });
});

describe('Choosing', () => {
  const list: readonly Choosable[] = [
    { ref: 'fits', traits: { holds: known('an object' as const), comesUndone: known(true) } },
    { ref: 'half', traits: { holds: known('an object' as const), comesUndone: known(false) } },
    { ref: 'unknown', traits: { holds: known('an object' as const) } },
    {
      ref: 'other',
      traits: { holds: known('another rope' as const), comesUndone: known(true) },
      notForPeople: 'It slips.',
    },
    {
      ref: 'wrong',
      traits: { holds: known('an object' as const), comesUndone: known(true) },
      notToUse: 'A wrong way.',
    },
  ];
  const order = (wishes: Wishes): readonly string[] => chooseAmong(list, wishes).map((a) => a.ref);

  it('ranks what fits first, what is unknown before what speaks against it, and what is ruled out last', () => {
    expect(order({ holds: 'an object', comesUndone: true })).toEqual(['fits', 'unknown', 'half', 'other', 'wrong']);
    expect(chooseAmong(list, { grade: 'people depend on it' }).find((a) => a.ref === 'other')?.ruledOut?.why).toBe(
      'It slips.',
    );
  });

  it('gives a reason for every wish of every knot, or says that it is not known', () => {
    const bool = fc.option(fc.boolean(), { nil: undefined });
    fc.assert(
      fc.property(fc.record({ comesUndone: bool, oneHand: bool, slipped: bool }, { requiredKeys: [] }), (wished) => {
        const wishes = JSON.parse(JSON.stringify(wished)) as Wishes;
        for (const a of chooseAmong(list, wishes)) {
          expect(a.pro.length + a.contra.length + a.unknown.length).toBe(Object.keys(wishes).length);
          for (const r of [...a.pro, ...a.contra]) expect(r.why).not.toBe('');
        }
      }),
    );
  });

  it('leaves the order alone when nothing is wished for', () => {
    expect(order({}).slice(0, 4)).toEqual(['fits', 'half', 'unknown', 'other']);
  });
});
