/** What learners answered: counted, and nothing else; and the page on which they practise. */
import { ANSWERS_AT_ONCE, ANSWERS_LET, DRILL_ROUTES, MOST_QUESTIONS } from '@foxtrail/contract/drill';
import type { KnotCard, Problem } from '@foxtrail/contract';
import type { AnswerCount } from '@foxtrail/core/drill';
import { writeKnot } from '@foxtrail/core';
import { patternOf } from '@foxtrail/pattern-book';
import { letIn } from '../src/answers.js';
import { slipsStale } from '../src/index.js';
import { demoDocument, startTestServer, type Client, type TestServer } from './server.js';

/** Slips are set aside by a process that may have to start first. */
const WAITS = 180_000;

describe('Practice on a published knot', () => {
  let server: TestServer;
  let author: Client;
  let id: string;
  beforeAll(async () => {
    server = await startTestServer();
    author = await server.author();
    const made = await author.post('/api/knots', { document: demoDocument('bowline.json') }).expect(201);
    ({ id } = (made.body as { card: KnotCard }).card);
    await author.post(`/api/knots/${id}/publication`).expect(200);
  });
  afterAll(() => server.close());
  beforeEach(() => server.pool.query('delete from answer_count'));

  const tell = (answers: readonly { question: string; right: boolean }[], revision = 1) =>
    server.visitor().post('/api/public/knots/bowline/answers', { revision, answers });
  const counts = async (): Promise<AnswerCount[]> =>
    DRILL_ROUTES.counts.answer.parse((await author.get(`/api/knots/${id}/answers`).expect(200)).body).counts;
  const reason = (body: unknown): string => (body as Problem).error.code;

  it('has a page of its own, which asks without an account', async () => {
    const page = await server.visitor().get('/learn/bowline/practice').expect(200);
    expect(page.text).toContain('Practise the bowline');
    expect(page.text).toContain('data-question="judge:slip-2"');
    expect((await server.visitor().get('/learn/bowline').expect(200)).text).toContain('/learn/bowline/practice');
    await server.visitor().get('/learn/no-such-knot/practice').expect(404);
    // Of a knot that is taught as wrong nothing is asked.
    const made = await author.post('/api/knots', { document: demoDocument('granny.json') }).expect(201);
    const granny = (made.body as { card: KnotCard }).card;
    const { slug } = (await author.post(`/api/knots/${granny.id}/publication`).expect(200)).body as { slug: string };
    await server.visitor().get(`/learn/${slug}/practice`).expect(404);
  });

  it('shows what a knot is taken for as it lies in the hand', async () => {
    const form = await server.visitor().get('/api/public/patterns/granny/form/front.svg').expect(200);
    expect(form.get('Content-Type')).toContain('image/svg+xml');
    // What it is called is not said: it is asked.
    expect((form.body as Buffer).toString()).not.toMatch(/granny/i);
    await server.visitor().get('/api/public/patterns/no-such/form/front.svg').expect(404);
    await server.visitor().get('/api/public/patterns/granny/form/below.svg').expect(404);
  });

  it(
    'asks after slips in the hand as soon as they are set, of the edition that is published',
    async () => {
      const made = await author.post('/api/knots', { document: writeKnot(patternOf('sheet-bend')!.knot) }).expect(201);
      const { id: bend } = (made.body as { card: KnotCard }).card;
      await author.post(`/api/knots/${bend}/publication`).expect(200);
      const asked = async (): Promise<string[]> => {
        const { text } = await server.visitor().get('/learn/sheet-bend/practice').expect(200);
        return [...text.matchAll(/slips\/(\d+)\.svg/g)].map((m) => m[1]!);
      };
      expect(await asked()).toEqual([]);
      await slipsStale(server.pool);
      const slips = await asked();
      expect(slips.length).toBe(3);
      for (const slip of slips) {
        const got = await server.visitor().get(`/api/public/knots/sheet-bend/slips/${slip}.svg`).expect(200);
        expect(got.get('Content-Type')).toContain('image/svg+xml');
        // Nothing in it says that it is one.
        expect((got.body as Buffer).toString()).not.toMatch(/slip|wrong|sheet/i);
      }
      await server.visitor().get('/api/public/knots/sheet-bend/slips/99.svg').expect(404);
      await server.visitor().get('/api/public/knots/no-such-knot/slips/1.svg').expect(404);
      // Looked at once; another edition anew, and none of the old one meanwhile.
      expect(await slipsStale(server.pool)).toBe(0);
      const { knot } = patternOf('sheet-bend')!;
      const again = { ...knot, entry: { ...knot.entry, summary: 'Seen again.' } };
      await author.put(`/api/knots/${bend}`, { document: writeKnot(again) }, 1).expect(200);
      await author.post(`/api/knots/${bend}/publication`).expect(200);
      expect(await asked()).toEqual([]);
      await server.visitor().get(`/api/public/knots/sheet-bend/slips/${slips[0]}.svg`).expect(404);
      expect(await slipsStale(server.pool)).toBe(1);
      expect(await asked()).toEqual(slips);
      await author.remove(`/api/knots/${bend}/publication`).expect(204);
      await server.visitor().get(`/api/public/knots/sheet-bend/slips/${slips[0]}.svg`).expect(404);
    },
    WAITS,
  );

  it('counts answers by question and edition, and keeps nothing else', async () => {
    await tell([
      { question: 'judge:slip-2', right: false },
      { question: 'judge:slip-2', right: true },
      { question: 'which:1', right: true },
    ]).expect(204);
    await tell([{ question: 'judge:slip-2', right: false }]).expect(204);
    expect(await counts()).toEqual([
      { revision: 1, question: 'judge:slip-2', right: 1, wrong: 2 },
      { revision: 1, question: 'which:1', right: 1, wrong: 0 },
    ]);
    const { rows } = await server.pool.query<{ column_name: string }>(
      "select column_name from information_schema.columns where table_name = 'answer_count' order by 1",
    );
    expect(rows.map((r) => r.column_name)).toEqual(['knot_id', 'question', 'revision', 'right_count', 'wrong_count']);
    // Read by those who have an account; forgotten by authors, for good.
    await server.visitor().get(`/api/knots/${id}/answers`).expect(401);
    const reviewer = await server.reviewer();
    await reviewer.get(`/api/knots/${id}/answers`).expect(200);
    await reviewer.remove(`/api/knots/${id}/answers`).expect(403);
    await author.remove(`/api/knots/${id}/answers`).expect(204);
    expect(await counts()).toEqual([]);
  });

  it('loses none of many that come at once', async () => {
    const one = [
      { question: 'which:1', right: true },
      { question: 'judge:slip-3', right: false },
    ];
    await Promise.all(Array.from({ length: 20 }, (_, i) => tell(i % 2 ? one : [...one].reverse()).expect(204)));
    expect((await counts()).map((c) => [c.right, c.wrong])).toEqual([
      [0, 20],
      [20, 0],
    ]);
  });

  it('refuses what cannot be: another edition, questions that are none, more than a lesson has, a knot that is not there', async () => {
    const answer = { question: 'which:1', right: true };
    expect(reason((await tell([answer], 7).expect(409)).body)).toBe('moved-on');
    await tell([{ question: 'Robert; drop table', right: true }]).expect(400);
    await tell([]).expect(400);
    await tell(Array.from({ length: ANSWERS_AT_ONCE + 1 }, () => answer)).expect(400);
    await server
      .visitor()
      .post('/api/public/knots/no-such/answers', { revision: 1, answers: [answer] })
      .expect(404);
    const many = Array.from({ length: MOST_QUESTIONS + 1 }, (_, i) => ({ question: `judge:slip-${i}`, right: true }));
    const whole = Math.floor(MOST_QUESTIONS / ANSWERS_AT_ONCE);
    for (let k = 0; k < whole; k += 1)
      await tell(many.slice(k * ANSWERS_AT_ONCE, (k + 1) * ANSWERS_AT_ONCE)).expect(204);
    expect(reason((await tell(many.slice(whole * ANSWERS_AT_ONCE)).expect(400)).body)).toBe('too-many');
    expect((await counts()).length).toBe(whole * ANSWERS_AT_ONCE);
  });

  it('takes so many from an address in a while, however they are sent, and no more', () => {
    const now = Date.parse('2026-05-04T12:00:00Z');
    const later = now + ANSWERS_LET.minutes * 60_000;
    const forged = Array.from({ length: 100_000 }, () => {
      try {
        letIn('203.0.113.9', 1, now);
        return 1;
      } catch {
        return 0;
      }
    });
    expect(forged.filter(Boolean).length).toBe(ANSWERS_LET.count);
    // Others are not held up, and nobody is for long.
    expect(() => letIn('203.0.113.10', 5, now)).not.toThrow();
    expect(() => letIn('203.0.113.9', 1, later)).not.toThrow();
  });
});
