import fc from 'fast-check';
import {
  applyEdit,
  atlasOf,
  backView,
  classLabel,
  classOf,
  compareFigures,
  crossingsOf,
  exchangeEnds,
  factsOf,
  flipped,
  flipTangle,
  heartBox,
  KeyBook,
  keysOf,
  liftedTangles,
  mirror,
  needlessCrossings,
  pairCrossings,
  passagesOf,
  provedSame,
  repairOf,
  sayOutcome,
  signatureOf,
  simplify,
  skeinTerms,
  tailsOf,
  tangleOf,
  weaveFigure,
  withoutStrand,
  type Figure,
  type LiftSide,
  type NamedKeys,
  type Point,
  type Result,
  type Rope,
  type Signature,
} from '../../src/index.js';
import { sayTerms } from '../support/diagrams.js';
import { anyFigure, isReadable, drawnFiles, drawnKnot, go, oneRope, openKnot, rope } from '../support/figures.js';

function value<T>(r: Result<T>): T {
  if (!r.ok) throw new Error(`${r.place}: ${r.reason}`);
  return r.value;
}
const sign = (f: Figure): Signature => value(signatureOf(f));
const demo = (file: string): Figure => drawnKnot(file).method.figure;
const named = (id: string, f: Figure): NamedKeys => ({ id, name: id, ...value(keysOf(f)) });

/**
 * A figure redrawn: a stretch between two crossings is drawn out over (or under) whatever lies in its way. Drawn out over everything it
 * can be laid back, so the knot is the same; the tails' tips are kept clear of it.
 */
function drawnOut(f: Figure, at: number, to: Point, pass: 'O' | 'U'): Figure | undefined {
  const [first] = f.ropes as [Rope];
  const passages = passagesOf(f, first.id);
  const k = Math.floor(at * (passages.length - 1));
  const [p, q] = [passages[k], passages[k + 1]];
  if (!p || !q || q.at - p.at < 0.4) return undefined;
  let figure = f;
  // Three new points inside the stretch; the middle one is drawn out.
  for (const share of [0.3, 0.5, 0.7]) {
    const own = passagesOf(figure, first.id);
    const [from, until] = [own[k]!.at, own[k + 1]!.at];
    const where = from + (until - from) * share;
    if (Math.abs(where - Math.round(where)) < 0.02) return undefined;
    const done = applyEdit(figure, { kind: 'insert-point', strand: first.id, at: where });
    if (!done.ok || crossingsOf(done.value.figure).length !== crossingsOf(f).length) return undefined;
    figure = done.value.figure;
  }
  const own = passagesOf(figure, first.id);
  const index = Math.round((own[k]!.at + own[k + 1]!.at) / 2);
  const done = applyEdit(figure, { kind: 'move-point', strand: first.id, index, to, pass });
  return done.ok ? done.value.figure : undefined;
}

const fileOf = fc.constantFrom(...drawnFiles);
const share = fc.double({ min: 0, max: 1, noNaN: true });

/** Knots side by side on one board, each with ropes of its own. */
const beside = (...figures: readonly Figure[]): Figure => ({
  hosts: [],
  ropes: figures.flatMap(({ ropes }, i) =>
    ropes.map((r) => ({ ...r, id: `${r.id}${i}`, points: r.points.map(([x, y]): Point => [x, y + 90 * i]) })),
  ),
});

describe('The signature of knots that do not hang together', () => {
  it('is that of each of them, whatever their order, and changes with any one of them', () => {
    const [overhand, eight, reef] = ['overhand', 'figure-eight', 'reef'].map(
      (f) => drawnKnot(`${f}.json`).method.figure,
    );
    const key = (...all: readonly Figure[]): string => {
      const found = signatureOf(beside(...all));
      if (!found.ok) throw new Error(found.reason);
      return found.value.key;
    };
    expect(key(overhand!, eight!)).toBe(key(eight!, overhand!));
    expect(key(overhand!, eight!, reef!)).toBe(key(reef!, overhand!, eight!));
    const all = [
      key(overhand!),
      key(eight!),
      key(overhand!, eight!),
      key(overhand!, overhand!),
      key(mirror(overhand!), eight!),
      key(overhand!, reef!),
      key(overhand!, eight!, reef!),
    ];
    expect(new Set(all).size).toBe(all.length);
    // The figure eight is its own mirror image.
    expect(key(overhand!, mirror(eight!))).toBe(key(overhand!, eight!));
  });
});

