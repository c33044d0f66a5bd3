/**
 * A library moved between two houses by its archive.
 */
import type { Account } from '@foxtrail/contract';
import { readKnot, whatDiffers, type KnotDocument } from '@foxtrail/core';
import { createHash } from 'node:crypto';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { writeArchive, readArchive, type Told } from '../src/archive.js';
import { DEMO_FILES, loadDemo } from '../src/index.js';
import { house } from '../src/house.js';
import { kin } from '../src/kin.js';
import { keepPhotograph } from '../src/photographs.js';
import { wordStock } from '../src/words.js';
import { startTestServer, type TestServer } from './server.js';

const knotsOf = async ({ pool }: TestServer): Promise<KnotDocument[]> => {
  const found = await pool.query<{ document: unknown }>(
    'select r.document from knot k join revision r on r.knot_id = k.id and r.number = k.revision order by lower(k.name)',
  );
  return found.rows.map(({ document }) => {
    const read = readKnot(document);
    if (!read.ok) throw new Error(read.reason);
    return read.value;
  });
};
const accountIn = async ({ pool }: TestServer): Promise<Account> => {
  const found = await pool.query<Account>("select id, name, role from account where role = 'owner' limit 1");
  return found.rows[0]!;
};
const become = (told: readonly Told[], what: RegExp): string[] =>
  told.filter((t) => what.test(t.what)).map((t) => t.becomes);

