/**
 * Pictures of a knot as it lies in the hand, made aside: one that takes too long is told as one that cannot be set.
 */
import { refuse, type KnotDocument } from '@foxtrail/core';
import { aside, TooLong } from './aside.js';
import type { AnswerOf } from './aside-orders.js';

export type Hand = 'right' | 'left';

/** Sets the first method of a knot and draws it; `ahead` where somebody waits for it. */
export const inHand = (knot: KnotDocument, hand: Hand, { ahead = false } = {}): Promise<AnswerOf<'form'>> =>
  aside('form', { knot, hand }, { ahead }).catch((error: unknown) => {
    if (error instanceof TooLong)
      return refuse('form', 'To set it took too long, and was stopped.', 'Draw it with fewer crossings.');
    throw error;
  });
