/**
 * Writing rows by the names of their columns: no position is counted by hand.
 */
import type pg from 'pg';
import type { Queryable } from './database.js';

/** A value that is worked out by the database: SQL with one `?` for a parameter. */
export class Expression {
  constructor(
    readonly sql: string,
    readonly parameter?: unknown,
  ) {}
}

export const NOW = new Expression('now()');

/** Columns and what is written into them; what is undefined is left as it is. */
export type Columns = Readonly<Record<string, unknown>>;

interface Placed {
  readonly names: string[];
  readonly values: string[];
  readonly parameters: unknown[];
}

function place(columns: Columns, first = 1): Placed {
  const placed: Placed = { names: [], values: [], parameters: [] };
  for (const [name, value] of Object.entries(columns)) {
    if (value === undefined) continue;
    placed.names.push(name);
    if (value instanceof Expression && !value.sql.includes('?')) {
      placed.values.push(value.sql);
      continue;
    }
    const at = `$${first + placed.parameters.length}`;
    placed.parameters.push(value instanceof Expression ? value.parameter : value);
    placed.values.push(value instanceof Expression ? value.sql.replaceAll('?', at) : at);
  }
  return placed;
}

/** Inserts a row. `after` is what follows its values: `on conflict do nothing returning id`. */
export function insertRow<R extends pg.QueryResultRow>(
  db: Queryable,
  table: string,
  columns: Columns,
  after = '',
): Promise<pg.QueryResult<R>> {
  const { names, values, parameters } = place(columns);
  return db.query<R>(`insert into ${table} (${names.join(', ')}) values (${values.join(', ')}) ${after}`, parameters);
}

/** Changes the rows that have these values. */
export function updateRows(db: Queryable, table: string, columns: Columns, where: Columns): Promise<pg.QueryResult> {
  const set = place(columns);
  const which = place(where, 1 + set.parameters.length);
  return db.query(
    `update ${table} set ${set.names.map((n, i) => `${n} = ${set.values[i] ?? ''}`).join(', ')}
      where ${which.names.map((n, i) => `${n} = ${which.values[i] ?? ''}`).join(' and ')}`,
    [...set.parameters, ...which.parameters],
  );
}