describe('The signature', () => {
  it('exchanges its pair in the view from behind, exactly', () => {
    fc.assert(
      fc.property(anyFigure.filter(isReadable), (f) => {
        const [own, behind] = [sign(f), sign(backView(f))];
        expect(behind.key).toBe(own.key);
        expect([behind.front, behind.behind]).toEqual([own.behind, own.front]);
        expect(behind.lays).toEqual(own.lays);
        expect(behind.body).toBe(own.body);
      }),
      { numRuns: 40 },
    );
  });
  it('does not depend on the names of the ropes, nor on which is drawn first', () => {
    fc.assert(
      fc.property(anyFigure.filter(isReadable), (f) => {
        const renamed: Figure = { ...f, ropes: f.ropes.map((r) => ({ ...r, id: `z${r.id}` })).reverse() };
        expect(sign(weaveFigure(renamed, () => true)).key).toBe(
          sign(weaveFigure({ ...f, ropes: [...f.ropes].reverse() }, () => true)).key,
        );
        const turned = weaveFigure({ ...f, ropes: [...f.ropes].reverse() }, (m) => {
          const known = crossingsOf(f).find(
            (c) => Math.hypot(c.point[0] - m.point[0], c.point[1] - m.point[1]) < 1e-6,
          )!;
          // Crossings of a rope with itself keep their letters; the order of the ropes turns the others round.
          return m.first.strand === m.second.strand ? known.over === known.first : known.over.strand === m.first.strand;
        });
        expect(sign(turned).key).toBe(sign(f).key);
      }),
      { numRuns: 30 },
    );
  });
  it('is kept when a stretch is drawn out over or under everything', () => {
    let redrawn = 0;
    fc.assert(
      fc.property(fileOf, share, share, share, fc.constantFrom('O' as const, 'U' as const), (file, at, x, y, pass) => {
        const f = demo(file);
        const [l, t, r, b] = heartBox(f);
        const after = drawnOut(f, at, [l + (r - l) * x, t + (b - t) * y], pass);
        if (!after) return;
        // The tips must stay where they were on the map: a bend drawn over a tip catches it.
        const tips = (g: Figure): string =>
          tailsOf(g)
            .map((s) => s.inside)
            .join();
        if (tips(after) !== tips(f) || !signatureOf(after).ok) return;
        redrawn += 1;
        expect(sign(after).key).withContext(`${file} ${at} ${x} ${y} ${pass}`).toBe(sign(f).key);
      }),
      { numRuns: 120 },
    );
    expect(redrawn).toBeGreaterThan(20);
  });
  it('does not depend on the way a tail is lifted', () => {
    fc.assert(
      fc.property(oneRope, fc.array(fc.nat(5), { minLength: 30, maxLength: 30 }), (f, picks) => {
        let n = 0;
        const choose = (ways: number): number => (picks[n++ % picks.length] as number) % ways;
        for (const side of ['over', 'under'] as LiftSide[]) {
          const say = (t: ReturnType<typeof tangleOf>): string => sayTerms(skeinTerms(t));
          const sides = new Map([['a', side]]);
          expect(say(tangleOf(f, sides, choose))).toBe(say(tangleOf(f, sides)));
        }
      }),
      { numRuns: 40 },
    );
  });
  it('tells a figure from its mirror image unless it has none', () => {
    expect(sign(demo('overhand.json')).key).not.toBe(sign(mirror(demo('overhand.json'))).key);
    expect(sign(demo('figure-eight.json')).key).toBe(sign(mirror(demo('figure-eight.json'))).key);
  });
  it('is the same for a flip made on the tangle and on the drawing', () => {
    fc.assert(
      fc.property(fileOf, fc.nat(20), (file, n) => {
        const f = demo(file);
        const i = n % crossingsOf(f).length;
        const [onTangle, onDrawing] = [
          liftedTangles(f).tangles.map((t) => sayTerms(skeinTerms(flipTangle(t, [i])))),
          liftedTangles(flipped(f, [i + 1])).tangles.map((t) => sayTerms(skeinTerms(t))),
        ];
        expect(onTangle).toEqual(onDrawing);
      }),
      { numRuns: 20 },
    );
  });
  it('of a plain rope, and of one laid over a spar, says that it falls apart', () => {
    const plain: Figure = {
      ropes: [
        rope('a', [
          [-9, 0],
          [0, 1],
          [9, 0],
        ]),
      ],
      hosts: [],
    };
    expect(sign(plain).fallsApart).toBeTrue();
    const laidOver = weaveFigure(
      {
        ropes: [
          rope('a', [
            [0, 12],
            [0, 4],
            [2, -4],
            [6, -4],
            [7, 4],
            [9, 12],
          ]),
        ],
        hosts: [
          {
            id: 's',
            kind: 'spar',
            points: [
              [-20, 0.1],
              [20, 0],
            ],
          },
        ],
      },
      () => true,
    );
    expect(sign(laidOver).fallsApart).toBeTrue();
    expect(sign(demo('clove-hitch.json')).fallsApart).toBeFalse();
  });
  it('is refused without a rope, and says what it left out with three tails', () => {
    expect(signatureOf({ ropes: [], hosts: [] }).ok).toBeFalse();
    const three = weaveFigure(
      {
        ropes: [
          rope('a', [
            [-9, 0],
            [9, 0],
          ]),
          rope('b', [
            [-9, 3],
            [9, 3],
          ]),
          rope('c', [
            [1, -9],
            [1, 9],
          ]),
        ],
        hosts: [],
      },
      () => true,
    );
    expect(sign(three).leftOut.join()).toContain('3 free tails');
  });
});

