/**
 * The whole library as one open archive: a ZIP of figure files, glossary, kin, rules and films, with a manifest of what is in it. Written from
 * one house, looked at before anything is taken, and taken into another. Described in docs/library-archive.md.
 */
import { FILM_PIECE, houseWordsSchema, stateKinSchema, type Account } from '@foxtrail/contract';
import { practiceSchema, readKnot, whatDiffers, type KnotDocument } from '@foxtrail/core';
import { filmType } from '@foxtrail/core/footage';
import { createHash } from 'node:crypto';
import { open } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type pg from 'pg';
import yauzl from 'yauzl';
import yazl from 'yazl';
import * as z from 'zod';
import { archivedRopesSchema, ropesToArchive, takeRopes } from './archive-ropes.js';
import type { Queryable } from './database.js';
import { keepPhotograph, photographOf } from './photographs.js';
import { beginFilm, pieceOf, takeFilm, takePiece } from './films.js';
import { changeHouse, houseRules } from './house.js';
import { kin, stateKin } from './kin.js';
import { createKnot, setArchived } from './knots.js';
import { HttpProblem } from './problem.js';
import { chooseWords, importWords, wordStock, writeWords } from './words.js';

export const ARCHIVE_FORMAT = 'foxtrail-library/1';

/** Most bytes of one file that is read as text, and most files of an archive. */
const TEXT_LIMIT = 32 * 1024 * 1024;
const FILES_LIMIT = 200_000;

const manifestSchema = z.object({
  format: z.literal(ARCHIVE_FORMAT),
  made: z.string(),
  /** The house that it is of. */
  house: z.string(),
  knots: z.array(
    z.object({ id: z.uuid(), name: z.string(), path: z.string(), archived: z.boolean(), published: z.boolean() }),
  ),
  files: z.array(z.object({ path: z.string(), bytes: z.number().int().min(0), sha256: z.string() })),
});
export type Manifest = z.infer<typeof manifestSchema>;

const houseSchema = z.object({ name: z.string(), practice: practiceSchema, words: houseWordsSchema });
const kinSchema = z.object({ relations: z.array(stateKinSchema) });

const NO_ZIP = 'It is not a ZIP file that can be read, or it was cut short.';

/** Why an archive is not read, in words for whoever brought it. */
export class ArchiveTrouble extends Error {}

const sha256 = (data: Uint8Array | string): string => createHash('sha256').update(data).digest('hex');
const json = (data: unknown): Buffer => Buffer.from(`${JSON.stringify(data, null, 1)}\n`);

interface KnotRow {
  readonly id: string;
  readonly name: string;
  readonly document: unknown;
  readonly archived: boolean;
  readonly published: boolean;
}

/** The newest revision of every knot, oldest knot first. */
const knotRows = (db: Queryable): Promise<pg.QueryResult<KnotRow>> =>
  db.query<KnotRow>(
    `select k.id, k.name, r.document, k.archived_at is not null as archived,
            exists (select 1 from publication p where p.knot_id = k.id) as published
       from knot k join revision r on r.knot_id = k.id and r.number = k.revision order by k.created_at, k.id`,
  );

