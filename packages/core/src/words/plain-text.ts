/**
 * What a name and a line of text may hold, for every reader: plain text, one line, of a bounded length.
 */
import * as z from 'zod';

export const NAME_LIMIT = 80;

// eslint-disable-next-line no-control-regex -- names are one line of plain text
const plain = /^[^<>\u0000-\u001f]*$/;
export const plainText = (max: number): z.ZodString =>
  z.string().trim().max(max).regex(plain, 'plain text only: no markup and no control characters');

/** A knot's name: one line of plain text. */
export const nameSchema = plainText(NAME_LIMIT).min(1, 'a name is needed');

/** A concept's or a school's id: lower-case words joined by hyphens. */
export const conceptId = z
  .string()
  .regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'an id is lower-case words joined by hyphens')
  .max(60);