describe('Sub-tangles', () => {
  it('lose exactly the crossings of the strand taken out', () => {
    fc.assert(
      fc.property(anyFigure, (f) => {
        const t = tangleOf(f);
        const strand = t.rim[0]!.strand;
        const rest = withoutStrand(t, strand);
        expect(rest.crossings.every((c) => c.over !== strand && c.under !== strand)).toBeTrue();
        expect(rest.crossings.length).toBe(t.crossings.filter((c) => c.over !== strand && c.under !== strand).length);
        for (const p of rest.rim) expect(rest.rim.filter((q) => q.edge === p.edge).length).toBeLessThanOrEqual(2);
      }),
      { numRuns: 30 },
    );
  });
});

describe('Simplify', () => {
  it('never adds a crossing, and takes out what was only drawn out', () => {
    fc.assert(
      fc.property(fileOf, share, share, share, fc.constantFrom('O' as const, 'U' as const), (file, at, x, y, pass) => {
        const f = demo(file);
        const [l, t, r, b] = heartBox(f);
        const after = drawnOut(f, at, [l + (r - l) * x, t + (b - t) * y], pass);
        if (!after || !signatureOf(after).ok || sign(after).key !== sign(f).key) return;
        const [mine, theirs] = [f, after].map((g) => simplify(liftedTangles(g).tangles[0]!));
        expect(theirs!.crossings).toBeLessThanOrEqual(liftedTangles(after).tangles[0]!.crossings.length);
        expect(theirs!.crossings).withContext(`${file} ${at} ${x} ${y} ${pass}`).toBe(mine!.crossings);
        expect(provedSame(f, after)).withContext(`${file} ${at} ${x} ${y} ${pass}`).toBeTrue();
      }),
      { numRuns: 60 },
    );
  });
  it('logs a kink and a strand that lies over another for nothing', () => {
    const kink: Figure = weaveFigure(
      {
        ropes: [
          rope('a', [
            [-12, 0],
            [-3, 0],
            [3, -1],
            [4, -5],
            [0, -7],
            [-3, -4],
            [1, 3],
            [6, 8],
          ]),
        ],
        hosts: [],
      },
      () => true,
    );
    expect(needlessCrossings(kink).map((m) => m.kind)).toEqual(['R1']);
    const lying: Figure = weaveFigure(
      {
        ropes: [
          rope('a', [
            [-12, 0],
            [0, 0],
            [12, 0],
          ]),
          rope('b', [
            [-10, 8],
            [-4, 2],
            [0, -3],
            [4, 2],
            [10, 8],
          ]),
        ],
        hosts: [],
      },
      () => false,
    );
    expect(needlessCrossings(lying)).toEqual([{ kind: 'R2', crossings: [1, 2] }]);
    expect(needlessCrossings(demo('reef.json'))).toEqual([]);
  });
});

