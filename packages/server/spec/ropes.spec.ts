import {
  KEPT_KINDS,
  PHOTOGRAPH_LIMIT,
  readingsSchema,
  ROPE_ROUTES,
  type Kept,
  type KeptKind,
} from '@foxtrail/contract/ropes';
import { NO_TRACE, withReadings } from '@foxtrail/core/ropes';
import type { Problem } from '@foxtrail/contract';
import { createHash } from 'node:crypto';
import type { Test } from 'supertest';
import { demoDocument, startTestServer, type Client, type TestServer } from './server.js';

const NOBODY = '00000000-0000-4000-8000-000000000000';
const problem = (body: unknown): Problem['error'] => (body as Problem).error;

/** One of each kind, as it is kept. */
const SOME: Readonly<Record<KeptKind, object>> = {
  ropes: {
    name: 'Braid, slate',
    construction: 'braided',
    diameterMm: 8,
    breakingKn: 14.5,
    source: 'the maker’s label',
    knottedShare: 0.65,
    pieces: [60_000, 35_000],
    inService: '2024-02-29',
    retires: '2029-03-01',
    second: '#ffffff',
    mark: 'tracer',
  },
  things: { name: 'Launch post', kind: 'post', diameterMm: 90 },
  bodies: { name: 'Wren', mm: { palm: 82, 'arm span': 1655 } },
  ties: { knot: 'pattern:bowline', knotName: 'Bowline', diameterMm: 8, eatenMm: 190, hostMm: 42 },
  tests: { knot: null, ropeName: 'Braid, slate', diameterMm: 8, peakKn: 15.2, pulledOn: '2026-05-04' },
  plans: {
    name: 'First day',
    ropes: [{ name: 'Anchor line', diameterMm: 8, knots: [{ ref: 'pattern:bowline', name: 'Bowline', eats: 19.5 }] }],
  },
  assemblies: {
    name: 'Ground strap',
    things: [{ id: 't1', name: 'Anchor', kind: 'post', acrossMm: 90, x: 100, y: 300 }],
    knots: [
      { id: 'k1', role: 'Anchor hitch', ref: 'pattern:clove-hitch', name: 'Clove hitch', on: 't1', x: 300, y: 300 },
    ],
    ropes: [{ name: 'Strap', diameterMm: 10, stops: [{ kind: 'knot', knot: 'k1', eats: 20, afterMm: 200 }] }],
  },
  courses: { name: 'First season', items: [{ ref: `knot:${NOBODY}`, name: 'Reef knot', practice: 15 }] },
};

