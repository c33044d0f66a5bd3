/** What was ticked of an inspection and is not recorded yet, in this browser. */
import { TICKS, type Tick } from '@foxtrail/core/assembly';
import * as z from 'zod';

const leftSchema = z.object({
  revision: z.number().int(),
  ticks: z.record(z.string(), z.enum(TICKS)),
  remarks: z.string(),
});
export interface LeftTicks {
  readonly revision: number;
  readonly ticks: Readonly<Record<string, Tick>>;
  readonly remarks: string;
}

const keyOf = (id: string): string => `inspection ${id}`;

/** What was ticked of a revision; of another one nothing counts. */
export function readTicks(id: string, revision: number): LeftTicks {
  const none: LeftTicks = { revision, ticks: {}, remarks: '' };
  try {
    const read = leftSchema.safeParse(JSON.parse(localStorage.getItem(keyOf(id)) ?? 'null'));
    return read.success && read.data.revision === revision ? read.data : none;
  } catch {
    return none;
  }
}

export function leaveTicks(id: string, left: LeftTicks): void {
  try {
    localStorage.setItem(keyOf(id), JSON.stringify(left));
  } catch {
    // A browser without room keeps none: they are on the screen.
  }
}

export const dropTicks = (id: string): void => localStorage.removeItem(keyOf(id));
