/**
 * Load, on this machine only: a server process of its own on the real database, with the demo and 10,000 knots, asked over its socket.
 * A published lesson beside a plain file server that sends the same bytes in the same run; the shelf; saves; and public pages while a proof,
 * a recount of the whole library, an import and an upload go on.
 */
import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { fork } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { get } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { fileURLToPath } from 'node:url';
import { brotliDecompressSync } from 'node:zlib';
import autocannon from 'autocannon';
import { pino } from 'pino';
import { FILM_PIECE, SHELF_PAGE, type Session } from '@foxtrail/contract';
import { EMPTY_ENTRY, methodFor, writeKnot, type FigureFile } from '@foxtrail/core';
import { ensureAccount } from '../../packages/server/src/accounts.js';
import { openPool } from '../../packages/server/src/database.js';
import { springWith } from './identity.js';
import { middle, round } from './measure.js';
import { served, signedIn, type Served } from './served.js';
import { madeName } from './words.js';

const SECONDS = 6;
const KNOTS = 10_000;
const SLUG = '/learn/figure-eight';

interface Asked {
  readonly perSecond: number;
  readonly median: number;
  readonly p95: number;
  readonly p99: number;
  readonly slowest: number;
  readonly failed: number;
}

/** Asks an address, or paths of it in turn, for some seconds by as many connections; times in milliseconds. */
async function asking(
  url: string,
  connections: number,
  headers: Record<string, string> = {},
  paths: readonly string[] = [new URL(url).pathname],
): Promise<Asked> {
  const ask = (duration: number): Promise<{ times: number[]; result: autocannon.Result }> =>
    new Promise((done, fail) => {
      const times: number[] = [];
      const options = {
        url,
        connections,
        duration,
        headers: { 'accept-encoding': 'br', ...headers },
        requests: paths.map((path) => ({ path })),
      };
      autocannon(options, (error: Error | null, result) => {
        if (error) fail(error);
        else done({ times, result });
      }).on('response', (_client, _status, _bytes, ms) => times.push(ms));
    });
  await ask(2);
  const { times, result } = await ask(SECONDS);
  return {
    perSecond: Math.round(times.length / result.duration),
    median: middle(times, 0.5),
    p95: middle(times, 0.95),
    p99: middle(times, 0.99),
    slowest: middle(times, 1),
    failed: result.non2xx + result.errors,
  };
}

