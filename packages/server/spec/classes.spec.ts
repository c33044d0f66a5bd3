/** Classes of learners: joined by a code, counted apart, and guessed at in vain. */
import { CODE_LENGTH, codeIn, sayCode } from '@foxtrail/contract/class-code';
import { CLASS_ROUTES, codeSchema, GUESSES_LET, type LearnerClass } from '@foxtrail/contract/classes';
import { DRILL_ROUTES } from '@foxtrail/contract/drill';
import type { Kept } from '@foxtrail/contract/ropes';
import type { KnotCard } from '@foxtrail/contract';
import { classOf } from '../src/classes.js';
import { HttpProblem } from '../src/problem.js';
import { demoDocument, startTestServer, type Client, type TestServer } from './server.js';

const NOBODY = '00000000-0000-4000-8000-000000000000';

describe('Classes of learners', () => {
  let server: TestServer;
  let author: Client;
  let knot: string;
  let course: string;
  beforeAll(async () => {
    server = await startTestServer();
    author = await server.author();
    const made = await author.post('/api/knots', { document: demoDocument('bowline.json') }).expect(201);
    knot = (made.body as { card: KnotCard }).card.id;
    await author.post(`/api/knots/${knot}/publication`).expect(200);
    const things = [{ name: 'Course of classes', items: [] }];
    const kept = (await author.post('/api/kept/courses', { things }).expect(201)).body as Kept<object>[];
    course = kept[0]!.id;
  });
  afterAll(() => server.close());

  const make = async (name: string): Promise<LearnerClass> =>
    CLASS_ROUTES.make.answer.parse((await author.post('/api/classes', { name, course }).expect(201)).body);
  const list = async (): Promise<LearnerClass[]> =>
    CLASS_ROUTES.list.answer.parse((await author.get('/api/classes').expect(200)).body).classes;
  const counts = async (group = ''): Promise<[string, number, number][]> =>
    DRILL_ROUTES.counts.answer
      .parse((await author.get(`/api/knots/${knot}/answers${group === '' ? '' : `?group=${group}`}`).expect(200)).body)
      .counts.map(({ question, right, wrong }) => [question, right, wrong]);
  const tell = (code: string | undefined, right: boolean) =>
    server.visitor().post('/api/public/knots/bowline/answers', {
      revision: 1,
      ...(code === undefined ? {} : { code }),
      answers: [{ question: 'judge:slip-2', right }],
    });

  it('are joined by a code, written in either case and with its hyphen or without', async () => {
    const own = await make('Tuesday crew');
    expect(codeSchema.safeParse(own.code).success).toBeTrue();
    expect(sayCode(own.code).length).toBe(CODE_LENGTH + 1);
    expect(codeIn(sayCode(own.code).toLowerCase())).toBe(own.code);
    const joined = await server.visitor().get(`/api/public/classes/${own.code}`).expect(200);
    expect(joined.body).toEqual({ name: 'Tuesday crew' });
    expect((await make('Wednesday crew')).code).not.toBe(own.code);
  });

  it('are counted apart, and with all others; removed, only what was theirs is gone', async () => {
    await server.pool.query('delete from answer_count');
    const own = await make('Counted crew');
    await tell(own.code, false).expect(204);
    await tell(own.code, true).expect(204);
    await tell(undefined, true).expect(204);
    expect(await counts(own.id)).toEqual([['judge:slip-2', 1, 1]]);
    expect(await counts()).toEqual([['judge:slip-2', 2, 1]]);
    expect((await list()).find((c) => c.id === own.id)?.answers).toBe(2);
    await author.remove(`/api/classes/${own.id}`).expect(204);
    expect(await counts(own.id)).toEqual([]);
    expect(await counts()).toEqual([['judge:slip-2', 2, 1]]);
    // What is told with a code that is gone is not counted as anybody's.
    await tell(own.code, true).expect(404);
    expect(await counts()).toEqual([['judge:slip-2', 2, 1]]);
    // Forgotten is forgotten of classes, too.
    const other = await make('Other crew');
    await tell(other.code, false).expect(204);
    await author.remove(`/api/knots/${knot}/answers`).expect(204);
    expect(await counts(other.id)).toEqual([]);
  });

  it('stay when their course is removed', async () => {
    const things = [{ name: 'Course that goes', items: [] }];
    const [gone] = (await author.post('/api/kept/courses', { things }).expect(201)).body as Kept<object>[];
    const made = await author.post('/api/classes', { name: 'Left over', course: gone!.id }).expect(201);
    await author.remove(`/api/kept/courses/${gone!.id}`).expect(204);
    const left = (await list()).find((c) => c.id === (made.body as LearnerClass).id);
    expect(left?.course).toBeNull();
  });

  it('are made and removed by authors, for a course that is there', async () => {
    const reviewer = await server.reviewer();
    await reviewer.get('/api/classes').expect(200);
    await reviewer.post('/api/classes', { name: 'No', course }).expect(403);
    await server.visitor().get('/api/classes').expect(401);
    await author.post('/api/classes', { name: 'No', course: NOBODY }).expect(404);
    await author.post('/api/classes', { name: '', course }).expect(400);
    await author.remove(`/api/classes/${NOBODY}`).expect(404);
  });

  it('are guessed at in vain: after so many wrong codes none is looked at for a while, from that address', async () => {
    const own = await make('Guessed at');
    const now = Date.parse('2026-05-04T12:00:00Z');
    const status = async (address: string, code: string, at = now): Promise<number> =>
      classOf(server.pool, address, code, at).then(
        () => 200,
        (error: unknown) => (error instanceof HttpProblem ? error.status : 500),
      );
    // A right code costs nothing, however often it is told.
    for (let i = 0; i < 3 * GUESSES_LET.count; i += 1) expect(await status('203.0.113.7', own.code)).toBe(200);
    for (let i = 0; i < GUESSES_LET.count; i += 1) expect(await status('203.0.113.7', 'AAAAAAAA')).toBe(404);
    expect(await status('203.0.113.7', 'not a code')).toBe(429);
    expect(await status('203.0.113.7', own.code)).toBe(429);
    expect(await status('203.0.113.8', own.code)).toBe(200);
    expect(await status('203.0.113.7', own.code, now + GUESSES_LET.minutes * 60_000)).toBe(200);
  });
});
