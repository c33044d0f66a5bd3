/**
 * The drill of docs/backups.md, on the demo's library: written, lost, put back.
 */
import { HOUSE_ROUTES } from '@foxtrail/contract';
import { mkdtemp, open, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { backUp, checkedBackup, exchange, putBack, type Database } from '../src/backup.js';
import { loadDemo } from '../src/index.js';
import { startTestServer, type TestServer } from './server.js';

/** What every row of a database says, table by table. */
async function contentsOf(url: string): Promise<Record<string, string>> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const tables = await client.query<{ name: string }>(
      "select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE'",
    );
    const told: Record<string, string> = {};
    for (const { name } of tables.rows) {
      const found = await client.query<{ sum: string }>(
        `select md5(coalesce(string_agg(t::text, '|' order by t::text), '')) as sum from "${name}" t`,
      );
      told[name] = found.rows[0]!.sum;
    }
    return told;
  } finally {
    await client.end();
  }
}

describe('a backup', () => {
  let server: TestServer;
  let folder: string;
  let database: Database;
  const made: string[] = [];
  beforeAll(async () => {
    server = await startTestServer();
    await loadDemo(server.pool);
    folder = await mkdtemp(join(tmpdir(), 'backups-'));
    database = { url: server.databaseUrl, bin: process.env.PG_BIN };
  }, 120_000);
  afterAll(async () => {
    await server.close();
    await rm(folder, { recursive: true });
    const admin = new pg.Client({ connectionString: database.url.replace(/[^/]*$/, 'postgres') });
    await admin.connect();
    for (const name of made) await admin.query(`drop database if exists "${name}" with (force)`);
    await admin.end();
  });

  it('holds everything, is tried out when it is written, and comes back as it was', async () => {
    await server.owner();
    const before = await contentsOf(server.databaseUrl);
    const { file, note } = await backUp(database, folder, 3);
    expect(note.rows.knot).toBe(11);
    expect(note.rows.film_piece).toBeGreaterThan(0);
    expect((await stat(file)).mode & 0o077).toBe(0);
    // Its owner sees when that was.
    const held = HOUSE_ROUTES.held.answer.parse((await (await server.owner()).get('/api/house/held').expect(200)).body);
    expect(held.backup).toEqual({ at: note.made, bytes: note.bytes });
    expect([held.knots, held.archived, held.films]).toEqual([11, 0, 1]);
    expect(held.databaseBytes).toBeGreaterThan(held.mediaBytes);
    await (await server.author()).get('/api/house/held').expect(403);
    // What happens afterwards is not in it.
    await server.pool.query('delete from knot');
    made.push('drill_back');
    const { url } = await putBack(database, file, 'drill_back');
    expect(await contentsOf(url)).toEqual(before);
    // It takes the place of what was there, which is kept.
    made.push('drill_now', 'drill_before');
    await exchange(database, 'drill_back', 'drill_now', 'drill_before');
    expect(await contentsOf(url.replace('drill_back', 'drill_now'))).toEqual(before);
  }, 120_000);

  it('that was changed, cut off or has lost its note is refused, and nothing is made of it', async () => {
    const { file, note } = await backUp(database, folder, 9);
    expect(await checkedBackup(file)).toEqual(note);
    const handle = await open(file, 'r+');
    // Whatever stands there, something else.
    const middle = Math.floor(note.bytes / 2);
    const { buffer } = await handle.read(Buffer.alloc(1), 0, 1, middle);
    await handle.write(Buffer.from([buffer.readUInt8() ^ 1]), 0, 1, middle);
    await handle.close();
    await expectAsync(putBack(database, file, 'drill_bad')).toBeRejectedWithError(/not as it was written/);
    await rm(file.replace('.dump', '.json'));
    await expectAsync(putBack(database, file, 'drill_bad')).toBeRejectedWithError(/cannot be checked/);
    const left = await server.pool.query(
      "select 1 from pg_database where datname like 'drill_bad' or datname like 'foxtrail_trial%'",
    );
    expect(left.rowCount).toBe(0);
  }, 120_000);

  it('of which there are enough lets the oldest go, with its note', async () => {
    const own = join(folder, 'own');
    const at = (day: number): Date => new Date(Date.UTC(2026, 10, day));
    for (const day of [1, 2, 3]) await backUp(database, own, 2, at(day));
    expect((await readdir(own)).map((f) => f.slice(0, 19))).toEqual([
      'foxtrail-2026-11-02',
      'foxtrail-2026-11-02',
      'foxtrail-2026-11-03',
      'foxtrail-2026-11-03',
    ]);
  }, 120_000);

  it('of a database that is not there says what failed, and leaves nothing', async () => {
    const gone = { ...database, url: database.url.replace(/[^/]*$/, 'no_such_database') };
    await expectAsync(backUp(gone, join(folder, 'none'), 3)).toBeRejectedWithError(/pg_dump ended/);
    expect(await readdir(join(folder, 'none'))).toEqual([]);
  });
});