describe('Compare', () => {
  it('knows same, from behind, mirror, other ends and different', () => {
    const reef = demo('reef.json');
    expect(value(compareFigures(reef, reef)).relation).toBe('same');
    const overhand = demo('overhand.json');
    const turned = value(compareFigures(mirror(overhand), overhand));
    expect(turned.relation).toBe('mirror');
    expect(turned.proved).toBeTrue();
    const granny = value(compareFigures(reef, demo('granny.json'), 'the granny'));
    expect(granny.relation).toBe('different');
    expect(granny.proved).toBeFalse();
    expect(granny.marks.find((m) => m.name === 'hand')!.agrees).toBeFalse();
    expect(granny.marks.find((m) => m.name === 'hand')!.text).toContain('its own mirror image');
    expect(granny.evidence).toContain('that of the granny');
  });
  it('knows a tail that is laid out over or under the knot, and takes what is left alike for no proof', () => {
    for (const [file, pass] of [
      ['bowline', 'O'],
      ['bowline', 'U'],
      ['sheet-bend', 'O'],
      ['reef', 'O'],
    ] as const) {
      const { figure } = openKnot(`${file}.json`).method;
      const laid = go(figure, { kind: 'lay', rope: figure.ropes[0]!.id, points: [[40, 0]], pass });
      const found = value(compareFigures(figure, laid));
      expect(found.relation).withContext(file).toBe('same, a tail laid to the other side');
      expect(found.proved).withContext(file).toBeFalse();
      expect(provedSame(figure, laid)).withContext(file).toBeFalse();
      expect(provedSame(laid, figure)).withContext(file).toBeFalse();
    }
  });
  it('knows one body with other ends in either hand', () => {
    for (const file of ['sheet-bend', 'reef']) {
      const { figure } = openKnot(`${file}.json`).method;
      const ended = value(exchangeEnds(figure, figure.ropes[0]!.id));
      expect(value(compareFigures(ended, figure)).relation)
        .withContext(file)
        .toBe('same body, other ends');
      expect(value(compareFigures(mirror(ended), figure)).relation)
        .withContext(file)
        .toBe('same body, other ends');
      expect(value(compareFigures(figure, mirror(ended))).relation)
        .withContext(file)
        .toBe('same body, other ends');
    }
  });
  it('never calls a proof what two unlike knots share', () => {
    fc.assert(
      fc.property(oneRope, oneRope, (a, b) => {
        if (sign(a).key !== sign(b).key) expect(provedSame(a, b)).toBeFalse();
      }),
      { numRuns: 25 },
    );
  });
  it('gives each fact of a figure once, agreeing with itself', () => {
    fc.assert(
      fc.property(anyFigure, (f) => {
        const facts = value(factsOf(f));
        expect(new Set(facts.map((x) => x.name)).size).toBe(facts.length);
        expect(value(compareFigures(f, f)).marks.every((m) => m.agrees)).toBeTrue();
      }),
      { numRuns: 15 },
    );
  });
});

describe('Pairing', () => {
  it('finds every crossing of the same drawing, and exactly those that were swapped', () => {
    fc.assert(
      fc.property(fileOf, fc.array(fc.nat(10), { maxLength: 2 }), (file, picks) => {
        const f = demo(file);
        const n = crossingsOf(f).length;
        const turned = [...new Set(picks.map((p) => (p % n) + 1))];
        const found = pairCrossings(flipped(f, turned), f)!;
        expect(found.pairs.length).toBe(n);
        const differ = found.pairs.filter((c) => !c.agrees).length;
        expect(differ).toBeLessThanOrEqual(turned.length);
        if (found.turned === 'as drawn' && found.pairs.every((c) => c.a === c.b))
          expect(found.pairs.filter((c) => !c.agrees).map((c) => c.a)).toEqual(turned.sort((a, b) => a - b));
      }),
      { numRuns: 30 },
    );
  });
  it('knows a figure from behind and its mirror image by their lines', () => {
    const overhand = demo('overhand.json');
    expect(pairCrossings(mirror(overhand), overhand)!.turned).toBe('mirrored');
    expect(pairCrossings(mirror(overhand), overhand)!.pairs.every((c) => c.agrees)).toBeTrue();
    expect(pairCrossings(backView(overhand), overhand)!.pairs.every((c) => c.agrees)).toBeTrue();
  });
  it('is not made up where the lines differ', () => {
    expect(pairCrossings(demo('overhand.json'), demo('figure-eight.json'))).toBeUndefined();
    expect(pairCrossings(demo('reef.json'), demo('clove-hitch.json'))).toBeUndefined();
  });
});

