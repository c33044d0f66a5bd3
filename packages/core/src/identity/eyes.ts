/**
 * A loop that is meant to stay and is not marked as an eye: the knot is known by no name until it is.
 */
import { crossingsOf, passagesOf } from '../figure/crossings.js';
import { curveOf, lengthOf, lengthTo } from '../figure/curve.js';
import { applyEdit } from '../figure/edit.js';
import type { Figure, TrailPosition } from '../figure/figure.js';
import type { KeyBook, Match } from './book.js';
import { signatureOf } from './signature.js';

/** Figures of more crossings than this are not tried, and of the others no more than so many stretches: each is a signature. */
const MOST = { crossings: 32, stretches: 24 };

/** A place for an eye, and the known knot that it makes of the figure. */
export interface MissingEye {
  readonly where: TrailPosition;
  readonly knot: Match;
}

/** The stretches of a figure's ropes that could be a loop that stays: between two crossings, the longest first. */
const stretches = (figure: Figure): readonly TrailPosition[] =>
  figure.ropes
    .flatMap((rope) => {
      const curve = curveOf(rope);
      const stops = passagesOf(figure, rope.id).map((p) => p.at);
      const [first, last] = [stops[0], stops.at(-1)];
      if (first === undefined || last === undefined) return [];
      const between = stops.slice(1).map((next, i) => {
        const at = stops[i] as number;
        return {
          where: { strand: rope.id, at: (at + next) / 2 },
          length: lengthTo(curve, next) - lengthTo(curve, at),
        };
      });
      if (!rope.closed) return between;
      // Of a sling, the stretch that goes on from its last crossing to its first.
      const round = rope.points.length;
      const middle = ((last + first + round) / 2) % round;
      const seam = {
        // Not in the seam itself, where the rope's points begin.
        where: { strand: rope.id, at: middle > 0 ? middle : first / 2 },
        length: lengthOf(curve) - lengthTo(curve, last) + lengthTo(curve, first),
      };
      return [...between, seam];
    })
    .sort((a, b) => b.length - a.length)
    .map(({ where }) => where);

/** Where an eye makes a known knot of a figure that has none; `claim`: only that knot. The longest such loop is taken. */
export function missingEye(figure: Figure, book: KeyBook, claim?: string): MissingEye | undefined {
  if (figure.ropes.some((r) => (r.eyes ?? []).length > 0)) return undefined;
  if (crossingsOf(figure).length > MOST.crossings) return undefined;
  for (const where of stretches(figure).slice(0, MOST.stretches)) {
    const marked = applyEdit(figure, { kind: 'toggle-eye', where });
    const found = marked.ok ? signatureOf(marked.value.figure) : undefined;
    if (!found?.ok || found.value.fallsApart) continue;
    const knot = book
      .matches(found.value)
      .find((m) => (m.relation === 'same' || m.relation === 'mirror') && (claim === undefined || m.id === claim));
    if (knot) return { where, knot };
  }
  return undefined;
}
