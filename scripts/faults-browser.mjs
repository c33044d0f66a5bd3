// An author at the bench in a real browser, whose browser is killed: what was drawn longer ago than the store takes is there when it is opened again.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { chromium } from '@playwright/test';
import { ensureChromium, root } from './prepare.mjs';

/** Milliseconds after which an edit is kept in the browser, as the bench says of itself; between two edits; and for a page to be there. */
const KEPT_WITHIN = 1000;
const PACE = 350;
const PAGE_WITHIN = 180_000;
/** Edits between two kills. */
const DRAWN_BETWEEN = 6;
/** Milliseconds after which an edit is tried again: what is asked of a browser that was killed may never be answered. */
const EDIT_WITHIN = 2500;

/** Asks until it is answered well. */
async function insist(what, ask) {
  const began = Date.now();
  for (;;) {
    try {
      return await ask();
    } catch (error) {
      if (Date.now() - began > PAGE_WITHIN) throw new Error(`${what}: ${error.message}`, { cause: error });
      await wait(300);
    }
  }
}

const ok = async (asked) => {
  const answer = await asked;
  if (!answer.ok()) throw new Error(`answered ${answer.status()}`);
  return answer;
};

export class BrowserAuthor {
  #who;
  #folder = mkdtempSync(join(tmpdir(), 'foxtrail-browser-'));
  #base = '';
  #context;
  #page;
  #knot = '';
  #edits = [];
  #over = false;
  #drawing;
  #found = { edits: 0, lost: 0, falseConflicts: 0 };
  #isKilled = false;
  /** While it is killed and opened again. */
  #opening = Promise.resolve();

  constructor(who) {
    this.#who = who;
    ensureChromium();
  }

  async begin(base) {
    this.#base = base;
    await this.#open();
    const document = JSON.parse(readFileSync(join(root, 'demo/overhand.json'), 'utf8'));
    const made = await insist('a knot is made', async () =>
      (
        await ok(
          this.#context.request.post(`${base}/api/knots`, {
            headers: { Origin: base },
            data: { document: { ...document, name: 'Drawn in a browser' } },
          }),
        )
      ).json(),
    );
    this.#knot = made.card.id;
    await this.#toBench();
    this.#drawing = this.#draw();
    this.#drawing.catch(() => undefined);
  }

  /** Kills the browser, opens it again, and looks for what had been drawn. */
  async kill() {
    const before = this.#edits.length;
    for (let n = 0; n < 60 && this.#edits.length < before + DRAWN_BETWEEN; n += 1) await wait(100);
    const opened = deferred();
    this.#opening = opened.promise;
    this.#isKilled = true;
    const killed = Date.now();
    // Only what was started on this folder.
    spawnSync('pkill', ['-KILL', '-f', this.#folder]);
    await this.#context.close().catch(() => undefined);
    await this.#open();
    await this.#toBench();
    const due = this.#edits.filter((e) => e.at < killed - KEPT_WITHIN).at(-1)?.n ?? 0;
    const shown = Number(/^Edit (\d+)\.$/.exec(await this.#text().inputValue())?.[1] ?? 0);
    if (shown < due) this.#found.lost += due - shown;
    // What was drawn just before may be gone: it is drawn again from here.
    this.#edits = this.#edits.filter((e) => e.n <= shown);
    this.#isKilled = false;
    opened.resolve();
  }

  /** Waits until what was drawn last is saved, and tells how it went. */
  async end() {
    this.#over = true;
    await this.#drawing;
    // What was drawn last is not even on its way yet.
    await wait(2000);
    await this.#page.locator('.save', { hasText: 'Saved' }).waitFor({ timeout: PAGE_WITHIN });
    const last = this.#edits.at(-1)?.n ?? 0;
    const answer = await insist('the knot is asked for', async () =>
      (await ok(this.#context.request.get(`${this.#base}/api/knots/${this.#knot}`))).json(),
    );
    if (!JSON.stringify(answer).includes(`"Edit ${last}."`)) this.#found.lost += 1;
    await this.stop();
    return { ...this.#found, edits: last };
  }

  async stop() {
    this.#over = true;
    await this.#context?.close().catch(() => undefined);
    rmSync(this.#folder, { recursive: true, force: true });
  }

  async #open() {
    this.#context = await chromium.launchPersistentContext(this.#folder, {
      executablePath: process.env.CHROME_BIN,
      chromiumSandbox: false,
      viewport: { width: 1280, height: 800 },
      args: ['--disable-gpu', '--no-first-run'],
    });
    this.#page = this.#context.pages()[0] ?? (await this.#context.newPage());
    // Cookies are written to the disk later than they are set: a browser that is killed may have lost its session.
    await insist('signed in', () =>
      ok(this.#context.request.post(`${this.#base}/api/session`, { headers: { Origin: this.#base }, data: this.#who })),
    );
  }

  #text = () => this.#page.getByLabel('Text of step 1', { exact: true });

  #toBench = () =>
    insist('the bench is there', async () => {
      await this.#page.goto(`${this.#base}/knot/${this.#knot}/draft`, { timeout: 20_000 });
      await this.#text().waitFor({ timeout: 20_000 });
    });

  async #draw() {
    const began = Date.now();
    while (!this.#over) {
      await this.#opening;
      const page = this.#page;
      const n = (this.#edits.at(-1)?.n ?? 0) + 1;
      try {
        if ((await this.#page.getByRole('dialog').count()) > 0) {
          this.#found.falseConflicts += 1;
          await this.#page.keyboard.press('Escape');
        }
        await this.#text().fill(`Edit ${n}.`, { timeout: EDIT_WITHIN });
        await this.#text().blur({ timeout: EDIT_WITHIN });
        this.#edits.push({ n, at: Date.now() });
      } catch (error) {
        // It was killed in mid-edit; or the machine is busy, and it is drawn again.
        await wait(100);
        if (this.#isKilled || page !== this.#page || Date.now() - (this.#edits.at(-1)?.at ?? began) < PAGE_WITHIN)
          continue;
        throw error;
      }
      await wait(PACE);
    }
  }
}

/** A promise, and what keeps it. */
function deferred() {
  let resolve;
  const promise = new Promise((done) => (resolve = done));
  return { promise, resolve };
}
