/**
 * Words: the glossary, what the house has chosen from it, and the files it goes out and comes in as.
 */
import type { HouseWords, ImportedWords, RemarkedKnots, Words } from '@foxtrail/contract';
import {
  disputesOf,
  GLOSSARY_LIMITS,
  lessonCheck,
  readKnot,
  remarkedKnot,
  TAKEN_AS_KNOWN,
  toGlossaryCsv,
  vocabularyFor,
  wordedOf,
  type Spoken,
  WORKSHOP_CHOICE,
  type Concept,
  type ConceptLabel,
  type Disputes,
  type FigureFile,
  type Glossary,
  type School,
  type Vocabulary,
  type WordChoice,
} from '@foxtrail/core';
import { toJsonLd, toTurtle } from '@foxtrail/core/skos';
import { figureOfConcept, GLOSSARY } from '@foxtrail/pattern-book';
import type pg from 'pg';
import { aside, TooLong } from './aside.js';
import type { Taken, ToTake, WordFormat } from './aside-jobs.js';
import { Expression, insertRow, insertRows, updateRows } from './columns.js';
import { transaction, type Queryable } from './database.js';
import { HttpProblem, notFound } from './problem.js';

/** The words of a house at one revision. */
export interface WordStock {
  readonly revision: number;
  readonly glossary: Glossary;
  readonly choice: WordChoice;
  readonly known: readonly string[];
}

/** The last stock read from each database: read anew when its revision has moved on. */
const stocks = new WeakMap<object, WordStock>();

interface ConceptRow {
  id: string;
  kind: Concept['kind'];
  definition: string;
  notes: string | null;
  broader: string[];
  related: string[];
  labels: {
    school: string | null;
    status: ConceptLabel['status'];
    text: string;
    reason: string | null;
    everyday: boolean;
  }[];
}

const CONCEPTS = `
  select c.id, c.kind, c.definition, c.notes,
         coalesce((select array_agg(l.to_id order by l.position) from concept_link l where l.concept_id = c.id and l.kind = 'broader'), '{}') as broader,
         coalesce((select array_agg(l.to_id order by l.position) from concept_link l where l.concept_id = c.id and l.kind = 'related'), '{}') as related,
         coalesce((select json_agg(json_build_object('school', l.school_id, 'status', l.status, 'text', l.text, 'reason', l.reason, 'everyday', l.everyday)
                                   order by l.position) from label l where l.concept_id = c.id), '[]') as labels
    from concept c order by c.position`;

const toConcept = ({ notes, labels, ...c }: ConceptRow): Concept => ({
  ...c,
  ...(notes === null ? {} : { notes }),
  labels: labels.map(({ reason, everyday, ...l }) => ({
    ...l,
    ...(reason === null ? {} : { reason }),
    ...(everyday ? { everyday } : {}),
  })),
});

/** The house's words. Kept in memory until some server changes them. */
export async function wordStock(db: Queryable): Promise<WordStock> {
  const house = await db.query<{ words_school: string | null; words_revision: string }>(
    'select words_school, words_revision from house',
  );
  const row = house.rows[0];
  if (!row) throw new Error('the house is missing from the database');
  const revision = Number(row.words_revision);
  const kept = stocks.get(db);
  if (kept?.revision === revision) return kept;
  // One after another: inside a transaction there is one connection.
  const schools = await db.query<School>('select id, name, note from school order by position');
  const concepts = await db.query<ConceptRow>(CONCEPTS);
  const words = await db.query<{ concept_id: string; text: string }>('select concept_id, text from house_word');
  const known = await db.query<{ concept_id: string }>('select concept_id from house_known order by concept_id');
  const stock: WordStock = {
    revision,
    glossary: { schools: schools.rows, concepts: concepts.rows.map(toConcept) },
    choice: {
      school: row.words_school ?? WORKSHOP_CHOICE.school,
      own: Object.fromEntries(words.rows.map((w) => [w.concept_id, w.text])),
    },
    known: known.rows.map((k) => k.concept_id),
  };
  stocks.set(db, stock);
  return stock;
}

/** The vocabulary a knot's texts are composed in. */
export async function vocabularyOfKnot(db: Queryable, knot: Spoken): Promise<Vocabulary> {
  const { choice, glossary } = await wordStock(db);
  return vocabularyFor(knot, choice, glossary);
}

export const wordsOf = async (db: Queryable): Promise<Words> => wordStock(db);

