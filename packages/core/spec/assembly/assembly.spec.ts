import {
  asPlan,
  assemblySvg,
  assemblyFindings,
  assemblySchema,
  BOARD,
  courseOf,
  freeId,
  inspectionList,
  inspectionVerdict,
  keepersAt,
  NO_FACTS,
  piecesThrough,
  purchases,
  ropePieces,
  sayBoard,
  tailsOf,
  THING_SIZES,
  tiedAfter,
  withKnotReplaced,
  withNextStop,
  withStopsExchanged,
  withoutKnot,
  withoutThing,
  type Assembly,
  type AssemblyHouse,
  type AssemblyKnot,
  type KnotFacts,
  type Stop,
} from '@foxtrail/core/assembly';
import { planned } from '@foxtrail/core/ropes';
import fc from 'fast-check';

/** Facts of knots that are what they are called. */
const facts = (ref: string, more: Partial<KnotFacts> = {}): KnotFacts => {
  const id = ref.slice('pattern:'.length);
  return {
    ...NO_FACTS,
    ref,
    state: 'there',
    name: id,
    is: [{ id, name: id, mirrored: false }],
    strands: 1,
    errors: 0,
    ...more,
  };
};
const house = (more: Partial<AssemblyHouse> = {}): AssemblyHouse => ({
  facts: (ref) => facts(ref),
  tail: { diameters: 12, millimetres: 0 },
  patternName: (id) => id,
  eatsOf: (id) => [{ set: id === 'overhand' ? 11.5 : 9, host: null }],
  ...more,
});

const knot = (id: string, more: Partial<AssemblyKnot> = {}): Partial<AssemblyKnot> => ({
  id,
  role: `knot ${id}`,
  ref: 'pattern:reef',
  name: 'reef',
  shouldBe: null,
  x: 300,
  y: 300,
  ...more,
});
const on = (id: string, afterMm = 0): object => ({ kind: 'knot', knot: id, eats: 10, afterMm });
const read = (a: object): Assembly => assemblySchema.parse({ name: 'It', ...a });

/** A knot with a keeper on its tail, and what stands beyond it. */
const kept = (stops: object[], keeper: Partial<AssemblyKnot> = { guards: 'a' }): Assembly =>
  read({
    knots: [knot('a', { keepers: 1 }), knot('k', keeper), knot('b')],
    ropes: [{ name: 'Rope', diameterMm: 10, firstMm: 500, stops }],
  });

const codes = (a: Assembly, h = house()): string[] => assemblyFindings(a, h).map((f) => f.code);

