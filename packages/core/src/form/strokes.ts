/**
 * What is seen of a form from a side, as strokes in the order of painting: whoever paints them, on paper or on a canvas, paints the same.
 */
import type { Pull } from '../drawing/finish.js';
import { OUTLINE, strokesOf, type Look, type Stroke } from '../drawing/look.js';
import type { Cordage } from '../figure/cordage.js';
import type { Figure, HostKind } from '../figure/figure.js';
import { boxOf, type Box, type Point } from '../figure/point.js';
import { leadCount, placeOf, type Chain, type Form, type Solid } from './form.js';
import { runsInOrder, type SeenRun, type SeenStrand } from './seen-runs.js';
import type { Sight } from './sight.js';
import { ballRound, dotOf, less, sum, times, unitOf, type Vector } from './vector.js';

/** A stroke with round ends, or with plain ones. */
export interface FormStroke extends Stroke {
  readonly butt?: true;
}

/** How much of a loaded part is in view beyond the knot, and how far it is drawn out of view, in diameters. */
const LEAD = 2.2;
const OUT_OF_VIEW = 1;
/** Room round what is in view, in diameters. */
const ROOM = 0.8;
/** A picture with a host is no narrower than this share of its height, nor lower than this share of its breadth. */
const LEAST_SHAPE = 0.8;
/** How far textures lap over one another, so that no seam shows, in diameters. */
const LAP = 0.06;
/** Length of the band at a rope's end, in its diameters. */
const BAND = 0.34;
/** What lies on a strand is seen on so many chords together, or not at all. */
const LEAST_SHEEN = { rope: 3, host: 4 } as const;
/** Nearer by this share of what it goes across the picture, a run is steep. */
const STEEP = 1.6;
/** Nearer by less than this share, it lies flat. */
const FLAT = 0.5;
/** So many chords before an end its band begins. */
const BAND_CHORDS = 3;
/** A post is seen this far to each side of the board, in diameters. */
const POST = 3;

/** A strand as it is seen: places in the picture and how near they are. */
function seen(
  x: Float64Array,
  [from, to]: readonly [number, number],
  view: Sight,
  closed: boolean,
  radius: number,
): SeenStrand {
  const n = to - from;
  const strand: SeenStrand = { points: new Float64Array(2 * n), depth: new Float64Array(n), radius, closed };
  for (let i = 0; i < n; i += 1) {
    const p = placeOf(x, from + i);
    strand.points.set([dotOf(p, view.right), dotOf(p, view.down)], 2 * i);
    strand.depth[i] = dotOf(p, view.near);
  }
  return strand;
}

/** The part of a host that is near the knot, as points close together. */
function nearHost(solid: Solid, middle: Vector, reach: number): Float64Array {
  if (solid.closed || solid.x.length > 6) return solid.x;
  const [a, b] = [placeOf(solid.x, 0), placeOf(solid.x, 1)];
  const way = unitOf(less(b, a));
  const start = sum(a, times(way, dotOf(less(middle, a), way) - reach));
  const n = Math.ceil((2 * reach) / 0.3);
  return Float64Array.from(Array.from({ length: n + 1 }, (_, k) => sum(start, times(way, (2 * reach * k) / n))).flat());
}

export const num = (v: number): string => String(Math.round(v * 100) / 100);
const say = (p: Point): string => `${num(p[0])} ${num(p[1])}`;
const between = (p: Point, q: Point, t = 0.5): Point => [p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])];

const pointOf = (strand: SeenStrand, i: number): Point => {
  const n = strand.depth.length;
  const k = strand.closed ? ((i % n) + n) % n : Math.min(n - 1, Math.max(0, i));
  return [strand.points[2 * k]!, strand.points[2 * k + 1]!];
};

