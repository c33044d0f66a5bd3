/**
 * What the film desk and the worker that reads a film through say to each other.
 */

export interface StripRequest {
  /** The film: a file of this machine, or where it is fetched from. */
  readonly film: Blob | string;
  /** Seconds. */
  readonly duration: number;
  /** So many pictures, each so high, in pixels. */
  readonly pictures: number;
  readonly height: number;
  /** So many bars of sound. */
  readonly bars: number;
}

export type StripReport =
  | { readonly kind: 'picture'; readonly index: number; readonly bitmap: ImageBitmap }
  /** When each of its frames is shown, in seconds and in order. Last but the sound; not sent where all of it would have to be fetched. */
  | { readonly kind: 'frames'; readonly times: Float64Array<ArrayBuffer> }
  /** The loudest of the sound in each bar, from 0 to 1; none where the film has no sound, or would have to be fetched wholly for it. */
  | { readonly kind: 'sound'; readonly bars: Float32Array | undefined }
  | { readonly kind: 'failed'; readonly reason: string };
