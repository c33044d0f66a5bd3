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
