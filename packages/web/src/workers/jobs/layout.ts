/**
 * Tidying drawings, with pictures on the way, and reading files and codes.
 */
import { accept, DRAWN_TIGHT, readingDrawing, readKnot, tidying, writeKnot } from '@foxtrail/core';
import type { Job } from './protocol';

/** Time between two pictures of a figure on its way; in milliseconds. */
const PICTURE = 40;

export const tidy: Job<'tidy'> = async ({ document, tight }, { tell, drive }) => {
  const read = readKnot(document);
  if (!read.ok) return read;
  let shown = 0;
  const done = await drive(tidying(read.value.method.figure, tight ? DRAWN_TIGHT : {}), ({ done: share, figure }) => {
    if (figure && performance.now() - shown > PICTURE) {
      shown = performance.now();
      tell(figure);
    }
    return share;
  });
  return done.ok ? accept({ figure: done.value.figure, mapping: [...done.value.mapping] }) : done;
};

export const read: Job<'read'> = async ({ text, name }, { drive }) => {
  const done = await drive(readingDrawing(text, name), (share) => share);
  return done.ok
    ? accept({ document: writeKnot(done.value.knot), from: done.value.from, toWalk: done.value.toWalk })
    : done;
};
