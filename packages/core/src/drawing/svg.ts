/**
 * A drawing as an SVG document of its own: clean, with a title and a description that says in words what the picture shows.
 */
import type { Box } from '../figure/point.js';
import { noteLines, pointerOf, type Note } from './callouts.js';
import type { NumberedPlace, Pull } from './finish.js';
import { LIT_WIDTH, type Drawing, type Run, type Tip } from './drawing.js';
import { FINE_LINE, OUTLINE, PAPER_LOOK, strokesOf, type Look } from './look.js';

/** The id of the element in which a figure is carried along. */
export const CARRIED = 'foxtrail-figure';

/** A text as path data in em units, y down, from its baseline's start; and its width. */
export type Outlines = (text: string) => { readonly path: string; readonly width: number };

export interface SvgOptions {
  readonly title: string;
  /** What the picture shows, in words: the composed text. */
  readonly description: string;
  readonly look?: Look;
  /** Width in CSS pixels; the height follows. */
  readonly width?: number;
  readonly box?: Box;
  /** A drawing set beside others in one document needs a prefix of its own for its ids. */
  readonly prefix?: string;
  readonly background?: boolean;
  /** Outlines of a text in em units, its width with it: numbers are then drawn as paths and need no font. */
  readonly outlines?: Outlines;
  /** A figure file carried along, as text, so that the picture can be read as the figure that it shows. */
  readonly carried?: string;
}

