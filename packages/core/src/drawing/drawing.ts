/**
 * A drawing of a figure: strands cut into runs, each with the parts that pass beneath another strand clipped away, so that the
 * gap follows the edge of the strand above. Nothing is painted twice, so there are no seams; any renderer can use it (SVG on
 * the page, canvas in a worker).
 */
import { Cells } from '../ground/cells.js';
import { crossingsOf, type Crossing, type Passage } from '../figure/crossings.js';
import {
  atLength,
  curveOf,
  directionAt,
  lengthOf,
  lengthTo,
  lineBetween,
  nearestOn,
  pathData,
  pointAt,
  stretch,
  type Curve,
} from '../figure/curve.js';
import {
  HOST_SIZE,
  hostIsClosed,
  hostOf,
  lastAt,
  ropeOf,
  type Figure,
  type Host,
  type HostKind,
  type Rope,
  type TrailSpan,
} from '../figure/figure.js';
import { breadthOf } from '../figure/bounds.js';
import { diameterOf, isFlat, sideAt, type Cordage } from '../figure/cordage.js';
import { hostBetween } from '../figure/host-between.js';
import { isCore } from '../figure/held-taut.js';
import { GATE, postMiddle } from '../figure/hosts.js';
import { add, boxOf, distance, scale, subtract, unit, type Box, type Point } from '../figure/point.js';
import { isReached, laidPassages, reached, truncated, WHOLE, type Callout, type Extents } from '../tying/method.js';
import { placeNotes, type Note } from './callouts.js';
import type { FinishPicture, NumberedPlace, Pull } from './finish.js';
import { breakOf, foldOf, textureOf } from './texture.js';

/** Clear paper between a strand and the one above it, in diameters: wide enough to read at arm's length. */
export const GAP = 0.3;

export interface Run {
  readonly strand: string;
  readonly kind: 'rope' | 'host';
  /** Of a host: what it is. */
  readonly host?: HostKind | undefined;
  /** Which rope in order, for its look; for hosts, which host. */
  readonly index: number;
  /** Laid in this step: drawn in the accent of the working end. */
  readonly working: boolean;
  readonly path: string;
  /** The same, begun a little earlier: body and texture lap over the run before, so that no seam shows. */
  readonly inner: string;
  /** Outlines of what passes above; nothing of the run is drawn inside them. */
  readonly clips: readonly string[];
  readonly width: number;
  /** What the rope is, where its author has said it. */
  readonly cordage?: Cordage | undefined;
  /** The later half of a rope of two tones. */
  readonly second?: boolean | undefined;
  /** Flat webbing: which side of it is seen. */
  readonly side?: 'face' | 'back' | undefined;
  /** Where the shadow of what passes above falls on it, the deepest last, as path data. */
  readonly shadows?: readonly string[] | undefined;
  /** Fine lines that show what it is made of, as path data. */
  readonly texture?: string | undefined;
  /** Length from the start of the strand to the start of `inner`, in diameters; keeps a texture in place along the rope. */
  readonly start: number;
}

export interface Tip {
  readonly strand: string;
  readonly index: number;
  readonly working: boolean;
  /** A short band across the very end of the rope. */
  readonly band: string;
  readonly width: number;
  readonly point: Point;
  readonly direction: Point;
}

export interface Label {
  readonly crossing: number;
  readonly point: Point;
  readonly at: Point;
}

export interface Drawing {
  /** What must be in view, in board units. */
  readonly box: Box;
  readonly runs: readonly Run[];
  readonly tips: readonly Tip[];
  /** The stretch to be laid next. */
  readonly ghost?: string | undefined;
  /** Where the leader goes from here: a point and its direction. */
  readonly arrow?: { readonly point: Point; readonly direction: Point } | undefined;
  readonly labels: readonly Label[];
  /** Stretches that are lit, as path data: a band beneath the ropes. */
  readonly lit: readonly string[];
  readonly notes: readonly Note[];
  /** Pulls that set the knot. */
  readonly pulls: readonly Pull[];
  /** Numbered places to look at. */
  readonly marks: readonly NumberedPlace[];
  /** Radius of their numbers' discs, in diameters. */
  readonly markRadius: number;
  /** Posts seen from the end. */
  readonly posts: readonly { readonly point: Point; readonly radius: number }[];
  /** Gates of carabiners: their sleeves, so broad, and the fine lines at their ends; as path data. */
  readonly gates: readonly { readonly path: string; readonly width: number; readonly ends: string }[];
  /** Fine lines in ink, as path data: edges over which webbing is turned over, and those of breaks. */
  readonly lines: readonly string[];
}