describe('An assembly', () => {
  it('is refused where its parts name what is not there, one twice, or guard one another in a ring', () => {
    const refused = (a: object): string =>
      assemblySchema.safeParse({ name: 'It', ...a }).error?.issues[0]?.path.join('.') ?? '';
    const thing = { id: 't', name: 'Post', kind: 'post', acrossMm: 90, x: 1, y: 1 };
    expect(refused({ knots: [knot('a')], things: [thing] })).toBe('');
    expect(refused({ things: [thing, thing] })).toBe('things.1.id');
    expect(refused({ knots: [knot('a', { on: 'nowhere' })] })).toBe('knots.0.on');
    expect(refused({ knots: [knot('a', { guards: 'b' })] })).toBe('knots.0.guards');
    expect(refused({ knots: [knot('a', { guards: 'a' })] })).toBe('knots.0.guards');
    expect(refused({ knots: [knot('a', { guards: 'b' }), knot('b', { guards: 'a' })] })).toBe('knots.0.guards');
    const rope = (stop: object): object => ({ ropes: [{ name: 'R', diameterMm: 8, stops: [stop] }] });
    expect(refused(rope(on('a')))).toBe('ropes.0.stops.0.knot');
    expect(refused(rope({ kind: 'round', thing: 'x' }))).toBe('ropes.0.stops.0.thing');
    expect(refused(rope({ kind: 'round', thing: 'x', turns: 0.7 }))).toContain('turns');
    expect(refused({ knots: [knot('a', { x: BOARD.width + 1 })] })).toBe('knots.0.x');
  });

  it('stays one that can be read when a knot or a thing is taken out of it', () => {
    const a = read({
      things: [{ id: 't', name: 'Post', kind: 'post', acrossMm: 90, x: 1, y: 1 }],
      knots: [knot('a', { on: 't' }), knot('k', { guards: 'a' })],
      ropes: [
        {
          name: 'R',
          diameterMm: 8,
          stops: [on('a'), { kind: 'through', knot: 'a' }, { kind: 'round', thing: 't' }, on('k')],
        },
      ],
    });
    const [less, bare] = [withoutKnot(a, 'a'), withoutThing(a, 't')];
    expect(assemblySchema.parse(less)).toEqual(less);
    expect(less.ropes[0]!.stops.map((s) => s.kind)).toEqual(['round', 'knot']);
    expect(less.knots[0]!.guards).toBeNull();
    expect(assemblySchema.parse(bare)).toEqual(bare);
    expect(bare.ropes[0]!.stops.some((s) => s.kind === 'round')).toBeFalse();
    expect(freeId('k', [{ id: 'k1' }, { id: 'k3' }])).toBe('k2');
  });

  it('is cut like a plan: all that is between the knots, what they eat, and what goes round', () => {
    const a = read({
      things: [{ id: 't', name: 'Waist', kind: 'waist', acrossMm: 290, x: 1, y: 1 }],
      knots: [knot('a'), knot('b')],
      ropes: [
        {
          name: 'R',
          diameterMm: 10,
          firstMm: 500,
          stops: [on('a', 300), { kind: 'round', thing: 't', turns: 3, afterMm: 200 }, on('b', 150)],
        },
      ],
    });
    const [rope] = planned(asPlan(a), []).ropes;
    // Three turns on the middle line of the rope: a circle of 300 mm across, and one rope’s width along a turn.
    const round = 3 * Math.hypot(Math.PI * 300, 10);
    expect(rope!.usedMm).toBeCloseTo(500 + 100 + 300 + round + 200 + 100 + 150, -1);
    // What goes round is measured, not set: it does not spread.
    expect(rope!.spreadMm).toBeCloseTo(0.15 * 200, 6);
    expect(rope!.marks.map((m) => m.knot.name)).toEqual(['reef', 'round the waist, 3 times', 'reef']);
  });

  it('takes what another knot eats with it, and keeps what lies between', () => {
    const a = read({
      knots: [knot('a'), knot('b')],
      ropes: [
        {
          name: 'R',
          diameterMm: 8,
          stops: [{ ...on('a', 300), loopMm: 120 }, on('b', 150), { ...on('a', 90), strand: 1 }],
        },
      ],
    });
    const uses = [
      { set: 21, host: { turns: 2, drawn: 2.5 } },
      { set: 22, host: null },
    ];
    const other = withKnotReplaced(a, 'a', { ref: 'pattern:x', name: 'X' }, uses);
    expect(other.knots[0]!.name).toBe('X');
    const stops = other.ropes[0]!.stops.map((s) =>
      s.kind === 'knot' ? [s.eats, s.loopMm, s.afterMm, s.host?.mm] : [],
    );
    // What it goes round is as thick as it is drawn, in this rope.
    expect(stops).toEqual([
      [21, 120, 300, 20],
      [10, 0, 150, undefined],
      [22, 0, 90, undefined],
    ]);
  });

  it('is gone on with before the tail of its rope; neighbours change places, and lengths stay', () => {
    const [rope] = read({
      knots: [knot('a'), knot('b')],
      ropes: [{ name: 'R', diameterMm: 8, stops: [on('a', 300), on('b', 150)] }],
    }).ropes;
    const names = (stops: readonly Stop[]): string[] =>
      stops.map((s) => (s.kind === 'round' ? '' : `${s.knot} ${s.afterMm}`));
    expect(names(withNextStop(rope!, { kind: 'through', knot: 'a', afterMm: 0 }).stops)).toEqual([
      'a 300',
      'b 0',
      'a 150',
    ]);
    expect(names(withStopsExchanged(rope!, 0).stops)).toEqual(['b 300', 'a 150']);
    expect(withStopsExchanged(rope!, 1)).toBe(rope!);
    expect(
      withNextStop({ ...rope!, stops: [] }, { kind: 'through', knot: 'a', afterMm: 0 }).stops[0]!.afterMm,
    ).toBeGreaterThan(0);
  });

  it('has a tail where a rope ends at a knot, and none where it stands, or goes on', () => {
    const stops = [on('a', 10), on('b', 90)];
    const ends = (first: string, more: object[] = []): string[] =>
      tailsOf(
        read({
          things: [{ id: 't', name: 'Post', kind: 'post', acrossMm: 90, x: 1, y: 1 }],
          knots: [knot('a'), knot('b')],
          ropes: [{ name: 'R', diameterMm: 8, first, firstMm: 70, stops: [...stops, ...more] }],
        }),
      ).map((t) => `${t.knot} ${t.end} ${t.mm}`);
    expect(ends('tail')).toEqual(['a first 70', 'b last 90']);
    expect(ends('standing part')).toEqual(['b last 90']);
    expect(ends('standing part', [{ kind: 'round', thing: 't' }])).toEqual([]);
  });
});

