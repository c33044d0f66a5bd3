/** The library's archive as it goes out by a browser and comes in by one: through a file, whatever its size. */
import { ARCHIVE_LIMIT, type Account, type ArchiveTold } from '@foxtrail/contract';
import type { Response } from 'express';
import { createReadStream } from 'node:fs';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type pg from 'pg';
import { ArchiveTrouble, readArchive, writeArchive } from './archive.js';
import { asFile } from './as-file.js';
import { HttpProblem } from './problem.js';
import { slugOf } from './publications.js';
import { WaitingRoom } from './waiting-room.js';

/** One archive at a time is written or read; who sends or fetches one slowly holds up nobody. */
const archives = new WaitingRoom(1, 4);

/** Writes the archive into a file, then sends that. */
export async function sendArchive(pool: pg.Pool, res: Response): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'foxtrail-'));
  try {
    const file = join(folder, 'library.zip');
    const { house, made } = await archives.enter(() => writeArchive(pool, file));
    res.attachment(`${slugOf(house)}-${made.slice(0, 10)}.zip`).type('application/zip');
    res.setHeader('Content-Length', (await stat(file)).size);
    await pipeline(createReadStream(file), res);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

interface Asked {
  readonly take: 'true' | 'false';
  readonly house: 'true' | 'false';
  readonly words: 'true' | 'false';
}

const mostOfAnArchive = {
  bytes: ARCHIVE_LIMIT,
  tooLarge: (): HttpProblem =>
    new HttpProblem(
      413,
      'too-large',
      'archive',
      `An archive that is sent has ${ARCHIVE_LIMIT / 1024 ** 3} GiB at most.`,
      'Take it on the machine itself: npm run archive -- in FILE.zip --as NAME.',
    ),
};

/** Receives an archive, then looks it through, or takes it in the name of `by`. */
export function receiveArchive(
  pool: pg.Pool,
  by: Account,
  { take, house, words }: Asked,
  source: AsyncIterable<Buffer>,
): Promise<ArchiveTold> {
  return asFile(source, mostOfAnArchive, async (_file, path) => {
    try {
      const taking = { house: house === 'true', words: words === 'true' };
      const { manifest, told } = await archives.enter(() =>
        readArchive(pool, path, taking, take === 'true' ? by : undefined),
      );
      return { house: manifest.house, made: manifest.made, told: [...told] };
    } catch (error) {
      if (!(error instanceof ArchiveTrouble)) throw error;
      throw new HttpProblem(
        400,
        'refused',
        'archive',
        error.message,
        'Choose an archive that Fox Trail has written, and send it whole.',
      );
    }
  });
}
