/**
 * Crossings at which a host lies between the two strands: one passes in front of it there, the other behind it.
 */
import { breadthOf } from './bounds.js';
import { passagesOf, type Crossing, type Passage } from './crossings.js';
import { curveOf, nearestOn } from './curve.js';
import type { Figure } from './figure.js';

/** Whether a host lies between the strands of a crossing. */
export function hostBetween(figure: Figure, { point, over, under }: Crossing): boolean {
  return figure.hosts.some((host) => {
    if (nearestOn(curveOf(host), point).away > breadthOf(host) / 2) return false;
    const nearest = (strand: string, place: number): Passage | undefined =>
      passagesOf(figure, strand)
        .filter((p) => p.other.strand === host.id)
        .sort((p, q) => Math.abs(p.at - place) - Math.abs(q.at - place))[0];
    return nearest(under.strand, under.at)?.over === false && nearest(over.strand, over.at)?.over === true;
  });
}
