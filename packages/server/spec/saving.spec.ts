/**
 * Saving: a save is answered soon, once, and the same however often it is sent; what it is found to be follows, computed aside.
 */
import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { knotListSchema, type Account, type KnotCard, type Problem } from '@foxtrail/contract';
import { weaveFigure, type FigureFile, type Point } from '@foxtrail/core';
import type pg from 'pg';
import { pino } from 'pino';
import { aside, TakenBack, TooLong } from '../src/aside.js';
import { countStale, createApp } from '../src/index.js';
import { publishKnot } from '../src/publications.js';
import { Client, demoDocument, startTestServer, type TestServer } from './server.js';

let server: TestServer;
let author: Client;
/** Each spec of a group has a server of its own. */
const eachOnItsOwn = (): void => {
  beforeEach(async () => {
    server = await startTestServer();
    author = await server.author();
  });
  afterEach(() => server.close());
};

const card = (body: unknown): KnotCard => (body as { card: KnotCard }).card;
const problem = (body: unknown): Problem['error'] => (body as Problem).error;
const made = async (document: unknown = demoDocument('overhand.json')): Promise<KnotCard> =>
  card((await author.post('/api/knots', { document }).expect(201)).body);

/** One rope to and fro over the board and then up and down, as often: so many times so many crossings. */
function serpentine(lines: number): object {
  const row = (i: number): Point[] => {
    const [y, far] = [4 * i, 4 * lines];
    return i % 2 === 0
      ? [
          [-4, y],
          [far, y],
        ]
      : [
          [far, y],
          [-4, y],
        ];
  };
  const across = Array.from({ length: lines }, (_, i) => row(i)).flat();
  const down = Array.from({ length: lines }, (_, i) =>
    row(i).map(([along, at]): Point => [4 * lines - 4 - at - 0.5, along]),
  ).flat();
  const woven = weaveFigure(
    {
      ropes: [
        {
          id: 'a',
          points: [...across, ...down],
          curve: 'straight',
          closed: false,
          ends: ['standing', 'tail'],
          weave: '',
        },
      ],
      hosts: [],
    },
    (_, i) => i % 2 === 0,
  );
  return { ...demoDocument('overhand.json'), name: 'Serpentine', ropes: woven.ropes, method: undefined };
}

