import { identifiedSchema, knotListSchema, type KnotCard } from '@foxtrail/contract';
import { flipped, keysOf, mirror, readKnot, writeKnot, type Figure, type KnotDocument } from '@foxtrail/core';
import { patternOf } from '@foxtrail/pattern-book';
import { countStale } from '../src/index.js';
import { startTestServer, type Client, type TestServer } from './server.js';

const pattern = (id: string): KnotDocument => patternOf(id)!.knot;
const withFigure = (knot: KnotDocument, figure: Figure): KnotDocument => ({
  ...knot,
  method: { ...knot.method, figure },
});
const keys = (figure: Figure): object => {
  const found = keysOf(figure);
  if (!found.ok) throw new Error(found.reason);
  return found.value;
};

describe('what a saved knot is', () => {
  let server: TestServer;
  let author: Client;
  const put = async (knot: KnotDocument): Promise<KnotCard> =>
    ((await author.post('/api/knots', { document: writeKnot(knot) }).expect(201)).body as { card: KnotCard }).card;

  beforeAll(async () => {
    server = await startTestServer();
    author = await server.author();
  });
  afterAll(() => server.close());

  it('is on its card: what it claims holds, is mirrored, or fails and cannot be published', async () => {
    const reef = pattern('reef');
    expect((await put(reef)).verdict).toEqual({ state: 'holds', headline: 'It is the reef knot.' });
    const overhand = pattern('overhand');
    const left = await put(withFigure(overhand, mirror(overhand.method.figure)));
    expect(left.verdict?.state).toBe('mirrored');
    expect(left.errors).toBe(0);
    const wrong = await put(withFigure(reef, flipped(reef.method.figure, [1])));
    expect(wrong.verdict).toEqual({
      state: 'fails',
      headline: 'It is not the reef knot: it is the half knot, of the other hand.',
    });
    expect(wrong.errors).toBe(1);
    await author.post(`/api/knots/${wrong.id}/publication`).expect(409);
  });
  it('follows the claim that the entry makes, or its refusal to make one', async () => {
    const granny = pattern('granny');
    const named = { ...granny, name: 'A knot of ours', entry: { ...granny.entry, aliases: [], claim: 'reef' } };
    expect((await put(named)).verdict?.state).toBe('fails');
    const none = { ...named, entry: { ...named.entry, claim: 'none' } };
    expect((await put(none)).verdict).toEqual({ state: 'unclaimed', headline: 'It is the granny knot.' });
  });
  it('is computed anew with each save', async () => {
    const clove = pattern('clove-hitch');
    const card = await put(clove);
    const document = writeKnot(withFigure(clove, flipped(clove.method.figure, [4])));
    const saved = (await author.put(`/api/knots/${card.id}`, { document }, 1).expect(200)).body as { card: KnotCard };
    expect(saved.card.verdict?.state).toBe('fails');
  });
  it('is found by drawing: the same, the mirror image, the same body', async () => {
    await put(pattern('reef'));
    await put(pattern('clove-hitch'));
    const thief = await put(pattern('thief'));
    const found = knotListSchema.parse((await author.get(`/api/knots?like=${thief.id}`).expect(200)).body);
    expect(found.knots[0]?.id).toBe(thief.id);
    expect(found.knots.slice(1).map((k) => k.name)).toContain('Reef knot');
    expect(found.knots.map((k) => k.name)).not.toContain('Clove hitch');
  });
  it('is looked up by keys, without the knot itself, and only by who is signed in', async () => {
    const card = await put(pattern('carrick-bend'));
    const query = keys(mirror(pattern('carrick-bend').method.figure));
    const { matches } = identifiedSchema.parse((await author.post('/api/identify', query).expect(200)).body);
    expect(matches).toEqual([{ id: card.id, name: 'Carrick bend', relation: 'mirror' }]);
    const rest = identifiedSchema.parse((await author.post('/api/identify', { ...query, except: card.id })).body);
    expect(rest.matches).toEqual([]);
    await server.visitor().post('/api/identify', query).expect(401);
    await author.post('/api/identify', { ...query, key: 'short' }).expect(400);
  });
  it('follows where it was saved and not examined yet', async () => {
    const card = await put(pattern('sheet-bend'));
    await server.pool.query(
      "update knot set signature_key = null, verdict_state = null, verdict = null, lay_keys = '{}', counted_by = -1 where id = $1",
      [card.id],
    );
    expect(await countStale(server.pool)).toBe(1);
    const again = await server.pool.query<{ signature_key: string; verdict_state: string }>(
      'select signature_key, verdict_state from knot where id = $1',
      [card.id],
    );
    expect(again.rows[0]?.verdict_state).toBe('holds');
    expect(again.rows[0]?.signature_key).toMatch(/^[0-9a-f]{40}$/);
  });
  it('is answered without when there is no rope', async () => {
    const blank = ((await author.post('/api/knots', { name: 'Blank' }).expect(201)).body as { card: KnotCard }).card;
    expect(blank.verdict?.state).toBe('declined');
    const read = readKnot(writeKnot(pattern('reef')));
    expect(read.ok).toBeTrue();
  });
});
