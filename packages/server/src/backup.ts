/**
 * Backups: the whole database with its media in one file, as it was at one moment, tried out after it was written; and put back, beside what
 * was there before.
 */
import { spawn } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { chmod, mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import * as z from 'zod';

const FORMAT = 'foxtrail-backup/1';

/** What stands beside a backup. */
const noteSchema = z.object({
  format: z.literal(FORMAT),
  /** When it was made. */
  made: z.string(),
  /** The last migration of the database. */
  migration: z.string(),
  bytes: z.number().int(),
  sha256: z.string(),
  /** Rows of each table, as they came back when it was tried. */
  rows: z.record(z.string(), z.number().int()),
});
export type BackupNote = z.infer<typeof noteSchema>;

/** A database and the programs that write and read it. */
export interface Database {
  readonly url: string;
  /** Folder of PostgreSQL’s programs; absent: they are found by their names. */
  readonly bin?: string | undefined;
}

/** What went wrong with a backup, in words for whoever keeps the server. */
export class BackupTrouble extends Error {}

/** An address without its password, and that: what stands among a program’s arguments is read by everybody on the machine. */
function withoutPassword(url: string): { readonly address: string; readonly password: string } {
  const open = new URL(url);
  const password = decodeURIComponent(open.password);
  open.password = '';
  return { address: open.href, password };
}

/** Runs one of PostgreSQL’s programs on a database. */
function run({ bin }: Database, program: string, url: string, args: readonly string[]): Promise<void> {
  const { address, password } = withoutPassword(url);
  return new Promise((done, fail) => {
    const child = spawn(bin === undefined || bin === '' ? program : join(bin, program), [...args, '-d', address], {
      stdio: ['ignore', 'ignore', 'pipe'],
      env: { ...process.env, ...(password === '' ? {} : { PGPASSWORD: password }) },
    });
    let said = '';
    child.stderr.on('data', (part: Buffer) => (said = (said + part.toString()).slice(-2000)));
    child.on('error', (error) => fail(new BackupTrouble(`${program} cannot be run: ${error.message}`)));
    child.on('close', (code) =>
      code === 0 ? done() : fail(new BackupTrouble(`${program} ended with ${code}: ${said.trim()}`)),
    );
  });
}

async function asked<T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** The address of another database of the same server. */
function beside(url: string, database: string): string {
  const other = new URL(url);
  other.pathname = `/${database}`;
  return other.href;
}

/** Rows of each table of a database. */
const rowsOf = (url: string): Promise<Record<string, number>> =>
  asked(url, async (client) => {
    const tables = await client.query<{ name: string }>(
      "select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE' order by 1",
    );
    const counts: Record<string, number> = {};
    for (const { name } of tables.rows) {
      const found = await client.query<{ n: string }>(`select count(*) as n from "${name}"`);
      counts[name] = Number(found.rows[0]?.n);
    }
    return counts;
  });

async function sha256(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}

/** Reads a backup into a new database of the same server, and drops that again if it does not come back whole. */
async function readInto(database: Database, file: string, name: string): Promise<string> {
  const url = beside(database.url, name);
  await asked(beside(database.url, 'postgres'), (client) => client.query(`create database "${name}"`));
  try {
    await run(database, 'pg_restore', url, ['--exit-on-error', '--no-owner', '--no-privileges', file]);
  } catch (error) {
    await drop(database, name);
    throw error;
  }
  return url;
}

const drop = (database: Database, name: string): Promise<unknown> =>
  asked(beside(database.url, 'postgres'), (client) => client.query(`drop database if exists "${name}" with (force)`));

const NAMED = /^foxtrail-\d{4}-.*\.dump$/;
const noteBeside = (file: string): string => file.replace(/\.dump$/, '.json');

/**
 * Writes a backup into a folder, reads it back into a database that is dropped again, and lets the oldest go where there are more than `keep`.
 * Resolves to the file and what was noted of it. What could not be read back is not kept.
 */
export async function backUp(
  database: Database,
  folder: string,
  keep: number,
  now = new Date(),
): Promise<{ readonly file: string; readonly note: BackupNote; readonly gone: readonly string[] }> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const file = join(folder, `foxtrail-${now.toISOString().replace(/[:.]/g, '-')}.dump`);
  const part = `${file}.part`;
  const trial = `foxtrail_trial_${randomBytes(4).toString('hex')}`;
  try {
    await run(database, 'pg_dump', database.url, ['-Fc', '--no-owner', '--no-privileges', '-f', part]);
    await chmod(part, 0o600);
    const url = await readInto(database, part, trial);
    const rows = await rowsOf(url);
    const last = await asked(url, (client) =>
      client.query<{ name: string }>('select max(name) as name from migration'),
    );
    await drop(database, trial);
    const note: BackupNote = {
      format: FORMAT,
      made: now.toISOString(),
      migration: last.rows[0]?.name ?? '',
      bytes: (await stat(part)).size,
      sha256: await sha256(part),
      rows,
    };
    await writeFile(noteBeside(file), `${JSON.stringify(note, null, 2)}\n`, { mode: 0o600 });
    await rename(part, file);
    await asked(database.url, (client) =>
      client.query('update house set backed_up_at = $1, backup_bytes = $2', [now, note.bytes]),
    );
    return { file, note, gone: await retain(folder, keep) };
  } catch (error) {
    await rm(part, { force: true });
    await drop(database, trial).catch(() => undefined);
    throw error;
  }
}

