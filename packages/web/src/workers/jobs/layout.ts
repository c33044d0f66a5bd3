/**
 * Laying drawings anew, with pictures on the way, and reading files and codes.
 */
import { accept, DRAWN_TIGHT, readingDrawing, readKnot, settling, tidying, writeKnot } from '@foxtrail/core';
import type { Job } from './protocol';

export const lay: Job<'lay'> = async ({ document, way }, { tell, drive }) => {
  const read = readKnot(document);
  if (!read.ok) return read;
  const { figure } = read.value.method;
  const work = way === 'settle' ? settling(figure) : tidying(figure, way === 'tighten' ? DRAWN_TIGHT : {});
  const done = await drive(work, (p) => p.done, { seen: ({ figure }) => figure && tell(figure) });
  return done.ok ? accept({ figure: done.value.figure, mapping: [...done.value.mapping] }) : done;
};

export const read: Job<'read'> = async ({ text, name }, { drive }) => {
  const done = await drive(readingDrawing(text, name), (share) => share);
  return done.ok
    ? accept({ document: writeKnot(done.value.knot), from: done.value.from, toWalk: done.value.toWalk })
    : done;
};
