/**
 * Knots: their documents and the append-only list of their revisions.
 */
import type { Account, Knot, KnotCard } from '@foxtrail/contract';
import { leftHandedEdition, stepsOf, blankKnot, writeKnot, type KnotDocument } from '@foxtrail/core';
import { claimOf, withExhibitsRetold, conceptOfPattern } from '@foxtrail/pattern-book';
import type pg from 'pg';
import { Expression, insertRow, NOW, updateRows, type Columns } from './columns.js';
import { cardRow, toCard } from './cards.js';
import { clipFor } from './clips.js';
import { transaction, type Queryable } from './database.js';
import { examine, type Examined } from './examine.js';
import { placeKnot, refutedKin } from './kin.js';
import { identityColumns } from './identity.js';
import { HttpProblem } from './problem.js';
import { publicationOf } from './publications.js';
import { readSaved, revisionDocument } from './revisions.js';

export async function getKnot(db: Queryable, id: string): Promise<Knot> {
  const row = await cardRow(db, id);
  const [document, publication, clip, edition, refuted] = await Promise.all([
    revisionDocument(db, id, row.revision),
    publicationOf(db, id),
    clipFor(db, id),
    editionOf(db, id),
    refutedKin(db, id),
  ]);
  return {
    card: toCard(row),
    document: inItsFamily(document as Knot['document'], row.family),
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
    refutedKin: refuted,
    leftHanded: edition?.id ?? null,
  };
}

/** A document with the family that the knot stands in now: the tree may have been arranged since it was saved. */
const inItsFamily = (document: Knot['document'], family: string): Knot['document'] =>
  document.entry && document.entry.family !== family ? { ...document, entry: { ...document.entry, family } } : document;

async function store(
  client: pg.PoolClient,
  id: string,
  revision: number,
  seen: Examined,
  account: Account,
): Promise<void> {
  const { entry } = seen.knot;
  await client.query('delete from knot_alias where knot_id = $1', [id]);
  for (const [position, name] of entry.aliases.entries())
    await insertRow(client, 'knot_alias', { knot_id: id, position, name });
  const document = JSON.stringify(seen.document);
  await insertRow(client, 'revision', { knot_id: id, number: revision, document, saved_by: account.id });
}

/** What the shelf, the map and the searches need of a knot, by column. */
function columnsOf(seen: Examined, account: Account): Columns {
  const { name, entry, method } = seen.knot;
  const claim = claimOf(seen.knot);
  return {
    // A pattern's concept, unless the house has removed it from its glossary.
    concept_id: claim ? new Expression('(select id from concept where id = ?)', conceptOfPattern(claim.id)) : null,
    name,
    class: entry.class,
    family: entry.family,
    use_grade: entry.useGrade,
    wrong_way_of: entry.wrongWayOf ?? null,
    errors: seen.errors,
    warnings: seen.warnings,
    counted_by: seen.countedBy,
    crossings: seen.crossings,
    steps: stepsOf(method).length,
    ...identityColumns(seen.identity),
    updated_by: account.id,
  };
}

/** A new knot from a name, or from the data of a figure file. */
export async function createKnot(
  pool: pg.Pool,
  account: Account,
  source: { name: string } | { document: unknown },
): Promise<KnotCard> {
  const seen = await examine(pool, 'name' in source ? writeKnot(blankKnot(source.name)) : source.document);
  return transaction(pool, async (client) => toCard(await cardRow(client, await insert(client, account, seen))));
}

/** What the tree of families and the map need of a knot. */
const placeOf = (knot: KnotDocument): { readonly family: string; readonly pattern: string | null } => ({
  family: knot.entry.family,
  pattern: claimOf(knot)?.id ?? null,
});

