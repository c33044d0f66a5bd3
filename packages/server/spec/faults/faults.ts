/**
 * Authors who draw while everything fails that can: servers and the database are killed, tables locked, answers lost, the network cut, the
 * disk filled, clocks moved. At the end every edit that was answered stands where it was answered to stand, once.
 */
import { randomUUID } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import { byLot } from '../../../core/spec/support/by-lot.js';
import { demoDocument } from '../server.js';
import { Fleet } from './fleet.js';

/** An author in a browser. */
export interface InBrowser {
  begin(base: string): Promise<void>;
  kill(): Promise<void>;
  end(): Promise<Pick<FaultsReport, 'edits' | 'lost' | 'falseConflicts'>>;
}

export interface FaultsAsked {
  readonly databaseUrl: string;
  readonly servers: number;
  readonly faults: number;
  readonly seed: number;
  /** Those who draw, by name and password. */
  readonly authors: readonly { readonly name: string; readonly password: string }[];
  /** Kills the database and starts it again; without it only its connections are cut. */
  readonly killDatabase?: () => Promise<void>;
  /** Fills the disk that the database is on for a while. */
  readonly fillDisk?: () => Promise<void>;
  /** Whoever draws in a browser that can be killed; the servers send its pages from `webFolder`. */
  readonly browser?: InBrowser;
  readonly webFolder?: string;
  /** Only faults whose name has this. */
  readonly only?: string | undefined;
  /** Told what is done. */
  readonly say?: (text: string) => void;
}

export interface FaultsReport {
  /** How often each was done. */
  readonly faults: Readonly<Record<string, number>>;
  readonly edits: number;
  /** Of them made in a browser. */
  readonly inBrowser: number;
  /** Asked again because the first asking was not answered, or not well. */
  readonly again: number;
  /** Edits that were answered and are not there, or are not what was drawn. */
  readonly lost: number;
  /** Edits that are there more than once. */
  readonly twice: number;
  readonly falseConflicts: number;
  /** Sessions that ended though nobody ended them. */
  readonly signedOut: number;
  readonly restarts: number;
  readonly restartsFailed: readonly string[];
  /** Servers that ended though nobody ended them, and what they said. */
  readonly endedByThemselves: number;
  readonly unhandled: readonly string[];
  /** Longest that an edit waited for its answer, in milliseconds. */
  readonly longestWait: number;
}

/** Most milliseconds for one asking, and for an edit to be answered at all. */
const ASK_WITHIN = 15_000;
const ANSWER_WITHIN = 180_000;
/** Milliseconds between two edits of an author. */
const PACE = 150;

/** What is told of an edit: its text says which it is. */
interface Answered {
  readonly knot: string;
  readonly revision: number;
  readonly text: string;
}

class Author {
  private cookie = '';
  readonly answered: Answered[] = [];
  knot = '';
  private revision = 1;
  again = 0;
  falseConflicts = 0;
  signedOut = 0;
  longestWait = 0;

  constructor(
    private readonly base: string,
    private readonly who: { readonly name: string; readonly password: string },
  ) {}

  private ask(method: string, path: string, body: object, headers: Record<string, string> = {}): Promise<Response> {
    return fetch(this.base + path, {
      method,
      signal: AbortSignal.timeout(ASK_WITHIN),
      headers: { 'Content-Type': 'application/json', Origin: this.base, Cookie: this.cookie, ...headers },
      body: JSON.stringify(body),
    });
  }

  /** Asks until it is answered by more than that something is wrong for now. */
  private async insist(ask: () => Promise<Response>): Promise<{ status: number; body: unknown }> {
    const began = Date.now();
    for (let first = true; Date.now() - began < ANSWER_WITHIN; first = false) {
      if (!first) {
        this.again += 1;
        await wait(150);
      }
      try {
        const answer = await ask();
        const text = await answer.text();
        if (answer.status < 500) {
          const set = answer.headers.getSetCookie().map((c) => c.split(';')[0] ?? '');
          if (set.length > 0) this.cookie = set.join('; ');
          return { status: answer.status, body: JSON.parse(text) as unknown };
        }
      } catch {
        // Not answered, or only in part.
      }
    }
    throw new Error(`Not answered within ${ANSWER_WITHIN / 1000} seconds.`);
  }

  async begin(): Promise<void> {
    await this.insist(() => this.ask('POST', '/api/session', this.who));
    const document = {
      ...demoDocument('overhand.json'),
      name: `Drawn by ${this.who.name} ${randomUUID().slice(0, 8)}`,
    };
    const { body } = await this.insist(() => this.ask('POST', '/api/knots', { document }));
    this.knot = (body as { card: { id: string } }).card.id;
  }

  /** One edit, as the bench saves it: the same save again until it is answered. */
  async edit(n: number): Promise<void> {
    const text = `Edit ${n}.`;
    const file = demoDocument('overhand.json');
    const document = { ...file, entry: { ...(file.entry as object), summary: text } };
    const save = randomUUID();
    const began = Date.now();
    for (;;) {
      const { status, body } = await this.insist(() =>
        this.ask('PUT', `/api/knots/${this.knot}`, { document, save }, { 'If-Match': `"${this.revision}"` }),
      );
      if (status === 200) {
        this.revision = (body as { card: { revision: number } }).card.revision;
        this.answered.push({ knot: this.knot, revision: this.revision, text });
        this.longestWait = Math.max(this.longestWait, Date.now() - began);
        return;
      }
      if (status === 401) {
        this.signedOut += 1;
        await this.insist(() => this.ask('POST', '/api/session', this.who));
      } else if (status === 412) {
        this.falseConflicts += 1;
        this.revision = (body as { error: { current: { card: { revision: number } } } }).error.current.card.revision;
      } else throw new Error(`An edit was answered ${status}: ${JSON.stringify(body)}`);
    }
  }
}

