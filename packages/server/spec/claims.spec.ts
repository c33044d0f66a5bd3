/**
 * Several servers on one database: background work is shared, and what a killed one had in hand is done by another.
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type { Held } from '@foxtrail/contract';
import { countStale, insertRow, NOW, updateRows } from '../src/index.js';
import { demoDocument, startTestServer, type TestServer } from './server.js';

const MAIN = fileURLToPath(new URL('../src/main.ts', import.meta.url));
let server: TestServer;
/** Each spec of a group has a server of its own. */
const eachOnItsOwn = (): void => {
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());
};

/** Knots that all have to be counted anew. */
async function uncounted(count: number): Promise<void> {
  const author = await server.author();
  for (let i = 0; i < count; i += 1)
    await author
      .post('/api/knots', { document: { ...demoDocument('figure-eight.json'), name: `Eight ${i}` } })
      .expect(201);
  await server.pool.query('update house set practice_revision = practice_revision + 1');
}
const left = async (): Promise<number> => {
  const found = await server.pool.query<{ left: number }>(
    'select count(*)::int as left from knot where counted_by <> (select practice_revision from house)',
  );
  return found.rows[0]!.left;
};
/** The server that works on a piece. */
const claimed = async (subject: string): Promise<string | undefined> => {
  const found = await server.pool.query<{ server: string }>(
    `select server from claim where kind = 'count' and subject = $1`,
    [subject],
  );
  return found.rows[0]?.server;
};
const until = async (what: () => Promise<boolean>): Promise<void> => {
  while (!(await what())) await new Promise((done) => setTimeout(done, 50));
};

/** A whole server process; resolves when it listens. */
const startProcess = (): Promise<ChildProcess> =>
  new Promise((done, fail) => {
    const child = spawn(process.execPath, ['--import', 'tsx', MAIN], {
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      env: {
        ...process.env,
        DATABASE_URL: server.databaseUrl,
        PORT: '0',
        SWEEP_SECONDS: '1',
        STATEMENT_SECONDS: '600',
      },
    });
    child.on('message', (m: { kind: string }) => (m.kind === 'listening' ? done(child) : fail(new Error(m.kind))));
    child.once('exit', (code) => fail(new Error(`it ended with ${code ?? 'a signal'}`)));
  });
const ended = (child: ChildProcess): Promise<void> =>
  new Promise((done) => {
    if (child.exitCode !== null || child.signalCode !== null) done();
    else child.once('exit', () => done());
  });

/** Two servers of their own are started and one is killed: on a slow machine that takes its time, in milliseconds. */
const TWO_SERVERS = 240_000;

describe('Background work', () => {
  eachOnItsOwn();

  it(
    'is shared by two servers, and what one of them had in hand when it was killed is done by the other',
    async () => {
      await uncounted(8);
      // A piece that takes its server long: whoever writes its counts waits for this lock.
      const lock = await server.pool.connect();
      await lock.query('begin');
      const newest = 'select id from knot order by updated_at desc limit 1';
      const slow = (
        await lock.query<{ id: string }>(`update knot set class = class where id = (${newest}) returning id`)
      ).rows[0]!.id;
      const first = await startProcess();
      await until(async () => (await claimed(slow)) !== undefined);
      const holder = await claimed(slow);
      const second = await startProcess();
      // The second does all the rest meanwhile, and leaves that one alone.
      await until(async () => (await left()) === 1);
      expect(await claimed(slow)).toBe(holder);
      first.kill('SIGKILL');
      await ended(first);
      // What the killed one had asked of the database goes with it.
      await server.pool.query(`select pg_terminate_backend(pid) from pg_stat_activity
      where datname = current_database() and wait_event_type = 'Lock' and query like 'update knot%'`);
      await lock.query('commit');
      lock.release();
      expect(await left()).toBe(1);
      // Its claim runs out.
      await updateRows(server.pool, 'claim', { until: NOW }, { subject: slow });
      await until(async () => (await left()) === 0);
      await until(async () => (await claimed(slow)) === undefined);
      second.kill('SIGTERM');
      await ended(second);
    },
    TWO_SERVERS,
  );

  it(
    'does not keep its server from ending, whatever it waits for',
    async () => {
      await uncounted(1);
      const lock = await server.pool.connect();
      await lock.query('begin');
      const { rows } = await lock.query<{ id: string }>('update knot set class = class returning id');
      const waiting = await startProcess();
      await until(async () => (await claimed(rows[0]!.id)) !== undefined);
      waiting.kill('SIGTERM');
      // The lock is held until it has ended.
      await ended(waiting);
      expect(waiting.signalCode).toBeNull();
      await lock.query('rollback');
      lock.release();
    },
    TWO_SERVERS,
  );

  it('leaves a piece to the server that claimed it, until the claim has run out', async () => {
    await uncounted(2);
    const ids = await server.pool.query<{ id: string }>('select id from knot order by name');
    const [one, other] = ids.rows.map((r) => r.id);
    const claim = { kind: 'count', subject: one, server: '00000000-0000-4000-8000-000000000001' };
    await insertRow(server.pool, 'claim', { ...claim, until: '2999-01-01' });
    // Its owner is told of it.
    const counting = async (): Promise<object | undefined> => {
      const { jobs } = (await (await server.owner()).get('/api/house/held').expect(200)).body as Held;
      return jobs.find((j) => j.kind === 'count');
    };
    expect(await counting()).toEqual({ kind: 'count', left: 2, inHand: 1, servers: 1 });
    expect(await countStale(server.pool)).toBe(1);
    const counted = await server.pool.query<{ id: string }>(
      'select id from knot where counted_by = (select practice_revision from house)',
    );
    expect(counted.rows.map((r) => r.id)).toEqual([other!]);
    await updateRows(server.pool, 'claim', { until: '2020-01-01' }, { subject: one });
    expect(await countStale(server.pool)).toBe(1);
    expect(await left()).toBe(0);
    expect(await counting()).toEqual({ kind: 'count', left: 0, inHand: 0, servers: 0 });
    expect((await server.pool.query('select 1 from claim')).rowCount).toBe(0);
  });

  it('tells what failed, goes on with the rest, and tries that again the next time', async () => {
    await uncounted(3);
    await server.pool.query(
      `update revision set document = '{"format": "none"}' where knot_id = (select min(id::text)::uuid from knot)`,
    );
    const failed: (string | undefined)[] = [];
    expect(await countStale(server.pool, (_, id) => failed.push(id))).toBe(2);
    expect(failed.length).toBe(1);
    expect(await countStale(server.pool, (_, id) => failed.push(id))).toBe(0);
    expect(failed[1]).toBe(failed[0]);
  });
});
