/**
 * What Zod has against a file, as a refusal that names the first place.
 */
import type * as z from 'zod';
import { LIMITS } from '../figure/bounds.js';
import { refuse, type Refusal } from '../figure/refusal.js';
import { FIGURE_FORMAT } from './figure-schema.js';

const remedies: Record<string, string> = {
  format: `Give "format": "${FIGURE_FORMAT}".`,
  points: `Give at least two points [x, y] in rope diameters, ${LIMITS.points} at most.`,
  weave: 'Use one letter, O or U, for every crossing met along the rope.',
};

/** Where in the document, as a path a person can follow: `ropes[0].points[3]`. */
const sayPath = (path: readonly PropertyKey[]): string =>
  path
    .map((p) => (typeof p === 'number' ? `[${p}]` : `.${String(p)}`))
    .join('')
    .replace(/^\./, '') || 'the file';

/** A Zod error as a refusal that names the first place. */
export function refusalOf(error: z.ZodError): Refusal {
  const issue = error.issues[0];
  if (!issue) return refuse('the file', 'It cannot be read.', 'Check it against the published schema.');
  const field = [...issue.path].reverse().find((p) => typeof p === 'string');
  const more = error.issues.length > 1 ? ` (and ${error.issues.length - 1} more)` : '';
  return refuse(sayPath(issue.path), `${issue.message}${more}.`, remedies[String(field)] ?? 'Mend it and try again.');
}