describe('Findings of an assembly', () => {
  it('are none where all is in order', () => {
    expect(codes(kept([on('b', 300), on('a'), on('k', 200)]))).toEqual([]);
  });

  it('count a keeper only on a tail, next to what it guards, with nothing beyond it', () => {
    const counts = (stops: object[]): number => keepersAt(kept(stops), 'a').length;
    expect(counts([on('b', 300), on('a'), on('k', 200)])).toBe(1);
    expect(counts([on('k'), on('a'), on('b', 300)])).toBe(1);
    expect(counts([on('a'), on('b', 300), on('k', 200)])).toBe(0);
    expect(counts([on('a'), on('k'), on('b', 300)])).toBe(0);
    expect(codes(kept([on('a'), on('b', 300), on('k', 200)]))).toEqual(['keeper-missing', 'keeper-apart']);
  });

  it('mend what they name: a missing keeper is tied on the tail, in order, and nothing is found any more', () => {
    const bare = kept([on('b', 300), on('a', 200)], { guards: null });
    const without = withoutKnot(bare, 'k');
    const [found] = assemblyFindings(without, house());
    expect(found!.code).toBe('keeper-missing');
    const mended = found!.mend!.to(without);
    expect(assemblySchema.parse(mended)).toEqual(mended);
    expect(codes(mended)).toEqual([]);
    expect(tailsOf(mended).map((t) => t.mm)).toEqual([200]);
    // As long as a tail of rope that stands at its other end.
    const turned = kept([on('a', 300), on('b', 200)], { guards: null });
    const first = {
      ...withoutKnot(turned, 'k'),
      ropes: [{ ...turned.ropes[0]!, first: 'tail' as const, firstMm: 200 }],
    };
    const again = assemblyFindings(first, house())[0]!.mend!.to(first);
    expect(codes(again)).toEqual([]);
    expect(again.ropes[0]!.stops[0]).toEqual(jasmine.objectContaining({ knot: again.knots[1]!.id }));
  });

  it('see a keeper that is tied before what it guards, and tie it after', () => {
    const a = kept([on('b', 300), on('a'), on('k', 200)]);
    const early = { ...a, knots: [a.knots[1]!, a.knots[0]!, a.knots[2]!] };
    const [found] = assemblyFindings(early, house());
    expect(found!.code).toBe('keeper-first');
    expect(found!.mend!.to(early).knots.map((k) => k.id)).toEqual(['a', 'k', 'b']);
    expect(tiedAfter(a, 'nobody', 'a')).toBe(a);
  });

  it('see another knot than the one that ought to be there, whatever it is called, in either hand', () => {
    const a = read({
      knots: [knot('a', { shouldBe: 'reef', role: 'Square knot' })],
      ropes: [{ name: 'R', diameterMm: 10, stops: [on('a', 200)] }],
    });
    const as = (is: KnotFacts['is']): AssemblyHouse => house({ facts: (ref) => facts(ref, { is }) });
    expect(codes(a, as([{ id: 'reef', name: 'Reef knot', mirrored: true }]))).toEqual([]);
    const [found] = assemblyFindings(a, as([{ id: 'granny', name: 'Granny knot', mirrored: false }]));
    expect(found!.title).toBe('The square knot should be a reef and is a granny knot');
    expect(found!.mend!.to(a).knots[0]!.ref).toBe('pattern:reef');
    expect(codes(a, as([]))).toEqual(['another-knot']);
  });

  it('see knots that are gone or archived, without a rope, on one rope of two, or with errors of their own', () => {
    const a = read({ knots: [knot('a')], ropes: [{ name: 'R', diameterMm: 10, stops: [on('a', 200)] }] });
    const found = (more: Partial<KnotFacts>): string[] => codes(a, house({ facts: (ref) => facts(ref, more) }));
    expect(found({ state: 'gone' })).toEqual(['knot-gone']);
    expect(found({ state: 'archived' })).toEqual(['knot-archived']);
    expect(found({ strands: 2 })).toEqual(['strand-missing']);
    expect(found({ errors: 2 })).toEqual(['knot-has-errors']);
    // It has not been proved yet: nothing is known of it.
    expect(found({ errors: null })).toEqual([]);
    expect(codes(read({ knots: [knot('a')] }))).toEqual(['on-no-rope']);
    expect(codes(a, house({ facts: () => undefined }))).toEqual([]);
  });

  it('let nothing hold people that is unsuitable by rule, but what its keepers hold as the school teaches it', () => {
    const a = { ...kept([on('b', 300), on('a'), on('k', 200)]), useGrade: 'people depend on it' as const };
    const unfit = (id: string): AssemblyHouse =>
      house({ facts: (ref) => facts(ref, { unsuitable: ref === `pattern:${id}` ? 'It slips.' : null }) });
    const found = assemblyFindings(a, unfit('reef'));
    expect(found.map((f) => [f.about, f.severity])).toEqual([
      ['a', 'warning'],
      ['k', 'error'],
      ['b', 'error'],
    ]);
    expect(codes({ ...a, useGrade: 'load-bearing' }, unfit('reef'))).toEqual([]);
  });

  it('ask of a tail what the rule asks in that rope, and leave as much', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 30 }), fc.integer({ min: 0, max: 600 }), (diameterMm, mm) => {
        const a = read({ knots: [knot('a')], ropes: [{ name: 'R', diameterMm, stops: [on('a', mm)] }] });
        const found = assemblyFindings(a, house());
        expect(found.length === 0).toBe(mm >= 12 * diameterMm - 1);
        for (const f of found) expect(codes(f.mend!.to(a))).toEqual([]);
      }),
    );
  });

  it('say what legs carry: nothing of a small angle, a warning from a right angle on, an error from 120° on', () => {
    const legs = (spanMm: number, secondMm = 1000): string[] =>
      assemblyFindings(read({ legs: { spanMm, firstMm: 1000, secondMm } }), house()).map(
        (f) => `${f.code} ${f.severity}`,
      );
    // Of two metres of legs the angle is 2·asin(span / 2 m).
    expect(legs(2000 * Math.sin(Math.PI / 4) - 5)).toEqual([]);
    expect(legs(2000 * Math.sin(Math.PI / 4) + 5)).toEqual(['legs-wide warning']);
    expect(legs(2000 * Math.sin(Math.PI / 3) + 5)).toEqual(['legs-wide error']);
    expect(legs(2100)).toEqual(['legs-unclear error']);
    expect(legs(300, 3000)).toEqual(['legs-unclear error']);
  });

  it('see gates that look down or inward, in every grade; and one that nobody looked at where people depend on it', () => {
    const gate = (of: string, useGrade = 'load-bearing'): string[] =>
      codes(
        read({
          useGrade,
          things: [{ id: 'c', name: 'Carabiner', kind: 'carabiner', acrossMm: 10, x: 1, y: 1, gate: of }],
        }),
      );
    expect(gate('down')).toEqual(['gate']);
    expect(gate('toward the body')).toEqual(['gate']);
    expect(gate('not looked at')).toEqual([]);
    expect(gate('not looked at', 'people depend on it')).toEqual(['gate']);
    expect(gate('up and out', 'people depend on it')).toEqual([]);
  });

  it('see a rope of the stock that is shorter than the plan', () => {
    const rope = '00000000-0000-4000-8000-000000000001';
    const a = read({
      knots: [knot('a')],
      ropes: [{ name: 'R', rope, diameterMm: 10, firstMm: 3000, stops: [on('a', 200)] }],
    });
    const cut = (mm: number): string[] =>
      codes(a, house({ planned: planned(asPlan(a), [{ id: rope, name: 'Braid', pieces: [mm], unfit: null }]) }));
    expect(cut(2900)).toEqual(['rope-short']);
    expect(cut(9000)).toEqual([]);
  });
});