async function insert(client: pg.PoolClient, account: Account, seen: Examined): Promise<string> {
  const made = await insertRow<{ id: string }>(
    client,
    'knot',
    { ...columnsOf(seen, account), revision: 1 },
    'returning id',
  );
  const id = made.rows[0]?.id as string;
  await store(client, id, 1, seen, account);
  await placeKnot(client, id, placeOf(seen.knot));
  return id;
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
    const row = await cardRow(client, id);
    if (row.archived)
      throw new HttpProblem(
        410,
        'archived',
        row.name,
        'This knot was archived elsewhere while it was open here.',
        'Put it back on the shelf, or save your version as a new knot.',
      );
    if (row.revision !== from) {
      const document = await revisionDocument(client, id, row.revision);
      throw new HttpProblem(
        412,
        'conflict',
        row.name,
        `${row.updated_by} saved revision ${row.revision} while you worked on revision ${from}.`,
        'Choose which version goes on; neither is lost.',
        { current: { card: toCard(row), document } },
      );
    }
    await update(client, id, row.revision + 1, seen, account);
    // An edition that is worked on goes its own way from here.
    await updateRows(client, 'knot', { follows: false }, { id, follows: true });
    await keepInStep(client, id, seen.knot, account);
    return toCard(await cardRow(client, id));
  });
}

async function update(
  client: pg.PoolClient,
  id: string,
  revision: number,
  seen: Examined,
  account: Account,
): Promise<void> {
  const before = readSaved(await revisionDocument(client, id, revision - 1));
  await store(client, id, revision, seen, account);
  await updateRows(client, 'knot', { ...columnsOf(seen, account), revision, updated_at: NOW }, { id });
  await placeKnot(client, id, { ...placeOf(seen.knot), was: before.entry.family });
}

interface EditionRow {
  readonly id: string;
  readonly revision: number;
  readonly follows: boolean;
}

/** A knot's left-handed edition that is on the shelf, if there is one. */
async function editionOf(db: Queryable, id: string): Promise<EditionRow | undefined> {
  const found = await db.query<EditionRow>(
    'select id, revision, follows from knot where left_hand_of = $1 and archived_at is null order by created_at limit 1',
    [id],
  );
  return found.rows[0];
}

/** A left-handed edition as it is examined: the mirror image of what the knot claims to be. */
const examineEdition = (db: Queryable, knot: KnotDocument): Promise<Examined> =>
  examine(db, writeKnot(withExhibitsRetold(leftHandedEdition(knot, claimOf(knot)?.id ?? knot.entry.claim))));

/** An edition that nobody has changed gets a revision for each of its knot’s. */
async function keepInStep(client: pg.PoolClient, id: string, knot: KnotDocument, account: Account): Promise<void> {
  const edition = await editionOf(client, id);
  if (!edition?.follows) return;
  await client.query('select 1 from knot where id = $1 for update', [edition.id]);
  await update(client, edition.id, edition.revision + 1, await examineEdition(client, knot), account);
}

/** The left-handed edition of a knot: the one there is, or a new one that is kept in step with it. */
export async function leftHandedKnot(pool: pg.Pool, account: Account, id: string): Promise<KnotCard> {
  const row = await cardRow(pool, id);
  if (row.left_hand_of !== null)
    throw new HttpProblem(
      409,
      'edition',
      row.name,
      `It is the left-handed edition of ${row.left_hand_of_name ?? 'another knot'} itself.`,
      'Open that one.',
    );
  const seen = await examineEdition(pool, readSaved(await revisionDocument(pool, id, row.revision)));
  return transaction(pool, async (client) => {
    await client.query('select 1 from knot where id = $1 for update', [id]);
    const known = await editionOf(client, id);
    if (known) return toCard(await cardRow(client, known.id));
    const made = await insert(client, account, seen);
    await updateRows(client, 'knot', { left_hand_of: id, follows: true }, { id: made });
    return toCard(await cardRow(client, made));
  });
}

export async function duplicateKnot(pool: pg.Pool, account: Account, id: string): Promise<KnotCard> {
  const { document, card } = await getKnot(pool, id);
  const name = `${card.name.slice(0, 70)} (copy)`;
  return createKnot(pool, account, { document: { ...document, name } });
}

export async function setArchived(db: Queryable, id: string, archived: boolean): Promise<KnotCard> {
  await updateRows(db, 'knot', { archived_at: archived ? NOW : null }, { id });
  if (archived) await db.query('delete from publication where knot_id = $1', [id]);
  return toCard(await cardRow(db, id));
}
