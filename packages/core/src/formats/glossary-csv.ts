/**
 * A glossary as a table: one row for each name, what is said of the concept itself in its first row.
 */
import Papa from 'papaparse';
import {
  CONCEPT_KINDS,
  GLOSSARY_LIMITS,
  idFrom,
  LABEL_STATUSES,
  sameName,
  type Concept,
  type ConceptKind,
  type Glossary,
  type ConceptLabel,
  type LabelStatus,
  type School,
} from '../words/glossary.js';
import type { Incoming, RefusedLine } from '../words/merge.js';

export const GLOSSARY_COLUMNS = [
  'concept',
  'kind',
  'school',
  'status',
  'name',
  'reason',
  'everyday',
  'definition',
  'notes',
  'broader',
  'related',
] as const;
type Column = (typeof GLOSSARY_COLUMNS)[number];
type Row = Partial<Record<Column, string>>;

/** Ids inside one cell. */
const BETWEEN = ' ';

/** A glossary as CSV text, or the names of one school only. */
export function toGlossaryCsv({ schools, concepts }: Glossary, school?: string): string {
  const nameOf = (id: string | null): string => (id === null ? '' : (schools.find((s) => s.id === id)?.name ?? id));
  const rows = concepts.flatMap((c) =>
    c.labels
      .filter((l) => school === undefined || l.school === school || l.school === null)
      .map((l, i): Row => ({
        concept: c.id,
        kind: c.kind,
        school: nameOf(l.school),
        status: l.status,
        name: l.text,
        reason: l.reason ?? '',
        everyday: l.everyday === true ? 'yes' : '',
        ...(i === 0
          ? {
              definition: c.definition,
              notes: c.notes ?? '',
              broader: c.broader.join(BETWEEN),
              related: c.related.join(BETWEEN),
            }
          : {}),
      })),
  );
  // What a spreadsheet would take for a formula is written as text.
  return `${Papa.unparse({ fields: [...GLOSSARY_COLUMNS], data: rows.map((r) => GLOSSARY_COLUMNS.map((k) => r[k] ?? '')) }, { escapeFormulae: true, newline: '\n' })}\n`;
}

const one = <T extends string>(list: readonly T[], text: string): T | undefined =>
  list.find((x) => sameName(x) === sameName(text));

/** Reads a table of names. Only a concept and a name are needed in each row; rows that cannot be read are refused one by one. */
export function readGlossaryCsv(text: string): Incoming {
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (h) => sameName(h),
  });
  const refused: RefusedLine[] = [];
  const fields = parsed.meta.fields ?? [];
  for (const needed of ['concept', 'name'] as const)
    if (!fields.includes(needed))
      return {
        glossary: { schools: [], concepts: [] },
        refused: [
          {
            place: 'line 1',
            reason: `There is no column “${needed}”.`,
            remedy: `Give the table a heading with the columns ${GLOSSARY_COLUMNS.join(', ')}; “concept” and “name” are needed.`,
          },
        ],
      };
  const schools = new Map<string, School>();
  const concepts = new Map<string, { concept: Concept; labels: ConceptLabel[] }>();
  parsed.data.forEach((raw, i) => {
    const place = `line ${i + 2}`;
    const refuseRow = (reason: string, remedy: string): void => void refused.push({ place, reason, remedy });
    const row: Row = Object.fromEntries(
      GLOSSARY_COLUMNS.map((k) => [k, (typeof raw[k] === 'string' ? raw[k] : '').trim().replace(/^'(?=[=+\-@])/, '')]),
    );
    const name = row.name ?? '';
    const id = idFrom(row.concept ?? '');
    if (id === '') {
      refuseRow('It names no concept.', 'Give each row the concept its name is for.');
      return;
    }
    if (name === '') {
      refuseRow('It has no name.', 'Give each row a name, or leave it out.');
      return;
    }
    if (name.length > GLOSSARY_LIMITS.label) {
      refuseRow(`Its name has ${name.length} characters.`, `A name has ${GLOSSARY_LIMITS.label} at most.`);
      return;
    }
    if (/[<>]|\p{Cc}/u.test(name)) {
      refuseRow('Its name has marks that names do not have.', 'Use plain text.');
      return;
    }
    const status: LabelStatus | undefined =
      (row.status ?? '') === '' ? 'preferred' : one(LABEL_STATUSES, row.status ?? '');
    if (!status) {
      refuseRow(`“${row.status ?? ''}” is not a status.`, `Use one of ${LABEL_STATUSES.join(', ')}.`);
      return;
    }
    const kind: ConceptKind | undefined =
      (row.kind ?? '') === '' ? 'part of a rope' : one(CONCEPT_KINDS, row.kind ?? '');
    if (!kind) {
      refuseRow(`“${row.kind ?? ''}” is not a kind.`, `Use one of ${CONCEPT_KINDS.join(', ')}.`);
      return;
    }
    const school = row.school ?? '';
    const schoolId = idFrom(school);
    if (schoolId === '' && status !== 'misheard') {
      refuseRow('It does not say which school says so.', 'Name the school; only what is misheard needs none.');
      return;
    }
    if ((row.definition ?? '').length > GLOSSARY_LIMITS.definition) {
      refuseRow('Its definition is too long.', `A definition has ${GLOSSARY_LIMITS.definition} characters at most.`);
      return;
    }
    if (schoolId !== '') schools.set(schoolId, { id: schoolId, name: school, note: '' });
    const links = (cell: string | undefined): string[] =>
      (cell ?? '')
        .split(/[\s;,]+/)
        .map(idFrom)
        .filter((x) => x !== '');
    const known = concepts.get(id) ?? {
      concept: { id, kind, definition: '', broader: [], related: [], labels: [] },
      labels: [],
    };
    const notes = (row.notes ?? '') === '' ? known.concept.notes : row.notes;
    known.concept = {
      ...known.concept,
      definition: known.concept.definition === '' ? (row.definition ?? '') : known.concept.definition,
      ...(notes === undefined ? {} : { notes }),
      broader: [...new Set([...known.concept.broader, ...links(row.broader)])],
      related: [...new Set([...known.concept.related, ...links(row.related)])],
    };
    known.labels.push({
      school: schoolId === '' ? null : schoolId,
      status,
      text: name,
      ...((row.reason ?? '') === '' ? {} : { reason: row.reason }),
      ...(/^(?:yes|true|x|1)$/i.test(row.everyday ?? '') ? { everyday: true } : {}),
    });
    concepts.set(id, known);
    return undefined;
  });
  for (const e of parsed.errors)
    if (e.type === 'Quotes')
      refused.push({
        place: `line ${(e.row ?? 0) + 2}`,
        reason: 'A quotation mark is not closed.',
        remedy: 'Put cells that hold a quotation mark between quotation marks, and double it.',
      });
  return {
    glossary: {
      schools: [...schools.values()],
      concepts: [...concepts.values()].map(({ concept, labels }) => ({ ...concept, labels })),
    },
    refused,
  };
}