describe('A save', () => {
  eachOnItsOwn();

  it('that is sent again is answered as it was the first time, and makes no revision', async () => {
    const { id } = await made();
    const document = demoDocument('overhand.json');
    const save = randomUUID();
    const body = { document: { ...document, name: 'Once' }, save };
    const first = await author.put(`/api/knots/${id}`, body, 1).expect(200);
    const again = await author.put(`/api/knots/${id}`, body, 1).expect(200);
    expect([again.headers.etag, card(again.body)]).toEqual([first.headers.etag, card(first.body)]);
    // Somebody else has saved since: the answer names the revision that this save made, so that what follows meets theirs.
    await author.put(`/api/knots/${id}`, { document: { ...document, name: 'Theirs' } }, 2).expect(200);
    const late = await author.put(`/api/knots/${id}`, body, 1).expect(200);
    expect(late.headers.etag).toBe('"2"');
    expect(card(late.body).revision).toBe(2);
    await author.put(`/api/knots/${id}`, { ...body, save: randomUUID() }, 2).expect(412);
    const { rows } = await server.pool.query('select number from revision where knot_id = $1', [id]);
    expect(rows.length).toBe(3);
  });

  it('sent twice at the same moment is made once', async () => {
    const { id } = await made();
    const body = { document: { ...demoDocument('overhand.json'), name: 'Once' }, save: randomUUID() };
    const answers = await Promise.all([1, 2, 3].map(() => author.put(`/api/knots/${id}`, body, 1)));
    expect(answers.map((a) => [a.status, a.headers.etag])).toEqual([1, 2, 3].map(() => [200, '"2"']));
  });

  it('is answered before its knot is examined, and what is found follows; until then it is not called proofed', async () => {
    const hasty = createApp({ pool: server.pool, log: pino({ level: 'silent' }), version: 'test', patience: 0 });
    const client = await new Client(hasty).signIn('Ada Author', 'right horse');
    const own = card((await client.post('/api/knots', { document: demoDocument('granny.json') }).expect(201)).body);
    expect([own.examined, own.verdict, own.state]).toEqual([false, null, 'draft']);
    // It is published, or refused, by what it is found to be then.
    await client.post(`/api/knots/${own.id}/publication`);
    const listed = knotListSchema.parse((await client.get('/api/knots').expect(200)).body).knots[0]!;
    expect(listed.examined).toBeTrue();
    expect(listed.verdict?.headline).toContain('granny');
    expect(await countStale(server.pool)).toBe(0);
  });

  it('that lands while its knot is being published is examined before anything goes out', async () => {
    const { id } = await made();
    const wrong = { ...demoDocument('granny.json'), name: 'Reef knot' };
    const { rows } = await server.pool.query<{ id: string }>("select id from account where name = 'Ada Author'");
    let landed = false;
    // Looks at the knot's card only after a wrong drawing has been saved over the one that was examined.
    const slow = new Proxy(server.pool, {
      get: (pool, key) => {
        if (key !== 'query') return Reflect.get(pool, key) as unknown;
        return async (asked: string | pg.QueryConfig, values?: unknown[]) => {
          const text = typeof asked === 'string' ? asked : asked.text;
          if (!landed && text.includes('as examined')) {
            landed = true;
            const hasty = createApp({ pool, log: pino({ level: 'silent' }), version: 'test', patience: 0 });
            await (
              await new Client(hasty).signIn('Ada Author', 'right horse')
            )
              .put(`/api/knots/${id}`, { document: wrong, save: randomUUID() }, 1)
              .expect(200);
          }
          return pool.query(asked as string, values);
        };
      },
    });
    const account = { id: rows[0]!.id } as Account;
    await expectAsync(publishKnot(slow, account, id)).toBeRejectedWith(
      jasmine.objectContaining({ code: 'open-errors' }),
    );
    expect(landed).toBeTrue();
  });

  it('of what is no knot is refused with its place, and nothing is kept of it', async () => {
    const { id } = await made();
    const bad = { ...demoDocument('overhand.json'), ropes: [{ id: 'a', points: [[0, 0]] }] };
    const answer = await author.put(`/api/knots/${id}`, { document: bad, save: randomUUID() }, 1).expect(400);
    expect(problem(answer.body).place).toContain('ropes');
    const { rows } = await server.pool.query('select number from revision where knot_id = $1', [id]);
    expect(rows.length).toBe(1);
  });

  it('of a knot that keeps the server’s processes busy holds up no page', async () => {
    let examined = false;
    const large = author.post('/api/knots', { document: serpentine(7) }).then((answer) => {
      examined = true;
      return answer;
    });
    // Until it is read and stored; then it is being examined.
    for (let stored = 0; stored === 0;) {
      const found = await server.pool.query<{ n: number }>(
        "select count(*)::int as n from knot where name = 'Serpentine'",
      );
      stored = found.rows[0]!.n;
    }
    await server.visitor().get('/api/public/knots').expect(200);
    const other = await author.put(`/api/knots/${(await listed('Serpentine')).id}`, { document: 1 }, 1);
    expect(other.status).toBe(400);
    expect(examined).toBeFalse();
    expect((await large).status).toBe(201);
    expect((await listed('Serpentine')).examined).toBeTrue();
  });

  it('refuses a file of far too many crossings by its first ones, and a concept of far too many names by its limit', async () => {
    const zigzag = (n: number): object => ({
      id: `r${n}`,
      curve: 'straight',
      points: Array.from({ length: 2000 }, (_, i) => [-300 + (0.2 + 0.01 * n) * i, i % 2 === 0 ? -200 : 200]),
    });
    const document = { format: 'foxtrail-figure/1', ropes: Array.from({ length: 12 }, (_, n) => zigzag(n)) };
    const answer = await author.post('/api/knots', { document }).expect(400);
    expect(problem(answer.body).reason).toContain('more than 300 crossings');
    const names = Array.from({ length: 20_000 }, (_, i) => `"name ${i}"@en`).join(', ');
    const text = `@prefix skos: <http://www.w3.org/2004/02/skos/core#> .
      <urn:x> a skos:Concept ; skos:inScheme <urn:s> ; skos:prefLabel "Many"@en ; skos:altLabel ${names} .`;
    const taken = await author
      .post('/api/words/import', { format: 'ttl', text, answers: {}, apply: false })
      .expect(200);
    const { report } = taken.body as { report: { refused: { reason: string }[] } };
    expect(report.refused.map((r) => r.reason)).toContain('19941 of its names are left out: a concept has 60 at most.');
  });

  const listed = async (name: string): Promise<KnotCard> =>
    knotListSchema.parse((await author.get('/api/knots').expect(200)).body).knots.find((k) => k.name === name)!;
});

describe('Computation aside', () => {
  it('keeps a process that waits for it alive, and lets it end when nothing is waited for any more', () => {
    // A server that starts waits for nothing else: it must not end before it listens, however slow the machine is.
    const script = fileURLToPath(new URL('./waits-for-aside.ts', import.meta.url));
    const ran = spawnSync(process.execPath, ['--import', 'tsx', script], { encoding: 'utf8', timeout: 110_000 });
    expect([ran.stdout.trim(), ran.status]).toEqual(['ready', 0]);
  }, 120_000);

  const reef = { document: demoDocument('reef.json') as FigureFile };

  it('ends what takes too long, alone: what waits behind it is done, and so is the same when it has time', async () => {
    const late = aside('kin', { kind: 'mirrored', turns: 0, from: reef, to: reef }, { most: 0 });
    const behind = aside('kin', { kind: 'mirrored', turns: 0, from: reef, to: { pattern: 'reef' } });
    await expectAsync(late).toBeRejectedWithError(TooLong);
    expect((await behind).state).not.toBe('open');
    expect((await aside('kin', { kind: 'mirrored', turns: 0, from: reef, to: reef })).state).not.toBe('open');
  });

  it('does what somebody waits for before what nobody waits for', async () => {
    // The process is there: one that is only starting has nothing in hand yet.
    await aside('read', reef);
    const order: string[] = [];
    const put = (name: string, ahead: boolean): Promise<unknown> =>
      aside('read', reef, { ahead }).then(() => order.push(name));
    await Promise.all([put('in hand', false), put('later', false), put('later too', false), put('now', true)]);
    expect(order).toEqual(['in hand', 'now', 'later', 'later too']);
  });

  it('does not begin what was taken back, and goes on with what it has in hand', async () => {
    await aside('read', reef);
    const drop = new AbortController();
    const [inHand, back] = [aside('read', reef, { signal: drop.signal }), aside('read', reef, { signal: drop.signal })];
    const behind = aside('read', reef);
    drop.abort();
    await expectAsync(back).toBeRejectedWithError(TakenBack);
    expect((await inHand).ok).toBeTrue();
    expect((await behind).ok).toBeTrue();
  });
});
