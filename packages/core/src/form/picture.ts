/**
 * A form as a picture: rope and host as they lie, seen from a side, in the house's look.
 */
import { OUTLINE, PAPER_LOOK, strokesOf, type Look, type Stroke } from '../drawing/look.js';
import type { Pull } from '../drawing/finish.js';
import { escapeXml, pullPath } from '../drawing/svg.js';
import type { Cordage } from '../figure/cordage.js';
import type { Figure } from '../figure/figure.js';
import { boxOf, type Box, type Point } from '../figure/point.js';
import { leadCount, placeOf, type Chain, type Form, type Solid } from './form.js';
import { runsInOrder, type SeenRun, type SeenStrand } from './seen-runs.js';
import { ballRound, dotOf, less, sum, times, unitOf, type Vector } from './vector.js';

/** Directions in space that point right, down and toward the reader in a picture. */
export interface Sight {
  readonly right: Vector;
  readonly down: Vector;
  readonly near: Vector;
}

/** The stations of a form: as it was tied, from behind, its two sides, and end on. */
export const STATIONS = {
  front: { right: [1, 0, 0], down: [0, 1, 0], near: [0, 0, 1] },
  back: { right: [-1, 0, 0], down: [0, 1, 0], near: [0, 0, -1] },
  left: { right: [0, 0, 1], down: [0, 1, 0], near: [-1, 0, 0] },
  right: { right: [0, 0, -1], down: [0, 1, 0], near: [1, 0, 0] },
  end: { right: [1, 0, 0], down: [0, 0, 1], near: [0, -1, 0] },
} as const satisfies Record<string, Sight>;
export type Station = keyof typeof STATIONS;
export const STATION_NAMES = Object.keys(STATIONS) as Station[];

/** How far a form is turned from its front, in radians: about the board's upright axis, then toward the reader. */
export interface Turning {
  readonly yaw: number;
  readonly pitch: number;
}

/** The turns that lead to the stations. */
export const STATION_TURNS: Readonly<Record<Station, Turning>> = {
  front: { yaw: 0, pitch: 0 },
  back: { yaw: Math.PI, pitch: 0 },
  left: { yaw: -Math.PI / 2, pitch: 0 },
  right: { yaw: Math.PI / 2, pitch: 0 },
  end: { yaw: 0, pitch: Math.PI / 2 },
};

/** What a form looks like after a turn. */
export function sightOf({ yaw, pitch }: Turning): Sight {
  const [c, s, d, t] = [Math.cos(yaw), Math.sin(yaw), Math.cos(pitch), Math.sin(pitch)];
  return { right: [c, 0, -s], down: [s * t, d, c * t], near: [s * d, -t, c * d] };
}

