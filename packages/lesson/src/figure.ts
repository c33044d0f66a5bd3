/** Figures on a lesson's page: inline SVG in the page's colours, with marks over it. */
import {
  DARK_LOOK,
  markSize,
  ringSize,
  PAPER_LOOK,
  svgPieces,
  type Box,
  type Drawing,
  type Look,
  type Point,
} from '@foxtrail/core';
import { html, raw, type Html } from './html.js';

/** The colours of figures as the page names them, so that it can be light or dark. */
export const PAGE_LOOK: Look = named(PAPER_LOOK, '') as Look;

/** The names of all colours of a look in its place; what is no colour stays. */
function named(value: unknown, path: string): unknown {
  if (typeof value === 'string') return value === 'none' ? value : `var(--figure${path})`;
  if (Array.isArray(value)) return value.map((v, i) => named(v, `${path}-${i}`));
  return Object.fromEntries(
    Object.entries(value as object).map(([key, v]): [string, unknown] => [key, named(v, `${path}-${key}`)]),
  );
}

const colours = (value: unknown, path = ''): [string, string][] =>
  typeof value === 'string'
    ? value === 'none'
      ? []
      : [[`--figure${path}`, value]]
    : Object.entries(value as object).flatMap(([key, v]) => colours(v, `${path}-${key}`));

/** The style sheet that gives `PAGE_LOOK` its colours, in light and in dark. */
export function lookStyle(): string {
  const dark = new Map(colours(DARK_LOOK));
  const lines = colours(PAPER_LOOK).map(([name, light]) => `${name}:light-dark(${light},${dark.get(name) ?? light})`);
  return `:root{${lines.join(';')}}`;
}

/** A ring round a place, or a number beside one. */
export type FigureMark =
  | { readonly kind: 'ring'; readonly point: Point }
  | { readonly kind: 'number'; readonly point: Point; readonly at: Point; readonly label: string };

const markSvg = (m: FigureMark, size: number, ring: number): Html =>
  m.kind === 'ring'
    ? html`<circle class="ring" cx="${m.point[0]}" cy="${m.point[1]}" r="${ring}" />`
    : html`<line x1="${m.point[0]}" y1="${m.point[1]}" x2="${m.at[0]}" y2="${m.at[1]}" />
        <circle class="dot" cx="${m.at[0]}" cy="${m.at[1]}" r="0.28" />
        <circle class="number" cx="${m.point[0]}" cy="${m.point[1]}" r="${size}" />
        <text x="${m.point[0]}" y="${m.point[1]}" font-size="${1.35 * size}">${m.label}</text>`;

/** Marks with their own colours, for pictures that no style sheet reaches. */
export const markMarkup = (marks: readonly FigureMark[], box: Box, ink: string, paper: string): string => {
  const size = markSize(box);
  return marks
    .map((m) =>
      m.kind === 'ring'
        ? `<circle cx="${m.point[0]}" cy="${m.point[1]}" r="${ringSize(box)}" fill="none" stroke="${ink}" stroke-width="${size / 4}"/>`
        : `<line x1="${m.point[0]}" y1="${m.point[1]}" x2="${m.at[0]}" y2="${m.at[1]}" stroke="${ink}" stroke-width="${size / 8}"/>` +
          `<circle cx="${m.at[0]}" cy="${m.at[1]}" r="0.28" fill="${ink}"/>` +
          `<circle cx="${m.point[0]}" cy="${m.point[1]}" r="${size}" fill="${paper}" stroke="${ink}" stroke-width="${size / 8}"/>` +
          `<text x="${m.point[0]}" y="${m.point[1] + 0.47 * size}" font-size="${1.35 * size}" font-weight="700" text-anchor="middle" fill="${ink}">${m.label}</text>`,
    )
    .join('');
};

export interface FigureOnPage {
  readonly drawing: Drawing;
  readonly box: Box;
  /** What it shows, in words. */
  readonly label: string;
  readonly marks?: readonly FigureMark[];
  /** What lies beyond the box runs on to the edge of what holds the figure. */
  readonly bleed?: boolean;
}

/** Draws figures for one page: ids within an SVG are the page's, so each figure gets its own. */
export class FigureWriter {
  private count = 0;

  constructor(
    private readonly look: Look,
    /** Stands before every id; two writers of one page need two. */
    private readonly name: string,
  ) {}

  figure({ drawing, box, label, marks = [], bleed = false }: FigureOnPage): Html {
    const [l, t, r, b] = box;
    const prefix = `${this.name}${(this.count += 1)}-`;
    const size = markSize(box);
    return html`<svg
      class="figure${bleed && ' bleed'}"
      viewBox="${l} ${t} ${r - l} ${b - t}"
      role="img"
      aria-label="${label}"
      preserveAspectRatio="xMidYMid meet"
    >
      <g fill="none" stroke-linejoin="round">${raw(svgPieces(drawing, this.look, prefix, box).join(''))}</g>
      ${marks.length > 0 && html`<g class="marks">${marks.map((m) => markSvg(m, size, ringSize(box)))}</g>`}
    </svg>`;
  }
}