export interface DrawOptions {
  readonly extents?: Extents;
  /** The stretch laid in this step: to the end of what is laid, or of a bight both legs; of a first end, from the rope’s beginning on. */
  readonly working?:
    | {
        readonly strand: string;
        readonly from: number;
        readonly to?: number | undefined;
        /** Where the bight that is drawn out has its apex. */
        readonly apex?: number | undefined;
      }
    | undefined;
  /** The stretch to be laid next. */
  readonly next?: { readonly strand: string; readonly from: number; readonly to: number } | undefined;
  readonly labels?: boolean;
  readonly lit?: readonly TrailSpan[] | undefined;
  readonly callouts?: readonly Callout[] | undefined;
  /** As it is filmed: the rope runs as its end goes on, and what passes above casts a shadow. */
  readonly runs?: boolean | undefined;
  /** Height of their letters, in diameters; where a picture is too small for letters, 0: they are left out. */
  readonly noteSize?: number | undefined;
  /** What shows that the knot is dressed, set or checked. */
  readonly finish?: FinishPicture | undefined;
  /** Numbers are set by whoever paints the drawing; callouts leave them room. */
  readonly numbered?: boolean | undefined;
}

/** Width of the band under a lit stretch, in diameters. */
export const LIT_WIDTH = 2.1;

/** How broad a strand is drawn, in the figure's unit. */
export const widthOf = (figure: Figure, strand: string): number => breadthOf(strandOf(figure, strand));

const strandOf = (figure: Figure, id: string): Rope | Host => (ropeOf(figure, id) ?? hostOf(figure, id)) as Rope | Host;

/** How far along the over strand, either way from the crossing, the strand beneath it is hidden. */
function reachOf(figure: Figure, c: Crossing): number {
  const [over, under] = [widthOf(figure, c.over.strand), widthOf(figure, c.under.strand)];
  const sine = Math.max(0.3, Math.sin(c.angle));
  return (under / 2 + 0.45 * Math.min(1, under)) / sine + ((over / 2 + GAP) * Math.sqrt(1 - sine * sine)) / sine;
}

/** The outline of the over strand at a crossing, widened by the gap. */
function haloOf(figure: Figure, c: Crossing): Point[] {
  const curve = curveOf(strandOf(figure, c.over.strand));
  const middle = lengthTo(curve, c.over.at);
  const reach = reachOf(figure, c);
  const half = widthOf(figure, c.over.strand) / 2 + GAP;
  const [from, to] = [Math.max(0, middle - reach), Math.min(lengthOf(curve), middle + reach)];
  const left: Point[] = [];
  const right: Point[] = [];
  const steps = 8;
  for (let i = 0; i <= steps; i += 1) {
    const at = atLength(curve, from + ((to - from) * i) / steps);
    const [p, d] = [pointAt(curve, at), directionAt(curve, at)];
    left.push([p[0] - d[1] * half, p[1] + d[0] * half]);
    right.push([p[0] + d[1] * half, p[1] - d[0] * half]);
  }
  return [...left, ...right.reverse()];
}

const round = (v: number): string => String(Math.round(v * 1000) / 1000);
const polygon = (points: readonly Point[]): string =>
  `M${points.map((p) => `${round(p[0])} ${round(p[1])}`).join('L')}Z`;

/** A figure with bights that are not drawn out, drawn as the figure that is left; its crossings keep their numbers. */
function drawDrawnBack(figure: Figure, options: DrawOptions, extents: Extents): Drawing {
  const part = truncated(figure, extents);
  const { working, next } = options;
  const drawing = drawStrands(part.figure, {
    ...(working
      ? {
          working: {
            ...working,
            from: part.toLaid(working.strand, working.from),
            to: working.to === undefined ? undefined : part.toLaid(working.strand, working.to),
            apex: working.apex === undefined ? undefined : part.toLaid(working.strand, working.apex),
          },
        }
      : {}),
  });
  const nextCurve = next && curveOf(strandOf(figure, next.strand));
  return {
    ...drawing,
    ghost: next && nextCurve ? pathData(stretch(nextCurve, ...inOrder(next))) : undefined,
    labels: options.labels === true ? labelPlaces(figure, extents) : [],
  };
}