/** The lesson as it is sent, by a server that only sends files. */
async function plainFiles(page: Uint8Array): Promise<{ url: string; stop: () => void }> {
  const folder = mkdtempSync(join(tmpdir(), 'foxtrail-files-'));
  writeFileSync(join(folder, 'page.html'), brotliDecompressSync(page));
  writeFileSync(join(folder, 'page.html.br'), page);
  const child = fork(fileURLToPath(new URL('./plain-files.ts', import.meta.url)), [folder]);
  const port = await new Promise<number>((done) => child.once('message', (m) => done(m as number)));
  return {
    url: `http://127.0.0.1:${port}/page.html`,
    stop: () => {
      child.kill();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** What an address is answered with, as it is on the wire. */
const onTheWire = (url: string): Promise<Buffer> =>
  new Promise((done, fail) => {
    get(url, { headers: { 'accept-encoding': 'br' } }, (res) => void buffer(res).then(done, fail)).on('error', fail);
  });

async function lesson(base: string): Promise<object> {
  const page = await onTheWire(base + SLUG);
  const files = await plainFiles(page);
  try {
    const own = await asking(base + SLUG, 32);
    const plain = await asking(files.url, 32);
    return { bytes: page.length, own, plain, share: Math.round((100 * own.perSecond) / plain.perSecond) / 100 };
  } finally {
    files.stop();
  }
}

/** Knots of the demo again and again, each with names of its own, until there are 10,000. */
async function fill(databaseUrl: string): Promise<void> {
  const pool = openPool(databaseUrl, pino({ level: 'silent' }));
  try {
    const names = Array.from({ length: KNOTS }, (_, n) => madeName(n));
    await pool.query(
      `create temporary table made as
         select gen_random_uuid() as id, n, (array_agg(k.id))[1 + n % count(*)::int] as source
           from generate_series(0, $1::int - 1) as n, knot k group by n`,
      [KNOTS],
    );
    await pool.query(
      `insert into knot (id, name, class, family, use_grade, revision, errors, warnings, crossings, steps, updated_by, updated_at, counted_by)
         select m.id, ($1::text[])[m.n + 1] || ' ' || k.class, k.class, k.family, k.use_grade, 1, k.errors, k.warnings, k.crossings, k.steps,
                k.updated_by, now() - make_interval(mins => m.n), k.counted_by
           from made m join knot k on k.id = m.source`,
      [names],
    );
    await pool.query(
      `insert into revision (knot_id, number, document, saved_by)
         select m.id, 1, r.document, r.saved_by from made m join knot k on k.id = m.source join revision r on r.knot_id = k.id and r.number = k.revision`,
    );
    await pool.query(
      "insert into knot_alias (knot_id, position, name) select id, 0, ($1::text[])[1 + (n * 7) % $2::int] || ' tie' from made",
      [names, KNOTS],
    );
    await pool.query('insert into formed (knot_id, revision, svg) select id, 1, null from made');
    // As the database does by itself, in its own time.
    await pool.query('vacuum analyze');
  } finally {
    await pool.end();
  }
}

/** Waits until the server has nothing to do by itself: the demo's kinships are tried, its knots set and examined. */
async function quiet(databaseUrl: string): Promise<void> {
  const pool = openPool(databaseUrl, pino({ level: 'silent' }));
  try {
    for (let calm = 0; calm < 6;) {
      await new Promise((done) => setTimeout(done, 500));
      const held = await pool.query<{ held: number }>('select count(*)::int as held from claim where until >= now()');
      calm = held.rows[0]?.held === 0 ? calm + 1 : 0;
    }
  } finally {
    await pool.end();
  }
}

/** Numbers that look drawn by lot, the same in every run. */
const anyOf = (count: number, seed: number): number => (seed * 7919 + 104_729) % count;

async function shelf({ base, cookie }: Served): Promise<object> {
  // Everybody looks for something else, or has gone on to another page.
  const sought = Array.from({ length: 400 }, (_, i) => `/api/knots?q=${encodeURIComponent(madeName(anyOf(KNOTS, i)))}`);
  const further = Array.from({ length: 200 }, (_, i) => `/api/knots?from=${SHELF_PAGE * anyOf(200, i)}`);
  return {
    first: await asking(base, 16, { cookie }, ['/api/knots']),
    further: await asking(base, 16, { cookie }, further),
    search: await asking(base, 16, { cookie }, sought),
  };
}

interface Answered {
  readonly card: { readonly id: string; readonly revision: number };
}
const fileOf = (name: string, crossings: number): FigureFile =>
  writeKnot({ name, entry: EMPTY_ENTRY, method: methodFor(springWith(crossings)), others: [], extra: {} });

/** Accounts of as many authors. */
async function manyAuthors(databaseUrl: string, count: number): Promise<{ name: string; password: string }[]> {
  const authors = Array.from({ length: count }, (_, n) => ({ name: `Author ${n}`, password: `a long bench ${n}` }));
  const pool = openPool(databaseUrl, pino({ level: 'silent' }));
  for (const { name, password } of authors) await ensureAccount(pool, name, 'author', password);
  await pool.end();
  return authors;
}

/** Eight authors save, each a knot of their own, of as many crossings as knots have. */
async function saves({ base }: Served, databaseUrl: string): Promise<object> {
  const accounts = await manyAuthors(databaseUrl, 8);
  const sessions = await Promise.all(accounts.map((who) => signedIn(base, who)));
  const times: number[] = [];
  let failed = 0;
  // Drawn before, so that what is measured is the server's time, not that of drawing.
  const drawings = Array.from({ length: 8 }, (_, n) => fileOf(`Author ${n}`, 20));
  const until = performance.now() + 1000 * SECONDS;
  const author = async ({ ask }: (typeof sessions)[number], n: number): Promise<void> => {
    const drawn = drawings[n] as FigureFile;
    const made = (await (await ask('POST', '/api/knots', { document: drawn })).json()) as Answered;
    let { revision } = made.card;
    for (let i = 0; performance.now() < until; i += 1) {
      const document = { ...drawn, entry: { ...drawn.entry, summary: `Saved ${i} times.` } };
      const began = performance.now();
      const answer = await ask(
        'PUT',
        `/api/knots/${made.card.id}`,
        { document, save: randomUUID() },
        { 'If-Match': `"${revision}"` },
      );
      const { card } = (await answer.json()) as Answered;
      times.push(performance.now() - began);
      if (answer.ok) ({ revision } = card);
      else failed += 1;
    }
  };
  await Promise.all(sessions.map(author));
  return {
    saves: times.length,
    median: middle(times, 0.5),
    p95: middle(times, 0.95),
    p99: middle(times, 0.99),
    slowest: middle(times, 1),
    failed,
  };
}

/** Public pages, asked for by four visitors again and again, while something goes on and for as long as it does. */
async function visits(base: string, goesOn: () => boolean): Promise<object> {
  const slugs = ['figure-eight', 'reef-knot', 'bowline', ''];
  const times: number[] = [];
  let failed = 0;
  await Promise.all(
    slugs.map(async (slug) => {
      while (goesOn()) {
        const began = performance.now();
        const answer = await fetch(`${base}/learn/${slug}`);
        await answer.text();
        times.push(performance.now() - began);
        if (!answer.ok && answer.status !== 404) failed += 1;
        await new Promise((done) => setTimeout(done, 10));
      }
    }),
  );
  return {
    pages: times.length,
    median: middle(times, 0.5),
    p95: middle(times, 0.95),
    p99: middle(times, 0.99),
    slowest: middle(times, 1),
    failed,
  };
}

/** A glossary of 5,000 words, to be taken in. */
function manyWords(): string {
  const concepts = Array.from(
    { length: 5000 },
    (_, i) => `<urn:w${i}> a skos:Concept ; skos:inScheme <urn:s> ; skos:prefLabel "made word ${i}"@en .`,
  );
  return `@prefix skos: <http://www.w3.org/2004/02/skos/core#> .\n${concepts.join('\n')}`;
}

/** A film of 64 MiB by its first bytes, of nothing by its others. */
function madeFilm(): { bytes: Buffer; path: string } {
  const bytes = randomBytes(64 * FILM_PIECE);
  Buffer.from([0x1a, 0x45, 0xdf, 0xa3]).copy(bytes);
  return { bytes, path: `/api/films/${createHash('sha256').update(bytes).digest('hex')}` };
}

/** What of a request went well is not looked at later: what was refused ends the measurement. */
const held = async (asked: Promise<Response>): Promise<void> => {
  const answer = await asked;
  if (!answer.ok) throw new Error(`${answer.url} was answered ${answer.status}: ${await answer.text()}`);
};

async function besides({ base, ask }: Served): Promise<object> {
  const film = madeFilm();
  const going: Record<string, () => Promise<unknown>> = {
    nothing: () => new Promise((done) => setTimeout(done, 1000 * SECONDS)),
    'a proof': () => held(ask('POST', '/api/knots', { document: fileOf('Proof', 290) })),
    'a recount of 10,000 knots': async () => {
      const { house } = (await (await ask('GET', '/api/session')).json()) as Session;
      const { name, practice, revision } = house;
      await held(ask('PUT', '/api/house', { name, practice, revision }));
      await new Promise((done) => setTimeout(done, 1000 * SECONDS));
    },
    'an import': () =>
      held(ask('POST', '/api/words/import', { format: 'ttl', text: manyWords(), answers: {}, apply: true })),
    'an upload': async () => {
      await held(ask('PUT', film.path, { size: film.bytes.length }));
      for (let at = 0, n = 0; at < film.bytes.length; at += FILM_PIECE, n += 1)
        await held(ask('PUT', `${film.path}/pieces/${n}`, film.bytes.subarray(at, at + FILM_PIECE)));
      await held(ask('POST', `${film.path}/whole`, {}));
    },
  };
  const found: Record<string, object> = {};
  for (const [name, work] of Object.entries(going)) {
    let over = false;
    const began = performance.now();
    const done = work().finally(() => (over = true));
    const pages = await visits(base, () => !over || performance.now() - began < 1000 * SECONDS);
    await done;
    found[name] = { seconds: round((performance.now() - began) / 1000), ...pages };
  }
  return found;
}

export async function loadBench(databaseUrl: string): Promise<object> {
  const own = await served(databaseUrl);
  try {
    await fill(databaseUrl);
    await quiet(databaseUrl);
    const page = await lesson(own.base);
    return { lesson: page, shelf: await shelf(own), saves: await saves(own, databaseUrl), besides: await besides(own) };
  } finally {
    await own.stop();
  }
}
