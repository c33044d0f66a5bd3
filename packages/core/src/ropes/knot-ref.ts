/** A knot that a rope, a tie or a test is of: one of the shelf by `knot:` and its id, one of the book by `pattern:` and its id. */
import * as z from 'zod';

/** What is left where a knot was removed: its name stays beside it. */
export const GONE = 'gone';

export const knotRefSchema = z
  .string()
  .regex(
    /^(?:knot:[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}|pattern:[a-z0-9-]{1,60}|gone)$/,
    'name a knot by “knot:” and its id, or a pattern by “pattern:” and its id',
  );
