/**
 * A second factor: a code that an authenticator shows, another each half minute (RFC 6238), or one of ten spare codes that are each taken
 * once. It is asked for at every sign-in once it was shown to work; whoever has lost both is helped on the machine (`npm run account`).
 */
import type { Account, SecondFactorBegun } from '@foxtrail/contract';
import { randomBytes } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import type pg from 'pg';
import { encode } from 'uqr';
import { insertRow, NOW, updateRows } from './columns.js';
import { transaction, type Queryable } from './database.js';
import { HttpProblem } from './problem.js';
import { tokenHash } from './token-hash.js';

/** Bytes of a secret, as RFC 4226 wants them. */
const SECRET_BYTES = 20;
/** Seconds for which a code is shown, and how many codes before and after the present one are taken: clocks differ. */
const STEP_SECONDS = 30;
const WINDOW = 1;
const SPARE_CODES = 10;

const authenticator = (name: string, secret: Buffer): TOTP =>
  new TOTP({
    issuer: 'Fox Trail',
    label: name,
    secret: new Secret({ buffer: Uint8Array.from(secret).buffer }),
    digits: 6,
    period: STEP_SECONDS,
  });

/** A code as it is compared: spaces, hyphens and capitals make no difference. */
const plainly = (code: string): string => code.replace(/[\s-]/g, '').toLowerCase();

const wrongCode = (status: 401 | 403): HttpProblem =>
  new HttpProblem(
    status,
    'wrong-code',
    'code',
    'This code is not right, or was used already.',
    'Give the one that is shown now, or a spare code that was not used yet.',
  );

/** Begins one: what an authenticator is to be given, also as a picture to be read by its camera: squares of one side each. */
export async function beginSecondFactor(db: Queryable, { id, name }: Account): Promise<SecondFactorBegun> {
  const secret = randomBytes(SECRET_BYTES);
  const put = await db.query(
    `insert into second_factor (account_id, secret) values ($1, $2)
       on conflict (account_id) do update set secret = excluded.secret where second_factor.since is null`,
    [id, secret],
  );
  if (put.rowCount === 0)
    throw new HttpProblem(
      409,
      'second-factor-there',
      'second factor',
      'A second factor is asked for already.',
      'Take it away first, to set up another.',
    );
  const made = authenticator(name, secret);
  const { data } = encode(made.toString(), { border: 2 });
  return {
    secret: made.secret.base32,
    squares: data.map((row) => row.map((dark) => (dark ? '1' : '0')).join('')),
  };
}

/** The half minute whose code this is; none where it is no code of these. */
function stepOf(name: string, secret: Buffer, code: string): number | undefined {
  const timestamp = Date.now();
  const delta = authenticator(name, secret).validate({ token: code, timestamp, window: WINDOW });
  return delta === null ? undefined : Math.floor(timestamp / 1000 / STEP_SECONDS) + delta;
}

/** Shows that it works; from now on it is asked for. Answers with the spare codes, which are told this once. */
export function confirmSecondFactor(pool: pg.Pool, { id, name }: Account, code: string): Promise<string[]> {
  return transaction(pool, async (client) => {
    const found = await client.query<{ secret: Buffer }>(
      'select secret from second_factor where account_id = $1 and since is null for update',
      [id],
    );
    const row = found.rows[0];
    if (!row) throw new HttpProblem(409, 'not-begun', 'second factor', 'No second factor was begun.', 'Begin again.');
    const step = stepOf(name, row.secret, plainly(code));
    if (step === undefined) throw wrongCode(403);
    await updateRows(client, 'second_factor', { since: NOW, used_step: step }, { account_id: id });
    await client.query('delete from spare_code where account_id = $1', [id]);
    const codes = Array.from({ length: SPARE_CODES }, () => randomBytes(5).toString('hex'));
    for (const spare of codes) await insertRow(client, 'spare_code', { account_id: id, code_hash: tokenHash(spare) });
    return codes.map((c) => `${c.slice(0, 5)}-${c.slice(5)}`);
  });
}

/** Takes it away, and its spare codes with it. */
export async function endSecondFactor(db: Queryable, account: string): Promise<void> {
  await db.query('delete from second_factor where account_id = $1', [account]);
  await db.query('delete from spare_code where account_id = $1', [account]);
}

export async function hasSecondFactor(db: Queryable, account: string): Promise<boolean> {
  const found = await db.query('select 1 from second_factor where account_id = $1 and since is not null', [account]);
  return found.rowCount !== 0;
}

/** Asks for the second factor of an account that has one; passes with a code that is right and was not used yet. */
export async function passSecondFactor(
  db: Queryable,
  { id, name }: Pick<Account, 'id' | 'name'>,
  code: string | undefined,
): Promise<void> {
  const found = await db.query<{ secret: Buffer }>(
    'select secret from second_factor where account_id = $1 and since is not null',
    [id],
  );
  const row = found.rows[0];
  if (!row) return;
  const given = plainly(code ?? '');
  if (given === '')
    throw new HttpProblem(
      401,
      'second-factor',
      'code',
      'This account asks for a code beside its password.',
      'Give the code that your authenticator shows now, or a spare code.',
    );
  const step = stepOf(name, row.secret, given);
  // One statement each: of two who give the same code at once one is let in.
  const taken =
    step === undefined
      ? await db.query('delete from spare_code where account_id = $1 and code_hash = $2', [id, tokenHash(given)])
      : await db.query('update second_factor set used_step = $2 where account_id = $1 and used_step < $2', [id, step]);
  if (taken.rowCount === 0) throw wrongCode(401);
}
