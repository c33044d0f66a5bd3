/**
 * A face of the inspection card on a set form: the knot as it lies in the hand, each mark of that face with its number on the card.
 */
import { PAPER_LOOK, type Look } from '../drawing/look.js';
import { markMarkup } from '../drawing/svg.js';
import { chosenMarks } from '../dressing/inspection.js';
import { followShown } from '../dressing/shown.js';
import { acrossFigures } from '../figure/across.js';
import { finishedLayout, type Layout, type Method } from '../tying/method.js';
import { WORKSHOP_WORDS } from '../words/vocabulary.js';
import type { Form } from './form.js';
import { MARK_RADIUS, marksOn } from './marked.js';
import type { FormSide } from './on-its-way.js';
import { faceSvg, sideFace, type FormSvgOptions } from './picture.js';
import { layoutToSet } from './setting.js';
import { STATIONS } from './sight.js';

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
