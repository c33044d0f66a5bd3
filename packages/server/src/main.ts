/**
 * The server process: DATABASE_URL, PORT, HOST, WEB_FOLDER, FOXTRAIL_DEMO, FOXTRAIL_HOSTS, FOXTRAIL_PROXY, FOXTRAIL_METRICS, SWEEP_SECONDS and
 * STATEMENT_SECONDS from the environment; logs as JSON on standard output.
 * Started by the start script it stops when that goes away.
 */
import { randomBytes } from 'node:crypto';
import type pg from 'pg';
import { destination, pino } from 'pino';
import { ensureAccount } from './accounts.js';
import { createApp } from './app.js';
import { warmUp } from './aside.js';
import { logged } from './claims.js';
import { migrate, openPool, whenUp } from './database.js';
import { metricsFor } from './metrics.js';
import { DEMO_SIGN_INS, loadDemo } from './demo.js';
import { house } from './house.js';
import { seedKin } from './kin.js';
import { formStale } from './formed.js';
import { slipsStale } from './slips.js';
import { tryStale } from './prover.js';
import { countStale } from './recount.js';
import { letGo } from './retention.js';
import { seedWords } from './words.js';

const env = process.env;
/** Written beside the work; what cannot be written, on a disk that is full, is let go. */
const output = destination({ fd: 1, sync: false, maxLength: 1_000_000 });
let isUnwritable = false;
output.on('error', () => (isUnwritable = true));
output.on('drain', () => (isUnwritable = false));
// At the end what is left of it is written until it is, which on a full disk is never.
process.prependListener('exit', () => {
  if (isUnwritable) output.destroy();
});
const log = pino({ level: env.LOG_LEVEL ?? 'info' }, output);

/** Milliseconds within which a request’s head, and all of it, has come. */
const HEAD_WITHIN = 20_000;
const REQUEST_WITHIN = 10 * 60_000;

/** Milliseconds between two looks for saves that the house does not keep. */
const LET_GO_EVERY = 3_600_000;

/** Seconds between two looks for background work that another server has left. */
const SWEEP_SECONDS = 60;

/** Most milliseconds that a server takes to end. */
const STOPPED_WITHIN = 5000;

/** Whoever started it has gone away while it was starting. */
const forsaken = (): void => process.exit(0);

async function main(): Promise<void> {
  process.once('disconnect', forsaken);
  const url = env.DATABASE_URL;
  if (url === undefined) throw new Error('DATABASE_URL is not set');
  const within = env.STATEMENT_SECONDS === undefined ? {} : { statement: 1000 * Number(env.STATEMENT_SECONDS) };
  const pool = openPool(url, log, within);
  const warm = warmUp();
  await whenUp(pool, log);
  const applied = await migrate(pool);
  if (applied.length > 0) log.info({ applied }, 'migrated');
  if (await seedWords(pool)) log.info('the glossary is written');
  await seedKin(pool);
  if (env.FOXTRAIL_DEMO === '1' && (await loadDemo(pool))) log.info('demo data loaded');
  const first = env.FOXTRAIL_FIRST_ACCOUNT === '1' ? await firstAccount(pool) : null;
  // What the first save needs is ready before anybody can send one.
  await warm;
  const app = createApp({
    pool,
    log,
    version: env.npm_package_version ?? '0.1.0',
    hosts: (env.FOXTRAIL_HOSTS ?? '')
      .split(',')
      .map((h) => h.trim())
      .filter((h) => h !== ''),
    ...(env.FOXTRAIL_PROXY === undefined ? {} : { proxy: env.FOXTRAIL_PROXY }),
    ...(env.FOXTRAIL_METRICS === undefined ? {} : { metrics: metricsFor(env.FOXTRAIL_METRICS) }),
    ...(env.WEB_FOLDER === undefined ? {} : { webFolder: env.WEB_FOLDER }),
  });
  let lastLetGo = 0;
  const background = (): void => {
    void countStale(pool, logged(log, 'findings not counted'));
    // One process does both: what kin is proved is wanted before what cards look like.
    void tryStale(pool, logged(log, 'kin not tried'))
      .then(() => formStale(pool, logged(log, 'knots not set')))
      .then(() => slipsStale(pool, logged(log, 'slips not set')));
    if (Date.now() - lastLetGo < LET_GO_EVERY) return;
    lastLetGo = Date.now();
    void letGo(pool).then(
      (gone) => gone > 0 && log.info({ gone }, 'saves let go by the rule of the house'),
      logged(log, 'old saves not let go'),
    );
  };
  let sweep: NodeJS.Timeout | undefined;
  const server = app.listen(Number(env.PORT ?? 0), env.HOST ?? '127.0.0.1', (error) => {
    if (error) {
      process.send?.({ kind: 'failed', code: (error as NodeJS.ErrnoException).code, message: error.message });
      process.exit(1);
    }
    const address = server.address();
    const port = typeof address === 'object' && address ? address.port : 0;
    log.info({ port }, 'listening');
    background();
    // Another server may have been killed at its work: what it had claimed is looked for again.
    sweep = setInterval(background, Number(env.SWEEP_SECONDS ?? SWEEP_SECONDS) * 1000);
    house(pool).then(
      ({ demo }) => process.send?.({ kind: 'listening', port, demo: demo ? DEMO_SIGN_INS : null, first }),
      (failure: unknown) => log.error({ error: String(failure) }, 'the house cannot be read'),
    );
  });
  server.headersTimeout = HEAD_WITHIN;
  server.requestTimeout = REQUEST_WITHIN;
  let stopping = false;
  const stop = (): void => {
    if (stopping) return;
    stopping = true;
    clearInterval(sweep);
    server.closeAllConnections();
    // What waits for the database, on a lock that others hold, is not waited for.
    setTimeout(() => process.exit(0), STOPPED_WITHIN);
    server.close(() => void pool.end().finally(() => process.exit(0)));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.off('disconnect', forsaken);
  process.on('disconnect', stop);
}

/** On a house without accounts, an owner's account with a password made up here. */
async function firstAccount(pool: pg.Pool): Promise<{ name: string; password: string } | null> {
  const any = await pool.query('select 1 from account limit 1');
  if (any.rowCount !== 0) return null;
  const made = { name: 'Owner', password: randomBytes(12).toString('base64url') };
  await ensureAccount(pool, made.name, 'owner', made.password);
  return made;
}

main().catch((error: unknown) => {
  log.fatal({ error: (error as Error).stack }, 'cannot start');
  process.send?.({ kind: 'failed', code: (error as NodeJS.ErrnoException).code, message: (error as Error).message });
  setTimeout(() => process.exit(1), 100);
});
