/**
 * What is kept of ropes, in the archive of a library: every kind as a list. Taken into another house, knots and ropes are named there by what
 * they became.
 */
import { inspectionRecordSchema } from '@foxtrail/contract/assemblies';
import { KEPT_KINDS, type Kept, type KeptKind, type KeptValue } from '@foxtrail/contract/ropes';
import { GONE } from '@foxtrail/core/ropes';
import { isDeepStrictEqual } from 'node:util';
import type pg from 'pg';
import * as z from 'zod';
import type { Queryable } from './database.js';
import { allInspections, takeInspections } from './inspections.js';
import { keepThings, keptThings } from './kept-rows.js';

const listOf = <S extends z.ZodType>(is: S) => z.array(z.object({ id: z.uuid(), is })).default([]);
export const archivedRopesSchema = z.object({
  ropes: listOf(KEPT_KINDS.ropes.shape),
  things: listOf(KEPT_KINDS.things.shape),
  bodies: listOf(KEPT_KINDS.bodies.shape),
  ties: listOf(KEPT_KINDS.ties.shape),
  tests: listOf(KEPT_KINDS.tests.shape),
  plans: listOf(KEPT_KINDS.plans.shape),
  assemblies: listOf(KEPT_KINDS.assemblies.shape),
  courses: listOf(KEPT_KINDS.courses.shape),
  inspections: z.array(inspectionRecordSchema.omit({ id: true })).default([]),
});
type ArchivedRopes = z.infer<typeof archivedRopesSchema>;

/** Everything that a house keeps of ropes. */
export async function ropesToArchive(db: Queryable): Promise<ArchivedRopes> {
  const kinds = Object.keys(KEPT_KINDS) as KeptKind[];
  const lists = await Promise.all(kinds.map((kind) => keptThings(db, kind)));
  const inspections = await allInspections(db);
  return archivedRopesSchema.parse({ ...Object.fromEntries(kinds.map((kind, i) => [kind, lists[i]])), inspections });
}

export interface TakingRopes {
  readonly pool: pg.Pool;
  /** Only looked at, or taken. */
  readonly takes: boolean;
  /** The knots of the archive, by their ids there, as they are here. */
  readonly knots: ReadonlyMap<string, string>;
  readonly tell: (what: string, becomes: 'new' | 'there already' | 'refused', why?: string) => void;
}

/** Takes what is kept of ropes: things by name, once; ties and tests beside those that are here. */
export async function takeRopes(archived: ArchivedRopes, { pool, takes, knots, tell }: TakingRopes): Promise<void> {
  const ropes = new Map<string, string>();
  const knotHere = (ref: string): string => {
    const own = ref.startsWith('knot:') ? knots.get(ref.slice('knot:'.length)) : undefined;
    return ref.startsWith('knot:') ? (own === undefined ? GONE : `knot:${own}`) : ref;
  };
  /** Takes the things of a kind that have names. */
  const named = async <K extends 'ropes' | 'things' | 'bodies' | 'plans' | 'assemblies' | 'courses'>(
    kind: K,
    list: readonly { readonly id: string; readonly is: KeptValue<K> }[],
  ): Promise<void> => {
    const here = await keptThings(pool, kind);
    for (const { id, is } of list) {
      const what = `${KEPT_KINDS[kind].one} “${is.name}”`;
      const same = here.find((k) => k.is.name.toLowerCase() === is.name.toLowerCase());
      if (same && !isDeepStrictEqual(same.is, is)) {
        ropes.set(id, same.id);
        tell(what, 'refused', 'One of that name is here, and says something else. It stays as it is.');
        continue;
      }
      if (same) ropes.set(id, same.id);
      else if (takes) ropes.set(id, (await keepThings(pool, kind, [is]))[0]!.id);
      tell(what, same ? 'there already' : 'new');
    }
  };
  /** Takes ties or tests: those that are here already are not taken twice. */
  const counted = async <K extends 'ties' | 'tests'>(kind: K, list: readonly KeptValue<K>[]): Promise<void> => {
    if (list.length === 0) return;
    const left = (await keptThings(pool, kind)).map((k: Kept<KeptValue<K>>) => k.is);
    const fresh = list.filter((is) => {
      const at = left.findIndex((own) => isDeepStrictEqual(own, is));
      if (at >= 0) left.splice(at, 1);
      return at < 0;
    });
    if (takes && fresh.length > 0) await keepThings(pool, kind, fresh);
    tell(`${list.length} ${kind}`, fresh.length > 0 ? 'new' : 'there already');
  };
  await named('ropes', archived.ropes);
  await named('things', archived.things);
  await named('bodies', archived.bodies);
  await counted(
    'ties',
    archived.ties.map(({ is }) => ({ ...is, knot: knotHere(is.knot) })),
  );
  const ropeHere = (id: string | null): string | null => (id === null ? null : (ropes.get(id) ?? null));
  await counted(
    'tests',
    archived.tests.map(({ is }) => ({
      ...is,
      knot: is.knot === null ? null : knotHere(is.knot),
      rope: ropeHere(is.rope),
    })),
  );
  await named(
    'plans',
    archived.plans.map(({ id, is }) => ({
      id,
      is: {
        ...is,
        ropes: is.ropes.map((r) => ({
          ...r,
          rope: ropeHere(r.rope),
          knots: r.knots.map((k) => ({ ...k, ref: knotHere(k.ref) })),
        })),
      },
    })),
  );
  await named(
    'assemblies',
    archived.assemblies.map(({ id, is }) => ({
      id,
      is: {
        ...is,
        knots: is.knots.map((k) => ({ ...k, ref: knotHere(k.ref) })),
        ropes: is.ropes.map((r) => ({ ...r, rope: ropeHere(r.rope) })),
      },
    })),
  );
  const itemHere = (ref: string): string => {
    if (!ref.startsWith('assembly:')) return knotHere(ref);
    const own = ropes.get(ref.slice('assembly:'.length));
    return own === undefined ? GONE : `assembly:${own}`;
  };
  await named(
    'courses',
    archived.courses.map(({ id, is }) => ({
      id,
      is: { ...is, items: is.items.map((i) => ({ ...i, ref: itemHere(i.ref) })) },
    })),
  );
  if (archived.inspections.length > 0) {
    const here = (id: string | null): string | null => (id === null ? null : (ropes.get(id) ?? null));
    const left = archived.inspections.map((r) => ({ ...r, assembly: here(r.assembly) }));
    const fresh = await takeInspections(pool, left, takes);
    tell(`${archived.inspections.length} inspections`, fresh > 0 ? 'new' : 'there already');
  }
}