/** Fills an empty glossary with the one that is shipped. */
export async function seedWords(pool: pg.Pool): Promise<boolean> {
  return transaction(pool, async (client) => {
    await client.query('lock table concept in share row exclusive mode');
    const any = await client.query('select 1 from concept limit 1');
    if (any.rowCount !== 0) return false;
    await writeGlossary(client, GLOSSARY);
    const figures = GLOSSARY.concepts.flatMap(({ id }) => {
      const figure = figureOfConcept(id);
      return figure ? [{ id, figure }] : [];
    });
    await client.query(
      'update concept set figure = f.figure from jsonb_to_recordset($1::jsonb) as f (id text, figure jsonb) where concept.id = f.id',
      [JSON.stringify(figures)],
    );
    await writeKnown(client, TAKEN_AS_KNOWN);
    await moveOn(client);
    return true;
  });
}

const writeKnown = (client: Queryable, concepts: Iterable<string>): Promise<unknown> =>
  insertRows(
    client,
    'house_known',
    { concept_id: 'text' },
    Array.from(concepts, (concept_id) => ({ concept_id })),
  );

/** Tells every server that the words have changed. */
const moveOn = (client: Queryable): Promise<unknown> =>
  updateRows(client, 'house', { words_revision: new Expression('words_revision + 1') });

/** Writes schools and concepts over those of the same ids. */
async function writeGlossary(client: pg.PoolClient, { schools, concepts }: Glossary): Promise<void> {
  for (const [position, s] of schools.entries())
    await insertRow(
      client,
      'school',
      { id: s.id, name: s.name, note: s.note, position },
      // One that is there stays where it is.
      'on conflict (id) do update set name = excluded.name, note = excluded.note',
    );
  await insertRows(
    client,
    'concept',
    { id: 'text', kind: 'text', definition: 'text', notes: 'text' },
    concepts.map(({ id, kind, definition, notes }) => ({ id, kind, definition, notes })),
    `on conflict (id) do update set kind = excluded.kind, definition = excluded.definition, notes = excluded.notes,
       revision = concept.revision + 1`,
  );
  const ids = concepts.map((c) => c.id);
  await client.query('delete from concept_link where concept_id = any($1)', [ids]);
  await client.query('delete from label where concept_id = any($1)', [ids]);
  const links = concepts.flatMap((c) =>
    (['broader', 'related'] as const).flatMap((kind) =>
      c[kind].map((to, position) => ({ concept_id: c.id, kind, to_id: to, position })),
    ),
  );
  await insertRows(
    client,
    'concept_link',
    { concept_id: 'text', kind: 'text', to_id: 'text', position: 'integer' },
    links,
  );
  const labels = concepts.flatMap((c) =>
    c.labels.map((l, position) => ({
      concept_id: c.id,
      position,
      school_id: l.school,
      status: l.status,
      text: l.text,
      reason: l.reason,
      everyday: l.everyday === true,
    })),
  );
  await insertRows(
    client,
    'label',
    {
      concept_id: 'text',
      position: 'integer',
      school_id: 'text',
      status: 'text',
      text: 'text',
      reason: 'text',
      everyday: 'boolean',
    },
    labels,
  );
}

/** Work on the glossary by one author at a time, on the newest of it. */
async function change(pool: pg.Pool, work: (client: pg.PoolClient, now: WordStock) => Promise<void>): Promise<Words> {
  await transaction(pool, async (client) => {
    await client.query('select 1 from house for update');
    await work(client, await wordStock(client));
    await moveOn(client);
  });
  return wordStock(pool);
}

/** Refuses work begun on words that somebody has changed since. */
function onlyAt(now: WordStock, revision: number): void {
  if (now.revision !== revision)
    throw new HttpProblem(
      412,
      'words-moved-on',
      'words',
      'Somebody changed the words while you worked on them.',
      'They are read again; make your change once more.',
    );
}

/** Chooses the house's words. */
export const chooseWords = (pool: pg.Pool, revision: number, { choice, known }: HouseWords): Promise<Words> =>
  change(pool, async (client, now) => {
    onlyAt(now, revision);
    if (!now.glossary.schools.some((s) => s.id === choice.school))
      throw new HttpProblem(
        400,
        'refused',
        'school',
        `There is no school “${choice.school}”.`,
        'Choose one that is there.',
      );
    const ids = new Set(now.glossary.concepts.map((c) => c.id));
    const own = Object.entries(choice.own).filter(([id]) => ids.has(id));
    await updateRows(client, 'house', { words_school: choice.school });
    await client.query('delete from house_word');
    await insertRows(
      client,
      'house_word',
      { concept_id: 'text', text: 'text' },
      own.map(([concept_id, text]) => ({ concept_id, text })),
    );
    await client.query('delete from house_known');
    await writeKnown(client, new Set(known.filter((id) => ids.has(id))));
  });

