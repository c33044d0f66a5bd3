/**
 * Knots: their documents and the append-only list of their revisions.
 */
import type { Account, Knot, KnotCard } from '@foxtrail/contract';
import { blankKnot, cutTo, writeKnot, type FigureFile } from '@foxtrail/core';
import { conceptOfPattern } from '@foxtrail/pattern-book';
import type pg from 'pg';
import { aside, loadOf, TooLong } from './aside.js';
import type { ReadDocument } from './aside-jobs.js';
import { Expression, insertRow, insertRows, NOW, updateRows, type Columns } from './columns.js';
import { cardRow, toCard } from './cards.js';
import { clipsOf } from './clips.js';
import { transaction, type Queryable } from './database.js';
import { copyFormed } from './formed.js';
import { placeKnot, refutedKin } from './kin.js';
import { HttpProblem, notFound, refused } from './problem.js';
import { publicationOf } from './publications.js';
import { examineNow, NOT_EXAMINED } from './recount.js';
import { revisionDocument } from './revisions.js';

export async function getKnot(db: Queryable, id: string): Promise<Knot> {
  const row = await cardRow(db, id);
  const [document, publication, clips, edition, refuted] = await Promise.all([
    revisionDocument(db, id, row.revision),
    publicationOf(db, id),
    clipsOf(db, id),
    editionOf(db, id),
    refutedKin(db, id),
  ]);
  return {
    card: toCard(row),
    document: inItsFamily(document as Knot['document'], row.family),
    publication,
    clips: clips.map(({ id: _id, cautions: _cautions, ...info }) => info),
    refutedKin: refuted,
    leftHanded: edition?.id ?? null,
  };
}

/** A document with the family that the knot stands in now: the tree may have been arranged since it was saved. */
const inItsFamily = (document: Knot['document'], family: string): Knot['document'] =>
  document.entry && document.entry.family !== family ? { ...document, entry: { ...document.entry, family } } : document;

/** Most milliseconds that a save takes for what is found of it to be there; what takes longer follows. */
export const PATIENCE = 60;
/** Milliseconds that an examination usually takes. */
const USUAL = 100;

/** When a save began, and how long it takes at most while it waits for what is found. */
interface Patience {
  readonly began: number;
  readonly patience: number;
}

/** Reads a document aside. What is no knot is refused with its place. */
async function read(job: 'read' | 'edition', document: unknown): Promise<ReadDocument> {
  const found = await aside(job, { document }, { ahead: true }).catch((error: unknown) => {
    if (!(error instanceof TooLong)) throw error;
    throw new HttpProblem(
      400,
      'refused',
      'figure',
      `${error.message} It is not saved.`,
      'Draw the knot with fewer points and crossings, or split it into two figures.',
    );
  });
  if (!found.ok) throw refused(found);
  return found.value;
}

/**
 * The card of a knot that was just saved, with what is found of it where that does not take long; else that follows. With it its edition
 * is examined, where that was saved too.
 */
async function examined(pool: pg.Pool, id: string, { began, patience }: Patience, edition?: string): Promise<KnotCard> {
  // Behind others it would not be there in time: nobody waits for that.
  const left = loadOf('examine') * USUAL > patience ? 0 : began + patience - performance.now();
  // What fails here is left to the background, which tries it again and says so.
  const examine = (knot: string): Promise<void> => examineNow(pool, knot).catch(() => undefined);
  const examineAll = (): Promise<void> =>
    examine(id).then(() => (edition === undefined ? undefined : examine(edition)));
  if (left <= 0) {
    const card = toCard(await cardRow(pool, id));
    void examineAll();
    return card;
  }
  let late: NodeJS.Timeout | undefined;
  await Promise.race([examineAll(), new Promise((done) => (late = setTimeout(done, left)))]);
  clearTimeout(late);
  return toCard(await cardRow(pool, id));
}

interface Saved {
  readonly account: Account;
  readonly save?: string | undefined;
}

const storeAliases = (client: pg.PoolClient, id: string, { entry }: ReadDocument): Promise<unknown> =>
  insertRows(
    client,
    'knot_alias',
    { knot_id: 'uuid', position: 'integer', name: 'text' },
    entry.aliases.map((name, position) => ({ knot_id: id, position, name })),
  );

