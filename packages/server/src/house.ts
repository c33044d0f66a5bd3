/**
 * The house: its name and its rules.
 */
import type { House, HouseChange } from '@foxtrail/contract';
import { vocabularyOf } from '@foxtrail/core';
import type { Queryable } from './database.js';
import { wordStock } from './words.js';

/** The house, and whether the demo data is loaded. */
export async function house(db: Queryable): Promise<House & { demo: boolean }> {
  const found = await db.query<{
    name: string;
    tail_diameters: number;
    tail_millimetres: number;
    demo: boolean;
    class_school: House['classSchool'];
  }>('select * from house');
  const row = found.rows[0];
  const { glossary, choice } = await wordStock(db);
  if (!row) throw new Error('the house is missing from the database');
  return {
    name: row.name,
    classSchool: row.class_school,
    tail: { diameters: row.tail_diameters, millimetres: row.tail_millimetres },
    vocabulary: vocabularyOf(glossary, choice),
    demo: row.demo,
  };
}

/** Changes the house's name and its words for classes. */
export async function changeHouse(db: Queryable, { name, classSchool }: HouseChange): Promise<House> {
  await db.query('update house set name = $1, class_school = $2', [name, classSchool]);
  const { demo: _demo, ...changed } = await house(db);
  return changed;
}
