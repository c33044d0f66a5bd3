/** What a press on the board means: a place on a rope, or on a host where no rope is nearer. */
import { curveOf, HOST_SIZE, nearestOn, type Figure, type Point, type TrailPosition } from '@foxtrail/core';

/** How near a press must be to a rope to mean it, and to the surface of a host, in diameters. */
const REACH = 1.6;
const HOST_REACH = 0.4;
/** A rope that lies on a host is meant before the host, unless the press is so much nearer to the middle of that. */
const ON_HOST = REACH / 2;

/** The place that is meant; `isPart` says which places on ropes may be. */
export function placeAt(
  { ropes, hosts }: Figure,
  at: Point,
  { hosted = true, isPart = () => true }: { hosted?: boolean; isPart?: (place: TrailPosition) => boolean } = {},
): TrailPosition | undefined {
  const onRopes = ropes
    .map((r) => ({ strand: r.id, ...nearestOn(curveOf(r), at) }))
    .filter((p) => p.away <= REACH && isPart(p));
  const onHosts = hosts.flatMap((h) => {
    const near = nearestOn(curveOf(h), at);
    return hosted && near.away <= (h.size ?? HOST_SIZE) / 2 + HOST_REACH
      ? [{ strand: h.id, at: near.at, away: near.away + ON_HOST }]
      : [];
  });
  const [nearest] = [...onRopes, ...onHosts].sort((a, b) => a.away - b.away);
  return nearest && { strand: nearest.strand, at: nearest.at };
}
