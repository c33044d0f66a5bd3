/**
 * What of a plan is written and not kept yet, in this browser: a tab that is closed, or a server that is away, loses none of it.
 */
import { planSchema, type Plan } from '@foxtrail/core/ropes';
import * as z from 'zod';

const draftSchema = z.object({ revision: z.number().int(), plan: planSchema });

/** A plan as it is written, and the revision it was written from. */
export interface PlanDraft {
  readonly revision: number;
  readonly plan: Plan;
}

const keyOf = (id: string): string => `plan ${id}`;

/** What is left of a plan; what cannot be read is no draft. */
export function planDraft(id: string): PlanDraft | undefined {
  const text = localStorage.getItem(keyOf(id));
  if (text === null) return undefined;
  try {
    const read = draftSchema.safeParse(JSON.parse(text));
    return read.success ? read.data : undefined;
  } catch {
    return undefined;
  }
}

export function leavePlanDraft(id: string, draft: PlanDraft): void {
  try {
    localStorage.setItem(keyOf(id), JSON.stringify(draft));
  } catch {
    // A browser without room keeps none; what is written is sent all the same.
  }
}

export const dropPlanDraft = (id: string): void => localStorage.removeItem(keyOf(id));