const escapes: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
/** The characters that XML 1.0 does not allow in a document. */
const FORBIDDEN = /[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu;
/** Text made safe for XML: markup escaped, control characters that XML forbids left out. */
export const escapeXml = (text: string): string =>
  text.replace(FORBIDDEN, '').replace(/[&<>"']/g, (c) => escapes[c] as string);

const num = (v: number): string => String(Math.round(v * 1000) / 1000);

/** A path that covers the whole view but for what lies inside the clip; filled even–odd. */
export function outsideOf(clip: string, box: Box): string {
  const far = 60;
  const [l, t, r, b] = [box[0] - far, box[1] - far, box[2] + far, box[3] + far].map(num);
  return `M${l} ${t}H${r}V${b}H${l}Z${clip}`;
}

function runSvg(run: Run, look: Look, clipIds: readonly string[]): string {
  const paint = strokesOf(look, run)
    .map(({ path, colour, width, dash, offset }) => {
      const dashes =
        dash === undefined
          ? ''
          : ` stroke-dasharray="${dash.map(num).join(' ')}" stroke-dashoffset="${num(offset ?? 0)}"`;
      return `<path d="${path}" stroke="${colour}" stroke-width="${num(width)}"${dashes}/>`;
    })
    .join('');
  return clipIds.reduce((inner, id) => `<g clip-path="url(#${id})">${inner}</g>`, paint);
}

const tipSvg = (tip: Tip, look: Look): string =>
  `<path d="${tip.band}" stroke="${look.band}" stroke-width="${num(tip.width)}"/>`;

const linesSvg = (drawing: Drawing, look: Look): string =>
  drawing.lines.map((path) => `<path d="${path}" stroke="${look.band}" stroke-width="${FINE_LINE}"/>`).join('');

/** An arrowhead ahead of a point, as path data. */
export function arrowPath([x, y]: readonly [number, number], [dx, dy]: readonly [number, number]): string {
  const at = (along: number, across: number): string =>
    `${num(x + dx * along - dy * across)} ${num(y + dy * along + dx * across)}`;
  return `M${at(0.4, 0.8)}L${at(1.7, 0)}L${at(0.4, -0.8)}Z`;
}

/** Posts seen from the end, and the gates of carabiners. */
function hostMarks(drawing: Drawing, look: Look): string {
  const posts = drawing.posts
    .map(
      ({ point: [x, y], radius }) =>
        `<g class="post"><circle cx="${num(x)}" cy="${num(y)}" r="${num(radius)}" fill="${look.host}" stroke="${look.ink}" stroke-width="${OUTLINE}"/>` +
        [0.68, 0.36]
          .map(
            (k) =>
              `<circle cx="${num(x)}" cy="${num(y)}" r="${num(radius * k)}" fill="none" stroke="${look.ink}" stroke-width="0.07" opacity="0.55"/>`,
          )
          .join('') +
        '</g>',
    )
    .join('');
  const gates = drawing.gates
    .map(({ path, width, ends }) => {
      const line = (colour: string, thick: number): string =>
        `<path class="gate" d="${path}" fill="none" stroke="${colour}" stroke-width="${num(thick)}"/>`;
      const sleeve = line(look.ink, width + OUTLINE) + line(look.metalCore, width - OUTLINE);
      return `<path d="${ends}" stroke="${look.ink}" stroke-width="${FINE_LINE}"/>${sleeve}`;
    })
    .join('');
  return gates + posts;
}

const ghostSvg = (drawing: Drawing, look: Look): string =>
  drawing.ghost === undefined
    ? ''
    : `<path class="ghost" d="${drawing.ghost}" stroke="${look.working}" stroke-width="0.28" stroke-dasharray="0.05 0.62" stroke-linecap="round"/>`;

const arrowSvg = (drawing: Drawing, look: Look): string =>
  drawing.arrow
    ? `<path class="arrow" d="${arrowPath(drawing.arrow.point, drawing.arrow.direction)}" fill="${look.working}" stroke="${look.ink}" stroke-width="0.08"/>`
    : '';

/** A pull: an arrow with a shaft, beyond an end. */
export const pullPath = ({ point: [x, y], direction: [dx, dy] }: Pull): string => {
  const at = (along: number, across: number): string =>
    `${num(x + dx * along - dy * across)} ${num(y + dy * along + dx * across)}`;
  return `M${at(0.3, 0.22)}L${at(1.1, 0.22)}L${at(1.1, 0.75)}L${at(2.1, 0)}L${at(1.1, -0.75)}L${at(1.1, -0.22)}L${at(0.3, -0.22)}Z`;
};

const pullsSvg = (drawing: Drawing, look: Look): string =>
  drawing.pulls
    .map(
      (pull) =>
        `<path class="pull" d="${pullPath(pull)}" fill="${look.working}" stroke="${look.ink}" stroke-width="0.08"/>`,
    )
    .join('');

/** A numbered place: a disc of a radius beside it, and a line to it. */
export function markMarkup(
  { point: [x, y], at, label }: NumberedPlace,
  size: number,
  look: Look,
  outlines?: Outlines,
): string {
  const height = 1.3 * size;
  const drawn = outlines?.(label);
  const text = drawn
    ? `<path transform="translate(${num(x - (drawn.width * height) / 2)} ${num(y + 0.36 * height)}) scale(${num(height)})" d="${drawn.path}" fill="${look.labelText}"/>`
    : `<text x="${num(x)}" y="${num(y + 0.36 * height)}" font-size="${num(height)}" font-weight="700" text-anchor="middle" fill="${look.labelText}">${escapeXml(label)}</text>`;
  return (
    `<g class="looked-at"><path d="M${num(x)} ${num(y)}L${num(at[0])} ${num(at[1])}" stroke="${look.band}" stroke-width="0.18"/>` +
    `<circle cx="${num(at[0])}" cy="${num(at[1])}" r="0.3" fill="${look.band}"/>` +
    `<circle cx="${num(x)}" cy="${num(y)}" r="${num(size)}" fill="${look.label}" stroke="${look.band}" stroke-width="${num(size / 7)}"/>${text}</g>`
  );
}

const marksSvg = (drawing: Drawing, look: Look, outlines?: Outlines): string =>
  drawing.marks.map((mark) => markMarkup(mark, drawing.markRadius, look, outlines)).join('');

const litSvg = (drawing: Drawing, look: Look): string =>
  drawing.lit
    .map(
      (path) =>
        `<path class="lit" d="${path}" stroke="${look.lit}" stroke-width="${LIT_WIDTH}" stroke-linecap="round"/>`,
    )
    .join('');

/** A callout: its box, its pointer, its words. */
function noteSvg(note: Note, look: Look, outlines?: Outlines): string {
  const [l, t, r, b] = note.box;
  const [[x1, y1], [x2, y2]] = pointerOf(note);
  const { size } = note;
  const lines = noteLines(note).map(({ text, at: [x, y] }) => {
    if (outlines) {
      const { path, width } = outlines(text);
      return `<path transform="translate(${num(x - (width * size) / 2)} ${num(y)}) scale(${num(size)})" d="${path}" fill="${look.labelText}"/>`;
    }
    return `<text x="${num(x)}" y="${num(y)}" font-size="${num(size)}" font-weight="600" text-anchor="middle" fill="${look.labelText}">${escapeXml(text)}</text>`;
  });
  return (
    `<g class="callout"><path d="M${num(x1)} ${num(y1)}L${num(x2)} ${num(y2)}" stroke="${look.band}" stroke-width="0.16" stroke-linecap="round"/>` +
    `<circle cx="${num(x2)}" cy="${num(y2)}" r="0.24" fill="${look.band}"/>` +
    `<rect x="${num(l)}" y="${num(t)}" width="${num(r - l)}" height="${num(b - t)}" rx="0.4" fill="${look.label}" stroke="${look.band}" stroke-width="0.09"/>${lines.join('')}</g>`
  );
}

/** The numbers of the crossings, each on its disc. */
function numbersSvg(drawing: Drawing, look: Look, outlines?: Outlines): string {
  const number = (crossing: number, [x, y]: readonly [number, number]): string => {
    if (!outlines)
      return `<text x="${num(x)}" y="${num(y + 0.36)}" font-size="1" font-weight="700" text-anchor="middle" fill="${look.labelText}">${crossing}</text>`;
    const { path, width } = outlines(String(crossing));
    return `<path transform="translate(${num(x - width / 2)} ${num(y + 0.36)})" d="${path}" fill="${look.labelText}"/>`;
  };
  return drawing.labels
    .map(
      ({ crossing, point }) =>
        `<g class="waymark"><circle cx="${num(point[0])}" cy="${num(point[1])}" r="0.68" fill="${look.label}" stroke="${look.ink}" stroke-width="0.09"/>${number(crossing, point)}</g>`,
    )
    .join('');
}

/**
 * The same as `svgBody`, with its numbers or without, in pieces that each stand alone and are painted in order: while a point is dragged most of
 * them stay as they are, so a page need only renew those that have changed.
 */
export function svgPieces(drawing: Drawing, look: Look, prefix: string, box: Box, numbered = true): string[] {
  const run = (r: Run, i: number): string => {
    const ids = r.clips.map((_, k) => `${prefix}${i}-${k}`);
    const defs = r.clips
      .map(
        (c, k) => `<clipPath id="${ids[k] as string}"><path clip-rule="evenodd" d="${outsideOf(c, box)}"/></clipPath>`,
      )
      .join('');
    return (defs === '' ? '' : `<defs>${defs}</defs>`) + runSvg(r, look, ids);
  };
  const hosts = drawing.runs.filter((r) => r.kind === 'host');
  const ropes = drawing.runs.filter((r) => r.kind === 'rope');
  return [
    ...hosts.map(run),
    hostMarks(drawing, look),
    litSvg(drawing, look),
    ...ropes.map((r, i) => run(r, hosts.length + i)),
    drawing.tips.map((t) => tipSvg(t, look)).join('') + linesSvg(drawing, look),
    ghostSvg(drawing, look),
    arrowSvg(drawing, look) + pullsSvg(drawing, look) + marksSvg(drawing, look),
    numbered ? numbersSvg(drawing, look) : '',
    drawing.notes.map((n) => noteSvg(n, look)).join(''),
  ];
}

/** The inside of an `<svg>`: definitions and groups, in board units. */
export function svgBody(drawing: Drawing, look: Look, prefix: string, box: Box, outlines?: Outlines): string {
  const ids = new Map<string, string>();
  for (const run of drawing.runs)
    for (const clip of run.clips) if (!ids.has(clip)) ids.set(clip, `${prefix}${ids.size}`);
  const defs = [...ids]
    .map(([clip, id]) => `<clipPath id="${id}"><path clip-rule="evenodd" d="${outsideOf(clip, box)}"/></clipPath>`)
    .join('');
  /** One named group for each rope and host. */
  const runs = (kind: Run['kind']): string => {
    const own = drawing.runs.filter((r) => r.kind === kind);
    return [...new Set(own.map((r) => r.strand))]
      .map((strand) => {
        const parts = own
          .filter((r) => r.strand === strand)
          .map((r) =>
            runSvg(
              r,
              look,
              r.clips.map((c) => ids.get(c) as string),
            ),
          );
        return `<g id="${prefix.replace(/-$/, '')}-${kind}-${escapeXml(strand)}">${parts.join('')}</g>`;
      })
      .join('');
  };
  return `<defs>${defs}</defs><g class="hosts" fill="none">${runs('host')}${hostMarks(drawing, look)}</g><g class="ropes" fill="none" stroke-linejoin="round">${litSvg(drawing, look)}${runs('rope')}${drawing.tips.map((t) => tipSvg(t, look)).join('')}${linesSvg(drawing, look)}${ghostSvg(drawing, look)}</g>${arrowSvg(drawing, look)}${pullsSvg(drawing, look)}${marksSvg(drawing, look, outlines)}${numbersSvg(drawing, look, outlines)}${drawing.notes.map((n) => noteSvg(n, look, outlines)).join('')}`;
}

/** A whole SVG document. */
export function toSvg(drawing: Drawing, options: SvgOptions): string {
  const look = options.look ?? PAPER_LOOK;
  const box = options.box ?? drawing.box;
  const [w, h] = [box[2] - box[0], box[3] - box[1]];
  const width = options.width ?? 640;
  const prefix = options.prefix ?? 'clip';
  const view = [box[0], box[1], w, h].map(num).join(' ');
  const paper =
    options.background === false
      ? ''
      : `<rect x="${num(box[0])}" y="${num(box[1])}" width="${num(w)}" height="${num(h)}" fill="${look.paper}"/>`;
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${view}" width="${width}" height="${num((width * h) / w)}" role="img" aria-labelledby="${prefix}-title ${prefix}-desc" font-family="'Atkinson Hyperlegible Next', sans-serif">` +
    `<title id="${prefix}-title">${escapeXml(options.title)}</title><desc id="${prefix}-desc">${escapeXml(options.description)}</desc>` +
    (options.carried === undefined ? '' : `<metadata id="${CARRIED}">${escapeXml(options.carried)}</metadata>`) +
    `${paper}${svgBody(drawing, look, prefix, box, options.outlines)}</svg>`
  );
}
