import { createHash } from 'node:crypto';
import { FILM_PIECE, filmStateSchema, type FilmState, type Problem } from '@foxtrail/contract';
import {
  changeMethod,
  crossingsOf,
  finishedFigure,
  layoutsOf,
  placeOfCrossing,
  readKnot,
  writeKnot,
  type KnotDocument,
} from '@foxtrail/core';
import type { Footage } from '@foxtrail/core/footage';
import { demoDocument, startTestServer, type Client, type TestServer } from './server.js';

/** A film of some length, by its first bytes: what is in it nobody looks at here. */
const filmOf = (head: readonly number[], size: number): Buffer =>
  Buffer.concat([Buffer.from(head), Buffer.from(Array.from({ length: size - head.length }, (_, i) => (i * 7) % 253))]);
const WEBM = [0x1a, 0x45, 0xdf, 0xa3];
const MP4 = [0, 0, 0, 24, ...Buffer.from('ftypisom')];
const hashOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');

describe('Films', () => {
  let server: TestServer;
  let author: Client;
  let id: string;
  beforeAll(async () => {
    server = await startTestServer();
    author = await server.author();
    id = (
      (await author.post('/api/knots', { document: demoDocument('reef.json') }).expect(201)).body as {
        card: { id: string };
      }
    ).card.id;
  });
  afterAll(() => server.close());

  const at = (hash: string): string => `/api/films/${hash}`;
  const begin = async (bytes: Buffer, hash = hashOf(bytes)): Promise<FilmState> =>
    filmStateSchema.parse((await author.send('put', at(hash)).send({ size: bytes.length }).expect(200)).body);
  const send = (bytes: Buffer, number: number, hash = hashOf(bytes)): ReturnType<Client['send']> =>
    author
      .send('put', `${at(hash)}/pieces/${number}`)
      .set('Content-Type', 'application/octet-stream')
      .send(bytes.subarray(number * FILM_PIECE, (number + 1) * FILM_PIECE));
  const reason = (body: unknown): string => (body as Problem).error.reason;

  it('come in pieces, in any order and again, go on where they stopped, and are sent in parts', async () => {
    const film = filmOf(WEBM, 2 * FILM_PIECE + 1000);
    expect((await begin(film)).pieces).toEqual([]);
    await send(film, 2).expect(204);
    await send(film, 0).expect(204);
    await author.post(`${at(hashOf(film))}/whole`).expect(409);
    expect((await begin(film)).pieces).toEqual([0, 2]);
    await send(film, 0).expect(204);
    await send(film, 1).expect(204);
    await author.get(at(hashOf(film))).expect(404);
    expect((await author.post(`${at(hashOf(film))}/whole`).expect(200)).body).toEqual({
      size: film.length,
      type: 'video/webm',
      pieces: [0, 1, 2],
    });
    const part = await author
      .get(at(hashOf(film)))
      .set('Range', `bytes=${FILM_PIECE - 10}-${FILM_PIECE + 9}`)
      .buffer(true)
      .expect(206)
      .expect('Content-Type', 'video/webm');
    expect(Buffer.compare(part.body as Buffer, film.subarray(FILM_PIECE - 10, FILM_PIECE + 10))).toBe(0);
    // What has been taken stays what it is.
    await send(filmOf(MP4, FILM_PIECE), 1, hashOf(film));
    expect((await author.get(at(hashOf(film))).buffer(true)).body).toEqual(film);
  });

  it('are taken as MP4 too, and refused when they are something else, are too large, or are not what they are called', async () => {
    const mp4 = filmOf(MP4, 5000);
    await begin(mp4);
    await send(mp4, 0).expect(204);
    expect((await author.post(`${at(hashOf(mp4))}/whole`).expect(200)).body).toEqual(
      jasmine.objectContaining({ type: 'video/mp4' }),
    );
    const text = filmOf([...Buffer.from('only text')], 500);
    await begin(text);
    expect(reason((await send(text, 0).expect(415)).body)).toContain('neither a WebM nor an MP4');
    await author.post(`${at(hashOf(text))}/whole`).expect(404);
    const other = 'a'.repeat(64);
    await begin(mp4, other);
    await send(mp4, 0, other).expect(204);
    expect(reason((await author.post(`${at(other)}/whole`).expect(400)).body)).toContain('not the film that was meant');
    await begin(mp4, other);
    await send(mp4.subarray(0, 4000), 0, other).expect(400);
    await author.send('put', at(other)).send({ size: 1e9 }).expect(413);
    await (await server.reviewer()).send('put', at(other)).send({ size: 10 }).expect(403);
  });

  describe('of a knot', () => {
    const film = filmOf(WEBM, 3000);
    /** The reef with a film of it, every crossing marked. */
    const filmed = (mirrored: boolean, turned: boolean): unknown => {
      const read = readKnot(demoDocument('reef.json'));
      if (!read.ok) throw new Error(read.reason);
      const knot: KnotDocument = read.value;
      const marks = crossingsOf(finishedFigure(knot.method)).map((c) => {
        const [x, y] = [0.5, 0.5];
        const aside = (c.turn * (mirrored ? -1 : 1)) / 10;
        return {
          crossing: placeOfCrossing(c),
          over: c.over === c.first ? ('first' as const) : ('second' as const),
          point: [x, y] as const,
          first: [x + 0.1, y] as const,
          second: [x, y - aside] as const,
        };
      });
      const footage: Footage[] = [
        {
          film: hashOf(film),
          name: 'Reef, first take',
          duration: 4,
          turned,
          frames: [{ at: 3, marks }],
          captions: [{ start: 0.5, end: 3, text: 'Lead the end across to the left, and tuck it under it.' }],
          cut: [0.25, 3.5],
          steps: [
            { step: 0, at: 0 },
            { step: 1, at: 2 },
          ],
        },
      ];
      const shown = changeMethod(knot.method, layoutsOf(knot.method).length - 1, { kind: 'show', shown: { footage } });
      if (!shown.ok) throw new Error(shown.reason);
      return writeKnot({ ...knot, method: shown.value });
    };
    const save = async (document: unknown, from: number): Promise<void> => {
      await author.put(`/api/knots/${id}`, { document }, from).expect(200);
    };
    const publish = async (): Promise<number> => (await author.post(`/api/knots/${id}/publication`)).status;

    it('is published only when it has come wholly and is not mirrored, and is seen by visitors while it is shown', async () => {
      await save(filmed(true, false), 1);
      expect(await publish()).toBe(409);
      await save(filmed(true, true), 2);
      const lacking = await author.post(`/api/knots/${id}/publication`).expect(409);
      expect(reason(lacking.body)).toContain('“Reef, first take” has not been sent wholly');
      await begin(film);
      await send(film, 0).expect(204);
      await author.post(`${at(hashOf(film))}/whole`).expect(200);
      const { slug } = (await author.post(`/api/knots/${id}/publication`).expect(200)).body as { slug: string };
      const seen = `/api/public/knots/${slug}/films/${hashOf(film)}`;
      expect((await server.visitor().get(seen).buffer(true).expect(200)).body).toEqual(film);
      const said = async (query: string): Promise<string> =>
        (
          await server
            .visitor()
            .get(`${seen}/captions.vtt${query}`)
            .expect(200)
            .expect('Content-Type', /text\/vtt/)
        ).text;
      expect(await said('')).toContain('00:00:00.500 --> 00:00:03.000\nLead the end across to the left, and tuck');
      expect(await said('?hand=left')).toContain('Lead the end across to the right, and tuck');
      const chapters = (await server.visitor().get(`${seen}/chapters.vtt`).expect(200)).text;
      expect(chapters.match(/\S+ --> \S+/g)).toEqual([
        '00:00:00.250 --> 00:00:02.000',
        '00:00:02.000 --> 00:00:03.500',
      ]);
      await save(demoDocument('reef.json'), 3);
      expect(await publish()).toBe(200);
      await server.visitor().get(seen).expect(404);
      await server.visitor().get(`${seen}/captions.vtt`).expect(404);
      await server.visitor().get(`${seen}/chapters.vtt`).expect(404);
    });
  });
});