describe('The inspection list', () => {
  it('has every knot in the order of tying, what is found where it is looked at, and the whole last', () => {
    const a = kept([on('b', 300), on('a'), on('k', 20)]);
    const h = house({
      facts: (ref) =>
        facts(ref, { marks: [{ side: 'back', text: 'Two lie side by side.' }], takenFor: ['Granny', 'Thief'] }),
    });
    const list = inspectionList(a, assemblyFindings(a, h), h);
    expect(list.map((g) => g.number)).toEqual([1, 2, 3, null]);
    const text = list[0]!.items.map((i) => i.text);
    expect(text[0]).toBe('It is the reef, and not the granny or the thief.');
    expect(text).toContain('Back: Two lie side by side.');
    expect(text).toContain('Its keeper is there.');
    expect(list[1]!.findings.map((f) => f.code)).toEqual(['tail-short']);
    expect(list[1]!.items.map((i) => i.text)).toContain('Its tail is at least 120 mm long.');
    const ids = list.flatMap((g) => g.items.map((i) => i.id));
    expect(new Set(ids).size).toBe(ids.length);
  });

  it('comes to good only where all was looked at and found right', () => {
    const of = (...ticks: ('right' | 'wrong' | 'not looked at')[]): string =>
      inspectionVerdict(ticks.map((tick) => ({ group: '', text: 'x', tick })));
    expect(of('right', 'right')).toBe('good');
    expect(of('right', 'not looked at')).toBe('not finished');
    expect(of('not looked at', 'wrong')).toBe('not good');
  });
});

