/**
 * The shelf: knots, their revisions and their publications.
 */
import type { Account, ClipInfo, House, Knot, KnotCard, Publication, PublicKnot } from '@foxtrail/contract';
import {
  blankKnot,
  crossingsOf,
  findingsOf,
  readKnot,
  WORKSHOP_WORDS,
  writeKnot,
  type FigureFile,
  type KnotDocument,
  type Pace,
} from '@foxtrail/core';
import type pg from 'pg';
import { transaction, type Queryable } from './database.js';
import { HttpProblem, notFound, refused } from './problem.js';

export async function house(db: Queryable): Promise<House & { demo: boolean }> {
  const found = await db.query<{ name: string; tail_diameters: number; tail_millimetres: number; demo: boolean }>(
    'select * from house',
  );
  const row = found.rows[0];
  if (!row) throw new Error('the house is missing from the database');
  return { name: row.name, tail: { diameters: row.tail_diameters, millimetres: row.tail_millimetres }, demo: row.demo };
}

interface CardRow {
  id: string;
  name: string;
  aliases: string[];
  class: KnotCard['class'];
  family: string;
  use_grade: KnotCard['useGrade'];
  revision: number;
  errors: number;
  warnings: number;
  crossings: number;
  steps: number;
  archived: boolean;
  updated_at: Date;
  updated_by: string;
  slug: string | null;
  published_revision: number | null;
}

const CARD = `
  select k.id, k.name, k.class, k.family, k.use_grade, k.revision, k.errors, k.warnings, k.crossings, k.steps,
         k.archived_at is not null as archived, k.updated_at, a.name as updated_by, p.slug, p.revision as published_revision,
         coalesce((select array_agg(n.name order by n.position) from knot_alias n where n.knot_id = k.id), '{}') as aliases
    from knot k join account a on a.id = k.updated_by left join publication p on p.knot_id = k.id`;

const toCard = (r: CardRow): KnotCard => ({
  id: r.id,
  name: r.name,
  aliases: r.aliases,
  class: r.class,
  family: r.family,
  useGrade: r.use_grade,
  state: r.slug !== null ? 'published' : r.errors + r.warnings === 0 && r.steps > 0 ? 'proofed' : 'draft',
  revision: r.revision,
  errors: r.errors,
  warnings: r.warnings,
  crossings: r.crossings,
  steps: r.steps,
  archived: r.archived,
  updatedAt: r.updated_at.toISOString(),
  updatedBy: r.updated_by,
  slug: r.slug,
});

/** Most cards sent at once; a search narrows a longer shelf. */
const SHELF_LIMIT = 200;

export async function listKnots(
  db: Queryable,
  q: string,
  archived: boolean,
): Promise<{ knots: KnotCard[]; total: number }> {
  const like = `%${q.replace(/[\\%_]/g, '\\$&')}%`;
  const where = `where (k.archived_at is not null) = $1 and (k.name ilike $2 or exists (select 1 from knot_alias n where n.knot_id = k.id and n.name ilike $2))`;
  const [rows, count] = await Promise.all([
    db.query<CardRow>(`${CARD} ${where} order by k.updated_at desc, k.id limit ${SHELF_LIMIT}`, [archived, like]),
    db.query<{ total: number }>(`select count(*)::int as total from knot k ${where}`, [archived, like]),
  ]);
  return { knots: rows.rows.map(toCard), total: count.rows[0]?.total ?? 0 };
}

async function cardOf(db: Queryable, id: string): Promise<CardRow> {
  const found = await db.query<CardRow>(`${CARD} where k.id = $1`, [id]);
  const row = found.rows[0];
  if (!row) throw notFound('knot');
  return row;
}

async function documentOf(db: Queryable, id: string, revision: number): Promise<FigureFile> {
  const found = await db.query<{ document: FigureFile }>(
    'select document from revision where knot_id = $1 and number = $2',
    [id, revision],
  );
  const row = found.rows[0];
  if (!row) throw notFound('revision');
  return row.document;
}

/** Reads a document that was checked when it was saved. */
export function readSaved(document: FigureFile): KnotDocument {
  const read = readKnot(document);
  if (!read.ok) throw refused(read);
  return read.value;
}

interface PublicationRow {
  slug: string;
  revision: number;
  published_at: Date;
  published_by: string;
}

async function publicationOf(db: Queryable, id: string): Promise<Publication | null> {
  const found = await db.query<PublicationRow>(
    'select p.slug, p.revision, p.published_at, a.name as published_by from publication p join account a on a.id = p.published_by where p.knot_id = $1',
    [id],
  );
  const row = found.rows[0];
  if (!row) return null;
  return {
    slug: row.slug,
    revision: row.revision,
    publishedAt: row.published_at.toISOString(),
    publishedBy: row.published_by,
    clip: (await clipFor(db, id, row.revision)) !== undefined,
  };
}

