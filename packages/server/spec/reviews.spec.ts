import { knotReviewSchema, type KnotCard, type KnotReview, type Problem } from '@foxtrail/contract';
import { type Client, demoDocument, startTestServer, type TestServer } from './server.js';

let server: TestServer;
let author: Client;
let reviewer: Client;
/** Each spec of a group has a server of its own. */
const eachOnItsOwn = (): void => {
  beforeEach(async () => {
    server = await startTestServer();
    [author, reviewer] = [await server.author(), await server.reviewer()];
  });
  afterEach(() => server.close());
};

const PEOPLE = 'people depend on it';
const card = (body: unknown): KnotCard => (body as { card: KnotCard }).card;
const problem = (body: unknown): Problem['error'] => (body as Problem).error;
/** The mark of the card that every knot with a tail can have. */
const TAIL = { kind: 'tail', side: 'front', place: { strand: 'a', at: 1 }, of: 'tail-0' };
const made = async (file: string, entry: object = {}, marked = true): Promise<KnotCard> => {
  const document = demoDocument(file) as { entry: object; method: { relaid?: object[] } };
  const { relaid = [], ...first } = document.method;
  const layouts = [first, ...relaid];
  // The card is of the layout in which the knot is finished.
  const [own, ...others] = layouts.map((l, i) => ({ ...l, marks: marked && i === layouts.length - 1 ? [TAIL] : [] }));
  const body = {
    document: {
      ...document,
      entry: { ...document.entry, useGrade: PEOPLE, ...entry },
      method: { ...own, ...(others.length > 0 ? { relaid: others } : {}) },
    },
  };
  return card((await author.post('/api/knots', body).expect(201)).body);
};
const review = async (who: Client, id: string): Promise<KnotReview> =>
  knotReviewSchema.parse((await who.get(`/api/knots/${id}/review`).expect(200)).body);
const judge = (id: string, key: string, body: object, status = 200) =>
  reviewer.put(`/api/knots/${id}/review/items/${key}`, body).expect(status);
const acceptAll = async (id: string): Promise<void> => {
  await reviewer.post(`/api/knots/${id}/review`).expect(201);
  for (const { key } of (await review(reviewer, id)).items) await judge(id, key, { verdict: 'accepted' });
  await reviewer.put(`/api/knots/${id}/review`, {}).expect(200);
};
const FIT = { cautions: ['It can shake loose: back it up.'] };

describe('what people depend on', () => {
  eachOnItsOwn();

  it('is refused by rule for a reef, a cow hitch, slipped and wrong forms, with the reason', async () => {
    for (const file of ['reef.json', 'granny.json', 'false-bowline.json', 'taut-line-hitch.json']) {
      const { id, errors } = await made(file, FIT);
      expect(errors).withContext(file).toBeGreaterThan(0);
      await author.post(`/api/knots/${id}/publication`).expect(409);
      expect((await made(file, { ...FIT, useGrade: 'light duty' })).errors)
        .withContext(file)
        .toBe(0);
    }
    // What the drawing is counts, whatever it is called.
    const reef = demoDocument('reef.json') as { entry: object };
    const alias = {
      ...reef,
      name: 'Crew knot',
      entry: { ...reef.entry, aliases: [], claim: 'none', useGrade: PEOPLE, ...FIT },
    };
    expect(card((await author.post('/api/knots', { document: alias }).expect(201)).body).errors).toBe(1);
  });

  it('needs cautions, an inspection card, no error and a review; it says which are missing', async () => {
    const { id } = await made('bowline.json', { cautions: [] }, false);
    const bare = await author.post(`/api/knots/${id}/publication`).expect(409);
    expect(problem(bare.body).reason).toMatch(/cautions of its own.*inspection card.*accepted by another account/);
    const ready = await made('bowline.json', FIT);
    expect((await review(author, ready.id)).needs.map((n) => [n.id, n.met])).toEqual([
      ['no errors', true],
      ['cautions', true],
      ['inspection card', true],
      ['review', false],
    ]);
    await acceptAll(ready.id);
    await author.post(`/api/knots/${ready.id}/publication`).expect(200);
    // Lesser grades need no review.
    const light = await made('bowline.json', { useGrade: 'load-bearing' });
    await author.post(`/api/knots/${light.id}/publication`).expect(200);
    expect((await review(author, light.id)).needs).toEqual([]);
  });
});

