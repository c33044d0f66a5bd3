/**
 * What the page and the export worker say to each other.
 */
import type { FigureFile, Pace, View } from '@foxtrail/core';

export interface ExportRequest {
  readonly document: FigureFile;
  readonly pace: Pace;
  readonly view: View;
  readonly width: number;
  readonly height: number;
  /** Frames a second. */
  readonly rate: number;
  readonly fontUrl: string | undefined;
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
