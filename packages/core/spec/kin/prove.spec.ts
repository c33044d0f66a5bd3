import {
  crossingsOf,
  flipped,
  kinKnot,
  mirror,
  proveKin,
  signatureOf,
  withTurns,
  turnsIn,
  type Figure,
  type KinKind,
  type KinKnot,
  type KinProof,
} from '../../src/index.js';
import { EMPTY, openKnot } from '../support/figures.js';

const demo = (file: string): KinKnot => {
  const { name, method } = openKnot(`${file}.json`);
  return kinKnot(name, method);
};
const [overhand, eight, bowline, falseBowline, reef, granny, sheetBend, clove, rolling, water] = [
  'overhand',
  'figure-eight',
  'bowline',
  'false-bowline',
  'reef',
  'granny',
  'sheet-bend',
  'clove-hitch',
  'rolling-hitch',
  'water-knot',
].map(demo) as [KinKnot, KinKnot, KinKnot, KinKnot, KinKnot, KinKnot, KinKnot, KinKnot, KinKnot, KinKnot];
const other = (k: KinKnot, figure: Figure, name = 'Other'): KinKnot => ({ ...k, name, figure });
const keyOf = (f: Figure): string => {
  const found = signatureOf(f);
  return found.ok ? found.value.key : '';
};
const state = (kind: KinKind, from: KinKnot, to: KinKnot, more?: number): KinProof['state'] =>
  proveKin(kind, from, to, more).state;

describe('Kinship that every rigger knows', () => {
  const known: readonly (readonly [KinKind, KinKnot, KinKnot, KinProof['state']])[] = [
    ['one more turn', clove, rolling, 'proved'],
    ['one more turn', rolling, clove, 'open'],
    ['one more turn', clove, overhand, 'refuted'],
    ['one more turn', sheetBend, bowline, 'refuted'],
    ['mistaken for', bowline, falseBowline, 'proved'],
    ['mistaken for', overhand, eight, 'open'],
    ['same structure', bowline, sheetBend, 'proved'],
    ['same structure', sheetBend, bowline, 'proved'],
    ['same structure', overhand, eight, 'refuted'],
    ['followed', overhand, water, 'proved'],
    ['followed', eight, water, 'refuted'],
    ['followed', overhand, clove, 'refuted'],
    ['doubled on the bight', overhand, water, 'refuted'],
    ['mirrored', reef, granny, 'refuted'],
    ['ends exchanged', bowline, overhand, 'refuted'],
    ['slipped', overhand, reef, 'open'],
    ['made into', overhand, bowline, 'open'],
  ];
  for (const [kind, from, to, expected] of known)
    it(`${from.name} → ${to.name} (${kind}) is ${expected}`, () => expect(state(kind, from, to)).toBe(expected));
});

describe('A proof of kinship', () => {
  it('finds a knot of the other hand to be the mirror image, and a handed knot not to be its own', () => {
    expect(state('mirrored', overhand, other(overhand, mirror(overhand.figure)))).toBe('proved');
    expect(state('mirrored', overhand, overhand)).toBe('refuted');
    const turned = proveKin('mirrored', bowline, other(bowline, mirror(bowline.figure)));
    expect(turned.compared).toContain('Mirrored, the bowline is the other.');
  });

  it('is of the knot and not of the drawing: the same knot is no kin of itself', () => {
    for (const kind of ['one more turn', 'ends exchanged', 'same structure', 'mistaken for'] as const) {
      const found = proveKin(kind, overhand, other(overhand, overhand.figure));
      expect(found.state).withContext(kind).toBe('refuted');
      expect(found.compared).toContain('one and the same knot');
    }
    // Words may tell apart what the drawing does not.
    expect(state('made into', overhand, other(overhand, overhand.figure))).toBe('open');
    expect(state('finished with', overhand, other(overhand, overhand.figure))).toBe('open');
  });

  it('names the crossing that one slip of the hand lays wrong, whichever it is', () => {
    for (const { number } of crossingsOf(bowline.figure)) {
      const slip = other(bowline, flipped(bowline.figure, [number]), 'Slip');
      const { state: found, compared } = proveKin('mistaken for', bowline, slip);
      expect(found).toBe('proved');
      const named = Number(/Crossing (\d+)/.exec(compared)?.[1]);
      // Another crossing may make the same knot; the one that is named does.
      expect(proveKin('same structure', slip, other(bowline, flipped(bowline.figure, [named]))).compared).toContain(
        'one and the same knot',
      );
    }
  });

  it('counts the turns it takes out', () => {
    // A turn that changes the knot when it is laid again.
    const turn = turnsIn(clove.figure).find((t) => {
      const [once, twice] = [withTurns(clove.figure, t), withTurns(clove.figure, t, 2)];
      return t.times === 1 && once.ok && twice.ok && keyOf(once.value.figure) !== keyOf(clove.figure);
    })!;
    for (const more of [1, 2]) {
      const made = withTurns(clove.figure, turn, more);
      if (!made.ok) throw new Error(made.reason);
      const turned = other(clove, made.value.figure, 'Turned');
      expect(state('one more turn', clove, turned, more))
        .withContext(`${more}`)
        .toBe('proved');
      expect(state('one more turn', clove, turned, 3 - more))
        .withContext(`not ${3 - more}`)
        .toBe('open');
    }
  });

  it('stays open, and says why, where a figure cannot be read', () => {
    const { state: found, compared } = proveKin('mirrored', other(overhand, EMPTY, 'Nothing'), reef);
    expect(found).toBe('open');
    expect(compared).toContain('The nothing cannot be read');
  });
});
