/**
 * Accounts and sessions. Passwords are kept as scrypt hashes; a session's token is kept only as its SHA-256.
 */
import type { Account } from '@foxtrail/contract';
import { createHash, randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto';
import { Expression, insertRow } from './columns.js';
import type { Queryable } from './database.js';
import { HttpProblem } from './problem.js';

/** scrypt with N = 2^15, r = 8: about 32 MiB and a tenth of a second a try, which is what an offline guesser pays too. */
const COST: ScryptOptions = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };
const KEY_LENGTH = 32;

const derive = (password: string, salt: Buffer): Promise<Buffer> =>
  new Promise((resolve, reject) => {
    scrypt(password.normalize('NFKC'), salt, KEY_LENGTH, COST, (error, key) => (error ? reject(error) : resolve(key)));
  });

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

/** Days a session lasts after it was last begun. */
export const SESSION_DAYS = 14;

/** Failures in a quarter of an hour after which sign-in waits: by name, and (for many names from one place) by address. */
const FAILURES_BY_NAME = 8;
const FAILURES_BY_ADDRESS = 40;
const WAIT_MINUTES = 15;

// A hash nobody's password makes, so that an unknown name takes as long as a wrong password.
const decoy = hashPassword(randomBytes(24).toString('hex'));

const tokenHash = (token: string): Buffer => createHash('sha256').update(token).digest();

/** Signs in: the account and a new session's token. */
export async function signIn(
  db: Queryable,
  name: string,
  password: string,
  address: string,
): Promise<{ account: Account; token: string }> {
  const recent = await db.query<{ by_name: number; by_address: number }>(
    `select count(*) filter (where lower(name) = lower($1))::int as by_name, count(*) filter (where address = $2)::int as by_address
       from sign_in_failure where at > now() - make_interval(mins => $3) and (lower(name) = lower($1) or address = $2)`,
    [name, address, WAIT_MINUTES],
  );
  const { by_name, by_address } = recent.rows[0] ?? { by_name: 0, by_address: 0 };
  if (by_name >= FAILURES_BY_NAME || by_address >= FAILURES_BY_ADDRESS) {
    throw new HttpProblem(
      429,
      'too-many-tries',
      'sign-in',
      'There were too many wrong tries.',
      `Wait ${WAIT_MINUTES} minutes and try again.`,
      {},
      { 'Retry-After': String(WAIT_MINUTES * 60) },
    );
  }
  const found = await db.query<Account & { password_hash: string }>(
    'select id, name, role, password_hash from account where lower(name) = lower($1)',
    [name],
  );
  const row = found.rows[0];
  const matches = await passwordMatches(password, row?.password_hash ?? (await decoy));
  if (!row || !matches) {
    await insertRow(db, 'sign_in_failure', { name, address });
    throw new HttpProblem(
      401,
      'wrong-sign-in',
      'sign-in',
      'The name or the password is not right.',
      'Check both and try again.',
    );
  }
  const token = randomBytes(32).toString('base64url');
  await db.query('delete from sign_in_failure where lower(name) = lower($1)', [name]);
  await db.query('delete from session where expires_at < now()');
  await insertRow(db, 'session', {
    token_hash: tokenHash(token),
    account_id: row.id,
    expires_at: new Expression('now() + make_interval(days => ?)', SESSION_DAYS),
  });
  return { account: { id: row.id, name: row.name, role: row.role }, token };
}

export async function accountOf(db: Queryable, token: string): Promise<Account | undefined> {
  const found = await db.query<Account>(
    'select a.id, a.name, a.role from session s join account a on a.id = s.account_id where s.token_hash = $1 and s.expires_at > now()',
    [tokenHash(token)],
  );
  return found.rows[0];
}

export async function signOut(db: Queryable, token: string): Promise<void> {
  await db.query('delete from session where token_hash = $1', [tokenHash(token)]);
}
