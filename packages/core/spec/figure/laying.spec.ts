import fc from 'fast-check';
import {
  applyEdit,
  changeMethod,
  backView,
  crossingsOf,
  curveOf,
  distance,
  drawStep,
  figureAtStep,
  lastAt,
  leaderEnd,
  lengthOf,
  lengthTo,
  methodFor,
  nearestOn,
  passagesOf,
  readKnot,
  signatureOf,
  windingAbout,
  writeKnot,
  EMPTY_ENTRY,
  type BightLeader,
  type Crossing,
  type Edit,
  type Figure,
  type Method,
  type Point,
  type Rope,
} from '../../src/index.js';
import { EMPTY, go, oneRope, openKnot, rope, SPAR } from '../support/figures.js';

const refusal = (figure: Figure, edit: Edit): string => {
  const done = applyEdit(figure, edit);
  return done.ok ? 'done' : done.reason;
};

const coming: Edit = {
  kind: 'add-rope',
  rope: rope('a', [
    [-2, 20],
    [-2, 6],
  ]),
};
const onSpar = go(EMPTY, SPAR, coming);
const away: Edit = {
  kind: 'lay',
  rope: 'a',
  points: [
    [2, 12],
    [3, 20],
  ],
  pass: 'OO',
};

const turns = fc.integer({ min: 1, max: 12 }).map((n) => n / 2);
const direction = fc.constantFrom('on' as const, 'back' as const);
const first = fc.constantFrom('O' as const, 'U' as const);
const spacing = fc.double({ min: 1.2, max: 4, noNaN: true });
const riding = fc.boolean();

