/**
 * Kin: the tree of families, where each knot stands in it, and the relations between knots.
 */
import type {
  Account,
  ChangeFamily,
  Family,
  Kin,
  KinDocuments,
  KinKnotCard,
  KinRelation,
  stateKinSchema,
} from '@foxtrail/contract';
import { sayKin, type FigureFile } from '@foxtrail/core';
import { BOOK_KIN, patternOf, patterns } from '@foxtrail/pattern-book';
import type pg from 'pg';
import type * as z from 'zod';
import { Expression, insertRow, NOW, updateRows, type Columns } from './columns.js';
import { transaction, type Queryable } from './database.js';
import { HttpProblem, notFound } from './problem.js';
import { tryRelation } from './prover.js';
import { readSaved, revisionDocument } from './revisions.js';

/** Families that lie in others from the start; the rest stand by themselves. */
const WITHIN: Readonly<Record<string, string>> = {
  Eight: 'Overhand',
  Butterfly: 'Overhand',
  Gripping: 'Half hitches',
};

/** Writes the pattern book's families, when there are none, and its relations that are not there yet. */
export async function seedKin(pool: pg.Pool): Promise<void> {
  await transaction(pool, async (client) => {
    await client.query('lock table family, kin_relation in share row exclusive mode');
    const any = await client.query('select 1 from family limit 1');
    if (any.rowCount === 0) {
      const names = [...new Set(patterns().map((p) => p.knot.entry.family))];
      for (const [position, name] of names.entries()) await insertRow(client, 'family', { name, position });
      for (const [name, parent] of Object.entries(WITHIN))
        await updateRows(
          client,
          'family',
          { parent_id: new Expression('(select id from family where name = ?)', parent) },
          { name },
        );
    }
    for (const { from, to, kind, judged } of BOOK_KIN)
      await insertRow(
        client,
        'kin_relation',
        { from_pattern: from, to_pattern: to, kind, origin: 'book', judged_why: judged ?? null },
        `on conflict (kind, coalesce(from_knot::text, from_pattern), coalesce(to_knot::text, to_pattern))
           do update set judged_why = excluded.judged_why where kin_relation.origin = 'book'`,
      );
    // Knots saved before there were families, or before their place was kept.
    const rows = await client.query<{ id: string; revision: number }>(
      'select id, revision from knot where family_id is null and family <> $1',
      [''],
    );
    for (const { id, revision } of rows.rows) {
      const knot = readSaved(await revisionDocument(client, id, revision));
      await placeKnot(client, id, { family: knot.entry.family });
    }
  });
}

/** The place after the last of the families under one, or of those at the top. */
const lastAmong = (parent: string | null): Expression =>
  new Expression(
    '(select coalesce(max(position), 0) + 1 from family where parent_id is not distinct from ?::uuid)',
    parent,
  );

/** The family that a name means, by its present or a former name; made at the top of the tree when there is none. */
async function familyNamed(db: Queryable, name: string): Promise<string | null> {
  const said = name.trim();
  if (said === '') return null;
  const known = await db.query<{ id: string }>(
    `select id from family where lower(name) = lower($1)
     union all select family_id from family_former_name where name = lower($1) limit 1`,
    [said],
  );
  if (known.rows[0]) return known.rows[0].id;
  const made = await insertRow<{ id: string }>(
    db,
    'family',
    { name: said, position: lastAmong(null) },
    'on conflict (lower(name)) do update set name = family.name returning id',
  );
  return made.rows[0]?.id ?? null;
}

/** Keeps a saved knot's family. `was` is the family its last revision said. */
export async function placeKnot(
  db: Queryable,
  id: string,
  { family, was }: { readonly family: string; readonly was?: string },
): Promise<void> {
  // A family that the author did not touch stays what the tree says, wherever it was dragged since.
  if (was?.toLowerCase() !== family.toLowerCase())
    await updateRows(db, 'knot', { family_id: await familyNamed(db, family) }, { id });
  await db.query(
    "update knot set family = coalesce((select name from family where id = knot.family_id), '') where id = $1",
    [id],
  );
}

interface RelationRow {
  readonly id: string;
  readonly from_knot: string | null;
  readonly from_pattern: string | null;
  readonly to_knot: string | null;
  readonly to_pattern: string | null;
  readonly kind: KinRelation['kind'];
  readonly turns: number;
  readonly origin: KinRelation['origin'];
  readonly judged_why: string | null;
  readonly judged_by: string | null;
  readonly proof_state: NonNullable<KinRelation['proof']>['state'] | null;
  readonly compared: string | null;
  readonly fresh: boolean;
}

const RELATION = `
  select r.id, r.from_knot, r.from_pattern, r.to_knot, r.to_pattern, r.kind, r.turns, r.origin, r.judged_why,
         j.name as judged_by, r.proof_state, r.compared,
         r.tried_from is not distinct from a.revision and r.tried_to is not distinct from b.revision as fresh
    from kin_relation r left join account j on j.id = r.judged_by
    left join knot a on a.id = r.from_knot left join knot b on b.id = r.to_knot
   where a.archived_at is null and b.archived_at is null`;

