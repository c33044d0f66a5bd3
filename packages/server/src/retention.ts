/**
 * Retention: after so many days, which the house chooses, of the saves of a day only the last is kept. What somebody named, reviewed,
 * published or filmed stays, and so do the first and the present revision of every knot.
 */
import type pg from 'pg';
import { updateRows } from './columns.js';
import type { Queryable } from './database.js';

/** Revisions that would go by a rule of `$1` days. */
const OLD = `
  select r.knot_id, r.number
    from (select r.*, lead(r.saved_at) over (partition by r.knot_id order by r.number) as next_at from revision r) as r
    join knot k on k.id = r.knot_id
   where r.saved_at < now() - make_interval(days => $1)
     and r.next_at::date = r.saved_at::date
     and r.number > 1 and r.number < k.revision and r.name is null
     and not exists (select 1 from publication p where p.knot_id = r.knot_id and p.revision = r.number)
     and not exists (select 1 from clip c where c.knot_id = r.knot_id and c.revision = r.number)
     and not exists (select 1 from review v where v.knot_id = r.knot_id and v.revision = r.number)`;

/** How many revisions go by a rule of so many days. */
export async function wouldGo(db: Queryable, days: number): Promise<number> {
  const found = await db.query<{ count: number }>(`select count(*)::int as count from (${OLD}) as old`, [days]);
  return found.rows[0]?.count ?? 0;
}

/** Chooses the rule; null: every save is kept. */
export const keepFor = (db: Queryable, days: number | null): Promise<unknown> =>
  updateRows(db, 'house', { keep_days: days });

/** Lets go what the house's rule does not keep; tells how many revisions that were. */
export async function letGo(pool: pg.Pool): Promise<number> {
  const rule = await pool.query<{ keep_days: number | null }>('select keep_days from house');
  const days = rule.rows[0]?.keep_days ?? null;
  if (days === null) return 0;
  const gone = await pool.query(
    `delete from revision r using (${OLD}) as old where r.knot_id = old.knot_id and r.number = old.number`,
    [days],
  );
  return gone.rowCount ?? 0;
}
