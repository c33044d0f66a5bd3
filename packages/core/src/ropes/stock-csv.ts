/**
 * Rope stock as a table. Read as people keep it: the delimiter is found, lines above the heading are passed over, columns go by several
 * names and may name their unit, cells hold lengths as they are written. Every line is told what becomes of it before anything is taken.
 */
import Papa from 'papaparse';
import { CONSTRUCTIONS, STIFFNESSES } from '../figure/cordage.js';
import { sayRefusal, type Result } from '../figure/refusal.js';
import { CONDITIONS, MATERIALS, stockRopeSchema, STRETCHES, type StockRope } from './stock.js';
import { readForce, readLength, sayMm } from './units.js';

export const STOCK_COLUMNS = [
  'name',
  'construction',
  'material',
  'diameter',
  'thickness',
  'stretch',
  'breaking load',
  'source',
  'knotted',
  'condition',
  'in service',
  'retires',
  'pieces',
  'colour',
  'second colour',
  'mark',
  'stiffness',
  'remarks',
] as const;
type Column = (typeof STOCK_COLUMNS)[number];

/** Other headings that mean a column. */
const ALSO: Readonly<Record<string, Column>> = {
  rope: 'name',
  item: 'name',
  description: 'name',
  type: 'construction',
  fibre: 'material',
  fiber: 'material',
  dia: 'diameter',
  width: 'diameter',
  size: 'diameter',
  mbl: 'breaking load',
  mbs: 'breaking load',
  strength: 'breaking load',
  'breaking strength': 'breaking load',
  'knot keeps': 'knotted',
  'knotted strength': 'knotted',
  'in service since': 'in service',
  'in service date': 'in service',
  retirement: 'retires',
  'retirement date': 'retires',
  length: 'pieces',
  lengths: 'pieces',
  color: 'colour',
  tracer: 'second colour',
  'second color': 'second colour',
  handling: 'stiffness',
  note: 'remarks',
  notes: 'remarks',
};

interface Heading {
  readonly column: Column;
  /** As in “diameter (mm)”: for cells that are bare numbers. */
  readonly unit: string;
}

function headingOf(text: string): Heading | undefined {
  const found = /^(.*?)\s*(?:[([]\s*([a-z]+)\s*[)\]])?$/i.exec(text.trim().replace(/[_\s]+/g, ' '));
  const name = (found?.[1] ?? '').toLowerCase();
  const column = (STOCK_COLUMNS as readonly string[]).includes(name) ? (name as Column) : ALSO[name];
  return column && { column, unit: found?.[2] ?? '' };
}

const DELIMITERS = [',', ';', '\t', '|'] as const;
/** How many lines above the heading are passed over at most. */
const ABOVE = 12;

/** What becomes of a line. */
export interface StockLine {
  /** The line of the file, from 1. */
  readonly line: number;
  readonly becomes: 'new' | 'changed' | 'there already' | 'refused';
  readonly name: string;
  /** Why it is refused, or what changes. */
  readonly why: string;
  readonly rope?: StockRope | undefined;
}
export interface StockReport {
  /** What separates its cells: “,”, “;”, a tab. */
  readonly delimiter: string;
  readonly lines: readonly StockLine[];
  /** Headings that are not known, and are passed over. */
  readonly unknown: readonly string[];
  /** Why nothing of it can be read. */
  readonly trouble?: string | undefined;
}

const none = (delimiter: string, trouble: string): StockReport => ({ delimiter, lines: [], unknown: [], trouble });

/** A number without its unit. */
const bare = /^\d+(?:[.,]\d+)?$/;

/** Pieces as they are written, “2 x 60 m; 35 m”, in millimetres; `unit` is that of bare numbers. */
export function readPieces(text: string, unit = ''): Result<number[]> {
  const out: number[] = [];
  for (const part of text.split(/[;+\n]|,\s/).map((p) => p.trim())) {
    if (part === '') continue;
    const times = /^(\d{1,2})\s*[x×]\s*(.+)$/i.exec(part);
    const length = readLength(withUnit(times?.[2] ?? part, unit));
    if (!length.ok) return length;
    for (let k = 0; k < Number(times?.[1] ?? 1); k += 1) out.push(Math.round(length.value.mm));
  }
  return { ok: true, value: out };
}

const withUnit = (text: string, unit: string): string =>
  bare.test(text.trim()) && unit !== '' ? `${text.trim()} ${unit}` : text;