/** The newest clip of a knot, of one revision when it is given. */
export async function clipFor(
  db: Queryable,
  id: string,
  revision?: number,
): Promise<(ClipInfo & { id: string }) | undefined> {
  const found = await db.query<{
    id: string;
    revision: number;
    size: number;
    duration: number;
    pace: Pace;
    created_at: Date;
  }>(
    'select id, revision, size, duration, pace, created_at from clip where knot_id = $1 and ($2::int is null or revision = $2) order by created_at desc limit 1',
    [id, revision ?? null],
  );
  const row = found.rows[0];
  return (
    row && {
      id: row.id,
      revision: row.revision,
      size: row.size,
      duration: row.duration,
      pace: row.pace,
      createdAt: row.created_at.toISOString(),
    }
  );
}

export async function getKnot(db: Queryable, id: string): Promise<Knot> {
  const row = await cardOf(db, id);
  const [document, publication, clip] = await Promise.all([
    documentOf(db, id, row.revision),
    publicationOf(db, id),
    clipFor(db, id),
  ]);
  return {
    card: toCard(row),
    document: document as Knot['document'],
    publication,
    clip: clip
      ? {
          revision: clip.revision,
          size: clip.size,
          duration: clip.duration,
          pace: clip.pace,
          createdAt: clip.createdAt,
        }
      : null,
  };
}

/** Checks a document and computes what the shelf shows of it. */
async function examine(
  db: Queryable,
  data: unknown,
): Promise<{ knot: KnotDocument; document: FigureFile; errors: number; warnings: number; crossings: number }> {
  const read = readKnot(data);
  if (!read.ok) throw refused(read);
  const knot = read.value;
  const { tail } = await house(db);
  const findings = findingsOf(knot.method, { tail, cordMm: knot.entry.cord.diameterMm, words: WORKSHOP_WORDS });
  return {
    knot,
    document: writeKnot(knot),
    errors: findings.filter((f) => f.severity === 'error').length,
    warnings: findings.filter((f) => f.severity === 'warning').length,
    crossings: crossingsOf(knot.method.figure).length,
  };
}

async function store(
  client: pg.PoolClient,
  id: string,
  revision: number,
  seen: Awaited<ReturnType<typeof examine>>,
  account: Account,
): Promise<void> {
  const { entry } = seen.knot;
  await client.query('delete from knot_alias where knot_id = $1', [id]);
  for (const [position, name] of entry.aliases.entries())
    await client.query('insert into knot_alias (knot_id, position, name) values ($1, $2, $3)', [id, position, name]);
  await client.query('insert into revision (knot_id, number, document, saved_by) values ($1, $2, $3, $4)', [
    id,
    revision,
    JSON.stringify(seen.document),
    account.id,
  ]);
}

const columns = (seen: Awaited<ReturnType<typeof examine>>): unknown[] => {
  const { name, entry, method } = seen.knot;
  return [
    name,
    entry.class,
    entry.family,
    entry.useGrade,
    entry.wrongWayOf ?? null,
    seen.errors,
    seen.warnings,
    seen.crossings,
    method.halts.length,
  ];
};

/** A new knot from a name, or from the data of a figure file. */
export async function createKnot(
  pool: pg.Pool,
  account: Account,
  source: { name: string } | { document: unknown },
): Promise<KnotCard> {
  const seen = await examine(pool, 'name' in source ? writeKnot(blankKnot(source.name)) : source.document);
  return transaction(pool, async (client) => {
    const made = await client.query<{ id: string }>(
      `insert into knot (name, class, family, use_grade, wrong_way_of, errors, warnings, crossings, steps, revision, updated_by)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9, 1, $10) returning id`,
      [...columns(seen), account.id],
    );
    const id = made.rows[0]?.id as string;
    await store(client, id, 1, seen, account);
    return toCard(await cardOf(client, id));
  });
}

/** Saves a new revision made from revision `from`. A knot that has moved on is answered with both versions' places. */
export async function saveKnot(
  pool: pg.Pool,
  account: Account,
  id: string,
  from: number,
  data: unknown,
): Promise<KnotCard> {
  const seen = await examine(pool, data);
  return transaction(pool, async (client) => {
    await client.query('select 1 from knot where id = $1 for update', [id]);
    const row = await cardOf(client, id);
    if (row.archived)
      throw new HttpProblem(
        410,
        'archived',
        row.name,
        'This knot was archived elsewhere while it was open here.',
        'Put it back on the shelf, or save your version as a new knot.',
      );
    if (row.revision !== from) {
      const document = await documentOf(client, id, row.revision);
      throw new HttpProblem(
        412,
        'conflict',
        row.name,
        `${row.updated_by} saved revision ${row.revision} while you worked on revision ${from}.`,
        'Choose which version goes on; neither is lost.',
        { current: { card: toCard(row), document } },
      );
    }
    const revision = row.revision + 1;
    await store(client, id, revision, seen, account);
    await client.query(
      `update knot set name = $1, class = $2, family = $3, use_grade = $4, wrong_way_of = $5, errors = $6, warnings = $7, crossings = $8, steps = $9,
              revision = $10, updated_at = now(), updated_by = $11 where id = $12`,
      [...columns(seen), revision, account.id, id],
    );
    return toCard(await cardOf(client, id));
  });
}

