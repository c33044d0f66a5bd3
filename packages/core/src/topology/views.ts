/**
 * Views of a figure. The back view is the same knot seen from behind; the mirror is the left-handed knot. Never the same thing.
 */
import { meetings, rememberMeetings, type Meeting } from '../figure/crossings.js';
import type { Figure } from '../figure/figure.js';
import type { Point } from '../figure/point.js';

const flip = (p: Point): Point => [p[0] === 0 ? 0 : -p[0], p[1]];
const flipped = (m: Meeting): Meeting => ({ ...m, point: flip(m.point), turn: m.turn === 1 ? -1 : 1 });

function reflect(figure: Figure, weave: (w: string) => string): Figure {
  const turned: Figure = {
    ...figure,
    ropes: figure.ropes.map((r) => ({ ...r, points: r.points.map(flip), weave: weave(r.weave) })),
    hosts: figure.hosts.map((h) => ({ ...h, points: h.points.map(flip) })),
  };
  return rememberMeetings(turned, meetings(figure).map(flipped));
}

/** x → −x and every crossing swapped: the same knot from behind. */
export const backView = (figure: Figure): Figure =>
  reflect(figure, (w) => w.replace(/[OU]/g, (c) => (c === 'O' ? 'U' : 'O')));

/** x → −x alone: the mirror image, as a left-handed person ties it. */
export const mirror = (figure: Figure): Figure => reflect(figure, (w) => w);
