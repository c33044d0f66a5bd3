import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { pino } from 'pino';
import { isAway, openPool, transaction } from '../src/database.js';
import { DEMO_FILES, DEMO_SIGN_INS, loadDemo, migrate } from '../src/index.js';
import { startTestServer } from './server.js';

describe('the demo data', () => {
  it('is loaded once, by the import, into an empty library', async () => {
    const server = await startTestServer();
    try {
      expect(await loadDemo(server.pool)).toBeTrue();
      expect(await loadDemo(server.pool)).toBeFalse();
      const client = await server.visitor().signIn(DEMO_SIGN_INS[0].name, DEMO_SIGN_INS[0].password);
      const answer = await client.get('/api/knots').expect(200);
      const { knots } = answer.body as { knots: { name: string; errors: number; warnings: number }[] };
      expect(knots.length).toBe(DEMO_FILES.length);
      // One kinship is stated that is not so, to look at: the granny is no reef in a mirror.
      expect(knots.filter((k) => k.errors + k.warnings > 0)).toEqual([
        jasmine.objectContaining({ name: 'Granny knot', errors: 0, warnings: 1 }),
      ]);
      const session = (await server.visitor().get('/api/session')).body as { demo: boolean; house: { name: string } };
      expect(session.house.name).toBe('Larkmoor');
      expect(session.demo).toBeTrue();
      for (const { password } of DEMO_SIGN_INS) expect(JSON.stringify(session)).not.toContain(password);
      // A film of the kite yard is there for its learners.
      const film = await readFile(new URL('../../../demo/films/figure-eight.webm', import.meta.url));
      const named = createHash('sha256').update(film).digest('hex');
      const shown = await server.visitor().get(`/api/public/knots/figure-eight/films/${named}`).expect(200);
      expect(shown.headers['content-type']).toBe('video/webm');
      expect(Number(shown.headers['content-length'])).toBe(film.length);
    } finally {
      await server.close();
    }
  });
});

describe('a demo whose loading was killed half way', () => {
  it('is loaded anew at the next start, whole', async () => {
    const server = await startTestServer();
    try {
      // Three knots in, the process is gone.
      const dies = new Proxy(server.pool, {
        get: (pool, name) => {
          if (name === 'connect' && knots++ > 12) throw new Error('killed');
          const value: unknown = Reflect.get(pool, name);
          return typeof value === 'function' ? (value.bind(pool) as unknown) : value;
        },
      });
      let knots = 0;
      await expectAsync(loadDemo(dies)).toBeRejected();
      const count = async (): Promise<number> =>
        Number((await server.pool.query<{ n: string }>('select count(*) as n from knot')).rows[0]?.n);
      const half = await count();
      expect(half).toBeGreaterThan(0);
      expect(half).toBeLessThan(DEMO_FILES.length);
      expect(await loadDemo(server.pool)).toBeTrue();
      expect(await count()).toBe(DEMO_FILES.length);
      expect(await loadDemo(server.pool)).toBeFalse();
    } finally {
      await server.close();
    }
  });
});

describe('migrations', () => {
  it('run once, also when two servers begin together', async () => {
    const server = await startTestServer();
    try {
      expect(await Promise.all([migrate(server.pool), migrate(server.pool)])).toEqual([[], []]);
    } finally {
      await server.close();
    }
  });
  it('give a house from before there were owners one: whoever wrote in it first, and only where it has none', async () => {
    const server = await startTestServer();
    try {
      const { pool } = server;
      const sql = await readFile(new URL('../migrations/021_an_owner.sql', import.meta.url), 'utf8');
      const owners = async (): Promise<string[]> =>
        (await pool.query<{ name: string }>("select name from account where role = 'owner' order by name")).rows.map(
          (r) => r.name,
        );
      await pool.query(sql);
      expect(await owners()).toEqual(['Olm Owner']);
      await pool.query("update account set role = 'author', created_at = now() where role = 'owner'");
      await pool.query("update account set created_at = now() - interval '1 year' where name = 'Ada Author'");
      await pool.query(sql);
      expect(await owners()).toEqual(['Ada Author']);
    } finally {
      await server.close();
    }
  });
  it('refuse a database that may only be read, as a replica, and say what to give in its place', async () => {
    const server = await startTestServer();
    const replica = openPool(
      `${server.databaseUrl}?options=-c%20default_transaction_read_only%3Don`,
      pino({ level: 'silent' }),
    );
    try {
      await expectAsync(migrate(replica)).toBeRejectedWithError(/may only be read.*replica.*primary/);
      // What becomes one while the server runs is away, and is connected to anew.
      const write = transaction(replica, (client) => client.query("insert into migration (name) values ('x')"));
      await expectAsync(write).toBeRejectedWith(jasmine.objectContaining({ code: '25006' }));
      await write.catch((error: unknown) => expect(isAway(error)).toBeTrue());
      expect(replica.totalCount).toBe(0);
    } finally {
      await replica.end();
      await server.close();
    }
  });
  it('refuse a database that a newer program has used, by naming what it has', async () => {
    const server = await startTestServer();
    try {
      await server.pool.query("insert into migration (name) values ('999_from_tomorrow.sql')");
      await expectAsync(migrate(server.pool)).toBeRejectedWithError(/999_from_tomorrow\.sql.*newer/);
    } finally {
      await server.close();
    }
  });
});
