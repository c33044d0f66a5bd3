/**
 * Pictures that knots are drawn after, as they are kept in this browser, each with its knot; they are never sent.
 */
import type { Box } from '@foxtrail/core';
import { kept, TRACES } from './kept';

export interface Trace {
  /** The id of the knot. */
  readonly knot: string;
  readonly blob: Blob;
  readonly name: string;
  /** Where it lies on the board, in diameters. */
  readonly box: Box;
  /** Opacity, from 0 to 1. */
  readonly strength: number;
  readonly mirrored: boolean;
}

// What cannot be kept (a private window, a full disk) is still shown until the page is left.
export const keepTrace = async (trace: Trace): Promise<void> => {
  await (await kept()).put(TRACES, trace).catch(() => undefined);
};
export const traceOf = async (knot: string): Promise<Trace | undefined> =>
  (await (await kept()).get(TRACES, knot).catch(() => undefined)) as Trace | undefined;
export const forgetTrace = async (knot: string): Promise<void> => {
  await (await kept()).delete(TRACES, knot).catch(() => undefined);
};
