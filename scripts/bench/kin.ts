/**
 * Kin: proofs, derived knots and discovery in the core over the pattern book; the map of 500 knots in the real page while it is panned and
 * zoomed.
 */
import { deriving, discovering, drive, proveKin, writeKnot } from '../../packages/core/src/index.js';
import { BOOK_KIN, patternKeys, patternKin, patternOf, patterns } from '@foxtrail/pattern-book';
import { seedKin } from '../../packages/server/src/kin.js';
import { seedWords } from '../../packages/server/src/words.js';
import { framesOf, middle, onPage, round, timed } from './measure.js';

const KNOTS = 500;
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

/** The map with so many knots, each drawn as one of the pattern book's: until it is drawn, and the frames while it is panned and zoomed. */
export function kinMapBench(databaseUrl: string): Promise<object> {
  return onPage(databaseUrl, 'Kin Author', async (page, base, pool) => {
    await seedWords(pool);
    await seedKin(pool);
    const { rows } = await pool.query<{ id: string }>("select id from account where name = 'Kin Author'");
    const documents = patterns().map(({ knot }) => writeKnot(knot));
    await pool.query(
      `with made as (
         insert into knot (name, class, family, use_grade, revision, errors, warnings, crossings, steps, updated_by, family_id)
           select 'Kin knot ' || i, 'hitch', '', 'light duty', 1, 0, 0, 3, 1, $1,
                  (select id from family order by position, name offset i % (select count(*) from family) limit 1)
             from generate_series(1, ${KNOTS}) as i
           returning id, name)
       insert into revision (knot_id, number, document, saved_by)
         select id, 1, $2::jsonb -> (substr(name, 10)::int % ${documents.length}), $1 from made`,
      [rows[0]?.id, JSON.stringify(documents)],
    );
    await pool.query(
      `with k as (select id, row_number() over (order by name) as n from knot where name like 'Kin knot %')
       insert into kin_relation (from_knot, to_knot, kind, origin, proof_state, compared, tried_from, tried_to)
         select a.id, b.id, 'one more turn', 'stated', 'proved', 'made up', 1, 1 from k a join k b on b.n = a.n + 1 where a.n % 3 <> 0`,
    );
    const began = performance.now();
    await page.goto(`${base}/kin/map`);
    await page.locator('ft-kin-map .canvas canvas').first().waitFor({ timeout: 120_000 });
    const drawn = round(performance.now() - began);
    await page.waitForTimeout(1500);
    const pan = async (): Promise<void> => {
      await page.mouse.move(500, 450);
      await page.mouse.down();
      for (let i = 0; i < 90; i += 1) await page.mouse.move(500 + 200 * Math.sin(i / 9), 450 + 120 * Math.cos(i / 7));
      await page.mouse.up();
    };
    const zoom = async (): Promise<void> => {
      for (let i = 0; i < 40; i += 1) {
        await page.mouse.wheel(0, i < 25 ? -120 : 120);
        await page.waitForTimeout(16);
      }
    };
    return {
      knots: KNOTS,
      'drawn after, ms': drawn,
      panned: await framesOf(page, pan),
      zoomed: await framesOf(page, zoom),
      'panned near': await framesOf(page, pan),
    };
  });
}