/** Writes a concept, a new one or over the one of its id. */
export const writeConcept = (pool: pg.Pool, revision: number, concept: Concept): Promise<Words> =>
  change(pool, async (client, now) => {
    onlyAt(now, revision);
    const ids = new Set([...now.glossary.concepts.map((c) => c.id), concept.id]);
    const lost = [...concept.broader, ...concept.related].find((id) => !ids.has(id));
    if (lost !== undefined)
      throw new HttpProblem(400, 'refused', concept.id, `There is no concept “${lost}”.`, 'Link to one that is there.');
    const school = concept.labels.find(
      (l) => l.school !== null && !now.glossary.schools.some((s) => s.id === l.school),
    );
    if (school)
      throw new HttpProblem(
        400,
        'refused',
        concept.id,
        `There is no school “${school.school ?? ''}”.`,
        'Add the school first.',
      );
    const circle = circleAbove(now.glossary, concept);
    if (circle !== undefined)
      throw new HttpProblem(
        400,
        'refused',
        concept.id,
        `“${circle}” is narrower than it already.`,
        'A concept cannot be broader and narrower than another.',
      );
    if (ids.size > GLOSSARY_LIMITS.concepts)
      throw new HttpProblem(
        400,
        'refused',
        concept.id,
        `A glossary holds ${GLOSSARY_LIMITS.concepts} concepts.`,
        'Remove one first.',
      );
    await writeGlossary(client, { schools: [], concepts: [concept] });
  });

/** A broader concept of this one that stands below it. */
function circleAbove({ concepts }: Glossary, concept: Concept): string | undefined {
  const byId = new Map(concepts.map((c) => [c.id, c]));
  const reaches = (from: string, seen = new Set<string>()): boolean =>
    from === concept.id || (byId.get(from)?.broader ?? []).some((b) => !seen.has(b) && reaches(b, seen.add(b)));
  return concept.broader.find((b) => reaches(b));
}

export const removeConcept = (pool: pg.Pool, revision: number, id: string): Promise<Words> =>
  change(pool, async (client, now) => {
    onlyAt(now, revision);
    const gone = await client.query('delete from concept where id = $1', [id]);
    if (gone.rowCount === 0) throw notFound('concept');
  });

/** Adds a school, or changes the name and note of one. */
export const writeSchool = (pool: pg.Pool, revision: number, school: School): Promise<Words> =>
  change(pool, async (client, now) => {
    onlyAt(now, revision);
    if (now.glossary.schools.some((s) => s.id !== school.id && s.name.toLowerCase() === school.name.toLowerCase()))
      throw new HttpProblem(409, 'taken', school.name, 'There is a school of this name.', 'Give it another name.');
    if (now.glossary.schools.length >= GLOSSARY_LIMITS.schools)
      throw new HttpProblem(
        400,
        'refused',
        school.name,
        `There are ${GLOSSARY_LIMITS.schools} schools at most.`,
        'Remove one first.',
      );
    await writeGlossary(client, { schools: [school], concepts: [] });
    // A new one comes last; one that is renamed stays where it is.
    if (!now.glossary.schools.some((s) => s.id === school.id))
      await client.query(
        'update school set position = (select max(position) + 1 from school where id <> $1) where id = $1',
        [school.id],
      );
  });

export const removeSchool = (pool: pg.Pool, revision: number, id: string): Promise<Words> =>
  change(pool, async (client, now) => {
    onlyAt(now, revision);
    if (now.choice.school === id)
      throw new HttpProblem(
        409,
        'in-use',
        id,
        'The house uses this school’s words.',
        'Choose another school for the house first.',
      );
    const gone = await client.query('delete from school where id = $1', [id]);
    if (gone.rowCount === 0) throw notFound('school');
  });

/** A concept's figure file. */
export async function conceptFigure(db: Queryable, id: string): Promise<FigureFile> {
  const found = await db.query<{ figure: FigureFile | null }>('select figure from concept where id = $1', [id]);
  const figure = found.rows[0]?.figure;
  if (!figure) throw notFound('figure');
  return figure;
}

/** Gives a concept another figure, or none. */
export const setConceptFigure = (pool: pg.Pool, id: string, figure: FigureFile | null): Promise<Words> =>
  change(pool, async (client) => {
    const written = figure === null ? null : JSON.stringify(figure);
    const done = await updateRows(client, 'concept', { figure: written }, { id });
    if (done.rowCount === 0) throw notFound('concept');
  });