describe('Atlas and repair', () => {
  const book = (): KeyBook => new KeyBook(drawnFiles.map((f) => named(f.replace('.json', ''), demo(f))));
  it('find the way back from every wrong crossing of every demo knot', () => {
    for (const file of drawnFiles) {
      const f = demo(file);
      const keys = value(keysOf(f));
      for (const c of crossingsOf(f)) {
        const wrong = flipped(f, [c.number]);
        if (sign(wrong).key === keys.key) continue;
        const { repairs, tried } = value(repairOf(wrong, keys));
        expect(tried).toBe(1);
        expect(repairs.some((r) => r.crossings.length === 1 && r.crossings[0] === c.number))
          .withContext(file)
          .toBeTrue();
        for (const r of repairs) {
          const mended = sign(flipped(wrong, r.crossings)).key;
          expect(r.mirrored ? keys.mirrorKey : keys.key).toBe(mended);
        }
      }
    }
  });
  it('try two swaps when one does not do, and say when they stop', () => {
    const f = demo('clove-hitch.json');
    const wrong = flipped(f, [1, 6]);
    const found = value(repairOf(wrong, value(keysOf(f))));
    expect(found.repairs.length).toBeGreaterThan(0);
    let asked = 0;
    const stopped = value(repairOf(wrong, value(keysOf(f)), () => (asked += 1) < 4));
    expect(stopped.complete).toBeFalse();
    expect(repairOf(f, value(keysOf(f))).ok).toBeFalse();
  });
  it('put the worst first, account for every crossing, and stop when told', () => {
    const f = demo('overhand.json');
    const atlas = value(atlasOf(f, book()));
    expect(atlas.groups.map((g) => g.outcome)).toEqual(['falls apart']);
    expect(atlas.mistakes.map((m) => m.crossing)).toEqual([1, 2, 3]);
    expect(sayOutcome(atlas.groups[0]!)).toBe('Falls apart');
    const stopped = value(atlasOf(f, book(), (s) => s < 0.5));
    expect(stopped.leftOut.length).toBeGreaterThan(0);
    expect(stopped.mistakes.length + stopped.leftOut.length).toBe(3);
  });
  it('order what they find: the worst outcome first, of one outcome what most crossings make; repairs that keep the hand first', () => {
    const worst = ['falls apart', 'another knot', 'unnamed knot', 'mirror', 'same'];
    let outcomes = 0;
    for (const file of drawnFiles) {
      const f = demo(file);
      const { groups, mistakes } = value(atlasOf(f, book()));
      const ranks = groups.map((g) => [worst.indexOf(g.outcome), -g.crossings.length] as const);
      expect(ranks)
        .withContext(file)
        .toEqual([...ranks].sort((a, b) => a[0] - b[0] || a[1] - b[1]));
      outcomes += new Set(groups.map((g) => g.outcome)).size - 1;
      // Every crossing is told once, under what it makes.
      expect(groups.flatMap((g) => g.crossings).sort((a, b) => a - b)).toEqual(mistakes.map((m) => m.crossing));
      const keys = value(keysOf(f));
      // A knot that is held to be its mirror image has repairs of both kinds where both are found.
      const { repairs } = value(repairOf(flipped(f, [1]), { key: keys.mirrorKey, mirrorKey: keys.key }));
      const mirrored = repairs.map((r) => Number(r.mirrored));
      expect(mirrored)
        .withContext(file)
        .toEqual([...mirrored].sort());
    }
    expect(outcomes).toBeGreaterThan(3);
  });
  it('name of each known knot the closest relation only, the closest knots first', () => {
    const keys = new KeyBook([
      ...drawnFiles.map((f) => named(f, demo(f))),
      named('behind', backView(demo('bowline.json'))),
    ]);
    const closeness = ['same', 'mirror', 'same, a tail laid to the other side', 'same body, other ends'];
    for (const file of drawnFiles) {
      const found = keys.matches(sign(demo(file)));
      expect(new Set(found.map((m) => m.id)).size).toBe(found.length);
      const ranks = found.map((m) => closeness.indexOf(m.relation));
      expect(ranks)
        .withContext(file)
        .toEqual([...ranks].sort((a, b) => a - b));
      expect(found.find((m) => m.id === file)?.relation)
        .withContext(file)
        .toBe('same');
    }
  });
  it('look a knot up by its key, in either hand', () => {
    const keys = book();
    expect(keys.named(sign(mirror(demo('overhand.json'))).key)).toEqual([
      { id: 'overhand', name: 'overhand', relation: 'mirror' },
    ]);
    expect(keys.named('nothing')).toEqual([]);
    expect(keys.matches(sign(demo('granny.json')))[0]).toEqual({ id: 'granny', name: 'granny', relation: 'same' });
  });
});

describe('The class', () => {
  it('of nothing that holds is none, and is worded by the school', () => {
    const plain: Figure = {
      ropes: [
        rope('a', [
          [-9, 0],
          [0, 1],
          [9, 0],
        ]),
      ],
      hosts: [],
    };
    expect(value(classOf(plain)).class).toBe('not classed');
    expect(value(classOf(demo('overhand.json'))).class).toBe('stopper');
    expect(classLabel('bend', 'strict')).toBe('bend');
    expect(classLabel('bend', 'general')).toBe('joining knot');
  });
});
