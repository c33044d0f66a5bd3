/**
 * The marks of the inspection card on a form: each with its number, beside the place where it is seen.
 */
import { chosenMarks } from '../dressing/inspection.js';
import type { NumberedPlace } from '../drawing/finish.js';
import type { Box, Point } from '../figure/point.js';
import type { Layout } from '../tying/method.js';
import { WORKSHOP_WORDS } from '../words/vocabulary.js';
import { beadNearest, placeOf, type Chain, type Form } from './form.js';
import type { FormSide, Pose } from './on-its-way.js';
import { dotOf } from './vector.js';

/** A number's disc, and how far from its place it may stand: radii and steps in diameters. */
export const MARK_RADIUS = 0.62;
const NEAREST = 1.5;
const FARTHEST = 7;
const STEP = 0.5;
const WAYS = 24;

/** The numbered places on a face of a set form: the marks that the card has for that face, where they lie on the form. */
export function marksOn(layout: Layout, form: Form, { sight, frame }: Pose, face: FormSide): readonly NumberedPlace[] {
  const flat = (chain: Chain, i: number): Point => {
    const p = placeOf(chain.x, i);
    return [dotOf(p, sight.right), dotOf(p, sight.down)];
  };
  const rope = form.chains.flatMap((c) => Array.from(c.at, (_, i) => flat(c, i)));
  const taken: Point[] = [];
  return chosenMarks(layout.figure, layout.marks ?? [], WORKSHOP_WORDS)
    .flatMap(({ mark }) => mark ?? [])
    .flatMap((mark, i): NumberedPlace[] => {
      if (mark.side !== face) return [];
      return mark.places.flatMap(({ strand, at: place }): NumberedPlace[] => {
        const chain = form.chains.find((c) => c.rope === strand);
        if (!chain) return [];
        const at = flat(chain, beadNearest(chain, place));
        const point = clearOf(at, rope, taken, frame);
        taken.push(point);
        return [{ point, at, label: String(i + 1) }];
      });
    });
}

/** The place nearest to a point at which a disc covers no rope and no other disc; where there is none, the one that covers least. */
function clearOf([x, y]: Point, rope: readonly Point[], taken: readonly Point[], [l, t, r, b]: Box): Point {
  let best: { readonly point: Point; readonly worth: number } | undefined;
  for (let away = NEAREST; away <= FARTHEST; away += STEP)
    for (let k = 0; k < WAYS; k += 1) {
      const angle = (2 * Math.PI * k) / WAYS;
      const point: Point = [x + away * Math.cos(angle), y + away * Math.sin(angle)];
      const isOut =
        point[0] < l + MARK_RADIUS ||
        point[0] > r - MARK_RADIUS ||
        point[1] < t + MARK_RADIUS ||
        point[1] > b - MARK_RADIUS;
      const least = (others: readonly Point[]): number =>
        others.reduce((d, p) => Math.min(d, Math.hypot(p[0] - point[0], p[1] - point[1])), Infinity);
      const room = Math.min(least(rope) - 0.5 - MARK_RADIUS, least(taken) - 2.2 * MARK_RADIUS, 0.25);
      const worth = 8 * room - away - (isOut ? 6 : 0);
      if (!best || worth > best.worth) best = { point, worth };
    }
  return best?.point ?? [x, y];
}
