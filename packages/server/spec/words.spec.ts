import {
  disputesSchema,
  foundSchema,
  importedWordsSchema,
  knotListSchema,
  publicKnotSchema,
  remarkedKnotsSchema,
  sessionSchema,
  wordsSchema,
  type KnotCard,
  type Problem,
  type Words,
} from '@foxtrail/contract';
import { readGlossaryCsv, toGlossaryCsv, type Concept } from '@foxtrail/core';
import { readTurtle } from '@foxtrail/core/skos';
import { GLOSSARY } from '@foxtrail/pattern-book';
import type { Client } from './server.js';
import { demoDocument, startTestServer, type TestServer } from './server.js';

let server: TestServer;
let author: Client;
/** Each spec of a group has a server of its own. */
const eachOnItsOwn = (): void => {
  beforeEach(async () => {
    server = await startTestServer();
    author = await server.author();
  });
  afterEach(() => server.close());
};

const words = async (): Promise<Words> => wordsSchema.parse((await author.get('/api/words').expect(200)).body);
const reason = (body: unknown): string => (body as Problem).error.reason;
const card = (body: unknown): KnotCard => (body as { card: KnotCard }).card;
const choose = async (school: string, own: Record<string, string> = {}): Promise<Words> => {
  const { revision, known } = await words();
  const answer = await author.put('/api/words', { revision, choice: { school, own }, known }).expect(200);
  return wordsSchema.parse(answer.body);
};

const COIL: Concept = {
  id: 'kite-line',
  kind: 'tool',
  definition: 'The line that a kite is flown on.',
  broader: ['rope'],
  related: [],
  labels: [
    { school: 'workshop', status: 'preferred', text: 'kite line' },
    { school: null, status: 'misheard', text: 'kite lion' },
  ],
};

describe('the words of a house', () => {
  eachOnItsOwn();

  it('are the shipped glossary at first, whole and in order', async () => {
    const { glossary, choice, known } = await words();
    expect(glossary.concepts.map((c) => c.id)).toEqual(GLOSSARY.concepts.map((c) => c.id));
    expect(glossary).toEqual(GLOSSARY);
    expect(choice).toEqual({ school: 'workshop', own: {} });
    expect(known).toContain('working-end');
    const figure = await author.get('/api/words/concepts/bight/figure').expect(200);
    expect((figure.body as { figure: { format: string } }).figure.format).toBe('foxtrail-figure/1');
    await author.get('/api/words/concepts/harness/figure').expect(404);
  });

  it('are read by all who sign in and written by authors', async () => {
    await server.visitor().get('/api/words').expect(401);
    const reviewer = await server.reviewer();
    await reviewer.get('/api/words').expect(200);
    const { revision, choice, known } = await words();
    await reviewer.put('/api/words', { revision, choice, known }).expect(403);
  });

  it('once chosen, are those of every page, sheet and caption', async () => {
    const made = card(
      (await author.post('/api/knots', { document: demoDocument('clove-hitch.json') }).expect(201)).body,
    );
    const bare = { ...demoDocument('overhand.json'), name: 'Bare overhand' } as Record<string, unknown>;
    const method = bare.method as { halts: object[]; finish?: object[]; relaid?: object[] };
    const { relaid: _relaid, ...first } = method;
    bare.method = { ...first, halts: method.halts.map((h) => ({ ...h, text: undefined })), finish: [{ kind: 'set' }] };
    const plain = card((await author.post('/api/knots', { document: bare }).expect(201)).body);
    for (const { id } of [made, plain]) await author.post(`/api/knots/${id}/publication`).expect(200);
    const page = async (): Promise<string> => {
      const files = ['steps/1.svg', 'sheet.svg', 'captions.vtt'].map((f) =>
        author.get(`/api/public/knots/bare-overhand/${f}`).buffer(true).parse(textOf).expect(200),
      );
      return (await Promise.all(files)).map((a) => a.body as string).join(' ');
    };
    expect(await page()).toContain('standing part');
    await choose('camp');
    expect(await page()).toContain('standing line');
    expect(await page()).not.toContain('standing part');
    const { house } = sessionSchema.parse((await author.get('/api/session')).body);
    expect([house.vocabulary.workingEnd, house.vocabulary.hosts.spar]).toEqual(['free end', 'pole']);
    await choose('camp', { 'standing-part': 'kite side' });
    expect(await page()).toContain('kite side');
  });

  it('of a lesson may be another school’s, and a lesson explains the words it says it does', async () => {
    const document = demoDocument('overhand.json') as { entry: object };
    const entry = { ...document.entry, words: { school: 'marine', introduces: ['bight', 'gone'] } };
    const { id } = card((await author.post('/api/knots', { document: { ...document, entry } }).expect(201)).body);
    await author.post(`/api/knots/${id}/publication`).expect(200);
    const knot = publicKnotSchema.parse((await author.get('/api/public/knots/overhand-knot').expect(200)).body);
    expect(knot.vocabulary.workingEnd).toBe('running end');
    expect(knot.house.vocabulary.workingEnd).toBe('working end');
    expect(knot.terms.map((t) => [t.id, t.word, t.figure?.format])).toEqual([['bight', 'bight', 'foxtrail-figure/1']]);
  });

  it('a change made from words that have moved on is refused, and nothing is lost', async () => {
    const { revision, known } = await words();
    await choose('marine');
    const late = await author.put('/api/words', { revision, choice: { school: 'camp', own: {} }, known }).expect(412);
    expect(reason(late.body)).toContain('Somebody changed the words');
    expect((await words()).choice.school).toBe('marine');
  });
});

