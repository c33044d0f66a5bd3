/**
 * Commands for whoever keeps a server: `backup`, `restore`, `account` and `archive`. Run by the scripts of these names, which know the database;
 * DATABASE_URL and PG_BIN from the environment.
 */
import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { pino } from 'pino';
import type { Account } from '@foxtrail/contract';
import { hashPassword } from './accounts.js';
import { ArchiveTrouble, readArchive, writeArchive } from './archive.js';
import { backUp, BackupTrouble, exchange, putBack, type Database } from './backup.js';
import { updateRows } from './columns.js';
import { openPool } from './database.js';
import { signOutEverywhere } from './people.js';
import { endSecondFactor } from './second-factor.js';

const say = (text: string): void => void process.stdout.write(`${text}\n`);

const database: Database = { url: process.env.DATABASE_URL ?? '', bin: process.env.PG_BIN };

/** How many backups stay where nothing else is asked. */
const KEPT = 14;

const mib = (bytes: number): string => `${(bytes / 1024 ** 2).toFixed(1)} MiB`;

async function backup(args: string[]): Promise<void> {
  const { values } = parseArgs({ args, options: { to: { type: 'string' }, keep: { type: 'string' } } });
  const keep = values.keep === undefined ? KEPT : Number(values.keep);
  if (!(Number.isInteger(keep) && keep >= 1)) throw new BackupTrouble('--keep takes a whole number from 1 on.');
  const { file, note, gone } = await backUp(database, values.to ?? join(process.cwd(), 'backups'), keep);
  const rows = Object.values(note.rows).reduce((sum, n) => sum + n, 0);
  say(`Written and read back: ${file} (${mib(note.bytes)}, ${rows} rows, ${note.rows.knot ?? 0} knots).`);
  if (gone.length > 0) say(`Let go, ${keep} are kept: ${gone.join(', ')}.`);
}

async function restore(args: string[]): Promise<void> {
  const { positionals } = parseArgs({ args, allowPositionals: true });
  const [file] = positionals;
  if (file === undefined) throw new BackupTrouble('Name the backup: npm run restore -- FILE.dump');
  const name = new URL(database.url).pathname.slice(1);
  const stamp = new Date().toISOString().replace(/\D/g, '').slice(0, 14);
  const { note } = await putBack(database, file, `${name}_back_${stamp}`);
  await exchange(database, `${name}_back_${stamp}`, name, `${name}_before_${stamp}`);
  say(
    `Put back: ${note.rows.knot ?? 0} knots as of ${note.made}. What was there before is kept as the database ${name}_before_${stamp}.`,
  );
}

/** Sets a password anew, by whoever may use the machine; its owner is told it this once. */
async function account(args: string[]): Promise<void> {
  const [what, name] = parseArgs({ args, allowPositionals: true }).positionals;
  const pool = openPool(database.url, pino({ level: 'silent' }));
  try {
    const all = await pool.query<{ id: string; name: string; role: string; closed: boolean }>(
      'select id, name, role, disabled_at is not null as closed from account order by lower(name)',
    );
    const found = all.rows.find((a) => a.name.toLowerCase() === name?.toLowerCase());
    if (what !== 'password' && what !== 'owner') {
      for (const a of all.rows) say(`${a.name}: ${a.role}${a.closed ? ', closed' : ''}`);
      say(
        '\nnpm run account -- password NAME   a new password, told once; every session ends, and its second factor with them\nnpm run account -- owner NAME      makes an owner of an account',
      );
      return;
    }
    if (!found) throw new BackupTrouble(`There is no account called “${name ?? ''}”. npm run account lists them.`);
    if (what === 'owner') {
      await updateRows(pool, 'account', { role: 'owner', disabled_at: null }, { id: found.id });
      say(`${found.name} is an owner.`);
      return;
    }
    const password = randomBytes(12).toString('base64url');
    await updateRows(pool, 'account', { password_hash: await hashPassword(password) }, { id: found.id });
    await signOutEverywhere(pool, found.id);
    await endSecondFactor(pool, found.id);
    say(`${found.name} signs in with ${password}   (shown this once)`);
  } finally {
    await pool.end();
  }
}

const ARCHIVE_USE = `npm run archive -- out FILE.zip                    writes the library
npm run archive -- look FILE.zip                   what would be taken
npm run archive -- in FILE.zip --as NAME           takes its knots, films and kin; --house its rules, --words its words`;

/** The library as one open file: written, looked at, taken. */
async function archive(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { as: { type: 'string' }, house: { type: 'boolean' }, words: { type: 'boolean' } },
  });
  const [what, file] = positionals;
  if (file === undefined || !['out', 'look', 'in'].includes(what ?? '')) throw new BackupTrouble(ARCHIVE_USE);
  const pool = openPool(database.url, pino({ level: 'silent' }));
  try {
    if (what === 'out') {
      const { knots, files } = await writeArchive(pool, file);
      say(`Written: ${file}, ${knots.length} knots, ${files.filter((f) => f.path.startsWith('films/')).length} films.`);
      return;
    }
    const found = await pool.query<Account>(
      "select id, name, role from account where lower(name) = lower($1) and role in ('owner', 'author') and disabled_at is null",
      [values.as ?? ''],
    );
    const by = found.rows[0];
    if (what === 'in' && !by)
      throw new BackupTrouble('Name the author or owner by whom it is taken: --as NAME. npm run account lists them.');
    const taking = { house: values.house === true, words: values.words === true };
    const { manifest, told } = await readArchive(pool, file, taking, what === 'in' ? by : undefined);
    say(`The library of ${manifest.house}, written ${manifest.made}:`);
    for (const { what: part, becomes, why } of told)
      say(`  ${becomes.padEnd(13)} ${part}${why === undefined ? '' : `: ${why}`}`);
    if (told.some((t) => t.becomes === 'refused')) process.exitCode = 1;
  } finally {
    await pool.end();
  }
}

const COMMANDS: Readonly<Record<string, (args: string[]) => Promise<void>>> = { backup, restore, account, archive };

const [command = '', ...rest] = process.argv.slice(2);
(COMMANDS[command] ?? (() => Promise.reject(new BackupTrouble(`There is no command “${command}”.`))))(rest).catch(
  (error: unknown) => {
    process.stderr.write(
      `${error instanceof BackupTrouble || error instanceof ArchiveTrouble ? error.message : ((error as Error).stack ?? String(error))}\n`,
    );
    process.exitCode = 1;
  },
);