/** A stretch along the trail, whichever way it is laid. */
const inOrder = ({ from, to }: { readonly from: number; readonly to: number }): [number, number] => [
  Math.min(from, to),
  Math.max(from, to),
];

/** What is lit, as far as it is laid. */
const litPaths = (figure: Figure, extents: Extents, spans: readonly TrailSpan[] = []): string[] =>
  spans.flatMap(({ strand, from, to }) => {
    const found = ropeOf(figure, strand) ?? hostOf(figure, strand);
    const end = Math.min(to, reached(extents, strand));
    return found && end - from > 1e-6 ? [pathData(stretch(curveOf(found), from, end))] : [];
  });

const within = (box: Box, boxes: readonly Box[]): Box =>
  boxOf(
    [box, ...boxes].flatMap(([l, t, r, b]): Point[] => [
      [l, t],
      [r, b],
    ]),
  ) as Box;

/** Draws a figure as far as it is laid, with what is lit and what is called out on it. */
export function drawFigure(figure: Figure, options: DrawOptions = {}): Drawing {
  const extents = options.extents ?? WHOLE;
  const drawing = drawStrands(figure, options);
  if (!options.lit && !options.callouts && !options.finish) return drawing;
  const labels = options.numbered === true ? labelPlaces(figure, extents) : drawing.labels;
  const numbers = labels.map(({ point: [x, y] }): Box => [
    x - LABEL_ROOM,
    y - LABEL_ROOM,
    x + LABEL_ROOM,
    y + LABEL_ROOM,
  ]);
  const notes =
    options.noteSize === 0 ? [] : placeNotes(figure, options.callouts ?? [], extents, numbers, options.noteSize);
  const boxes = notes.map(({ box: [l, t, r, b] }): Box => [l - 0.4, t - 0.4, r + 0.4, b + 0.4]);
  const { lit = [], pulls = [], marks = [] } = options.finish ?? {};
  const radius = marks.length === 0 ? 0 : markSize(heartBox(figure));
  const places = besidePlaces(
    figure,
    marks.map((m) => m.at),
    radius,
  ).map((p, i) => ({ ...p, label: marks[i]?.label ?? '' }));
  return {
    ...drawing,
    box: within(drawing.box, boxes),
    lit: litPaths(figure, extents, [...(options.lit ?? []), ...lit]),
    notes,
    pulls,
    marks: places,
    markRadius: radius,
  };
}