/** Path data of a run, curved at its beads; `over` is how far it laps beyond both its ends. */
function pathOf(strand: SeenStrand, { from, to }: SeenRun, over = 0): string {
  const p = (i: number): Point => pointOf(strand, i);
  const beyond = (end: Point, inner: Point): Point => {
    const length = Math.hypot(end[0] - inner[0], end[1] - inner[1]);
    return over === 0 || length === 0 ? end : between(end, inner, -over / length);
  };
  const [first, last] = [beyond(p(from), p(from + 1)), beyond(p(to), p(to - 1))];
  if (to === from + 1) return `M${say(first)}L${say(last)}`;
  let path = `M${say(first)}`;
  for (let i = from + 1; i < to; i += 1) path += `Q${say(p(i))} ${say(i === to - 1 ? last : between(p(i), p(i + 1)))}`;
  return path;
}

/** The band at the very end of a tail. */
function bandPath(strand: SeenStrand, atStart: boolean): string {
  const n = strand.depth.length;
  const [tip, next] = atStart
    ? [pointOf(strand, 0), pointOf(strand, 2)]
    : [pointOf(strand, n - 1), pointOf(strand, n - 3)];
  const length = Math.hypot(next[0] - tip[0], next[1] - tip[1]) || 1;
  return `M${say(tip)}L${say(between(tip, next, (BAND * 2 * strand.radius) / length))}`;
}

interface Painted {
  readonly strand: SeenStrand;
  readonly kind: 'rope' | 'host';
  /** Of a host: what it is. */
  readonly host?: HostKind | undefined;
  readonly index: number;
  readonly cordage?: Cordage | undefined;
  /** Which ends are tails: at the first point, at the last. */
  readonly tails: readonly [boolean, boolean];
  /** Length in the picture to each point: keeps bands in place along the rope. */
  readonly lengths: readonly number[];
}

const lengthsOf = (strand: SeenStrand): number[] => {
  const out = [0];
  for (let i = 1; i <= strand.depth.length; i += 1) {
    const [p, q] = [pointOf(strand, i - 1), pointOf(strand, i)];
    out.push(out[i - 1]! + Math.hypot(q[0] - p[0], q[1] - p[1]));
  }
  return out;
};

/** The beads of a chain that are seen: its straight leads are cut where they are well out of the frame. */
function seenPart(chain: Chain, view: Sight, frame: Box): [number, number] {
  const [first, last] = leadCount(chain);
  const n = chain.at.length;
  const around = grown(frame, OUT_OF_VIEW);
  const isOut = (i: number): boolean => {
    const p = placeOf(chain.x, i);
    return !isIn(around, [dotOf(p, view.right), dotOf(p, view.down)]);
  };
  let [from, to] = [0, n];
  while (from < first && isOut(from)) from += 1;
  while (to > n - last && isOut(to - 1)) to -= 1;
  return [from, to];
}

export const grown = (box: Box, by: number): Box => [box[0] - by, box[1] - by, box[2] + by, box[3] + by];
const isIn = (box: Box, [x, y]: Point): boolean => x >= box[0] && x <= box[2] && y >= box[1] && y <= box[3];

/** The frame of a form from a side: the knot itself, its tails, and a piece of every loaded lead. */
export function frameOf(form: Form, view: Sight): Box {
  const range = (chain: Chain, from: number, to: number): Point[] =>
    Array.from({ length: to - from }, (_, k): Point => {
      const p = placeOf(chain.x, from + k);
      return [dotOf(p, view.right), dotOf(p, view.down)];
    });
  const inner = form.chains.flatMap((c) => {
    const [first, last] = leadCount(c);
    const isTail = (bead: number): boolean => c.outlets.some((o) => o.kind === 'tail' && o.first === bead);
    const n = c.at.length;
    return range(c, isTail(0) ? 0 : first, isTail(n - 1) ? n : n - last);
  });
  const reach = grown(boxOf(inner) ?? [-1, -1, 1, 1], LEAD);
  const leads = form.chains.flatMap((c) => range(c, 0, c.at.length)).filter((p) => isIn(reach, p));
  const box = grown(boxOf([...inner, ...leads]) ?? [-1, -1, 1, 1], ROOM);
  // A spar, or a line that is gripped, is seen to run on.
  return form.solids.some((s) => s.kind === 'spar' || s.kind === 'rope') ? inShape(box, LEAST_SHAPE) : box;
}

