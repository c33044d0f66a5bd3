/**
 * Films: 100 MB sent, and what a public page takes meanwhile; parts of it read beside a plain file server; and the verdict on the marks
 * of large figures.
 */
import { createReadStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FILM_PIECE } from '@foxtrail/contract';
import { crossingsOf } from '@foxtrail/core';
import { contentsName, judgeFootage, type NumberedMark } from '@foxtrail/core/footage';
import { otherwiseOf } from '@foxtrail/pattern-book/footage';
import { springWith } from './identity.js';
import { middle, round, timed } from './measure.js';
import { pagesWhile, served } from './served.js';

const SIZE = 100_000_000;
/** Parts of a film as a browser asks for them when it seeks, in bytes, and how many are read. */
const PART = 1_500_000;
const PARTS = 60;

/** The median time to read parts of an address, here and there, in milliseconds. */
async function ranged(read: (from: number, to: number) => Promise<Response>): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < PARTS; i += 1) {
    const from = Math.floor(((i * 37) % PARTS) * ((SIZE - PART) / PARTS));
    const began = performance.now();
    const bytes = await (await read(from, from + PART - 1)).arrayBuffer();
    if (bytes.byteLength !== PART) throw new Error(`${bytes.byteLength} bytes of ${PART}`);
    times.push(performance.now() - began);
  }
  return middle(times, 0.5);
}

/** Parts of a file as plainly as they can be sent. */
async function plainFiles(bytes: Uint8Array): Promise<number> {
  const folder = mkdtempSync(join(tmpdir(), 'foxtrail-film-'));
  const file = join(folder, 'film');
  writeFileSync(file, bytes);
  const server = createServer((req: IncomingMessage, res: ServerResponse) => {
    const [start, end] = (/(\d+)-(\d+)/.exec(req.headers.range ?? '') ?? []).slice(1).map(Number);
    res.writeHead(206);
    createReadStream(file, { start: start ?? 0, end: end ?? 0 }).pipe(res);
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  try {
    const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
    return await ranged((from, to) => fetch(address, { headers: { Range: `bytes=${from}-${to}` } }));
  } finally {
    server.close();
    server.closeAllConnections();
    rmSync(folder, { recursive: true });
  }
}

/** The verdict on a figure of so many crossings, all marked but some, the first time and at the next mark. */
function verdict(crossings: number, unmarked: number): object {
  const figure = springWith(crossings);
  const marks = crossingsOf(figure).map((c): NumberedMark => ({
    crossing: c.number,
    over: c.over === c.first ? 'first' : 'second',
    point: c.point,
    first: [c.point[0] + 1, c.point[1]],
    second: [c.point[0], c.point[1] - c.turn],
  }));
  const judge = (): unknown =>
    judgeFootage(figure, [{ at: 0, marks: marks.slice(0, marks.length - unmarked) }], otherwiseOf(figure));
  return { crossings: marks.length, unmarked, firstMs: timed(judge), againMs: timed(judge) };
}

export async function filmBench(databaseUrl: string): Promise<object> {
  const bytes = new Uint8Array(SIZE);
  for (let i = 0; i < SIZE; i += 1) bytes[i] = (i * 31 + (i >> 9)) & 255;
  bytes.set([0x1a, 0x45, 0xdf, 0xa3]);
  const contents = contentsName();
  const namedMs = timed(() => contents.take(bytes));
  const film = `/api/films/${contents.name()}`;
  const { base, ask, stop } = await served(databaseUrl);
  try {
    const page = `${base}/learn/figure-eight`;
    await (await fetch(page)).text();
    let sending = true;
    const send = async (): Promise<object> => {
      const began = performance.now();
      await ask('PUT', film, { size: SIZE });
      for (let piece = 0; piece * FILM_PIECE < SIZE; piece += 1)
        await ask('PUT', `${film}/pieces/${piece}`, bytes.subarray(piece * FILM_PIECE, (piece + 1) * FILM_PIECE));
      const sent = performance.now();
      const taken = await ask('POST', `${film}/whole`);
      sending = false;
      return { status: taken.status, sentMs: round(sent - began), checkedMs: round(performance.now() - sent) };
    };
    const [sent, publicPageMeanwhile] = await Promise.all([send(), pagesWhile(page, () => sending)]);
    const { headers } = await ask('GET', film);
    if (headers.get('content-length') !== String(SIZE)) throw new Error('the film has not been taken');
    return {
      namedMs,
      sent,
      publicPageMeanwhile,
      partMedianMs: await ranged((from, to) => ask('GET', film, undefined, { Range: `bytes=${from}-${to}` })),
      partFromFileMedianMs: await plainFiles(bytes),
      verdicts: [verdict(8, 5), verdict(20, 16), verdict(60, 16), verdict(120, 16), verdict(120, 100)],
    };
  } finally {
    await stop();
  }
}