describe('A wrap', () => {
  const wrap = (n: number, more: Partial<Extract<Edit, { kind: 'wrap' }>> = {}): Edit => ({
    kind: 'wrap',
    rope: 'a',
    about: [{ strand: 'spar', at: 0.5 }],
    turns: n,
    ...more,
  });
  it('winds as often as it says, one way for every letter and direction', () => {
    fc.assert(
      fc.property(turns, direction, first, spacing, (n, way, letter, apart) => {
        const f = go(onSpar, wrap(n, { direction: way, first: letter, spacing: apart }));
        expect(crossingsOf(f).length).toBe(2 * n);
        expect(windingAbout(f, 'a', 'spar')).toBe(
          letter === 'O'
            ? windingAbout(go(onSpar, wrap(n)), 'a', 'spar')
            : -windingAbout(go(onSpar, wrap(n)), 'a', 'spar'),
        );
        expect(Math.abs(windingAbout(f, 'a', 'spar'))).toBe(n);
        expect(f.ropes[0]!.weave).toBe((letter === 'O' ? 'OU' : 'UO').repeat(12).slice(0, 2 * n));
      }),
      { numRuns: 40 },
    );
  });
  it('of n turns changed to m is the wrap of m turns, alone and with what was laid after it', () => {
    fc.assert(
      fc.property(turns, turns, direction, first, spacing, riding, (n, m, way, letter, apart, rides) => {
        const more = { direction: way, first: letter, spacing: apart, ...(rides ? { riding: true } : {}) };
        const straight = go(onSpar, wrap(m, more));
        const changed = go(onSpar, wrap(n, more), { kind: 'rewrap', rope: 'a', wrap: 0, turns: m });
        expect(changed).toEqual(straight);
        // What is laid after it keeps its place beside the end of the turns.
        const fromEnd = (f: Figure, ...by: Point[]): Edit => {
          const [x, y] = f.ropes[0]!.points.at(-1) as Point;
          return { kind: 'lay', rope: 'a', points: by.map(([u, v]): Point => [x + u, y + v]), pass: 'OOO' };
        };
        const tail: Point[] = [
          [0.4, m % 1 === n % 1 ? 4 : 3],
          [1, 9],
        ];
        const short = go(onSpar, wrap(n, more));
        const after = go(short, fromEnd(short, ...tail), { kind: 'rewrap', rope: 'a', wrap: 0, turns: m });
        const told = go(straight, fromEnd(straight, ...tail));
        expect(after.ropes[0]!.wraps).toEqual(told.ropes[0]!.wraps);
        after.ropes[0]!.points.forEach((p, i) => expect(distance(p, told.ropes[0]!.points[i]!)).toBeLessThan(1e-9));
        expect(after.ropes[0]!.weave).toBe(told.ropes[0]!.weave);
      }),
      { numRuns: 40 },
    );
  });
  it('keeps what is tucked through it tucked, however many turns it has', () => {
    const tucked = (n: number): Figure => {
      const f = go(onSpar, wrap(n, { spacing: 4 }));
      const [x] = f.ropes[0]!.points.at(-1) as Point;
      // Back along the spar inside the turns: under the front of each and over its back.
      return go(f, {
        kind: 'lay',
        rope: 'a',
        points: [
          [x + 3, 4],
          [x + 4, 1.6],
          [x, 1.6],
          [-1, 1.6],
          [-6, 1.6],
        ],
        pass: 'OOWWW',
      });
    };
    const [two, four] = [tucked(2), go(tucked(2), { kind: 'rewrap', rope: 'a', wrap: 0, turns: 4 })];
    const through = (f: Figure): string =>
      passagesOf(f, 'a')
        .filter((p) => p.at > f.ropes[0]!.wraps![0]!.to && p.other.strand === 'a')
        .map((p) => (p.over ? 'O' : 'U'))
        .join('');
    expect(through(two)).toMatch(/^(OU)+O?$|^(UO)+U?$/);
    expect(through(four).length).toBeGreaterThan(0);
    expect(through(four)).toMatch(/^(OU)+O?$|^(UO)+U?$/);
  });
  it('goes round a bundle: each strand as often as it says', () => {
    const bundle = go(
      EMPTY,
      {
        kind: 'add-rope',
        rope: rope('b', [
          [-20, -1],
          [-6, -1],
          [6, -1],
          [20, -1],
        ]),
      },
      {
        kind: 'add-rope',
        rope: rope('c', [
          [-20, 1],
          [-6, 1],
          [6, 1],
          [20, 1],
        ]),
      },
      {
        kind: 'add-rope',
        rope: rope('a', [
          [-4, 14],
          [-4, 6],
        ]),
      },
      {
        kind: 'wrap',
        rope: 'a',
        about: [
          { strand: 'b', at: 1.1 },
          { strand: 'c', at: 1.1 },
        ],
        turns: 3,
      },
    );
    for (const other of ['b', 'c'])
      expect(
        passagesOf(bundle, 'a')
          .filter((p) => p.other.strand === other)
          .map((p) => (p.over ? 'O' : 'U'))
          .join(''),
      ).toBe('OUOUOU');
    expect(passagesOf(bundle, 'a').some((p) => p.other.strand === 'a')).toBeFalse();
  });
  it('lets halts after it follow, and takes a halt on it along', () => {
    const method = methodFor(go(onSpar, wrap(2), away));
    const halted = [6, 14, lastAt(method.figure.ropes[0]!)].reduce<Method>((m, at) => {
      const done = changeMethod(m, 0, { kind: 'place-halt', leader: 0, at });
      if (!done.ok) throw new Error(done.reason);
      return done.value;
    }, method);
    const done = changeMethod(halted, 0, { kind: 'rewrap', rope: 'a', wrap: 0, turns: 4 });
    if (!done.ok) throw new Error(done.reason);
    const after = done.value;
    expect(after.halts.length).toBe(3);
    expect(after.halts.at(-1)!.at).toBe(lastAt(after.figure.ropes[0]!));
    const back = changeMethod(after, 0, { kind: 'rewrap', rope: 'a', wrap: 0, turns: 2 });
    expect(back.ok && back.value.halts.length).toBe(3);
    expect(back.ok && back.value.halts.at(-1)!.at).toBe(lastAt(halted.figure.ropes[0]!));
  });
  it('seen from behind begins behind; what cannot be laid is refused with the bound', () => {
    expect(backView(go(onSpar, wrap(2))).ropes[0]!.wraps![0]!.first).toBe('U');
    expect(refusal(onSpar, wrap(0.3))).toContain('turns cannot be laid');
    expect(refusal(onSpar, wrap(99))).toContain('turns cannot be laid');
    expect(refusal(onSpar, wrap(2, { spacing: 0.2 }))).toContain('apart');
    expect(refusal(onSpar, wrap(2, { about: [] }))).toContain('nothing');
    expect(refusal(onSpar, wrap(2, { about: [{ strand: 'mast', at: 0 }] }))).toContain('no such rope or host');
    expect(refusal(go(onSpar, wrap(2)), { kind: 'rewrap', rope: 'a', wrap: 3, turns: 1 })).toContain('no such wrap');
  });
  it('is kept by the figure file', () => {
    const knot = { name: 'Wrapped', entry: EMPTY_ENTRY, method: methodFor(go(onSpar, wrap(3), away)), extra: {} };
    const read = readKnot(JSON.parse(JSON.stringify(writeKnot(knot))));
    expect(read.ok && read.value.method.figure.ropes[0]!.wraps).toEqual(knot.method.figure.ropes[0]!.wraps);
  });
});

