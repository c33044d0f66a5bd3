/**
 * A form as a picture: rope and host as they lie, seen from a side, in the house's look.
 */
import { PAPER_LOOK, type Look } from '../drawing/look.js';
import { escapeXml, pullPath } from '../drawing/svg.js';
import type { Figure } from '../figure/figure.js';
import type { Box, Point } from '../figure/point.js';
import type { Form } from './form.js';
import { sightOf, STATIONS, type Sight, type Station, type Turning } from './sight.js';
import { ARROW, formStrokes, frameOf, grown, num, pullsSeen, steadyFrame, type FormStroke } from './strokes.js';

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

const dashed = ({ dash, offset }: FormStroke): string =>
  dash === undefined ? '' : ` stroke-dasharray="${dash.map(num).join(' ')}" stroke-dashoffset="${num(offset ?? 0)}"`;

const markup = (s: FormStroke): string =>
  `<path d="${s.path}" stroke="${s.colour}" stroke-width="${num(s.width)}"${dashed(s)}${s.butt ? ' stroke-linecap="butt"' : ''}/>`;

/** What is seen of a form from a side, as markup. */
const seenFrom = (figure: Figure, form: Form, view: Sight, box: Box, look: Look): string =>
  formStrokes(figure, form, view, box, look).map(markup).join('');

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

/** How a form is seen: from where, and what of it, in diameters. */
export function viewOf(
  form: Form,
  { station = 'front', turn }: Pick<FormSvgOptions, 'station' | 'turn'>,
): { readonly view: Sight; readonly box: Box } {
  const view = turn ? sightOf(turn) : STATIONS[station];
  return { view, box: turn ? steadyFrame(form, view) : frameOf(form, view) };
}

/** A form as an SVG document, seen from one of its stations. */
export function formSvg(figure: Figure, form: Form, options: FormSvgOptions): string {
  const { view, box } = viewOf(form, options);
  return documentOf(box, strokesGroup(seenFrom(figure, form, view, box, options.look ?? PAPER_LOOK)), options);
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

/** What is seen of a form from in front or from behind, with so much room round it, in diameters. */
export function sideFace(figure: Figure, form: Form, side: 'front' | 'back', room: number, look: Look): FormFace {
  const view = STATIONS[side];
  const box = grown(frameOf(form, view), room);
  return { box, body: strokesGroup(seenFrom(figure, form, view, box, look)) };
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
