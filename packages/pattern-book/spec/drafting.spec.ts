/**
 * Knots drafted with the bench's tools, one edit after the other, come out as what they are.
 */
import {
  applyEdit,
  changeMethod,
  curveOf,
  lastAt,
  methodFor,
  nearestOn,
  ropeOf,
  signatureOf,
  type Edit,
  type Figure,
  type HandMove,
  type HandMoveKind,
  type Point,
  type Rope,
  type TrailPosition,
} from '@foxtrail/core';
import { moveEdit, slingEdit } from '@foxtrail/core/moves';
import { patternKeys } from '../src/index.js';

const EMPTY: Figure = { ropes: [], hosts: [] };
const go = (figure: Figure, ...edits: readonly Edit[]): Figure =>
  edits.reduce((f, e) => {
    const done = applyEdit(f, e);
    if (!done.ok) throw new Error(`${e.kind}: ${done.place}: ${done.reason}`);
    return done.value.figure;
  }, figure);
const rope = (id: string, points: readonly Point[], ends: Rope['ends'] = ['standing', 'tail']): Edit => ({
  kind: 'add-rope',
  rope: { id, points, curve: 'smooth', closed: false, ends },
});
const lay = (id: string, points: readonly Point[], pass: string): Edit => ({ kind: 'lay', rope: id, points, pass });
const near = (f: Figure, strand: string, p: Point): TrailPosition => {
  const s = ropeOf(f, strand) ?? f.hosts.find((h) => h.id === strand);
  return { strand, at: nearestOn(curveOf(s as Rope), p).at };
};
const names = (f: Figure): string[] => {
  const own = signatureOf(f);
  if (!own.ok) throw new Error(own.reason);
  return patternKeys()
    .matches(own.value)
    .filter((m) => m.relation === 'same' || m.relation === 'mirror')
    .map((m) => m.id);
};

const eight = go(
  EMPTY,
  rope('a', [
    [0, 26],
    [0.2, 17],
    [0, 9],
    [0, 3],
    [0, -5],
    [-0.7, -13],
    [-5.5, -19],
    [-13, -18],
    [-14.5, -11],
    [-9, -5.2],
  ]),
  lay(
    'a',
    [
      [-4, -3],
      [2, -1],
      [5.6, 2],
      [5, 6],
      [0.4, 7.4],
      [-6, 7.4],
      [-13, 6],
      [-17.4, -2],
      [-14, -9.8],
      [-10, -16.8],
      [-10.4, -25],
      [-18, -32],
    ],
    'W'.repeat(12),
  ),
);