describe('concepts and schools', () => {
  eachOnItsOwn();

  it('are added, changed and removed', async () => {
    const { revision } = await words();
    const added = await author.put('/api/words/concepts/kite-line', { revision, concept: COIL }).expect(200);
    const now = wordsSchema.parse(added.body);
    expect(now.glossary.concepts.at(-1)).toEqual(COIL);
    const changed = { ...COIL, definition: 'What a kite hangs on.' };
    await author.put('/api/words/concepts/kite-line', { revision: now.revision, concept: changed }).expect(200);
    const latest = await words();
    expect(latest.glossary.concepts.at(-1)).toEqual(changed);
    await author.remove(`/api/words/concepts/kite-line?revision=${latest.revision}`).expect(200);
    expect((await words()).glossary.concepts.some((c) => c.id === 'kite-line')).toBeFalse();
  });

  it('that make no sense are refused with the place', async () => {
    const put = async (concept: Concept): Promise<string> => {
      const { revision } = await words();
      return reason((await author.put(`/api/words/concepts/${concept.id}`, { revision, concept }).expect(400)).body);
    };
    expect(await put({ ...COIL, broader: ['nowhere'] })).toContain('no concept “nowhere”');
    expect(await put({ ...COIL, labels: [{ school: 'loft', status: 'preferred', text: 'x' }] })).toContain(
      'no school “loft”',
    );
    const twice = [COIL.labels[0]!, { ...COIL.labels[0]!, text: 'flying line' }];
    expect(await put({ ...COIL, labels: twice })).toContain('prefers one name');
    const rope = GLOSSARY.concepts.find((c) => c.id === 'rope')!;
    expect(await put({ ...rope, broader: ['cord'] })).toContain('narrower');
  });

  it('a school comes and goes with its labels, but not while the house speaks it', async () => {
    let { revision } = await words();
    const school = { id: 'loft', name: 'Loft', note: 'Ours.' };
    const made = wordsSchema.parse(
      (await author.put('/api/words/schools/loft', { revision, school }).expect(200)).body,
    );
    expect(made.glossary.schools.at(-1)).toEqual(school);
    ({ revision } = made);
    const concept = {
      ...COIL,
      labels: [...COIL.labels, { school: 'loft', status: 'preferred' as const, text: 'flyer' }],
    };
    await author.put('/api/words/concepts/kite-line', { revision, concept }).expect(200);
    await choose('loft');
    await author.remove(`/api/words/schools/loft?revision=${(await words()).revision}`).expect(409);
    await choose('workshop');
    await author.remove(`/api/words/schools/loft?revision=${(await words()).revision}`).expect(200);
    expect((await words()).glossary.concepts.at(-1)).toEqual(COIL);
  });
});