async function storeRevision(
  client: pg.PoolClient,
  id: string,
  revision: number,
  { document }: ReadDocument,
  { account, save }: Saved,
): Promise<void> {
  await insertRow(client, 'revision', {
    knot_id: id,
    number: revision,
    document: JSON.stringify(document),
    saved_by: account.id,
    save_id: save ?? null,
  });
}

/** What the shelf, the map and the searches need of a knot, by column. */
function columnsOf({ name, entry, claim, crossings, steps }: ReadDocument, account: Account): Columns {
  return {
    // A pattern's concept, unless the house has removed it from its glossary.
    concept_id:
      claim === null ? null : new Expression('(select id from concept where id = ?)', conceptOfPattern(claim)),
    name,
    class: entry.class,
    family: entry.family,
    use_grade: entry.useGrade,
    wrong_way_of: entry.wrongWayOf ?? null,
    crossings,
    steps,
    updated_by: account.id,
    ...UNKNOWN,
  };
}

/** What is not known of a knot until it is examined. */
const UNKNOWN: Columns = {
  errors: 0,
  warnings: 0,
  counted_by: NOT_EXAMINED,
  signature_key: null,
  mirror_key: null,
  body_key: null,
  mirror_body_key: null,
  lay_keys: [],
  verdict_state: null,
  verdict: null,
  pattern_id: null,
};

/** A new knot from a name, or from the data of a figure file. */
export async function createKnot(
  pool: pg.Pool,
  account: Account,
  source: { name: string } | { document: unknown },
  patience = PATIENCE,
): Promise<KnotCard> {
  const began = performance.now();
  const seen = await read('read', 'name' in source ? writeKnot(blankKnot(source.name)) : source.document);
  const id = await transaction(pool, (client) => insert(client, { account }, seen));
  return examined(pool, id, { began, patience });
}

async function insert(client: pg.PoolClient, by: Saved, seen: ReadDocument): Promise<string> {
  const made = await insertRow<{ id: string }>(
    client,
    'knot',
    { ...columnsOf(seen, by.account), revision: 1 },
    'returning id',
  );
  const id = made.rows[0]?.id as string;
  await storeAliases(client, id, seen);
  await storeRevision(client, id, 1, seen, by);
  await placeKnot(client, id, { family: seen.entry.family });
  return id;
}

/** What a save has to know of the knot that it changes; nobody else changes it until the transaction ends. */
async function lockedKnot(
  client: pg.PoolClient,
  id: string,
): Promise<{ revision: number; name: string; archived: boolean; follows: boolean }> {
  const found = await client.query<{ revision: number; name: string; archived: boolean; follows: boolean }>(
    'select revision, name, archived_at is not null as archived, follows from knot where id = $1 for update',
    [id],
  );
  const row = found.rows[0];
  if (!row) throw notFound('knot');
  return row;
}

/** The revision that a save made when it was sent before. */
async function madeBy(db: Queryable, id: string, save: string | undefined): Promise<number | undefined> {
  if (save === undefined) return undefined;
  const found = await db.query<{ number: number }>('select number from revision where knot_id = $1 and save_id = $2', [
    id,
    save,
  ]);
  return found.rows[0]?.number;
}

/**
 * Saves a new revision made from revision `from`. A knot that has moved on is answered with both versions' places. A save that was made
 * before, when its answer was lost, is answered as it was then.
 */