describe('Retracing', () => {
  const single = go(EMPTY, {
    kind: 'add-rope',
    rope: rope('b', [
      [-26, 6],
      [-14, 6],
      [0, 5],
      [12, 0],
      [13, -9],
      [3, -13],
      [-7, -8],
      [-3, 2],
      [6, 12],
      [16, 20],
    ]),
  });
  const along = (from: number, to: number, side: 'left' | 'right'): Figure =>
    go(
      single,
      {
        kind: 'add-rope',
        rope: rope(
          'a',
          side === 'left'
            ? [
                [-34, 3],
                [-29, 4],
              ]
            : [
                [-34, 9],
                [-29, 8],
              ],
        ),
      },
      { kind: 'retrace', rope: 'a', along: { strand: 'b', from, to }, side },
    );
  for (const side of ['left', 'right'] as const)
    it(`keeps one distance on the ${side}, crosses the followed strand only where that crosses itself, and makes fours`, () => {
      const f = along(0.4, 8.6, side);
      const followed = curveOf(f.ropes[0]!);
      const place = crossingsOf(single)[0]!.point;
      // Near the crossing the other strand of it is nearer than the one that is followed.
      const own = f.ropes[1]!.points.slice(2).filter((p) => distance(p, place) > 4);
      expect(own.length).toBeGreaterThan(20);
      for (const p of own) {
        expect(nearestOn(followed, p).away).toBeGreaterThan(1);
        expect(nearestOn(followed, p).away).toBeLessThan(1.6);
      }
      // One crossing of the single strand, four of the doubled one.
      expect(crossingsOf(single).length).toBe(1);
      expect(crossingsOf(f).length).toBe(4);
      const upper = crossingsOf(single)[0]!.over.at;
      const overNear = passagesOf(f, 'b').filter((p) => Math.abs(p.at - upper) < 1);
      expect(overNear.every((p) => p.over)).toBeTrue();
      expect(
        passagesOf(f, 'a')
          .map((p) => p.over)
          .sort(),
      ).toEqual([false, false, true, true]);
    });
  it('backwards leaves by where it came from', () => {
    const end = go(
      single,
      {
        kind: 'add-rope',
        rope: rope('a', [
          [24, 25],
          [19, 21.5],
        ]),
      },
      { kind: 'retrace', rope: 'a', along: { strand: 'b', from: 8.8, to: 0.4 }, side: 'left' },
    );
    expect(crossingsOf(end).length).toBe(4);
    expect(distance(end.ropes[1]!.points.at(-1)!, single.ropes[0]!.points[0]!)).toBeLessThan(8);
  });
  it('refuses a stretch too short to follow', () => {
    const f = go(single, {
      kind: 'add-rope',
      rope: rope('a', [
        [-34, 3],
        [-29, 4],
      ]),
    });
    expect(
      refusal(f, { kind: 'retrace', rope: 'a', along: { strand: 'b', from: 1, to: 1.02 }, side: 'left' }),
    ).toContain('shorter');
    expect(refusal(f, { kind: 'retrace', rope: 'a', along: { strand: 'z', from: 0, to: 1 }, side: 'left' })).toContain(
      'no such',
    );
  });
});

