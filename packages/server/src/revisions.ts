/**
 * Revisions: what was saved of a knot, by whom and when; each can be looked at again and given a name.
 */
import type { RevisionInfo } from '@foxtrail/contract';
import { readKnot, type FigureFile, type KnotDocument } from '@foxtrail/core';
import type pg from 'pg';
import { updateRows } from './columns.js';
import type { Queryable } from './database.js';
import { notFound, refused } from './problem.js';

/** Revisions listed at once, the latest first; named ones are always among them. */
const LISTED = 200;

export async function revisionsOf(db: Queryable, id: string): Promise<{ revisions: RevisionInfo[]; total: number }> {
  const found = await db.query<{ number: number; name: string | null; by: string; at: Date; total: string }>(
    `select * from (
       select r.number, r.name, a.name as by, r.saved_at as at, count(*) over () as total,
              row_number() over (order by r.number desc) as place
         from revision r join account a on a.id = r.saved_by
        where r.knot_id = $1) listed
      where place <= $2 or name is not null
      order by number desc`,
    [id, LISTED],
  );
  if (found.rows.length === 0) throw notFound('knot');
  return {
    revisions: found.rows.map((r) => ({ number: r.number, name: r.name, savedBy: r.by, savedAt: r.at.toISOString() })),
    total: Number(found.rows[0]?.total ?? 0),
  };
}

export async function revisionDocument(db: Queryable, id: string, number: number): Promise<FigureFile> {
  const found = await db.query<{ document: FigureFile }>(
    'select document from revision where knot_id = $1 and number = $2',
    [id, number],
  );
  const row = found.rows[0];
  if (!row) throw notFound('revision');
  return row.document;
}

export async function nameRevision(pool: pg.Pool, id: string, number: number, name: string | null): Promise<void> {
  const done = await updateRows(pool, 'revision', { name }, { knot_id: id, number });
  if (done.rowCount === 0) throw notFound('revision');
}

/** Reads a document that was checked when it was saved. */
export function readSaved(document: FigureFile): KnotDocument {
  const read = readKnot(document);
  if (!read.ok) throw refused(read);
  return read.value;
}
