/** Crossings that are nearer each other than they can be read. */
import { crossingsOf, type Crossing } from './crossings.js';
import { diameterOf } from './cordage.js';
import { ropeOf, type Figure } from './figure.js';
import { distance } from './point.js';

/** Two crossings nearer than this, in diameters of the thinnest rope that both have, look like one place where three strands meet. */
const CROSSINGS_APART = 0.6;

/** Whether two crossings cannot be told from one place: by the thinnest rope that both have, which is the one between them. */
export function areCrowded(figure: Figure, c: Crossing, d: Crossing): boolean {
  const shared = [c.first, c.second].flatMap(({ strand }) => {
    const rope = [d.first.strand, d.second.strand].includes(strand) ? ropeOf(figure, strand) : undefined;
    return rope ? [diameterOf(rope)] : [];
  });
  return distance(c.point, d.point) < CROSSINGS_APART * Math.min(1, ...shared);
}

/** How many pairs of crossings are crowded. */
export const crowded = (figure: Figure): number =>
  crossingsOf(figure).reduce((n, c, i, all) => n + all.slice(i + 1).filter((d) => areCrowded(figure, c, d)).length, 0);
