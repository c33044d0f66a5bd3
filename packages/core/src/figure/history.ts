/**
 * History: what was there before each change. Documents are immutable and share what did not change, so keeping them whole costs little.
 */

interface Kept<T> {
  readonly state: T;
  /** Changes in a row with the same key are undone together: one drag is one undo. */
  readonly group: string | undefined;
}

export interface History<T> {
  /** What was there before each change, the first change first. */
  readonly past: readonly Kept<T>[];
  /** What was there before each undo, the first undo first. */
  readonly future: readonly Kept<T>[];
}

export const noHistory = <T>(): History<T> => ({ past: [], future: [] });

/** So many of the last states are kept as they are: what one goes back to soonest is there at once. */
export const KEPT_WARM = 20;

/**
 * Notes what was there before a change; what had been undone before it can no longer be redone. `cool` makes of a state the same one that
 * weighs less; it is asked of each state once, when it is no longer among the last.
 */
export function record<T>(
  history: History<T>,
  before: T,
  group?: string,
  cool: (state: T) => T = (s) => s,
): History<T> {
  if (group !== undefined && group === history.past.at(-1)?.group && history.future.length === 0) return history;
  const past = [...history.past, { state: before, group }];
  const at = past.length - 1 - KEPT_WARM;
  const aged = past[at];
  if (aged) past[at] = { ...aged, state: cool(aged.state) };
  return { past, future: [] };
}

/** What is there after a step back or forth, and the history then. */
export interface Stepped<T> {
  readonly state: T;
  readonly history: History<T>;
}

/** One step back from what is there now; nothing when there is nothing to undo. */
export function undo<T>({ past, future }: History<T>, now: T): Stepped<T> | undefined {
  const last = past.at(-1);
  return (
    last && {
      state: last.state,
      history: { past: past.slice(0, -1), future: [...future, { state: now, group: last.group }] },
    }
  );
}

/** One step forth again. */
export function redo<T>({ past, future }: History<T>, now: T): Stepped<T> | undefined {
  const last = future.at(-1);
  return (
    last && {
      state: last.state,
      history: { past: [...past, { state: now, group: last.group }], future: future.slice(0, -1) },
    }
  );
}
