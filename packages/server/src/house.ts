/**
 * The house: its name and its rules.
 */
import type { House } from '@foxtrail/contract';
import type { Queryable } from './database.js';

/** The house, and whether the demo data is loaded. */
export async function house(db: Queryable): Promise<House & { demo: boolean }> {
  const found = await db.query<{ name: string; tail_diameters: number; tail_millimetres: number; demo: boolean }>(
    'select * from house',
  );
  const row = found.rows[0];
  if (!row) throw new Error('the house is missing from the database');
  return { name: row.name, tail: { diameters: row.tail_diameters, millimetres: row.tail_millimetres }, demo: row.demo };
}
