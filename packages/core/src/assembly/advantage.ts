/**
 * What a purchase of a rope gains: a rope that goes round something and through a loop of its own pulls with more than the hand does, by as much
 * as friction leaves. Forces as multiples of the pull of the hand.
 */
import { FRICTIONS, holdsLoad } from '../ropes/loads.js';
import type { Assembly, AssemblyThingKind, Stop } from './assembly.js';

export interface Purchase {
  /** The knot whose loop the rope goes through, by its id. */
  readonly knot: string;
  readonly rope: number;
  /** Parts of rope that pull on it: what it would gain without friction, as they are parallel. */
  readonly parts: number;
  /** What it gains, where friction is most and where it is least. */
  readonly gains: readonly [least: number, most: number];
}

const SURFACES: Readonly<Partial<Record<AssemblyThingKind, keyof typeof FRICTIONS>>> = {
  ring: 'smooth metal',
  carabiner: 'smooth metal',
};

/**
 * The purchases of an assembly. The hand hauls on what comes out of the last loop; knots beyond it are tied when the hauling is done. From
 * there the rope is followed back: at each bend less of the pull is left (the belt-friction formula), until the knot itself is come to. A
 * rope that bends through a loop of rope rubs on rope; the parts are taken as parallel, which is the most that they can gain.
 */
export function purchases(a: Assembly): Purchase[] {
  return a.ropes.flatMap(({ stops }, rope): Purchase[] => {
    const bends = stops.map((stop) => bendOf(a, stops, stop));
    const last = bends.map((b) => b?.pullsOn !== undefined).lastIndexOf(true);
    const knot = bends[last]?.pullsOn;
    if (knot === undefined) return [];
    const gained = [0, 0] as [number, number];
    const left = [1, 1] as [number, number];
    let parts = 0;
    const pull = (): void => {
      parts += 1;
      gained[0] += left[0];
      gained[1] += left[1];
    };
    for (let i = last; i >= 0; i -= 1) {
      const [stop, bend] = [stops[i]!, bends[i]];
      if (stop.kind === 'knot' && stop.knot === knot) {
        pull();
        return [{ knot, rope, parts, gains: gained }];
      }
      if (!bend) return [];
      // Into what the knot holds and out of it again: both parts pull on it.
      if (bend.pullsOn === knot) pull();
      const [least, most] = holdsLoad(bend.turns, FRICTIONS[bend.on]);
      left[0] *= least;
      left[1] *= most;
      if (bend.pullsOn === knot) pull();
    }
    return [];
  });
}

interface Bend {
  readonly turns: number;
  readonly on: keyof typeof FRICTIONS;
  /** The knot of this rope that it pulls on. */
  readonly pullsOn?: string | undefined;
}

/** How a rope bends at a stop; nothing where it is tied. */
function bendOf(a: Assembly, stops: readonly Stop[], stop: Stop): Bend | undefined {
  if (stop.kind === 'knot') return undefined;
  if (stop.kind === 'through') return { turns: 0.5, on: 'rope', pullsOn: stop.knot };
  const kind = a.things.find((t) => t.id === stop.thing)?.kind ?? 'post';
  // A carabiner that hangs in a loop of this rope pulls on that loop.
  const holder = a.knots.find((k) => k.on === stop.thing && stops.some((s) => s.kind === 'knot' && s.knot === k.id));
  const hangs = kind === 'carabiner' || kind === 'ring';
  return { turns: stop.turns, on: SURFACES[kind] ?? 'wood', pullsOn: hangs ? holder?.id : undefined };
}

/** “pulls with 1.6 to 2.2 times what the hand does; 3 times without friction”. */
export const sayPurchase = ({ parts, gains }: Purchase): string =>
  `pulls with ${gains.map((g) => g.toFixed(1)).join(' to ')} times what the hand does, by friction; without any it would be ${parts} times`;
