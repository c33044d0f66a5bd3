/**
 * Keepers: knots that guard the tail of another. A keeper counts where it is the next knot on that tail, with nothing beyond it but the end,
 * or another keeper.
 */
import { BOARD, freeId, knotStop, withNextStop, type Assembly, type AssemblyKnot, type StrandUse } from './assembly.js';
import { stopsOf, type AssemblyTail } from './run.js';

/** The keepers of a knot that lie where a keeper holds. */
export const keepersAt = (a: Assembly, guarded: string): readonly AssemblyKnot[] =>
  a.knots.filter((k) => k.guards === guarded && besideIt(a, k.id, guarded));

/** Whether a keeper lies on a tail of what it guards, next to it. */
export function besideIt(a: Assembly, keeper: string, guarded: string): boolean {
  const isKeeper = (id: string): boolean => {
    const { guards } = a.knots.find((k) => k.id === id) ?? { guards: null };
    return guards === guarded || (guards !== null && a.knots.some((k) => k.id === guards && k.guards === guarded));
  };
  return stopsOf(a, keeper).some(({ rope, stop }) => {
    const { stops } = a.ropes[rope]!;
    return [1, -1].some((outward) => {
      let inner = stop - outward;
      for (; ; inner -= outward) {
        const s = stops[inner];
        if (s?.kind !== 'knot') return false;
        if (s.knot === guarded) break;
        if (!isKeeper(s.knot)) return false;
      }
      for (let outer = stop + outward; stops[outer]; outer += outward) {
        const s = stops[outer]!;
        if (s.kind !== 'knot' || !isKeeper(s.knot)) return false;
      }
      return true;
    });
  });
}

/** A knot stays so far from the edge of the board; a keeper stands so far beside what it guards. */
const EDGE = 70;
const BESIDE = 140;
const within = (at: number, size: number): number => Math.min(size - EDGE, Math.max(EDGE, at));

/** An assembly with an overhand as a keeper on a tail. */
export function withKeeper(
  a: Assembly,
  { knot, rope, end }: AssemblyTail,
  name: string,
  uses: readonly StrandUse[],
): Assembly {
  const guarded = a.knots.find((k) => k.id === knot);
  if (!guarded) return a;
  const id = freeId('k', a.knots);
  const count = a.knots.filter((k) => k.guards === knot).length + 1;
  const keeper: AssemblyKnot = {
    id,
    role: `keeper ${count} of ${guarded.role}`.slice(0, 80),
    ref: 'pattern:overhand',
    name,
    shouldBe: 'overhand',
    guards: knot,
    keepers: 0,
    on: null,
    x: within(guarded.x + (end === 'last' ? BESIDE : -BESIDE), BOARD.width),
    y: within(guarded.y + EDGE / 2, BOARD.height),
  };
  const at = a.knots.findIndex((k) => k.id === knot) + 1;
  return {
    ...a,
    knots: [...a.knots.slice(0, at), keeper, ...a.knots.slice(at)],
    ropes: a.ropes.map((r, i) => {
      if (i !== rope) return r;
      const stop = knotStop(r, id, uses);
      return end === 'last' ? withNextStop(r, stop) : { ...r, stops: [stop, ...r.stops] };
    }),
  };
}
