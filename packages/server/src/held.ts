/**
 * What a house holds: for its owner, who keeps room for it and backs it up.
 */
import type { Held } from '@foxtrail/contract';
import { leftOf } from './claims.js';
import type { Queryable } from './database.js';
import { formStale } from './formed.js';
import { slipsStale } from './slips.js';
import { tryStale } from './prover.js';
import { countStale } from './recount.js';

type Row = Omit<Held, 'jobs' | 'backup' | 'mediaBytes' | 'databaseBytes'> & {
  readonly media: string;
  readonly database: string;
  readonly backed_up_at: Date | null;
  readonly backup_bytes: string | null;
};

/** What servers do by themselves. */
const JOBS = [
  ['count', countStale.task],
  ['kin', tryStale.task],
  ['form', formStale.task],
  ['slips', slipsStale.task],
] as const;

/** What the house holds by now. */
export async function heldIn(db: Queryable): Promise<Held> {
  const found = await db.query<Row>(
    `select (select count(*)::int from knot where archived_at is null) as knots,
            (select count(*)::int from knot where archived_at is not null) as archived,
            (select count(*)::int from revision) as revisions,
            (select count(*)::int from film where type is not null) as films,
            (select coalesce(sum(size), 0) from film) + (select coalesce(sum(size), 0) from clip) as media,
            pg_database_size(current_database()) as database,
            (select rolsuper from pg_roles where rolname = current_user) as superuser,
            keep_days as "keepDays", backed_up_at, backup_bytes
       from house`,
  );
  const { media, database, backed_up_at, backup_bytes, ...counts } = found.rows[0] as Row;
  return {
    ...counts,
    mediaBytes: Number(media),
    databaseBytes: Number(database),
    jobs: await Promise.all(JOBS.map(async ([kind, task]) => ({ kind, ...(await leftOf(db, task)) }))),
    backup: backed_up_at && { at: backed_up_at.toISOString(), bytes: Number(backup_bytes) },
  };
}
