/**
 * What a knot eats of each of its ropes: open as it is drawn, and set; and how it goes round what it is tied to, so that it can be told for
 * something thicker. In diameters of the rope itself.
 */
import { diameterOf } from '../figure/cordage.js';
import { crossingsOf, passagesOf } from '../figure/crossings.js';
import { curveOf, lengthOf, lengthTo } from '../figure/curve.js';
import { HOST_SIZE, type Figure, type Rope } from '../figure/figure.js';
import type { Form } from './form.js';
import { measureForm } from './measure.js';

export interface StrandEats {
  readonly rope: string;
  /** Its place among the ropes of the figure. */
  readonly strand: number;
  /** Between its first and last crossing as it is drawn, its loops too. */
  readonly open: number;
  /** Between the places where its parts leave the set knot, without its loops. */
  readonly set: number;
  /** Eyes that count as drawn, and not as set. */
  readonly eyes: number;
  /** Turns round what it is tied to, and how thick that is drawn. */
  readonly host: { readonly turns: number; readonly drawn: number } | undefined;
}

/**
 * Rope between the first and the last crossing of each rope of a figure, its loops too, in diameters of the rope: what a knot eats as it is
 * drawn, or of a figure that was settled, as it lies loose on a table.
 */
export const openEats = (figure: Figure): readonly number[] =>
  figure.ropes.map((rope) => openLength(figure, rope) / diameterOf(rope));

function openLength(figure: Figure, rope: Rope): number {
  const curve = curveOf(rope);
  if (rope.closed) return lengthOf(curve);
  const passages = passagesOf(figure, rope.id);
  const [first, last] = [passages[0]?.at, passages.at(-1)?.at];
  return first === undefined || last === undefined ? 0 : lengthTo(curve, last) - lengthTo(curve, first);
}

/** Turns round the host that the rope crosses most: two crossings are one. */
function roundHost(figure: Figure, rope: Rope): StrandEats['host'] {
  const counted = figure.hosts
    .filter((h) => h.kind !== 'hand')
    .map((host) => ({
      host,
      turns: crossingsOf(figure).filter((c) => c.first.strand === rope.id && c.second.strand === host.id).length / 2,
    }));
  const [most] = counted.sort((a, b) => b.turns - a.turns);
  return most && most.turns > 0
    ? { turns: most.turns, drawn: (most.host.size ?? HOST_SIZE) / diameterOf(rope) }
    : undefined;
}

/** What every rope of a figure is eaten, by a form of it. */
export function eatsOf(figure: Figure, form: Form): readonly StrandEats[] {
  const { strands } = measureForm(form);
  return figure.ropes.flatMap((rope, strand): StrandEats[] => {
    const eaten = strands.find((s) => s.rope === rope.id)?.eaten;
    if (eaten === undefined) return [];
    const unit = diameterOf(rope);
    return [
      {
        rope: rope.id,
        strand,
        open: openLength(figure, rope) / unit,
        set: eaten / unit,
        eyes: rope.eyes?.length ?? 0,
        host: roundHost(figure, rope),
      },
    ];
  });
}