describe('Drafted with the tools', () => {
  it('a woven eight is the figure eight; retraced round an eye it is the followed eight, on either side', () => {
    expect(names(eight)).toEqual(['figure-eight']);
    const last = lastAt(eight.ropes[0]!);
    for (const side of ['left', 'right'] as const) {
      const eyed = go(
        eight,
        lay(
          'a',
          side === 'left'
            ? [
                [-26, -37],
                [-32, -34],
                [-31, -28],
                [-25, -28.2],
                [-21, -30.6],
              ]
            : [
                [-26, -33],
                [-30, -39],
                [-26, -43],
                [-20, -39],
              ],
          'OOOOO',
        ),
        { kind: 'retrace', rope: 'a', along: { strand: 'a', from: last - 0.6, to: 0.4 }, side },
      );
      const followed: Figure = { ...eyed, ropes: eyed.ropes.map((r) => ({ ...r, eyes: [last + 2] })), hosts: [] };
      expect(names(followed)).withContext(side).toContain('followed-eight');
    }
  });

  it('two ropes, each wrapped twice round both and led out through its turns, are the double fisherman’s', () => {
    const L = 16;
    let f = go(
      EMPTY,
      rope('a', [
        [-L - 16, -1.3],
        [-L, -1.3],
        [0, -1.3],
        [L, -1.3],
      ]),
      rope('b', [
        [L + 16, 1.3],
        [L, 1.3],
        [0, 1.3],
        [-L, 1.3],
      ]),
    );
    for (const [id, other, s] of [
      ['a', 'b', 1],
      ['b', 'a', -1],
    ] as const) {
      const at = (x: number, y: number): Point => [x * s, y * s];
      f = go(f, lay(id, [at(L + 2, 2.4), at(L + 1.2, 5)], 'OO'));
      f = go(f, {
        kind: 'wrap',
        rope: id,
        about: [near(f, other, at(L - 1, 1.3)), near(f, id, at(L - 1, -1.3))],
        turns: 2,
        first: 'U',
        spacing: 4,
      });
      const x = (ropeOf(f, id)!.points.at(-1) as Point)[0] * s;
      // Over the near strand into the turns, through them by turns, out under the start of the turns and over the other strand.
      f = go(
        f,
        lay(id, [at(x - 2.4, 3), at(x - 2, 0.6)], 'OO'),
        lay(id, [at(x + 1, 0), at(L - 0.2, 0)], 'WW'),
        lay(id, [at(L + 3, 0), at(L + 6, 0.1)], 'UU'),
        lay(id, [at(L + 9, 3.5), at(L + 14, 4)], 'OO'),
      );
    }
    expect(names(f)).toEqual(['double-fishermans']);
    // One turn fewer in each is the single one, which is another knot; with the turns laid anew it is the double one again.
    const fewer = go(
      f,
      { kind: 'rewrap', rope: 'a', wrap: 0, turns: 1 },
      { kind: 'rewrap', rope: 'b', wrap: 0, turns: 1 },
    );
    expect(names(fewer)).toEqual(['fishermans']);
    expect(
      names(
        go(fewer, { kind: 'rewrap', rope: 'a', wrap: 0, turns: 2 }, { kind: 'rewrap', rope: 'b', wrap: 0, turns: 2 }),
      ),
    ).toEqual(['double-fishermans']);
  });

  it('a sling wrapped three times up and three times down about a rope, with its bridge across, is the prusik', () => {
    let f = go(
      EMPTY,
      rope(
        'a',
        [
          [0, 40],
          [0, 20],
          [0, 0],
          [0, -20],
          [0, -40],
        ],
        ['standing', 'standing'],
      ),
    );
    f = go(
      f,
      rope('b', [
        [26, -2],
        [14, -2.4],
        [6, -2.4],
      ]),
    );
    f = go(f, { kind: 'wrap', rope: 'b', about: [near(f, 'a', [0, -2.4])], turns: 3, direction: 'on', spacing: 4 });
    f = go(
      f,
      lay(
        'b',
        [
          [6, -14],
          [9, -10],
          [9.4, 0],
          [9, 10],
          [6, 13.4],
        ],
        'OOOOO',
      ),
    );
    f = go(f, {
      kind: 'wrap',
      rope: 'b',
      about: [near(f, 'a', [0, 12.4])],
      turns: 3,
      direction: 'on',
      first: 'U',
      spacing: 4,
    });
    f = go(
      f,
      lay(
        'b',
        [
          [8, 2.4],
          [14, 2.4],
          [26, 2],
          [30, 0.6],
        ],
        'UUOO',
      ),
      { kind: 'set-closed', rope: 'b', closed: true },
    );
    const eye = lastAt(f.ropes[1]!) + 0.5;
    f = { ...f, ropes: f.ropes.map((r) => (r.id === 'b' ? { ...r, eyes: [eye] } : r)) };
    expect(names(f)).toEqual(['prusik']);
  });

  it('a slipped sheet bend is the sheet bend once its bight is pulled through', () => {
    const bends = go(
      EMPTY,
      rope('a', [
        [-24, 3],
        [-12, 3],
        [-3, 3],
        [3.4, 3],
        [6, 0],
        [3.4, -3],
        [-3, -3],
        [-10, -3.4],
      ]),
      rope('b', [
        [24, 0],
        [12, 0.4],
        [8, 0.2],
      ]),
      lay(
        'b',
        [
          [2, -0.6],
          [-1, -3],
          [-3.6, -6.6],
          [-7, -5],
          [-7.6, 0],
          [-6.6, 6],
          [-3, 7.4],
          [1, 7.6],
          [9, 8],
          [18, 8],
        ],
        'UOOUUUOOOO',
      ),
    );
    const drawn = changeMethod(methodFor(bends), 0, {
      // From below, over the lower leg, under its own standing part, over the upper leg.
      kind: 'bight',
      rope: 'b',
      at: near(bends, 'b', [-1.4, 7.5]).at,
      points: [
        [-0.4, 4.6],
        [0.4, 1.6],
        [1.2, -1.4],
        [3, -6],
        [5, -9],
      ],
      pass: 'OOUOO',
    });
    if (!drawn.ok) throw new Error(drawn.reason);
    const { figure, leaders } = drawn.value;
    const leader = leaders.find((l) => l.kind === 'bight')!;
    const through = go(figure, { kind: 'pull-through', rope: 'b', from: leader.from, to: leader.to });
    expect(names(through)).toEqual(['sheet-bend']);
    // A bight drawn through holds nothing by itself: pulled out again, the knot is what it was before.
    expect(names(figure)).toEqual(names(bends));
    expect(names(bends)).not.toContain('sheet-bend');
  });
});