export async function saveKnot(
  pool: pg.Pool,
  by: Saved,
  id: string,
  { from, document }: { readonly from: number; readonly document: unknown },
  patience = PATIENCE,
): Promise<KnotCard> {
  const began = performance.now();
  const again = async (number: number): Promise<KnotCard> => ({ ...toCard(await cardRow(pool, id)), revision: number });
  const before = await madeBy(pool, id, by.save);
  if (before !== undefined) return again(before);
  const seen = await read('read', document);
  let edition: string | undefined;
  const meanwhile = await transaction(pool, async (client) => {
    const row = await lockedKnot(client, id);
    const made = await madeBy(client, id, by.save);
    if (made !== undefined) return made;
    if (row.archived)
      throw new HttpProblem(
        410,
        'archived',
        row.name,
        'This knot was archived elsewhere while it was open here.',
        'Put it back on the shelf, or save your version as a new knot.',
      );
    if (row.revision !== from) {
      const [current, card] = [await revisionDocument(client, id, row.revision), await cardRow(client, id)];
      throw new HttpProblem(
        412,
        'conflict',
        row.name,
        `${card.updated_by} saved revision ${row.revision} while you worked on revision ${from}.`,
        'Choose which version goes on; neither is lost.',
        { current: { card: toCard(card), document: current } },
      );
    }
    await update(client, id, row.revision + 1, seen, by);
    // An edition that is worked on goes its own way from here.
    if (row.follows) await updateRows(client, 'knot', { follows: false }, { id });
    edition = await keepInStep(client, id, seen.document, by.account);
    return undefined;
  });
  return meanwhile === undefined ? examined(pool, id, { began, patience }, edition) : again(meanwhile);
}

async function update(
  client: pg.PoolClient,
  id: string,
  revision: number,
  seen: ReadDocument,
  by: Saved,
): Promise<void> {
  const before = await client.query<{ family: string | null; aliases: string[] | null }>(
    "select document->'entry'->>'family' as family, document->'entry'->'aliases' as aliases from revision where knot_id = $1 and number = $2",
    [id, revision - 1],
  );
  const was = before.rows[0]?.family ?? '';
  if (JSON.stringify(before.rows[0]?.aliases ?? []) !== JSON.stringify(seen.entry.aliases)) {
    await client.query('delete from knot_alias where knot_id = $1', [id]);
    await storeAliases(client, id, seen);
  }
  await storeRevision(client, id, revision, seen, by);
  await updateRows(client, 'knot', { ...columnsOf(seen, by.account), revision, updated_at: NOW }, { id });
  await placeKnot(client, id, { family: seen.entry.family, was });
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

/** An edition that nobody has changed gets a revision for each of its knot’s; tells which one did. */
async function keepInStep(
  client: pg.PoolClient,
  id: string,
  document: FigureFile,
  account: Account,
): Promise<string | undefined> {
  const edition = await editionOf(client, id);
  if (!edition?.follows) return undefined;
  await client.query('select 1 from knot where id = $1 for update', [edition.id]);
  await update(client, edition.id, edition.revision + 1, await read('edition', document), { account });
  return edition.id;
}

/** The left-handed edition of a knot: the one there is, or a new one that is kept in step with it. */
export async function leftHandedKnot(
  pool: pg.Pool,
  account: Account,
  id: string,
  patience = PATIENCE,
): Promise<KnotCard> {
  const began = performance.now();
  const row = await cardRow(pool, id);
  if (row.left_hand_of !== null)
    throw new HttpProblem(
      409,
      'edition',
      row.name,
      `It is the left-handed edition of ${row.left_hand_of_name ?? 'another knot'} itself.`,
      'Open that one.',
    );
  const seen = await read('edition', await revisionDocument(pool, id, row.revision));
  const edition = await transaction(pool, async (client) => {
    await client.query('select 1 from knot where id = $1 for update', [id]);
    const known = await editionOf(client, id);
    if (known) return known.id;
    const made = await insert(client, { account }, seen);
    await updateRows(client, 'knot', { left_hand_of: id, follows: true }, { id: made });
    return made;
  });
  return examined(pool, edition, { began, patience });
}

export async function duplicateKnot(
  pool: pg.Pool,
  account: Account,
  id: string,
  patience = PATIENCE,
): Promise<KnotCard> {
  const { document, card } = await getKnot(pool, id);
  const name = `${cutTo(card.name, 70)} (copy)`;
  const copy = await createKnot(pool, account, { document: { ...document, name } }, patience);
  await copyFormed(pool, id, copy.id);
  return copy;
}

export async function setArchived(db: Queryable, id: string, archived: boolean): Promise<KnotCard> {
  await updateRows(db, 'knot', { archived_at: archived ? NOW : null }, { id });
  if (archived) await db.query('delete from publication where knot_id = $1', [id]);
  return toCard(await cardRow(db, id));
}
