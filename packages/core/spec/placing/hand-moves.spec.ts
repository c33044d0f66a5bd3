/**
 * Moves laid in one: what is asked for is laid and nothing else is changed, on any figure, and it is told as what it is.
 */
import fc from 'fast-check';
import {
  applyEdit,
  changeMethod,
  composeStep,
  curveOf,
  lastAt,
  methodFor,
  passagesOf,
  pointAt,
  ropeOf,
  spillTest,
  stepsOf,
  weaveFigure,
  WORKSHOP_WORDS,
  type Edit,
  type Figure,
  type HandMove,
  type Letter,
  type Method,
  type Rope,
} from '../../src/index.js';
import { moveEdit, slingEdit } from '../../src/placing/hand-moves.js';
import { anyFigure, EMPTY, go, rope } from '../support/figures.js';

const sparAt = (x: number): Edit => ({
  kind: 'add-host',
  host: {
    id: 'spar',
    kind: 'spar',
    points: [
      [x, -16],
      [x, 16],
    ],
    size: 2.4,
  },
});

const made = (figure: Figure, move: HandMove): Figure => {
  const edit = moveEdit(figure, move);
  if (!edit.ok) throw new Error(`${edit.place}: ${edit.reason}`);
  return go(figure, edit.value);
};

/** What a rope does past a place of its trail. */
const laidPast = (figure: Figure, id: string, at: number): { strand: string; letter: Letter }[] =>
  passagesOf(figure, id)
    .filter((p) => p.at > at)
    .map((p) => ({ strand: p.other.strand, letter: p.over ? 'O' : 'U' }));

/** Steps of the moves an end makes, one text each. */
function told(method: Method): string[] {
  const done = changeMethod(method, 0, { kind: 'propose-halts' });
  if (!done.ok) throw new Error(done.reason);
  return stepsOf(done.value).map((_, i) => composeStep(done.value, i, WORKSHOP_WORDS).text);
}

const line = (from: number, to: number): Figure => ({
  ropes: [
    rope('a', [
      [from, 0],
      [to, 0],
    ]),
  ],
  hosts: [],
});

