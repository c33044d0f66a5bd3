/** Films by their contents: what they are, and what they are called. */
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** What a film is by its first twelve bytes: WebM by the id of its header, MP4 by its first box; nothing where it is neither. */
export function filmType(head: Uint8Array): 'video/webm' | 'video/mp4' | undefined {
  const begins = (bytes: readonly number[], at: number): boolean => bytes.every((b, i) => head[at + i] === b);
  if (begins([0x1a, 0x45, 0xdf, 0xa3], 0)) return 'video/webm';
  return begins([0x66, 0x74, 0x79, 0x70], 4) ? 'video/mp4' : undefined;
}

/** Takes bytes in order; at the end tells their SHA-256, 64 hexadecimal digits. */
export function contentsName(): { readonly take: (bytes: Uint8Array) => void; readonly name: () => string } {
  const digest = sha256.create();
  return { take: (bytes) => void digest.update(bytes), name: () => bytesToHex(digest.digest()) };
}
