// npm start: from a fresh checkout to a running Fox Trail, and back down again on Ctrl-C.
// Node built-ins only: nothing is installed yet when this begins.
import { existsSync, mkdirSync, openSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { buildWeb, installPackages, root, stopWork, webFolder } from './prepare.mjs';
import { Plain, say } from './say.mjs';

const DEFAULT_PORT = 4180;

function options() {
  try {
    const { values } = parseArgs({
      options: {
        port: { type: 'string' },
        data: { type: 'string' },
        'no-demo': { type: 'boolean' },
        help: { type: 'boolean', short: 'h' },
      },
    });
    const port = values.port === undefined ? undefined : Number(values.port);
    if (port !== undefined && !(Number.isInteger(port) && port > 0 && port < 65536))
      throw new Plain(`--port takes a number from 1 to 65535, not “${values.port}”.`);
    return { ...values, port };
  } catch (error) {
    throw error instanceof Plain
      ? error
      : new Plain(`${error.message}\nUse: npm start -- [--port N] [--no-demo] [--data DIR]`);
  }
}

const portIsFree = (port) =>
  new Promise((done) => {
    const probe = createServer();
    probe.once('error', () => done(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => done(true)));
  });

async function choosePort(wanted) {
  if (wanted !== undefined) {
    if (!(await portIsFree(wanted)))
      throw new Plain(`Port ${wanted} is in use by another program. Choose another with --port N.`);
    return wanted;
  }
  for (let port = DEFAULT_PORT; port < DEFAULT_PORT + 50; port += 1) if (await portIsFree(port)) return port;
  throw new Plain(`No port from ${DEFAULT_PORT} to ${DEFAULT_PORT + 49} is free. Choose one with --port N.`);
}

export const isAlive = (pid) => {
  try {
    process.kill(pid, 0);
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('start.mjs');
  } catch {
    return false;
  }
};

/** One start at a time for a data folder; a lock left by a killed one is taken over. */
function lock(data) {
  const file = join(data, 'running.json');
  if (existsSync(file)) {
    let other = {};
    try {
      other = JSON.parse(readFileSync(file, 'utf8'));
    } catch {
      // Half written when its start was killed.
    }
    if (other.pid !== process.pid && isAlive(other.pid))
      throw new Plain(
        `Fox Trail is already running on this data folder${other.address ? ` at ${other.address}` : ''} (process ${other.pid}). Stop it first, or give another folder with --data DIR.`,
      );
  }
  const note = (address) => writeFileSync(file, JSON.stringify({ pid: process.pid, address }));
  note(undefined);
  return { note, release: () => rmSync(file, { force: true }) };
}

/** Pauses before a server that stopped by itself is started again: the first, the longest, and how long it must have run for the first again; in milliseconds. */
const PAUSE = { first: 1000, longest: 60_000, well: 60_000 };

/** Starts the server again whenever it stops by itself, after growing pauses. */
async function keepUp({ of, begin, again, isEnding }) {
  let pause = PAUSE.first;
  for (;;) {
    const began = Date.now();
    const code = await of().exited;
    if (isEnding()) return;
    if (Date.now() - began > PAUSE.well) pause = PAUSE.first;
    for (;;) {
      say(`The server stopped by itself (${code ?? 'killed'}). It is started again in ${pause / 1000} s.`);
      await wait(pause);
      if (isEnding()) return;
      pause = Math.min(2 * pause, PAUSE.longest);
      try {
        await again();
        await begin();
        say('It runs again.');
        break;
      } catch (error) {
        say(error.message);
      }
      if (isEnding()) return;
    }
  }
}

/** Most milliseconds in which a start that is stopped has ended. */
const STOP_WITHIN = 1500;

/** Milliseconds between two looks at the database. */
const LOOK = 5000;

/** Starts our database again when it does not answer any more. Returns what ends that. */
function keepDatabase({ databaseUrl, again, isEnding, isUp }) {
  let under = false;
  const look = setInterval(async () => {
    if (under || isEnding() || (await isUp(databaseUrl)) || isEnding()) return;
    under = true;
    say('The database stopped by itself. It is started again.');
    await Promise.resolve(again()).then(
      () => say('It runs again.'),
      (error) => say(error.message),
    );
    under = false;
  }, LOOK);
  return () => clearInterval(look);
}

export async function main() {
  const { port: wanted, data: dataOption, 'no-demo': noDemo, help } = options();
  if (help) {
    say(
      'npm start -- [--port N] [--no-demo] [--data DIR]\nWith DATABASE_URL set, that database is used and none is started.',
    );
    return 0;
  }
  const began = Date.now();
  const data = resolve(dataOption ?? join(root, '.data'));
  mkdirSync(data, { recursive: true, mode: 0o700 });
  if (!statSync(data).isDirectory()) throw new Plain(`${data} is a file. Give a folder with --data DIR.`);
  const port = await choosePort(wanted);
  installPackages();
  const { startCluster, makeDatabase, startServer, isUp, lesserUser } = await import('./cluster.mjs');
  const held = lock(data);
  const undo = [held.release];
  let ending;
  const end = () =>
    (ending ??= (async () => {
      while (undo.length > 0) await undo.pop()();
    })());
  let finish;
  const finished = new Promise((done) => (finish = done));
  let isListening = false;
  let isStopped = false;
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.on(signal, () => {
      finish(0);
      if (isListening || isStopped) return;
      // Stopped while it starts: nothing is waited for that takes long.
      isStopped = true;
      say('\nStopping …');
      stopWork();
      void Promise.race([end(), wait(STOP_WITHIN)]).then(() => process.exit(0));
    });
  try {
    await buildWeb();
    let databaseUrl = process.env.DATABASE_URL;
    const isOurs = databaseUrl === undefined || databaseUrl === '';
    if (isOurs) {
      const cluster = await startCluster(data);
      undo.push(cluster.stop);
      databaseUrl = await makeDatabase(cluster.url, 'foxtrail');
    }
    const user = lesserUser(root);
    const logFile = join(data, 'server.log');
    const output = openSync(logFile, 'a', 0o600);
    const begin = () =>
      startServer({ root, databaseUrl, port, webFolder, demo: noDemo !== true, firstAccount: true, output, user });
    let server = await begin();
    undo.push(() => server.stop());
    const isEnding = () => ending !== undefined;
    // What stops by itself is started again: the database where it is ours, and the server.
    const again = isOurs ? () => startCluster(data) : () => undefined;
    void keepUp({ of: () => server, begin: async () => (server = await begin()), again, isEnding });
    if (isOurs) undo.push(keepDatabase({ databaseUrl, again, isEnding, isUp }));
    isListening = true;
    const address = `http://127.0.0.1:${server.port}`;
    held.note(address);
    say(`\nFox Trail is at ${address}   (ready in ${((Date.now() - began) / 1000).toFixed(1)} s)`);
    if (server.demo)
      for (const { name, password, role } of server.demo) say(`Made-up demo account, ${role}: ${name} / ${password}`);
    if (server.first)
      say(`A first account was made for you: ${server.first.name} / ${server.first.password}   (shown this once)`);
    say(`Log: ${logFile}\nCtrl-C stops it.`);
    // When npm itself is killed nobody else would tell us.
    const parent = process.ppid;
    const watch = setInterval(() => process.ppid !== parent && finish(0), 1000);
    const code = await finished;
    clearInterval(watch);
    if (code !== 0) throw new Plain(`The server does not start any more. Its log: ${logFile}`);
    say('\nStopping …');
    return 0;
  } catch (error) {
    if (isStopped) return 0;
    throw error;
  } finally {
    await end();
  }
}