/** Writes the library into a file. Resolves to its manifest. */
export async function writeArchive(pool: pg.Pool, file: string, now = new Date()): Promise<Manifest> {
  const target = await open(file, 'wx', 0o600);
  const zip = new yazl.ZipFile();
  const written = pipeline(zip.outputStream, target.createWriteStream());
  // What goes wrong with it is told where it is waited for.
  written.catch(() => undefined);
  const files: Manifest['files'] = [];
  const add = (path: string, data: Buffer, compress = true): void => {
    zip.addBuffer(data, path, { compress, mtime: now });
    files.push({ path, bytes: data.length, sha256: sha256(data) });
  };
  const [{ name, practice }, { choice, known }, knots, related] = await Promise.all([
    houseRules(pool).then(async ({ practice }) => {
      const found = await pool.query<{ name: string }>('select name from house');
      return { name: found.rows[0]?.name ?? '', practice };
    }),
    wordStock(pool),
    knotRows(pool),
    kin(pool),
  ]);
  add('house.json', json({ name, practice, words: { choice, known } }));
  add('glossary.jsonld', Buffer.from(await writeWords(pool, 'jsonld')));
  for (const k of knots.rows) add(`knots/${k.id}.json`, json(k.document));
  const archived = new Set(knots.rows.filter((k) => k.archived).map((k) => `knot:${k.id}`));
  const relations = related.relations
    .filter((r) => r.origin !== 'book' && !archived.has(r.from) && !archived.has(r.to))
    .map(({ from, to, kind, turns, origin, judged }) => ({ from, to, kind, turns, origin, why: judged?.why ?? null }));
  add('kin.json', json({ relations }));
  add('ropes.json', json(await ropesToArchive(pool)));
  const films = await pool.query<{ hash: string; size: number; type: string }>(
    'select hash, size, type from film where type is not null order by hash',
  );
  for (const { hash, size, type } of films.rows) {
    const path = `films/${hash}.${type === 'video/mp4' ? 'mp4' : 'webm'}`;
    zip.addReadStream(Readable.from(piecesOf(pool, hash, size)), path, { compress: false, size, mtime: now });
    // A film is named by its contents.
    files.push({ path, bytes: size, sha256: hash });
  }
  // One after the other: all of them at once would be much to hold.
  const shown = await pool.query<{ hash: string }>(
    'select hash from photograph p where exists (select 1 from pull_test t where t.photograph = p.hash) order by hash',
  );
  for (const { hash } of shown.rows) {
    const photograph = await photographOf(pool, hash);
    if (photograph) add(`photographs/${hash}.${photograph.type.slice('image/'.length)}`, photograph.bytes, false);
  }
  const manifest: Manifest = {
    format: ARCHIVE_FORMAT,
    made: now.toISOString(),
    house: name,
    knots: knots.rows.map((k) => ({
      id: k.id,
      name: k.name,
      path: `knots/${k.id}.json`,
      archived: k.archived,
      published: k.published,
    })),
    files,
  };
  zip.addBuffer(json(manifest), 'manifest.json', { mtime: now });
  zip.end();
  await written;
  return manifest;
}

async function* piecesOf(db: Queryable, hash: string, size: number): AsyncGenerator<Buffer> {
  for (let number = 0; number * FILM_PIECE < size; number += 1) {
    const bytes = await pieceOf(db, hash, number);
    if (!bytes) throw new ArchiveTrouble(`Piece ${number} of the film ${hash} is missing.`);
    yield bytes;
  }
}

/** An archive that is open: its manifest, and its files by their paths. */
interface Opened {
  readonly manifest: Manifest;
  readonly text: (path: string) => Promise<string>;
  readonly stream: (path: string) => Promise<Readable>;
  readonly close: () => void;
}

/** Opens an archive; what it says of itself is held against what is in it. */
async function openArchive(file: string): Promise<Opened> {
  const zip = await new Promise<yauzl.ZipFile>((done, fail) =>
    yauzl.open(file, { lazyEntries: true, autoClose: false, validateEntrySizes: true }, (error, opened) =>
      error ? fail(new ArchiveTrouble(NO_ZIP)) : done(opened),
    ),
  );
  try {
    const entries = await entriesOf(zip);
    const stream = (path: string): Promise<Readable> =>
      new Promise((done, fail) => {
        const entry = entries.get(path);
        if (!entry) fail(new ArchiveTrouble(`${path} is missing in it.`));
        else
          zip.openReadStream(entry, (error, opened) =>
            error ? fail(new ArchiveTrouble(`${path}: ${error.message}`)) : done(opened),
          );
      });
    const text = async (path: string): Promise<string> => {
      if ((entries.get(path)?.uncompressedSize ?? 0) > TEXT_LIMIT)
        throw new ArchiveTrouble(`${path} is larger than anything of its kind.`);
      const parts: Buffer[] = [];
      for await (const part of await stream(path)) parts.push(part as Buffer);
      return Buffer.concat(parts).toString('utf8');
    };
    const manifest = parsed(manifestSchema, await text('manifest.json'), 'manifest.json');
    for (const { path, bytes } of manifest.files)
      if (entries.get(path)?.uncompressedSize !== bytes)
        throw new ArchiveTrouble(`${path} is missing in it, or is not as long as its manifest says.`);
    return { manifest, text, stream, close: () => zip.close() };
  } catch (error) {
    zip.close();
    throw error;
  }
}

