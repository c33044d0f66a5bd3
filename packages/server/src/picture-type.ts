/**
 * What a picture is by how it begins.
 *
 * Sources: W3C, “Portable Network Graphics (PNG) Specification”, 5.2; RFC 9649, “WebP Image Format”, 2.3; ITU-T T.81, B.1.1.3 (JPEG).
 */
const SIGNS = {
  'image/png': (b: Buffer) => b.subarray(0, 8).toString('latin1') === '\x89PNG\r\n\x1a\n',
  'image/webp': (b: Buffer) =>
    b.subarray(0, 4).toString('latin1') === 'RIFF' && b.subarray(8, 12).toString('latin1') === 'WEBP',
  'image/jpeg': (b: Buffer) => b.subarray(0, 3).toString('latin1') === '\xff\xd8\xff',
} as const;
export type PictureType = keyof typeof SIGNS;
export const PICTURE_TYPES = Object.keys(SIGNS) as readonly PictureType[];

/** Which of some types a picture is of; undefined where it is of none of them. */
export const pictureType = <T extends PictureType>(bytes: Buffer, of: readonly T[]): T | undefined =>
  of.find((type) => SIGNS[type](bytes));
