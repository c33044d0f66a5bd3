/**
 * Who is let in: guesses, names and devices; people and what they may do; names of the server; text that is none.
 */
import { HOUSE_ROUTES, type People, type Problem } from '@foxtrail/contract';
import { ROUTES } from '@foxtrail/contract/routes';
import fc from 'fast-check';
import { pino } from 'pino';
import supertest from 'supertest';
import { createApp, metricsFor } from '../src/index.js';
import { passwordTrouble } from '../src/passwords.js';
import { oddText } from '../src/odd-text.js';
import { Client, demoDocument, startTestServer, type TestServer } from './server.js';

let server: TestServer;
/** The specs of a group share a server. */
const allOnOne = (): void => {
  beforeAll(async () => {
    server = await startTestServer();
  });
  afterAll(() => server.close());
};
const problem = (body: unknown): Problem['error'] => (body as Problem).error;
const GOOD = 'three unlikely lanterns';

describe('guesses at a password', () => {
  allOnOne();

  const guess = (client: Client, name: string, password = 'x'): supertest.Test =>
    client.post('/api/session', { name, password });
  beforeEach(() => server.pool.query('delete from sign_in_try'));

  it('are counted before they are tried: of many at once no more get through than one after the other', async () => {
    const answers = await Promise.all(Array.from({ length: 40 }, () => guess(server.visitor(), 'Ada Author')));
    const tried = answers.filter((a) => a.status === 401).length;
    expect(tried).toBeGreaterThan(0);
    expect(tried).toBeLessThanOrEqual(8);
    expect(answers.filter((a) => a.status === 429).length).toBe(40 - tried);
  }, 60_000);

  it('make who guesses wait longer each time, a minute at most, and forget it after a while', async () => {
    const stranger = server.visitor();
    for (let i = 0; i < 8; i += 1) await guess(stranger, 'Rue Reviewer').expect(401);
    const waits: number[] = [];
    for (let i = 0; i < 9; i += 1) {
      const held = await guess(stranger, 'Rue Reviewer').expect(429);
      // Retry-After says what is left of the wait, which is less the slower the machine; the wait itself is what was noted.
      const noted = await server.pool.query<{ s: number }>(
        'select extract(epoch from free_at - at)::int as s from sign_in_try',
      );
      waits.push(Number(noted.rows[0]?.s));
      expect(Number(held.headers['retry-after'])).toBeGreaterThan(0);
      expect(Number(held.headers['retry-after'])).toBeLessThanOrEqual(waits.at(-1)!);
      await server.pool.query("update sign_in_try set free_at = now() - interval '1 second'");
      await guess(stranger, 'Rue Reviewer').expect(401);
    }
    expect(waits).toEqual([...waits].sort((a, b) => a - b));
    expect(new Set(waits).size).toBeGreaterThan(4);
    expect(waits.at(-1)).toBe(60);
    await server.pool.query("update sign_in_try set at = now() - interval '16 minutes', free_at = now()");
    for (let i = 0; i < 8; i += 1) await guess(stranger, 'Rue Reviewer').expect(401);
  }, 60_000);

  it('by strangers lock nobody out: neither a device that was here before, nor another name at the same address', async () => {
    const ada = await server.author();
    for (let i = 0; i < 8; i += 1) await guess(server.visitor(), 'Ada Author').expect(401);
    await guess(server.visitor(), 'Ada Author', 'right horse').expect(429);
    await guess(ada, 'Ada Author', 'right horse').expect(200);
    await guess(server.visitor(), 'Rue Reviewer', 'left horse').expect(200);
  }, 30_000);

  it('count for the address that asks, and for no address that it names', async () => {
    const as = (n: number): supertest.Test =>
      guess(server.visitor(), 'Ada Author').set('X-Forwarded-For', `10.0.0.${n}`);
    for (let i = 0; i < 8; i += 1) await as(i).expect(401);
    await as(9).expect(429);
    const log = pino({ level: 'silent' });
    const behind = createApp({ pool: server.pool, log, version: 'test', proxy: 'loopback' });
    await guess(new Client(behind), 'Ada Author').set('X-Forwarded-For', '10.0.0.9').expect(401);
  }, 30_000);
});

