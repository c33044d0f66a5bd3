/** The public pages: never older than what stands in the database, whoever wrote it; and the shelf, page by page. */
import type { HouseWords, KnotCard, Session, Words } from '@foxtrail/contract';
import { demoDocument, startTestServer, type Client, type TestServer } from './server.js';

let server: TestServer;
let author: Client;
/** The specs of a group share a server. */
const allOnOne = (): void => {
  beforeAll(async () => {
    server = await startTestServer();
    author = await server.author();
  });
  afterAll(() => server.close());
};

const draft = async (file: string, change: object = {}): Promise<KnotCard> =>
  (
    (await author.post('/api/knots', { document: { ...demoDocument(file), ...change } }).expect(201)).body as {
      card: KnotCard;
    }
  ).card;

describe('A public page', () => {
  allOnOne();

  const page = async (slug: string): Promise<string> => (await server.visitor().get(`/learn/${slug}`).expect(200)).text;
  const state = async (): Promise<string> =>
    (await server.pool.query<{ version: string }>('select version from public_state')).rows[0]?.version ?? '';

  it('is another as soon as anything that it is made of is: its knot, the words, the house, the wrong ways', async () => {
    const { id } = await draft('reef.json');
    const publish = (): Promise<unknown> => author.post(`/api/knots/${id}/publication`).expect(200).then();
    await publish();
    expect(await page('reef-knot')).toContain('Reef knot');
    expect(await page('')).toContain('Reef knot');

    await author
      .put(`/api/knots/${id}`, { document: { ...demoDocument('reef.json'), name: 'Reef for kites' } }, 1)
      .expect(200);
    expect(await page('reef-knot')).not.toContain('Reef for kites');
    await publish();
    expect(await page('reef-knot')).toContain('Reef for kites');
    expect(await page('')).toContain('Reef for kites');

    const { house } = (await author.get('/api/session').expect(200)).body as Session;
    const { practice, revision } = house;
    await author.put('/api/house', { name: 'A house by the sea', practice, revision }).expect(200);
    expect(await page('')).toContain('A house by the sea');

    const words = (await author.get('/api/words').expect(200)).body as Words;
    const choice = { ...words.choice, own: { ...words.choice.own, 'working-end': 'leading end' } };
    expect(await page('reef-knot')).not.toContain('leading end');
    const wanted = { choice, known: words.known } satisfies HouseWords;
    await author.put('/api/words', { ...wanted, revision: words.revision }).expect(200);
    expect(await page('reef-knot')).toContain('leading end');

    const wrong = await draft('overhand.json', {
      name: 'Not a reef',
      entry: { ...(demoDocument('overhand.json').entry as object), wrongWayOf: 'Reef for kites' },
    });
    await author.post(`/api/knots/${wrong.id}/publication`).expect(200);
    expect(await page('reef-knot')).toContain('Not a reef');
    await author.remove(`/api/knots/${wrong.id}/publication`).expect(204);
    expect(await page('reef-knot')).not.toContain('Not a reef');

    await author.remove(`/api/knots/${id}/publication`).expect(204);
    await server.visitor().get('/learn/reef-knot').expect(404);
  }, 120_000);

  it('is told to a browser that has it in a few bytes', async () => {
    const { id } = await draft('sheet-bend.json');
    await author.post(`/api/knots/${id}/publication`).expect(200);
    const first = await server.visitor().get('/learn/sheet-bend-for-line-laundry').expect(200);
    const tag = first.headers.etag ?? '';
    const again = await server
      .visitor()
      .get('/learn/sheet-bend-for-line-laundry')
      .set('If-None-Match', tag)
      .expect(304);
    expect(again.text).toBe('');
    expect(first.headers['content-security-policy']).toMatch(/style-src 'self' 'sha256-[A-Za-z0-9+/]{43}='/);
  }, 60_000);

  it('stays good while knots are only drawn; the number moves on once for each transaction, when that ends', async () => {
    const { id } = await draft('clove-hitch.json');
    const before = await state();
    await author.put(`/api/knots/${id}`, { document: demoDocument('clove-hitch.json') }, 1).expect(200);
    expect(await state()).toBe(before);
    // Whoever ends last moves it on last, though they began first: no page made meanwhile is taken for good.
    const [first, second] = [await server.pool.connect(), await server.pool.connect()];
    try {
      await first.query('begin');
      await first.query("update concept set notes = 'one' where id = 'bight'");
      await second.query('begin');
      await second.query("update concept set notes = 'two' where id = 'loop'");
      await second.query("update concept set notes = 'three' where id = 'turn'");
      await second.query('commit');
      const between = await state();
      await first.query('commit');
      expect([Number(between), Number(await state())]).toEqual([Number(before) + 1, Number(before) + 2]);
    } finally {
      first.release();
      second.release();
    }
  }, 60_000);
});

describe('A long shelf', () => {
  allOnOne();

  const list = async (query: string): Promise<{ knots: KnotCard[]; total: number }> =>
    (await author.get(`/api/knots?${query}`).expect(200)).body as { knots: KnotCard[]; total: number };

  it('is sent page by page: every knot once, in the order of the whole, found or not', async () => {
    await server.pool.query(
      `insert into knot (name, class, family, use_grade, revision, errors, warnings, crossings, steps, updated_by, updated_at)
         select 'Paged knot ' || n, 'hitch', '', 'light duty', 1, 0, 0, 3, 1, a.id, now() - make_interval(mins => n / 7)
           from generate_series(1, 130) as n, account a where a.name = 'Ada Author'`,
    );
    for (const q of ['', 'q=paged&']) {
      const whole = await list(`${q}most=200`);
      const paged: string[] = [];
      for (let from = 0; from < whole.total; from += 29) {
        const { knots, total } = await list(`${q}most=29&from=${from}`);
        expect(total).toBe(whole.total);
        paged.push(...knots.map((k) => k.id));
      }
      expect(paged).toEqual(whole.knots.map((k) => k.id));
      expect(new Set(paged).size).toBe(whole.total);
    }
    expect(await list('q=paged&from=500')).toEqual({ knots: [], total: 130 });
    expect(await list('q=no-such-name-anywhere')).toEqual({ knots: [], total: 0 });
    await author.get('/api/knots?most=100000').expect(400);
  }, 60_000);
});