describe('A weave', () => {
  it('of an eight drawn in one stroke is the figure eight: over and under by turns all along', () => {
    const { weave: _weave, ...bare } = openKnot('figure-eight.json').method.figure.ropes[0]!;
    const { ropes } = go(EMPTY, { kind: 'add-rope', rope: bare, pass: 'W'.repeat(bare.points.length) });
    expect(['OUOUOUOU', 'UOUOUOUO']).toContain(ropes[0]!.weave);
  });
  it('takes turns by itself, whatever it meets', () => {
    fc.assert(
      fc.property(oneRope, (f) => {
        const far = Math.max(...f.ropes[0]!.points.map((p) => Math.abs(p[0]) + Math.abs(p[1]))) + 5;
        const laid = go(f, {
          kind: 'lay',
          rope: 'a',
          points: [
            [far, far],
            [-far, -far * 0.9],
          ],
          pass: 'WW',
        });
        const before = lastAt(f.ropes[0]!);
        // A crossing just before the end may slide onto the new stretch when the end bends; it keeps its letter, as it should.
        if (passagesOf(f, 'a').some((p) => p.at > before - 1.3)) return;
        const letters = passagesOf(laid, 'a').filter((p) => p.at > before + 1e-6);
        letters.slice(1).forEach((p, i) => {
          // A strand that crosses what the weave has just laid answers for both passages; others take turns.
          if (p.other.at <= before || p.other.strand !== 'a') {
            const last = letters[i]!;
            expect(p.over).withContext(`at ${p.at}`).toBe(!last.over);
          }
        });
      }),
      { numRuns: 40 },
    );
  });
});

