/**
 * A second factor, its codes made here as RFC 4226 and RFC 6238 say.
 */
import type { People, Problem, SecondFactorBegun } from '@foxtrail/contract';
import { createHmac } from 'node:crypto';
import type supertest from 'supertest';
import { OWNER, startTestServer, type Client, type TestServer } from './server.js';

/** The code of a half minute. */
function codeOf(secret: Buffer, step: number, digits = 6): string {
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(step));
  const mac = createHmac('sha1', secret).update(counter).digest();
  const at = mac.at(-1)! & 0x0f;
  return String((mac.readUInt32BE(at) & 0x7fff_ffff) % 10 ** digits).padStart(digits, '0');
}
/** What an authenticator is given, as bytes (RFC 4648). */
function fromBase32(text: string): Buffer {
  const bits = Array.from(text, (c) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(c).toString(2).padStart(5, '0')).join(
    '',
  );
  return Buffer.from((bits.match(/.{8}/g) ?? []).map((b) => Number.parseInt(b, 2)));
}
const stepNow = (): number => Math.floor(Date.now() / 30_000);

describe('a second factor', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());
  beforeEach(() => server.pool.query('delete from sign_in_try'));

  const problem = (answer: supertest.Response): string => (answer.body as Problem).error.code;
  const signIn = (code?: string): supertest.Test =>
    server.visitor().post('/api/session', { ...OWNER, ...(code === undefined ? {} : { code }) });
  const setUp = async (owner: Client): Promise<{ secret: Buffer; shown: string; spare: string[] }> => {
    const { secret, squares } = (await owner.post('/api/session/second', { present: OWNER.password }).expect(200))
      .body as SecondFactorBegun;
    expect(squares.length).toBeGreaterThan(20);
    expect(squares.every((row) => row.length === squares.length && /^[01]+$/.test(row))).toBeTrue();
    const bytes = fromBase32(secret);
    expect(bytes.length).toBe(20);
    const shown = codeOf(bytes, stepNow());
    const answer = await owner.put('/api/session/second', { code: shown }).expect(200);
    return { secret: bytes, shown, spare: (answer.body as { spare: string[] }).spare };
  };
  const end = (owner: Client): supertest.Test => owner.put('/api/session/second/end', { present: OWNER.password });

  it('has codes that are those of the standards', () => {
    const secret = Buffer.from('12345678901234567890');
    expect([0, 1, 9].map((n) => codeOf(secret, n))).toEqual(['755224', '287082', '520489']);
    expect([59, 1_111_111_109, 2_000_000_000].map((s) => codeOf(secret, Math.floor(s / 30), 8))).toEqual([
      '94287082',
      '07081804',
      '69279037',
    ]);
  });

  it('is asked for once it was shown to work, at every sign-in, and takes each code once', async () => {
    const owner = await server.owner();
    await owner.post('/api/session/second', { present: OWNER.password }).expect(200);
    // Begun alone it changes nothing.
    await signIn().expect(200);
    expect((await owner.get('/api/session/second').expect(200)).body).toEqual({ on: false });
    expect(problem(await owner.put('/api/session/second', { code: '000' }).expect(403))).toBe('wrong-code');

    const { secret, shown } = await setUp(owner);
    expect(problem(await signIn().expect(401))).toBe('second-factor');
    // The code that showed it to work was used.
    expect(problem(await signIn(shown).expect(401))).toBe('wrong-code');
    expect(problem(await signIn(codeOf(secret, stepNow() + 40)).expect(401))).toBe('wrong-code');
    const next = codeOf(secret, stepNow() + 1);
    await signIn(`${next.slice(0, 3)} ${next.slice(3)}`).expect(200);
    expect(problem(await signIn(next).expect(401))).toBe('wrong-code');
    // Who does not know the password is told of no second factor.
    const stranger = await server
      .visitor()
      .post('/api/session', { ...OWNER, password: 'x' })
      .expect(401);
    expect(problem(stranger)).toBe('wrong-sign-in');
    const { people } = (await owner.get('/api/people').expect(200)).body as People;
    expect(people.filter((p) => p.second).map((p) => p.name)).toEqual([OWNER.name]);
    await end(owner).expect(204);
  });

  it('has spare codes, each taken once, however many give it at once', async () => {
    const owner = await server.owner();
    const { spare } = await setUp(owner);
    expect(new Set(spare).size).toBe(10);
    const answers = await Promise.all(Array.from({ length: 4 }, () => signIn(spare[0])));
    expect(answers.filter((a) => a.status === 200).length).toBe(1);
    await signIn(spare[1]!.toUpperCase()).expect(200);
    const kept = await server.pool.query<{ code_hash: Buffer }>('select code_hash from spare_code');
    expect(kept.rows.length).toBe(8);
    // What is kept of them opens nothing.
    expect(kept.rows.some((r) => spare.includes(r.code_hash.toString()))).toBeFalse();
    await end(owner).expect(204);
    await signIn().expect(200);
    expect((await server.pool.query('select 1 from spare_code')).rowCount).toBe(0);
  });

  it('is set up and taken away by who knows the password, not by who found the browser open', async () => {
    const owner = await server.owner();
    expect(problem(await owner.post('/api/session/second', { present: 'x' }).expect(403))).toBe('wrong-password');
    await setUp(owner);
    expect(problem(await owner.put('/api/session/second/end', { present: 'x' }).expect(403))).toBe('wrong-password');
    expect(problem(await owner.post('/api/session/second', { present: OWNER.password }).expect(409))).toBe(
      'second-factor-there',
    );
    await end(owner).expect(204);
  });

  it('is guessed at as slowly as a password', async () => {
    const owner = await server.owner();
    await setUp(owner);
    const answers: number[] = [];
    for (let i = 0; i < 10; i += 1) answers.push((await signIn('000000')).status);
    expect(answers).toContain(429);
    await server.pool.query('delete from sign_in_try');
    await end(owner).expect(204);
  });
});
