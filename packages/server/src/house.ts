/**
 * The house: its name and the rules it keeps to.
 */
import type { House, HouseChange } from '@foxtrail/contract';
import { choiceOf, practiceSchema, vocabularyOf, WORKSHOP_PRACTICE, type HousePractice } from '@foxtrail/core';
import type pg from 'pg';
import { transaction, type Queryable } from './database.js';
import { wordStock } from './words.js';

/** The rules as they are stored; one that no longer fits its rule counts as unchanged. */
export async function housePractice(db: Queryable): Promise<HousePractice> {
  const [own, rules] = [
    await db.query<{ practice_school: string }>('select practice_school from house'),
    await db.query<{ rule_id: string; value: unknown; reason: string }>(
      'select rule_id, value, reason from house_rule',
    ),
  ];
  const changes = Object.fromEntries(rules.rows.map((r) => [r.rule_id, { value: r.value, reason: r.reason }]));
  const read = practiceSchema.safeParse({ school: own.rows[0]?.practice_school, changes });
  if (read.success) return read.data;
  const fitting = Object.fromEntries(
    Object.entries(changes).filter(
      ([id, change]) => practiceSchema.safeParse({ school: 'workshop', changes: { [id]: change } }).success,
    ),
  );
  const school = practiceSchema.safeParse({ school: own.rows[0]?.practice_school, changes: {} });
  return { ...WORKSHOP_PRACTICE, ...(school.success ? school.data : {}), changes: fitting as HousePractice['changes'] };
}

/** The house, and whether the demo data is loaded. */
export async function house(db: Queryable): Promise<House & { demo: boolean }> {
  const found = await db.query<{ name: string; demo: boolean }>('select name, demo from house');
  const row = found.rows[0];
  const { glossary, choice } = await wordStock(db);
  if (!row) throw new Error('the house is missing from the database');
  const practice = await housePractice(db);
  return {
    name: row.name,
    classSchool: choiceOf(practice, 'class-words') === 'general' ? 'general' : 'strict',
    practice,
    vocabulary: vocabularyOf(glossary, choice),
    demo: row.demo,
  };
}

/** Changes the house's name and its rules. */
export async function changeHouse(pool: pg.Pool, { name, practice }: HouseChange): Promise<House> {
  await transaction(pool, async (client) => {
    await client.query('update house set name = $1, practice_school = $2', [name, practice.school]);
    await client.query('delete from house_rule');
    for (const [id, { value, reason }] of Object.entries(practice.changes))
      await client.query('insert into house_rule (rule_id, value, reason) values ($1, $2, $3)', [
        id,
        JSON.stringify(value),
        reason,
      ]);
  });
  const { demo: _demo, ...changed } = await house(pool);
  return changed;
}
