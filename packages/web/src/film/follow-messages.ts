/**
 * What the film desk and the worker that follows places through a film say to each other.
 */
import type { FramePlace } from '@foxtrail/core/footage';

export interface FollowRequest {
  /** The film: a file of this machine, or where it is fetched from. */
  readonly film: Blob | string;
  /** What is followed, and in the frame of what time it is there, in seconds. */
  readonly places: readonly FramePlace[];
  readonly at: number;
  /** From when to when it is followed, in seconds. */
  readonly from: number;
  readonly to: number;
}

export type FollowReport =
  | { readonly kind: 'progress'; readonly share: number }
  /** What lies there cannot be told from what is about it. */
  | { readonly kind: 'vague'; readonly place: number }
  | {
      readonly kind: 'finished';
      /** Where the places are, by time, in seconds. */
      readonly keys: readonly { readonly at: number; readonly places: readonly FramePlace[] }[];
      /** Which of them is not seen any more, from when on, in seconds. */
      readonly lost?: { readonly place: number; readonly at: number } | undefined;
    }
  | { readonly kind: 'failed'; readonly reason: string };
