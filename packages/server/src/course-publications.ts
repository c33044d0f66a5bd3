/**
 * Courses that are published: what was taken into them, where they are, and where their lessons are now.
 */
import { publishedCourseSchema, type CoursePublication, type PublishedCourse } from '@foxtrail/contract/courses';
import type { Account } from '@foxtrail/contract';
import type { Kept as KeptThing } from '@foxtrail/contract/ropes';
import { choiceOf, tailRuleFor, type HousePractice } from '@foxtrail/core';
import {
  assemblyFindings,
  holdsAPerson,
  inspectionList,
  type Assembly,
  type AssemblyHouse,
  type KnotFacts,
} from '@foxtrail/core/assembly';
import { courseTime, sayMinutes, timeOf, type CourseItem, type LessonFacts } from '@foxtrail/core/course';
import { lengthsIn } from '@foxtrail/core/ropes';
import type pg from 'pg';
import { NOW, putRow } from './columns.js';
import { transaction, type Queryable } from './database.js';
import { housePractice } from './house.js';
import type { Kept } from './kept.js';
import { keptThings } from './kept-rows.js';
import { factsOf } from './knot-facts.js';
import type { LessonReader } from './lesson-facts.js';
import { HttpProblem, notFound } from './problem.js';
import { freeSlug } from './publications.js';

/** A course's publication; null where it has none. */
export async function coursePublication(db: Queryable, course: string): Promise<CoursePublication | null> {
  const found = await db.query<{ slug: string; revision: number; published_at: Date; published_by: string }>(
    `select p.slug, p.revision, p.published_at, a.name as published_by
       from course_publication p join account a on a.id = p.published_by where p.course_id = $1`,
    [course],
  );
  const row = found.rows[0];
  return row
    ? {
        slug: row.slug,
        revision: row.revision,
        publishedAt: row.published_at.toISOString(),
        publishedBy: row.published_by,
      }
    : null;
}

type PublishedItem = PublishedCourse['items'][number];
type ItemPart = Pick<PublishedItem, 'name' | 'goal' | 'time'>;

const refused = (place: string, reason: string, remedy: string): HttpProblem =>
  new HttpProblem(409, 'not-ready', place, reason, remedy);

interface Composing {
  readonly db: Queryable;
  readonly practice: HousePractice;
  readonly rigs: readonly KeptThing<Assembly>[];
  readonly knots: Kept<KnotFacts>;
}

/** An assembly as it is published; refused where something is found wrong of it, or a person hangs on what nobody has looked at. */
async function assemblyItem(
  { db, practice, rigs, knots }: Composing,
  id: string,
  part: ItemPart,
): Promise<PublishedItem> {
  const kept = rigs.find((r) => r.id === id);
  if (!kept) throw refused(part.name, `${part.name} is not there any more.`, 'Take it out of the course.');
  const { is, revision } = kept;
  const facts = await factsOf(
    db,
    knots,
    is.knots.map((k) => k.ref),
  );
  const { eatsOfPattern, patternName } = await import('@foxtrail/pattern-book/assemblies');
  const house: AssemblyHouse = {
    facts: (ref) => facts.find((f) => f.ref === ref),
    tail: tailRuleFor(practice, { useGrade: is.useGrade }),
    patternName,
    eatsOf: eatsOfPattern,
    sayMm: lengthsIn(choiceOf(practice, 'units') === 'inches' ? 'inches' : 'millimetres'),
  };
  const [error, ...more] = assemblyFindings(is, house).filter((f) => f.severity === 'error');
  if (error)
    throw refused(
      is.name,
      `It has ${more.length + 1} open ${more.length === 0 ? 'error' : 'errors'}: ${error.title}.`,
      'Mend what its desk shows, then publish.',
    );
  if (holdsAPerson(is) || is.useGrade === 'people depend on it') {
    const good = await db.query(
      `select 1 from inspection where assembly_id = $1 and assembly_revision = $2 and verdict = 'good' limit 1`,
      [id, revision],
    );
    if (good.rowCount === 0)
      throw refused(
        is.name,
        'People depend on it, and nobody has found it good as it stands.',
        'Have it inspected, on its desk; what was inspected before a change does not count.',
      );
  }
  return {
    kind: 'assembly',
    ...part,
    assembly: is,
    groups: inspectionList(is, [], house).map(({ title, number, items }) => ({ title, number, items: [...items] })),
    patterns: Object.fromEntries(
      facts.flatMap((f) => {
        const own = f.is.find((m) => !m.mirrored)?.id;
        return own === undefined ? [] : [[f.ref, own]];
      }),
    ),
  };
}

