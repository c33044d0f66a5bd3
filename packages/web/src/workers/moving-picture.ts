/**
 * A picture that moves: frames of a canvas as GIF, for pages, messages and slides that play no film.
 */
import { applyPalette, GIFEncoder, quantize } from 'gifenc';

/** A canvas that is read. */
type Read = Pick<OffscreenCanvasRenderingContext2D, 'getImageData'> & {
  readonly canvas: { readonly width: number; readonly height: number };
};

const COLOURS = 64;
/** The format counts hundredths of a second. */
const HUNDREDTH = 0.01;

interface Shown {
  readonly pixels: Uint8ClampedArray;
  frames: number;
}

/** Takes frames at so many a second; what is shown unchanged for several is one, as long. It is repeated for ever. */
export function pictureWriter(
  context: Read,
  rate: number,
): { readonly add: (time: number, isNew: boolean) => Promise<void>; readonly end: () => Promise<ArrayBuffer> } {
  const gif = GIFEncoder();
  const { width, height } = context.canvas;
  let last: Shown | undefined;
  let frames = 0;
  /** When what has been written ends, in hundredths: rounding does not add up. */
  let written = 0;
  const write = ({ pixels, frames: shown }: Shown): void => {
    frames += shown;
    const until = Math.round(frames / rate / HUNDREDTH);
    const palette = quantize(pixels, COLOURS);
    gif.writeFrame(applyPalette(pixels, palette), width, height, {
      palette,
      delay: 1000 * HUNDREDTH * (until - written),
    });
    written = until;
  };
  return {
    add: (_time, isNew) => {
      if (last && !isNew) last.frames += 1;
      else {
        if (last) write(last);
        last = { pixels: context.getImageData(0, 0, width, height).data, frames: 1 };
      }
      return Promise.resolve();
    },
    end: () => {
      if (last) write(last);
      gif.finish();
      return Promise.resolve(gif.bytes().slice().buffer);
    },
  };
}