describe('a review', () => {
  eachOnItsOwn();

  it('is done by another account than saved the revision, one at a time', async () => {
    const { id } = await made('bowline.json', FIT);
    expect((await review(author, id)).mayReview).toBeFalse();
    expect(problem((await author.post(`/api/knots/${id}/review`).expect(403)).body).code).toBe('own-work');
    await server.visitor().post(`/api/knots/${id}/review`).expect(401);
    const begun = knotReviewSchema.parse((await reviewer.post(`/api/knots/${id}/review`).expect(201)).body);
    expect([begun.current!.state, begun.current!.own, begun.current!.reviewer]).toEqual(['open', true, 'Rue Reviewer']);
    const kinds = new Set(begun.items.map((i) => i.kind));
    expect(kinds).toEqual(new Set(['cautions', 'step', 'front', 'back', 'mark']));
    // Beginning again goes on with it.
    await reviewer.post(`/api/knots/${id}/review`).expect(201);
    expect((await review(reviewer, id)).log.filter((l) => l.kind === 'review begun').length).toBe(1);
  });

  it('is accepted only when every item was looked at', async () => {
    const { id } = await made('bowline.json', FIT);
    await reviewer.post(`/api/knots/${id}/review`).expect(201);
    await judge(id, 'front', { verdict: 'accepted' });
    const early = await reviewer.put(`/api/knots/${id}/review`, {}).expect(409);
    expect(problem(early.body).reason).toContain('have not been looked at: Cautions');
    await judge(id, 'no-such', { verdict: 'accepted' }, 404);
  });

  it('returns a knot with remarks tied to steps and crossings; a remark is needed', async () => {
    const { id, crossings } = await made('bowline.json', FIT);
    await reviewer.post(`/api/knots/${id}/review`).expect(201);
    await judge(id, 'step-0-2', { verdict: 'returned' }, 400);
    await judge(id, 'front', { verdict: 'returned', remark: 'Too near.', crossing: crossings + 1 }, 400);
    await judge(id, 'step-0-2', { verdict: 'returned', remark: 'The end hides the crossing.', crossing: 2 });
    await reviewer.put(`/api/knots/${id}/review`, {}).expect(200);
    const told = await review(author, id);
    expect(told.current!.state).toBe('returned');
    expect(told.current!.verdicts).toEqual([
      { key: 'step-0-2', verdict: 'returned', remark: 'The end hides the crossing.', crossing: 2 },
    ]);
    await author.post(`/api/knots/${id}/publication`).expect(409);
    expect(told.log.slice(0, 3).map((l) => [l.kind, l.who, l.revision])).toEqual([
      ['review returned', 'Rue Reviewer', 1],
      ['review begun', 'Rue Reviewer', 1],
      ['saved', 'Ada Author', 1],
    ]);
  });

  it('is open again after any later change of figure or text', async () => {
    const knot = await made('bowline.json', FIT);
    await acceptAll(knot.id);
    const document = demoDocument('bowline.json') as { entry: object };
    const changed = { ...document, entry: { ...document.entry, useGrade: PEOPLE, ...FIT, summary: 'Changed.' } };
    await author.put(`/api/knots/${knot.id}`, { document: changed }, 1).expect(200);
    const now = await review(author, knot.id);
    expect([now.revision, now.current, now.before?.state]).toEqual([2, null, 'accepted']);
    expect(problem((await author.post(`/api/knots/${knot.id}/publication`).expect(409)).body).code).toBe(
      'people-depend-on-it',
    );
    // A review begun on what it was cannot be settled for what it is.
    await judge(knot.id, 'front', { verdict: 'accepted' }, 409);
    await acceptAll(knot.id);
    await author.post(`/api/knots/${knot.id}/publication`).expect(200);
    await author.remove(`/api/knots/${knot.id}/publication`).expect(204);
    expect((await review(author, knot.id)).log.slice(0, 2).map((l) => l.kind)).toEqual(['withdrawn', 'published']);
  });
});
