/** How an assembly is written in the book. */
import {
  assemblySchema,
  knotStop,
  type Assembly,
  type AssemblyKnot,
  type AssemblyRope,
  type AssemblyThing,
  type RoundWay,
  type Stop,
  type StrandUse,
} from '@foxtrail/core/assembly';
import EATS from '../eats.json' with { type: 'json' };
import { SOURCES } from '../sources.js';

/** What each rope of a pattern eats; a pattern that is not set eats nothing that is known. */
export const eatsOfPattern = (id: string): readonly StrandUse[] =>
  ((EATS as Readonly<Record<string, number[][]>>)[id] ?? []).map(([set = 0, turns, drawn]) => ({
    set,
    host: turns === undefined || drawn === undefined ? null : { turns, drawn },
  }));

export const patternName = (id: string): string => SOURCES.find((s) => s.id === id)?.name ?? id;

type Spot = readonly [x: number, y: number];
type KnotMore = Partial<Pick<AssemblyKnot, 'guards' | 'keepers' | 'on'>>;

/** A knot of the book, by its pattern. */
export const knot = (id: string, role: string, pattern: string, [x, y]: Spot, more: KnotMore = {}): AssemblyKnot => ({
  id,
  role,
  ref: `pattern:${pattern}`,
  name: patternName(pattern),
  shouldBe: pattern,
  guards: null,
  keepers: 0,
  on: null,
  x,
  y,
  ...more,
});

export const thing = (
  id: string,
  name: string,
  kind: AssemblyThing['kind'],
  acrossMm: number,
  [x, y]: Spot,
  more: Partial<Pick<AssemblyThing, 'turn' | 'gate'>> = {},
): AssemblyThing => ({ id, name, kind, acrossMm, x, y, turn: 0, gate: 'not looked at', ...more });

/** A knot on a rope, and how far it is to what comes next. */
export const tie = (id: string, afterMm = 0, strand = 0, loopMm = 0): Stop => ({
  kind: 'knot',
  knot: id,
  strand,
  eats: 0,
  more: null,
  loopMm,
  host: null,
  afterMm,
});
export const round = (id: string, turns: number, afterMm = 0, way: RoundWay | null = null): Stop => ({
  kind: 'round',
  thing: id,
  turns,
  way,
  afterMm,
});
export const through = (id: string, afterMm = 0): Stop => ({ kind: 'through', knot: id, afterMm });

interface RopeMore extends Partial<Pick<AssemblyRope, 'first' | 'firstMm' | 'trimMm'>> {
  readonly stops: readonly Stop[];
}
export const rope = (
  name: string,
  diameterMm: number,
  { stops, ...more }: RopeMore,
): { name: string; diameterMm: number } & RopeMore => ({ name, diameterMm, trimMm: 20, stops, ...more });

/** An assembly as it is written here; what its knots eat is looked up. What cannot be read is a bug in the book, and throws. */
export function assembly(
  written: Pick<Assembly, 'name' | 'summary'> &
    Partial<Pick<Assembly, 'useGrade' | 'school' | 'cautions' | 'things' | 'legLoops' | 'legs'>> & {
      readonly knots: readonly AssemblyKnot[];
      readonly ropes: readonly ReturnType<typeof rope>[];
    },
): Assembly {
  const eaten = (r: (typeof written.ropes)[number], stop: Stop): Stop => {
    if (stop.kind !== 'knot') return stop;
    const own = written.knots.find((k) => k.id === stop.knot);
    return knotStop(r, stop.knot, eatsOfPattern(own?.shouldBe ?? ''), stop);
  };
  return assemblySchema.parse({
    ...written,
    ropes: written.ropes.map((r) => ({ ...r, stops: r.stops.map((stop) => eaten(r, stop)) })),
  });
}
