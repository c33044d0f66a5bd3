import fc from 'fast-check';
import {
  applyEdit,
  crossingsOf,
  meetings,
  meetsMoreThan,
  passagesOf,
  readWeave,
  weaveFigure,
  type Edit,
  type Figure,
  type Meeting,
  type Point,
  type Rope,
} from '../../src/index.js';
import { anyFigure, drawnKnot, rope } from '../support/figures.js';

const after = (figure: Figure, ...edits: Edit[]): Figure =>
  edits.reduce((f, edit) => {
    const done = applyEdit(f, edit);
    if (!done.ok) throw new Error(`${done.place}: ${done.reason}`);
    return done.value.figure;
  }, figure);

/** A horizontal rope, and a second one that comes down across it at x. */
const plus = (x: number): Figure =>
  weaveFigure(
    {
      ropes: [
        rope(
          'a',
          [
            [-10, 0],
            [10, 0],
          ],
          { curve: 'straight' },
        ),
        rope(
          'b',
          [
            [x, -8],
            [x, 8],
          ],
          { curve: 'straight' },
        ),
      ],
      hosts: [],
    },
    () => true,
  );

describe('crossings', () => {
  it('are found where two straight pieces cross, with place, angle and sign', () => {
    const [c] = crossingsOf(plus(3));
    expect(c?.point[0]).toBeCloseTo(3, 9);
    expect(c?.first.at).toBeCloseTo(0.65, 9);
    expect(c?.second.at).toBeCloseTo(0.5, 9);
    expect(c?.angle).toBeCloseTo(Math.PI / 2, 9);
    // The over strand goes right; turned counterclockwise on the screen it points up, and the one beneath goes down.
    expect(c?.sign).toBe(-1);
  });

  it('change sign when they are swapped, when one rope is reversed, and not when both are', () => {
    const sign = (f: Figure): number | undefined => crossingsOf(f)[0]?.sign;
    const start = plus(3);
    expect(sign(after(start, { kind: 'swap', where: { strand: 'b', at: 0.5 } }))).toBe(1);
    expect(sign(after(start, { kind: 'reverse', rope: 'b' }))).toBe(1);
    expect(sign(after(start, { kind: 'reverse', rope: 'b' }, { kind: 'reverse', rope: 'a' }))).toBe(-1);
  });

  it('at a control point are counted once', () => {
    const figure: Figure = {
      ropes: [
        rope(
          'a',
          [
            [-10, 0],
            [0, 0],
            [10, 0],
          ],
          { curve: 'straight' },
        ),
        rope(
          'b',
          [
            [0, -8],
            [0, 8],
          ],
          { curve: 'straight' },
        ),
      ],
      hosts: [],
    };
    expect(meetings(figure).length).toBe(1);
    const bent: Figure = {
      ...figure,
      ropes: [
        figure.ropes[0]!,
        rope(
          'b',
          [
            [0, -8],
            [0, 0],
            [0, 8],
          ],
          { curve: 'straight' },
        ),
      ],
    };
    expect(meetings(bent).length).toBe(1);
  });

  it('of a curve lie on both strands', () => {
    const { figure } = drawnKnot('reef.json').method;
    for (const c of crossingsOf(figure)) {
      expect(passagesOf(figure, c.over.strand).some((p) => p.crossing === c && p.over)).toBeTrue();
      expect(passagesOf(figure, c.under.strand).some((p) => p.crossing === c && !p.over)).toBeTrue();
    }
    expect(crossingsOf(figure).map((c) => c.number)).toEqual([1, 2, 3, 4, 5, 6]);
  });

  it('of hosts with hosts are left out', () => {
    const figure: Figure = {
      ropes: [],
      hosts: [
        {
          id: 'one',
          kind: 'spar',
          points: [
            [-9, 0],
            [9, 0],
          ],
        },
        {
          id: 'two',
          kind: 'spar',
          points: [
            [0, -9],
            [0, 9],
          ],
        },
      ],
    };
    expect(crossingsOf(figure)).toEqual([]);
  });
});