function drawStrands(figure: Figure, options: DrawOptions): Drawing {
  const extents = options.extents ?? WHOLE;
  if ([...extents.values()].some((e) => (e.without?.length ?? 0) > 0)) return drawDrawnBack(figure, options, extents);
  const halos = new Map<Crossing, string>();
  const halo = (c: Crossing): string => {
    let path = halos.get(c);
    if (path === undefined) halos.set(c, (path = polygon(haloOf(figure, c))));
    return path;
  };
  const posts = new Set(figure.hosts.filter((h) => h.kind === 'post').map((h) => h.id));
  const runs: Run[] = [];
  const tips: Tip[] = [];
  const lines: string[] = [];
  const shown: Point[] = [];
  const strands = [
    ...figure.hosts.flatMap((strand, index) =>
      strand.kind === 'post' ? [] : [{ strand, index, kind: 'host' as const }],
    ),
    ...figure.ropes.map((strand, index) => ({ strand, index, kind: 'rope' as const })),
  ];
  for (const { strand, index, kind } of strands) {
    const curve = curveOf(strand);
    const end = Math.min(
      lastAt(kind === 'host' && hostIsClosed(strand) ? { ...strand, closed: true } : strand),
      reached(extents, strand.id),
    );
    if (end <= 1e-6 || curve.pieces.length === 0) continue;
    const passages = laidPassages(figure, extents, strand.id);
    const under = passages.filter((p) => !p.over && !posts.has(p.other.strand));
    const behind = behindHosts(figure, strand, curve, passages);
    const split =
      options.working?.strand === strand.id && options.working.from < end ? options.working.from : undefined;
    const splitEnd = split === undefined ? undefined : options.working?.to;
    const rope = kind === 'rope' ? strand : undefined;
    // So much of the rope is still to come through: what is at its end by now is at the very end of it.
    const ahead = options.runs === true && rope && !rope.closed ? lengthOf(curve) - lengthTo(curve, end) : 0;
    const half =
      rope?.cordage?.mark === 'two-tone' ? atLength(curve, Math.max(0, lengthOf(curve) / 2 - ahead)) : undefined;
    const flips = rope && isFlat(rope.cordage) ? (rope.flips ?? []) : [];
    const cuts = [
      0,
      ...(half === undefined ? [] : [half]),
      ...flips,
      ...under.map((p) => p.at),
      ...betweenOwnPassages(curve, under, strand.id),
      ...[...behind.values()].flatMap((b) => [b.from, b.to].filter(Number.isFinite)),
      ...(split === undefined ? [] : [split]),
      ...(splitEnd === undefined ? [] : [splitEnd]),
      end,
    ]
      .filter((c) => c >= 0 && c <= end)
      .sort((a, b) => a - b);
    const width = breadthOf(strand);
    const breaks = (rope?.breaks ?? []).filter((b) => b.at < end).map((b) => breakOf(curve, b.at, width));
    for (let i = 1; i < cuts.length; i += 1) {
      const [from, to] = [cuts[i - 1] as number, cuts[i] as number];
      if (to - from < 1e-6) continue;
      const working = split !== undefined && from >= split - 1e-9 && to <= (splitEnd ?? Infinity) + 1e-9;
      const lapped = (by: number): number =>
        from === split ? lengthTo(curve, from) : Math.max(0, lengthTo(curve, from) - by);
      runs.push({
        strand: strand.id,
        kind,
        ...('kind' in strand ? { host: strand.kind } : {}),
        index,
        working,
        path: pathData(stretch(curve, atLength(curve, lapped(LAP)), to)),
        inner: pathData(stretch(curve, atLength(curve, lapped(INNER_LAP)), to)),
        clips: [
          ...under
            .filter((p) => reachesRun(figure, curve, p, from, to) && !isBeyond(behind.get(p), from, to))
            .map((p) => halo(p.crossing)),
          ...breaks.map((b) => b.gap),
        ],
        width,
        start: lapped(INNER_LAP) + ahead,
        ...(options.runs === true ? { shadows: shadowsOn(figure, curve, under, [from, to]) } : {}),
        ...(rope?.cordage ? materialOf(rope, curve, [from, to], half, ahead) : {}),
      });
    }
    if (rope) {
      shown.push(...lineBetween(curve, 0, end));
      lines.push(...flips.filter((f) => f < end).map((f) => foldOf(curve, f, width)));
      for (const b of breaks) lines.push(...b.edges);
      const isEnd = !rope.closed && (end < lastAt(rope) || rope.ends[1] === 'tail');
      if (isEnd)
        tips.push(tipAt(curve, rope, index, end, split !== undefined && end > split && splitEnd === undefined));
      if (!rope.closed && rope.ends[0] === 'tail')
        tips.push({
          ...tipAt(
            curve,
            rope,
            index,
            Math.min(end, 0.001),
            split === 0 && splitEnd !== undefined && options.working?.apex === undefined,
          ),
          direction: scale(directionAt(curve, 0), -1),
          band: pathData(stretch(curve, 0, atLength(curve, BAND * width))),
        });
    }
  }
  const box = frame(figure, shown);
  const labels = options.labels === true ? labelPlaces(figure, extents) : [];
  const leaderTip = options.working && tips.find((t) => t.strand === options.working?.strand && t.working);
  const next = options.next;
  const nextCurve = next && curveOf(strandOf(figure, next.strand));
  return {
    box:
      labels.length === 0
        ? box
        : (boxOf([
            [box[0], box[1]],
            [box[2], box[3]],
            ...labels.flatMap(({ point: [x, y] }): Point[] => [
              [x - LABEL_ROOM, y - LABEL_ROOM],
              [x + LABEL_ROOM, y + LABEL_ROOM],
            ]),
          ]) as Box),
    runs,
    tips,
    lines,
    posts: figure.hosts
      .filter((h) => h.kind === 'post')
      .map((h) => ({ point: postMiddle(h), radius: (h.size ?? HOST_SIZE) / 2 })),
    gates: figure.hosts.filter((h) => h.kind === 'carabiner').map(gateOf),
    ghost: next && nextCurve ? pathData(stretch(nextCurve, ...inOrder(next))) : undefined,
    arrow: leaderTip ? { point: leaderTip.point, direction: leaderTip.direction } : bightArrow(figure, options),
    labels,
    lit: [],
    notes: [],
    pulls: [],
    marks: [],
    markRadius: 0,
  };
}

