/** What is used of the library that writes GIF files; it comes without types. */
declare module 'gifenc' {
  /** Red, green and blue, 0 to 255. */
  export type Palette = readonly (readonly [number, number, number])[];
  /** So many colours at most that stand for those of the pixels, four bytes each. */
  export function quantize(pixels: Uint8Array | Uint8ClampedArray, colours: number): Palette;
  /** For each pixel the place of its colour. */
  export function applyPalette(pixels: Uint8Array | Uint8ClampedArray, palette: Palette): Uint8Array;
  export interface Encoder {
    /** `delay` in milliseconds. */
    writeFrame(
      places: Uint8Array,
      width: number,
      height: number,
      options: { readonly palette: Palette; readonly delay: number },
    ): void;
    finish(): void;
    bytes(): Uint8Array<ArrayBuffer>;
  }
  export function GIFEncoder(): Encoder;
}
