/**
 * Signing in. Guesses are counted before they are tried, so that many at once count as many. Who guesses waits longer and longer; nobody is
 * locked out: a device that has signed in before is counted by itself, and an address is counted name by name.
 */
import type { Account } from '@foxtrail/contract';
import { randomBytes } from 'node:crypto';
import { hashPassword, passwordMatches } from './accounts.js';
import { Expression, insertRow, putRow } from './columns.js';
import type { Queryable } from './database.js';
import { HttpProblem } from './problem.js';
import { passSecondFactor } from './second-factor.js';
import { tokenHash } from './token-hash.js';

/** Wrong tries that cost no waiting; after them each waits twice as long as the one before, from two seconds to a minute. */
const FREE_TRIES = 8;
const LONGEST_WAIT = 60;
/** Minutes after which tries are forgotten. */
const REMEMBERED = 15;

// A hash nobody's password makes, so that an unknown name takes as long as a wrong password.
const decoy = hashPassword(randomBytes(24).toString('hex'));

/** Counts a try before it is made. Resolves to the seconds until one is let through; none: this one is. */
async function counted(db: Queryable, name: string, source: string): Promise<number> {
  const [key, free, longest, minutes] = [name.toLowerCase(), FREE_TRIES, LONGEST_WAIT, REMEMBERED];
  const let_ = await db.query(
    `insert into sign_in_try as t (name, source, tries, free_at) values ($1, $2, 1, now())
       on conflict (name, source) do update set
         tries = case when t.at < now() - make_interval(mins => $5) then 1 else t.tries + 1 end,
         free_at = now() + make_interval(secs => case
           when t.at < now() - make_interval(mins => $5) or t.tries + 1 < $3 then 0
           else least($4, 2 ^ least(t.tries + 2 - $3, 20)) end),
         at = now()
       where t.free_at <= now()`,
    [key, source, free, longest, minutes],
  );
  if (let_.rowCount !== 0) return 0;
  const held = await db.query<{ seconds: number }>(
    `select ceil(extract(epoch from free_at - now()))::int as seconds from sign_in_try where name = $1 and source = $2`,
    [key, source],
  );
  return Math.max(1, held.rows[0]?.seconds ?? 1);
}

/** Counts a try at a password before it is made; refused where there were many, until the wait is over. */
export async function countTry(db: Queryable, name: string, source: string): Promise<void> {
  const wait = await counted(db, name, source);
  if (wait > 0)
    throw new HttpProblem(
      429,
      'too-many-tries',
      'sign-in',
      'There were many wrong tries.',
      wait === 1 ? 'Wait a second and try again.' : `Wait ${wait} seconds and try again.`,
      {},
      { 'Retry-After': String(wait) },
    );
}

/** Tries that came to an end well, and all that are long ago, are forgotten. */
export const forgetTries = (db: Queryable, name: string, source: string): Promise<unknown> =>
  db.query(
    'delete from sign_in_try where (name = lower($1) and source = $2) or at < now() - make_interval(mins => $3)',
    [name, source, REMEMBERED],
  );

/** Whether an account has signed in from a device before. */
async function isKnown(db: Queryable, name: string, device: string): Promise<boolean> {
  const found = await db.query(
    'select 1 from device d join account a on a.id = d.account_id where d.token_hash = $1 and lower(a.name) = lower($2)',
    [tokenHash(device), name],
  );
  return found.rowCount !== 0;
}

/** Who signs in, and from where. */
export interface SigningIn {
  readonly name: string;
  readonly password: string;
  readonly address: string;
  /** Of an authenticator, or a spare one, where the account asks for it. */
  readonly code?: string | undefined;
  /** The token of the device, where it has one. */
  readonly device?: string | undefined;
}

export interface SignedIn {
  readonly account: Account;
  readonly token: string;
  /** What the device is known by from now on. */
  readonly device: string;
}

/** Signs in: the account and a new session's token. */
export async function signIn(db: Queryable, { name, password, code, address, device }: SigningIn): Promise<SignedIn> {
  const known = device !== undefined && (await isKnown(db, name, device)) ? device : undefined;
  const source = known === undefined ? address : `device ${tokenHash(known).toString('hex')}`;
  await countTry(db, name, source);
  const found = await db.query<Account & { password_hash: string }>(
    'select id, name, role, password_hash from account where lower(name) = lower($1) and disabled_at is null',
    [name],
  );
  const row = found.rows[0];
  const stored = row?.password_hash ?? (await decoy);
  const matches = await passwordMatches(password, stored);
  if (!row || !matches)
    throw new HttpProblem(
      401,
      'wrong-sign-in',
      'sign-in',
      'The name or the password is not right.',
      'Check both and try again.',
    );
  // A wrong code is a try, too: it is counted already.
  await passSecondFactor(db, row, code);
  await forgetTries(db, name, source);
  const own = known ?? randomBytes(32).toString('base64url');
  await putRow(db, 'device', { token_hash: tokenHash(own) }, { account_id: row.id, seen_at: new Expression('now()') });
  return {
    account: { id: row.id, name: row.name, role: row.role },
    token: await beginSession(db, row.id),
    device: own,
  };
}

/** Days for which a session lasts at most, and hours for which it lasts without being used. */
export const SESSION_DAYS = 30;
const IDLE_DAYS = 7;

/** A new session's token. */
export async function beginSession(db: Queryable, account: string): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await db.query('delete from session where expires_at < now() or used_at < now() - make_interval(days => $1)', [
    IDLE_DAYS,
  ]);
  await insertRow(db, 'session', {
    token_hash: tokenHash(token),
    account_id: account,
    expires_at: new Expression('now() + make_interval(days => ?)', SESSION_DAYS),
  });
  return token;
}

/** Minutes between two notes of a session's use. */
const NOTED_EVERY = 10;

/** Whose session a token is; nobody's where it has ended, was not used for a week, or its account was closed. */
export async function accountOf(db: Queryable, token: string): Promise<Account | undefined> {
  const found = await db.query<Account & { old: boolean }>({
    name: 'account of a session',
    text: `select a.id, a.name, a.role, s.used_at < now() - make_interval(mins => $3) as old
             from session s join account a on a.id = s.account_id
            where s.token_hash = $1 and s.expires_at > now() and s.used_at > now() - make_interval(days => $2)
              and a.disabled_at is null`,
    values: [tokenHash(token), IDLE_DAYS, NOTED_EVERY],
  });
  const row = found.rows[0];
  if (!row) return undefined;
  if (row.old) await db.query('update session set used_at = now() where token_hash = $1', [tokenHash(token)]);
  return { id: row.id, name: row.name, role: row.role };
}

export async function signOut(db: Queryable, token: string): Promise<void> {
  await db.query('delete from session where token_hash = $1', [tokenHash(token)]);
}
