/**
 * The book is right only when the core proves it: every pattern against facts known apart from our own drawings.
 */
import * as laurent from '@foxtrail/core/laurent';
import {
  backView,
  classOf,
  extentsAt,
  truncate,
  compareFigures,
  crossingsOf,
  cutEye,
  exchangeEnds,
  factsOf,
  figureClosure,
  finishedFigure,
  flipped,
  hitchesAbout,
  KeyBook,
  kinshipOf,
  leaderEnd,
  keeperIn,
  keysOf,
  layoutsOf,
  liftedTangles,
  methodsOf,
  mirror,
  nearestOf,
  needlessCrossings,
  passagesOf,
  pullOut,
  ridingTurns,
  sayExits,
  sayJones,
  sayKinship,
  signatureOf,
  simplify,
  skeinTerms,
  spillTest,
  standingSpan,
  stepsOf,
  stepText,
  strandsAlone,
  windingAbout,
  verdictOf,
  weaveFigure,
  windingOfBundle,
  withoutRope,
  withRope,
  writeKnot,
  readKnot,
  atlasOf,
  findingsOf,
  WORKSHOP_WORDS,
  type Figure,
  type Result,
  type Rope,
  type Signature,
  type Tangle,
  type Verdict,
} from '@foxtrail/core';
import { patternForm } from '../src/forms.js';
import { claimOf, patternOf, patterns, SOURCES, verdictFinding } from '../src/index.js';

function value<T>(r: Result<T>): T {
  if (!r.ok) throw new Error(`${r.place}: ${r.reason}`);
  return r.value;
}
const figure = (id: string): Figure => {
  const p = patternOf(id);
  if (!p) throw new Error(`no pattern ${id}`);
  return p.knot.method.figure;
};
/** The figure as the book lays it, by its own control points, before it is settled. */
const laid = (id: string): Figure => SOURCES.find((p) => p.id === id)!.figure();
const sign = (f: Figure): Signature => value(signatureOf(f));
const key = (f: Figure): string => sign(f).key;
const jones = (f: Figure): string => {
  const c = figureClosure(f);
  if (!c.ok) throw new Error(c.reason);
  return sayJones(c.jones);
};
const hands = (text: string, f: Figure): void => {
  expect([jones(f), jones(mirror(f))]).toContain(text);
};
/** One knot after another: the Jones polynomials multiply. */
const product = (a: Figure, b: Figure): string => {
  const [p, q] = [figureClosure(a), figureClosure(b)];
  if (!p.ok || !q.ok) throw new Error('not closed');
  return sayJones(laurent.times(p.jones, q.jones));
};
const book = new KeyBook(
  patterns().map((p) => ({
    id: p.id,
    name: p.knot.name,
    slipped: SOURCES.some((s) => s.id === p.id && s.slip !== undefined),
    ...value(keysOf(p.knot.method.figure)),
  })),
);

/** Crossings that stay where nothing holds the loops open: none of what is tied without an end. */
const unheld = (f: Figure): number =>
  simplify(liftedTangles({ ...f, ropes: f.ropes.map(({ eyes: _eyes, ...r }) => r) }).held).crossings;

/** A pattern as far as one of its steps lays it. */
const after = (id: string, step: number): Figure => {
  const { method } = patternOf(id)!.knot;
  return truncate(method.figure, extentsAt(method, step - 1, method.halts[step - 1]!.at));
};
/** The patterns that a figure is, a tail laid to the other side at most. */
const kin = (f: Figure): string[] =>
  book
    .matches(sign(f))
    .filter((m) => m.relation !== 'same body, other ends')
    .map((m) => m.id);

/** Patterns with one body and one set of ends: two ways to tie one knot, or a bight drawn through that alone would fall out. */
const TWINS = new Set(['eight-on-the-bight followed-eight', 'half-knot slipped-reef']);

