/**
 * What a leader does, as whoever ties knows it; how it is recognised is said in `read-moves`.
 */
import type { Beside } from './beside.js';
import type { Part } from './parts.js';

export interface Passes {
  /** Numbers of the crossings that the move passes, in order. */
  readonly crossings: readonly number[];
  /** How each is passed: `O` over, `U` under. */
  readonly ways: string;
}

export type Side = 'left' | 'right' | 'top' | 'bottom';
export type Along = 'toward' | 'away' | 'right' | 'left';

/** One move of a leader. */
export type Move = Passes &
  (
    | { readonly kind: 'loop'; readonly hand: 'overhand' | 'underhand' }
    | {
        readonly kind: 'through';
        readonly way: 'up' | 'down';
        readonly what: Part;
        readonly times: number;
        /** How many loops at once, one upon the other; one where it is not said. */
        readonly deep?: number;
        /** After it went through the same the other way. */
        readonly back: boolean;
      }
    /** Round one part or round several together, so many passes by turns. */
    | {
        readonly kind: 'turns';
        readonly what: readonly Part[];
        readonly passes: number;
        readonly first: 'over' | 'under';
        /** Whether it was never met before, was passed, or turns were laid round it. */
        readonly before: 'nothing' | 'passed' | 'turned';
        readonly along?: Along | undefined;
        /** Within the loop that holds the host, or beyond it. */
        readonly loop?: 'inside' | 'outside' | undefined;
      }
    | {
        readonly kind: 'hitch';
        readonly what: readonly Part[];
        readonly turns: number;
        readonly first: 'over' | 'under';
        /** What it is tied round, where what led to it is gone round with that: an overhand. */
        readonly about?: Part | undefined;
        /** After another round the same part: the same way round, or reversed. */
        readonly again?: 'same' | 'reversed' | undefined;
        /** Whether that was a half hitch too. */
        readonly another?: boolean | undefined;
        readonly loop?: 'inside' | 'outside' | undefined;
      }
    /** Behind or in front of a part, on the way back into a loop. */
    | { readonly kind: 'round'; readonly over: boolean; readonly what: Part; readonly from: Side }
    | { readonly kind: 'legs'; readonly what: Part }
    | { readonly kind: 'trap'; readonly over: boolean; readonly what: Part; readonly part: Part }
    | { readonly kind: 'follow'; readonly what: Part; readonly beside: Beside }
    | {
        readonly kind: 'pass';
        readonly over: boolean;
        readonly what: Part;
        readonly times: number;
        readonly last: boolean;
      }
    | { readonly kind: 'bight' }
    | { readonly kind: 'lay' }
  );

/** What moves pass, over or under, in order. */
export const passesOf = (moves: readonly Move[]): string => moves.map((m) => m.ways).join('');