/** Where a bight that is drawn out goes from here: its apex, away from its legs. */
function bightArrow(figure: Figure, { working }: DrawOptions): Drawing['arrow'] {
  if (working?.apex === undefined || working.to === undefined) return undefined;
  const curve = curveOf(strandOf(figure, working.strand));
  const along = lengthTo(curve, working.apex);
  const [point, p, q] = [0, -LEG, LEG].map((off) => pointAt(curve, atLength(curve, along + off))) as [
    Point,
    Point,
    Point,
  ];
  const away = subtract(point, scale(add(p, q), 0.5));
  return { point, direction: unit(away) };
}

/** How far back along its legs a bight is looked at to see which way it goes, in diameters. */
const LEG = 2;

/** How far a shadow falls beside what casts it, its parts from the palest to the deepest, in diameters. */
const SHADOWS = [0.75, 0.5, 0.28] as const;
/** Strands that cross at less than this cast no longer shadow than at this, in radians. */
const SLANT = 0.5;

/** Where the shadows of what passes above fall on a run that begins or ends beneath it. */
function shadowsOn(
  figure: Figure,
  curve: Curve,
  under: readonly Passage[],
  [from, to]: readonly [number, number],
): string[] {
  const beneath = under.filter((p) => Math.abs(p.at - from) < 1e-6 || Math.abs(p.at - to) < 1e-6);
  return SHADOWS.flatMap((reach) =>
    beneath.map(({ at, other, crossing }) => {
      const hidden = (breadthOf(strandOf(figure, other.strand)) / 2 + GAP) / Math.sin(Math.max(SLANT, crossing.angle));
      const along = lengthTo(curve, at);
      const [a, b] = at - from < 1e-6 ? [along, along + hidden + reach] : [along - hidden - reach, along];
      return pathData(stretch(curve, Math.max(from, atLength(curve, a)), Math.min(to, atLength(curve, b))));
    }),
  );
}

/** What is seen of a rope's cordage on a run of it. */
const materialOf = (
  rope: Rope,
  curve: Curve,
  [from, to]: readonly [number, number],
  half: number | undefined,
  ahead: number,
): Pick<Run, 'cordage' | 'second' | 'side' | 'texture'> => ({
  cordage: rope.cordage,
  ...(half !== undefined && from >= half - 1e-9 ? { second: true } : {}),
  ...(isFlat(rope.cordage) ? { side: sideAt(rope, (from + to) / 2) } : {}),
  texture: textureOf(curve, [from, to], diameterOf(rope), rope.cordage?.construction, ahead),
});

/** Runs lap over the one before by this much, so that no hair line shows between them. */
const LAP = 0.03;
/** The body laps farther than its outline, to cover the outline's cut end. */
const INNER_LAP = 0.14;

/** Places to cut a strand that passes over itself, so that the part above is not clipped with the part beneath. */
function betweenOwnPassages(curve: Curve, under: readonly Passage[], strand: string): number[] {
  return under
    .filter((p) => p.other.strand === strand)
    .map((p) => atLength(curve, (lengthTo(curve, p.at) + lengthTo(curve, p.other.at)) / 2));
}