describe('Every pattern', () => {
  it('is there: the first seventy-three and their wrong ways', () => {
    expect(patterns().length).toBeGreaterThanOrEqual(75);
    expect(new Set(patterns().map((p) => p.id)).size).toBe(patterns().length);
  });
  it('is identified as itself and none as another, save two ways to tie one knot', () => {
    for (const p of patterns()) {
      const same = book.named(key(p.knot.method.figure)).map((m) => m.id);
      expect(same).withContext(p.id).toContain(p.id);
      for (const other of same) if (other !== p.id) expect(TWINS).toContain([p.id, other].sort().join(' '));
    }
  });
  it('is the same knot seen from behind, and proved so', () => {
    for (const p of patterns()) {
      const f = p.knot.method.figure;
      expect(key(backView(f)))
        .withContext(p.id)
        .toBe(key(f));
      expect(sign(backView(f)).front).toBe(sign(f).behind);
      const compared = value(compareFigures(f, backView(f)));
      expect(compared.relation).withContext(p.id).toMatch(/^same/);
      expect(compared.proved).withContext(p.id).toBeTrue();
    }
  });
  it('shows its mirror image as one, whenever it has a hand', () => {
    const ambidextrous = patterns()
      .filter((p) => value(compareFigures(mirror(p.knot.method.figure), p.knot.method.figure)).relation !== 'mirror')
      .map((p) => p.id);
    expect(ambidextrous.sort()).toEqual(
      [
        'bowline-led-back',
        'cats-paw',
        'cow-hitch',
        'cow-hitch-ring',
        'eight-bend',
        'eight-on-the-bight',
        'figure-eight',
        'followed-eight',
        'interlocked-overhands-mirrored',
        'prusik',
        'prusik-2',
        'prusik-4',
        'reef',
        'sling-hitch',
        'thief',
      ].sort(),
    );
  });
  it('notices every wrong crossing, save kinks, whose swap changes nothing', () => {
    for (const p of patterns()) {
      const atlas = value(atlasOf(p.knot.method.figure, book));
      const unnoticed = atlas.mistakes.filter((m) => m.outcome === 'same').map((m) => m.crossing);
      const left = simplify(liftedTangles(p.knot.method.figure).held);
      const kinks = left.log.filter((m) => m.kind === 'R1').flatMap((m) => m.crossings.map((c) => c + 1));
      for (const c of unnoticed) expect(kinks).withContext(`${p.id}, crossing ${c}`).toContain(c);
    }
  });
  it('is put in its class by the computation, or says why not', () => {
    // What a knot is used for is not in its shape: bindings are bends, and whether an eye slips is a matter of friction.
    const judged: Readonly<Record<string, string>> = {
      binding: 'bend',
      'false-bowline': 'loop in the end',
    };
    for (const p of patterns()) {
      const found = value(classOf(p.knot.method.figure));
      const stated = p.knot.entry.class;
      expect(found.class)
        .withContext(p.id)
        .toBe((judged[p.id] ?? judged[stated] ?? stated) as typeof found.class);
      if (found.class !== stated) expect(found.undecided).withContext(p.id).toBeDefined();
      expect(found.because.length).toBeGreaterThan(0);
    }
  });
  it('can be written and read back', () => {
    for (const p of patterns()) {
      const again = value(readKnot(JSON.parse(JSON.stringify(writeKnot(p.knot)))));
      expect(key(again.method.figure)).toBe(key(p.knot.method.figure));
      expect(again.method.halts.length).toBe(p.knot.method.halts.length);
    }
  });
  it('has no error among its findings under the default rule, and a text in every step', () => {
    const rules = { tail: { diameters: 12, millimetres: 0 }, cordMm: 10, words: WORKSHOP_WORDS };
    for (const p of patterns()) {
      const found = findingsOf(p.knot.method, rules);
      expect(found.filter((f) => f.severity === 'error').map((f) => f.title))
        .withContext(p.id)
        .toEqual([]);
      expect(found.filter((f) => f.code === 'step-without-text' || f.code === 'rope-after-last-halt'))
        .withContext(p.id)
        .toEqual([]);
    }
  });
  it('that is a wrong way names the knot it is taken for', () => {
    for (const p of patterns())
      if (p.wrongWayOf) {
        expect(patternOf(p.wrongWayOf.id)).withContext(p.id).toBeDefined();
        expect(key(figure(p.wrongWayOf.id))).not.toBe(key(p.knot.method.figure));
      }
  });
});

describe('Overhands', () => {
  it('of n turns are the torus knots of 2n + 1 crossings', () => {
    hands('t + t³ − t⁴', figure('overhand'));
    hands('t² + t⁴ − t⁵ + t⁶ − t⁷', figure('double-overhand'));
    hands('t³ + t⁵ − t⁶ + t⁷ − t⁸ + t⁹ − t¹⁰', figure('triple-overhand'));
  });
  it('with one wrong crossing lose a turn', () => {
    for (const [id, less] of [
      ['double-overhand', 'overhand'],
      ['triple-overhand', 'double-overhand'],
    ] as const)
      for (const m of value(atlasOf(figure(id), book)).mistakes) expect(m.becomes.map((b) => b.id)).toEqual([less]);
    for (const m of value(atlasOf(figure('overhand'), book)).mistakes) expect(m.outcome).toBe('falls apart');
  });
  it('make the noose: its tail’s strand is the stopper, its standing part plain', () => {
    for (const [noose, stopper] of [
      ['noose', 'overhand'],
      ['noose-2', 'double-overhand'],
      ['noose-3', 'triple-overhand'],
    ] as const) {
      const cut = value(cutEye(figure(noose), 'a'));
      const tail = value(withoutRope(cut, 'a'));
      expect([key(figure(stopper)), key(mirror(figure(stopper)))]).toContain(key(tail));
      expect(sign(value(withoutRope(cut, 'b'))).fallsApart).toBeTrue();
    }
  });
  it('of n turns wind the bundle of core and standing part n times', () => {
    for (const [id, n] of [
      ['noose', 1],
      ['noose-2', 2],
      ['noose-3', 3],
    ] as const) {
      // Points 0 to 8 are the standing part as far as the eye, 12 to 14 the core, 22 on the coil.
      const at = (from: number, to: number): { strand: string; from: number; to: number } => ({
        strand: 'a',
        from,
        to,
      });
      const bundle = [at(0, 8), at(11, 14.6)];
      expect(windingOfBundle(laid(id), at(21, Infinity), bundle))
        .withContext(id)
        .toBe(n);
    }
    const f = figure('reef');
    expect(windingOfBundle(f, { strand: 'b', from: 0, to: Infinity }, [])).toBeUndefined();
  });
  it('make the slip knot of the noose with the moving part exchanged', () => {
    expect(key(value(exchangeEnds(figure('noose'), 'a')))).toBe(key(figure('slip-knot')));
    expect(value(compareFigures(figure('noose'), figure('slip-knot'))).relation).toBe('same body, other ends');
  });
  it('followed by a second rope are the water knot', () => {
    for (const other of ['a', 'b'])
      expect([key(figure('overhand')), key(mirror(figure('overhand')))]).toContain(
        key(value(withoutRope(figure('water-knot'), other))),
      );
  });
  it('each round the other rope, are the fisherman’s, of two turns the double one, of three the triple', () => {
    for (const [single, bend] of [
      ['overhand', 'fishermans'],
      ['double-overhand', 'double-fishermans'],
      ['triple-overhand', 'triple-fishermans'],
    ] as const)
      for (const other of ['a', 'b'])
        expect([key(figure(single)), key(mirror(figure(single)))])
          .withContext(bend)
          .toContain(key(value(withoutRope(figure(bend), other))));
  });
  it('of two turns round another rope that runs on are the sliding stopper: alone, the double overhand', () => {
    expect([key(figure('double-overhand')), key(mirror(figure('double-overhand')))]).toContain(
      key(value(withoutRope(figure('sliding-stopper'), 'a'))),
    );
    const f = figure('double-fishermans');
    expect(key(figure('sliding-stopper'))).not.toBe(key(f));
  });
  it('doubled on the bight are the loop, which is the single one when what lies beyond its eye is pulled out', () => {
    const f = figure('overhand-loop');
    expect([key(figure('overhand')), key(mirror(figure('overhand')))]).toContain(
      key(value(pullOut(f, 'a', (f.ropes[0] as Rope).eyes![0]!))),
    );
    expect(value(classOf(f)).class).toBe('loop in the end');
  });
});

