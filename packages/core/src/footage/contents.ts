/** The name of a film by its contents, worked out piece by piece. */
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** Takes bytes in order; at the end tells their SHA-256, 64 hexadecimal digits. */
export function contentsName(): { readonly take: (bytes: Uint8Array) => void; readonly name: () => string } {
  const digest = sha256.create();
  return { take: (bytes) => void digest.update(bytes), name: () => bytesToHex(digest.digest()) };
}
