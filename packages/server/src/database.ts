/**
 * The database: one pool, transactions, and forward-only migrations in plain SQL.
 */
import { readdir, readFile } from 'node:fs/promises';
import pg from 'pg';
import type { Logger } from 'pino';
import { insertRow } from './columns.js';

export type Queryable = Pick<pg.Pool, 'query'>;

/** Share of common trigrams from which on two names are alike. */
const ALIKE = 0.4;

/** Most milliseconds in which a connection is made, or comes free. */
const CONNECT_WITHIN = 5000;

/** A pool that outlives a database that goes away: its idle errors are logged, the next query tries again. */
export function openPool(url: string, log: Logger, { within = CONNECT_WITHIN } = {}): pg.Pool {
  const pool = new pg.Pool({
    connectionString: url,
    max: 10,
    connectionTimeoutMillis: within,
    // Names less alike than this are not taken for misspellings of each other; comparing all of them costs more than any index that lies in
    // memory, which the planner does not expect of itself.
    options: `-c pg_trgm.similarity_threshold=${ALIKE} -c random_page_cost=1.1`,
  });
  pool.on('error', (error) => log.warn({ error: error.message }, 'database connection lost'));
  return pool;
}

/** Runs work in one transaction. */
export async function transaction<T>(pool: pg.Pool, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  try {
    await client.query('begin');
    const value = await work(client);
    await client.query('commit');
    return value;
  } catch (error) {
    await client.query('rollback').catch(() => undefined);
    throw error;
  } finally {
    client.release();
  }
}

/** Any number: it only has to be the same for all servers that might migrate at once. */
const MIGRATION_LOCK = 7_061_994;

/** Applies the migrations that have not run yet, each in a transaction, and returns their names. */
export async function migrate(pool: pg.Pool): Promise<string[]> {
  const folder = new URL('../migrations/', import.meta.url);
  const files = (await readdir(folder)).filter((f) => f.endsWith('.sql')).sort();
  const applied: string[] = [];
  await transaction(pool, async (client) => {
    await client.query('select pg_advisory_xact_lock($1)', [MIGRATION_LOCK]);
    await client.query(
      'create table if not exists migration (name text primary key, at timestamptz not null default now())',
    );
  });
  for (const file of files) {
    await transaction(pool, async (client) => {
      await client.query('select pg_advisory_xact_lock($1)', [MIGRATION_LOCK]);
      const known = await client.query('select 1 from migration where name = $1', [file]);
      if (known.rowCount !== 0) return;
      await client.query(await readFile(new URL(file, folder), 'utf8'));
      await insertRow(client, 'migration', { name: file });
      applied.push(file);
    });
  }
  return applied;
}