describe('The offset overhand bend', () => {
  it('is an overhand in either rope, and the water knot with standing part and tail of one rope exchanged', () => {
    for (const other of ['a', 'b'])
      expect([key(figure('overhand')), key(mirror(figure('overhand')))]).toContain(
        key(value(withoutRope(figure('offset-overhand-bend'), other))),
      );
    const exchanged = value(exchangeEnds(figure('offset-overhand-bend'), 'b'));
    expect([key(figure('water-knot')), key(mirror(figure('water-knot')))]).toContain(key(exchanged));
  });
  it('rolls when its standing parts are pulled apart', () => {
    expect(patternForm('offset-overhand-bend')?.runs).toBeDefined();
  });
});

describe('The three-lobed stopper', () => {
  it('is a noose before its end goes through the loop, and the overhand or the eight with one wrong crossing', () => {
    const open = after('three-lobed-stopper', 2);
    // The loop is what reaches farthest up.
    const { points } = open.ropes[0]!;
    const top = points.reduce((best, [, y], i) => (y < points[best]![1] ? i : best), 0);
    expect(kin(withRope(open, 'a', { eyes: [top] }))).toContain('noose');
    const becomes = value(atlasOf(figure('three-lobed-stopper'), book)).mistakes.flatMap((m) =>
      m.becomes.map((b) => b.id),
    );
    expect(new Set(becomes)).toEqual(new Set(['overhand', 'figure-eight']));
  });
});

describe('Eights', () => {
  it('are the knot of four crossings, which is its own mirror image; the stevedore has six', () => {
    expect(jones(figure('figure-eight'))).toBe('t⁻² − t⁻¹ + 1 − t + t²');
    hands('t⁻⁴ − t⁻³ + t⁻² − 2t⁻¹ + 2 − t + t²', figure('stevedore'));
  });
  it('of a bight about its own standing part is an eight in the part that is loaded, and none in the one that goes on', () => {
    const directed = figure('directional-eight');
    expect(value(classOf(directed)).class).toBe('loop in mid-rope');
    const cut = value(cutEye(directed, 'a'));
    expect(key(value(withoutRope(cut, 'b')))).toBe(key(figure('figure-eight')));
    // The part that goes on slack is no knot of its own.
    expect(simplify(liftedTangles(value(withoutRope(cut, 'a'))).held).crossings).toBe(0);
    expect(unheld(directed)).toBe(0);
    // The butterfly is loaded three ways: it is another loop in mid-rope.
    expect(value(compareFigures(directed, figure('butterfly'))).relation).toBe('different');
  });
  it('with two loops is tied without an end, and either of its halves makes the eight', () => {
    const twin = figure('eight-two-loops');
    const [rope] = twin.ropes as [Rope];
    expect(rope.eyes!.length).toBe(2);
    expect(unheld(twin)).toBe(0);
    expect(value(classOf(twin)).class).toBe('loop in the end');
    // From the standing part to its loop, and from the other loop to the tail, the rope makes an eight.
    const [first, second] = rope.eyes!.map((eye) => value(cutEye(withRope(twin, 'a', { eyes: [eye] }), 'a')));
    for (const part of [withoutRope(first!, 'b'), withoutRope(second!, 'a')])
      expect(key(value(part))).toBe(key(figure('figure-eight')));
    expect(value(compareFigures(twin, figure('bowline-on-the-bight'))).relation).toBe('different');
  });
  it('followed and on the bight are one knot, and the single eight doubled', () => {
    expect(key(figure('followed-eight'))).toBe(key(figure('eight-on-the-bight')));
    for (const id of ['followed-eight', 'eight-on-the-bight']) {
      const [rope] = figure(id).ropes as [Rope];
      expect(key(value(pullOut(figure(id), 'a', rope.eyes![0]!)))).toBe(key(figure('figure-eight')));
    }
    expect(value(compareFigures(figure('followed-eight'), figure('eight-on-the-bight'))).relation).toMatch(/^same/);
  });
  it('followed by a second rope are the bend', () => {
    for (const other of ['a', 'b'])
      expect(key(value(withoutRope(figure('eight-bend'), other)))).toBe(key(figure('figure-eight')));
  });
  it('become what the stevedore is with one wrap less', () => {
    const becomes = value(atlasOf(figure('stevedore'), book)).mistakes.flatMap((m) => m.becomes.map((b) => b.id));
    expect(becomes).toContain('figure-eight');
  });
});

describe('The reef and its kin', () => {
  const trefoil = (): Figure => figure('overhand');
  it('are a left- and a right-handed trefoil one after another; granny two of one hand', () => {
    expect(jones(figure('reef'))).toBe(product(trefoil(), mirror(trefoil())));
    hands(product(trefoil(), trefoil()), figure('granny'));
  });
  it('all differ; thief and grief are reef and granny with other ends', () => {
    expect(new Set(['reef', 'granny', 'thief', 'grief'].map((id) => key(figure(id)))).size).toBe(4);
    for (const [a, b] of [
      ['reef', 'thief'],
      ['granny', 'grief'],
    ] as const) {
      expect(value(compareFigures(figure(a), figure(b))).relation).toBe('same body, other ends');
      for (const rope of ['a', 'b']) expect(key(value(exchangeEnds(figure(a), rope)))).toBe(key(figure(b)));
    }
  });
  it('lose one of two halves with any one wrong crossing', () => {
    for (const m of value(atlasOf(figure('reef'), book)).mistakes)
      expect(m.becomes.map((b) => b.id)).toEqual(['half-knot']);
  });
  it('are three wrong crossings apart, reef from granny', () => {
    const turned = [
      [4, 5, 6],
      [1, 2, 3],
    ].map((set) => key(flipped(figure('reef'), set)));
    expect(turned.every((k) => book.named(k).some((m) => m.id === 'granny'))).toBeTrue();
  });
});

