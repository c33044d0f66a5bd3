/**
 * Kin: proofs, derived knots and discovery in the core over the pattern book; the map of 500 knots in the real page while it is panned and
 * zoomed.
 */
import type { Browser } from '@playwright/test';
import { deriving, discovering, drive, proveKin } from '../../packages/core/src/index.js';
import { BOOK_KIN, patternKeys, patternKin, patternOf, patterns } from '@foxtrail/pattern-book';
import { pino } from 'pino';
import { ensureAccount } from '../../packages/server/src/accounts.js';
import { createApp } from '../../packages/server/src/app.js';
import { migrate, openPool } from '../../packages/server/src/database.js';
import { seedKin } from '../../packages/server/src/kin.js';
import { seedWords } from '../../packages/server/src/words.js';

const KNOTS = 500;
const round = (v: number): number => Math.round(v * 10) / 10;
const middle = (list: readonly number[], share: number): number =>
  round([...list].sort((a, b) => a - b)[Math.floor((list.length - 1) * share)] ?? 0);
const timed = (work: () => unknown): number => {
  const began = performance.now();
  work();
  return round(performance.now() - began);
};

export function kinInCore(): object {
  patternKeys();
  const proofs = BOOK_KIN.map(({ kind, from, to }) =>
    timed(() => {
      const [a, b] = [patternKin(from), patternKin(to)];
      if (a && b) proveKin(kind, a, b);
    }),
  );
  const derived = ['overhand', 'clove-hitch', 'double-sheet-bend'].map((id) => {
    const pattern = patternOf(id);
    return [id, timed(() => pattern && drive(deriving(pattern.knot, patternKeys())))] as const;
  });
  const entries = patterns().flatMap(({ id }) => {
    const kin = patternKin(id);
    return kin ? [{ ...kin, ref: id }] : [];
  });
  let offers = 0;
  const discovery = timed(() => drive(discovering(entries, () => (offers += 1))));
  return {
    'a proof, ms': { median: middle(proofs, 0.5), slowest: middle(proofs, 1) },
    'all that can be derived, ms': Object.fromEntries(derived),
    'kin discovered': { knots: entries.length, offers, ms: discovery },
  };
}

/** The map with so many knots: until it is drawn, and the frames while it is panned and zoomed. */
export async function kinMapBench(databaseUrl: string, webFolder: string, browser: Browser): Promise<object> {
  const log = pino({ level: 'silent' });
  const pool = openPool(databaseUrl, log);
  await migrate(pool);
  await seedWords(pool);
  await seedKin(pool);
  await ensureAccount(pool, 'Kin Author', 'author', 'a long bench');
  const { rows } = await pool.query<{ id: string }>("select id from account where name = 'Kin Author'");
  await pool.query(
    `insert into knot (name, class, family, use_grade, revision, errors, warnings, crossings, steps, updated_by, family_id)
       select 'Kin knot ' || i, 'hitch', '', 'light duty', 1, 0, 0, 3, 1, $1,
              (select id from family order by position, name offset i % (select count(*) from family) limit 1)
         from generate_series(1, ${KNOTS}) as i`,
    [rows[0]?.id],
  );
  await pool.query(
    `with k as (select id, row_number() over (order by name) as n from knot where name like 'Kin knot %')
     insert into kin_relation (from_knot, to_knot, kind, origin, proof_state, compared, tried_from, tried_to)
       select a.id, b.id, 'one more turn', 'stated', 'proved', 'made up', 1, 1 from k a join k b on b.n = a.n + 1 where a.n % 3 <> 0`,
  );
  const server = createApp({ pool, log, version: 'bench', webFolder }).listen(0, '127.0.0.1');
  await new Promise((done) => server.once('listening', done));
  const address = server.address();
  const base = `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`;
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript('globalThis.__name = (f) => f');
    await page.goto(`${base}/sign-in`);
    await page.getByLabel('Name').fill('Kin Author');
    await page.getByLabel('Password').fill('a long bench');
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await page.waitForURL('**/shelf');
    const began = performance.now();
    await page.goto(`${base}/kin/map`);
    await page.locator('.canvas canvas').first().waitFor({ timeout: 120_000 });
    const drawn = round(performance.now() - began);
    await page.waitForTimeout(1500);
    const frames = async (act: () => Promise<void>): Promise<object> => {
      await page.evaluate(() => {
        const w = window as unknown as { frames: number[]; going: boolean };
        w.frames = [];
        w.going = true;
        let last = performance.now();
        const tick = (now: number): void => {
          w.frames.push(now - last);
          last = now;
          if (w.going) requestAnimationFrame(tick);
        };
        requestAnimationFrame(tick);
      });
      await act();
      const list = await page.evaluate(() => {
        const w = window as unknown as { frames: number[]; going: boolean };
        w.going = false;
        return w.frames.slice(2);
      });
      return { frames: list.length, median: middle(list, 0.5), p95: middle(list, 0.95) };
    };
    const pan = async (): Promise<void> => {
      await page.mouse.move(500, 450);
      await page.mouse.down();
      for (let i = 0; i < 90; i += 1) await page.mouse.move(500 + 200 * Math.sin(i / 9), 450 + 120 * Math.cos(i / 7));
      await page.mouse.up();
    };
    const far = await frames(pan);
    const zoom = await frames(async () => {
      for (let i = 0; i < 40; i += 1) {
        await page.mouse.wheel(0, i < 25 ? -120 : 120);
        await page.waitForTimeout(16);
      }
    });
    const near = await frames(pan);
    return {
      knots: KNOTS,
      'drawn after, ms': drawn,
      'panned, ms a frame': far,
      'zoomed, ms a frame': zoom,
      'panned near, ms a frame': near,
    };
  } finally {
    server.close();
    await pool.end();
  }
}
