/** Inspections of assemblies: recorded once, never changed. */
import { INSPECTIONS_LISTED, type InspectionRecord } from '@foxtrail/contract/assemblies';
import { inspectionVerdict, type Inspection } from '@foxtrail/core/assembly';
import { insertRow } from './columns.js';
import type { Queryable } from './database.js';
import { HttpProblem, notFound } from './problem.js';

interface Row {
  id: string;
  assembly_id: string | null;
  assembly_name: string;
  assembly_revision: number;
  inspected_by: string;
  inspected_at: Date;
  verdict: InspectionRecord['verdict'];
  items: InspectionRecord['items'];
  remarks: string;
}

const toRecord = (r: Row): InspectionRecord => ({
  id: r.id,
  assembly: r.assembly_id,
  name: r.assembly_name,
  revision: r.assembly_revision,
  by: r.inspected_by,
  at: r.inspected_at.toISOString(),
  verdict: r.verdict,
  items: r.items,
  remarks: r.remarks,
});

/** The latest inspections, of one assembly or of all. */
export async function inspectionsOf(db: Queryable, assembly: string | undefined): Promise<InspectionRecord[]> {
  const found = await db.query<Row>(
    `select * from inspection where $1::uuid is null or assembly_id = $1 order by inspected_at desc, id limit $2`,
    [assembly ?? null, INSPECTIONS_LISTED],
  );
  return found.rows.map(toRecord);
}

/** An inspection as an archive has it: by no id of this house. */
type Archived = Omit<InspectionRecord, 'id'>;

/** Every inspection, the first one first. */
export const allInspections = async (db: Queryable): Promise<InspectionRecord[]> =>
  (await db.query<Row>('select * from inspection order by inspected_at, id')).rows.map(toRecord);

/** Takes inspections of another house that are not here yet; how many those are. Looked at only, none is taken. */
export async function takeInspections(db: Queryable, list: readonly Archived[], takes: boolean): Promise<number> {
  const keyOf = ({ name, by, at }: Archived): string => JSON.stringify([name, by, Date.parse(at)]);
  const here = new Set((await allInspections(db)).map(keyOf));
  const fresh = list.filter((r) => !here.has(keyOf(r)));
  if (takes)
    for (const r of fresh)
      await insertRow(db, 'inspection', {
        assembly_id: r.assembly,
        assembly_name: r.name,
        assembly_revision: r.revision,
        inspected_by: r.by,
        inspected_at: r.at,
        verdict: r.verdict,
        items: JSON.stringify(r.items),
        remarks: r.remarks,
      });
  return fresh.length;
}

/** Records what was looked at and how it was found, of the revision that stands. */
export async function recordInspection(
  db: Queryable,
  assembly: string,
  by: string,
  { revision, items, remarks }: Inspection,
): Promise<InspectionRecord> {
  const found = await db.query<{ name: string; revision: number }>(
    'select name, revision from assembly where id = $1',
    [assembly],
  );
  const own = found.rows[0];
  if (!own) throw notFound('assembly');
  if (own.revision !== revision)
    throw new HttpProblem(
      412,
      'moved-on',
      'assembly',
      'The assembly was changed since the list was opened.',
      'Open the list anew, and look at what is changed.',
    );
  const { rows } = await insertRow<Row>(
    db,
    'inspection',
    {
      assembly_id: assembly,
      assembly_name: own.name,
      assembly_revision: revision,
      inspected_by: by,
      verdict: inspectionVerdict(items),
      items: JSON.stringify(items),
      remarks,
    },
    'returning *',
  );
  return toRecord(rows[0] as Row);
}
