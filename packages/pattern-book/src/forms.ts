/**
 * The patterns as they lie in the hand, computed once: `npm run forms` writes them, a spec sets some anew and compares. Apart from the
 * book itself, as few need them.
 */
import type { SetForm } from '@foxtrail/core';
import { readForm } from '@foxtrail/core/form';
import FORMS from './forms.json' with { type: 'json' };

const known = new Map<string, SetForm>();

/** A pattern as it lies in the hand, by its address in the book; nothing for a pattern that is not in it. */
export function patternForm(id: string): SetForm | undefined {
  const content = (FORMS as Readonly<Record<string, unknown>>)[id];
  if (content === undefined) return undefined;
  const found = known.get(id);
  if (found) return found;
  const read = readForm(content);
  if (!read.ok) throw new Error(`form of ${id}: ${read.place}: ${read.reason}`);
  known.set(id, read.value);
  return read.value;
}