/** What an item takes, as it is said. */
function timeSaid(item: CourseItem, facts: LessonFacts | undefined): string {
  const { showing, practice } = timeOf(item, facts);
  return [
    ...(showing === undefined ? [] : [sayMinutes(showing)]),
    ...(practice > 0 ? [`${sayMinutes(practice)} of practice`] : []),
  ].join(', ');
}

/** Publishes a course as it is kept. What is not published, and what has errors, is in no course that is. */
export async function publishCourse(
  pool: pg.Pool,
  account: Account,
  id: string,
  revision: number,
  read: { readonly lessons: LessonReader; readonly knots: Kept<KnotFacts> },
): Promise<CoursePublication> {
  const kept = (await keptThings(pool, 'courses')).find((c) => c.id === id);
  if (!kept) throw notFound('course');
  if (kept.revision !== revision)
    throw new HttpProblem(
      412,
      'moved-on',
      'course',
      'The course was changed meanwhile.',
      'Look at it as it is now, then publish it.',
    );
  const { is: course } = kept;
  if (course.items.length === 0)
    throw refused(course.name, 'There is nothing in it yet.', 'Put lessons or assemblies into it.');
  const facts = await read.lessons.factsOf(
    pool,
    course.items.map((i) => i.ref),
  );
  const of = (ref: string): LessonFacts | undefined => facts.find((f) => f.ref === ref);
  const composing: Composing = {
    db: pool,
    practice: await housePractice(pool),
    rigs: await keptThings(pool, 'assemblies'),
    knots: read.knots,
  };
  const items: PublishedItem[] = [];
  for (const item of course.items) {
    const known = of(item.ref);
    const name = known?.name ?? item.name;
    const part: ItemPart = { name: name === '' ? item.name : name, goal: item.goal, time: timeSaid(item, known) };
    const [kind = '', ref = ''] = item.ref.split(':');
    if (kind === 'assembly') items.push(await assemblyItem(composing, ref, part));
    else if (known?.state === 'there' && known.slug !== null) items.push({ kind: 'lesson', knot: ref, ...part });
    else
      throw refused(
        part.name,
        `The lesson “${part.name}” is ${known?.state === 'archived' ? 'archived' : known?.state === 'there' ? 'not published' : 'not there any more'}.`,
        'Publish it first, or take it out of the course.',
      );
  }
  const document: PublishedCourse = {
    name: course.name,
    summary: course.summary,
    goals: course.goals,
    time: sayMinutes(courseTime(course, of).minutes),
    items,
  };
  await transaction(pool, async (client) => {
    await client.query('lock table course_publication in share row exclusive mode');
    const slug = await freeSlug(client, { table: 'course_publication', key: 'course_id', id, name: course.name });
    await putRow(
      client,
      'course_publication',
      { course_id: id },
      { slug, revision, document: JSON.stringify(document), published_by: account.id },
      { published_at: NOW },
    );
  });
  return (await coursePublication(pool, id)) as CoursePublication;
}

export async function withdrawCourse(db: Queryable, id: string): Promise<void> {
  await db.query('delete from course_publication where course_id = $1', [id]);
}

/** A published course, and where its lessons and the knots of its assemblies are published now, by their ids. */
export interface PublicCourse {
  readonly slug: string;
  readonly course: PublishedCourse;
  readonly lessons: Readonly<Record<string, string>>;
}

const KNOT = 'knot:';

/** The course at an address; undefined where there is none. */
export async function publicCourse(db: Queryable, slug: string): Promise<PublicCourse | undefined> {
  const found = await db.query<{ document: unknown }>('select document from course_publication where slug = $1', [
    slug,
  ]);
  const row = found.rows[0];
  if (!row) return undefined;
  const course = publishedCourseSchema.parse(row.document);
  const ids = course.items.flatMap((i) =>
    i.kind === 'lesson'
      ? [i.knot]
      : i.assembly.knots.flatMap((k) => (k.ref.startsWith(KNOT) ? [k.ref.slice(KNOT.length)] : [])),
  );
  const lessons = await db.query<{ knot_id: string; slug: string }>(
    'select knot_id, slug from publication where knot_id = any($1::uuid[])',
    [ids],
  );
  return { slug, course, lessons: Object.fromEntries(lessons.rows.map((r) => [r.knot_id, r.slug])) };
}

/** Courses that are published, by their names. */
export async function listCourses(
  db: Queryable,
): Promise<{ name: string; slug: string; summary: string; count: number }[]> {
  const found = await db.query<{ name: string; slug: string; summary: string; count: number }>(
    `select document->>'name' as name, slug, document->>'summary' as summary, jsonb_array_length(document->'items') as count
       from course_publication order by 1`,
  );
  return found.rows;
}