/** A move as it is asked for on the bench: rope a, first over, on along the part, where nothing else is said. */
type Asked = { readonly kind: HandMoveKind } & Partial<Omit<HandMove, 'kind'>> & {
    readonly about?: TrailPosition;
    readonly turns?: number;
    readonly place?: Point;
  };
const byMoves = (figure: Figure, ...asked: readonly Asked[]): Figure =>
  asked.reduce((f, ask) => {
    const edit = moveEdit(f, { rope: 'a', first: 'O', way: 1, ...ask } as HandMove);
    if (!edit.ok) throw new Error(`${ask.kind}: ${edit.place}: ${edit.reason}`);
    return go(f, edit.value);
  }, figure);
const spar: Edit = {
  kind: 'add-host',
  host: {
    id: 'spar',
    kind: 'spar',
    points: [
      [14, -16],
      [14, 16],
    ],
    size: 2.4,
  },
};
const begun = (from: number, ...edits: readonly Edit[]): Figure =>
  go(
    EMPTY,
    rope('a', [
      [from, 0],
      [8, 0],
    ]),
    ...edits,
  );
/** What it is, wherever its tail comes out. */
const kin = (f: Figure): string[] => {
  const own = signatureOf(f);
  if (!own.ok) throw new Error(own.reason);
  return patternKeys()
    .matches(own.value)
    .filter((m) => m.relation !== 'same body, other ends')
    .map((m) => m.id);
};

