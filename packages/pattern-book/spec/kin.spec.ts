import {
  crossingsOf,
  derivingTurns,
  discovering,
  deriving,
  doubled,
  drive,
  finishedFigure,
  KIN_KINDS,
  kinKnot,
  mirror,
  proveKin,
  pulledThrough,
  readKnot,
  readMap,
  signatureOf,
  slippedForm,
  stepsOf,
  turnsIn,
  withKeeper,
  withoutTurn,
  withTurns,
  writeKnot,
  type Derived,
  type Figure,
  type KinKind,
} from '@foxtrail/core';
import { BOOK_KIN, patternKeys, patternKin, patternOf, patterns } from '../src/index.js';

const key = (f: Figure): string => {
  const found = signatureOf(f);
  if (!found.ok) throw new Error(found.reason);
  return found.value.key;
};
const figureOf = (id: string): Figure => finishedFigure(patternOf(id)!.knot.method);
const kin = (id: string) => patternKin(id)!;
const prove = (kind: KinKind, from: string, to: string, more?: number) => proveKin(kind, kin(from), kin(to), more);

describe('The kin of the book', () => {
  for (const { from, to, kind, judged } of BOOK_KIN)
    it(`${from} → ${to} (${kind}) is proved, or judged and not refuted`, () => {
      const proof = prove(kind, from, to);
      expect(proof.state).toBe(judged === undefined ? (kind === 'mistaken for' ? proof.state : 'proved') : 'open');
      expect(proof.state).not.toBe('refuted');
    });

  it('has more than a dozen proved relations', () => {
    expect(BOOK_KIN.filter((r) => r.judged === undefined && r.kind !== 'mistaken for').length).toBeGreaterThan(12);
  });

  it('names patterns that there are, each pair once a kind', () => {
    for (const { from, to } of BOOK_KIN) expect([patternOf(from), patternOf(to)]).not.toContain(undefined);
    expect(new Set(BOOK_KIN.map((r) => `${r.from} ${r.to} ${r.kind}`)).size).toBe(BOOK_KIN.length);
  });
});

describe('A relation that is not so', () => {
  const wrong: readonly (readonly [KinKind, string, string])[] = [
    ['mirrored', 'reef', 'granny'],
    ['mirrored', 'clove-hitch', 'cow-hitch'],
    ['ends exchanged', 'reef', 'granny'],
    ['same structure', 'bowline', 'carrick-bend'],
    ['doubled on the bight', 'overhand', 'eight-on-the-bight'],
    ['followed', 'figure-eight', 'water-knot'],
    ['followed', 'overhand', 'figure-eight'],
    ['one more turn', 'sheet-bend', 'followed-eight'],
  ];
  for (const [kind, from, to] of wrong)
    it(`is refuted: ${from} → ${to} (${kind})`, () => {
      expect(prove(kind, from, to).state).toBe('refuted');
    });

  it('is refuted between a knot and itself, whatever it is, but for a knot that is its own mirror image', () => {
    for (const kind of KIN_KINDS) {
      const own = prove(kind, 'clove-hitch', 'clove-hitch').state;
      expect(own === 'refuted' || ((kind === 'made into' || kind === 'finished with') && own === 'open'))
        .withContext(kind)
        .toBeTrue();
    }
    expect(prove('mirrored', 'reef', 'reef').state).toBe('proved');
  });

  it('counts turns: three turns are one more than two, and two more than one, but not one more than one', () => {
    expect(prove('one more turn', 'double-overhand', 'triple-overhand').state).toBe('proved');
    expect(prove('one more turn', 'overhand', 'triple-overhand', 2).state).toBe('proved');
    expect(prove('one more turn', 'overhand', 'triple-overhand').state).not.toBe('proved');
    expect(prove('one more turn', 'triple-overhand', 'double-overhand').state).not.toBe('proved');
  });

  it('stays open where the drawing gives nothing to compare', () => {
    expect(prove('slipped', 'reef', 'granny').state).toBe('open');
  });
});

describe('Mirroring a knot', () => {
  it('proves that chiral knots and their mirror images are kin, and that nothing else is', () => {
    for (const { id, knot } of patterns()) {
      const own = kinKnot(knot.name, knot.method);
      const turned = { ...own, figure: mirror(own.figure) };
      expect(proveKin('mirrored', own, turned).state)
        .withContext(id)
        .toBe('proved');
    }
  });
});