describe('A bight', () => {
  const base = go(EMPTY, SPAR, {
    kind: 'add-rope',
    rope: rope('a', [
      [-20, 10],
      [-10, 10],
      [0, 10],
      [10, 10],
      [20, 10],
    ]),
  });
  const edit: Edit = {
    kind: 'bight',
    rope: 'a',
    at: 2.1,
    points: [
      [0.4, 5],
      [0.6, -3],
      [0, -8],
    ],
    pass: 'OUU',
  };
  const method = ((): Method => {
    const done = changeMethod(methodFor(base), 0, edit);
    if (!done.ok) throw new Error(done.reason);
    return done.value;
  })();
  it('lays both its legs at once, with the same letters', () => {
    expect(passagesOf(method.figure, 'a').map((p) => p.over)).toEqual([false, false]);
    expect(windingAbout(method.figure, 'a', 'spar')).toBe(0);
  });
  it('that crosses its own way passes it with both legs as it was told, the part nearer to its apex later', () => {
    const loop: Point[] = [
      [0, 0],
      [0, -12],
      [10, -12],
      [10, -4],
      [-12, -4],
    ];
    for (const under of [false, true]) {
      const pass = `OOOO${under ? 'U' : 'O'}`;
      const f = go(base, { kind: 'bight', rope: 'a', at: 2, points: loop, pass });
      const own = crossingsOf(f).filter((c) => c.second.strand === 'a');
      expect(own.length).toBe(4);
      const middle = passagesOf(f, 'a').reduce((sum, p) => sum + p.at, 0) / passagesOf(f, 'a').length;
      for (const { first, second, over } of own) {
        const nearer = Math.abs(first.at - middle) < Math.abs(second.at - middle) ? first : second;
        expect(over === nearer)
          .withContext(`${first.at} ${second.at}`)
          .toBe(!under);
      }
    }
  });
  it('that weaves passes its own way by turns, both legs alike: led as an eight it is the eight on the bight', () => {
    const line = rope('a', [[-24, 30], [-10, 27], [0, 26], [10, 27], [24, 30]]); // prettier-ignore
    const way: Point[] = [[0, 17], [0, 3], [-0.7, -13], [-5.5, -19], [-13, -18], [-14.5, -11], [-9, -5.2], [2, -1], [5.6, 2], [5, 6], [0.4, 7.4], [-6, 7.4], [-13, 6], [-17.4, -2], [-14, -9.8], [-10, -16.8], [-10.4, -26]]; // prettier-ignore
    const f = go(
      EMPTY,
      { kind: 'add-rope', rope: line },
      { kind: 'bight', rope: 'a', at: 2, points: way, pass: 'W'.repeat(way.length) },
    );
    const own = crossingsOf(f);
    expect(own.length).toBe(16);
    // Each crossing of the way is four of the legs, all passed alike by the part nearer to the apex.
    const middle = own.reduce((sum, c) => sum + c.first.at + c.second.at, 0) / 32;
    const fours: { readonly at: Point; readonly later: boolean[] }[] = [];
    for (const c of own) {
      const nearer = Math.abs(c.first.at - middle) < Math.abs(c.second.at - middle) ? c.first : c.second;
      const four = fours.find(({ at }) => distance(at, c.point) < 4.5);
      if (four) four.later.push(c.over === nearer);
      else fours.push({ at: c.point, later: [c.over === nearer] });
    }
    expect(fours.map(({ later }) => later.length)).toEqual([4, 4, 4, 4]);
    for (const { later } of fours) expect(new Set(later).size).toBe(1);
    expect(new Set(fours.map(({ later }) => later[0])).size).toBe(2);
  });
  it('is a leader wherever it is drawn out, next to the end of its rope too', () => {
    for (const at of [0.4, 0.9, 1.5, 2.6, 3.7]) {
      const done = changeMethod(methodFor(base), 0, { ...edit, at });
      if (!done.ok) throw new Error(done.reason);
      const bight = done.value.leaders.find((l): l is BightLeader => l.kind === 'bight');
      expect(bight).withContext(`at ${at}`).toBeDefined();
      // Its two legs part where it was drawn out, and end side by side.
      expect(bight!.to - bight!.from).toBeGreaterThan(1);
    }
  });
  it('is a leader: drawn back the rope goes plainly from leg to leg, drawn out it is whole', () => {
    const index = method.leaders.findIndex((l) => l.kind === 'bight');
    expect(index).toBe(1);
    const end = leaderEnd(method, index);
    const halted = [end * 0.5 + method.leaders[index]!.from * 0.5, end].reduce<Method>(
      (m, at) => {
        const done = changeMethod(m, 0, { kind: 'place-halt', leader: index, at });
        if (!done.ok) throw new Error(done.reason);
        return done.value;
      },
      ((): Method => {
        const done = changeMethod(method, 0, { kind: 'place-halt', leader: 0, at: lastAt(method.figure.ropes[0]!) });
        if (!done.ok) throw new Error(done.reason);
        return done.value;
      })(),
    );
    expect(halted.halts.length).toBe(3);
    const [plain, half, whole] = [0, 1, 2].map((k) => figureAtStep(halted, k));
    expect(crossingsOf(plain!).length).toBe(0);
    expect(crossingsOf(whole!).length).toBe(2);
    const length = (f: Figure): number => lengthOf(curveOf(f.ropes[0]!));
    expect(length(plain!)).toBeLessThan(length(half!));
    expect(length(half!)).toBeLessThan(length(whole!));
    // Drawn back, no part of the rope is farther down the board than it was before the bight was drawn.
    expect(Math.min(...plain!.ropes[0]!.points.map((p) => p[1]))).toBeGreaterThan(8);
    for (const k of [0, 1, 2]) expect(drawStep(halted, k).runs.length).toBeGreaterThan(0);
    const read = readKnot(
      JSON.parse(JSON.stringify(writeKnot({ name: 'B', entry: EMPTY_ENTRY, method: halted, extra: {} }))),
    );
    expect(read.ok && read.value.method.leaders).toEqual(halted.leaders);
  });
  it('pulled through leaves the first leg and a tail', () => {
    const l = method.leaders[1]!;
    if (l.kind !== 'bight') throw new Error('no bight');
    const f = go(method.figure, { kind: 'pull-through', rope: 'a', from: l.from, to: l.to });
    expect(passagesOf(f, 'a').map((p) => p.over)).toEqual([false]);
    expect(refusal(method.figure, { kind: 'pull-through', rope: 'a', from: 5, to: 3 })).toContain('no bight');
  });
  it('is refused off the rope', () => {
    expect(refusal(base, { ...edit, at: 0 })).toContain('between its ends');
    expect(refusal(base, { ...edit, points: [] })).toContain('not been drawn out');
  });
});

