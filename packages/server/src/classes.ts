/** Classes of learners: their codes, and who guesses at them. */
import { CODE_LENGTH, CODE_LETTERS } from '@foxtrail/contract/class-code';
import { CLASSES_MOST, codeSchema, GUESSES_LET, type LearnerClass } from '@foxtrail/contract/classes';
import { randomInt } from 'node:crypto';
import type pg from 'pg';
import { Allowance } from './allowance.js';
import { insertRow } from './columns.js';
import { transaction, type Queryable } from './database.js';
import { HttpProblem, notFound } from './problem.js';

export async function listClasses(db: Queryable): Promise<LearnerClass[]> {
  const { rows } = await db.query<LearnerClass>(
    `select c.id, c.name, c.code, c.course_id as course,
            coalesce((select sum(right_count + wrong_count) from class_answer_count where class_id = c.id), 0)::int as answers
       from learner_class c order by lower(c.name), c.id`,
  );
  return rows;
}

const freshCode = (): string =>
  Array.from({ length: CODE_LENGTH }, () => CODE_LETTERS[randomInt(CODE_LETTERS.length)]).join('');

export async function makeClass(pool: pg.Pool, name: string, course: string): Promise<LearnerClass> {
  return transaction(pool, async (client) => {
    await client.query('lock table learner_class in share row exclusive mode');
    const known = await client.query('select 1 from course where id = $1', [course]);
    if (known.rowCount === 0) throw notFound('course');
    const { rows: counted } = await client.query<{ n: number }>('select count(*)::int as n from learner_class');
    if ((counted[0]?.n ?? 0) >= CLASSES_MOST)
      throw new HttpProblem(
        409,
        'too-many',
        'class',
        `A house has ${CLASSES_MOST} classes at most.`,
        'Remove those that are over.',
      );
    const { rows } = await insertRow<{ id: string; code: string }>(
      client,
      'learner_class',
      { name, code: freshCode(), course_id: course },
      'returning id, code',
    );
    return { id: rows[0]!.id, name, code: rows[0]!.code, course, answers: 0 };
  });
}

export async function removeClass(db: Queryable, id: string): Promise<void> {
  const gone = await db.query('delete from learner_class where id = $1', [id]);
  if (gone.rowCount === 0) throw notFound('class');
}

const guesses = new Allowance(GUESSES_LET.count, GUESSES_LET.minutes);

/** The class of a code. Whoever guesses too often is not answered for a while, rightly or not. */
export async function classOf(
  db: Queryable,
  address: string,
  code: string,
  now = Date.now(),
): Promise<{ readonly id: string; readonly name: string }> {
  const wait = guesses.wait(address, now);
  const tooMany = (ms: number): HttpProblem =>
    new HttpProblem(
      429,
      'too-many-guesses',
      'code',
      'So many codes that are none were tried from here.',
      'Ask your teacher for the code, and try it again later.',
      {},
      { 'Retry-After': String(Math.ceil(ms / 1000)) },
    );
  if (wait !== undefined) throw tooMany(wait);
  const { rows } = codeSchema.safeParse(code).success
    ? await db.query<{ id: string; name: string }>('select id, name from learner_class where code = $1', [code])
    : { rows: [] };
  const own = rows[0];
  if (own) return own;
  const full = guesses.spend(address, 1, now);
  if (full !== undefined) throw tooMany(full);
  throw new HttpProblem(
    404,
    'no-such-class',
    'code',
    'No class has this code.',
    'Look at it once more: it has eight letters and digits.',
  );
}
