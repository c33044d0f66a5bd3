/**
 * What earlier files showed of a knot: marks of the card by the ids that were computed for them, wrong ways by the numbers of their
 * crossings, both in the entry. They are read as of the drawing that the file holds, which is the one they were chosen on.
 */
import * as z from 'zod';
import { placeOfCrossing } from '../figure/crossing-place.js';
import { crossingsOf } from '../figure/crossings.js';
import { placeOfMark, singleMarks } from '../dressing/inspection.js';
import { EXHIBIT_LIMIT, MARK_LIMIT, type Exhibit, type Shown } from '../dressing/shown.js';
import { finishedFigure, finishedLayout, layoutsOf, type Method } from '../tying/method.js';
import { WORKSHOP_WORDS } from '../words/vocabulary.js';

const earlierSchema = z.object({
  inspection: z.array(z.string().max(60)).max(MARK_LIMIT).default([]),
  exhibits: z
    .array(z.object({ crossings: z.array(z.number().int().min(1)).min(1).max(2), becomes: z.string().max(160) }))
    .max(EXHIBIT_LIMIT)
    .default([]),
});

function shownBy(method: Method, { inspection, exhibits }: z.output<typeof earlierSchema>): Shown {
  const figure = finishedFigure(method);
  const all = inspection.length > 0 ? singleMarks(figure, WORKSHOP_WORDS) : [];
  const marks = inspection.flatMap((id) => all.find((m) => m.id === id) ?? []).map(placeOfMark);
  const crossings = crossingsOf(figure);
  const wrongWays = exhibits.flatMap((e): Exhibit[] => {
    const own = e.crossings.flatMap((n) => crossings[n - 1] ?? []);
    return own.length === e.crossings.length ? [{ crossings: own.map(placeOfCrossing), becomes: e.becomes }] : [];
  });
  return {
    ...(marks.length > 0 ? { marks } : {}),
    ...(wrongWays.length > 0 ? { exhibits: wrongWays } : {}),
  };
}

/** An entry without what earlier files kept there, and the method that shows it at its own places. */
export function takeEarlierShown<E extends object>(
  entry: E,
  method: Method,
): { readonly entry: E; readonly method: Method } {
  if (!('inspection' in entry || 'exhibits' in entry)) return { entry, method };
  const earlier = earlierSchema.safeParse(entry);
  const { inspection: _marks, exhibits: _wrongWays, ...rest } = entry as E & Record<'inspection' | 'exhibits', unknown>;
  const last = finishedLayout(method);
  if (!earlier.success || last.marks || last.exhibits) return { entry: rest as unknown as E, method };
  const shown = shownBy(method, earlier.data);
  const relaid = method.relaid?.map((l) => (l === last ? { ...l, ...shown } : l));
  return {
    entry: rest as unknown as E,
    method: layoutsOf(method).length === 1 ? { ...method, ...shown } : { ...method, relaid },
  };
}
