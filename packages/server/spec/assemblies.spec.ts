import { ASSEMBLY_ROUTES, type InspectionRecord } from '@foxtrail/contract/assemblies';
import type { Kept } from '@foxtrail/contract/ropes';
import type { Assembly, KnotFacts } from '@foxtrail/core/assembly';
import type { Problem } from '@foxtrail/contract';
import { demoDocument, startTestServer, type Client, type TestServer } from './server.js';

const NOBODY = '00000000-0000-4000-8000-000000000000';
const problem = (body: unknown): Problem['error'] => (body as Problem).error;

describe('Assemblies', () => {
  let server: TestServer;
  let author: Client;
  beforeAll(async () => {
    server = await startTestServer();
    author = await server.author();
  });
  afterAll(() => server.close());

  const factsOf = async (...refs: string[]): Promise<readonly KnotFacts[]> =>
    ASSEMBLY_ROUTES.facts.answer.parse((await author.post('/api/knot-facts', { refs }).expect(200)).body).facts;
  const knot = async (file: string, more: object = {}): Promise<string> => {
    const document = { ...(demoDocument(file) as object), ...more };
    const made = await author.post('/api/knots', { document }).expect(201);
    return (made.body as { card: { id: string } }).card.id;
  };
  const assembly = async (name: string, ref = 'pattern:overhand'): Promise<Kept<Assembly>> => {
    const things = [
      {
        name,
        knots: [{ id: 'k1', role: 'Stopper', ref, name: 'Overhand', shouldBe: 'overhand', x: 100, y: 100 }],
        ropes: [{ name: 'Rope', diameterMm: 10, stops: [{ kind: 'knot', knot: 'k1', eats: 11.5, afterMm: 200 }] }],
      },
    ];
    const made = await author.post('/api/kept/assemblies', { things }).expect(201);
    return (made.body as Kept<Assembly>[])[0]!;
  };
  const items = [{ group: 'Stopper', text: 'It is the overhand knot.', tick: 'right' }];

  it('know what their knots are by computation, whatever they are called', async () => {
    const granny = await knot('granny.json', { name: 'Square knot', entry: { claim: 'none' } });
    const [book, own] = await factsOf('pattern:reef', `knot:${granny}`);
    expect(book!.is.map((m) => m.id)).toEqual(['reef']);
    expect(book!.unsuitable).toContain('never for life safety');
    expect(own!.name).toBe('Square knot');
    expect(own!.is.map((m) => m.id)).toEqual(['granny']);
    expect([own!.state, own!.strands, own!.slug]).toEqual(['there', 2, null]);
    expect(own!.marks.length).toBeGreaterThan(0);
  });

  it('are told of knots that were archived, and of those that are gone', async () => {
    const id = await knot('overhand.json');
    await author.post(`/api/knots/${id}/archive`).expect(200);
    const facts = await factsOf(`knot:${id}`, `knot:${NOBODY}`, 'pattern:no-such-pattern', 'gone');
    expect(facts.map((f) => f.state)).toEqual(['archived', 'gone', 'gone', 'gone']);
    expect(facts.map((f) => f.ref)).toEqual([`knot:${id}`, `knot:${NOBODY}`, 'pattern:no-such-pattern', 'gone']);
  });

  it('follow a knot that is drawn otherwise', async () => {
    const document = demoDocument('reef.json') as object;
    const id = await knot('reef.json');
    expect((await factsOf(`knot:${id}`))[0]!.is[0]!.id).toBe('reef');
    const other = { ...(demoDocument('granny.json') as object), name: (document as { name: string }).name };
    await author.put(`/api/knots/${id}`, { document: other }, 1).expect(200);
    expect((await factsOf(`knot:${id}`))[0]!.is[0]!.id).toBe('granny');
  });

  it('are inspected as they stand: a record says who, when and of which revision, and outlives what it was of', async () => {
    const kept = await assembly('Ground strap');
    const reader = await server.reviewer();
    const path = `/api/kept/assemblies/${kept.id}/inspections`;
    const made = (await reader.post(path, { revision: 1, items, remarks: ' Site 3 ' }).expect(201))
      .body as InspectionRecord;
    expect(made.verdict).toBe('good');
    expect(made.remarks).toBe('Site 3');
    expect(Date.now() - Date.parse(made.at)).toBeLessThan(60_000);
    await author
      .put(`/api/kept/assemblies/${kept.id}`, { revision: 1, is: { ...kept.is, summary: 'Longer.' } })
      .expect(200);
    const late = await reader.post(path, { revision: 1, items }).expect(412);
    expect(problem(late.body).code).toBe('moved-on');
    const bad = [...items, { group: 'Stopper', text: 'Its tail is long.', tick: 'wrong' }];
    const second = (await author.post(path, { revision: 2, items: bad }).expect(201)).body as InspectionRecord;
    expect(second.verdict).toBe('not good');
    const listed = async (query: string): Promise<InspectionRecord[]> =>
      ASSEMBLY_ROUTES.inspections.answer.parse((await author.get(`/api/inspections${query}`).expect(200)).body)
        .inspections;
    const own = await listed(`?assembly=${kept.id}`);
    expect(own.map((i) => [i.revision, i.verdict])).toEqual([
      [2, 'not good'],
      [1, 'good'],
    ]);
    expect(new Set(own.map((i) => i.by)).size).toBe(2);
    await author.remove(`/api/kept/assemblies/${kept.id}`).expect(204);
    const left = (await listed('')).filter((i) => i.name === 'Ground strap');
    expect(left.map((i) => i.assembly)).toEqual([null, null]);
    expect(left.map((i) => i.items.length)).toEqual([2, 1]);
  });

  it('refuse what is no inspection, and what is no assembly, by its place', async () => {
    const kept = await assembly('Marquee guy');
    const path = `/api/kept/assemblies/${kept.id}/inspections`;
    await author.post(path, { revision: 1, items: [] }).expect(400);
    await author.post(path, { revision: 1, items: [{ ...items[0], tick: 'perhaps' }] }).expect(400);
    await author.post(`/api/kept/assemblies/${NOBODY}/inspections`, { revision: 1, items }).expect(404);
    await server.visitor().post(path, { revision: 1, items }).expect(401);
    await author.post('/api/knot-facts', { refs: ['bowline'] }).expect(400);
    await author.get('/api/inspections?assembly=it').expect(400);
    const ring = { ...kept.is, knots: [{ ...kept.is.knots[0], guards: 'k1' }] };
    const refused = await author.put(`/api/kept/assemblies/${kept.id}`, { revision: 1, is: ring }).expect(400);
    expect(problem(refused.body).reason).toContain('cannot guard itself');
  });
});