const refOf = (knot: string | null, pattern: string | null): string =>
  knot === null ? `pattern:${pattern ?? ''}` : `knot:${knot}`;

const toRelation = (r: RelationRow): KinRelation => ({
  id: r.id,
  from: refOf(r.from_knot, r.from_pattern),
  to: refOf(r.to_knot, r.to_pattern),
  kind: r.kind,
  turns: r.turns,
  origin: r.origin,
  judged: r.judged_why === null ? null : { by: r.judged_by, why: r.judged_why },
  proof: r.proof_state !== null && r.fresh ? { state: r.proof_state, compared: r.compared ?? '' } : null,
});

export async function kin(db: Queryable): Promise<Kin> {
  const [families, knots, relations] = await Promise.all([
    db.query<Family>('select id, name, parent_id as parent from family order by position, name'),
    db.query<KinKnotCard>(
      `select id, name, class, family_id as family, revision, pattern_id as pattern, wrong_way_of is not null as "wrongWay"
         from knot where archived_at is null order by lower(name), id`,
    ),
    db.query<RelationRow>(`${RELATION} order by r.created_at, r.id`),
  ]);
  return { families: families.rows, knots: knots.rows, relations: relations.rows.map(toRelation) };
}

async function relation(db: Queryable, id: string): Promise<KinRelation> {
  const found = await db.query<RelationRow>(`${RELATION} and r.id = $1`, [id]);
  if (!found.rows[0]) throw notFound('relation');
  return toRelation(found.rows[0]);
}

/** What is stated of a knot as made of another, or kin to it, and refuted on the present revisions. */
export async function refutedKin(db: Queryable, id: string): Promise<{ says: string; compared: string }[]> {
  const found = await db.query<RelationRow & { from_name: string | null; to_name: string }>(
    `select q.*, a.name as from_name, b.name as to_name from (${RELATION} and r.to_knot = $1) as q
       left join knot a on a.id = q.from_knot join knot b on b.id = q.to_knot
      where q.proof_state = 'refuted' and q.fresh`,
    [id],
  );
  return found.rows.map((r) => ({
    says: sayKin(r.kind, r.from_name ?? patternOf(r.from_pattern ?? '')?.knot.name ?? '', r.to_name, r.turns),
    compared: r.compared ?? '',
  }));
}

/** A reference as a knot's id or a pattern's; refused when there is nothing there. */
async function sideOf(db: Queryable, ref: string): Promise<{ knot: string | null; pattern: string | null }> {
  const [sort, id = ''] = ref.split(':');
  if (sort === 'pattern') {
    if (!patternOf(id)) throw notFound('pattern');
    return { knot: null, pattern: id };
  }
  const found = await db.query('select 1 from knot where id = $1 and archived_at is null', [id]);
  if (found.rowCount === 0) throw notFound('knot');
  return { knot: id, pattern: null };
}

/** A person's judgement of a relation, or that there is none. */
const judgement = (account: Account, why: string | null): Columns => ({
  judged_why: why,
  judged_by: why === null ? null : account.id,
  judged_at: why === null ? null : NOW,
});

/** States a relation, tries it, and answers with what came of it. */
export async function stateKin(
  pool: pg.Pool,
  account: Account,
  { from, to, kind, turns, origin, why }: z.output<typeof stateKinSchema>,
): Promise<KinRelation> {
  const [a, b] = await Promise.all([sideOf(pool, from), sideOf(pool, to)]);
  const made = await insertRow<{ id: string }>(
    pool,
    'kin_relation',
    {
      from_knot: a.knot,
      from_pattern: a.pattern,
      to_knot: b.knot,
      to_pattern: b.pattern,
      kind,
      turns,
      origin,
      ...judgement(account, why),
    },
    'on conflict do nothing returning id',
  );
  const id = made.rows[0]?.id;
  if (id === undefined)
    throw new HttpProblem(
      409,
      'stated-already',
      kind,
      'That relation is stated already.',
      'Look at it in the list of relations.',
    );
  await tryRelation(pool, id);
  return relation(pool, id);
}

export async function judgeKin(db: Queryable, account: Account, id: string, why: string | null): Promise<KinRelation> {
  await relation(db, id);
  await updateRows(db, 'kin_relation', judgement(account, why), { id });
  return relation(db, id);
}

export async function takeKinBack(db: Queryable, id: string): Promise<void> {
  const gone = await db.query('delete from kin_relation where id = $1', [id]);
  if (gone.rowCount === 0) throw notFound('relation');
}

/** Knots' documents handed out at a time: a megabyte or so. */
const DOCUMENTS = 40;