describe('Hitches made of half hitches', () => {
  it('hold nothing alone: a half hitch falls off when its spar is taken out', () => {
    expect(spillTest(figure('half-hitch')).map((s) => s.spills)).toEqual([true]);
    expect(spillTest(figure('clove-hitch-backed')).map((s) => s.spills)).toEqual([false]);
  });
  it('are the clove hitch before it is backed', () => {
    expect(kin(after('clove-hitch-backed', 2))).toContain('clove-hitch');
  });
  it('make the munter, which is the cow hitch but for one crossing, and either of whose parts may take the load', () => {
    const munter = figure('munter-hitch');
    expect(spillTest(munter).map((s) => s.spills)).toEqual([true]);
    const one = crossingsOf(munter).filter((c) =>
      book.matches(sign(flipped(munter, [c.number]))).some((m) => m.id === 'cow-hitch-ring'),
    );
    // Whichever of its two parts is led the other way past the bight.
    expect(one.length).toBe(2);
    const [rope] = munter.ropes;
    const other = {
      ...munter,
      ropes: [{ ...rope!, points: [...rope!.points].reverse(), weave: Array.from(rope!.weave).reverse().join('') }],
    };
    expect(value(compareFigures(munter, other)).relation).toMatch(/^same/);
  });
  it('hang from metal as from wood: the clove with both its parts down is two turns the same way, the cow two that cancel', () => {
    for (const id of ['clove-hitch-carabiner', 'cow-hitch-ring']) {
      const { hosts, ropes } = figure(id);
      expect(spillTest(figure(id)).map((s) => s.spills))
        .withContext(id)
        .toEqual([true]);
      // Of a closed host the bar alone is gone round: in its place lies a spar.
      const bar: Figure = {
        ropes,
        hosts: hosts.map(({ id: host }) => ({
          id: host,
          kind: 'spar',
          points: [
            [-40, -0.4],
            [40, -0.4],
          ],
        })),
      };
      expect(Math.round(Math.abs(windingAbout(bar, 'a', hosts[0]!.id))))
        .withContext(id)
        .toBe(id === 'cow-hitch-ring' ? 0 : 3);
    }
  });
  it('are the cow hitch when a sling’s loaded bight is cut', () => {
    const f = figure('sling-hitch');
    const open = f.ropes.map((r): Rope => {
      const { eyes: _eyes, ...bare } = r;
      return { ...bare, closed: false, ends: ['standing', 'tail'] };
    });
    expect(kin({ ...f, ropes: open })).toContain('cow-hitch');
  });
});

describe('Bowlines that are more', () => {
  it('are the bowline before the tail is kept, or led back', () => {
    for (const id of ['bowline-backed', 'bowline-led-back']) {
      expect(kin(after(id, 4)))
        .withContext(id)
        .toContain('bowline');
      expect(kin(figure(id)))
        .withContext(id)
        .not.toContain('bowline');
    }
  });
  it('have a keeper that winds the leg of the eye twice', () => {
    const keeper = keeperIn(figure('bowline-backed'), (left) => key(left) === key(figure('bowline')));
    expect(keeper).toEqual(jasmine.objectContaining({ turns: 2 }));
  });
  it('leave the tail beside the standing part where it is led back', () => {
    expect(sayExits(figure('bowline-led-back')).join(' ')).toContain('beside its standing part');
  });
  it('have two loops, and rope runs from the one to the other', () => {
    const f = figure('bowline-two-loops');
    expect(f.ropes[0]?.eyes?.length).toBe(2);
    for (const eye of f.ropes[0]?.eyes ?? []) expect(key(withRope(f, 'a', { eyes: [eye] }))).not.toBe(key(f));
    expect(patternForm('bowline-two-loops')?.runs).toBeDefined();
  });
  it('are the bowline with its tail outside, where it is slipped, once the end is pulled through to where its bight turns', () => {
    const { method } = patternOf('slipped-bowline')!.knot;
    const bight = method.leaders.findIndex((l) => l.kind === 'bight');
    const through = value(pullOut(method.figure, 'a', leaderEnd(method, bight)));
    expect([key(figure('bowline-outside')), key(mirror(figure('bowline-outside')))]).toContain(key(through));
    // And a bight that nobody holds is none: drawn out by its tail it is what was there before.
    const drawnOut = truncate(method.figure, extentsAt(method, 2, method.halts[2]!.at));
    expect(key(method.figure)).toBe(key(drawnOut));
    expect(key(through)).not.toBe(key(drawnOut));
  });
});

describe('Quick release', () => {
  it('of three bights lets everything fall once the last of them is not held', () => {
    const f = figure('quick-release-hitch');
    expect(sign(f).fallsApart).toBeFalse();
    expect(sign(withRope(f, 'a', { eyes: [] })).fallsApart).toBeTrue();
  });
  it('by a stopper is nothing but one half hitch before that is tied: the end round the standing part once', () => {
    const hitched = after('falling-release-hitch', 2);
    const [rope] = hitched.ropes as [Rope];
    const standing = standingSpan(hitched, rope);
    const span = { ...standing, from: standing.to, to: Infinity };
    expect(hitchesAbout(hitched, span, standing)?.turns).toBe(1);
    expect(kin(hitched)).not.toContain('falling-release-hitch');
  });
});

