/**
 * Small builders that lay the ropes of a pattern: curves turned and moved, a strand followed at one rope's distance, an n-turn
 * overhand round other strands. Coordinates are rope diameters, x to the right, y down.
 */
import {
  add,
  atLength,
  crossingsOf,
  curveOf,
  directionAt,
  lastAt,
  lengthOf,
  lengthTo,
  meetings,
  passagesOf,
  pointAt,
  scale,
  weaveFigure,
  type Break,
  type End,
  type Figure,
  type Host,
  type Point,
  type Raised,
  type Rope,
  type TrailPosition,
} from '@foxtrail/core';

/** A rope as it is written in the book. */
export interface Laid {
  readonly points: readonly Point[];
  readonly weave: string;
  readonly ends?: readonly [End, End];
  readonly eyes?: readonly number[];
  readonly closed?: boolean;
}

const IDS = 'abcd';

/** Ropes a, b, … from what is written in the book. */
export const ropesOf = (laid: readonly Laid[]): Rope[] =>
  laid.map((l, i) => ({
    id: IDS.charAt(i),
    points: l.points,
    curve: 'smooth',
    closed: l.closed ?? false,
    ends: l.ends ?? ['standing', 'tail'],
    weave: l.weave,
    ...(l.eyes ? { eyes: l.eyes } : {}),
  }));

/**
 * Ropes with their overs and unders read from the letters of some of them: the others follow. Letters that do not fit, or a
 * crossing that no letters decide, are a bug in the book.
 */
export function woven(laid: readonly Laid[], hosts: readonly Host[] = []): Figure {
  const bare: Figure = { ropes: ropesOf(laid).map((r) => ({ ...r, weave: '' })), hosts };
  const list = meetings(bare);
  const says = new Map<(typeof list)[number], boolean>();
  laid.forEach(({ weave }, i) => {
    if (weave === '') return;
    const id = IDS.charAt(i);
    const passages = list
      .flatMap((m) => [
        ...(m.first.strand === id ? [{ m, at: m.first.at, first: true }] : []),
        ...(m.second.strand === id ? [{ m, at: m.second.at, first: false }] : []),
      ])
      .sort((p, q) => p.at - q.at);
    if (passages.length !== weave.length)
      throw new Error(`rope ${id} meets ${passages.length} crossings, its weave has ${weave.length} letters`);
    passages.forEach(({ m, first, at }, k) => {
      const firstIsOver = (weave[k] === 'O') === first;
      if (says.has(m) && says.get(m) !== firstIsOver)
        throw new Error(`rope ${id} at ${at.toFixed(2)}: both passages say the same`);
      says.set(m, firstIsOver);
    });
  });
  return weaveFigure(bare, (m) => {
    const said = says.get(m);
    if (said === undefined) throw new Error(`nothing says which is over at ${m.point.join(', ')}`);
    return said;
  });
}

/** A straight spar across the board at a height, or up and down it. */
export const spar = (at: number, reach = 16, size = 2.4): Host => ({
  id: 'spar',
  kind: 'spar',
  points: [
    [-reach, at],
    [reach, at],
  ],
  size,
});

/**
 * A pear-shaped carabiner whose broad end is a bar along the x axis, straight for about five diameters to either side at `broad` 1; its gate is
 * at the right.
 */
export const carabiner = (broad: number, size: number): Host => ({
  id: 'carabiner',
  kind: 'carabiner',
  points: (
    [
      [-2.8, -12.6],
      [2.4, -12.6],
      [4.6, -10.4],
      [7, -3.8],
      [5, 0],
      [-5, 0],
      [-7.3, -3.4],
      [-4.9, -10.4],
    ] as const
  ).map(([x, y]): Point => [x * broad, y * broad]),
  size,
});