describe('Turns', () => {
  it('taken out leave a figure whose crossings are some of those that were there', () => {
    for (const id of ['double-overhand', 'double-sheet-bend', 'rolling-hitch', 'stevedore']) {
      const figure = figureOf(id);
      for (const turn of turnsIn(figure)) {
        const left = withoutTurn(figure, turn);
        if (!left) continue;
        expect(readMap(left).ok).toBeTrue();
        expect(crossingsOf(left).length).toBeLessThan(crossingsOf(figure).length);
      }
    }
  });

  it('laid again and taken out again leave the knot as it was', () => {
    for (const id of ['sheet-bend', 'clove-hitch', 'noose']) {
      const figure = figureOf(id);
      const turn = turnsIn(figure).find((t) => {
        const [one, two] = [withTurns(figure, t), withTurns(figure, t, 2)];
        return t.times === 1 && one.ok && two.ok && key(one.value.figure) !== key(figure);
      })!;
      for (const more of [1, 2]) {
        const made = withTurns(figure, turn, more);
        if (!made.ok) throw new Error(made.reason);
        expect(
          proveKin('one more turn', { ...kin(id) }, { name: 'more', figure: made.value.figure, bights: [] }, more)
            .state,
        )
          .withContext(`${id} ${more}`)
          .toBe('proved');
      }
    }
  });

  it('make the double of the sheet bend, the rolling hitch of the clove hitch, three turns of two', () => {
    const made = (id: string): string[] => {
      const figure = figureOf(id);
      return turnsIn(figure).flatMap((t) => {
        const more = withTurns(figure, t);
        return more.ok ? [key(more.value.figure)] : [];
      });
    };
    expect(made('sheet-bend')).toContain(key(figureOf('double-sheet-bend')));
    expect(made('clove-hitch')).toContain(key(figureOf('rolling-hitch')));
    expect(made('double-overhand')).toContain(key(figureOf('triple-overhand')));
    expect(made('two-half-hitches')).toContain(key(figureOf('round-turn-two-half-hitches')));
  });

  it('are refused with a reason when their number cannot be laid', () => {
    const figure = figureOf('sheet-bend');
    const turn = turnsIn(figure)[0]!;
    for (const more of [0, 7, 1.5]) expect(withTurns(figure, turn, more).ok).toBeFalse();
    expect(withTurns(figure, { ...turn, rope: 'z' }, 1).ok).toBeFalse();
  });
});

describe('Doubling', () => {
  it('makes the water knot of the overhand and the eight loop of the eight', () => {
    const water = doubled(figureOf('overhand'), 'bend');
    const loop = doubled(figureOf('figure-eight'), 'loop');
    expect(water.ok && key(water.value.figure)).toBe(key(figureOf('water-knot')));
    expect(loop.ok && key(loop.value.figure)).toBe(key(figureOf('eight-on-the-bight')));
  });

  it('makes four crossings of one', () => {
    for (const id of ['overhand', 'double-overhand', 'figure-eight', 'stevedore']) {
      const figure = figureOf(id);
      const made = doubled(figure, 'bend');
      expect(made.ok && crossingsOf(made.value.figure).length).toBe(4 * crossingsOf(figure).length);
    }
  });

  it('is refused for what is no knot in one rope', () => {
    for (const id of ['reef', 'bowline', 'prusik']) expect(doubled(figureOf(id), 'loop').ok).toBeFalse();
  });
});

describe('A slipped form', () => {
  it('pulled through is the knot again', () => {
    for (const [id, rope] of [
      ['reef', 'b'],
      ['sheet-bend', 'b'],
      ['clove-hitch', 'a'],
      ['figure-eight', 'a'],
      ['two-half-hitches', 'a'],
    ] as const) {
      const made = slippedForm(figureOf(id), rope);
      if (!made.ok) throw new Error(`${id}: ${made.reason}`);
      const through = pulledThrough(made.value.figure, made.value.bight);
      expect(through && key(through))
        .withContext(id)
        .toBe(key(figureOf(id)));
    }
  });

  it('is refused for a rope without a tail', () => {
    expect(slippedForm(figureOf('butterfly'), 'a').ok).toBeFalse();
    expect(slippedForm(figureOf('reef'), 'nowhere').ok).toBeFalse();
  });
});

describe('A keeper', () => {
  it('goes round the standing part beside the knot and leaves the knot when it is drawn back', () => {
    for (const [id, rope, turns] of [
      ['sheet-bend', 'b', 1],
      ['bowline-outside', 'a', 2],
      ['followed-eight', 'a', 1],
    ] as const) {
      const made = withKeeper(figureOf(id), rope, turns);
      if (!made.ok) throw new Error(`${id}: ${made.reason}`);
      expect(proveKin('backed up with', kin(id), { name: 'kept', figure: made.value.figure, bights: [] }).state)
        .withContext(id)
        .toBe('proved');
    }
  });

  it('is refused where the tail cannot reach the standing part', () => {
    expect(withKeeper(figureOf('bowline'), 'a', 1).ok).toBeFalse();
  });
});

