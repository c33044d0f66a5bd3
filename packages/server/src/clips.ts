/**
 * Clips in the database: rows of 256 KiB, written in one transaction, read a few rows at a time.
 */
import type { ClipInfo } from '@foxtrail/contract';
import { CLIP_LIMIT, POSTER_LIMIT } from '@foxtrail/contract';
import type { Pace } from '@foxtrail/core';
import { filmType } from '@foxtrail/core/footage';
import type { Request, Response } from 'express';
import { readFile, type FileHandle } from 'node:fs/promises';
import type pg from 'pg';
import { insertRow, updateRows } from './columns.js';
import { asFile } from './as-file.js';
import { transaction, type Queryable } from './database.js';
import { HttpProblem, notFound } from './problem.js';
import { pictureType } from './picture-type.js';
import { sendRanged } from './ranged.js';
import { WaitingRoom } from './waiting-room.js';

const CHUNK = 256 * 1024;

/** So many clips are received at once; others wait. */
const receiving = new WaitingRoom(4, 20);

/**
 * Stores a WebM stream as the knot's newest clip. It is received into a file first and written after: a slow sender holds no connection to the
 * database. A stream that breaks off leaves nothing behind.
 */
export const storeClip = (
  pool: pg.Pool,
  knotId: string,
  clip: ClipTold,
  source: AsyncIterable<Buffer>,
): Promise<ClipInfo> =>
  receiving.enter(() => asFile(source, mostOfAClip, (file) => writeClip(pool, knotId, clip, file)));

type ClipTold = Omit<ClipInfo, 'size' | 'createdAt'> & { readonly cautions: boolean };

const mostOfAClip = {
  bytes: CLIP_LIMIT,
  tooLarge: (): HttpProblem =>
    new HttpProblem(
      413,
      'too-large',
      'clip',
      `A clip has ${CLIP_LIMIT / 1024 / 1024} MiB at most.`,
      'Export it at a brisker pace or a smaller size.',
    ),
};

async function writeClip(
  pool: pg.Pool,
  knotId: string,
  { revision, method, duration, pace, reel, cautions }: ClipTold,
  file: FileHandle,
): Promise<ClipInfo> {
  return transaction(pool, async (client) => {
    const known = await client.query('select 1 from revision where knot_id = $1 and number = $2', [knotId, revision]);
    if (known.rowCount === 0) throw notFound('revision');
    const made = await insertRow<{ id: string; created_at: Date }>(
      client,
      'clip',
      { knot_id: knotId, revision, method, size: 0, duration, pace, reel, cautions },
      'returning id, created_at',
    );
    const row = made.rows[0] as { id: string; created_at: Date };
    let number = 0;
    let size = 0;
    for (;;) {
      const { bytesRead, buffer } = await file.read(Buffer.alloc(CHUNK), 0, CHUNK, size);
      if (bytesRead === 0) break;
      const bytes = buffer.subarray(0, bytesRead);
      if (number === 0 && filmType(bytes) !== 'video/webm')
        throw new HttpProblem(415, 'not-webm', 'clip', 'This is not a WebM file.', 'Export it from Reel.');
      size += bytes.length;
      await insertRow(client, 'clip_chunk', { clip_id: row.id, number, bytes });
      number += 1;
    }
    if (size === 0) throw new HttpProblem(400, 'empty', 'clip', 'The clip is empty.', 'Export it again.');
    await updateRows(client, 'clip', { size }, { id: row.id });
    await client.query('delete from clip where knot_id = $1 and id <> $2 and revision = $3 and method = $4', [
      knotId,
      row.id,
      revision,
      method,
    ]);
    return { revision, method, size, duration, pace, reel, createdAt: row.created_at.toISOString() };
  });
}

/** What a poster may be. */
const POSTERS = ['image/png', 'image/webp'] as const;
const mostOfAPoster = {
  bytes: POSTER_LIMIT,
  tooLarge: (): HttpProblem =>
    new HttpProblem(
      413,
      'too-large',
      'poster',
      `The picture of a clip has ${POSTER_LIMIT / 1024 / 1024} MiB at most.`,
      'Export it at a smaller size.',
    ),
};

/** Stores what is seen of the newest clip of a method before it is played. */
export const storePoster = (
  pool: pg.Pool,
  knotId: string,
  method: number,
  source: AsyncIterable<Buffer>,
): Promise<void> =>
  receiving.enter(() =>
    asFile(source, mostOfAPoster, async (_file, path) => {
      const poster = await readFile(path);
      if (!pictureType(poster, POSTERS))
        throw new HttpProblem(415, 'not-a-picture', 'poster', 'This is no WebP or PNG.', 'Keep the clip from Reel.');
      const clip = await clipFor(pool, knotId, method);
      if (!clip) throw notFound('clip');
      await updateRows(pool, 'clip', { poster }, { id: clip.id });
    }),
  );

/** What is seen of a clip before it is played, if that was kept. */
export async function posterOf(
  db: Queryable,
  clip: string,
): Promise<{ readonly bytes: Buffer; readonly type: string } | undefined> {
  const { rows } = await db.query<{ poster: Buffer | null }>('select poster from clip where id = $1', [clip]);
  const bytes = rows[0]?.poster;
  const type = bytes && pictureType(bytes, POSTERS);
  return type ? { bytes, type } : undefined;
}

/** A clip as it is stored. */
export type StoredClip = ClipInfo & { readonly id: string; readonly cautions: boolean };

interface ClipRow {
  id: string;
  revision: number;
  method: number;
  size: number;
  duration: number;
  pace: Pace;
  reel: number | null;
  cautions: boolean;
  created_at: Date;
}

/** The newest clip of each of a knot's methods, of one revision when it is given. */
export async function clipsOf(db: Queryable, id: string, revision?: number): Promise<StoredClip[]> {
  const found = await db.query<ClipRow>(
    `select distinct on (method) id, revision, method, size, duration, pace, reel, cautions, created_at from clip
      where knot_id = $1 and ($2::int is null or revision = $2) order by method, created_at desc`,
    [id, revision ?? null],
  );
  return found.rows.map(({ created_at, ...row }) => ({ ...row, createdAt: created_at.toISOString() }));
}

/** The newest clip of one of a knot's methods. */
export const clipFor = async (
  db: Queryable,
  id: string,
  method: number,
  revision?: number,
): Promise<StoredClip | undefined> => (await clipsOf(db, id, revision)).find((c) => c.method === method);

/** Sends a clip, or the part of it that was asked for. */
export const sendClip = (
  db: Queryable,
  clip: { id: string; size: number },
  req: Request,
  res: Response,
): Promise<void> =>
  sendRanged(
    {
      size: clip.size,
      type: 'video/webm',
      length: CHUNK,
      piece: async (number) =>
        (
          await db.query<{ bytes: Buffer }>('select bytes from clip_chunk where clip_id = $1 and number = $2', [
            clip.id,
            number,
          ])
        ).rows[0]?.bytes,
    },
    req,
    res,
  );