/** How long what does not end by itself goes on, in milliseconds. */
const FOR = 1200;
const DAY = 86_400_000;

/** Runs the authors and the faults; rejected only where the run itself cannot be made. */
export async function runFaults(asked: FaultsAsked): Promise<FaultsReport> {
  const lot = byLot(asked.seed);
  const fleet = new Fleet(asked.databaseUrl, asked.servers, asked.webFolder);
  const base = await fleet.open();
  const own = new pg.Pool({ connectionString: asked.databaseUrl, max: 2, options: '-c application_name=faults' });
  own.on('error', () => undefined);

  const kinds: Record<string, () => Promise<void>> = {
    'a server killed': () => fleet.restart(lot(asked.servers), 'SIGKILL'),
    'a server stopped in order': () => fleet.restart(lot(asked.servers), 'SIGTERM'),
    'all servers killed': async () => {
      await Promise.all(fleet.members.map((_, at) => fleet.restart(at, 'SIGKILL')));
    },
    'a clock moved': () => fleet.restart(lot(asked.servers), 'SIGKILL', { clock: (lot(2) === 0 ? 1 : -1) * DAY }),
    'a log that cannot be written': () => fleet.restart(lot(asked.servers), 'SIGTERM', { logFull: true }),
    'connections of the database cut': async () => {
      await own.query(
        `select pg_terminate_backend(pid) from pg_stat_activity
          where datname = current_database() and application_name is distinct from 'faults'`,
      );
    },
    'a table locked': async () => {
      const client = await own.connect();
      try {
        await client.query('begin');
        await client.query(`lock table ${['revision', 'knot', 'session'][lot(3)] ?? 'knot'} in access exclusive mode`);
        await wait(FOR);
      } finally {
        await client.query('rollback').catch(() => undefined);
        client.release();
      }
    },
    'answers dropped': async () => {
      fleet.dropAnswers(FOR);
      await wait(FOR);
    },
    'the network cut': async () => {
      fleet.cut(FOR);
      await wait(FOR);
    },
    ...(asked.killDatabase ? { 'the database killed': asked.killDatabase } : {}),
    ...(asked.fillDisk ? { 'the disk filled': asked.fillDisk } : {}),
    ...(asked.browser ? { 'the browser killed': () => asked.browser!.kill() } : {}),
  };

  const authors = asked.authors.map((who) => new Author(base, who));
  await Promise.all([...authors.map((a) => a.begin()), asked.browser?.begin(base)]);
  let over = false;
  const drawing = Promise.all(
    authors.map(async (author) => {
      for (let n = 1; !over || author.answered.length === 0; n += 1) {
        await author.edit(n);
        await wait(PACE);
      }
    }),
  );
  // What goes wrong with the drawing is told at once, not after all faults.
  const failed = drawing.then(() => undefined);
  const done: Record<string, number> = {};
  const names = Object.keys(kinds).filter((name) => asked.only === undefined || name.includes(asked.only));
  for (let n = 0; n < asked.faults; n += 1) {
    // Each kind in turn, then by lot: a short run has them all.
    const name = names[n < names.length ? n : lot(names.length)] ?? '';
    asked.say?.(`${n + 1} of ${asked.faults}: ${name}`);
    await Promise.race([kinds[name]?.(), failed]);
    done[name] = (done[name] ?? 0) + 1;
    await wait(lot(400));
  }
  over = true;
  await drawing;
  const browser = await asked.browser?.end();
  await fleet.close();

  const answered = authors.flatMap((a) => a.answered);
  let [lost, twice] = [0, 0];
  for (const { knot, answered: edits } of authors) {
    const { rows } = await own.query<{ number: number; text: string | null }>(
      "select number, document->'entry'->>'summary' as text from revision where knot_id = $1 order by number",
      [knot],
    );
    const there = new Map(rows.map((r) => [r.number, r.text]));
    lost += edits.filter((e) => there.get(e.revision) !== e.text).length;
    // The first revision is the knot as it was made.
    const texts = rows.slice(1).map((r) => r.text);
    twice += texts.length - new Set(texts).size;
  }
  await own.end();
  return {
    faults: done,
    edits: answered.length + (browser?.edits ?? 0),
    inBrowser: browser?.edits ?? 0,
    again: authors.reduce((n, a) => n + a.again, 0),
    lost: lost + (browser?.lost ?? 0),
    twice,
    falseConflicts: (browser?.falseConflicts ?? 0) + authors.reduce((n, a) => n + a.falseConflicts, 0),
    signedOut: authors.reduce((n, a) => n + a.signedOut, 0),
    restarts: fleet.restarts.made,
    restartsFailed: fleet.restarts.failed,
    endedByThemselves: fleet.members.reduce((n, m) => n + m.endedByItself, 0),
    unhandled: fleet.members.flatMap((m) => m.told.match(/^.*(?:[Uu]nhandled|Uncaught|UnhandledPromise).*$/gm) ?? []),
    longestWait: Math.max(...authors.map((a) => a.longestWait)),
  };
}
