/**
 * Work over the whole library in the background, shared by any number of servers on one database.
 *
 * What is left to do stands in the data itself (a knot counted by rules that have changed, a relation not tried on its knots' present
 * figures), so no list of jobs can be lost or differ from it. A server claims a piece before it works on it, for a while; a claim
 * that has run out, because its server was killed, is anybody's again.
 */
import { randomUUID } from 'node:crypto';
import type pg from 'pg';
import type { Logger } from 'pino';
import { Expression, insertRow, updateRows } from './columns.js';
import type { Queryable } from './database.js';

/** Told of what failed, and of which piece where it was one. */
export type Failed = (error: unknown, id?: string) => void;

/** Tells the log: `what` was not done. */
export const logged =
  (log: Logger, what: string): Failed =>
  (error, id) =>
    log.error({ error: String(error), id }, what);

export interface Task {
  /** What its claims are called. */
  readonly kind: string;
  /** A query for the ids of what is left to do, in the order in which it is wanted; its column is `id`. */
  readonly stale: string;
  readonly work: (db: pg.Pool, id: string) => Promise<void>;
}

/** Seconds for which a piece is claimed; while its server works on it, it is claimed anew well before they are over. */
const CLAIM_SECONDS = 90;
const RENEWED_EVERY = (1000 * CLAIM_SECONDS) / 3;

const SOON = new Expression('now() + make_interval(secs => ?)', CLAIM_SECONDS);

const server = randomUUID();

/**
 * Claims the next piece that nobody works on; nothing when there is none. Of two servers that reach for the same piece one is refused
 * by the claim's key and looks again.
 */
async function claimNext(db: Queryable, { kind, stale }: Task, failed: readonly string[]): Promise<string | undefined> {
  for (;;) {
    const open = await db.query<{ id: string }>(
      `select s.id from (${stale}) as s
        where not s.id = any($2::uuid[])
          and not exists (select 1 from claim c where c.kind = $1 and c.subject = s.id and c.until >= now())
        limit 1`,
      [kind, failed],
    );
    const id = open.rows[0]?.id;
    if (id === undefined) return undefined;
    const taken = await insertRow(
      db,
      'claim',
      { kind, subject: id, server, until: SOON },
      `on conflict (kind, subject) do update set server = excluded.server, until = excluded.until
         where claim.until < now()`,
    );
    if (taken.rowCount === 1) return id;
  }
}

/** A task as it is begun, and what it is. */
export type Background = ((pool: pg.Pool, failed?: Failed) => Promise<number>) & { readonly task: Task };

/** How much of a task is left, how much of that is worked on at present, and by how many servers. */
export async function leftOf(
  db: Queryable,
  { kind, stale }: Task,
): Promise<{ left: number; inHand: number; servers: number }> {
  const found = await db.query<{ left: number; inHand: number; servers: number }>(
    `select (select count(*)::int from (${stale}) as s) as left, count(*)::int as "inHand", count(distinct server)::int as servers
       from claim where kind = $1 and until >= now()`,
    [kind],
  );
  return found.rows[0]!;
}

/**
 * A task as it is begun from anywhere: works on what is left until nothing is, and once more when it was asked for meanwhile. Tells how
 * much was done. Never throws: what fails is told, and left until the next time.
 */
export function inBackground(task: Task): Background {
  const running = new WeakMap<pg.Pool, { again: boolean }>();
  const begin = async (pool: pg.Pool, failed: Failed = () => undefined): Promise<number> => {
    const under = running.get(pool);
    if (under) {
      under.again = true;
      return 0;
    }
    const own = { again: true };
    running.set(pool, own);
    let done = 0;
    try {
      while (own.again) {
        own.again = false;
        const lost: string[] = [];
        for (let id = await claimNext(pool, task, lost); id !== undefined; id = await claimNext(pool, task, lost)) {
          const held = { kind: task.kind, subject: id, server };
          const renewal = setInterval(() => {
            updateRows(pool, 'claim', { until: SOON }, held).catch((error: unknown) => failed(error, id));
          }, RENEWED_EVERY);
          try {
            await task.work(pool, id);
            done += 1;
          } catch (error) {
            lost.push(id);
            failed(error, id);
          } finally {
            clearInterval(renewal);
          }
          await pool.query('delete from claim where kind = $1 and subject = $2 and server = $3', [
            task.kind,
            id,
            server,
          ]);
          // Requests that came in meanwhile go first.
          await new Promise(setImmediate);
        }
      }
    } catch (error) {
      failed(error);
    } finally {
      running.delete(pool);
    }
    return done;
  };
  return Object.assign(begin, { task });
}
