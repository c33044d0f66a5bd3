/**
 * Views of a figure. The back view is the same knot seen from behind; the mirror is the left-handed knot. Never the same thing.
 */
import { crossingsOf, meetings, rememberMeetings, weaveFigure, type Meeting } from '../figure/crossings.js';
import { isFlat } from '../figure/cordage.js';
import type { Figure, Wrap } from '../figure/figure.js';
import type { Point } from '../figure/point.js';

const flip = (p: Point): Point => [p[0] === 0 ? 0 : -p[0], p[1]];
const flipped = (m: Meeting): Meeting => ({ ...m, point: flip(m.point), turn: m.turn === 1 ? -1 : 1 });

/** The weave is carried crossing by crossing, and not read again: also where two crossings are too near to be read in order. */
function reflect(figure: Figure, swapped: boolean): Figure {
  const over = new Set(crossingsOf(figure).flatMap((c) => (c.over === c.first ? [c.first] : [])));
  const turned: Figure = {
    ...figure,
    ropes: figure.ropes.map((r) => ({
      ...r,
      points: r.points.map(flip),
      // Seen from behind, webbing shows its other side.
      ...(swapped && isFlat(r.cordage) ? { backUp: r.backUp !== true } : {}),
      // Seen from behind, turns that begin in front begin behind.
      ...(r.wraps && swapped
        ? { wraps: r.wraps.map((w): Wrap => ({ ...w, first: w.first === 'O' ? 'U' : 'O' })) }
        : {}),
    })),
    hosts: figure.hosts.map((h) => ({ ...h, points: h.points.map(flip) })),
  };
  rememberMeetings(turned, meetings(figure).map(flipped));
  return weaveFigure(turned, (m) => over.has(m.first) !== swapped);
}

/** x → −x and every crossing swapped: the same knot from behind. */
export const backView = (figure: Figure): Figure => reflect(figure, true);

/** x → −x alone: the mirror image, as a left-handed person ties it. */
export const mirror = (figure: Figure): Figure => reflect(figure, false);
