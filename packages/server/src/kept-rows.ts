/**
 * What a house keeps of ropes, as rows: for each kind its table, and how a thing goes into columns and comes out of them.
 */
import { KEPT_KINDS, type Kept, type KeptKind, type KeptValue } from '@foxtrail/contract/ropes';
import { GONE } from '@foxtrail/core/ropes';
import type pg from 'pg';
import type { Columns } from './columns.js';
import { Expression, insertRow, updateRows } from './columns.js';
import { transaction, type Queryable } from './database.js';
import { HttpProblem, notFound } from './problem.js';

interface Shelf<T> {
  readonly table: string;
  /** By what its list is in order. */
  readonly order: string;
  /** What is read of its rows, beside id and revision. */
  readonly read: string;
  readonly columns: (thing: T) => Columns;
  readonly thing: (row: Record<string, unknown>) => unknown;
}

const shelf = <K extends KeptKind>(_kind: K, of: Shelf<KeptValue<K>>): Shelf<KeptValue<K>> => of;

/** A knot by its reference: one of the shelf, one of the book, or none. */
const knotColumns = (ref: string | null): Columns => ({
  knot_id: ref?.startsWith('knot:') === true ? ref.slice('knot:'.length) : null,
  pattern_id: ref?.startsWith('pattern:') === true ? ref.slice('pattern:'.length) : null,
});
const refOf = ({ knot_id, pattern_id }: Record<string, unknown>): string | null =>
  typeof knot_id === 'string' ? `knot:${knot_id}` : typeof pattern_id === 'string' ? `pattern:${pattern_id}` : null;

/** The tables, by kind. */
export const KEPT_TABLES = {
  ropes: shelf('ropes', {
    table: 'rope',
    order: 'lower(name)',
    read: `name, construction, material, diameter_mm, thickness_mm, stretch, breaking_kn, source, knotted_share, condition,
           to_char(in_service, 'YYYY-MM-DD') as in_service, to_char(retires, 'YYYY-MM-DD') as retires,
           pieces, colour, second, mark, stiffness, remarks`,
    columns: ({ diameterMm, thicknessMm, breakingKn, knottedShare, inService, ...rest }) => ({
      ...rest,
      knotted_share: knottedShare,
      diameter_mm: diameterMm,
      thickness_mm: thicknessMm,
      breaking_kn: breakingKn,
      in_service: inService,
    }),
    thing: ({ diameter_mm, thickness_mm, breaking_kn, knotted_share, in_service, ...rest }) => ({
      ...rest,
      knottedShare: knotted_share,
      diameterMm: diameter_mm,
      thicknessMm: thickness_mm,
      breakingKn: breaking_kn,
      inService: in_service,
    }),
  }),
  things: shelf('things', {
    table: 'thing',
    order: 'lower(name)',
    read: 'name, kind, diameter_mm, remarks',
    columns: ({ diameterMm, ...rest }) => ({ ...rest, diameter_mm: diameterMm }),
    thing: ({ diameter_mm, ...rest }) => ({ ...rest, diameterMm: diameter_mm }),
  }),
  bodies: shelf('bodies', {
    table: 'body',
    order: 'lower(name)',
    read: 'name, mm',
    columns: ({ name, mm }) => ({ name, mm: JSON.stringify(mm) }),
    thing: (row) => row,
  }),
  ties: shelf('ties', {
    table: 'tie',
    order: 'knot_name, diameter_mm, id',
    read: 'knot_id, pattern_id, knot_name, strand, diameter_mm, eaten_mm, host_mm',
    columns: ({ knot, knotName, strand, diameterMm, eatenMm, hostMm }) => ({
      ...knotColumns(knot),
      knot_name: knotName,
      strand,
      diameter_mm: diameterMm,
      eaten_mm: eatenMm,
      host_mm: hostMm,
    }),
    thing: (row) => ({
      // A knot that is gone: what was measured of it stays, under its name.
      knot: refOf(row) ?? GONE,
      knotName: row.knot_name,
      strand: row.strand,
      diameterMm: row.diameter_mm,
      eatenMm: row.eaten_mm,
      hostMm: row.host_mm,
    }),
  }),
  tests: shelf('tests', {
    table: 'pull_test',
    order: 'pulled_on, id',
    read: `knot_id, pattern_id, knot_name, method, rope_id, rope_name, diameter_mm, peak_kn, rate, outcome, broke_at,
           to_char(pulled_on, 'YYYY-MM-DD') as pulled_on, remarks, photograph`,
    columns: (t) => ({
      ...knotColumns(t.knot),
      knot_name: t.knotName,
      method: t.method,
      rope_id: t.rope,
      rope_name: t.ropeName,
      diameter_mm: t.diameterMm,
      peak_kn: t.peakKn,
      rate: t.rate,
      outcome: t.outcome,
      broke_at: t.brokeAt,
      pulled_on: t.pulledOn,
      remarks: t.remarks,
      photograph: t.photograph,
    }),
    thing: (row) => ({
      knot: refOf(row) ?? (row.knot_name === '' ? null : GONE),
      knotName: row.knot_name,
      method: row.method,
      rope: row.rope_id,
      ropeName: row.rope_name,
      diameterMm: row.diameter_mm,
      peakKn: row.peak_kn,
      rate: row.rate,
      outcome: row.outcome,
      brokeAt: row.broke_at,
      pulledOn: row.pulled_on,
      remarks: row.remarks,
      photograph: row.photograph,
    }),
  }),
  plans: shelf('plans', {
    table: 'rope_plan',
    order: 'made_at, id',
    read: 'document',
    columns: (plan) => ({ name: plan.name, document: JSON.stringify(plan) }),
    // A document of before may lack what has been added to it since; rows of columns were checked when they were written.
    thing: ({ document }) => KEPT_KINDS.plans.shape.parse(document),
  }),
  assemblies: shelf('assemblies', {
    table: 'assembly',
    order: 'lower(name)',
    read: 'document',
    columns: (assembly) => ({ name: assembly.name, document: JSON.stringify(assembly) }),
    thing: ({ document }) => KEPT_KINDS.assemblies.shape.parse(document),
  }),
  courses: shelf('courses', {
    table: 'course',
    order: 'lower(name)',
    read: 'document',
    columns: (course) => ({ name: course.name, document: JSON.stringify(course) }),
    thing: ({ document }) => KEPT_KINDS.courses.shape.parse(document),
  }),
} satisfies { readonly [K in KeptKind]: Shelf<KeptValue<K>> };