describe('The running bowline', () => {
  it('is the bowline once its standing part lies beside the eye and not in it', () => {
    // The two legs of the bowline's own eye are what the standing part meets first: once under, once over, it goes through.
    const f = laid('running-bowline');
    const eye = 26;
    const beside = (number: number): Figure => {
      const other = flipped(f, [number]);
      return { ...other, ropes: other.ropes.map((r): Rope => ({ ...r, eyes: [eye] })) };
    };
    for (const number of [1, 2])
      expect(book.matches(sign(beside(number))).map((m) => m.id)).toContain('bowline-outside');
  });
  it('is no shape that stays: its class is the noose', () => {
    expect(value(classOf(figure('running-bowline'))).class).toBe('noose');
  });
});

describe('The bowline on the bight', () => {
  it('is tied without an end: let go of its two loops and nothing is left of it', () => {
    const f = figure('bowline-on-the-bight');
    const bare = { ...f, ropes: f.ropes.map(({ eyes: _eyes, ...rope }): Rope => rope) };
    expect(sign(bare).fallsApart).toBeTrue();
    expect(sign(f).fallsApart).toBeFalse();
    expect(f.ropes[0]?.eyes?.length).toBe(2);
  });
  it('is another knot with either of its loops let go', () => {
    const f = figure('bowline-on-the-bight');
    for (const eye of f.ropes[0]?.eyes ?? []) {
      const one = { ...f, ropes: f.ropes.map((rope): Rope => ({ ...rope, eyes: [eye] })) };
      expect(key(one)).not.toBe(key(f));
    }
  });
});

describe('Interlocked overhands', () => {
  const hand = (id: string, taken: string): 'own' | 'other' | undefined => {
    const left = key(value(withoutRope(figure(id), taken)));
    return left === key(figure('overhand')) ? 'own' : left === key(mirror(figure('overhand'))) ? 'other' : undefined;
  };
  it('are an overhand in each rope: both of one hand, or one of each', () => {
    const hands = (id: string): (string | undefined)[] => ['a', 'b'].map((rope) => hand(id, rope)).sort();
    expect(new Set(hands('interlocked-overhands')).size).toBe(1);
    expect(hands('interlocked-overhands')).not.toContain(undefined);
    expect(hands('interlocked-overhands-mirrored')).toEqual(['other', 'own']);
  });
  it('are two bends, neither the mirror image of the other', () => {
    const [one, other] = [figure('interlocked-overhands'), figure('interlocked-overhands-mirrored')];
    for (const f of [other, mirror(other)]) expect(key(f)).not.toBe(key(one));
  });
});

describe('Anchor hitch and cat’s paw', () => {
  it('lose the turn that holds the end down with one wrong crossing: a round turn and two half hitches is left', () => {
    const f = figure('anchor-hitch');
    const becomes = crossingsOf(f).flatMap(({ number }) => book.matches(sign(flipped(f, [number]))).map((m) => m.id));
    expect(becomes).toContain('round-turn-two-half-hitches');
    expect(book.matches(sign(f)).map((m) => m.id)).not.toContain('round-turn-two-half-hitches');
  });
  it('leave, the bar taken out, a noose about the standing part and nothing at all', () => {
    expect(spillTest(figure('anchor-hitch')).map((s) => s.spills)).toEqual([false]);
    expect(spillTest(figure('cats-paw')).map((s) => s.spills)).toEqual([true]);
  });
});

describe('Kinship', () => {
  const said = (id: string): string => kinshipOf(figure(id), book).map(sayKinship).join(' ');
  it('is found by one change of structure', () => {
    expect(said('bowline')).toContain('Cut its loop and it is the sheet bend, of the other hand.');
    expect(said('reef')).toContain('Exchange standing part and tail of the pale rope and it is the thief knot.');
    expect(said('noose')).toContain('Exchange standing part and tail and it is the slip knot.');
    expect(said('eight-on-the-bight')).toContain('Pull out what lies beyond its loop and it is the figure eight knot.');
    expect(said('water-knot')).toMatch(/Take out the dark rope and it is the overhand knot/);
  });
  it('is not claimed where nothing known comes out', () => {
    expect(said('carrick-bend')).toBe('');
    expect(said('overhand')).toBe('');
  });
});

describe('Exits', () => {
  it('of the reef and the sheet bend have both tails on one side, of the thief and the carrick on opposite sides', () => {
    const tails = (id: string): string => sayExits(figure(id)).at(-1)!;
    for (const id of ['reef', 'granny', 'sheet-bend']) expect(tails(id)).withContext(id).toContain('the same side');
    for (const id of ['thief', 'grief', 'carrick-bend', 'water-knot'])
      expect(tails(id)).withContext(id).toContain('opposite sides');
  });
  it('tell the bowline’s tail inside its loop from the one outside', () => {
    expect(sayExits(figure('bowline'))).toContain('The tail lies inside the loop.');
    expect(sayExits(figure('bowline-outside'))).toContain('The tail lies outside the loop.');
  });
  it('of a followed eight leave together', () => {
    expect(sayExits(figure('followed-eight'))[0]).toContain('beside its standing part');
  });
});