describe('knots laid by moves', () => {
  it('are a round turn and two half hitches after three', () => {
    const knot = byMoves(
      begun(-30, spar),
      { kind: 'turns', about: { strand: 'spar', at: 0.5 }, turns: 2 },
      { kind: 'hitch', about: { strand: 'a', at: 0.7 } },
      { kind: 'hitch', about: { strand: 'a', at: 0.4 } },
    );
    expect(kin(knot)).toContain('round-turn-two-half-hitches');
  });

  it('are a clove hitch after two half hitches round a spar, and a cow hitch when the second is begun behind', () => {
    const first = byMoves(begun(-20, spar), { kind: 'hitch', about: { strand: 'spar', at: 0.5 } });
    const clove = byMoves(first, { kind: 'hitch', about: { strand: 'spar', at: 0.8 } });
    const cow = byMoves(first, { kind: 'hitch', about: { strand: 'spar', at: 0.8 }, first: 'U' });
    expect(kin(clove)).toContain('clove-hitch');
    expect(kin(cow)).toContain('cow-hitch');
    expect(kin(cow)).not.toContain('clove-hitch');
  });

  it('are a taut-line hitch after a turn, two turns inside the loop and a hitch outside', () => {
    const knot = byMoves(
      begun(-40, spar),
      { kind: 'turns', about: { strand: 'spar', at: 0.5 }, turns: 1 },
      { kind: 'turns', about: { strand: 'a', at: 0.55 }, turns: 2 },
      { kind: 'hitch', about: { strand: 'a', at: 0.25 } },
    );
    expect(kin(knot)).toContain('taut-line-hitch');
  });

  it('are a double fisherman’s after an overhand of two turns by each rope, a single one after one turn', () => {
    const two = (turns: number): Figure =>
      byMoves(
        go(
          EMPTY,
          rope('a', [
            [-70, 0],
            [-8, 0],
          ]),
          rope('b', [
            [60, 3],
            [-20, 3],
          ]),
        ),
        { kind: 'overhand', about: { strand: 'b', at: 0.55 }, way: -1, turns },
        { kind: 'overhand', rope: 'b', about: { strand: 'a', at: 0.8 }, way: -1, turns },
      );
    expect(kin(two(1))).toContain('fishermans');
    expect(kin(two(2))).toContain('double-fishermans');
  });

  it('are a noose of so many turns when a doubled rope ties its overhand round its own standing part, worked either way', () => {
    const doubled = go(
      EMPTY,
      rope('a', [
        [-60, 0],
        [0, 0],
        [30, 0],
        [36, 3],
        [38, 8],
        [36, 13],
        [28, 14],
      ]),
    );
    for (const turns of [1, 2]) {
      const tied = byMoves(doubled, { kind: 'overhand', about: { strand: 'a', at: 0.7 }, way: -1, turns });
      const noose = go(tied, { kind: 'toggle-eye', where: { strand: 'a', at: 4 } });
      expect(kin(noose)).toContain(turns === 1 ? 'noose' : 'noose-2');
    }
    const along = byMoves(doubled, { kind: 'overhand', about: { strand: 'a', at: 0.2 }, way: 1, turns: 1 });
    expect(signatureOf(along).ok).toBeTrue();
  });

  it('are an overhand after a loop and a tuck, of the other hand when both are the other way', () => {
    const tied = (first: 'O' | 'U'): Figure =>
      byMoves(
        begun(-20),
        { kind: 'loop', about: { strand: 'a', at: 0.5 }, first },
        { kind: 'through', place: [6, 3], first: first === 'O' ? 'U' : 'O' },
      );
    const keys = (['O', 'U'] as const).map((first) => {
      const own = signatureOf(tied(first));
      return own.ok ? own.value.key : '';
    });
    expect(names(tied('O'))).toContain('overhand');
    expect(names(tied('U'))).toContain('overhand');
    expect(keys[0]).not.toBe(keys[1] as string);
  });

  it('are the book’s half hitch, its backed clove hitch and its sling cow hitch', () => {
    const up: Figure = go(
      EMPTY,
      {
        kind: 'add-host',
        host: {
          id: 'spar',
          kind: 'spar',
          points: [
            [-24, 0],
            [24, 0],
          ],
          size: 2.4,
        },
      },
      rope('a', [
        [0, 40],
        [0, 20],
        [0, 6],
      ]),
    );
    const one = byMoves(up, { kind: 'hitch', about: { strand: 'spar', at: 0.5 } });
    expect(kin(one)).toContain('half-hitch');
    const backed = byMoves(
      one,
      { kind: 'hitch', about: { strand: 'spar', at: 0.66 } },
      { kind: 'hitch', about: { strand: 'a', at: 0.35 } },
    );
    expect(kin(backed)).toContain('clove-hitch-backed');
    const bare = go(EMPTY, spar);
    const sling = slingEdit(bare, { about: { strand: 'spar', at: 0.5 }, turns: 1, way: 1 });
    if (!sling.ok) throw new Error(sling.reason);
    expect(kin(go(bare, sling.value))).toContain('sling-hitch');
  });

  it('are the same with the rope’s other end', () => {
    const f = begun(-20, spar);
    const turned = go(f, { kind: 'reverse', rope: 'a' });
    const lays = (figure: Figure, at: number, leads: 'first' | 'last'): string[] => {
      const edit = moveEdit(
        figure,
        { kind: 'hitch', rope: 'a', first: 'O', way: 1, about: { strand: 'spar', at } },
        leads,
      );
      if (!edit.ok) throw new Error(edit.reason);
      return kin(go(figure, edit.value));
    };
    expect(lays(turned, 0.5, 'first')).toEqual(lays(f, 0.5, 'last'));
  });
});