/** A ring that rests on the x axis. */
export const ring = (radius: number, size: number): Host => ({
  id: 'ring',
  kind: 'ring',
  points: Array.from({ length: 8 }, (_, i): Point => {
    const angle = ((i + 0.5) * Math.PI) / 4;
    return [radius * Math.cos(angle), radius * (Math.sin(angle) - 1)];
  }),
  size,
});

/** Turned by quarter turns, clockwise as seen on the screen. */
export function turned(points: readonly Point[], quarters: number): Point[] {
  const c = [1, 0, -1, 0][((quarters % 4) + 4) % 4] as number;
  const s = [0, 1, 0, -1][((quarters % 4) + 4) % 4] as number;
  return points.map(([x, y]): Point => [c * x - s * y, s * x + c * y]);
}

/** The rope from its other end: points, weave, ends and eyes. */
export const reversed = (laid: Laid): Laid => ({
  ...laid,
  points: [...laid.points].reverse(),
  weave: Array.from(laid.weave).reverse().join(''),
  ...(laid.ends ? { ends: [laid.ends[1], laid.ends[0]] } : {}),
  ...(laid.eyes ? { eyes: laid.eyes.map((e) => laid.points.length - 1 - e) } : {}),
});

/** A letter string repeated. */
export const times = (letters: string, n: number): string => letters.repeat(n);

/** A rope laid by heights. */
export interface LaidInLayers extends Pick<Laid, 'ends' | 'eyes' | 'closed'> {
  readonly points: readonly Raised[];
}

/** Height of every host: a rope passes in front of it above, behind it below. */
const HOST_HEIGHT = 0;

/** Ropes laid in layers, as turns lie on a hand or a spar: at each crossing the strand that is higher there is over. */
export function layered(laid: readonly LaidInLayers[], hosts: readonly Host[] = []): Figure {
  const ropes = ropesOf(laid.map((l) => ({ ...l, points: l.points.map(([x, y]): Point => [x, y]), weave: '' })));
  const height = ({ strand, at }: TrailPosition): number => {
    const points = laid[ropes.findIndex((r) => r.id === strand)]?.points;
    if (!points) return HOST_HEIGHT;
    const i = Math.min(points.length - 1, Math.floor(at));
    const [p, q] = [points[i] as Raised, points[(i + 1) % points.length] as Raised];
    return p[2] + (q[2] - p[2]) * (at - i);
  };
  return weaveFigure({ ropes, hosts }, (m) => height(m.first) > height(m.second));
}

/** A strand in front of what it is wound round, at its side, and behind it. */
const [FRONT, ASIDE, BEHIND] = [1, 0, -1] as const;

/**
 * Turns as slanted bands round what lies along the x axis about y = `core`: each from above down to the right in front, and up again
 * behind, `reach` to either side, `pitch` from one to the next.
 */
export const bands = (
  turns: number,
  { x, core, reach, pitch }: Readonly<Record<'x' | 'core' | 'reach' | 'pitch', number>>,
): Raised[] =>
  Array.from({ length: turns }, (_, k): Raised[] => {
    const at = x + k * pitch;
    return [
      [at, core - reach, ASIDE],
      [at + 0.3 * pitch, core, FRONT],
      [at + 0.6 * pitch, core + reach, ASIDE],
      [at + 0.8 * pitch, core, BEHIND],
    ];
  }).flat();

/** Of the turns of an overhand round another strand, from one to the next. */
export const OVERHAND_TURN = 3.2;

/**
 * An overhand of n turns round a strand beside its own, both along the x axis: on along its own strand at `own` below the axis, back above
 * both, n turns round both, `reach` to either side, and out through the turns across what went back. `low` is where it turns back.
 */