describe('Twisting a loop', () => {
  const loop = go(EMPTY, {
    kind: 'add-rope',
    rope: rope('a', [
      [-20, 8],
      [-10, 8],
      [-2, 7],
      [-1.6, 2],
      [-4, -4],
      [0, -8],
      [4, -4],
      [1.6, 2],
      [2, 7],
      [10, 8],
      [20, 8],
    ]),
  });
  const twisted = (halfTurns: number): Figure => go(loop, { kind: 'twist', rope: 'a', from: 3, to: 7, halfTurns });
  it('crosses the legs once for each half turn, all of one hand', () => {
    for (const n of [1, 2, 3, 4, -1, -2, -3]) {
      const all = crossingsOf(twisted(n));
      expect(all.length).toBe(Math.abs(n));
      expect(new Set(all.map((c) => c.sign)).size).toBe(1);
      const letters = twisted(n).ropes[0]!.weave;
      expect(letters.slice(0, Math.abs(n))).toBe((n > 0 ? 'OU' : 'UO').repeat(4).slice(0, Math.abs(n)));
    }
    expect(crossingsOf(twisted(1))[0]!.sign).toBe(-crossingsOf(twisted(-1))[0]!.sign as 1 | -1);
  });
  it('turns the part over, and the knot is the one it was: turning it back undoes it', () => {
    let turned = 0;
    fc.assert(
      fc.property(oneRope, fc.integer({ min: -3, max: 3 }), (f, n) => {
        if (n === 0 || crossingsOf(f).length > 9) return;
        // A part with a tangle of its own between two long leads.
        const shift = f.ropes[0]!.points.map(([x, y]): Point => [x, y - 40]);
        const whole: Figure = go(EMPTY, {
          kind: 'add-rope',
          rope: rope('a', [[-60, 20], [-30, 20], [-2, 18], ...shift, [2, 18], [30, 21], [60, 20]]),
        });
        const done = applyEdit(whole, { kind: 'twist', rope: 'a', from: 2, to: 2 + shift.length + 1, halfTurns: n });
        if (!done.ok) return;
        const after = done.value.figure;
        // Leads that come to lie across the turned part make crossings, and undo others, of their own; those drawings say nothing
        // of the turning. In all others the trail meets the same crossings in the same order, beside those of the two legs.
        const k = Math.abs(n);
        const legs = crossingsOf(after).filter(
          (c) => c.first.at > 2 && c.first.at < 3 + k && c.second.at > 2 + k + shift.length,
        );
        const met = (g: Figure, without: readonly Crossing[]): string => {
          const own = passagesOf(g, 'a').filter((p) => !without.includes(p.crossing));
          const order = [...new Set(own.map((p) => p.crossing))];
          return own.map((p) => order.indexOf(p.crossing)).join(' ');
        };
        if (legs.length !== k || met(after, legs) !== met(whole, [])) return;
        const [was, is] = [signatureOf(whole), signatureOf(after)];
        if (!was.ok || !is.ok) return;
        turned += 1;
        expect(is.value.key)
          .withContext(JSON.stringify([f.ropes[0]!.points, n]))
          .toBe(was.value.key);
      }),
      { numRuns: 60 },
    );
    expect(turned).toBeGreaterThan(5);
  });
  it('refuses a part that another strand passes through', () => {
    const crossed = go(loop, {
      kind: 'add-rope',
      rope: rope('b', [
        [-20, -5],
        [0, -5.5],
        [20, -5],
      ]),
    });
    expect(refusal(crossed, { kind: 'twist', rope: 'a', from: 3, to: 7, halfTurns: 1 })).toContain('Another strand');
    expect(refusal(loop, { kind: 'twist', rope: 'a', from: 3, to: 7, halfTurns: 0 })).toContain('half turns');
  });
});

