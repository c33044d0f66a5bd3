/**
 * Counts the findings of knots anew when the house's rules have changed: all of them after a change, one by one while the server goes on
 * answering; a knot that is about to be published at once.
 */
import type { Queryable } from './database.js';
import { examine } from './examine.js';
import { inRounds } from './rounds.js';

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
  await db.query('update knot set errors = $3, warnings = $4, counted_by = $5 where id = $1 and revision = $2', [
    id,
    revision,
    errors,
    warnings,
    countedBy,
  ]);
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
export const countStale = inRounds(async (pool, failed) => {
  const found = await pool.query<{ id: string }>(`select k.id ${STALE} order by k.updated_at desc`);
  let done = 0;
  for (const { id } of found.rows) {
    try {
      await countAnew(pool, id);
      done += 1;
    } catch (error) {
      failed(error, id);
    }
    // Requests that came in meanwhile go first.
    await new Promise(setImmediate);
  }
  return { done, more: false };
});
