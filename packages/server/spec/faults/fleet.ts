/**
 * Several servers on one database behind a plain proxy, each a process of its own that can be killed, and a proxy that can be cut off or
 * lose what is answered.
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { openSync } from 'node:fs';
import { createServer, request, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';

const MAIN = fileURLToPath(new URL('../../src/main.ts', import.meta.url));
/** Most milliseconds for a start, on a slow machine that does other things beside. */
const START_WITHIN = 120_000;

/** What else is wrong about a server, while it runs. */
export interface Ailing {
  /** Milliseconds by which its clock is wrong. */
  readonly clock?: number;
  /** Its log cannot be written: the disk is full. */
  readonly logFull?: boolean;
}

/** A program that a server loads first, by which its clock is wrong. */
const clockMoved = (by: number): string =>
  `data:text/javascript,${encodeURIComponent(`
    const Real = Date;
    globalThis.Date = class extends Real {
      constructor(...given) { super(...(given.length === 0 ? [Real.now() + ${by}] : given)); }
      static now() { return Real.now() + ${by}; }
    };`)}`;

class Member {
  private child: ChildProcess | undefined;
  port: number | undefined;
  /** It was told to end. */
  private isMeant = false;
  endedByItself = 0;
  told = '';

  constructor(private readonly env: Readonly<Record<string, string>>) {}

  start({ clock, logFull = false }: Ailing = {}): Promise<void> {
    this.isMeant = false;
    return new Promise((done, fail) => {
      const late = setTimeout(() => fail(new Error('it did not start in time')), START_WITHIN);
      const child = spawn(
        process.execPath,
        [...(clock === undefined ? [] : ['--import', clockMoved(clock)]), '--import', 'tsx', MAIN],
        {
          stdio: ['ignore', logFull ? openSync('/dev/full', 'w') : 'ignore', 'pipe', 'ipc'],
          env: { ...process.env, ...this.env, PORT: '0', LOG_LEVEL: logFull ? 'info' : 'fatal' },
        },
      );
      this.child = child;
      child.stderr?.on('data', (part: Buffer) => (this.told += part.toString()));
      child.on('message', (m: { kind: string; port: number; message?: string }) => {
        clearTimeout(late);
        if (m.kind !== 'listening') {
          fail(new Error(m.message ?? m.kind));
          return;
        }
        this.port = m.port;
        done();
      });
      child.once('exit', (code, signal) => {
        clearTimeout(late);
        if (this.child === child) this.port = undefined;
        if (!this.isMeant) this.endedByItself += 1;
        fail(new Error(`it ended with ${code ?? signal}`));
      });
    });
  }

  /** Ends it, and waits until it has ended. */
  async end(signal: 'SIGKILL' | 'SIGTERM'): Promise<void> {
    const child = this.child;
    if (child?.exitCode !== null || child.signalCode !== null) return;
    this.isMeant = true;
    const ended = new Promise<void>((done) => child.once('exit', () => done()));
    child.kill(signal);
    await ended;
  }
}

export class Fleet {
  readonly members: readonly Member[];
  private readonly proxy: Server;
  private turn = 0;
  /** Until when nobody gets through; until when what is answered does not arrive. In milliseconds. */
  private cutUntil = 0;
  private dropUntil = 0;
  readonly restarts = { made: 0, failed: [] as string[] };

  constructor(databaseUrl: string, servers: number, webFolder?: string) {
    const env = {
      DATABASE_URL: databaseUrl,
      SWEEP_SECONDS: '5',
      FOXTRAIL_PROXY: 'loopback',
      ...(webFolder === undefined ? {} : { WEB_FOLDER: webFolder }),
    };
    this.members = Array.from({ length: servers }, () => new Member(env));
    this.proxy = createServer((req, res) => this.pass(req, res));
  }

  async open(): Promise<string> {
    // One after another: the first makes the tables.
    for (const m of this.members) await m.start();
    await new Promise<void>((done) => this.proxy.listen(0, '127.0.0.1', done));
    return `http://127.0.0.1:${(this.proxy.address() as AddressInfo).port}`;
  }

  async close(): Promise<void> {
    this.proxy.closeAllConnections();
    await new Promise((done) => this.proxy.close(done));
    await Promise.all(this.members.map((m) => m.end('SIGTERM')));
  }

  /** Ends a server and starts it again. */
  async restart(at: number, signal: 'SIGKILL' | 'SIGTERM', ailing?: Ailing): Promise<void> {
    const member = this.members[at % this.members.length];
    if (!member) return;
    await member.end(signal);
    this.restarts.made += 1;
    await member.start(ailing).catch((error: unknown) => {
      this.restarts.failed.push((error as Error).message);
    });
  }

  cut(ms: number): void {
    this.cutUntil = Date.now() + ms;
  }

  dropAnswers(ms: number): void {
    this.dropUntil = Date.now() + ms;
  }

  /** Hands a request to the next server that runs. */
  private pass(req: IncomingMessage, res: ServerResponse): void {
    const up = this.members.filter((m) => m.port !== undefined);
    const to = up[(this.turn += 1) % Math.max(1, up.length)];
    if (Date.now() < this.cutUntil || !to) {
      req.socket.destroy();
      return;
    }
    const onward = request(
      { host: '127.0.0.1', port: to.port, path: req.url, method: req.method, headers: req.headers },
      (answer) => {
        if (Date.now() < this.dropUntil) {
          answer.resume();
          req.socket.destroy();
          return;
        }
        res.writeHead(answer.statusCode ?? 502, answer.headers);
        answer.on('error', () => req.socket.destroy());
        answer.pipe(res);
      },
    );
    onward.on('error', () => {
      if (res.headersSent) res.destroy();
      else res.writeHead(502).end();
    });
    res.on('error', () => onward.destroy());
    req.pipe(onward);
  }
}