describe('moving through crossings', () => {
  it('takes a rope off the other and lays it on again over, or under when asked', () => {
    const off = after(plus(3), { kind: 'move-point', strand: 'b', index: 1, to: [3, -3] });
    expect(off.ropes.map((r) => r.weave)).toEqual(['', '']);
    const on = (pass: 'O' | 'U'): string[] =>
      after(off, { kind: 'move-point', strand: 'b', index: 1, to: [3, 8], pass }).ropes.map((r) => r.weave);
    expect(on('O')).toEqual(['U', 'O']);
    expect(on('U')).toEqual(['O', 'U']);
  });

  it('slides a crossing along without swapping it, however far', () => {
    for (const first of [true, false]) {
      const figure = weaveFigure(plus(-8), () => first);
      const moved = after(
        figure,
        { kind: 'move-point', strand: 'b', index: 0, to: [8, -8] },
        { kind: 'move-point', strand: 'b', index: 1, to: [8, 8] },
      );
      expect(moved.ropes.map((r) => r.weave)).toEqual(figure.ropes.map((r) => r.weave));
    }
  });

  it('passes a crossing by another without mixing them up', () => {
    // Two ropes down across one: the left is over it, the right under. The left is carried past the right.
    const three = weaveFigure(
      {
        ropes: [
          ...plus(-4).ropes,
          rope(
            'c',
            [
              [4, -8],
              [4.2, 8],
            ],
            { curve: 'straight' },
          ),
        ],
        hosts: [],
      },
      (m) => m.second.strand === 'c',
    );
    expect(three.ropes.map((r) => r.weave)).toEqual(['UO', 'O', 'U']);
    const passed = after(
      three,
      { kind: 'move-point', strand: 'b', index: 0, to: [7, -8] },
      { kind: 'move-point', strand: 'b', index: 1, to: [7, 8] },
    );
    expect(passed.ropes.map((r) => r.weave)).toEqual(['OU', 'O', 'U']);
  });

  it('carries a spar under a rope with the rope over it, unless it was beneath already', () => {
    const figure = after(
      {
        ropes: [
          rope('a', [
            [0, -10],
            [0, 10],
          ]),
        ],
        hosts: [],
      },
      {
        kind: 'add-host',
        host: {
          id: 'bar',
          kind: 'spar',
          points: [
            [-30, 20],
            [30, 20],
          ],
        },
      },
    );
    const under = after(figure, { kind: 'move-host', host: 'bar', by: [0, -18] });
    expect(under.ropes[0]?.weave).toBe('O');
    const swapped = after(
      under,
      { kind: 'swap', where: { strand: 'a', at: 0.6 } },
      { kind: 'move-host', host: 'bar', by: [0, -6] },
    );
    expect(swapped.ropes[0]?.weave).toBe('U');
  });
});

describe('closed ropes', () => {
  const ring: Figure = weaveFigure(
    {
      ropes: [
        rope(
          'ring',
          [
            [-5, -5],
            [5, -5],
            [5, 5],
            [-5, 5],
          ],
          { closed: true, ends: ['off', 'off'] },
        ),
        rope(
          'a',
          [
            [-12, 0],
            [12, 0.4],
          ],
          { curve: 'straight' },
        ),
      ],
      hosts: [],
    },
    (_, i) => i === 0,
  );
  it('cross what passes through them, also at their seam', () => {
    expect(readWeave(ring).ok).toBeTrue();
    expect(crossingsOf(ring).length).toBe(2);
  });
  it('keep their crossings when their first point is moved and when they are reversed', () => {
    const overs = (f: Figure): string | undefined => f.ropes[1]?.weave;
    expect(overs(after(ring, { kind: 'move-point', strand: 'ring', index: 0, to: [-6, -4] }))).toBe(overs(ring));
    expect(overs(after(ring, { kind: 'reverse', rope: 'ring' }))).toBe(overs(ring));
  });
  it('have no working end to lay on, and keep three points', () => {
    expect(applyEdit(ring, { kind: 'lay', rope: 'ring', points: [[0, 9]], pass: 'O' }).ok).toBeFalse();
    const three = after(ring, { kind: 'remove-point', strand: 'ring', index: 2 });
    expect(applyEdit(three, { kind: 'remove-point', strand: 'ring', index: 1 }).ok).toBeFalse();
  });
});

