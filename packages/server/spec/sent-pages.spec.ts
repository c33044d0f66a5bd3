/** What visitors are sent: kept as it is sent, and never older than their asking. */
import express from 'express';
import supertest from 'supertest';
import { AskedTogether } from '../src/asked-together.js';
import type { Queryable } from '../src/database.js';
import { SentPages } from '../src/sent-pages.js';

describe('What visitors are sent', () => {
  let version: number;
  let content: unknown;
  let write: jasmine.Spy;
  let app: express.Express;

  beforeEach(() => {
    version = 1;
    content = { knot: 'reef' };
    write = jasmine
      .createSpy()
      .and.callFake((of: unknown) => Promise.resolve(`<p>${JSON.stringify(of)}</p>`.repeat(50)));
    const db = { query: () => Promise.resolve({ rows: [{ version: String(version) }] }) } as unknown as Queryable;
    const pages = new SentPages(db, 2);
    app = express().get('/:key', async (req, res) => {
      const found = await pages.send(req, res, {
        key: req.params.key,
        type: 'html',
        content: () => Promise.resolve(content),
        write: write as (content: unknown) => Promise<string | undefined>,
      });
      if (!found) res.status(404).end();
    });
  });
  const ask = (key = 'a'): supertest.Test => supertest(app).get(`/${key}`);

  it('is written once for the same content, whatever else has changed in the house', async () => {
    await Promise.all([ask(), ask()]);
    version = 2;
    await ask().expect(200);
    expect(write).toHaveBeenCalledTimes(1);
    content = { knot: 'reef', revision: 2 };
    expect((await ask().expect(200)).text).not.toContain('revision');
    version = 3;
    expect((await ask().expect(200)).text).toContain('revision');
    expect(write).toHaveBeenCalledTimes(2);
  });
  it('is compressed as it is asked for, and reads the same', async () => {
    const plain = await ask().set('Accept-Encoding', 'identity').expect(200);
    const small = await ask().set('Accept-Encoding', 'br').expect(200);
    expect(small.headers['content-encoding']).toBe('br');
    expect(small.text).toBe(plain.text);
    expect(Number(small.headers['content-length'])).toBeLessThan(plain.text.length / 4);
    expect((await ask().set('Accept-Encoding', 'gzip')).text).toBe(plain.text);
  });
  it('has a tag: who has it is told so, until it is another', async () => {
    const first = await ask();
    const tag = first.headers.etag ?? '';
    expect(tag).not.toBe('');
    await ask().set('If-None-Match', tag).expect(304);
    [content, version] = [{ knot: 'granny' }, 2];
    const second = await ask().set('If-None-Match', tag).expect(200);
    expect(second.headers.etag).not.toBe(tag);
  });
  it('gives way to what is asked for later; what is none is not kept', async () => {
    for (const key of ['a', 'b', 'a', 'c', 'a']) await ask(key);
    expect(write).toHaveBeenCalledTimes(3);
    for (const key of ['d', 'e', 'f', 'a']) await ask(key);
    expect(write).toHaveBeenCalledTimes(7);
    write.and.resolveTo(undefined);
    version = 2;
    content = 'other';
    await ask('d').expect(404);
    await ask('d').expect(404);
    expect(write).toHaveBeenCalledTimes(9);
  });
});

describe('A question that many ask', () => {
  it('is asked once for all who wait, and never answered by what was asked before', async () => {
    let asked = 0;
    const answers: ((n: number) => void)[] = [];
    const together = new AskedTogether(() => {
      asked += 1;
      return new Promise<number>((done) => answers.push(done));
    });
    const first = together.now();
    const later = [together.now(), together.now(), together.now()];
    expect(asked).toBe(1);
    answers[0]?.(1);
    expect(await first).toBe(1);
    await new Promise(setImmediate);
    expect(asked).toBe(2);
    answers[1]?.(2);
    expect(await Promise.all(later)).toEqual([2, 2, 2]);
    expect(asked).toBe(2);
  });
  it('that fails is asked again by the next', async () => {
    let asked = 0;
    const together = new AskedTogether(() => {
      asked += 1;
      return asked === 1 ? Promise.reject(new Error('away')) : Promise.resolve(asked);
    });
    const [first, second] = [together.now(), together.now()];
    await expectAsync(first).toBeRejectedWithError('away');
    expect(await second).toBe(2);
  });
});
