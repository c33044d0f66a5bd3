// npm test: lint, format, types, and every runner, on a fresh machine; a summary closes it. Leaves nothing running.
import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, openSync, rmSync } from 'node:fs';
import { availableParallelism, constants, setPriority, tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { buildWeb, ensureChromium, installPackages, root, webFolder } from './prepare.mjs';
import { say } from './say.mjs';

const PARTS = ['lint', 'format', 'types', 'core', 'book', 'cli', 'lesson', 'server', 'web', 'e2e'];
/** Checkers are not tests: only what the runners counted is summed, and every failure. */
const CHECKERS = new Set(['lint', 'typed lint', 'format', 'types', 'build', 'demo']);

/** The end-to-end tests run in so many halves, each against a server and a database of its own. */
const SHARDS = 2;

/** What a server with the demo has still to do in the background, and how often it is asked for. */
const LEFT_TO_DO = `select (select count(*) from kin_relation where proof_state is null)
  + (select count(*) from knot k where not exists (select 1 from formed f where f.knot_id = k.id)) as left`;
const ASKED_EVERY = 500;
/** What is not done by then has failed; in milliseconds. */
const DONE_WITHIN = 1_200_000;

/** So many of the last lines of a part that failed are repeated above the summary: a long run keeps its end only. */
const LAST_LINES = 60;

const children = new Set();
/** Set when the run is to end early: no further part is begun. */
let stopping = false;

/** Runs a command and returns its exit code, what it printed, and the counts it closed with. */
function runCommand(args, { cwd = root, env = {} } = {}) {
  return new Promise((done) => {
    const child = spawn(process.execPath, args, {
      cwd,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    children.add(child);
    let text = '';
    child.stdout.on('data', (chunk) => (text += chunk));
    child.stderr.on('data', (chunk) => (text += chunk));
    child.on('exit', (code, signal) => {
      children.delete(child);
      const counts = [...text.matchAll(/^\s*(\d+) passed, (\d+) failed/gm)].at(-1);
      done({
        code: signal ? 1 : code,
        passed: Number(counts?.[1] ?? 0),
        failed: Number(counts?.[2] ?? 0),
        counted: counts !== undefined,
        text,
      });
    });
  });
}

/**
 * Runs tasks in two lanes, or one where there is one processor: each lane takes the first task that is not taken and waits for
 * nothing. What a task prints is shown in one piece when it ends.
 */
async function runTasks(tasks) {
  const results = [];
  const ended = new Set();
  const waiting = [...tasks];
  let wake = () => undefined;
  let sleep = new Promise((done) => (wake = done));
  const lane = async () => {
    while (waiting.length > 0 && !stopping) {
      const next = waiting.find((t) => (t.after ?? []).every((name) => ended.has(name)));
      if (!next) {
        await sleep;
        continue;
      }
      waiting.splice(waiting.indexOf(next), 1);
      say(`… ${next.name}`);
      const began = Date.now();
      const {
        code,
        passed = 0,
        failed = 0,
        counted = false,
        text = '',
      } = await next.work().catch((error) => ({ code: 1, text: String(error.stack ?? error) }));
      // A checker that fails counts as one failure; a runner that died without counting does too.
      const failures = code === 0 ? failed : Math.max(1, failed);
      const seconds = (Date.now() - began) / 1000;
      say(`\n━━ ${next.name} (${seconds.toFixed(1)} s)\n${text.trimEnd()}`);
      results.push({
        name: next.name,
        order: tasks.indexOf(next),
        passed: counted ? passed : code === 0 ? 1 : 0,
        failed: failures,
        end: text.split('\n').slice(-LAST_LINES).join('\n'),
        seconds,
      });
      ended.add(next.name);
      wake();
      sleep = new Promise((done) => (wake = done));
    }
  };
  await Promise.all(Array.from({ length: Math.min(2, availableParallelism()) }, lane));
  return results.sort((a, b) => a.order - b.order);
}

export async function main() {
  const { values } = parseArgs({ options: { only: { type: 'string' } } });
  const wanted = new Set(values.only ? values.only.split(',') : PARTS);
  const began = Date.now();
  installPackages();
  if (wanted.has('web') || wanted.has('e2e')) ensureChromium();
  const { binaries, startCluster, makeDatabase, numberFrom, startServer, freePort } = await import('./cluster.mjs');
  const undo = [];
  const scratch = mkdtempSync(join(tmpdir(), 'foxtrail-test-'));
  chmodSync(scratch, 0o755);
  undo.push(() => rmSync(scratch, { recursive: true, force: true }));
  for (const signal of ['SIGINT', 'SIGTERM']) {
    process.on(signal, () => {
      stopping = true;
      for (const child of children) child.kill('SIGTERM');
    });
  }
  let results;
  try {
    let cluster;
    if (wanted.has('server') || wanted.has('e2e')) {
      cluster = await startCluster(scratch, { throwaway: true });
      undo.push(cluster.stop);
    }
    // The server's own processes that compute aside stand back behind whatever else goes on: among tests that would be without end.
    setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
    const jasmine = (folder, env) => () =>
      runCommand(
        [
          '--enable-source-maps',
          '--import',
          'tsx',
          join(root, 'node_modules/jasmine/bin/jasmine.js'),
          '--config=jasmine.json',
        ],
        { cwd: join(root, 'packages', folder), env },
      );
    const demoServer = async (databaseUrl, name) => {
      const server = await startServer({
        root,
        databaseUrl,
        port: await freePort(),
        webFolder,
        demo: true,
        output: openSync(join(scratch, `server-${name}.log`), 'a'),
        // Knots that tests draw are not set for pictures of their cards, which nobody looks at.
        env: { SWEEP_SECONDS: '3600' },
      });
      undo.push(server.stop);
      return server;
    };
    // The demo with its background work done, once; each of the end-to-end tests' databases is a copy of it.
    const DEMO = 'e2e_demo';
    const makeDemo = async () => {
      const databaseUrl = await makeDatabase(cluster.url, DEMO, { fresh: true });
      const server = await demoServer(databaseUrl, 'demo');
      const last = Date.now() + DONE_WITHIN;
      let left = await numberFrom(databaseUrl, LEFT_TO_DO);
      for (; !stopping && left > 0 && Date.now() < last; left = await numberFrom(databaseUrl, LEFT_TO_DO))
        await wait(ASKED_EVERY);
      await server.stop();
      return left === 0 ? { code: 0 } : { code: 1, text: `${left} of its background tasks were not done.` };
    };
    const endToEnd = (shard) => async () => {
      const databaseUrl = await makeDatabase(cluster.url, `e2e_${shard}`, { fresh: true, like: DEMO });
      const server = await demoServer(databaseUrl, shard);
      const ended = await runCommand(
        [
          join(root, 'node_modules/@playwright/test/cli.js'),
          'test',
          '--config',
          'e2e/playwright.config.ts',
          `--shard=${shard}/${SHARDS}`,
        ],
        {
          env: {
            BASE_URL: `http://127.0.0.1:${server.port}`,
            DATABASE_URL: databaseUrl,
            SERVER_PID: String(server.child.pid),
            SHARD: String(shard),
          },
        },
      );
      // What it has still in hand in the background would slow down the rest of the run.
      await server.stop();
      return ended;
    };
    // The longest first, so that no lane is left alone at the end.
    const tasks = [
      { part: 'e2e', name: 'build', work: () => buildWeb().then(() => ({ code: 0 })) },
      { part: 'e2e', name: 'demo', work: makeDemo },
      ...Array.from({ length: SHARDS }, (_, i) => ({
        part: 'e2e',
        name: `e2e ${i + 1}/${SHARDS}`,
        after: ['build', 'demo'],
        work: endToEnd(i + 1),
      })),
      { part: 'server', work: jasmine('server', { TEST_CLUSTER_URL: cluster?.url ?? '', PG_BIN: binaries() ?? '' }) },
      { part: 'types', work: () => runCommand(['scripts/typecheck.mjs', ...(wanted.has('e2e') ? ['--built'] : [])]) },
      {
        part: 'web',
        work: () =>
          runCommand([join(root, 'node_modules/@angular/cli/bin/ng.js'), 'test'], {
            cwd: join(root, 'packages/web'),
            env: { NG_CLI_ANALYTICS: 'false' },
          }),
      },
      { part: 'lint', work: () => runCommand(['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0']) },
      {
        part: 'lint',
        name: 'typed lint',
        work: () => runCommand(['node_modules/oxlint/bin/oxlint', '--type-aware', '--max-warnings', '0']),
      },
      { part: 'book', work: jasmine('pattern-book') },
      { part: 'core', work: jasmine('core') },
      {
        part: 'format',
        work: () => runCommand(['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.']),
      },
      { part: 'cli', work: jasmine('cli') },
      { part: 'lesson', work: jasmine('lesson') },
    ];
    results = await runTasks(tasks.filter((t) => wanted.has(t.part)).map((t) => ({ name: t.part, ...t })));
  } finally {
    while (undo.length > 0) await undo.pop()();
  }
  for (const { name, end } of results.filter((r) => r.failed > 0)) say(`\n━━ how ${name} ended\n${end}`);
  say('\n━━ summary');
  for (const r of results)
    say(
      `${r.failed === 0 ? '✓' : '✗'} ${r.name.padEnd(8)} ${String(r.passed).padStart(4)} passed ${String(r.failed).padStart(3)} failed   ${r.seconds.toFixed(1)} s`,
    );
  say(`The whole run took ${((Date.now() - began) / 1000).toFixed(0)} s.`);
  const sum = (list, key) => list.reduce((total, r) => total + r[key], 0);
  const failed = sum(results, 'failed');
  say(
    `\n${sum(
      results.filter((r) => !CHECKERS.has(r.name)),
      'passed',
    )} passed, ${failed} failed`,
  );
  return failed === 0 && !stopping ? 0 : 1;
}