/** A frame round the middle of the knot that is the same size from wherever it is seen. */
export function steadyFrame(form: Form, { right, down }: Sight): Box {
  const ball = ballRound(
    form.chains.flatMap((c) => {
      const [first, last] = leadCount(c);
      return Array.from({ length: c.at.length - first - last }, (_, k) => placeOf(c.x, first + k));
    }),
  );
  const [x, y] = ball ? [dotOf(ball.middle, right), dotOf(ball.middle, down)] : [0, 0];
  const half = (ball?.radius ?? 1) + LEAD;
  return [x - half, y - half, x + half, y + half];
}

/** A box no narrower, and no lower, than a share of its other side, about its middle. */
function inShape([l, t, r, b]: Box, share: number): Box {
  const [w, h] = [Math.max(r - l, share * (b - t)), Math.max(b - t, share * (r - l))];
  const [x, y] = [(l + r) / 2, (t + b) / 2];
  return [x - w / 2, y - h / 2, x + w / 2, y + h / 2];
}

function paintedOf(figure: Figure, form: Form, view: Sight, frame: Box): Painted[] {
  const indexOf = (rope: string): number => figure.ropes.findIndex((r) => r.id === rope);
  const cordageOf = (rope: string): Cordage | undefined => figure.ropes.find((r) => r.id === rope)?.cordage;
  const ropes = form.chains.map((c): Painted => {
    const shown = seenPart(c, view, frame);
    const strand = seen(c.x, shown, view, c.closed, c.radius);
    const isTail = (bead: number): boolean => c.outlets.some((o) => o.kind === 'tail' && o.first === bead);
    return {
      strand,
      kind: 'rope',
      index: indexOf(c.rope),
      cordage: cordageOf(c.rope),
      tails: [shown[0] === 0 && isTail(0), shown[1] === c.at.length && isTail(c.at.length - 1)],
      lengths: lengthsOf(strand),
    };
  });
  const ball = ballRound(form.chains.flatMap((c) => Array.from(c.at, (_, i) => placeOf(c.x, i))));
  /** A spar runs on as far as the picture does, however it is turned. */
  const toCorner = (middle: Vector): number => {
    const [x, y] = [dotOf(middle, view.right), dotOf(middle, view.down)];
    return Math.hypot(Math.max(x - frame[0], frame[2] - x), Math.max(y - frame[1], frame[3] - y));
  };
  const hosts = form.solids.map((s, index): Painted => {
    const middle: Vector = ball?.middle ?? [0, 0, 0];
    const line = nearHost(
      s,
      middle,
      s.kind === 'post' ? POST : Math.max(ball?.radius ?? 1, toCorner(middle)) + OUT_OF_VIEW,
    );
    const strand = seen(line, [0, line.length / 3], view, s.closed, s.radius);
    const isRope = s.kind === 'rope';
    return {
      strand,
      kind: isRope ? 'rope' : 'host',
      host: s.kind === 'rope' ? undefined : s.kind,
      index: isRope ? indexOf(s.host) : index,
      cordage: isRope ? cordageOf(s.host) : undefined,
      tails: [false, false],
      lengths: lengthsOf(strand),
    };
  });
  return [...ropes, ...hosts];
}

/** Whether a run comes toward the reader, or goes from him, rather than across. */
function isSteep(strand: SeenStrand, { from, to }: Pick<SeenRun, 'from' | 'to'>, steep = STEEP): boolean {
  const [p, q] = [pointOf(strand, from), pointOf(strand, to)];
  const n = strand.depth.length;
  const depth = (i: number): number => strand.depth[((i % n) + n) % n]!;
  return Math.abs(depth(to) - depth(from)) > steep * Math.hypot(q[0] - p[0], q[1] - p[1]);
}

/** The parts of a run that go across the picture: what lies along a rope that comes toward the reader would be seen in pieces. */
function partsAcross(strand: SeenStrand, run: SeenRun): SeenRun[] {
  const out: SeenRun[] = [];
  const isAcross = (k: number): boolean => k < run.to && !isSteep(strand, { from: k, to: k + 1 });
  let from: number | undefined;
  for (let i = run.from; i <= run.to; i += 1) {
    // A chord or two between do not break it.
    if (isAcross(i)) from ??= i;
    else if (from !== undefined && !(isAcross(i + 1) || isAcross(i + 2))) {
      out.push({ ...run, from, to: i });
      from = undefined;
    }
  }
  return out;
}

