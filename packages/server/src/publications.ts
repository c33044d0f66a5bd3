/**
 * Publications: which revision of a knot its public page shows, and at what address.
 */
import type { Account, LessonTerm, Publication, PublicKnot } from '@foxtrail/contract';
import {
  choiceFor,
  conceptOf,
  entrySchema,
  sayDifference,
  uncapital,
  vocabularyFor,
  wordFor,
  type Entry,
  type FigureFile,
} from '@foxtrail/core';
import { differencesFor } from '@foxtrail/pattern-book';
import type pg from 'pg';
import { NOW, putRow } from './columns.js';
import { cardRow } from './cards.js';
import { clipsOf } from './clips.js';
import { transaction, type Queryable } from './database.js';
import { filmsLacking } from './films.js';
import { house } from './house.js';
import { examinedCard } from './recount.js';
import { needsOf, note } from './reviews.js';
import { readSaved, revisionDocument } from './revisions.js';
import { wordStock } from './words.js';
import { HttpProblem } from './problem.js';

interface PublicationRow {
  slug: string;
  revision: number;
  published_at: Date;
  published_by: string;
}

/** A knot's publication, if it has one. */
export async function publicationOf(db: Queryable, id: string): Promise<Publication | null> {
  const found = await db.query<PublicationRow>(
    'select p.slug, p.revision, p.published_at, a.name as published_by from publication p join account a on a.id = p.published_by where p.knot_id = $1',
    [id],
  );
  const row = found.rows[0];
  if (!row) return null;
  return {
    slug: row.slug,
    revision: row.revision,
    publishedAt: row.published_at.toISOString(),
    publishedBy: row.published_by,
    clips: (await clipsOf(db, id, row.revision)).map((c) => c.method),
  };
}

/** A readable address from a name: `figure-eight`. */
export function slugOf(name: string): string {
  const slug = name
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');
  return slug === '' ? 'knot' : slug;
}

/** The address of what is published: what it has already, else one made of its name that nothing else has. The table is to be locked. */
export async function freeSlug(
  db: Queryable,
  of: {
    readonly table: 'publication' | 'course_publication';
    readonly key: 'knot_id' | 'course_id';
    readonly id: string;
    readonly name: string;
  },
): Promise<string> {
  const stem = slugOf(of.name);
  const { rows } = await db.query<{ slug: string; own: boolean }>(
    `select slug, ${of.key} = $1 as own from ${of.table} where ${of.key} = $1 or slug = $2 or slug like $3`,
    [of.id, stem, `${stem}-%`],
  );
  const used = new Set(rows.filter((r) => !r.own).map((r) => r.slug));
  let slug = rows.find((r) => r.own)?.slug ?? stem;
  for (let n = 2; used.has(slug); n += 1) slug = `${stem}-${n}`;
  return slug;
}

/** Publishes the saved revision. What has errors by the present rules is not published: no wrong knot leaves the bench. */
export async function publishKnot(pool: pg.Pool, account: Account, id: string): Promise<Publication> {
  const row = await examinedCard(pool, id);
  if (row.archived)
    throw new HttpProblem(409, 'archived', row.name, 'It is archived.', 'Put it back on the shelf first.');
  if (row.steps === 0)
    throw new HttpProblem(409, 'no-steps', row.name, 'It has no steps yet.', 'Place at least one halt in Draft.');
  if (row.errors > 0)
    throw new HttpProblem(
      409,
      'open-errors',
      row.name,
      `It has ${row.errors} open ${row.errors === 1 ? 'error' : 'errors'}.`,
      'Mend what Proof shows, then publish.',
    );
  const knot = readSaved(await revisionDocument(pool, id, row.revision));
  if (row.use_grade === 'people depend on it') {
    const lacking = (await needsOf(pool, row, knot)).filter((n) => !n.met);
    if (lacking.length > 0)
      throw new HttpProblem(
        409,
        'people-depend-on-it',
        row.name,
        `People depend on it, and it has not yet: ${lacking.map((n) => uncapital(n.what)).join('; ')}.`,
        lacking.map((n) => n.how).join(' '),
      );
  }
  const lost = await filmsLacking(pool, knot);
  if (lost.length > 0)
    throw new HttpProblem(
      409,
      'film-lacking',
      row.name,
      `${lost.map((f) => `The film “${f}”`).join(' and ')} has not been sent wholly.`,
      'Choose the file again in Reel: it goes on where it stopped.',
    );
  await transaction(pool, async (client) => {
    await client.query('lock table publication in share row exclusive mode');
    const slug = await freeSlug(client, { table: 'publication', key: 'knot_id', id, name: row.name });
    await putRow(
      client,
      'publication',
      { knot_id: id },
      { slug, revision: row.revision, published_by: account.id },
      { published_at: NOW },
    );
    await note(client, id, account.id, 'published', row.revision);
  });
  return (await publicationOf(pool, id)) as Publication;
}

