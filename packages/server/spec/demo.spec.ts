import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { DEMO_FILES, DEMO_SIGN_INS, loadDemo, migrate } from '../src/index.js';
import { startTestServer } from './server.js';

describe('the demo data', () => {
  it('is loaded once, by the import, into an empty library', async () => {
    const server = await startTestServer();
    try {
      expect(await loadDemo(server.pool)).toBeTrue();
      expect(await loadDemo(server.pool)).toBeFalse();
      const client = await server.visitor().signIn(DEMO_SIGN_INS[0].name, DEMO_SIGN_INS[0].password);
      const answer = await client.get('/api/knots').expect(200);
      const { knots } = answer.body as { knots: { name: string; errors: number; warnings: number }[] };
      expect(knots.length).toBe(DEMO_FILES.length);
      // One kinship is stated that is not so, to look at: the granny is no reef in a mirror.
      expect(knots.filter((k) => k.errors + k.warnings > 0)).toEqual([
        jasmine.objectContaining({ name: 'Granny knot', errors: 0, warnings: 1 }),
      ]);
      const session = (await server.visitor().get('/api/session')).body as { demo: unknown[]; house: { name: string } };
      expect(session.house.name).toBe('Larkmoor');
      expect(session.demo.length).toBe(2);
      // A film of the kite yard is there for its learners.
      const film = await readFile(new URL('../../../demo/films/figure-eight.webm', import.meta.url));
      const named = createHash('sha256').update(film).digest('hex');
      const shown = await server.visitor().get(`/api/public/knots/figure-eight/films/${named}`).expect(200);
      expect(shown.headers['content-type']).toBe('video/webm');
      expect(Number(shown.headers['content-length'])).toBe(film.length);
    } finally {
      await server.close();
    }
  });
});

describe('migrations', () => {
  it('run once, also when two servers begin together', async () => {
    const server = await startTestServer();
    try {
      expect(await Promise.all([migrate(server.pool), migrate(server.pool)])).toEqual([[], []]);
    } finally {
      await server.close();
    }
  });
});