describe('people', () => {
  allOnOne();

  const people = async (owner: Client): Promise<People> =>
    HOUSE_ROUTES.people.answer.parse((await owner.get('/api/people').expect(200)).body);

  it('are invited by an owner, with a link that is taken up once; what each may do is held', async () => {
    const owner = await server.owner();
    for (const other of [await server.author(), await server.reviewer()])
      await other.post('/api/people/invitations', { name: 'X', role: 'owner' }).expect(403);
    const made = await owner.post('/api/people/invitations', { name: 'Ren Reader', role: 'reader' }).expect(201);
    const { token } = made.body as { token: string };
    expect((await people(owner)).invited).toEqual([jasmine.objectContaining({ name: 'Ren Reader', role: 'reader' })]);
    const guest = server.visitor();
    expect(problem((await guest.post('/api/join', { token, password: 'short' }).expect(400)).body).place).toBe(
      'password',
    );
    guest.keep(await guest.post('/api/join', { token, password: GOOD }).expect(200));
    await server.visitor().post('/api/join', { token, password: GOOD }).expect(404);
    // A reader reads drafts: nothing that changes anything is open to them.
    await guest.get('/api/knots').expect(200);
    for (const r of ROUTES.filter((route) => route.method !== 'get' && (route.access ?? 'account') !== 'anyone')) {
      // What is asked with a body is read all the same.
      const isRead = ['/api/identify', '/api/knot-facts', '/api/lesson-facts'].includes(r.path);
      if (r.path.startsWith('/api/session') || isRead) continue;
      const path = r.path.replace(
        /\{(\w+)\}/g,
        (_, name: string) =>
          ({ film: '0'.repeat(64), word: 'bight', piece: '0', item: 'front', number: '1' })[name] ??
          '00000000-0000-4000-8000-000000000000',
      );
      expect((await guest.send(r.method, path)).status)
        .withContext(`${r.method} ${path}`)
        .toBe(403);
    }
    await server.visitor().signIn('ren reader', GOOD);
  }, 60_000);

  it('change their password, and are signed out wherever else they were', async () => {
    const owner = await server.owner();
    const { token } = (await owner.post('/api/people/invitations', { name: 'Pim', role: 'author' }).expect(201))
      .body as { token: string };
    const [here, there] = [server.visitor(), server.visitor()];
    here.keep(await here.post('/api/join', { token, password: GOOD }).expect(200));
    await there.signIn('Pim', GOOD);
    const other = 'another four lamp posts';
    await here.put('/api/session/password', { present: 'not it', wanted: other }).expect(403);
    await here.put('/api/session/password', { present: GOOD, wanted: 'pim pim pim pim' }).expect(400);
    here.keep(await here.put('/api/session/password', { present: GOOD, wanted: other }).expect(204));
    await here.get('/api/knots').expect(200);
    await there.get('/api/knots').expect(401);
    await there.signIn('Pim', other);
    await here.remove('/api/session/all').expect(204);
    for (const client of [here, there]) await client.get('/api/knots').expect(401);
  }, 60_000);

  it('are closed and opened again; the last owner stays one', async () => {
    const owner = await server.owner();
    const { people: all } = await people(owner);
    const id = (name: string): string => all.find((p) => p.name === name)!.id;
    const rue = await server.reviewer();
    await owner.put(`/api/people/${id('Rue Reviewer')}`, { role: 'reviewer', closed: true }).expect(204);
    await rue.get('/api/knots').expect(401);
    await server.visitor().post('/api/session', { name: 'Rue Reviewer', password: 'left horse' }).expect(401);
    await owner.put(`/api/people/${id('Rue Reviewer')}`, { role: 'author', closed: false }).expect(204);
    expect(
      (
        (await rue.signIn('Rue Reviewer', 'left horse').then(() => rue.get('/api/session'))).body as {
          account: { role: string };
        }
      ).account.role,
    ).toBe('author');
    for (const change of [
      { role: 'author', closed: false },
      { role: 'owner', closed: true },
    ])
      expect(problem((await owner.put(`/api/people/${id('Olm Owner')}`, change).expect(409)).body).code).toBe(
        'last-owner',
      );
    await owner.get('/api/people').expect(200);
    await owner.put(`/api/people/${id('Rue Reviewer')}`, { role: 'reviewer', closed: false }).expect(204);
  }, 60_000);

  it('are signed out after a week without use, and after thirty days at most', async () => {
    const author = await server.author();
    await server.pool.query("update session set used_at = now() - interval '1 hour'");
    await author.get('/api/knots').expect(200);
    const noted = await server.pool.query("select 1 from session where used_at > now() - interval '1 minute'");
    expect(noted.rowCount).toBe(1);
    await server.pool.query("update session set used_at = now() - interval '8 days'");
    await author.get('/api/knots').expect(401);
  });

  it('choose passwords that are not among the first that are guessed', () => {
    for (const bad of [
      '',
      'short',
      'password1234',
      'qwertyuiop12',
      'aaaaaaaaaaaaaa',
      '123456789012',
      'Ren Reader Ren',
      'iloveyou1234',
    ])
      expect(passwordTrouble(bad, 'Ren Reader')?.place).withContext(bad).toBe('password');
    for (const good of [GOOD, 'vzv!9Kq-tt0#mm', 'čtyři zelené lampy'])
      expect(passwordTrouble(good, 'Ren Reader')).withContext(good).toBeUndefined();
    // However long, it is looked at in no time.
    expect(passwordTrouble('lantern kite harbour '.repeat(9).slice(0, 200))).toBeUndefined();
  });
});

