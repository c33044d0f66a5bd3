/**
 * A text file of unknown encoding: what marks itself is believed, what is well-formed UTF-8 is that, and what is neither is read as
 * Windows writes western languages.
 */
export interface TextRead {
  readonly text: string;
  readonly encoding: string;
}

/** Most bytes of a table: a list of ropes is shorter. */
const MOST = 8 * 1024 * 1024;

export async function textOf(file: Blob): Promise<TextRead> {
  if (file.size > MOST) throw new Error(`It is larger than ${MOST / 1024 / 1024} MB: no table of ropes is.`);
  const bytes = new Uint8Array(await file.arrayBuffer());
  return decoded(bytes);
}

export function decoded(bytes: Uint8Array): TextRead {
  if (bytes[0] === 0xff && bytes[1] === 0xfe)
    return { text: new TextDecoder('utf-16le').decode(bytes), encoding: 'UTF-16' };
  if (bytes[0] === 0xfe && bytes[1] === 0xff)
    return { text: new TextDecoder('utf-16be').decode(bytes), encoding: 'UTF-16' };
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'UTF-8' };
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), encoding: 'Windows-1252' };
  }
}
