/**
 * Accounts and their passwords, which are kept as scrypt hashes.
 */
import type { Account } from '@foxtrail/contract';
import { randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto';
import { insertRow } from './columns.js';
import type { Queryable } from './database.js';
import { WaitingRoom } from './waiting-room.js';

/** scrypt with N = 2^15, r = 8: about 32 MiB and a tenth of a second a try, which is what an offline guesser pays too. */
const COST: ScryptOptions = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };
const KEY_LENGTH = 32;

/** Two at a time, whatever they are for: pages that are read meanwhile have the rest of the machine. */
const deriving = new WaitingRoom(2, 40);

const derive = (password: string, salt: Buffer): Promise<Buffer> =>
  deriving.enter(
    () =>
      new Promise((resolve, reject) => {
        scrypt(password.normalize('NFKC'), salt, KEY_LENGTH, COST, (error, key) =>
          error ? reject(error) : resolve(key),
        );
      }),
  );

export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const key = await derive(password, salt);
  return `scrypt$15$8$1$${salt.toString('base64')}$${key.toString('base64')}`;
}

export async function passwordMatches(password: string, stored: string): Promise<boolean> {
  const [, , , , salt, key] = stored.split('$');
  const expected = Buffer.from(key ?? '', 'base64');
  const given = await derive(password, Buffer.from(salt ?? '', 'base64'));
  return expected.length === given.length && timingSafeEqual(expected, given);
}

/** Makes an account; an existing one of the name is left as it is. */
export async function ensureAccount(
  db: Queryable,
  name: string,
  role: Account['role'],
  password: string,
): Promise<void> {
  const there = await db.query('select 1 from account where lower(name) = lower($1)', [name]);
  if (there.rowCount !== 0) return;
  const row = { name, role, password_hash: await hashPassword(password) };
  await insertRow(db, 'account', row, 'on conflict do nothing');
}