describe('the archive of a library', () => {
  let larkmoor: TestServer;
  let other: TestServer;
  let folder: string;
  let file: string;
  beforeAll(async () => {
    [larkmoor, other] = await Promise.all([startTestServer(), startTestServer()]);
    await loadDemo(larkmoor.pool);
    await larkmoor.pool.query("update knot set archived_at = now() where name = 'Reef knot'");
    // A test that was photographed.
    const photograph = Buffer.from('\x89PNG\r\n\x1a\n as good as any', 'latin1');
    const hash = createHash('sha256').update(photograph).digest('hex');
    await keepPhotograph(larkmoor.pool, hash, Readable.from([photograph]));
    await larkmoor.pool.query(
      'update pull_test set photograph = $1 where id = (select id from pull_test order by id limit 1)',
      [hash],
    );
    folder = await mkdtemp(join(tmpdir(), 'archive-'));
    file = join(folder, 'library.zip');
    await writeArchive(larkmoor.pool, file);
  }, 120_000);
  afterAll(async () => {
    await Promise.all([larkmoor.close(), other.close()]);
    await rm(folder, { recursive: true });
  });

  it('is looked at before anything is taken, then taken whole, and once', async () => {
    const all = { house: true, words: true };
    const looked = await readArchive(other.pool, file, all);
    expect(looked.manifest.knots.length).toBe(DEMO_FILES.length);
    expect(become(looked.told, /^knot/)).toEqual(DEMO_FILES.map(() => 'new'));
    expect(become(looked.told, /^films/)).toEqual(['new']);
    expect(await knotsOf(other)).toEqual([]);
    expect((await other.pool.query('select 1 from film')).rowCount).toBe(0);

    const by = await accountIn(other);
    const taken = await readArchive(other.pool, file, all, by);
    expect(taken.told.filter((t) => t.becomes === 'refused')).toEqual([]);
    const [were, are] = [await knotsOf(larkmoor), await knotsOf(other)];
    expect(are.length).toBe(were.length);
    were.forEach((knot, i) => expect(whatDiffers(knot, are[i]!)).withContext(knot.name).toEqual([]));
    const rows = async ({ pool }: TestServer, query: string): Promise<unknown[]> =>
      (await pool.query(query)).rows as unknown[];
    for (const query of [
      'select hash, size, type from film order by hash',
      'select hash, number, md5(bytes) as sum from film_piece order by hash, number',
      'select name from knot where archived_at is not null',
      "select name, diameter_mm, pieces, to_char(retires, 'YYYY-MM-DD') as retires from rope order by name",
      'select name, mm from body order by name',
      'select name, kind, diameter_mm from thing order by name',
      'select knot_name, diameter_mm, eaten_mm, host_mm from tie order by 1, 2, 3',
      'select hash, type, md5(bytes) as sum from photograph order by hash',
      'select t.knot_name, t.peak_kn, p.type from pull_test t join photograph p on p.hash = t.photograph',
      `select t.knot_name, t.peak_kn, r.name from pull_test t left join rope r on r.id = t.rope_id
        order by t.knot_name, t.peak_kn, r.name`,
      // Plans name the ropes of the house they are in.
      `select p.name, p.document #>> '{ropes,0,name}' as first, r.name as cut_from
         from rope_plan p left join rope r on r.id::text = p.document #>> '{ropes,0,rope}'`,
      // Assemblies name the knots of the house they are in.
      `select a.name, x.knot ->> 'role' as role, k.name as of_shelf
         from assembly a cross join jsonb_array_elements(a.document -> 'knots') as x (knot)
         left join knot k on 'knot:' || k.id = x.knot ->> 'ref'
        order by 1, 2`,
      `select i.assembly_name, i.inspected_by, i.inspected_at, i.verdict, i.items, i.remarks, a.name
         from inspection i left join assembly a on a.id = i.assembly_id order by i.inspected_at`,
    ])
      expect(await rows(other, query))
        .withContext(query)
        .toEqual(await rows(larkmoor, query));
    const [a, b] = [await house(larkmoor.pool), await house(other.pool)];
    expect([b.name, b.practice]).toEqual([a.name, a.practice]);
    expect((await wordStock(other.pool)).choice).toEqual((await wordStock(larkmoor.pool)).choice);
    const relations = async ({ pool }: TestServer): Promise<string[]> => {
      const { knots, relations } = await kin(pool);
      const name = (ref: string): string => knots.find((k) => ref === `knot:${k.id}`)?.name ?? ref;
      return relations
        .filter((r) => r.origin !== 'book')
        .map((r) => `${name(r.from)} ${r.kind} ${name(r.to)}`)
        .sort();
    };
    expect(await relations(other)).toEqual(await relations(larkmoor));

    const again = await readArchive(other.pool, file, { house: false, words: false }, by);
    for (const { what, becomes } of again.told)
      expect(becomes)
        .withContext(what)
        .toBe(/^(?:house|glossary)$/.test(what) ? 'left' : 'there already');
    expect((await knotsOf(other)).length).toBe(were.length);
  }, 180_000);

  it('that is none, is cut off or was changed is refused where it is so, and no more is made of it', async () => {
    const bad = join(folder, 'bad.zip');
    const bytes = await readFile(file);
    const none = { house: false, words: false };
    for (const broken of [Buffer.from('no archive'), Buffer.alloc(0), bytes.subarray(0, bytes.length / 2)]) {
      await writeFile(bad, broken);
      await expectAsync(readArchive(other.pool, bad, none)).toBeRejectedWithError(/not a ZIP file/);
    }
    // One byte of what is stored as it is: of the film.
    const changed = Buffer.from(bytes);
    const film = changed.indexOf(Buffer.from([0x1a, 0x45, 0xdf, 0xa3]));
    changed.writeUInt8(changed.readUInt8(film + 5000) ^ 1, film + 5000);
    await writeFile(bad, changed);
    const fresh = await startTestServer();
    try {
      const { told } = await readArchive(fresh.pool, bad, none, await accountIn(fresh));
      expect(become(told, /^films/)).toEqual(['refused']);
      expect((await fresh.pool.query('select 1 from film where type is not null')).rowCount).toBe(0);
      expect(become(told, /^knot/).filter((b) => b === 'new').length).toBe(DEMO_FILES.length);
    } finally {
      await fresh.close();
    }
  }, 180_000);

  it('is not written over another file', async () => {
    await expectAsync(writeArchive(larkmoor.pool, file)).toBeRejectedWithError(/EEXIST/);
  });
});
