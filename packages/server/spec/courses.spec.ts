import { COURSE_ROUTES } from '@foxtrail/contract/courses';
import type { Kept } from '@foxtrail/contract/ropes';
import type { LessonFacts } from '@foxtrail/core/course';
import { demoDocument, startTestServer, type Client, type TestServer } from './server.js';

const NOBODY = '00000000-0000-4000-8000-000000000000';

describe('Courses', () => {
  let server: TestServer;
  let author: Client;
  beforeAll(async () => {
    server = await startTestServer();
    author = await server.author();
  });
  afterAll(() => server.close());

  const factsOf = async (...refs: string[]): Promise<readonly LessonFacts[]> =>
    COURSE_ROUTES.facts.answer.parse((await author.post('/api/lesson-facts', { refs }).expect(200)).body).facts;
  const knot = async (file: string, more: object = {}): Promise<string> => {
    const document = { ...(demoDocument(file) as object), ...more };
    const made = await author.post('/api/knots', { document }).expect(201);
    return (made.body as { card: { id: string } }).card.id;
  };

  it('know of a lesson which knot it is, the words it says, and how long its film is', async () => {
    const id = await knot('bowline.json');
    const [own] = await factsOf(`knot:${id}`);
    expect([own!.state, own!.pattern, own!.slug]).toEqual(['there', 'bowline', null]);
    expect(own!.words).toContain('standing-part');
    expect(own!.words).not.toContain('knot-bowline');
    expect(new Set(own!.words).size).toBe(own!.words.length);
    expect(own!.seconds).toBeGreaterThan(10);
    await author.post(`/api/knots/${id}/publication`).expect(200);
    expect((await factsOf(`knot:${id}`))[0]!.slug).toBe('bowline');
    await author.post(`/api/knots/${id}/archive`).expect(200);
    expect((await factsOf(`knot:${id}`))[0]!.state).toBe('archived');
  });

  it('read what learners see, while the author draws on', async () => {
    const id = await knot('reef.json', { name: 'Reef of ours' });
    await author.post(`/api/knots/${id}/publication`).expect(200);
    const granny = { ...(demoDocument('granny.json') as object), name: 'Reef of ours', entry: { claim: 'none' } };
    await author.put(`/api/knots/${id}`, { document: granny }, 1).expect(200);
    expect((await factsOf(`knot:${id}`))[0]!.pattern).toBe('reef');
  });

  it('know what an assembly is tied with; of what is gone nothing', async () => {
    const id = await knot('clove-hitch.json', { name: 'Clove of ours' });
    const things = [
      {
        name: 'Guy',
        knots: [
          { id: 'k1', role: 'Hitch', ref: `knot:${id}`, name: 'Clove of ours', x: 100, y: 100 },
          { id: 'k2', role: 'Stopper', ref: 'pattern:figure-eight', name: 'Figure eight', x: 300, y: 100 },
        ],
      },
    ];
    const [rig] = (await author.post('/api/kept/assemblies', { things }).expect(201)).body as Kept<object>[];
    const [own, gone] = await factsOf(`assembly:${rig!.id}`, `knot:${NOBODY}`);
    expect(own!.uses).toEqual([
      { ref: `knot:${id}`, pattern: 'clove-hitch', name: 'Clove of ours' },
      { ref: 'pattern:figure-eight', pattern: 'figure-eight', name: 'Figure eight' },
    ]);
    expect([own!.name, own!.slug, own!.seconds]).toEqual(['Guy', null, null]);
    expect(gone!.state).toBe('gone');
    await author.post('/api/lesson-facts', { refs: ['pattern:reef'] }).expect(400);
    await server
      .visitor()
      .post('/api/lesson-facts', { refs: [`knot:${id}`] })
      .expect(401);
  });
});
