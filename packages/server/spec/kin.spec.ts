import { kinDocumentsSchema, kinRelationSchema, kinSchema, type Kin, type Knot } from '@foxtrail/contract';
import { tryStale } from '../src/index.js';
import { demoDocument, startTestServer, type Client, type TestServer } from './server.js';

const NOBODY = '00000000-0000-4000-8000-000000000000';

describe('Kin', () => {
  let server: TestServer;
  let author: Client;
  beforeEach(async () => {
    server = await startTestServer({ untried: true });
    author = await server.author();
  });
  afterEach(() => server.close());

  const kin = async (): Promise<Kin> => kinSchema.parse((await author.get('/api/kin').expect(200)).body);
  const take = async (file: string): Promise<string> =>
    ((await author.post('/api/knots', { document: demoDocument(file) }).expect(201)).body as { card: { id: string } })
      .card.id;
  const family = (all: Kin, name: string): Kin['families'][number] => all.families.find((f) => f.name === name)!;

  it('begins with the families and the relations of the pattern book', async () => {
    const all = await kin();
    expect(family(all, 'Eight').parent).toBe(family(all, 'Overhand').id);
    expect(all.relations.length).toBeGreaterThan(20);
    expect(all.relations.every((r) => r.origin === 'book' && r.proof === null)).toBeTrue();
  });

  it('tries what has not been tried, in a process of its own, and tries again what has moved on', async () => {
    await server.pool.query("delete from kin_relation where not (from_pattern = 'reef' and kind = 'ends exchanged')");
    expect(await tryStale(server.pool)).toBe(1);
    expect((await kin()).relations[0]?.proof?.state).toBe('proved');
    expect(await tryStale(server.pool)).toBe(0);
    const reef = await take('reef.json');
    const stated = await author
      .post('/api/kin/relations', { from: `knot:${reef}`, to: 'pattern:thief', kind: 'ends exchanged' })
      .expect(201);
    expect(kinRelationSchema.parse(stated.body).proof?.state).toBe('proved');
    await author.put(`/api/knots/${reef}`, { document: demoDocument('granny.json') }, 1).expect(200);
    for (let i = 0; i < 100; i += 1) {
      const now = (await kin()).relations.find((r) => r.from === `knot:${reef}`);
      if (now?.proof) {
        expect(now.proof.state).toBe('refuted');
        return;
      }
      await new Promise((done) => setTimeout(done, 100));
    }
    fail('the relation was not tried again');
  });

  it('says of a stated relation what the core made of it: proved, refuted, or open and to be judged', async () => {
    const [reef, granny] = [await take('reef.json'), await take('granny.json')];
    const state = async (body: object) =>
      kinRelationSchema.parse((await author.post('/api/kin/relations', body).expect(201)).body);
    const refuted = await state({ from: `knot:${reef}`, to: `knot:${granny}`, kind: 'mirrored' });
    expect(refuted.proof?.state).toBe('refuted');
    expect(refuted.proof?.compared).toContain('not the granny knot');
    const open = await state({
      from: `knot:${reef}`,
      to: `knot:${granny}`,
      kind: 'mistaken for',
      why: 'Its second half turns the wrong way.',
    });
    expect(open.proof?.state).toBe('open');
    expect(open.judged).toEqual({ by: 'Ada Author', why: 'Its second half turns the wrong way.' });
    const judged = await author.put(`/api/kin/relations/${open.id}`, { why: null }).expect(200);
    expect(kinRelationSchema.parse(judged.body).judged).toBeNull();
    const opened = (await author.get(`/api/knots/${granny}`).expect(200)).body as Knot;
    expect(opened.refutedKin.map((r) => r.says)).toEqual(['The granny knot is the mirror image of the reef knot.']);
    await author.remove(`/api/kin/relations/${refuted.id}`).expect(204);
    const after = (await author.get(`/api/knots/${granny}`).expect(200)).body as Knot;
    expect(after.refutedKin).toEqual([]);
    // The shelf had counted it as the bench does.
    expect(opened.card.warnings - after.card.warnings).toBe(1);
    await author.remove(`/api/kin/relations/${refuted.id}`).expect(404);
  });

  it('refuses a relation twice, with itself, with what is not there, and by a reviewer', async () => {
    const reef = await take('reef.json');
    const body = { from: `knot:${reef}`, to: 'pattern:granny', kind: 'mistaken for' };
    await author.post('/api/kin/relations', body).expect(201);
    await author.post('/api/kin/relations', body).expect(409);
    await author.post('/api/kin/relations', { ...body, to: body.from }).expect(400);
    await author.post('/api/kin/relations', { ...body, to: 'pattern:no-such' }).expect(404);
    await author.post('/api/kin/relations', { ...body, to: `knot:${NOBODY}` }).expect(404);
    await author.post('/api/kin/relations', { ...body, kind: 'friends' }).expect(400);
    await (await server.reviewer()).post('/api/kin/relations', body).expect(403);
    await server.visitor().get('/api/kin').expect(401);
  });

  it('leaves out what is archived, and takes relations away with their knot', async () => {
    const reef = await take('reef.json');
    await author
      .post('/api/kin/relations', { from: `knot:${reef}`, to: 'pattern:thief', kind: 'ends exchanged' })
      .expect(201);
    await author.post(`/api/knots/${reef}/archive`).expect(200);
    const all = await kin();
    expect(all.knots).toEqual([]);
    expect(all.relations.some((r) => r.from === `knot:${reef}`)).toBeFalse();
  });

  it('puts a knot where its entry says, and where it is dragged after that, without a new revision', async () => {
    const reef = await take('reef.json');
    const before = await kin();
    expect(before.knots[0]).toEqual(jasmine.objectContaining({ family: family(before, 'Reef').id, pattern: 'reef' }));
    await author.put(`/api/knots/${reef}/family`, { family: family(before, 'Gripping').id }).expect(200);
    const opened = (await author.get(`/api/knots/${reef}`).expect(200)).body as {
      card: { revision: number; family: string };
      document: { entry: { family: string } };
    };
    expect(opened.card).toEqual(jasmine.objectContaining({ revision: 1, family: 'Gripping' }));
    expect(opened.document.entry.family).toBe('Gripping');
    // An author who had it open from before saves something else: the knot stays where it was put.
    await author.put(`/api/knots/${reef}`, { document: demoDocument('reef.json') }, 1).expect(200);
    expect((await kin()).knots[0]?.family).toBe(family(before, 'Gripping').id);
    // Another family in the entry moves it; one that is new is made.
    const entry = { ...(demoDocument('reef.json').entry as object), family: 'Line laundry' };
    await author.put(`/api/knots/${reef}`, { document: { ...demoDocument('reef.json'), entry } }, 2).expect(200);
    const after = await kin();
    expect(after.knots[0]?.family).toBe(family(after, 'Line laundry').id);
  });

  it('arranges the tree: added, renamed, moved, dissolved; old names still lead there', async () => {
    const reef = await take('reef.json');
    await author.post('/api/kin/families', { name: 'Bindings' }).expect(201);
    await author.post('/api/kin/families', { name: 'bindings' }).expect(409);
    let all = await kin();
    const [bindings, reefs] = [family(all, 'Bindings').id, family(all, 'Reef').id];
    await author.put(`/api/kin/families/${reefs}`, { place: { parent: bindings, before: null } }).expect(200);
    await author.put(`/api/kin/families/${bindings}`, { place: { parent: reefs, before: null } }).expect(409);
    await author.put(`/api/kin/families/${bindings}`, { place: { parent: bindings, before: null } }).expect(409);
    await author.put(`/api/kin/families/${reefs}`, { name: 'Flat knots' }).expect(200);
    const granny = await take('granny.json');
    all = await kin();
    expect(all.knots.map((k) => k.family)).toEqual([reefs, reefs]);
    expect(family(all, 'Flat knots').parent).toBe(bindings);
    await author.remove(`/api/kin/families/${reefs}`).expect(200);
    all = await kin();
    expect(all.knots.map((k) => [k.id, k.family])).toEqual(
      jasmine.arrayWithExactContents([
        [reef, bindings],
        [granny, bindings],
      ]),
    );
    await author.remove(`/api/kin/families/${reefs}`).expect(404);
  });

  it('moves a family before one of its new siblings', async () => {
    const all = await kin();
    const top = all.families.filter((f) => f.parent === null);
    const last = top.at(-1)!;
    await author.put(`/api/kin/families/${last.id}`, { place: { parent: null, before: top[0]!.id } }).expect(200);
    expect((await kin()).families.find((f) => f.parent === null)?.id).toBe(last.id);
  });

  it('hands out documents a few at a time', async () => {
    for (const file of ['reef.json', 'granny.json']) await take(file);
    const page = kinDocumentsSchema.parse((await author.get('/api/kin/documents').expect(200)).body);
    expect(page.knots.length).toBe(2);
    expect(page.next).toBeNull();
    const rest = kinDocumentsSchema.parse(
      (await author.get(`/api/kin/documents?after=${page.knots[0]!.id}`).expect(200)).body,
    );
    expect(rest.knots.map((k) => k.id)).toEqual([page.knots[1]!.id]);
  });
});
