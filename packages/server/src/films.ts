/**
 * Films in the database: named by their contents, sent in pieces that may come again and in any order, and taken once all are there and
 * are what their name says.
 */
import { FILM_LIMIT, FILM_PIECE, type FilmState } from '@foxtrail/contract';
import { finishedLayout, methodsOf, type KnotDocument } from '@foxtrail/core';
import { createHash } from 'node:crypto';
import type { Request, Response } from 'express';
import type pg from 'pg';
import { transaction, type Queryable } from './database.js';
import { HttpProblem, notFound } from './problem.js';
import { sendRanged } from './ranged.js';

/** Most films of a knot, among them such as are not shown any more. */
const MOST_FILMS = 12;

type FilmType = NonNullable<FilmState['type']>;

/** What a film is, by how it begins: WebM by the id of its header, MP4 by its first box. */
function typeOf(head: Buffer): FilmType | undefined {
  if (head.subarray(0, 4).equals(Buffer.from([0x1a, 0x45, 0xdf, 0xa3]))) return 'video/webm';
  return head.subarray(4, 8).toString('latin1') === 'ftyp' ? 'video/mp4' : undefined;
}

const noFilm = (reason: string, remedy: string): HttpProblem =>
  new HttpProblem(415, 'not-a-film', 'film', reason, remedy);

/** A film as far as it has come. */
export async function filmState(db: Queryable, knotId: string, hash: string): Promise<FilmState> {
  const found = await db.query<{ size: number; type: FilmType | null; pieces: number[] | null }>(
    `select size, type, (select array_agg(number order by number) from film_piece p where p.knot_id = f.knot_id and p.hash = f.hash) as pieces
       from film f where knot_id = $1 and hash = $2`,
    [knotId, hash],
  );
  const row = found.rows[0];
  if (!row) throw notFound('film');
  return { size: row.size, type: row.type, pieces: row.pieces ?? [] };
}

/** Begins to take a film, or goes on with one that has begun. */
export async function beginFilm(pool: pg.Pool, knotId: string, hash: string, size: number): Promise<FilmState> {
  if (size > FILM_LIMIT)
    throw new HttpProblem(
      413,
      'too-large',
      'film',
      `A film has ${FILM_LIMIT / 1024 / 1024} MiB at most.`,
      'Cut it, or save it at a smaller size.',
    );
  await transaction(pool, async (client) => {
    const knot = await client.query('select 1 from knot where id = $1 for update', [knotId]);
    if (knot.rowCount === 0) throw notFound('knot');
    const others = await client.query<{ n: number }>(
      'select count(*)::int as n from film where knot_id = $1 and hash <> $2',
      [knotId, hash],
    );
    if ((others.rows[0]?.n ?? 0) >= MOST_FILMS)
      throw new HttpProblem(
        409,
        'too-many',
        'film',
        `A knot keeps ${MOST_FILMS} films at most.`,
        'Take it to another knot.',
      );
    // A film of this name but of another size was never this film: what came of it is dropped.
    await client.query('delete from film where knot_id = $1 and hash = $2 and size <> $3 and type is null', [
      knotId,
      hash,
      size,
    ]);
    await client.query('insert into film (knot_id, hash, size) values ($1, $2, $3) on conflict do nothing', [
      knotId,
      hash,
      size,
    ]);
  });
  return filmState(pool, knotId, hash);
}

/** All bytes of a request of so many at most. */
async function bytesOf(source: AsyncIterable<Buffer>, most: number): Promise<Buffer> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of source) {
    size += part.length;
    if (size > most)
      throw new HttpProblem(413, 'too-large', 'piece', `A piece has ${most} bytes.`, 'Send the film in such pieces.');
    parts.push(part);
  }
  return Buffer.concat(parts);
}

