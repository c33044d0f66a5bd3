/**
 * SVG read as a figure: each path, polyline, polygon, line, circle and ellipse becomes a rope along its middle. Transforms are
 * honoured; the stroke's width is the rope's thickness, so that the drawing keeps its proportions. An SVG that this program wrote
 * carries its figure along, and is read as exactly that.
 *
 * The weave is unknown: what is drawn later lies over, until it is walked.
 */
import { SaxesParser, type SaxesTagPlain } from 'saxes';
import svgpath from 'svgpath';
import { CARRIED } from '../drawing/svg.js';
import { LEAST_SPACING, LIMITS } from '../figure/bounds.js';
import { laterOver } from '../figure/carry.js';
import { meetsMoreThan, readWeave, weaveFigure } from '../figure/crossings.js';
import { fitPath, piecePoint } from '../figure/curve.js';
import { freshId, type Figure, type Rope } from '../figure/figure.js';
import { boxOf, distance, type Point } from '../figure/point.js';
import { accept, refuse, type Refusal, type Result } from '../figure/refusal.js';

/** Longest SVG read, in characters. */
export const SVG_LIMIT = 4_000_000;

/**
 * What a drawing of ropes has at the most: groups within groups, characters of one path, points of all lines, and lines that are read before it
 * is told that there are too many. More is refused before it costs time.
 */
const MOST = { depth: 64, path: 300_000, points: 60_000, lines: 400 } as const;

/** Elements whose contents are not drawn where they stand. */
const UNDRAWN = new Set([
  'defs',
  'clipPath',
  'mask',
  'pattern',
  'symbol',
  'marker',
  'metadata',
  'text',
  'style',
  'script',
]);
const DRAWN = new Set(['path', 'polyline', 'polygon', 'line', 'circle', 'ellipse']);

/** CSS pixels in a unit of length. Source: CSS Values and Units, level 4, section 6.2. */
const PIXELS: Record<string, number> = { px: 1, mm: 96 / 25.4, cm: 96 / 2.54, in: 96, pt: 96 / 72, pc: 16 };

interface Shape {
  /** Runs of points in user units of the whole document, each with whether it closes and whether it has curves. */
  readonly runs: readonly { readonly points: readonly Point[]; readonly closed: boolean; readonly curved: boolean }[];
  /** Stroke width in the same units; 0 when none is given. */
  readonly stroke: number;
  readonly place: string;
}

interface Inherited {
  readonly transforms: readonly string[];
  readonly stroke: string | undefined;
  readonly hidden: boolean;
}

const lengthOfText = (text: string | undefined): number => {
  const parts = /^\s*([\d.eE+-]+)\s*([a-z]*)\s*$/.exec(text ?? '');
  const value = Number(parts?.[1]);
  return Number.isFinite(value) && value > 0 ? value * (PIXELS[parts?.[2] ?? ''] ?? 1) : 0;
};

const styleOf = (tag: SaxesTagPlain, name: string): string | undefined => {
  const inStyle = new RegExp(`(?:^|;)\\s*${name}\\s*:\\s*([^;]+)`).exec(tag.attributes.style ?? '');
  return inStyle?.[1]?.trim() ?? tag.attributes[name];
};

