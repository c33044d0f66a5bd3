/**
 * Photographs of pull tests: named by their contents, kept once, and gone a day after the last test that shows them.
 */
import { MOST_PHOTOGRAPHS, PHOTOGRAPH_LIMIT } from '@foxtrail/contract/ropes';
import type { Response } from 'express';
import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import type pg from 'pg';
import { asFile } from './as-file.js';
import { insertRow } from './columns.js';
import type { Queryable } from './database.js';
import { PICTURE_TYPES, pictureType, type PictureType } from './picture-type.js';
import { HttpProblem, notFound } from './problem.js';

const PLACE = 'photograph';
const most = {
  bytes: PHOTOGRAPH_LIMIT,
  tooLarge: (): HttpProblem =>
    new HttpProblem(
      413,
      'too-large',
      PLACE,
      `A photograph has ${PHOTOGRAPH_LIMIT / 1024 ** 2} MiB at most.`,
      'Save it at a smaller size.',
    ),
};

/** Keeps a photograph that is what its name says; one that is there already stays. */
export const keepPhotograph = (pool: pg.Pool, hash: string, source: AsyncIterable<Buffer>): Promise<void> =>
  asFile(source, most, async (_file, path) => writePhotograph(pool, hash, await readFile(path)));

async function writePhotograph(db: Queryable, hash: string, bytes: Buffer): Promise<void> {
  if (createHash('sha256').update(bytes).digest('hex') !== hash)
    throw new HttpProblem(400, 'not-whole', PLACE, 'It is not what its name says.', 'Send it again.');
  const type = pictureType(bytes, PICTURE_TYPES);
  if (!type)
    throw new HttpProblem(415, 'not-a-picture', PLACE, 'This is no JPEG, PNG or WebP.', 'Choose a photograph.');
  await makeRoom(db);
  await insertRow(db, 'photograph', { hash, type, bytes }, 'on conflict (hash) do update set kept_at = now()');
}

/** Those go that no test has shown for a day; where the house is full of others, it is said. */
async function makeRoom(db: Queryable): Promise<void> {
  await db.query(
    `delete from photograph p where kept_at < now() - interval '1 day'
       and not exists (select 1 from pull_test t where t.photograph = p.hash)`,
  );
  const { rows } = await db.query<{ n: number }>('select count(*)::int as n from photograph');
  if ((rows[0]?.n ?? 0) >= MOST_PHOTOGRAPHS)
    throw new HttpProblem(
      409,
      'too-many',
      PLACE,
      `A house keeps ${MOST_PHOTOGRAPHS} photographs at most.`,
      'Take those out of tests that are not needed any more.',
    );
}

export interface Photograph {
  readonly hash: string;
  readonly type: PictureType;
  readonly bytes: Buffer;
}

export async function photographOf(db: Queryable, hash: string): Promise<Photograph | undefined> {
  const { rows } = await db.query<Photograph>('select hash, type, bytes from photograph where hash = $1', [hash]);
  return rows[0];
}

/** Sends a photograph: what is named by its contents never changes. */
export async function sendPhotograph(db: Queryable, hash: string, res: Response): Promise<void> {
  const found = await photographOf(db, hash);
  if (!found) throw notFound(PLACE);
  res
    .set({ 'Content-Type': found.type, 'Cache-Control': 'private, max-age=31536000, immutable' })
    .set('Content-Security-Policy', "default-src 'none'")
    .send(found.bytes);
}
