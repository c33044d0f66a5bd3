import { knotSchema, type Knot, type KnotCard } from '@foxtrail/contract';
import { mirror, readKnot, type KnotDocument } from '@foxtrail/core';
import { demoDocument, startTestServer, type Client, type TestServer } from './server.js';

interface Told {
  text?: string;
}
type Loose = Record<string, unknown> & { method: { halts: Told[] } };

describe('the left-handed edition of a knot', () => {
  let server: TestServer;
  let author: Client;
  beforeAll(async () => {
    server = await startTestServer();
    author = await server.author();
  });
  afterAll(() => server.close());

  const cardIn = (body: unknown): KnotCard => (body as { card: KnotCard }).card;
  const create = async (document: Record<string, unknown>): Promise<KnotCard> =>
    cardIn((await author.post('/api/knots', { document }).expect(201)).body);
  const edition = async (id: string): Promise<KnotCard> =>
    cardIn((await author.post(`/api/knots/${id}/left-handed`).expect(201)).body);
  const get = async (id: string): Promise<Knot> =>
    knotSchema.parse((await author.get(`/api/knots/${id}`).expect(200)).body);
  const read = (knot: Knot): KnotDocument => {
    const found = readKnot(knot.document);
    if (!found.ok) throw new Error(found.reason);
    return found.value;
  };
  const say = (document: Record<string, unknown>, text: string): Record<string, unknown> => {
    const copy = structuredClone(document) as Loose;
    copy.method.halts[0]!.text = text;
    return copy;
  };

  it('is made once, of the other hand, and has nothing against it that its knot has not', async () => {
    const knot = await create(demoDocument('bowline.json'));
    const left = await edition(knot.id);
    expect(left.name).toBe('Bowline, left-handed');
    expect(left.leftHandOf).toEqual({ id: knot.id, name: 'Bowline', follows: true });
    expect(left.verdict?.state).toBe('mirrored');
    expect([left.errors, left.warnings]).toEqual([knot.errors, knot.warnings]);
    expect((await edition(knot.id)).id).toBe(left.id);
    expect((await get(knot.id)).leftHanded).toBe(left.id);
    const [own, other] = [read(await get(knot.id)), read(await get(left.id))];
    expect(other.method.figure.ropes.map((r) => r.points)).toEqual(
      mirror(own.method.figure).ropes.map((r) => r.points),
    );
    expect(other.entry.hand).toBe('left');
  });

  it('follows its knot until it is changed, and then goes its own way', async () => {
    const document = demoDocument('clove-hitch.json');
    const knot = await create(document);
    const left = await edition(knot.id);
    const saved = cardIn(
      (await author.put(`/api/knots/${knot.id}`, { document: say(document, 'Lead it to the left.') }, 1).expect(200))
        .body,
    );
    const followed = await get(left.id);
    expect(followed.card.revision).toBe(2);
    expect(read(followed).method.halts[0]!.text).toBe('Lead it to the right.');
    const own = say(followed.document, 'Lead it away.');
    const changed = cardIn((await author.put(`/api/knots/${left.id}`, { document: own }, 2).expect(200)).body);
    expect(changed.leftHandOf).toEqual({ id: knot.id, name: knot.name, follows: false });
    await author.put(`/api/knots/${knot.id}`, { document }, saved.revision).expect(200);
    expect(read(await get(left.id)).method.halts[0]!.text).toBe('Lead it away.');
  });

  it('that is archived is left alone, and another may be made', async () => {
    const document = demoDocument('overhand.json');
    const knot = await create(document);
    const left = await edition(knot.id);
    await author.post(`/api/knots/${left.id}/archive`).expect(200);
    await author.put(`/api/knots/${knot.id}`, { document: say(document, 'To the left.') }, 1).expect(200);
    expect((await get(left.id)).card.revision).toBe(1);
    expect((await get(knot.id)).leftHanded).toBeNull();
    expect((await edition(knot.id)).id).not.toBe(left.id);
  });

  it('has none of its own, and is an author’s to make', async () => {
    const knot = await create(demoDocument('reef.json'));
    const left = await edition(knot.id);
    const refused = await author.post(`/api/knots/${left.id}/left-handed`).expect(409);
    expect(JSON.stringify(refused.body)).toContain('Reef knot');
    const reviewer = await server.reviewer();
    await reviewer.post(`/api/knots/${knot.id}/left-handed`).expect(403);
    await author.post('/api/knots/00000000-0000-4000-8000-000000000000/left-handed').expect(404);
  });
});