/** The outline of an element as path data. */
function pathOf(tag: SaxesTagPlain): string {
  const a = tag.attributes;
  const n = (name: string): number => Number.parseFloat(a[name] ?? '0') || 0;
  switch (tag.name.replace(/^.*:/, '')) {
    case 'path':
      return a.d ?? '';
    case 'polyline':
    case 'polygon':
      return a.points?.trim() ? `M${a.points.trim()}${tag.name.endsWith('gon') ? 'Z' : ''}` : '';
    case 'line':
      return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`;
    default: {
      const [x, y] = [n('cx'), n('cy')];
      const [rx, ry] = a.r === undefined ? [n('rx'), n('ry')] : [n('r'), n('r')];
      return `M${x - rx} ${y}A${rx} ${ry} 0 0 1 ${x + rx} ${y}A${rx} ${ry} 0 0 1 ${x - rx} ${y}Z`;
    }
  }
}

/** Straight pieces for a curve: fine enough that fitting it again loses nothing that shows. */
const CURVE_STEPS = 24;

function runsOf(data: string, transforms: readonly string[]): Shape['runs'] | string {
  let path = svgpath(data);
  // svgpath keeps a mistake in its `err` field and goes on with what it could read.
  const mistake = (path as unknown as { err?: string }).err;
  if (mistake) return mistake.replace(/^SvgPath: /, '');
  for (const t of [...transforms].reverse()) path = path.transform(t);
  const runs: { points: Point[]; closed: boolean; curved: boolean }[] = [];
  const current = (): { points: Point[]; closed: boolean; curved: boolean } => {
    let run = runs.at(-1);
    if (!run || run.closed)
      runs.push((run = { points: run ? [run.points[0] as Point] : [], closed: false, curved: false }));
    return run;
  };
  path
    .abs()
    .unarc()
    .unshort()
    .iterate((s, _i, x, y) => {
      if (s[0] === 'M') runs.push({ points: [[s[1], s[2]]], closed: false, curved: false });
      else if (s[0] === 'L') current().points.push([s[1], s[2]]);
      else if (s[0] === 'H') current().points.push([s[1], y]);
      else if (s[0] === 'V') current().points.push([x, s[1]]);
      else if (s[0] === 'Z' || s[0] === 'z') current().closed = true;
      else if (s[0] === 'C' || s[0] === 'Q') {
        const [p, q, r]: [Point, Point, Point] =
          s[0] === 'C'
            ? [
                [s[1], s[2]],
                [s[3], s[4]],
                [s[5], s[6]],
              ]
            : [
                [x + (2 / 3) * (s[1] - x), y + (2 / 3) * (s[2] - y)],
                [s[3] + (2 / 3) * (s[1] - s[3]), s[4] + (2 / 3) * (s[2] - s[4])],
                [s[3], s[4]],
              ];
        const run = current();
        run.curved = true;
        for (let k = 1; k <= CURVE_STEPS; k += 1) run.points.push(piecePoint([[x, y], p, q, r], k / CURVE_STEPS));
      }
    });
  return runs.filter((r) => r.points.length > 1);
}

interface Scan {
  readonly shapes: readonly Shape[];
  /** The figure file that the document carries along. */
  readonly carried: string;
}

/** Thrown out of the parser's callbacks, which cannot return. */
class Stop extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.reason);
  }
}

function scan(text: string): Result<Scan> {
  const parser = new SaxesParser();
  const shapes: Shape[] = [];
  const stack: Inherited[] = [];
  let carrying = 0;
  let points = 0;
  let lines = 0;
  let carried = '';
  let root = true;
  parser.on('error', (e) => {
    throw new Stop(
      refuse(
        `line ${parser.line}, column ${parser.column}`,
        `It is not well-formed XML: ${e.message.replace(/^\d+:\d+: /, '')}`,
        'Export it again as plain SVG.',
      ),
    );
  });
  parser.on('opentag', (tag) => {
    const name = tag.name.replace(/^.*:/, '');
    if (root && name !== 'svg')
      throw new Stop(refuse('the file', `Its root is <${name}>, not <svg>.`, 'Export it as SVG and try again.'));
    root = false;
    const above = stack.at(-1);
    const own: Inherited = {
      transforms: [...(above?.transforms ?? []), ...(tag.attributes.transform ? [tag.attributes.transform] : [])],
      stroke: styleOf(tag, 'stroke-width') ?? above?.stroke,
      hidden:
        above?.hidden === true ||
        UNDRAWN.has(name) ||
        styleOf(tag, 'display') === 'none' ||
        styleOf(tag, 'visibility') === 'hidden',
    };
    stack.push(own);
    if (stack.length > MOST.depth)
      throw new Stop(
        refuse(
          `line ${parser.line}, <${name}>`,
          `It is nested deeper than ${MOST.depth} times.`,
          'Ungroup the drawing, and export it again.',
        ),
      );
    if (tag.attributes.id === CARRIED) carrying = stack.length;
    if (own.hidden || !DRAWN.has(name)) return;
    const place = `line ${parser.line}, <${name}>`;
    const path = pathOf(tag);
    if (path.length > MOST.path)
      throw new Stop(
        refuse(place, `It has ${path.length} characters; ${MOST.path} are the most of one path.`, 'Simplify the path.'),
      );
    const runs = runsOf(path, own.transforms);
    if (typeof runs === 'string')
      throw new Stop(refuse(place, `Its path cannot be read: ${runs}.`, 'Draw it again as a path.'));
    points += runs.reduce((sum, r) => sum + r.points.length, 0);
    lines += runs.length;
    if (points > MOST.points || lines > MOST.lines)
      throw new Stop(
        refuse(
          place,
          `Its lines have more than ${points > MOST.points ? `${MOST.points} points` : `${MOST.lines} parts`}.`,
          'Leave only the lines that are ropes, each drawn once along its middle.',
        ),
      );
    if (runs.length > 0) shapes.push({ runs, stroke: lengthOfText(own.stroke) * scaleOf(own.transforms), place });
  });
  parser.on('closetag', () => {
    if (stack.length === carrying) carrying = 0;
    stack.pop();
  });
  const collect = (t: string): void => {
    if (carrying > 0) carried += t;
  };
  parser.on('text', collect);
  parser.on('cdata', collect);
  try {
    parser.write(text).close();
  } catch (e) {
    if (e instanceof Stop) return e.refusal;
    throw e;
  }
  return accept({ shapes, carried });
}

/** By how much transforms enlarge, from a unit square. */
function scaleOf(transforms: readonly string[]): number {
  let square = svgpath('M0 0L1 0L0 1');
  for (const t of [...transforms].reverse()) square = square.transform(t);
  const p: Point[] = [];
  square.abs().iterate((s) => {
    if (s[0] === 'M' || s[0] === 'L') p.push([s[1], s[2]]);
  });
  const [o, x, y] = p as [Point, Point, Point];
  return Math.sqrt(Math.abs((x[0] - o[0]) * (y[1] - o[1]) - (x[1] - o[1]) * (y[0] - o[0])));
}

/** A drawing without strokes is made this wide, and no drawing wider or smaller than the bounds, in diameters. */
const WIDTH = { usual: 40, least: 12, most: 220 };
/** Straight pieces at least this long, on the average, are meant to be straight. */
const STRAIGHT = 3;

/** Longest rope that is fitted, in diameters: one control point of it stands for four at the most. */
const LONGEST = 4 * LIMITS.points;

const lengthOfRun = (points: readonly Point[]): number =>
  points.reduce((sum, p, i) => sum + (i === 0 ? 0 : distance(points[i - 1] as Point, p)), 0);

export interface ReadSvg {
  readonly figure: Figure;
  /** The figure file it carries along, as text, when this program wrote it. */
  readonly carried?: string | undefined;
}

/** Reads an SVG document. Bad input is refused with the line, and nothing comes of it. */
export function readSvg(text: string): Result<ReadSvg> {
  if (text.length > SVG_LIMIT)
    return refuse(
      'the file',
      `It has ${text.length} characters; ${SVG_LIMIT} are the most.`,
      'Export only the rope’s path.',
    );
  const scanned = scan(text);
  if (!scanned.ok) return scanned;
  const { shapes, carried } = scanned.value;
  if (carried.trim() !== '') return accept({ figure: { ropes: [], hosts: [] }, carried });
  const runs = shapes.flatMap((s) => s.runs.map((r) => ({ ...r, place: s.place })));
  if (runs.length === 0)
    return refuse(
      'the file',
      'It has no path, polyline, line or circle that is drawn.',
      'Draw the rope as a path along its middle.',
    );
  if (runs.length > LIMITS.strands)
    return refuse(
      runs[LIMITS.strands]?.place ?? 'the file',
      `It has ${runs.length} separate lines; a figure holds ${LIMITS.strands} ropes at most.`,
      'Leave only the lines that are ropes, each drawn once along its middle.',
    );
  const box = boxOf(runs.flatMap((r) => r.points));
  const span = box ? Math.max(box[2] - box[0], box[3] - box[1]) : 0;
  if (!box || !(span > 0))
    return refuse('the file', 'Its lines have no length.', 'Draw the rope as a path along its middle.');
  const strokes = shapes
    .map((s) => s.stroke)
    .filter((s) => s > 0)
    .sort((a, b) => a - b);
  const stroke = strokes[Math.floor(strokes.length / 2)] ?? span / WIDTH.usual;
  const width = Math.min(WIDTH.most, Math.max(WIDTH.least, span / stroke));
  const k = width / span;
  const [mx, my] = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
  let figure: Figure = { ropes: [], hosts: [] };
  for (const run of runs) {
    const long = k * lengthOfRun(run.points);
    if (long > LONGEST)
      return refuse(
        run.place,
        `It is ${Math.round(long)} times as long as its rope is thick; ${LONGEST} are the most.`,
        'Leave only the line along the middle of the rope, or draw its stroke thicker.',
      );
    const rope = ropeFrom(run, (p) => [(p[0] - mx) * k, (p[1] - my) * k]);
    if (!rope) continue;
    if (rope.points.length > LIMITS.points)
      return refuse(
        run.place,
        `It needs ${rope.points.length} control points; a rope holds ${LIMITS.points}.`,
        'Simplify the path.',
      );
    figure = { ...figure, ropes: [...figure.ropes, { ...rope, id: freshId(figure) }] };
  }
  if (figure.ropes.length === 0)
    return refuse(
      'the file',
      'Its lines are shorter than the rope is thick.',
      'Draw the rope longer, or its stroke thinner.',
    );
  if (meetsMoreThan(figure, LIMITS.crossings))
    return refuse(
      'the file',
      `It has more crossings than a figure holds: ${LIMITS.crossings} at most.`,
      'Export only the rope’s path.',
    );
  const woven = weaveFigure(figure, laterOver(figure));
  const read = readWeave(woven);
  return read.ok ? accept({ figure: woven }) : read;
}

function ropeFrom(
  { points, closed, curved }: Shape['runs'][number],
  place: (p: Point) => Point,
): Omit<Rope, 'id'> | undefined {
  const round = (v: number): number => Math.round(v * 1000) / 1000;
  const all = points.map(place).filter((p, i, list) => i === 0 || distance(list[i - 1] as Point, p) >= LEAST_SPACING);
  const ring =
    closed && all.length > 2 && distance(all[0] as Point, all.at(-1) as Point) < 3 * LEAST_SPACING
      ? all.slice(0, -1)
      : all;
  const length = lengthOfRun(ring);
  if (ring.length < 2 || length < 1) return undefined;
  const straight = !curved && length / (ring.length - 1) > STRAIGHT;
  const fitted = straight
    ? ring
    : closed
      ? fitPath([...ring, ring[0] as Point], 1, 0.12).slice(0, -1)
      : fitPath(ring, 1, 0.12);
  if (closed && fitted.length < 3) return undefined;
  return {
    points: fitted.map(([x, y]): Point => [round(x), round(y)]),
    curve: straight ? 'straight' : 'smooth',
    closed,
    ends: closed ? ['off', 'off'] : ['standing', 'tail'],
    weave: '',
  };
}