describe('A sling', () => {
  it('is a rope whose ends are joined, and is opened again', () => {
    const ring = go(
      EMPTY,
      {
        kind: 'add-rope',
        rope: rope('a', [
          [-6, 0],
          [0, -6],
          [6, 0],
          [0, 6],
        ]),
      },
      { kind: 'set-closed', rope: 'a', closed: true },
    );
    const length = (r: Rope): number => lengthTo(curveOf(r), lastAt(r));
    expect(ring.ropes[0]!.closed).toBeTrue();
    expect(length(ring.ropes[0]!)).toBeGreaterThan(
      length(go(ring, { kind: 'set-closed', rope: 'a', closed: false }).ropes[0]!),
    );
    expect(signatureOf(ring).ok).toBeTrue();
  });
  it('is passed through itself by a bight: through its other end it holds the spar, over it it falls off', () => {
    const behind = go(
      EMPTY,
      {
        kind: 'add-host',
        host: {
          id: 'h',
          kind: 'spar',
          points: [
            [-16, 0],
            [16, 0],
          ],
          size: 3,
        },
      },
      {
        kind: 'add-rope',
        rope: rope('a', [
          [-4, 6],
          [-4, 0],
          [-4, -8],
          [4, -8],
          [4, 0],
          [4, 6],
        ]),
        pass: 'UUUUUU',
      },
      { kind: 'set-closed', rope: 'a', closed: true },
    );
    const closing = behind.ropes[0]!.points.length - 0.5;
    /** The near end drawn up over the spar, and as its letters say past the far one. */
    const drawn = (pass: string): Method => {
      const done = changeMethod(methodFor(behind), 0, {
        kind: 'bight',
        rope: 'a',
        at: closing,
        points: [
          [0, 2],
          [0, -4],
          [0, -13],
        ],
        pass,
      });
      if (!done.ok) throw new Error(`${done.place}: ${done.reason}`);
      return done.value;
    };
    const keyOf = (figure: Figure): string => {
      const sling = figure.ropes[0]!;
      const apex = nearestOn(curveOf(sling), [0, figure === behind ? 7 : -13]).at;
      const marked = apex > 0 ? go(figure, { kind: 'toggle-eye', where: { strand: 'a', at: apex } }) : figure;
      const found = signatureOf(marked);
      if (!found.ok) throw new Error(found.reason);
      return found.value.key;
    };
    expect(keyOf(drawn('OOO').figure)).toBe(keyOf(behind));
    expect(keyOf(drawn('OOU').figure)).not.toBe(keyOf(behind));
    const through = drawn('OOU');
    const leader = through.leaders.findIndex((l) => l.kind === 'bight');
    const halted = changeMethod(through, 0, { kind: 'place-halt', leader, at: leaderEnd(through, leader) });
    if (!halted.ok) throw new Error(halted.reason);
    // Before the step the sling lies plainly behind the spar; after it all is drawn.
    expect(crossingsOf(figureAtStep(halted.value, 0)).length).toBe(crossingsOf(through.figure).length);
    expect(through.figure.ropes[0]!.closed).toBeTrue();
  });
});