/** Reads a glossary file and merges it aside. */
async function takenAside(order: ToTake): Promise<Taken> {
  try {
    return await aside('words', order, { ahead: true });
  } catch (error) {
    if (!(error instanceof TooLong)) throw error;
    throw new HttpProblem(
      400,
      'refused',
      'the file',
      `${error.message} Nothing was taken.`,
      'Take the glossary in in several files.',
    );
  }
}

export const writeWords = async (db: Queryable, format: WordFormat, school?: string): Promise<string> => {
  const { glossary } = await wordStock(db);
  if (school !== undefined && !glossary.schools.some((s) => s.id === school)) throw notFound('school');
  const write = { ttl: toTurtle, jsonld: toJsonLd, csv: toGlossaryCsv }[format];
  return write(glossary, school);
};

/** The words were changed meanwhile. */
class MovedOn extends Error {}

/** How often a file is taken in anew because somebody changed the words meanwhile. */
const MOST_TRIES = 5;

/** Reads a file and tells what it would change; with `apply`, and every collision decided, changes it. */
export async function importWords(
  pool: pg.Pool,
  { apply, ...file }: Omit<ToTake, 'current'> & { readonly apply: boolean },
): Promise<ImportedWords> {
  for (let tries = 0; tries < MOST_TRIES; tries += 1) {
    const { glossary: current, revision } = await wordStock(pool);
    const { report, decided, schools, changed } = await takenAside({ ...file, current });
    if (!apply || !decided) return { report, decided, applied: false };
    try {
      await change(pool, async (client, now) => {
        // What was decided was decided about other words: it is looked at again.
        if (now.revision !== revision) throw new MovedOn();
        await writeGlossary(client, { schools, concepts: changed });
      });
      return { report, decided, applied: true };
    } catch (error) {
      if (!(error instanceof MovedOn)) throw error;
    }
  }
  throw new HttpProblem(
    409,
    'being-changed',
    'words',
    'The words are being changed all the time. Nothing was taken.',
    'Wait until whoever changes them pauses, then try again.',
  );
}

/** Names in dispute across the glossary and the knots on the shelf. */
export async function wordDisputes(db: Queryable): Promise<Disputes> {
  const { glossary, choice } = await wordStock(db);
  const knots = await db.query<{ id: string; name: string; aliases: string[]; concept_id: string | null }>(
    `select k.id, k.name, k.concept_id,
            coalesce((select array_agg(n.name order by n.position) from knot_alias n where n.knot_id = k.id), '{}') as aliases
       from knot k where k.archived_at is null order by k.name, k.id`,
  );
  return disputesOf(
    glossary,
    choice,
    knots.rows.map((k) => ({ id: k.id, name: k.name, aliases: k.aliases, concept: k.concept_id ?? undefined })),
  );
}

/** How many knots' texts are read for one answer: a screen asks again for the next ones, so that it can stop. */
const TEXTS_AT_ONCE = 25;

/** The knots whose texts are not in the words they are to be written in, from one place of the shelf's order on. */
export async function remarkedKnots(db: Queryable, after: string | undefined): Promise<RemarkedKnots> {
  const { glossary, choice, known } = await wordStock(db);
  const found = await db.query<{ id: string; name: string; document: FigureFile }>(
    `select k.id, k.name, r.document from knot k join revision r on r.knot_id = k.id and r.number = k.revision
      where k.archived_at is null and ($1::uuid is null or k.id > $1::uuid) order by k.id limit ${TEXTS_AT_ONCE}`,
    [after ?? null],
  );
  const total = await db.query<{ total: number }>('select count(*)::int as total from knot where archived_at is null');
  const knots = found.rows.flatMap(({ id, name, document }) => {
    const knot = readKnot(document);
    if (!knot.ok) return [];
    const check = lessonCheck(wordedOf(knot.value), choice, glossary, known);
    const texts = remarkedKnot(knot.value, check).filter((t) => t.remarks.length > 0);
    return texts.length === 0
      ? []
      : [
          {
            id,
            name,
            texts: texts.map(({ place, text, remarks }) => ({
              place,
              text,
              remarks: remarks.map((r) => ({ kind: r.kind, words: r.words, says: r.says })),
            })),
          },
        ];
  });
  const last = found.rows.length === TEXTS_AT_ONCE ? (found.rows.at(-1)?.id ?? null) : null;
  return { knots, read: found.rows.length, total: total.rows[0]?.total ?? 0, next: last };
}
