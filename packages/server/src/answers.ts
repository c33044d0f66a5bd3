/**
 * What learners answered, as counts. Who answered is not known; from one address only so many are taken at a time, so that nobody makes a slip out
 * of nothing, and the count of an address is forgotten within minutes.
 */
import { ANSWERS_LET, MOST_QUESTIONS, type Answers } from '@foxtrail/contract/drill';
import type { AnswerCount } from '@foxtrail/core/drill';
import type pg from 'pg';
import { Allowance } from './allowance.js';
import { transaction, type Queryable } from './database.js';
import { HttpProblem } from './problem.js';
import { publishedKnot } from './publications.js';

const allowance = new Allowance(ANSWERS_LET.count, ANSWERS_LET.minutes);

/** Counts what an address sends; refused where it is too much. */
export function letIn(address: string, count: number, now = Date.now()): void {
  const wait = allowance.spend(address, count, now);
  if (wait !== undefined)
    throw new HttpProblem(
      429,
      'too-many-answers',
      'answers',
      'So many answers in so short a time are not counted.',
      'Practise on: they are kept in your browser.',
      {},
      { 'Retry-After': String(Math.ceil(wait / 1000)) },
    );
}

/** Counts answers on a published knot: of the edition that is published, which is the one that can be asked about. */
export async function countAnswers(
  db: Queryable,
  slug: string,
  { revision, answers }: Omit<Answers, 'code'>,
  group: string | undefined,
): Promise<void> {
  const { knotId, revision: published } = await publishedKnot(db, slug);
  if (revision !== published)
    throw new HttpProblem(
      409,
      'moved-on',
      slug,
      'The lesson has been published anew since.',
      'Load the page again to practise on it as it is now.',
    );
  const known = await db.query<{ question: string }>(
    'select question from answer_count where knot_id = $1 and revision = $2',
    [knotId, revision],
  );
  const questions = new Set(known.rows.map((r) => r.question));
  for (const { question } of answers) questions.add(question);
  if (questions.size > MOST_QUESTIONS)
    throw new HttpProblem(400, 'too-many', 'answers', 'No lesson has so many questions.', 'Load the page again.');
  const tally = new Map<string, [right: number, wrong: number]>();
  for (const { question, right } of answers) {
    const [r, w] = tally.get(question) ?? [0, 0];
    tally.set(question, right ? [r + 1, w] : [r, w + 1]);
  }
  // In one order, so that two who answer at once do not wait for each other.
  const rows = [...tally].sort(([a], [b]) => (a < b ? -1 : 1));
  const told = [knotId, revision, rows.map(([q]) => q), rows.map(([, [r]]) => r), rows.map(([, [, w]]) => w)];
  await db.query(
    `insert into answer_count as c (knot_id, revision, question, right_count, wrong_count)
       select $1, $2, * from unnest($3::text[], $4::int[], $5::int[])
       on conflict (knot_id, revision, question) do update set
         right_count = c.right_count + excluded.right_count, wrong_count = c.wrong_count + excluded.wrong_count`,
    told,
  );
  if (group !== undefined)
    await db.query(
      `insert into class_answer_count as c (class_id, knot_id, revision, question, right_count, wrong_count)
         select $6, $1, $2, * from unnest($3::text[], $4::int[], $5::int[])
         on conflict (class_id, knot_id, revision, question) do update set
           right_count = c.right_count + excluded.right_count, wrong_count = c.wrong_count + excluded.wrong_count`,
      [...told, group],
    );
}

/** How learners answered on a knot, edition by edition; all of them, or those of a class. */
export async function answerCounts(db: Queryable, knot: string, group?: string): Promise<AnswerCount[]> {
  const [table, own] = group === undefined ? ['answer_count', ''] : ['class_answer_count', 'and class_id = $2'];
  const { rows } = await db.query<AnswerCount>(
    `select revision, question, right_count as right, wrong_count as wrong
       from ${table} where knot_id = $1 ${own} order by revision, question`,
    group === undefined ? [knot] : [knot, group],
  );
  return rows;
}

/** Forgets how learners answered on a knot, those of classes too. */
export async function forgetAnswers(pool: pg.Pool, knot: string): Promise<void> {
  await transaction(pool, async (client) => {
    await client.query('delete from answer_count where knot_id = $1', [knot]);
    await client.query('delete from class_answer_count where knot_id = $1', [knot]);
  });
}