describe('glossary files', () => {
  eachOnItsOwn();

  const send = async (format: string, text: string, answers: object, apply: boolean) =>
    importedWordsSchema.parse(
      (await author.post('/api/words/import', { format, text, answers, apply }).expect(200)).body,
    );

  it('go out as SKOS and CSV, whole or by school', async () => {
    const turtle = await author.get('/api/words/glossary.ttl').buffer(true).parse(textOf).expect(200);
    expect(readTurtle(turtle.body as string).glossary.concepts.length).toBe(GLOSSARY.concepts.length);
    const csv = await author.get('/api/words/glossary.csv?school=camp').expect(200);
    expect(new Set(readGlossaryCsv(csv.text).glossary.schools.map((s) => s.id))).toEqual(new Set(['camp']));
    await author.get('/api/words/glossary.csv?school=none').expect(404);
  });

  it('come in: first told, then decided, then written; once in, again changes nothing', async () => {
    const csv =
      'concept,kind,school,status,name\ntail,part of a rope,Workshop,preferred,stray end\nx y,shape,Loft,preferred,curl\n,,,,oops\n';
    const told = await send('csv', csv, {}, true);
    expect([told.applied, told.decided, told.report.collisions.length, told.report.refused.length]).toEqual([
      false,
      false,
      1,
      1,
    ]);
    expect((await words()).glossary.concepts.some((c) => c.id === 'x-y')).toBeFalse();
    const answers = { [told.report.collisions[0]!.key]: 'take theirs' };
    expect((await send('csv', csv, answers, true)).applied).toBeTrue();
    const { glossary } = await words();
    expect(glossary.concepts.find((c) => c.id === 'tail')!.labels.find((l) => l.text === 'stray end')!.status).toBe(
      'preferred',
    );
    expect(glossary.schools.at(-1)!.name).toBe('Loft');
    const again = await send('csv', toGlossaryCsv(glossary), {}, true);
    expect([again.report.added, again.report.changed, again.report.collisions]).toEqual([[], [], []]);
  });

  it('a file that is nothing is refused line by line and changes nothing', async () => {
    const { report } = await send('ttl', '<a> <b>\n nonsense', {}, true);
    expect(report.refused[0]!.place).toBe('line 2');
    await author.post('/api/words/import', { format: 'xml', text: '', apply: false }).expect(400);
  });
});

describe('names across the library', () => {
  eachOnItsOwn();

  it('are searched by any name or misspelling', async () => {
    const { id } = card((await author.post('/api/knots', { document: demoDocument('reef.json') }).expect(201)).body);
    await author.post('/api/knots', { document: demoDocument('bowline.json') }).expect(201);
    const found = async (q: string) =>
      foundSchema.parse((await author.get(`/api/search?q=${encodeURIComponent(q)}`).expect(200)).body).found;
    for (const q of ['reef', 'Square knot', 'wreath knot', 'reaf not']) {
      const shelf = knotListSchema.parse((await author.get(`/api/knots?q=${encodeURIComponent(q)}`)).body);
      expect(shelf.knots[0]?.id).withContext(q).toBe(id);
    }
    expect((await found('wreath knot')).find((f) => f.kind === 'knot')).toEqual({
      kind: 'knot',
      id,
      name: 'Reef knot',
      by: 'wreath knot',
    });
    expect((await found('free end'))[0]).toEqual({
      kind: 'word',
      id: 'working-end',
      name: 'working end',
      by: 'free end',
    });
    expect(await found('100% _')).toEqual([]);
    await author.get('/api/search?q=').expect(400);
  });

  it('in dispute are told, with the knots that bear them', async () => {
    await author.post('/api/knots', { document: { ...demoDocument('reef.json'), name: 'Clove hitch', entry: {} } });
    const { homonyms, rivalries } = disputesSchema.parse((await author.get('/api/words/disputes').expect(200)).body);
    expect(homonyms.some((h) => h.name === 'bitter end')).toBeTrue();
    expect(rivalries.some((r) => r.concept === 'knot-reef')).toBeTrue();
  });

  it('that texts use and the house does not are listed knot by knot', async () => {
    const document = demoDocument('reef.json') as { entry: object };
    await author
      .post('/api/knots', { document: { ...document, entry: { ...document.entry, summary: 'Holds by its tag end.' } } })
      .expect(201);
    const { knots, total, next } = remarkedKnotsSchema.parse((await author.get('/api/words/texts').expect(200)).body);
    expect([total, next]).toEqual([1, null]);
    expect(knots[0]!.texts[0]).toEqual(jasmine.objectContaining({ place: 'what it is for' }));
    expect(knots[0]!.texts[0]!.remarks.map((r) => r.words)).toEqual(['tag end']);
  });
});

/** An answer whose media type the client does not know is text. */
function textOf(answer: unknown, done: (error: Error | null, body: string) => void): void {
  let text = '';
  const stream = answer as NodeJS.ReadableStream;
  stream.on('data', (chunk: Buffer) => (text += chunk.toString('utf8')));
  stream.on('end', () => done(null, text));
}