/** Where a strand counts as behind what it goes round about each place at which it passes beneath it: half way to where it passes in front of it. */
function behindHosts(
  figure: Figure,
  strand: Rope | Host,
  curve: Curve,
  passages: readonly Passage[],
): ReadonlyMap<Passage, Behind> {
  const rope = ropeOf(figure, strand.id);
  const isBehind = (p: Passage): boolean =>
    rope ? isCore(figure, p.other, rope) : hostOf(figure, p.other.strand) !== undefined;
  const middle = (p: Passage, q: Passage): number =>
    atLength(curve, (lengthTo(curve, p.at) + lengthTo(curve, q.at)) / 2);
  const under = passages.filter((p) => !p.over);
  const behind = new Map(
    under.filter(isBehind).map((p): [Passage, Behind] => {
      const front = passages.filter((q) => q.over && q.other.strand === p.other.strand);
      const [before, after] = [front.filter((q) => q.at < p.at).at(-1), front.find((q) => q.at > p.at)];
      return [p, { from: before ? middle(before, p) : -Infinity, to: after ? middle(p, after) : Infinity }];
    }),
  );
  // What lies on the core there is passed beneath only as long as the core is.
  const [...within] = behind.values();
  for (const p of under) {
    const place = behind.has(p) ? undefined : within.find((b) => b.from < p.at && p.at < b.to);
    if (place && hostBetween(figure, p.crossing)) behind.set(p, place);
  }
  return behind;
}

interface Behind {
  readonly from: number;
  readonly to: number;
}

/** Whether a run lies where its strand is in front again. */
const isBeyond = (behind: Behind | undefined, from: number, to: number): boolean =>
  behind !== undefined && (to <= behind.from + 1e-9 || from >= behind.to - 1e-9);

/** The band at a free end, in diameters. */
const BAND = 0.45;

function tipAt(curve: Curve, rope: Rope, index: number, end: number, working: boolean): Tip {
  const [length, width] = [lengthTo(curve, end), diameterOf(rope)];
  const band = pathData(stretch(curve, atLength(curve, Math.max(0, length - BAND * width)), end));
  return {
    strand: rope.id,
    width,
    index,
    working,
    band,
    point: pointAt(curve, end),
    direction: directionAt(curve, end),
  };
}

/** True when the place where a strand passes beneath another reaches into a run of it. */
function reachesRun(figure: Figure, curve: Curve, p: Passage, from: number, to: number): boolean {
  const middle = lengthTo(curve, p.at);
  const sine = Math.max(0.3, Math.sin(p.crossing.angle));
  const reach = (widthOf(figure, p.crossing.over.strand) / 2 + GAP + 0.5) / sine + 0.2;
  return middle + reach > lengthTo(curve, from) && middle - reach < lengthTo(curve, to);
}

/** The view of a figure: its ropes with room for their thickness; a host counts only as far as the ropes do. */
function frame(figure: Figure, shown: readonly Point[]): Box {
  const margin = 2.2;
  const around = boxOf(shown);
  const hosts = boxOf(figure.hosts.flatMap(onBoardPart));
  const box = around ?? hosts ?? ([-6, -4, 6, 4] as const);
  const spars = figure.hosts.filter((h) => h.kind === 'spar' || h.kind === 'hand').flatMap((h) => nearSpar(h, box));
  const all = boxOf([
    [box[0], box[1]],
    [box[2], box[3]],
    ...(around && hosts ? [[hosts[0], hosts[1]] as Point, [hosts[2], hosts[3]] as Point] : []),
    ...spars,
  ]) as Box;
  return [all[0] - margin, all[1] - margin, all[2] + margin, all[3] + margin];
}

/** From where to where on its gate the sleeve of a carabiner is, and how much broader. */
const SLEEVE = [0.2, 0.82] as const;
const SLEEVE_BROADER = 1.22;

/** The gate of a carabiner: a sleeve somewhat broader than it, and a joint where it begins and where it ends. */
function gateOf(carabiner: Host): Drawing['gates'][number] {
  const curve = curveOf(carabiner);
  const size = carabiner.size ?? HOST_SIZE;
  const [from, to] = GATE;
  const at = (share: number): number => from + share * (to - from);
  const joint = (share: number): string => {
    const [[x, y], [dx, dy]] = [pointAt(curve, at(share)), directionAt(curve, at(share))];
    const half = 0.55 * size;
    const say = (k: number): string => `${(x - k * half * dy).toFixed(3)} ${(y + k * half * dx).toFixed(3)}`;
    return `M${say(1)}L${say(-1)}`;
  };
  const [first, last] = SLEEVE;
  return {
    path: pathData(stretch(curve, at(first), at(last))),
    width: size * SLEEVE_BROADER,
    ends: joint(0) + joint(1),
  };
}

