import {
  deriving,
  derivingOne,
  drive,
  finishedFigure,
  KeyBook,
  keysOf,
  lastAt,
  mirror,
  readKnot,
  signatureOf,
  stepsOf,
  writeKnot,
  type Derivation,
  type Derived,
  type Figure,
  type KnotDocument,
  type Method,
} from '../../src/index.js';
import { openKnot } from '../support/figures.js';

const BOOK = ['overhand', 'bowline', 'sheet-bend', 'clove-hitch', 'rolling-hitch', 'water-knot'];
const keyOf = (f: Figure): string => {
  const found = signatureOf(f);
  if (!found.ok) throw new Error(found.reason);
  return found.value.key;
};
const finished = (k: KnotDocument): Figure => finishedFigure(k.method);
const book = new KeyBook(
  BOOK.map((id) => {
    const knot = openKnot(`${id}.json`);
    const keys = keysOf(finished(knot));
    if (!keys.ok) throw new Error(keys.reason);
    return { id, name: knot.name, ...keys.value };
  }),
);
const one = (knot: KnotDocument, derivation: Derivation): Derived => {
  const made = drive(derivingOne(knot, derivation, book));
  if (!made.ok) throw new Error(`${made.place}: ${made.reason}`);
  return made.value;
};

describe('A knot made from another', () => {
  it('is a whole knot: it can be written and read, has steps, is proved kin, and is not the knot it came from', () => {
    for (const file of ['overhand', 'clove-hitch']) {
      const knot = openKnot(`${file}.json`);
      const all = drive(deriving(knot, book));
      expect(all.length).withContext(file).toBeGreaterThan(3);
      const kinds = all.map((d) => `${d.kin} ${keyOf(finished(d.knot))}`);
      expect(new Set(kinds).size).withContext(file).toBe(kinds.length);
      for (const d of all) {
        expect(readKnot(writeKnot(d.knot)).ok)
          .withContext(d.says)
          .toBeTrue();
        expect(stepsOf(d.knot.method).length).withContext(d.says).toBeGreaterThan(0);
        expect(d.proof.state).withContext(d.says).toBe('proved');
        expect(keyOf(finished(d.knot)))
          .withContext(d.says)
          .not.toBe(keyOf(finished(knot)));
      }
    }
  });

  it('of the same kind comes first where it has a name', () => {
    const all = drive(deriving(openKnot('clove-hitch.json'), book)).filter((d) => d.kin === 'one more turn');
    const named = all.map((d) => d.known !== undefined);
    expect(named).toContain(true);
    expect(named).toEqual([...named].sort((a, b) => Number(b) - Number(a)));
    expect(all[0]?.known?.id).toBe('rolling-hitch');
    expect(all[0]?.knot.name).toBe(openKnot('rolling-hitch.json').name);
    expect(all[0]?.knot.entry.claim).toBe('rolling-hitch');
  });

  it('mirrored is its mirror image, under the name of the left hand, and meant to be what the knot is meant to be', () => {
    const knot = openKnot('bowline.json');
    const made = one({ ...knot, entry: { ...knot.entry, claim: 'bowline' } }, { kind: 'mirrored' });
    expect(keyOf(finished(made.knot))).toBe(keyOf(mirror(finished(knot))));
    expect(made.kin).toBe('mirrored');
    expect(made.knot.name).toContain('left');
    expect(made.knot.entry.claim).toBe('bowline');
  });

  it('followed back by a second rope is the water knot of an overhand, and says what was done', () => {
    const made = one(openKnot('overhand.json'), { kind: 'doubled', as: 'bend' });
    expect(made.known?.id).toBe('water-knot');
    expect(made.kin).toBe('followed');
    expect(made.knot.method.figure.ropes.length).toBe(2);
    expect(made.says).toBe('Followed back by a second rope');
    expect(one(openKnot('overhand.json'), { kind: 'doubled', as: 'loop' }).kin).toBe('doubled on the bight');
  });

  it('slipped is called so, and nobody has judged it yet', () => {
    const knot = openKnot('overhand.json');
    const id = knot.method.figure.ropes[0]!.id;
    const judged = { ...knot, entry: { ...knot.entry, useGrade: 'load-bearing', judged: { oneHand: true } } } as const;
    const slipped = one(judged, { kind: 'slipped', rope: id });
    expect(slipped.knot.name).toBe(`${knot.name}, slipped`);
    expect(slipped.kin).toBe('slipped');
    expect(slipped.known).toBeUndefined();
    expect(slipped.knot.entry.useGrade).toBe('light duty');
    expect(slipped.knot.entry.judged).toBeUndefined();
    expect(slipped.knot.entry.claim).toBe('none');
    expect(slipped.knot.entry.summary).toContain(knot.name.toLowerCase());
  });

  it('is refused with a reason where it cannot be made', () => {
    const made = drive(derivingOne(openKnot('reef.json'), { kind: 'doubled', as: 'loop' }, book));
    expect(made.ok).toBeFalse();
    const none = drive(derivingOne(openKnot('overhand.json'), { kind: 'slipped', rope: 'none' }, book));
    expect(none.ok).toBeFalse();
  });
  it('with a keeper is laid to its rope’s end, its halts in the order of the trail', () => {
    const of = openKnot('water-knot.json');
    const made = of.method.figure.ropes.map((r) => one(of, { kind: 'keeper', rope: r.id, turns: 1 }));
    for (const { derivation, knot } of made) {
      const rope = derivation.kind === 'keeper' ? derivation.rope : '';
      const { leaders, halts, figure } = knot.method;
      const own = halts.filter((h) => leaders[h.leader]?.rope === rope).map((h) => h.at);
      expect(own).toEqual([...own].sort((p, q) => p - q));
      expect(own.at(-1)).toBeCloseTo(lastAt(figure.ropes.find((r) => r.id === rope)!), 3);
    }
  });
  it('with the ends of one rope exchanged lays that from its other end, and the other ropes as before', () => {
    const knot = openKnot('reef.json');
    const [kept, turned] = knot.method.figure.ropes.map((r) => r.id);
    const made = one(knot, { kind: 'ends exchanged', ropes: [turned!] }).knot.method;
    const places = (method: Method, rope: string): number[] =>
      method.halts.filter((h) => method.leaders[h.leader]?.rope === rope).map((h) => h.at);
    expect(places(made, kept!)).toEqual(places(knot.method, kept!));
    const end = lastAt(knot.method.figure.ropes[1]!);
    const back = places(knot.method, turned!).map((at) => end - at);
    // Every halt where it stood, counted from the other end, in the order of the trail; the last at the end, none twice.
    const inside = back.filter((at) => at > 0.5 && at < end - 0.5).sort((p, q) => p - q);
    expect(places(made, turned!)).toEqual([...inside, end]);
    expect(
      made.halts.filter((h) => made.leaders[h.leader]?.rope === turned).every((h) => h.text === undefined),
    ).toBeTrue();
  });
});
