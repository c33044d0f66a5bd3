import { COURSE_ROUTES, type CoursePublication } from '@foxtrail/contract/courses';
import { DRILL_ROUTES } from '@foxtrail/contract/drill';
import type { Problem } from '@foxtrail/contract';
import type { Kept } from '@foxtrail/contract/ropes';
import type { Assembly } from '@foxtrail/core/assembly';
import type { Course } from '@foxtrail/core/course';
import { demoDocument, startTestServer, type Client, type TestServer } from './server.js';

const NOBODY = '00000000-0000-4000-8000-000000000000';
const reason = (body: unknown): string => (body as Problem).error.reason;

describe('Courses for learners', () => {
  let server: TestServer;
  let author: Client;
  let visitor: Client;
  beforeAll(async () => {
    server = await startTestServer();
    author = await server.author();
    visitor = server.visitor();
  });
  afterAll(() => server.close());

  const knot = async (file: string, name: string): Promise<string> => {
    const document = { ...(demoDocument(file) as object), name };
    const made = await author.post('/api/knots', { document }).expect(201);
    return (made.body as { card: { id: string } }).card.id;
  };
  const kept = async <T>(kind: string, thing: object): Promise<Kept<T>> =>
    ((await author.post(`/api/kept/${kind}`, { things: [thing] }).expect(201)).body as Kept<T>[])[0]!;
  const course = (name: string, refs: readonly string[]): Promise<Kept<Course>> =>
    kept('courses', { name, items: refs.map((ref) => ({ ref, name: 'It', goal: `Tie ${ref.slice(0, 4)}.` })) });
  const publish = (c: Kept<Course>, revision = c.revision): ReturnType<Client['put']> =>
    author.put(`/api/kept/courses/${c.id}/publication`, { revision });
  const pageOf = async (address: string, status = 200): Promise<string> =>
    (await visitor.get(address).expect(status)).text;

  it('are published when their lessons are, lead from page to page, and are gone when they are withdrawn', async () => {
    const [first, second] = [
      await knot('reef.json', 'Reef of course'),
      await knot('overhand.json', 'Overhand of course'),
    ];
    const c = await course('Two knots', [`knot:${first}`, `knot:${second}`]);
    await author.post(`/api/knots/${first}/publication`).expect(200);
    expect(reason((await publish(c).expect(409)).body)).toContain('“Overhand of course” is not published');
    await author.post(`/api/knots/${second}/publication`).expect(200);
    expect(reason((await publish(c, c.revision + 1).expect(412)).body)).toContain('changed meanwhile');
    const { slug, revision } = (await publish(c).expect(200)).body as CoursePublication;
    expect([slug, revision]).toEqual(['two-knots', c.revision]);
    const contents = await pageOf('/learn/courses/two-knots');
    expect(contents).toContain('/learn/reef-of-course?course=two-knots');
    expect(await pageOf('/learn')).toContain('/learn/courses/two-knots');
    expect(await pageOf('/learn/reef-of-course?course=two-knots')).toContain('1 of 2');
    // An address that nobody made: the lesson is there all the same.
    expect(await pageOf('/learn/reef-of-course?course=no-such')).not.toContain('course-bar');
    // A lesson that is withdrawn is said to be; the course stands.
    await author.remove(`/api/knots/${second}/publication`).expect(204);
    expect(await pageOf('/learn/courses/two-knots')).toContain('not published at present');
    await author.remove(`/api/kept/courses/${c.id}/publication`).expect(204);
    await pageOf('/learn/courses/two-knots', 404);
    expect(await pageOf('/learn/reef-of-course?course=two-knots')).not.toContain('course-bar');
    const state = COURSE_ROUTES.publication.answer.parse(
      (await author.get(`/api/kept/courses/${c.id}/publication`).expect(200)).body,
    );
    expect(state.publication).toBeNull();
  });

  it('take no assembly that has errors, nor one that people depend on and nobody found good as it stands', async () => {
    const rig = (name: string, more: object, ref = 'pattern:overhand'): object => ({
      name,
      knots: [{ id: 'k1', role: 'Stopper', ref, name: 'Overhand', shouldBe: 'overhand', x: 100, y: 100 }],
      ropes: [{ name: 'Rope', diameterMm: 10, stops: [{ kind: 'knot', knot: 'k1', eats: 11.5, afterMm: 400 }] }],
      ...more,
    });
    const wrong = await kept<Assembly>('assemblies', rig('Wrong one', {}, 'pattern:figure-eight'));
    expect(reason((await publish(await course('Wrong', [`assembly:${wrong.id}`])).expect(409)).body)).toContain(
      'open error',
    );
    const seat = await kept<Assembly>('assemblies', rig('Held', { useGrade: 'people depend on it' }));
    const c = await course('Held by it', [`assembly:${seat.id}`]);
    expect(reason((await publish(c).expect(409)).body)).toContain('nobody has found it good');
    const items = [{ group: 'Stopper', text: 'It is the overhand knot.', tick: 'right' }];
    await author
      .post(`/api/kept/assemblies/${seat.id}/inspections`, { revision: seat.revision, items, remarks: '' })
      .expect(201);
    await publish(c).expect(200);
    const text = await pageOf('/learn/courses/held-by-it/1');
    expect(text).toContain('Before you begin');
    expect(text).toContain('/api/public/patterns/overhand/form/front.svg');
    await pageOf('/learn/courses/held-by-it/2', 404);
    await pageOf('/learn/courses/held-by-it/x', 404);
  });

  it('are no business of strangers until they are published, and of none that is not there', async () => {
    const c = await course('Empty', []);
    expect(reason((await publish(c).expect(409)).body)).toContain('nothing in it');
    await visitor.put(`/api/kept/courses/${c.id}/publication`, { revision: 1 }).expect(401);
    await author.get(`/api/kept/courses/${NOBODY}/publication`).expect(404);
    await author.put(`/api/kept/courses/${NOBODY}/publication`, { revision: 1 }).expect(404);
    await pageOf('/learn/courses/empty', 404);
    await pageOf('/learn/courses/Not%20an%20address', 404);
  });

  it('a published knot is laid and traced by whoever likes, and what was laid wrong is counted with the rest', async () => {
    const id = await knot('bowline.json', 'Bowline to lay');
    await pageOf('/learn/bowline-to-lay/lay', 404);
    await author.post(`/api/knots/${id}/publication`).expect(200);
    expect(await pageOf('/learn/bowline-to-lay/lay?view=left')).toContain('data-left');
    expect(await pageOf('/learn/bowline-to-lay/yours')).toContain('nothing of them is sent');
    const { keys } = DRILL_ROUTES.keys.answer.parse(
      (await visitor.get('/api/public/patterns/keys.json').expect(200)).body,
    );
    expect(keys.find((k) => k.id === 'bowline')?.name).toBe('Bowline');
    const answers = [
      { question: 'lay:crossing-3', right: false },
      { question: 'lay:move-2', right: false },
    ];
    await visitor.post('/api/public/knots/bowline-to-lay/answers', { revision: 1, answers }).expect(204);
    const counts = DRILL_ROUTES.counts.answer.parse(
      (await author.get(`/api/knots/${id}/answers`).expect(200)).body,
    ).counts;
    expect(counts.map(({ question, wrong }) => [question, wrong])).toEqual([
      ['lay:crossing-3', 1],
      ['lay:move-2', 1],
    ]);
  });
});