describe('A purchase', () => {
  const purchase = (turns = 0.5, kind = 'ring'): ReturnType<typeof purchases> =>
    purchases(
      read({
        things: [{ id: 'b', name: 'Ring', kind, acrossMm: 14, x: 1, y: 1 }],
        knots: [knot('a'), knot('l'), knot('f')],
        ropes: [
          {
            name: 'R',
            diameterMm: 10,
            stops: [
              on('a'),
              on('l'),
              { kind: 'round', thing: 'b', turns },
              { kind: 'through', knot: 'l' },
              on('f', 200),
            ],
          },
        ],
      }),
    );

  it('has three parts, and friction leaves less: by the belt formula at both bends', () => {
    const [found] = purchase();
    expect(found!.parts).toBe(3);
    // Half a turn of rope on rope, then half a turn on metal; frictions of 0.4 and 0.25, and of 0.15 and 0.12.
    const gain = (rope: number, metal: number): number =>
      1 + Math.exp(-rope * Math.PI) + Math.exp(-(rope + metal) * Math.PI);
    expect(found!.gains[0]).toBeCloseTo(gain(0.4, 0.25), 9);
    expect(found!.gains[1]).toBeCloseTo(gain(0.15, 0.12), 9);
    expect(found!.gains[1]).toBeLessThan(3);
    expect(purchase(1.5)[0]!.gains[1]).toBeLessThan(found!.gains[1]);
  });

  it('is none where a rope goes through no loop of its own', () => {
    const a = read({
      knots: [knot('a'), knot('b')],
      ropes: [{ name: 'R', diameterMm: 8, stops: [on('a'), { kind: 'through', knot: 'b' }] }],
    });
    expect(purchases(a)).toEqual([]);
    expect(purchases(read({ knots: [knot('a')], ropes: [{ name: 'R', diameterMm: 8, stops: [on('a')] }] }))).toEqual(
      [],
    );
  });
});