describe('What is kept of ropes', () => {
  let server: TestServer;
  let author: Client;
  beforeAll(async () => {
    server = await startTestServer();
    author = await server.author();
  });
  afterAll(() => server.close());

  const list = async (kind: KeptKind): Promise<Kept<unknown>[]> =>
    ROPE_ROUTES[kind].list.answer.parse((await author.get(`/api/kept/${kind}`).expect(200)).body);
  const add = async (kind: KeptKind, ...things: object[]): Promise<Kept<Record<string, unknown>>[]> =>
    (await author.post(`/api/kept/${kind}`, { things }).expect(201)).body as Kept<Record<string, unknown>>[];
  const change = (kind: KeptKind, id: string, revision: number, is: object) =>
    author.put(`/api/kept/${kind}/${id}`, { revision, is });

  for (const kind of Object.keys(SOME) as KeptKind[])
    it(`${kind}: comes back as it was sent, is changed from its revision, and goes`, async () => {
      const whole = KEPT_KINDS[kind].shape.parse(SOME[kind]);
      const [made] = await add(kind, SOME[kind]);
      expect(made?.is as unknown).toEqual(whole);
      expect((await list(kind)).find((k) => k.id === made?.id)?.is).toEqual(whole);
      const other = { ...whole, remarks: 'looked at', ...('name' in whole ? { name: `${whole.name} 2` } : {}) };
      const changed = await change(kind, made!.id, 1, other).expect(200);
      expect((changed.body as Kept<unknown>).revision).toBe(2);
      // From a revision that has gone by: refused, and told what stands now.
      const late = await change(kind, made!.id, 1, whole).expect(412);
      expect((late.body as { now: Kept<unknown> }).now.revision).toBe(2);
      await author.remove(`/api/kept/${kind}/${made!.id}`).expect(204);
      await author.remove(`/api/kept/${kind}/${made!.id}`).expect(404);
      await change(kind, NOBODY, 1, whole).expect(404);
    });

  it('is taken whole or not at all: of two ropes of one name neither is kept', async () => {
    const before = (await list('ropes')).length;
    const refused = await author
      .post('/api/kept/ropes', {
        things: [
          { name: 'Twine', diameterMm: 2 },
          { name: 'TWINE', diameterMm: 3 },
        ],
      })
      .expect(409);
    expect(problem(refused.body).place).toBe('name');
    expect((await list('ropes')).length).toBe(before);
  });

  it('is refused with its place where it cannot be', async () => {
    const wrong = async (kind: KeptKind, thing: object): Promise<string> =>
      problem((await author.post(`/api/kept/${kind}`, { things: [thing] }).expect(400)).body).place;
    expect(await wrong('ropes', { name: 'Twine', diameterMm: -2 })).toContain('diameterMm');
    expect(await wrong('ropes', { name: 'Twine', diameterMm: 2, breakingKn: 1 })).toContain('source');
    expect(await wrong('tests', { ...SOME.tests, peakKn: 0 })).toContain('peakKn');
    expect(await wrong('ties', { ...SOME.ties, knot: 'knot:1' })).toContain('knot');
    await author.post('/api/kept/ties', { things: [{ ...SOME.ties, knot: `knot:${NOBODY}` }] }).expect(409);
  });

  it('is read by everybody who is signed in, and written by authors', async () => {
    await server.visitor().get('/api/kept/ropes').expect(401);
    const reviewer = await server.reviewer();
    await reviewer.get('/api/kept/ropes').expect(200);
    await reviewer.post('/api/kept/ropes', { things: [{ name: 'Mine', diameterMm: 4 }] }).expect(403);
  });

  it('outlives the knot and the rope it names: a test keeps their names', async () => {
    const made = await author.post('/api/knots', { document: demoDocument('bowline.json') }).expect(201);
    const knot = (made.body as { card: { id: string } }).card.id;
    const [rope] = await add('ropes', { name: 'Short lived', diameterMm: 6 });
    const [test] = await add('tests', {
      ...SOME.tests,
      knot: `knot:${knot}`,
      knotName: 'Bowline',
      rope: rope!.id,
      ropeName: 'Short lived',
    });
    await server.pool.query('delete from knot where id = $1', [knot]);
    await author.remove(`/api/kept/ropes/${rope!.id}`).expect(204);
    const left = (await list('tests')).find((t) => t.id === test!.id)?.is;
    expect(left).toEqual(
      jasmine.objectContaining({ knot: 'gone', knotName: 'Bowline', rope: null, ropeName: 'Short lived' }),
    );
  });

  it('keeps a photograph that is what its name says, for as long as a test shows it', async () => {
    const png = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    );
    const name = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');
    const send = (as: string, bytes: Buffer): Test =>
      author.send('put', `/api/photographs/${as}`).set('Content-Type', 'image/png').send(bytes);
    const photograph = name(png);
    // Not kept before it was sent, under another name, or where it is no picture.
    await author.post('/api/kept/tests', { things: [{ ...SOME.tests, photograph }] }).expect(409);
    await send('0'.repeat(64), png).expect(400);
    const text = Buffer.from('<svg onload="x"/>');
    await send(name(text), text).expect(415);
    await send(name(Buffer.alloc(PHOTOGRAPH_LIMIT + 1)), Buffer.alloc(PHOTOGRAPH_LIMIT + 1)).expect(413);

    await send(photograph, png).expect(204);
    await send(photograph, png).expect(204);
    const [test] = await add('tests', { ...SOME.tests, photograph });
    expect(test!.is.photograph).toBe(photograph);
    const read = await author.get(`/api/photographs/${photograph}`).expect(200);
    expect(read.get('Content-Type')).toBe('image/png');
    expect(read.body as Buffer).toEqual(png);
    await server.visitor().get(`/api/photographs/${photograph}`).expect(401);
    await author.get(`/api/photographs/${'0'.repeat(64)}`).expect(404);

    // A day later, when another is kept: it stays while a test shows it, and goes after.
    const later = async (): Promise<void> => {
      await server.pool.query("update photograph set kept_at = now() - interval '2 days' where hash = $1", [
        photograph,
      ]);
      const other = Buffer.concat([png, Buffer.from(String(Math.random()))]);
      await send(name(other), other).expect(204);
    };
    await later();
    await author.get(`/api/photographs/${photograph}`).expect(200);
    await author.remove(`/api/kept/tests/${test!.id}`).expect(204);
    await later();
    await author.get(`/api/photographs/${photograph}`).expect(404);
  });

  it('and a simulated cell sends its readings as they come, to its break', async () => {
    const answer = await author.get('/api/load-cell/simulated?breaks=4&seed=7').expect(200);
    expect(answer.get('Content-Type')).toContain('text/event-stream');
    const events = answer.text.split('\n\n').filter((e) => e.startsWith('data: '));
    const trace = events.reduce(
      (t, e) => withReadings(t, readingsSchema.parse(JSON.parse(e.slice('data: '.length)))),
      NO_TRACE,
    );
    expect(events.length).toBeGreaterThan(20);
    expect(trace.broke).toBeDefined();
    expect(Math.abs(trace.peak!.kn - 4)).toBeLessThan(0.1);
    expect(answer.text).toContain('event: over');
    await author.get('/api/load-cell/simulated').expect(400);
    await server.visitor().get('/api/load-cell/simulated?breaks=4').expect(401);
  });
});