type Row = Record<string, unknown> & { readonly id: string; readonly revision: number };

const shelfOf = <K extends KeptKind>(kind: K): Shelf<KeptValue<K>> =>
  KEPT_TABLES[kind] as unknown as Shelf<KeptValue<K>>;

function toKept<K extends KeptKind>(kind: K, { id, revision, ...row }: Row): Kept<KeptValue<K>> {
  return { id, revision, is: shelfOf(kind).thing(row) as KeptValue<K> };
}

/** Everything of a kind that the house keeps. */
export async function keptThings<K extends KeptKind>(db: Queryable, kind: K): Promise<Kept<KeptValue<K>>[]> {
  const { table, order, read } = shelfOf(kind);
  const found = await db.query<Row>(`select id, revision, ${read} from ${table} order by ${order}`);
  return found.rows.map((row) => toKept(kind, row));
}

/** What PostgreSQL says of two rows with one name, and of a row that names what is not there. */
const UNIQUE = '23505';
const NO_SUCH = '23503';

/** What was thrown while a thing was written, in words. */
function told(kind: KeptKind, error: unknown): unknown {
  const { code } = error as { code?: string };
  const { one } = KEPT_KINDS[kind];
  if (code === UNIQUE)
    return new HttpProblem(
      409,
      'name-taken',
      'name',
      `There is a ${one} of that name already.`,
      'Give it another name.',
    );
  if (code === NO_SUCH)
    return new HttpProblem(
      409,
      'gone',
      one,
      'What it refers to is not there any more.',
      'Choose another, then save it again.',
    );
  return error;
}

/** Keeps more of a kind: all of them, or none. */
export async function keepThings<K extends KeptKind>(
  pool: pg.Pool,
  kind: K,
  things: readonly KeptValue<K>[],
): Promise<Kept<KeptValue<K>>[]> {
  const { table, read, columns } = shelfOf(kind);
  const { most, one } = KEPT_KINDS[kind];
  try {
    return await transaction(pool, async (client) => {
      // Two who add at once are counted one after the other.
      await client.query(`lock table ${table} in share row exclusive mode`);
      const count = await client.query<{ n: number }>(`select count(*)::int as n from ${table}`);
      if ((count.rows[0]?.n ?? 0) + things.length > most)
        throw new HttpProblem(
          409,
          'too-many',
          one,
          `A house keeps ${most} of them at most.`,
          'Remove those that are not needed any more.',
        );
      const made: Kept<KeptValue<K>>[] = [];
      for (const thing of things) {
        const { rows } = await insertRow<Row>(client, table, columns(thing), `returning id, revision, ${read}`);
        made.push(toKept(kind, rows[0] as Row));
      }
      return made;
    });
  } catch (error) {
    throw told(kind, error);
  }
}

/** Changes a thing, from the revision it was read at. */
export async function changeThing<K extends KeptKind>(
  db: Queryable,
  kind: K,
  id: string,
  { revision, is }: { readonly revision: number; readonly is: KeptValue<K> },
): Promise<Kept<KeptValue<K>>> {
  const { table, read, columns } = shelfOf(kind);
  const { one } = KEPT_KINDS[kind];
  const changed = await updateRows(
    db,
    table,
    { ...columns(is), revision: new Expression('revision + 1') },
    { id, revision },
  ).catch((error: unknown) => {
    throw told(kind, error);
  });
  const found = await db.query<Row>(`select id, revision, ${read} from ${table} where id = $1`, [id]);
  const row = found.rows[0];
  if (!row) throw notFound(one);
  if (changed.rowCount === 0)
    throw new HttpProblem(
      412,
      'moved-on',
      one,
      `Somebody changed this ${one} while you worked on it.`,
      'Look at theirs, then change it again.',
      { now: toKept(kind, row) },
    );
  return toKept(kind, row);
}

/** Removes a thing. */
export async function removeThing(db: Queryable, kind: KeptKind, id: string): Promise<void> {
  const gone = await db.query(`delete from ${shelfOf(kind).table} where id = $1`, [id]);
  if (gone.rowCount === 0) throw notFound(KEPT_KINDS[kind].one);
}
