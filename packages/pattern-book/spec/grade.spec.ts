import { classOf, finishedFigure, keysOf, type KnotDocument } from '@foxtrail/core';
import { gradeFinding, patternKeys, patterns, UNSUITABLE_FOR_PEOPLE, unsuitableReason } from '../src/index.js';

const graded = (knot: KnotDocument, more: object = {}): KnotDocument => ({
  ...knot,
  entry: { ...knot.entry, useGrade: 'people depend on it', ...more },
});
const computed = ({ method }: KnotDocument): Parameters<typeof unsuitableReason>[1] => {
  const figure = finishedFigure(method);
  const keys = keysOf(figure);
  const found = classOf(figure);
  return {
    matches: keys.ok ? patternKeys().named(keys.value.key) : [],
    class: found.ok ? found.value.class : undefined,
  };
};

describe('What may not be graded for people', () => {
  it('names only patterns that are there', () => {
    const ids = patterns().map((p) => p.id);
    for (const id of Object.keys(UNSUITABLE_FOR_PEOPLE)) expect(ids).toContain(id);
  });

  it('is every reef and its lookalikes, cow hitch, noose, slipped form and wrong way; not the bowline, the eight, the butterfly', () => {
    const refused = patterns()
      .filter(({ knot }) => gradeFinding(graded(knot), computed(knot)))
      .map((p) => p.id);
    for (const id of [
      'reef',
      'granny',
      'thief',
      'grief',
      'cow-hitch',
      'sling-hitch',
      'noose',
      'noose-2',
      'slip-knot',
      'false-bowline',
      'false-butterfly',
    ])
      expect(refused).toContain(id);
    for (const id of [
      'bowline',
      'figure-eight',
      'followed-eight',
      'eight-on-the-bight',
      'butterfly',
      'water-knot',
      'double-fishermans',
      'clove-hitch',
      'prusik',
    ])
      expect(refused).not.toContain(id);
  });

  it('goes by what the drawing is, not by what it is called; lesser grades are left alone', () => {
    const reef = patterns().find((p) => p.id === 'reef')!.knot;
    const disguised = { ...graded(reef, { claim: 'none', aliases: [] }), name: 'Crew knot' };
    expect(gradeFinding(disguised, computed(reef))?.severity).toBe('error');
    expect(gradeFinding(disguised, { matches: [] })).toBeUndefined();
    expect(gradeFinding(reef, computed(reef))).toBeUndefined();
  });

  it('knows a slipped finish by its bight, unless the bight is an eye that is meant to stay', () => {
    const { knot } = patterns().find((p) => p.id === 'clove-hitch')!;
    const [rope] = knot.method.figure.ropes;
    const leaders = [...knot.method.leaders, { kind: 'bight' as const, rope: rope!.id, from: 14, to: 18 }];
    const slipped = graded({ ...knot, method: { ...knot.method, leaders } });
    expect(unsuitableReason(slipped, {})).toContain('one pull');
    const figure = { ...knot.method.figure, ropes: [{ ...rope!, eyes: [16] }] };
    expect(unsuitableReason({ ...slipped, method: { ...slipped.method, figure } }, {})).toBeUndefined();
  });
});
