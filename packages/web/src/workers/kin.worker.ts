/**
 * Derives knots and discovers kin away from the page, a piece at a time: told as it is found, and stopped between any two pieces.
 */
import {
  deriving,
  derivingTurns,
  discovering,
  kinKnot,
  readKnot,
  sayRefusal,
  writeKnot,
  type Derived,
  type KinEntry,
} from '@foxtrail/core';
import { patternKeys, patternKin } from '@foxtrail/pattern-book';
import type { KinMessage, KinOrder, Made } from '../data/kin-work';

/** Work goes on for this long before messages are looked at; in milliseconds. */
const SLICE = 40;

const tell = (message: KinMessage): void => postMessage(message);
const pause = (): Promise<void> => new Promise((done) => setTimeout(done));
let current = 0;

async function drive<T>(id: number, work: Generator<number, T, boolean | undefined>): Promise<T | undefined> {
  let slice = performance.now();
  let step = work.next();
  while (step.done !== true) {
    if (performance.now() - slice > SLICE) {
      tell({ kind: 'progress', id, share: step.value });
      await pause();
      if (id !== current) return undefined;
      slice = performance.now();
    }
    step = work.next();
  }
  return step.value;
}

const madeOf = (d: Derived): Made => ({
  derivation: d.derivation,
  kin: d.kin,
  turns: d.derivation.kind === 'keeper' ? d.derivation.turns : (d.count ?? 1),
  says: d.says,
  name: d.knot.name,
  document: writeKnot(d.knot),
  proof: d.proof,
});

async function derive(order: KinOrder & { kind: 'derive' | 'turns' }): Promise<void> {
  const { id } = order;
  const read = readKnot(order.document);
  if (!read.ok) {
    tell({ kind: 'refused', id, reason: sayRefusal(read) });
    return;
  }
  if (order.kind === 'turns') {
    const { once, more } = order;
    const known = readKnot(once.document);
    if (!known.ok) return;
    const first: Derived = { ...once, knot: known.value };
    const done = await drive(id, derivingTurns(read.value, first, more, patternKeys(), order.words));
    if (!done) return;
    if (done.ok) tell({ kind: 'made', id, made: [madeOf(done.value)] });
    tell(done.ok ? { kind: 'done', id } : { kind: 'refused', id, reason: sayRefusal(done) });
    return;
  }
  let shown = 0;
  const all = await drive(
    id,
    deriving(read.value, patternKeys(), order.words, (found) => {
      if (performance.now() - shown < 250) return;
      shown = performance.now();
      tell({ kind: 'made', id, made: found.map(madeOf) });
    }),
  );
  if (!all) return;
  tell({ kind: 'made', id, made: all.map(madeOf) });
  tell({ kind: 'done', id });
}

async function discover({ id, entries }: KinOrder & { kind: 'discover' }): Promise<void> {
  const knots = entries.flatMap(({ ref, name, document }): KinEntry[] => {
    if (!document) {
      const known = patternKin(ref.replace(/^pattern:/, ''));
      return known ? [{ ...known, ref }] : [];
    }
    const read = readKnot(document);
    return read.ok ? [{ ...kinKnot(name, read.value.method), ref }] : [];
  });
  const done = await drive(
    id,
    discovering(knots, (offer) => tell({ kind: 'offer', id, offer })),
  );
  if (done !== undefined) tell({ kind: 'done', id });
}

addEventListener('message', ({ data }: MessageEvent<KinOrder>) => {
  if (data.kind === 'cancel') {
    current = 0;
    return;
  }
  current = data.id;
  void (data.kind === 'discover' ? discover(data) : derive(data));
});
