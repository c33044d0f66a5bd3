/**
 * Words: search by any name over a large library at the server, and the check of a lesson's texts in the core.
 */
import { SHELF_PAGE } from '@foxtrail/contract';
import { checkLesson, lessonCheck, SHIPPED_GLOSSARY, TAKEN_AS_KNOWN, TermIndex, WORKSHOP_CHOICE } from '@foxtrail/core';
import { GLOSSARY } from '@foxtrail/pattern-book';
import { pino } from 'pino';
import { Shelf } from '../../packages/server/src/cards.js';
import { migrate, openPool } from '../../packages/server/src/database.js';
import { search } from '../../packages/server/src/search.js';
import { seedWords } from '../../packages/server/src/words.js';

const KNOTS = 10_000;
const LABELS = 20_000;
/** Syllables that made-up names are put together from, so that many are alike and none is another's. */
const SYLLABLES = 'bar cor dan el fen gor hal im jun kel lor men nor os pen quil ral sun tor ul ven wes yar zel'.split(
  ' ',
);
/** A made-up name, another for each number. */
export const madeName = (n: number): string => {
  let [rest, name] = [n, ''];
  do {
    name += SYLLABLES[rest % SYLLABLES.length] ?? '';
    rest = Math.floor(rest / SYLLABLES.length);
  } while (rest > 0);
  return name;
};

/** Each question asked several times; the median and the slowest, in milliseconds. */
async function timed(ask: (q: string) => Promise<unknown>, questions: readonly string[]): Promise<object> {
  const times: number[] = [];
  for (let round = 0; round < 5; round += 1)
    for (const q of questions) {
      const began = performance.now();
      await ask(q);
      times.push(performance.now() - began);
    }
  times.sort((a, b) => a - b);
  const at = (share: number): number => Number((times[Math.floor((times.length - 1) * share)] ?? 0).toFixed(1));
  return { asked: times.length, median: at(0.5), p95: at(0.95), slowest: at(1) };
}

export async function wordsBench(databaseUrl: string): Promise<object> {
  const pool = openPool(databaseUrl, pino({ level: 'silent' }));
  try {
    await migrate(pool);
    await seedWords(pool);
    const account = await pool.query<{ id: string }>(
      "insert into account (name, role, password_hash) values ('words bench', 'author', 'x') returning id",
    );
    const kinds = ['hitch', 'bend', 'loop', 'knot', 'stopper'];
    const knots = Array.from({ length: KNOTS }, (_, i) => ({
      name: `${madeName(i)} ${kinds[i % kinds.length] ?? ''}`,
      alias: `${madeName(i + 7 * KNOTS)} ${kinds[(i + 2) % kinds.length] ?? ''}`,
    }));
    await pool.query(
      `with made as (
         insert into knot (name, class, family, use_grade, revision, errors, warnings, crossings, steps, updated_by)
         select r->>'name', 'hitch', '', 'light duty', 1, 0, 0, 3, 1, $2 from jsonb_array_elements($1::jsonb) as r
         returning id, name)
       insert into knot_alias (knot_id, position, name)
         select made.id, 0, r->>'alias' from made join jsonb_array_elements($1::jsonb) as r on r->>'name' = made.name`,
      [JSON.stringify(knots), account.rows[0]?.id],
    );
    const there = await pool.query<{ count: number }>('select count(*)::int as count from label');
    const labels = Array.from({ length: Math.max(0, LABELS - (there.rows[0]?.count ?? 0)) }, (_, i) => ({
      concept: `made-${Math.floor(i / 4)}`,
      position: i % 4,
      text: `${madeName(i + 3 * LABELS)} ${madeName(i % 97)}`,
    }));
    await pool.query(
      "insert into concept (id, kind, definition) select distinct r->>'concept', 'shape', 'made up' from jsonb_array_elements($1::jsonb) as r",
      [JSON.stringify(labels)],
    );
    await pool.query(
      `insert into label (concept_id, position, school_id, status, text)
         select r->>'concept', (r->>'position')::int, 'workshop', case when r->>'position' = '0' then 'preferred' else 'also used' end, r->>'text'
           from jsonb_array_elements($1::jsonb) as r`,
      [JSON.stringify(labels)],
    );
    await pool.query('analyze');
    const shelf = new Shelf(pool);
    const whole = [11, 402, 4711, 9080].map((i) => knots[i]?.name ?? '');
    // One letter left out, two exchanged, a few at the beginning, and what everything is called.
    const misspelt = whole.map((n) => n.slice(0, 3) + n.slice(4));
    const swapped = whole.map((n) => n.charAt(1) + n.charAt(0) + n.slice(2));
    const questions = [
      ...whole,
      ...misspelt,
      ...swapped,
      'wreath knot',
      'bite',
      'bowlin',
      'tag',
      'hitch',
      'knot',
      'quilbar',
    ];
    const words = await pool.query<{ count: number }>('select count(*)::int as count from label');
    return {
      search: { knots: KNOTS, labels: words.rows[0]?.count, ms: await timed((q) => search(pool, q), questions) },
      shelf: {
        knots: KNOTS,
        ms: await timed((q) => shelf.list({ q, archived: false, from: 0, most: SHELF_PAGE }), questions),
      },
      textCheck: checkBench(),
    };
  } finally {
    await pool.end();
  }
}

/** A lesson of twenty texts checked against the shipped glossary, and against one of 5,000 concepts. */
function checkBench(): object {
  const texts = Array.from({ length: 20 }, (_, i) => ({
    place: `step ${i + 1}`,
    text: 'Take the running end over the standing part, make a bite, then lead the tag end up through the nipping turn and set it.',
  }));
  const big = {
    ...GLOSSARY,
    concepts: [
      ...GLOSSARY.concepts,
      ...Array.from({ length: 4860 }, (_, i) => ({
        id: `made-${i}`,
        kind: 'shape' as const,
        definition: '',
        broader: [],
        related: [],
        labels: [{ school: 'workshop', status: 'preferred' as const, text: `${madeName(i)} ${madeName(i + 31)}` }],
      })),
    ],
  };
  const ms = (work: () => unknown): number => {
    const began = performance.now();
    for (let i = 0; i < 20; i += 1) work();
    return Number(((performance.now() - began) / 20).toFixed(2));
  };
  return [SHIPPED_GLOSSARY, big].map((glossary) => {
    const began = performance.now();
    new TermIndex(glossary);
    const indexMs = Number((performance.now() - began).toFixed(1));
    const check = lessonCheck({}, WORKSHOP_CHOICE, glossary, TAKEN_AS_KNOWN);
    return { concepts: glossary.concepts.length, indexMs, twentyTextsMs: ms(() => checkLesson(texts, check)) };
  });
}
