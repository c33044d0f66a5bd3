/**
 * Whether a drawing can be read: a strand that passes beneath another is cut there, and what is cut must not take away what shows how the
 * strands lie.
 */
import { crossingsOf, passagesOf, type Crossing, type Passage } from '../figure/crossings.js';
import { curveOf, lengthTo } from '../figure/curve.js';
import { ropeOf, type Figure, type Rope, type TrailPosition } from '../figure/figure.js';
import { hostBetween } from '../figure/host-between.js';
import { isCore, isHeldTaut } from '../figure/held-taut.js';
import { GAP, widthOf } from './drawing.js';

/** Flatter crossings than this are measured as this one, by the sine of their angle. */
const FLATTEST = 0.2;
const sineOf = (c: Crossing): number => Math.max(FLATTEST, Math.sin(c.angle));

/** Half the length over which a strand of this width lies across another one at a crossing, in diameters. */
const across = (width: number, c: Crossing): number => width / 2 / sineOf(c);

/** A place at which a picture cannot be read. */
export interface Illegible {
  readonly place: TrailPosition;
  readonly crossings: readonly number[];
}

/**
 * Crossings at which the strand above is cut by its own passage beneath a neighbour, so that neither of the two is seen to be above: two
 * gaps run into each other. A pair is told for each rope on which it does so.
 */
export function gapsThatMeet(figure: Figure): readonly Illegible[] {
  return figure.ropes.flatMap((rope) => {
    const curve = curveOf(rope);
    const passages = passagesOf(figure, rope.id)
      // What is hidden by what lies between is cut by that, not by the rope.
      .filter((p) => !hostBetween(figure, p.crossing))
      .map((p) => ({ ...p, along: lengthTo(curve, p.at) }));
    return passages.flatMap((p, i): Illegible[] => {
      const next = passages[i + 1];
      if (!next || p.over === next.over || [p, next].some((q) => roundCore(figure, rope, q))) return [];
      const [over, under] = p.over ? [p, next] : [next, p];
      const room =
        across(widthOf(figure, over.other.strand), over.crossing) +
        across(widthOf(figure, under.other.strand), under.crossing);
      if (next.along - p.along >= room * MEETING) return [];
      return [{ place: { strand: rope.id, at: over.at }, crossings: [over.crossing.number, under.crossing.number] }];
    });
  });
}

/** Whether one of the strands of a passage is a core to the other: which of them is above is seen by what hides what. */
function roundCore(figure: Figure, rope: Rope, { at, other }: Passage): boolean {
  const around = ropeOf(figure, other.strand);
  return isCore(figure, other, rope) || (around !== undefined && isCore(figure, { strand: rope.id, at }, around));
}

/** Share of the room two crossings need from which on they are apart. */
const MEETING = 0.9;

/** Share of a rope within the knot that other ropes hide, 0 to 1: what lies behind a host is hidden by nature. */
export function hiddenShare(figure: Figure, rope: Rope): number {
  const curve = curveOf(rope);
  const passages = passagesOf(figure, rope.id);
  const [first, last] = [passages[0], passages.at(-1)];
  if (!first || !last) return 0;
  const spans = passages
    .filter((p) => !p.over && !isCore(figure, p.other, rope))
    .map((p): [number, number] => {
      const half = across(widthOf(figure, p.other.strand) + 2 * GAP, p.crossing);
      const along = lengthTo(curve, p.at);
      return [along - half, along + half];
    });
  let hidden = 0;
  let reached = -Infinity;
  for (const [from, to] of spans.sort((a, b) => a[0] - b[0])) {
    hidden += Math.max(0, to - Math.max(from, reached));
    reached = Math.max(reached, to);
  }
  const whole = lengthTo(curve, last.at) - lengthTo(curve, first.at);
  return whole < 1e-6 ? 0 : Math.min(1, hidden / whole);
}

/** Ropes that are hidden more than they are seen; one that runs straight through is followed whatever is wound round it. */
export const mostlyHidden = (figure: Figure): readonly Illegible[] =>
  figure.ropes
    .filter((rope) => crossingsOf(figure).length > 0 && hiddenShare(figure, rope) > 0.5 && !isHeldTaut(rope, figure))
    .map((rope) => ({ place: { strand: rope.id, at: passagesOf(figure, rope.id)[0]?.at ?? 0 }, crossings: [] }));
