/**
 * What the page and the export worker say to each other.
 */
import type { FigureFile, Pace, TailAsked, View, Vocabulary } from '@foxtrail/core';
import type { Tightening } from '@foxtrail/core/reel';

/** Samples of each channel, so many a second. */
export interface MixedSound {
  readonly rate: number;
  readonly channels: readonly Float32Array<ArrayBuffer>[];
}

/** What a film is written as. */
export type FilmKind = 'webm' | 'mp4';
/** What is written: a film, a picture that moves and plays everywhere a picture is shown, or the picture of one time. */
export type Written = FilmKind | 'gif' | 'webp';

export interface ExportRequest {
  readonly document: FigureFile;
  /** Absent: a film. */
  readonly as?: Written | undefined;
  /** Which reel of its method is filmed; none: the steps as they are tied. */
  readonly reel?: number | undefined;
  readonly pace: Pace;
  readonly view: View;
  readonly width: number;
  readonly height: number;
  /** Frames a second. */
  readonly rate: number;
  readonly fontUrl: string | undefined;
  /** Whether its words are in the picture. */
  readonly captioned: boolean;
  /** From where to where it is filmed, in seconds; absent: all of it. */
  readonly range?: readonly [from: number, to: number] | undefined;
  /** The words composed texts are written in. */
  readonly words: Vocabulary;
  /** What the house asks of tails. */
  readonly tail?: TailAsked | undefined;
  /** What is heard in it. */
  readonly sound?: MixedSound | undefined;
  /** The knot on its way into the hand, where it can be set. */
  readonly way?: Tightening | undefined;
}

export type ExportReport =
  | { readonly kind: 'progress'; readonly done: number; readonly total: number }
  | {
      readonly kind: 'finished';
      readonly bytes: ArrayBuffer;
      readonly duration: number;
      readonly frames: number;
      readonly seconds: number;
    }
  | { readonly kind: 'failed'; readonly reason: string };
