/**
 * Counts the findings of knots anew when the house's rules have changed: all of them after a change, one by one while the server goes on
 * answering; a knot that is about to be published at once.
 */
import { inBackground } from './claims.js';
import { updateRows } from './columns.js';
import type { Queryable } from './database.js';
import { examine } from './examine.js';

interface StaleRow {
  readonly id: string;
  readonly revision: number;
  readonly document: unknown;
}

const STALE = `
  from knot k join revision r on r.knot_id = k.id and r.number = k.revision
 where k.counted_by <> (select practice_revision from house)`;

async function countRow(db: Queryable, { id, revision, document }: StaleRow): Promise<void> {
  const { errors, warnings, countedBy } = await examine(db, document);
  // A knot saved meanwhile was counted then.
  await updateRows(db, 'knot', { errors, warnings, counted_by: countedBy }, { id, revision });
}

/** Counts one knot by the present rules, unless it is counted so. */
export async function countAnew(db: Queryable, id: string): Promise<void> {
  const found = await db.query<StaleRow>(`select k.id, k.revision, r.document ${STALE} and k.id = $1`, [id]);
  if (found.rows[0]) await countRow(db, found.rows[0]);
}

/** How many knots are still to be counted by the present rules. */
export async function leftToCount(db: Queryable): Promise<number> {
  const found = await db.query<{ left: number }>(`select count(*)::int as left ${STALE}`);
  return found.rows[0]?.left ?? 0;
}

/** Counts every knot that was counted by other rules; tells how many. */
export const countStale = inBackground({
  kind: 'count',
  stale: `select k.id ${STALE} order by k.updated_at desc`,
  work: countAnew,
});
