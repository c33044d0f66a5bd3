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

/** Inserts a row, or writes over the one of the same key: every column but the key's. `also` is written only over it. */
export function putRow(
  db: Queryable,
  table: string,
  key: Columns,
  columns: Columns,
  also: Columns = {},
): Promise<pg.QueryResult> {
  const { names, values, parameters } = place({ ...key, ...columns });
  const over = place(also, 1 + parameters.length);
  const kept = Object.keys(columns).filter((name) => names.includes(name));
  const set = [
    ...kept.map((n) => `${n} = excluded.${n}`),
    ...over.names.map((n, i) => `${n} = ${over.values[i] ?? ''}`),
  ];
  return db.query(
    `insert into ${table} (${names.join(', ')}) values (${values.join(', ')})
       on conflict (${Object.keys(key).join(', ')}) do update set ${set.join(', ')}`,
    [...parameters, ...over.parameters],
  );
}

/** Inserts many rows at once. `types` are the columns and their types in the database; what a row lacks is null. */
export function insertRows(
  db: Queryable,
  table: string,
  types: Readonly<Record<string, string>>,
  rows: readonly Columns[],
  after = '',
): Promise<pg.QueryResult> {
  const names = Object.keys(types).join(', ');
  const typed = Object.entries(types).map(([name, type]) => `${name} ${type}`);
  return db.query(
    `insert into ${table} (${names}) select ${names} from jsonb_to_recordset($1::jsonb) as r (${typed.join(', ')}) ${after}`,
    [JSON.stringify(rows)],
  );
}

/** Changes the rows that have these values; without any, every row. */
export function updateRows(
  db: Queryable,
  table: string,
  columns: Columns,
  where: Columns = {},
): Promise<pg.QueryResult> {
  const set = place(columns);
  const which = place(where, 1 + set.parameters.length);
  const those = which.names.map((n, i) => `${n} = ${which.values[i] ?? ''}`);
  return db.query(
    `update ${table} set ${set.names.map((n, i) => `${n} = ${set.values[i] ?? ''}`).join(', ')}
      ${those.length === 0 ? '' : `where ${those.join(' and ')}`}`,
    [...set.parameters, ...which.parameters],
  );
}