describe('Hard cases', () => {
  const verdict = (f: Figure): Verdict =>
    value(verdictOf(f, { id: 'reef', name: 'Reef knot', figure: figure('reef') }, book));
  const rope = (id: string, points: readonly (readonly [number, number])[], more: Partial<Rope> = {}): Rope => ({
    id,
    points,
    curve: 'straight',
    closed: false,
    ends: ['standing', 'tail'],
    weave: '',
    ...more,
  });
  it('nothing but a host, and nothing at all, have no verdict but a reason', () => {
    for (const f of [
      { ropes: [], hosts: [] },
      { ropes: [], hosts: figure('clove-hitch').hosts },
    ]) {
      const found = verdictOf(f, undefined, book);
      expect(found.ok).toBeFalse();
      expect(found.ok ? '' : found.remedy).not.toBe('');
    }
  });
  it('a rope that crosses nothing falls apart, also where a knot is claimed', () => {
    const plain: Figure = {
      ropes: [
        rope('a', [
          [-9, 0],
          [9, 0],
        ]),
      ],
      hosts: [],
    };
    expect(verdict(plain).headline).toBe('It is not the reef knot: it falls apart.');
    expect(value(verdictOf(plain, undefined, book)).state).toBe('unknown');
  });
  it('two linked rings are no knot that was claimed, and no pattern', () => {
    const ring = (id: string, x: number): Rope =>
      rope(
        id,
        [
          [x - 4, -4],
          [x + 4, -4.2],
          [x + 4.1, 4],
          [x - 4.1, 4.1],
        ],
        { closed: true },
      );
    const linked = weaveFigure({ ropes: [ring('a', 0), ring('b', 3)], hosts: [] }, (m) => m.point[1] < 0);
    expect(verdict(linked).state).toBe('fails');
    expect(value(verdictOf(linked, undefined, book)).matches).toEqual([]);
    const apart = weaveFigure({ ropes: [ring('a', 0), ring('b', 3)], hosts: [] }, () => true);
    expect(key(apart)).not.toBe(key(linked));
  });
  it('a knot beside a plain rope is not the knot', () => {
    const f = figure('overhand');
    const beside: Figure = {
      ...f,
      ropes: [
        ...f.ropes,
        rope('z', [
          [-20, 30],
          [20, 30.5],
        ]),
      ],
    };
    expect(book.named(key(beside))).toEqual([]);
  });
  it('an end that is shut in is led out, and the knot is still known by one of the two ways', () => {
    const f = laid('overhand');
    const [r] = f.ropes as [Rope];
    const short = value(pullOut(f, 'a', r.points.length - 4.2));
    // Led out over, the end makes its last crossing again; led out under it makes another: one vector of the pair agrees.
    expect(book.matches(sign(short))).toContain(
      jasmine.objectContaining({ id: 'overhand', relation: 'same, a tail laid to the other side' }),
    );
  });
  it('two entries with one signature are both named', () => {
    const found = value(verdictOf(figure('followed-eight'), undefined, book));
    expect(found.headline).toContain('Figure eight on the bight and Followed figure eight are one knot');
  });
  it('what is in no book is shown beside what is most like it', () => {
    const odd = flipped(figure('carrick-bend'), [1]);
    expect(book.named(key(odd))).toEqual([]);
    const known = patterns().map((p) => ({ id: p.id, name: p.knot.name, figure: p.knot.method.figure }));
    expect(nearestOf(odd, known).length).toBe(3);
    expect(nearestOf(figure('reef'), known)[0]?.id).toBe('reef');
    expect(nearestOf(odd, known).every((k) => k.figure.ropes.length === 2)).toBeTrue();
  });
});

describe('A claim', () => {
  const entry = { aliases: [] as string[] };
  it('is what the name says, in front of other words, the longest that fits', () => {
    expect(claimOf({ name: 'Clove hitch on a spar', entry })?.id).toBe('clove-hitch');
    expect(claimOf({ name: 'Noose of two turns', entry })?.id).toBe('noose-2');
    expect(claimOf({ name: 'Reef', entry })?.id).toBe('reef');
    expect(claimOf({ name: 'Ours', entry: { aliases: ['weaver’s knot'] } })?.id).toBe('sheet-bend');
    expect(claimOf({ name: 'Something else', entry })).toBeUndefined();
  });
  it('is what the entry says before that, or nothing when it says so', () => {
    expect(claimOf({ name: 'Reef', entry: { ...entry, claim: 'granny' } })?.id).toBe('granny');
    expect(claimOf({ name: 'Reef', entry: { ...entry, claim: 'none' } })).toBeUndefined();
  });
  it('that fails is an error, one of the other hand a warning', () => {
    const known = { id: 'overhand', name: 'Overhand knot', figure: figure('overhand') };
    const finding = (f: Figure): string | undefined => verdictFinding(value(verdictOf(f, known, book)))?.severity;
    expect(finding(figure('overhand'))).toBeUndefined();
    expect(finding(mirror(figure('overhand')))).toBe('warning');
    expect(finding(figure('figure-eight'))).toBe('error');
  });
});

describe('Sheet bend and bowline', () => {
  it('cut the bowline’s loop and it is the sheet bend, of the other hand', () => {
    const cut = value(cutEye(figure('bowline'), 'a'));
    expect(value(compareFigures(cut, figure('sheet-bend'))).relation).toBe('mirror');
  });
  it('the tail outside is another knot with the same body when its loop is cut', () => {
    expect(key(figure('bowline'))).not.toBe(key(figure('bowline-outside')));
    const [inside, outside] = [value(cutEye(figure('bowline'), 'a')), value(cutEye(figure('bowline-outside'), 'a'))];
    expect(sign(inside).body).toBe(sign(outside).body);
  });
  it('with the first crossing the wrong way it is the false one', () => {
    const wrong = value(atlasOf(figure('bowline'), book)).mistakes.filter((m) =>
      m.becomes.some((b) => b.id === 'false-bowline'),
    );
    expect(wrong.map((m) => m.crossing)).toEqual([2]);
  });
  it('the double sheet bend is not the single one, and the triple one is each of them on its way', () => {
    expect(key(figure('double-sheet-bend'))).not.toBe(key(figure('sheet-bend')));
    expect([4, 6, 8].map((step) => kin(after('triple-sheet-bend', step)))).toEqual([
      ['sheet-bend'],
      ['double-sheet-bend'],
      ['triple-sheet-bend'],
    ]);
  });
  it('is a hitch on the bight where both parts of the bight are held: what it is made fast to stands', () => {
    const toEye = withRope(figure('sheet-bend'), 'a', { ends: ['standing', 'off'] });
    expect(value(classOf(toEye)).class).toBe('hitch');
    expect(value(compareFigures(toEye, figure('sheet-bend'))).relation).toBe('same body, other ends');
    expect([key(toEye), key(mirror(toEye))]).toContain(
      key(withRope(figure('becket-hitch'), 'a', { ends: ['standing', 'off'] })),
    );
  });
});

