/**
 * Films in the database: named by their contents, sent in pieces that may come again and in any order, and taken once all are there and
 * are what their name says.
 */
import { FILM_LIMIT, FILM_PIECE, FILMS_LIMIT, type FilmState } from '@foxtrail/contract';
import { finishedLayout, methodsOf, type KnotDocument } from '@foxtrail/core';
import { filmType } from '@foxtrail/core/footage';
import type { Request, Response } from 'express';
import { createHash } from 'node:crypto';
import type pg from 'pg';
import { insertRow, updateRows } from './columns.js';
import type { Queryable } from './database.js';
import { HttpProblem, notFound } from './problem.js';
import { sendRanged } from './ranged.js';

/** A film as far as it has come. */
export async function filmState(db: Queryable, hash: string): Promise<FilmState> {
  const found = await db.query<FilmState>(
    `select size, type, array(select number from film_piece p where p.hash = f.hash order by number) as pieces
       from film f where hash = $1`,
    [hash],
  );
  const row = found.rows[0];
  if (!row) throw notFound('film');
  return row;
}

const tooLarge = (reason: string, remedy: string): HttpProblem =>
  new HttpProblem(413, 'too-large', 'film', reason, remedy);

/** Makes room for a film: where the house is full, those go that no revision of any knot shows. */
async function makeRoom(db: Queryable, size: number): Promise<void> {
  const isRoom = async (): Promise<boolean> => {
    const kept = await db.query<{ bytes: string }>('select coalesce(sum(size), 0) as bytes from film');
    return Number(kept.rows[0]?.bytes) + size <= FILMS_LIMIT;
  };
  if (await isRoom()) return;
  await db.query(
    `delete from film f where begun_at < now() - interval '1 day'
       and not exists (select 1 from revision r where r.document::text like '%' || f.hash || '%')`,
  );
  if (!(await isRoom()))
    throw tooLarge(
      `The house keeps ${FILMS_LIMIT / 1024 ** 3} GiB of films at most, and knots show them all.`,
      'Save the film at a smaller size.',
    );
}

/** Begins to take a film, or goes on with one that has begun. */
export async function beginFilm(pool: pg.Pool, hash: string, size: number): Promise<FilmState> {
  if (size > FILM_LIMIT)
    throw tooLarge(`A film has ${FILM_LIMIT / 1024 ** 2} MiB at most.`, 'Cut it, or save it at a smaller size.');
  // A film of this name but of another size was never this film: what came of it is dropped.
  await pool.query('delete from film where hash = $1 and size <> $2 and type is null', [hash, size]);
  await makeRoom(pool, size);
  await insertRow(pool, 'film', { hash, size }, 'on conflict do nothing');
  return filmState(pool, hash);
}

/** All bytes of a request of so many at most. */
async function bytesOf(source: AsyncIterable<Buffer>, most: number): Promise<Buffer> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of source) {
    size += part.length;
    if (size > most)
      throw new HttpProblem(
        413,
        'too-large',
        'piece',
        `This piece has ${most} bytes.`,
        'Send the film in such pieces.',
      );
    parts.push(part);
  }
  return Buffer.concat(parts);
}

const drop = (db: Queryable, hash: string): Promise<unknown> =>
  db.query('delete from film where hash = $1 and type is null', [hash]);

/** Takes a piece of a film. One that has come before may come again. */
export async function takePiece(
  pool: pg.Pool,
  hash: string,
  number: number,
  source: AsyncIterable<Buffer>,
): Promise<void> {
  const { size, type } = await filmState(pool, hash);
  const due = Math.min(FILM_PIECE, size - number * FILM_PIECE);
  if (due <= 0) throw notFound('piece');
  // Received first and written after: a slow sender holds no connection to the database.
  const bytes = await bytesOf(source, due);
  if (bytes.length !== due)
    throw new HttpProblem(
      400,
      'short-piece',
      `piece ${number}`,
      `It has ${bytes.length} bytes of ${due}.`,
      'Send it again.',
    );
  if (number === 0 && !filmType(bytes)) {
    await drop(pool, hash);
    throw new HttpProblem(
      415,
      'not-a-film',
      'film',
      'This is neither a WebM nor an MP4 file.',
      'Convert it to WebM or MP4, then choose it again.',
    );
  }
  if (type) return;
  await insertRow(
    pool,
    'film_piece',
    { hash, number, bytes },
    'on conflict (hash, number) do update set bytes = excluded.bytes',
  );
}

/** A piece of a film; nothing where it has not come. */
export const pieceOf = async (db: Queryable, hash: string, number: number): Promise<Buffer | undefined> => {
  const found = await db.query<{ bytes: Buffer }>('select bytes from film_piece where hash = $1 and number = $2', [
    hash,
    number,
  ]);
  return found.rows[0]?.bytes;
};

/** Takes a film whose pieces have all come. One that is not what its name says is dropped. */
export async function takeFilm(pool: pg.Pool, hash: string): Promise<FilmState> {
  const state = await filmState(pool, hash);
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
  const contents = createHash('sha256');
  let type: FilmState['type'] = null;
  for (let number = 0; number < count; number += 1) {
    const bytes = await pieceOf(pool, hash, number);
    if (!bytes) throw notFound('piece');
    if (number === 0) type = filmType(bytes) ?? null;
    contents.update(bytes);
  }
  if (contents.digest('hex') !== hash) {
    await drop(pool, hash);
    throw new HttpProblem(
      400,
      'another-film',
      'film',
      'What has come is not the film that was meant.',
      'Send it again.',
    );
  }
  await updateRows(pool, 'film', { type }, { hash });
  return { ...state, type };
}

/** Sends a film that has been taken, or the part of it that was asked for. */
export async function sendFilm(db: Queryable, hash: string, req: Request, res: Response): Promise<void> {
  const { size, type } = await filmState(db, hash);
  if (!type) throw notFound('film');
  // It is named by its contents: what has been fetched once stays true.
  res.setHeader('Cache-Control', 'private, max-age=86400, immutable');
  await sendRanged({ size, type, length: FILM_PIECE, piece: (n) => pieceOf(db, hash, n) }, req, res);
}

/** The films that a knot shows, of all its methods. */
export const filmsShown = (knot: KnotDocument): readonly { readonly film: string; readonly name: string }[] =>
  methodsOf(knot).flatMap(({ method }) => finishedLayout(method).footage ?? []);

/** The names of films that a knot shows and that are not here wholly. */
export async function filmsLacking(db: Queryable, knot: KnotDocument): Promise<string[]> {
  const shown = filmsShown(knot);
  if (shown.length === 0) return [];
  const found = await db.query<{ hash: string }>('select hash from film where hash = any($1) and type is not null', [
    shown.map((f) => f.film),
  ]);
  const here = new Set(found.rows.map((r) => r.hash));
  return shown.filter((f) => !here.has(f.film)).map((f) => f.name);
}