/** Takes a piece of a film. One that has come before may come again. */
export async function takePiece(
  pool: pg.Pool,
  knotId: string,
  hash: string,
  number: number,
  source: AsyncIterable<Buffer>,
): Promise<void> {
  const { size, type } = await filmState(pool, knotId, hash);
  // Received first and written after: a slow sender holds no connection to the database.
  const due = Math.min(FILM_PIECE, size - number * FILM_PIECE);
  if (due <= 0) throw notFound('piece');
  const bytes = await bytesOf(source, due);
  if (bytes.length !== due)
    throw new HttpProblem(
      400,
      'short-piece',
      `piece ${number}`,
      `It has ${bytes.length} bytes of ${due}.`,
      'Send it again.',
    );
  if (number === 0 && !typeOf(bytes)) {
    await pool.query('delete from film where knot_id = $1 and hash = $2 and type is null', [knotId, hash]);
    throw noFilm('This is neither a WebM nor an MP4 file.', 'Convert it to WebM or MP4, then choose it again.');
  }
  if (type) return;
  await pool.query(
    'insert into film_piece (knot_id, hash, number, bytes) values ($1, $2, $3, $4) on conflict (knot_id, hash, number) do update set bytes = excluded.bytes',
    [knotId, hash, number, bytes],
  );
}

const pieceOf = async (db: Queryable, knotId: string, hash: string, number: number): Promise<Buffer | undefined> =>
  (
    await db.query<{ bytes: Buffer }>('select bytes from film_piece where knot_id = $1 and hash = $2 and number = $3', [
      knotId,
      hash,
      number,
    ])
  ).rows[0]?.bytes;

/** Takes a film whose pieces have all come. One that is not what its name says is dropped. */
export async function takeFilm(pool: pg.Pool, knotId: string, hash: string): Promise<FilmState> {
  const state = await filmState(pool, knotId, hash);
  if (state.type) return state;
  const count = Math.ceil(state.size / FILM_PIECE);
  if (state.pieces.length < count)
    throw new HttpProblem(
      409,
      'not-whole',
      'film',
      `${state.pieces.length} of its ${count} pieces have come.`,
      'Send the others, then take it.',
    );
  const digest = createHash('sha256');
  let type: FilmType | undefined;
  for (let number = 0; number < count; number += 1) {
    const bytes = await pieceOf(pool, knotId, hash, number);
    if (!bytes) throw notFound('piece');
    if (number === 0) type = typeOf(bytes);
    digest.update(bytes);
  }
  if (digest.digest('hex') !== hash) {
    await pool.query('delete from film where knot_id = $1 and hash = $2 and type is null', [knotId, hash]);
    throw new HttpProblem(
      400,
      'another-film',
      'film',
      'What has come is not the film that was meant.',
      'Send it again.',
    );
  }
  await pool.query('update film set type = $3 where knot_id = $1 and hash = $2', [knotId, hash, type]);
  return filmState(pool, knotId, hash);
}

/** Sends a film that has been taken, or the part of it that was asked for. */
export async function sendFilm(
  db: Queryable,
  knotId: string,
  hash: string,
  req: Request,
  res: Response,
): Promise<void> {
  const { size, type } = await filmState(db, knotId, hash);
  if (!type) throw notFound('film');
  // It is named by its contents: what has been fetched once stays true.
  res.setHeader('Cache-Control', 'private, max-age=86400, immutable');
  await sendRanged({ size, type, length: FILM_PIECE, piece: (n) => pieceOf(db, knotId, hash, n) }, req, res);
}

/** The names of films that a document shows and that are not here wholly. */
export async function filmsLacking(db: Queryable, knotId: string, knot: KnotDocument): Promise<string[]> {
  const shown = methodsOf(knot).flatMap(({ method }) => finishedLayout(method).footage ?? []);
  if (shown.length === 0) return [];
  const found = await db.query<{ hash: string }>('select hash from film where knot_id = $1 and type is not null', [
    knotId,
  ]);
  const here = new Set(found.rows.map((r) => r.hash));
  return shown.filter((f) => !here.has(f.film)).map((f) => f.name);
}