/** What spreadsheets are kept from taking for a formula. */
const unescaped = (text: string): string => text.trim().replace(/^'(?=[=+\-@])/, '');

interface Table {
  readonly delimiter: string;
  readonly rows: readonly string[][];
  /** The row that heads it, and how many of its columns are known. */
  readonly at: number;
  readonly known: number;
}

/** The table as it is cut by the delimiter that makes the most headings known. */
function tableIn(text: string): Table {
  const tables = DELIMITERS.map((delimiter): Table => {
    const rows = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { delimiter }).data;
    const known = rows.slice(0, ABOVE).map((row) => {
      const columns = new Set(row.flatMap((cell) => headingOf(cell)?.column ?? []));
      return columns.has('name') ? columns.size : 0;
    });
    const most = Math.max(0, ...known);
    return { delimiter, rows, at: known.indexOf(most), known: most };
  });
  return tables.reduce((best, t) => (t.known > best.known ? t : best));
}

/** Reads a table of ropes, against those that are there already (by name). */
export function readStockCsv(text: string, present: readonly StockRope[] = []): StockReport {
  if (text.trim() === '') return none(',', 'The file is empty.');
  const { delimiter, rows, at, known: columns } = tableIn(text);
  if (columns < 2)
    return none(
      delimiter,
      `No line of it heads a table of ropes. Name its columns, at least “name” and “diameter”: ${STOCK_COLUMNS.join(', ')}.`,
    );
  const cells = rows[at]!;
  const headings = cells.map(headingOf);
  const unknown = cells.filter((cell, i) => headings[i] === undefined && cell.trim() !== '').map((c) => c.trim());
  const lines: StockLine[] = [];
  const taken = new Set<string>();
  const known = new Map(present.map((r) => [r.name.toLowerCase(), r]));
  rows.forEach((row, i) => {
    if (i <= at || row.every((cell) => cell.trim() === '')) return;
    const read = readRow(row, headings, known);
    const line = i + 1;
    const name = read.name;
    if (!read.ok) return void lines.push({ line, becomes: 'refused', name, why: read.why });
    const key = read.rope.name.toLowerCase();
    if (taken.has(key))
      return void lines.push({
        line,
        becomes: 'refused',
        name,
        why: 'A line above has the same name: give it another.',
      });
    taken.add(key);
    const was = known.get(key);
    const changes = was ? changesOf(was, read.rope) : [];
    return void lines.push({
      line,
      becomes: !was ? 'new' : changes.length > 0 ? 'changed' : 'there already',
      name,
      why: changes.length > 0 ? `changes ${changes.join(', ')}` : '',
      rope: read.rope,
    });
  });
  return { delimiter, lines, unknown, trouble: lines.length === 0 ? 'Nothing stands below its heading.' : undefined };
}

type RowRead =
  | { readonly ok: true; readonly name: string; readonly rope: StockRope }
  | { readonly ok: false; readonly name: string; readonly why: string };

const lower = (text: string): string => text.toLowerCase();
const oneOf = <T extends string>(list: readonly T[], text: string): T | undefined =>
  list.find((x) => lower(x) === lower(text));

/** What a column is called in a rope. */
const KEYS = {
  name: 'name',
  construction: 'construction',
  material: 'material',
  diameter: 'diameterMm',
  thickness: 'thicknessMm',
  stretch: 'stretch',
  'breaking load': 'breakingKn',
  source: 'source',
  knotted: 'knottedShare',
  condition: 'condition',
  'in service': 'inService',
  retires: 'retires',
  pieces: 'pieces',
  colour: 'colour',
  'second colour': 'second',
  mark: 'mark',
  stiffness: 'stiffness',
  remarks: 'remarks',
} as const satisfies Record<Column, keyof StockRope>;