describe('the names of the server', () => {
  allOnOne();

  it('are its own: what was meant for another host is refused, whatever its origin', async () => {
    const log = pino({ level: 'silent' });
    const app = createApp({ pool: server.pool, log, version: 'test', hosts: ['Knots.example'] });
    const ask = (host: string): supertest.Test => supertest(app).get('/api/health').set('Host', host);
    for (const host of ['127.0.0.1', 'localhost:4180', '[::1]:80', 'knots.example', 'KNOTS.example:8443'])
      await ask(host).expect(200);
    for (const host of ['evil.example', '127.0.0.1.evil.example', '10.0.0.1', 'a b', '127.0.0.1@evil.example'])
      expect((await ask(host)).status)
        .withContext(host)
        .toBe(421);
    const rebound = await supertest(app)
      .post('/api/session')
      .set({ Host: 'evil.example', Origin: 'http://evil.example' })
      .send({ name: 'Ada Author', password: 'right horse' });
    expect([rebound.status, rebound.get('Set-Cookie')]).toEqual([421, undefined]);
  });
  it('have counts and times for who knows the token, and for nobody else', async () => {
    const log = pino({ level: 'silent' });
    const app = createApp({ pool: server.pool, log, version: 'test', metrics: metricsFor('a long token') });
    const ask = (authorization = ''): supertest.Test =>
      supertest(app).get('/metrics').set({ Host: 'localhost', Authorization: authorization });
    await supertest(app).get('/api/health').set('Host', 'localhost').expect(200);
    await ask().expect(401);
    await ask('Bearer another').expect(401);
    const { text } = await ask('Bearer a long token').expect(200);
    expect(text).toContain('foxtrail_answer_seconds_count{method="GET",route="/api/health",status="200"} 1');
  });
});

/** What an address can hold of a text. */
const wellFormed = (text: string): string => text.replace(/\p{Surrogate}/gu, '\ufffd');

describe('text that is none', () => {
  allOnOne();

  const ODD = [
    '\0',
    '\ud800',
    'a\udfffb',
    '\u202e',
    '%',
    '%00',
    '💥'.slice(0, 1),
    'x'.repeat(70_000),
    '1e999',
    '-0',
    '\uffff',
  ];
  const odd = fc.oneof(fc.constantFrom(...ODD), fc.string({ unit: 'binary', maxLength: 20 }), fc.double().map(String));

  it('is refused with its place, wherever it stands, and never an error of the server', async () => {
    const author = await server.author();
    const owner = await server.owner();
    const anything = fc.letrec((tie) => ({
      value: fc.oneof(
        { maxDepth: 4 },
        odd,
        fc.integer(),
        fc.double(),
        fc.constant(null),
        fc.boolean(),
        fc.array(tie('value'), { maxLength: 4 }),
        fc.dictionary(
          fc.oneof(odd, fc.constantFrom('name', 'role', 'document', 'body', 'password', 'revision')),
          tie('value'),
          { maxKeys: 4 },
        ),
      ),
    })).value;
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...ROUTES), odd, anything, fc.boolean(), async (r, text, body, isOwner) => {
        if (r.path === '/api/session' || r.path === '/api/session/all') return;
        const path = r.path.replace(/\{\w+\}/g, () => encodeURIComponent(wellFormed(text)).slice(0, 900));
        const asking = (isOwner ? owner : author).send(
          r.method,
          `${path}?q=${encodeURIComponent(wellFormed(text)).slice(0, 900)}&method=${encodeURIComponent(wellFormed(text)).slice(0, 50)}`,
        );
        const answer = await (r.method === 'get' || r.method === 'delete'
          ? asking
          : asking.set('Content-Type', 'application/json').send(JSON.stringify(body)));
        expect(answer.status)
          .withContext(`${r.method} ${path} ${JSON.stringify(body)}: ${answer.text}`)
          .toBeLessThan(500);
      }),
      { numRuns: 300 },
    );
    await author.get('/api/knots?q=%00').expect(400);
    await author.get('/api/knots/%').expect(400);
    await author.get('/api/knots/%00').expect(404);
    const document = { ...demoDocument('overhand.json'), mood: 'a\0b' };
    expect(problem((await author.post('/api/knots', { document }).expect(400)).body).place).toBe('document.mood');
  }, 120_000);

  it('is told apart from text in any language', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 40 }), (text) => {
        expect(oddText({ a: [text] })).toEqual(text.includes('\0') ? jasmine.anything() : undefined);
      }),
    );
    expect(oddText({ a: [{ b: 'x\ud83d' }] })?.place).toBe('a[0].b');
    let deep: unknown = 1;
    for (let i = 0; i < 5000; i += 1) deep = [deep];
    expect(oddText(deep)?.reason).toContain('deeper');
  });

  it('is refused where its encoding is not known, its body is none, or nested without end', async () => {
    const author = await server.author();
    const post = (): supertest.Test => author.send('post', '/api/knots');
    await post().set('Content-Type', 'application/json; charset=iso-8859-1').send('{}').expect(415);
    await post().set({ 'Content-Type': 'application/json', 'Content-Encoding': 'rot13' }).send('{}').expect(415);
    await post().set('Content-Type', 'application/json').send('{"name": ').expect(400);
    await post()
      .set('Content-Type', 'application/json')
      .send('['.repeat(50_000) + ']'.repeat(50_000))
      .expect(400);
    await post().set('Content-Type', 'text/plain').send('name').expect(400);
  });
});