describe('Carrick bend', () => {
  it('is woven over and under in turn, and cannot be laid with fewer crossings', () => {
    for (const rope of figure('carrick-bend').ropes) expect(rope.weave).toMatch(/^(OU)+$/);
    expect(simplify(liftedTangles(figure('carrick-bend')).held).crossings).toBe(8);
  });
});

describe('Hitches', () => {
  const turns = (id: string): number => windingAbout(figure(id), 'a', 'spar');
  it('clove winds the spar twice one way, the cow’s windings cancel, and both spill', () => {
    expect(Math.floor(Math.abs(turns('clove-hitch')))).toBe(2);
    expect(Math.floor(Math.abs(turns('cow-hitch')))).toBe(0);
    for (const id of ['clove-hitch', 'cow-hitch', 'rolling-hitch'])
      expect(spillTest(figure(id)).map((s) => s.spills))
        .withContext(id)
        .toEqual([true]);
    const facts = value(factsOf(figure('clove-hitch')));
    expect(facts.find((f) => f.name === 'turns')!.phrase).toBe('winds the spar twice the same way');
  });
  it('about their own standing part stay as a noose', () => {
    for (const id of [
      'two-half-hitches',
      'reversed-half-hitches',
      'round-turn-two-half-hitches',
      'taut-line-hitch',
      'timber-hitch',
    ])
      expect(spillTest(figure(id)).map((s) => s.spills))
        .withContext(id)
        .toEqual([false]);
  });
  it('two half hitches are a clove hitch about the standing part, the reversed ones a cow hitch', () => {
    const about = (id: string): string | undefined => {
      const [rope] = figure(id).ropes as [Rope];
      const standing = standingSpan(figure(id), rope);
      return hitchesAbout(figure(id), { ...standing, from: standing.to, to: Infinity }, standing)?.way;
    };
    expect(about('two-half-hitches')).toBe('the same way');
    expect(about('round-turn-two-half-hitches')).toBe('the same way');
    expect(about('reversed-half-hitches')).toBe('reversed');
    expect(about('taut-line-hitch')).toBe('the same way');
    expect(about('reversed-taut-line')).toBe('reversed');
  });
  it('the killick is the timber hitch before the standing part makes its half hitch, and stays as a noose', () => {
    expect(kin(after('killick-hitch', 3))).toContain('timber-hitch');
    expect(spillTest(figure('killick-hitch')).map((s) => s.spills)).toEqual([false]);
    // The line lies on the log, its turn passes behind it: that is not for nothing.
    expect(needlessCrossings(figure('killick-hitch'))).toEqual([]);
  });
  it('the one-way wrap winds the rope with both legs the same way, the prusik with the one against the other', () => {
    const f = figure('one-way-wrap');
    const half = (f.ropes[1] as Rope).points.length / 2;
    const core = { strand: 'a', from: 0, to: Infinity };
    for (const [from, to] of [
      [0, half],
      [half, Infinity],
    ] as const)
      expect(hitchesAbout(f, { strand: 'b', from, to }, core)?.turns).toBe(3);
  });
  it('the round turn is one turn more', () => {
    const becomes = value(atlasOf(figure('round-turn-two-half-hitches'), book)).mistakes.flatMap((m) => m.becomes);
    expect(becomes.map((b) => b.id)).toContain('two-half-hitches');
  });
  it('the rolling hitch has two riding turns on the side of its pull', () => {
    const f = figure('rolling-hitch');
    expect(ridingTurns(f, f.ropes[0]!, f.hosts[0]!)).toEqual(jasmine.objectContaining({ count: 2, side: 'left' }));
    const m = mirror(f);
    expect(ridingTurns(m, m.ropes[0]!, m.hosts[0]!)).toEqual(jasmine.objectContaining({ count: 2, side: 'right' }));
    // Pulled the other way it slides, and is found out.
    const { knot } = patternOf('rolling-hitch')!;
    const rules = { tail: { diameters: 8, millimetres: 0 }, cordMm: 10, words: WORKSHOP_WORDS };
    const codes = (pull: 'left' | 'right'): string[] => findingsOf(knot.method, { ...rules, pull }).map((x) => x.code);
    expect(codes('left')).not.toContain('riding-side');
    expect(codes('right')).toContain('riding-side');
  });
  it('the many-wrap hitch winds the line four times and its own standing part twice, the same way each', () => {
    const f = figure('many-wrap-hitch');
    const thin = f.ropes[1] as Rope;
    const line = { strand: 'a', from: 0, to: Infinity };
    expect(hitchesAbout(f, { strand: 'b', from: 0, to: Infinity }, line)).toEqual(
      jasmine.objectContaining({ turns: 4, way: 'the same way' }),
    );
    const onLine = passagesOf(f, 'b').filter((p) => p.other.strand === 'a');
    const standing = { strand: 'b', from: 0, to: onLine[0]!.at - 1e-6 };
    expect(hitchesAbout(f, { strand: 'b', from: onLine.at(-1)!.at, to: Infinity }, standing)).toEqual(
      jasmine.objectContaining({ turns: 2, way: 'the same way' }),
    );
    // It works away from the pull: the standing part comes in from the left, and each wrap lies farther to the right.
    const [standingEnd, wraps] = [thin.points[0]![0], onLine.map((p) => p.crossing.point[0])];
    expect(standingEnd).toBeLessThan(wraps[0]!);
    expect(wraps).toEqual([...wraps].sort((p, q) => p - q));
  });
  it('the prusik winds the rope as often each side of its bridge, the one against the other', () => {
    for (const [id, turns] of [
      ['prusik-2', 2],
      ['prusik', 3],
      ['prusik-4', 4],
    ] as const) {
      const f = figure(id);
      const sling = f.ropes[1] as Rope;
      const core = { strand: 'a', from: 0, to: Infinity };
      const half = sling.points.length / 2;
      expect(hitchesAbout(f, { strand: 'b', from: 0, to: half }, core)?.turns)
        .withContext(id)
        .toBe(turns);
      expect(hitchesAbout(f, { strand: 'b', from: half, to: Infinity }, core)?.turns)
        .withContext(id)
        .toBe(turns);
      expect(hitchesAbout(f, { strand: 'b', from: 0, to: Infinity }, core)?.way).toBe('reversed');
    }
  });
});