export async function duplicateKnot(pool: pg.Pool, account: Account, id: string): Promise<KnotCard> {
  const { document, card } = await getKnot(pool, id);
  const name = `${card.name.slice(0, 70)} (copy)`;
  return createKnot(pool, account, { document: { ...document, name } });
}

export async function setArchived(db: Queryable, id: string, archived: boolean): Promise<KnotCard> {
  await db.query('update knot set archived_at = case when $2 then now() end where id = $1', [id, archived]);
  if (archived) await db.query('delete from publication where knot_id = $1', [id]);
  return toCard(await cardOf(db, id));
}

/** A readable address from a name: `figure-eight`. */
export function slugOf(name: string): string {
  const slug = name
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');
  return slug === '' ? 'knot' : slug;
}

/** Publishes the saved revision. A figure with errors is not published: no wrong knot leaves the bench. */
export async function publishKnot(pool: pg.Pool, account: Account, id: string): Promise<Publication> {
  const row = await cardOf(pool, id);
  if (row.archived)
    throw new HttpProblem(409, 'archived', row.name, 'It is archived.', 'Put it back on the shelf first.');
  if (row.steps === 0)
    throw new HttpProblem(409, 'no-steps', row.name, 'It has no steps yet.', 'Place at least one halt in Draft.');
  if (row.errors > 0)
    throw new HttpProblem(
      409,
      'open-errors',
      row.name,
      `It has ${row.errors} open ${row.errors === 1 ? 'error' : 'errors'}.`,
      'Mend what Proof shows, then publish.',
    );
  const stem = slugOf(row.name);
  await transaction(pool, async (client) => {
    await client.query('lock table publication in share row exclusive mode');
    const own = await client.query<{ slug: string }>('select slug from publication where knot_id = $1', [id]);
    const taken = await client.query<{ slug: string }>(
      'select slug from publication where knot_id <> $1 and (slug = $2 or slug like $3)',
      [id, stem, `${stem}-%`],
    );
    const used = new Set(taken.rows.map((r) => r.slug));
    let slug = own.rows[0]?.slug ?? stem;
    for (let n = 2; used.has(slug); n += 1) slug = `${stem}-${n}`;
    await client.query(
      `insert into publication (knot_id, slug, revision, published_by) values ($1, $2, $3, $4)
       on conflict (knot_id) do update set revision = excluded.revision, published_at = now(), published_by = excluded.published_by`,
      [id, slug, row.revision, account.id],
    );
  });
  return (await publicationOf(pool, id)) as Publication;
}

export async function withdrawKnot(db: Queryable, id: string): Promise<void> {
  await cardOf(db, id);
  await db.query('delete from publication where knot_id = $1', [id]);
}

export interface Published {
  readonly knotId: string;
  readonly revision: number;
  readonly document: FigureFile;
  readonly publishedAt: Date;
}

export async function publishedKnot(db: Queryable, slug: string): Promise<Published> {
  const found = await db.query<{ knot_id: string; revision: number; published_at: Date; document: FigureFile }>(
    'select p.knot_id, p.revision, p.published_at, r.document from publication p join revision r on r.knot_id = p.knot_id and r.number = p.revision where p.slug = $1',
    [slug],
  );
  const row = found.rows[0];
  if (!row)
    throw new HttpProblem(
      404,
      'not-published',
      slug,
      'There is no published knot at this address.',
      'Ask its author, or look at the list of published knots.',
    );
  return { knotId: row.knot_id, revision: row.revision, document: row.document, publishedAt: row.published_at };
}

export async function publicKnot(db: Queryable, slug: string): Promise<PublicKnot> {
  const p = await publishedKnot(db, slug);
  const name = (p.document as { name?: string }).name ?? '';
  const [{ name: houseName, tail }, clip, wrong] = await Promise.all([
    house(db),
    clipFor(db, p.knotId, p.revision),
    db.query<{ name: string; slug: string }>(
      'select k.name, p.slug from publication p join knot k on k.id = p.knot_id where lower(k.wrong_way_of) = lower($1) order by k.name',
      [name],
    ),
  ]);
  return {
    slug,
    document: p.document as PublicKnot['document'],
    publishedAt: p.publishedAt.toISOString(),
    house: { name: houseName, tail },
    clip: clip !== undefined,
    wrongWays: wrong.rows,
  };
}

export async function listPublished(db: Queryable): Promise<{ name: string; slug: string; summary: string }[]> {
  const found = await db.query<{ name: string; slug: string; summary: string | null }>(
    `select r.document->>'name' as name, p.slug, r.document->'entry'->>'summary' as summary
       from publication p join revision r on r.knot_id = p.knot_id and r.number = p.revision order by 1`,
  );
  return found.rows.map((r) => ({ ...r, summary: r.summary ?? '' }));
}