describe('eyes', () => {
  const figure: Figure = {
    ropes: [
      rope(
        'a',
        [
          [0, 0],
          [4, 0],
          [8, 0],
          [12, 0],
        ],
        { eyes: [0.5, 2.25] },
      ),
    ],
    hosts: [],
  };
  it('stay at their place on the rope through edits', () => {
    const eyes = (edit: Edit): readonly number[] | undefined => after(figure, edit).ropes[0]?.eyes;
    expect(eyes({ kind: 'insert-point', strand: 'a', at: 1.5 })).toEqual([0.5, 3.25]);
    expect(eyes({ kind: 'remove-point', strand: 'a', index: 0 })).toEqual([1.25]);
    expect(eyes({ kind: 'reverse', rope: 'a' })).toEqual([0.75, 2.5]);
    expect(eyes({ kind: 'move-point', strand: 'a', index: 1, to: [4, 2] })).toEqual([0.5, 2.25]);
  });
});

describe('Meetings', () => {
  /** A rope that wanders about the board by so many points. */
  const wandering = (id: string, count: number): fc.Arbitrary<Rope> =>
    fc
      .array(fc.tuple(fc.integer({ min: -300, max: 300 }), fc.integer({ min: -300, max: 300 })), {
        minLength: count,
        maxLength: count,
      })
      .map((steps) => {
        let [x, y] = [0, 0];
        const points = steps.map(([dx, dy]): Point => {
          [x, y] = [(x + dx / 100) * 0.99, (y + dy / 100) * 0.99];
          return [x, y];
        });
        return rope(id, points, { curve: 'straight' });
      });
  const pair = (m: Meeting): string => `${m.first.strand}${m.second.strand}`;

  it('of many pieces, found by sweeping, are those of each two ropes by themselves, in the same order', () => {
    fc.assert(
      fc.property(wandering('a', 260), wandering('b', 260), wandering('c', 40), (a, b, c) => {
        const found = (...ropes: Rope[]): Meeting[] => [...meetings({ ropes, hosts: [] })];
        const all = found(a, b, c);
        const apart = [found(a), found(a, c).filter((m) => pair(m) === 'ac'), found(b, c)];
        const ofPairs = ['aa', 'ac'].map((p) => all.filter((m) => pair(m) === p));
        expect([...ofPairs, all.filter((m) => !pair(m).includes('a'))]).toEqual(apart);
        expect(all.length).toBeGreaterThan(0);
      }),
      { numRuns: 10 },
    );
  });

  it('are not all looked for where there are more than are wanted', () => {
    fc.assert(
      fc.property(anyFigure, fc.nat(12), (figure, most) => {
        expect(meetsMoreThan({ ...figure }, most)).toBe(meetings(figure).length > most);
      }),
    );
    // Twelve ropes of 2,000 points, each up and down across all others: millions of meetings.
    const zigzag = (n: number): Rope =>
      rope(
        `r${n}`,
        Array.from({ length: 2000 }, (_, i): Point => [-300 + (0.25 + 0.01 * n) * i, i % 2 === 0 ? -200 : 200]),
        { curve: 'straight' },
      );
    const began = performance.now();
    expect(meetsMoreThan({ ropes: Array.from({ length: 12 }, (_, n) => zigzag(n)), hosts: [] }, 300)).toBeTrue();
    // Minutes, when every one of them is looked for; no measure of speed.
    expect(performance.now() - began).toBeLessThan(20_000);
  });
});
