/**
 * Crossings at which a host lies between the two strands: one passes in front of it there, the other behind it.
 */
import { breadthOf } from './bounds.js';
import { passagesOf, type Crossing, type Passage } from './crossings.js';
import { curveOf, nearestOn } from './curve.js';
import { ropeOf, type Figure, type Host, type Rope } from './figure.js';
import { isCore, isThicker } from './held-taut.js';

/** Whether a host, or a rope that is as one to the strands of a crossing, lies between them. */
export function hostBetween(figure: Figure, { point, over, under }: Crossing): boolean {
  const ropes = [over.strand, under.strand].flatMap((id) => ropeOf(figure, id) ?? []);
  const liesBetween = (core: Host | Rope): boolean => {
    const { at, away } = nearestOn(curveOf(core), point);
    if (away > breadthOf(core) / 2) return false;
    if (!('kind' in core) && !ropes.every((r) => isCore(figure, { strand: core.id, at }, r))) return false;
    const nearest = (strand: string, place: number): Passage | undefined =>
      passagesOf(figure, strand)
        .filter((p) => p.other.strand === core.id)
        .sort((p, q) => Math.abs(p.at - place) - Math.abs(q.at - place))[0];
    return nearest(under.strand, under.at)?.over === false && nearest(over.strand, over.at)?.over === true;
  };
  // Told by their thickness first: most ropes are a core to none.
  const mayBe = (rope: Rope): boolean => ropes.length === 2 && ropes.every((r) => r !== rope && isThicker(rope, r));
  return figure.hosts.some(liesBetween) || figure.ropes.some((r) => mayBe(r) && liesBetween(r));
}
