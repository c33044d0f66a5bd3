/**
 * A face of the inspection card on a set form: the knot as it lies in the hand, each mark of that face with its number on the card.
 */
import { PAPER_LOOK, type Look } from '../drawing/look.js';
import { markMarkup } from '../drawing/svg.js';
import { chosenMarks } from '../dressing/inspection.js';
import { followShown } from '../dressing/shown.js';
import { acrossFigures } from '../figure/across.js';
import { crossingsOf } from '../figure/crossings.js';
import type { Figure, TrailPosition } from '../figure/figure.js';
import { between, type Point } from '../figure/point.js';
import { finishedLayout, type Layout, type Method } from '../tying/method.js';
import { WORKSHOP_WORDS } from '../words/vocabulary.js';
import { beadNearest, placeOf, type Form } from './form.js';
import { MARK_RADIUS, marksOn } from './marked.js';
import type { FormSide } from './on-its-way.js';
import { faceSvg, sideFace, type FormSvgOptions } from './picture.js';
import { layoutToSet } from './setting.js';
import { STATIONS } from './sight.js';
import { dotOf } from './vector.js';

/** Room for numbers round the knot, in diameters. */
const ROOM = 1.2;

/** The layout that is set, with the card's marks on its drawing; nothing where one of them has no place there. */
export function cardLayout(method: Method): Layout | undefined {
  const [last, own] = [finishedLayout(method), layoutToSet(method)];
  if (last === own) return own;
  const across = acrossFigures(last.figure, own.figure);
  const { marks = [] } = followShown(last, last.figure, own.figure, across);
  const isWhole = marks.length === (last.marks ?? []).length;
  return isWhole && chosenMarks(own.figure, marks, WORKSHOP_WORDS).every(({ mark }) => mark)
    ? { ...own, marks }
    : undefined;
}

/** A face of the card as an SVG document; the marks are those of the layout whose figure was set. */
export function cardFaceSvg(
  layout: Layout,
  form: Form,
  side: FormSide,
  options: Omit<FormSvgOptions, 'station' | 'turn'>,
): string {
  const look: Look = options.look ?? PAPER_LOOK;
  const { box, body } = sideFace(layout.figure, form, side, ROOM, look);
  const marks = marksOn(layout, form, { form, sight: STATIONS[side], frame: box }, side);
  return faceSvg({ box, body: body + marks.map((m) => markMarkup(m, MARK_RADIUS, look)).join('') }, options);
}

/** How much of something there is at each crossing of a figure, 0 to 1, by its number. */
export type Heat = ReadonlyMap<number, number>;
const HEAT_RADIUS = { least: 0.7, more: 1.1 } as const;

/** A face of a set form with a disc where each crossing lies, the larger the more of it there is. */
export function heatFaceSvg(
  figure: Figure,
  form: Form,
  side: FormSide,
  heat: Heat,
  colour: string,
  options: Omit<FormSvgOptions, 'station' | 'turn'>,
): string {
  const look: Look = options.look ?? PAPER_LOOK;
  const { box, body } = sideFace(figure, form, side, ROOM, look);
  const { right, down } = STATIONS[side];
  const flat = ({ strand, at }: TrailPosition): Point | undefined => {
    const chain = form.chains.find((c) => c.rope === strand);
    if (!chain) return undefined;
    const p = placeOf(chain.x, beadNearest(chain, at));
    return [dotOf(p, right), dotOf(p, down)];
  };
  const discs = crossingsOf(figure).map((c) => {
    const share = heat.get(c.number);
    // What a rope is tied to has no chain: there the rope's own place is it.
    const [p, q] = [flat(c.first), flat(c.second)];
    const at = p && q ? between(p, q, 0.5) : (p ?? q);
    if (share === undefined || !at) return '';
    const [x, y] = [at[0].toFixed(2), at[1].toFixed(2)];
    const radius = HEAT_RADIUS.least + HEAT_RADIUS.more * share;
    return (
      `<circle cx="${x}" cy="${y}" r="${radius.toFixed(2)}" fill="${colour}" fill-opacity="${(0.25 + 0.6 * share).toFixed(2)}" stroke="${look.paper}" stroke-width="0.1"/>` +
      `<text x="${x}" y="${(at[1] + 0.32).toFixed(2)}" font-size="0.9" font-weight="700" text-anchor="middle" fill="${look.ink}" stroke="${look.paper}" stroke-width="0.22" paint-order="stroke">${c.number}</text>`
    );
  });
  return faceSvg({ box, body: body + discs.join('') }, options);
}