/** The ink, the body and what lies on it of a run. */
function allStrokes(look: Look, { strand, kind, host, index, cordage, lengths }: Painted, run: SeenRun): Stroke[] {
  const path = pathOf(strand, run);
  // Bands by which a rope is seen to run go out of the knot on either side, as it is drawn tight.
  const anchor = look.banded === true ? (lengths[lengths.length >> 1] ?? 0) : 0;
  return strokesOf(look, {
    strand: '',
    kind,
    host,
    index,
    cordage,
    working: false,
    path,
    inner: run.layer === 'texture' ? pathOf(strand, run, LAP) : path,
    clips: [],
    width: 2 * strand.radius + OUTLINE,
    start: (lengths[((run.from % lengths.length) + lengths.length) % lengths.length] ?? 0) - LAP - anchor,
  });
}

/** The strokes of a run: its ink, or its body with what shows how the rope is made. Bands lie across the rope and end with it. */
function runStrokes(look: Look, painted: Painted, run: SeenRun): FormStroke[] {
  const { strand, kind, tails } = painted;
  if (run.layer !== 'texture') {
    const [ink, body] = allStrokes(look, painted, run);
    return [run.layer === 'ink' ? ink! : body!];
  }
  const texture = partsAcross(strand, run)
    .filter((part) => part.to - part.from >= LEAST_SHEEN[kind] || !isSteep(strand, part, FLAT))
    .flatMap((part) => allStrokes(look, painted, part).slice(2));
  // A sheen ends round, as it fades from a rope that turns away; where bands lie across the rope it would cover the next of them.
  const endsRound = kind === 'rope' && texture.every((s) => s.dash === undefined);
  const n = strand.depth.length;
  const band = (path: string): FormStroke => {
    const [, body] = allStrokes(look, painted, run);
    return { path, colour: look.band, width: body!.width, butt: true };
  };
  return [
    ...texture.map((s): FormStroke => (endsRound ? s : { ...s, butt: true })),
    ...(tails[0] && run.from < BAND_CHORDS ? [band(bandPath(strand, true))] : []),
    ...(tails[1] && run.to > n - 1 - BAND_CHORDS ? [band(bandPath(strand, false))] : []),
  ];
}

/** What is seen of a form from a side, in the order of painting. The frame says which of its leads are still in view. */
export function formStrokes(figure: Figure, form: Form, view: Sight, frame: Box, look: Look): readonly FormStroke[] {
  const painted = paintedOf(figure, form, view, frame);
  return runsInOrder(painted.map((p) => p.strand)).flatMap((run) => runStrokes(look, painted[run.strand]!, run));
}

/** How far inside the frame an arrow stands on a rope that runs out of it, and the room it has beyond a tail, in diameters. */
export const ARROW = 2.4;

/** Where each part is pulled, as it is seen: on a rope that runs out of the picture near its edge, beyond a tail. */
export function pullsSeen(form: Form, view: Sight, box: Box): Pull[] {
  const flat = (chain: Chain, i: number): Point => {
    const p = placeOf(chain.x, i);
    return [dotOf(p, view.right), dotOf(p, view.down)];
  };
  return form.chains.flatMap((chain) =>
    chain.outlets.flatMap((o): Pull[] => {
      const way: Point = [dotOf(o.way, view.right), dotOf(o.way, view.down)];
      const size = Math.hypot(way[0], way[1]);
      if (size < 0.3) return [];
      const direction: Point = [way[0] / size, way[1] / size];
      if (o.kind === 'eye') return [{ point: flat(chain, (o.first + o.last) >> 1), direction }];
      const inward = o.first === 0 ? 1 : -1;
      const room = grown(box, -ARROW);
      let i = o.first;
      while (i >= 0 && i < chain.at.length && !isIn(room, flat(chain, i))) i += inward;
      return i >= 0 && i < chain.at.length ? [{ point: flat(chain, i), direction }] : [];
    }),
  );
}
