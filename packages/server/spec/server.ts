/**
 * A server for tests: its own empty database on the cluster given by TEST_CLUSTER_URL, and a client that behaves like a page of it.
 */
import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import pg from 'pg';
import { pino } from 'pino';
import supertest from 'supertest';
import { createApp, ensureAccount, migrate, openPool, seedKin, seedWords } from '../src/index.js';

const clusterUrl = process.env.TEST_CLUSTER_URL ?? '';

export interface TestServer {
  readonly pool: pg.Pool;
  /** The address of its database. */
  readonly databaseUrl: string;
  /** A client with no session yet. */
  visitor(): Client;
  author(): Promise<Client>;
  reviewer(): Promise<Client>;
  owner(): Promise<Client>;
  close(): Promise<void>;
}

export class Client {
  private readonly cookies = new Map<string, string>();
  constructor(
    private readonly app: ReturnType<typeof createApp>,
    private readonly origin: string | null = 'http://127.0.0.1',
  ) {}

  /** Keeps the cookies that an answer sets, as a browser does. */
  keep(answer: supertest.Response): void {
    for (const set of answer.get('Set-Cookie') ?? []) {
      const [name = '', value = ''] = (set.split(';')[0] ?? '').split('=');
      if (value === '') this.cookies.delete(name);
      else this.cookies.set(name, value);
    }
  }

  send(method: 'get' | 'post' | 'put' | 'delete', path: string): supertest.Test {
    const request = supertest(this.app)[method](path).set('Host', '127.0.0.1');
    if (this.origin !== null) void request.set('Origin', this.origin);
    if (this.cookies.size > 0) void request.set('Cookie', [...this.cookies].map((c) => c.join('=')).join('; '));
    return request;
  }

  get = (path: string): supertest.Test => this.send('get', path);
  // Written here: what the client's library writes them with takes seconds over a large document.
  private json = (request: supertest.Test, body: object): supertest.Test =>
    request.set('Content-Type', 'application/json').send(JSON.stringify(body));

  post = (path: string, body: object = {}): supertest.Test => this.json(this.send('post', path), body);
  put = (path: string, body: object, revision?: number): supertest.Test => {
    const request = this.send('put', path);
    if (revision !== undefined) void request.set('If-Match', `"${revision}"`);
    return this.json(request, body);
  };
  remove = (path: string): supertest.Test => this.send('delete', path);

  async signIn(name: string, password: string): Promise<this> {
    const answer = await this.post('/api/session', { name, password }).expect(200);
    this.keep(answer);
    return this;
  }
}

export const OWNER = { name: 'Olm Owner', password: 'whole horse' };

let template: Promise<string> | undefined;

/** A database with the tables, the shipped glossary, two accounts and rules of the house, made once and copied for every server. */
async function makeTemplate(admin: pg.Client): Promise<string> {
  const name = `template_${randomBytes(6).toString('hex')}`;
  await admin.query(`create database ${name}`);
  const pool = openPool(`${clusterUrl}/${name}`, pino({ level: 'silent' }));
  await migrate(pool);
  await seedWords(pool);
  await seedKin(pool);
  await pool.query(
    `insert into house_rule (rule_id, value, reason)
       select 'tail-' || g, '{"diameters": 8, "millimetres": 60, "palms": 0}', 'So the tests want it.'
         from unnest(array['light-duty', 'load-bearing', 'people-depend-on-it']) as g`,
  );
  // The book's kinships are tried where a spec is about them: tried anew on every server they would keep a processor busy throughout.
  await pool.query("update kin_relation set proof_state = 'open', compared = 'Not tried here.'");
  await ensureAccount(pool, 'Ada Author', 'author', 'right horse');
  await ensureAccount(pool, 'Rue Reviewer', 'reviewer', 'left horse');
  await ensureAccount(pool, OWNER.name, 'owner', OWNER.password);
  await pool.end();
  return name;
}

/** `untried`: the book's kinships are as they are on a new server, to be tried. */
export async function startTestServer({ untried = false } = {}): Promise<TestServer> {
  const name = `test_${randomBytes(6).toString('hex')}`;
  const admin = new pg.Client({ connectionString: `${clusterUrl}/postgres` });
  await admin.connect();
  await admin.query(`create database ${name} template ${await (template ??= makeTemplate(admin))}`);
  const log = pino({ level: 'silent' });
  // A slow machine that does other things beside may take long to connect.
  const pool = openPool(`${clusterUrl}/${name}`, log, { within: 60_000, statement: 600_000, idle: 600_000 });
  if (untried) await pool.query('update kin_relation set proof_state = null, compared = null');
  const app = createApp({
    // Specs wait for what is found of a knot, as long as a slow machine takes.
    patience: 170_000,
    pool,
    log,
    version: 'test',
  });
  return {
    pool,
    databaseUrl: `${clusterUrl}/${name}`,
    visitor: () => new Client(app),
    author: () => new Client(app).signIn('Ada Author', 'right horse'),
    reviewer: () => new Client(app).signIn('Rue Reviewer', 'left horse'),
    owner: () => new Client(app).signIn(OWNER.name, OWNER.password),
    close: async () => {
      await pool.end();
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
    },
  };
}

export const demoDocument = (file: string): Record<string, unknown> =>
  JSON.parse(readFileSync(new URL(`../../../demo/${file}`, import.meta.url), 'utf8')) as Record<string, unknown>;
