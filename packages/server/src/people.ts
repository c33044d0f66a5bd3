/**
 * The people of a house: invited by an owner, with a role; a password of their own; closed, and opened again. A house keeps an owner.
 */
import type { Account, Invited, Person, Role } from '@foxtrail/contract';
import { randomBytes } from 'node:crypto';
import type pg from 'pg';
import { hashPassword, passwordMatches } from './accounts.js';
import { Expression, insertRow, NOW, updateRows } from './columns.js';
import { transaction, type Queryable } from './database.js';
import { passwordTrouble } from './passwords.js';
import { HttpProblem, refused } from './problem.js';
import { beginSession, countTry, forgetTries } from './sign-in.js';
import { tokenHash } from './token-hash.js';

/** Days for which an invitation can be taken. */
const INVITED_DAYS = 7;

/** Everybody who has an account, and who is invited. */
export async function peopleOf(db: Queryable): Promise<{ people: Person[]; invited: Invited[] }> {
  const people = await db.query<Person>(
    `select a.id, a.name, a.role, a.disabled_at is not null as closed,
            exists (select 1 from second_factor f where f.account_id = a.id and f.since is not null) as second,
            (select to_char(max(s.used_at) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') from session s where s.account_id = a.id) as "usedAt"
       from account a order by lower(a.name)`,
  );
  const invited = await db.query<Invited>(
    `select name, role, to_char(ends_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') as "endsAt"
       from invitation where ends_at > now() order by lower(name)`,
  );
  return { people: people.rows, invited: invited.rows };
}

const taken = (name: string): HttpProblem =>
  new HttpProblem(409, 'name-taken', 'name', `There is an account called “${name}”.`, 'Choose another name.');

async function isTaken(db: Queryable, name: string): Promise<boolean> {
  const found = await db.query('select 1 from account where lower(name) = lower($1)', [name]);
  return found.rowCount !== 0;
}

/** Invites somebody; the answer holds the token of the link, which is told this once. */
export async function invite(
  db: Queryable,
  by: Account,
  { name, role }: { readonly name: string; readonly role: Role },
): Promise<{ token: string }> {
  if (await isTaken(db, name)) throw taken(name);
  const token = randomBytes(24).toString('base64url');
  await db.query('delete from invitation where lower(name) = lower($1) or ends_at < now()', [name]);
  await insertRow(db, 'invitation', {
    token_hash: tokenHash(token),
    name,
    role,
    made_by: by.id,
    ends_at: new Expression('now() + make_interval(days => ?)', INVITED_DAYS),
  });
  return { token };
}

/** Takes an invitation back. */
export const uninvite = (db: Queryable, name: string): Promise<unknown> =>
  db.query('delete from invitation where lower(name) = lower($1)', [name]);

/** Takes an invitation up: the account, and a session of it. */
export function join(
  pool: pg.Pool,
  { token, password }: { readonly token: string; readonly password: string },
): Promise<{ account: Account; token: string }> {
  return transaction(pool, async (client) => {
    const found = await client.query<{ name: string; role: Role }>(
      'select name, role from invitation where token_hash = $1 and ends_at > now() for update',
      [tokenHash(token)],
    );
    const row = found.rows[0];
    if (!row)
      throw new HttpProblem(
        404,
        'no-invitation',
        'invitation',
        'This invitation has ended, or was taken up.',
        'Ask an owner of the house for another one.',
      );
    const trouble = passwordTrouble(password, row.name);
    if (trouble) throw refused(trouble);
    if (await isTaken(client, row.name)) throw taken(row.name);
    const made = await insertRow<{ id: string }>(
      client,
      'account',
      { name: row.name, role: row.role, password_hash: await hashPassword(password) },
      'returning id',
    );
    await client.query('delete from invitation where token_hash = $1', [tokenHash(token)]);
    const { id } = made.rows[0] as { id: string };
    return { account: { id, name: row.name, role: row.role }, token: await beginSession(client, id) };
  });
}

/** Asks for the present password of whoever is signed in, as before anything by which others could be kept out. */
export async function askPresent(db: Queryable, account: Account, present: string): Promise<void> {
  // Whoever found a computer with a session open is kept from guessing, too; the name is the account’s own.
  const source = `account ${account.id}`;
  await countTry(db, account.name, source);
  const found = await db.query<{ password_hash: string }>('select password_hash from account where id = $1', [
    account.id,
  ]);
  if (!(await passwordMatches(present, found.rows[0]?.password_hash ?? '')))
    throw new HttpProblem(
      403,
      'wrong-password',
      'present',
      'The present password is not right.',
      'Check it and try again.',
    );
  await forgetTries(db, account.name, source);
}

/** Another password for an account whose present one is known; every other session of it ends. */
export async function changePassword(
  pool: pg.Pool,
  account: Account,
  { present, wanted }: { readonly present: string; readonly wanted: string },
): Promise<string> {
  const trouble = passwordTrouble(wanted, account.name);
  if (trouble) throw refused(trouble);
  await askPresent(pool, account, present);
  const hash = await hashPassword(wanted);
  return transaction(pool, async (client) => {
    await updateRows(client, 'account', { password_hash: hash }, { id: account.id });
    await signOutEverywhere(client, account.id);
    return beginSession(client, account.id);
  });
}

/** Ends all sessions of an account; its devices are strangers again. */
export async function signOutEverywhere(db: Queryable, account: string): Promise<void> {
  await db.query('delete from session where account_id = $1', [account]);
  await db.query('delete from device where account_id = $1', [account]);
}

/** Changes what somebody may do, or closes and opens an account. The last owner stays one. */
export function changePerson(
  pool: pg.Pool,
  id: string,
  { role, closed }: { readonly role: Role; readonly closed: boolean },
): Promise<void> {
  return transaction(pool, async (client) => {
    // Of two owners who close each other one is left.
    await client.query("select 1 from account where role = 'owner' order by id for update");
    const found = await client.query<{ id: string }>('select id from account where id = $1 for update', [id]);
    if (found.rowCount === 0)
      throw new HttpProblem(404, 'not-found', 'person', 'There is no such account.', 'Load the page anew.');
    await updateRows(client, 'account', { role, disabled_at: closed ? NOW : null }, { id });
    const owners = await client.query("select 1 from account where role = 'owner' and disabled_at is null limit 1");
    if (owners.rowCount === 0)
      throw new HttpProblem(
        409,
        'last-owner',
        'role',
        'A house has an owner: this is its last.',
        'Make somebody else an owner first.',
      );
    if (closed) await signOutEverywhere(client, id);
  });
}