describe('moves laid in one', () => {
  it('go round a strand and out over their own lead, whatever else lies about; nothing that lay there changes', () => {
    let laid = 0;
    fc.assert(
      fc.property(
        anyFigure,
        fc.double({ min: 0.05, max: 0.95, noNaN: true }),
        fc.constantFrom<Letter>('O', 'U'),
        (figure, share, first) => {
          const own = figure.ropes[0] as Rope;
          const target = figure.hosts.find((h) => h.kind === 'spar') ?? figure.ropes.at(-1)!;
          const end = 'kind' in target ? target.points.length - 1 : lastAt(target);
          const about = { strand: target.id, at: share * end };
          const edit = moveEdit(figure, { kind: 'hitch', rope: own.id, first, way: 1, about });
          // A press where there is no room is refused; most are not.
          fc.pre(edit.ok);
          const done = applyEdit(figure, edit.value);
          fc.pre(done.ok);
          laid += 1;
          const after = done.value.figure;
          const before = passagesOf(figure, own.id);
          expect(
            passagesOf(after, own.id)
              .filter((p) => p.at <= lastAt(own) && !(p.other.strand === own.id && p.other.at > lastAt(own)))
              .map((p) => p.over),
          ).toEqual(before.map((p) => p.over));
          const past = laidPast(after, own.id, lastAt(own));
          const other = first === 'O' ? 'U' : 'O';
          // What is in the way is passed as the move begins; the hitch is the part twice and its own lead.
          const parts = past.filter((p) => p.strand === target.id && target.id !== own.id).map((p) => p.letter);
          if (target.id !== own.id && !parts.join('').includes(first + other)) fail('it goes once round');
          expect(past.map((p) => p.letter).join('')).toContain(first + other);
          expect(past.at(-1)?.letter).toBe(first);
        },
      ),
      { numRuns: 24, endOnFailure: true },
    );
    expect(laid).toBeGreaterThan(12);
  });

  it('are told as what they are', () => {
    const spar = go(line(-30, 8), sparAt(14));
    const turned = made(spar, {
      kind: 'turns',
      rope: 'a',
      first: 'O',
      way: 1,
      about: { strand: 'spar', at: 0.5 },
      turns: 2,
    });
    const hitched = made(turned, { kind: 'hitch', rope: 'a', first: 'O', way: 1, about: { strand: 'a', at: 0.7 } });
    const twice = made(hitched, { kind: 'hitch', rope: 'a', first: 'O', way: 1, about: { strand: 'a', at: 0.4 } });
    const reversed = made(hitched, { kind: 'hitch', rope: 'a', first: 'U', way: 1, about: { strand: 'a', at: 0.4 } });
    expect(told(methodFor(twice))).toEqual([
      'Make a round turn on the spar with the working end, first over it, and out to the left.',
      'Make a half hitch round the standing part: over it, round behind it, and out over its own part.',
      'Make another half hitch round the standing part, the same way round.',
    ]);
    expect(told(methodFor(reversed)).at(-1)).toContain('the other way round');
  });

  it('leave a hitch that falls off when its spar is taken out', () => {
    for (const first of ['O', 'U'] as const) {
      const f = made(go(line(-20, 8), sparAt(14)), {
        kind: 'hitch',
        rope: 'a',
        first,
        way: 1,
        about: { strand: 'spar', at: 0.5 },
      });
      expect(spillTest(f).map((s) => s.spills)).toEqual([true]);
    }
  });

  it('keep turns that were laid as one: their number can be changed afterwards', () => {
    const f = made(go(line(-20, 8), sparAt(14)), {
      kind: 'turns',
      rope: 'a',
      first: 'U',
      way: 1,
      about: { strand: 'spar', at: 0.4 },
      turns: 3,
    });
    expect(ropeOf(f, 'a')?.wraps?.map((w) => w.turns)).toEqual([3]);
    expect(ropeOf(go(f, { kind: 'rewrap', rope: 'a', wrap: 0, turns: 1 }), 'a')?.wraps?.map((w) => w.turns)).toEqual([
      1,
    ]);
  });

  it('follow a whole strand from where the end lies beside it', () => {
    const two: Figure = {
      ropes: [
        rope('a', [
          [-20, 0],
          [-10, 5],
          [0, 0],
          [10, -5],
          [20, 0],
        ]),
        rope('b', [
          [-30, 2],
          [-22, 2],
        ]),
      ],
      hosts: [],
    };
    const f = made(two, { kind: 'follow', rope: 'b', first: 'O', way: 1, about: { strand: 'a', at: 2 } });
    const b = ropeOf(f, 'b') as Rope;
    const end = pointAt(curveOf(b), lastAt(b));
    expect(Math.hypot(end[0] - 20, end[1])).toBeLessThan(2.5);
  });

  it('lay a sling round a part of any breadth, on either side: so many turns each way, its legs beneath the bridge', () => {
    for (const size of [1, 2.4, 5])
      for (const way of [1, -1] as const) {
        const spar: Figure = {
          ropes: [],
          hosts: [
            {
              id: 'spar',
              kind: 'spar',
              points: [
                [-40, 0],
                [40, 0],
              ],
              size,
            },
          ],
        };
        const edit = slingEdit(spar, { about: { strand: 'spar', at: 0.5 }, turns: 2, way });
        if (!edit.ok) throw new Error(edit.reason);
        const f = go(spar, edit.value);
        const [sling] = f.ropes as [Rope];
        const round = passagesOf(f, sling.id).filter((p) => p.other.strand === 'spar');
        // From the bridge one way and from it the other: over and under by turns.
        expect(round.map((p) => (p.over ? 'O' : 'U')).join('')).toBe('OUOUUOUO');
        const own = passagesOf(f, sling.id).filter((p) => p.other.strand === sling.id);
        expect(own.map((p) => (p.over ? 'O' : 'U')).join('')).toBe('UOOU');
        // The middle of the loaded bight, by the right of the spar or its left: below or above on the board.
        expect(Math.sign(pointAt(curveOf(sling), 0)[1])).toBe(way);
      }
  });

  it('cross nothing that they were not asked to: a loop, turns, a sling where something lies beside the part are refused', () => {
    const across = (x: number): Rope =>
      rope('x', [
        [x, -30],
        [x, 30],
      ]);
    const common = { rope: 'a', first: 'O', way: 1 } as const;
    const crossed = (x: number): Figure =>
      weaveFigure({ ropes: [...line(-20, 8).ropes, across(x)], hosts: [] }, () => true);
    const crowded = crossed(-4);
    const refused = [
      moveEdit(crossed(3), { ...common, kind: 'loop', about: { strand: 'a', at: 0.3 } }),
      moveEdit(crowded, { ...common, kind: 'turns', about: { strand: 'a', at: 0.5 }, turns: 4 }),
      slingEdit(crowded, { about: { strand: 'a', at: 0.5 }, turns: 2, way: 1 }),
    ];
    expect(refused.map((r) => (r.ok ? 'laid' : r.place))).toEqual(['move', 'move', 'move']);
  });

  it('are refused with a way to mend it where they cannot be laid', () => {
    const f = line(-20, 8);
    const sling: Figure = {
      ...EMPTY,
      ropes: [
        rope(
          'a',
          [
            [0, 0],
            [6, 0],
            [3, 5],
          ],
          { closed: true, ends: ['off', 'off'] },
        ),
      ],
    };
    const common = { rope: 'a', first: 'O', way: 1 } as const;
    const refusals = [
      moveEdit(EMPTY, { ...common, kind: 'hitch', about: { strand: 'a', at: 1 } }),
      moveEdit(sling, { ...common, kind: 'hitch', about: { strand: 'a', at: 1 } }),
      moveEdit(f, { ...common, kind: 'hitch', about: { strand: 'x', at: 1 } }),
      moveEdit(f, { ...common, kind: 'through', place: [0, 6] }),
      moveEdit(f, { ...common, kind: 'overhand', about: { strand: 'a', at: 0.9 }, turns: 3 }),
      moveEdit(f, { ...common, kind: 'loop', about: { strand: 'a', at: 0.99 } }),
      moveEdit(go(f, sparAt(14)), { ...common, kind: 'follow', about: { strand: 'spar', at: 0.5 } }),
    ];
    for (const r of refusals) {
      expect(r.ok).toBeFalse();
      if (!r.ok) expect(r.remedy).not.toBe('');
    }
  });
});