describe('Twine', () => {
  it('is wound over both legs of its own bight, and its end leads through it', () => {
    for (const [id, turns] of [
      ['common-whipping', 5],
      ['flat-seizing', 4],
    ] as const) {
      const f = figure(id);
      const twine = f.ropes[1] as Rope;
      // The bight turns where the twine lies farthest along the rope before it is wound.
      const laid = passagesOf(f, 'b');
      const ofLegs = laid.filter((p) => p.other.strand === 'b' && !p.over && p.at < twine.points.length / 2);
      const onLegs = ofLegs.filter((p) => p.crossing.over.at > twine.points.length / 3);
      expect(onLegs.length)
        .withContext(id)
        .toBe(2 * turns + 1);
      expect(twine.trimmed).toEqual([true, true]);
    }
  });
  it('is wound round a rope’s end, and as often round the two parts of an eye', () => {
    const turns = (id: string, about: { readonly from: number; readonly to: number }): number => {
      const [, twine] = figure(id).ropes as [Rope, Rope];
      const [wrap] = twine.wraps!;
      return hitchesAbout(figure(id), { strand: 'b', from: wrap!.from, to: wrap!.to }, { strand: 'a', ...about })!
        .turns;
    };
    expect(turns('common-whipping', { from: 0, to: Infinity })).toBe(5);
    const eye = figure('flat-seizing').ropes[0]!.eyes![0]!;
    expect(turns('flat-seizing', { from: 0, to: eye })).toBe(4);
    expect(turns('flat-seizing', { from: eye, to: Infinity })).toBe(4);
  });
});

describe('A knot that is tied in several ways', () => {
  const several = patterns().filter(({ knot }) => methodsOf(knot).length > 1);
  it('is one knot, whichever way it is tied, and every way has a text in every step', () => {
    expect(several.map((p) => p.id)).toEqual(
      jasmine.arrayContaining(['bowline', 'sheet-bend', 'clove-hitch', 'butterfly']),
    );
    for (const { id, knot } of several)
      for (const { name, method } of methodsOf(knot)) {
        const compared = value(compareFigures(finishedFigure(method), knot.method.figure));
        expect(compared.relation).withContext(`${id}, ${name}`).toMatch(/^same/);
        expect(compared.proved).withContext(`${id}, ${name}`).toBeTrue();
        for (const step of stepsOf(method))
          expect(stepText(method, step.index, WORKSHOP_WORDS))
            .withContext(`${id}, ${name}`)
            .not.toBe('');
      }
  });
  it('has no other way against which anything but care is said', () => {
    const rules = { tail: { diameters: 12, millimetres: 0 }, cordMm: 10, words: WORKSHOP_WORDS };
    for (const { id, knot } of several)
      for (const { name, method } of methodsOf(knot).slice(1)) {
        const found = findingsOf(method, rules);
        const grave = found.filter((f) => f.severity === 'error' || /contradicts|sharp-bend|another-knot/.test(f.code));
        expect(grave.map((f) => f.title))
          .withContext(`${id}, ${name}`)
          .toEqual([]);
      }
  });
  it('has steps of each way that are as the trade says them', () => {
    const texts = (id: string, way: string): string[] => {
      const { method } = methodsOf(patternOf(id)!.knot).find((m) => m.name === way)!;
      return stepsOf(method).map((s) => stepText(method, s.index, WORKSHOP_WORDS));
    };
    const expected = [
      /dark rope over the standing part to make an overhand loop/,
      /pale rope up through the loop of the dark rope/,
      /pale rope round behind the standing part of the dark rope/,
      /pale rope back down through the loop of the dark rope/,
    ];
    const told = texts('sheet-bend', 'As a bowline is tied');
    expect(told.length).toBe(expected.length);
    told.forEach((text, i) => expect(text).toMatch(expected[i]!));
  });
  it('is the slip knot before it is flipped: nothing passes anything on the way', () => {
    const { method } = methodsOf(patternOf('bowline')!.knot)[1]!;
    expect(layoutsOf(method).length).toBe(2);
    expect(layoutsOf(method).every((l) => l.passes === undefined)).toBeTrue();
    expect(value(compareFigures(method.figure, finishedFigure(method))).relation).toMatch(/^same/);
  });
});

describe('The butterfly', () => {
  it('is two overhands of unlike hand through each other', () => {
    const tangle = liftedTangles(figure('butterfly')).tangles[0] as Tangle;
    expect(strandsAlone(tangle).map((s) => s.knotted)).toEqual([true, true]);
    const cut = value(cutEye(figure('butterfly'), 'a'));
    const [a, b] = ['a', 'b'].map((id) => value(withoutRope(cut, id)));
    const said = (f: Figure): string => sayJones(skeinTerms(liftedTangles(f).held)[0]!.poly);
    expect(said(a!)).toBe(said(mirror(b!)));
    expect([said(a!), said(b!)]).toContain('t + t³ − t⁴');
  });
  it('is not the false one', () => {
    const compared = value(compareFigures(figure('false-butterfly'), figure('butterfly')));
    expect(compared.relation).toBe('different');
    expect(compared.marks.filter((m) => !m.agrees).length).toBeGreaterThan(0);
  });
});
