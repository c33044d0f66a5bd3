/**
 * The marks file, `foxtrail-marks/1`: what is seen of a figure's crossings in frames of a film, by their numbers on the board. Unknown
 * fields are kept and ignored.
 */
import * as z from 'zod';
import { LIMITS } from '../figure/bounds.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { FOOTAGE } from '../footage/frame.js';
import { refusalOf } from './refusal-of.js';

export const MARKS_FORMAT = 'foxtrail-marks/1';

/** Right and down, in any unit that is the same for all places of a frame. */
const place = z.tuple([z.number(), z.number()]);

const frameSchema = z.looseObject({
  at: z.number().min(0).max(FOOTAGE.longest).default(0),
  marks: z
    .array(
      z.looseObject({
        crossing: z.number().int().min(1).max(LIMITS.crossings),
        over: z.enum(['first', 'second']),
        point: place.optional(),
        first: place.optional(),
        second: place.optional(),
      }),
    )
    .min(1)
    .max(FOOTAGE.marks),
});
export const marksFileSchema = z.looseObject({
  format: z.literal(MARKS_FORMAT),
  turned: z.boolean().optional(),
  frames: z.array(frameSchema).min(1).max(FOOTAGE.frames),
});
export type MarksFile = z.output<typeof marksFileSchema>;

/** Reads a marks file for a figure with so many crossings. A crossing that is marked twice in a frame, or is not there, is refused. */
export function readMarksText(text: string, crossings: number): Result<MarksFile> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    return refuse('the file', `It is not JSON: ${(error as Error).message}.`, 'Check it in a text editor.');
  }
  const read = marksFileSchema.safeParse(json);
  if (!read.success) {
    const refused = refusalOf(read.error);
    return refused.place === 'format' ? { ...refused, remedy: `Give "format": "${MARKS_FORMAT}".` } : refused;
  }
  for (const [i, frame] of read.data.frames.entries()) {
    const seen = new Set<number>();
    for (const [k, { crossing }] of frame.marks.entries()) {
      const at = `frames[${i}].marks[${k}].crossing`;
      if (crossing > crossings)
        return refuse(
          at,
          `There is no crossing ${crossing}: the figure has ${crossings}.`,
          'Number it as on the board.',
        );
      if (seen.has(crossing))
        return refuse(at, `Crossing ${crossing} is marked twice in this frame.`, 'Leave one of the marks out.');
      seen.add(crossing);
    }
  }
  return accept(read.data);
}
