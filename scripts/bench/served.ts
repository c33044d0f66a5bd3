/**
 * A server process of its own on the real database, asked over its socket as a browser does, with an author signed in.
 */
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { BUILT, middle } from './measure.js';

const AUTHOR = { name: 'Wren Tallow', password: 'estuary-kites' };

export interface Served {
  readonly base: string;
  /** The author's cookie, for what asks by itself. */
  readonly cookie: string;
  /** Asks as the author: what is no bytes is sent as JSON. */
  readonly ask: (
    method: string,
    path: string,
    body?: object,
    headers?: Readonly<Record<string, string>>,
  ) => Promise<Response>;
  readonly stop: () => Promise<void>;
}

const serve = (databaseUrl: string): Promise<Pick<Served, 'base' | 'stop'>> =>
  new Promise((done, fail) => {
    const main = fileURLToPath(new URL('../../packages/server/src/main.ts', import.meta.url));
    const child = spawn(process.execPath, ['--import', 'tsx', main], {
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
      env: { ...process.env, DATABASE_URL: databaseUrl, PORT: '0', WEB_FOLDER: BUILT, FOXTRAIL_DEMO: '1' },
    });
    child.on('message', (m: { kind: string; port: number }) => {
      if (m.kind !== 'listening') {
        fail(new Error(m.kind));
        return;
      }
      const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
      done({
        base: `http://127.0.0.1:${m.port}`,
        stop: () => {
          child.kill('SIGTERM');
          return ended;
        },
      });
    });
  });

export async function served(databaseUrl: string): Promise<Served> {
  const { base, stop } = await serve(databaseUrl);
  return { base, stop, ...(await signedIn(base, AUTHOR)) };
}

/** Signs in at a server: the cookie, and how to ask by it. */
export async function signedIn(
  base: string,
  who: { readonly name: string; readonly password: string },
): Promise<Pick<Served, 'cookie' | 'ask'>> {
  const answer = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Origin: base },
    body: JSON.stringify(who),
  });
  const cookie = (answer.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
  return {
    cookie,
    ask: (method, path, body, headers = {}) => {
      const bytes = body instanceof Uint8Array;
      return fetch(base + path, {
        method,
        headers: {
          'Content-Type': bytes ? 'application/octet-stream' : 'application/json',
          Origin: base,
          Cookie: cookie,
          ...headers,
        },
        ...(body ? { body: bytes ? new Blob([body as Uint8Array<ArrayBuffer>]) : JSON.stringify(body) } : {}),
      });
    },
  };
}

/** How long a public page takes, asked again and again while something goes on; in milliseconds. */
export async function pagesWhile(address: string, goesOn: () => boolean): Promise<object> {
  const times: number[] = [];
  while (goesOn()) {
    const asked = performance.now();
    await (await fetch(address)).text();
    times.push(performance.now() - asked);
    await new Promise((done) => setTimeout(done, 5));
  }
  return { pages: times.length, median: middle(times, 0.5), p99: middle(times, 0.99), slowest: middle(times, 1) };
}