export async function withdrawKnot(pool: pg.Pool, account: Account, id: string): Promise<void> {
  await cardRow(pool, id);
  await transaction(pool, async (client) => {
    const gone = await client.query<{ revision: number }>(
      'delete from publication where knot_id = $1 returning revision',
      [id],
    );
    const row = gone.rows[0];
    if (row) await note(client, id, account.id, 'withdrawn', row.revision);
  });
}

export interface Published {
  readonly knotId: string;
  readonly revision: number;
  readonly document: FigureFile;
  readonly publishedAt: Date;
}

export async function publishedKnot(db: Queryable, slug: string): Promise<Published> {
  const found = await db.query<{ knot_id: string; revision: number; published_at: Date; document: FigureFile }>(
    'select p.knot_id, p.revision, p.published_at, r.document from publication p join revision r on r.knot_id = p.knot_id and r.number = p.revision where p.slug = $1',
    [slug],
  );
  const row = found.rows[0];
  if (!row)
    throw new HttpProblem(
      404,
      'not-published',
      slug,
      'There is no published knot at this address.',
      'Ask its author, or look at the list of published knots.',
    );
  return { knotId: row.knot_id, revision: row.revision, document: row.document, publishedAt: row.published_at };
}

/** The words a lesson explains first, each as the lesson calls it, with its figure. */
async function termsOf(db: Queryable, entry: Entry): Promise<LessonTerm[]> {
  const ids = entry.words?.introduces ?? [];
  if (ids.length === 0) return [];
  const { glossary, choice } = await wordStock(db);
  const figures = await db.query<{ id: string; figure: FigureFile | null }>(
    'select id, figure from concept where id = any($1)',
    [ids],
  );
  return ids.flatMap((id): LessonTerm[] => {
    const concept = conceptOf(glossary, id);
    if (!concept) return [];
    const figure = (figures.rows.find((f) => f.id === id)?.figure ?? null) as LessonTerm['figure'];
    return [
      { id, word: wordFor(glossary, choiceFor(entry, choice), id) ?? id, definition: concept.definition, figure },
    ];
  });
}

export async function publicKnot(db: Queryable, slug: string): Promise<PublicKnot> {
  const p = await publishedKnot(db, slug);
  const name = (p.document as { name?: string }).name ?? '';
  const entry = entrySchema.parse(p.document.entry ?? {});
  const { glossary, choice } = await wordStock(db);
  const [{ demo: _demo, ...own }, clips, wrong] = await Promise.all([
    house(db),
    clipsOf(db, p.knotId, p.revision),
    db.query<{ name: string; slug: string }>(
      'select k.name, p.slug from publication p join knot k on k.id = p.knot_id where lower(k.wrong_way_of) = lower($1) order by k.name',
      [name],
    ),
  ]);
  return {
    slug,
    document: p.document as PublicKnot['document'],
    publishedAt: p.publishedAt.toISOString(),
    house: own,
    clips: clips.map((c) => c.method),
    vocabulary: vocabularyFor({ words: entry.words, ropes: p.document.ropes }, choice, glossary),
    terms: await termsOf(db, entry),
    otherSchools: entry.otherSchools === true ? differencesFor({ name, entry }, own.practice).map(sayDifference) : [],
    wrongWays: wrong.rows,
    revision: p.revision,
  };
}

export async function listPublished(db: Queryable): Promise<{ name: string; slug: string; summary: string }[]> {
  const found = await db.query<{ name: string; slug: string; summary: string | null }>(
    `select r.document->>'name' as name, p.slug, r.document->'entry'->>'summary' as summary
       from publication p join revision r on r.knot_id = p.knot_id and r.number = p.revision order by 1`,
  );
  return found.rows.map((r) => ({ ...r, summary: r.summary ?? '' }));
}
