/**
 * The house: its name and the rules it keeps to.
 */
import type { House, HouseChange } from '@foxtrail/contract';
import { choiceOf, practiceSchema, vocabularyOf, WORKSHOP_PRACTICE, type HousePractice } from '@foxtrail/core';
import type pg from 'pg';
import { Expression, insertRow, updateRows } from './columns.js';
import { transaction, type Queryable } from './database.js';
import { HttpProblem } from './problem.js';
import { wordStock } from './words.js';

/** The rules of the house at their revision. */
export interface HouseRules {
  readonly practice: HousePractice;
  readonly revision: number;
}

/** The rules as they are stored; one that no longer fits its rule counts as unchanged. */
export async function houseRules(db: Queryable): Promise<HouseRules> {
  const own = await db.query<{ practice_school: string; practice_revision: number }>(
    'select practice_school, practice_revision from house',
  );
  const row = own.rows[0];
  if (!row) throw new Error('the house is missing from the database');
  return { practice: await practiceOf(db, row.practice_school), revision: row.practice_revision };
}

export const housePractice = async (db: Queryable): Promise<HousePractice> => (await houseRules(db)).practice;

async function practiceOf(db: Queryable, begunFrom: string): Promise<HousePractice> {
  const rules = await db.query<{ rule_id: string; value: unknown; reason: string }>(
    'select rule_id, value, reason from house_rule',
  );
  const changes = Object.fromEntries(rules.rows.map((r) => [r.rule_id, { value: r.value, reason: r.reason }]));
  const read = practiceSchema.safeParse({ school: begunFrom, changes });
  if (read.success) return read.data;
  const fitting = Object.fromEntries(
    Object.entries(changes).filter(
      ([id, change]) => practiceSchema.safeParse({ school: 'workshop', changes: { [id]: change } }).success,
    ),
  );
  const school = practiceSchema.safeParse({ school: begunFrom, changes: {} });
  return { ...WORKSHOP_PRACTICE, ...(school.success ? school.data : {}), changes: fitting as HousePractice['changes'] };
}

/** The house, and whether the demo data is loaded. */
export async function house(db: Queryable): Promise<House & { demo: boolean }> {
  const found = await db.query<{ name: string; demo: boolean }>('select name, demo from house');
  const row = found.rows[0];
  const { glossary, choice } = await wordStock(db);
  if (!row) throw new Error('the house is missing from the database');
  const { practice, revision } = await houseRules(db);
  return {
    name: row.name,
    revision,
    classSchool: choiceOf(practice, 'class-words') === 'general' ? 'general' : 'strict',
    practice,
    vocabulary: vocabularyOf(glossary, choice),
    demo: row.demo,
  };
}

/** Changes the house's name and its rules, made from their revision; knots are counted anew after it. */
export async function changeHouse(pool: pg.Pool, { name, practice, revision }: HouseChange): Promise<House> {
  await transaction(pool, async (client) => {
    const changed = await updateRows(
      client,
      'house',
      { name, practice_school: practice.school, practice_revision: new Expression('practice_revision + 1') },
      { practice_revision: revision },
    );
    if (changed.rowCount === 0)
      throw new HttpProblem(
        412,
        'rules-moved-on',
        'house',
        'Somebody changed the rules while you worked on them.',
        'Look at theirs, or put yours in their place.',
      );
    await client.query('delete from house_rule');
    for (const [id, { value, reason }] of Object.entries(practice.changes))
      await insertRow(client, 'house_rule', { rule_id: id, value: JSON.stringify(value), reason });
  });
  const { demo: _demo, ...changed } = await house(pool);
  return changed;
}