describe('The picture of an assembly', () => {
  it('goes through its knots, round its things, and ends on the board', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 150, max: 1050 }), fc.integer({ min: 150, max: 570 })), {
          minLength: 3,
          maxLength: 7,
        }),
        fc.constantFrom(0.5, 1, 2, 3),
        fc.constantFrom('post', 'waist', 'spar', 'thigh'),
        (spots, turns, kind) => {
          const [[x, y] = [0, 0], ...rest] = spots;
          const a = read({
            things: [{ id: 't', name: 'It', kind, acrossMm: 90, x, y }],
            knots: rest.map(([kx, ky], i) => knot(`k${i}`, { x: kx, y: ky })),
            ropes: [
              {
                name: 'R',
                diameterMm: 8,
                stops: rest.flatMap((_, i): object[] => [
                  on(`k${i}`),
                  ...(i === 0 ? [{ kind: 'round', thing: 't', turns }] : []),
                ]),
              },
            ],
          });
          const course = courseOf(a, a.ropes[0]!);
          for (const k of a.knots) expect(course.some((p) => p[0] === k.x && p[1] === k.y)).toBeTrue();
          expect(course.every((p) => p.every(Number.isFinite))).toBeTrue();
          // Nothing of a pass lies inside of what it goes round.
          const { radius } = THING_SIZES[kind];
          const own = course.filter((p) => !a.knots.some((k) => k.x === p[0] && k.y === p[1])).slice(1, -1);
          for (const p of own) expect(Math.hypot(p[0] - x, p[1] - y)).toBeGreaterThanOrEqual(radius - 1e-6);
          const pieces = piecesThrough(course);
          expect(pieces.length).toBeGreaterThan(1);
          expect(pieces.every((p) => [p.outline, p.fill].every((d) => /^M[-\d. LQ]+$/.test(d)))).toBeTrue();
        },
      ),
      { numRuns: 60 },
    );
  });

  it('draws what goes through a loop over one of its legs and under the other', () => {
    const through = { kind: 'through', knot: 'l' };
    const make = (stops: object[]): Assembly =>
      read({
        knots: [knot('a', { x: 150 }), knot('l', { x: 500 }), knot('f', { x: 800, y: 120 })],
        things: [{ id: 't', name: 'Ring', kind: 'ring', acrossMm: 14, x: 1050, y: 300 }],
        ropes: [{ name: 'R', diameterMm: 10, stops }],
      });
    const plain = ropePieces(make([on('a'), on('l'), { kind: 'round', thing: 't' }, on('f')]), 0);
    const looped = ropePieces(make([on('a'), on('l'), { kind: 'round', thing: 't' }, through, on('f')]), 0);
    // One leg is drawn before the rope, the other after it: both from the knot.
    const first = looped[0]!.outline;
    const last = looped.at(-1)!.outline;
    expect([first, last].every((d) => d.startsWith('M500.0 300.0'))).toBeTrue();
    expect(first).not.toBe(last);
    expect(plain.some((p) => p.outline === first || p.outline === last)).toBeFalse();
  });

  it('goes round a load beyond its corners, and says no more than it shows', () => {
    const a = read({
      things: [{ id: 't', name: 'Load', kind: 'load', acrossMm: 600, x: 600, y: 360 }],
      knots: [knot('a', { x: 300 }), knot('b', { x: 900 })],
      ropes: [{ name: 'R', diameterMm: 10, stops: [on('a'), { kind: 'round', thing: 't', turns: 1 }, on('b')] }],
    });
    const { radius } = THING_SIZES.load;
    const round = courseOf(a, a.ropes[0]!).filter(([x, y]) => Math.hypot(x - 600, y - 360) < 200);
    // A square whose corners are rounded by less than a third of its half reaches farther than its side.
    for (const [x, y] of round) expect(Math.hypot(x - 600, y - 360)).toBeGreaterThan(1.25 * radius);
    const svg = assemblySvg(a, () => '/x?a=1&b=2');
    expect(svg).toContain('href="/x?a=1&amp;b=2"');
    expect(svg.match(/<image /g)?.length).toBe(2);
    expect(svg).toContain(`aria-label="${sayBoard(a)}"`);
  });

  it('shows a leg loop that is routed upward as the mirror image of the other one', () => {
    const stop = (thing: string): Stop => ({ kind: 'round', thing, turns: 1, way: 'upward', afterMm: 0 });
    const leg = (id: string, x: number): object => ({ id, name: id, kind: 'thigh', acrossMm: 190, x, y: 500 });
    const a = read({
      things: [leg('l', 400), leg('r', 800)],
      knots: [knot('a', { x: 200 }), knot('m', { x: 600 }), knot('b', { x: 1000 })],
      ropes: [{ name: 'R', diameterMm: 10, stops: [on('a'), stop('l'), on('m'), stop('r'), on('b')] }],
    });
    const course = courseOf(a, a.ropes[0]!).slice(1, -1);
    const mirrored = [...course].reverse().map(([x, y]): [number, number] => [1200 - x, y]);
    // The turn begins close to a leg on one side, and ends close to it on the other: their heights agree within its width.
    course.forEach(([, y], i) => expect(Math.abs(y - mirrored[i]![1])).toBeLessThan(2 * 11));
    const wrong = {
      ...a,
      ropes: [
        { ...a.ropes[0]!, stops: [on('a'), { ...stop('l'), way: 'downward' }, on('m'), stop('r'), on('b')] as Stop[] },
      ],
    };
    expect(
      courseOf(wrong, wrong.ropes[0]!)
        .slice(1, -1)
        .map((p) => p[1].toFixed(0)),
    ).not.toEqual(course.map((p) => p[1].toFixed(0)));
  });
});
