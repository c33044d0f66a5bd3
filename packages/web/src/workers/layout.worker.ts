/**
 * Lays out and tidies drawings away from the page, a piece at a time: pictures on the way, and a stop between any two pieces.
 */
import { DRAWN_TIGHT, readingDrawing, readKnot, sayRefusal, tidying, writeKnot, type Result } from '@foxtrail/core';
import type { LayoutMessage, LayoutOrder } from '../data/layout';

/** Work goes on for this long before messages are looked at, and a picture is shown; in milliseconds. */
const SLICE = 40;

const tell = (message: LayoutMessage): void => postMessage(message);
const pause = (): Promise<void> => new Promise((done) => setTimeout(done));
let current = 0;

/** Runs work to its end, or until another order is in hand. */
async function drive<Y, T>(
  id: number,
  work: Generator<Y, T>,
  share: (y: Y) => number,
  show?: (y: Y) => void,
): Promise<T | undefined> {
  let slice = performance.now();
  let step = work.next();
  while (step.done !== true) {
    show?.(step.value);
    if (performance.now() - slice > SLICE) {
      tell({ kind: 'progress', id, share: share(step.value) });
      await pause();
      if (id !== current) return undefined;
      slice = performance.now();
    }
    step = work.next();
  }
  return step.value;
}

const refused = <T>(id: number, r: Result<T>): boolean => {
  if (!r.ok) tell({ kind: 'refused', id, reason: sayRefusal(r) });
  return !r.ok;
};

async function tidyUp({ id, document, tight }: LayoutOrder & { readonly kind: 'tidy' }): Promise<void> {
  const read = readKnot(document);
  if (!read.ok) {
    refused(id, read);
    return;
  }
  const knot = read.value;
  const done = await drive(
    id,
    tidying(knot.method.figure, tight ? DRAWN_TIGHT : {}),
    (p) => p.done,
    ({ figure }) => {
      if (figure) tell({ kind: 'picture', id, figure });
    },
  );
  if (!done) return;
  if (done.ok) tell({ kind: 'tidied', id, figure: done.value.figure, mapping: [...done.value.mapping] });
  else refused(id, done);
}

async function readDrawing(id: number, text: string, name: string): Promise<void> {
  const done = await drive(id, readingDrawing(text, name), (share) => share);
  if (!done) return;
  if (done.ok)
    tell({ kind: 'read', id, document: writeKnot(done.value.knot), from: done.value.from, toWalk: done.value.toWalk });
  else refused(id, done);
}

addEventListener('message', ({ data }: MessageEvent<LayoutOrder>) => {
  if (data.kind === 'cancel') {
    current = 0;
    return;
  }
  current = data.id;
  void (data.kind === 'tidy' ? tidyUp(data) : readDrawing(data.id, data.text, data.name));
});