export async function kinDocuments(db: Queryable, after?: string): Promise<KinDocuments> {
  const [found, count] = await Promise.all([
    db.query<{ id: string; name: string; document: FigureFile }>(
      `select k.id, k.name, r.document from knot k join revision r on r.knot_id = k.id and r.number = k.revision
        where k.archived_at is null and ($1::uuid is null or k.id > $1) order by k.id limit ${DOCUMENTS}`,
      [after ?? null],
    ),
    db.query<{ total: number }>('select count(*)::int as total from knot where archived_at is null'),
  ]);
  return {
    knots: found.rows as KinDocuments['knots'],
    total: count.rows[0]?.total ?? 0,
    next: found.rows.length === DOCUMENTS ? (found.rows.at(-1)?.id ?? null) : null,
  };
}

const nameTaken = (name: string): HttpProblem =>
  new HttpProblem(409, 'name-taken', name, 'There is a family of that name.', 'Give it another name.');

async function nameIsFree(db: Queryable, name: string, except?: string): Promise<void> {
  const taken = await db.query('select 1 from family where lower(name) = lower($1) and id is distinct from $2', [
    name,
    except ?? null,
  ]);
  if (taken.rowCount !== 0) throw nameTaken(name);
}

async function familyIsThere(db: Queryable, id: string): Promise<void> {
  const found = await db.query('select 1 from family where id = $1', [id]);
  if (found.rowCount === 0) throw notFound('family');
}

export async function addFamily(pool: pg.Pool, name: string, parent: string | null): Promise<Kin> {
  await transaction(pool, async (client) => {
    await client.query('lock table family in share row exclusive mode');
    if (parent !== null) await familyIsThere(client, parent);
    await nameIsFree(client, name);
    await client.query('delete from family_former_name where name = lower($1)', [name]);
    await insertRow(client, 'family', { name, parent_id: parent, position: lastAmong(parent) });
  });
  return kin(pool);
}

export async function changeFamily(pool: pg.Pool, id: string, { name, place }: ChangeFamily): Promise<Kin> {
  await transaction(pool, async (client) => {
    await client.query('lock table family in share row exclusive mode');
    await familyIsThere(client, id);
    if (name !== undefined) {
      await nameIsFree(client, name, id);
      await client.query('delete from family_former_name where name = lower($1)', [name]);
      await client.query(
        `insert into family_former_name (name, family_id) select lower(name), id from family where id = $1 and lower(name) <> lower($2)
           on conflict (name) do update set family_id = excluded.family_id`,
        [id, name],
      );
      await updateRows(client, 'family', { name }, { id });
      await updateRows(client, 'knot', { family: name }, { family_id: id });
    }
    if (place) await moveFamily(client, id, place);
  });
  return kin(pool);
}

async function moveFamily(
  client: pg.PoolClient,
  id: string,
  { parent, before }: NonNullable<ChangeFamily['place']>,
): Promise<void> {
  if (parent !== null) {
    await familyIsThere(client, parent);
    const above = await client.query(
      `with recursive up as (select id, parent_id from family where id = $1
         union all select f.id, f.parent_id from family f join up on f.id = up.parent_id)
       select 1 from up where id = $2`,
      [parent, id],
    );
    if (above.rowCount !== 0)
      throw new HttpProblem(
        409,
        'in-itself',
        'family',
        'A family cannot lie in itself or in one of its own.',
        'Put it somewhere else in the tree.',
      );
  }
  const siblings = await client.query<{ id: string }>(
    'select id from family where parent_id is not distinct from $1 and id <> $2 order by position, name',
    [parent, id],
  );
  const order = siblings.rows.map((r) => r.id);
  const at = before === null ? -1 : order.indexOf(before);
  order.splice(at < 0 ? order.length : at, 0, id);
  await updateRows(client, 'family', { parent_id: parent }, { id });
  await client.query(
    'update family set position = o.n from unnest($1::uuid[]) with ordinality as o (id, n) where family.id = o.id',
    [order],
  );
}

export async function dissolveFamily(pool: pg.Pool, id: string): Promise<Kin> {
  await transaction(pool, async (client) => {
    await client.query('lock table family in share row exclusive mode');
    await familyIsThere(client, id);
    await client.query(
      'update family set parent_id = (select parent_id from family where id = $1) where parent_id = $1',
      [id],
    );
    await client.query(
      `update knot set family_id = f.parent_id, family = coalesce((select name from family where id = f.parent_id), '')
         from family f where f.id = $1 and knot.family_id = $1`,
      [id],
    );
    await client.query('delete from family where id = $1', [id]);
  });
  return kin(pool);
}

export async function putIntoFamily(pool: pg.Pool, knot: string, family: string | null): Promise<Kin> {
  if (family !== null) await familyIsThere(pool, family);
  const done = await pool.query(
    `update knot set family_id = $2, family = coalesce((select name from family where id = $2), '')
      where id = $1 and archived_at is null`,
    [knot, family],
  );
  if (done.rowCount === 0) throw notFound('knot');
  return kin(pool);
}