/** The places of a host that must be in view; spars, hands, and the lines of posts and hooks run off. */
function onBoardPart(host: Host): Point[] {
  const half = (host.size ?? HOST_SIZE) / 2;
  switch (host.kind) {
    case 'spar':
    case 'hand':
      return [];
    case 'post': {
      const middle = postMiddle(host);
      return [add(middle, [-half, -half]), add(middle, [half, half])];
    }
    case 'hook':
      return host.points.slice(2);
    case 'ring':
    case 'carabiner':
      return [...host.points];
  }
}

function nearSpar(host: Host, box: Box): Point[] {
  const curve = curveOf(host);
  const half = (host.size ?? HOST_SIZE) / 2;
  return [
    [box[0], box[1]],
    [box[2], box[1]],
    [box[0], box[3]],
    [box[2], box[3]],
  ].flatMap((corner): Point[] => {
    const p = pointAt(curve, nearestOn(curve, corner as unknown as Point).at);
    return [
      [p[0], p[1] - half],
      [p[0], p[1] + half],
    ];
  });
}

/** The frame a whole method needs, so that its steps do not jump. */
export const wholeBox = (figure: Figure): Box => drawFigure(figure).box;

/** Half the room a waymark number needs, in diameters. */
const LABEL_ROOM = 1;
const LABEL_DISTANCE = 1.35;
/** Room round the crossings in a small picture, in diameters: enough to see where each strand goes on to. */
const HEART_ROOM = 4.5;
const HARDLY_LARGER = 1.35;

/**
 * The part of a figure where its crossings are, for small pictures; long leads run out of it. A figure that is hardly larger is shown
 * whole.
 */
export function heartBox(figure: Figure): Box {
  const whole = wholeBox(figure);
  const heart = boxOf(crossingsOf(figure).map((c) => c.point));
  if (!heart) return whole;
  const [l, t, r, b] = heart;
  const across = ([x, y, z, w]: Box): number => Math.hypot(z - x, w - y);
  if (across(whole) < HARDLY_LARGER * across([l - HEART_ROOM, t - HEART_ROOM, r + HEART_ROOM, b + HEART_ROOM]))
    return whole;
  return [
    Math.max(whole[0], l - HEART_ROOM),
    Math.max(whole[1], t - HEART_ROOM),
    Math.min(whole[2], r + HEART_ROOM),
    Math.min(whole[3], b + HEART_ROOM),
  ];
}

const LABEL_DIRECTIONS: readonly Point[] = Array.from({ length: 16 }, (_, i): Point => [
  Math.cos((i * Math.PI) / 8),
  Math.sin((i * Math.PI) / 8),
]);

/** Room beyond this, in diameters, makes a place no better. */
const MOST_ROOM = 3;

/** Points found by place: how far the nearest is, as far as `MOST_ROOM`. */
class NearPoints {
  private readonly cells = new Cells<Point>(MOST_ROOM);

  constructor(points: Iterable<Point>) {
    for (const p of points) this.put(p);
  }

  put(p: Point): void {
    this.cells.put(p, p[0], p[1]);
  }

  away(p: Point, except?: Point): number {
    // Squares are compared: this is asked some ten thousand times a frame.
    let least = MOST_ROOM * MOST_ROOM;
    this.cells.near(p[0], p[1], MOST_ROOM, (q) => {
      const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
      const square = dx * dx + dy * dy;
      if (square < least && q !== except) least = square;
    });
    return Math.sqrt(least);
  }
}