export interface FormSvgOptions {
  readonly station?: Station;
  /** Turned freely, in place of a station: the frame then stays the same however it is turned. */
  readonly turn?: Turning | undefined;
  readonly look?: Look;
  readonly title: string;
  readonly description: string;
  /** Width in CSS pixels; the height follows. */
  readonly width?: number;
  readonly background?: boolean;
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

const num = (v: number): string => String(Math.round(v * 100) / 100);
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

const grown = (box: Box, by: number): Box => [box[0] - by, box[1] - by, box[2] + by, box[3] + by];
const isIn = (box: Box, [x, y]: Point): boolean => x >= box[0] && x <= box[2] && y >= box[1] && y <= box[3];

/** The frame of a form from a side: the knot itself, its tails, and a piece of every loaded lead. */
function frameOf(form: Form, view: Sight): Box {
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
function steadyFrame(form: Form, { right, down }: Sight): Box {
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
  const hosts = form.solids.map((s, index): Painted => {
    const line = nearHost(s, ball?.middle ?? [0, 0, 0], s.kind === 'post' ? POST : (ball?.radius ?? 1) + OUT_OF_VIEW);
    const strand = seen(line, [0, line.length / 3], view, s.closed, s.radius);
    const isRope = s.kind === 'rope';
    return {
      strand,
      kind: isRope ? 'rope' : 'host',
      index: isRope ? indexOf(s.host) : index,
      cordage: isRope ? cordageOf(s.host) : undefined,
      tails: [false, false],
      lengths: lengthsOf(strand),
    };
  });
  return [...ropes, ...hosts];
}

const dashed = ({ dash, offset }: Stroke): string =>
  dash === undefined ? '' : ` stroke-dasharray="${dash.map(num).join(' ')}" stroke-dashoffset="${num(offset ?? 0)}"`;

/** The strokes of a run: its ink, or its body with what shows how the rope is made. Bands lie across the rope and end with it. */
function runStrokes(look: Look, painted: Painted, run: SeenRun): string {
  const { strand, kind, index, cordage, tails, lengths } = painted;
  const path = pathOf(strand, run);
  const lapped = run.layer === 'texture' ? pathOf(strand, run, LAP) : path;
  const all = strokesOf(look, {
    strand: '',
    kind,
    index,
    cordage,
    working: false,
    path,
    inner: lapped,
    clips: [],
    width: 2 * strand.radius + OUTLINE,
    start: (lengths[((run.from % lengths.length) + lengths.length) % lengths.length] ?? 0) - LAP,
  });
  const stroke = (s: Stroke, cap = ''): string =>
    `<path d="${s.path}" stroke="${s.colour}" stroke-width="${num(s.width)}"${dashed(s)}${cap}/>`;
  const [ink, body, ...texture] = all;
  if (run.layer === 'ink') return stroke(ink!);
  if (run.layer === 'body') return stroke(body!);
  const n = strand.depth.length;
  const bands = [
    tails[0] && run.from <= 0 ? bandPath(strand, true) : '',
    tails[1] && run.to >= n - 1 ? bandPath(strand, false) : '',
  ]
    .filter((d) => d !== '')
    .map((d) => `<path d="${d}" stroke="${look.band}" stroke-width="${num(body!.width)}" stroke-linecap="butt"/>`);
  return texture.map((s) => stroke(s, ' stroke-linecap="butt"')).join('') + bands.join('');
}

/** What is seen of a form from a side, as markup, and its frame. */
function seenFrom(figure: Figure, form: Form, view: Sight, box: Box, look: Look): string {
  const painted = paintedOf(figure, form, view, box);
  return runsInOrder(painted.map((p) => p.strand))
    .map((run) => runStrokes(look, painted[run.strand]!, run))
    .join('');
}

const documentOf = (
  [l, t, r, b]: Box,
  body: string,
  { title, description, width = 640, background, look = PAPER_LOOK }: Omit<FormSvgOptions, 'station' | 'turn'>,
): string => {
  const [w, h] = [r - l, b - t];
  const paper =
    background === false
      ? ''
      : `<rect x="${num(l)}" y="${num(t)}" width="${num(w)}" height="${num(h)}" fill="${look.paper}"/>`;
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" role="img" viewBox="${[l, t, w, h].map(num).join(' ')}" width="${width}" height="${Math.round((width * h) / w)}">` +
    `<title>${escapeXml(title)}</title><desc>${escapeXml(description)}</desc>${paper}${body}</svg>`
  );
};

const strokesGroup = (body: string): string =>
  `<g fill="none" stroke-linejoin="round" stroke-linecap="round">${body}</g>`;

/** A form as an SVG document, seen from one of its stations. */
export function formSvg(figure: Figure, form: Form, options: FormSvgOptions): string {
  const view = options.turn ? sightOf(options.turn) : STATIONS[options.station ?? 'front'];
  const box = options.turn ? steadyFrame(form, view) : frameOf(form, view);
  return documentOf(box, strokesGroup(seenFrom(figure, form, view, box, options.look ?? PAPER_LOOK)), options);
}

/** How far inside the frame an arrow stands on a rope that runs out of it, and the room it has beyond a tail, in diameters. */
const ARROW = 2.4;

/** Where each part is pulled, as it is seen: on a rope that runs out of the picture near its edge, beyond a tail. */
function pullsSeen(form: Form, view: Sight, box: Box): Pull[] {
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

/** Between the two faces of a picture, in diameters; faces so much broader than high stand one above the other. */
const APART = 1;
const BROAD = 1.3;

/** What is seen of a form: markup, and the box of the picture that it fills, in diameters. */
export interface FormFace {
  readonly box: Box;
  readonly body: string;
}

/**
 * A form as the picture of a step that finishes the knot: dressed as it lies from the front, set with what is pulled, checked from the
 * front and from behind.
 */
export function finishFace(
  figure: Figure,
  form: Form,
  does: 'dress' | 'set' | 'check',
  look: Look = PAPER_LOOK,
): FormFace {
  const view = STATIONS.front;
  if (does === 'dress') {
    const box = frameOf(form, view);
    return { box, body: strokesGroup(seenFrom(figure, form, view, box, look)) };
  }
  if (does === 'set') {
    const box = grown(frameOf(form, view), ARROW);
    const pulls = pullsSeen(form, view, box).map(
      (p) => `<path d="${pullPath(p)}" fill="${look.working}" stroke="${look.ink}" stroke-width="0.08"/>`,
    );
    return { box, body: strokesGroup(seenFrom(figure, form, view, box, look)) + pulls.join('') };
  }
  const other = STATIONS.back;
  const boxes = [frameOf(form, view), frameOf(form, other)] as const;
  const [w, h] = [0, 1].map((k) => Math.max(...boxes.map((x) => (x[k + 2] ?? 0) - (x[k] ?? 0)))) as [number, number];
  // Beside each other where they are high, one above the other where they are broad.
  const isBroad = w > BROAD * h;
  const box: Box = isBroad ? [0, 0, w, 2 * h + APART] : [0, 0, 2 * w + APART, h];
  const face = (sight: Sight, own: Box, [x, y]: Point): string => {
    const wide: Box = [
      (own[0] + own[2] - w) / 2,
      (own[1] + own[3] - h) / 2,
      (own[0] + own[2] + w) / 2,
      (own[1] + own[3] + h) / 2,
    ];
    return (
      `<svg x="${num(x)}" y="${num(y)}" width="${num(w)}" height="${num(h)}" viewBox="${[wide[0], wide[1], w, h].map(num).join(' ')}">` +
      `${strokesGroup(seenFrom(figure, form, sight, wide, look))}</svg>`
    );
  };
  const faces = face(view, boxes[0], [0, 0]) + face(other, boxes[1], isBroad ? [0, h + APART] : [w + APART, 0]);
  const middle = num((isBroad ? h : w) + APART / 2);
  const line = `<line ${isBroad ? `x1="0" y1="${middle}" x2="${num(w)}" y2="${middle}"` : `x1="${middle}" y1="0" x2="${middle}" y2="${num(h)}"`} stroke="${look.ink}" stroke-opacity="0.25" stroke-width="0.08" stroke-dasharray="0.4 0.5"/>`;
  return { box, body: faces + line };
}

/** A face as an SVG document. */
export const faceSvg = ({ box, body }: FormFace, options: Omit<FormSvgOptions, 'station' | 'turn'>): string =>
  documentOf(box, body, options);

/** The picture of a step that finishes the knot, as an SVG document. */
export const finishSvg = (
  figure: Figure,
  form: Form,
  does: 'dress' | 'set' | 'check',
  options: Omit<FormSvgOptions, 'station' | 'turn'>,
): string => faceSvg(finishFace(figure, form, does, options.look), options);
