/** What an owner keeps a house by: how long saves stay, the library as one file through a browser; and what one account may ask at once. */
import type { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import type { ArchiveTold, Held, KnotCard, Problem } from '@foxtrail/contract';
import { letGo } from '../src/retention.js';
import { HttpProblem } from '../src/problem.js';
import { WaitingRoom } from '../src/waiting-room.js';
import { demoDocument, startTestServer, type Client, type TestServer } from './server.js';

let server: TestServer;
let owner: Client;
/** The specs of a group share a server. */
const allOnOne = (): void => {
  beforeAll(async () => {
    server = await startTestServer();
    owner = await server.owner();
  });
  afterAll(() => server.close());
};

const made = async (name: string): Promise<KnotCard> => {
  const document = { ...demoDocument('overhand.json'), name };
  return ((await owner.post('/api/knots', { document }).expect(201)).body as { card: KnotCard }).card;
};

describe('Earlier saves', () => {
  allOnOne();

  it('go by the rule of the house: of old days the last stays, and all that somebody made something of', async () => {
    const { id } = await made('Often saved');
    const saves = 12;
    for (let n = 1; n < saves; n += 1)
      await owner
        .put(`/api/knots/${id}`, { document: { ...demoDocument('overhand.json'), name: 'Often saved', n } }, n)
        .expect(200);
    // Four on each of three days: 1–4 on the first, 5–8 on the second, both long ago, and 9–12 yesterday.
    await server.pool.query(
      `update revision set saved_at = case when number <= 4 then date '2020-03-01' when number <= 8 then date '2020-03-02'
         else date_trunc('day', now() - interval '1 day') end + number * interval '1 minute' where knot_id = $1`,
      [id],
    );
    await owner.put(`/api/knots/${id}/revisions/6`, { name: 'As it was taught' }).expect(204);
    await server.pool.query(
      `insert into clip (knot_id, revision, method, size, duration, pace, cautions) values ($1, 7, 0, 1, 1, 'slow', false)`,
      [id],
    );
    const numbers = async (): Promise<number[]> =>
      (
        await server.pool.query<{ number: number }>('select number from revision where knot_id = $1 order by 1', [id])
      ).rows.map((r) => r.number);
    const keep = async (body: object): Promise<number> =>
      ((await owner.put('/api/house/keep', body).expect(200)).body as { goes: number }).goes;

    expect(await letGo(server.pool))
      .withContext('without a rule nothing goes')
      .toBe(0);
    // 2 and 3 of the first day; 5 of the second. 1 is the first, 4 and 8 end their days, 6 is named, 7 is filmed.
    expect(await keep({ days: 365, look: true })).toBe(3);
    expect((await numbers()).length).toBe(saves);
    expect(await keep({ days: 365 })).toBe(3);
    expect(await numbers()).toEqual([1, 4, 6, 7, 8, 9, 10, 11, 12]);
    expect(((await owner.get('/api/house/held').expect(200)).body as Held).keepDays).toBe(365);
    // What is left is still a knot that is worked on.
    await owner
      .put(`/api/knots/${id}`, { document: { ...demoDocument('overhand.json'), name: 'Often saved' } }, saves)
      .expect(200);
    expect(await keep({ days: null })).toBe(0);
    await owner.put('/api/house/keep', { days: 3 }).expect(400);
    await (await server.author()).put('/api/house/keep', { days: 365 }).expect(403);
  }, 120_000);
});

describe('The library as one file', () => {
  allOnOne();
  const read = (from: Readable, done: (error: Error | null, body: unknown) => void): Promise<void> =>
    buffer(from).then(
      (data) => done(null, data),
      (error: unknown) => done(error as Error, null),
    );

  it('is saved by a browser, looked through by another house, and taken there once', async () => {
    await made('To be moved');
    const saved = await owner
      .get('/api/house/archive.zip')
      .buffer(true)
      .parse((res, done) => void read(res as unknown as Readable, done))
      .expect(200)
      .expect('Content-Type', /zip/);
    expect(saved.headers['content-disposition']).toMatch(/filename="?my-house-\d{4}-\d\d-\d\d\.zip/);
    const zip = saved.body as Buffer;
    const other = await startTestServer();
    try {
      const there = await other.owner();
      const send = (query: string, data: Buffer = zip) =>
        there.send('post', `/api/house/archive?${query}`).set('Content-Type', 'application/zip').send(data);
      const becomes = async (query: string): Promise<string | undefined> =>
        ((await send(query).expect(200)).body as ArchiveTold).told.find((t) => t.what === 'knot “To be moved”')
          ?.becomes;
      const count = async (): Promise<number> =>
        ((await there.get('/api/knots').expect(200)).body as { total: number }).total;
      expect(await becomes('')).toBe('new');
      expect(await count()).toBe(0);
      expect(await becomes('take=true')).toBe('new');
      expect(await becomes('take=true')).toBe('there already');
      expect(await count()).toBe(1);
      const broken = (await send('', zip.subarray(0, zip.length / 2)).expect(400)).body as Problem;
      expect(broken.error.place).toBe('archive');
      await (await other.author()).get('/api/house/archive.zip').expect(403);
    } finally {
      await other.close();
    }
  }, 120_000);
});

describe('One account', () => {
  allOnOne();

  it('has so much of what costs much done at once, more of it in turn, and is told when that is too much', async () => {
    const asked = Array.from({ length: 60 }, () => owner.post('/api/knots', { name: 'Much' }));
    const [answers, other] = await Promise.all([
      Promise.all(asked.map((a) => a.then((answer) => answer))),
      server.author().then((ada) => ada.post('/api/knots', { name: 'Of another' })),
    ]);
    const [done, refused] = [201, 429].map((status) => answers.filter((a) => a.status === status));
    expect(done!.length + refused!.length).toBe(60);
    expect(done!.length).toBeGreaterThanOrEqual(30);
    expect(other.status).toBe(201);
    for (const { body, headers } of refused!) {
      expect((body as Problem).error.code).toBe('too-much-at-once');
      expect(headers['retry-after']).toBe('3');
    }
  }, 120_000);
});

describe('Whoever finds a session open', () => {
  allOnOne();

  it('is kept from guessing its password, as strangers are', async () => {
    const ada = await server.author();
    const guess = (present: string) => ada.put('/api/session/password', { present, wanted: 'three unlikely lanterns' });
    for (let n = 0; n < 8; n += 1) await guess(`wrong ${n}`).expect(403);
    await guess('right horse').expect(429);
    await server.pool.query('update sign_in_try set free_at = now()');
    await guess('right horse').expect(204);
    expect((await server.pool.query('select 1 from sign_in_try')).rowCount).toBe(0);
  }, 60_000);
});

describe('A waiting room', () => {
  it('lets in so many at once, the others in their order, and turns away who comes after those', async () => {
    const room = new WaitingRoom(2, 2, () => new HttpProblem(429, 'full', 'room', 'It is full.', 'Come later.'));
    const order: number[] = [];
    const leave: (() => void)[] = [];
    const enter = (n: number): Promise<void> =>
      room.enter(
        () =>
          new Promise<void>((done) => {
            order.push(n);
            leave.push(done);
          }),
      );
    const inside = [1, 2, 3, 4].map(enter);
    await expectAsync(enter(5)).toBeRejectedWith(jasmine.objectContaining({ code: 'full' }));
    expect(order).toEqual([1, 2]);
    leave[1]?.();
    await inside[1];
    await new Promise(setImmediate);
    expect(order).toEqual([1, 2, 3]);
    leave[0]?.();
    await inside[0];
    await new Promise(setImmediate);
    expect(order).toEqual([1, 2, 3, 4]);
    expect(room.isEmpty).toBeFalse();
    for (const go of leave) go();
    await Promise.all(inside);
    expect(room.isEmpty).toBeTrue();
  });
});
