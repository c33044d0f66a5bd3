/**
 * History: the list of edits done, each with the edit that undoes it. Documents are immutable, so nothing is copied.
 */

interface Done<E> {
  readonly edit: E;
  readonly inverse: E;
  /** Edits in a row with the same key are undone together: one drag is one undo. */
  readonly group: string | undefined;
}

export interface History<E> {
  readonly past: readonly Done<E>[];
  readonly future: readonly Done<E>[];
}

export const noHistory = <E>(): History<E> => ({ past: [], future: [] });

/** Notes an edit that was just applied; what had been undone before it can no longer be redone. */
export const record = <E>(history: History<E>, edit: E, inverse: E, group?: string): History<E> => ({
  past: [...history.past, { edit, inverse, group }],
  future: [],
});

const groupLength = <E>(list: readonly Done<E>[]): number => {
  const group = list.at(-1)?.group;
  if (list.length === 0) return 0;
  if (group === undefined) return 1;
  let n = 0;
  while (n < list.length && list[list.length - 1 - n]?.group === group) n += 1;
  return n;
};

/** The inverses to apply, in order, and the history after; nothing when there is nothing to undo. */
export function undo<E>(history: History<E>): { edits: readonly E[]; history: History<E> } | undefined {
  const n = groupLength(history.past);
  if (n === 0) return undefined;
  const taken = history.past.slice(-n);
  return {
    edits: taken.map((d) => d.inverse).reverse(),
    history: { past: history.past.slice(0, -n), future: [...history.future, ...[...taken].reverse()] },
  };
}

/** The edits to apply again, in order, and the history after. */
export function redo<E>(history: History<E>): { edits: readonly E[]; history: History<E> } | undefined {
  const n = groupLength(history.future);
  if (n === 0) return undefined;
  const taken = history.future.slice(-n).reverse();
  return {
    edits: taken.map((d) => d.edit),
    history: { past: [...history.past, ...taken], future: history.future.slice(0, -n) },
  };
}
