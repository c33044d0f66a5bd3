/** Sends bytes that are kept in pieces, or the part of them that was asked for. */
import type { Request, Response } from 'express';

/** Bytes in pieces of one length, the last shorter. */
export interface Pieces {
  readonly size: number;
  readonly type: string;
  readonly length: number;
  readonly piece: (number: number) => Promise<Buffer | undefined>;
}

export async function sendRanged({ size, type, length, piece }: Pieces, req: Request, res: Response): Promise<void> {
  res.setHeader('Accept-Ranges', 'bytes');
  res.type(type);
  const ranges = req.range(size);
  let [start, end] = [0, size - 1];
  if (ranges === -1) {
    res.status(416).setHeader('Content-Range', `bytes */${size}`);
    res.end();
    return;
  }
  if (Array.isArray(ranges) && ranges.length === 1 && ranges[0]) {
    ({ start, end } = ranges[0]);
    res.status(206).setHeader('Content-Range', `bytes ${start}-${end}/${size}`);
  }
  res.setHeader('Content-Length', end - start + 1);
  for (let number = Math.floor(start / length); number * length <= end && !res.destroyed; number += 1) {
    const bytes = await piece(number);
    if (!bytes) break;
    const from = Math.max(0, start - number * length);
    const more = res.write(bytes.subarray(from, Math.min(bytes.length, end + 1 - number * length)));
    if (!more) await new Promise((resolve) => res.once('drain', resolve).once('close', resolve));
  }
  res.end();
}