describe('Knots derived from the book', () => {
  const all = (id: string): readonly Derived[] => drive(deriving(patternOf(id)!.knot, patternKeys()));

  it('are figure files that can be read again, with steps, proved each', () => {
    for (const id of ['overhand', 'double-sheet-bend', 'clove-hitch'])
      for (const d of all(id)) {
        const read = readKnot(writeKnot(d.knot));
        expect(read.ok).withContext(`${id}: ${d.says}`).toBeTrue();
        expect(stepsOf(d.knot.method).length).toBeGreaterThan(1);
        expect(d.proof.state).toBe('proved');
        if (d.known) expect(key(finishedFigure(d.knot.method))).toBe(key(figureOf(d.known.id)));
      }
  });

  it('are called what the book calls them, else after what they come from', () => {
    expect(all('overhand').map((d) => d.knot.name)).toContain('Water knot');
    const [triple] = all('double-sheet-bend');
    expect(triple?.knot.name).toBe('Triple sheet bend');
    expect(triple?.knot.entry.summary).toBe('The triple sheet bend is the double sheet bend with one more turn.');
  });

  it('with several turns more say how many', () => {
    const knot = patternOf('sheet-bend')!.knot;
    const once = all('sheet-bend').find((d) => d.known?.id === 'double-sheet-bend')!;
    const made = drive(derivingTurns(knot, once, 2, patternKeys()));
    if (!made.ok) throw new Error(made.reason);
    expect(made.value.count).toBe(2);
    expect(made.value.says).toContain('2 more turns');
  });

  it('with a keeper of two turns instead of one are drawn anew', () => {
    const knot = patternOf('sheet-bend')!.knot;
    const once = all('sheet-bend').find((d) => d.derivation.kind === 'keeper')!;
    const made = drive(derivingTurns(knot, once, 2, patternKeys()));
    if (!made.ok) throw new Error(made.reason);
    expect(made.value.says).toContain('a keeper of 2 turns');
    expect(crossingsOf(made.value.knot.method.figure).length).toBeGreaterThan(
      crossingsOf(once.knot.method.figure).length,
    );
  });

  it('leave behind what was judged and tried of the old knot, and keep what a mirror image is meant to be', () => {
    const { knot } = patternOf('clove-hitch')!;
    const tried = { trial: 'shake it', does: 'holds', by: 'tested', why: 'Shaken.' } as const;
    const entry = { ...knot.entry, claim: 'clove-hitch', judged: { oneHand: true }, behaviour: [tried] };
    for (const { kin: kind, knot: made } of drive(deriving({ ...knot, entry }, patternKeys()))) {
      expect(made.entry.behaviour).withContext(kind).toBeUndefined();
      expect(made.entry.judged).withContext(kind).toBeUndefined();
      if (kind === 'mirrored') expect(made.entry.claim).toBe('clove-hitch');
      else expect(made.entry.claim).not.toBe('clove-hitch');
    }
  });

  it('keep the texts of the steps that are laid as before', () => {
    const [first] = patternOf('noose')!.knot.method.halts;
    const more = all('noose').find((d) => d.kin === 'one more turn');
    expect(more?.knot.method.halts[0]?.text).toBe(first?.text);
  });
});

describe('Discovering kin', () => {
  const ids = [
    'overhand',
    'double-overhand',
    'triple-overhand',
    'water-knot',
    'bowline',
    'sheet-bend',
    'reef',
    'thief',
  ];
  const entries = ids.map((id) => ({ ...kin(id), ref: id }));
  const offersOf = (about?: ReadonlySet<string>): string[] => {
    const offers: string[] = [];
    drive(discovering(entries, (o) => offers.push(`${o.kind}: ${[o.from, o.to].sort().join(' ')}`), about));
    return offers;
  };

  it('finds turns, doubled, exchanged and cut knots that nobody entered, each once, and no turn by way of another', () => {
    expect(offersOf()).toEqual(
      jasmine.arrayWithExactContents([
        'one more turn: double-overhand overhand',
        'one more turn: double-overhand triple-overhand',
        'followed: overhand water-knot',
        'ends exchanged: reef thief',
        'same structure: bowline sheet-bend',
        'made into: overhand triple-overhand',
      ]),
    );
  });

  it('proves what it offers', () => {
    drive(
      discovering(entries, ({ kind, from, to }) => {
        expect(proveKin(kind, kin(from), kin(to)).state)
          .withContext(`${kind} ${from} ${to}`)
          .toBe('proved');
      }),
    );
  });

  it('keeps to the knots it is asked about, and finds a mirror image', () => {
    expect(offersOf(new Set(['thief']))).toEqual(['ends exchanged: reef thief']);
    const bowline = kin('bowline');
    const both = [
      { ...bowline, ref: 'right' },
      { ...bowline, figure: mirror(bowline.figure), ref: 'left' },
    ];
    const kinds: string[] = [];
    drive(discovering(both, (o) => kinds.push(o.kind)));
    expect(kinds).toEqual(['mirrored']);
  });
});
