import type { KnotCard } from '@foxtrail/contract';
import { blankKnot, writeKnot, type KnotDocument } from '@foxtrail/core';
import { patternOf } from '@foxtrail/pattern-book';
import { formStale } from '../src/index.js';
import { startTestServer, type Client, type TestServer } from './server.js';

/** Forms are set aside by a process that may have to start first. */
const WAITS = 120_000;

describe('the picture on a card', () => {
  let server: TestServer;
  let author: Client;
  const put = async (knot: KnotDocument): Promise<KnotCard> =>
    ((await author.post('/api/knots', { document: writeKnot(knot) }).expect(201)).body as { card: KnotCard }).card;
  const picture = async ({ id }: KnotCard, revision = 1): Promise<{ svg: string; stays: boolean }> => {
    const got = await author.get(`/api/knots/${id}/thumbnail.svg?r=${revision}`).expect(200);
    return { svg: (got.body as Buffer).toString(), stays: (got.headers['cache-control'] ?? '').includes('immutable') };
  };

  beforeAll(async () => {
    server = await startTestServer();
    author = await server.author();
  });
  afterAll(() => server.close());

  it(
    'is the drawing until the knot is set, then the knot as it lies in the hand, which stays',
    async () => {
      const card = await put(patternOf('bowline')!.knot);
      const blank = await put(blankKnot('Nothing yet'));
      const drawn = await picture(card);
      expect(drawn.svg).not.toContain('lies in the hand');
      expect(drawn.stays).toBeFalse();
      expect(await formStale(server.pool)).toBe(2);
      const formed = await picture(card);
      expect(formed.svg).toContain('Bowline as it lies in the hand');
      expect(formed.stays).toBeTrue();
      // What cannot be set keeps its drawing, and is not tried again.
      expect((await picture(blank)).stays).toBeTrue();
      expect(await formStale(server.pool)).toBe(0);
      // A copy lies in the hand as it does.
      const copied = await author.post(`/api/knots/${card.id}/duplicate`).expect(201);
      expect((await picture((copied.body as { card: KnotCard }).card)).svg).toBe(formed.svg);
      expect(await formStale(server.pool)).toBe(0);
    },
    WAITS,
  );
  it(
    'follows the knot once its author pauses',
    async () => {
      const knot = patternOf('reef')!.knot;
      const card = await put(knot);
      expect(await formStale(server.pool)).toBe(1);
      await author.put(`/api/knots/${card.id}`, { document: writeKnot(patternOf('granny')!.knot) }, 1).expect(200);
      expect((await picture(card, 2)).svg).not.toContain('lies in the hand');
      expect(await formStale(server.pool)).toBe(0);
      await server.pool.query(`update knot set updated_at = now() - interval '1 minute' where id = $1`, [card.id]);
      expect(await formStale(server.pool)).toBe(1);
      expect((await picture(card, 2)).svg).toContain('Granny knot as it lies in the hand');
    },
    WAITS,
  );
});