/** Places for waymark numbers beside their crossings, where they hide as little rope as may be. */
export function labelPlaces(figure: Figure, extents: Extents = WHOLE): Label[] {
  // A post is seen from the end: where the rope passes its line there is nothing to be seen.
  const laid = crossingsOf(figure).filter(
    (c) =>
      isReached(extents, c.first) && isReached(extents, c.second) && hostOf(figure, c.second.strand)?.kind !== 'post',
  );
  const ropes = new NearPoints(
    figure.ropes.flatMap((r) => lineBetween(curveOf(r), 0, Math.min(lastAt(r), reached(extents, r.id)))),
  );
  const crossings = new NearPoints(laid.map((c) => c.point));
  const hostLines = figure.hosts.map((h) => curveOf(h).line);
  const taken = new NearPoints([]);
  return laid.map((c) => {
    let best: Point = c.point;
    let bestRoom = -Infinity;
    for (const d of LABEL_DIRECTIONS) {
      for (const far of [LABEL_DISTANCE, LABEL_DISTANCE * 1.35]) {
        const p = add(c.point, scale(d, far));
        const rope = Math.min(ropes.away(p), ...hostLines.map((l) => lineAway(p, l) + 0.3));
        const labels = Math.min(MOST_ROOM, taken.away(p) - 0.3, crossings.away(p, c.point));
        const room = Math.min(rope, labels) - far * 0.12;
        if (room > bestRoom) [best, bestRoom] = [p, room];
      }
    }
    taken.put(best);
    return { crossing: c.number, point: best, at: c.point };
  });
}

/** Radius of a mark on a picture: a little larger than a rope is thick, and in a wide picture large enough to be seen. */
export const markSize = ([l, , r]: Box): number => Math.max(1.2, (r - l) / 34);

/** Radius of a ring round a crossing: the crossing is seen within it. */
export const ringSize = ([l, , r]: Box): number => Math.max(2, (r - l) / 24);

/** How much nearer a crossing is shown than its whole knot, where it is what matters. */
const NEARER = 1.7;
/** Width for height of a picture on a card. */
const CARD_SHAPE = 1.6;

/** What is shown of a box when a place in it matters: nearer, as far as the box goes, in the shape of a card. */
export function nearBox([l, t, r, b]: Box, [x, y]: Point): Box {
  const height = (b - t) / NEARER;
  const width = Math.max((r - l) / NEARER, height * CARD_SHAPE);
  const from = (at: number, size: number, low: number, high: number): number =>
    size >= high - low ? (low + high - size) / 2 : Math.min(Math.max(at - size / 2, low), high - size);
  const [left, top] = [from(x, width, l, r), from(y, height, t, b)];
  return [left, top, left + width, top + height];
}

/** Places for discs of a radius beside places of a finished figure, clear of its crossings and of each other; each with what it points at. */
export function besidePlaces(
  figure: Figure,
  places: readonly Point[],
  radius: number,
): readonly { readonly point: Point; readonly at: Point }[] {
  const crossings = crossingsOf(figure).map((c) => c.point);
  const ropes = new NearPoints(figure.ropes.flatMap((r) => curveOf(r).line));
  const taken: Point[] = [];
  return places.map((at) => {
    let [best, bestRoom] = [at, -Infinity];
    for (const d of LABEL_DIRECTIONS)
      for (const far of [radius + 0.9, radius + 1.8, radius + 3]) {
        const p = add(at, scale(d, far));
        const hides = crossings.filter((c) => distance(c, p) < radius + 0.7).length;
        const room =
          Math.min(ropes.away(p), radius + 0.5) -
          0.15 * far -
          3 * hides -
          2 * taken.filter((t) => distance(t, p) < 2 * radius + 0.2).length;
        if (room > bestRoom) [best, bestRoom] = [p, room];
      }
    taken.push(best);
    return { point: best, at };
  });
}

/** The heart of a figure, made larger as far as some places lie outside it, with room about them. */
export const heartWith = (figure: Figure, places: readonly Point[], room: number): Box =>
  within(
    heartBox(figure),
    places.map(([x, y]): Box => [x - room, y - room, x + room, y + room]),
  );

/** Distance from a place to a run of straight pieces. */
function lineAway(p: Point, line: readonly Point[]): number {
  let least = Infinity;
  for (let i = 1; i < line.length; i += 1) {
    const [a, b] = [line[i - 1] as Point, line[i] as Point];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const t = Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy || 1)));
    least = Math.min(least, distance(p, [a[0] + t * dx, a[1] + t * dy]));
  }
  return least;
}