function entriesOf(zip: yauzl.ZipFile): Promise<Map<string, yauzl.Entry>> {
  return new Promise((done, fail) => {
    const entries = new Map<string, yauzl.Entry>();
    zip.on('entry', (entry: yauzl.Entry) => {
      if (entries.size >= FILES_LIMIT) fail(new ArchiveTrouble(`It has more than ${FILES_LIMIT} files.`));
      else {
        entries.set(entry.fileName, entry);
        zip.readEntry();
      }
    });
    zip.on('end', () => done(entries));
    zip.on('error', () => fail(new ArchiveTrouble(NO_ZIP)));
    zip.readEntry();
  });
}

function parsed<T extends z.ZodType>(schema: T, text: string, path: string): z.output<T> {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    throw new ArchiveTrouble(`${path} is not JSON.`);
  }
  const read = schema.safeParse(data);
  if (read.success) return read.data;
  const issue = read.error.issues[0];
  throw new ArchiveTrouble(`${path}, ${issue?.path.join('.') ?? ''}: ${issue?.message ?? 'it cannot be read'}.`);
}

/** What becomes of a file of an archive. */
export interface Told {
  readonly what: string;
  readonly becomes: 'new' | 'there already' | 'left' | 'refused';
  readonly why?: string;
}

/** What of an archive is taken beside its knots, its films and their kin. */
export interface Taking {
  /** The name of the house, and its rules. */
  readonly house: boolean;
  /** Its glossary, and the words that the house has chosen. */
  readonly words: boolean;
}

/** The knots of the shelf of a name. */
async function named(db: Queryable, name: string): Promise<{ readonly id: string; readonly knot: KnotDocument }[]> {
  const found = await db.query<{ id: string; document: unknown }>(
    'select k.id, r.document from knot k join revision r on r.knot_id = k.id and r.number = k.revision where lower(k.name) = lower($1)',
    [name],
  );
  return found.rows.flatMap(({ id, document }) => {
    const read = readKnot(document);
    return read.ok ? [{ id, knot: read.value }] : [];
  });
}

const said = (error: unknown): string =>
  error instanceof HttpProblem ? `${error.reason} ${error.remedy}` : (error as Error).message;

/**
 * Looks an archive through and tells what would become of each part of it; with an account, takes it: films, knots and their kin, and what
 * `taking` names. What cannot be read is told, and the rest is taken.
 */
