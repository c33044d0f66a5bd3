/**
 * What is filmed, as it is painted on the page and in the export.
 */
import type { TailAsked, Vocabulary, Look, Method, View } from '@foxtrail/core';
import type { Timeline, Tightening } from '@foxtrail/core/reel';

/** What is filmed. */
export interface Scene {
  readonly method: Method;
  readonly timeline: Timeline;
  readonly view: View;
  readonly look: Look;
  readonly title: string;
  /** Whether what is said stands in the picture; absent: it does. */
  readonly captioned?: boolean | undefined;
  /** The words that wrong ways are told in. */
  readonly words: Vocabulary;
  /** Beside a step that is tied: the knot from its other side, and the trail beneath. */
  readonly back?: boolean | undefined;
  readonly trail?: boolean | undefined;
  /** What the house asks of tails. */
  readonly tail?: TailAsked | undefined;
  /** The picture of a film that is shown by now; none until it has come, and never one of a film that cannot be had. */
  readonly filmed?: ((film: string) => FilmPicture | 'lost' | undefined) | undefined;
  /** The knot on its way into the hand; without it the scenes that finish the knot show its drawing. */
  readonly way?: Tightening | undefined;
}

/** A picture of a film, and its size. */
export interface FilmPicture {
  readonly image: CanvasImageSource;
  readonly width: number;
  readonly height: number;
}