export function overhandRound(
  n: number,
  { own, reach, low }: Readonly<Record<'own' | 'reach' | 'low', number>>,
): Raised[] {
  const far = n * OVERHAND_TURN;
  return [
    [0, own, 0],
    [far / 2, own, 0],
    [far + 0.8, own, 0],
    [far + 3.4, low, -1],
    [far + 3.8, -3.2, 0],
    [far + 1.6, -5.2, 0],
    [far / 2, -5.6, 0],
    [0, -5.4, 0],
    [-1.8, -4, 0],
    [-1.2, -1.8, 0.6],
    [0.3, 0, FRONT],
    ...bands(n, { x: -0.3, core: 0, reach, pitch: OVERHAND_TURN }).slice(2),
    [far - 0.3, -reach, 0.3],
    [far + 0.5, -5.4, FRONT],
  ];
}

/** What every tail of a figure that is drawn by hand counts, in diameters from its last crossing: what is not drawn of it is broken out. */
const TAIL = 18;

export function withTails(figure: Figure): Figure {
  const ropes = figure.ropes.map((rope): Rope => {
    if (rope.closed) return rope;
    const curve = curveOf(rope);
    const places = passagesOf(figure, rope.id).map((p) => p.at);
    const breaks = rope.ends.flatMap((end, i): Break[] => {
      if (end !== 'tail') return [];
      const [a, b] = (i === 0 ? [0, places[0] ?? 0] : [places.at(-1) ?? 0, lastAt(rope)]).map((at) =>
        lengthTo(curve, at),
      );
      const drawn = (b as number) - (a as number);
      const counts = Math.round(10 * (TAIL - drawn)) / 10;
      return counts < 1 ? [] : [{ at: atLength(curve, (a as number) + drawn * (i === 0 ? 0.45 : 0.55)), counts }];
    });
    return breaks.length === 0 ? rope : { ...rope, breaks };
  });
  return { ...figure, ropes };
}

/** A length of curve to be followed, and the strands that follow it. */
interface Follower {
  /** Distance to the left of the followed curve (to its right when negative). */
  readonly aside: number;
  readonly backwards: boolean;
}

/** Spacing of a follower's control points along the followed curve: close enough to keep its bends, wide enough to be moved by hand. */
const FOLLOW_STEP = 1.6;

/** Points that keep one distance to the left of a curve, between two lengths along it. */
export function beside(rope: Rope, from: number, to: number, { aside, backwards }: Follower): Point[] {
  const curve = curveOf(rope);
  const n = Math.max(2, Math.round((to - from) / FOLLOW_STEP));
  const points = Array.from({ length: n + 1 }, (_, i): Point => {
    const at = atLength(curve, from + ((to - from) * i) / n);
    const [dx, dy] = directionAt(curve, at);
    // To the left of travel with y down: (dy, −dx).
    return add(pointAt(curve, at), scale([dy, -dx], aside));
  });
  return backwards ? points.reverse() : points;
}

/**
 * Weaves ropes laid beside a single one: where they cross, the one is over that is over at the nearest crossing of the single
 * rope. `other` decides for crossings that the single rope does not have.
 */
export function wovenLike(single: Figure, ropes: readonly Rope[], hosts: readonly Host[], reach = 4): Figure {
  const base = curveOf(single.ropes[0] as Rope);
  const known = crossingsOf(single);
  return weaveFigure({ ropes: ropes.map((r) => ({ ...r, weave: '' })), hosts }, (m) => {
    let best = known[0];
    let least = Infinity;
    for (const c of known) {
      const off = Math.hypot(c.point[0] - m.point[0], c.point[1] - m.point[1]);
      if (off < least) [best, least] = [c, off];
    }
    if (!best || least > reach) return true;
    // The strand that runs the way of the single rope's over strand is over.
    const along = (strand: string, at: number): number => {
      const d = directionAt(curveOf(ropes.find((r) => r.id === strand) as Rope), at);
      const over = directionAt(base, best.over.at);
      return Math.abs(d[0] * over[0] + d[1] * over[1]);
    };
    return along(m.first.strand, m.first.at) > along(m.second.strand, m.second.at);
  });
}

export const ropeLength = (rope: Rope): number => lengthOf(curveOf(rope));
