/**
 * What of a plan or an assembly is written and not kept yet, in this browser: a tab that is closed, or a server that is away, loses none of it.
 */
import { KEPT_KINDS, type KeptValue } from '@foxtrail/contract/ropes';
import * as z from 'zod';

/** Kinds that are written over a while, and kept as they are. */
export type DraftedKind = 'plans' | 'assemblies' | 'courses';

/** A document as it is written, and the revision it was written from. */
export interface LeftDraft<K extends DraftedKind> {
  readonly revision: number;
  readonly is: KeptValue<K>;
}

const keyOf = (kind: DraftedKind, id: string): string => `${KEPT_KINDS[kind].one} ${id}`;

/** What is left of a document; what cannot be read is no draft. */
export function leftDraft<K extends DraftedKind>(kind: K, id: string): LeftDraft<K> | undefined {
  const text = localStorage.getItem(keyOf(kind, id));
  if (text === null) return undefined;
  try {
    // Before there were assemblies, what was left of a plan was called so.
    const { plan, ...left } = JSON.parse(text) as Record<string, unknown>;
    const read = z.object({ revision: z.number().int(), is: KEPT_KINDS[kind].shape }).safeParse({ is: plan, ...left });
    return read.success ? (read.data as LeftDraft<K>) : undefined;
  } catch {
    return undefined;
  }
}

export function leaveDraft<K extends DraftedKind>(kind: K, id: string, draft: LeftDraft<K>): void {
  try {
    localStorage.setItem(keyOf(kind, id), JSON.stringify(draft));
  } catch {
    // A browser without room keeps none; what is written is sent all the same.
  }
}

export const dropDraft = (kind: DraftedKind, id: string): void => localStorage.removeItem(keyOf(kind, id));
