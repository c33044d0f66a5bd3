// npm test: lint, format, types, and every runner, on a fresh machine; a summary closes it. Leaves nothing running.
import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, openSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { buildWeb, ensureChromium, installPackages, root, webFolder } from './prepare.mjs';
import { say } from './say.mjs';

const PARTS = ['lint', 'format', 'types', 'core', 'book', 'cli', 'server', 'web', 'e2e'];

/** So many of the last lines of a part that failed are repeated above the summary: a long run keeps its end only. */
const LAST_LINES = 60;

const results = [];
const children = new Set();

/** Runs a command, shows what it prints, and returns its exit code and the counts it closed with. */
function runStep(args, { cwd = root, env = {} } = {}) {
  return new Promise((done) => {
    const child = spawn(process.execPath, args, {
      cwd,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    children.add(child);
    let text = '';
    const take = (stream) => (chunk) => {
      text += chunk;
      stream.write(chunk);
    };
    child.stdout.on('data', take(process.stdout));
    child.stderr.on('data', take(process.stderr));
    child.on('exit', (code, signal) => {
      children.delete(child);
      const counts = [...text.matchAll(/^\s*(\d+) passed, (\d+) failed/gm)].at(-1);
      done({
        code: signal ? 1 : code,
        passed: Number(counts?.[1] ?? 0),
        failed: Number(counts?.[2] ?? 0),
        counted: counts !== undefined,
        end: text.split('\n').slice(-LAST_LINES).join('\n'),
      });
    });
  });
}

async function step(name, work) {
  say(`\n━━ ${name}`);
  const began = Date.now();
  const { code, passed, failed, counted, end } = await work();
  // A checker that fails counts as one failure; a runner that died without counting does too.
  const failures = code === 0 ? failed : Math.max(1, failed);
  results.push({
    name,
    passed: counted ? passed : code === 0 ? 1 : 0,
    failed: failures,
    end,
    seconds: (Date.now() - began) / 1000,
  });
}

export async function main() {
  const { values } = parseArgs({ options: { only: { type: 'string' } } });
  const wanted = new Set(values.only ? values.only.split(',') : PARTS);
  installPackages();
  if (wanted.has('web') || wanted.has('e2e')) ensureChromium();
  const { startCluster, makeDatabase, startServer, freePort } = await import('./cluster.mjs');
  const undo = [];
  const scratch = mkdtempSync(join(tmpdir(), 'foxtrail-test-'));
  chmodSync(scratch, 0o755);
  undo.push(() => rmSync(scratch, { recursive: true, force: true }));
  for (const signal of ['SIGINT', 'SIGTERM']) {
    process.on(signal, () => {
      for (const child of children) child.kill('SIGTERM');
    });
  }
  try {
    if (wanted.has('lint'))
      await step('lint', () => runStep(['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0']));
    if (wanted.has('format'))
      await step('format', () =>
        runStep(['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.']),
      );
    if (wanted.has('types')) await step('types', () => runStep(['scripts/typecheck.mjs']));
    const jasmine = [
      '--enable-source-maps',
      '--import',
      'tsx',
      join(root, 'node_modules/jasmine/bin/jasmine.js'),
      '--config=jasmine.json',
    ];
    if (wanted.has('core')) await step('core', () => runStep(jasmine, { cwd: join(root, 'packages/core') }));
    if (wanted.has('book')) await step('book', () => runStep(jasmine, { cwd: join(root, 'packages/pattern-book') }));
    if (wanted.has('cli')) await step('cli', () => runStep(jasmine, { cwd: join(root, 'packages/cli') }));
    let cluster;
    if (wanted.has('server') || wanted.has('e2e')) {
      cluster = await startCluster(scratch);
      undo.push(cluster.stop);
    }
    if (wanted.has('server'))
      await step('server', () =>
        runStep(jasmine, { cwd: join(root, 'packages/server'), env: { TEST_CLUSTER_URL: cluster.url } }),
      );
    if (wanted.has('web'))
      await step('web', () =>
        runStep([join(root, 'node_modules/@angular/cli/bin/ng.js'), 'test'], {
          cwd: join(root, 'packages/web'),
          env: { NG_CLI_ANALYTICS: 'false' },
        }),
      );
    if (wanted.has('e2e')) {
      buildWeb();
      const logFile = join(scratch, 'server.log');
      const databaseUrl = await makeDatabase(cluster.url, 'e2e', true);
      const server = await startServer({
        root,
        databaseUrl,
        port: await freePort(),
        webFolder,
        demo: true,
        output: openSync(logFile, 'a'),
      });
      undo.push(server.stop);
      await step('e2e', () =>
        runStep([join(root, 'node_modules/@playwright/test/cli.js'), 'test', '--config', 'e2e/playwright.config.ts'], {
          env: {
            BASE_URL: `http://127.0.0.1:${server.port}`,
            DATABASE_URL: databaseUrl,
            SERVER_PID: String(server.child.pid),
          },
        }),
      );
    }
  } finally {
    while (undo.length > 0) await undo.pop()();
  }
  for (const { name, end } of results.filter((r) => r.failed > 0)) say(`\n━━ how ${name} ended\n${end}`);
  say('\n━━ summary');
  for (const r of results)
    say(
      `${r.failed === 0 ? '✓' : '✗'} ${r.name.padEnd(8)} ${String(r.passed).padStart(4)} passed ${String(r.failed).padStart(3)} failed   ${r.seconds.toFixed(1)} s`,
    );
  const total = (key) => results.reduce((sum, r) => sum + r[key], 0);
  // Checkers are not tests: only what the runners counted is summed, and every failure.
  const checkers = new Set(['lint', 'format', 'types']);
  const passed = results.filter((r) => !checkers.has(r.name)).reduce((sum, r) => sum + r.passed, 0);
  say(`\n${passed} passed, ${total('failed')} failed`);
  return total('failed') === 0 ? 0 : 1;
}
