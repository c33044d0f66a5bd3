/**
 * Text that no database keeps and no page shows: characters of nothing, halves of characters; and data nested deeper than anything of ours.
 */
import { refuse, type Refusal } from '@foxtrail/core';

/** Nothing that we read is nested so deep. */
const DEEPEST = 64;

/** What is wrong with the text of some data, where it is, and how to mend it; nothing where it can be kept. */
export function oddText(data: unknown): Refusal | undefined {
  const waiting: { readonly value: unknown; readonly place: string; readonly depth: number }[] = [
    { value: data, place: '', depth: 0 },
  ];
  for (let item = waiting.pop(); item !== undefined; item = waiting.pop()) {
    const { value, place, depth } = item;
    if (typeof value === 'string') {
      const trouble = ofText(value);
      if (trouble !== undefined) return refuse(place === '' ? 'request' : place, trouble, 'Take it out and try again.');
    } else if (typeof value === 'object' && value !== null) {
      if (depth >= DEEPEST)
        return refuse(
          place,
          `It is nested deeper than ${DEEPEST} times.`,
          'Nothing that is read here is: check the file.',
        );
      for (const [key, inner] of Object.entries(value)) {
        const trouble = ofText(key);
        if (trouble !== undefined)
          return refuse(place === '' ? 'request' : place, `A name in it: ${trouble}`, 'Take it out and try again.');
        const at = Array.isArray(value) ? `${place}[${key}]` : place === '' ? key : `${place}.${key}`;
        if (typeof inner === 'string' || typeof inner === 'object')
          waiting.push({ value: inner, place: at, depth: depth + 1 });
      }
    }
  }
  return undefined;
}

function ofText(text: string): string | undefined {
  if (text.includes('\0')) return 'There is a character in it that is none (NUL).';
  return /\p{Surrogate}/u.test(text) ? 'There is half of a character in it (a lone surrogate).' : undefined;
}