/** A row as a rope. Of one that is there already, by name, what the table has no column for stays as it is. */
function readRow(
  row: readonly string[],
  headings: readonly (Heading | undefined)[],
  known: ReadonlyMap<string, StockRope>,
): RowRead {
  const cellOf = (column: Column): { text: string; unit: string } => {
    const i = headings.findIndex((h) => h?.column === column);
    return { text: unescaped(row[i] ?? ''), unit: headings[i]?.unit ?? '' };
  };
  const name = cellOf('name').text;
  const out: Record<string, unknown> = { name };
  const troubles: string[] = [];
  const word = (column: Column, key: string, list: readonly string[]): void => {
    const { text } = cellOf(column);
    if (text === '') return;
    const found = oneOf(list, text);
    if (found === undefined) troubles.push(`${column}: “${text}” is none of ${list.join(', ')}.`);
    else out[key] = found;
  };
  const length = (column: Column, key: string): void => {
    const { text, unit } = cellOf(column);
    if (text === '') return;
    const read = readLength(withUnit(text, unit === '' ? 'mm' : unit));
    if (read.ok) out[key] = Math.round(read.value.mm * 100) / 100;
    else troubles.push(`${column}: ${read.reason} ${read.remedy}`);
  };
  word('construction', 'construction', CONSTRUCTIONS);
  word('material', 'material', MATERIALS);
  length('diameter', 'diameterMm');
  length('thickness', 'thicknessMm');
  word('stretch', 'stretch', STRETCHES);
  word('condition', 'condition', CONDITIONS);
  word('mark', 'mark', ['tracer', 'two-tone']);
  word('stiffness', 'stiffness', STIFFNESSES);
  const load = cellOf('breaking load');
  if (load.text !== '') {
    const read = readForce(withUnit(load.text, load.unit === '' ? 'kN' : load.unit));
    if (read.ok) out.breakingKn = read.value.kn;
    else troubles.push(`breaking load: ${sayRefusal({ ...read, place: '' }).replace(/^: /, '')}`);
  }
  const knotted = cellOf('knotted').text;
  if (knotted !== '') {
    const percent = /^(\d{1,3}(?:[.,]\d+)?)\s*%?$/.exec(knotted)?.[1];
    if (percent === undefined) troubles.push(`knotted: “${knotted}” is no share of its strength. Write it as 65 %.`);
    else out.knottedShare = Math.round(100 * Number(percent.replace(',', '.'))) / 10_000;
  }
  const pieces = cellOf('pieces');
  if (pieces.text !== '') {
    const read = readPieces(pieces.text, pieces.unit === '' ? 'm' : pieces.unit);
    if (read.ok) out.pieces = read.value;
    else troubles.push(`pieces: ${read.reason} ${read.remedy}`);
  }
  for (const [column, key] of [
    ['source', 'source'],
    ['in service', 'inService'],
    ['retires', 'retires'],
    ['colour', 'colour'],
    ['second colour', 'second'],
    ['remarks', 'remarks'],
  ] as const) {
    const { text } = cellOf(column);
    if (text !== '') out[key] = text;
  }
  if (out.diameterMm === undefined && troubles.length === 0) troubles.push('It has no diameter.');
  if (troubles.length > 0) return { ok: false, name, why: troubles.join(' ') };
  const was = known.get(name.toLowerCase());
  const kept = STOCK_COLUMNS.filter((c) => !headings.some((h) => h?.column === c)).map((c) => KEYS[c]);
  const rope = stockRopeSchema.safeParse({
    ...(was && Object.fromEntries(kept.map((key) => [key, was[key]]))),
    ...out,
  });
  if (rope.success) return { ok: true, name, rope: rope.data };
  return { ok: false, name, why: rope.error.issues.map((i) => `${String(i.path[0] ?? '')}: ${i.message}.`).join(' ') };
}

/** The columns in which two ropes differ. */
function changesOf(was: StockRope, now: StockRope): string[] {
  const [a, b] = [cellsOf(was), cellsOf(now)];
  return STOCK_COLUMNS.filter((c) => a[c] !== b[c]);
}

/** Pieces as they are written: “2 x 60 m; 35 m”. */
export function sayPieces(pieces: readonly number[]): string {
  const counted = new Map<number, number>();
  for (const mm of pieces) counted.set(mm, (counted.get(mm) ?? 0) + 1);
  return [...counted]
    .map(([mm, n]) => `${n > 1 ? `${n} x ` : ''}${sayMm(mm, mm % 10 === 0 && mm >= 1000 ? 'm' : 'mm')}`)
    .join('; ');
}

const cellsOf = (r: StockRope): Record<Column, string> => ({
  name: r.name,
  construction: r.construction,
  material: r.material,
  diameter: `${r.diameterMm} mm`,
  thickness: r.thicknessMm === null ? '' : `${r.thicknessMm} mm`,
  stretch: r.stretch ?? '',
  'breaking load': r.breakingKn === null ? '' : `${r.breakingKn} kN`,
  source: r.source,
  knotted: r.knottedShare === null ? '' : `${Math.round(10_000 * r.knottedShare) / 100} %`,
  condition: r.condition,
  'in service': r.inService ?? '',
  retires: r.retires ?? '',
  pieces: sayPieces(r.pieces),
  colour: r.colour,
  'second colour': r.second ?? '',
  mark: r.mark ?? '',
  stiffness: r.stiffness,
  remarks: r.remarks,
});

/** The stock as CSV text. */
export const toStockCsv = (ropes: readonly StockRope[]): string =>
  `${Papa.unparse(
    { fields: [...STOCK_COLUMNS], data: ropes.map((r) => STOCK_COLUMNS.map((c) => cellsOf(r)[c])) },
    { escapeFormulae: true, newline: '\n' },
  )}\n`;
