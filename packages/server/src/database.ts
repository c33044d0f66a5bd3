/**
 * The database: one pool, transactions, and forward-only migrations in plain SQL.
 */
import { readdir, readFile } from 'node:fs/promises';
import { setTimeout } from 'node:timers/promises';
import pg from 'pg';
import type { Logger } from 'pino';
import { insertRow } from './columns.js';

export type Queryable = Pick<pg.Pool, 'query'>;

/** Share of common trigrams from which on two names are alike. */
const ALIKE = 0.4;

/** Most milliseconds in which a connection is made, or comes free. */
const CONNECT_WITHIN = 5000;
/** Most milliseconds for which a start waits for the database. */
const UP_WITHIN = 60_000;
/** Most milliseconds of a statement, and of a transaction in which nothing is asked: what takes longer hangs. */
const STATEMENT_WITHIN = 60_000;
const IDLE_WITHIN = 30_000;

/** A pool that outlives a database that goes away: its idle errors are logged, the next query tries again. */
export function openPool(
  url: string,
  log: Logger,
  { within = CONNECT_WITHIN, statement = STATEMENT_WITHIN, idle = IDLE_WITHIN } = {},
): pg.Pool {
  const pool = new pg.Pool({
    connectionString: url,
    max: 10,
    // A connection costs more to make, with its password, than to keep.
    idleTimeoutMillis: 300_000,
    connectionTimeoutMillis: within,
    // Names less alike than this are not taken for misspellings of each other; comparing all of them costs more than any index that lies in
    // memory, which the planner does not expect of itself.
    options: [
      `pg_trgm.similarity_threshold=${ALIKE}`,
      'random_page_cost=1.1',
      `statement_timeout=${statement}`,
      `idle_in_transaction_session_timeout=${idle}`,
    ]
      .map((setting) => `-c ${setting}`)
      .join(' '),
  });
  pool.on('error', (error) => log.warn({ error: error.message }, 'database connection lost'));
  return pool;
}

/** The database may only be read: what was the primary has become a replica, and another has taken its place. */
const READ_ONLY = '25006';
const isOnlyRead = (error: unknown): boolean => (error as { code?: string }).code === READ_ONLY;

/** Whether a database may only be read, as a replica. */
export async function mayOnlyBeRead(db: Queryable): Promise<boolean> {
  const { rows } = await db.query<{ read: boolean }>("select current_setting('transaction_read_only') = 'on' as read");
  return rows[0]?.read === true;
}

/** Whether an error says that the database is not there, or not yet. */
export function isAway(error: unknown): boolean {
  const { code, message } = error as { code?: string; message?: string };
  return (
    isOnlyRead(error) ||
    (code !== undefined && (/^(ECONN|57P|08|53)/.test(code) || code === 'ETIMEDOUT')) ||
    // What a pool says when no connection came free, or none was made, in time; neither has a code.
    /^(?:timeout exceeded when trying to connect|Connection terminated)/.test(message ?? '')
  );
}

/** Waits until the database answers, at most so many milliseconds; a machine that has just been started may take a while. */
export async function whenUp(pool: pg.Pool, log: Logger, within = UP_WITHIN): Promise<void> {
  const began = Date.now();
  for (let pause = 250; ; pause = Math.min(2 * pause, 4000)) {
    try {
      await pool.query('select 1');
      return;
    } catch (error) {
      if (!isAway(error) || Date.now() - began > within) throw error;
      log.warn({ error: (error as Error).message }, 'the database does not answer yet');
      await setTimeout(pause);
    }
  }
}

/** Runs work in one transaction. */
export async function transaction<T>(pool: pg.Pool, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  // A connection that is lost meanwhile fails the query that is under way; it is not used again.
  let lost: Error | undefined;
  const losing = (error: Error): void => {
    lost = error;
  };
  client.on('error', losing);
  try {
    await client.query('begin');
    const value = await work(client);
    await client.query('commit');
    return value;
  } catch (error) {
    await client.query('rollback').catch(losing);
    // Made anew, a connection leads to the one that may be written.
    if (isOnlyRead(error)) losing(error as Error);
    throw error;
  } finally {
    client.off('error', losing);
    client.release(lost);
  }
}

/** Any number: it only has to be the same for all servers that might migrate at once. */
const MIGRATION_LOCK = 7_061_994;

/** Applies the migrations that have not run yet, each in a transaction, and returns their names. */
export async function migrate(pool: pg.Pool): Promise<string[]> {
  const folder = new URL('../migrations/', import.meta.url);
  const files = (await readdir(folder)).filter((f) => f.endsWith('.sql')).sort();
  const applied: string[] = [];
  if (await mayOnlyBeRead(pool))
    throw new Error(
      'The database may only be read: DATABASE_URL leads to a replica. Give the address of the one that is written; where that has failed, make the replica the primary first.',
    );
  await transaction(pool, async (client) => {
    await client.query('select pg_advisory_xact_lock($1)', [MIGRATION_LOCK]);
    await client.query(
      'create table if not exists migration (name text primary key, at timestamptz not null default now())',
    );
  });
  const newer = await pool.query<{ name: string }>('select name from migration where name <> all($1) order by name', [
    files,
  ]);
  if (newer.rows[0])
    throw new Error(
      `The database was used by a newer Fox Trail: it has the migration ${newer.rows[0].name}, which this one does not know. Start the newer one, or give another database.`,
    );
  for (const file of files) {
    await transaction(pool, async (client) => {
      await client.query('set local statement_timeout = 0');
      await client.query('select pg_advisory_xact_lock($1)', [MIGRATION_LOCK]);
      const known = await client.query('select 1 from migration where name = $1', [file]);
      if (known.rowCount !== 0) return;
      await client.query(await readFile(new URL(file, folder), 'utf8'));
      await insertRow(client, 'migration', { name: file });
      applied.push(file);
    }).catch((error: unknown) => {
      throw isAway(error)
        ? error
        : new Error(`The migration ${file} failed, and nothing of it was kept: ${(error as Error).message}`, {
            cause: error,
          });
    });
  }
  return applied;
}
