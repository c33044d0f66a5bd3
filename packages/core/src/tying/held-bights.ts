/**
 * Bights by which a knot is slipped, held: what they draw through would come away with nothing in them.
 */
import { passagesOf } from '../figure/crossings.js';
import type { Figure, Rope } from '../figure/figure.js';
import { remembered } from '../ground/remembered.js';
import { leaderEnd, slipBights, type Layout } from './method.js';

/** Whether a bight stands out by itself at a place: both its legs go through beside each other, and nothing goes through it. */
function standsOut(figure: Figure, rope: string, apex: number): boolean {
  const own = passagesOf(figure, rope);
  const [before, after] = [own.filter((p) => p.at < apex).at(-1), own.find((p) => p.at > apex)];
  if (before === undefined || after === undefined) return false;
  if (before.over !== after.over || before.other.strand !== after.other.strand) return false;
  const [from, to] = [before.other.at, after.other.at].sort((a, b) => a - b) as [number, number];
  return !passagesOf(figure, before.other.strand).some((p) => p.at > from + 1e-9 && p.at < to - 1e-9);
}

/** The figures made of a figure by holding places of it, by those places: asked twice it is the same one, and not set again. */
const heldOf = remembered((_figure: Figure) => new Map<string, Figure>());

/** The figure of a layout as it is set. A bight by which it is slipped is held as an eye is: its tail, drawn up, would draw it out. */
export function figureSet(layout: Layout): Figure {
  const { figure, leaders } = layout;
  const held = slipBights(layout)
    .map((bight) => ({ strand: bight.rope, at: leaderEnd(layout, leaders.indexOf(bight)) }))
    .filter(({ strand, at }) => standsOut(figure, strand, at));
  if (held.length === 0) return figure;
  const known = heldOf(figure);
  const key = JSON.stringify(held);
  const made = known.get(key) ?? {
    ...figure,
    ropes: figure.ropes.map((r): Rope => {
      const eyes = held.filter((h) => h.strand === r.id).map((h) => h.at);
      return eyes.length === 0 ? r : { ...r, eyes: [...(r.eyes ?? []), ...eyes] };
    }),
  };
  known.set(key, made);
  return made;
}
