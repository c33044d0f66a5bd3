/**
 * What is sent is received into a file of its own before anything is done with it, and the file is gone afterwards.
 */
import { mkdtemp, open, rm, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** The most that is received, and what is said of more. */
export interface Most {
  readonly bytes: number;
  readonly tooLarge: () => Error;
}

/** Receives a stream wholly, then does something with the file. A stream that breaks off is an error, and nothing is done. */
export async function asFile<T>(
  source: AsyncIterable<Buffer>,
  { bytes, tooLarge }: Most,
  work: (file: FileHandle, path: string) => Promise<T>,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'foxtrail-'));
  try {
    const path = join(folder, 'received');
    const file = await open(path, 'w+', 0o600);
    try {
      let size = 0;
      for await (const part of source) {
        size += part.length;
        if (size > bytes) throw tooLarge();
        await file.write(part);
      }
      return await work(file, path);
    } finally {
      await file.close();
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