export async function readArchive(
  pool: pg.Pool,
  file: string,
  { house, words }: Taking,
  by?: Account,
): Promise<{ readonly manifest: Manifest; readonly told: readonly Told[] }> {
  const archive = await openArchive(file);
  try {
    const told: Told[] = [];
    const tell = (what: string, becomes: Told['becomes'], why?: string): void =>
      void told.push({ what, becomes, ...(why === undefined ? {} : { why }) });
    /** Does a part, or tells why it cannot be done. */
    const attempt = async (what: string, work: () => Promise<Told['becomes']>): Promise<void> => {
      try {
        tell(what, await work());
      } catch (error) {
        tell(what, 'refused', said(error));
      }
    };
    const { manifest } = archive;
    const hashes = new Map(manifest.files.map((f) => [f.path, f.sha256]));
    const checked = async (path: string): Promise<string> => {
      const text = await archive.text(path);
      if (sha256(text) !== hashes.get(path)) throw new ArchiveTrouble(`${path} is not as it was written.`);
      return text;
    };
    for (const { path, bytes } of manifest.files.filter((f) => f.path.startsWith('films/')))
      await attempt(path, () => filmIn(pool, archive, path, bytes, by !== undefined));
    for (const { path } of manifest.files.filter((f) => f.path.startsWith('photographs/')))
      await attempt(path, () => photographIn(pool, archive, path, by !== undefined));
    const here = new Map<string, string>();
    for (const { id, name, path, archived } of manifest.knots)
      await attempt(`knot “${name}”`, async () => {
        const document = parsed(z.unknown(), await checked(path), path);
        const read = readKnot(document);
        if (!read.ok) throw new ArchiveTrouble(`${read.place}: ${read.reason} ${read.remedy}`);
        const same = (await named(pool, read.value.name)).find((k) => whatDiffers(read.value, k.knot).length === 0);
        if (same) {
          here.set(id, same.id);
          return 'there already';
        }
        if (by) {
          const card = await createKnot(pool, by, { document });
          here.set(id, card.id);
          if (archived) await setArchived(pool, card.id, true);
        } else here.set(id, id);
        return 'new';
      });
    await attempt('glossary', async () => {
      if (!words) return 'left';
      const taken = await importWords(pool, {
        format: 'jsonld',
        text: await checked('glossary.jsonld'),
        answers: {},
        apply: by !== undefined,
      });
      if (!taken.decided)
        throw new ArchiveTrouble(
          'Its words and those that are here collide. Take it under Words, where each is decided.',
        );
      return 'new';
    });
    await attempt('house', async () => {
      if (!house && !words) return 'left';
      const own = parsed(houseSchema, await checked('house.json'), 'house.json');
      if (by && words) await chooseWords(pool, (await wordStock(pool)).revision, own.words);
      if (by && house)
        await changeHouse(pool, {
          name: own.name,
          practice: own.practice,
          revision: (await houseRules(pool)).revision,
        });
      return 'new';
    });
    // Archives of before ropes were kept have none.
    if (hashes.has('ropes.json'))
      try {
        const ropes = parsed(archivedRopesSchema, await checked('ropes.json'), 'ropes.json');
        await takeRopes(ropes, { pool, takes: by !== undefined, knots: here, tell });
      } catch (error) {
        tell('ropes', 'refused', said(error));
      }
    const relations = await checked('kin.json')
      .then((text) => parsed(kinSchema, text, 'kin.json').relations)
      .catch((error: unknown) => {
        tell('kin', 'refused', said(error));
        return [];
      });
    for (const r of relations)
      await attempt(`kin: ${r.kind}, from ${r.from} to ${r.to}`, async () => {
        const [from, to] = [r.from, r.to].map((ref) =>
          ref.startsWith('knot:') ? here.get(ref.slice(5)) && `knot:${here.get(ref.slice(5)) ?? ''}` : ref,
        );
        if (!from || !to) throw new ArchiveTrouble('One of its knots was not taken.');
        if (by)
          try {
            await stateKin(pool, by, { ...r, from, to });
          } catch (error) {
            if (error instanceof HttpProblem && error.code === 'stated-already') return 'there already';
            throw error;
          }
        return 'new';
      });
    return { manifest, told };
  } finally {
    archive.close();
  }
}

/** Takes a photograph of an archive, or tells whether it would be taken. */
async function photographIn(pool: pg.Pool, archive: Opened, path: string, take: boolean): Promise<Told['becomes']> {
  const hash = /^photographs\/([0-9a-f]{64})\.(?:jpeg|png|webp)$/.exec(path)?.[1];
  if (hash === undefined) throw new ArchiveTrouble('It is not named as photographs are.');
  if (await photographOf(pool, hash)) return 'there already';
  if (take) await keepPhotograph(pool, hash, await archive.stream(path));
  return 'new';
}

/** Takes a film of an archive, piece by piece, or tells whether it would be taken. */
async function filmIn(
  pool: pg.Pool,
  archive: Opened,
  path: string,
  bytes: number,
  take: boolean,
): Promise<Told['becomes']> {
  const hash = /^films\/([0-9a-f]{64})\.(?:webm|mp4)$/.exec(path)?.[1];
  if (hash === undefined) throw new ArchiveTrouble('It is not named as films are.');
  const there = await pool.query('select 1 from film where hash = $1 and type is not null', [hash]);
  if (there.rowCount !== 0) return 'there already';
  const source = await archive.stream(path);
  if (!take) {
    const first = (await source[Symbol.asyncIterator]().next()) as { readonly value?: Buffer };
    source.destroy();
    if (!first.value || !filmType(first.value)) throw new ArchiveTrouble('It is neither WebM nor MP4.');
    return 'new';
  }
  await beginFilm(pool, hash, bytes);
  let number = 0;
  let held: Buffer[] = [];
  let size = 0;
  const send = async (data: Buffer): Promise<void> => takePiece(pool, hash, number++, Readable.from([data]));
  for await (const part of source) {
    held.push(part as Buffer);
    size += (part as Buffer).length;
    while (size >= FILM_PIECE) {
      const all = Buffer.concat(held);
      await send(all.subarray(0, FILM_PIECE));
      held = [all.subarray(FILM_PIECE)];
      size -= FILM_PIECE;
    }
  }
  if (size > 0) await send(Buffer.concat(held));
  await takeFilm(pool, hash);
  return 'new';
}