/** Lets the oldest backups of a folder go; of so many the newest stay. */
async function retain(folder: string, keep: number): Promise<string[]> {
  const all = (await readdir(folder)).filter((f) => NAMED.test(f)).sort();
  const gone = all.slice(0, Math.max(0, all.length - Math.max(1, keep)));
  for (const name of gone) {
    await rm(join(folder, name));
    await rm(join(folder, noteBeside(name)), { force: true });
  }
  return gone;
}

/** What was noted of a backup, once the file is what it was. */
export async function checkedBackup(file: string): Promise<BackupNote> {
  const text = await readFile(noteBeside(file), 'utf8').catch(() => {
    throw new BackupTrouble(
      `There is no ${basename(noteBeside(file))} beside the backup: what it holds cannot be checked.`,
    );
  });
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    data = undefined;
  }
  const note = noteSchema.safeParse(data);
  if (!note.success) throw new BackupTrouble(`${basename(noteBeside(file))} is not the note of a backup.`);
  if ((await sha256(file)) !== note.data.sha256)
    throw new BackupTrouble(`${basename(file)} is not as it was written: it has been changed, or was cut off.`);
  return note.data;
}

/** Puts a backup back into a new database of the same server; it has what the note says, or it is dropped again. Resolves to its address. */
export async function putBack(
  database: Database,
  file: string,
  name: string,
): Promise<{ readonly url: string; readonly note: BackupNote }> {
  const note = await checkedBackup(file);
  const url = await readInto(database, file, name);
  const rows = await rowsOf(url);
  const differs = Object.keys({ ...rows, ...note.rows }).filter((table) => rows[table] !== note.rows[table]);
  if (differs.length > 0) {
    await drop(database, name);
    throw new BackupTrouble(
      `It did not come back whole: ${differs.join(', ')} have other rows than when it was written.`,
    );
  }
  await asked(url, (client) => client.query('analyze'));
  return { url, note };
}

/** Exchanges a database for another one; the one before keeps its data under a name of its own. */
export async function exchange(database: Database, from: string, to: string, before: string): Promise<void> {
  await asked(beside(database.url, 'postgres'), async (client) => {
    await client.query(
      'select pg_terminate_backend(pid) from pg_stat_activity where datname = any($1) and pid <> pg_backend_pid()',
      [[from, to]],
    );
    const there = await client.query('select 1 from pg_database where datname = $1', [to]);
    if (there.rowCount !== 0) await client.query(`alter database "${to}" rename to "${before}"`);
    await client.query(`alter database "${from}" rename to "${to}"`);
  });
}
